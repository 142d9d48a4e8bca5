package api

import (
	"context"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

func (s *server) makings(at methods) {
	at.get("/makings", func(c *gin.Context) error {
		return answer.JSON[[]studio.Making](c, http.StatusOK)(s.studio.Makings(c.Request.Context(), c.Query("archived") == "true"))
	})
	at.post("/makings", answer.Created(s.studio.CreateMaking))
	at.get("/makings/:id", answer.One(s.studio.Making))
	at.put("/makings/:id", answer.Saved(s.studio.UpdateMaking))
	s.bin(at, "/makings", "makings")
	at.post("/makings/:id/copy", answer.Made(s.studio.CopyMaking))
	at.get("/makings/:id/blends", answer.One(s.blendsOf))
	at.post("/makings/:id/blends", answer.Under(s.studio.CreateBlend))
	at.get("/makings/:id/layups", answer.One(s.studio.LayupsOfMaking))
	at.get("/makings/:id/gradients", answer.One(s.studio.GradientsOf))
	at.post("/makings/:id/gradients", answer.Under(s.studio.CreateGradient))
	at.get("/makings/:id/weighlist", s.weighList(http.StatusOK, s.studio.WeighListOf))
	at.post("/makings/:id/weighlist", s.weighList(http.StatusCreated, s.studio.WeighOutAll))
}

func (s *server) blendsOf(ctx context.Context, making int64) ([]studio.Blend, error) {
	if _, err := s.studio.Making(ctx, making); err != nil {
		return nil, err
	}
	return s.studio.BlendsOf(ctx, making)
}

// weighList answers with the list of a making's blends, or of those named.
func (s *server) weighList(status int, of func(context.Context, int64, []int64) (studio.WeighList, error)) answer.Handler {
	return func(c *gin.Context) error {
		n, err := answer.ID(c, "id")
		if err != nil {
			return err
		}
		if _, err := s.studio.Making(c.Request.Context(), n); err != nil {
			return err
		}
		return answer.JSON[studio.WeighList](c, status)(of(c.Request.Context(), n, answer.IDs(c, "blends")))
	}
}
