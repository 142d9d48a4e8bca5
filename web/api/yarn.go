package api

import (
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/appearance"
	"fairtangle/studio/calls"
	"fairtangle/studio/yarns"
	"fairtangle/web/answer"
)

func (s *server) yarn(c *gin.Context) error {
	return answer.Stateless(func(q calls.YarnRequest) (calls.YarnAnswer, error) {
		return calls.Yarn(c.Request.Context(), q)
	})(c)
}

// sequence answers what becomes of rungs that are spun one after the other.
func (s *server) sequence(c *gin.Context) error {
	return answer.Stateless(func(q calls.SequenceRequest) (calls.SequenceAnswer, error) {
		return calls.SequenceOf(c.Request.Context(), q)
	})(c)
}

// strand answers with a picture of a stretch of the yarn.
func (s *server) strand(c *gin.Context) error {
	v := yarns.StrandView{LengthCM: 6, Width: 960}
	return yarnPicture(c, map[string]*float64{"from_m": &v.FromM, "length_cm": &v.LengthCM}, map[string]*int{"width": &v.Width},
		func(q calls.YarnRequest) ([]byte, error) { return calls.StrandPicture(c.Request.Context(), q, v) })
}

// swatch answers with a picture of a piece knitted of the yarn.
func (s *server) swatch(c *gin.Context) error {
	w := appearance.Swatch{Stitches: 34, Rows: 38, StitchMM: 12}
	return yarnPicture(c, map[string]*float64{"from_m": &w.FromM, "stitch_mm": &w.StitchMM}, map[string]*int{"stitches": &w.Stitches, "rows": &w.Rows},
		func(q calls.YarnRequest) ([]byte, error) { return calls.SwatchPicture(c.Request.Context(), q, w) })
}

// cloth answers with a picture of a piece of the yarn.
func (s *server) cloth(c *gin.Context) error {
	w := appearance.Swatch{Stitches: 24, Rows: 20}
	kind := c.DefaultQuery("kind", calls.ClothKinds[0])
	if !slices.Contains(calls.ClothKinds, kind) {
		return answer.BadShape{Field: "kind", Message: "kind is one of " + strings.Join(calls.ClothKinds, ", ") + "."}
	}
	return yarnPicture(c, map[string]*float64{"from_m": &w.FromM, "mm": &w.StitchMM}, map[string]*int{"across": &w.Stitches, "rows": &w.Rows},
		func(q calls.YarnRequest) ([]byte, error) { return calls.ClothPicture(c.Request.Context(), q, kind, w) })
}

// yarnPicture reads the numbers of an address and what is asked, and answers with a picture.
func yarnPicture(c *gin.Context, numbers map[string]*float64, whole map[string]*int, draw func(calls.YarnRequest) ([]byte, error)) error {
	var q calls.YarnRequest
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	for name, into := range numbers {
		if v := c.Query(name); v != "" {
			n, err := strconv.ParseFloat(v, 64)
			if err != nil {
				return answer.BadShape{Field: name, Message: name + " is a number."}
			}
			*into = n
		}
	}
	for name, into := range whole {
		if v := c.Query(name); v != "" {
			n, err := strconv.Atoi(v)
			if err != nil {
				return answer.BadShape{Field: name, Message: name + " is a whole number."}
			}
			*into = n
		}
	}
	data, err := draw(q)
	if err == nil {
		c.Data(http.StatusOK, "image/png", data)
	}
	return err
}

// yarns are how batts are to be spun, and what came of it: samples and skeins.
func (s *server) yarns(at methods) {
	at.get("/layups/:id/yarn", answer.One(s.studio.Yarns.YarnOf))
	at.get("/yarns/:id", answer.One(s.studio.Yarns.Yarn))
	at.put("/yarns/:id", answer.Saved(s.studio.Yarns.SaveYarn))
	steps(s, at, "/yarns", "yarns", s.studio.Yarns.StepYarn)
	at.get("/makings/:id/yarnsamples", answer.One(s.studio.Yarns.YarnSamplesOf))
	at.post("/makings/:id/yarnsamples", answer.Under(s.studio.Yarns.AddYarnSample))
	at.get("/yarnsamples/:id", answer.One(s.studio.Yarns.OneYarnSample))
	at.put("/yarnsamples/:id", answer.Saved(s.studio.Yarns.SaveYarnSample))
	s.bin(at, "/yarnsamples", "yarn_samples")
	at.get("/makings/:id/skeins", answer.One(s.studio.Yarns.SkeinsOf))
	at.post("/makings/:id/skeins", answer.Under(s.studio.Yarns.AddSkein))
	at.get("/makings/:id/skeins/against", answer.One(s.studio.Yarns.SkeinsAgainst))
	at.get("/skeins/:id", answer.One(s.studio.Yarns.OneSkein))
	at.put("/skeins/:id", answer.Saved(s.studio.Yarns.SaveSkein))
	s.bin(at, "/skeins", "skeins")
}
