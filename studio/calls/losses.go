package calls

import (
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/studio/workshop"
)

// BalanceRequest is what was weighed about one batt in one pass; see the API document.
type BalanceRequest struct {
	InG            float64        `json:"in_g"`
	BattG          float64        `json:"batt_g"`
	ResidueG       float64        `json:"residue_g"`
	Residue        losses.Residue `json:"residue"`
	ClothG         float64        `json:"cloth_g"`
	DroppingsG     *float64       `json:"droppings_g"`
	PickedG        *float64       `json:"picked_g"`
	HumidityInPct  *float64       `json:"humidity_in_pct"`
	HumidityOutPct *float64       `json:"humidity_out_pct"`
	// Components are the fibres that went in: what is usually lost of them is then expected, by the lines
	// that were not weighed. Without them nothing is.
	Components []BalanceComponent `json:"components"`
}

// BalanceComponent is a fibre that went in, and the pass it is in, counted from the one at which it joined.
type BalanceComponent struct {
	Kind  string  `json:"kind"`
	Grams float64 `json:"grams"`
	Pass  int     `json:"pass"` // left out: the first
}

// usual is what is usually lost of the components, and how much less moisture than wool they take up.
func (q BalanceRequest) usual() (usual losses.Belief, drier float64, err error) {
	var l fault.List
	kinds := workshop.StandardKinds()
	went := make([]losses.Went, len(q.Components))
	if len(q.Components) > losses.MaxParts {
		l.Add("components", "There are at most %d components.", losses.MaxParts)
		return usual, 0, l
	}
	for i, c := range q.Components {
		at := fmt.Sprintf("components[%d].", i)
		kind, known := kinds.Find(c.Kind)
		if !known {
			l.Add(at+"kind", "There is no kind called %q.", c.Kind)
		}
		if !(c.Grams >= 0 && c.Grams <= 1e5) {
			l.Add(at+"grams", "This weighs from %s to %s.", unit.Grams(0), unit.Grams(1e5))
		}
		if c.Pass < 0 || c.Pass > losses.MaxPasses {
			l.Add(at+"pass", "A pass is from 1 to %d.", losses.MaxPasses)
		}
		went[i] = losses.Went{Kind: c.Kind, Grams: c.Grams, First: max(c.Pass, 1), Last: max(c.Pass, 1), Decay: fibre.UsualDecay(kind), Drier: kind.Drier()}
	}
	usual = losses.Unweighed(went, kinds.Usual, func(kind string) float64 {
		return fibre.Lost(kinds.Named(kind)).Without(q.DroppingsG != nil, q.PickedG != nil)
	})
	return usual, losses.Drier(went), l.Err()
}

// BalanceAnswer is where the grams went.
type BalanceAnswer struct {
	UnaccountedG float64      `json:"unaccounted_g"`
	LossG        float64      `json:"loss_g"`
	LossPct      float64      `json:"loss_pct"`
	Learn        bool         `json:"learn"`
	Ask          []losses.Ask `json:"ask"`
}

// Balance works out where the grams of a batt went.
func Balance(q BalanceRequest) (BalanceAnswer, error) {
	usual, drier, err := q.usual()
	if err != nil {
		return BalanceAnswer{}, err
	}
	var droppings, picked float64
	if q.DroppingsG != nil {
		droppings = *q.DroppingsG
	}
	if q.PickedG != nil {
		picked = *q.PickedG
	}
	b, err := losses.Balance(losses.Carded{
		In: q.InG, Batt: q.BattG, Residue: q.ResidueG, Back: q.Residue, Cloth: q.ClothG, Droppings: droppings, Picked: picked, Expect: usual,
		HumidityIn: q.HumidityInPct, HumidityOut: q.HumidityOutPct, Drier: drier,
	})
	return BalanceAnswer{b.Unaccounted, b.Loss, 100 * b.Rate, b.Learn, append([]losses.Ask{}, b.Ask...)}, err
}

// LearnRequest is what is believed of fibres and what was seen of them: one fibre batt
// after batt, or the loss of a whole blend.
type LearnRequest struct {
	Components []struct {
		MeanPct float64 `json:"mean_pct"`
		SDPct   float64 `json:"sd_pct"`
		Grams   float64 `json:"grams"`
	} `json:"components"`
	Observations []struct {
		InG     float64 `json:"in_g"`
		LossPct float64 `json:"loss_pct"`
	} `json:"observations"`
	ObservedLossG *float64 `json:"observed_loss_g"`
	ObservedSDG   *float64 `json:"observed_sd_g"`
	ScaleStepG    *float64 `json:"scale_step_g"` // left out: 0.1
	MoisturePct   *float64 `json:"moisture_pct"` // left out: 0.8
}

// Learned is what is believed of a fibre then; low and high hold it 9 times of 10.
type Learned struct {
	MeanPct float64 `json:"mean_pct"`
	SDPct   float64 `json:"sd_pct"`
	LowPct  float64 `json:"low_pct"`
	HighPct float64 `json:"high_pct"`
}

// LearnAnswer is what was learned, and how much each observation, or each fibre, took.
type LearnAnswer struct {
	Components []Learned `json:"components"`
	Gains      []float64 `json:"gains"`
}

// Learn updates what is believed of losses by what was seen.
func Learn(q LearnRequest) (LearnAnswer, error) {
	parts := make([]losses.Fibre, len(q.Components))
	for i, c := range q.Components {
		parts[i] = losses.Fibre{Belief: losses.Belief{Mean: c.MeanPct / 100, SD: c.SDPct / 100}, Grams: c.Grams}
	}
	step, moisture, seen, err := q.seen(losses.CheckParts(parts))
	if err != nil {
		return LearnAnswer{}, err
	}
	out := LearnAnswer{Components: []Learned{}}
	var after []losses.Belief
	if q.ObservedLossG != nil {
		after, out.Gains = losses.Share(parts, *q.ObservedLossG, *q.ObservedSDG)
	} else {
		one, gains := parts[0].Learn(seen, step, moisture)
		after, out.Gains = []losses.Belief{one}, gains
	}
	for _, b := range after {
		low, high := b.Range()
		out.Components = append(out.Components, Learned{100 * b.Mean, 100 * b.SD, 100 * low, 100 * high})
	}
	return out, nil
}

// seen reads what was seen, and finds what is wrong with it beside what was found before.
func (q *LearnRequest) seen(before error) (step, moisture float64, seen []losses.Seen, err error) {
	var l fault.List
	l.Take("", before)
	step, moisture = 0.1, 0.8
	if q.ScaleStepG != nil {
		step = *q.ScaleStepG
	}
	if q.MoisturePct != nil {
		moisture = *q.MoisturePct
	}
	if !(step >= 0.001 && step <= 1000) {
		l.Add("scale_step_g", "The scale's step lies from %s to %s.", unit.Grams(0.001), unit.Grams(1000))
	}
	if !(moisture >= 0 && moisture <= 50) {
		l.Add("moisture_pct", "Moisture drifts by 0 to 50 %%.")
	}
	for i, o := range q.Observations {
		at := fmt.Sprintf("observations[%d].", i)
		if !(o.InG > 0 && o.InG <= 1e5) {
			l.Add(at+"in_g", "A batt weighs above %s and at most %s.", unit.Grams(0), unit.Grams(1e5))
		}
		if !(o.LossPct >= -100 && o.LossPct <= 100) {
			l.Add(at+"loss_pct", "A loss lies between -100 and 100 %%.")
		}
		seen = append(seen, losses.Seen{In: o.InG, Rate: o.LossPct / 100})
	}
	var grams float64
	for _, c := range q.Components {
		grams += c.Grams
	}
	whole := q.ObservedLossG != nil || q.ObservedSDG != nil
	switch {
	case whole && len(q.Observations) > 0:
		l.Add("observations", "Send observations of one fibre, or the observed loss of a blend, not both.")
	case whole && (q.ObservedLossG == nil || !(*q.ObservedLossG >= -1e5 && *q.ObservedLossG <= 1e5)):
		l.Add("observed_loss_g", "Enter what the blend lost, in grams.")
	case whole && before == nil && *q.ObservedLossG > grams:
		l.Add("observed_loss_g", "%s can not be lost of %s.", unit.Grams(*q.ObservedLossG), unit.Grams(grams))
	case whole && (q.ObservedSDG == nil || !(*q.ObservedSDG > 0 && *q.ObservedSDG <= 1e5)):
		l.Add("observed_sd_g", "Enter how unsure that is, in grams above 0.")
	case !whole && len(q.Components) > 1:
		l.Add("observed_loss_g", "Of several fibres only the loss of all together is seen: send observed_loss_g and observed_sd_g.")
	case !whole && (len(seen) == 0 || len(seen) > 1000):
		l.Add("observations", "There are 1 to 1000 observations.")
	}
	return step, moisture / 100, seen, l.Err()
}
