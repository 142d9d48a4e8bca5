package match

import (
	"math"
	"testing"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

func sixty(b *testing.B, extra int) Query {
	in, lots := load(b)
	for i := range extra { // more lots of the same shelf, each a little off
		c := lots[i%60]
		lin := c.Colour.Linear()
		for ch := range lin {
			lin[ch] = min(1, max(0.003, lin[ch]*(0.8+0.4*math.Mod(float64(i*7+ch*3)*0.37, 1))))
		}
		c.Colour, _ = lin.Reflectance()
		lots = append(lots, c)
	}
	t := in.Targets[0].Lab
	return Query{Target: colour.Lab{L: t[0], A: t[1], B: t[2]}, Lots: lots, Model: mix.Default(), Components: 4, Total: 60, Step: 1, Count: 5}
}

func find(b *testing.B, q Query) {
	for b.Loop() {
		a, err := Find(b.Context(), q)
		if err != nil || len(a.Blends) == 0 {
			b.Fatal(err)
		}
		b.ReportMetric(float64(a.Examined), "sets")
		b.ReportMetric(a.Blends[0].DeltaE, "dE")
	}
}

// BenchmarkFind is a search among 60 lots for up to 4, rounding included; its
// floor here is the plain enumeration of all sets with the same inner solver,
// so the ratio is below 1.
func BenchmarkFind(b *testing.B) { find(b, sixty(b, 0)) }

func BenchmarkFindFloor(b *testing.B) {
	q := sixty(b, 0)
	q.Thorough = true
	find(b, q)
}

// BenchmarkFindAmong200 is the same among 200 lots.
func BenchmarkFindAmong200(b *testing.B) { find(b, sixty(b, 140)) }

// BenchmarkQuick is the search that answers while a target is dragged.
func BenchmarkQuick(b *testing.B) {
	q := sixty(b, 0)
	for b.Loop() {
		if _, err := Quick(b.Context(), q); err != nil {
			b.Fatal(err)
		}
	}
}
