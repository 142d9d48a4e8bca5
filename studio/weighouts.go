package studio

import (
	"context"
	"fmt"
	"math"

	"fairtangle/core/blend"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
)

// WeighoutInput asks for a weigh-out of a blend. Losses and the pass at which
// a component joins are by component; left out, the kind's usual loss and the
// first pass are taken.
type WeighoutInput struct {
	Name      string         `json:"name"`
	Units     int            `json:"units"`
	FinishedG float64        `json:"finished_g"` // of each unit
	Passes    int            `json:"passes"`
	StepG     float64        `json:"step_g"`
	Lines     []WeighoutLoss `json:"components"`
}

// WeighoutLoss is what a component loses a pass and when it joins.
type WeighoutLoss struct {
	LossPct     float64 `json:"loss_pct"`
	JoinsAtPass int     `json:"joins_at_pass"`
}

// WeighoutPart is a component of a weigh-out.
type WeighoutPart struct {
	LotID         *int64   `json:"lot_id,omitempty"`
	Name          string   `json:"name"`
	Kind          string   `json:"kind"`
	Preparation   string   `json:"preparation"`
	Hex           string   `json:"hex"`
	Share         float64  `json:"share"`
	LossPct       float64  `json:"loss_pct"`
	JoinsAtPass   int      `json:"joins_at_pass"`
	TotalG        float64  `json:"total_g"` // to weigh in all, as it stands now
	WeighedG      float64  `json:"weighed_g"`
	FinishedShare float64  `json:"finished_share"` // expected
	HaveG         *float64 `json:"have_g"`         // left on the shelf now
	ShortG        float64  `json:"short_g"`        // what the shelf lacks for the rest
	Staple        float64  `json:"-"`
	HexList       []string `json:"-"`

	kind fibre.Kind
}

// KindProperties gives what a tuft of this component is drawn from.
func (p WeighoutPart) KindProperties() fibre.Kind { return p.kind }

// WeighoutCell is one component of one unit.
type WeighoutCell struct {
	PlannedG float64 `json:"planned_g"`
	TargetG  float64 `json:"target_g"`
	WeighedG float64 `json:"weighed_g"`
	Done     bool    `json:"done"`
}

// WeighoutUnit is one filling of the equipment.
type WeighoutUnit struct {
	Cells    []WeighoutCell `json:"cells"`
	TotalG   float64        `json:"total_g"`
	WeighedG float64        `json:"weighed_g"`
	Done     bool           `json:"done"`
}

// Weighout is a table of grams to weigh with how far it is done.
type Weighout struct {
	ID           int64          `json:"id"`
	Version      int64          `json:"version"`
	BlendID      int64          `json:"blend_id"`
	Name         string         `json:"name"`
	FinishedG    float64        `json:"finished_g"` // wanted, each unit
	Passes       int            `json:"passes"`
	StepG        float64        `json:"step_g"`
	Components   []WeighoutPart `json:"components"`
	Units        []WeighoutUnit `json:"units"`
	TotalG       float64        `json:"total_g"`
	WeighedG     float64        `json:"weighed_g"`
	ExpectedG    float64        `json:"expected_g"` // expected to come off in all
	WorstShare   float64        `json:"worst_share_error"`
	LargestDelta float64        `json:"largest_unit_delta_e"`
	DoneCells    int            `json:"done_cells"`
	AllCells     int            `json:"all_cells"`
	Next         *Place         `json:"next"` // where the weighing goes on; null when done
	CanUndo      bool           `json:"can_undo"`
}

// Place is a cell of the table.
type Place struct {
	Unit      int `json:"unit"`
	Component int `json:"component"`
}

// Done tells whether everything was weighed.
func (w Weighout) Done() bool { return w.Next == nil }

// PlanWeighout works a weigh-out out without keeping it.
func (s *Studio) PlanWeighout(ctx context.Context, blendID int64, in WeighoutInput) (Weighout, error) {
	row, err := s.plan(ctx, blendID, in)
	if err != nil {
		return Weighout{}, err
	}
	return s.weighoutView(ctx, row)
}

// CreateWeighout works a weigh-out out and keeps it.
func (s *Studio) CreateWeighout(ctx context.Context, blendID int64, in WeighoutInput) (Weighout, error) {
	row, err := s.plan(ctx, blendID, in)
	if err != nil {
		return Weighout{}, err
	}
	if row, err = s.store.CreateWeighout(ctx, row); err != nil {
		return Weighout{}, err
	}
	return s.weighoutView(ctx, row)
}

func (s *Studio) plan(ctx context.Context, blendID int64, in WeighoutInput) (store.Weighout, error) {
	b, err := s.Blend(ctx, blendID)
	if err != nil {
		return store.Weighout{}, err
	}
	var l fault.List
	if in.Name == "" {
		in.Name = b.Name
	}
	checkText(&l, "name", "the weigh-out", &in.Name, maxName, true)
	if len(b.Components) == 0 {
		l.Add("components", "The blend is empty. Put fibre into it first.")
	}
	if n := len(in.Lines); n != 0 && n != len(b.Components) {
		l.Add("components", "The blend has %d components now; this lists %d.", len(b.Components), n)
	}
	step := unit.Grams(in.StepG).Milligrams()
	if in.StepG > 0 && math.Abs(float64(step)-in.StepG*1000) > 1e-6 {
		l.Add("step_g", "The scale's step is a whole number of milligrams.")
	}
	if err := l.Err(); err != nil {
		return store.Weighout{}, err
	}
	o := weigh.Order{Units: in.Units, Finished: unit.Grams(in.FinishedG), Passes: in.Passes, Step: unit.Grams(in.StepG)}
	row := store.Weighout{BlendID: blendID, Name: in.Name, Units: in.Units, FinishedMg: o.Finished.Milligrams(), Passes: in.Passes, StepMg: step}
	for i, c := range b.Components {
		loss := WeighoutLoss{LossPct: c.LossPct, JoinsAtPass: 1}
		if len(in.Lines) > 0 {
			loss = in.Lines[i]
			loss.JoinsAtPass = max(loss.JoinsAtPass, 1)
		}
		o.Components = append(o.Components, weigh.Component{Share: c.Share, LossPass: loss.LossPct / 100, JoinsAt: loss.JoinsAtPass})
		row.Components = append(row.Components, store.WeighoutComponent{
			Position: i, LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex,
			Share: c.Share, LossPct: loss.LossPct, JoinsAtPass: loss.JoinsAtPass,
		})
	}
	p, err := weigh.Make(o)
	if err != nil {
		return row, err
	}
	for u, counts := range p.Counts {
		for i, n := range counts {
			mg := unit.Milligrams(n) * step
			row.Cells = append(row.Cells, store.WeighoutCell{Unit: u, Position: i, PlannedMg: mg, TargetMg: mg, Done: n == 0})
		}
	}
	return row, nil
}

// Weighout gives one weigh-out as it stands.
func (s *Studio) Weighout(ctx context.Context, id int64) (Weighout, error) {
	row, err := s.store.Weighout(ctx, id)
	if err != nil {
		return Weighout{}, err
	}
	return s.weighoutView(ctx, row)
}

func (s *Studio) weighoutView(ctx context.Context, r store.Weighout) (Weighout, error) {
	set, kinds, err := s.bench(ctx)
	if err != nil {
		return Weighout{}, err
	}
	var ids []int64
	for _, c := range r.Components {
		if c.LotID != nil {
			ids = append(ids, *c.LotID)
		}
	}
	lots := map[int64]store.Lot{}
	if len(ids) > 0 {
		if lots, err = s.store.LotsByID(ctx, ids); err != nil {
			return Weighout{}, err
		}
	}
	w := Weighout{
		ID: r.ID, Version: r.Version, BlendID: r.BlendID, Name: r.Name, FinishedG: float64(r.FinishedMg.Grams()),
		Passes: r.Passes, StepG: float64(r.StepMg.Grams()), AllCells: len(r.Cells), Units: make([]WeighoutUnit, r.Units),
	}
	n := len(r.Components)
	colours := make([]colour.Reflectance, n)
	for i, c := range r.Components {
		p := WeighoutPart{
			LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex, Share: c.Share,
			LossPct: c.LossPct, JoinsAtPass: c.JoinsAtPass, HexList: []string{c.Hex}, kind: kinds.named(c.Kind),
		}
		p.Staple = p.kind.StapleMM.Mid()
		colours[i] = reflectanceOf(c.Hex)
		if c.LotID != nil {
			l := lotOf(lots[*c.LotID], kinds)
			have := l.Grams
			p.HaveG, p.Staple = &have, l.WorkingStapleMM
			p.HexList = p.HexList[:0]
			for _, v := range l.Colours {
				p.HexList = append(p.HexList, v.Hex)
			}
		}
		w.Components = append(w.Components, p)
	}
	for u := range w.Units {
		w.Units[u].Cells = make([]WeighoutCell, n)
		w.Units[u].Done = true
	}
	w.fill(r)
	w.expect(r, model(set), colours)
	return w, nil
}

// fill puts the cells into the table and adds up.
func (w *Weighout) fill(r store.Weighout) {
	rest := make([]unit.Milligrams, len(r.Components))
	total := make([]unit.Milligrams, len(r.Components))
	var all, weighedAll unit.Milligrams
	for _, c := range r.Cells {
		u := &w.Units[c.Unit]
		now := max(c.TargetMg, c.WeighedMg)
		if c.Done && c.WeighedMg > 0 {
			now = c.WeighedMg
		}
		u.Cells[c.Position] = WeighoutCell{g(c.PlannedMg), g(c.TargetMg), g(c.WeighedMg), c.Done}
		if c.Done {
			w.DoneCells++
		} else {
			u.Done = false
			rest[c.Position] += max(0, c.TargetMg-c.WeighedMg)
			if w.Next == nil {
				w.Next = &Place{c.Unit, c.Position}
			}
		}
		total[c.Position] += now
		all += now
		weighedAll += c.WeighedMg
		w.Components[c.Position].WeighedG = g(unit.Grams(w.Components[c.Position].WeighedG).Milligrams() + c.WeighedMg)
		u.TotalG = g(unit.Grams(u.TotalG).Milligrams() + now)
		u.WeighedG = g(unit.Grams(u.WeighedG).Milligrams() + c.WeighedMg)
	}
	w.TotalG, w.WeighedG = g(all), g(weighedAll)
	for i := range w.Components {
		c := &w.Components[i]
		c.TotalG = g(total[i])
		if c.HaveG != nil {
			c.ShortG = math.Max(0, g(rest[i]-unit.Grams(*c.HaveG).Milligrams()))
		}
	}
	for _, v := range r.Weighings {
		w.CanUndo = w.CanUndo || v.UndoneAt == nil
	}
}

func g(m unit.Milligrams) float64 { return float64(m.Grams()) }

// expect works out what will come off: weight, shares, and the largest colour
// difference between two units.
func (w *Weighout) expect(r store.Weighout, m mix.Model, colours []colour.Reflectance) {
	n := len(r.Components)
	finished := make([]float64, n)
	units := make([][]float64, len(w.Units))
	for i := range units {
		units[i] = make([]float64, n)
	}
	for _, c := range r.Cells {
		p := r.Components[c.Position]
		y := weigh.Component{LossPass: p.LossPct / 100, JoinsAt: p.JoinsAtPass}.Yield(r.Passes)
		now := max(c.TargetMg, c.WeighedMg)
		if c.Done && c.WeighedMg > 0 {
			now = c.WeighedMg
		}
		units[c.Unit][c.Position] = g(now) * y
		finished[c.Position] += g(now) * y
		w.ExpectedG += g(now) * y
	}
	for i := range w.Components {
		if w.ExpectedG > 0 {
			w.Components[i].FinishedShare = finished[i] / w.ExpectedG
		}
	}
	prepared := make([]mix.Prepared, n)
	for i := range colours {
		prepared[i] = m.Prepare(&colours[i])
	}
	labs := make([]colour.Lab, 0, len(units))
	for _, f := range units {
		var sum float64
		for _, v := range f {
			sum += v
		}
		if sum == 0 {
			continue
		}
		for i := range f {
			f[i] /= sum
			w.WorstShare = max(w.WorstShare, math.Abs(f[i]-r.Components[i].Share))
		}
		mixed := m.Mix(prepared, f)
		labs = append(labs, mixed.Lab())
	}
	for i := range labs {
		for j := range i {
			w.LargestDelta = max(w.LargestDelta, colour.CIEDE2000(labs[i], labs[j]))
		}
	}
}

// WeighoutSuggestion prefills the form for a weigh-out of a blend: as many
// units as the first piece of equipment needs for it.
func (s *Studio) WeighoutSuggestion(ctx context.Context, b Blend) (WeighoutInput, error) {
	set, err := s.store.Settings(ctx)
	in := WeighoutInput{Name: b.Name, Units: 1, FinishedG: b.TotalG, Passes: b.Passes, StepG: g(set.StepMg)}
	for _, c := range b.Components {
		in.Lines = append(in.Lines, WeighoutLoss{LossPct: c.LossPct, JoinsAtPass: 1})
	}
	if err != nil {
		return in, err
	}
	fills, err := s.Fills(ctx, b, b.WeighInG, b.WeighInG)
	if len(fills) > 0 && fills[0].Units <= weigh.MaxUnits {
		in.Units = fills[0].Units
		in.FinishedG = b.TotalG / float64(in.Units)
	}
	return in, err
}

// Fill is how full a piece of equipment is with one unit.
type Fill struct {
	Equipment store.Equipment
	CapacityG float64
	Fraction  float64
	Units     int // needed for the whole at nine tenths full
}

// Fills tells for each piece of equipment how full it gets with unitG of a
// blend, and how many units the whole makes. The capacity of a mixed load is
// 1/Σ(share/capacity), each component between smooth and lofty by its crimp
// and preparation.
func (s *Studio) Fills(ctx context.Context, b Blend, unitG, totalG float64) ([]Fill, error) {
	list, err := s.store.Equipment(ctx)
	if err != nil || len(b.Components) == 0 {
		return nil, err
	}
	var out []Fill
	for _, e := range list {
		shares, caps := make([]float64, len(b.Components)), make([]unit.Grams, len(b.Components))
		for i, c := range b.Components {
			shares[i] = c.Share
			caps[i] = blend.CapacityOf(c.kind.Crimp, c.Preparation, unit.Grams(e.SmoothG), unit.Grams(e.LoftyG))
		}
		cap := float64(blend.Capacity(shares, caps))
		out = append(out, Fill{Equipment: e, CapacityG: cap, Fraction: unitG / cap, Units: int(max(1, math.Ceil(totalG/(0.9*cap)-1e-9)))})
	}
	return out, nil
}

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
