package scale

import (
	"context"
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
)

// Portion is what one unit gets of what was weighed for several.
type Portion struct {
	Unit int
	Mg   unit.Milligrams
}

// WeighTogether books one reading for all units that have nothing of a component yet, to
// be divided among them, and gives what each of them gets: the portions add up to the reading.
// More than a step off for each it needs the policy as-is.
func (s *Room) WeighTogether(ctx context.Context, id int64, in Reading) (w Weighout, parts []Portion, err error) {
	err = s.Deed(ctx, func(ctx context.Context) error {
		var list []store.Weighing
		w, list, err = s.weighTogether(ctx, id, in)
		for _, v := range list {
			parts = append(parts, Portion{v.Unit, v.GramsMg})
		}
		return err
	})
	return w, parts, err
}

func (s *Room) weighTogether(ctx context.Context, id int64, in Reading) (w Weighout, list []store.Weighing, err error) {
	if len(in.Key) < 8 || len(in.Key) > 50 {
		return w, nil, fault.New("key", "A weighing carries a key of 8 to 50 signs that is its own.")
	}
	taking, err := in.taking()
	if err != nil {
		return w, nil, err
	}
	if err := s.Held(id, in.Window); err != nil {
		return w, nil, err
	}
	r, err := s.Store.Weighout(ctx, id)
	if err != nil {
		return w, nil, err
	}
	for _, w := range r.Weighings { // sent again: as it was booked
		if w.Key == in.Key || len(w.Key) > len(in.Key) && w.Key[:len(in.Key)+1] == in.Key+"/" {
			list = append(list, store.Weighing{Key: w.Key, Unit: w.Unit, Position: w.Position, GramsMg: w.GramsMg, Policy: w.Policy})
		}
	}
	if len(list) == 0 {
		parts, err := tableOf(r).Together(taking)
		if err != nil {
			return w, nil, err
		}
		for n, part := range parts {
			list = append(list, weighingOf(fmt.Sprintf("%s/%d", in.Key, n), part))
		}
	}
	row, err := s.Store.WeighAll(ctx, id, in.Version, list, func(w *store.Weighout) error {
		return changeTable(w, func(t *weigh.Table) error {
			for _, v := range list {
				if err := t.Take(weigh.Taking{Unit: v.Unit, Component: v.Position, Weight: v.GramsMg, Policy: weigh.AsIs}); err != nil {
					return err
				}
			}
			return nil
		})
	})
	if err != nil {
		return w, nil, s.staleWeighout(ctx, err)
	}
	w, err = s.weighoutView(ctx, row)
	if err == nil {
		s.weighed(ctx, w, &in)
		s.Store.After(ctx, func(context.Context) { s.plates.parted(id, in.Key, list) })
	}
	return w, list, err
}

// parted keeps what each part was, so that one of them can be taken back.
func (p *plates) parted(id int64, key string, list []store.Weighing) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if at := p.places[id]; at != nil && at.taken[key] > 0 {
		for _, v := range list {
			at.taken[v.Key] = v.GramsMg
		}
	}
}

// TogetherG is what all units that have nothing of a component yet want of it, and how
// many they are.
func (w *Weighout) TogetherG(component int) (grams float64, units int) {
	for _, u := range w.Units {
		if c := u.Cells[component]; !c.Done && c.WeighedG == 0 {
			grams, units = unit.Clean(grams+c.TargetG), units+1
		}
	}
	return grams, units
}
