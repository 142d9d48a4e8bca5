package yarn

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"fairtangle/core/colour"
)

// From laceweight to bulky rope: 5 to 5,000 tex.
func TestHowThickASingleCanBe(t *testing.T) {
	for tex, ok := range map[float64]bool{4.9: false, 5: true, 5000: true, 5001: false} {
		q := ask(lanes(10, 10), Whole, 1, Single)
		q.Tex = tex
		_, err := Plan(q)
		if ok {
			assert.NoError(t, err, "%g", tex)
		} else {
			assert.ErrorContains(t, err, "singles_tex", "%g", tex)
		}
	}
}

// Two places where it turns are two, however long what lies between.
func TestJumpsAreCounted(t *testing.T) {
	dark, light := colour.Lab{L: 20}, colour.Lab{L: 80}
	way := []colour.Lab{}
	for _, c := range []colour.Lab{dark, light, dark} {
		for range 12 {
			way = append(way, c)
		}
	}
	assert.Equal(t, 2, jumps(way))
	assert.Zero(t, jumps(way[:12]))
}

// All of what is spun can be taken up, and nine tenths be lost; no more.
func TestTheEndsOfWhatIsAsked(t *testing.T) {
	for i, c := range []struct {
		up, waste float64
		ok        bool
	}{{1, 0.9, true}, {1.01, 0, false}, {0, 0.91, false}, {-0.01, 0, false}, {0, -0.01, false}} {
		q := ask(lanes(15, 15), Strips, 2, Two)
		q.TakeUp, q.Waste = c.up, c.waste
		assert.Equal(t, c.ok, q.check() == nil, "%d", i)
	}
}
