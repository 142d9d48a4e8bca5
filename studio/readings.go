package studio

import (
	"context"
	"fmt"
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
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
	ShortOf    string    `json:"short_of,omitempty"`
	ShortG     float64   `json:"short_g,omitempty"`
}

// Considered is the answer to a reading before it is booked.
type Considered struct {
	Verdict string   `json:"verdict"` // fine, over, under
	OffG    float64  `json:"off_g"`   // weighed minus wanted
	Options []Option `json:"options"`
}

// Consider says whether a reading is fine and, where it is not, what each
// policy would do to shares, colour and stock. Nothing is kept.
func (s *Studio) Consider(ctx context.Context, id int64, in Reading) (Considered, error) {
	r, err := s.store.Weighout(ctx, id)
	if err != nil {
		return Considered{}, err
	}
	cell, err := place(&r, in)
	if err != nil {
		return Considered{}, err
	}
	out := Considered{OffG: g(off(*cell, in)), Verdict: verdict(r, *cell, in)}
	if out.Verdict == "fine" {
		return out, nil
	}
	set, err := s.store.Settings(ctx)
	if err != nil {
		return out, err
	}
	for _, p := range []string{string(weigh.KeepShares), string(weigh.KeepTotal), AsIs} {
		o, err := s.option(ctx, id, in, p, model(set))
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
	checkGrams(&l, "grams", in.Grams)
	if len(l) == 0 && unit.Grams(in.Grams).Milligrams() == 0 {
		l.Add("grams", "Enter what the scale says, above 0 g.")
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

// option tries a policy on a fresh copy of the weigh-out.
func (s *Studio) option(ctx context.Context, id int64, in Reading, policy string, m mix.Model) (Option, error) {
	r, err := s.store.Weighout(ctx, id)
	if err != nil {
		return Option{}, err
	}
	before := unitShares(r, in.Unit)
	in.Policy = policy
	if err := accept(&r, in); err != nil {
		return Option{}, err
	}
	o := Option{Policy: policy, Shares: unitShares(r, in.Unit)}
	for _, c := range r.Cells {
		if c.Unit == in.Unit {
			now := max(c.TargetMg, c.WeighedMg)
			if c.Done && c.WeighedMg > 0 {
				now = c.WeighedMg
			}
			o.ToWeighG = append(o.ToWeighG, g(now))
			o.TotalG += g(now)
		}
	}
	colours := make([]colour.Reflectance, len(r.Components))
	for i, c := range r.Components {
		colours[i] = reflectanceOf(c.Hex)
		o.WorstShare = max(o.WorstShare, math.Abs(o.Shares[i]-before[i]))
	}
	then, now := m.Even(colours, before), m.Even(colours, o.Shares)
	o.DeltaE = colour.CIEDE2000(then.Lab(), now.Lab())
	w, err := s.weighoutView(ctx, r)
	if err != nil {
		return o, err
	}
	for i, c := range w.Components {
		short := c.ShortG
		if i == in.Component && c.HaveG != nil { // this reading is still on the shelf
			short = math.Max(0, in.Grams+restOf(r, i)-*c.HaveG)
		}
		if short > o.ShortG {
			o.ShortOf, o.ShortG = c.Name, short
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
	return g(mg)
}

// unitShares gives the shares of a unit by what is or will be in its bowl.
func unitShares(r store.Weighout, u int) []float64 {
	out := make([]float64, len(r.Components))
	var sum float64
	for _, c := range r.Cells {
		if c.Unit == u {
			out[c.Position] = g(max(c.TargetMg, c.WeighedMg))
			if c.Done && c.WeighedMg > 0 {
				out[c.Position] = g(c.WeighedMg)
			}
			sum += out[c.Position]
		}
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
		return fault.New("policy", "This is %.4g g %s than wanted. Choose what the others shall do.", math.Abs(g(d)), word)
	}
	cell.WeighedMg += unit.Grams(in.Grams).Milligrams()
	return follow(r, in.Unit, policy)
}

// follow lets the cells of a unit follow a policy. keep-shares goes back to
// the planned shares, keep-total starts from the weights wanted last.
func follow(r *store.Weighout, u int, policy weigh.Policy) error {
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
func (s *Studio) Weigh(ctx context.Context, id int64, in Reading) (Weighout, error) {
	if len(in.Key) < 8 || len(in.Key) > 64 {
		return Weighout{}, fault.New("key", "A weighing carries a key of 8 to 64 signs that is its own.")
	}
	mg := unit.Grams(in.Grams).Milligrams()
	row, err := s.store.Weigh(ctx, id, in.Version, store.Weighing{
		Key: in.Key, Unit: in.Unit, Position: in.Component, GramsMg: mg, Policy: in.Policy,
	}, func(w *store.Weighout) error { return accept(w, in) })
	if err != nil {
		return Weighout{}, s.staleWeighout(ctx, err)
	}
	return s.weighoutView(ctx, row)
}

func (s *Studio) staleWeighout(ctx context.Context, err error) error {
	return convertStale(err, func(r store.Weighout) (Weighout, error) { return s.weighoutView(ctx, r) })
}

// UndoWeighing takes the last weighing back.
func (s *Studio) UndoWeighing(ctx context.Context, id, version int64) (Weighout, error) {
	row, err := s.store.UndoWeighing(ctx, id, version)
	if err != nil {
		return Weighout{}, s.staleWeighout(ctx, err)
	}
	return s.weighoutView(ctx, row)
}
