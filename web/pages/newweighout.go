package pages

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/unit"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/show"
)

type newWeighoutBody struct {
	Blend recipe.Blend
	Form  form
	Plan  *scale.Weighout
	Lines []weighLine
	Fills []scale.Fill
	UnitG float64
	Grid  grid
	Steps []option
	// Layups are those that the weigh-out can follow.
	Layups  []option
	Learned string // which losses are those of the maker's own runs
}

// learnedSaid says which losses of a blend's fibres were learned from runs.
func learnedSaid(b recipe.Blend) string {
	var out []string
	for _, c := range b.Components {
		if l := c.Learned; l != nil {
			out = append(out, fmt.Sprintf("%s %s\u00a0%% (%s to %s)", c.Name, show.Fixed(l.MeanPct, 1), show.Fixed(l.LowPct, 1), show.Fixed(l.HighPct, 1)))
		}
	}
	switch {
	case len(out) == 0:
		return ""
	case len(out) == len(b.Components):
		return "Learned from your own runs: " + strings.Join(out, ", ") + "."
	}
	return "Learned from your own runs: " + strings.Join(out, ", ") + "; the others are usual for their kind."
}

type weighLine struct {
	N    int
	Name string
	Tuft art.Link
}

// stepOptions are the steps that scales in the maker's unit have, with the one that
// is set where it is another.
func stepOptions(u show.Units) (out []option) {
	steps := workshop.ScaleSteps
	if u.Ounces {
		steps = workshop.OunceSteps
	}
	if !slices.Contains(steps, u.Step) {
		steps = append([]unit.Milligrams{u.Step}, steps...)
	}
	for _, mg := range steps {
		u.Step = mg
		out = append(out, option{show.Number(float64(mg.Grams())), u.StepText()})
	}
	return out
}

func (s *server) newWeighoutForm(c *gin.Context) error {
	b, err := s.blend(c)
	if err != nil {
		return err
	}
	suggest := s.studio.Scale.WeighoutSuggestion
	if c.Query("sample") == "1" {
		suggest = s.studio.Scale.SampleSuggestion
	}
	in, err := suggest(c.Request.Context(), b)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	f := newForm()
	f.Values = map[string]string{
		"name": in.Name, "units": strconv.Itoa(in.Units), "finished_g": u.Exact(in.FinishedG), "passes": strconv.Itoa(in.Passes), "step_g": show.Number(in.StepG),
	}
	if in.Sample {
		f.Values["sample"] = "1"
	}
	if in.LayupID != nil {
		f.Values["layup_id"] = strconv.FormatInt(*in.LayupID, 10)
	}
	for i, l := range in.Lines {
		at := fmt.Sprintf("components[%d].", i)
		f.Values[at+"loss_pct"], f.Values[at+"decay"], f.Values[at+"joins_at_pass"] = show.Number(l.LossPct), show.Number(l.Decay), strconv.Itoa(l.JoinsAtPass)
	}
	if q := c.Request.URL.Query(); q.Has("units") {
		for k := range q {
			f.Values[k] = q.Get(k)
		}
	}
	return s.showNewWeighout(c, http.StatusOK, b, f)
}

// readWeighout reads the form's values.
func readWeighout(values map[string]string, u show.Units, components int) (scale.WeighoutInput, *reader) {
	v := url.Values{}
	for k, s := range values {
		v.Set(k, s)
	}
	r := &reader{v: v}
	in := scale.WeighoutInput{
		Name: v.Get("name"), Units: r.count("units", "how many"), FinishedG: r.grams(u, "finished_g"), Passes: r.count("passes", "how many"),
		StepG: r.number("step_g", "the scale's step"), Sample: v.Get("sample") == "1",
	}
	if id, err := strconv.ParseInt(v.Get("layup_id"), 10, 64); err == nil {
		in.LayupID = &id
	}
	for i := range components {
		in.Lines = append(in.Lines, scale.WeighoutLoss{
			LossPct:     r.number(fmt.Sprintf("components[%d].loss_pct", i), "a loss in percent, such as 2"),
			Decay:       r.orUsual(fmt.Sprintf("components[%d].decay", i), "a number from 0 to 1, such as 0.6"),
			JoinsAtPass: r.count(fmt.Sprintf("components[%d].joins_at_pass", i), "a pass"),
		})
	}
	return in, r
}

func (s *server) showNewWeighout(c *gin.Context, status int, b recipe.Blend, f form) error {
	u, set, err := s.units(c)
	if err != nil {
		return err
	}
	m, err := s.studio.Recipe.Making(c.Request.Context(), b.MakingID)
	if err != nil {
		return err
	}
	st, err := s.stateOf(c, m.ID)
	if err != nil {
		return err
	}
	body := newWeighoutBody{Blend: b, Steps: stepOptions(u), Learned: learnedSaid(b)}
	for _, l := range st.layups {
		if l.BlendID == b.ID {
			body.Layups = append(body.Layups, option{strconv.FormatInt(l.ID, 10), l.Name})
		}
	}
	in, r := readWeighout(f.Values, u, len(b.Components))
	err = r.wrong.Err()
	if err == nil {
		var plan scale.Weighout
		if plan, err = s.studio.Scale.PlanWeighout(c.Request.Context(), b.ID, in); err == nil {
			plan.Next = nil // nothing is to be weighed before it is kept
			body.Plan, body.Grid, body.UnitG = &plan, gridOf(plan, u), plan.TotalG/float64(len(plan.Units))
			if body.Fills, err = s.studio.Scale.Fills(c.Request.Context(), b, body.UnitG, plan.TotalG); err != nil {
				return err
			}
		}
	}
	if err != nil {
		if !s.blame(c, &f, err) {
			return err
		}
		if status == http.StatusOK && c.Request.URL.RawQuery != "" {
			status = http.StatusUnprocessableEntity
		}
	}
	body.Form = f
	for i, v := range b.Components {
		body.Lines = append(
			body.Lines,
			weighLine{i, v.Name, art.TuftLink(v.KindProperties(), v.Preparation, v.Hexes(), nil, v.StapleMM(), art.RowScale, seedOf(v.LotID, i))},
		)
	}
	s.render(c, status, "newweighout", page{
		Title: "Weigh-out of " + b.Name, Here: "makings", Strand: strandFor(m, st, "Weigh", &b, set.Ground), Scripts: []string{"js/live.js"}, Wide: true,
	}, body)
	return nil
}

func (s *server) createWeighout(c *gin.Context) error {
	b, err := s.blend(c)
	if err != nil {
		return err
	}
	u, err := s.posted(c)
	if err != nil {
		return err
	}
	f := typed(c.Request.PostForm)
	in, r := readWeighout(f.Values, u, len(b.Components))
	if err = r.wrong.Err(); err == nil {
		var w scale.Weighout
		if w, err = s.studio.Scale.CreateWeighout(c.Request.Context(), b.ID, in); err == nil {
			goTo(c, fmt.Sprintf("/weighouts/%d", w.ID), "kept")
			return nil
		}
	}
	if !s.blame(c, &f, err) {
		return err
	}
	return s.showNewWeighout(c, http.StatusUnprocessableEntity, b, f)
}

// weighAddition makes a weigh-out of what a mended blend adds.
func (s *server) weighAddition(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	w, err := s.studio.Scale.CreateAddition(c.Request.Context(), n)
	if err != nil {
		return err
	}
	goTo(c, fmt.Sprintf("/weighouts/%d", w.ID), "kept")
	return nil
}
