package match

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

// instances are independently computed optima: the least CIEDE2000 over all
// sets of at most so many of 60 lots, shares free.
type instances struct {
	Stash   []string
	Targets []struct {
		Lab  [3]float64
		Best map[string]float64 `json:"best_de2000_by_max_lots"`
	}
}

func load(t testing.TB) (in instances, lots []Lot) {
	data, err := os.ReadFile("testdata/instances.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(data, &in))
	for _, hex := range in.Stash {
		lots = append(lots, lotOf(t, hex))
	}
	return in, lots
}

func lotOf(t require.TestingT, hex string) Lot {
	lin, err := colour.ParseHex(hex)
	require.NoError(t, err)
	r, _ := lin.Reflectance()
	return Lot{Colour: r, Available: math.Inf(1), Most: 1, Cost: math.NaN()}
}

func TestFindMeetsTheStatedOptima(t *testing.T) {
	in, lots := load(t)
	for n, target := range in.Targets {
		for k := 1; k <= 4; k++ {
			if k == 3 && n >= 4 {
				continue // all 36,050 sets each time; four targets show it
			}
			a, err := Find(t.Context(), Query{
				Target: colour.Lab{L: target.Lab[0], A: target.Lab[1], B: target.Lab[2]}, Lots: lots, Model: mix.Default(),
				Components: k, Total: 100, Step: 0.001, Count: 5,
			})
			require.NoError(t, err)
			best := math.Inf(1)
			for _, b := range a.Blends {
				best = min(best, b.DeltaE)
			}
			want := target.Best[strconv.Itoa(k)]
			assert.LessOrEqual(t, best, want+0.02, fmt.Sprintf("target %d, %d lots", n, k))
			assert.Equal(t, k <= 3, a.Complete, "all sets up to three lots are examined")
		}
	}
}
