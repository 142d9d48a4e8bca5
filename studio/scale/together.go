package scale

import (
	"context"
	"fmt"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// together lists the cells of a component of which nothing was weighed yet, and what they
// want in all.
func together(r store.Weighout, component int) (cells []int, wanted unit.Milligrams) {
	for i, c := range r.Cells {
		if c.Position == component && !c.Done && c.WeighedMg == 0 {
			cells, wanted = append(cells, i), wanted+c.TargetMg
		}
	}
	return cells, wanted
}

// divided shares what was weighed for all of them out, in steps of the scale and in
// proportion to what each wants: the parts add up to it.
func divided(r store.Weighout, cells []int, wanted, all unit.Milligrams) []unit.Milligrams {
	step := max(1, r.StepMg)
	exact := make([]float64, len(cells))
	whole := int64(all / step)
	for n, i := range cells {
		exact[n] = float64(whole) * float64(r.Cells[i].TargetMg) / float64(wanted)
	}
	out := make([]unit.Milligrams, len(cells))
	for n, count := range weigh.Apportion(exact, whole) {
		out[n] = unit.Milligrams(count) * step
	}
	out[0] += all - unit.Milligrams(whole)*step // a reading may be finer than the step
	return out
}

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
	var l fault.List
	floor.CheckGrams(&l, "grams", in.Grams)
	all := unit.Grams(in.Grams).Milligrams()
	if len(l) == 0 && all == 0 {
		l.Add("grams", "Enter what the scale says, above 0.")
	}
	if err := l.Err(); err != nil {
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
		cells, wanted := together(r, in.Component)
		if len(cells) == 0 {
			return w, nil, fault.New("component", "Every unit has some of this already.")
		}
		if off := math.Abs(float64(all - wanted)); off > float64(len(cells))*float64(r.StepMg) && in.Policy != AsIs {
			word := map[bool]string{true: "more", false: "less"}[all > wanted]
			return w, nil, fault.New("policy", "This is %s %s than all of them want. Change it, or book it as it is.", unit.Grams(off/1000), word)
		}
		for n, part := range divided(r, cells, wanted, all) {
			c := r.Cells[cells[n]]
			list = append(list, store.Weighing{Key: fmt.Sprintf("%s/%d", in.Key, n), Unit: c.Unit, Position: c.Position, GramsMg: part, Policy: AsIs})
		}
	}
	row, err := s.Store.WeighAll(ctx, id, in.Version, list, func(w *store.Weighout) error {
		for _, v := range list {
			if err := accept(w, Reading{Unit: v.Unit, Component: v.Position, Grams: floor.InGrams(v.GramsMg), Policy: AsIs}); err != nil {
				return err
			}
		}
		return nil
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
