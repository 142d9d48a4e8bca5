package calls

import (
	"context"
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/gradient"
	"fairtangle/core/unit"
	"fairtangle/studio/reach"
	"fairtangle/studio/workshop"
)

// GradientStop is a bundle of one colour.
type GradientStop struct {
	Name   string               `json:"name"`
	Colour workshop.ColourInput `json:"colour"`
	Grams  float64              `json:"grams"`
}

// GradientRequest asks for a gradient; see the API document.
type GradientRequest struct {
	Stops   []GradientStop       `json:"stops"`
	School  string               `json:"school"`
	Bridges *int                 `json:"bridges"`
	MaxJump *float64             `json:"max_jump"`
	Reorder bool                 `json:"reorder"`
	Keep    bool                 `json:"keep_ends"`
	Extra   []int                `json:"extra"`
	Model   *workshop.ModelInput `json:"model"`
}

// GradientPart is what a stop gives to a step.
type GradientPart struct {
	Stop  int     `json:"stop"`
	Share float64 `json:"share"`
	Grams float64 `json:"grams"`
}

// GradientStep is a rung of the ladder.
type GradientStep struct {
	Components []GradientPart        `json:"components"`
	Grams      float64               `json:"grams"`
	Colour     workshop.ColourOutput `json:"colour"`
	JumpToNext *float64              `json:"jump_to_next"` // null for the last
}

// GradientAnswer is a gradient.
type GradientAnswer struct {
	Order  []int           `json:"order"`
	Steps  []GradientStep  `json:"steps"`
	Abrupt []int           `json:"abrupt"`
	Notes  []workshop.Note `json:"notes,omitempty"`
}

// Gradient plans a gradient from nothing but the request.
func Gradient(ctx context.Context, q GradientRequest) (GradientAnswer, error) {
	var l fault.List
	m, err := q.Model.Model()
	l.Take("", err)
	if len(q.Stops) > gradient.MaxStops {
		l.Add("stops", "A gradient has 1 to %d stops.", gradient.MaxStops)
		return GradientAnswer{}, l
	}
	in := gradient.Request{
		Model:    m,
		School:   gradient.School(q.School),
		Bridges:  2,
		MaxJump:  reach.DefaultJump,
		Reorder:  q.Reorder,
		KeepEnds: q.Keep,
		Extra:    q.Extra,
	}
	if q.Bridges != nil {
		in.Bridges = *q.Bridges
	}
	if q.MaxJump != nil {
		in.MaxJump = *q.MaxJump
	}
	for i, s := range q.Stops {
		r, _, err := s.Colour.Read()
		l.Take(fmt.Sprintf("stops[%d].colour", i), err)
		in.Stops = append(in.Stops, gradient.Stop{Colour: r, Grams: s.Grams})
	}
	if err := l.Err(); err != nil {
		return GradientAnswer{}, err
	}
	p, err := gradient.Make(ctx, in)
	if err != nil {
		return GradientAnswer{}, err
	}
	a := GradientAnswer{Order: p.Order, Abrupt: append([]int{}, p.Abrupt...)}
	for i, s := range q.Stops {
		s.Colour.NoteMoved(&a.Notes, fmt.Sprintf("stops[%d].colour", i))
	}
	for i, s := range p.Rungs {
		step := GradientStep{Grams: unit.Clean(s.Grams), Colour: workshop.ColourOut(s.Colour)}
		for _, part := range s.Parts {
			step.Components = append(step.Components, GradientPart{part.Stop, part.Share, unit.Clean(part.Grams)})
		}
		if i < len(p.Rungs)-1 {
			jump := s.Jump
			step.JumpToNext = &jump
		}
		a.Steps = append(a.Steps, step)
	}
	return a, nil
}
