// Package calls answers questions from nothing but the question: it reads no shelf and
// keeps nothing.
package calls

import (
	"fmt"

	"fairtangle/core/blend"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/weigh"
	"fairtangle/studio/workshop"
)

// PredictRequest asks for the colour of an even mix.
type PredictRequest struct {
	Components []struct {
		Name   string               `json:"name"`
		Colour workshop.ColourInput `json:"colour"`
		ManyColours
		Parts float64 `json:"parts"`
		Kind  string  `json:"kind"`
	} `json:"components"`
	Model         *workshop.ModelInput `json:"model"`
	CoveringPower bool                 `json:"covering_power"`
}

// PredictAnswer is the colour and the shares it was computed from.
type PredictAnswer struct {
	Colour     workshop.ColourOutput `json:"colour"`
	Components []PredictComponent    `json:"components"`
	Notes      []workshop.Note       `json:"notes,omitempty"`
}

// PredictComponent is a component's share by weight and by what shows.
type PredictComponent struct {
	Name           string  `json:"name"`
	Share          float64 `json:"share"`
	EffectiveShare float64 `json:"effective_share"`
}

// Predict computes the colour of an even mix from nothing but the request.
func Predict(kinds workshop.Kinds, q PredictRequest) (PredictAnswer, error) {
	var l fault.List
	m, err := q.Model.Model()
	if err != nil {
		l, _ = fault.From(err)
	}
	n := len(q.Components)
	if n == 0 || n > weigh.MaxComponents {
		l.Add("components", "There are 1 to %d components.", weigh.MaxComponents)
		return PredictAnswer{}, l
	}
	clipped := false
	parts, lots, thick := make(blend.Blend, n), make([]colour.Reflectance, n), make([]float64, n)
	for i, c := range q.Components {
		at := fmt.Sprintf("components[%d]", i)
		parts[i].Parts = c.Parts
		var met bool
		if c.any() {
			lots[i], met = c.one(&c.Colour, m, at+".", &l), true
		} else if lots[i], met, err = c.Colour.Read(); err != nil {
			more, _ := fault.From(fault.Under(at+".colour", err))
			l = append(l, more...)
		}
		clipped = clipped || !met
		if c.Kind == "" {
			continue
		}
		k, ok := kinds.Find(c.Kind)
		if !ok {
			l.Add(at+".kind", "There is no kind of fibre with this key.")
		}
		thick[i] = k.Thickness()
	}
	if err := parts.Check(); err != nil {
		more, _ := fault.From(err)
		l = append(l, more...)
	}
	if err := l.Err(); err != nil {
		return PredictAnswer{}, err
	}
	shares := parts.Shares()
	seen := shares
	if q.CoveringPower {
		seen = mix.Cover(shares, thick)
	}
	a := PredictAnswer{Colour: workshop.ColourOut(m.Even(lots, seen))}
	if clipped {
		a.Colour.InGamut = new(bool)
	}
	for i, c := range q.Components {
		c.Colour.NoteMoved(&a.Notes, fmt.Sprintf("components[%d].colour", i))
		a.Components = append(a.Components, PredictComponent{c.Name, shares[i], seen[i]})
	}
	return a, nil
}
