package colour

import (
	"cmp"
	"math"
	"slices"
)

// Lain is a lot that lies on the table: its colour, and how much there is of it.
type Lain struct {
	Colour Linear
	Grams  float64
}

// Set is lots that go together, and why: how they lie around the wheel.
type Set struct {
	Scheme string
	Lots   []int // the first is the one that the others lie around
	Least  float64
}

// Of sets: from how many grams on a lot is plentiful enough, how many lots are tried as the first, and how many lots a set has.
const (
	plentiful = 5.0
	seeds     = 16
	mostInSet = 6
	leastSet  = 3
)

// wheeled is where a lot lies on the wheel.
type wheeled struct{ light, chroma, hue float64 }

// Sets proposes so many sets of three to six lots that go together, of those that there is most of: neighbours, an opposite with what
// lies beside it, three around and four around, each with the lot without a hue that is furthest from the first in lightness. The same
// table gives the same sets; no two have the same lots.
func Sets(list []Lain, n int) (out []Set) {
	at := make([]wheeled, len(list))
	var order []int
	for i, v := range list {
		at[i].light, at[i].chroma, at[i].hue = v.Colour.OKLCH()
		if v.Grams >= plentiful {
			order = append(order, i)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(list[b].Grams, list[a].Grams) })
	tried := 0
	for _, first := range order {
		if at[first].chroma < HueFrom {
			continue
		}
		if tried++; tried > seeds {
			break
		}
		for _, scheme := range []string{"neighbours", "split", "triad", "square"} {
			if s, ok := setOf(list, at, order, first, scheme); ok {
				out = append(out, s)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Set) int { return cmp.Compare(b.Least, a.Least) })
	return varied(out, n)
}

// setOf is the set around a lot, ok where each place has one.
func setOf(list []Lain, at []wheeled, order []int, first int, scheme string) (s Set, ok bool) {
	s = Set{Scheme: scheme, Lots: []int{first}, Least: list[first].Grams}
	for _, angle := range schemes[scheme] {
		best := -1
		for _, i := range order { // the most of it comes first
			if at[i].chroma >= HueFrom && apart(at[i].hue, at[first].hue+angle) <= UsualWheelWidth/2.0 && !slices.Contains(s.Lots, i) {
				best = i
				break
			}
		}
		if best < 0 {
			return s, false
		}
		s.Lots, s.Least = append(s.Lots, best), min(s.Least, list[best].Grams)
	}
	calm := -1
	for _, i := range order {
		if at[i].chroma < HueFrom && (calm < 0 || math.Abs(at[i].light-at[first].light) > math.Abs(at[calm].light-at[first].light)) {
			calm = i
		}
	}
	if calm >= 0 && len(s.Lots) < mostInSet {
		s.Lots, s.Least = append(s.Lots, calm), min(s.Least, list[calm].Grams)
	}
	return s, len(s.Lots) >= leastSet
}

// varied keeps the first n sets, no two of the same lots, and first one of each scheme.
func varied(list []Set, n int) (out []Set) {
	var rest []Set
	seen := map[string]bool{}
	same := func(s Set) bool {
		own := slices.Sorted(slices.Values(s.Lots))
		return slices.ContainsFunc(slices.Concat(out, rest), func(o Set) bool { return slices.Equal(slices.Sorted(slices.Values(o.Lots)), own) })
	}
	for _, s := range list {
		switch {
		case same(s):
		case !seen[s.Scheme]:
			seen[s.Scheme] = true
			out = append(out, s)
		default:
			rest = append(rest, s)
		}
	}
	out = append(out, rest...)
	return out[:min(n, len(out))]
}

// apart is how far two hues lie from each other, degrees from 0 to 180.
func apart(a, b float64) float64 { return math.Abs(math.Mod(a-b+900, 360) - 180) }
