package calls

import (
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/trouble"
	"fairtangle/core/unit"
)

// TroubleRequest asks why it does not go as it should. What is left out was not told.
type TroubleRequest struct {
	Seen         string            `json:"seen"`
	Pass         int               `json:"pass"`
	Step         string            `json:"step"`
	Components   []AdviceComponent `json:"components"`
	Equipment    *BedInput         `json:"equipment"`
	Layers       []AdviceLayer     `json:"layers"`
	ClearanceMM  *float64          `json:"clearance_mm"`
	ResidueG     *float64          `json:"residue_g"`
	TurnsPerMin  *float64          `json:"turns_per_min"`
	FeedGPerTurn *float64          `json:"feed_g_per_turn"`
	HumidityPct  *float64          `json:"humidity_pct"`
	HelpedBefore []string          `json:"helped_before"`
}

// TroubleCause is why it may be.
type TroubleCause struct {
	Key    string       `json:"key"`
	Likely float64      `json:"likely"` // its part of a sensible next try
	What   string       `json:"what"`
	Now    string       `json:"now"`
	Plan   *TroublePlan `json:"plan"` // what would change in the plan; null: nothing
	Shows  string       `json:"shows"`
}

// TroublePlan is a change of the plan.
type TroublePlan struct {
	Verb string `json:"verb"`
}

// TroubleAnswer are the causes, likeliest and cheapest first, and what would be worth telling.
type TroubleAnswer struct {
	Causes []TroubleCause `json:"causes"`
	Ask    []string       `json:"ask"`
}

// Trouble finds the causes of what is seen, from nothing but the request.
func Trouble(q TroubleRequest) (TroubleAnswer, error) {
	f, err := q.facts()
	if err != nil {
		return TroubleAnswer{}, err
	}
	found, err := trouble.Find(q.Seen, f, q.HelpedBefore)
	if err != nil {
		return TroubleAnswer{}, err
	}
	return TroubleOut(found), nil
}

// TroubleOut is an answer as it travels.
func TroubleOut(found trouble.Answer) TroubleAnswer {
	a := TroubleAnswer{Causes: []TroubleCause{}, Ask: found.Ask}
	for _, c := range found.Causes {
		out := TroubleCause{Key: c.Key, Likely: c.Likely, What: c.What, Now: c.Now, Shows: c.Shows}
		if c.Verb != "none" {
			out.Plan = &TroublePlan{c.Verb}
		}
		a.Causes = append(a.Causes, out)
	}
	return a
}

// facts reads the request.
func (q TroubleRequest) facts() (trouble.Facts, error) {
	f := trouble.Facts{Pass: q.Pass, Step: trouble.Stage(q.Step), ClearanceMM: q.ClearanceMM, ResidueG: q.ResidueG, TurnsPerMin: q.TurnsPerMin,
		FeedGPerTurn: q.FeedGPerTurn, HumidityPct: q.HumidityPct}
	var l fault.List
	if q.Pass < 0 || q.Pass > losses.MaxPasses {
		l.Add("pass", "A pass is a whole number from 1 to %d.", losses.MaxPasses)
	}
	if q.Step != "" && !slices.Contains(trouble.Stages(), f.Step) {
		l.Add("step", "A step is lay, lift, roll or draft.")
	}
	for _, v := range []struct {
		field string
		told  *float64
		can   unit.Limits
	}{
		{"clearance_mm", q.ClearanceMM, unit.Limits{Least: 0, Most: 50}}, {"residue_g", q.ResidueG, unit.Limits{Least: 0, Most: float64(unit.MaxGrams)}},
		{"turns_per_min", q.TurnsPerMin, unit.Limits{Least: 0, Most: 1000}}, {"feed_g_per_turn", q.FeedGPerTurn, unit.Limits{Least: 0, Most: 100}},
		{"humidity_pct", q.HumidityPct, unit.Limits{Least: 0, Most: 100}},
	} {
		if v.told != nil && !v.can.Holds(*v.told) {
			l.Add(v.field, "It lies between %g and %g.", v.can.Least, v.can.Most)
		}
	}
	if q.Equipment != nil {
		b, err := q.Equipment.bed()
		l.Take("", err)
		f.Bed = &b
	}
	asked := AdviceRequest{Components: q.Components, Layers: q.Layers}
	var p advice.Plan
	if err := asked.bounded(0); err != nil {
		return f, err
	}
	if len(q.Components) > 0 {
		asked.fibres(&p, &l)
	}
	for len(asked.Components) < q.counted() { // where nothing is told of them, the layers still lie somewhere
		asked.Components = append(asked.Components, AdviceComponent{})
	}
	asked.layers(&p, &l)
	f.Layers = p.Layers
	for i, v := range p.Fibres {
		if v.PreparedMM > 0 {
			v.StapleMM = v.PreparedMM
		}
		f.Fibres = append(f.Fibres, trouble.Fibre{
			Kind: v.Kind, Preparation: v.Preparation, Share: v.Share, StapleMM: v.StapleMM, Superwash: v.Superwash,
			Colour: toldColour(q.Components[i], v.Lab), WashedHours: v.WashedHours, DyedByHand: v.DyedByHand,
		})
	}
	return f, l.Err()
}

// counted is how many components the layers count in where none are told.
func (q TroubleRequest) counted() (n int) {
	if len(q.Components) > 0 {
		return 0
	}
	for _, l := range q.Layers {
		for _, v := range l.Lays {
			n = max(n, min(v.Component+1, mostAdvised))
		}
	}
	return n
}

// toldColour is a colour that was told, nil else.
func toldColour(c AdviceComponent, lab *colour.Lab) *colour.Lab {
	if c.Colour == nil && !c.any() {
		return nil
	}
	return lab
}
