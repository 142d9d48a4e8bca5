package recipepages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/web/pages/frame"
)

// recipeCard is a recipe on one sheet, to print and keep with the fibre.
func (s *Room) recipeCard(c *gin.Context) error {
	b, _, p, u, err := s.beside(c)
	if err != nil {
		return err
	}
	body := recipeCardBody{Blend: b, Size: frame.CardSize(c, "A6"), Sizes: frame.CardSizes, Lock: c.Query("lock") != ""}
	if len(b.Components) > 0 {
		r, err := checked(s.recipeGiven(c, b, u))
		if err != nil {
			return err
		}
		if body.givenDocument, err = s.documentOf(c, r, b, u); err != nil {
			return err
		}
		body.Dense = frame.Dense(len(body.Rows) + len(r.Layers) + 5)
	}
	p.Title, p.Scripts = b.Name+", recipe card", []string{"js/print.js"}
	s.Render(c, http.StatusOK, "recipecard", p, body)
	return nil
}

type recipeCardBody struct {
	givenDocument
	Blend recipe.Blend
	Size  string
	Sizes []string
	Dense string
	Lock  bool // with the place for a lock of it
}
