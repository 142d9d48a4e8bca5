package reachpages

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// The tints and shades of a blend. What is asked stands in the address.

type rangeBody struct {
	Blend  recipe.Blend
	Form   frame.Form
	Lots   []frame.Option
	Blends []rangeRow
	Totals []string
	Lacks  []string
	Asked  string
	Said   string
}

// rangeRow is a blend of the range.
type rangeRow struct {
	Name, Hex, Jump string
	Base            bool
	Holds           []string
}

// rangeQuery reads what is asked of a range.
func rangeQuery(v url.Values, u show.Units, f *frame.Form) (q reach.RangeQuery, err error) {
	r := &frame.Reader{Values: v}
	whole := func(name string, usual int) int {
		text := strings.TrimSpace(v.Get(name))
		if f.Values[name] = text; text == "" {
			f.Values[name] = strconv.Itoa(usual)
			return usual
		}
		n, err := show.Whole(name, text, "how many")
		r.Add(err)
		return int(n)
	}
	q.LighterSteps, q.DarkerSteps = whole("lighter_steps", 2), whole("darker_steps", 2)
	q.Lighter, _ = strconv.ParseInt(v.Get("lighter"), 10, 64)
	q.Darker, _ = strconv.ParseInt(v.Get("darker"), 10, 64)
	q.ByShares = v.Get("spacing") == "shares"
	if f.Values["each_g"] = v.Get("each_g"); strings.TrimSpace(v.Get("each_g")) != "" {
		q.EachG = r.Grams(u, "each_g")
	}
	f.Values["spacing"] = v.Get("spacing")
	return q, r.Wrong.Err()
}

func (s *Room) rangePage(c *gin.Context) error {
	id, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	b, err := s.Studio.Recipe.Blend(c.Request.Context(), id)
	if err != nil {
		return err
	}
	m, err := s.Studio.Recipe.Making(c.Request.Context(), b.MakingID)
	if err != nil {
		return err
	}
	page, u, err := s.PageOf(c, m, "Blend", &b)
	if err != nil {
		return err
	}
	body := rangeBody{Blend: b, Form: frame.NewForm(), Asked: c.Request.URL.RawQuery}
	q, wrong := rangeQuery(c.Request.URL.Query(), u, &body.Form)
	out, err := s.Studio.Reach.RangeOf(c.Request.Context(), id, q)
	if wrong != nil {
		err = wrong
	}
	status := http.StatusOK
	if l, ok := fault.From(err); ok {
		status = http.StatusUnprocessableEntity
		for _, v := range l {
			body.Form.Errors[v.Field] = v.In(u)
		}
	} else if err != nil {
		return err
	}
	body.fill(out, u, err == nil)
	page.Title = b.Name + ", tints and shades"
	s.Render(c, status, "range", page, body)
	return nil
}

// fill turns a range into pictures and words.
func (b *rangeBody) fill(out reach.Ranged, u show.Units, planned bool) {
	for _, l := range out.Choice {
		b.Lots = append(b.Lots, frame.Option{Value: strconv.FormatInt(l.ID, 10), Label: fmt.Sprintf("%s, %s", l.Name, u.Grams(l.Grams))})
	}
	if out.Lighter != nil {
		b.Form.Values["lighter"] = strconv.FormatInt(out.Lighter.ID, 10)
	}
	if out.Darker != nil {
		b.Form.Values["darker"] = strconv.FormatInt(out.Darker.ID, 10)
	}
	if !planned {
		return
	}
	for _, v := range out.Blends {
		row := rangeRow{Name: v.Name, Hex: v.Hex, Base: v.Place == 0}
		for i, g := range v.Grams {
			if g > 0 {
				row.Holds = append(row.Holds, u.Grams(g)+" "+v.Names[i])
			}
		}
		if v.Jump > 0 {
			row.Jump = "a jump of " + show.Fixed(v.Jump, 1)
		}
		b.Blends = append(b.Blends, row)
	}
	for _, t := range out.Totals {
		b.Totals = append(b.Totals, u.Grams(t.Grams)+" of "+t.Name)
		if t.LackG > 0 {
			b.Lacks = append(b.Lacks, u.Grams(t.LackG)+" of "+t.Name)
		}
	}
	b.Said = fmt.Sprintf("%s each", u.Grams(out.EachG))
}

// makeRange makes blends of it.
func (s *Room) makeRange(c *gin.Context) error {
	id, u, asked, err := s.AskedBefore(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	q, err := rangeQuery(asked, u, &f)
	if err != nil {
		return err
	}
	making, err := s.Studio.Reach.MakeRange(c.Request.Context(), id, q)
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/makings/%d", making), "made")
	return nil
}
