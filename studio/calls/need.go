package calls

import (
	"fairtangle/core/losses"
	"fairtangle/core/need"
)

// NeedRequest asks how much a piece of work takes; see the API document. What is left out of the
// allowances is as usual.
type NeedRequest struct {
	Yarn *struct {
		LengthM float64 `json:"length_m"`
		GristM  float64 `json:"grist_m_per_100g"`
		WPI     float64 `json:"wpi"`
		WeightG float64 `json:"weight_g"`
	} `json:"yarn"`
	Batts *struct {
		Count int     `json:"count"`
		Grams float64 `json:"grams"`
	} `json:"batts"`
	Felt *struct {
		AreaCM2    float64  `json:"area_cm2"`
		GramsPerM2 float64  `json:"g_per_m2"`
		MarginPct  *float64 `json:"margin_pct"`
	} `json:"felt"`
	FibreG       float64  `json:"fibre_g"`
	Plies        *int     `json:"plies"`
	MarginPct    *float64 `json:"margin_pct"`
	WastePct     *float64 `json:"waste_pct"`
	FinishingPct *float64 `json:"finishing_pct"`
	TakeUpPct    *float64 `json:"take_up_pct"`
	ShrinkagePct *float64 `json:"shrinkage_pct"` // left out: the single is that of the yarn before it is washed
	Components   []struct {
		Name        string  `json:"name"`
		Share       float64 `json:"share"`
		LossPct     float64 `json:"loss_pct"`
		Decay       float64 `json:"decay"`
		JoinsAtPass int     `json:"joins_at_pass"`
		AloneFirst  int     `json:"alone_first"`
	} `json:"components"`
	Passes    int      `json:"passes"`
	SampleG   float64  `json:"sample_g"`
	ClothG    float64  `json:"cloth_g"` // that the cloth takes up of all units
	CapacityG float64  `json:"unit_capacity_g"`
	StepG     *float64 `json:"step_g"`
}

// NeedAnswer is how much it takes. Lengths and grists are 0 where no yarn, or no grist, was
// named.
type NeedAnswer struct {
	LengthM      float64    `json:"length_m"`
	GristM       float64    `json:"grist_m_per_100g"`
	Estimated    bool       `json:"estimated"`
	YarnG        float64    `json:"yarn_g"`
	FibreG       float64    `json:"fibre_g"`
	FibreRangeG  []float64  `json:"fibre_range_g"`
	SinglesM     float64    `json:"singles_m"`
	SinglesGrist float64    `json:"singles_grist_m_per_100g"`
	PerPlyG      []float64  `json:"per_ply_g"`
	WeighInG     []float64  `json:"weigh_in_g"` // of each component, without the sample
	TotalG       float64    `json:"total_g"`
	SetAsideG    float64    `json:"set_aside_g"` // with the sample
	Units        int        `json:"units"`       // 0: not known
	Flow         []NeedPart `json:"flow"`
}

// NeedPart is where grams go; all add up to set_aside_g.
type NeedPart struct {
	Key   string  `json:"key"`
	Grams float64 `json:"grams"`
}

// usualStepG is the step of a kitchen scale, where none is named.
const usualStepG = 0.1

func partOr(pct *float64, usual float64) float64 {
	if pct == nil {
		return usual
	}
	return *pct / 100
}

// Need works out how much a piece of work takes from nothing but the request.
func Need(q NeedRequest) (NeedAnswer, error) {
	r := need.Request{
		FibreG: q.FibreG, Passes: q.Passes, SampleG: q.SampleG, ClothG: q.ClothG, CapacityG: q.CapacityG, StepG: usualStepG,
		Allowances: need.Allowances{
			Margin: partOr(q.MarginPct, need.Margin), Waste: partOr(q.WastePct, need.Waste), Finishing: partOr(q.FinishingPct, need.Finishing),
			TakeUp: partOr(q.TakeUpPct, need.TakeUp),
		},
	}
	if q.ShrinkagePct != nil {
		part := *q.ShrinkagePct / 100
		r.Allowances.Shrinkage = &part
	}
	if q.StepG != nil {
		r.StepG = *q.StepG
	}
	if y := q.Yarn; y != nil {
		r.Yarn = &need.Yarn{LengthM: y.LengthM, GristM: y.GristM, WPI: y.WPI, WeightG: y.WeightG, Plies: 1}
		if q.Plies != nil {
			r.Yarn.Plies = *q.Plies
		}
	}
	if b := q.Batts; b != nil {
		r.Batts = &need.Batts{Count: b.Count, Grams: b.Grams}
	}
	if f := q.Felt; f != nil {
		r.Felt = &need.Felt{AreaCM2: f.AreaCM2, GramsPerM2: f.GramsPerM2}
		if f.MarginPct != nil {
			r.Allowances.Margin = *f.MarginPct / 100
		}
	}
	for _, c := range q.Components {
		r.Components = append(r.Components, need.Component{
			Share: c.Share, Loses: losses.Fall{First: c.LossPct / 100, Decay: c.Decay}, JoinsAt: c.JoinsAtPass, Alone: c.AloneFirst,
		})
	}
	a, err := need.Work(r)
	if err != nil {
		return NeedAnswer{}, err
	}
	out := NeedAnswer{
		LengthM: a.Yarn.LengthM, GristM: a.Yarn.GristM, Estimated: a.Estimated, YarnG: a.Yarn.WeightG, FibreG: a.FibreG, FibreRangeG: []float64{a.LowG, a.HighG},
		SinglesM: a.SinglesM, SinglesGrist: a.SinglesGrist, PerPlyG: append([]float64{}, a.PerPlyG...), WeighInG: append([]float64{}, a.WeighInG...),
		TotalG: a.TotalG, SetAsideG: a.SetAsideG(), Units: a.Units, Flow: []NeedPart{},
	}
	for _, p := range a.Flow {
		out.Flow = append(out.Flow, NeedPart(p))
	}
	return out, nil
}
