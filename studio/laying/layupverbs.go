package laying

import (
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
)

// planVerbs are the changes to the plan of a lay-up that need nothing but it: what each makes of it.
var planVerbs = map[string]func(now Layup, p layup.Plan, c LayupChange) (layup.Plan, error){
	"move": func(_ Layup, p layup.Plan, c LayupChange) (layup.Plan, error) { return p.Move(c.Layer, c.To) },
	"split": func(l Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		return p.Split(c.Layer, c.Times, l.StepG)
	},
	"repeat": func(l Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		return p.Repeat(c.Layer, c.To, c.Times, l.StepG)
	},
	"mirror": func(_ Layup, p layup.Plan, _ LayupChange) (layup.Plan, error) { return p.Mirror(), nil },
	"fit": func(l Layup, p layup.Plan, _ LayupChange) (layup.Plan, error) {
		return p.Fit(l.LaidFibres, l.StepG), nil
	},
	"gather": func(l Layup, p layup.Plan, _ LayupChange) (layup.Plan, error) {
		return p.Gather(l.LaidFibres, l.StepG), nil
	},
	"clear": func(l Layup, p layup.Plan, _ LayupChange) (layup.Plan, error) {
		return p.Clear(l.Bed, l.LaidFibres, l.StepG), nil
	},
	"bury": func(l Layup, p layup.Plan, _ LayupChange) (layup.Plan, error) {
		return p.Bury(l.LaidFibres, l.StepG), nil
	},
	"bare":         setting(func(p *layup.Plan, c LayupChange) { p.Bare = c.Times == 1 }),
	"uneven":       setting(func(p *layup.Plan, c LayupChange) { p.Uneven = c.Times == 1 }),
	"mirror-pairs": setting(func(p *layup.Plan, c LayupChange) { p.MirrorPairs = c.Times == 1 }),
	"strips":       setting(func(p *layup.Plan, c LayupChange) { p.Strips = c.Times }),
	"rolags":       setting(func(p *layup.Plan, c LayupChange) { p.Rolags = c.Times }),
	"off":          setting(func(p *layup.Plan, c LayupChange) { p.Off.Way = layup.OffWay(c.Text) }),
	"rods":         setting(func(p *layup.Plan, c LayupChange) { p.Off.Rods = c.Text }),
	"tight":        setting(func(p *layup.Plan, c LayupChange) { p.Off.Tight = c.Times == 1 }),
	"before": func(_ Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		return p.UseTool(layup.Tool(c.Text), false, c.Times == 1)
	},
	"after": func(_ Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		return p.UseTool(layup.Tool(c.Text), true, c.Times == 1)
	},
	"crossed": setting(func(p *layup.Plan, c LayupChange) { p.Off.Crossed = c.Times == 1 }),
	"hole":    setting(func(p *layup.Plan, c LayupChange) { p.Off.HoleMM = c.Value }),
	"draft":   setting(func(p *layup.Plan, c LayupChange) { p.Draft = c.Value }),
	"refeed": setting(func(p *layup.Plan, c LayupChange) {
		if p.Refeed = layup.Refeed(c.Text); c.Text == "" {
			p.Refeed = layup.OwnPlace
		}
	}),
	"passes": func(_ Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		if p.Passes = c.Times; c.Times < 1 {
			return p, fault.New("passes", "A batt goes through once at least.")
		}
		return p, nil
	},
	"turn": func(l Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		for _, g := range l.GaveWay {
			if g.School == c.Text && g.Turn > 0 {
				return p.TurnRound(g.School, g.Turn, l.LaidFibres, l.StepG), nil
			}
		}
		return p, fault.New("turn", "There is no school to be turned round.")
	},
	"turns-about": setting(func(p *layup.Plan, c LayupChange) { p.Turns = c.Times }),
	"use":         Layup.useAs,
	"fed": func(l Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		if err := l.has(c.At); err != nil {
			return p, err
		}
		return p.FedSo(c.At, len(l.LaidFibres), layup.FedAs{How: c.Text, Abreast: c.Times})
	},
	"copy": func(l Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		return p.Copied(l.Bed, l.LaidFibres, c.At, c.To, c.Value, c.Times == 1, l.StepG)
	},
	"alone": func(l Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		if c.At != -1 {
			if err := l.has(c.At); err != nil {
				return p, err
			}
		}
		return p.AloneFirst(l.LaidFibres, c.At, c.Times)
	},
	"place": Layup.placeRest,
	"joins": Layup.joinAt,
}

// setting is a change that sets something of the plan.
func setting(set func(p *layup.Plan, c LayupChange)) func(Layup, layup.Plan, LayupChange) (layup.Plan, error) {
	return func(_ Layup, p layup.Plan, c LayupChange) (layup.Plan, error) {
		set(&p, c)
		return p, nil
	}
}

// placeRest lays what is left of a fibre, of all of them where c.At is -1.
func (now Layup) placeRest(p layup.Plan, c LayupChange) (layup.Plan, error) {
	if c.At == -1 {
		for i := range now.LaidFibres {
			p = p.PlaceRest(now.Bed, now.LaidFibres, i, now.StepG)
		}
		return p, nil
	}
	if err := now.has(c.At); err != nil {
		return p, err
	}
	return p.PlaceRest(now.Bed, now.LaidFibres, c.At, now.StepG), nil
}

// useAs lays a fibre anew as what it is there for; without a use as it usually is.
func (now Layup) useAs(p layup.Plan, c LayupChange) (layup.Plan, error) {
	if err := now.has(c.At); err != nil {
		return p, err
	}
	as := layup.Use(c.Text)
	if as == "" {
		as = layup.UsualUses(now.LaidFibres)[c.At]
	}
	for _, n := range c.Near {
		if err := now.has(n); err != nil || n == c.At {
			return p, fault.New("near", "It goes with another fibre of the blend.")
		}
	}
	p, err := p.LaidAs(now.Bed, now.LaidFibres, c.At, layup.Purpose{As: as, Near: c.Near, FadeMM: c.FadeMM}, now.StepG)
	if p.Told = slices.DeleteFunc(slices.Clone(p.Told), func(i int) bool { return i == c.At }); c.Text != "" {
		p.Told = append(p.Told, c.At)
	}
	return p, err
}

// joinAt lets a fibre join at a pass.
func (now Layup) joinAt(p layup.Plan, c LayupChange) (layup.Plan, error) {
	if err := now.has(c.At); err != nil {
		return p, err
	}
	if c.Times < 1 || c.Times > now.LastPass {
		return p, fault.New("joins", "It goes through %d times; a fibre joins at pass 1 to %d.", now.LastPass, now.LastPass)
	}
	joins := make([]int, len(now.LaidFibres))
	for i := range joins {
		joins[i] = p.JoinsAt(i)
	}
	joins[c.At] = c.Times
	p.Joins = joins
	return p, nil
}

// has refuses a component that the blend does not have.
func (now Layup) has(component int) error {
	if component < 0 || component >= len(now.LaidFibres) {
		return fault.New("at", "There is no such component in the blend.")
	}
	return nil
}

// build lays all anew by a builder.
func (now Layup) build(in LayupInput, c LayupChange) (p layup.Plan, err error) {
	if c.Build == nil {
		return now.LaidPlan, fault.New("build", "Choose a builder.")
	}
	o := c.Build.Options(now.Bed, now.schools)
	o.Step = now.StepG
	if o.Purposes == nil { // what the maker told stays so
		o.Purposes = make([]layup.Purpose, len(now.LaidFibres))
		for _, i := range now.LaidPlan.Told {
			o.Purposes[i].As = now.LaidPlan.UseOf(now.LaidFibres, i)
		}
	}
	if o.Passes == 0 && layup.UsualPasses(o.Builder) > 1 {
		o.Passes = max(1, now.Blend.Passes)
	}
	if order, err := c.Build.Ordered(now.LaidFibres); err != nil || order != nil {
		if err != nil {
			return now.LaidPlan, err
		}
		o.Order = order
	}
	fed, alone, off := now.LaidPlan.Fed, now.LaidPlan.Alone, now.LaidPlan.Off
	if p, err = layup.Build(now.Bed, now.LaidFibres, o); err != nil {
		return p, err
	}
	p.Before, p.After = now.LaidPlan.Before, now.LaidPlan.After
	// What waits for a later pass loses less, so there is less of it.
	if p.Fed = fed; o.Alone == 0 {
		p.Alone = alone
	}
	now.LaidPlan = p
	if err = now.fill(in); err == nil {
		p, err = layup.Build(now.Bed, now.LaidFibres, o)
	}
	p.Before, p.After = now.LaidPlan.Before, now.LaidPlan.After
	if p.Fed, p.Alone, p.Off = fed, now.LaidPlan.Alone, off; p.Passes == max(1, now.Blend.Passes) {
		p.Passes = 0 // as the blend
	}
	return p, err
}
