package layup

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Stripes thick and thin use every gram, lie side by side without a gap, and are as wide as their turn has it; lanes that run there and
// back too. Without a pattern they lie as ever.
func TestStripesAreThickAndThin(t *testing.T) {
	bed := standardDrum
	rapid.Check(t, func(t *rapid.T) {
		n, times := rapid.IntRange(2, 4).Draw(t, "fibres"), rapid.IntRange(1, 3).Draw(t, "times")
		fibres := make([]Fibre, n)
		for i := range fibres {
			fibres[i] = Fibre{Name: "wool", Grams: 20, Family: "wool", Cohesion: "smooth", StapleMM: 80}
		}
		thick := rapid.SliceOfN(rapid.Float64Range(0.5, 4), 1, 5).Draw(t, "thick")
		mirrored := rapid.Bool().Draw(t, "mirrored")
		o := Options{Builder: Lanes, Mirrored: true, Thick: thick, Step: 0.1}
		lanes := 2 * n
		if !mirrored {
			o = Options{Builder: StripesAlong, Repeats: times, Thick: thick, Step: 0.1}
			lanes = times * n
		}
		p, err := Build(bed, fibres, o)
		require.NoError(t, err)
		var of []Lay
		got := make([]float64, n)
		for _, y := range p.Layers {
			for _, v := range y.Lays {
				got[v.Component] += v.Grams
				if v.To-v.From < 1 {
					of = append(of, v)
				}
			}
		}
		for i := range got {
			assert.InDelta(t, 20, got[i], 1e-9, "every gram of %d", i)
		}
		if mirrored || len(of) != lanes {
			return // a base lies under them, or one was too narrow to be laid
		}
		at, all := 0.0, make(map[int]float64)
		for k, v := range of {
			assert.InDelta(t, at, v.From, 1e-9, "no gap before %d", k)
			at = v.To
			all[v.Component] += thick[k%len(thick)]
		}
		for k, v := range of {
			want := thick[k%len(thick)] / all[v.Component] / float64(n)
			assert.InDelta(t, want, v.To-v.From, 0.02, "the width of %d", k)
			assert.InDelta(t, 20*float64(n)*want, v.Grams, 0.2, "and its grams")
		}
	})
	for _, bad := range [][]float64{{0}, {-1}, {11}, {math.NaN()}, make([]float64, 13)} {
		_, err := Build(bed, []Fibre{{Grams: 10, StapleMM: 80, Family: "wool"}}, Options{Builder: StripesAlong, Thick: bad, Step: 0.1})
		assert.ErrorContains(t, err, "Thick and thin")
	}
}
