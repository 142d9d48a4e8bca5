package studio

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/match"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
)

// FindInput is what is asked of the shelf for a blend. Locked components of
// the blend keep their share; a target left empty is the blend's own.
type FindInput struct {
	Target        string `json:"target"`
	MaxComponents int    `json:"max_components"`
	Count         int    `json:"count"`
	Wish          Wish   `json:"wish"`
	Thorough      bool   `json:"thorough"`
}

// Found is an answer of the shelf: a recipe that can take the place of the
// blend's.
type Found struct {
	Components []BlendComponent `json:"components"`
	Grams      []float64        `json:"grams"` // finished
	DeltaE     float64          `json:"delta_e"`
	Slip       float64          `json:"slip_delta_e"`
	Hex        string           `json:"hex"`
	Words      string           `json:"words"`
	Cost       *float64         `json:"cost"`
}

// FindAnswer are the recipes found, best first.
type FindAnswer struct {
	Target   string  `json:"target"`
	Found    []Found `json:"found"`
	Lots     int     `json:"lots"` // that were looked at
	Examined int     `json:"examined"`
	Complete bool    `json:"complete"`
}

// candidates are the lots of the shelf that may go into a blend, with what the
// search wants to know of them.
type candidates struct {
	at    bench
	lots  []match.Lot
	parts []BlendComponent
}

// candidates gathers what can be used: the shelf's lots with fibre left that
// the wish allows, and what the blend has locked or still to buy. Grams count
// as finished, after the losses of the passes.
func (s *Studio) candidates(ctx context.Context, in BlendInput, w Wish, target colour.Lab) (c candidates, err error) {
	if c.at, err = s.bench(ctx); err != nil {
		return c, err
	}
	if _, ok := c.at.kinds.Find(w.Kind); w.Kind != "" && !ok {
		return c, fault.New("wish.kind", "There is no kind of fibre with this key.")
	}
	rows, _, err := s.store.Lots(ctx, store.LotFilter{Stock: "some"})
	if err != nil {
		return c, err
	}
	b, err := s.Look(ctx, in)
	if err != nil {
		return c, err
	}
	held := map[int64]bool{}
	for _, v := range b.Components {
		if !v.Locked && v.LotID != nil {
			continue
		}
		lot := match.Lot{Available: math.Inf(1), Most: 1, Cost: math.NaN(), InGroup: v.kind.Family == "wool"}
		if v.Locked {
			lot.Least, lot.Most = v.Share, v.Share
		}
		if v.LotID != nil {
			held[*v.LotID] = true
			lot.Colour, _ = meanColour(rowColours(v.Lot))
			if v.Only != "" {
				lot.Colour = reflectanceOf(v.Hex)
			}
		} else {
			lot.Colour = reflectanceOf(v.Hex)
		}
		c.add(lot, v.BlendComponent, v.kind.Thickness())
	}
	for _, r := range thin(rows, match.MaxLots-len(c.lots), target) {
		k := c.at.kinds.named(r.Kind)
		if held[r.ID] || !w.allows(r.Kind, c.at.kinds) {
			continue
		}
		lot := match.Lot{Most: 1, Cost: math.NaN(), InGroup: k.Family == "wool"}
		lot.Colour, _ = meanColour(r.Colours)
		lot.Available = float64(r.GramsMg.Grams()) * weigh.Component{LossPass: k.LossPct.Mid() / 100}.Yield(in.Passes)
		if r.CentsPer100g != nil {
			lot.Cost = float64(*r.CentsPer100g) / 10000
		}
		id := r.ID
		c.add(lot, BlendComponent{LotID: &id}, k.Thickness())
	}
	if len(c.lots) == 0 {
		return c, fault.New("wish", "Nothing on the shelf fits this wish.")
	}
	return c, nil
}

// strengthFor is how much a gram of fibre counts for the colour.
func (b bench) strengthFor(lot *int64, thickness float64) float64 {
	v := 1.0
	if b.set.CoveringPower && thickness > 0 {
		v = 30 / thickness
	}
	if lot != nil {
		if own, ok := b.strength[*lot]; ok {
			v *= own
		}
	}
	return v
}

// strengthOf is the same for a gram of a blend.
func (b bench) strengthOf(v Blend) (sum float64) {
	for _, c := range v.Components {
		sum += c.Share * b.strengthFor(c.LotID, c.kind.Thickness())
	}
	return sum
}

func (c *candidates) add(l match.Lot, p BlendComponent, thickness float64) {
	l.Strength = c.at.strengthFor(p.LotID, thickness)
	c.lots, c.parts = append(c.lots, l), append(c.parts, p)
}

func rowColours(l *Lot) (out []store.Colour) {
	for _, v := range l.Colours {
		out = append(out, store.Colour(v))
	}
	return out
}

// thin leaves at most n lots: of those that are nearly alike in colour the
// fullest, and more alike the more there are.
func thin(rows []store.Lot, n int, target colour.Lab) []store.Lot {
	if len(rows) <= n {
		return rows
	}
	rows = slices.Clone(rows)
	slices.SortStableFunc(rows, func(a, b store.Lot) int { return cmp.Compare(b.GramsMg, a.GramsMg) })
	labs := make([]colour.Lab, len(rows))
	for i, r := range rows {
		m, _ := meanColour(r.Colours)
		labs[i] = m.Lab()
	}
	for near := 1.0; ; near *= 1.3 {
		var kept []int
		for i := range rows {
			alike := func(j int) bool { return colour.CIEDE2000(labs[i], labs[j]) < near }
			if !slices.ContainsFunc(kept, alike) {
				kept = append(kept, i)
			}
			if len(kept) > n {
				break
			}
		}
		if len(kept) <= n {
			out := make([]store.Lot, len(kept))
			for i, k := range kept {
				out[i] = rows[k]
			}
			return out
		}
	}
}

// Find searches the shelf for proportions that reach a colour.
func (s *Studio) Find(ctx context.Context, in BlendInput, q FindInput, watch func(match.Progress) bool) (FindAnswer, error) {
	target, err := targetOf(in, q.Target)
	if err != nil {
		return FindAnswer{}, err
	}
	c, err := s.candidates(ctx, in, q.Wish, target.Lab())
	if err != nil {
		return FindAnswer{}, err
	}
	step := float64(c.at.set.StepMg.Grams())
	total := math.Floor(in.TotalG/step+1e-6) * step
	if total < step {
		return FindAnswer{}, fault.New("total_g", "The blend weighs less than a step of the scale.")
	}
	for i := range c.lots { // locked shares are rounded to the scale
		if l := &c.lots[i]; l.Least > 0 {
			n := math.Round(l.Least * total / step)
			l.Least, l.Most = n*step/total, n*step/total
		}
	}
	query := match.Query{
		Target: target.Lab(), Lots: c.lots, Model: c.at.model, Components: q.MaxComponents, Total: total, Step: step,
		Count: q.Count, GroupLeast: q.Wish.LeastWoolShare, Thorough: q.Thorough, Watch: watch,
	}
	a, err := match.Find(query)
	if err != nil {
		return FindAnswer{}, err
	}
	out := FindAnswer{Target: target.Hex(), Found: []Found{}, Lots: len(c.lots), Examined: a.Examined, Complete: a.Complete}
	for _, b := range a.Blends {
		out.Found = append(out.Found, c.found(b, step, target.Lab()))
	}
	return out, nil
}

// Quickly is Find with one answer, for a target that is being dragged.
func (s *Studio) Quickly(ctx context.Context, in BlendInput, q FindInput) (FindAnswer, error) {
	target, err := targetOf(in, q.Target)
	if err != nil {
		return FindAnswer{}, err
	}
	c, err := s.candidates(ctx, in, q.Wish, target.Lab())
	if err != nil {
		return FindAnswer{}, err
	}
	step := float64(c.at.set.StepMg.Grams())
	total := math.Max(step, math.Floor(in.TotalG/step+1e-6)*step)
	b, err := match.Quick(match.Query{
		Target: target.Lab(), Lots: c.lots, Model: c.at.model, Components: q.MaxComponents, Total: total, Step: step, Count: 1, GroupLeast: q.Wish.LeastWoolShare,
	})
	out := FindAnswer{Target: target.Hex(), Found: []Found{}, Lots: len(c.lots)}
	if err == nil && len(b.Set) > 0 {
		out.Found = append(out.Found, c.found(b, step, target.Lab()))
	}
	return out, err
}

func (c candidates) found(b match.Blend, step float64, target colour.Lab) Found {
	f := Found{DeltaE: b.DeltaE, Slip: b.Slip, Hex: b.Colour.Linear().Hex(), Words: colour.Words(target, b.Colour.Lab()), Cost: known(b.Cost)}
	for j, i := range b.Set {
		p := c.parts[i]
		p.Parts = clean(float64(b.Steps[j]) * step)
		f.Components = append(f.Components, p)
		f.Grams = append(f.Grams, p.Parts)
	}
	return f
}

func targetOf(in BlendInput, hex string) (colour.Linear, error) {
	if hex == "" {
		hex = in.Target
	}
	if hex == "" {
		return colour.Linear{}, fault.New("target", "Say which colour is wanted first.")
	}
	c, err := colour.ParseHex(hex)
	if err != nil {
		return c, fault.New("target", "A colour is written as # and six digits or letters a to f, such as #7d8f92.")
	}
	return c, nil
}

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
