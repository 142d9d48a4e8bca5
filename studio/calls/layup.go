package calls

import (
	"fmt"
	"math"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/studio/laying"
	"fairtangle/studio/workshop"
)

// BedInput is equipment in a stateless call: a preset, with anything of it
// changed, or everything.
type BedInput struct {
	Preset   string   `json:"preset"`
	Type     string   `json:"type"`
	Drive    string   `json:"drive"`
	WidthMM  *float64 `json:"width_mm"`
	LengthMM *float64 `json:"length_mm"`
	ToothMM  *float64 `json:"tooth_mm"`
	SmoothG  *float64 `json:"smooth_g"`
	LoftyG   *float64 `json:"lofty_g"`
	FeedG    *float64 `json:"feed_g"`
	Minutes  *float64 `json:"minutes"`
	TPI      *float64 `json:"tpi"`
}

func (in BedInput) bed() (layup.Bed, error) {
	var l fault.List
	var e workshop.Equipment
	if in.Preset != "" {
		at := slices.IndexFunc(workshop.Presets(), func(p workshop.Equipment) bool { return p.Preset == in.Preset })
		if at < 0 {
			return layup.Bed{}, fault.New("equipment.preset", "There is no preset called %q.", in.Preset)
		}
		e = workshop.Presets()[at]
	}
	if in.Type != "" {
		e.Type = in.Type
	}
	if in.Drive != "" {
		e.Drive = in.Drive
	}
	if !slices.Contains(workshop.EquipmentTypes, e.Type) {
		l.Add("equipment.type", "Choose a preset, or the type drum, board, hand_cards or hands.")
	}
	can := layup.Can
	points := can.TPI
	if e.Type == string(layup.Hands) {
		points.Least = 0 // that has no pins
	}
	for _, v := range []struct {
		field string
		given *float64
		to    *float64
		can   unit.Limits
	}{
		{"width_mm", in.WidthMM, &e.WidthMM, can.WidthMM}, {"length_mm", in.LengthMM, &e.LengthMM, can.LengthMM}, {"tooth_mm", in.ToothMM, &e.ToothMM, can.ToothMM},
		{"smooth_g", in.SmoothG, &e.SmoothG, can.SmoothG}, {"lofty_g", in.LoftyG, &e.LoftyG, can.LoftyG}, {"feed_g", in.FeedG, &e.FeedG, can.FeedG},
		{"minutes", in.Minutes, &e.Minutes, can.Minutes}, {"tpi", in.TPI, &e.TPI, points},
	} {
		if v.given != nil {
			*v.to = *v.given
		}
		if !v.can.Holds(*v.to) {
			l.Add("equipment."+v.field, "It lies between %g and %g.", v.can.Least, v.can.Most)
		}
	}
	return e.Bed(), l.Err()
}

// LayComponent is a component in a stateless call, with the grams of one unit,
// or its parts of the call's unit_g. Kind and preparation may be left out.
type LayComponent struct {
	Name        string                `json:"name"`
	Grams       float64               `json:"grams"`
	Parts       float64               `json:"parts"`
	Kind        string                `json:"kind"`
	Preparation string                `json:"preparation"`
	StapleMM    float64               `json:"staple_mm"`
	Colour      *workshop.ColourInput `json:"colour"`
	layup.Purpose
	ManyColours
}

func layFibres(list []LayComponent, unitG, step float64) ([]layup.Fibre, error) {
	var l fault.List
	kinds := workshop.StandardKinds()
	var parts float64
	for _, c := range list {
		parts += c.Parts
	}
	// Parts of a unit are rounded together, so that the unit keeps its grams.
	exact := make([]float64, len(list))
	for i, c := range list {
		if c.Parts > 0 && unitG > 0 {
			exact[i] = c.Parts / parts * unitG / step
		}
	}
	counts := weigh.Apportion(exact, int64(math.Round(unitG/max(step, 1e-9))))
	out := make([]layup.Fibre, len(list))
	for i, c := range list {
		at := fmt.Sprintf("components[%d].", i)
		if c.Kind == "" {
			c.Kind = "corriedale"
		}
		if c.Preparation == "" {
			c.Preparation = "carded_sliver"
		}
		kind, ok := kinds.Find(c.Kind)
		if !ok {
			l.Add(at+"kind", "There is no kind called %q.", c.Kind)
		}
		if c.StapleMM == 0 {
			c.StapleMM = kind.StapleMM.Mid()
		}
		grams := c.Grams
		if !(c.Parts >= 0) || math.IsInf(c.Parts, 0) {
			l.Add(at+"parts", "Parts are 0 or more.")
		} else if c.Parts > 0 && unitG > 0 {
			grams = unit.Clean(float64(counts[i]) * step)
		}
		if !(grams >= 0 && grams <= float64(unit.MaxGrams)) {
			l.Add(at+"grams", "A weight is 0 g or more.")
		}
		if c.Name == "" {
			c.Name = fmt.Sprintf("component %d", i)
		}
		out[i] = laying.LayFibre(c.Name, grams, kind, c.Preparation, c.StapleMM)
		out[i].Wanted = exact[i] * step
		switch {
		case c.any():
			r := c.one(c.Colour, mix.Default(), at, &l)
			out[i].Colour = r.Lab()
		case c.Colour != nil:
			lab, err := c.Colour.ReadLab()
			l.Take(at+"colour", err)
			out[i].Colour = lab
		}
	}
	return out, l.Err()
}

// LayupCheckRequest asks what a lay-up does.
type LayupCheckRequest struct {
	Equipment  BedInput       `json:"equipment"`
	Components []LayComponent `json:"components"`
	// Schools that the maker holds to, by matter.
	Schools map[string]string `json:"schools"`
	laying.PlanInput
}

// LayupAnswer is what a lay-up does: loads, rolags, findings, and the order of
// the work.
type LayupAnswer struct {
	layup.Loads
	layup.Survey
	advice.Laid
}

func answerLayup(p layup.Plan, b layup.Bed, fibres []layup.Fibre, passes int, schools map[string]string) LayupAnswer {
	s := p.Survey(b, fibres, passes)
	laid := advice.LaidPlan{Plan: p, Bed: b, Fibres: fibres, Passes: passes, Schools: schools, Survey: s}.Judge(nil)
	return LayupAnswer{s.Loads, s, laid}
}

// CheckLayup tells what a lay-up does, from nothing but the request.
func CheckLayup(q LayupCheckRequest) (LayupAnswer, error) {
	b, err := q.Equipment.bed()
	if err != nil {
		return LayupAnswer{}, err
	}
	fibres, err := layFibres(q.Components, 0, 0)
	if err != nil {
		return LayupAnswer{}, err
	}
	if q.Passes < 0 || q.Passes > losses.MaxPasses {
		return LayupAnswer{}, fault.New("passes", "The number of passes is a whole number from 0 to 20.")
	}
	p := q.Plan()
	if q.Rolags == nil && b.Type == layup.Board && p.Draft > 0 && len(fibres) > 0 {
		p.Rolags = layup.SuggestRolags(b, p.Draft, fibres)
	}
	if err := p.Check(b, fibres, true); err != nil {
		return LayupAnswer{}, err
	}
	return answerLayup(p, b, fibres, q.Passes, q.Schools), nil
}

// LayupBuildRequest asks for a lay-up of a blend.
type LayupBuildRequest struct {
	Equipment  BedInput       `json:"equipment"`
	Components []LayComponent `json:"components"`
	UnitG      float64        `json:"unit_g"` // where components are in parts
	// Schools that the maker holds to, by matter.
	Schools map[string]string `json:"schools"`
	laying.BuildInput
}

// LayupBuildAnswer is the lay-up and what it does.
type LayupBuildAnswer struct {
	Layup BuiltLayup `json:"layup"`
	LayupAnswer
}

// BuiltLayup is a lay-up as a builder made it, and which schools do not hold in it.
type BuiltLayup struct {
	laying.PlanInput
	GaveWay []layup.GaveWay `json:"gave_way"`
}

// BuildLayup makes a lay-up, from nothing but the request.
func BuildLayup(q LayupBuildRequest) (LayupBuildAnswer, error) {
	b, err := q.Equipment.bed()
	if err != nil {
		return LayupBuildAnswer{}, err
	}
	o := q.Options(b, q.Schools)
	if !(q.UnitG >= 0 && q.UnitG <= float64(unit.MaxGrams)) {
		return LayupBuildAnswer{}, fault.New("unit_g", "A weight is 0 g or more.")
	}
	fibres, err := layFibres(q.Components, q.UnitG, o.Step)
	if err != nil {
		return LayupBuildAnswer{}, err
	}
	if q.Passes < 0 || q.Passes > losses.MaxPasses {
		return LayupBuildAnswer{}, fault.New("passes", "The number of passes is a whole number from 0 to 20.")
	}
	if o.Purposes == nil {
		for _, c := range q.Components {
			o.Purposes = append(o.Purposes, c.Purpose)
		}
	}
	order, err := q.Ordered(fibres)
	if err != nil {
		return LayupBuildAnswer{}, err
	}
	if order != nil {
		o.Order = order
	}
	p, err := layup.Build(b, fibres, o)
	if err != nil {
		return LayupBuildAnswer{}, err
	}
	built := BuiltLayup{laying.PlanInputOf(p), p.Collide(b, fibres, q.Schools, p.Passes)}
	return LayupBuildAnswer{built, answerLayup(p, b, fibres, p.Passes, q.Schools)}, nil
}
