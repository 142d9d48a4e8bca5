// Package practicepages serves the trainer: exercises for the eye and the sums, and what was answered to them.
package practicepages

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/train"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/practising"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// Room is what its handlers share.
type Room struct {
	*frame.Frame
}

// New is the room.
func New(f *frame.Frame) *Room { return &Room{f} }

// Routes lead to the trainer.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/practise", s.overview)
	r.Get("/practise/sheet", s.Turns.Long(answer.Patient, s.sheet)) // what is carded to be made waits for its turn
	r.Get("/practise/:skill", s.exercisePage)
	r.Get("/practise/:skill/batt.png", s.Turns.Long(answer.Patient, s.battPicture))
	r.Deed("/practise/:skill", s.answer)
	r.Get("/practised/:id", s.practised)
	r.Get("/rounds", s.rounds)
	r.Deed("/rounds", s.openRound)
	r.Get("/rounds/:id", s.Turns.Long(answer.Patient, s.round)) // where the exercises are made, so that no pupil waits for them
	r.Deed("/rounds/:id/end", s.endRound)
	r.Get("/rounds/:id/wall", s.wall)
	r.Get("/rounds/:id/wall/:n", s.wallTask)
	r.Get("/rounds/:id/batt/:n", s.Turns.Long(answer.Patient, s.wallBatt))
	r.Get("/lesson", s.lesson)
	r.Deed("/lesson", s.prepareLesson)
	r.Get("/makings/:id/class", s.classWall)
	r.Get("/makings/:id/class/sheets", s.placeSheets)
	r.Get("/makings/:id/class/samples", s.classSamples)
	r.Deed("/makings/:id/class/samples", s.keepClassSample)
	r.Get(frame.Class, s.class)
	r.Get(frame.Class+"/:code", s.join)
	r.Deed(frame.Class+"/:code", s.sit)
	r.Get(frame.Class+"/:code/:word", s.pupil)
	r.Deed(frame.Class+"/:code/:word", s.pupilSays)
	r.Get(frame.Class+"/:code/:word/said/:n", s.pupilSaid)
	r.Get(frame.Class+"/:code/:word/batt/:n", s.Turns.Long(answer.Patient, s.pupilBatt))
}

// exerciseBody is an exercise as it is put.
type exerciseBody struct {
	train.Exercise
	Name    string
	Said    string
	Options []choiceView
	Layers  []layerView // from the top
	Pars    []partView
	Form    frame.Form
	Action  string            // where the answer goes
	Hidden  map[string]string // what goes with it
	Another string            // where another one is; empty: there is none
	Batt    string            // the picture of the one asked for; empty: none
	Yours   string            // and of what is said so far
}

type choiceView struct {
	Asked, Field string
	Options      []optionView
	Wrong        string
}

// layerView is a layer of a pile, with what is asked of it.
type layerView struct {
	train.Layer
	N      int
	Weight string
	High   float64 // px
	Ask    choiceView
}

type optionView struct {
	N            int
	Words        string
	Chosen, Best bool
}

// partView is a lot with what is said of it, in parts.
type partView struct {
	train.Lot
	Value string
}

// asked is the exercise of an address: without a seed a new one of the level at which one stands.
func (s *Room) asked(c *gin.Context, values url.Values) (e train.Exercise, fresh bool, err error) {
	skill := train.Skill(c.Param("skill"))
	if practising.Names[skill] == "" {
		return e, false, floor.ErrNotFound
	}
	light := values.Get("by") == "lightness"
	seed, err := strconv.ParseUint(values.Get("seed"), 10, 64)
	if fresh = err != nil || seed > practising.MostSeed; fresh {
		seed = rand.Uint64() & practising.MostSeed
	}
	level, err := strconv.Atoi(values.Get("level"))
	if err != nil {
		of, _, err := s.Studio.Practice.Standings(c.Request.Context())
		if err != nil {
			return e, false, err
		}
		for _, v := range of {
			if v.Skill == skill {
				level = v.Level
			}
		}
	}
	e, err = s.Studio.Practice.Exercise(c.Request.Context(), skill, level, seed, light)
	return e, fresh, err
}

// address is the address of an exercise, which is the same for everybody.
func address(e train.Exercise, below string) string {
	return fmt.Sprintf("/practise/%s%s?seed=%d&level=%d&by=%s", e.Skill, below, e.Seed, e.Level, by(e))
}

// by is what an exercise hangs on, as addresses say it.
func by(e train.Exercise) string {
	if e.ByLightness {
		return "lightness"
	}
	return "hue"
}

// exercisePage puts an exercise.
func (s *Room) exercisePage(c *gin.Context) error {
	e, fresh, err := s.asked(c, c.Request.URL.Query())
	if err != nil {
		return err
	}
	if fresh {
		c.Redirect(http.StatusSeeOther, address(e, ""))
		return nil
	}
	return s.put(c, http.StatusOK, e, saidSoFar(c))
}

// saidSoFar are the parts that an address says, for who has no script to look at them with.
func saidSoFar(c *gin.Context) frame.Form {
	f := frame.NewForm()
	for k, v := range c.Request.URL.Query() {
		if strings.HasPrefix(k, "part") {
			f.Values[k] = v[0]
		}
	}
	return f
}

// put shows an exercise with what was said so far.
func (s *Room) put(c *gin.Context, status int, e train.Exercise, f frame.Form) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b := bodyOf(e, f, u, address(e, "/batt.png"))
	b.Action, b.Another = "/practise/"+string(e.Skill), "/practise/"+string(e.Skill)+"?by="+by(e)
	b.Hidden = map[string]string{"seed": strconv.FormatUint(e.Seed, 10), "level": strconv.Itoa(e.Level), "by": by(e)}
	s.Render(c, status, "exercise", frame.Page{Title: b.Name, Here: "practise", Scripts: []string{"js/practise.js"}}, b)
	return nil
}

// bodyOf is an exercise as it is put, with what was said so far; batt is where its batt is drawn.
func bodyOf(e train.Exercise, f frame.Form, u show.Units, batt string) exerciseBody {
	b := exerciseBody{Exercise: e, Name: practising.Names[e.Skill], Said: e.Asked.In(u), Form: f}
	for i, ch := range e.Choices {
		field := fmt.Sprint("choice", i)
		v := choiceView{Asked: ch.Asked, Field: field, Wrong: f.Errors[field]}
		for n, o := range ch.Options {
			v.Options = append(v.Options, optionView{N: n, Words: o.In(u), Chosen: f.Values[field] == strconv.Itoa(n)})
		}
		if i >= len(e.Pile) {
			b.Options = append(b.Options, v)
			continue
		}
		b.Layers = append(b.Layers, layerOf(e, i, v, u))
	}
	slices.Reverse(b.Layers)
	for i, l := range e.Lots {
		if !e.AsksParts() {
			break
		}
		v := partView{Lot: l, Value: f.Values[fmt.Sprint("part", i)]}
		if v.Value == "" {
			v.Value = "0"
		}
		b.Pars = append(b.Pars, v)
	}
	if len(e.Shown()) > 0 {
		b.Batt = batt
		if parts, err := partsOf(e, func(k string) string { return f.Values[k] }); err == nil && e.AsksParts() && some(parts) {
			b.Yours = withParts(batt, parts)
		}
	}
	return b
}

// layerOf is a layer of a pile, with what is asked or was said of it.
func layerOf(e train.Exercise, i int, ask choiceView, u show.Units) layerView {
	const pxOfGram = 4
	l := e.Pile[i]
	return layerView{l, i + 1, u.Grams(float64(l.Grams)), pxOfGram * float64(l.Grams), ask}
}

// withParts is where the batt of other parts is drawn.
func withParts(batt string, parts []float64) string {
	sep := "?"
	if strings.Contains(batt, "?") {
		sep = "&"
	}
	return batt + sep + "parts=" + joined(parts)
}

func some(parts []float64) bool {
	for _, p := range parts {
		if p > 0 {
			return true
		}
	}
	return false
}

func joined(parts []float64) string {
	out := make([]string, len(parts))
	for i, p := range parts {
		out[i] = show.Number(p)
	}
	return strings.Join(out, "_")
}

// partsOf reads what is said of each lot; nothing is nothing.
func partsOf(e train.Exercise, value func(string) string) ([]float64, error) {
	out := make([]float64, len(e.Lots))
	for i := range out {
		text := strings.TrimSpace(value(fmt.Sprint("part", i)))
		if text == "" {
			continue
		}
		var err error
		if out[i], err = show.ReadNumber("parts", text, "parts"); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// answer takes an answer, and goes to what is said to it.
func (s *Room) answer(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	e, _, err := s.asked(c, c.Request.PostForm)
	if err != nil {
		return err
	}
	f := frame.Typed(c.Request.PostForm)
	a, err := readAnswer(e, f, u)
	if err == nil {
		var p practising.Practice
		p, err = s.Studio.Practice.Take(c.Request.Context(), practising.Practice{Skill: e.Skill, Level: e.Level, Seed: e.Seed, ByLightness: e.ByLightness, Answer: a})
		if err == nil {
			c.Redirect(http.StatusSeeOther, fmt.Sprintf("/practised/%d", p.ID))
			return nil
		}
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.put(c, http.StatusUnprocessableEntity, e, f)
}

// readAnswer reads what was said; what is left out is named at its field.
func readAnswer(e train.Exercise, f frame.Form, u show.Units) (a train.Answer, err error) {
	r := &frame.Reader{Values: url.Values{}}
	if a.Parts, err = partsOf(e, func(k string) string { return f.Values[k] }); err != nil {
		r.Add(err)
	}
	for i := range e.Choices {
		field := fmt.Sprint("choice", i)
		n, err := strconv.Atoi(f.Values[field])
		if err != nil {
			r.Wrong.Add(field, "Choose one of them.")
		}
		a.Chosen = append(a.Chosen, n)
	}
	if e.Grams {
		g, err := u.ReadGrams("grams", f.Values["grams"])
		r.Add(err)
		a.Grams = unit.Grams(g)
	}
	return a, r.Wrong.Err()
}

// battPicture draws the batt of an exercise, or what would be in it as it was said.
func (s *Room) battPicture(c *gin.Context) error {
	e, _, err := s.asked(c, c.Request.URL.Query())
	if err != nil {
		return err
	}
	return s.draw(c, e)
}

func (s *Room) draw(c *gin.Context, e train.Exercise) (err error) {
	if len(e.Shown()) == 0 {
		return floor.ErrNotFound
	}
	var pic []byte
	if q := c.Request.URL.Query(); q.Has("parts") {
		said := strings.Split(q.Get("parts"), "_")
		parts, err := partsOf(e, func(k string) string {
			if i, _ := strconv.Atoi(strings.TrimPrefix(k, "part")); i < len(said) {
				return said[i]
			}
			return ""
		})
		if err != nil {
			return err
		}
		pic, err = practising.Batt(c.Request.Context(), e, parts)
		if err != nil {
			return err
		}
	} else if pic, err = s.Studio.Practice.Shown(c.Request.Context(), e); err != nil {
		return err
	}
	c.Data(http.StatusOK, "image/png", pic)
	return nil
}
