package train

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
)

// weighing asks a sum at the scale: how much blend something is enough for, or what to do when too much was weighed.
func weighing(e *Exercise, c *chance) {
	if c.one(2) == 0 {
		howMuch(e, c)
		return
	}
	overWeighed(e, c)
}

// howMuch: so much of one fibre at a share, and what comes off in carding.
func howMuch(e *Exercise, c *chance) {
	lot := dyed[c.one(len(dyed))]
	passes := [MostLevel]int{0, 0, 1, 2, 3}[e.Level-1]
	shares := [MostLevel][]float64{{0.5, 0.25, 0.2, 0.1}, {0.15, 0.3, 0.4, 0.6}, {0.25, 0.2, 0.4}, {0.15, 0.3, 0.35}, {0.12, 0.18, 0.35}}[e.Level-1]
	share := shares[c.one(len(shares))]
	grams := unit.Grams(5 + c.one(56))
	loss := float64(1+c.one(4)) / 100
	weighed := float64(grams) / share
	best := unit.Grams(losses.Way{Fall: losses.Fall{First: loss}, Passes: passes}.Finished(weighed))
	e.Grams = true
	if passes == 0 {
		e.Asked = unit.Say("There are %s of %s left, and it is %.0f\u00a0%% of the blend. For how much blend is that enough?", grams, lot.Name, 100*share)
	} else {
		e.Asked = unit.Say("There are %s of %s left; it is %.0f\u00a0%% of what is weighed in. "+
			"It goes through %s, which takes %.0f\u00a0%% each time. How much comes off?",
			grams, lot.Name, 100*share, [MostLevel + 1]string{1: "one pass", 2: "two passes", 3: "three passes"}[passes], 100*loss)
	}
	e.truth.best = Answer{Grams: best}
	e.truth.judge = func(a Answer) Judged {
		off := math.Abs(float64(a.Grams)/float64(best) - 1)
		j := Judged{Score: near(off, 0.006, 0.2), Why: []unit.Sentence{
			unit.Say("%s are %.0f\u00a0%%, so all of it is %s: the weight divided by the share.", grams, 100*share, tenths(weighed)),
		}}
		if passes == 0 {
			j.Why = append(j.Why, unit.Say("You said %s.", a.Grams))
		} else {
			j.Why = append(j.Why, unit.Say("Of that, each pass leaves %.0f\u00a0%%: %s in the end. You said %s.", 100-100*loss, tenths(float64(best)), a.Grams))
		}
		return j
	}
}

// overWeighed: too much of the first lot lies in the bowl, mixed in; which way on keeps the colour?
func overWeighed(e *Exercise, c *chance) {
	n := [MostLevel]int{2, 2, 3, 3, 4}[e.Level-1]
	over := [MostLevel]float64{1.6, 1.5, 1.4, 1.3, 1.25}[e.Level-1]
	for !overOf(e, c, n, over) {
		over += 0.02
	}
}

func overOf(e *Exercise, c *chance, n int, over float64) bool {
	lots := fibres(c, n, false)
	lines, planned := make([]weigh.Line, len(lots)), parted(c, len(lots), 3)
	for i := range lots {
		planned[i] *= 2
		lines[i].Planned = unit.Grams(planned[i])
	}
	lines[0].Weighed, lines[0].Done = unit.Grams(math.Round(planned[0]*over)), true
	kept, err := weigh.Reweigh(lines, 0.1, weigh.KeepShares)
	if err != nil {
		return false
	}
	more := lines[0].Weighed - lines[0].Planned
	ways := [4][]unit.Grams{kept.ToWeigh, nil, nil, nil}
	for i := range lots {
		w := lines[i].Planned
		if i == 0 {
			w = lines[0].Weighed
		}
		ways[1] = append(ways[1], w)
		same, less := w, w
		if i > 0 {
			same, less = w+more, max(1, w-more/unit.Grams(n-1))
		}
		ways[2], ways[3] = append(ways[2], same), append(ways[3], less)
	}
	want := mixed(lots, Shares(planned))
	order := c.order(len(ways))
	far := make([]float64, len(ways))
	e.Choices = []Choice{{Asked: "Which way on keeps the colour?"}}
	for at, k := range order {
		far[at] = colour.CIEDE2000(want, mixed(lots, Shares(floats(ways[k]))))
		if k != 0 && far[at] < 4*colour.SameTo {
			return false
		}
		e.Choices[0].Options = append(e.Choices[0].Options, wayOn(lots, ways[k], k))
		if k == 0 {
			e.truth.best = Answer{Chosen: []int{at}}
		}
	}
	recipe, args := listed(lots, planned)
	args = append(args, lines[0].Weighed, lots[0].Name)
	e.Asked = unit.Say("The recipe says "+recipe+". By mistake %s of %s are in the bowl, and cannot be picked out.", args...)
	best := e.truth.best.Chosen[0]
	e.truth.judge = func(a Answer) Judged {
		j := Judged{Score: near(far[a.Chosen[0]], colour.SameTo, 20), Why: []unit.Sentence{
			unit.Say("The first is %.2f times its weight, so everything else is taken as many times: the shares stay.", float64(lines[0].Weighed)/planned[0]),
		}}
		if a.Chosen[0] == best {
			j.Score = 100
			j.Why = append(j.Why, unit.Say("It makes more of the blend, and the colour is the one wanted."))
		} else {
			j.Score = math.Min(j.Score, 90)
			j.Why = append(j.Why, unit.Say("The way you chose is %.1f off the colour by CIEDE2000.", far[a.Chosen[0]]))
		}
		return j
	}
	return true
}

// wayOn is a way on in words.
func wayOn(lots []Lot, grams []unit.Grams, k int) unit.Sentence {
	rest, args := listed(lots[1:], grams[1:])
	if k == 1 {
		return unit.Say("leave the others as they are: "+rest, args...)
	}
	return unit.Say("weigh the others to "+rest, args...)
}

// listed are weights of lots, as the format of a sentence and what stands in it.
func listed[G ~float64](lots []Lot, grams []G) (format string, args []any) {
	for i, l := range lots {
		switch {
		case i > 0 && i == len(lots)-1:
			format += " and "
		case i > 0:
			format += ", "
		}
		format += "%s of %s"
		args = append(args, unit.Grams(grams[i]), l.Name)
	}
	return format, args
}

// tenths are grams as a scale shows them.
func tenths(g float64) unit.Grams { return unit.Grams(math.Round(10*g) / 10) }

func floats(g []unit.Grams) (out []float64) {
	for _, v := range g {
		out = append(out, float64(v))
	}
	return out
}
