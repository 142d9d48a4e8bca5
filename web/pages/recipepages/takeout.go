package recipepages

import (
	"fmt"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/show"
)

// takeOuts shows what can be drawn out of a blend.
func (s *Room) takeOuts(c *gin.Context, u show.Units, in recipe.BlendInput, list []reach.TakenOut) ([]RecipeView, error) {
	out := []RecipeView{}
	for _, t := range list {
		then := in
		then.Came = &t.Came
		r, err := s.Offered(c, u, then, t.Components, t.TotalG)
		if err != nil {
			return nil, err
		}
		r.Came, r.Hex, r.DeltaE, r.Words = &t.Came, t.Hex, show.Fixed(t.DeltaE, 1), t.Words
		r.Out = u.Grams(t.Grams) + " " + nameIn(r.Rows, t.Components, in.Components[t.Component])
		r.Facts = fmt.Sprintf("leaves %s", u.Grams(t.TotalG))
		out = append(out, r)
	}
	return out, nil
}
