package carderpages

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
	"fairtangle/web/pages/frame"
)

// recordBody is what came off of a run, unit by unit, and where it went.
type recordBody struct {
	View      RunView
	Run       carder.Run
	Blend     recipe.Blend
	Forms     []carder.Form
	Form      frame.Form
	Decisions []frame.Option
}

func (s *Room) recordPage(c *gin.Context) error {
	f := frame.NewForm()
	f.Values["form"], f.Values["unit"] = "", c.DefaultQuery("unit", "-1")
	return s.showRecord(c, http.StatusOK, f)
}

func (s *Room) showRecord(c *gin.Context, status int, f frame.Form) error {
	v, b, u, p, err := s.RunAround(c)
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
	if body.View, err = s.RunView(c, v, u); err != nil {
		return err
	}
	if f.V("form") == "" {
		f.Values["form"] = "batt"
		if v.Rolls() != "" {
			f.Values["form"] = "rolags"
		}
	}
	p.Title, p.Scripts = v.Name+", what came off", []string{"js/record.js", "js/print.js", "js/awake.js"}
	s.Render(c, status, "record", p, body)
	return nil
}

// makeAgain begins the blend of a run once more.
func (s *Room) makeAgain(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	a, err := s.Studio.Carder.WorkOutAgain(c.Request.Context(), n)
	if err != nil {
		return err
	}
	return answer.Deed(s.Studio, func(c *gin.Context) error {
		a, err := s.Studio.Carder.BeginAgain(c.Request.Context(), a)
		if err != nil {
			return err
		}
		did := "again"
		if a.Found {
			did = "anew"
		}
		frame.GoTo(c, fmt.Sprintf("/blends/%d", a.Blend.ID), did)
		return nil
	})(c)
}

// shelveRun puts what came off onto the shelf.
func (s *Room) shelveRun(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	in := carder.ShelfInput{Key: r.Values.Get("key"), Form: r.Values.Get("form"), Name: r.Values.Get("name"), Note: r.Values.Get("note")}
	if in.Unit, err = strconv.Atoi(r.Values.Get("unit")); err != nil {
		r.Wrong.Add("unit", "Choose of what.")
	}
	if strings.TrimSpace(r.Values.Get("grams")) != "" {
		g := r.Grams(u, "grams")
		in.Grams = &g
	}
	if r.Values.Get("count") != "" {
		in.Count = r.Count("count", "how many")
	}
	v, err := s.Studio.Carder.Run(c.Request.Context(), n)
	if err != nil {
		return err
	}
	err = r.Wrong.Err()
	if v.Sort == carder.FleeceRun {
		return s.shelveFleece(c, v, in, err)
	}
	if err == nil {
		if _, err = s.Studio.Carder.Shelve(c.Request.Context(), n, in); err == nil {
			frame.GoTo(c, fmt.Sprintf("/runs/%d/record", n), "shelved")
			return nil
		}
	}
	f := frame.Typed(r.Values)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showRecord(c, http.StatusUnprocessableEntity, f)
}

// decisions are what may be decided on a sample.
var decisions = []frame.Option{{Value: "1", Label: "take the blend as it is"}, {Value: "2", Label: "change it and try again"}, {Value: "3", Label: "leave it"}}

var DecisionWords = map[int]string{run.TakeIt: decisions[0].Label, run.ChangeIt: decisions[1].Label, run.LeaveIt: decisions[2].Label}

// decideRun keeps what was decided on a sample.
func (s *Room) decideRun(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if _, err := s.Posted(c); err != nil {
		return err
	}
	v := c.Request.PostForm
	in := carder.EntryInput{Key: v.Get("key"), What: string(run.Decided), Text: v.Get("decided")}
	if choice, err := strconv.ParseFloat(v.Get("decision"), 64); err == nil {
		in.Number = &choice
	}
	if _, err = s.Studio.Carder.Tell(c.Request.Context(), n, in); err == nil {
		frame.GoTo(c, fmt.Sprintf("/runs/%d/record#decide", n), "saved")
		return nil
	}
	f := frame.Typed(v)
	if !s.Blame(c, &f, err) {
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
