package yarn

import "math"

// What a yarn is like, in five steps each (yarn.md, section 5; judgement): how lofty it is follows from its packing, hairs from draw,
// preparation and fibre, strength from draw, fibre, staple, plies and twist.

// like is how many loose hairs there are and how long, beside those of a usual yarn.
type like struct{ count, length float64 }

var drawHairs = map[string]like{"long": {1.3, 1.2}, "from-fold": {1.15, 1.1}, "short-backward": {0.8, 0.9}, "short-forward": {0.5, 0.7}}

var preparedHairs = map[string]like{"rolag": {1.1, 1.05}, "batt": {1, 1}, "roving": {0.9, 1}, "top": {0.7, 0.9}}

// Coats are the sorts of fibre that a yarn's character follows from, with their hairs and their strength beside wool's.
var coats = map[string]struct {
	like
	strong  int
	shrinks float64 // by washing, of what medium wool does
}{
	"fine": {like{1, 0.8}, 0, 1.2}, "medium": {like{1, 1}, 0, 1}, "down-type": {like{1.1, 0.7}, 0, 1.2}, "longwool": {like{0.8, 1.3}, 1, 0.7},
	"superwash": {like{0.7, 1}, 0, 0.8}, "double": {like{1.2, 1.4}, 0, 0.8}, "mohair": {like{1.3, 1.8}, 1, 0.6}, "alpaca": {like{1.1, 1.3}, 0, 0.6},
	"angora": {like{1.8, 1.5}, -1, 0.9}, "down": {like{1.3, 0.8}, -1, 0.9}, "silk": {like{0.45, 0.8}, 1, 0.3}, "regenerated": {like{0.45, 0.8}, 0, 0.4},
	"cotton": {like{0.8, 0.4}, 0, 0.5}, "bast": {like{0.8, 1.2}, 1, 0.3}, "synthetic": {like{0.6, 1}, 1, 0.3},
}

// Fibre is a fibre of a yarn: its sort (Coats), its share by weight and how thick one is, micrometres.
type Fibre struct {
	Coat      string
	Share     float64
	DiameterU float64
}

// Character is what a yarn is like: loft, hairs and strength from 1 to 5.
type Character struct {
	Loft, Hairs, Strength int
	Hairy                 float64 // count times length of its hairs, beside a usual yarn
}

// step is how many of some bounds, from the highest down, a value does not reach, from 5 on down.
func step(v float64, bounds ...float64) int {
	for i, b := range bounds {
		if v >= b {
			return 5 - i
		}
	}
	return 5 - len(bounds)
}

// CharacterOf is what a yarn is like: of these fibres, drawn and prepared so, of a packing of its single, of so many plies and a main
// staple in mm; twist is its twist factor beside the usual one (1 where it is).
func CharacterOf(parts []Fibre, draw, prepared string, packing float64, plies int, stapleMM, twist float64) Character {
	d, p := drawHairs[draw], preparedHairs[prepared]
	var hairs, count, length, all, strong float64
	for _, f := range parts {
		c := coats[f.Coat]
		n := f.Share / math.Max(f.DiameterU, 1)
		hairs += n
		all += f.Share
		count += n * c.count
		length += n * c.count * c.length
		strong += f.Share * float64(c.strong)
	}
	if hairs == 0 {
		return Character{}
	}
	length /= count
	count = count / hairs * d.count * p.count * math.Sqrt(1/twist)
	length *= d.length * p.length
	out := Character{Hairy: clampTo(count, 0.2, 2.5) * clampTo(length, 0.4, 2.2)}
	out.Hairs = step(out.Hairy, 2.0, 1.3, 0.8, 0.45)
	out.Loft = step(-packing, -0.23, -0.27, -0.31, -0.36)
	s := map[string]int{"long": 2, "from-fold": 3, "short-backward": 4, "short-forward": 5}[draw] + int(math.Round(strong/all))
	if stapleMM < 40 {
		s--
	}
	switch {
	case plies == 1:
		s--
	case plies >= 3:
		s++
	}
	if twist < 0.8 {
		s--
	}
	out.Strength = min(max(s, 1), 5)
	return out
}

func clampTo(v, low, high float64) float64 { return math.Min(math.Max(v, low), high) }

// washing is what the first wash does to a yarn, by its draw: how much shorter it gets, and how much it opens (judgement).
var washing = map[string]struct{ shorter, opens float64 }{
	"long": {0.10, 1.25}, "from-fold": {0.08, 1.20}, "short-backward": {0.06, 1.10}, "short-forward": {0.05, 1.05},
}

// Washed is what washing does to a yarn: by what part it gets shorter, and how much thicker it is then.
type Washed struct{ Shorter, Thicker float64 }

// mostShorter is what a yarn shortens by at most.
const mostShorter = 0.18

// SteamedOf is what steam under a light tension does in place of it: twist is set, half of the length goes, and it hardly opens.
func SteamedOf(parts []Fibre, draw string) Washed {
	w := WashedOf(parts, draw)
	half := Washed{Shorter: w.Shorter / 2}
	half.Thicker = math.Sqrt((1 + (washing[draw].opens-1)/2) / (1 - half.Shorter))
	return half
}

// WashedOf is what washing does to a yarn of these fibres, drawn so (yarn.md, section 4).
func WashedOf(parts []Fibre, draw string) Washed {
	w, by, all := washing[draw], 0.0, 0.0
	for _, f := range parts {
		by, all = by+f.Share*coats[f.Coat].shrinks, all+f.Share
	}
	if all > 0 {
		by /= all
	} else {
		by = 1
	}
	out := Washed{Shorter: math.Min(w.shorter*by, mostShorter)}
	out.Thicker = math.Sqrt(w.opens / (1 - out.Shorter))
	return out
}
