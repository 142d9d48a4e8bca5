package api

import (
	"context"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

func (s *server) runs(at methods) {
	at.get("/makings/:id/runs", answer.One(s.runsOfMaking))
	at.get("/weighouts/:id/runs", answer.One(s.runsOfWeighout))
	at.post("/weighouts/:id/runs", answer.Under(s.studio.StartRun))
	at.post("/lots/:id/runs", answer.Under(s.startFleece))
	at.get("/runs/:id", answer.One(s.studio.Run))
	at.post("/runs/:id/entries", answer.Under(s.tell))
	at.post("/runs/:id/entries/:entry/reverse", s.reverse)
	at.post("/runs/:id/shelf", answer.Under(s.shelve))
	s.bin(at, "/runs", "runs")
}

func (s *server) runsOfMaking(ctx context.Context, id int64) ([]studio.Run, error) {
	if _, err := s.studio.Making(ctx, id); err != nil {
		return nil, err
	}
	return s.studio.RunsOf(ctx, id)
}

func (s *server) runsOfWeighout(ctx context.Context, id int64) ([]studio.Run, error) {
	if _, err := s.studio.Weighout(ctx, id); err != nil {
		return nil, err
	}
	return s.studio.RunsOfWeighout(ctx, id)
}

// fleeceOf is the making for which a raw fleece is prepared.
type fleeceOf struct {
	MakingID int64 `json:"making_id"`
}

func (s *server) startFleece(ctx context.Context, id int64, q fleeceOf) (studio.Run, error) {
	return s.studio.StartFleece(ctx, id, q.MakingID)
}

// tell tells something of a run; raw fleece is taken off the shelf with it.
func (s *server) tell(ctx context.Context, id int64, q studio.EntryInput) (studio.Run, error) {
	if q.What == "raw" {
		return s.studio.TakeRaw(ctx, id, q)
	}
	return s.studio.Tell(ctx, id, q)
}

func (s *server) reverse(c *gin.Context) error {
	var q struct {
		Key string `json:"key"`
	}
	n, err := answer.WithBody(c, &q)
	if err != nil {
		return err
	}
	entry, err := answer.ID(c, "entry")
	if err != nil {
		return err
	}
	return answer.JSON[studio.Run](c, http.StatusCreated)(s.studio.Reverse(c.Request.Context(), n, entry, q.Key))
}

func (s *server) shelve(ctx context.Context, id int64, q studio.ShelfInput) (studio.Run, error) {
	v, err := s.studio.Run(ctx, id)
	if err != nil {
		return v, err
	}
	if v.Sort == studio.FleeceRun {
		return s.studio.ShelveFleece(ctx, id, q)
	}
	return s.studio.Shelve(ctx, id, q)
}
