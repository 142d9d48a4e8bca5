package api

import (
	"context"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/web/answer"
)

func (s *server) makings(at methods) {
	at.get("/makings", func(c *gin.Context) error {
		return answer.JSON[[]recipe.Making](c, http.StatusOK)(s.studio.Recipe.Makings(c.Request.Context(), c.Query("archived") == "true"))
	})
	at.post("/makings", answer.Created(s.studio.Recipe.CreateMaking))
	at.get("/makings/:id", answer.One(s.studio.Recipe.Making))
	at.put("/makings/:id", answer.Saved(s.studio.Recipe.UpdateMaking))
	s.bin(at, "/makings", "makings")
	at.post("/makings/:id/copy", answer.Made(s.studio.Recipe.CopyMaking))
	at.get("/makings/:id/blends", answer.One(s.blendsOf))
	at.post("/makings/:id/blends", answer.Under(s.studio.Recipe.CreateBlend))
	at.get("/makings/:id/layups", answer.One(s.studio.Laying.LayupsOfMaking))
	at.get("/makings/:id/gradients", answer.One(s.studio.Reach.GradientsOf))
	at.post("/makings/:id/gradients", answer.Under(s.studio.Reach.CreateGradient))
	at.get("/makings/:id/weighlist", s.weighList(http.StatusOK, s.studio.Scale.WeighListOf))
	at.post("/makings/:id/weighlist", s.weighList(http.StatusCreated, s.studio.Scale.WeighOutAll))
}

func (s *server) blendsOf(ctx context.Context, making int64) ([]recipe.Blend, error) {
	if _, err := s.studio.Recipe.Making(ctx, making); err != nil {
		return nil, err
	}
	return s.studio.Recipe.BlendsOf(ctx, making)
}

// weighList answers with the list of a making's blends, or of those named.
func (s *server) weighList(status int, of func(context.Context, int64, []int64) (scale.WeighList, error)) answer.Handler {
	return func(c *gin.Context) error {
		n, err := answer.ID(c, "id")
		if err != nil {
			return err
		}
		if _, err := s.studio.Recipe.Making(c.Request.Context(), n); err != nil {
			return err
		}
		return answer.JSON[scale.WeighList](c, status)(of(c.Request.Context(), n, answer.IDs(c, "blends")))
	}
}
