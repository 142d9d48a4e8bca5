package piles

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

func draw(t *rapid.T) []Scrap {
	out := make([]Scrap, rapid.IntRange(2, 24).Draw(t, "n"))
	for i := range out {
		out[i] = Scrap{
			Colour: colour.Lab{L: rapid.Float64Range(10, 90).Draw(t, "L"), A: rapid.Float64Range(-50, 50).Draw(t, "a"), B: rapid.Float64Range(-50, 50).Draw(t, "b")},
			Grams:  rapid.Float64Range(0.5, 30).Draw(t, "grams"),
		}
	}
	return out
}

// names tells piles apart by what is in them, whatever the order.
func names(s Sorted, name func(int) int) (out [][]int) {
	for _, p := range s.Piles {
		var g []int
		for _, i := range p.Scraps {
			g = append(g, name(i))
		}
		slices.Sort(g)
		out = append(out, g)
	}
	slices.SortFunc(out, slices.Compare)
	return out
}

func TestSortingDoesNotDependOnTheOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		scraps := draw(t)
		k := rapid.SampledFrom([]int{0, 2, 3, 4, 6}).Draw(t, "k")
		first, err := Sort(t.Context(), scraps, k)
		require.NoError(t, err)
		order := make([]int, len(scraps))
		for i := range order {
			order[i] = i
		}
		order = rapid.Permutation(order).Draw(t, "order")
		shuffled := make([]Scrap, len(scraps))
		for i, o := range order {
			shuffled[i] = scraps[o]
		}
		second, err := Sort(t.Context(), shuffled, k)
		require.NoError(t, err)
		assert.Equal(t, names(first, func(i int) int { return i }), names(second, func(i int) int { return order[i] }))
		assert.Len(t, second.Astray, len(first.Astray))
	})
}

func TestEveryScrapLiesInOnePile(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		scraps := draw(t)
		k := rapid.IntRange(2, 6).Draw(t, "k")
		s, err := Sort(t.Context(), scraps, k)
		require.NoError(t, err)
		seen := map[int]int{}
		for _, p := range s.Piles {
			require.Contains(t, p.Scraps, p.Middle)
			inStories := 0
			for _, g := range p.Stories {
				inStories += len(g)
			}
			require.Contains(t, []int{0, len(p.Scraps)}, inStories)
			for _, i := range p.Scraps {
				seen[i]++
			}
		}
		require.Len(t, seen, len(scraps))
		for i, n := range seen {
			require.Equal(t, 1, n, "scrap %d", i)
		}
		assert.LessOrEqual(t, len(s.Piles), k)
	})
}

func TestFamiliesThatAnyoneSees(t *testing.T) {
	lab := func(hex string) colour.Lab {
		c, err := colour.ParseHex(hex)
		require.NoError(t, err)
		return c.Lab()
	}
	var scraps []Scrap
	for _, hex := range []string{"#3f5f8a", "#4a6b99", "#35507a", "#b5533a", "#c26a4a", "#a8472f", "#e6dfcf", "#f0eadc", "#30ff50"} {
		scraps = append(scraps, Scrap{lab(hex), 5})
	}
	scraps[8].Grams = 0.4
	s, err := Sort(t.Context(), scraps, 3)
	require.NoError(t, err)
	assert.Equal(t, []int{8}, s.Astray, "a bright green fits nowhere")
	whole := names(s, func(i int) int { return i })
	assert.Contains(t, whole, []int{0, 1, 2})
	assert.Contains(t, whole, []int{3, 4, 5})

	one := Describe(scraps[:6], [][]int{{0, 1, 2, 3, 4, 5}})
	require.Len(t, one.Piles, 1)
	assert.ElementsMatch(t, [][]int{{2, 0, 1}, {5, 3, 4}}, one.Piles[0].Stories, "a blue and a red story")

	auto, err := Sort(t.Context(), scraps[:8], 0)
	require.NoError(t, err)
	assert.Len(t, auto.Piles, 3)
}

// The colours that stand for others are among them, all different, and no
// exchange of one of them for another colour serves better.
func TestMedoidsCanNotBeBettered(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		colours := draw(t)
		k := rapid.IntRange(1, 4).Draw(t, "k")
		m := Medoids(t.Context(), colours, k)
		require.Len(t, m, min(k, len(colours)))
		c := newCluster(colours)
		value := c.total(m)
		stands := map[int]float64{}
		for i, v := range colours {
			stands[c.nearest(i, m)] += v.Grams
		}
		for i := range m {
			if i > 0 {
				require.GreaterOrEqual(t, stands[m[i-1]], stands[m[i]], "what stands for most comes first")
			}
			require.NotContains(t, m[:i], m[i])
			for other := range colours {
				if slices.Contains(m, other) {
					continue
				}
				swapped := slices.Clone(m)
				swapped[i] = other
				require.GreaterOrEqual(t, c.total(swapped), value-1e-6)
			}
		}
	})
}

func TestWrongBags(t *testing.T) {
	one := []Scrap{{colour.Lab{L: 50}, 3}}
	two := append(one, Scrap{colour.Lab{L: 60}, 0})
	for want, err := range map[string]error{
		"scraps: There are 2 to 300 scraps to sort.":                       second(Sort(t.Context(), one, 2)),
		"scraps[1].grams: A scrap weighs above 0 g and at most 1000000 g.": second(Sort(t.Context(), two, 2)),
		"piles: Scraps are sorted into 2 to 6 piles.":                      second(Sort(t.Context(), []Scrap{one[0], one[0]}, 7)),
	} {
		assert.EqualError(t, err, want)
	}
}

func second(_ Sorted, err error) error { return err }
