package api

import (
	"context"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

func (s *server) weighouts(at methods) {
	at.get("/weighouts/:id", answer.One(s.studio.Weighout))
	s.bin(at, "/weighouts", "weighouts")
	at.ask("/weighouts/:id/consider", answer.Asked(s.studio.Consider))
	at.post("/weighouts/:id/weighings", answer.Under(s.studio.Weigh))
	at.post("/weighouts/:id/undo", answer.Saved(s.undoWeighing))
	at.post("/weighouts/:id/order", answer.Saved(s.orderWeighing))
	at.put("/weighouts/:id/units/:unit", s.noteUnit)
}

func (s *server) weighoutsOf(ctx context.Context, blend int64) ([]studio.Weighout, error) {
	if _, err := s.studio.Blend(ctx, blend); err != nil {
		return nil, err
	}
	rows, err := s.studio.WeighoutsOf(ctx, blend)
	if err != nil {
		return nil, err
	}
	out := make([]studio.Weighout, len(rows))
	for i, r := range rows {
		if out[i], err = s.studio.Weighout(ctx, r.ID); err != nil {
			return nil, err
		}
	}
	return out, nil
}

type placed struct {
	Unit      *int `json:"unit"`
	Component int  `json:"component"`
}

// undoWeighing takes back the last weighing, or what was weighed for the place
// named.
func (s *server) undoWeighing(ctx context.Context, id, version int64, q placed) (studio.Weighout, error) {
	if q.Unit != nil {
		return s.studio.TakeBack(ctx, id, version, studio.Place{Unit: *q.Unit, Component: q.Component})
	}
	return s.studio.UndoWeighing(ctx, id, version)
}

func (s *server) noteUnit(c *gin.Context) error {
	var q studio.NoteInput
	n, err := answer.WithBody(c, &q)
	if err != nil {
		return err
	}
	unit, err := strconv.Atoi(c.Param("unit"))
	if err != nil {
		return studio.ErrNotFound
	}
	return answer.JSON[studio.Weighout](c, http.StatusOK)(s.studio.NoteUnit(c.Request.Context(), n, unit, q))
}

// weighOrder is in which order a weigh-out is weighed.
type weighOrder struct {
	ByFibre bool `json:"by_fibre"`
}

func (s *server) orderWeighing(ctx context.Context, id, version int64, q weighOrder) (studio.Weighout, error) {
	return s.studio.WeighBy(ctx, id, version, q.ByFibre)
}
