package reach

import (
	"context"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/match"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// MendInput asks what to add to a blend that was made. The colour it came out
// with is the predicted one, changed by what was said, or was measured.
type MendInput struct {
	MadeG float64 `json:"made_g"`
	// There says what is there of it: planned (left out), or weighed, of which
	// made_g may be left out.
	There         string                `json:"there"`
	Measured      *workshop.ColourInput `json:"measured"`
	Said          []match.Said          `json:"said"`
	Target        string                `json:"target"` // empty: the blend's own, or what it was predicted to be
	MaxComponents int                   `json:"max_components"`
	MaxAddedG     float64               `json:"max_added_g"`
	Count         int                   `json:"count"`
	Wish          Wish                  `json:"wish"`
}

// Addition is one mend: what to add, and the recipe that then results.
type Addition struct {
	Add        []Added                 `json:"add"`
	AddedG     float64                 `json:"added_g"`
	TotalG     float64                 `json:"total_g"`
	DeltaE     float64                 `json:"delta_e"`
	Hex        string                  `json:"hex"`
	Words      string                  `json:"words"`
	Components []recipe.BlendComponent `json:"components"`
	Came       recipe.Came             `json:"came"` // what the blend keeps when this is taken
}

// Added is a lot with the grams to add of it.
type Added struct {
	recipe.BlendComponent
	Grams float64 `json:"grams"`
}

// MendAnswer are the mends, by improvement per gram.
type MendAnswer struct {
	BeforeDeltaE float64    `json:"before_delta_e"`
	BeforeHex    string     `json:"before_hex"`
	TargetHex    string     `json:"target_hex"`
	Words        string     `json:"words"` // how it differs from what was wanted
	Mends        []Addition `json:"mends"`
	// TakeOut is what can be drawn out instead, while its fibres can still be told apart.
	TakeOut []TakenOut `json:"take_out"`
}

// Mend finds what to add to a blend that was made and is not as wanted. blend is
// that of which some may be weighed, 0 where it is not kept.
func (s *Room) Mend(ctx context.Context, blend int64, in recipe.BlendInput, q MendInput) (MendAnswer, error) {
	b, err := s.recipe.WorkOutAt(ctx, blend, in)
	if err != nil {
		return MendAnswer{}, err
	}
	if len(b.Components) == 0 {
		return MendAnswer{}, fault.New("components", "This blend is empty; there is nothing to mend.")
	}
	if q.There != "" && q.There != "planned" && q.There != "weighed" {
		return MendAnswer{}, fault.New("there", "What is there is planned or weighed.")
	}
	if q.There == "weighed" && q.MadeG == 0 {
		q.MadeG = b.WeighedOffG()
	}
	q.MadeG = floor.InGrams(unit.Grams(q.MadeG).Milligrams()) // as it is kept
	of, err := b.ThereNow(q.There == "weighed", q.MadeG)
	if err != nil {
		return MendAnswer{}, err
	}
	c, err := s.shelf.Mixing(ctx)
	if err != nil {
		return MendAnswer{}, err
	}
	now := b.Even
	if q.There == "weighed" {
		now = c.Even(b.Tints, of)
	}
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
	target := b.Even.Lab()
	if q.Target != "" || in.Target != "" {
		c, err := targetOf(in, q.Target)
		if err != nil {
			return MendAnswer{}, err
		}
		target = c.Lab()
	}
	return s.mends(ctx, in, b, q, of, now, target)
}

// mends searches for additions to grams of a blend that have a colour.
func (s *Room) mends(
	ctx context.Context,
	in recipe.BlendInput,
	b recipe.Blend,
	q MendInput,
	of []float64,
	now colour.Reflectance,
	target colour.Lab,
) (MendAnswer, error) {
	bare := in
	bare.Components, bare.Came = nil, nil
	c, err := s.Candidates(ctx, bare, q.Wish)
	if err != nil {
		return MendAnswer{}, err
	}
	made := make([]float64, len(of))
	for i := range of {
		made[i] = of[i] / q.MadeG
	}
	came := recipe.Came{Grams: q.MadeG, Hex: now.Linear().Hex(), Reflectance: slices.Clone(now[:])}
	for i, v := range b.Components {
		came.Of = append(came.Of, store.CamePart{Key: v.Key, Grams: of[i]})
	}
	step := float64(c.at.Settings.StepMg.Grams())
	before, list, err := match.Correct(ctx, match.Mend{
		Made: q.MadeG, Colour: now, Strength: c.at.StrengthTogether(b.Tints, made), Target: target, Lots: c.Lots, Model: c.at.Model, Components: q.MaxComponents,
		MostAdded: q.MaxAddedG, Step: step, Count: q.Count,
	})
	if err != nil {
		return MendAnswer{}, err
	}
	out := MendAnswer{
		BeforeDeltaE: before,
		BeforeHex:    now.Linear().Hex(),
		TargetHex:    target.Linear().Hex(),
		Words:        colour.Words(target, now.Lab()),
		Mends:        []Addition{},
		TakeOut:      takeOuts(c.at, b, of, now.Lab(), target, step),
	}
	for _, v := range list {
		a := Addition{
			AddedG: unit.Clean(v.Added),
			TotalG: unit.Clean(q.MadeG + v.Added),
			DeltaE: v.DeltaE,
			Hex:    v.Colour.Linear().Hex(),
			Words:  colour.Words(target, v.Colour.Lab()),
		}
		grams := map[int64]float64{}
		for j, i := range v.Set {
			g := unit.Clean(float64(v.Steps[j]) * step)
			a.Add = append(a.Add, Added{c.Parts[i], g})
			grams[*c.Parts[i].LotID] += g
		}
		a.Components, a.Came = joined(b, of, grams, a.Add), came
		out.Mends = append(out.Mends, a)
	}
	return out, nil
}

// joined is the recipe of what is there of a blend, in grams of its components,
// with what is added to it.
func joined(b recipe.Blend, of []float64, grams map[int64]float64, add []Added) (out []recipe.BlendComponent) {
	for i, v := range b.Components {
		p := v.BlendComponent
		p.Parts = of[i]
		if p.LotID != nil && p.Only == "" {
			p.Parts += grams[*p.LotID]
			delete(grams, *p.LotID)
		}
		if p.Parts > 0 {
			out = append(out, p)
		}
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
	Way        string                  `json:"way"` // complement, grey, brown
	Component  *recipe.BlendComponent  `json:"component"`
	Share      float64                 `json:"share"` // of the new whole
	Grams      float64                 `json:"grams"` // in the blend's finished weight
	Enough     bool                    `json:"enough"`
	Hex        string                  `json:"hex"`
	Words      string                  `json:"words"` // from the blend as it is
	DeltaE     float64                 `json:"delta_e"`
	Components []recipe.BlendComponent `json:"components"`
}

// DullAnswer are the three ways side by side.
type DullAnswer struct {
	Chroma     float64  `json:"chroma"`
	WantChroma float64  `json:"want_chroma"`
	Ways       []Dulled `json:"ways"`
}

// Dull takes the shine off a blend in three ways.
func (s *Room) Dull(ctx context.Context, in recipe.BlendInput, q DullInput) (DullAnswer, error) {
	b, err := s.recipe.WorkOut(ctx, in)
	if err != nil {
		return DullAnswer{}, err
	}
	if len(b.Components) == 0 {
		return DullAnswer{}, fault.New("components", "This blend is empty; there is nothing to dull.")
	}
	bare := in
	bare.Components = nil
	c, err := s.Candidates(ctx, bare, q.Wish)
	if err != nil {
		return DullAnswer{}, err
	}
	for i, own := 0, c.at.StrengthTogether(b.Tints, b.Shares()); i < len(c.Lots); i++ {
		c.Lots[i].Strength /= own
	}
	ways, err := match.Dull(b.Even, q.Drop, c.Lots, c.at.Model)
	if err != nil {
		return DullAnswer{}, err
	}
	at := b.Even.Lab()
	out := DullAnswer{Chroma: at.Chroma(), WantChroma: at.Chroma() * (1 - q.Drop)}
	for _, w := range ways {
		d := Dulled{Way: w.Way}
		if w.Lot >= 0 {
			p := c.Parts[w.Lot]
			d.Component, d.Share, d.Grams = &p, w.Share, w.Share*in.TotalG
			d.Enough = c.Lots[w.Lot].Available >= d.Grams
			d.Hex, d.Words, d.DeltaE = w.Colour.Linear().Hex(), colour.Words(at, w.Colour.Lab()), colour.CIEDE2000(at, w.Colour.Lab())
			d.Components = joined(b, b.Grams(1-w.Share), map[int64]float64{*p.LotID: d.Grams}, []Added{{p, d.Grams}})
		}
		out.Ways = append(out.Ways, d)
	}
	return out, nil
}

// Whats and Hows are the words in which a blend can be found wanting.
func Whats() []string { return match.Whats }

// Hows are the degrees of it.
func Hows() []string { return match.Hows }
