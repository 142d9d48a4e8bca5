package workshop

import (
	"cmp"
	"context"
	"math"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/device"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Scale is a bench scale of the workshop.
type Scale struct {
	ID, Version int64
	Name        string
	Address     string // HOST:PORT, or a serial port
	StepG       float64
	CapacityG   float64
}

func scaleOf(r store.Scale) Scale {
	return Scale{r.ID, r.Version, r.Name, r.Address, floor.InGrams(r.StepMg), floor.InGrams(r.CapacityMg)}
}

// Scales lists the scales, the finest first.
func (s *Room) Scales(ctx context.Context) ([]Scale, error) {
	out, err := PiecesAs(ctx, s, scaleOf)
	floor.InOrder(out, func(a, b Scale) int { return cmp.Or(cmp.Compare(a.StepG, b.StepG), cmp.Compare(a.ID, b.ID)) })
	return out, err
}

// PiecesAs lists rows of a table as what is shown of them.
func PiecesAs[R, V any](ctx context.Context, s *Room, as func(R) V) ([]V, error) {
	rows, err := store.Pieces[R](ctx, s.Store)
	out := make([]V, len(rows))
	for i, r := range rows {
		out[i] = as(r)
	}
	return out, err
}

// OneScale returns a scale.
func (s *Room) OneScale(ctx context.Context, id int64) (Scale, error) {
	r, err := store.Piece[store.Scale](ctx, s.Store, id)
	return scaleOf(r), err
}

// SaveScale adds a scale (ID 0) or saves one.
func (s *Room) SaveScale(ctx context.Context, v Scale) (Scale, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the scale", &v.Name, floor.MaxName, true)
	v.Address = strings.TrimSpace(v.Address)
	if _, err := device.NewScale(v.Address); err != nil {
		l.Add("address", "A scale stands at HOST:PORT, or at a serial port such as /dev/ttyUSB0 or COM3.")
	}
	step := unit.Grams(v.StepG).Milligrams()
	switch {
	case !(v.StepG >= 0.001 && v.StepG <= 1000):
		l.Add("step_g", "The step of a scale is a milligram at least and %s at most.", unit.Grams(1000))
	case math.Abs(float64(step)-v.StepG*1000) > 1e-6:
		l.Add("step_g", "The step is a whole number of milligrams.")
	}
	if !(v.CapacityG >= 10*v.StepG && v.CapacityG <= 1e6) {
		l.Add("capacity_g", "A scale weighs at least ten of its steps, and at most %s.", unit.Grams(1e6))
	}
	if err := l.Err(); err != nil {
		return v, err
	}
	row := store.Scale{Base: store.Base{ID: v.ID, Version: v.Version}, Name: v.Name, Address: v.Address, StepMg: step,
		CapacityMg: unit.Grams(v.CapacityG).Milligrams()}
	row, err := store.PutPiece(ctx, s.Store, row)
	return scaleOf(row), floor.ConvertStale(err, func(r store.Scale) (Scale, error) { return scaleOf(r), nil })
}

// FewestSteps is how many steps of a scale a weight has at least, to be weighed well.
const FewestSteps = 5

// Suits chooses the scale for a weight: the finest that takes it. It reports whether that
// is fine enough; without any that takes it, nil.
func Suits(scales []Scale, grams float64) (*Scale, bool) {
	var best *Scale
	for i, v := range scales {
		if grams <= v.CapacityG && (best == nil || v.StepG < best.StepG) {
			best = &scales[i]
		}
	}
	return best, best != nil && grams >= FewestSteps*best.StepG
}

// Container is a bowl or a dish with what it weighs empty.
type Container struct {
	ID, Version int64
	Name        string
	WeightG     float64
}

func containerOf(r store.Container) Container {
	return Container{r.ID, r.Version, r.Name, floor.InGrams(r.WeightMg)}
}

// Containers lists them, the lightest first.
func (s *Room) Containers(ctx context.Context) ([]Container, error) {
	out, err := PiecesAs(ctx, s, containerOf)
	floor.InOrder(out, func(a, b Container) int { return cmp.Or(cmp.Compare(a.WeightG, b.WeightG), cmp.Compare(a.ID, b.ID)) })
	return out, err
}

// OneContainer returns one.
func (s *Room) OneContainer(ctx context.Context, id int64) (Container, error) {
	r, err := store.Piece[store.Container](ctx, s.Store, id)
	return containerOf(r), err
}

// SaveContainer adds a container (ID 0) or saves one.
func (s *Room) SaveContainer(ctx context.Context, v Container) (Container, error) {
	var l fault.List
	floor.CheckText(&l, "container_name", "the container", &v.Name, floor.MaxName, true)
	if !(v.WeightG > 0 && v.WeightG <= 1e5) {
		l.Add("weight_g", "A container weighs above %s and at most %s.", unit.Grams(0), unit.Grams(1e5))
	}
	if err := l.Err(); err != nil {
		return v, err
	}
	row := store.Container{Base: store.Base{ID: v.ID, Version: v.Version}, Name: v.Name, WeightMg: unit.Grams(v.WeightG).Milligrams()}
	row, err := store.PutPiece(ctx, s.Store, row)
	return containerOf(row), floor.ConvertStale(err, func(r store.Container) (Container, error) { return containerOf(r), nil })
}
