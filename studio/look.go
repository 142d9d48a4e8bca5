package studio

import (
	"context"
	"fairtangle/core/blend"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fmt"
	"math"
)

// Look works out everything that follows from a recipe and keeps nothing.
func (s *Studio) Look(ctx context.Context, in BlendInput) (Blend, error) {
	at, err := s.bench(ctx)
	if err != nil {
		return Blend{}, err
	}
	if err := in.check(at.kinds); err != nil {
		return Blend{}, err
	}
	lots, err := s.lotsIn(ctx, in.Components)
	if err != nil {
		return Blend{}, err
	}
	return at.look(in, lots)
}

// bench is what nearly every answer needs: settings, kinds and the mixing
// model, calibrated where the maker wants that.
type bench struct {
	set      store.Settings
	kinds    Kinds
	model    mix.Model
	strength map[int64]float64
	leftOut  float64 // 0: not calibrated
}

func (s *Studio) bench(ctx context.Context) (b bench, err error) {
	if b.set, err = s.store.Settings(ctx); err != nil {
		return b, err
	}
	if b.kinds, err = s.AllKinds(ctx, true); err != nil {
		return b, err
	}
	b.model = model(b.set)
	if b.set.Calibrated {
		var c mix.Calibration
		if c, err = s.fit(ctx, b); err == nil && c.Extent != mix.Nothing {
			b.model, b.strength, b.leftOut = c.Model, c.Strength, c.LeftOut
		}
	}
	return b, err
}

// counts turns shares by weight into what they count for the colour: by
// covering power where that is wanted, and by the strength of the lots.
func (b bench) counts(shares, thickness []float64, lots []int64) []float64 {
	if b.set.CoveringPower {
		shares = mix.Cover(shares, thickness)
	}
	return mix.Weighted(shares, lots, b.strength)
}

func (s *Studio) lotsIn(ctx context.Context, lists ...[]BlendComponent) (map[int64]store.Lot, error) {
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
	return s.store.LotsByID(ctx, ids)
}

// look is Look with everything at hand.
func (at bench) look(in BlendInput, lots map[int64]store.Lot) (Blend, error) {
	b := Blend{Name: in.Name, TotalG: in.TotalG, Passes: in.Passes, LimitedBy: -1, Components: make([]Component, len(in.Components))}
	if in.Target != "" {
		b.Target = &Target{Hex: in.Target}
	}
	n := len(in.Components)
	parts := make(blend.Blend, n)
	lotColours, sources := make([]colour.Reflectance, n), make([]mix.Source, n)
	thickness, ids := make([]float64, n), make([]int64, n)
	for i, c := range in.Components {
		v := Component{BlendComponent: c}
		if c.LotID != nil {
			row, ok := lots[*c.LotID]
			if !ok {
				return b, fault.New(fmt.Sprintf("components[%d].lot_id", i), "There is no such lot on the shelf.")
			}
			l := lotOf(row, at.kinds)
			ids[i] = row.ID
			have := l.Grams
			v.Lot, v.HaveG, v.InBin = &l, &have, row.DeletedAt.Valid
			v.Name, v.Kind, v.Preparation, v.Hex = l.Name, l.Kind, l.Preparation, l.MeanHex
			lotColours[i], sources[i] = meanColour(row.Colours)
			if c.Only != "" {
				picked, ok := pickedOut(row, c.Only)
				if !ok {
					return b, fault.New(fmt.Sprintf("components[%d].only", i), "The lot has no colour %s.", c.Only)
				}
				lotColours[i], sources[i] = reflectanceIn(picked), mix.Source(picked.Source)
				v.Hex, v.Name = picked.Hex, l.Name+", "+colour.Name(lotColours[i].Lab())
				have *= picked.Share
			}
		} else {
			lotColours[i], sources[i] = reflectanceOf(c.Hex), mix.Picker
		}
		v.kind = at.kinds.named(v.Kind)
		v.LossPct = v.kind.LossPct.Mid()
		parts[i] = blend.Part{Parts: c.Parts, Locked: c.Locked}
		thickness[i] = v.kind.Thickness()
		b.Components[i] = v
	}
	if n == 0 {
		return b, nil
	}
	shares := parts.Shares()
	b.amounts(parts, shares, at.set)
	b.predict(at, lotColours, at.counts(shares, thickness, ids), sources)
	return b, nil
}

// pickedOut finds one colour of a lot.
func pickedOut(r store.Lot, hex string) (store.Colour, bool) {
	for _, c := range r.Colours {
		if c.Hex == hex {
			return c, true
		}
	}
	return store.Colour{}, false
}

// amounts fills in grams, limits and cost.
func (b *Blend) amounts(parts blend.Blend, shares []float64, set store.Settings) {
	stock := make([]blend.Stock, len(shares))
	var cost float64
	for i := range b.Components {
		c := &b.Components[i]
		yield := weigh.Component{LossPass: c.LossPct / 100}.Yield(b.Passes)
		c.Share, c.Grams = shares[i], shares[i]*b.TotalG
		c.WeighG = c.Grams / yield
		c.Least, c.Most = parts.Room(i)
		b.WeighInG += c.WeighG
		stock[i] = blend.Stock{Yield: yield, Endless: c.HaveG == nil}
		if c.HaveG != nil {
			stock[i].Have = unit.Grams(*c.HaveG)
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

// predict fills in the colour, how sure it is, and the way to the target.
func (b *Blend) predict(at bench, lots []colour.Reflectance, shares []float64, sources []mix.Source) {
	even := at.model.Even(lots, shares)
	lin := even.Linear()
	lab := lin.Lab()
	b.Hex, b.Lab = lin.Hex(), [3]float64{lab.L, lab.A, lab.B}
	b.Sure = mix.Sure(at.model, lots, shares, sources, at.leftOut)
	b.Sigma, b.Calibrated, b.even = b.Sure.Sigma, at.leftOut > 0, even
	for i, q := range mix.Around(lab, b.Sigma) {
		b.Around[i] = q.Linear().Hex()
	}
	if b.Target != nil {
		c, err := colour.ParseHex(b.Target.Hex)
		if err == nil {
			b.Target.DeltaE = colour.CIEDE2000(c.Lab(), lab)
			b.Target.Words = colour.Words(c.Lab(), lab)
		}
	}
}
