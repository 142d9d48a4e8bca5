package scale

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/losses"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// Colour is that of a unit of these finished grams, with what it is added to.
func (w *Weighout) Colour(grams []float64) colour.Reflectance {
	if w.Added == nil {
		return w.At.Even(w.Tints, grams)
	}
	return w.At.Even(append(slices.Clip(w.Tints), *w.Added), append(slices.Clip(grams), w.AddedToG))
}

// WayAt is the way of a component of a weigh-out.
func WayAt(r store.Weighout, component int) losses.Way {
	p := r.Components[component]
	return losses.Way{Fall: losses.Fall{First: p.LossPct / 100, Decay: p.Decay}, Alone: p.AloneFirst, Joins: p.JoinsAtPass, Passes: r.Passes}
}

// stays takes what the cloth keeps of each unit from what comes off, one after the other: on what its lay-up is laid on, else on the
// first piece of equipment that takes it.
func (s *Room) stays(ctx context.Context, w *Weighout) error {
	e, err := s.cardedOn(ctx, *w)
	if err != nil || e.ID == 0 {
		return err
	}
	now, most, err := s.Cloths.ClothFor(ctx, w.ID, e)
	if err != nil {
		return err
	}
	w.CardedOn = e.Name
	for u := range w.Units {
		unit := &w.Units[u]
		grows := min(losses.Fill(most, now), unit.ExpectedG)
		now += grows
		unit.ExpectedG -= grows
		w.ExpectedG -= grows
		w.StaysG += grows
	}
	return nil
}

// cardedOn is the equipment that a weigh-out is for; none where there is none.
func (s *Room) cardedOn(ctx context.Context, w Weighout) (e workshop.Equipment, err error) {
	if w.LayupID != nil {
		rows, err := store.Pieces[store.Layup](ctx, s.Store, "id = ?", *w.LayupID)
		if err != nil {
			return e, err
		}
		if len(rows) > 0 {
			return s.workshop.LaidOn(ctx, rows[0].EquipmentID)
		}
	}
	list, err := s.workshop.Equipment(ctx)
	if err != nil || len(list) == 0 {
		return e, err
	}
	return list[0], nil
}

// expect works out what will come off: weight, shares, and the largest colour
// difference between two units.
func (w *Weighout) expect(r store.Weighout) {
	n := len(r.Components)
	finished := make([]float64, n)
	units := make([][]float64, len(w.Units))
	for i := range units {
		units[i] = make([]float64, n)
	}
	for _, c := range r.Cells {
		g := WayAt(r, c.Position).Finished(floor.InGrams(floor.NowOf(c)))
		units[c.Unit][c.Position] = g
		finished[c.Position] += g
		w.ExpectedG += g
		w.Units[c.Unit].ExpectedG += g
	}
	for i := range w.Components {
		if w.ExpectedG > 0 {
			w.Components[i].FinishedShare = finished[i] / w.ExpectedG
		}
	}
	labs := make([]colour.Lab, 0, len(units))
	for u, f := range units {
		var sum float64
		for _, v := range f {
			sum += v
		}
		if sum == 0 {
			continue
		}
		mixed := w.Colour(f)
		for i := range f {
			f[i] /= sum
			w.WorstShare = max(w.WorstShare, math.Abs(f[i]-r.Components[i].Share))
		}
		w.Units[u].Hex = mixed.Linear().Hex()
		labs = append(labs, mixed.Lab())
	}
	for i := range labs {
		for j := range i {
			w.LargestDelta = max(w.LargestDelta, colour.CIEDE2000(labs[i], labs[j]))
		}
	}
}
