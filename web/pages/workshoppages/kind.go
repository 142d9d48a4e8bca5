package workshoppages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type kindBody struct {
	Form                                      frame.Form
	ID                                        int64
	Families, Roles, Crimps, Cohesion, Lustre []string
	Numbers                                   []frame.Option
}

var kindNumbers = []measured{
	{"diameter_um_low", "Thinnest usual fibre, µm", ""}, {"diameter_um_high", "Thickest usual fibre, µm", ""},
	{"staple_mm_low", "Shortest usual staple", "length"}, {"staple_mm_high", "Longest usual staple", "length"},
	{"density_g_cm3", "Density, g/cm³", ""},
	{"carding_loss_pct_low", "Loss in the first pass, low, %", ""}, {"carding_loss_pct_high", "Loss in the first pass, high, %", ""},
	{"loss_decay", "Each later pass loses, of the one before (0 to 1)", "usual"},
}

func kindFields(k *workshop.OwnKind) map[string]*float64 {
	return map[string]*float64{
		"diameter_um_low": &k.DiameterUM.Low, "diameter_um_high": &k.DiameterUM.High, "staple_mm_low": &k.StapleMM.Low, "staple_mm_high": &k.StapleMM.High,
		"density_g_cm3": &k.Density, "carding_loss_pct_low": &k.LossPct.Low, "carding_loss_pct_high": &k.LossPct.High, "loss_decay": &k.Decay,
	}
}

func (s *Room) showKind(c *gin.Context, status int, f frame.Form, n int64) error {
	title := "New kind of fibre"
	if n != 0 {
		title = f.V("name")
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	s.Render(c, status, "kind", frame.Page{Title: title, Here: "workshop"}, kindBody{
		Form: f, ID: n, Families: fibre.Families, Roles: fibre.Roles, Crimps: fibre.Crimps, Cohesion: fibre.Cohesion, Lustre: fibre.Lustres,
		Numbers: labelled(kindNumbers, u),
	})
	return nil
}

func kindForm(k workshop.OwnKind, u show.Units) frame.Form {
	f := frame.NewForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(k.Version, 10), "name": k.Name, "family": k.Family, "role": k.Role, "crimp": k.Crimp,
		"cohesion": k.Cohesion, "lustre": k.Lustre, "note": k.Note,
	}
	for _, n := range kindNumbers {
		f.Values[n.field] = n.text(*kindFields(&k)[n.field], u)
	}
	return f
}

// newKindForm starts from a kind of the table where one is named, since a new
// kind is nearly always like another one.
func (s *Room) newKindForm(c *gin.Context) error {
	from, ok := fibre.FindKind(c.Query("like"))
	if !ok {
		from, _ = fibre.FindKind("corriedale")
	}
	k := workshop.OwnKind{Kind: from}
	k.Note = ""
	if !ok {
		k.Name = ""
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	return s.showKind(c, http.StatusOK, kindForm(k, u), 0)
}

func (s *Room) createKind(c *gin.Context) error { return s.saveKind(c, 0) }

func (s *Room) editKindForm(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	k, err := s.Studio.Workshop.OwnKind(c.Request.Context(), n)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	return s.showKind(c, http.StatusOK, kindForm(k, u), n)
}

func (s *Room) updateKind(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	return s.saveKind(c, n)
}

func (s *Room) saveKind(c *gin.Context, n int64) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	var was workshop.OwnKind
	if n != 0 {
		if was, err = s.Studio.Workshop.OwnKind(c.Request.Context(), n); err != nil {
			return err
		}
	}
	v := c.Request.PostForm
	r := &frame.Reader{Values: v}
	k := workshop.OwnKind{ID: n, Version: r.Version(), Kind: fibre.Kind{
		Name: v.Get("name"), Family: v.Get("family"), Role: v.Get("role"), Crimp: v.Get("crimp"),
		Cohesion: v.Get("cohesion"), Lustre: v.Get("lustre"), Note: v.Get("note"),
	}}
	for _, o := range kindNumbers {
		*kindFields(&k)[o.field] = o.read(r, u, *kindFields(&was)[o.field])
	}
	err = r.Wrong.Err()
	if err == nil {
		_, err = s.Studio.Workshop.SaveKind(c.Request.Context(), k)
	}
	if err == nil {
		frame.GoTo(c, "/kinds", "saved")
		return nil
	}
	f := frame.Typed(v)
	if now, ok := answer.StaleAs[workshop.OwnKind](err); ok {
		f.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showKind(c, http.StatusConflict, f, n)
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showKind(c, http.StatusUnprocessableEntity, f, n)
}
