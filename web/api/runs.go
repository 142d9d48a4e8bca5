package api

import (
	"context"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/carder"
	"fairtangle/studio/notebook"
	"fairtangle/web/answer"
)

func (s *server) runs(at methods) {
	at.get("/makings/:id/runs", answer.One(s.runsOfMaking))
	at.get("/weighouts/:id/runs", answer.One(s.runsOfWeighout))
	at.post("/weighouts/:id/runs", answer.Under(s.studio.Carder.StartRun))
	at.post("/lots/:id/runs", answer.Under(s.startFleece))
	at.get("/runs/:id", answer.One(s.studio.Carder.Run))
	at.post("/runs/:id/entries", answer.Under(s.tell))
	at.post("/runs/:id/entries/:entry/reverse", s.reverse)
	at.post("/runs/:id/shelf", answer.Under(s.shelve))
	at.ask("/runs/:id/again", s.long(s.makeAgain))
	s.bin(at, "/runs", "runs")
}

func (s *server) makeAgain(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	a, err := s.studio.Carder.WorkOutAgain(c.Request.Context(), n)
	if err != nil {
		return err
	}
	return answer.Deed(s.studio, func(c *gin.Context) error {
		return answer.JSON[carder.Again](c, http.StatusCreated)(s.studio.Carder.BeginAgain(c.Request.Context(), a))
	})(c)
}

func (s *server) runsOfMaking(ctx context.Context, id int64) ([]carder.Run, error) {
	if _, err := s.studio.Recipe.Making(ctx, id); err != nil {
		return nil, err
	}
	return s.studio.Carder.RunsOf(ctx, id)
}

func (s *server) runsOfWeighout(ctx context.Context, id int64) ([]carder.Run, error) {
	if _, err := s.studio.Scale.Weighout(ctx, id); err != nil {
		return nil, err
	}
	return s.studio.Carder.RunsOfWeighout(ctx, id)
}

// fleeceOf is the making for which a raw fleece is prepared.
type fleeceOf struct {
	MakingID int64 `json:"making_id"`
}

func (s *server) startFleece(ctx context.Context, id int64, q fleeceOf) (carder.Run, error) {
	return s.studio.Carder.StartFleece(ctx, id, q.MakingID)
}

// tell tells something of a run; raw fleece is taken off the shelf with it.
func (s *server) tell(ctx context.Context, id int64, q carder.EntryInput) (carder.Run, error) {
	if q.What == "raw" {
		return s.studio.Carder.TakeRaw(ctx, id, q)
	}
	return s.studio.Carder.Tell(ctx, id, q)
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
	return answer.JSON[carder.Run](c, http.StatusCreated)(s.studio.Carder.Reverse(c.Request.Context(), n, entry, q.Key))
}

func (s *server) shelve(ctx context.Context, id int64, q carder.ShelfInput) (carder.Run, error) {
	v, err := s.studio.Carder.Run(ctx, id)
	if err != nil {
		return v, err
	}
	if v.Sort == carder.FleeceRun {
		return s.studio.Carder.ShelveFleece(ctx, id, q)
	}
	return s.studio.Carder.Shelve(ctx, id, q)
}

func (s *server) notebook(at methods) {
	at.get("/changes", s.changes)
	at.get("/notebook", s.listNotebook)
	at.get("/notebook/record", answer.List(s.studio.Notebook.Record))
	at.put("/notebook/learning", s.learning)
}

// notebookLine is a line of the notebook; what was told stands at the run or the sample.
type notebookLine struct {
	Sort     string `json:"sort"`
	ID       int64  `json:"id"`
	Name     string `json:"name"`
	MakingID int64  `json:"making_id"`
	Making   string `json:"making"`
	At       string `json:"at"`
}

func (s *server) listNotebook(c *gin.Context) error {
	f := notebook.NotebookFilter{Search: c.Query("q"), Sort: c.Query("sort"), Limit: 100}
	f.Making, _ = strconv.ParseInt(c.Query("making"), 10, 64)
	f.Offset, _ = strconv.Atoi(c.Query("offset"))
	f.Offset = max(0, f.Offset)
	rows, total, err := s.studio.Notebook.NotebookRows(c.Request.Context(), f)
	if err != nil {
		return err
	}
	out := make([]notebookLine, len(rows))
	for i, r := range rows {
		out[i] = notebookLine{r.Sort, r.ID, r.Name, r.MakingID, r.Making, r.At.Format(time.RFC3339)}
	}
	c.JSON(http.StatusOK, gin.H{"lines": out, "total": total})
	return nil
}

func (s *server) learning(c *gin.Context) error {
	var q struct {
		On bool `json:"on"`
	}
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	if err := s.studio.Notebook.Learning(c.Request.Context(), q.On); err != nil {
		return err
	}
	return answer.JSON[notebook.Record](c, http.StatusOK)(s.studio.Notebook.Record(c.Request.Context()))
}
