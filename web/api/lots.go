package api

import (
	"context"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/calls"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
)

func (s *server) lots(at methods) {
	at.get("/lots", s.shelf)
	at.post("/lots", answer.Created(s.createLot))
	at.ask("/lots/read", answer.Stateless(calls.ReadLots))
	at.get("/lots/:id", answer.One(s.studio.Shelf.Lot))
	at.put("/lots/:id", answer.Saved(s.studio.Shelf.UpdateLot))
	s.bin(at, "/lots", "lots")
	at.get("/lots/:id/movements", answer.One(s.ledger))
	at.post("/lots/:id/movements", answer.Under(s.studio.Shelf.Move))
	at.post("/lots/:id/movements/:movement/undo", s.undoMove)
	at.get("/lots/:id/stops", answer.One(s.studio.Reach.StopsOfLot))
	at.post("/lots/:id/colours/back", answer.Asked(func(ctx context.Context, id int64, q based) (shelf.Lot, error) {
		return s.studio.Shelf.ColoursBack(ctx, id, q.Version)
	}))
	at.ask("/lots/:id/measure", answer.Asked(s.measure))
	at.post("/lots/:id/spectrum", answer.Asked(s.spectrum))
}

func (s *server) shelf(c *gin.Context) error {
	f, err := s.studio.Shelf.Filter(c.Request.Context(), c.Query("q"), c.Query("kind"), c.Query("stock"), c.Query("sort"))
	if err != nil {
		return err
	}
	f.Limit, f.Offset = 100, 0
	for name, into := range map[string]*int{"limit": &f.Limit, "offset": &f.Offset} {
		if v := c.Query(name); v != "" {
			n, err := strconv.Atoi(v)
			if err != nil || n < 0 || n > 1_000_000 {
				return answer.BadShape{Field: name, Message: name + " is a whole number, 0 or more."}
			}
			*into = n
		}
	}
	f.Limit = min(max(f.Limit, 1), 1000)
	return answer.JSON[shelf.Shelf](c, http.StatusOK)(s.studio.Shelf.Shelf(c.Request.Context(), f))
}

func (s *server) createLot(ctx context.Context, q shelf.NewLot) (shelf.Lot, error) {
	lots, err := s.studio.Shelf.CreateLots(ctx, []shelf.NewLot{q}, "")
	if err != nil {
		return shelf.Lot{}, err
	}
	return lots[0], nil
}

func (s *server) ledger(ctx context.Context, id int64) ([]shelf.Movement, error) {
	if _, err := s.studio.Shelf.Lot(ctx, id); err != nil {
		return nil, err
	}
	return s.studio.Shelf.Ledger(ctx, id, 1000)
}

func (s *server) undoMove(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	m, err := answer.ID(c, "movement")
	if err != nil {
		return err
	}
	return answer.JSON[shelf.Movement](c, http.StatusCreated)(s.studio.Shelf.UndoMove(c.Request.Context(), n, m))
}

type measurement struct {
	Version int64 `json:"version"`
	Colour  int   `json:"colour"`
}

func (s *server) measure(ctx context.Context, id int64, q measurement) (shelf.Measured, error) {
	return s.studio.Shelf.MeasureLot(ctx, id, q.Version, q.Colour)
}

type spectrum struct {
	Version int64  `json:"version"`
	Colour  int    `json:"colour"`
	CSV     string `json:"csv"`
	Reading string `json:"reading"`
}

func (s *server) spectrum(ctx context.Context, id int64, q spectrum) (shelf.Measured, error) {
	return s.studio.Shelf.ImportSpectrum(ctx, id, q.Version, q.Colour, []byte(q.CSV), q.Reading)
}
