package train

import (
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/unit"
)

// ways are the directions in which colours differ, as the rest of the program names them; the first two are seen without hue.
var ways = []string{"lighter", "darker", "brighter", "duller", "warmer", "cooler", "redder", "greener"}

// apartAt is how far two patches lie from each other by level, CIEDE2000.
var apartAt = [MostLevel][2]float64{{11, 18}, {5, 9}, {4.6, 14}, {1.7, 9}, {0.8, 3.6}}

// clear is how far from the bound of a class a difference stays, part of it: nearer, either word would be right.
const clear = 0.12

// difference shows two patches: which way does the second differ, and by about how much?
func difference(e *Exercise, c *chance) {
	p, q := patches(c, e.Level, e.ByLightness)
	degree, way, _ := colour.Told(p, q)
	e.Asked = unit.Say("Look at the two. How does the right one differ from the left?")
	e.Patches = []Lot{{"left", hexOf(p)}, {"right", hexOf(q)}}
	offered := ways
	if e.ByLightness {
		offered = ways[:2]
	}
	e.Choices = []Choice{{Asked: "It is", Options: said(offered)}, {Asked: "and by how much?", Options: said(colour.Degrees)}}
	best := []int{slices.Index(offered, way), slices.Index(colour.Degrees, degree)}
	e.truth.best = Answer{Chosen: best}
	far := colour.CIEDE2000(p, q)
	e.truth.judge = func(a Answer) Judged {
		const forWay, forDegree = 60.0, 40.0
		score := forDegree * (1 - math.Abs(float64(a.Chosen[1]-best[1]))/float64(len(colour.Degrees)-1))
		if a.Chosen[0] == best[0] {
			score += forWay
		}
		return Judged{Score: score, Why: []unit.Sentence{
			unit.Say("The right one is %s %s: %.1f by CIEDE2000, where 1 is about what an eye can just tell.", degree, way, far),
			unit.Say("In lightness they are %.0f apart, in strength of colour %.0f.", math.Abs(q.L-p.L), math.Abs(q.Chroma()-p.Chroma())),
		}}
	}
}

func said(words []string) (out []unit.Sentence) {
	for _, w := range words {
		out = append(out, unit.Say("%s", w))
	}
	return out
}

// patches draws two colours that a screen shows and that differ in one direction, clearly within a class.
func patches(c *chance, level int, byLightness bool) (p, q colour.Lab) {
	bounds := apartAt[level-1]
	for {
		chroma, hue := c.between(12, 45), c.between(0, 2*math.Pi)
		p = colour.Lab{L: c.between(32, 78), A: chroma * math.Cos(hue), B: chroma * math.Sin(hue)}
		want := c.between(bounds[0], bounds[1])
		dir := c.one(6)
		if byLightness {
			dir %= 2
		}
		q = moved(p, dir, want)
		far := colour.CIEDE2000(seen(p), seen(q))
		if !p.Linear().InGamut() || !q.Linear().InGamut() || onBound(far) {
			continue
		}
		p, q = seen(p), seen(q)
		_, first, second := colour.Told(p, q)
		if first == "" || second != "" || byLightness && first != ways[0] && first != ways[1] {
			continue
		}
		return p, q
	}
}

// seen is a colour as a screen shows it, in whole steps of its channels.
func seen(c colour.Lab) colour.Lab { return labOf(hexOf(c)) }

func onBound(far float64) bool {
	for _, b := range []float64{colour.SameTo, colour.HardlyTo, colour.LittleTo, colour.ClearTo} {
		if math.Abs(far-b) < clear*b {
			return true
		}
	}
	return false
}

// moved is a colour so far from p: lighter, darker, brighter, duller, or turned about in hue.
func moved(p colour.Lab, dir int, far float64) colour.Lab {
	at := func(t float64) colour.Lab {
		switch dir {
		case 0, 1:
			return colour.Lab{L: p.L + t*float64(1-2*dir), A: p.A, B: p.B}
		case 2, 3:
			k := 1 + t/40*float64(5-2*dir)
			return colour.Lab{L: p.L, A: p.A * k, B: p.B * k}
		}
		turn := t / 40 * float64(9-2*dir)
		return colour.Lab{L: p.L, A: p.A*math.Cos(turn) - p.B*math.Sin(turn), B: p.A*math.Sin(turn) + p.B*math.Cos(turn)}
	}
	low, high := 0.0, 40.0
	for range 40 {
		if mid := (low + high) / 2; colour.CIEDE2000(p, at(mid)) < far {
			low = mid
		} else {
			high = mid
		}
	}
	return at(low)
}
