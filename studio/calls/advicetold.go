package calls

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
)

// What can be told has one name each, that of its question: as a field of the request or of a
// component, or in the list of what was told.

// answered are the answers that have a field of their own.
func (q *AdviceRequest) answered() advice.Told {
	return advice.Told{
		Sampled: q.Sampled, HumidityPct: q.HumidityPct, ForSale: q.ForSale, Labelled: q.Labelled, Turns: q.Turns, PerMinute: q.PerMinute, Wisps: q.Wisps,
		Strips: q.Strips, Rolags: q.Rolags, Brush: q.Brush, Specks: q.Specks,
		BeforeL: q.BeforeL, BeforeShed: q.BeforeShed, Cleaned: q.Cleaned, BattsG: q.BattsG,
		BobbinsG: q.BobbinsG, TargetG: q.TargetG, LossPct: q.LossPct, SampleG: q.SampleG, RolagG: q.RolagG, RolagCM3: q.RolagCM3,
		DrawOffMM: q.DrawOffMM, DowelMM: q.DowelMM,
		DizzMM: q.DizzMM, PullAcross: q.PullAcross, LiftedWrong: q.LiftedWrong, Stored: q.Stored, AgeMonths: q.AgeMonths, Starting: q.Starting, Ticked: q.Ticked,
		Next: q.Next, Unplugged: q.Unplugged, UsesDye: q.UsesDye, ChildNear: q.ChildNear, Manual: q.Manual, DustCared: q.DustCared,
	}
}

// answers holds each field that answers a question to what that takes.
func (q *AdviceRequest) answers(l *fault.List) {
	hold("", reflect.ValueOf(*q), l)
	for i, c := range q.Components {
		hold(fmt.Sprintf("components[%d].", i), reflect.ValueOf(c), l)
	}
}

// hold holds the fields of a struct that are named like a question to what that takes.
func hold(at string, v reflect.Value, l *fault.List) {
	for i := range v.NumField() {
		name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
		if q, ok := advice.QuestionOf(name); ok {
			answer(at+name, q, v.Field(i), l)
		}
	}
}

func answer(field string, q advice.Question, v reflect.Value, l *fault.List) {
	if v.IsZero() {
		return
	}
	if v = reflect.Indirect(v); v.Kind() == reflect.String {
		if !slices.Contains(q.Words, v.String()) {
			l.Add(field, "Choose one of %s.", strings.Join(q.Words, ", "))
		}
		return
	}
	value := 0.0
	switch v.Kind() {
	case reflect.Bool:
		return
	case reflect.Int:
		value = float64(v.Int())
	default:
		value = v.Float()
	}
	if !q.Takes(value) {
		l.Add(field, "It is from 0 to %g.", q.Most)
	}
}

// tell takes the list of what was told.
func (q *AdviceRequest) tell(p *advice.Plan, l *fault.List) {
	if q.Before != "" {
		if k, _ := advice.QuestionOf("before"); slices.Contains(k.Words, q.Before) {
			p.Tell("before", -1, float64(slices.Index(k.Words, q.Before)))
		}
	}
	for i, t := range q.Told {
		at := fmt.Sprintf("told[%d].", i)
		k, ok := advice.QuestionOf(t.Question)
		part := k.Of == advice.OfLot || k.Of == advice.OfPart
		switch {
		case !ok:
			l.Add(at+"question", "There is no such question.")
		case !k.Takes(t.Value):
			l.Add(at+"value", "That does not answer it.")
		case part && (t.Component < 0 || t.Component >= len(p.Fibres)):
			l.Add(at+"component", "There is no such component.")
		default:
			p.Tell(t.Question, t.Component, t.Value)
		}
	}
}

// AdviceMended is what a mend puts in place of fields of the request; what is left out stays.
type AdviceMended struct {
	Components []AdviceComponent `json:"components"`
	Layers     []AdviceLayer     `json:"layers,omitempty"`
	Passes     int               `json:"passes"`
	Units      int               `json:"units"`
	TotalG     float64           `json:"total_g"`
	Strips     *int              `json:"split,omitempty"`
	Rolags     *int              `json:"rolags,omitempty"`
	Sampled    *bool             `json:"sampled,omitempty"`
	Told       []AdviceTelling   `json:"told,omitempty"`
}

// mended is the request as a mend has it.
func (q *AdviceRequest) mended(was advice.Plan, m advice.Mend) AdviceMended {
	p := m.After
	out := AdviceMended{
		Components: slices.Clone(q.Components), Passes: p.Passes, Units: p.Units, TotalG: p.TotalG, Strips: p.Told.Strips, Rolags: p.Told.Rolags,
		Sampled: p.Told.Sampled, Told: slices.Clone(q.Told),
	}
	for i, f := range p.Fibres {
		c := &out.Components[i]
		c.Share = f.Share
		if f.Joins != was.Fibres[i].Joins {
			c.JoinsAtPass = f.Joins
		}
	}
	if reflect.DeepEqual(p.Layers, was.Layers) {
		p.Layers = nil
	}
	for _, y := range p.Layers {
		layer := AdviceLayer{}
		for _, v := range y.Lays {
			layer.Lays = append(layer.Lays, SimulateLay{
				Component: v.Component, From: v.From, To: &v.To, Start: v.Start, End: &v.End, Grams: v.Grams, Method: string(v.Method),
			})
		}
		out.Layers = append(out.Layers, layer)
	}
	for _, t := range m.Tells {
		out.Told = append(out.Told, AdviceTelling{t.Key, t.Fibre, t.Value})
	}
	return out
}
