package scale

import (
	"context"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
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
	// LayupID is the lay-up whose lays it is divided into.
	LayupID *int64 `json:"layup_id,omitempty"`
	Sample  bool   `json:"sample,omitempty"` // a few grams, to see how it comes out
}

// WeighoutLoss is what a component loses a pass and when it joins.
type WeighoutLoss struct {
	LossPct     float64 `json:"loss_pct"`
	Decay       float64 `json:"decay"` // what each pass loses of what the one before did; 0: as much
	JoinsAtPass int     `json:"joins_at_pass"`
	AloneFirst  int     `json:"alone_first,omitempty"` // how often it is carded alone before it is laid
}

// loses is what a component loses over the passes.
func (p WeighoutPart) loses() losses.Fall { return losses.Fall{First: p.LossPct / 100, Decay: p.Decay} }

// Way is its way through so many passes.
func (p WeighoutPart) Way(passes int) losses.Way {
	return losses.Way{Fall: p.loses(), Alone: p.AloneFirst, Joins: p.JoinsAtPass, Passes: passes}
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
	Decay         float64  `json:"decay"`
	JoinsAtPass   int      `json:"joins_at_pass"`
	AloneFirst    int      `json:"alone_first"`
	TotalG        float64  `json:"total_g"` // to weigh in all, as it stands now
	WeighedG      float64  `json:"weighed_g"`
	FinishedShare float64  `json:"finished_share"` // expected
	HaveG         *float64 `json:"have_g"`         // left on the shelf now
	ShortG        float64  `json:"short_g"`        // what the shelf lacks for the rest
	Staple        float64  `json:"-"`
	HexList       []string `json:"-"`

	Fibre fibre.Kind `json:"-"`
}

// KindProperties returns what a tuft of this component is drawn from.
func (p WeighoutPart) KindProperties() fibre.Kind { return p.Fibre }

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
	Hex      string         `json:"hex"` // it will have, mixed even; empty where nothing is in it
	// ExpectedG is what is expected to come off, OffG what did; Note is kept with
	// it, NoteVersion is 0 where nothing was noted.
	ExpectedG float64  `json:"expected_g"`
	OffG      *float64 `json:"off_g"`
	// LostShare is what was lost of all that went in, below 0 where more came off;
	// null until both are weighed.
	LostShare   *float64 `json:"lost_share"`
	Note        string   `json:"note"`
	NoteVersion int64    `json:"note_version"`
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
	StaysG       float64        `json:"stays_g"`    // that the cloth of what it is carded on keeps of it
	CardedOn     string         `json:"carded_on"`
	WorstShare   float64        `json:"worst_share_error"`
	LargestDelta float64        `json:"largest_unit_delta_e"`
	DoneCells    int            `json:"done_cells"`
	AllCells     int            `json:"all_cells"`
	Next         *Cell          `json:"next"` // where the weighing goes on; null when done
	CanUndo      bool           `json:"can_undo"`
	// ByFibre is the order of the weighing: one bag after the other for all units, not
	// unit by unit. BagChanges is how often another bag is opened until all is weighed.
	ByFibre    bool          `json:"by_fibre"`
	BagChanges int           `json:"bag_changes"`
	LayupID    *int64        `json:"layup_id"`
	Lays       []WeighoutLay `json:"lays"` // of the lay-up that it follows

	Row   store.Weighout `json:"-"`
	Tints []shelf.Tint   `json:"-"`
	At    shelf.Mixing   `json:"-"`
	Added *shelf.Tint    `json:"-"` // what it is added to, where it mends a blend
	// AddedToG is how much there is of that, CameHex how it came out.
	AddedToG float64 `json:"added_to_g"`
	CameHex  string  `json:"came_hex"`
}

// Cell is a cell of the table.
type Cell struct {
	Unit      int `json:"unit"`
	Component int `json:"component"`
}

// Done reports whether everything was weighed.
func (w Weighout) Done() bool { return w.Next == nil }

// PlanWeighout works a weigh-out out without keeping it.
func (s *Room) PlanWeighout(ctx context.Context, blendID int64, in WeighoutInput) (Weighout, error) {
	row, err := s.plan(ctx, blendID, in)
	if err != nil {
		return Weighout{}, err
	}
	return s.weighoutView(ctx, row)
}

// CreateWeighout works a weigh-out out and keeps it.
func (s *Room) CreateWeighout(ctx context.Context, blendID int64, in WeighoutInput) (Weighout, error) {
	row, err := s.plan(ctx, blendID, in)
	if err != nil {
		return Weighout{}, err
	}
	if row, err = s.Store.CreateWeighout(ctx, row); err != nil {
		return Weighout{}, err
	}
	return s.weighoutView(ctx, row)
}

func (s *Room) plan(ctx context.Context, blendID int64, in WeighoutInput) (store.Weighout, error) {
	b, err := s.recipe.Blend(ctx, blendID)
	if err != nil {
		return store.Weighout{}, err
	}
	var l fault.List
	if in.Name == "" {
		in.Name = b.Name
	}
	floor.CheckText(&l, "name", "the weigh-out", &in.Name, floor.MaxName, true)
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
	follows, err := s.followed(ctx, b, in.LayupID)
	if err != nil {
		return store.Weighout{}, err
	}
	o := weigh.Order{Units: in.Units, Finished: unit.Grams(in.FinishedG), Passes: in.Passes, Step: unit.Grams(in.StepG)}
	row := store.Weighout{
		BlendID:    blendID,
		Name:       in.Name,
		Units:      in.Units,
		FinishedMg: o.Finished.Milligrams(),
		Passes:     in.Passes,
		StepMg:     step,
		LayupID:    in.LayupID,
		Sample:     in.Sample,
	}
	if follows != nil {
		row.Lays = laysOf(*follows)
	}
	for i, c := range b.Components {
		loss := in.lossOf(i, c, follows)
		o.Components = append(o.Components, weigh.Component{
			Share: c.Share, LossPass: loss.LossPct / 100, Decay: loss.Decay, JoinsAt: loss.JoinsAtPass, Alone: loss.AloneFirst,
		})
		row.Components = append(row.Components, store.WeighoutComponent{
			Position: i, LotID: c.LotID, Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex,
			OnlyHex: c.Only, OwnMg: unit.Grams(c.OwnG).Milligrams(), Share: c.Share, LossPct: loss.LossPct, Decay: loss.Decay, JoinsAtPass: loss.JoinsAtPass,
			AloneFirst: loss.AloneFirst,
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

// Weighout returns one weigh-out as it stands.
func (s *Room) Weighout(ctx context.Context, id int64) (Weighout, error) {
	row, err := s.Store.Weighout(ctx, id)
	if err != nil {
		return Weighout{}, err
	}
	return s.weighoutView(ctx, row)
}

func (s *Room) weighoutView(ctx context.Context, r store.Weighout) (Weighout, error) {
	at, err := s.shelf.Mixing(ctx)
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
		if lots, err = s.Store.LotsByID(ctx, ids); err != nil {
			return Weighout{}, err
		}
	}
	w := Weighout{
		Row: r, ID: r.ID, Version: r.Version, BlendID: r.BlendID, Name: r.Name, FinishedG: float64(r.FinishedMg.Grams()),
		Passes: r.Passes, ByFibre: r.ByFibre, StepG: float64(r.StepMg.Grams()), AllCells: len(r.Cells), Units: make([]WeighoutUnit, r.Units), LayupID: r.LayupID,
	}
	n := len(r.Components)
	w.Tints, w.At = make([]shelf.Tint, n), at
	for i, c := range r.Components {
		var p WeighoutPart
		p, w.Tints[i] = weighoutPart(at, c, lots)
		w.Components = append(w.Components, p)
	}
	for u := range w.Units {
		w.Units[u].Cells = make([]WeighoutCell, n)
		w.Units[u].Done = true
	}
	w.noted(r.Notes)
	if r.AddedToMg > 0 {
		if err := s.addedTo(ctx, &w, r); err != nil {
			return Weighout{}, err
		}
	}
	w.fill(r)
	w.expect(r)
	if err := s.stays(ctx, &w); err != nil {
		return Weighout{}, err
	}
	w.lose(r)
	w.divide(r)
	return w, nil
}

// fill puts the cells into the table and adds up.
func (w *Weighout) fill(r store.Weighout) {
	rest := make([]unit.Milligrams, len(r.Components))
	total := make([]unit.Milligrams, len(r.Components))
	var all, weighedAll unit.Milligrams
	for _, c := range r.Cells {
		u := &w.Units[c.Unit]
		now := floor.NowOf(c)
		u.Cells[c.Position] = WeighoutCell{floor.InGrams(c.PlannedMg), floor.InGrams(c.TargetMg), floor.InGrams(c.WeighedMg), c.Done}
		if c.Done {
			w.DoneCells++
		} else {
			u.Done = false
			rest[c.Position] += max(0, c.TargetMg-c.WeighedMg)
		}
		total[c.Position] += now
		all += now
		weighedAll += c.WeighedMg
		w.Components[c.Position].WeighedG = floor.InGrams(unit.Grams(w.Components[c.Position].WeighedG).Milligrams() + c.WeighedMg)
		u.TotalG = floor.InGrams(unit.Grams(u.TotalG).Milligrams() + now)
		u.WeighedG = floor.InGrams(unit.Grams(u.WeighedG).Milligrams() + c.WeighedMg)
	}
	w.follow()
	w.TotalG, w.WeighedG = floor.InGrams(all), floor.InGrams(weighedAll)
	for i := range w.Components {
		c := &w.Components[i]
		c.TotalG = floor.InGrams(total[i])
		if c.HaveG != nil {
			have := unit.Grams(*c.HaveG).Milligrams()
			if c.LotID == nil { // what is no lot has no ledger; what was weighed is gone from it
				have = max(0, have-unit.Grams(c.WeighedG).Milligrams())
				*c.HaveG = floor.InGrams(have)
			}
			c.ShortG = math.Max(0, floor.InGrams(rest[i]-have))
		}
	}
	for _, v := range r.Weighings {
		w.CanUndo = w.CanUndo || v.UndoneAt == nil
	}
}
