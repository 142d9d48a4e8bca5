package buyingpages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/buying"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type soldBody struct {
	Sales []buying.Sale
	Took  buying.Took
	Hour  float64 // what an hour of those brought; 0: no time was told
	Form  frame.Form
	ID    int64
}

var soldHows = []frame.Option{{Value: "sold", Label: "sold"}, {Value: "given", Label: "given away"}, {Value: "kept", Label: "kept for myself"}}

// Hows are the ways in which something goes, in words.
func (b soldBody) Hows() []frame.Option { return soldHows }

// Word is one of them in words.
func (b soldBody) Word(how string) string {
	for _, o := range soldHows {
		if o.Value == how {
			return o.Label
		}
	}
	return how
}

// soldPage lists what went from the table, with what it made; one can be changed there.
func (s *Room) soldPage(c *gin.Context) error {
	body := soldBody{Form: frame.NewForm()}
	body.Form.Values["how"], body.Form.Values["pieces"] = "sold", "1"
	if n, _ := strconv.ParseInt(c.Query("sale"), 10, 64); n != 0 {
		v, err := s.Studio.Buying.Till.Sale(c.Request.Context(), n)
		if err != nil {
			return err
		}
		body.ID, body.Form.Values = n, map[string]string{
			"version": strconv.FormatInt(v.Version, 10), "name": v.Name, "how": v.How, "pieces": strconv.FormatInt(v.Pieces, 10),
			"price": show.Fixed(v.Price, 2), "cost": show.Fixed(v.Cost, 2), "minutes": show.Number(v.Minutes), "note": v.Note,
		}
		if v.BlendID != nil {
			body.Form.Values["blend"] = strconv.FormatInt(*v.BlendID, 10)
		}
	}
	return s.showSold(c, http.StatusOK, body)
}

func (s *Room) showSold(c *gin.Context, status int, body soldBody) (err error) {
	if body.Sales, body.Took, err = s.Studio.Buying.Till.Sales(c.Request.Context()); err != nil {
		return err
	}
	if body.Took.Hours > 0 {
		body.Hour = body.Took.Left() / body.Took.Hours
	}
	s.Render(c, status, "sold", frame.Page{Title: "Sold, given, kept", Here: "notebook"}, body)
	return nil
}

// saveSale notes what went, by its form or by one press beside its price.
func (s *Room) saveSale(c *gin.Context) error {
	if _, err := s.Posted(c); err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	v := buying.Sale{ID: frame.IDIn(r), Version: r.Version(), Name: r.Values.Get("name"), How: r.Values.Get("how"), Note: r.Values.Get("note")}
	v.Pieces = int64(r.Count("pieces", "how many went"))
	for field, to := range map[string]*float64{"price": &v.Price, "cost": &v.Cost, "minutes": &v.Minutes} {
		if r.Values.Get(field) != "" {
			*to = r.Number(field, "an amount, such as 12.50")
		}
	}
	if n, err := strconv.ParseInt(r.Values.Get("blend"), 10, 64); err == nil && n > 0 {
		v.BlendID = &n
	}
	err := r.Wrong.Err()
	if err == nil {
		_, err = s.Studio.Buying.Till.Save(c.Request.Context(), v)
	}
	body := soldBody{Form: frame.Typed(r.Values), ID: v.ID}
	if now, ok := answer.StaleAs[buying.Sale](err); ok {
		body.Form.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showSold(c, http.StatusConflict, body)
	}
	if err == nil {
		frame.GoTo(c, "/sold", "noted")
		return nil
	}
	if !s.Blame(c, &body.Form, err) {
		return err
	}
	return s.showSold(c, http.StatusUnprocessableEntity, body)
}
