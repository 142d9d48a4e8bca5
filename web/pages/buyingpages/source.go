package buyingpages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// discountRows is how many discounts the form of a source has room for.
const discountRows = 3

// addSource adds a source from the page of the lists.
func (s *Room) addSource(c *gin.Context) error {
	if _, err := s.Posted(c); err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	in := readSource(r)
	err := r.Wrong.Err()
	var v workshop.Source
	if err == nil {
		v, err = s.Studio.Workshop.AddSource(c.Request.Context(), in)
	}
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/sources/%d", v.ID), "saved")
		return nil
	}
	f := frame.Typed(r.Values)
	if !s.Blame(c, &f, err) {
		return err
	}
	f.Errors["source_name"] = f.Errors["name"]
	delete(f.Errors, "name")
	return s.showBuy(c, http.StatusUnprocessableEntity, f)
}

func readSource(r *frame.Reader) workshop.Source {
	v := workshop.Source{Name: r.Values.Get("source_name"), Note: r.Values.Get("note"), Version: r.Version(), Discounts: []workshop.Discount{}}
	v.Postage, v.FreeFrom = r.OrUsual("postage", "a price, such as 4.90"), r.OrUsual("free_from", "a price, such as 60")
	for i := range discountRows {
		pct, from := fmt.Sprintf("discounts[%d].pct", i), fmt.Sprintf("discounts[%d].from", i)
		if strings.TrimSpace(r.Values.Get(pct)) != "" {
			v.Discounts = append(
				v.Discounts,
				workshop.Discount{Pct: r.Number(pct, "a discount in percent, such as 5"), From: r.OrUsual(from, "a price, such as 50")},
			)
		}
	}
	return v
}

func (s *Room) sourcePage(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	v, err := s.Studio.Workshop.OneSource(c.Request.Context(), n)
	if err != nil {
		return err
	}
	b := sourceBody{Form: sourceForm(v), Offer: frame.NewForm()}
	b.Offer.Values["hex"] = "#8a9ba6"
	if id, err := strconv.ParseInt(c.Query("offer"), 10, 64); err == nil {
		list, err := s.Studio.Workshop.OffersOf(c.Request.Context(), n)
		if err != nil {
			return err
		}
		u, _, err := s.Units(c)
		if err != nil {
			return err
		}
		for _, o := range list {
			if o.ID == id {
				b.OfferID, b.Offer = id, offerForm(o, u)
			}
		}
	}
	return s.showSource(c, http.StatusOK, n, b)
}

func sourceForm(v workshop.Source) frame.Form {
	f := frame.NewForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(
			v.Version,
			10,
		), "source_name": v.Name, "postage": show.Number(v.Postage), "free_from": show.Number(v.FreeFrom), "note": v.Note,
	}
	for i, d := range v.Discounts {
		f.Values[fmt.Sprintf("discounts[%d].pct", i)], f.Values[fmt.Sprintf("discounts[%d].from", i)] = show.Number(d.Pct), show.Number(d.From)
	}
	return f
}

func offerForm(o workshop.Offer, u show.Units) frame.Form {
	f := frame.NewForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(o.Version, 10), "name": o.Name, "kind": o.Kind, "hex": o.Hex, "pack_g": u.Amount(o.PackG), "price": show.Number(o.Price),
	}
	for i, b := range o.Breaks {
		f.Values[fmt.Sprintf("breaks[%d].from", i)], f.Values[fmt.Sprintf("breaks[%d].price", i)] = strconv.Itoa(b.From), show.Number(b.Price)
	}
	return f
}

func (s *Room) showSource(c *gin.Context, status int, n int64, b sourceBody) error {
	ctx := c.Request.Context()
	v, err := s.Studio.Workshop.OneSource(ctx, n)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	offers, err := s.Studio.Workshop.OffersOf(ctx, n)
	if err != nil {
		return err
	}
	kinds, err := s.Studio.Workshop.AllKinds(ctx, false)
	if err != nil {
		return err
	}
	b.ID = n
	b.Families, b.Kinds = workshop.KindOptions(kinds.List)
	for _, o := range offers {
		sub := fmt.Sprintf("%s · %s for %s", kinds.Named(o.Kind).Name, u.Weighs(u.Amount(o.PackG)), u.Cost(o.Price))
		for _, x := range o.Breaks {
			sub += fmt.Sprintf(", from %d packs %s each", x.From, u.Cost(x.Price))
		}
		b.Offers = append(b.Offers, offerLine{o, sub})
	}
	s.Render(c, status, "source", frame.Page{Title: v.Name, Here: "shelf", Wide: true}, b)
	return nil
}

func (s *Room) saveSource(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if _, err := s.Posted(c); err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	in := readSource(r)
	if err = r.Wrong.Err(); err == nil {
		_, err = s.Studio.Workshop.SaveSource(c.Request.Context(), n, in.Version, in)
	}
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/sources/%d", n), "saved")
		return nil
	}
	b := sourceBody{Form: frame.Typed(r.Values), Offer: frame.NewForm()}
	if now, ok := answer.StaleAs[workshop.Source](err); ok {
		b.Form.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showSource(c, http.StatusConflict, n, b)
	}
	if !s.Blame(c, &b.Form, err) {
		return err
	}
	b.Form.Errors["source_name"] = b.Form.Errors["name"]
	return s.showSource(c, http.StatusUnprocessableEntity, n, b)
}

// saveOffer notes what a source sells, or changes what was noted.
func (s *Room) saveOffer(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	o := readOffer(r, u)
	o.Name, o.Kind, o.Hex = r.Values.Get("name"), r.Values.Get("kind"), r.Values.Get("hex")
	id := frame.IDIn(r)
	if err = r.Wrong.Err(); err == nil && id == 0 {
		_, err = s.Studio.Workshop.AddOffer(c.Request.Context(), n, o)
	} else if err == nil {
		_, err = s.Studio.Workshop.SaveOffer(c.Request.Context(), id, r.Version(), o)
	}
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/sources/%d", n), "saved")
		return nil
	}
	v, findErr := s.Studio.Workshop.OneSource(c.Request.Context(), n)
	if findErr != nil {
		return findErr
	}
	b := sourceBody{Form: sourceForm(v), Offer: frame.Typed(r.Values), OfferID: id}
	if now, ok := answer.StaleAs[workshop.Offer](err); ok {
		b.Offer.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showSource(c, http.StatusConflict, n, b)
	}
	if !s.Blame(c, &b.Offer, err) {
		return err
	}
	return s.showSource(c, http.StatusUnprocessableEntity, n, b)
}
