package scale

import (
	"context"
	"fmt"
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
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
const AsIs = "as-is"

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
	cell, err := place(&r, in)
	if err != nil {
		return Considered{}, err
	}
	out := Considered{OffG: floor.InGrams(off(*cell, in)), Verdict: verdict(r, *cell, in)}
	if out.Verdict == "fine" {
		return out, nil
	}
	ways := []string{string(weigh.KeepShares), string(weigh.KeepTotal), AsIs}
	if !canGiveWay(r, in) {
		ways = []string{string(weigh.KeepShares), AsIs}
	}
	for _, p := range ways {
		o, err := s.option(ctx, id, in, p)
		if err != nil {
			return out, err
		}
		out.Options = append(out.Options, o)
	}
	return out, nil
}

func off(c store.WeighoutCell, in Reading) unit.Milligrams {
	return c.WeighedMg + unit.Grams(in.Grams).Milligrams() - c.TargetMg
}

// verdict allows one step of the scale either way.
func verdict(r store.Weighout, c store.WeighoutCell, in Reading) string {
	switch d := off(c, in); {
	case d > r.StepMg:
		return "over"
	case d < -r.StepMg:
		return "under"
	}
	return "fine"
}

// place finds the cell of a reading and checks the reading.
func place(r *store.Weighout, in Reading) (*store.WeighoutCell, error) {
	var l fault.List
	floor.CheckGrams(&l, "grams", in.Grams)
	if len(l) == 0 && unit.Grams(in.Grams).Milligrams() == 0 {
		l.Add("grams", "Enter what the scale says, above 0.")
	}
	if err := l.Err(); err != nil {
		return nil, err
	}
	for i := range r.Cells {
		if c := &r.Cells[i]; c.Unit == in.Unit && c.Position == in.Component {
			if c.Done {
				return nil, fault.New("grams", "This one is weighed already. Undo it to weigh it again.")
			}
			return c, nil
		}
	}
	return nil, fault.New("component", "There is no such place in this weigh-out.")
}

// canGiveWay reports whether another fibre of the unit is still to be weighed, so
// that it can give way to what was weighed too much.
func canGiveWay(r store.Weighout, in Reading) bool {
	for _, c := range r.Cells {
		if c.Unit == in.Unit && c.Position != in.Component && !c.Done && c.WeighedMg == 0 && c.TargetMg > 0 {
			return true
		}
	}
	return false
}

// option tries a policy on a fresh copy of the weigh-out.
func (s *Room) option(ctx context.Context, id int64, in Reading, policy string) (Option, error) {
	r, err := s.Store.Weighout(ctx, id)
	if err != nil {
		return Option{}, err
	}
	before, beforeG := unitShares(r, in.Unit), UnitGrams(r, in.Unit)
	in.Policy = policy
	if err := accept(&r, in); err != nil {
		return Option{}, err
	}
	o := Option{Policy: policy, Shares: unitShares(r, in.Unit), Short: []Shortage{}}
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
			short = math.Max(0, in.Grams+restOf(r, i)-*c.HaveG)
		}
		if short > 0 {
			o.Short = append(o.Short, Shortage{c.Name, short})
		}
	}
	return o, nil
}

// restOf is what is still to weigh of a component.
func restOf(r store.Weighout, component int) float64 {
	var mg unit.Milligrams
	for _, c := range r.Cells {
		if c.Position == component && !c.Done {
			mg += max(0, c.TargetMg-c.WeighedMg)
		}
	}
	return floor.InGrams(mg)
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

// accept books a reading into the cells of its unit. Off by more than a step,
// it needs a policy.
func accept(r *store.Weighout, in Reading) error {
	cell, err := place(r, in)
	if err != nil {
		return err
	}
	v, d := verdict(*r, *cell, in), off(*cell, in)
	policy := weigh.Policy(in.Policy)
	switch {
	case v == "fine", in.Policy == AsIs:
		cell.WeighedMg += unit.Grams(in.Grams).Milligrams()
		cell.Done = true
		return nil
	case policy != weigh.KeepShares && policy != weigh.KeepTotal:
		word := map[string]string{"over": "more", "under": "less"}[v]
		return fault.New("policy", "This is %s %s than wanted. Choose what the others shall do.", unit.Grams(math.Abs(floor.InGrams(d))), word)
	}
	cell.WeighedMg += unit.Grams(in.Grams).Milligrams()
	return giveWay(r, in.Unit, policy)
}

// giveWay lets the cells of a unit follow a policy. keep-shares goes back to
// the planned shares, keep-total starts from the weights wanted last.
func giveWay(r *store.Weighout, u int, policy weigh.Policy) error {
	var cells []*store.WeighoutCell
	var lines []weigh.Line
	for i := range r.Cells {
		c := &r.Cells[i]
		if c.Unit != u || c.PlannedMg == 0 {
			continue
		}
		base := c.PlannedMg
		if policy == weigh.KeepTotal {
			base = max(c.TargetMg, 1)
		}
		cells = append(cells, c)
		lines = append(lines, weigh.Line{Planned: base.Grams(), Weighed: c.WeighedMg.Grams(), Done: c.WeighedMg > 0})
	}
	fixed, err := weigh.Reweigh(lines, r.StepMg.Grams(), policy)
	if err != nil {
		return fmt.Errorf("follow the policy: %w", err)
	}
	for i, c := range cells {
		c.TargetMg = fixed.ToWeigh[i].Milligrams()
		c.Done = c.TargetMg == 0 || c.WeighedMg > 0 && c.TargetMg-c.WeighedMg <= r.StepMg/2
	}
	return nil
}

// Weigh books a reading: it is on disk, and out of the lot, when this returns.
func (s *Room) Weigh(ctx context.Context, id int64, in Reading) (Weighout, error) {
	if len(in.Key) < 8 || len(in.Key) > 64 {
		return Weighout{}, fault.New("key", "A weighing carries a key of 8 to 64 signs that is its own.")
	}
	if err := s.Held(id, in.Window); err != nil {
		return Weighout{}, err
	}
	mg := unit.Grams(in.Grams).Milligrams()
	row, err := s.Store.Weigh(ctx, id, in.Version, store.Weighing{
		Key: in.Key, Unit: in.Unit, Position: in.Component, GramsMg: mg, Policy: in.Policy,
	}, func(w *store.Weighout) error { return accept(w, in) })
	if err != nil {
		return Weighout{}, s.staleWeighout(ctx, err)
	}
	w, err := s.weighoutView(ctx, row)
	if err == nil {
		s.weighed(ctx, w, &in)
	}
	return w, err
}

func (s *Room) staleWeighout(ctx context.Context, err error) error {
	return floor.ConvertStale(err, func(r store.Weighout) (Weighout, error) { return s.weighoutView(ctx, r) })
}

// Enter books a reading that is fine, or that says by its policy what the
// others shall do; for one that is off it answers with the ways on and books
// nothing.
func (s *Room) Enter(ctx context.Context, id int64, in Reading) (Weighout, *Considered, error) {
	w, err := s.Weigh(ctx, id, in)
	if l, ok := fault.From(err); ok && len(l) == 1 && l[0].Field == "policy" && in.Policy == "" {
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
func (s *Room) TakeBack(ctx context.Context, id, version int64, at Place) (Weighout, error) {
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
	for i := range w.Cells {
		if c := &w.Cells[i]; c.Unit == unit {
			c.TargetMg, c.WeighedMg, c.Done = c.PlannedMg, 0, c.PlannedMg == 0
		}
	}
	for _, v := range w.Weighings {
		if v.UndoneAt != nil || v.Unit != unit {
			continue
		}
		for i := range w.Cells { // it was weighed, whatever is wanted of it now
			if c := &w.Cells[i]; c.Unit == unit && c.Position == v.Position {
				c.Done = false
			}
		}
		in := Reading{Unit: unit, Component: v.Position, Grams: floor.InGrams(v.GramsMg), Policy: v.Policy}
		if in.Policy == "" {
			in.Policy = AsIs
		}
		if err := accept(w, in); err != nil {
			return err
		}
	}
	return nil
}
