package api

import (
	"context"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/reach"
	"fairtangle/web/answer"
)

func (s *server) calibration(at methods) {
	at.get("/calibration", answer.List(s.studio.Reach.Calibration))
	at.put("/calibration", s.useCalibration)
	at.post("/samples", answer.Created(func(ctx context.Context, in reach.SampleInput) (c reach.Calibration, err error) {
		if err := s.studio.Reach.AddSample(ctx, in); err != nil {
			return c, err
		}
		return s.studio.Reach.Calibration(ctx)
	}))
	at.put("/samples/:id", answer.Saved(func(ctx context.Context, id, version int64, in reach.SampleInput) (c reach.Calibration, err error) {
		if err := s.studio.Reach.UpdateSample(ctx, id, version, in); err != nil {
			return c, err
		}
		return s.studio.Reach.Calibration(ctx)
	}))
	s.bin(at, "/samples", "samples")
}

func (s *server) useCalibration(c *gin.Context) error {
	var q struct {
		On bool `json:"on"`
	}
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	if err := s.studio.Reach.UseCalibration(c.Request.Context(), q.On); err != nil {
		return err
	}
	return answer.JSON[reach.Calibration](c, http.StatusOK)(s.studio.Reach.Calibration(c.Request.Context()))
}
