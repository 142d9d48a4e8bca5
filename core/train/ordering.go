package train

import (
	"math"
	"slices"

	"fairtangle/core/hands"
	"fairtangle/core/unit"
)

// sessions are pieces of work whose steps have one order, by the keys of what hands do.
var sessions = []struct {
	name  string
	steps []string
}{
	{"a batt on a drum", []string{"drum.clean", "drum.clear", "drum.first", "feed.open", "feed.base", "feed.lanes", "feed.full", "lift.ready", "lift.pull",
		"keep.roll"}},
	{"a second pass on a drum", []string{"lift.ready", "lift.pull", "pass.judge", "pass.divide", "feed.tray", "pass.join", "feed.full"}},
	{"rolags from a board", []string{"board.open", "board.base", "board.veil", "board.edges", "roll.edge", "roll.one", "roll.draw", "roll.part", "roll.slip",
		"roll.next"}},
	{"rolags from hand cards", []string{"cards.clean", "cards.load", "cards.stroke", "cards.move", "cards.lift", "cards.roll", "cards.batch"}},
	{"combed top from locks", []string{"raw.tug", "comb.points", "comb.lash", "comb.comb", "comb.draw", "keep.roving"}},
	{"a fleece made ready", []string{"raw.tug", "raw.nails", "raw.pick", "raw.oil", "cards.clean", "cards.load", "cards.stroke"}},
}

// ordering shows the steps of a piece of work with one missing, or one out of place.
func ordering(e *Exercise, c *chance) {
	k := c.one(len(sessions))
	steps := sessions[k].steps
	if long := 4 + e.Level; len(steps) > long { // the easier, the shorter a stretch of it
		from := c.one(len(steps) - long + 1)
		steps = steps[from : from+long]
	}
	if c.one(2) == 0 {
		missing(e, c, k, steps)
	} else {
		misplaced(e, c, k, steps)
	}
}

// missing leaves a step out: which is it, and after which does it come?
func missing(e *Exercise, c *chance, k int, steps []string) {
	gap := 1 + c.one(len(steps)-2) // with a step before and one after it
	left := steps[gap]
	e.Steps = doing(slices.Concat(steps[:gap], steps[gap+1:]))
	offered := []string{left}
	for _, i := range c.order(len(sessions)) {
		for _, other := range sessions[i].steps {
			if len(offered) < 4 && i != k && !slices.Contains(sessions[k].steps, other) && !slices.Contains(offered, other) {
				offered = append(offered, other)
				break
			}
		}
	}
	order := c.order(len(offered))
	which := Choice{Asked: "Which step is missing?"}
	for _, i := range order {
		which.Options = append(which.Options, unit.Say("%s", doing(offered[i : i+1])[0]))
	}
	where := Choice{Asked: "It comes"}
	for i := range len(steps) - 1 {
		where.Options = append(where.Options, unit.Say("after step %d", i+1))
	}
	e.Asked = unit.Say("This is %s, in its order, with one step left out.", sessions[k].name)
	e.Choices = []Choice{which, where}
	best := []int{slices.Index(order, 0), gap - 1}
	e.truth.best = Answer{Chosen: best}
	e.truth.judge = func(a Answer) Judged {
		const forWhich, forWhere = 60.0, 40.0
		j := Judged{Score: forWhere * math.Max(0, 1-math.Abs(float64(a.Chosen[1]-best[1]))/3), Why: because(left, steps[gap-1])}
		if a.Chosen[0] == best[0] {
			j.Score += forWhich
		}
		return j
	}
}

// misplaced moves a step by three places or more, so that it is plain which of them stands wrong.
func misplaced(e *Exercise, c *chance, k int, steps []string) {
	const far = 3
	from := c.one(len(steps))
	to := c.one(len(steps))
	for max(from-to, to-from) < far {
		from, to = c.one(len(steps)), c.one(len(steps))
	}
	moved := slices.Insert(slices.Delete(slices.Clone(steps), from, from+1), to, steps[from])
	e.Steps = doing(moved)
	which := Choice{Asked: "Which step stands in the wrong place?"}
	for i := range moved {
		which.Options = append(which.Options, unit.Say("step %d", i+1))
	}
	e.Asked = unit.Say("This is %s. One step stands where it does not belong.", sessions[k].name)
	e.Choices = []Choice{which}
	e.truth.best = Answer{Chosen: []int{to}}
	before := ""
	if from > 0 {
		before = steps[from-1]
	}
	e.truth.judge = func(a Answer) Judged {
		j := Judged{Why: because(steps[from], before)}
		if a.Chosen[0] == to {
			j.Score = 100
		}
		return j
	}
}

// doing is what is done in steps.
func doing(keys []string) (out []string) {
	for _, k := range keys {
		out = append(out, hands.Told(k).Do)
	}
	return out
}

// because says where a step comes, and why it is done.
func because(step, before string) []unit.Sentence {
	m := hands.Told(step)
	first := unit.Say("It is the first of them: “%s”", m.Do)
	if before != "" {
		first = unit.Say("“%s” comes right after “%s”", m.Do, hands.Told(before).Do)
	}
	for _, why := range []string{m.Why, m.Mind, m.See} {
		if why != "" {
			return []unit.Sentence{first, unit.Say("%s", why)}
		}
	}
	if m.Safe {
		return []unit.Sentence{first, unit.Say("It keeps hands from harm.")}
	}
	return []unit.Sentence{first, unit.Say("Each step makes the next one easy.")}
}
