package recipepages

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/price"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type priceBody struct {
	Making  recipe.Making
	Blend   recipe.Blend
	Form    frame.Form
	Price   *price.Price
	Timeful bool     // it takes time, so that an hour of it brings something
	Unknown []string // fibres whose price nobody told
	Learned string   // where its minutes come from
	Labels  string   // the page of its labels, with this price
	Cost    float64  // what goes into one besides the work
	Sold    float64  // the same with what fees and tax take of one that is sold
	Minutes float64  // that one takes
}

// rateFields are the fields of what a maker counts with, and where each stands.
func rateFields(r *price.Rates) map[string]*float64 {
	return map[string]*float64{
		"hour": &r.Hour, "machine": &r.Machine, "packing": &r.Packing, "mark_up": &r.MarkUp, "wholesale": &r.Wholesale, "fees": &r.Fees, "tax": &r.Tax,
	}
}

// workFields are those of what is priced.
var workFields = []string{"pieces", "grams", "minutes"}

// pricePage works out what a piece of a blend costs and what to ask for it.
func (s *Room) pricePage(c *gin.Context) error { return s.showPrice(c, c.Request.URL.Query(), nil) }

// keepRates keeps what a maker counts with for the next price.
func (s *Room) keepRates(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	var r price.Rates
	var l fault.List
	readRates(&l, u, c.Request.PostForm, &r)
	r.Check(&l)
	err = l.Err()
	if err == nil {
		_, err = s.Studio.Workshop.ChangeSettings(c.Request.Context(), 0, func(v *workshop.Settings) { v.Rates = &r })
	}
	if err != nil {
		if _, bad := fault.From(err); !bad {
			return err
		}
		return s.showPrice(c, c.Request.PostForm, err)
	}
	q := url.Values{}
	for _, f := range workFields {
		q.Set(f, c.PostForm(f))
	}
	frame.GoTo(c, c.Request.URL.Path+"?"+q.Encode(), "saved")
	return nil
}

// readRates reads rates as they were typed; a field that was not sent stays.
func readRates(l *fault.List, u show.Units, v url.Values, r *price.Rates) {
	for field, to := range rateFields(r) {
		if !v.Has(field) {
			continue
		}
		if v.Get(field) == "" {
			*to = 0
			continue
		}
		n, err := show.ReadNumber(field, v.Get(field), "an amount")
		if more, bad := fault.From(err); bad {
			*l = append(*l, more...)
			continue
		}
		*to = n
	}
}

func (s *Room) showPrice(c *gin.Context, v url.Values, wrong error) error {
	b, m, p, u, err := s.beside(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	set, err := s.Studio.Workshop.Settings(ctx)
	if err != nil {
		return err
	}
	body := priceBody{Making: m, Blend: b, Form: frame.Typed(v)}
	w, rates, learned, err := s.suggested(ctx, b, set)
	if err != nil {
		return err
	}
	body.Learned = learned
	f := body.Form
	for field, v := range rateFields(&rates) {
		if _, typed := f.Values[field]; !typed {
			f.Values[field] = plainMoney(*v)
		}
	}
	for field, v := range map[string]string{"pieces": strconv.Itoa(w.Pieces), "grams": u.Plain(w.Grams), "minutes": show.Number(w.Minutes)} {
		if f.Values[field] == "" {
			f.Values[field] = v
		}
	}
	got, done, err := priceOf(f, b, u)
	for _, e := range []error{wrong, err} {
		if e != nil && !s.Blame(c, &f, e) {
			return e
		}
	}
	status := http.StatusOK
	if f.Wrong() {
		status = http.StatusUnprocessableEntity
	} else {
		body.Price, body.Timeful = &got, !math.IsNaN(got.LeftPerHour)
		body.Sold = got.Asked - got.Left
		body.Cost, body.Minutes = got.Fibre+got.Machine+got.Packing, done.Minutes/float64(done.Pieces)
		q := url.Values{"price": {u.Cost(got.Asked)}, "grams": {f.V("grams")}, "count": {f.V("pieces")}, "style": {"for-sale"}, "code": {"yes"}}
		body.Labels = fmt.Sprintf("/blends/%d/labels?%s", b.ID, q.Encode())
	}
	for _, v := range b.Components {
		if v.Cost == nil {
			body.Unknown = append(body.Unknown, v.Name)
		}
	}
	p.Title = "What " + b.Name + " is worth"
	s.Render(c, status, "price", p, body)
	return nil
}

// plainMoney writes an amount as it is typed; nothing for nothing.
func plainMoney(v float64) string {
	if v == 0 {
		return ""
	}
	return show.Number(v)
}

// priceOf is the price of what was typed, and of what work.
func priceOf(f frame.Form, b recipe.Blend, u show.Units) (price.Price, price.Work, error) {
	var l fault.List
	number := func(field, what string) float64 {
		v, err := show.ReadNumber(field, f.V(field), what)
		if more, bad := fault.From(err); bad {
			l = append(l, more...)
		}
		return v
	}
	var r price.Rates
	v := url.Values{}
	for k, x := range f.Values {
		v.Set(k, x)
	}
	readRates(&l, u, v, &r)
	w := price.Work{Minutes: number("minutes", "how long it takes")}
	pieces := number("pieces", "how many there are")
	if pieces != math.Trunc(pieces) {
		l.Add("pieces", "There are whole pieces.")
	}
	w.Pieces = int(math.Min(pieces, price.MostPieces+1))
	grams, err := u.ReadGrams("grams", f.V("grams"))
	if more, bad := fault.From(err); bad {
		l = append(l, more...)
	}
	if w.Grams = grams; len(l) == 0 && b.Cost != nil && b.TotalG > 0 {
		w.Fibre = *b.Cost / b.TotalG * w.Grams * float64(w.Pieces)
	}
	if err := l.Err(); err != nil {
		return price.Price{}, w, err
	}
	p, err := price.Of(w, r)
	return p, w, err
}

// suggested is what there is to price: the blend in pieces as its latest lay-up has them, and the minutes that passes on that equipment
// have taken.
func (s *Room) suggested(ctx context.Context, b recipe.Blend, set workshop.Settings) (w price.Work, r price.Rates, learned string, err error) {
	if set.Rates != nil {
		r = *set.Rates
	}
	w = price.Work{Pieces: 1, Grams: b.TotalG}
	laid, err := s.Studio.Laying.LayupsOf(ctx, b.ID)
	if err != nil || len(laid) == 0 {
		return w, r, "", err
	}
	l, err := s.Studio.Laying.Layup(ctx, laid[len(laid)-1].ID)
	if err != nil {
		return w, r, "", err
	}
	w.Pieces = max(1, l.Units)
	w.Grams = b.TotalG / float64(w.Pieces)
	seen, err := s.Studio.Carder.MinutesSeen(ctx, l.EquipmentID)
	if err != nil {
		return w, r, "", err
	}
	if minutes := l.Equipment.Minutes; seen != nil && seen.Times > 0 {
		w.Minutes, learned = seen.Mid, "as passes on "+l.Equipment.Name+" have taken"
	} else if minutes > 0 {
		w.Minutes, learned = minutes, "as "+l.Equipment.Name+" usually takes"
	}
	w.Minutes = math.Round(w.Minutes * float64(w.Pieces) * float64(max(1, b.LosesIn)))
	return w, r, learned, nil
}
