package laying

import (
	"context"

	"fairtangle/core/layup"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// UnitsFor is how many units a blend makes, and on what: as its latest lay-up
// says, else as the first piece of equipment needs; 0 where there is neither.
func (s *Room) UnitsFor(ctx context.Context, b recipe.Blend) (int, workshop.Equipment, error) {
	if b.ID == 0 || len(b.Components) == 0 {
		return 0, workshop.Equipment{}, nil
	}
	rows, err := s.LayupsOf(ctx, b.ID)
	if err != nil {
		return 0, workshop.Equipment{}, err
	}
	if len(rows) > 0 {
		e, err := s.workshop.LaidOn(ctx, rows[0].EquipmentID)
		return rows[0].Units, e, err
	}
	fills, err := s.Fills(ctx, b, b.WeighInG)
	if err != nil || len(fills) == 0 {
		return 0, workshop.Equipment{}, err
	}
	return fills[0].Units, fills[0].Equipment, nil
}

// Fill is how full a piece of equipment is with one unit.
type Fill struct {
	Equipment workshop.Equipment
	CapacityG float64
	Fraction  float64
	Units     int // needed for the whole, as full as the school of the making fills it
}

// Fills tells for each piece of equipment how full it gets with unitG of a
// blend, and how many units the whole of it makes.
func (s *Room) Fills(ctx context.Context, b recipe.Blend, unitG float64) ([]Fill, error) {
	list, err := s.workshop.Equipment(ctx)
	if err != nil || len(b.Components) == 0 {
		return nil, err
	}
	schools, err := s.schoolsOf(ctx, b.MakingID)
	if err != nil {
		return nil, err
	}
	b.Passes = layup.PassesBy(schools, b.Passes)
	var out []Fill
	for _, e := range list {
		fibres := WeighedIn(b, e.Bed())
		capacity := e.Bed().Capacity(fibres)
		out = append(out, Fill{Equipment: e, CapacityG: capacity, Fraction: unitG / capacity, Units: e.Bed().UnitsFor(fibres, layup.Filled(schools))})
	}
	return out, nil
}

func (s *Room) schoolsOf(ctx context.Context, making int64) (map[string]string, error) {
	if making == 0 {
		return nil, nil
	}
	m, err := s.Store.Making(ctx, making)
	return m.Schools, err
}
