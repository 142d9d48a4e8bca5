package calls

import (
	"context"
	"fmt"

	"fairtangle/core/day"
	"fairtangle/core/fault"
	"fairtangle/studio/workshop"
)

// OrderRequest is the work of a day on one carder; see the API document.
type OrderRequest struct {
	Jobs []struct {
		Name    string               `json:"name"`
		Colour  workshop.ColourInput `json:"colour"`
		Fine    bool                 `json:"fine"`
		Sheds   bool                 `json:"sheds"`
		ForSale bool                 `json:"for_sale"` // told of it; no cleaning rests on it
		Minutes float64              `json:"minutes"`
	} `json:"jobs"`
	CleaningMin   float64 `json:"cleaning_min"`
	QuickMin      float64 `json:"quick_min"`
	FreeMin       float64 `json:"free_min"` // 0: all the time there is
	BreakEveryMin float64 `json:"break_every_min"`
	BreakMin      float64 `json:"break_min"`
	FixedFirst    *int    `json:"fixed_first"`
}

// OrderStep is what is done when.
type OrderStep struct {
	Kind    string  `json:"kind"` // card, clean, break
	Clean   string  `json:"clean,omitempty"`
	Job     *int    `json:"job"`
	FromMin float64 `json:"from_min"`
	ToMin   float64 `json:"to_min"`
}

// OrderAnswer is the order with the least cleaning.
type OrderAnswer struct {
	Order         []int       `json:"order"`
	ChangeoverMin [][]float64 `json:"changeover_min"`
	TotalMin      float64     `json:"total_min"`
	GivenTotalMin float64     `json:"given_total_min"`
	Exact         bool        `json:"exact"`
	Fits          int         `json:"fits"`
	Steps         []OrderStep `json:"steps"`
}

// Order puts jobs in the order that saves cleaning.
func Order(ctx context.Context, q OrderRequest) (OrderAnswer, error) {
	var l fault.List
	jobs := make([]day.Job, len(q.Jobs))
	for i, j := range q.Jobs {
		r, _, err := j.Colour.Read()
		l.Take(fmt.Sprintf("jobs[%d].colour", i), err)
		jobs[i] = day.Job{Name: j.Name, Colour: r.Lab(), Sheds: j.Sheds, Fine: j.Fine, Minutes: j.Minutes}
	}
	t := day.Times{Full: q.CleaningMin, Quick: q.QuickMin, BreakEvery: q.BreakEveryMin, Break: q.BreakMin}
	first := -1
	if q.FixedFirst != nil {
		if first = *q.FixedFirst; first < 0 {
			first = len(jobs) // no job has that number
		}
	}
	l.Take("", day.Check(jobs, t, q.FreeMin, first))
	if err := l.Err(); err != nil {
		return OrderAnswer{}, err
	}
	out := OrderAnswer{ChangeoverMin: day.Changeovers(jobs, t), Steps: []OrderStep{}}
	given := make([]int, len(jobs))
	for i := range given {
		given[i] = i
	}
	var err error
	if out.Order, out.Exact, err = day.Order(ctx, jobs, t, first); err != nil {
		return out, err
	}
	steps := day.Spans(jobs, out.Order, t)
	out.TotalMin, out.GivenTotalMin, out.Fits = day.Total(steps), day.Total(day.Spans(jobs, given, t)), len(jobs)
	if q.FreeMin > 0 {
		out.Fits = day.Fits(steps, q.FreeMin)
	}
	for _, s := range steps {
		step := OrderStep{Kind: s.Kind, Clean: string(s.Clean), FromMin: s.From, ToMin: s.To}
		if s.Job >= 0 {
			job := s.Job
			step.Job = &job
		}
		out.Steps = append(out.Steps, step)
	}
	return out, nil
}
