// Package api is the JSON API: what a program can ask of the studio.
package api

import (
	"bytes"
	"compress/gzip"
	"context"
	_ "embed"
	"io"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/studio/calls"
	"fairtangle/studio/floor"
	"fairtangle/studio/reach"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
)

//go:generate sh -c "gzip -9nc openapi.yaml > openapi.yaml.gz"

//go:embed openapi.yaml.gz
var packed []byte

// Document is the API's own description, OpenAPI 3.1: openapi.yaml, which ships packed.
var Document = unpacked()

func unpacked() []byte {
	r, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		panic(err) // it ships with the program, and its test unpacks it
	}
	text, err := io.ReadAll(r)
	if err != nil {
		panic(err)
	}
	return text
}

// Root is the address under which the calls are.
const Root = "/api/v1"

type server struct {
	studio *studio.Studio
	turns  *answer.Turns
}

// methods registers calls by their method. What is asked by ask keeps nothing, or one thing after a
// long look; post, put and del are deeds, whole or not done.
type methods struct{ get, ask, post, put, del func(string, answer.Handler) }

// Routes registers every call; those that compute for long take turns.
func Routes(e *gin.Engine, st *studio.Studio, turns *answer.Turns) {
	e.GET("/api/openapi.yaml", func(c *gin.Context) { c.Data(http.StatusOK, "application/yaml", Document) })
	g := e.Group(Root)
	on := func(register func(string, ...gin.HandlerFunc) gin.IRoutes) func(string, answer.Handler) {
		return answer.On(register, answer.Fail)
	}
	deed := func(register func(string, answer.Handler)) func(string, answer.Handler) {
		return answer.Deeds(st, register)
	}
	at := methods{on(g.GET), on(g.POST), deed(on(g.POST)), deed(on(g.PUT)), deed(on(g.DELETE))}
	s := &server{st, turns}
	at.ask("/predict", answer.Stateless(func(q calls.PredictRequest) (calls.PredictAnswer, error) {
		return calls.Predict(workshop.StandardKinds(), q)
	}))
	at.ask("/weigh", answer.Stateless(calls.Weigh))
	at.ask("/reweigh", answer.Stateless(calls.Reweigh))
	at.ask("/carding/balance", answer.Stateless(calls.Balance))
	at.ask("/carding/learn", answer.Stateless(calls.Learn))
	at.ask("/order", s.long(answer.StatelessLong(calls.Order)))
	at.ask("/need", answer.Stateless(calls.Need))
	at.ask("/match", s.long(s.match))
	at.ask("/correct", s.long(s.correct))
	at.ask("/simulate", s.long(s.simulate))
	at.ask("/simulate/face.png", s.long(s.face))
	at.ask("/yarn/plan", s.long(s.yarn))
	at.ask("/yarn/sequence", s.long(s.sequence))
	at.ask("/advice", s.long(answer.Stateless(calls.Advice)))
	at.ask("/trouble", answer.Stateless(calls.Trouble))
	at.ask("/range", answer.Stateless(calls.RangeOf))
	at.ask("/wheel", answer.Stateless(calls.Wheel))
	at.ask("/label", answer.Stateless(calls.Label))
	at.ask("/yarn/strand.png", s.long(s.strand))
	at.ask("/yarn/swatch.png", s.long(s.swatch))
	at.ask("/yarn/cloth.png", s.long(s.cloth))
	at.ask("/gradient", s.long(answer.StatelessLong(calls.Gradient)))
	at.ask("/layup/check", answer.Stateless(calls.CheckLayup))
	at.ask("/layup/build", answer.Stateless(calls.BuildLayup))
	s.lots(at)
	s.partings(at)
	s.kinds(at)
	s.makings(at)
	s.blends(at)
	s.weighouts(at)
	s.layups(at)
	s.runs(at)
	s.notebook(at)
	s.equipment(at)
	s.needs(at)
	s.yarns(at)
	s.claims(at)
	s.buying(at)
	s.gradients(at)
	s.scraps(at)
	s.photos(at)
	s.calibration(at)
}

func (s *server) long(h answer.Handler) answer.Handler { return s.turns.Long(answer.Patient, h) }

func (s *server) match(c *gin.Context) error {
	return answer.Stateless(func(q calls.MatchRequest) (calls.MatchAnswer, error) {
		return calls.Match(c.Request.Context(), workshop.StandardKinds(), q, reach.InTime())
	})(c)
}

func (s *server) correct(c *gin.Context) error {
	return answer.Stateless(func(q calls.CorrectRequest) (calls.CorrectAnswer, error) {
		return calls.Correct(c.Request.Context(), q)
	})(c)
}

func (s *server) simulate(c *gin.Context) error {
	return answer.Stateless(func(q calls.SimulateRequest) (calls.SimulateAnswer, error) {
		return calls.Simulate(c.Request.Context(), q)
	})(c)
}

// face answers with a picture of a foretold batt.
func (s *server) face(c *gin.Context) error {
	var q calls.SimulateRequest
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	f := calls.FaceRequest{Stage: 1, Side: c.DefaultQuery("side", "top"), Width: 960, Height: 540}
	for name, into := range map[string]*int{"stage": &f.Stage, "width": &f.Width, "height": &f.Height} {
		if v := c.Query(name); v != "" {
			n, err := strconv.Atoi(v)
			if err != nil {
				return answer.BadShape{Field: name, Message: name + " is a whole number."}
			}
			*into = n
		}
	}
	data, err := calls.Face(c.Request.Context(), q, f)
	if err == nil {
		c.Data(http.StatusOK, "image/png", data)
	}
	return err
}

// bin are the calls that put a thing of a table into the bin and take it out.
func (s *server) bin(at methods, path, table string) {
	at.del(path+"/:id", answer.Done(func(ctx context.Context, id int64) error { return s.studio.Floor.Discard(ctx, table, id) }))
	at.post(path+"/:id/restore", answer.Done(func(ctx context.Context, id int64) error { return s.studio.Floor.Restore(ctx, table, id) }))
}

// steps are the calls that list the states that a piece of work had, and go back
// to one.
func steps[V any](s *server, at methods, path, table string, step func(ctx context.Context, id, version int64, m floor.Move) (V, error)) {
	at.get(path+"/:id/steps", answer.One(func(ctx context.Context, id int64) (floor.Steps, error) {
		return s.studio.Floor.StepsOf(ctx, table, id, 200)
	}))
	at.post(path+"/:id/steps", answer.Saved(step))
}

// based is a question that names the version it is based on.
type based struct {
	Version int64 `json:"version"`
}
