package scalepages

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type newWeighoutBody struct {
	Blend recipe.Blend
	Form  frame.Form
	Plan  *scale.Weighout
	Lines []weighLine
	Fills []laying.Fill
	UnitG float64
	Grid  grid
	Steps []frame.Option
	// Layups are those that the weigh-out can follow.
	Layups  []frame.Option
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

func (s *Room) newWeighoutForm(c *gin.Context) error {
	b, err := s.recipe.Blend(c)
	if err != nil {
		return err
	}
	suggest := s.Studio.Scale.WeighoutSuggestion
	if c.Query("sample") == "1" {
		suggest = s.Studio.Scale.SampleSuggestion
	}
	in, err := suggest(c.Request.Context(), b)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
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
		f.Values[at+"alone_first"] = strconv.Itoa(l.AloneFirst)
	}
	if q := c.Request.URL.Query(); q.Has("units") {
		for k := range q {
			f.Values[k] = q.Get(k)
		}
	}
	return s.showNewWeighout(c, http.StatusOK, b, f)
}

// readWeighout reads the form's values.
func readWeighout(values map[string]string, u show.Units, components int) (scale.WeighoutInput, *frame.Reader) {
	v := url.Values{}
	for k, s := range values {
		v.Set(k, s)
	}
	r := &frame.Reader{Values: v}
	in := scale.WeighoutInput{
		Name: v.Get("name"), Units: r.Count("units", "how many"), FinishedG: r.Grams(u, "finished_g"), Passes: r.Count("passes", "how many"),
		StepG: r.Number("step_g", "the scale's step"), Sample: v.Get("sample") == "1",
	}
	if id, err := strconv.ParseInt(v.Get("layup_id"), 10, 64); err == nil {
		in.LayupID = &id
	}
	for i := range components {
		in.Lines = append(in.Lines, scale.WeighoutLoss{
			LossPct:     r.Number(fmt.Sprintf("components[%d].loss_pct", i), "a loss in percent, such as 2"),
			Decay:       r.OrUsual(fmt.Sprintf("components[%d].decay", i), "a number from 0 to 1, such as 0.6"),
			JoinsAtPass: r.Count(fmt.Sprintf("components[%d].joins_at_pass", i), "a pass"),
			AloneFirst:  r.Count(fmt.Sprintf("components[%d].alone_first", i), "how often"),
		})
	}
	return in, r
}

func (s *Room) showNewWeighout(c *gin.Context, status int, b recipe.Blend, f frame.Form) error {
	u, set, err := s.Units(c)
	if err != nil {
		return err
	}
	m, err := s.Studio.Recipe.Making(c.Request.Context(), b.MakingID)
	if err != nil {
		return err
	}
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	body := newWeighoutBody{Blend: b, Steps: frame.StepOptions(u), Learned: learnedSaid(b)}
	for _, l := range st.Layups {
		if l.BlendID == b.ID {
			body.Layups = append(body.Layups, frame.Option{Value: strconv.FormatInt(l.ID, 10), Label: l.Name})
		}
	}
	in, r := readWeighout(f.Values, u, len(b.Components))
	err = r.Wrong.Err()
	if err == nil {
		var plan scale.Weighout
		if plan, err = s.Studio.Scale.PlanWeighout(c.Request.Context(), b.ID, in); err == nil {
			plan.Next = nil // nothing is to be weighed before it is kept
			body.Plan, body.Grid, body.UnitG = &plan, gridOf(plan, u), plan.TotalG/float64(len(plan.Units))
			if body.Fills, err = s.Studio.Laying.Fills(c.Request.Context(), b, body.UnitG); err != nil {
				return err
			}
		}
	}
	if err != nil {
		if !s.Blame(c, &f, err) {
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
			weighLine{i, v.Name, art.TuftLink(v.KindProperties(), v.Preparation, v.Hexes(), nil, v.StapleMM(), art.RowScale, frame.SeedOf(v.LotID, i))},
		)
	}
	s.Render(c, status, "newweighout", frame.Page{
		Title: "Weigh-out of " + b.Name, Here: "makings", Strand: frame.StrandFor(m, st, "Weigh", &b, set.Ground), Scripts: []string{"js/live.js"}, Wide: true,
	}, body)
	return nil
}

func (s *Room) createWeighout(c *gin.Context) error {
	b, err := s.recipe.Blend(c)
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	f := frame.Typed(c.Request.PostForm)
	in, r := readWeighout(f.Values, u, len(b.Components))
	if err = r.Wrong.Err(); err == nil {
		var w scale.Weighout
		if w, err = s.Studio.Scale.CreateWeighout(c.Request.Context(), b.ID, in); err == nil {
			frame.GoTo(c, fmt.Sprintf("/weighouts/%d", w.ID), "kept")
			return nil
		}
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showNewWeighout(c, http.StatusUnprocessableEntity, b, f)
}

// weighAddition makes a weigh-out of what a mended blend adds.
func (s *Room) weighAddition(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	w, err := s.Studio.Scale.CreateAddition(c.Request.Context(), n)
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/weighouts/%d", w.ID), "kept")
	return nil
}
