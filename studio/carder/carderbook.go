package carder

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/workshop"
)

// CarderBook is what the runs on a piece of equipment have shown.
type CarderBook struct {
	Equipment workshop.Equipment `json:"-"`
	Passes    []PassLoss         `json:"passes"`
	Kinds     []KindLearned      `json:"kinds"`
	Minutes   *Seen              `json:"minutes"` // of a pass of one unit; null: none was timed
	MostG     float64            `json:"most_g"`  // its heaviest unit; 0: none was weighed
	Fullest   []FullBatt         `json:"fullest"` // the fullest first
	ClothG    float64            `json:"cloth_g"` // that lies in its cloth now, as far as is known
	HoldsG    float64            `json:"cloth_holds_g"`
	UsualG    float64            `json:"cloth_usual_g"` // that a cloth of its size holds
	Cleanings []Cleaning         `json:"cleanings"`
}

// FullBatt is a unit of a run, and how full it was by what is kept of the equipment.
type FullBatt struct {
	RunID int64   `json:"run_id"`
	Unit  int     `json:"unit"`
	Name  string  `json:"name"`
	Grams float64 `json:"grams"`
	Load  float64 `json:"load"`
}

// mostFull is how many of the fullest units are told.
const mostFull = 5

// fullest are the fullest of what was made on a bed.
func fullest(made []lessons.Made, on layup.Bed) []FullBatt {
	out := []FullBatt{}
	for _, m := range made {
		if len(m.Fibres) > 0 {
			out = append(out, FullBatt{m.Run, m.Unit, m.Name, m.Grams, m.Grams / on.Capacity(m.Fibres)})
		}
	}
	floor.InOrder(out, func(a, b FullBatt) int { return cmp.Compare(b.Load, a.Load) })
	return out[:min(len(out), mostFull)]
}

// WasFull has a unit of a run be what its equipment holds: what it holds of smooth and lofty fibre is measured by
// that. A run that is on other equipment, or a unit of which nothing was weighed, is not found.
func (s *Room) WasFull(ctx context.Context, equipment int64, in FullInput) (workshop.Equipment, error) {
	e, err := s.workshop.OneEquipment(ctx, equipment)
	if err != nil {
		return e, err
	}
	past, err := s.lessons.Past(ctx)
	if err != nil {
		return e, err
	}
	for _, r := range past {
		for _, m := range r.Units {
			if r.Equipment != equipment || m.Run != in.Run || m.Unit != in.Unit || len(m.Fibres) == 0 {
				continue
			}
			full := e.Bed().FullOf(m.Fibres, m.Grams)
			e.Version, e.SmoothG, e.LoftyG = in.Version, unit.Clean(float64(full.Smooth)), unit.Clean(float64(full.Lofty))
			return s.workshop.SaveEquipment(ctx, e)
		}
	}
	return e, floor.ErrNotFound
}

// FullInput names a unit of a run, and the version of the equipment that was looked at.
type FullInput struct {
	Version int64
	Run     int64
	Unit    int
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
func (s *Room) CarderBook(ctx context.Context, equipment int64) (out CarderBook, err error) {
	if out.Equipment, err = s.workshop.AnyEquipment(ctx, equipment); err != nil {
		return out, err
	}
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return out, err
	}
	known, err := s.lessons.Remember(ctx, kinds)
	if err != nil {
		return out, err
	}
	past, err := s.lessons.Past(ctx)
	if err != nil {
		return out, err
	}
	out.Kinds, out.Passes = LearnedKinds(kinds, known.On[equipment]), []PassLoss{}
	var minutes []float64
	var made []lessons.Made
	rates := map[int][]float64{}
	for _, r := range past {
		if r.Equipment != equipment {
			continue
		}
		minutes, made = append(minutes, r.Minutes...), append(made, r.Units...)
		for _, l := range r.Lessons {
			if l.Learn && l.First == l.Pass {
				rates[l.Pass] = append(rates[l.Pass], 100*l.Rate)
			}
		}
	}
	for _, m := range made {
		out.MostG = max(out.MostG, m.Grams)
	}
	out.Minutes, out.Fullest = seenOf(minutes), fullest(made, out.Equipment.Bed())
	for pass, list := range rates {
		out.Passes = append(out.Passes, PassLoss{pass, *seenOf(list)})
	}
	floor.InOrder(out.Passes, func(a, b PassLoss) int { return cmp.Compare(a.Pass, b.Pass) })
	held, err := s.cloth(ctx, out.Equipment)
	if err != nil {
		return out, err
	}
	out.ClothG, out.HoldsG, out.UsualG = floor.InGrams(held.now), held.most, held.usual
	out.Cleanings, err = s.Cleanings(ctx, equipment)
	return out, err
}

// LearnedKinds lists what was learned of kinds, beside what is usual.
func LearnedKinds(kinds workshop.Kinds, known losses.Memory) []KindLearned {
	out := []KindLearned{}
	for _, k := range kinds.List {
		if v := lessons.LearnedOf(known, k.Key); v != nil && !k.Blended {
			out = append(out, KindLearned{k.Key, k.Name, k.LossPct.Mid(), *v})
		}
	}
	return out
}

// KindLearned is what was learned of a kind, beside what is usual.
type KindLearned struct {
	Kind     string  `json:"kind"`
	Name     string  `json:"name"`
	UsualPct float64 `json:"usual_pct"`
	lessons.Learned
}

// FewestMinutes is from how many passes the minutes of a carder are learned.
const FewestMinutes = 3

// MinutesSeen is how long passes on equipment have taken; nil where none was timed.
func (s *Room) MinutesSeen(ctx context.Context, equipment int64) (*Seen, error) {
	past, err := s.lessons.Past(ctx)
	if err != nil {
		return nil, err
	}
	var seen []float64
	for _, r := range past {
		if r.Equipment == equipment {
			seen = append(seen, r.Minutes...)
		}
	}
	return seenOf(seen), nil
}

// A pass is foreseen to take the minutes of the equipment's measures, and between these times
// as long, until enough were timed.
const fastest, slowest = 0.6, 1.6

// minutesForeseen is how long a pass is foreseen to take; nil where nothing says so.
func (s *Room) minutesForeseen(ctx context.Context, e workshop.Equipment) (*store.Span, error) {
	seen, err := s.MinutesSeen(ctx, e.ID)
	switch {
	case err != nil:
		return nil, err
	case seen != nil && seen.Times >= FewestMinutes:
		return &store.Span{Mid: seen.Mid, Low: seen.Low, High: seen.High}, nil
	case e.Minutes > 0:
		return &store.Span{Mid: e.Minutes, Low: fastest * e.Minutes, High: slowest * e.Minutes}, nil
	}
	return nil, nil
}
