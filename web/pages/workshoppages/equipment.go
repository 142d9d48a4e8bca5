package workshoppages

import (
	"fmt"
	"math"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/laying"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

var equipmentNumbers = []measured{
	{"width_mm", "Width of the cloth", "length"}, {"length_mm", "Length of the board or pile, or round the drum", "length"}, {"tpi",
		"Points per square inch (0: bare hands)", ""},
	{
		"tooth_mm",
		"Height of the teeth, or of a full pile",
		"pins",
	}, {"smooth_g", "Holds of smooth fibre", "weight"}, {"lofty_g", "Holds of lofty fibre", "weight"},
	{"minutes", "Minutes for one filling, by hand for one round", ""}, {"feed_g", "Fed in one turn (0 but on a drum)", "weight"},
}

type equipmentBody struct {
	Form    frame.Form
	ID      int64
	Numbers []frame.Option
	Types   []string
	Drives  []string
	FullOf  []frame.Option
	Fit     *laying.CarderFit // what its test batt told
	FitSaid string
}

func (s *Room) showEquipment(c *gin.Context, status int, f frame.Form, id int64) error {
	title := "New equipment"
	if id != 0 {
		title = f.V("name")
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	body := equipmentBody{Form: f, ID: id, Numbers: labelled(equipmentNumbers, u), Types: workshop.EquipmentTypes, Drives: workshop.Drives,
		FullOf: []frame.Option{{Value: workshop.FullWool, Label: "carded wool"}, {Value: workshop.FullSmooth, Label: "smooth fibre, combed top"},
			{Value: workshop.FullLofty, Label: "lofty wool, locks"}}}
	if body.Fit, err = s.Studio.Laying.CarderFit(c.Request.Context(), id); err != nil {
		return err
	}
	if body.Fit != nil {
		body.FitSaid = CarderSaid(body.Fit)
	}
	s.Render(c, status, "equipment", frame.Page{Title: title, Here: "workshop"}, body)
	return nil
}

func equipmentForm(e workshop.Equipment, u show.Units) frame.Form {
	f := frame.NewForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(e.Version, 10),
		"name":    e.Name,
		"type":    e.Type,
		"drive":   e.Drive,
		"note":    e.Note,
		"preset":  e.Preset,
	}
	for _, n := range equipmentNumbers {
		f.Values[n.field] = n.text(*equipmentFields(&e)[n.field], u)
	}
	return f
}

func equipmentFields(e *workshop.Equipment) map[string]*float64 {
	return map[string]*float64{
		"width_mm": &e.WidthMM, "length_mm": &e.LengthMM, "tpi": &e.TPI, "tooth_mm": &e.ToothMM,
		"smooth_g": &e.SmoothG, "lofty_g": &e.LoftyG, "minutes": &e.Minutes, "feed_g": &e.FeedG,
	}
}

func (s *Room) newEquipmentForm(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	if p, ok := presetOf(c.Query("preset")); ok {
		return s.showEquipment(c, http.StatusOK, equipmentForm(p, u), 0)
	}
	f := frame.NewForm()
	f.Values["type"], f.Values["drive"] = "drum", "hand"
	return s.showEquipment(c, http.StatusOK, f, 0)
}

func presetOf(key string) (workshop.Equipment, bool) {
	for _, p := range workshop.Presets() {
		if p.Preset == key {
			return p, true
		}
	}
	return workshop.Equipment{}, false
}

func (s *Room) createEquipment(c *gin.Context) error { return s.saveEquipment(c, 0) }

func (s *Room) editEquipmentForm(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	e, err := s.Studio.Workshop.OneEquipment(c.Request.Context(), n)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	return s.showEquipment(c, http.StatusOK, equipmentForm(e, u), n)
}

func (s *Room) updateEquipment(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	return s.saveEquipment(c, n)
}

func (s *Room) saveEquipment(c *gin.Context, n int64) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	v := c.Request.PostForm
	r := &frame.Reader{Values: v}
	e := workshop.Equipment{
		ID: n, Version: r.Version(), Preset: v.Get("preset"), Name: v.Get("name"), Type: v.Get("type"), Drive: v.Get("drive"), Note: v.Get("note"),
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	was, _ := presetOf(e.Preset)
	if n != 0 {
		if was, err = s.Studio.Workshop.OneEquipment(c.Request.Context(), n); err != nil {
			return err
		}
	}
	for _, o := range equipmentNumbers {
		*equipmentFields(&e)[o.field] = o.read(r, u, *equipmentFields(&was)[o.field])
	}
	full := v.Get("full_g") != ""
	var grams float64
	if full {
		grams = r.Grams(u, "full_g")
	}
	err = r.Wrong.Err()
	if err == nil && full {
		e, err = e.FilledBy(v.Get("full_of"), grams)
	}
	if err == nil {
		_, err = s.Studio.Workshop.SaveEquipment(c.Request.Context(), e)
	}
	if err == nil {
		frame.GoTo(c, "/workshop", "saved")
		return nil
	}
	f := frame.Typed(v)
	if now, ok := answer.StaleAs[workshop.Equipment](err); ok {
		f.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showEquipment(c, http.StatusConflict, f, n)
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showEquipment(c, http.StatusUnprocessableEntity, f, n)
}

// CarderSaid says what a carder is like beside the usual one.
func CarderSaid(f *laying.CarderFit) string {
	m := f.Known.Mean()
	out := fmt.Sprintf("The test batt “%s”, noted %s, says: its first clumps are %s times as heavy as usual, and each pass opens ", f.Layup,
		show.Date(f.At), show.Fixed(m.Clumps, 1))
	switch {
	case math.Abs(math.Log(m.Opens)) < 0.06:
		return out + "as much."
	case m.Opens > 1:
		return out + "more than usual."
	}
	return out + "less than usual."
}
