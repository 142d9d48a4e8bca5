package studio

import (
	"context"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/match"
	"fairtangle/core/unit"
)

// MendInput asks what to add to a blend that was made. The colour it came out
// with is the predicted one, changed by what was said, or was measured.
type MendInput struct {
	MadeG         float64      `json:"made_g"`
	Measured      *ColourInput `json:"measured"`
	Said          []match.Said `json:"said"`
	Target        string       `json:"target"` // empty: the blend's own, or what it was predicted to be
	MaxComponents int          `json:"max_components"`
	MaxAddedG     float64      `json:"max_added_g"`
	Count         int          `json:"count"`
	Wish          Wish         `json:"wish"`
}

// Addition is one mend: what to add, and the recipe that then results.
type Addition struct {
	Add        []Added          `json:"add"`
	AddedG     float64          `json:"added_g"`
	TotalG     float64          `json:"total_g"`
	DeltaE     float64          `json:"delta_e"`
	Hex        string           `json:"hex"`
	Words      string           `json:"words"`
	Components []BlendComponent `json:"components"`
}

// Added is a lot with the grams to add of it.
type Added struct {
	BlendComponent
	Grams float64 `json:"grams"`
}

// MendAnswer are the mends, by improvement per gram.
type MendAnswer struct {
	BeforeDeltaE float64    `json:"before_delta_e"`
	BeforeHex    string     `json:"before_hex"`
	TargetHex    string     `json:"target_hex"`
	Words        string     `json:"words"` // how it differs from what was wanted
	Mends        []Addition `json:"mends"`
}

// Mend finds what to add to a blend that was made and is not as wanted.
func (s *Studio) Mend(ctx context.Context, in BlendInput, q MendInput) (MendAnswer, error) {
	b, err := s.Look(ctx, in)
	if err != nil {
		return MendAnswer{}, err
	}
	if len(b.Components) == 0 {
		return MendAnswer{}, fault.New("components", "This blend is empty; there is nothing to mend.")
	}
	now := b.even
	if q.Measured != nil {
		r, _, err := q.Measured.Read()
		if err != nil {
			return MendAnswer{}, fault.Under("measured", err)
		}
		now = r
	}
	if len(q.Said) > 0 {
		lab, err := match.Saying(now.Lab(), q.Said)
		if err != nil {
			return MendAnswer{}, fault.Under("said", err)
		}
		now, _ = lab.Linear().Reflectance()
	}
	target := b.even.Lab()
	if q.Target != "" || in.Target != "" {
		c, err := targetOf(in, q.Target)
		if err != nil {
			return MendAnswer{}, err
		}
		target = c.Lab()
	}
	bare := in
	bare.Components = nil
	c, err := s.candidates(ctx, bare, q.Wish, target)
	if err != nil {
		return MendAnswer{}, err
	}
	step := float64(c.at.set.StepMg.Grams())
	before, list, err := match.Correct(match.Mend{
		Made: q.MadeG, Colour: now, Strength: c.at.strengthOf(b), Target: target, Lots: c.lots, Model: c.at.model, Components: q.MaxComponents,
		MostAdded: q.MaxAddedG, Step: step, Count: q.Count,
	})
	if err != nil {
		return MendAnswer{}, err
	}
	out := MendAnswer{BeforeDeltaE: before, BeforeHex: now.Linear().Hex(), TargetHex: target.Linear().Hex(), Words: colour.Words(target, now.Lab()), Mends: []Addition{}}
	for _, v := range list {
		a := Addition{AddedG: clean(v.Added), TotalG: clean(q.MadeG + v.Added), DeltaE: v.DeltaE, Hex: v.Colour.Linear().Hex(), Words: colour.Words(target, v.Colour.Lab())}
		grams := map[int64]float64{}
		for j, i := range v.Set {
			g := clean(float64(v.Steps[j]) * step)
			a.Add = append(a.Add, Added{c.parts[i], g})
			grams[*c.parts[i].LotID] += g
		}
		a.Components = joined(b, q.MadeG, grams, a.Add)
		out.Mends = append(out.Mends, a)
	}
	return out, nil
}

// joined is the recipe of a blend of made grams with what is added to it.
func joined(b Blend, made float64, grams map[int64]float64, add []Added) (out []BlendComponent) {
	for _, v := range b.Components {
		p := v.BlendComponent
		p.Parts = v.Share * made
		if p.LotID != nil && p.Only == "" {
			p.Parts += grams[*p.LotID]
			delete(grams, *p.LotID)
		}
		p.Parts = float64(unit.Grams(p.Parts).Milligrams()) / 1000
		out = append(out, p)
	}
	for _, a := range add {
		if g, ok := grams[*a.LotID]; ok {
			p := a.BlendComponent
			p.Parts = g
			out = append(out, p)
		}
	}
	return out
}

// DullInput asks to take a part of the chroma off a blend.
type DullInput struct {
	Drop float64 `json:"drop"` // 0..1
	Wish Wish    `json:"wish"`
}

// Dulled is one way to dull a blend. Component is nil where the shelf has
// nothing for it.
type Dulled struct {
	Way        string           `json:"way"` // complement, grey, brown
	Component  *BlendComponent  `json:"component"`
	Share      float64          `json:"share"` // of the new whole
	Grams      float64          `json:"grams"` // in the blend's finished weight
	Enough     bool             `json:"enough"`
	Hex        string           `json:"hex"`
	Words      string           `json:"words"` // from the blend as it is
	DeltaE     float64          `json:"delta_e"`
	Components []BlendComponent `json:"components"`
}

// DullAnswer are the three ways side by side.
type DullAnswer struct {
	Chroma     float64  `json:"chroma"`
	WantChroma float64  `json:"want_chroma"`
	Ways       []Dulled `json:"ways"`
}

// Dull takes the shine off a blend in three ways.
func (s *Studio) Dull(ctx context.Context, in BlendInput, q DullInput) (DullAnswer, error) {
	b, err := s.Look(ctx, in)
	if err != nil {
		return DullAnswer{}, err
	}
	if len(b.Components) == 0 {
		return DullAnswer{}, fault.New("components", "This blend is empty; there is nothing to dull.")
	}
	bare := in
	bare.Components = nil
	c, err := s.candidates(ctx, bare, q.Wish, b.even.Lab())
	if err != nil {
		return DullAnswer{}, err
	}
	for i, own := 0, c.at.strengthOf(b); i < len(c.lots); i++ {
		c.lots[i].Strength /= own
	}
	ways, err := match.Dull(b.even, q.Drop, c.lots, c.at.model)
	if err != nil {
		return DullAnswer{}, err
	}
	at := b.even.Lab()
	out := DullAnswer{Chroma: at.Chroma(), WantChroma: at.Chroma() * (1 - q.Drop)}
	for _, w := range ways {
		d := Dulled{Way: w.Way}
		if w.Lot >= 0 {
			p := c.parts[w.Lot]
			d.Component, d.Share, d.Grams = &p, w.Share, w.Share*in.TotalG
			d.Enough = c.lots[w.Lot].Available >= d.Grams
			d.Hex, d.Words, d.DeltaE = w.Colour.Linear().Hex(), colour.Words(at, w.Colour.Lab()), colour.CIEDE2000(at, w.Colour.Lab())
			d.Components = joined(b, (1-w.Share)*in.TotalG, map[int64]float64{*p.LotID: d.Grams}, []Added{{p, d.Grams}})
		}
		out.Ways = append(out.Ways, d)
	}
	return out, nil
}
