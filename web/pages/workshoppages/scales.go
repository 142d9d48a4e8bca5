package workshoppages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

type scalesBody struct {
	Scales     []ScaleRow
	Containers []workshop.Container
	Form       frame.Form // of a scale
	Pot        frame.Form // of a container
	ID, PotID  int64
	Where      string // how an address is written
}

// ScaleRow is a scale with its figures in the maker's units.
type ScaleRow struct {
	workshop.Scale
	Step, Capacity string
	Pan            string // the page of a simulated pan
}

// scalesPage lists scales and containers; one of each can be changed there.
func (s *Room) scalesPage(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	body := scalesBody{Form: frame.NewForm(), Pot: frame.NewForm()}
	if n, _ := strconv.ParseInt(c.Query("scale"), 10, 64); n != 0 {
		v, err := s.Studio.Workshop.OneScale(c.Request.Context(), n)
		if err != nil {
			return err
		}
		body.ID, body.Form.Values = n, map[string]string{
			"version": strconv.FormatInt(v.Version, 10), "name": v.Name, "address": v.Address, "step_g": u.Exact(v.StepG), "capacity_g": u.Exact(v.CapacityG),
		}
	}
	if n, _ := strconv.ParseInt(c.Query("container"), 10, 64); n != 0 {
		v, err := s.Studio.Workshop.OneContainer(c.Request.Context(), n)
		if err != nil {
			return err
		}
		body.PotID, body.Pot.Values = n, map[string]string{
			"version": strconv.FormatInt(v.Version, 10), "container_name": v.Name, "weight_g": u.Exact(v.WeightG),
		}
	}
	return s.showScales(c, http.StatusOK, body)
}

func (s *Room) showScales(c *gin.Context, status int, body scalesBody) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	scales, err := s.Studio.Workshop.Scales(c.Request.Context())
	if err != nil {
		return err
	}
	for _, v := range scales {
		body.Scales = append(body.Scales, ScaleRow{v, u.WithStep(v.StepG).Grams(v.StepG), u.Weighs(u.Amount(v.CapacityG)), s.Pans[v.Address]})
	}
	body.Where = "A host and port such as 192.168.1.20:23, or a serial port such as /dev/ttyUSB0 or COM3, with @4800 for another speed than 9600."
	if body.Containers, err = s.Studio.Workshop.Containers(c.Request.Context()); err != nil {
		return err
	}
	s.Render(c, status, "scales", frame.Page{Title: "Scales and containers", Here: "workshop"}, body)
	return nil
}

func (s *Room) saveScale(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	v := workshop.Scale{ID: frame.IDIn(r), Version: r.Version(), Name: r.Values.Get("name"), Address: r.Values.Get("address")}
	v.StepG, v.CapacityG = r.Kept(u, "step_g"), r.Kept(u, "capacity_g")
	if err = r.Wrong.Err(); err == nil {
		_, err = s.Studio.Workshop.SaveScale(c.Request.Context(), v)
	}
	body := scalesBody{Form: frame.Typed(r.Values), Pot: frame.NewForm(), ID: v.ID}
	if now, ok := answer.StaleAs[workshop.Scale](err); ok {
		body.Form.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showScales(c, http.StatusConflict, body)
	}
	return s.savedScale(c, err, &body.Form, &body)
}

func (s *Room) saveContainer(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	v := workshop.Container{ID: frame.IDIn(r), Version: r.Version(), Name: r.Values.Get("container_name"), WeightG: r.Grams(u, "weight_g")}
	if err = r.Wrong.Err(); err == nil {
		_, err = s.Studio.Workshop.SaveContainer(c.Request.Context(), v)
	}
	body := scalesBody{Form: frame.NewForm(), Pot: frame.Typed(r.Values), PotID: v.ID}
	if now, ok := answer.StaleAs[workshop.Container](err); ok {
		body.Pot.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showScales(c, http.StatusConflict, body)
	}
	return s.savedScale(c, err, &body.Pot, &body)
}

// savedScale goes on after something was saved, or shows what is wrong with it.
func (s *Room) savedScale(c *gin.Context, err error, f *frame.Form, body *scalesBody) error {
	if err == nil {
		frame.GoTo(c, "/scales", "saved")
		return nil
	}
	if !s.Blame(c, f, err) {
		return err
	}
	return s.showScales(c, http.StatusUnprocessableEntity, *body)
}
