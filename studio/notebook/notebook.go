package notebook

import (
	"context"
	"errors"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/store"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/studio/yarns"
)

// NotebookFilter picks lines of the notebook.
type NotebookFilter = store.NotebookFilter

// NotebookLine is a line of the notebook: a run with everything that was told of it, a sample or a skein.
type NotebookLine struct {
	store.NotebookRow
	Run    *carder.Run
	Sample *reach.SamplePoint
	Yarn   *yarns.YarnSample
	Skein  *yarns.Skein
}

// Notebook lists what was made, the latest first, and how much there is in all.
func (s *Room) Notebook(ctx context.Context, f NotebookFilter) ([]NotebookLine, int64, error) {
	rows, total, err := s.NotebookRows(ctx, f)
	if err != nil {
		return nil, 0, err
	}
	samples := map[int64]reach.SamplePoint{}
	out := make([]NotebookLine, 0, len(rows))
	for _, r := range rows {
		n := NotebookLine{NotebookRow: r}
		switch r.Sort {
		case "yarn":
			v, err := s.yarns.OneYarnSample(ctx, r.ID)
			if err != nil {
				return nil, 0, err
			}
			n.Yarn = &v
		case "skein":
			v, err := s.yarns.OneSkein(ctx, r.ID)
			if err != nil {
				return nil, 0, err
			}
			n.Skein = &v
		case "sample":
			if len(samples) == 0 {
				c, err := s.reach.Calibration(ctx)
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
			v, err := s.carder.Run(ctx, r.ID)
			if errors.Is(err, floor.ErrNotFound) { // its weigh-out lies in the bin
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
func (s *Room) NotebookRows(ctx context.Context, f NotebookFilter) ([]store.NotebookRow, int64, error) {
	if len(f.Search) > longestSearch {
		return nil, 0, fault.New("q", "Search for at most %d letters.", longestSearch)
	}
	return s.Store.Notebook(ctx, f)
}

const longestSearch = 400

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

// Record is how good the forecasts were, and what the runs have taught.
type Record struct {
	On       bool                 `json:"on"`
	Weights  []lessons.Forecast   `json:"weights"`
	Minutes  []lessons.Compared   `json:"minutes"`
	LookList []lessons.Compared   `json:"looks_seen"`
	Colours  []lessons.Compared   `json:"colours"`
	Held     int                  `json:"weights_held"`
	Looks    int                  `json:"looks"`
	LooksHit int                  `json:"looks_hit"`
	Kinds    []carder.KindLearned `json:"kinds"`
	Lessons  []Lesson             `json:"lessons"` // the latest first
}

// Record looks back over the latest runs.
func (s *Room) Record(ctx context.Context) (Record, error) {
	out := Record{
		Weights:  []lessons.Forecast{},
		Minutes:  []lessons.Compared{},
		LookList: []lessons.Compared{},
		Colours:  []lessons.Compared{},
		Kinds:    []carder.KindLearned{},
		Lessons:  []Lesson{},
	}
	set, err := s.workshop.Settings(ctx)
	if err != nil {
		return out, err
	}
	out.On = set.Learning
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return out, err
	}
	known, err := s.lessons.Remember(ctx, kinds)
	if err != nil {
		return out, err
	}
	out.Kinds = carder.LearnedKinds(kinds, known.All)
	past, err := s.lessons.Past(ctx)
	if err != nil {
		return out, err
	}
	for _, r := range past {
		out.Weights = append(out.Weights, r.Weights...)
		out.Minutes, out.LookList = append(out.Minutes, r.Timed...), append(out.LookList, r.Seen...)
		out.Looks, out.LooksHit = out.Looks+r.Looks, out.LooksHit+r.Hit
		for _, l := range r.Lessons {
			out.Lessons = append(out.Lessons, Lesson{l.Run, l.Unit, l.Pass, l.Name, 100 * l.Rate, l.Learn, l.Apart, l.Doubts})
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

func (s *Room) coloursCame(ctx context.Context) ([]lessons.Compared, error) {
	rows, err := s.Store.MadeLots(ctx, latestMade)
	out := []lessons.Compared{}
	for _, l := range rows {
		m := l.Made
		if m == nil || m.Said == nil || len(l.Colours) == 0 || l.Colours[0].Source == m.Said.Source {
			continue
		}
		now, _ := floor.MeanColour(l.Colours)
		said := floor.ReflectanceIn(*m.Said)
		v := lessons.Compared{RunID: m.RunID, LotID: l.ID, Name: l.Name, At: l.CreatedAt.Format(floor.TimeForm), High: losses.Within * m.Said.Sigma}
		v.Came = colour.CIEDE2000(said.Lab(), now.Lab())
		v.Held = v.Came <= v.High
		out = append(out, v)
	}
	return out, err
}

// Learning switches on or off that losses follow what the runs have taught.
func (s *Room) Learning(ctx context.Context, on bool) error {
	_, err := s.workshop.ChangeSettings(ctx, 0, func(v *workshop.Settings) { v.Learning = on })
	return err
}

// Swatches are the blends that were ever made, put away or not, a page of them, in the order of the
// shelf's colours as they were when each was saved; all is how many there are. Empty ones are left out.
func (s *Room) Swatches(ctx context.Context, offset, limit int) (out []recipe.Blend, all int64, err error) {
	rows, all, err := s.Store.Swatches(ctx, offset, limit)
	if err != nil {
		return nil, 0, err
	}
	out, err = s.recipe.SeenOf(ctx, rows)
	return out, all, err
}

// Arrange gives blends that were saved before there was an order of swatches their place in it.
func (s *Room) Arrange(ctx context.Context) error {
	for after := int64(0); ; {
		rows, err := s.Store.Unarranged(ctx, after, 200)
		if err != nil || len(rows) == 0 {
			return err
		}
		after = rows[len(rows)-1].ID
		list, err := s.recipe.SeenOf(ctx, rows)
		if err != nil {
			return err
		}
		orders := map[int64]*float64{}
		for _, b := range list {
			orders[b.ID] = b.ShelfOrder()
		}
		if err := s.Store.Arrange(ctx, orders); err != nil {
			return err
		}
	}
}
