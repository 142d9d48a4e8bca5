package reach

import (
	"context"
	"fmt"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// GradientBlends makes a blend of each rung of a gradient, in its order: its
// finished weight is what is left of the rung's grams after the passes, so that
// these are what is weighed in. What comes from one colour of a painted top stays
// that colour.
func (s *Room) GradientBlends(ctx context.Context, id int64) ([]recipe.Blend, error) {
	g, err := s.Gradient(ctx, id)
	if err != nil {
		return nil, err
	}
	if len(g.Steps) == 0 {
		return nil, fault.New("stops", "The gradient is empty; add a stop first.")
	}
	lots, err := s.lotsOfStops(ctx, g.Stops)
	if err != nil {
		return nil, err
	}
	var inputs []recipe.BlendInput
	for i, step := range g.Steps {
		in := recipe.BlendInput{
			Name:   rungName(g, i),
			Target: step.Hex,
			Passes: g.PassesPlanned(),
			Place:  fmt.Sprintf("rung %d of %d of %s", i+1, len(g.Steps), g.Name),
		}
		for _, part := range step.Parts {
			stop := g.Stops[part.Stop]
			c := recipe.BlendComponent{Name: stop.Name, Kind: stop.Kind, Preparation: stop.Preparation, Hex: stop.Hex, Parts: part.Grams * g.yields[part.Stop]}
			c.OwnG = part.Grams
			if stop.LotID != nil {
				if row, ok := lots[*stop.LotID]; ok && hasColour(row, stop.Hex) {
					c.LotID, c.OwnG = stop.LotID, 0
					if len(row.Colours) > 1 {
						c.Only = stop.Hex
					}
				}
			}
			in.TotalG += c.Parts
			if at := slices.IndexFunc(in.Components, c.SameFibre); at >= 0 {
				in.Components[at].Parts += c.Parts
				in.Components[at].OwnG += c.OwnG
			} else if c.Parts > 0 {
				in.Components = append(in.Components, c)
			}
		}
		in.TotalG = float64(unit.Grams(in.TotalG).Milligrams()) / 1000
		inputs = append(inputs, in)
	}
	return s.recipe.CreateBlends(ctx, g.MakingID, inputs)
}

// hasColour reports whether a lot has a colour; what was coloured by hand on the
// gradient's page is no longer that lot.
func hasColour(row store.Lot, hex string) bool {
	return slices.ContainsFunc(row.Colours, func(c store.Colour) bool { return c.Hex == hex })
}

func (s *Room) lotsOfStops(ctx context.Context, stops []store.GradientStop) (map[int64]store.Lot, error) {
	var ids []int64
	for _, v := range stops {
		if v.LotID != nil {
			ids = append(ids, *v.LotID)
		}
	}
	if len(ids) == 0 {
		return map[int64]store.Lot{}, nil
	}
	return s.Store.LotsByID(ctx, ids)
}

func rungName(g Ladder, i int) string {
	name := []rune(fmt.Sprintf("%s %d, %s", g.Name, i+1, g.Steps[i].Name))
	return string(name[:min(len(name), floor.MaxName)])
}

// StopsOfLot divides a lot into bundles by colour, each with its share of the
// grams: a painted top becomes the stops of a gradient.
func (s *Room) StopsOfLot(ctx context.Context, lot int64) ([]store.GradientStop, error) {
	l, err := s.shelf.Lot(ctx, lot)
	if err != nil {
		return nil, err
	}
	if l.Grams <= 0 {
		return nil, fault.New("grams", "There is none of this lot left.")
	}
	seen := map[string]int{}
	var out []store.GradientStop
	for _, c := range l.Colours {
		stop := store.GradientStop{LotID: &l.ID, Name: l.Name, Kind: l.Kind, Preparation: l.Preparation, Hex: c.Hex, Grams: l.Grams * c.Share}
		if len(l.Colours) > 1 {
			lin, _ := colour.ParseHex(c.Hex)
			stop.Name = unlike(seen, colour.Name(lin.Lab()))
		}
		out = append(out, stop)
	}
	return out, nil
}
