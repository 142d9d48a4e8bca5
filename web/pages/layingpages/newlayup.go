package layingpages

import (
	"errors"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type newLayupBody struct {
	Blend    recipe.Blend
	Making   recipe.Making
	Form     frame.Form
	Choices  []choiceRow
	Builders []builderWord
	Uses     []usedAs
	Orders   []usedAs
	Fibres   []fibreUse
	Matters  []layup.Matter
	Layups   []laying.LayupRow
	Unasked  *workshop.Equipment // the first of which no full batt was ever told
	Back     string
}

// choiceRow is a piece of equipment beside the others.
type choiceRow struct {
	laying.EquipmentChoice
	Size, UnitWord, Fill, Time, Makes string
}

func choiceRowOf(c laying.EquipmentChoice, u show.Units) choiceRow {
	row := choiceRow{EquipmentChoice: c, Size: u.Size(c.Equipment.WidthMM) + " × " + u.Size(c.Equipment.LengthMM), UnitWord: frame.UnitWord(c.Type, c.Units),
		Fill: show.Percent(float64(int(100*c.Fill+0.5)) / 100), Time: fmt.Sprintf("%.0f min", c.Minutes)}
	if c.Minutes >= 90 {
		row.Time = fmt.Sprintf("%.1f h", c.Minutes/60)
	}
	switch {
	case c.Punis:
		row.Makes = show.Plural(c.Rolags, "puni")
	case c.Rolags > 0:
		row.Makes = show.Plural(c.Rolags, "rolag")
	}
	return row
}

func (s *Room) newLayupForm(c *gin.Context) error {
	b, m, _, err := s.around(c, idOf(c))
	if err != nil {
		return err
	}
	f := frame.NewForm()
	f.Values = map[string]string{"builder": "sandwich", "name": b.Name, "order_by": string(laying.ByPath)}
	if m.Schools["gradient"] == "lanes" && len(b.Components) > 3 {
		f.Values["builder"] = "lanes"
	}
	if c.Query("builder") != "" { // what was chosen before the schools were kept
		f = frame.Typed(c.Request.URL.Query())
	}
	return s.showNewLayup(c, http.StatusOK, b, m, f)
}

// idOf is the id of the path, 0 where it is none.
func idOf(c *gin.Context) int64 {
	n, _ := strconv.ParseInt(c.Param("id"), 10, 64)
	return n
}

func (s *Room) showNewLayup(c *gin.Context, status int, b recipe.Blend, m recipe.Making, f frame.Form) error {
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	u, set, err := s.Units(c)
	if err != nil {
		return err
	}
	body := newLayupBody{Blend: b, Making: m, Form: f, Builders: builderWords, Uses: usedWords, Orders: orderWords, Fibres: fibreUses(b),
		Matters: layup.MattersOf(layup.OfLayup, layup.OfCarding),
		Back:    fmt.Sprintf("/blends/%d/layup", b.ID)}
	choices, err := s.Studio.Laying.ChooseEquipment(c.Request.Context(), b.ID)
	if err != nil {
		return err
	}
	for i, v := range choices {
		if i == 0 && f.V("equipment_id") == "" {
			f.Values["equipment_id"] = strconv.FormatInt(v.EquipmentID, 10)
		}
		body.Choices = append(body.Choices, choiceRowOf(v, u))
		if body.Unasked == nil && v.EquipmentID != 0 && !v.Equipment.Measured() {
			body.Unasked = &choices[i].Equipment
		}
	}
	if body.Layups, err = s.Studio.Laying.LayupsOf(c.Request.Context(), b.ID); err != nil {
		return err
	}
	s.Render(
		c,
		status,
		"newlayup",
		frame.Page{Title: "Lay up " + b.Name, Here: "makings", Strand: frame.StrandFor(m, st, "Lay-up", &b, set.Ground), Wide: true},
		body,
	)
	return nil
}

// createLayup lets a builder lay the blend on what was chosen.
func (s *Room) createLayup(c *gin.Context) error {
	b, m, _, err := s.around(c, idOf(c))
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	if chosen := schoolsIn(c, m.Schools); len(chosen) > 0 && !maps.Equal(chosen, m.Schools) {
		if m, err = s.keepSchools(c, m, chosen); err != nil {
			return err
		}
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	equipment, err := strconv.ParseInt(r.Values.Get("equipment_id"), 10, 64)
	if err != nil {
		r.Wrong.Add("equipment_id", "Choose what to lay it on.")
	}
	q := laying.BuildInput{Builder: layup.Builder(r.Values.Get("builder"))}
	if q.Builder == "empty" {
		q.Builder = ""
	}
	units := 0
	if r.Values.Get("units") != "" {
		if units = r.Count("units", "how many"); units < 1 && len(r.Wrong) == 0 {
			r.Wrong.Add("units", "A lay-up serves 1 unit at least.")
		}
	}
	if r.Values.Get("repeats") != "" {
		q.Repeats = r.Count("repeats", "how often")
	}
	if base := r.Values.Get("base"); base != "" {
		n := r.Count("base", "a fibre")
		q.Base = &n
	}
	q.Thick, q.Mirrored = thickIn(r.Values.Get("thick")), r.Values.Get("mirrored") != ""
	if r.Values.Get("alone_first") != "" {
		q.AloneFirst = 1
	}
	q.OrderBy = laying.OrderBy(r.Values.Get("order_by"))
	q.Purposes = purposesIn(r.Values, len(b.Components))
	err = r.Wrong.Err()
	var l laying.Layup
	if err == nil {
		if l, err = s.Studio.Laying.BuildOnto(c.Request.Context(), b.ID, equipment, units, r.Values.Get("name"), q); err == nil {
			frame.GoTo(c, fmt.Sprintf("/layups/%d", l.ID), "")
			return nil
		}
	}
	f := frame.Typed(r.Values)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showNewLayup(c, http.StatusUnprocessableEntity, b, m, f)
}

// saveSchools keeps what the maker holds to in a making.
func (s *Room) saveSchools(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	if _, err = s.keepSchools(c, m, schoolsIn(c, m.Schools)); err != nil {
		return err
	}
	back := frame.OwnPath(c.PostForm("back"), fmt.Sprintf("/makings/%d", m.ID))
	if q := (url.Values{}); c.PostForm("builder") != "" {
		for k, v := range c.Request.PostForm {
			asked := []string{"equipment_id", "builder", "units", "repeats", "base", "name", "order_by", "thick", "mirrored", "alone_first"}
			if slices.Contains(asked, k) || strings.HasPrefix(k, "as_") {
				q.Set(k, v[0])
			}
		}
		back += "?" + q.Encode()
	}
	frame.GoTo(c, back, "saved")
	return nil
}

// thickIn are the numbers of a text; what is no number is 0, which the builder refuses.
func thickIn(text string) (out []float64) {
	for _, word := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" ,;:/\t", r) }) {
		v, err := strconv.ParseFloat(word, 64)
		if err != nil {
			v = 0
		}
		out = append(out, v)
	}
	return out
}

// purposesIn is what a form tells of what each of n fibres is there for, nil where it tells nothing.
func purposesIn(form url.Values, n int) (out []layup.Purpose) {
	for i := range n {
		if as := form.Get(fmt.Sprintf("as_%d", i)); as != "" {
			if out == nil {
				out = make([]layup.Purpose, n)
			}
			out[i].As = layup.Use(as)
		}
	}
	return out
}

// fibreUse is a fibre of a blend with what it is usually there for.
type fibreUse struct{ Field, Name, Usual string }

func fibreUses(b recipe.Blend) (out []fibreUse) {
	usual := layup.UsualUses(laying.WeighedIn(b, layup.Bed{}))
	for i, c := range b.Components {
		v := fibreUse{fmt.Sprintf("as_%d", i), c.Name, useWord(string(usual[i]))}
		if v.Usual == "" {
			v.Usual = "a lane or layer"
		}
		out = append(out, v)
	}
	return out
}

// schoolsIn are those that a form chooses, by matter; of what it does not ask, those of
// before.
func schoolsIn(c *gin.Context, before map[string]string) map[string]string {
	chosen := maps.Clone(before)
	if chosen == nil {
		chosen = map[string]string{}
	}
	for _, matter := range layup.Matters() {
		if v := c.PostForm(matter.Key); v != "" {
			chosen[matter.Key] = v
		}
	}
	return chosen
}

func (s *Room) keepSchools(c *gin.Context, m recipe.Making, chosen map[string]string) (recipe.Making, error) {
	version, _ := strconv.ParseInt(c.PostForm("version"), 10, 64)
	m, err := s.Studio.Recipe.UpdateMaking(
		c.Request.Context(),
		m.ID,
		version,
		recipe.MakingInput{Name: m.Name, Note: m.Note, Archived: m.Archived, Schools: chosen},
	)
	var l fault.List
	if errors.As(err, &l) {
		return m, answer.BadShape{Field: l[0].Field, Message: l[0].Message}
	}
	return m, err
}
