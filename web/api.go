package web

import (
	"context"
	_ "embed"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/store"
	"fairtangle/studio"
)

//go:embed openapi.yaml
var openAPI []byte

const api = "/api/v1"

func (s *server) apiRoutes(e *gin.Engine) {
	e.GET("/api/openapi.yaml", func(c *gin.Context) { c.Data(http.StatusOK, "application/yaml", openAPI) })
	g := e.Group(api)
	get, post, put, del := s.on(g.GET), s.on(g.POST), s.on(g.PUT), s.on(g.DELETE)

	post("/predict", stateless(func(q studio.PredictRequest) (studio.PredictAnswer, error) {
		return studio.Predict(studio.StandardKinds(), q)
	}))
	post("/weigh", stateless(studio.Weigh))
	post("/reweigh", stateless(studio.Reweigh))
	s.intentRoutes(g)
	s.layupRoutes(g)

	get("/lots", s.apiLots)
	post("/lots", s.apiCreateLot)
	get("/lots/:id", one(s.studio.Lot))
	put("/lots/:id", s.apiUpdateLot)
	del("/lots/:id", s.apiDiscard("lots"))
	post("/lots/:id/restore", s.apiRestore("lots"))
	get("/lots/:id/movements", s.apiLedger)
	post("/lots/:id/movements", s.apiMove)
	post("/lots/:id/movements/:movement/undo", s.apiUndoMove)

	get("/kinds", s.apiKinds)
	post("/kinds", s.apiCreateKind)
	put("/kinds/:id", s.apiUpdateKind)
	del("/kinds/:id", s.apiDiscard("kinds"))
	post("/kinds/:id/restore", s.apiRestore("kinds"))
	get("/preparations", s.apiPreparations)

	get("/makings", s.apiMakings)
	post("/makings", s.apiCreateMaking)
	get("/makings/:id", one(s.studio.Making))
	put("/makings/:id", s.apiUpdateMaking)
	del("/makings/:id", s.apiDiscard("makings"))
	post("/makings/:id/restore", s.apiRestore("makings"))
	post("/makings/:id/copy", s.apiCopyMaking)
	get("/makings/:id/blends", s.apiBlends)
	post("/makings/:id/blends", s.apiCreateBlend)

	get("/blends/:id", one(s.studio.Blend))
	put("/blends/:id", s.apiUpdateBlend)
	del("/blends/:id", s.apiDiscard("blends"))
	post("/blends/:id/restore", s.apiRestore("blends"))
	post("/blends/:id/changes", s.apiChangeBlend)
	get("/blends/:id/weighouts", s.apiWeighouts)
	post("/blends/:id/weighouts", s.apiCreateWeighout)

	get("/weighouts/:id", one(s.studio.Weighout))
	del("/weighouts/:id", s.apiDiscard("weighouts"))
	post("/weighouts/:id/restore", s.apiRestore("weighouts"))
	post("/weighouts/:id/consider", s.apiConsider)
	post("/weighouts/:id/weighings", s.apiWeighing)
	post("/weighouts/:id/undo", s.apiUndoWeighing)
	put("/weighouts/:id/units/:unit", s.apiNoteUnit)
	post("/blends/:id/copy", made(s.studio.CopyBlend))
	post("/blends/:id/addition", made(s.studio.CreateAddition))
	get("/makings/:id/weighlist", s.apiWeighList)
	post("/makings/:id/weighlist", s.apiWeighOutAll)

	steps(s, g, "blends", "blends", s.studio.StepBlend)
	steps(s, g, "gradients", "gradients", s.studio.StepGradient)
	steps(s, g, "scraps", "scrap_sets", s.studio.StepScraps)
	steps(s, g, "layups", "layups", s.studio.StepLayup)
}

// steps are the calls that list the states that a piece of work had, and go back
// to one.
func steps[V any](s *server, g *gin.RouterGroup, path, table string, step func(ctx context.Context, id, version int64, m studio.Move) (V, error)) {
	s.on(g.GET)("/"+path+"/:id/steps", one(func(ctx context.Context, id int64) (studio.Steps, error) {
		return s.studio.StepsOf(ctx, table, id, 200)
	}))
	s.on(g.POST)("/"+path+"/:id/steps", func(c *gin.Context) error {
		var q struct {
			Version int64 `json:"version"`
			studio.Move
		}
		n, err := withBody(c, &q)
		if err != nil {
			return err
		}
		return answer[V](c, http.StatusOK)(step(c.Request.Context(), n, q.Version, q.Move))
	})
}

// made is one that answers that something was made.
func made[A any](make func(ctx context.Context, id int64) (A, error)) handler {
	return func(c *gin.Context) error {
		n, err := id(c, "id")
		if err != nil {
			return err
		}
		return answer[A](c, http.StatusCreated)(make(c.Request.Context(), n))
	}
}

func (s *server) apiNoteUnit(c *gin.Context) error {
	var q studio.NoteInput
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	unit, err := strconv.Atoi(c.Param("unit"))
	if err != nil {
		return store.ErrNotFound
	}
	return answer[studio.Weighout](c, http.StatusOK)(s.studio.NoteUnit(c.Request.Context(), n, unit, q))
}

func (s *server) apiWeighList(c *gin.Context) error {
	m, err := s.making(c)
	if err != nil {
		return err
	}
	return answer[studio.WeighList](c, http.StatusOK)(s.studio.WeighListOf(c.Request.Context(), m.ID, onlyOf(c)))
}

func (s *server) apiWeighOutAll(c *gin.Context) error {
	m, err := s.making(c)
	if err != nil {
		return err
	}
	return answer[studio.WeighList](c, http.StatusCreated)(s.studio.WeighOutAll(c.Request.Context(), m.ID, onlyOf(c)))
}

// stateless answers a call that keeps nothing.
func stateless[Q, A any](call func(Q) (A, error)) handler {
	return func(c *gin.Context) error {
		var q Q
		if err := decode(c, &q); err != nil {
			return err
		}
		a, err := call(q)
		if err != nil {
			return err
		}
		c.JSON(http.StatusOK, a)
		return nil
	}
}

// one answers with what has the id of the path.
func one[A any](find func(ctx context.Context, id int64) (A, error)) handler {
	return func(c *gin.Context) error {
		n, err := id(c, "id")
		if err != nil {
			return err
		}
		return answer[A](c, http.StatusOK)(find(c.Request.Context(), n))
	}
}

// answer sends a value, or passes the error on.
func answer[A any](c *gin.Context, status int) func(A, error) error {
	return func(a A, err error) error {
		if err == nil {
			c.JSON(status, a)
		}
		return err
	}
}

// withBody reads the id of the path and the body.
func withBody[Q any](c *gin.Context, q *Q) (int64, error) {
	n, err := id(c, "id")
	if err != nil {
		return 0, err
	}
	return n, decode(c, q)
}

func (s *server) apiDiscard(table string) handler {
	return func(c *gin.Context) error {
		n, err := id(c, "id")
		if err != nil {
			return err
		}
		if err := s.studio.Discard(c.Request.Context(), table, n); err != nil {
			return err
		}
		c.Status(http.StatusNoContent)
		return nil
	}
}

func (s *server) apiRestore(table string) handler {
	return func(c *gin.Context) error {
		n, err := id(c, "id")
		if err != nil {
			return err
		}
		if err := s.studio.Restore(c.Request.Context(), table, n); err != nil {
			return err
		}
		c.Status(http.StatusNoContent)
		return nil
	}
}

func (s *server) apiLots(c *gin.Context) error {
	f, err := s.filter(c)
	if err != nil {
		return err
	}
	f.Limit, f.Offset = 100, 0
	for name, into := range map[string]*int{"limit": &f.Limit, "offset": &f.Offset} {
		if v := c.Query(name); v != "" {
			n, err := strconv.Atoi(v)
			if err != nil || n < 0 || n > 1_000_000 {
				return badShape{name, name + " is a whole number, 0 or more."}
			}
			*into = n
		}
	}
	f.Limit = min(max(f.Limit, 1), 1000)
	return answer[studio.Shelf](c, http.StatusOK)(s.studio.Shelf(c.Request.Context(), f))
}

func (s *server) apiCreateLot(c *gin.Context) error {
	var q studio.NewLot
	if err := decode(c, &q); err != nil {
		return err
	}
	lots, err := s.studio.CreateLots(c.Request.Context(), []studio.NewLot{q}, "")
	if err != nil {
		return err
	}
	c.JSON(http.StatusCreated, lots[0])
	return nil
}

func (s *server) apiUpdateLot(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.LotInput
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Lot](c, http.StatusOK)(s.studio.UpdateLot(c.Request.Context(), n, q.Version, q.LotInput))
}

func (s *server) apiLedger(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	if _, err := s.studio.Lot(c.Request.Context(), n); err != nil {
		return err
	}
	return answer[[]studio.Movement](c, http.StatusOK)(s.studio.Ledger(c.Request.Context(), n, 1000))
}

func (s *server) apiMove(c *gin.Context) error {
	var q struct {
		Reason string  `json:"reason"`
		Grams  float64 `json:"grams"`
		Note   string  `json:"note"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Movement](c, http.StatusCreated)(s.studio.Move(c.Request.Context(), n, q.Reason, q.Grams, q.Note))
}

func (s *server) apiUndoMove(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	m, err := id(c, "movement")
	if err != nil {
		return err
	}
	return answer[studio.Movement](c, http.StatusCreated)(s.studio.UndoMove(c.Request.Context(), n, m))
}

func (s *server) apiMakings(c *gin.Context) error {
	return answer[[]studio.Making](c, http.StatusOK)(s.studio.Makings(c.Request.Context(), c.Query("archived") == "true"))
}

func (s *server) apiCreateMaking(c *gin.Context) error {
	var q studio.MakingInput
	if err := decode(c, &q); err != nil {
		return err
	}
	return answer[studio.Making](c, http.StatusCreated)(s.studio.CreateMaking(c.Request.Context(), q))
}

func (s *server) apiUpdateMaking(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.MakingInput
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Making](c, http.StatusOK)(s.studio.UpdateMaking(c.Request.Context(), n, q.Version, q.MakingInput))
}

func (s *server) apiCopyMaking(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	return answer[studio.Making](c, http.StatusCreated)(s.studio.CopyMaking(c.Request.Context(), n))
}

func (s *server) apiBlends(c *gin.Context) error {
	m, err := s.making(c)
	if err != nil {
		return err
	}
	return answer[[]studio.Blend](c, http.StatusOK)(s.studio.BlendsOf(c.Request.Context(), m.ID))
}

func (s *server) apiCreateBlend(c *gin.Context) error {
	var q studio.BlendInput
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Blend](c, http.StatusCreated)(s.studio.CreateBlend(c.Request.Context(), n, q))
}

func (s *server) apiUpdateBlend(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.BlendInput
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Blend](c, http.StatusOK)(s.studio.SaveBlend(c.Request.Context(), n, q.Version, q.BlendInput, ""))
}

// apiChangeBlend does one change to a kept blend.
func (s *server) apiChangeBlend(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		studio.Change
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	b, err := s.studio.Blend(c.Request.Context(), n)
	if err != nil {
		return err
	}
	changed, err := s.studio.Apply(c.Request.Context(), b.Input(), q.Change)
	if err != nil {
		return err
	}
	return answer[studio.Blend](c, http.StatusOK)(s.studio.SaveBlend(c.Request.Context(), n, q.Version, changed.Input(), ""))
}

func (s *server) apiWeighouts(c *gin.Context) error {
	b, err := s.blend(c)
	if err != nil {
		return err
	}
	rows, err := s.studio.WeighoutsOf(c.Request.Context(), b.ID)
	if err != nil {
		return err
	}
	out := make([]studio.Weighout, 0, len(rows))
	for _, r := range rows {
		w, err := s.studio.Weighout(c.Request.Context(), r.ID)
		if err != nil {
			return err
		}
		out = append(out, w)
	}
	c.JSON(http.StatusOK, out)
	return nil
}

func (s *server) apiCreateWeighout(c *gin.Context) error {
	var q studio.WeighoutInput
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Weighout](c, http.StatusCreated)(s.studio.CreateWeighout(c.Request.Context(), n, q))
}

func (s *server) apiConsider(c *gin.Context) error {
	var q studio.Reading
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Considered](c, http.StatusOK)(s.studio.Consider(c.Request.Context(), n, q))
}

func (s *server) apiWeighing(c *gin.Context) error {
	var q studio.Reading
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	return answer[studio.Weighout](c, http.StatusCreated)(s.studio.Weigh(c.Request.Context(), n, q))
}

// apiUndoWeighing takes back the last weighing, or what was weighed for the place
// named.
func (s *server) apiUndoWeighing(c *gin.Context) error {
	var q struct {
		Version   int64 `json:"version"`
		Unit      *int  `json:"unit"`
		Component int   `json:"component"`
	}
	n, err := withBody(c, &q)
	if err != nil {
		return err
	}
	if q.Unit != nil {
		return answer[studio.Weighout](c, http.StatusOK)(s.studio.TakeBack(c.Request.Context(), n, q.Version, studio.Place{Unit: *q.Unit, Component: q.Component}))
	}
	return answer[studio.Weighout](c, http.StatusOK)(s.studio.UndoWeighing(c.Request.Context(), n, q.Version))
}
