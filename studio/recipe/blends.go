package recipe

import (
	"context"
	"fmt"
	"strings"

	"fairtangle/core/blend"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/losses"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
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
	// OwnG is how much the maker has of what is no lot: a scrap, a bundle. 0 means
	// that it is still to buy.
	OwnG float64 `json:"own_g,omitempty"`
}

// BlendInput is a recipe as it is edited. TotalG is the finished weight
// wanted, Target a colour as #rrggbb or empty.
type BlendInput struct {
	Name       string           `json:"name"`
	TotalG     float64          `json:"total_g"`
	Passes     int              `json:"passes"`
	Target     string           `json:"target"`
	Components []BlendComponent `json:"components"`
	Came       *Came            `json:"came,omitempty"` // how it came out, once it was carded

	Place   string `json:"-"` // in the gradient that it is made from
	AgainOf *int64 `json:"-"` // the run that it is made again after
}

// Loses is what a component loses over the passes.
func (c Component) Loses() losses.Fall {
	return losses.Fall{First: c.LossPct / 100, Decay: c.Fibre.Decay}
}

// Way is the way of a component through so many passes.
func (c Component) Way(passes int) losses.Way { return losses.Way{Fall: c.Loses(), Passes: passes} }

// WayOf is the way of a component through the passes of its blend: as it is laid, else as it is planned.
func (b Blend) WayOf(c Component) losses.Way {
	return losses.Way{Fall: c.Loses(), Alone: c.Alone, Joins: c.JoinsAt, Passes: b.LosesIn}
}

// Component is a component with what is known of it.
type Component struct {
	BlendComponent
	Key     string  `json:"key"` // what it is named by in a change
	Share   float64 `json:"share"`
	Grams   float64 `json:"grams"`      // finished
	WeighG  float64 `json:"weigh_in_g"` // before losses
	LossPct float64 `json:"loss_pct"`   // of its first pass, default of the kind
	JoinsAt int     `json:"-"`          // the pass at which it is laid; 0: at the first
	Alone   int     `json:"-"`          // how often it loses by itself before it is laid
	// Learned is what the runs have taught of that loss; null where nothing was seen.
	Learned *lessons.Learned `json:"loss_learned"`
	HaveG   *float64         `json:"have_g"` // on the shelf; null where it is still to buy
	// WeighedG is what was weighed of it for this blend, ShortG what is lacking for
	// the rest.
	WeighedG float64    `json:"weighed_g"`
	ShortG   float64    `json:"short_g"`
	Cost     *float64   `json:"cost"` // of what is weighed in
	Least    float64    `json:"least_share"`
	Most     float64    `json:"most_share"`
	Lot      *shelf.Lot `json:"-"`
	InBin    bool       `json:"in_bin"`

	Fibre fibre.Kind `json:"-"`
}

// KindProperties returns what a tuft of this component is drawn from.
func (c Component) KindProperties() fibre.Kind { return c.Fibre }

// StapleMM is the measured staple of the lot, or the middle of the kind's.
func (c Component) StapleMM() float64 {
	if c.Lot != nil {
		return c.Lot.WorkingStapleMM
	}
	return c.Fibre.StapleMM.Mid()
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
	LosesIn    int         `json:"-"` // passes: as it is laid, else as it plans
	Components []Component `json:"components"`

	Hex   string          `json:"hex"` // even mix; empty without components
	Lab   [3]float64      `json:"lab"`
	Sure  mix.Uncertainty `json:"-"`
	Sigma float64         `json:"sigma_delta_e"`
	// Calibrated tells that the prediction follows the maker's samples.
	Calibrated bool      `json:"calibrated"`
	Fitting    bool      `json:"fitting"` // to samples that changed; until then the former fit serves
	Around     [4]string `json:"around"`  // lighter, warmer, darker, cooler by sigma
	Target     *Target   `json:"target"`

	LargestG  *float64 `json:"largest_g"` // finished, what the shelf allows
	LimitedBy int      `json:"limited_by"`
	TenMoreG  float64  `json:"ten_more_g"`
	WeighInG  float64  `json:"weigh_in_g"`
	Cost      *float64 `json:"cost"` // of the components whose cost is known
	CostKnown int      `json:"costs_known"`
	SampleG   float64  `json:"sample_g"` // smallest total with 5 steps of everything

	Carded *Carded `json:"carded"` // once it was carded and is mended

	Even   colour.Reflectance `json:"-"`
	Tints  []shelf.Tint       `json:"-"`
	CameAs *Came              `json:"-"`
}

// Input returns the recipe alone, as it is edited.
func (b Blend) Input() BlendInput {
	in := BlendInput{Name: b.Name, TotalG: b.TotalG, Passes: b.Passes, Components: []BlendComponent{}, Came: b.CameAs}
	if b.Target != nil {
		in.Target = b.Target.Hex
	}
	for _, c := range b.Components {
		in.Components = append(in.Components, c.BlendComponent)
	}
	return in
}

// Shares are the finished shares of the components.
func (b Blend) Shares() []float64 {
	out := make([]float64, len(b.Components))
	for i, c := range b.Components {
		out[i] = c.Share
	}
	return out
}

// SampleSteps is how many steps of the scale a component of a sample has at
// least.
const SampleSteps = 5

func (in *BlendInput) check(kinds workshop.Kinds) error {
	var l fault.List
	floor.CheckText(&l, "name", "the blend", &in.Name, floor.MaxName, true)
	if !(in.TotalG > 0 && in.TotalG <= float64(unit.MaxGrams)) {
		l.Add("total_g", "The finished weight is above 0 and at most %s.", unit.MaxGrams)
	}
	if in.Passes < 0 || in.Passes > losses.MaxPasses {
		l.Add("passes", "The number of passes is a whole number from 0 to %d.", losses.MaxPasses)
	}
	if in.Target != "" {
		in.Target = strings.ToLower(in.Target)
		if _, err := colour.ParseHex(in.Target); err != nil {
			l.Add("target", "A colour is written as # and six digits or letters a to f, such as #7d8f92.")
		}
	}
	checkCame(&l, in.Came)
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
		floor.CheckText(&l, at+"name", "it", &c.Name, floor.MaxName, true)
		floor.CheckGrams(&l, at+"own_g", c.OwnG)
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

func inputOf(r store.Blend) BlendInput {
	in := BlendInput{Name: r.Name, TotalG: float64(r.TotalMg.Grams()), Passes: r.Passes, Target: r.TargetHex, Came: r.Came}
	for _, c := range r.Components {
		in.Components = append(
			in.Components,
			BlendComponent{c.LotID, c.Name, c.Kind, c.Preparation, c.Hex, c.OnlyHex, c.Parts, c.Locked, floor.InGrams(c.OwnMg)},
		)
	}
	return in
}

func (in BlendInput) row() store.Blend {
	r := store.Blend{Name: in.Name, TotalMg: unit.Grams(in.TotalG).Milligrams(), Passes: in.Passes, TargetHex: in.Target, Came: in.Came}
	r.Place, r.AgainOf = in.Place, in.AgainOf
	for _, c := range in.Components {
		r.Components = append(r.Components, store.BlendComponent{
			LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex, OnlyHex: c.Only, Parts: c.Parts, Locked: c.Locked,
			OwnMg: unit.Grams(c.OwnG).Milligrams(),
		})
	}
	return r
}

// Blend returns one blend; its making must not be in the bin.
func (s *Room) Blend(ctx context.Context, id int64) (Blend, error) {
	r, err := s.Store.Blend(ctx, id)
	if err != nil {
		return Blend{}, err
	}
	if _, err := s.Store.Making(ctx, r.MakingID); err != nil {
		return Blend{}, err
	}
	return s.view(ctx, r)
}

// CreateBlend adds a blend to a making.
func (s *Room) CreateBlend(ctx context.Context, making int64, in BlendInput) (Blend, error) {
	out, err := s.CreateBlends(ctx, making, []BlendInput{in})
	if err != nil {
		return Blend{}, err
	}
	return out[0], nil
}

// CopyBlend adds a copy of a blend to its making, without its lay-ups and
// weigh-outs, and without how it came out.
func (s *Room) CopyBlend(ctx context.Context, id int64) (Blend, error) {
	b, err := s.Blend(ctx, id)
	if err != nil {
		return Blend{}, err
	}
	in := b.Input()
	name := []rune(in.Name + ", copy")
	in.Name, in.Came = string(name[:min(len(name), floor.MaxName)]), nil
	return s.CreateBlend(ctx, b.MakingID, in)
}

// SaveBlend replaces a blend, based on a version of it. said names what was
// done, where that has a name; what was there before is kept as a step.
func (s *Room) SaveBlend(ctx context.Context, id, version int64, in BlendInput, said string) (Blend, error) {
	return s.saveBlend(ctx, id, version, in, store.Onward, said)
}

// StepBlend moves a blend along its steps.
func (s *Room) StepBlend(ctx context.Context, id, version int64, m floor.Move) (Blend, error) {
	var in BlendInput
	way, err := s.StateAt(ctx, "blends", id, m, &in)
	if err != nil {
		return Blend{}, err
	}
	return s.saveBlend(ctx, id, version, in, way, "")
}

func (s *Room) saveBlend(ctx context.Context, id, version int64, in BlendInput, way store.Way, said string) (Blend, error) {
	b, err := s.WorkOutAt(ctx, id, in)
	if err != nil {
		return Blend{}, err
	}
	old, err := s.Store.Blend(ctx, id)
	if err != nil {
		return Blend{}, err
	}
	row := in.row()
	row.ShelfOrder = b.ShelfOrder()
	left, err := floor.Leaving(inputOf(old), inputOf(row), way, said)
	if err != nil {
		return Blend{}, err
	}
	row.ID, row.Version = id, version
	if row, err = s.Store.UpdateBlend(ctx, row, left); err != nil {
		return Blend{}, floor.ConvertStale(err, func(r store.Blend) (Blend, error) { return s.view(ctx, r) })
	}
	b.ID, b.Version, b.MakingID = row.ID, row.Version, row.MakingID
	return b, nil
}

// CreateBlends adds blends to a making, all or none.
func (s *Room) CreateBlends(ctx context.Context, making int64, in []BlendInput) ([]Blend, error) {
	rows := make([]store.Blend, len(in))
	for i, v := range in {
		b, err := s.WorkOut(ctx, v)
		if err != nil {
			return nil, err
		}
		rows[i] = v.row()
		rows[i].ShelfOrder = b.ShelfOrder()
		rows[i].MakingID = making
	}
	rows, err := s.Store.CreateBlends(ctx, rows)
	if err != nil {
		return nil, err
	}
	return s.viewAll(ctx, rows)
}

// SameFibre reports whether two components are of the same lot and colour.
func (c BlendComponent) SameFibre(o BlendComponent) bool {
	return c.LotID != nil && o.LotID != nil && *c.LotID == *o.LotID && c.Only == o.Only
}

// Rows of a list are named by what they are, or by a key of their own, and not
// by their place: a change may arrive after others have moved them.

// keysOf names components: a lot, one colour of a lot, or what is still to
// buy. Two that are the same in everything are told apart by their order.
func keysOf(list []BlendComponent) []string {
	out := make([]string, len(list))
	seen := map[string]int{}
	for i, c := range list {
		key := fmt.Sprintf("buy-%s-%s-%s-%s", c.Kind, c.Preparation, c.Hex, c.Name)
		if c.LotID != nil {
			key = fmt.Sprintf("lot-%d%s", *c.LotID, c.Only)
		}
		if seen[key]++; seen[key] > 1 {
			key = fmt.Sprintf("%s-%d", key, seen[key])
		}
		out[i] = key
	}
	return out
}
