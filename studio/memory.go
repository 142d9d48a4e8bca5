package studio

import (
	"context"
	"slices"
	"sync"

	"fairtangle/core/fibre"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/store"
)

// Learned is what the runs have taught of the loss of a kind in one pass.
type Learned struct {
	Seen    int     `json:"seen"` // weighings it was in
	MeanPct float64 `json:"mean_pct"`
	LowPct  float64 `json:"low_pct"` // to HighPct, 9 times of 10
	HighPct float64 `json:"high_pct"`
}

// learnedOf is what was learned of a kind; nil where nothing was.
func learnedOf(known map[string]losses.Known, kind string) *Learned {
	k, ok := known[kind]
	if !ok {
		return nil
	}
	low, high := k.Range()
	return &Learned{k.Seen, 100 * k.Mean, 100 * low, 100 * high}
}

// memory is what the latest runs have taught, and how good their forecasts were. A run is read
// again only when something was told of it, or weighed again after it.
type memory struct {
	mu    sync.Mutex
	done  bool
	mark  int64
	runs  map[int64]remembered
	order []int64                           // of the runs, as they began
	known map[string]losses.Known           // over all carders
	on    map[int64]map[string]losses.Known // of each carder
}

// remembered is what is kept of a run.
type remembered struct {
	version, weighed int64 // versions of it and of its weigh-out
	lessons          []lesson
	weights          []Forecast
	minutes          []float64 // of passes that were timed
	most             float64   // grams of its heaviest unit
	equipment        int64
	looks, hit       int
	timed, seen      []Compared // minutes, and looks
}

// lesson is what lies between two weighings of a run, and whether it is learned from.
type lesson struct {
	losses.Lesson
	run    int64
	name   string
	unit   int
	first  int // pass
	pass   int // the last
	rate   float64
	learn  bool
	apart  bool // the maker left it out
	doubts bool // it does not add up
}

// taught is what the runs have taught of the losses of kinds, over all carders and on each.
type taught struct {
	all map[string]losses.Known
	on  map[int64]map[string]losses.Known
}

// fewestSeen is from how many weighings a carder's own loss of a kind is believed.
const fewestSeen = 2

// of is what is believed of a kind on a carder: what was seen on it, else on all of them.
func (t taught) of(equipment int64, kinds Kinds, kind string) losses.Belief {
	if k, ok := t.on[equipment][kind]; ok && k.Seen >= fewestSeen {
		return k.Belief
	}
	if k, ok := t.all[kind]; ok {
		return k.Belief
	}
	return kinds.usual(kind)
}

// remember is what the runs have taught of the losses of kinds.
func (s *Studio) remember(ctx context.Context, kinds Kinds) (taught, error) {
	m := &s.memory
	m.mu.Lock()
	defer m.mu.Unlock()
	if err := s.refresh(ctx, kinds); err != nil {
		return taught{}, err
	}
	return taught{m.known, m.on}, nil
}

// past gives what is kept of the latest runs, in the order in which they began.
func (s *Studio) past(ctx context.Context) ([]remembered, error) {
	kinds, err := s.AllKinds(ctx, true)
	if err != nil {
		return nil, err
	}
	m := &s.memory
	m.mu.Lock()
	defer m.mu.Unlock()
	if err := s.refresh(ctx, kinds); err != nil {
		return nil, err
	}
	out := make([]remembered, 0, len(m.order))
	for _, id := range m.order {
		out = append(out, m.runs[id])
	}
	return out, nil
}

// refresh brings the memory to what was told since. It is called with the memory locked.
func (s *Studio) refresh(ctx context.Context, kinds Kinds) error {
	m := &s.memory
	mark := s.store.LessonsMark()
	if m.done && m.mark == mark {
		return nil
	}
	now, err := s.store.CardingVersions(ctx)
	if err != nil {
		return err
	}
	kept := map[int64]remembered{}
	var order, changed []int64
	for _, b := range now {
		order = append(order, b.ID)
		if r, ok := m.runs[b.ID]; ok && r.version == b.Version && r.weighed == s.store.WeighedAgain() {
			kept[b.ID] = r
		} else {
			changed = append(changed, b.ID)
		}
	}
	rows, weighed, err := s.store.Carding(ctx, changed)
	if err != nil {
		return err
	}
	for _, r := range rows {
		v := rememberedOf(r, weighed)
		v.weighed = s.store.WeighedAgain()
		kept[r.ID] = v
	}
	var list []losses.Lesson
	on := map[int64][]losses.Lesson{}
	for _, id := range order {
		for _, l := range kept[id].lessons {
			if l.learn {
				list = append(list, l.Lesson)
				on[kept[id].equipment] = append(on[kept[id].equipment], l.Lesson)
			}
		}
	}
	m.runs, m.order, m.mark, m.done = kept, order, mark, true
	m.known, m.on = losses.Remember(kinds.usual, list), map[int64]map[string]losses.Known{}
	for equipment, l := range on {
		m.on[equipment] = losses.Remember(kinds.usual, l)
	}
	return nil
}

// rememberedOf is what is kept of a run.
func rememberedOf(r store.Run, weighed map[int64]store.Weighout) remembered {
	out := remembered{version: r.Version}
	w, ok := weighed[*r.WeighoutID]
	if !ok {
		return out // its weigh-out lies in the bin
	}
	if r.EquipmentID != nil {
		out.equipment = *r.EquipmentID
	}
	state := run.Read(r.Told(), r.Units, r.Passes)
	for i, l := range linesOf(r, state, w) {
		out.most = max(out.most, inGrams(l.In))
		for _, t := range l.Stretches {
			v := lesson{run: r.ID, name: r.Name, unit: i, first: t.First, pass: t.Last, rate: t.Rate, doubts: !t.Learn}
			v.apart = state.Units[i].Passes[t.Last-1].Facts[run.Apart].Number != 0
			parts := wentThrough(w, i, t.First, t.Last, float64(t.In.Grams()))
			v.learn = t.Learn && !v.apart && len(parts) > 0
			v.Lesson = losses.LessonOf(parts, float64(t.In.Grams()), t.Loss, float64(w.StepMg.Grams()))
			out.lessons = append(out.lessons, v)
		}
	}
	for _, u := range state.Units {
		for _, p := range u.Passes {
			if timed(p) {
				out.minutes = append(out.minutes, p.Seconds/60)
			}
		}
	}
	out.look(r, state)
	return out
}

// timed reports whether the minutes of a pass tell how long it took.
func timed(p run.Pass) bool { return p.Seconds >= 60 && (p.Typed || !p.Stood) }

// look puts beside each other what was foreseen of a run and what came.
func (out *remembered) look(r store.Run, state run.State) {
	for i, u := range state.Units {
		off, ok := u.OffAtLast()
		if w := weightOf(r, i); ok && w != nil && len(u.Passes) == r.Passes {
			f := Forecast{RunID: r.ID, Unit: i, Name: r.Name, At: r.CreatedAt.Format(timeForm), Said: *w, OffG: inGrams(off)}
			f.Held = f.OffG >= w.LowG && f.OffG <= w.HighG
			out.weights = append(out.weights, f)
		}
		for p, pass := range u.Passes {
			at := Compared{RunID: r.ID, Unit: i, Pass: p + 1, Name: r.Name, At: r.CreatedAt.Format(timeForm)}
			if look := pass.Facts[run.Look].Text; look != "" && p < len(r.Foreseen) {
				out.looks++
				c := at
				c.Came, c.Said = float64(rankOf(look)+1), float64(rankOf(r.Foreseen[p].Look)+1)
				c.Low, c.High, c.Held = c.Said, c.Said, c.Came == c.Said
				if c.Held {
					out.hit++
				}
				out.seen = append(out.seen, c)
			}
			if m := r.Plan.PassMinutes; m != nil && timed(pass) {
				c := at
				c.Said, c.Low, c.High, c.Came = m.Mid, m.Low, m.High, pass.Seconds/60
				c.Held = c.Came >= c.Low && c.Came <= c.High
				out.timed = append(out.timed, c)
			}
		}
	}
}

// usual is what is believed of a kind before anything was seen: its listed range is about two
// standard deviations to each side.
func (k Kinds) usual(kind string) losses.Belief {
	r := k.Named(kind).LossPct
	return losses.Belief{Mean: r.Mid() / 100, SD: max(0.001, (r.High-r.Low)/400)}
}

// withLearned are kinds that lose what was learned of them.
func withLearned(k Kinds, known map[string]losses.Known) Kinds {
	if len(known) == 0 {
		return k
	}
	k.List = slices.Clone(k.List)
	for i := range k.List {
		if v, ok := known[k.List[i].Key]; ok {
			low, _ := v.Range()
			k.List[i].LossPct = fibre.Range{Low: 100 * low, High: 100 * (2*v.Mean - low)}
		}
	}
	return k
}

// wentThrough is what of a unit went through passes, brought to what was weighed in for them.
func wentThrough(w store.Weighout, unitNo, first, last int, in float64) (out []losses.Went) {
	var sum float64
	for _, c := range w.Cells {
		p := w.Components[c.Position]
		joins := max(p.JoinsAtPass, 1)
		if c.Unit != unitNo || c.WeighedMg <= 0 || joins > last {
			continue
		}
		g := float64(c.WeighedMg.Grams())
		out, sum = append(out, losses.Went{Kind: p.Kind, Grams: g, First: max(first, joins) - joins + 1, Last: last - joins + 1, Decay: p.Decay}), sum+g
	}
	for i := range out {
		out[i].Grams *= in / sum
	}
	return out
}

// RunWeight is a weight that was foreseen, with its range (9 times of 10).
type RunWeight struct {
	Grams float64 `json:"grams"`
	LowG  float64 `json:"low_g"`
	HighG float64 `json:"high_g"`
}

// weightsForeseen is what each unit of a run is expected to weigh when it comes off, by what
// is known of losses now, without what the cloth takes up.
func weightsForeseen(w Weighout, r store.Run) (out []store.Weight) {
	cloth := r.ClothMg
	believe := func(kind string) losses.Belief { return w.at.known.of(*r.EquipmentID, w.at.kinds, kind) }
	for u := range w.Units {
		var parts []losses.Went
		for _, c := range w.row.Cells {
			if p := w.row.Components[c.Position]; c.Unit == u {
				parts = append(parts, losses.Went{
					Kind: p.Kind, Grams: float64(nowOf(c).Grams()), First: 1, Last: r.Passes - max(p.JoinsAtPass, 1) + 1, Decay: p.Decay,
				})
			}
		}
		g, sd := losses.Expect(parts, believe, w.StepG)
		grows := fillOf(r.Plan, cloth)
		cloth += grows
		out = append(out, store.Weight{Grams: g - inGrams(grows), SD: sd})
	}
	return out
}

// weightOf is what was foreseen of a unit.
func weightOf(r store.Run, i int) *RunWeight {
	if i >= len(r.Plan.Weights) {
		return nil
	}
	w := r.Plan.Weights[i]
	return &RunWeight{w.Grams, w.Grams - losses.Within*w.SD, w.Grams + losses.Within*w.SD}
}
