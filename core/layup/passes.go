package layup

import (
	"cmp"
	"math"
	"slices"
)

// What later passes do. A pass opens all that lies on the cloth: strips that are
// spread lose their lanes, whatever was painted over a part of the length is
// drawn out, and locks, dots and film are opened and buried. Until a forecast
// says how far, the plan says that it happens.

// usualStripMM is how wide a strip is torn for the next pass.
const usualStripMM = 40

// StripCounts are the ways to divide a batt that a forecast can follow.
var StripCounts = []int{1, 2, 3, 4, 6, 8}

// StripsOf returns into how many strips the batt is divided for a later pass: as the plan says, else as NearStrips has it of one for
// each lane where each goes back to its place, or of so many of about 40 mm.
func (p Plan) StripsOf(b Bed) int {
	if p.Strips > 0 {
		return p.Strips
	}
	if p.Refeed == OwnPlace {
		if n := len(p.lanes(1)); n > 1 {
			return NearStrips(n)
		}
	}
	return NearStrips(int(max(2, math.Ceil(b.WidthMM/usualStripMM))))
}

// NearStrips is the number nearest to n, the lower of two, that a forecast can follow.
func NearStrips(n int) int {
	return slices.MinFunc(StripCounts, func(a, b int) int { return cmp.Or(cmp.Compare(abs(a-n), abs(b-n)), cmp.Compare(a, b)) })
}

func abs(n int) int { return max(n, -n) }

// Late reports whether a layer holds nothing but what joins at a later pass.
func (p Plan) Late(l Layer) bool {
	for _, v := range l.Lays {
		if p.JoinsAt(v.Component) < 2 {
			return false
		}
	}
	return len(l.Lays) > 0
}

// Gathered reports whether the layers that join late lie together, with others
// below and above them.
func (p Plan) Gathered(last int) bool {
	first, end, mixed := -1, -1, false
	for i, l := range p.Layers {
		some := false
		for _, v := range l.Lays {
			some = some || p.JoinsAt(v.Component) > 1
		}
		if some {
			if first < 0 {
				first = i
			}
			end = i
			mixed = mixed || !p.Late(l)
		}
	}
	if first < 0 {
		return true
	}
	if mixed {
		return false
	}
	for i := first; i <= end; i++ {
		if !p.Late(p.Layers[i]) {
			return false
		}
	}
	rest := len(p.Layers) - (end - first + 1)
	return first > 0 && end < len(p.Layers)-1 || rest < 2
}

// Gather moves what joins late together into the middle of the others, in its
// order, where it will lie: between the halves of what is fed again. Where those
// are too light to be halved, late ground covers late extras.
func (p Plan) Gather(fibres []Fibre, step float64) Plan {
	out := p.clone()
	var rest, late []Layer
	for _, l := range out.Layers {
		keep, wait := Layer{Key: l.Key}, Layer{}
		for _, v := range l.Lays {
			if p.JoinsAt(v.Component) > 1 {
				wait.Lays = append(wait.Lays, v)
			} else {
				keep.Lays = append(keep.Lays, v)
			}
		}
		if len(keep.Lays) > 0 {
			rest = append(rest, keep)
		} else {
			wait.Key = l.Key
		}
		if len(wait.Lays) > 0 {
			late = append(late, wait)
		}
	}
	if len(rest) == 0 || len(late) == 0 {
		return p
	}
	if len(rest) == 1 {
		halves := Plan{Layers: rest}
		halves, _ = halves.Split(0, 2, step)
		rest = halves.Layers
	}
	if len(rest) == 1 {
		ground := func(l Layer) int {
			if fibres[l.Lays[0].Component].Ground() {
				return 1
			}
			return 0
		}
		slices.SortStableFunc(late, func(a, b Layer) int { return ground(a) - ground(b) })
	}
	mid := (len(rest) + 1) / 2
	out.Layers = append(append(append([]Layer{}, rest[:mid]...), late...), rest[mid:]...)
	return out
}
