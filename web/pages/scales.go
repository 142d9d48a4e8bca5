package pages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

type scalesBody struct {
	Scales     []scaleRow
	Containers []workshop.Container
	Form       form // of a scale
	Pot        form // of a container
	ID, PotID  int64
	Where      string // how an address is written
}

// scaleRow is a scale with its figures in the maker's units.
type scaleRow struct {
	workshop.Scale
	Step, Capacity string
	Pan            string // the page of a simulated pan
}

// scalesPage lists scales and containers; one of each can be changed there.
func (s *server) scalesPage(c *gin.Context) error {
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	body := scalesBody{Form: newForm(), Pot: newForm()}
	if n, _ := strconv.ParseInt(c.Query("scale"), 10, 64); n != 0 {
		v, err := s.studio.Workshop.OneScale(c.Request.Context(), n)
		if err != nil {
			return err
		}
		body.ID, body.Form.Values = n, map[string]string{
			"version": strconv.FormatInt(v.Version, 10), "name": v.Name, "address": v.Address, "step_g": u.Exact(v.StepG), "capacity_g": u.Exact(v.CapacityG),
		}
	}
	if n, _ := strconv.ParseInt(c.Query("container"), 10, 64); n != 0 {
		v, err := s.studio.Workshop.OneContainer(c.Request.Context(), n)
		if err != nil {
			return err
		}
		body.PotID, body.Pot.Values = n, map[string]string{
			"version": strconv.FormatInt(v.Version, 10), "container_name": v.Name, "weight_g": u.Exact(v.WeightG),
		}
	}
	return s.showScales(c, http.StatusOK, body)
}

func (s *server) showScales(c *gin.Context, status int, body scalesBody) error {
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	scales, err := s.studio.Workshop.Scales(c.Request.Context())
	if err != nil {
		return err
	}
	for _, v := range scales {
		body.Scales = append(body.Scales, scaleRow{v, u.WithStep(v.StepG).Grams(v.StepG), u.Amount(v.CapacityG) + "\u00a0" + u.Weight(), s.pans[v.Address]})
	}
	body.Where = "A host and port such as 192.168.1.20:23, or a serial port such as /dev/ttyUSB0 or COM3, with @4800 for another speed than 9600."
	if body.Containers, err = s.studio.Workshop.Containers(c.Request.Context()); err != nil {
		return err
	}
	s.render(c, status, "scales", page{Title: "Scales and containers", Here: "workshop"}, body)
	return nil
}

func (s *server) saveScale(c *gin.Context) error {
	u, err := s.posted(c)
	if err != nil {
		return err
	}
	r := &reader{v: c.Request.PostForm}
	v := workshop.Scale{ID: idIn(r), Version: r.version(), Name: r.v.Get("name"), Address: r.v.Get("address")}
	v.StepG, v.CapacityG = r.kept(u, "step_g"), r.kept(u, "capacity_g")
	if err = r.wrong.Err(); err == nil {
		_, err = s.studio.Workshop.SaveScale(c.Request.Context(), v)
	}
	body := scalesBody{Form: typed(r.v), Pot: newForm(), ID: v.ID}
	if now, ok := answer.StaleAs[workshop.Scale](err); ok {
		body.Form.stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showScales(c, http.StatusConflict, body)
	}
	return s.savedScale(c, err, &body.Form, &body)
}

func (s *server) saveContainer(c *gin.Context) error {
	u, err := s.posted(c)
	if err != nil {
		return err
	}
	r := &reader{v: c.Request.PostForm}
	v := workshop.Container{ID: idIn(r), Version: r.version(), Name: r.v.Get("container_name"), WeightG: r.grams(u, "weight_g")}
	if err = r.wrong.Err(); err == nil {
		_, err = s.studio.Workshop.SaveContainer(c.Request.Context(), v)
	}
	body := scalesBody{Form: newForm(), Pot: typed(r.v), PotID: v.ID}
	if now, ok := answer.StaleAs[workshop.Container](err); ok {
		body.Pot.stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showScales(c, http.StatusConflict, body)
	}
	return s.savedScale(c, err, &body.Pot, &body)
}

// savedScale goes on after something was saved, or shows what is wrong with it.
func (s *server) savedScale(c *gin.Context, err error, f *form, body *scalesBody) error {
	if err == nil {
		goTo(c, "/scales", "saved")
		return nil
	}
	if !s.blame(c, f, err) {
		return err
	}
	return s.showScales(c, http.StatusUnprocessableEntity, *body)
}

// idIn is the id that a form is about, 0 for a new one.
func idIn(r *reader) int64 {
	n, _ := strconv.ParseInt(r.v.Get("id"), 10, 64)
	return n
}

// kept reads a weight that is a whole number of milligrams: ounces are rounded to it.
func (r *reader) kept(u show.Units, field string) float64 {
	return show.WholeMilligrams(r.grams(u, field))
}
