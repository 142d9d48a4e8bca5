package recipepages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/web/art"
	"fairtangle/web/show"
)

// keepBody are the pictures of a blend that can be saved.
type keepBody struct {
	Blend recipe.Blend
	Kept  []keptPicture
	Laid  string // the lay-up that is drawn; empty: none
}

// keptPicture is a picture by its name in the address.
type keptPicture struct {
	Key, Name, Sub string
}

// picturesPage shows what can be kept of a blend as a picture.
func (s *Room) picturesPage(c *gin.Context) error {
	b, _, p, _, err := s.beside(c)
	if err != nil {
		return err
	}
	l, laid, err := s.latestLayup(c, b)
	if err != nil {
		return err
	}
	body := keepBody{Blend: b}
	if len(b.Components) > 0 {
		body.Kept = []keptPicture{
			{"bar", "Share bar", "each fibre as wide as its share"}, {"strand", "Strand", "its fibres, drafted"},
			{"swatch", "Colour", "of all of it, carded until it is even"},
		}
	}
	if laid {
		body.Laid = l.Name
		body.Kept = append(body.Kept, keptPicture{"bed", "Bed", l.Name + ", seen from above"}, keptPicture{"layers", "Layers", l.Name + ", the cloth below"})
	}
	p.Title, p.Scripts = "Pictures of "+b.Name, []string{"js/keep.js"}
	s.Render(c, http.StatusOK, "pictures", p, body)
	return nil
}

// keptDrawing draws one of them.
func (s *Room) keptDrawing(c *gin.Context) error {
	b, err := s.Blend(c)
	if err != nil {
		return err
	}
	of := c.Param("of")
	var drawn []byte
	switch {
	case len(b.Components) == 0:
		return floor.ErrNotFound
	case of == "bar.svg":
		drawn = art.Bar(barParts(b))
	case of == "swatch.svg":
		drawn = art.Swatch(b.Hex)
	case of == "strand.svg":
		drawn = strandOf(b)
	case of == "bed.svg" || of == "layers.svg":
		l, laid, err := s.latestLayup(c, b)
		if err != nil {
			return err
		}
		if !laid {
			return floor.ErrNotFound
		}
		if drawn = art.Layers(LaidParts(l)); of == "bed.svg" {
			drawn = art.Bed(LaidParts(l), l.Bed.WidthMM, l.Bed.LengthMM)
		}
	default:
		return floor.ErrNotFound
	}
	c.Data(http.StatusOK, "image/svg+xml", drawn)
	return nil
}

// latestLayup is the lay-up of a blend that was begun last and has layers.
func (s *Room) latestLayup(c *gin.Context, b recipe.Blend) (l laying.Layup, laid bool, err error) {
	rows, err := s.Studio.Laying.LayupsOf(c.Request.Context(), b.ID)
	if err != nil || len(rows) == 0 {
		return l, false, err
	}
	l, err = s.Studio.Laying.Layup(c.Request.Context(), rows[len(rows)-1].ID)
	return l, err == nil && len(l.LaidPlan.Layers) > 0, err
}

// barParts are the fibres of a blend side by side.
func barParts(b recipe.Blend) (out []art.Stripe) {
	var at float64
	for i, v := range b.Components {
		out = append(out, art.Stripe{Fibre: fibreOf(v, i), Letter: show.Letter(i), From: at, To: at + v.Share})
		at += v.Share
	}
	return out
}

func fibreOf(v recipe.Component, i int) art.Fibre {
	return art.Fibre{Hexes: v.Hexes(), Family: v.Fibre.Family, Crimp: v.Fibre.Crimp, Lustre: v.Fibre.Lustre, Prep: v.Preparation, Seed: uint64(i + 1)}
}

// strandOf draws the fibres of a blend drafted to a yarn.
func strandOf(b recipe.Blend) []byte {
	f := art.Fibre{Seed: uint64(b.ID)}
	for _, v := range b.Components {
		hexes := v.Hexes()
		for _, h := range hexes {
			f.Hexes, f.Shares = append(f.Hexes, h), append(f.Shares, v.Share/float64(len(hexes)))
		}
	}
	return art.Strand(f, 2, nil, "#ffffff")
}

// LaidParts are the lays of a lay-up, to be drawn.
func LaidParts(l laying.Layup) [][]art.Stripe { return partsOf(l.LaidPlan.Layers, l.Fibres) }

func partsOf(layers []layup.Layer, fibres []laying.LayupFibre) (out [][]art.Stripe) {
	for _, layer := range layers {
		var parts []art.Stripe
		for _, y := range layer.Lays {
			if y.Component >= len(fibres) || fibres[y.Component].Gone {
				continue
			}
			f := fibres[y.Component]
			k := f.KindProperties()
			parts = append(parts, art.Stripe{
				Fibre:  art.Fibre{Hexes: f.Hexes, Family: k.Family, Crimp: k.Crimp, Lustre: k.Lustre, Prep: f.Preparation},
				Letter: show.Letter(y.Component), From: y.From, To: y.To, Start: y.Start, End: y.End, Grams: y.Grams,
			})
		}
		out = append(out, parts)
	}
	return out
}
