package recipe

import (
	"context"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/blend"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// used is what became of a blend already: what was weighed of each component, and how it is laid.
type used struct {
	weighed map[store.Used]float64
	laid    *store.LaidWay // nil: it is not laid
}

// of is what was weighed of a component, in grams.
func (u used) of(c BlendComponent) float64 {
	k := store.Used{OnlyHex: c.Only, Name: c.Name}
	if c.LotID != nil {
		k.LotID, k.Name = *c.LotID, ""
	}
	return u.weighed[k]
}

// usedFor tells what was weighed for each blend and how it is laid.
func (s *Room) usedFor(ctx context.Context, blends ...int64) (map[int64]used, error) {
	rows, err := s.Store.UsedFor(ctx, blends)
	if err != nil {
		return nil, err
	}
	laid, err := s.Store.LaidWays(ctx, blends)
	out := map[int64]used{}
	for _, id := range blends {
		u := used{weighed: map[store.Used]float64{}}
		if way, ok := laid[id]; ok {
			u.laid = &way
		}
		out[id] = u
	}
	for _, r := range rows {
		blend, mg := r.BlendID, r.Mg
		r.BlendID, r.Mg = 0, 0
		out[blend].weighed[r] = floor.InGrams(mg)
	}
	return out, err
}

// goesThrough has a blend lose as it is laid, else in the passes that it plans.
func (b *Blend) goesThrough(laid *store.LaidWay) {
	b.LosesIn = b.Passes
	if laid == nil {
		return
	}
	p, bed := layup.Plan{Passes: laid.Passes, Joins: laid.Joins, Alone: laid.Alone}, layup.Bed{Type: layup.Type(laid.Type)}
	for _, v := range laid.Fed {
		p.Fed = append(p.Fed, layup.FedAs(v))
	}
	b.LosesIn = p.LosesIn(bed, b.Passes)
	for i := range b.Components {
		c := &b.Components[i]
		key := store.LayupComponent{LotID: c.LotID, Only: c.Only, Name: c.Name, Kind: c.Kind, Hex: c.Hex}
		at := slices.IndexFunc(laid.Components, key.Same)
		if at >= 0 {
			c.JoinsAt, c.Alone = min(p.JoinsAt(at), max(1, b.LosesIn)), p.LosesAlone(bed, at)
		}
	}
}

// WorkOut works out everything that follows from a recipe and keeps nothing.
func (s *Room) WorkOut(ctx context.Context, in BlendInput) (Blend, error) {
	return s.WorkOutAt(ctx, 0, in)
}

// WorkOutAt is WorkOut for a recipe of a kept blend, for which some may be weighed
// already; 0 for one that is not kept.
func (s *Room) WorkOutAt(ctx context.Context, blend int64, in BlendInput) (Blend, error) {
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return Blend{}, err
	}
	return s.workOutAt(ctx, at, blend, in)
}

func (s *Room) workOutAt(ctx context.Context, at shelf.Mixing, blend int64, in BlendInput) (Blend, error) {
	if err := in.check(at.Kinds); err != nil {
		return Blend{}, err
	}
	lots, err := s.lotsIn(ctx, in.Components)
	if err != nil {
		return Blend{}, err
	}
	if err := in.known(lots); err != nil {
		return Blend{}, err
	}
	weighed := map[int64]used{}
	if blend != 0 {
		if weighed, err = s.usedFor(ctx, blend); err != nil {
			return Blend{}, err
		}
	}
	return workOutWith(at, in, lots, weighed[blend]), nil
}

func (s *Room) lotsIn(ctx context.Context, lists ...[]BlendComponent) (map[int64]store.Lot, error) {
	var ids []int64
	for _, list := range lists {
		for _, c := range list {
			if c.LotID != nil {
				ids = append(ids, *c.LotID)
			}
		}
	}
	if len(ids) == 0 {
		return map[int64]store.Lot{}, nil
	}
	return s.Store.LotsByID(ctx, ids)
}

// known finds a lot that is not there, or has no such colour.
func (in BlendInput) known(lots map[int64]store.Lot) error {
	for i, c := range in.Components {
		if c.LotID == nil {
			continue
		}
		row, ok := lots[*c.LotID]
		if !ok {
			return fault.New(fmt.Sprintf("components[%d].lot_id", i), "There is no such lot on the shelf.")
		}
		if _, ok := shelf.TintOf(&row, c.Only, "", fibre.Kind{}); !ok {
			return fault.New(fmt.Sprintf("components[%d].only", i), "The lot has no colour %s.", c.Only)
		}
	}
	return nil
}

// lostLot stands for a lot of which nothing is kept any more: none of it is there.
func lostLot(id int64, c BlendComponent) store.Lot {
	l := store.Lot{Name: fmt.Sprintf("lot %d, no longer known", id), Kind: c.Kind, Preparation: c.Preparation}
	l.ID, l.DeletedAt.Valid = id, true
	if c.Hex != "" {
		l.Colours = []store.Colour{{Hex: c.Hex, Share: 1, Source: string(mix.Picker)}}
	}
	return l
}

// workOutWith is WorkOut with everything at hand. It refuses nothing: what is kept is always shown.
func workOutWith(at shelf.Mixing, in BlendInput, lots map[int64]store.Lot, used used) Blend {
	b, list, weights := workOutColour(at, in, lots, used)
	if len(list) > 0 {
		b.sure(at, list, weights)
	}
	return b
}

// workOutColour is workOutWith without how sure its colour is; list and weights are what the colour comes of.
func workOutColour(at shelf.Mixing, in BlendInput, lots map[int64]store.Lot, used used) (b Blend, list []shelf.Tint, weights []float64) {
	b, rows := workOutAmounts(at, in, lots, used)
	n := len(in.Components)
	if n == 0 {
		return b, nil, nil
	}
	list, weights = make([]shelf.Tint, n), make([]float64, n)
	for i, c := range b.Components {
		weights[i] = c.Share
		list[i], _ = shelf.TintOf(rows[i], c.Only, c.Hex, c.Fibre)
	}
	b.Tints = list
	if in.Came != nil {
		if with, grams := b.came(at, *in.Came); with != nil {
			list, weights = with, grams
		}
	}
	b.predict(at, list, weights)
	return b, list, weights
}

// workOutAmounts is workOutWith without colours; rows are the lots of the components, nil where it is none.
func workOutAmounts(at shelf.Mixing, in BlendInput, lots map[int64]store.Lot, used used) (b Blend, rows []*store.Lot) {
	b = Blend{Name: in.Name, TotalG: in.TotalG, Passes: in.Passes, LimitedBy: -1, Components: make([]Component, len(in.Components))}
	if in.Target != "" {
		b.Target = &Target{Hex: in.Target}
	}
	n := len(in.Components)
	parts := make(blend.Blend, n)
	rows = make([]*store.Lot, n)
	keys := keysOf(in.Components)
	for i, c := range in.Components {
		v := Component{BlendComponent: c, Key: keys[i]}
		if c.LotID != nil {
			row, ok := lots[*c.LotID]
			if !ok {
				row = lostLot(*c.LotID, c)
			}
			l := shelf.LotOf(row, at.Kinds)
			have := floor.InGrams(row.Left(c.Only))
			v.Lot, v.HaveG, v.InBin = &l, &have, row.DeletedAt.Valid
			v.Name, v.Kind, v.Preparation, v.Hex = l.Name, l.Kind, l.Preparation, l.MeanHex
			v.Fibre = at.Kinds.Named(v.Kind)
			rows[i] = &row
			if c.Only != "" {
				t, _ := shelf.TintOf(&row, c.Only, v.Hex, v.Fibre)
				v.Hex, v.Name = c.Only, l.Name+", "+colour.Name(t.Colour.Lab())
			}
		} else {
			v.Fibre = at.Kinds.Named(v.Kind)
			if c.OwnG > 0 {
				own := c.OwnG
				v.HaveG = &own
			}
		}
		v.WeighedG = used.of(c)
		v.LossPct = v.Fibre.LossPct.Mid()
		v.Learned = lessons.LearnedOf(at.Known.All, v.Kind)
		parts[i] = blend.Part{Parts: c.Parts, Locked: c.Locked}
		b.Components[i] = v
	}
	b.goesThrough(used.laid)
	if n > 0 {
		b.CameAs = in.Came
		b.amounts(parts, parts.Shares(), at.Settings)
	}
	return b, rows
}

// amounts fills in grams, limits and cost.
func (b *Blend) amounts(parts blend.Blend, shares []float64, set workshop.Settings) {
	stock := make([]blend.Stock, len(shares))
	var cost float64
	for i := range b.Components {
		c := &b.Components[i]
		way := b.WayOf(*c)
		c.Share, c.Grams = shares[i], shares[i]*b.TotalG
		c.WeighG = way.WeighIn(c.Grams)
		c.Least, c.Most = parts.Room(i)
		b.WeighInG += c.WeighG
		stock[i] = blend.Stock{Yield: way.Yield(), Endless: c.HaveG == nil}
		if c.HaveG != nil {
			stock[i].Have = unit.Grams(*c.HaveG + c.WeighedG)
			c.ShortG = losses.Lack(c.WeighG, c.WeighedG+*c.HaveG)
		}
		if c.Lot != nil && c.Lot.CostPer100g != nil {
			v := *c.Lot.CostPer100g / 100 * c.WeighG
			c.Cost = &v
			cost += v
			b.CostKnown++
		}
	}
	if b.CostKnown > 0 {
		b.Cost = &cost
	}
	if l := blend.Largest(shares, stock); l.By >= 0 {
		g := float64(l.Finished)
		b.LargestG, b.LimitedBy, b.TenMoreG = &g, l.By, float64(l.TenMore)
		if math.IsInf(b.TenMoreG, 0) {
			b.TenMoreG = 0
		}
	}
	b.SampleG = float64(blend.SmallestSample(shares, set.StepMg, SampleSteps).Grams())
}

// predict fills in the colour and the way to the target.
func (b *Blend) predict(at shelf.Mixing, list []shelf.Tint, shares []float64) {
	even := at.Even(list, shares)
	lin := even.Linear()
	lab := lin.Lab()
	b.Hex, b.Lab = lin.Hex(), [3]float64{lab.L, lab.A, lab.B}
	b.Calibrated, b.Even, b.Fitting = at.LeftOut > 0, even, at.Fitting
	if b.Target != nil {
		c, err := colour.ParseHex(b.Target.Hex)
		if err == nil {
			b.Target.DeltaE = colour.CIEDE2000(c.Lab(), lab)
			b.Target.Words = colour.Words(c.Lab(), lab)
		}
	}
}

// sure fills in how sure the colour is.
func (b *Blend) sure(at shelf.Mixing, list []shelf.Tint, shares []float64) {
	sigmas := make([]float64, len(list))
	for i, t := range list {
		sigmas[i] = t.Sigma
	}
	b.Sure = mix.Sure(at.Model, shelf.Colours(list), at.Counts(list, shares), sigmas, at.LeftOut)
	b.Sigma = b.Sure.Sigma
	for i, q := range mix.Around(b.Even.Linear().Lab(), b.Sigma) {
		b.Around[i] = q.Linear().Hex()
	}
}

// Lies is how the colours of a component lie: empty where one shows, as it has one, one of them was taken, or they were stirred.
func (c Component) Lies() string {
	if c.Lot == nil || c.Only != "" || len(c.Lot.Colours) < 2 {
		return ""
	}
	if lies := fibre.LieOf(c.Lot.Lies, c.Preparation); lies != "stirred" {
		return lies
	}
	return ""
}

// Streaks reports whether fibre of several colours keeps them: it lies somewhere, and goes through once.
func (b Blend) Streaks() bool {
	return b.Passes == 1 && slices.ContainsFunc(b.Components, func(c Component) bool { return c.Lies() != "" })
}
