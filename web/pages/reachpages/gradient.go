package reachpages

import (
	"context"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// ladderView is a gradient as its page shows it; all texts are ready.
type ladderView struct {
	ID      int64               `json:"id"`
	Version int64               `json:"version"`
	Input   reach.GradientInput `json:"input"`
	Stops   []stopView          `json:"stops"`
	Rungs   []rungView          `json:"rungs"`
	Total   string              `json:"total"`
	Unit    string              `json:"unit"`
	Largest string              `json:"largest"`
	MaxJump string              `json:"max_jump"`
	Said    string              `json:"said"`
	Passes  int                 `json:"passes"`
	frame.StepsView
}

type stopView struct {
	Key   int64  `json:"key"`
	Name  string `json:"name"`
	Hex   string `json:"hex"`
	Grams string `json:"grams"`
	Short string `json:"short"`
	Sub   string `json:"sub"`
	Href  string `json:"href"`
}

type rungView struct {
	Name   string     `json:"name"`
	Hex    string     `json:"hex"`
	Weight string     `json:"weight"`
	Height float64    `json:"height"` // px, by weight
	Band   string     `json:"band"`
	Parts  []partView `json:"parts"`
	Stop   bool       `json:"stop"`
	Jump   string     `json:"jump"`
	Abrupt bool       `json:"abrupt"`
	Last   bool       `json:"last"`
	Span   int        `json:"span"`
}

type partView struct {
	Name    string `json:"name"`
	Percent string `json:"percent"`
	Weight  string `json:"weight"`
}

func (s *Room) ladderView(g reach.Ladder, u show.Units, kinds workshop.Kinds, at frame.StepsView) ladderView {
	v := ladderView{
		ID: g.ID, Version: g.Version, Input: g.GradientInput, Total: u.Grams(g.TotalG), Unit: u.Weight(), Largest: show.Fixed(g.Largest, 1),
		MaxJump: show.Number(g.MaxJump), Stops: []stopView{}, Rungs: []rungView{}, Passes: g.PassesPlanned(), StepsView: at,
	}
	if v.Input.Stops == nil {
		v.Input.Stops = []reach.Stop{}
	}
	for i, p := range g.Stops {
		k, _ := kinds.Find(p.Kind)
		row := stopView{Key: p.Key, Name: p.Name, Hex: p.Hex, Grams: u.Amount(p.Grams), Sub: k.Name + ", no lot"}
		if p.LotID != nil {
			row.Sub, row.Href = k.Name, fmt.Sprintf("/lots/%d", *p.LotID)
		}
		if u.Shows(g.ShortG[i]) {
			row.Short = "short by " + u.Grams(g.ShortG[i])
		}
		v.Stops = append(v.Stops, row)
	}
	abrupt := 0
	for i, p := range g.Steps {
		k := kinds.List[0]
		if f, ok := kinds.Find(g.Stops[p.Parts[0].Stop].Kind); ok {
			k = f
		}
		r := rungView{
			Name: p.Name, Hex: p.Hex, Weight: u.Grams(p.Grams), Height: 30 + 34*min(1, p.Grams/max(1e-9, g.TotalG)*float64(len(g.Steps))/2),
			Band: art.BandLink(
				k,
				[]string{p.Hex},
				i,
				art.WholeTile,
			), Stop: p.Stop >= 0, Jump: show.Fixed(p.Jump, 1), Abrupt: p.Abrupt, Last: p.Last, Span: p.Span,
		}
		for _, part := range p.Parts {
			r.Parts = append(r.Parts, partView{part.Name, show.Fixed(100*part.Share, 0), u.Grams(part.Grams)})
		}
		if p.Abrupt {
			abrupt++
		}
		v.Rungs = append(v.Rungs, r)
	}
	switch {
	case len(g.Steps) < 2:
		v.Said = "A gradient needs two stops at least."
	case abrupt == 0:
		v.Said = fmt.Sprintf("Every jump is at most %s; the largest is %s.", v.MaxJump, v.Largest)
	default:
		if v.Largest == show.Fixed(g.MaxJump, 1) { // it is above it, by less than a tenth
			v.Largest = show.Fixed(g.Largest, 2)
		}
		v.Said = fmt.Sprintf("%s above %s, the largest is %s.", show.Plural(abrupt, "jump"), v.MaxJump, v.Largest)
	}
	return v
}

type gradientBody struct {
	View         ladderView
	Making       recipe.Making
	Families     []string
	Kinds        map[string][]fibre.Kind
	Preparations []fibre.Preparation
}

func (s *Room) gradientPage(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	g, err := s.Studio.Reach.Gradient(c.Request.Context(), n)
	if err != nil {
		return err
	}
	m, err := s.Studio.Recipe.Making(c.Request.Context(), g.MakingID)
	if err != nil {
		return err
	}
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	u, set, err := s.Units(c)
	if err != nil {
		return err
	}
	kinds, err := s.Studio.Workshop.AllKinds(c.Request.Context(), true)
	if err != nil {
		return err
	}
	at, err := s.StepsView(c, "gradients", g.ID)
	if err != nil {
		return err
	}
	b := gradientBody{View: s.ladderView(g, u, kinds, at), Making: m, Preparations: fibre.Preparations()}
	b.Families, b.Kinds = workshop.KindOptions(kinds.List)
	s.Render(c, http.StatusOK, "gradient", frame.Page{
		Title: g.Name + ", " + m.Name, Here: "makings", Strand: frame.StrandFor(m, st, "Fibres", nil, set.Ground), Scripts: []string{"js/gradient.js"}, Wide: true,
	}, b)
	return nil
}

// newGradient starts an empty gradient of a making.
func (s *Room) newGradient(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	in := reach.GradientInput{Name: c.PostForm("gradient_name"), GradientPlan: newPlan()}
	g, err := s.Studio.Reach.CreateGradient(c.Request.Context(), m.ID, in)
	if err != nil {
		f := frame.Typed(c.Request.PostForm)
		if !s.Blame(c, &f, err) {
			return err
		}
		f.Errors["gradient_name"] = f.Errors["name"] // the page has another name, that of a new blend
		mf := frame.NewForm()
		mf.Values = map[string]string{"name": m.Name, "note": m.Note, "version": strconv.FormatInt(m.Version, 10)}
		return s.recipe.ShowMaking(c, http.StatusUnprocessableEntity, m, mf, f)
	}
	frame.GoTo(c, fmt.Sprintf("/gradients/%d", g.ID), "")
	return nil
}

func newPlan() reach.GradientPlan {
	passes := reach.DefaultPasses
	return reach.GradientPlan{Stops: []reach.Stop{}, School: "thirds", Bridges: 2, MaxJump: reach.DefaultJump, Passes: &passes}
}

// gradientFromLot starts a gradient of the colours of a lot in the making that
// was chosen.
func (s *Room) gradientFromLot(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	l, err := s.Studio.Shelf.Lot(c.Request.Context(), n)
	if err != nil {
		return err
	}
	making, _ := strconv.ParseInt(c.PostForm("making"), 10, 64)
	in := reach.GradientInput{Name: l.Name, GradientPlan: newPlan()}
	if in.Stops, err = s.Studio.Reach.StopsOfLot(c.Request.Context(), n); err != nil {
		return err
	}
	if in, err = s.Studio.Reach.OrderGradient(c.Request.Context(), in, false); err != nil {
		return err
	}
	g, err := s.Studio.Reach.CreateGradient(c.Request.Context(), making, in)
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/gradients/%d", g.ID), "")
	return nil
}

// ladder is how a gradient is changed on its page.
func (s *Room) ladder() frame.Piece[reach.GradientInput, reach.GradientChange, reach.Ladder] {
	return frame.Piece[reach.GradientInput, reach.GradientChange, reach.Ladder]{
		Table: "gradients",
		Read:  readLadder,
		Apply: func(ctx context.Context, _ int64, in reach.GradientInput, c *reach.GradientChange) (reach.Ladder, error) {
			return s.Studio.Reach.ApplyGradient(ctx, in, c)
		},
		Save: func(ctx context.Context, id, version int64, v reach.Ladder, _ string) (reach.Ladder, error) {
			return s.Studio.Reach.SaveGradient(ctx, id, version, v.GradientInput)
		},
		Step: s.Studio.Reach.StepGradient,
		Mark: func(v *reach.Ladder, id, version int64) { v.ID, v.Version = id, version },
		View: func(c *gin.Context, v reach.Ladder, u show.Units, at frame.StepsView) (any, error) {
			kinds, err := s.Studio.Workshop.AllKinds(c.Request.Context(), true)
			return s.ladderView(v, u, kinds, at), err
		},
		Sum: frame.SumOf(func(in reach.GradientInput, _ show.Units) string {
			return in.Name + ", " + show.Plural(len(in.Stops), "stop")
		}),
	}
}

// readLadder turns typed fields into the change that they mean.
func readLadder(_ *gin.Context, q *frame.Edit[reach.GradientInput, reach.GradientChange], u show.Units) (err error) {
	if q.Change == nil {
		return nil
	}
	for field, text := range q.Typed {
		switch field {
		case "bridges":
			q.Change.Value, err = show.ReadNumber("bridges", text, "a number of bridges, such as 3")
		case "max_jump":
			q.Change.Value, err = show.ReadNumber("max_jump", text, "the largest jump, such as 8")
		case "passes":
			q.Change.Value, err = show.ReadNumber("passes", text, "the number of passes")
		case "grams":
			var v float64
			v, err = u.ReadGrams("grams", text)
			q.Change.Value = v
			if q.Change.Stop != nil {
				q.Change.Stop.Grams = v
			}
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// gradientBlends makes the blends of a gradient and shows its making.
func (s *Room) gradientBlends(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	g, err := s.Studio.Reach.Gradient(c.Request.Context(), n)
	if err != nil {
		return err
	}
	blends, err := s.Studio.Reach.GradientBlends(c.Request.Context(), n)
	if err != nil {
		return err
	}
	ids := make([]string, len(blends))
	for i, b := range blends {
		ids[i] = strconv.FormatInt(b.ID, 10)
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/makings/%d/weighlist?did=made&blends=%s", g.MakingID, strings.Join(ids, ",")))
	return nil
}
