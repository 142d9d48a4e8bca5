package web

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/web/show"
)

// ladderView is a gradient as its page shows it; all texts are ready.
type ladderView struct {
	ID      int64                `json:"id"`
	Version int64                `json:"version"`
	Input   studio.GradientInput `json:"input"`
	Stops   []stopView           `json:"stops"`
	Rungs   []rungView           `json:"rungs"`
	Total   string               `json:"total"`
	Unit    string               `json:"unit"`
	Largest string               `json:"largest"`
	MaxJump string               `json:"max_jump"`
	Said    string               `json:"said"`
}

type stopView struct {
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

func (s *server) ladderView(g studio.Ladder, u show.Units, kinds studio.Kinds) ladderView {
	v := ladderView{
		ID: g.ID, Version: g.Version, Input: g.GradientInput, Total: u.Grams(g.TotalG), Unit: u.Weight(), Largest: show.Fixed(g.Largest, 1),
		MaxJump: show.Number(g.MaxJump), Stops: []stopView{}, Rungs: []rungView{},
	}
	if v.Input.Stops == nil {
		v.Input.Stops = []store.GradientStop{}
	}
	for i, p := range g.Stops {
		k, _ := kinds.Find(p.Kind)
		row := stopView{Name: p.Name, Hex: p.Hex, Grams: u.Exact(p.Grams), Sub: k.Name + ", no lot"}
		if p.LotID != nil {
			row.Sub, row.Href = k.Name, fmt.Sprintf("/lots/%d", *p.LotID)
		}
		if g.ShortG[i] > 1e-6 {
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
			Band: bandURL(k, []string{p.Hex}, i), Stop: p.Stop >= 0, Jump: show.Fixed(p.Jump, 1), Abrupt: p.Abrupt, Last: p.Last, Span: p.Span,
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
		v.Said = fmt.Sprintf("%s above %s, the largest is %s.", plural(abrupt, "jump"), v.MaxJump, v.Largest)
	}
	return v
}

type gradientBody struct {
	View         ladderView
	Making       studio.Making
	Families     []string
	Kinds        map[string][]fibre.Kind
	Preparations []fibre.Preparation
}

func (s *server) gradientPage(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	g, err := s.studio.Gradient(c.Request.Context(), n)
	if err != nil {
		return err
	}
	m, err := s.studio.Making(c.Request.Context(), g.MakingID)
	if err != nil {
		return err
	}
	st, err := s.stateOf(c, m.ID)
	if err != nil {
		return err
	}
	u, set, err := s.units(c)
	if err != nil {
		return err
	}
	kinds, err := s.studio.AllKinds(c.Request.Context(), true)
	if err != nil {
		return err
	}
	b := gradientBody{View: s.ladderView(g, u, kinds), Making: m, Preparations: fibre.Preparations()}
	b.Families, b.Kinds = studio.KindOptions(kinds.List)
	s.render(c, http.StatusOK, "gradient", page{
		Title: g.Name + ", " + m.Name, Here: "makings", Strand: strandFor(m, st, "Fibres", nil, set.Ground), Scripts: []string{"js/gradient.js"}, Wide: true,
	}, b)
	return nil
}

// newGradient starts a gradient of a making, empty or from the colours of a lot.
func (s *server) newGradient(c *gin.Context) error {
	m, err := s.making(c)
	if err != nil {
		return err
	}
	if err := c.Request.ParseForm(); err != nil {
		return err
	}
	in := studio.GradientInput{Name: c.PostForm("gradient_name"), GradientPlan: store.GradientPlan{Stops: []store.GradientStop{}, School: "thirds", Bridges: 2, MaxJump: studio.DefaultJump}}
	if lot, _ := strconv.ParseInt(c.PostForm("lot"), 10, 64); lot > 0 {
		l, err := s.studio.Lot(c.Request.Context(), lot)
		if err != nil {
			return err
		}
		in.Name = l.Name
		if in.Stops, err = s.studio.StopsOfLot(c.Request.Context(), lot); err != nil {
			return err
		}
		if in, err = s.studio.OrderGradient(c.Request.Context(), in, false); err != nil {
			return err
		}
	}
	g, err := s.studio.CreateGradient(c.Request.Context(), m.ID, in)
	if err != nil {
		f := typed(c.Request.PostForm)
		if !f.with(renamed(err, map[string]string{"name": "gradient_name"})) {
			return err
		}
		mf := newForm()
		mf.Values = map[string]string{"name": m.Name, "note": m.Note, "version": strconv.FormatInt(m.Version, 10)}
		return s.showMaking(c, http.StatusUnprocessableEntity, m, mf, f)
	}
	goTo(c, fmt.Sprintf("/gradients/%d", g.ID), "")
	return nil
}

// ladderChange is one thing done on the gradient page.
type ladderChange struct {
	Version int64                `json:"version"`
	Input   studio.GradientInput `json:"input"`
	Verb    string               `json:"verb"`
	At      int                  `json:"at"`
	To      int                  `json:"to"`
	Text    string               `json:"text"`
	Stop    *store.GradientStop  `json:"stop"`
	Lot     int64                `json:"lot"`
	Keep    bool                 `json:"keep"`
}

func (s *server) changeGradient(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	var q ladderChange
	if err := decode(c, &q); err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	in, err := s.applyLadder(c, q, u)
	if err != nil {
		return err
	}
	kinds, err := s.studio.AllKinds(c.Request.Context(), true)
	if err != nil {
		return err
	}
	var g studio.Ladder
	if q.Keep {
		g, err = s.studio.SaveGradient(c.Request.Context(), n, q.Version, in)
	} else {
		g, err = s.studio.LookGradient(c.Request.Context(), in)
		g.ID, g.Version = n, q.Version
	}
	return edited(c, g, err, func(g studio.Ladder) any { return s.ladderView(g, u, kinds) })
}

// applyLadder does one change to a gradient's input.
func (s *server) applyLadder(c *gin.Context, q ladderChange, u show.Units) (studio.GradientInput, error) {
	in := q.Input
	stop := func() *store.GradientStop {
		if q.At >= 0 && q.At < len(in.Stops) {
			return &in.Stops[q.At]
		}
		return nil
	}
	var err error
	switch q.Verb {
	case "":
	case "name":
		in.Name = q.Text
	case "school":
		in.School, in.Extra = q.Text, nil
	case "bridges":
		var v float64
		if v, err = show.ReadNumber("bridges", q.Text, "a number of bridges, such as 3"); err == nil {
			if v != float64(int(v)) {
				err = fault.New("bridges", "Bridges are counted in whole numbers.")
			}
			in.Bridges, in.Extra = int(v), nil
		}
	case "jump":
		in.MaxJump, err = show.ReadNumber("max_jump", q.Text, "the largest jump, such as 8")
	case "order", "orderwithin":
		return s.studio.OrderGradient(c.Request.Context(), in, q.Verb == "orderwithin")
	case "turn":
		for i, j := 0, len(in.Stops)-1; i < j; i, j = i+1, j-1 {
			in.Stops[i], in.Stops[j] = in.Stops[j], in.Stops[i]
		}
		in.Extra = nil
	case "bridge": // To more (or fewer) between stop At and the next
		for len(in.Extra) <= q.At && q.At < len(in.Stops) {
			in.Extra = append(in.Extra, 0)
		}
		if q.At >= 0 && q.At < len(in.Extra) {
			in.Extra[q.At] += q.To
		}
	case "add":
		if q.Stop == nil {
			return in, fault.New("stop", "Say what the bundle is.")
		}
		v := *q.Stop
		v.Grams, err = u.ReadGrams(fmt.Sprintf("stops[%d].grams", len(in.Stops)), q.Text)
		in.Stops = append(in.Stops, v)
	case "addlot":
		var more []store.GradientStop
		more, err = s.studio.StopsOfLot(c.Request.Context(), q.Lot)
		in.Stops = append(in.Stops, more...)
	case "grams", "hex", "remove", "move", "stopname":
		v := stop()
		if v == nil {
			return in, fault.New("at", "There is no such stop.")
		}
		switch q.Verb {
		case "grams":
			v.Grams, err = u.ReadGrams(fmt.Sprintf("stops[%d].grams", q.At), q.Text)
		case "hex":
			v.Hex = q.Text
		case "stopname":
			v.Name = strings.TrimSpace(q.Text)
		case "remove":
			in.Stops, in.Extra = append(in.Stops[:q.At], in.Stops[q.At+1:]...), nil
		case "move":
			if q.To < 0 || q.To >= len(in.Stops) {
				return in, nil
			}
			moved := *v
			in.Stops = append(in.Stops[:q.At], in.Stops[q.At+1:]...)
			in.Stops = append(in.Stops[:q.To], append([]store.GradientStop{moved}, in.Stops[q.To:]...)...)
			in.Extra = nil
		}
	default:
		err = fault.New("verb", "There is no change called %q.", q.Verb)
	}
	return in, err
}

// gradientBlends makes the blends of a gradient and shows its making.
func (s *server) gradientBlends(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	g, err := s.studio.Gradient(c.Request.Context(), n)
	if err != nil {
		return err
	}
	if _, err := s.studio.GradientBlends(c.Request.Context(), n); err != nil {
		return err
	}
	goTo(c, fmt.Sprintf("/makings/%d", g.MakingID), "made")
	return nil
}
