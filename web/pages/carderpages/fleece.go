package carderpages

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fleece"
	"fairtangle/core/layup"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// fleeceView is a raw fleece on its way, with all texts ready.
type fleeceView struct {
	ID      int64            `json:"id"`
	Version int64            `json:"version"`
	Unit    string           `json:"unit"`
	Raw     string           `json:"raw"`
	Skirted string           `json:"skirted"`
	Parts   []fleecePart     `json:"parts"`
	Flow    []fleeceFlow     `json:"flow"`
	Said    string           `json:"said"`
	FellOut string           `json:"fell_out"`
	Taken   map[string]bool  `json:"taken"`
	Oil     string           `json:"oil"`
	Note    string           `json:"note"`
	After   map[string]int64 `json:"after"`
	Next    int              `json:"next"` // the unit that a new part becomes
	Log     []runLog         `json:"log"`
}

type fleecePart struct {
	Unit     int              `json:"unit"`
	Name     string           `json:"name"`
	Hex      string           `json:"hex"`
	Sorted   string           `json:"sorted"`
	Tumbled  string           `json:"tumbled"`
	Flicked  string           `json:"flicked"`
	Washed   bool             `json:"washed"`
	Dried    string           `json:"dried"`
	Picked   string           `json:"picked"`
	Expected string           `json:"expected"`
	Shelved  []shelved        `json:"shelved"`
	ToShelf  string           `json:"to_shelf"`
	After    map[string]int64 `json:"after"`
}

// fleeceFlow is what is left after a stage, as parts of the raw weight.
type fleeceFlow struct {
	Name string  `json:"name"`
	Text string  `json:"text"`
	Low  float64 `json:"low"`
	Span float64 `json:"span"`
}

// takeOutWords are what is looked for in a fleece.
var takeOutWords = func() map[string]string {
	out := map[string]string{}
	for _, t := range fleece.TakeOuts() {
		out[t.Key] = strings.ToLower(t.Name)
	}
	return out
}()

func fleeceWhere(v carder.Run, e carder.RunEntry) string {
	where := "all of it"
	for _, p := range v.Fleece.Parts {
		if p.Unit == e.Unit {
			where = p.Name
		}
	}
	if e.Pass > 0 && e.Pass <= fleece.Count {
		where += ", " + strings.ToLower(fleece.StageOf(e.Pass).Name)
	}
	return where
}

func fleeceViewOf(v carder.Run, u show.Units) fleeceView {
	f := v.Fleece
	u = u.WithStep(1) // nobody expects a fleece to the tenth of a gram
	amount := func(g *float64) string {
		if g == nil {
			return ""
		}
		return u.Amount(*g)
	}
	out := fleeceView{
		ID: v.ID, Version: v.Version, Unit: u.Weight(), Parts: []fleecePart{}, Flow: []fleeceFlow{}, Taken: f.Taken, Note: f.Note, After: f.After, Next: 1,
		Skirted: amount(f.WholeG[fleece.Skirted-1]), Log: runLogOf(v, u),
	}
	if f.RawG > 0 {
		out.Raw = u.Amount(f.RawG)
	}
	if f.OilPct != nil {
		out.Oil = show.Number(*f.OilPct)
	}
	for _, p := range f.Parts {
		x := fleecePart{
			Unit: p.Unit, Name: p.Name, Hex: p.Hex, Sorted: amount(p.StageG[fleece.Sorted-1]), Washed: p.Done[fleece.Washed-1], Dried: amount(p.StageG[fleece.Dried-1]),
			Tumbled: amount(p.StageG[fleece.Tumbled-1]), Flicked: amount(p.StageG[fleece.Flicked-1]),
			Picked: amount(p.StageG[fleece.Picked-1]), Shelved: []shelved{}, After: p.After,
		}
		if p.Stage > 0 && p.Stage != fleece.Picked {
			x.Expected = fmt.Sprintf("~%s to %s", u.Plain(p.LowG), u.Grams(p.HighG))
		}
		for _, e := range p.Shelved {
			x.Shelved = append(x.Shelved, shelvedView(e, u))
		}
		if p.ToShelf > 0 {
			x.ToShelf = u.Amount(p.ToShelf)
		}
		out.Parts = append(out.Parts, x)
	}
	for _, e := range v.Entries {
		out.Next = max(out.Next, e.Unit+1)
	}
	out.flow(f, u)
	if f.FellOutG != 0 && len(f.Parts) > 0 {
		out.FellOut = u.Grams(f.FellOutG) + " fell out in parting it"
		if f.FellOutG < 0 {
			out.FellOut = u.Grams(-f.FellOutG) + " more than before it was parted: look at the weights again"
		}
	}
	return out
}

// flow draws what is left after each stage.
func (out *fleeceView) flow(f *carder.Fleece, u show.Units) {
	if f.RawG <= 0 {
		return
	}
	for _, s := range append([]fleece.Stage{{Name: "Raw"}}, fleece.Stages()...) {
		if s.Wet || s.Optional && !f.Did(s.Number) {
			continue
		}
		t := f.Totals[s.Number]
		row := fleeceFlow{Name: s.Name, Low: t.LowG / f.RawG, Span: (t.HighG - t.LowG) / f.RawG, Text: u.Grams(t.HighG)}
		if t.HighG-t.LowG > 0.001 {
			row.Text = fmt.Sprintf("~%s to %s", u.Plain(t.LowG), u.Grams(t.HighG))
		}
		out.Flow = append(out.Flow, row)
	}
	out.Said = fmt.Sprintf("%s of the raw weight can be carded: %s.", show.Percent(f.Low), u.Grams(f.LowG))
	if f.Expected {
		out.Said = fmt.Sprintf("So far %s of the raw weight is left. When all is picked it will be %s to %s of it, %s to %s.",
			show.Percent(f.SoFar), show.Percent(f.Low), show.Percent(f.High), u.Plain(f.LowG), u.Grams(f.HighG))
	}
}

type fleeceBody struct {
	View     fleeceView
	Run      carder.Run
	Making   recipe.Making
	LotGrams string
	Stages   []fleece.Stage
	TakeOuts []fleece.TakeOut
	Matters  []layup.Matter
	Form     frame.Form
	Animal   string
	LookFor  string
}

// lookedFor is the checklist without what need not be looked for in the animal's fleece.
func lookedFor(f *carder.Fleece) []fleece.TakeOut {
	return slices.DeleteFunc(fleece.TakeOuts(), func(t fleece.TakeOut) bool { return slices.Contains(f.NotAsked, t.Key) && !f.Taken[t.Key] })
}

// fleecePage is a raw fleece on its way to the carder.
func (s *Room) fleecePage(c *gin.Context, v carder.Run, u show.Units, p frame.Page) error {
	return s.showFleece(c, http.StatusOK, v, u, p, frame.NewForm())
}

func (s *Room) showFleece(c *gin.Context, status int, v carder.Run, u show.Units, p frame.Page, f frame.Form) error {
	m, err := s.Studio.Recipe.Making(c.Request.Context(), v.MakingID)
	if err != nil {
		return err
	}
	body := fleeceBody{
		View: fleeceViewOf(v, u), Run: v, Making: m, Stages: fleece.Stages(), TakeOuts: lookedFor(v.Fleece), Form: f,
		Matters: layup.MattersOf(layup.OfFleece), Animal: v.Fleece.Animal, LookFor: v.Fleece.LookFor,
	}
	if l, err := s.Studio.Shelf.Lot(c.Request.Context(), *v.LotID); err == nil {
		body.LotGrams = u.Amount(l.Grams)
	} else if !errors.Is(err, floor.ErrNotFound) {
		return err
	}
	p.Title, p.Scripts = v.Name, []string{"js/fleece.js"}
	s.Render(c, status, "fleece", p, body)
	return nil
}

// startFleece begins the preparing of a raw fleece.
func (s *Room) startFleece(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	making, _ := strconv.ParseInt(c.PostForm("making"), 10, 64)
	v, err := s.Studio.Carder.StartFleece(c.Request.Context(), n, making)
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/runs/%d", v.ID), "")
	return nil
}

// shelveFleece puts a part of a fleece onto the shelf.
func (s *Room) shelveFleece(c *gin.Context, v carder.Run, in carder.ShelfInput, wrong error) error {
	err := wrong
	if err == nil {
		if _, err = s.Studio.Carder.ShelveFleece(c.Request.Context(), v.ID, in); err == nil {
			frame.GoTo(c, fmt.Sprintf("/runs/%d", v.ID), "shelved")
			return nil
		}
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	v, _, u, p, err := s.RunAround(c)
	if err != nil {
		return err
	}
	return s.showFleece(c, http.StatusUnprocessableEntity, v, u, p, f)
}
