package api

import (
	"context"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
)

// together names lots that are put to one, based on a version of it.
type together struct {
	Version int64   `json:"version"`
	Lots    []int64 `json:"lots"`
	Key     string  `json:"key"`
}

// partings are lots that become several, and several that become one.
func (s *server) partings(at methods) {
	at.get("/lots/:id/parts", answer.One(func(ctx context.Context, id int64) ([]shelf.Parting, error) {
		if _, err := s.studio.Shelf.Lot(ctx, id); err != nil {
			return nil, err
		}
		return s.studio.Shelf.Partings(ctx, id)
	}))
	at.post("/lots/:id/parts", answer.Under(s.studio.Shelf.Part))
	at.post("/lots/:id/together", answer.Under(func(ctx context.Context, id int64, q together) (shelf.Parting, error) {
		return s.studio.Shelf.PutTogether(ctx, id, q.Version, q.Lots, q.Key)
	}))
	at.post("/lots/:id/parts/:parting/undo", func(c *gin.Context) error {
		n, err := answer.ID(c, "id")
		if err != nil {
			return err
		}
		p, err := answer.ID(c, "parting")
		if err != nil {
			return err
		}
		return answer.JSON[shelf.Parting](c, http.StatusCreated)(s.studio.Shelf.Unpart(c.Request.Context(), n, p))
	})
}
