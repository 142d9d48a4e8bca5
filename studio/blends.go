package studio

import (
	"context"
	"fmt"
	"math"
	"strings"

	"fairtangle/core/blend"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
)

// BlendComponent is a lot with its parts, or a kind and colour still to buy.
type BlendComponent struct {
	LotID       *int64  `json:"lot_id,omitempty"`
	Name        string  `json:"name"`
	Kind        string  `json:"kind"`
	Preparation string  `json:"preparation"`
	Hex         string  `json:"hex"`
	Only        string  `json:"only,omitempty"` // one colour of a lot that has several, picked out
	Parts       float64 `json:"parts"`
	Locked      bool    `json:"locked"`
}

// BlendInput is a recipe as it is edited. TotalG is the finished weight
// wanted, Target a colour as #rrggbb or empty.
type BlendInput struct {
	Name       string           `json:"name"`
	TotalG     float64          `json:"total_g"`
	Passes     int              `json:"passes"`
	Target     string           `json:"target"`
	Components []BlendComponent `json:"components"`
}

// Component is a component with what is known of it.
type Component struct {
	BlendComponent
	Share   float64  `json:"share"`
	Grams   float64  `json:"grams"`      // finished
	WeighG  float64  `json:"weigh_in_g"` // before losses
	LossPct float64  `json:"loss_pct"`   // a pass, default of the kind
	HaveG   *float64 `json:"have_g"`     // on the shelf; null where it is still to buy
	Cost    *float64 `json:"cost"`       // of what is weighed in
	Least   float64  `json:"least_share"`
	Most    float64  `json:"most_share"`
	Lot     *Lot     `json:"-"`
	InBin   bool     `json:"in_bin"`

	kind fibre.Kind
}

// KindProperties gives what a tuft of this component is drawn from.
func (c Component) KindProperties() fibre.Kind { return c.kind }

// StapleMM is the measured staple of the lot, or the middle of the kind's.
func (c Component) StapleMM() float64 {
	if c.Lot != nil {
		return c.Lot.WorkingStapleMM
	}
	return c.kind.StapleMM.Mid()
}

// Hexes are the colours to draw it with.
func (c Component) Hexes() []string {
	if c.Lot == nil || c.Only != "" {
		return []string{c.Hex}
	}
	out := make([]string, len(c.Lot.Colours))
	for i, v := range c.Lot.Colours {
		out[i] = v.Hex
	}
	return out
}

// Target is the colour asked for and how far the blend is from it.
type Target struct {
	Hex    string  `json:"hex"`
	DeltaE float64 `json:"delta_e"`
	Words  string  `json:"words"`
}

// Blend is a recipe with everything that follows from it.
type Blend struct {
	ID         int64       `json:"id"`
	Version    int64       `json:"version"`
	MakingID   int64       `json:"making_id"`
	Name       string      `json:"name"`
	TotalG     float64     `json:"total_g"`
	Passes     int         `json:"passes"`
	Components []Component `json:"components"`

	Hex   string          `json:"hex"` // even mix; empty without components
	Lab   [3]float64      `json:"lab"`
	Sure  mix.Uncertainty `json:"-"`
	Sigma float64         `json:"sigma_delta_e"`
	// Calibrated tells that the prediction follows the maker's samples.
	Calibrated bool      `json:"calibrated"`
	Around     [4]string `json:"around"` // lighter, warmer, darker, cooler by sigma
	Target     *Target   `json:"target"`

	LargestG  *float64 `json:"largest_g"` // finished, what the shelf allows
	LimitedBy int      `json:"limited_by"`
	TenMoreG  float64  `json:"ten_more_g"`
	WeighInG  float64  `json:"weigh_in_g"`
	Cost      *float64 `json:"cost"` // of the components whose cost is known
	CostKnown int      `json:"costs_known"`
	SampleG   float64  `json:"sample_g"` // smallest total with 5 steps of everything

	even colour.Reflectance
}

// Input gives back the recipe alone, as it is edited.
func (b Blend) Input() BlendInput {
	in := BlendInput{Name: b.Name, TotalG: b.TotalG, Passes: b.Passes, Components: []BlendComponent{}}
	if b.Target != nil {
		in.Target = b.Target.Hex
	}
	for _, c := range b.Components {
		in.Components = append(in.Components, c.BlendComponent)
	}
	return in
}

// SampleSteps is how many steps of the scale a component of a sample has at
// least.
const SampleSteps = 5

func (in *BlendInput) check(kinds Kinds) error {
	var l fault.List
	checkText(&l, "name", "the blend", &in.Name, maxName, true)
	if !(in.TotalG > 0 && in.TotalG <= float64(unit.MaxGrams)) {
		l.Add("total_g", "The finished weight is above 0 g and at most %.0f g.", float64(unit.MaxGrams))
	}
	if in.Passes < 0 || in.Passes > weigh.MaxPasses {
		l.Add("passes", "The number of passes is a whole number from 0 to %d.", weigh.MaxPasses)
	}
	if in.Target != "" {
		in.Target = strings.ToLower(in.Target)
		if _, err := colour.ParseHex(in.Target); err != nil {
			l.Add("target", "A colour is written as # and six digits or letters a to f, such as #7d8f92.")
		}
	}
	if len(in.Components) > weigh.MaxComponents {
		l.Add("components", "A blend has at most %d components.", weigh.MaxComponents)
	}
	type use struct {
		lot  int64
		only string
	}
	seen := map[use]bool{}
	for i := range in.Components {
		c := &in.Components[i]
		at := fmt.Sprintf("components[%d].", i)
		if !(c.Parts > 0 && c.Parts <= blend.MaxParts) {
			l.Add(at+"parts", "Parts are a number above 0 and at most %.0f.", blend.MaxParts)
		}
		if c.LotID != nil {
			c.Only = strings.ToLower(c.Only)
			u := use{*c.LotID, c.Only}
			if seen[u] || c.Only != "" && seen[use{u.lot, ""}] {
				l.Add(at+"lot_id", "This lot is in the blend already. Change its share instead.")
			}
			seen[u] = true
			continue
		}
		checkText(&l, at+"name", "it", &c.Name, maxName, true)
		if _, ok := kinds.Find(c.Kind); !ok {
			l.Add(at+"kind", "Choose a kind of fibre.")
		}
		if _, ok := fibre.FindPreparation(c.Preparation); !ok {
			l.Add(at+"preparation", "Choose a preparation.")
		}
		if _, err := colour.ParseHex(c.Hex); err != nil {
			l.Add(at+"hex", "A colour is written as # and six digits or letters a to f.")
		}
	}
	return l.Err()
}

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

func inputOf(r store.Blend) BlendInput {
	in := BlendInput{Name: r.Name, TotalG: float64(r.TotalMg.Grams()), Passes: r.Passes, Target: r.TargetHex}
	for _, c := range r.Components {
		in.Components = append(in.Components, BlendComponent{c.LotID, c.Name, c.Kind, c.Preparation, c.Hex, c.OnlyHex, c.Parts, c.Locked})
	}
	return in
}

func (in BlendInput) row() store.Blend {
	r := store.Blend{Name: in.Name, TotalMg: unit.Grams(in.TotalG).Milligrams(), Passes: in.Passes, TargetHex: in.Target}
	for _, c := range in.Components {
		r.Components = append(r.Components, store.BlendComponent{
			LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex, OnlyHex: c.Only, Parts: c.Parts, Locked: c.Locked,
		})
	}
	return r
}

func (s *Studio) viewAll(ctx context.Context, rows []store.Blend) ([]Blend, error) {
	at, err := s.bench(ctx)
	if err != nil {
		return nil, err
	}
	inputs := make([]BlendInput, len(rows))
	lists := make([][]BlendComponent, len(rows))
	for i, r := range rows {
		inputs[i] = inputOf(r)
		lists[i] = inputs[i].Components
	}
	lots, err := s.lotsIn(ctx, lists...)
	if err != nil {
		return nil, err
	}
	out := make([]Blend, len(rows))
	for i, r := range rows {
		b, err := at.look(inputs[i], lots)
		if err != nil {
			return nil, err
		}
		b.ID, b.Version, b.MakingID = r.ID, r.Version, r.MakingID
		out[i] = b
	}
	return out, nil
}

func (s *Studio) view(ctx context.Context, r store.Blend) (Blend, error) {
	out, err := s.viewAll(ctx, []store.Blend{r})
	if err != nil {
		return Blend{}, err
	}
	return out[0], nil
}

// Blend gives one blend; its making must not be in the bin.
func (s *Studio) Blend(ctx context.Context, id int64) (Blend, error) {
	r, err := s.store.Blend(ctx, id)
	if err != nil {
		return Blend{}, err
	}
	if _, err := s.store.Making(ctx, r.MakingID); err != nil {
		return Blend{}, err
	}
	return s.view(ctx, r)
}

// CreateBlend adds a blend to a making.
func (s *Studio) CreateBlend(ctx context.Context, making int64, in BlendInput) (Blend, error) {
	out, err := s.CreateBlends(ctx, making, []BlendInput{in})
	if err != nil {
		return Blend{}, err
	}
	return out[0], nil
}

// SaveBlend replaces a blend, based on a version of it.
func (s *Studio) SaveBlend(ctx context.Context, id, version int64, in BlendInput) (Blend, error) {
	if _, err := s.Look(ctx, in); err != nil {
		return Blend{}, err
	}
	row := in.row()
	row.ID, row.Version = id, version
	row, err := s.store.UpdateBlend(ctx, row)
	if err != nil {
		return Blend{}, convertStale(err, func(r store.Blend) (Blend, error) { return s.view(ctx, r) })
	}
	return s.view(ctx, row)
}
