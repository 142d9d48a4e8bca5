package studio

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/losses"
)

// CarderBook is what the runs on a piece of equipment have shown.
type CarderBook struct {
	Equipment Equipment     `json:"-"`
	Passes    []PassLoss    `json:"passes"`
	Kinds     []KindLearned `json:"kinds"`
	Minutes   *Seen         `json:"minutes"` // of a pass of one unit; null: none was timed
	MostG     float64       `json:"most_g"`  // its heaviest unit; 0: none was weighed
	ClothG    float64       `json:"cloth_g"` // that lies in its cloth now, as far as is known
	HoldsG    float64       `json:"cloth_holds_g"`
	UsualG    float64       `json:"cloth_usual_g"` // that a cloth of its size holds
	Cleanings []Cleaning    `json:"cleanings"`
}

// PassLoss is what was lost in a pass, of all fibres together.
type PassLoss struct {
	Pass int `json:"pass"`
	Seen
}

// Seen is what was seen of a number several times: the middle one, and between which two 9 of
// 10 lie.
type Seen struct {
	Times int     `json:"times"`
	Mid   float64 `json:"middle"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
}

// seenOf is what was seen; nil where nothing was.
func seenOf(list []float64) *Seen {
	if len(list) == 0 {
		return nil
	}
	sorted := slices.Sorted(slices.Values(list))
	at := func(q float64) float64 {
		x := q * float64(len(sorted)-1)
		i := int(x)
		next := sorted[min(i+1, len(sorted)-1)]
		return sorted[i] + (x-math.Floor(x))*(next-sorted[i])
	}
	return &Seen{len(list), at(0.5), at(0.05), at(0.95)}
}

// CarderBook looks back over the latest runs on a piece of equipment.
func (s *Studio) CarderBook(ctx context.Context, equipment int64) (out CarderBook, err error) {
	if out.Equipment, err = s.AnyEquipment(ctx, equipment); err != nil {
		return out, err
	}
	kinds, err := s.AllKinds(ctx, true)
	if err != nil {
		return out, err
	}
	known, err := s.remember(ctx, kinds)
	if err != nil {
		return out, err
	}
	past, err := s.past(ctx)
	if err != nil {
		return out, err
	}
	out.Kinds, out.Passes = learnedKinds(kinds, known.on[equipment]), []PassLoss{}
	var minutes []float64
	rates := map[int][]float64{}
	for _, r := range past {
		if r.equipment != equipment {
			continue
		}
		minutes, out.MostG = append(minutes, r.minutes...), max(out.MostG, r.most)
		for _, l := range r.lessons {
			if l.learn && l.first == l.pass {
				rates[l.pass] = append(rates[l.pass], 100*l.rate)
			}
		}
	}
	out.Minutes = seenOf(minutes)
	for pass, list := range rates {
		out.Passes = append(out.Passes, PassLoss{pass, *seenOf(list)})
	}
	slices.SortFunc(out.Passes, func(a, b PassLoss) int { return cmp.Compare(a.Pass, b.Pass) })
	held, err := s.cloth(ctx, out.Equipment)
	if err != nil {
		return out, err
	}
	out.ClothG, out.HoldsG, out.UsualG = inGrams(held.now), held.most, held.usual
	out.Cleanings, err = s.Cleanings(ctx, equipment)
	return out, err
}

// learnedKinds lists what was learned of kinds, beside what is usual.
func learnedKinds(kinds Kinds, known map[string]losses.Known) []KindLearned {
	out := []KindLearned{}
	for _, k := range kinds.List {
		if v := learnedOf(known, k.Key); v != nil && !k.Blended {
			out = append(out, KindLearned{k.Key, k.Name, k.LossPct.Mid(), *v})
		}
	}
	return out
}
