package pages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

// recordBody is what came off of a run, unit by unit, and where it went.
type recordBody struct {
	View  runView
	Run   studio.Run
	Blend studio.Blend
	Forms []studio.Form
	Form  form
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
	if v.Sort == studio.FleeceRun {
		return studio.ErrNotFound
	}
	body := recordBody{Run: v, Blend: b, Forms: studio.Forms, Form: f}
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
	a, err := s.studio.MakeAgain(c.Request.Context(), n)
	if err != nil {
		return err
	}
	did := "again"
	if a.Found {
		did = "anew"
	}
	goTo(c, fmt.Sprintf("/blends/%d", a.Blend.ID), did)
	return nil
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
	in := studio.ShelfInput{Key: r.v.Get("key"), Form: r.v.Get("form"), Name: r.v.Get("name"), Note: r.v.Get("note")}
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
	v, err := s.studio.Run(c.Request.Context(), n)
	if err != nil {
		return err
	}
	err = r.wrong.Err()
	if v.Sort == studio.FleeceRun {
		return s.shelveFleece(c, v, in, err)
	}
	if err == nil {
		if _, err = s.studio.Shelve(c.Request.Context(), n, in); err == nil {
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
