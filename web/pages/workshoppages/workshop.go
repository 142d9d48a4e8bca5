package workshoppages

import (
	"math"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/core/unit"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type workshopBody struct {
	Form      frame.Form
	Equipment []workshop.Equipment
	Presets   []workshop.Equipment
	Own       int
	Scales    int
	Tools     int
	Kinds     int
	Steps     []frame.Option
	Models    []frame.Option

	Calibrated bool
}

var modelOptions = []frame.Option{
	{Value: "stearns-noechel", Label: "Stearns–Noechel"}, {Value: "friele", Label: "Friele"}, {Value: "kubelka-munk", Label: "Kubelka–Munk"},
}

func (s *Room) workshop(c *gin.Context) error {
	_, set, err := s.Units(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(set.Version, 10), "weight_unit": set.WeightUnit, "length_unit": set.LengthUnit,
		"step_g": show.Number(float64(set.StepMg.Grams())), "ground": set.Ground, "model.name": set.Model,
		"model.parameter": show.Number(set.ModelParameter), "currency": set.Currency, "reader_address": set.ReaderAddress,
	}
	if set.CoveringPower {
		f.Values["covering_power"] = "yes"
	}
	return s.showWorkshop(c, http.StatusOK, f)
}

func (s *Room) showWorkshop(c *gin.Context, status int, f frame.Form) error {
	list, err := s.Studio.Workshop.Equipment(c.Request.Context())
	if err != nil {
		return err
	}
	own, err := s.Studio.Workshop.OwnKinds(c.Request.Context())
	if err != nil {
		return err
	}
	scales, err := s.Studio.Workshop.Scales(c.Request.Context())
	if err != nil {
		return err
	}
	tools, err := s.Studio.Workshop.Rack.Tools(c.Request.Context())
	if err != nil {
		return err
	}
	u, set, err := s.Units(c)
	if err != nil {
		return err
	}
	s.Render(c, status, "workshop", frame.Page{Title: "Workshop", Here: "workshop"}, workshopBody{
		Form: f, Equipment: list, Presets: workshop.Presets(), Own: len(own), Scales: len(scales), Tools: len(tools),
		Kinds: len(fibre.Kinds()), Steps: frame.StepOptions(u),
		Models: modelOptions, Calibrated: set.Calibrated,
	})
	return nil
}

func (s *Room) saveSettings(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	v := c.Request.PostForm
	r := &frame.Reader{Values: v}
	stepMg := unit.Grams(r.Number("step_g", "the scale's step")).Milligrams()
	var parameter float64
	if v.Get("model.parameter") != "" {
		parameter = r.Number("model.parameter", "the model's parameter")
	}
	moved := false
	err := r.Wrong.Err()
	if err == nil {
		_, err = s.Studio.Workshop.ChangeSettings(c.Request.Context(), max(r.Version(), 1), func(set *workshop.Settings) {
			set.StepMg, moved = nearestStep(stepMg, v.Get("weight_unit"), *set)
			set.WeightUnit, set.LengthUnit, set.Ground, set.Currency = v.Get("weight_unit"), v.Get("length_unit"), v.Get("ground"), v.Get("currency")
			set.Model, set.ModelParameter, set.CoveringPower = v.Get("model.name"), parameter, v.Get("covering_power") != ""
			set.ReaderAddress = v.Get("reader_address")
		})
	}
	if err == nil {
		frame.GoTo(c, "/workshop", map[bool]string{true: "stepmoved", false: "saved"}[moved])
		return nil
	}
	f := frame.Typed(v)
	if now, ok := answer.StaleAs[workshop.Settings](err); ok {
		f.Stale(now.Version, "")
		return s.showWorkshop(c, http.StatusConflict, f)
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showWorkshop(c, http.StatusUnprocessableEntity, f)
}

// nearestStep proposes a step in the unit that was just chosen, where the step
// was not changed by hand: the nearest that scales in that unit have. It reports
// whether that is another.
func nearestStep(step unit.Milligrams, weight string, now workshop.Settings) (unit.Milligrams, bool) {
	if weight == now.WeightUnit || step != now.StepMg {
		return step, false
	}
	steps := workshop.ScaleSteps
	if weight == "oz" {
		steps = workshop.OunceSteps
	}
	best := steps[0]
	for _, v := range steps {
		if math.Abs(math.Log(float64(v)/float64(step))) < math.Abs(math.Log(float64(best)/float64(step))) {
			best = v
		}
	}
	return best, best != step
}

// saveGround switches the ground from any page and goes back to it.
func (s *Room) saveGround(c *gin.Context) error {
	_, err := s.Studio.Workshop.ChangeSettings(c.Request.Context(), 0, func(set *workshop.Settings) { set.Ground = c.PostForm("ground") })
	if err != nil {
		return err
	}
	if frame.WantsJSON(c) { // switched without leaving the page
		c.Status(http.StatusNoContent)
		return nil
	}
	c.Redirect(http.StatusSeeOther, frame.OwnPath(c.PostForm("back"), "/"))
	return nil
}
