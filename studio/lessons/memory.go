package lessons

import (
	"context"
	"slices"
	"sync"

	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// Learned is what the runs have taught of the loss of a kind in one pass.
type Learned struct {
	Seen    int     `json:"seen"` // weighings it was in
	MeanPct float64 `json:"mean_pct"`
	LowPct  float64 `json:"low_pct"` // to HighPct, 9 times of 10
	HighPct float64 `json:"high_pct"`
}

// LearnedOf is what was learned of a kind; nil where nothing was.
func LearnedOf(known losses.Memory, kind string) *Learned {
	k, ok := known.Known[kind]
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
	order []int64                 // of the runs, as they began
	known losses.Memory           // over all carders
	on    map[int64]losses.Memory // of each carder
}

// remembered is what is kept of a run.
type remembered struct {
	version, weighed int64      // versions of it and of its weigh-out
	Lessons          []lesson   `json:"-"`
	Weights          []Forecast `json:"-"`
	Minutes          []float64  `json:"-"` // of passes that were timed
	Units            []Made     `json:"-"` // what went onto the carder
	Equipment        int64      `json:"-"`
	Looks, Hit       int        `json:"-"`
	Timed, Seen      []Compared `json:"-"` // minutes, and looks
}

// Made is one unit of a run as it went onto the carder.
type Made struct {
	Run    int64
	Unit   int
	Name   string
	Grams  float64
	Fibres []layup.Fibre
}

// lesson is what lies between two weighings of a run, and whether it is learned from.
type lesson struct {
	losses.Lesson
	Run    int64   `json:"-"`
	Name   string  `json:"-"`
	Unit   int     `json:"-"`
	First  int     `json:"-"` // pass
	Pass   int     `json:"-"` // the last
	Rate   float64 `json:"-"`
	Learn  bool    `json:"-"`
	Apart  bool    `json:"-"` // the maker left it out
	Doubts bool    `json:"-"` // it does not add up
}

// Taught is what the runs have taught of the losses of kinds, over all carders and on each.
type Taught struct {
	Usual workshop.Kinds          `json:"-"` // before anything was seen
	All   losses.Memory           `json:"-"`
	On    map[int64]losses.Memory `json:"-"`
}

// fewestSeen is from how many weighings a carder's own loss of a kind is believed.
const fewestSeen = 2

// Of is what is believed of a kind on a carder: what was seen on it, else on all of them.
func (t Taught) Of(equipment int64, kinds workshop.Kinds, kind string) losses.Belief {
	if k, ok := t.On[equipment].Known[kind]; ok && k.Seen >= fewestSeen {
		return k.Belief
	}
	if k, ok := t.All.Known[kind]; ok {
		return k.Belief
	}
	return kinds.Usual(kind)
}

// Cov is how what is believed on a carder of two kinds hangs together.
func (t Taught) Cov(equipment int64, a, b string) float64 {
	on := t.On[equipment]
	own := func(kind string) bool { return on.Known[kind].Seen >= fewestSeen }
	switch {
	case own(a) && own(b):
		return on.Cov(a, b)
	case own(a) || own(b):
		return 0
	}
	return t.All.Cov(a, b)
}

// Remember is what the runs have taught of the losses of kinds.
func (s *Room) Remember(ctx context.Context, kinds workshop.Kinds) (Taught, error) {
	m := &s.memory
	m.mu.Lock()
	defer m.mu.Unlock()
	if err := s.refresh(ctx, kinds); err != nil {
		return Taught{}, err
	}
	return Taught{kinds, m.known, m.on}, nil
}

// Past gives what is kept of the latest runs, in the order in which they began.
func (s *Room) Past(ctx context.Context) ([]remembered, error) {
	kinds, err := s.workshop.AllKinds(ctx, true)
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
func (s *Room) refresh(ctx context.Context, kinds workshop.Kinds) error {
	m := &s.memory
	mark := s.Store.LessonsMark()
	if m.done && m.mark == mark {
		return nil
	}
	now, err := s.Store.CardingVersions(ctx)
	if err != nil {
		return err
	}
	kept := map[int64]remembered{}
	var order, changed []int64
	for _, b := range now {
		order = append(order, b.ID)
		if r, ok := m.runs[b.ID]; ok && r.version == b.Version && r.weighed == s.Store.WeighedAgain() {
			kept[b.ID] = r
		} else {
			changed = append(changed, b.ID)
		}
	}
	rows, weighed, err := s.Store.Carding(ctx, changed)
	if err != nil {
		return err
	}
	for _, r := range rows {
		v := rememberedOf(r, weighed, kinds)
		v.weighed = s.Store.WeighedAgain()
		kept[r.ID] = v
	}
	var list []losses.Lesson
	on := map[int64][]losses.Lesson{}
	for _, id := range order {
		for _, l := range kept[id].Lessons {
			if l.Learn {
				list = append(list, l.Lesson)
				on[kept[id].Equipment] = append(on[kept[id].Equipment], l.Lesson)
			}
		}
	}
	m.runs, m.order, m.mark, m.done = kept, order, mark, true
	m.known, m.on = losses.Remember(kinds.Usual, list), map[int64]losses.Memory{}
	for equipment, l := range on {
		m.on[equipment] = losses.Remember(kinds.Usual, l)
	}
	return nil
}

// rememberedOf is what is kept of a run.
func rememberedOf(r store.Run, weighed map[int64]store.Weighout, kinds workshop.Kinds) remembered {
	out := remembered{version: r.Version}
	w, ok := weighed[*r.WeighoutID]
	if !ok {
		return out // its weigh-out lies in the bin
	}
	if r.EquipmentID != nil {
		out.Equipment = *r.EquipmentID
	}
	state := run.Read(r.Told(), r.Units, r.Passes)
	for i, l := range LinesOf(r, state, w, kinds) {
		if l.In > 0 {
			out.Units = append(out.Units, Made{r.ID, i, r.Name, floor.InGrams(l.In), fibresOf(w, kinds, i)})
		}
		for _, t := range l.Stretches {
			v := lesson{Run: r.ID, Name: r.Name, Unit: i, First: t.First, Pass: t.Last, Rate: t.Rate, Doubts: !t.Learn}
			v.Apart = state.Units[i].Passes[t.Last-1].Facts[run.Apart].Number != 0
			parts := wentThrough(w, kinds, i, t.First, t.Last, float64(t.In.Grams()))
			v.Learn = t.Learn && !v.Apart && len(parts) > 0
			v.Lesson = losses.LessonOf(parts, float64(t.In.Grams()), t.Loss, float64(w.StepMg.Grams()))
			out.Lessons = append(out.Lessons, v)
		}
	}
	for _, u := range state.Units {
		for _, p := range u.Passes {
			if timed(p) {
				out.Minutes = append(out.Minutes, p.Seconds/60)
			}
		}
	}
	out.compare(r, state)
	return out
}

// fibresOf are the fibres of a unit of a weigh-out, as far as they fill a bed.
func fibresOf(w store.Weighout, kinds workshop.Kinds, unitNo int) (out []layup.Fibre) {
	for _, c := range w.Cells {
		if p := w.Components[c.Position]; c.Unit == unitNo && floor.NowOf(c) > 0 {
			out = append(out, layup.Fibre{Grams: floor.InGrams(floor.NowOf(c)), Crimp: kinds.Named(p.Kind).Crimp, Preparation: p.Preparation})
		}
	}
	return out
}

// timed reports whether the minutes of a pass tell how long it took.
func timed(p run.Pass) bool { return p.Seconds >= 60 && (p.Typed || !p.Stood) }

// compare puts beside each other what was foreseen of a run and what came.
func (out *remembered) compare(r store.Run, state run.State) {
	for i, u := range state.Units {
		off, ok := u.OffAtLast()
		if w := WeightOf(r, i); ok && w != nil && len(u.Passes) == r.Passes {
			f := Forecast{RunID: r.ID, Unit: i, Name: r.Name, At: r.CreatedAt.Format(floor.TimeForm), Said: *w, OffG: floor.InGrams(off)}
			f.Held = f.OffG >= w.LowG && f.OffG <= w.HighG
			out.Weights = append(out.Weights, f)
		}
		for p, pass := range u.Passes {
			at := Compared{RunID: r.ID, Unit: i, Pass: p + 1, Name: r.Name, At: r.CreatedAt.Format(floor.TimeForm)}
			if look := pass.Facts[run.Look].Text; look != "" && p < len(r.Foreseen) {
				out.Looks++
				c := at
				c.Came, c.Said = float64(floor.RankOf(look)+1), float64(floor.RankOf(r.Foreseen[p].Look)+1)
				c.Low, c.High, c.Held = c.Said, c.Said, c.Came == c.Said
				if c.Held {
					out.Hit++
				}
				out.Seen = append(out.Seen, c)
			}
			if m := r.Plan.PassMinutes; m != nil && timed(pass) {
				c := at
				c.Said, c.Low, c.High, c.Came = m.Mid, m.Low, m.High, pass.Seconds/60
				c.Held = c.Came >= c.Low && c.Came <= c.High
				out.Timed = append(out.Timed, c)
			}
		}
	}
}

// WithLearned are kinds that lose what was learned of them.
func WithLearned(k workshop.Kinds, known losses.Memory) workshop.Kinds {
	if len(known.Known) == 0 {
		return k
	}
	k.List = slices.Clone(k.List)
	for i := range k.List {
		if v, ok := known.Known[k.List[i].Key]; ok {
			low, _ := v.Range()
			k.List[i].LossPct = fibre.Range{Low: 100 * low, High: 100 * (2*v.Mean - low)}
		}
	}
	return k
}

// wentThrough is what of a unit went through passes, brought to what was weighed in for them.
func wentThrough(w store.Weighout, kinds workshop.Kinds, unitNo, first, last int, in float64) (out []losses.Went) {
	var sum float64
	for _, c := range w.Cells {
		p := w.Components[c.Position]
		joins := max(p.JoinsAtPass, 1)
		if c.Unit != unitNo || c.WeighedMg <= 0 || joins > last {
			continue
		}
		g, since := float64(c.WeighedMg.Grams()), 1 // weighed in before it was carded alone
		if first > joins {
			since = p.AloneFirst + first - joins + 1
		}
		out, sum = append(out, losses.Went{Kind: p.Kind, Grams: g, First: since, Last: p.AloneFirst + last - joins + 1, Decay: p.Decay,
			Drier: kinds.Named(p.Kind).Drier()}), sum+g
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

// WeightOf is what was foreseen of a unit.
func WeightOf(r store.Run, i int) *RunWeight {
	if i >= len(r.Plan.Weights) {
		return nil
	}
	w := r.Plan.Weights[i]
	return &RunWeight{w.Grams, w.Grams - losses.Within*w.SD, w.Grams + losses.Within*w.SD}
}
