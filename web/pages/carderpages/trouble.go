package carderpages

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/core/trouble"
	"fairtangle/studio/carder"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// troubleBody is the page of what does not go as it should.
type troubleBody struct {
	Seen     string // in words; empty: not said yet
	Offered  []troubleLink
	Steps    []troubleLink
	Causes   []troubleCause
	Camps    string
	Asked    []troubleField
	Form     frame.Form
	Keep     []frame.Option // what the address says already
	Drum     bool
	Motor    bool
	Run      int64
	Back     string
	BackName string
	Plan     string // where the plan is changed
	Unit     int
	Pass     int
}

type troubleLink struct {
	Href, Name string
	Here       bool
}

type troubleCause struct {
	trouble.Cause
	Part   string // of a sensible next try
	InPlan string
	Before bool   // it helped before
	Entry  string // what a press notes
}

// troubleField is something that would be worth telling.
type troubleField struct{ Key, Label, Unit, Value string }

// planVerbWords are what of the plan would change.
var planVerbWords = map[string]string{
	"fewer_passes": "Plan fewer passes.", "more_passes": "Plan another pass.", "thinner_feed": "Feed it thinner, in more trays.",
	"base_layer": "Lay wool that grips first, or between.", "split": "Divide it: more batts, or other strips.", "other_equipment": "Take another cloth.",
	"cut_to_length": "Cut the long fibre to the length of the short.", "wait": "Let it wait: wash it, dry it, let it rest.", "damp": "Moister air.",
	"cover_layer": "Lay a thin cover on top.", "even_lanes": "Make the lanes alike.", "smaller_share": "Take less of it.", "recolour": "Another colour beside it.",
}

var troubleSteps = []frame.Option{{Value: "lay", Label: "laying"}, {Value: "lift", Label: "lifting off"}, {Value: "roll", Label: "rolling"},
	{Value: "draft", Label: "drawing"}}

// troubleAsked are the figures that a maker can tell here, in their order, in her units.
func troubleAsked(u show.Units) []troubleField {
	return []troubleField{
		{"clearance_mm", "Clearance of the drums", u.SmallUnit(), ""}, {"turns_per_min", "Turns of the drum in a minute", "", ""},
		{"feed_g_per_turn", "Fed in a turn of the drum", u.Weight(), ""}, {"residue_g", "Residue on the small drum", u.Weight(), ""},
		{"humidity_pct", "Humidity of the room", "%", ""},
	}
}

// troublePage says why it does not go as it should: what is seen is chosen, and the causes come in the order to try them.
func (s *Room) troublePage(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	q := c.Request.URL.Query()
	b := troubleBody{Form: frame.Typed(q), Back: "/guide", BackName: "Guide"}
	a, err := s.amiss(c, q, &b)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: q}
	b.tell(r, &a.Facts, u)
	if len(r.Wrong) > 0 && !s.Blame(c, &b.Form, r.Wrong) {
		return r.Wrong
	}
	step := a.Facts.Step
	if step == "" {
		step = trouble.Laying
	}
	at := func(key, value string) string {
		next := url.Values{}
		for k, v := range q {
			if k != "did" {
				next[k] = v
			}
		}
		next.Set(key, value)
		return "?" + next.Encode()
	}
	for _, o := range troubleSteps {
		b.Steps = append(b.Steps, troubleLink{at("step", o.Value), o.Label, string(step) == o.Value})
	}
	b.Drum = a.Facts.Bed == nil || a.Facts.Bed.Type == layup.Drum
	b.Motor = a.Facts.Bed != nil && a.Facts.Bed.Electric
	for _, v := range trouble.SymptomsAt(step, b.Drum) {
		b.Offered = append(b.Offered, troubleLink{at("seen", v.Key), v.Seen, v.Key == q.Get("seen")})
	}
	if err := s.causes(c, a, q.Get("seen"), u, &b); err != nil {
		return err
	}
	for _, k := range []string{"run", "layup", "unit", "pass", "step", "seen"} {
		if q.Get(k) != "" {
			b.Keep = append(b.Keep, frame.Option{Value: k, Label: q.Get(k)})
		}
	}
	s.Render(c, http.StatusOK, "trouble", frame.Page{Title: "It does not go as it should", Here: "makings"}, b)
	return nil
}

// amiss is what is known: of the run or the lay-up that the address names.
func (s *Room) amiss(c *gin.Context, q url.Values, b *troubleBody) (a carder.Amiss, err error) {
	number := func(key string) int64 {
		n, _ := strconv.ParseInt(q.Get(key), 10, 64)
		return n
	}
	step := trouble.Stage(q.Get("step"))
	if !slices.Contains(trouble.Stages(), step) {
		step = ""
	}
	b.Unit, b.Pass = int(number("unit")), int(min(max(number("pass"), 0), 20))
	switch {
	case number("run") > 0:
		v, err := s.Studio.Carder.Run(c.Request.Context(), number("run"))
		if err != nil {
			return a, err
		}
		if v.Sort == carder.FleeceRun {
			break
		}
		b.Run, b.Back, b.BackName = v.ID, fmt.Sprintf("/runs/%d", v.ID), v.Name
		if v.LayupID != nil {
			b.Plan = fmt.Sprintf("/layups/%d", *v.LayupID)
		} else if v.BlendID != 0 {
			b.Plan = fmt.Sprintf("/blends/%d", v.BlendID)
		}
		return s.Studio.Carder.AmissInRun(v, b.Unit, b.Pass, step), nil
	case number("layup") > 0:
		l, err := s.Studio.Laying.Layup(c.Request.Context(), number("layup"))
		if err != nil {
			return a, err
		}
		b.Back, b.BackName, b.Plan = fmt.Sprintf("/layups/%d/bench", l.ID), l.Name, fmt.Sprintf("/layups/%d", l.ID)
		return carder.AmissInLayup(l, b.Pass, step), nil
	}
	a.Facts.Pass, a.Facts.Step = b.Pass, step
	return a, nil
}

// tell takes the figures that were typed.
func (b *troubleBody) tell(r *frame.Reader, f *trouble.Facts, u show.Units) {
	for _, v := range []struct {
		field string
		to    **float64
		most  float64
		read  func(field, text string) (float64, error)
	}{
		{"clearance_mm", &f.ClearanceMM, 50, u.ReadSmall}, {"turns_per_min", &f.TurnsPerMin, 1000, plainNumber},
		{"feed_g_per_turn", &f.FeedGPerTurn, 100, u.ReadGrams},
		{"residue_g", &f.ResidueG, 1000, u.ReadGrams}, {"humidity_pct", &f.HumidityPct, 100, plainNumber},
	} {
		if strings.TrimSpace(r.Values.Get(v.field)) == "" {
			continue
		}
		before := len(r.Wrong)
		n, err := v.read(v.field, r.Values.Get(v.field))
		r.Add(err)
		switch {
		case len(r.Wrong) > before:
		case !(n >= 0 && n <= v.most):
			r.Wrong.Add(v.field, "It lies between %g and %g.", 0.0, v.most)
		default:
			*v.to = &n
		}
	}
}

func plainNumber(field, text string) (float64, error) {
	return show.ReadNumber(field, text, "a number")
}

// causes finds the causes of what is seen, and what would be worth telling.
func (s *Room) causes(c *gin.Context, a carder.Amiss, seen string, u show.Units, b *troubleBody) error {
	symptom, ok := trouble.Named(seen)
	if !ok {
		return nil
	}
	before, err := s.Studio.Carder.HelpedBefore(c.Request.Context(), a.Equipment)
	if err != nil {
		return err
	}
	found, err := trouble.Find(seen, a.Facts, before)
	if err != nil {
		return err
	}
	b.Seen, b.Camps = symptom.Seen, symptom.Camps
	for _, v := range found.Causes {
		b.Causes = append(b.Causes, troubleCause{Cause: v, Part: show.Percent(float64(int(100*v.Likely+0.5)) / 100), InPlan: planVerbWords[v.Verb],
			Before: slices.Contains(before, v.Key), Entry: seen + " " + v.Key})
	}
	for _, f := range troubleAsked(u) {
		if slices.Contains(found.Ask, f.Key) || b.Form.V(f.Key) != "" {
			f.Value = b.Form.V(f.Key)
			b.Asked = append(b.Asked, f)
		}
	}
	return nil
}

// itHelped notes what made it go again.
func (s *Room) itHelped(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	n, _, err := s.Named(c)
	if err != nil {
		return err
	}
	unit, _ := strconv.Atoi(c.PostForm("unit"))
	pass, _ := strconv.Atoi(c.PostForm("pass"))
	in := carder.EntryInput{Key: c.PostForm("key"), Unit: unit, Pass: max(pass, 1), What: "helped", Text: c.PostForm("text")}
	if _, err := s.Studio.Carder.Tell(c.Request.Context(), n, in); err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/runs/%d", n), "helped")
	return nil
}
