package studio

import (
	"context"
	"slices"

	"fairtangle/store"
)

// addedTo reads what a weigh-out that mends a blend is added to.
func (s *Studio) addedTo(ctx context.Context, w *Weighout, r store.Weighout) error {
	w.AddedToG, w.CameHex = inGrams(r.AddedToMg), r.CameHex
	t := tint{colour: reflectanceOf(r.CameHex), own: 1}
	b, err := s.Blend(ctx, r.BlendID)
	if err == nil && b.Carded != nil && b.cameAs != nil {
		of := make([]float64, len(b.Components))
		for i, c := range b.Components {
			for _, p := range b.cameAs.Of {
				if p.Key == c.Key {
					of[i] = p.Grams / b.cameAs.Grams
				}
			}
		}
		t.own = w.at.strengthTogether(b.tints, of)
		t.colour = reflectanceIn(store.Colour{Hex: r.CameHex, Reflectance: b.cameAs.Reflectance})
	}
	w.added = &t
	return err
}

// lossOf is what a component of a weigh-out loses: as it was asked, else as its kind does and from the
// pass at which the lay-up has it join.
func (in WeighoutInput) lossOf(i int, c Component, follows *Layup) WeighoutLoss {
	if len(in.Lines) > 0 {
		loss := in.Lines[i]
		loss.JoinsAtPass = max(loss.JoinsAtPass, 1)
		return loss
	}
	loss := WeighoutLoss{LossPct: c.LossPct, Decay: c.kind.Decay, JoinsAtPass: 1}
	if follows != nil {
		loss.JoinsAtPass = follows.plan.JoinsAt(i)
	}
	return loss
}

// weighoutPart is a component of a weigh-out as it stands on the shelf now, and what it is to the colour.
func weighoutPart(at stock, c store.WeighoutComponent, lots map[int64]store.Lot) (WeighoutPart, tint) {
	p := WeighoutPart{
		LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex, Share: c.Share,
		LossPct: c.LossPct, Decay: c.Decay, JoinsAtPass: c.JoinsAtPass, HexList: []string{c.Hex}, kind: at.kinds.Named(c.Kind),
	}
	p.Staple = p.kind.StapleMM.Mid()
	if c.OwnMg > 0 {
		own := inGrams(c.OwnMg)
		p.HaveG = &own
	}
	if c.LotID == nil {
		t, _ := tintOf(nil, "", c.Hex, p.kind)
		return p, t
	}
	row := lots[*c.LotID]
	l := lotOf(row, at.kinds)
	p.Staple, p.HexList = l.WorkingStapleMM, p.HexList[:0]
	for _, v := range l.Colours {
		p.HexList = append(p.HexList, v.Hex)
	}
	if c.OnlyHex == "" && len(p.HexList) > 1 && slices.Contains(p.HexList, c.Hex) {
		c.OnlyHex = c.Hex // from before it was kept by itself
	}
	if c.OnlyHex != "" {
		p.HexList = []string{c.OnlyHex}
	}
	have := inGrams(row.Left(c.OnlyHex))
	p.HaveG = &have
	t, _ := tintOf(&row, c.OnlyHex, c.Hex, p.kind)
	return p, t
}

// noted puts what was noted of units beside them.
func (w *Weighout) noted(notes []store.WeighoutNote) {
	for _, v := range notes {
		if v.Unit >= len(w.Units) {
			continue
		}
		u := &w.Units[v.Unit]
		u.Note, u.NoteVersion = v.Note, v.Version
		if v.OffMg != nil {
			off := inGrams(*v.OffMg)
			u.OffG = &off
		}
	}
}
