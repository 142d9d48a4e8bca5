package api

import (
	"context"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/studio/scale"
	"fairtangle/web/answer"
)

func (s *server) weighouts(at methods) {
	at.get("/weighouts/:id", answer.One(s.studio.Scale.Weighout))
	s.bin(at, "/weighouts", "weighouts")
	at.ask("/weighouts/:id/consider", answer.Asked(s.studio.Scale.Consider))
	at.post("/weighouts/:id/weighings", answer.Under(s.studio.Scale.Weigh))
	at.post("/weighouts/:id/undo", answer.Saved(s.undoWeighing))
	at.post("/weighouts/:id/order", answer.Saved(s.orderWeighing))
	at.put("/weighouts/:id/units/:unit", s.noteUnit)
}

func (s *server) weighoutsOf(ctx context.Context, blend int64) ([]scale.Weighout, error) {
	if _, err := s.studio.Recipe.Blend(ctx, blend); err != nil {
		return nil, err
	}
	rows, err := s.studio.Recipe.WeighoutsOf(ctx, blend)
	if err != nil {
		return nil, err
	}
	out := make([]scale.Weighout, len(rows))
	for i, r := range rows {
		if out[i], err = s.studio.Scale.Weighout(ctx, r.ID); err != nil {
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
func (s *server) undoWeighing(ctx context.Context, id, version int64, q placed) (scale.Weighout, error) {
	if q.Unit != nil {
		return s.studio.Scale.TakeBack(ctx, id, version, scale.Cell{Unit: *q.Unit, Component: q.Component})
	}
	return s.studio.Scale.UndoWeighing(ctx, id, version)
}

func (s *server) noteUnit(c *gin.Context) error {
	var q scale.NoteInput
	n, err := answer.WithBody(c, &q)
	if err != nil {
		return err
	}
	unit, err := strconv.Atoi(c.Param("unit"))
	if err != nil {
		return floor.ErrNotFound
	}
	return answer.JSON[scale.Weighout](c, http.StatusOK)(s.studio.Scale.NoteUnit(c.Request.Context(), n, unit, q))
}

// weighOrder is in which order a weigh-out is weighed.
type weighOrder struct {
	ByFibre bool `json:"by_fibre"`
}

func (s *server) orderWeighing(ctx context.Context, id, version int64, q weighOrder) (scale.Weighout, error) {
	return s.studio.Scale.WeighBy(ctx, id, version, q.ByFibre)
}
