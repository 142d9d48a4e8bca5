package colour

import "math"

// The classes of a difference of two colours, in CIEDE2000: below each it is the same to the eye,
// hardly seen, a little, clearly seen; from the last on much. They are ours.
const (
	SameTo   = 0.5
	HardlyTo = 1.5
	LittleTo = 4
	ClearTo  = 10
)

// Apart is how a colour differs from another.
type Apart struct {
	DeltaE float64 // CIEDE2000
	Words  string
	Same   bool // to the eye
}

// Compare tells how q differs from p.
func Compare(p, q Lab) Apart {
	de := CIEDE2000(p, q)
	return Apart{de, Words(p, q), de < SameTo}
}

// Words says how q differs from p as a maker would: "a little lighter and
// warmer". The degree follows CIEDE2000; at most two directions are named, the
// second only when it is at least half as strong as the first.
func Words(p, q Lab) string {
	degree, first, second := Told(p, q)
	switch {
	case first == "":
		return "the same to the eye"
	case second == "":
		return degree + " " + first
	}
	return degree + " " + first + " and " + second
}

// Degrees are the words of Words for how much, the least first.
var Degrees = []string{"hardly", "a little", "clearly", "much"}

// Told are the parts of Words: how much q differs from p, and into which directions; none where it is the same to the eye.
func Told(p, q Lab) (degree, first, second string) {
	de := CIEDE2000(p, q)
	if de < SameTo {
		return "", "", ""
	}
	degree = Degrees[len(Degrees)-1]
	for i, to := range []float64{HardlyTo, LittleTo, ClearTo} {
		if de < to {
			degree = Degrees[i]
			break
		}
	}
	first, second = directions(p, q)
	return degree, first, second
}

// directions names the strongest one or two of lightness, chroma and hue.
func directions(p, q Lab) (first, second string) {
	dl, dc, dh, _ := differenceTerms(p, q)
	type term struct {
		size float64
		word string
	}
	lightness := term{math.Abs(dl), pick(dl > 0, "lighter", "darker")}
	chroma := term{math.Abs(dc), pick(dc > 0, "brighter", "duller")}
	hue := term{math.Abs(dh), hueWord(q.A-p.A, q.B-p.B)}
	if min(p.Chroma(), q.Chroma()) < 6 {
		// Near grey a change of chroma is seen as a tint, not as brightness.
		hue.size = math.Hypot(dc, dh)
		chroma.size = 0
	}
	t := []term{lightness, chroma, hue}
	for i := 1; i < 3; i++ {
		if t[i].size > t[0].size {
			t[0], t[i] = t[i], t[0]
		}
	}
	if t[2].size > t[1].size {
		t[1], t[2] = t[2], t[1]
	}
	if t[1].size < t[0].size/2 {
		return t[0].word, ""
	}
	return t[0].word, t[1].word
}

// hueWord names the direction of a shift in a*, b*. Yellow to orange is warm,
// its opposite cool; across that axis the words are redder and greener.
func hueWord(da, db float64) string {
	const warm = 70 * rad
	along := da*math.Cos(warm) + db*math.Sin(warm)
	across := da*math.Sin(warm) - db*math.Cos(warm)
	if math.Abs(along) >= math.Abs(across) {
		return pick(along > 0, "warmer", "cooler")
	}
	return pick(across > 0, "redder", "greener")
}

func pick(cond bool, a, b string) string {
	if cond {
		return a
	}
	return b
}
