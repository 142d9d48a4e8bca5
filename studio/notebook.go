package studio

import (
	"context"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/store"
)

// NotebookFilter picks lines of the notebook.
type NotebookFilter = store.NotebookFilter

// NotebookLine is a line of the notebook: a run with everything that was told of it, a sample or a skein.
type NotebookLine struct {
	store.NotebookRow
	Run    *Run
	Sample *SamplePoint
	Yarn   *YarnSample
	Skein  *Skein
}

// Notebook lists what was made, the latest first, and how much there is in all.
func (s *Studio) Notebook(ctx context.Context, f NotebookFilter) ([]NotebookLine, int64, error) {
	rows, total, err := s.NotebookRows(ctx, f)
	if err != nil {
		return nil, 0, err
	}
	samples := map[int64]SamplePoint{}
	out := make([]NotebookLine, 0, len(rows))
	for _, r := range rows {
		n := NotebookLine{NotebookRow: r}
		switch r.Sort {
		case "yarn":
			v, err := s.OneYarnSample(ctx, r.ID)
			if err != nil {
				return nil, 0, err
			}
			n.Yarn = &v
		case "skein":
			v, err := s.OneSkein(ctx, r.ID)
			if err != nil {
				return nil, 0, err
			}
			n.Skein = &v
		case "sample":
			if len(samples) == 0 {
				c, err := s.Calibration(ctx)
				if err != nil {
					return nil, 0, err
				}
				for _, v := range c.Samples {
					samples[v.ID] = v
				}
			}
			v := samples[r.ID]
			n.Sample = &v
		default:
			v, err := s.Run(ctx, r.ID)
			if err == ErrNotFound { // its weigh-out lies in the bin
				total--
				continue
			}
			if err != nil {
				return nil, 0, err
			}
			n.Run = &v
		}
		out = append(out, n)
	}
	return out, total, nil
}

// NotebookRows lists the lines alone.
func (s *Studio) NotebookRows(ctx context.Context, f NotebookFilter) ([]store.NotebookRow, int64, error) {
	if len(f.Search) > longestSearch {
		return nil, 0, fault.New("q", "Search for at most %d letters.", longestSearch)
	}
	return s.store.Notebook(ctx, f)
}

const longestSearch = 400

// Forecast is a weight that was foreseen, as it was said then, beside what came off.
type Forecast struct {
	RunID int64     `json:"run_id"`
	Unit  int       `json:"unit"`
	Name  string    `json:"name"`
	At    string    `json:"at"`
	Said  RunWeight `json:"foreseen"`
	OffG  float64   `json:"off_g"`
	Held  bool      `json:"held"` // it lay in the range
}

// Compared is a number that was foreseen, as it was said then, beside what came: minutes of a
// pass, its look (1 streaky to 4 even), or how far the colour of a lot was off (CIEDE2000).
type Compared struct {
	RunID int64   `json:"run_id"`
	LotID int64   `json:"lot_id,omitempty"`
	Unit  int     `json:"unit"`
	Pass  int     `json:"pass,omitempty"`
	Name  string  `json:"name"`
	At    string  `json:"at"`
	Said  float64 `json:"foreseen"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
	Came  float64 `json:"came"`
	Held  bool    `json:"held"` // it lay in the range
}

// Lesson is what was weighed at the end of a pass, or of several, and what it teaches.
type Lesson struct {
	RunID   int64   `json:"run_id"`
	Unit    int     `json:"unit"`
	Pass    int     `json:"pass"`
	Name    string  `json:"name"`
	LossPct float64 `json:"loss_pct"`
	Learned bool    `json:"learned"`
	Apart   bool    `json:"apart"`  // the maker left it out
	Doubts  bool    `json:"doubts"` // it does not add up
}

// KindLearned is what was learned of a kind, beside what is usual.
type KindLearned struct {
	Kind     string  `json:"kind"`
	Name     string  `json:"name"`
	UsualPct float64 `json:"usual_pct"`
	Learned
}

// Record is how good the forecasts were, and what the runs have taught.
type Record struct {
	On       bool          `json:"on"`
	Weights  []Forecast    `json:"weights"`
	Minutes  []Compared    `json:"minutes"`
	LookList []Compared    `json:"looks_seen"`
	Colours  []Compared    `json:"colours"`
	Held     int           `json:"weights_held"`
	Looks    int           `json:"looks"`
	LooksHit int           `json:"looks_hit"`
	Kinds    []KindLearned `json:"kinds"`
	Lessons  []Lesson      `json:"lessons"` // the latest first
}

// Record looks back over the latest runs.
func (s *Studio) Record(ctx context.Context) (Record, error) {
	out := Record{Weights: []Forecast{}, Minutes: []Compared{}, LookList: []Compared{}, Colours: []Compared{}, Kinds: []KindLearned{}, Lessons: []Lesson{}}
	set, err := s.Settings(ctx)
	if err != nil {
		return out, err
	}
	out.On = set.Learning
	kinds, err := s.AllKinds(ctx, true)
	if err != nil {
		return out, err
	}
	known, err := s.remember(ctx, kinds)
	if err != nil {
		return out, err
	}
	out.Kinds = learnedKinds(kinds, known.all)
	past, err := s.past(ctx)
	if err != nil {
		return out, err
	}
	for _, r := range past {
		out.Weights = append(out.Weights, r.weights...)
		out.Minutes, out.LookList = append(out.Minutes, r.timed...), append(out.LookList, r.seen...)
		out.Looks, out.LooksHit = out.Looks+r.looks, out.LooksHit+r.hit
		for _, l := range r.lessons {
			out.Lessons = append(out.Lessons, Lesson{l.run, l.unit, l.pass, l.name, 100 * l.rate, l.learn, l.apart, l.doubts})
		}
	}
	slices.Reverse(out.Lessons)
	if out.Colours, err = s.coloursCame(ctx); err != nil {
		return out, err
	}
	for _, f := range out.Weights {
		if f.Held {
			out.Held++
		}
	}
	return out, nil
}

// coloursCame are lots that were made here and measured since: how far each was off, and how far
// it was foreseen to be at most, 9 times of 10.
const latestMade = 200 // lots made here of which the colour is compared

func (s *Studio) coloursCame(ctx context.Context) ([]Compared, error) {
	rows, err := s.store.MadeLots(ctx, latestMade)
	out := []Compared{}
	for _, l := range rows {
		m := l.Made
		if m == nil || m.Said == nil || len(l.Colours) == 0 || l.Colours[0].Source == m.Said.Source {
			continue
		}
		now, _ := meanColour(l.Colours)
		said := reflectanceIn(*m.Said)
		v := Compared{RunID: m.RunID, LotID: l.ID, Name: l.Name, At: l.CreatedAt.Format(timeForm), High: losses.Within * m.Said.Sigma}
		v.Came = colour.CIEDE2000(said.Lab(), now.Lab())
		v.Held = v.Came <= v.High
		out = append(out, v)
	}
	return out, err
}

// Learning switches on or off that losses follow what the runs have taught.
func (s *Studio) Learning(ctx context.Context, on bool) error {
	_, err := s.ChangeSettings(ctx, 0, func(v *Settings) { v.Learning = on })
	return err
}

// Swatches are the blends that were ever made, put away or not, a page of them, in the order of the
// shelf's colours as they were when each was saved; all is how many there are. Empty ones are left out.
func (s *Studio) Swatches(ctx context.Context, offset, limit int) (out []Blend, all int64, err error) {
	rows, all, err := s.store.Swatches(ctx, offset, limit)
	if err != nil {
		return nil, 0, err
	}
	out, err = s.seenOf(ctx, rows)
	return out, all, err
}

// arrange gives blends that were saved before there was an order of swatches their place in it.
func (s *Studio) arrange(ctx context.Context) error {
	for after := int64(0); ; {
		rows, err := s.store.Unarranged(ctx, after, 200)
		if err != nil || len(rows) == 0 {
			return err
		}
		after = rows[len(rows)-1].ID
		list, err := s.seenOf(ctx, rows)
		if err != nil {
			return err
		}
		orders := map[int64]*float64{}
		for _, b := range list {
			orders[b.ID] = b.shelfOrder()
		}
		if err := s.store.Arrange(ctx, orders); err != nil {
			return err
		}
	}
}
