package recipepages

import (
	"fmt"
	"math"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/price"
	"fairtangle/studio/recipe"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type fairBody struct {
	Making  recipe.Making
	Form    frame.Form
	Rows    []fairRow
	Stall   *price.Stall
	Hours   string // that it takes
	Unknown bool   // something of it costs nobody knows what
	Unsaid  bool   // what an hour is to bring
}

// fairRow is a blend that could lie on the table.
type fairRow struct {
	Blend   recipe.Blend
	Price   float64
	Minutes string
	Most    int
	Count   int
	Takes   float64
	Href    string // of its price
}

// usualPieceMinutes is what a piece takes where nothing tells.
const usualPieceMinutes = 20

// fairPage says which of a making's blends to card, and how many, so that the table of a fair takes so much.
func (s *Room) fairPage(c *gin.Context) error {
	m, err := s.Making(c)
	if err != nil {
		return err
	}
	p, u, err := s.PageOf(c, m, "Blend", nil)
	if err != nil {
		return err
	}
	blends, err := s.Studio.Recipe.BlendsSeen(c.Request.Context(), m.ID)
	if err != nil {
		return err
	}
	body := fairBody{Making: m, Form: frame.Typed(c.Request.URL.Query())}
	f := body.Form
	for field, usual := range map[string]string{"each": u.Plain(50), "hours": "6", "wanted": "200", "minutes": show.Number(usualPieceMinutes)} {
		if f.Values[field] == "" {
			f.Values[field] = usual
		}
	}
	err = s.stall(c, &body, blends, u)
	status := http.StatusOK
	if err != nil {
		if !s.Blame(c, &f, err) {
			return err
		}
		status = http.StatusUnprocessableEntity
	}
	p.Title = m.Name + " for a fair"
	s.Render(c, status, "fair", p, body)
	return nil
}

// asked is what a table is planned for.
type asked struct{ hours, wanted, minutes, each float64 }

func askedOf(f frame.Form, u show.Units) (q asked, err error) {
	var l fault.List
	number := func(field, what string) float64 {
		v, err := show.ReadNumber(field, f.V(field), what)
		more, _ := fault.From(err)
		l = append(l, more...)
		return v
	}
	q.hours, q.wanted, q.minutes = number("hours", "how many hours there are"), number("wanted", "how much it is to take"), number("minutes", "how long one takes")
	q.each, err = u.ReadGrams("each", f.V("each"))
	more, _ := fault.From(err)
	if l = append(l, more...); len(l) == 0 && !(q.each >= 1) {
		l.Add("each", "A piece weighs something.")
	}
	if len(l) == 0 && !(q.minutes >= 0 && q.minutes <= price.MostMinutes) {
		l.Add("minutes", "Minutes are from 0 to %d.", price.MostMinutes)
	}
	return q, l.Err()
}

// stall plans the table.
func (s *Room) stall(c *gin.Context, body *fairBody, blends []recipe.Blend, u show.Units) error {
	q, err := askedOf(body.Form, u)
	if err != nil {
		return err
	}
	set, err := s.Studio.Workshop.Settings(c.Request.Context())
	if err != nil {
		return err
	}
	body.Unsaid = set.Rates == nil || set.Rates.Hour == 0
	var wares []price.Ware
	most := recipe.PiecesFrom(blends, q.each)
	for i, b := range blends {
		if len(b.Components) == 0 {
			continue
		}
		w, rates, learned, err := s.suggested(c.Request.Context(), b, set)
		if err != nil {
			return err
		}
		one := price.Work{Pieces: 1, Grams: q.each, Minutes: q.minutes}
		if learned != "" {
			one.Minutes = w.Minutes / float64(w.Pieces)
		}
		if b.Cost != nil && b.TotalG > 0 {
			one.Fibre = *b.Cost / b.TotalG * q.each
		}
		body.Unknown = body.Unknown || b.CostKnown < len(b.Components)
		v, err := price.Of(one, rates)
		if err != nil {
			return err
		}
		wares = append(wares, price.Ware{Price: v.Asked, Minutes: one.Minutes, Most: most[i]})
		body.Rows = append(body.Rows, fairRow{Blend: b, Price: v.Asked, Minutes: show.Number(math.Round(one.Minutes*10) / 10), Most: most[i],
			Href: fmt.Sprintf("/blends/%d/price?%s", b.ID, url.Values{
				"pieces": {"1"}, "minutes": {show.Number(one.Minutes)}, "grams": {body.Form.V("each")},
			}.Encode())})
	}
	if len(wares) == 0 {
		return nil
	}
	got, err := price.Fair(wares, 60*q.hours, q.wanted)
	if err != nil {
		return err
	}
	body.Stall, body.Hours = &got, show.Fixed(got.Minutes/60, 1)
	for i, n := range got.Counts {
		body.Rows[i].Count, body.Rows[i].Takes = n, float64(n)*wares[i].Price
	}
	return nil
}
