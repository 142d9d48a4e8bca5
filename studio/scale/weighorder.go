package scale

import "context"

// follow finds what is weighed next, and how often another bag is opened until all is
// weighed.
func (w *Weighout) follow() {
	bag := -1
	for _, at := range w.Order() {
		if w.Units[at.Unit].Cells[at.Component].Done {
			continue
		}
		if w.Next == nil {
			w.Next = &Cell{at.Unit, at.Component}
		}
		if at.Component != bag {
			bag = at.Component
			w.BagChanges++
		}
	}
}

// Order is all places in the order in which they are weighed.
func (w *Weighout) Order() []Cell {
	units, fibres := len(w.Units), len(w.Components)
	out := make([]Cell, 0, units*fibres)
	for i := range units * fibres {
		if w.ByFibre {
			out = append(out, Cell{i % units, i / units})
		} else {
			out = append(out, Cell{i / fibres, i % fibres})
		}
	}
	return out
}

// WeighBy says in which order a weigh-out is weighed: one bag after the other for all
// units, or unit by unit.
func (s *Room) WeighBy(ctx context.Context, id, version int64, byFibre bool) (Weighout, error) {
	row, err := s.Store.RoundWeighout(ctx, id, version, byFibre)
	if err != nil {
		return Weighout{}, s.staleWeighout(ctx, err)
	}
	w, err := s.weighoutView(ctx, row)
	if err == nil {
		s.weighed(ctx, w, nil)
	}
	return w, err
}
