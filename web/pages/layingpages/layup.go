package layingpages

import (
	"context"
	"math"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/studio/advising"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/advisingpages"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type layupBody struct {
	View      layupView
	Making    recipe.Making
	Blend     recipe.Blend
	Siblings  []laying.LayupRow
	Equipment []workshop.Equipment
	Builders  []builderWord
	Uses      []usedAs
	Orders    []usedAs
	FedWays   []usedAs
	OffArt    []drawing
	LieArt    []drawing
	Rods      []offWord
	Before    []toolWord
	After     []toolWord
}

// usedAs is what a fibre may be there for: in the list of choices, and beside its name.
type usedAs struct{ Key, Name, Short string }

var usedWords = []usedAs{
	{"base", "base: first and last", "base"},
	{"lane", "a lane or layer of its own", ""},
	{"scatter", "scattered: a little between everything", "scattered"},
	{"veil", "a veil: one thin sheet", "a veil"},
	{"over", "over lanes, fading to their sides", "over lanes"},
	{"paint", "a painted stroke", "a stroke"},
	{"spot", "in spots, laid on as it is", "in spots"},
}

var orderWords = []usedAs{
	{string(laying.ByPath), "smoothest", ""},
	{string(laying.AsGiven), "as in the blend", ""},
	{string(laying.ByHue), "round the hues", ""},
	{string(laying.ByLightness), "from light to dark", ""},
}

// fedWords are how a fibre of several colours is used: in the list of choices, and at the carder.
var fedWords = []usedAs{
	{"in-order", "one colour after the other, as they run", "as its colours run"},
	{"abreast", "lengths side by side, each begun at another colour", "lengths abreast, each begun at another colour"},
	{"torn-up", "torn into short pieces, laid by chance", "torn into short pieces, by chance"},
	{"stirred-first", "stirred into one colour first, in a pass of its own", "stirred into one first"},
}

// useWord is a use beside the name of a fibre; a lane goes without saying.
func useWord(key string) string {
	for _, v := range usedWords {
		if v.Key == key {
			return v.Short
		}
	}
	return ""
}

// builderWord is a builder with what it is good for.
type builderWord struct {
	Key, Name, Why string
	Boards         bool // for boards alone
}

var builderWords = []builderWord{
	{"sandwich", "Sandwich", "grippy wool below and above, delicate fibre in the middle", false},
	{"lanes", "Lanes", "colours side by side, over and over; extras between the layers", false},
	{"depth", "Depth", "full layers one over the other", false},
	{"flow", "Flow", "neighbours overlap and change places from layer to layer", false},
	{"stripes-along", "Stripes along", "a thin base, stripes up the board, a thin cover", true},
	{"stripes-across", "Stripes across", "a thin base, bands across the board, a thin cover", true},
	{"overlay", "Overlay", "a dull base, brighter fibre painted over it", false},
}

func (s *Room) layup(c *gin.Context) (laying.Layup, error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return laying.Layup{}, err
	}
	return s.Studio.Laying.Layup(c.Request.Context(), n)
}

// LayupAround loads a lay-up with what lies around it.
func (s *Room) LayupAround(c *gin.Context) (l laying.Layup, b recipe.Blend, m recipe.Making, u show.Units, p frame.Page, err error) {
	if l, err = s.layup(c); err != nil {
		return l, b, m, u, p, err
	}
	b, m, st, err := s.around(c, l.BlendID)
	if err != nil {
		return l, b, m, u, p, err
	}
	u, set, err := s.Units(c)
	if err != nil {
		return l, b, m, u, p, err
	}
	p = frame.Page{Here: "makings", Strand: frame.StrandFor(m, st, "Lay-up", &b, set.Ground), Wide: true}
	return l, b, m, u, p, nil
}

func (s *Room) layupPage(c *gin.Context) error {
	l, b, m, u, p, err := s.LayupAround(c)
	if err != nil {
		return err
	}
	at, err := s.StepsView(c, "layups", l.ID)
	if err != nil {
		return err
	}
	view, err := s.layupView(c, l, u, at)
	if err != nil {
		return err
	}
	body := layupBody{View: view, Making: m, Blend: b, Builders: builderWords,
		Uses: usedWords, Orders: orderWords, FedWays: fedWords, OffArt: offArt, LieArt: lieArt, Rods: rodWords,
		Before: toolsOf(layup.ToolsBefore), After: toolsOf(layup.ToolsAfter)}
	if body.Siblings, err = s.Studio.Laying.LayupsOf(c.Request.Context(), b.ID); err != nil {
		return err
	}
	if body.Equipment, err = s.Studio.Workshop.Equipment(c.Request.Context()); err != nil {
		return err
	}
	p.Title, p.Scripts = l.Name+", lay-up", []string{"js/layup.js"}
	s.Render(c, http.StatusOK, "layup", p, body)
	return nil
}

// layupView is a lay-up with what a practised eye says of it as it stands on its page, kept or not.
type layupView struct {
	BedView
	Second advisingpages.SecondView `json:"second"`
}

func (s *Room) layupView(c *gin.Context, l laying.Layup, u show.Units, at frame.StepsView) (layupView, error) {
	look, err := s.Studio.Advising.LookOfLayup(c.Request.Context(), l)
	return layupView{s.BedView(l, u, at), advisingpages.SecondViewOf([]advising.SecondLook{look}, u)}, err
}

// around is the blend of a page with its making and how far that has come.
func (s *Room) around(c *gin.Context, blend int64) (b recipe.Blend, m recipe.Making, st frame.State, err error) {
	if b, err = s.Studio.Recipe.Blend(c.Request.Context(), blend); err != nil {
		return b, m, st, err
	}
	if m, err = s.Studio.Recipe.Making(c.Request.Context(), b.MakingID); err != nil {
		return b, m, st, err
	}
	st, err = s.StateOf(c, m.ID)
	return b, m, st, err
}

// bed is how a lay-up is changed on its page.
func (s *Room) bed() frame.Piece[laying.LayupInput, laying.LayupChange, laying.Layup] {
	return frame.Piece[laying.LayupInput, laying.LayupChange, laying.Layup]{
		Table: "layups",
		Read:  s.readBed,
		Apply: func(ctx context.Context, id int64, in laying.LayupInput, c *laying.LayupChange) (laying.Layup, error) {
			if c == nil {
				c = &laying.LayupChange{}
			}
			return s.Studio.Laying.ApplyLayup(ctx, id, in, *c)
		},
		Save: func(ctx context.Context, id, version int64, v laying.Layup, _ string) (laying.Layup, error) {
			return s.Studio.Laying.SaveLayup(ctx, id, version, v.LayupInput, false)
		},
		Step: s.Studio.Laying.StepLayup,
		Mark: func(v *laying.Layup, id, version int64) { v.ID, v.Version = id, version },
		View: func(c *gin.Context, v laying.Layup, u show.Units, at frame.StepsView) (any, error) {
			return s.layupView(c, v, u, at)
		},
		Sum: frame.SumOf(func(in laying.LayupInput, _ show.Units) string {
			return in.Name + ", " + show.Plural(len(in.Layers), "layer")
		}),
	}
}

// readMoved turns a way across into a part of the width; nothing typed is no way.
func (s *Room) readMoved(c *gin.Context, q *frame.Edit[laying.LayupInput, laying.LayupChange], r *frame.Reader, u show.Units) error {
	text := strings.TrimSpace(r.Values.Get("moved"))
	if text == "" {
		return nil
	}
	e, err := s.Studio.Workshop.AnyEquipment(c.Request.Context(), q.Input.EquipmentID)
	if err != nil {
		return err
	}
	mm, err := u.ReadLength("moved", text)
	r.Add(err)
	q.Change.Value = mm / e.WidthMM
	return nil
}

// readBed turns typed fields into the change that they mean.
func (s *Room) readBed(c *gin.Context, q *frame.Edit[laying.LayupInput, laying.LayupChange], u show.Units) error {
	if q.Change == nil {
		return nil
	}
	r := &frame.Reader{Values: map[string][]string{}}
	for k, v := range q.Typed {
		r.Values.Set(k, v)
	}
	if r.Values.Has("times") {
		q.Change.Times = r.Count("times", "how many")
	}
	if mm := r.Values.Get("fade"); strings.TrimSpace(mm) != "" {
		fade, err := u.ReadLength("fade", mm)
		r.Add(err)
		q.Change.FadeMM = fade
	}
	if r.Values.Has("moved") {
		if err := s.readMoved(c, q, r, u); err != nil {
			return err
		}
	}
	if r.Values.Has("hole") {
		mm, err := u.ReadSmall("hole", r.Values.Get("hole"))
		r.Add(err)
		q.Change.Value = mm
	}
	if r.Values.Has("draft") {
		q.Change.Value = r.Number("draft", "a draft, such as 1.75")
	}
	if lay := q.Change.Lay; lay != nil {
		e, err := s.Studio.Workshop.AnyEquipment(c.Request.Context(), q.Input.EquipmentID)
		if err != nil {
			return err
		}
		if strings.TrimSpace(r.Values.Get("grams")) != "" {
			lay.Grams = r.Grams(u, "grams")
		}
		for _, f := range []struct {
			field string
			whole float64
			to    **float64
		}{{"from", e.WidthMM, &lay.From}, {"to", e.WidthMM, &lay.To}, {"start", e.LengthMM, &lay.Start}, {"end", e.LengthMM, &lay.End}} {
			if !r.Values.Has(f.field) {
				continue
			}
			mm, err := u.ReadLength(f.field, r.Values.Get(f.field))
			if err != nil {
				r.Add(err)
				continue
			}
			at := mm / f.whole
			if math.Abs(at-1) < 0.003 { // what was shown was rounded
				at = 1
			}
			*f.to = &at
		}
	}
	return r.Wrong.Err()
}
