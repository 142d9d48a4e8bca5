package advice

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is added from the shelf ends what it is for and makes no further stop, is the least whole percent that does, never
// more than there is, leaves what is locked, and all shares are 1.
func TestWoolOfTheShelfEndsWhatThePlanCanNot(t *testing.T) {
	r := rand.New(rand.NewPCG(17, 5))
	have := 30.0
	romney := Stocked{Fibre: of("romney", 0), Lot: 7}
	romney.HaveG = &have
	shelf := func() []Stocked { return []Stocked{romney} }
	added := map[string]int{}
	for range 1500 {
		q := anyPlan(r)
		q.Layers, q.Shelf = nil, shelf
		before := Judge(q, nil)
		for _, f := range before.Findings {
			m := f.Mend
			if m == nil || m.Verb != "add" {
				continue
			}
			added[f.Rule]++
			require.EqualValues(t, 7, m.Add)
			require.False(t, judged(m.After, nil).has(f), f.Rule)
			require.LessOrEqual(t, judged(m.After, nil).Stops(), before.Stops())
			n, sum := len(q.Fibres), 0.0
			require.Len(t, m.After.Fibres, n+1)
			for i, v := range m.After.Fibres {
				sum += v.Share
				if i < n && v.Locked {
					require.InDelta(t, q.Fibres[i].Share, v.Share, 1e-12)
				}
			}
			require.InDelta(t, 1, sum, 1e-9)
			share := m.After.Fibres[n].Share
			require.LessOrEqual(t, share*q.TotalG, have+1e-9)
			if share > 0.015 {
				less, ok := q.with(romney, share-0.01)
				require.True(t, ok)
				now := judged(less, nil)
				assert.True(t, now.has(f) || now.Stops() > before.Stops(), "%s: %g %% would have done", f.Rule, 100*share-1)
			}
			assert.True(t, strings.HasPrefix(m.Preview.String(), "Add "), m.Preview)
		}
	}
	t.Logf("added: %v", added)
	assert.Positive(t, added["R09"])
	assert.Positive(t, added["R13"])
}
