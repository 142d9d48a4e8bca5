package reachpages

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/given"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type givenBody struct {
	Form    frame.Form
	Recipe  *given.Recipe
	Text    string // its JSON, carried along
	Seen    reach.GivenSeen
	Rows    []givenRow
	Makings []recipe.MakingName
	Buy     []string
}

// givenRow is a fibre of the recipe with what may stand in for it.
type givenRow struct {
	N       int
	Part    reach.GivenPart
	Field   string
	Value   string
	Options []frame.Option
	Said    []string // how what stands in differs
}

// givenForm asks for the file of a recipe.
func (s *Room) givenForm(c *gin.Context) error {
	s.Render(c, http.StatusOK, "given", frame.Page{Title: "A recipe from elsewhere", Here: "makings"}, givenBody{Form: frame.NewForm()})
	return nil
}

// readGiven reads a recipe, and shows as near as the shelf comes to it; with what was chosen, where it was shown before.
func (s *Room) readGiven(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	f := frame.Typed(c.Request.PostForm)
	r, text, err := recipeOf(c)
	if err == nil {
		if err = s.showGiven(c, f, r, text, u); err == nil {
			return nil
		}
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	if f.Errors["grams"] != "" { // what was chosen is wrong, not the recipe
		return s.showGiven(c, f, r, text, u)
	}
	s.Render(c, http.StatusUnprocessableEntity, "given", frame.Page{Title: "A recipe from elsewhere", Here: "makings"}, givenBody{Form: f})
	return nil
}

// recipeOf is the recipe of a request: a file, or what was pasted, or what the page carries along.
func recipeOf(c *gin.Context) (r given.Recipe, text string, err error) {
	data := []byte(c.PostForm("recipe"))
	if head, err := c.FormFile("file"); err == nil && head.Size > 0 {
		f, err := head.Open()
		if err != nil {
			return r, "", err
		}
		defer f.Close()
		if data, err = io.ReadAll(io.LimitReader(f, 10<<20)); err != nil {
			return r, "", err
		}
	}
	if r, err = given.Read(data); err != nil {
		return r, "", err
	}
	b, err := json.Marshal(r)
	return r, string(b), err
}

// taking is what was chosen of a recipe.
func taking(v url.Values, r given.Recipe, u show.Units) (q reach.Taking, err error) {
	q = reach.Taking{Recipe: r, TotalG: r.TotalG, Anew: v.Get("shares") == "anew"}
	if v.Get("grams") != "" {
		if q.TotalG, err = u.ReadGrams("grams", v.Get("grams")); err != nil {
			return q, err
		}
	}
	if v.Has("lot0") {
		for i := range r.Components {
			id, _ := strconv.ParseInt(v.Get(fmt.Sprintf("lot%d", i)), 10, 64)
			q.Lots = append(q.Lots, id)
		}
	}
	return q, nil
}

// showGiven shows a recipe with what was chosen; how much of it, if that is not what is wrong.
func (s *Room) showGiven(c *gin.Context, f frame.Form, r given.Recipe, text string, u show.Units) error {
	v, status := url.Values{}, http.StatusOK
	for k, x := range f.Values {
		if f.Errors[k] == "" {
			v.Set(k, x)
		}
	}
	if len(f.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	q, err := taking(v, r, u)
	if err != nil {
		return err
	}
	b := givenBody{Form: f, Recipe: &r, Text: text}
	if b.Seen, err = reach.GivenTo(c.Request.Context(), s.Studio.Reach, q); err != nil {
		return err
	}
	if b.Makings, err = s.Studio.Recipe.MakingNames(c.Request.Context()); err != nil {
		return err
	}
	if f.Values["grams"] == "" {
		f.Values["grams"] = u.Plain(q.TotalG)
	}
	for i, p := range b.Seen.Parts {
		row := givenRow{N: i, Part: p, Field: fmt.Sprintf("lot%d", i), Value: "0", Options: []frame.Option{{Value: "0", Label: "to buy, as it is in the recipe"}}}
		for _, n := range p.Near {
			row.Options = append(row.Options, frame.Option{Value: strconv.FormatInt(n.Lot.ID, 10), Label: n.Lot.Name + ", " + u.Grams(n.Lot.Grams) + " · " + n.Words})
		}
		if p.Chosen != nil {
			row.Value, row.Said = strconv.FormatInt(p.Chosen.Lot.ID, 10), differs(*p.Chosen, u)
			if p.Chosen.LacksG > 0 {
				b.Buy = append(b.Buy, u.Grams(p.Chosen.LacksG)+" more of "+p.Chosen.Lot.Name)
			}
		} else {
			b.Buy = append(b.Buy, u.Grams(p.Grams)+" of "+p.Name+" ("+p.Content+", "+p.Colour+")")
		}
		b.Rows = append(b.Rows, row)
	}
	s.Render(c, status, "given", frame.Page{Title: r.Name + ", from elsewhere", Here: "makings"}, b)
	return nil
}

// differs says how a lot that stands in is other than what the recipe has.
func differs(n reach.GivenLot, u show.Units) (out []string) {
	switch {
	case n.SameKind:
	case n.SameFamily:
		out = append(out, "another kind: "+n.Lot.KindName)
	default:
		out = append(out, "another fibre: "+n.Lot.KindName)
	}
	if n.Ratio > 1.25 || n.Ratio < 0.8 {
		how := "longer"
		if n.Ratio < 1 {
			how = "shorter"
		}
		out = append(out, how+": "+u.Length(n.Lot.WorkingStapleMM))
	}
	if n.LacksG > 0 {
		out = append(out, u.Grams(n.LacksG)+" too little")
	}
	return out
}

// takeGiven makes the blend of it.
func (s *Room) takeGiven(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	f := frame.Typed(c.Request.PostForm)
	r, text, err := recipeOf(c)
	if err != nil {
		return err
	}
	q, err := taking(c.Request.PostForm, r, u)
	if err == nil {
		var b recipe.Blend
		making, _ := strconv.ParseInt(c.PostForm("making"), 10, 64)
		if b, err = reach.TakeGiven(c.Request.Context(), s.Studio.Reach, making, q); err == nil {
			frame.GoTo(c, fmt.Sprintf("/blends/%d", b.ID), "given")
			return nil
		}
	}
	if !s.Blame(c, &f, err) || f.Errors["grams"] == "" {
		return err
	}
	return s.showGiven(c, f, r, text, u)
}
