package scale

import (
	"context"
	"errors"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Reading is what the scale said for a component of a unit. Policy says what
// to do when it is off by more than a step; Key makes a repeated request the
// same one.
type Reading struct {
	Key       string  `json:"key"`
	Version   int64   `json:"version"`
	Unit      int     `json:"unit"`
	Component int     `json:"component"`
	Grams     float64 `json:"grams"`
	Policy    string  `json:"policy,omitempty"`
	// Window is which window weighs, where one does.
	Window string `json:"-"`
	// Live says that the scale said so, not who weighed.
	Live bool `json:"-"`
}

// AsIs leaves all other weights as they were planned.
const AsIs = string(weigh.AsIs)

// taking is a reading in whole milligrams. A weight that no scale says is a fault.
func (in Reading) taking() (weigh.Taking, error) {
	var l fault.List
	floor.CheckGrams(&l, "grams", in.Grams)
	if err := l.Err(); err != nil {
		return weigh.Taking{}, err
	}
	mg := unit.Grams(in.Grams).Milligrams()
	return weigh.Taking{Unit: in.Unit, Component: in.Component, Weight: mg, Policy: weigh.Policy(in.Policy)}, weigh.Weighable(mg)
}

// tableOf is a weigh-out as core/weigh has it, cell by cell in the order of its rows.
func tableOf(r store.Weighout) *weigh.Table {
	t := &weigh.Table{Step: r.StepMg, Cells: make([]weigh.Cell, len(r.Cells))}
	for i, c := range r.Cells {
		t.Cells[i] = floor.CellOf(c)
	}
	return t
}

// changeTable lets a change of the table stand in the rows of a weigh-out; what fails changes nothing.
func changeTable(r *store.Weighout, change func(*weigh.Table) error) error {
	t := tableOf(*r)
	if err := change(t); err != nil {
		return err
	}
	for i, c := range t.Cells {
		r.Cells[i].TargetMg, r.Cells[i].WeighedMg, r.Cells[i].Done = c.Wanted, c.Weighed, c.Done
	}
	return nil
}

// Option is what a policy would make of a unit.
type Option struct {
	Policy     string    `json:"policy"`
	ToWeighG   []float64 `json:"to_weigh_g"`
	TotalG     float64   `json:"total_g"`
	Shares     []float64 `json:"shares"`
	WorstShare float64   `json:"worst_share_error"`
	DeltaE     float64   `json:"delta_e"` // from the colour planned
	Hex        string    `json:"hex"`     // that the unit then has, mixed even
	// Short lists the fibres of which the shelf then has too little.
	Short []Shortage `json:"short"`
}

// Shortage is a fibre that there is too little of, and by how much.
type Shortage struct {
	Name  string  `json:"name"`
	Grams float64 `json:"grams"`
}

// Considered is the answer to a reading before it is booked.
type Considered struct {
	Verdict string   `json:"verdict"` // fine, over, under
	OffG    float64  `json:"off_g"`   // weighed minus wanted
	Options []Option `json:"options"`
}

// Consider says whether a reading is fine and, where it is not, what each
// policy would do to shares, colour and stock. Nothing is kept.
func (s *Room) Consider(ctx context.Context, id int64, in Reading) (Considered, error) {
	r, err := s.Store.Weighout(ctx, id)
	if err != nil {
		return Considered{}, err
	}
	taking, err := in.taking()
	if err != nil {
		return Considered{}, err
	}
	t := tableOf(r)
	cell, err := t.Open(taking)
	if err != nil {
		return Considered{}, err
	}
	verdict, off := t.Judge(*cell, taking.Weight)
	out := Considered{OffG: floor.InGrams(off), Verdict: string(verdict)}
	if verdict == weigh.Fine {
		return out, nil
	}
	ways := []weigh.Policy{weigh.KeepShares, weigh.KeepTotal, weigh.AsIs}
	if !t.GivesWay(in.Unit, in.Component) {
		ways = []weigh.Policy{weigh.KeepShares, weigh.AsIs}
	}
	for _, p := range ways {
		taking.Policy = p
		o, err := s.option(ctx, r, taking)
		if err != nil {
			return out, err
		}
		out.Options = append(out.Options, o)
	}
	return out, nil
}

// option tries a policy on a weigh-out that is not kept.
func (s *Room) option(ctx context.Context, r store.Weighout, in weigh.Taking) (Option, error) {
	before, beforeG := unitShares(r, in.Unit), UnitGrams(r, in.Unit)
	r.Cells = slices.Clone(r.Cells)
	if err := changeTable(&r, func(t *weigh.Table) error { return t.Take(in) }); err != nil {
		return Option{}, err
	}
	o := Option{Policy: string(in.Policy), Shares: unitShares(r, in.Unit), Short: []Shortage{}}
	for _, c := range r.Cells {
		if c.Unit == in.Unit {
			o.ToWeighG = append(o.ToWeighG, floor.InGrams(floor.NowOf(c)))
			o.TotalG += floor.InGrams(floor.NowOf(c))
		}
	}
	for i := range r.Components {
		o.WorstShare = max(o.WorstShare, math.Abs(o.Shares[i]-before[i]))
	}
	w, err := s.weighoutView(ctx, r)
	if err != nil {
		return o, err
	}
	then, now := w.Colour(beforeG), w.Colour(UnitGrams(r, in.Unit))
	o.Hex = now.Linear().Hex()
	o.DeltaE = colour.CIEDE2000(then.Lab(), now.Lab())
	for i, c := range w.Components {
		short := c.ShortG
		if i == in.Component && c.HaveG != nil { // this reading is still on the shelf
			short = losses.Lack(floor.InGrams(in.Weight+tableOf(r).Rest(i)), *c.HaveG)
		}
		if short > 0 {
			o.Short = append(o.Short, Shortage{c.Name, short})
		}
	}
	return o, nil
}

// UnitGrams returns the finished grams of a unit by what is or will be in its bowl:
// what it loses on the way is taken off.
func UnitGrams(r store.Weighout, u int) []float64 {
	out := make([]float64, len(r.Components))
	for _, c := range r.Cells {
		if c.Unit == u {
			out[c.Position] = WayAt(r, c.Position).Finished(floor.InGrams(floor.NowOf(c)))
		}
	}
	return out
}

// unitShares is the same in shares.
func unitShares(r store.Weighout, u int) []float64 {
	out := UnitGrams(r, u)
	var sum float64
	for _, v := range out {
		sum += v
	}
	for i := range out {
		out[i] /= sum
	}
	return out
}

// Weigh books a reading: it is on disk, and out of the lot, when this returns.
func (s *Room) Weigh(ctx context.Context, id int64, in Reading) (Weighout, error) {
	if len(in.Key) < 8 || len(in.Key) > 64 {
		return Weighout{}, fault.New("key", "A weighing carries a key of 8 to 64 signs that is its own.")
	}
	if err := s.Held(id, in.Window); err != nil {
		return Weighout{}, err
	}
	taking, err := in.taking()
	if err != nil {
		return Weighout{}, err
	}
	row, err := s.Store.Weigh(ctx, id, in.Version, weighingOf(in.Key, taking), func(w *store.Weighout) error {
		return changeTable(w, func(t *weigh.Table) error { return t.Take(taking) })
	})
	if err != nil {
		return Weighout{}, s.staleWeighout(ctx, err)
	}
	w, err := s.weighoutView(ctx, row)
	if err == nil {
		s.weighed(ctx, w, &in)
	}
	return w, err
}

// weighingOf is a taking as it is kept, under its key.
func weighingOf(key string, t weigh.Taking) store.Weighing {
	return store.Weighing{Key: key, Unit: t.Unit, Position: t.Component, GramsMg: t.Weight, Policy: string(t.Policy)}
}

func (s *Room) staleWeighout(ctx context.Context, err error) error {
	return floor.ConvertStale(err, func(r store.Weighout) (Weighout, error) { return s.weighoutView(ctx, r) })
}

// Enter books a reading that is fine, or that says by its policy what the
// others shall do; for one that is off it answers with the ways on and books
// nothing.
func (s *Room) Enter(ctx context.Context, id int64, in Reading) (Weighout, *Considered, error) {
	w, err := s.Weigh(ctx, id, in)
	var undecided weigh.Undecided
	if errors.As(err, &undecided) && in.Policy == "" {
		c, err := s.Consider(ctx, id, in)
		return w, &c, err
	}
	return w, nil, err
}

// UndoWeighing takes the last weighing back.
func (s *Room) UndoWeighing(ctx context.Context, id, version int64) (Weighout, error) {
	return s.takeBack(ctx, id, version, func(w store.Weighout) []int {
		for i := len(w.Weighings) - 1; i >= 0; i-- {
			if w.Weighings[i].UndoneAt == nil {
				return []int{i}
			}
		}
		return nil
	})
}

// TakeBack takes back what was weighed for one place, whenever that was.
func (s *Room) TakeBack(ctx context.Context, id, version int64, at Cell) (Weighout, error) {
	return s.takeBack(ctx, id, version, func(w store.Weighout) (list []int) {
		for i, v := range w.Weighings {
			if v.UndoneAt == nil && v.Unit == at.Unit && v.Position == at.Component {
				list = append(list, i)
			}
		}
		return list
	})
}

func (s *Room) takeBack(ctx context.Context, id, version int64, which func(store.Weighout) []int) (Weighout, error) {
	var back []string
	row, err := s.Store.TakeBack(ctx, id, version, func(w store.Weighout) []int {
		list := which(w)
		for _, i := range list {
			back = append(back, w.Weighings[i].Key)
		}
		return list
	}, replay)
	if err != nil {
		return Weighout{}, s.staleWeighout(ctx, err)
	}
	w, err := s.weighoutView(ctx, row)
	if err == nil {
		s.weighed(ctx, w, nil, back...)
	}
	return w, err
}

// replay works the cells of a unit out from the plan and the weighings that
// stand, in their order.
func replay(w *store.Weighout, unit int) error {
	var stand []weigh.Taking
	for _, v := range w.Weighings {
		if v.UndoneAt == nil {
			stand = append(stand, weigh.Taking{Unit: v.Unit, Component: v.Position, Weight: v.GramsMg, Policy: weigh.Policy(v.Policy)})
		}
	}
	return changeTable(w, func(t *weigh.Table) error { return t.Replay(unit, stand) })
}
