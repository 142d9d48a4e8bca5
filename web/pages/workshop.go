package pages

import (
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/core/unit"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

type workshopBody struct {
	Form      form
	Equipment []workshop.Equipment
	Presets   []workshop.Equipment
	Own       int
	Scales    int
	Kinds     int
	Steps     []option
	Models    []option

	Calibrated bool
}

var modelOptions = []option{
	{"stearns-noechel", "Stearns–Noechel"}, {"friele", "Friele"}, {"kubelka-munk", "Kubelka–Munk"},
}

func (s *server) workshop(c *gin.Context) error {
	_, set, err := s.units(c)
	if err != nil {
		return err
	}
	f := newForm()
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

func (s *server) showWorkshop(c *gin.Context, status int, f form) error {
	list, err := s.studio.Workshop.Equipment(c.Request.Context())
	if err != nil {
		return err
	}
	own, err := s.studio.Workshop.OwnKinds(c.Request.Context())
	if err != nil {
		return err
	}
	scales, err := s.studio.Workshop.Scales(c.Request.Context())
	if err != nil {
		return err
	}
	u, set, err := s.units(c)
	if err != nil {
		return err
	}
	s.render(c, status, "workshop", page{Title: "Workshop", Here: "workshop"}, workshopBody{
		Form: f, Equipment: list, Presets: workshop.Presets(), Own: len(own), Scales: len(scales), Kinds: len(fibre.Kinds()), Steps: stepOptions(u),
		Models: modelOptions, Calibrated: set.Calibrated,
	})
	return nil
}

func (s *server) saveSettings(c *gin.Context) error {
	if err := parsed(c); err != nil {
		return err
	}
	v := c.Request.PostForm
	r := &reader{v: v}
	stepMg := unit.Grams(r.number("step_g", "the scale's step")).Milligrams()
	var parameter float64
	if v.Get("model.parameter") != "" {
		parameter = r.number("model.parameter", "the model's parameter")
	}
	moved := false
	err := r.wrong.Err()
	if err == nil {
		_, err = s.studio.Workshop.ChangeSettings(c.Request.Context(), max(r.version(), 1), func(set *workshop.Settings) {
			set.StepMg, moved = nearestStep(stepMg, v.Get("weight_unit"), *set)
			set.WeightUnit, set.LengthUnit, set.Ground, set.Currency = v.Get("weight_unit"), v.Get("length_unit"), v.Get("ground"), v.Get("currency")
			set.Model, set.ModelParameter, set.CoveringPower = v.Get("model.name"), parameter, v.Get("covering_power") != ""
			set.ReaderAddress = v.Get("reader_address")
		})
	}
	if err == nil {
		goTo(c, "/workshop", map[bool]string{true: "stepmoved", false: "saved"}[moved])
		return nil
	}
	f := typed(v)
	if now, ok := answer.StaleAs[workshop.Settings](err); ok {
		f.stale(now.Version, "")
		return s.showWorkshop(c, http.StatusConflict, f)
	}
	if !s.blame(c, &f, err) {
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
func (s *server) saveGround(c *gin.Context) error {
	_, err := s.studio.Workshop.ChangeSettings(c.Request.Context(), 0, func(set *workshop.Settings) { set.Ground = c.PostForm("ground") })
	if err != nil {
		return err
	}
	if wantsJSON(c) { // switched without leaving the page
		c.Status(http.StatusNoContent)
		return nil
	}
	c.Redirect(http.StatusSeeOther, ownPath(c.PostForm("back"), "/"))
	return nil
}

// ownPath is a page of this program to go back to, or another where what was
// sent is none.
func ownPath(back, other string) string {
	strange := func(r rune) bool { return r <= ' ' || r == '\\' || r == 0x7f }
	u, err := url.Parse(back)
	if err != nil || !strings.HasPrefix(back, "/") || strings.HasPrefix(back, "//") || strings.ContainsFunc(back, strange) || u.Host != "" || u.Scheme != "" {
		return other
	}
	return back
}

var binWords = map[string]string{
	"lots": "lot", "makings": "making", "blends": "blend", "weighouts": "weigh-out", "equipment": "equipment", "kinds": "kind of fibre",
	"gradients": "gradient", "scrap_sets": "bag of scraps", "photos": "photo", "samples": "sample", "layups": "lay-up",
	"scales": "scale", "containers": "container", "runs": "run", "cleanings": "cleaning", "sources": "source", "offers": "price", "buy_lists": "list to buy",
	"yarn_samples": "sample of yarn", "skeins": "skein", "silences": "silence of a rule",
}
