package scale

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
)

// RunningOut is what can be done where a lot has less than is still to weigh of it.
type RunningOut struct {
	Component int
	HaveG     float64
	RestG     float64   // still to weigh
	Instead   []Instead // other lots, the nearest colour first
	// FewerUnits is how many units nothing is weighed into yet would be left out, 0 where
	// that does not help.
	FewerUnits int
	// Spread says what spreading what there is over the units that want it does.
	SpreadDeltaE float64 // of such a unit, from the colour planned
	SpreadG      float64 // for each of them, about
}

// Instead is another lot of the same kind.
type Instead struct {
	Lot    shelf.Lot
	DeltaE float64 // of a unit weighed with it, from the colour planned
	Words  string  // how the unit differs then
	Enough bool
}

// mostInstead is how many other lots are offered.
const mostInstead = 5

// RunningOut works out the ways on for a component of a weigh-out.
func (s *Room) RunningOut(ctx context.Context, id int64, component int) (RunningOut, error) {
	r, err := s.Store.Weighout(ctx, id)
	if err != nil {
		return RunningOut{}, err
	}
	if component < 0 || component >= len(r.Components) {
		return RunningOut{}, fault.New("component", "There is no such component in this weigh-out.")
	}
	w, err := s.weighoutView(ctx, r)
	if err != nil {
		return RunningOut{}, err
	}
	c := w.Components[component]
	t := tableOf(r)
	out := RunningOut{Component: component, RestG: floor.InGrams(t.Rest(component))}
	if c.HaveG == nil {
		return out, fault.New("component", "Nobody knows how much of this there is.")
	}
	out.HaveG = *c.HaveG
	out.FewerUnits = len(t.Spare(component, unit.Grams(out.HaveG).Milligrams()))
	planned := plannedUnit(r)
	if units, wanted := t.Untouched(component); len(units) > 0 {
		little := slices.Clone(planned)
		little[component] *= min(1, out.HaveG/floor.InGrams(wanted))
		out.SpreadDeltaE, out.SpreadG = colour.CIEDE2000(w.lab(planned), w.lab(little)), out.HaveG/float64(len(units))
	}
	if c.LotID != nil {
		out.Instead, err = s.instead(ctx, &w, component, out.RestG, planned)
	}
	return out, err
}

// lab is the colour of grams mixed evenly.
func (w *Weighout) lab(grams []float64) colour.Lab {
	r := w.Colour(grams)
	return r.Lab()
}

// plannedUnit is the finished grams of a unit as it was planned.
func plannedUnit(r store.Weighout) []float64 {
	out := make([]float64, len(r.Components))
	for _, c := range r.Cells {
		if c.Unit == 0 {
			out[c.Position] = WayAt(r, c.Position).Finished(floor.InGrams(c.PlannedMg))
		}
	}
	return out
}

// instead lists other lots of the same kind, with what they do to the colour of a unit.
func (s *Room) instead(ctx context.Context, w *Weighout, component int, rest float64, planned []float64) (out []Instead, err error) {
	found, err := s.shelf.Shelf(ctx, shelf.LotFilter{Kinds: []string{w.Components[component].Kind}, Stock: "some", Sort: "colour", Limit: 200})
	if err != nil {
		return nil, err
	}
	rows, err := s.lotRows(ctx, found.Lots)
	if err != nil {
		return nil, err
	}
	then, was := w.lab(planned), w.Tints[component]
	defer func() { w.Tints[component] = was }()
	for _, l := range found.Lots {
		if slices.ContainsFunc(w.Components, func(c WeighoutPart) bool { return c.LotID != nil && *c.LotID == l.ID }) {
			continue
		}
		row := rows[l.ID]
		w.Tints[component], _ = shelf.TintOf(&row, "", l.MeanHex, l.Fibre)
		now := w.lab(planned)
		out = append(out, Instead{l, colour.CIEDE2000(then, now), colour.Words(then, now), l.Grams >= rest})
	}
	floor.InOrder(out, func(a, b Instead) int { return cmp.Compare(a.DeltaE, b.DeltaE) })
	return out[:min(len(out), mostInstead)], nil
}

func (s *Room) lotRows(ctx context.Context, lots []shelf.Lot) (map[int64]store.Lot, error) {
	ids := make([]int64, len(lots))
	for i, l := range lots {
		ids[i] = l.ID
	}
	if len(ids) == 0 {
		return nil, nil
	}
	return s.Store.LotsByID(ctx, ids)
}

// GoOn takes a way on where a lot runs out: "instead" weighs the rest from LotID,
// "fewer" leaves units out, "spread" shares what there is over the units that want it.
func (s *Room) GoOn(ctx context.Context, id, version int64, component int, way string, lotID int64) (Weighout, error) {
	now, err := s.RunningOut(ctx, id, component)
	if err != nil {
		return Weighout{}, err
	}
	have := unit.Grams(now.HaveG).Milligrams()
	var lot *store.WeighoutComponent
	change := func(*weigh.Table) error { return nil }
	switch way {
	case "instead":
		l, err := s.shelf.Lot(ctx, lotID)
		if err != nil {
			return Weighout{}, fault.New("lot", "Choose a lot of the shelf.")
		}
		if lot, err = s.exchanged(ctx, id, component, l); err != nil {
			return Weighout{}, err
		}
	case "fewer":
		change = func(t *weigh.Table) error { return t.LeaveOut(component, have) }
	case "spread":
		change = func(t *weigh.Table) error { return t.Spread(component, have) }
	default:
		return Weighout{}, fault.New("way", "A way on is instead, fewer or spread.")
	}
	row, err := s.Store.GoOn(ctx, id, version, lot, func(w *store.Weighout) error { return changeTable(w, change) })
	if err != nil {
		return Weighout{}, s.staleWeighout(ctx, err)
	}
	w, err := s.weighoutView(ctx, row)
	if err == nil {
		s.weighed(ctx, w, nil)
	}
	return w, err
}

// exchanged is a component with another lot in place of its own.
func (s *Room) exchanged(ctx context.Context, id int64, component int, l shelf.Lot) (*store.WeighoutComponent, error) {
	r, err := s.Store.Weighout(ctx, id)
	if err != nil {
		return nil, err
	}
	for _, c := range r.Components {
		if c.LotID != nil && *c.LotID == l.ID {
			return nil, fault.New("lot", "%s is in this weigh-out already.", l.Name)
		}
	}
	c := r.Components[component]
	of, _, _ := strings.Cut(c.Name, ", for ")
	if _, first, ok := strings.Cut(c.Name, ", for "); ok {
		of = first
	}
	c.LotID, c.Name, c.Kind, c.Preparation, c.Hex, c.OnlyHex = &l.ID, fmt.Sprintf("%s, for %s", l.Name, of), l.Kind, l.Preparation, l.MeanHex, ""
	return &c, nil
}
