package calls

import (
	"context"
	"fmt"
	"math"

	"fairtangle/core/blend"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/match"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/studio/reach"
	"fairtangle/studio/workshop"
)

// MatchLot is a lot that a search may use. What is left out does not limit.
type MatchLot struct {
	ID     string               `json:"id"`
	Colour workshop.ColourInput `json:"colour"`
	ManyColours
	AvailableG  *float64 `json:"available_g"`
	MinShare    float64  `json:"min_share"`
	MaxShare    *float64 `json:"max_share"`
	CostPer100g *float64 `json:"cost_per_100g"`
	Kind        string   `json:"kind"`
}

// MatchRequest asks for proportions that reach a colour; see the API document.
type MatchRequest struct {
	Target        workshop.ColourInput `json:"target"`
	Components    []MatchLot           `json:"components"`
	MaxComponents int                  `json:"max_components"`
	TotalG        float64              `json:"total_g"`
	StepG         float64              `json:"step_g"`
	Count         int                  `json:"count"`
	Model         *workshop.ModelInput `json:"model"`
	Wish          reach.Wish           `json:"wish"`
	Thorough      bool                 `json:"thorough"`
}

// MatchPart is a component of a match.
type MatchPart struct {
	ID    string  `json:"id"`
	Grams float64 `json:"grams"`
	Share float64 `json:"share"`
}

// MatchBlend is one answer.
type MatchBlend struct {
	DeltaE     float64               `json:"delta_e"`
	Slip       float64               `json:"slip_delta_e"`
	Colour     workshop.ColourOutput `json:"colour"`
	Components []MatchPart           `json:"components"`
	Cost       *float64              `json:"cost"`
}

// MatchAnswer are the blends found, best first.
type MatchAnswer struct {
	Matches  []MatchBlend    `json:"matches"`
	Examined int             `json:"examined"`
	Complete bool            `json:"complete"`
	Notes    []workshop.Note `json:"notes,omitempty"`
}

// Match searches from nothing but the request. watch is told of progress and
// may stop it.
func Match(ctx context.Context, kinds workshop.Kinds, q MatchRequest, watch func(match.Progress) bool) (MatchAnswer, error) {
	var l fault.List
	m, err := q.Model.Model()
	l.Take("", err)
	target, err := q.Target.ReadLab()
	l.Take("target", err)
	if len(q.Components) > weigh.MaxComponents {
		l.Add("components", "There are 1 to %d lots to choose from.", match.MaxLots)
		return MatchAnswer{}, l
	}
	lots, used := q.lots(kinds, m, &l)
	if err := l.Err(); err != nil {
		return MatchAnswer{}, err
	}
	if len(q.Components) > 0 && len(lots) == 0 {
		return MatchAnswer{}, fault.New("wish", "The wish leaves no lot to choose from.")
	}
	a, err := match.Find(ctx, match.Query{
		Target: target, Lots: lots, Model: m, Components: q.MaxComponents, Total: q.TotalG, Step: q.StepG, Count: q.Count,
		GroupLeast: q.Wish.LeastWoolShare, Thorough: q.Thorough, Watch: watch,
	})
	if err != nil {
		return MatchAnswer{}, backTo(err, used)
	}
	out := MatchAnswer{Matches: []MatchBlend{}, Examined: a.Examined, Complete: a.Complete}
	for i, c := range q.Components {
		c.Colour.NoteMoved(&out.Notes, fmt.Sprintf("components[%d].colour", i))
	}
	for _, b := range a.Blends {
		r := MatchBlend{DeltaE: b.DeltaE, Slip: b.Slip, Colour: workshop.ColourOut(b.Colour), Cost: reach.Known(b.Cost)}
		for j, i := range b.Set {
			grams := unit.Clean(float64(b.Steps[j]) * q.StepG)
			r.Components = append(r.Components, MatchPart{q.Components[used[i]].ID, grams, grams / q.TotalG})
		}
		out.Matches = append(out.Matches, r)
	}
	return out, nil
}

// twice finds components that share an id, so that an answer would not say which
// is meant.
func twice(l *fault.List, list []MatchLot) {
	seen := map[string]bool{}
	for i, c := range list {
		if c.ID != "" && seen[c.ID] {
			l.Add(fmt.Sprintf("components[%d].id", i), "Two components are called %q; each has an id of its own.", c.ID)
		}
		seen[c.ID] = true
	}
}

// lots reads the lots that the wish allows and says which they are.
func (q *MatchRequest) lots(kinds workshop.Kinds, m mix.Model, l *fault.List) (out []match.Lot, used []int) {
	twice(l, q.Components)
	for i, c := range q.Components {
		at := fmt.Sprintf("components[%d]", i)
		if _, ok := kinds.Find(c.Kind); c.Kind != "" && !ok {
			l.Add(at+".kind", "There is no kind of fibre with this key.")
		}
		v, err := c.lot(m)
		l.Take(at, err)
		if q.Wish.Allows(c.Kind, "", kinds) {
			v.InGroup = c.Kind != "" && kinds.Named(c.Kind).Family == "wool"
			out, used = append(out, v), append(used, i)
		}
	}
	return out, used
}

func (c MatchLot) lot(m mix.Model) (match.Lot, error) {
	var l fault.List
	r := c.one(&c.Colour, m, "", &l)
	v := match.Lot{Colour: r, Available: math.Inf(1), Least: c.MinShare, Most: 1, Cost: math.NaN()}
	if c.AvailableG != nil {
		v.Available = *c.AvailableG
	}
	if c.MaxShare != nil {
		v.Most = *c.MaxShare
	}
	if c.CostPer100g != nil {
		v.Cost = *c.CostPer100g / 100
	}
	return v, l.Err()
}

// backTo renames the lots of a search's faults to those of the request.
func backTo(err error, used []int) error {
	l, ok := fault.From(err)
	if !ok {
		return err
	}
	out := make(fault.List, len(l))
	for i, f := range l {
		var at int
		var rest string
		if n, _ := fmt.Sscanf(f.Field, "components[%d].%s", &at, &rest); n == 2 && at < len(used) {
			f.Field = fmt.Sprintf("components[%d].%s", used[at], rest)
		}
		out[i] = f
	}
	return out
}

// CorrectRequest asks what to add to a blend that came out wrong.
type CorrectRequest struct {
	Made struct {
		Grams      float64               `json:"grams"`
		Colour     *workshop.ColourInput `json:"colour"`
		Components []struct {
			Colour workshop.ColourInput `json:"colour"`
			Grams  float64              `json:"grams"`
		} `json:"components"`
		Said []match.Said `json:"said"`
	} `json:"made"`
	Target        workshop.ColourInput `json:"target"`
	Components    []MatchLot           `json:"components"`
	MaxComponents int                  `json:"max_components"`
	MaxAddedG     float64              `json:"max_added_g"`
	StepG         float64              `json:"step_g"`
	Count         int                  `json:"count"`
	Model         *workshop.ModelInput `json:"model"`
}

// CorrectPart is what to add of a lot.
type CorrectPart struct {
	ID    string  `json:"id"`
	Grams float64 `json:"grams"`
}

// Correction is one way to mend a blend.
type Correction struct {
	Add    []CorrectPart         `json:"add"`
	AddedG float64               `json:"added_g"`
	TotalG float64               `json:"total_g"`
	DeltaE float64               `json:"delta_e"`
	Colour workshop.ColourOutput `json:"colour"`
}

// CorrectAnswer are the corrections, by improvement per gram.
type CorrectAnswer struct {
	BeforeDeltaE float64               `json:"before_delta_e"`
	Before       workshop.ColourOutput `json:"before"`
	Corrections  []Correction          `json:"corrections"`
	Notes        []workshop.Note       `json:"notes,omitempty"`
}

// made reads the blend that was made: its grams and its colour.
func (q *CorrectRequest) made(m mix.Model, l *fault.List) (grams float64, r colour.Reflectance) {
	grams = q.Made.Grams
	switch n := len(q.Made.Components); {
	case (q.Made.Colour != nil) == (n > 0):
		l.Add("made", "The blend that was made is known by its colour or by its components, one of them.")
		return grams, r
	case q.Made.Colour != nil:
		var err error
		r, _, err = q.Made.Colour.Read()
		l.Take("made.colour", err)
	case n > weigh.MaxComponents:
		l.Add("made.components", "A blend has at most %d components.", weigh.MaxComponents)
	default:
		parts, colours := make(blend.Blend, n), make([]colour.Reflectance, n)
		var sum float64
		for i, c := range q.Made.Components {
			at := fmt.Sprintf("made.components[%d]", i)
			var err error
			colours[i], _, err = c.Colour.Read()
			l.Take(at+".colour", err)
			if !(c.Grams > 0 && c.Grams <= 1e6) {
				l.Add(at+".grams", "A component weighs above 0 g and at most 1000000 g.")
			}
			parts[i].Parts = c.Grams
			sum += c.Grams
		}
		if grams == 0 {
			grams = sum
		}
		if len(*l) == 0 {
			r = m.Even(colours, parts.Shares())
		}
	}
	if len(*l) == 0 && len(q.Made.Said) > 0 {
		lab, err := match.Saying(r.Lab(), q.Made.Said)
		l.Take("made.said", err)
		r, _ = lab.Linear().Reflectance()
	}
	return grams, r
}

// Correct finds what to add from nothing but the request.
func Correct(ctx context.Context, q CorrectRequest) (CorrectAnswer, error) {
	var l fault.List
	m, err := q.Model.Model()
	l.Take("", err)
	target, err := q.Target.ReadLab()
	l.Take("target", err)
	mend := match.Mend{Target: target, Model: m, Components: q.MaxComponents, MostAdded: q.MaxAddedG, Step: q.StepG, Count: q.Count}
	mend.Made, mend.Colour = q.made(m, &l)
	if len(q.Components) > match.MaxLots {
		l.Add("components", "There are 1 to %d lots to choose from.", match.MaxLots)
		return CorrectAnswer{}, l
	}
	twice(&l, q.Components)
	for i, c := range q.Components {
		v, err := c.lot(m)
		l.Take(fmt.Sprintf("components[%d]", i), err)
		mend.Lots = append(mend.Lots, v)
	}
	if err := l.Err(); err != nil {
		return CorrectAnswer{}, err
	}
	before, list, err := match.Correct(ctx, mend)
	if err != nil {
		return CorrectAnswer{}, err
	}
	a := CorrectAnswer{BeforeDeltaE: before, Before: workshop.ColourOut(mend.Colour), Corrections: []Correction{}}
	for i, c := range q.Components {
		c.Colour.NoteMoved(&a.Notes, fmt.Sprintf("components[%d].colour", i))
	}
	if q.Made.Colour != nil {
		q.Made.Colour.NoteMoved(&a.Notes, "made.colour")
	}
	for _, v := range list {
		c := Correction{AddedG: unit.Clean(v.Added), TotalG: unit.Clean(mend.Made + v.Added), DeltaE: v.DeltaE, Colour: workshop.ColourOut(v.Colour)}
		for j, i := range v.Set {
			c.Add = append(c.Add, CorrectPart{q.Components[i].ID, unit.Clean(float64(v.Steps[j]) * q.StepG)})
		}
		a.Corrections = append(a.Corrections, c)
	}
	return a, nil
}
