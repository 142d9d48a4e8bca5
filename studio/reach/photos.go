package reach

import (
	"context"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// PaletteColour is a colour of a photo's palette, with the best blend that the
// shelf has for it.
type PaletteColour struct {
	Hex   string     `json:"hex"`
	Lab   [3]float64 `json:"lab"`
	Name  string     `json:"name"`
	Part  float64    `json:"part"` // of the picture
	Blend *Found     `json:"blend"`
}

// Palette returns 3 to 8 colours that stand for a photo, each with the best
// blend of totalG from the shelf.
func (s *Room) Palette(ctx context.Context, id int64, colours int, totalG float64) ([]PaletteColour, error) {
	r, err := s.shelf.Photo(ctx, id)
	if err != nil {
		return nil, err
	}
	p, err := s.shelf.Picture(ctx, r)
	if err != nil {
		return nil, err
	}
	swatches, err := p.Palette(ctx, colours, shelf.BalanceOf(r))
	if err != nil {
		return nil, err
	}
	blend := recipe.BlendInput{Name: "palette", TotalG: totalG, Passes: DefaultPasses}
	q := FindInput{MaxComponents: 3, Count: 1, Wish: Wish{NoSparkle: true}}
	there, err := s.Candidates(ctx, blend, q.Wish)
	if err = exceptTotal(err); err != nil {
		return nil, err
	}
	out := make([]PaletteColour, 0, len(swatches))
	names := map[string]int{}
	for _, w := range swatches {
		c := PaletteColour{
			Hex:  w.Colour.Linear().Hex(),
			Lab:  [3]float64{w.Colour.L, w.Colour.A, w.Colour.B},
			Name: unlike(names, colour.Name(w.Colour)),
			Part: w.Part,
		}
		var a FindAnswer
		if len(there.Lots) > 0 {
			a, err = there.find(ctx, blend, q, w.Colour.Linear(), nil)
		}
		if err = exceptTotal(err); err != nil {
			return nil, err
		}
		if len(a.Found) > 0 {
			c.Blend = &a.Found[0]
		}
		out = append(out, c)
	}
	return out, nil
}

// ThrowOf is a blend for each colour of a palette of a photo, found and not kept.
func (s *Room) ThrowOf(ctx context.Context, id int64, colours int, totalG float64) (out []recipe.BlendInput, err error) {
	palette, err := s.Palette(ctx, id, colours, totalG)
	for _, c := range palette {
		in := recipe.BlendInput{Name: c.Name, TotalG: totalG, Passes: 2, Target: c.Hex, Components: []recipe.BlendComponent{}}
		if c.Blend != nil {
			in.Components = c.Blend.Components
		}
		out = append(out, in)
	}
	return out, err
}

// exceptTotal leaves out what can not be found: an empty shelf has no blend to
// offer, but a weight that can not be is said.
func exceptTotal(err error) error {
	if l, isFault := fault.From(err); isFault && l[0].Field != "total_g" {
		return nil
	}
	return err
}

// unlike numbers names that were given before.
func unlike(seen map[string]int, name string) string {
	seen[name]++
	if n := seen[name]; n > 1 {
		return name + " " + string(rune('0'+min(n, 9)))
	}
	return name
}
