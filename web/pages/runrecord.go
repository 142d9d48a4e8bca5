package pages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/run"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
)

// recordBody is what came off of a run, unit by unit, and where it went.
type recordBody struct {
	View      runView
	Run       carder.Run
	Blend     recipe.Blend
	Forms     []carder.Form
	Form      form
	Decisions []option
}

func (s *server) recordPage(c *gin.Context) error {
	f := newForm()
	f.Values["form"], f.Values["unit"] = "", c.DefaultQuery("unit", "-1")
	return s.showRecord(c, http.StatusOK, f)
}

func (s *server) showRecord(c *gin.Context, status int, f form) error {
	v, b, u, p, err := s.runAround(c)
	if err != nil {
		return err
	}
	if v.Sort == carder.FleeceRun {
		return floor.ErrNotFound
	}
	body := recordBody{Run: v, Blend: b, Forms: carder.Forms, Form: f, Decisions: decisions}
	if d := v.Decision; d != nil && f.V("decision") == "" {
		f.Values["decision"], f.Values["decided"] = strconv.Itoa(d.Choice), d.Text
	}
	if body.View, err = s.runView(c, v, u); err != nil {
		return err
	}
	if f.V("form") == "" {
		f.Values["form"] = "batt"
		if v.Boarded() {
			f.Values["form"] = "rolags"
		}
	}
	p.Title, p.Scripts = v.Name+", what came off", []string{"js/record.js", "js/print.js"}
	s.render(c, status, "record", p, body)
	return nil
}

// makeAgain begins the blend of a run once more.
func (s *server) makeAgain(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	a, err := s.studio.Carder.LookAgainAt(c.Request.Context(), n)
	if err != nil {
		return err
	}
	return answer.Deed(s.studio, func(c *gin.Context) error {
		a, err := s.studio.Carder.BeginAgain(c.Request.Context(), a)
		if err != nil {
			return err
		}
		did := "again"
		if a.Found {
			did = "anew"
		}
		goTo(c, fmt.Sprintf("/blends/%d", a.Blend.ID), did)
		return nil
	})(c)
}

// shelveRun puts what came off onto the shelf.
func (s *server) shelveRun(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.posted(c)
	if err != nil {
		return err
	}
	r := &reader{v: c.Request.PostForm}
	in := carder.ShelfInput{Key: r.v.Get("key"), Form: r.v.Get("form"), Name: r.v.Get("name"), Note: r.v.Get("note")}
	if in.Unit, err = strconv.Atoi(r.v.Get("unit")); err != nil {
		r.wrong.Add("unit", "Choose of what.")
	}
	if strings.TrimSpace(r.v.Get("grams")) != "" {
		g := r.grams(u, "grams")
		in.Grams = &g
	}
	if r.v.Get("count") != "" {
		in.Count = r.count("count", "how many")
	}
	v, err := s.studio.Carder.Run(c.Request.Context(), n)
	if err != nil {
		return err
	}
	err = r.wrong.Err()
	if v.Sort == carder.FleeceRun {
		return s.shelveFleece(c, v, in, err)
	}
	if err == nil {
		if _, err = s.studio.Carder.Shelve(c.Request.Context(), n, in); err == nil {
			goTo(c, fmt.Sprintf("/runs/%d/record", n), "shelved")
			return nil
		}
	}
	f := typed(r.v)
	if !s.blame(c, &f, err) {
		return err
	}
	return s.showRecord(c, http.StatusUnprocessableEntity, f)
}

// decisions are what may be decided on a sample.
var decisions = []option{{"1", "take the blend as it is"}, {"2", "change it and try again"}, {"3", "leave it"}}

var decisionWords = map[int]string{run.TakeIt: decisions[0].Label, run.ChangeIt: decisions[1].Label, run.LeaveIt: decisions[2].Label}

// decideRun keeps what was decided on a sample.
func (s *server) decideRun(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if _, err := s.posted(c); err != nil {
		return err
	}
	v := c.Request.PostForm
	in := carder.EntryInput{Key: v.Get("key"), What: string(run.Decided), Text: v.Get("decided")}
	if choice, err := strconv.ParseFloat(v.Get("decision"), 64); err == nil {
		in.Number = &choice
	}
	if _, err = s.studio.Carder.Tell(c.Request.Context(), n, in); err == nil {
		goTo(c, fmt.Sprintf("/runs/%d/record#decide", n), "saved")
		return nil
	}
	f := typed(v)
	if !s.blame(c, &f, err) {
		return err
	}
	for from, to := range map[string]string{"number": "decision", "text": "decided"} {
		if said := f.E(from); said != "" {
			f.Errors[to] = said
		}
	}
	if v.Get("decision") == "" {
		f.Errors["decision"] = "Choose one of the three."
	}
	f.Values["unit"] = "-1"
	return s.showRecord(c, http.StatusUnprocessableEntity, f)
}
