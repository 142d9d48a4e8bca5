package train

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/unit"
)

// How shares are judged: what is off by so much, on average over the lots, or in colour, still gets all, or no more at all.
const (
	shareFree, shareMost   = 0.01, 0.25
	colourFree, colourMost = 0.5, 25.0
	lotMore                = 4.0 // off the score for each lot more than it takes
)

// within shows a batt: how much of each lies in it?
func within(e *Exercise, c *chance) {
	n := [MostLevel]int{2, 2, 3, 3, 4}[e.Level-1]
	e.Passes = [MostLevel]int{1, 2, 1, 2, 3}[e.Level-1]
	e.Layers, e.Strips = 2, 4
	e.Lots = fibres(c, n, e.ByLightness)
	best := parted(c, len(e.Lots), 2)
	e.Shape = []Shape{AsBatt, AsRolag, AsSwatch, AsStrand}[c.one(min(4, e.Level))] // drawn last: what was answered before shapes came stays as it was
	e.Asked = unit.Say(map[Shape]string{
		AsBatt: "A batt of these, carded. How much of each is in it?", AsRolag: "A rolag of these, rolled from what was carded. How much of each is in it?",
		AsSwatch: "A swatch, knitted of a single of these. How much of each is in it?", AsStrand: "Lengths of a single spun of these. How much of each is in it?",
	}[e.Shape])
	e.truth.best, e.truth.shown = Answer{Parts: best}, best
	want, shares := mixed(e.Lots, Shares(best)), Shares(best)
	e.truth.judge = func(a Answer) Judged {
		got, off, worst := Shares(a.Parts), 0.0, 0
		for i := range got {
			off += math.Abs(got[i]-shares[i]) / float64(len(got))
			if math.Abs(got[i]-shares[i]) > math.Abs(got[worst]-shares[worst]) {
				worst = i
			}
		}
		c := mixed(e.Lots, got)
		far := colour.CIEDE2000(c, want)
		j := Judged{Score: 0.6*near(off, shareFree, shareMost) + 0.4*near(far, colourFree, colourMost), Hex: hexOf(c)}
		j.Why = []unit.Sentence{unit.Say("The shares were off by %.0f points on average, the colour by %.1f.", 100*off, far)}
		if off > shareFree {
			j.Why = append(j.Why, unit.Say("Most so %s: there is %.0f\u00a0%% of it, you saw %.0f\u00a0%%.", e.Lots[worst].Name, 100*shares[worst], 100*got[worst]))
		} else {
			j.Why = append(j.Why, unit.Say("A dark fibre does more to a colour than its share: that you saw through."))
		}
		return j
	}
}

// reaching shows a colour and six lots: which shares make it?
func reaching(e *Exercise, c *chance) {
	const offered = 6
	n := [MostLevel]int{2, 2, 3, 3, 4}[e.Level-1]
	least := [MostLevel]int{6, 3, 5, 3, 2}[e.Level-1]
	if e.ByLightness {
		n = 2 // between white and black two make every grey
	}
	var best []float64
	var want colour.Lab
	for {
		e.Lots = fibres(c, offered, e.ByLightness)
		best = make([]float64, len(e.Lots))
		for i, p := range parted(c, n, least) {
			best[i] = p
		}
		best = mingled(c, best)
		if want = mixed(e.Lots, Shares(best)); !fewerDo(e.Lots, want, n) {
			break
		}
	}
	e.Asked = unit.Say("Which shares of these, carded until they are even, make the colour above? %d of them are enough.", n)
	e.Patches = []Lot{{"wanted", hexOf(want)}}
	e.truth.best = Answer{Parts: best}
	shares := Shares(best)
	e.truth.judge = func(a Answer) Judged {
		used := 0
		for _, p := range a.Parts {
			if p > 0 {
				used++
			}
		}
		c := mixed(e.Lots, Shares(a.Parts))
		far := colour.CIEDE2000(c, want)
		score := math.Max(0, near(far, colourFree, colourMost)-lotMore*math.Max(0, float64(used-n)))
		j := Judged{Score: score, Hex: hexOf(c)}
		if colour.Compare(want, c).Same {
			j.Why = []unit.Sentence{unit.Say("To the eye that is the colour wanted (%.1f by CIEDE2000), with %d lots.", far, used)}
		} else {
			j.Why = []unit.Sentence{unit.Say("Yours is %s than the one wanted: %.1f by CIEDE2000, with %d lots.", colour.Words(want, c), far, used)}
		}
		said := ""
		for i, s := range shares {
			if s > 0 {
				if said != "" {
					said += ", "
				}
				said += unit.Say("%.0f\u00a0%% %s", 100*s, e.Lots[i].Name).String()
			}
		}
		j.Why = append(j.Why, unit.Say("A search over all shares finds %s.", said))
		return j
	}
}

// fewerDo reports whether one lot less gives nearly the colour: then the task has another answer that is as good.
func fewerDo(lots []Lot, want colour.Lab, n int) bool {
	const as = 2.5
	for i, l := range lots {
		if colour.CIEDE2000(labOf(l.Hex), want) < as {
			return true
		}
		for _, m := range lots[:i] {
			for k := 1; k < MostParts && n > 2; k++ {
				if colour.CIEDE2000(mixed([]Lot{l, m}, []float64{step * float64(k), 1 - step*float64(k)}), want) < as {
					return true
				}
			}
		}
	}
	return false
}
