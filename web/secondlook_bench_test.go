package web

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/advice"
	"fairtangle/studio/advising"
	"fairtangle/studio/shelf"
)

// All rules with their mends, over the largest making of the sample world with 200 lots on the shelf, take less than a
// tenth of the time of the page that shows them, what it asks for as it opens included.
func TestAllRulesTakeLittleOfThePage(t *testing.T) {
	c := sample(t)
	more := make([]shelf.NewLot, 170)
	for i := range more {
		more[i].LotInput = shelf.LotInput{
			Name: fmt.Sprint("lot ", i), Kind: "romney", Preparation: "combed_top",
			Colours: []shelf.LotColour{{Hex: fmt.Sprintf("#%06x", 0x102030+i*4711), Share: 1, Source: "value"}},
		}
		more[i].Grams = 100
	}
	_, err := c.s.Shelf.CreateLots(t.Context(), more, "")
	require.NoError(t, err)
	looks, err := c.s.Advising.LookFrom(t.Context(), advising.LookWhere{Place: advice.AtFibres, Making: 3})
	require.NoError(t, err)
	require.Len(t, looks, 7)
	var rules, page []time.Duration
	for range 9 {
		from := time.Now()
		for _, l := range looks {
			advice.Judge(l.Plan, nil)
		}
		rules = append(rules, time.Since(from))
		from = time.Now()
		c.page("/makings/3")
		lookAt(t, c, "at=fibres&making=3")
		page = append(page, time.Since(from))
	}
	slices.Sort(rules)
	slices.Sort(page)
	ratio := float64(rules[4]) / float64(page[4])
	t.Logf("all rules over seven blends %v, the page %v: %.3f of it", rules[4], page[4], ratio)
	assert.Less(t, ratio, 0.1)
}
