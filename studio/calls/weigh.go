package calls

import (
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/studio/floor"
)

// WeighRequest asks for a weigh-out; see the API document.
type WeighRequest struct {
	Components []struct {
		Name        string  `json:"name"`
		Share       float64 `json:"share"`
		LossPct     float64 `json:"loss_pct"` // in its first pass
		Decay       float64 `json:"decay"`    // what each pass loses of what the one before did; 0: as much
		JoinsAtPass int     `json:"joins_at_pass"`
		AloneFirst  int     `json:"alone_first"`
	} `json:"components"`
	Units     int     `json:"units"`
	FinishedG float64 `json:"finished_g"`
	Passes    int     `json:"passes"`
	StepG     float64 `json:"step_g"`
}

// WeighUnit is one unit of a WeighAnswer.
type WeighUnit struct {
	Grams  []float64 `json:"grams"`
	TotalG float64   `json:"total_g"`
}

// WeighAnswer is a weigh-out that adds up. FinishedG is what is expected to
// come off of all units together.
type WeighAnswer struct {
	Units            []WeighUnit `json:"units"`
	ComponentTotalsG []float64   `json:"component_totals_g"`
	TotalG           float64     `json:"total_g"`
	FinishedG        float64     `json:"finished_g"`
	FinishedShares   []float64   `json:"finished_shares"`
	WorstShareError  float64     `json:"worst_share_error"`
}

// Weigh makes a weigh-out from nothing but the request.
func Weigh(q WeighRequest) (WeighAnswer, error) {
	o := weigh.Order{Units: q.Units, Finished: unit.Grams(q.FinishedG), Passes: q.Passes, Step: unit.Grams(q.StepG)}
	for _, c := range q.Components {
		o.Components = append(o.Components, weigh.Component{Share: c.Share, LossPass: c.LossPct / 100, Decay: c.Decay, JoinsAt: c.JoinsAtPass, Alone: c.AloneFirst})
	}
	p, err := weigh.Make(o)
	if err != nil {
		return WeighAnswer{}, err
	}
	grams := func(n int64) float64 { return unit.Clean(float64(n) * q.StepG) }
	a := WeighAnswer{
		TotalG: grams(p.Total), FinishedG: unit.Clean(float64(p.Finished)), FinishedShares: p.FinishedShares,
		WorstShareError: p.WorstShareError,
	}
	for u, counts := range p.Counts {
		row := WeighUnit{TotalG: grams(p.UnitTotals[u])}
		for _, n := range counts {
			row.Grams = append(row.Grams, grams(n))
		}
		a.Units = append(a.Units, row)
	}
	for _, n := range p.ComponentTotals {
		a.ComponentTotalsG = append(a.ComponentTotalsG, grams(n))
	}
	return a, nil
}

// ReweighRequest asks what to do when something was weighed off plan.
type ReweighRequest struct {
	Components []struct {
		Name     string   `json:"name"`
		PlannedG float64  `json:"planned_g"`
		WeighedG *float64 `json:"weighed_g"`
	} `json:"components"`
	StepG  float64 `json:"step_g"`
	Policy string  `json:"policy"`
}

// ReweighLine is one component of a ReweighAnswer: ToWeighG is what it should
// weigh in the end, with what was weighed already.
type ReweighLine struct {
	Name     string  `json:"name"`
	PlannedG float64 `json:"planned_g"`
	ToWeighG float64 `json:"to_weigh_g"`
}

// ReweighAnswer is the corrected unit.
type ReweighAnswer struct {
	Components      []ReweighLine `json:"components"`
	TotalG          float64       `json:"total_g"`
	Shares          []float64     `json:"shares"`
	WorstShareError float64       `json:"worst_share_error"`
}

// Reweigh corrects a unit from nothing but the request.
func Reweigh(q ReweighRequest) (ReweighAnswer, error) {
	var l fault.List
	lines := make([]weigh.Line, len(q.Components))
	for i, c := range q.Components {
		lines[i].Planned = unit.Grams(c.PlannedG)
		if c.WeighedG != nil {
			lines[i].Weighed, lines[i].Done = unit.Grams(*c.WeighedG), true
			floor.CheckGrams(&l, fmt.Sprintf("components[%d].weighed_g", i), *c.WeighedG)
		}
	}
	if err := l.Err(); err != nil {
		return ReweighAnswer{}, err
	}
	c, err := weigh.Reweigh(lines, unit.Grams(q.StepG), weigh.Policy(q.Policy))
	if err != nil {
		return ReweighAnswer{}, err
	}
	a := ReweighAnswer{TotalG: unit.Clean(float64(c.Total)), Shares: c.Shares, WorstShareError: c.WorstShareError}
	for i, in := range q.Components {
		a.Components = append(a.Components, ReweighLine{in.Name, in.PlannedG, unit.Clean(float64(c.ToWeigh[i]))})
	}
	return a, nil
}
