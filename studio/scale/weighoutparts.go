package scale

import (
	"context"
	"slices"

	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// addedTo reads what a weigh-out that mends a blend is added to.
func (s *Room) addedTo(ctx context.Context, w *Weighout, r store.Weighout) error {
	w.AddedToG, w.CameHex = floor.InGrams(r.AddedToMg), r.CameHex
	t := shelf.Tint{Colour: floor.ReflectanceOf(r.CameHex), Own: 1}
	b, err := s.recipe.Blend(ctx, r.BlendID)
	if err == nil && b.Carded != nil && b.CameAs != nil {
		of := make([]float64, len(b.Components))
		for i, c := range b.Components {
			for _, p := range b.CameAs.Of {
				if p.Key == c.Key {
					of[i] = p.Grams / b.CameAs.Grams
				}
			}
		}
		t.Own = w.At.StrengthTogether(b.Tints, of)
		t.Colour = floor.ReflectanceIn(store.Colour{Hex: r.CameHex, Reflectance: b.CameAs.Reflectance})
	}
	w.Added = &t
	return err
}

// lossOf is what a component of a weigh-out loses: as it was asked, else as its kind does and from the
// pass at which the lay-up has it join.
func (in WeighoutInput) lossOf(i int, c recipe.Component, follows *laying.Layup) WeighoutLoss {
	if len(in.Lines) > 0 {
		loss := in.Lines[i]
		loss.JoinsAtPass = max(loss.JoinsAtPass, 1)
		return loss
	}
	loss := WeighoutLoss{LossPct: c.LossPct, Decay: c.Fibre.Decay, JoinsAtPass: 1}
	if follows != nil {
		loss.JoinsAtPass, loss.AloneFirst = follows.LaidPlan.JoinsAt(i), follows.LaidPlan.LosesAlone(follows.Bed, i)
	}
	return loss
}

// weighoutPart is a component of a weigh-out as it stands on the shelf now, and what it is to the colour.
func weighoutPart(at shelf.Mixing, c store.WeighoutComponent, lots map[int64]store.Lot) (WeighoutPart, shelf.Tint) {
	p := WeighoutPart{
		LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex, Share: c.Share,
		LossPct: c.LossPct, Decay: c.Decay, JoinsAtPass: c.JoinsAtPass, AloneFirst: c.AloneFirst, HexList: []string{c.Hex}, Fibre: at.Kinds.Named(c.Kind),
	}
	p.Staple = p.Fibre.StapleMM.Mid()
	if c.OwnMg > 0 {
		own := floor.InGrams(c.OwnMg)
		p.HaveG = &own
	}
	if c.LotID == nil {
		t, _ := shelf.TintOf(nil, "", c.Hex, p.Fibre)
		return p, t
	}
	row := lots[*c.LotID]
	l := shelf.LotOf(row, at.Kinds)
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
	have := floor.InGrams(row.Left(c.OnlyHex))
	p.HaveG = &have
	t, _ := shelf.TintOf(&row, c.OnlyHex, c.Hex, p.Fibre)
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
			off := floor.InGrams(*v.OffMg)
			u.OffG = &off
		}
	}
}
