package reach

import (
	"context"
	"math"
	"time"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/match"
	"fairtangle/core/unit"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// FindInput is what is asked of the shelf for a blend. Locked components of
// the blend keep their share; a target left empty is the blend's own.
type FindInput struct {
	Target        string `json:"target"`
	MaxComponents int    `json:"max_components"`
	Count         int    `json:"count"`
	Wish          Wish   `json:"wish"`
	Thorough      bool   `json:"thorough"`
}

// Found is an answer of the shelf: a recipe that can take the place of the
// blend's.
type Found struct {
	Components []recipe.BlendComponent `json:"components"`
	Grams      []float64               `json:"grams"` // finished
	DeltaE     float64                 `json:"delta_e"`
	Slip       float64                 `json:"slip_delta_e"`
	Hex        string                  `json:"hex"`
	Words      string                  `json:"words"`
	Cost       *float64                `json:"cost"`
}

// FindAnswer are the recipes found, best first.
type FindAnswer struct {
	Target   string  `json:"target"`
	Found    []Found `json:"found"`
	Lots     int     `json:"lots"` // that were looked at
	Examined int     `json:"examined"`
	Complete bool    `json:"complete"`
}

// Find searches the shelf for proportions that reach a colour.
func (s *Room) Find(ctx context.Context, in recipe.BlendInput, q FindInput, watch func(match.Progress) bool) (FindAnswer, error) {
	target, err := targetOf(in, q.Target)
	if err != nil {
		return FindAnswer{}, err
	}
	c, err := s.Candidates(ctx, in, q.Wish)
	if err != nil {
		return FindAnswer{}, err
	}
	return c.find(ctx, in, q, target, watch)
}

// find is Find among candidates that were gathered for the blend and the wish.
func (c Candidates) find(ctx context.Context, in recipe.BlendInput, q FindInput, target colour.Linear, watch func(match.Progress) bool) (FindAnswer, error) {
	step := float64(c.at.Settings.StepMg.Grams())
	total := math.Floor(in.TotalG/step+1e-6) * step
	if total < step {
		return FindAnswer{}, fault.New("total_g", "The blend weighs less than a step of the scale.")
	}
	for i := range c.Lots { // locked shares are rounded to the scale
		if l := &c.Lots[i]; l.Least > 0 {
			n := math.Round(l.Least * total / step)
			l.Least, l.Most = n*step/total, n*step/total
		}
	}
	query := match.Query{
		Target: target.Lab(), Lots: c.Lots, Model: c.at.Model, Components: q.MaxComponents, Total: total, Step: step,
		Count: q.Count, GroupLeast: q.Wish.LeastWoolShare, Thorough: q.Thorough, Watch: watch,
	}
	a, err := match.Find(ctx, query)
	if err != nil {
		return FindAnswer{}, err
	}
	out := FindAnswer{Target: target.Hex(), Found: []Found{}, Lots: len(c.Lots), Examined: a.Examined, Complete: a.Complete}
	for _, b := range a.Blends {
		out.Found = append(out.Found, c.found(b, step, target.Lab()))
	}
	return out, nil
}

// Quickly is Find with one answer, for a target that is being dragged.
func (s *Room) Quickly(ctx context.Context, in recipe.BlendInput, q FindInput) (FindAnswer, error) {
	target, err := targetOf(in, q.Target)
	if err != nil {
		return FindAnswer{}, err
	}
	c, err := s.Candidates(ctx, in, q.Wish)
	if err != nil {
		return FindAnswer{}, err
	}
	step := float64(c.at.Settings.StepMg.Grams())
	total := math.Max(step, math.Floor(in.TotalG/step+1e-6)*step)
	b, err := match.Quick(ctx, match.Query{
		Target: target.Lab(), Lots: c.Lots, Model: c.at.Model, Components: q.MaxComponents, Total: total, Step: step, Count: 1, GroupLeast: q.Wish.LeastWoolShare,
	})
	out := FindAnswer{Target: target.Hex(), Found: []Found{}, Lots: len(c.Lots)}
	if err == nil && len(b.Set) > 0 {
		out.Found = append(out.Found, c.found(b, step, target.Lab()))
	}
	return out, err
}

func (c Candidates) found(b match.Blend, step float64, target colour.Lab) Found {
	f := Found{DeltaE: b.DeltaE, Slip: b.Slip, Hex: b.Colour.Linear().Hex(), Words: colour.Words(target, b.Colour.Lab()), Cost: Known(b.Cost)}
	for j, i := range b.Set {
		p := c.Parts[i]
		p.Parts = unit.Clean(float64(b.Steps[j]) * step)
		f.Components = append(f.Components, p)
		f.Grams = append(f.Grams, p.Parts)
	}
	return f
}

func targetOf(in recipe.BlendInput, hex string) (colour.Linear, error) {
	if hex == "" {
		hex = in.Target
	}
	if hex == "" {
		return colour.Linear{}, fault.New("target", "Say which colour is wanted first.")
	}
	c, err := colour.ParseHex(hex)
	if err != nil {
		return c, fault.New("target", "A colour is written as # and six digits or letters a to f, such as #7d8f92.")
	}
	return c, nil
}

// Wish is what a maker wants of the fibre itself.
type Wish struct {
	LeastWoolShare float64 `json:"least_wool_share"` // of lots whose kind is a wool
	NoSparkle      bool    `json:"no_sparkle"`
	Kind           string  `json:"kind"`     // nothing but this kind
	AnyForm        bool    `json:"any_form"` // raw fleece and finished rolags as well
	// Unclaimed leaves alone what other makings than that of the blend have spoken for; left out, it does.
	Unclaimed *bool `json:"unclaimed"`
	MakingID  int64 `json:"-"`
	// Kept are the shares at which the components of the blend are held, each as it is; 0 leaves one out. Nil: those that are locked.
	Kept []float64 `json:"-"`
	// NoBatches leaves out what came off a carder.
	NoBatches bool `json:"-"`
}

// Allows reports whether a lot of a kind in a preparation is wanted at all. What has to be washed first, or is rolled
// already, is nothing that one blends, unless it is asked for.
func (w Wish) Allows(k, preparation string, kinds workshop.Kinds) bool {
	if !w.AnyForm && (preparation == "raw_fleece" || preparation == "rolag") || w.NoBatches && kinds.Named(k).Blended {
		return false
	}
	return (w.Kind == "" || w.Kind == k) && !(w.NoSparkle && kinds.Named(k).Family == "sparkle")
}

// SearchTime is how long a search may look, so that it answers with the best so
// far before the connection's own limit of a minute.
const SearchTime = 40 * time.Second

// InTime stops a search when its time is over.
func InTime() func(match.Progress) bool {
	began := time.Now()
	return func(match.Progress) bool { return time.Since(began) < SearchTime }
}

// Known is nil for what is not a number.
func Known(v float64) *float64 {
	if math.IsNaN(v) {
		return nil
	}
	return &v
}
