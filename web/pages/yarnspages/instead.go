package yarnspages

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/show"
)

// In place of an old pattern's yarn. What is asked stands in the address.

type insteadBody struct {
	Making recipe.Making
	Form   frame.Form
	Said   string
	Facts  []layingpages.CardFact
	Ways   []insteadWay
	Wraps  bool // of the old yarn were told
	Asked  string
}

// insteadWay is a way to draw and prepare it.
type insteadWay struct{ Draw, Prepared, Wraps, Near string }

var drawWords = map[string]string{"long": "long", "from-fold": "from the fold", "short-backward": "short, backward", "short-forward": "short, forward"}

var preparedWords = map[string]string{"rolag": "rolags", "batt": "a batt", "roving": "roving", "top": "combed top"}

// oldYarn reads a yarn as a pattern tells it.
func oldYarn(q url.Values, u show.Units, f *frame.Form) (o yarns.OldYarn, err error) {
	r := &frame.Reader{Values: q}
	read := func(name string, into *float64, as func(string, string) (float64, error)) {
		if f.Values[name] = q.Get(name); strings.TrimSpace(q.Get(name)) != "" {
			v, err := as(name, q.Get(name))
			r.Add(err)
			*into = v
		}
	}
	plain := func(field, text string) (float64, error) { return show.ReadNumber(field, text, "a number, such as 22") }
	var plies, in float64
	read("ball_m", &o.BallM, u.ReadYarn)
	read("ball_g", &o.BallG, u.ReadGrams)
	read("balls", &o.Balls, plain)
	read("need_m", &o.NeedM, u.ReadYarn)
	read("stitches", &o.Stitches, plain)
	read("rows", &o.Rows, plain)
	read("wraps", &o.WrapsPerInch, plain)
	read("plies", &plies, plain)
	read("in_plies", &in, plain)
	o.Stitches, o.Rows, o.Plies, o.InPlies = u.FromGauge(o.Stitches), u.FromGauge(o.Rows), int(plies), int(in)
	return o, r.Wrong.Err()
}

func (s *Room) insteadPage(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	page, u, err := s.PageOf(c, m, "Need", nil)
	if err != nil {
		return err
	}
	b := insteadBody{Making: m, Form: frame.NewForm(), Asked: c.Request.URL.RawQuery}
	status := http.StatusOK
	if len(c.Request.URL.Query()) > 0 {
		o, wrong := oldYarn(c.Request.URL.Query(), u, &b.Form)
		var v yarns.Instead
		if err = wrong; err == nil {
			v, err = s.Studio.Yarns.InsteadOf(c.Request.Context(), m.ID, o)
		}
		if l, ok := fault.From(err); ok {
			status = http.StatusUnprocessableEntity
			for _, w := range l {
				b.Form.Errors[w.Field] = w.In(u)
			}
		} else if err != nil {
			return err
		} else {
			b.answer(v, o, u)
		}
	}
	page.Title = "In place of a yarn, " + m.Name
	s.Render(c, status, "instead", page, b)
	return nil
}

// answer turns what was worked out into texts.
func (b *insteadBody) answer(v yarns.Instead, o yarns.OldYarn, u show.Units) {
	fact := func(name, value string) { b.Facts = append(b.Facts, layingpages.CardFact{Name: name, Value: value}) }
	near := v.Nearest(4)
	b.Said = fmt.Sprintf("%s of carded fibre, spun %s from %s in %s.", u.Grams(v.FibreG), drawWords[near[0].Draw], preparedWords[near[0].Prepared],
		pliesSaid(v.Plies))
	fact("The yarn", fmt.Sprintf("%s, at %s", u.Yarn(v.NeedM), u.Grist(v.GristM)))
	fact("A single on the bobbin", u.Grist(v.SinGM)+", a little heavier once washed")
	fact("Singles to spin", u.Yarn(v.Spun))
	twist := u.Turns(v.Turns.SinglesPerM) + " in the single"
	if v.Turns.PlyPerM > 0 {
		twist += ", " + u.Turns(v.Turns.PlyPerM) + " in the ply"
	}
	fact("Twist", twist)
	if v.StitchMM > 0 {
		firm := "usual for its gauge"
		switch {
		case v.Firmness < 0.9:
			firm = "loose: more air than yarn, at that gauge"
		case v.Firmness > 1.6:
			firm = "very firm, at that gauge"
		}
		fact("In a stitch", u.Millimetres(v.StitchMM)+" of yarn; "+firm)
	}
	b.Wraps = o.WrapsPerInch > 0
	for _, w := range near {
		said := "as near as makes no difference"
		switch {
		case !b.Wraps:
			said = ""
		case w.Off > 0.15:
			said = "clearly thicker or thinner"
		case w.Off > 0.05:
			said = "a little off"
		}
		b.Ways = append(b.Ways, insteadWay{drawWords[w.Draw], preparedWords[w.Prepared], show.Fixed(w.Wraps, 1), said})
	}
}

func pliesSaid(n int) string {
	return map[int]string{1: "a single", 2: "two plies", 3: "three plies", 4: "four plies"}[n]
}

// takeInstead makes it the need of the making.
func (s *Room) takeInstead(c *gin.Context) error {
	n, u, asked, err := s.AskedBefore(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	o, err := oldYarn(asked, u, &f)
	if err != nil {
		return err
	}
	need, err := s.Studio.Yarns.TakeInstead(c.Request.Context(), n, o, "a piece of an old pattern")
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/needs/%d", need.ID), "saved")
	return nil
}
