package weigh

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The worked plan of losses.md, section 4: 100 g of four fibres over two passes, of which all
// but the wool join at the second. Corriedale loses 2.0 %, then 2.0 × 0.6 = 1.2 %.
func TestThePlanOfALateSilkByHand(t *testing.T) {
	p, err := Make(Order{Components: []Component{
		{Share: 0.60, LossPass: 0.02, Decay: 0.6}, {Share: 0.25, LossPass: 0.02, Decay: 1, JoinsAt: 2},
		{Share: 0.12, LossPass: 0.055, Decay: 0.8, JoinsAt: 2}, {Share: 0.03, LossPass: 0.065, Decay: 1, JoinsAt: 2},
	}, Units: 1, Finished: 100, Passes: 2, Step: 0.01})
	require.NoError(t, err)
	assert.Equal(t, []int64{6197, 2551, 1270, 321}, p.Counts[0])
	assert.EqualValues(t, 10339, p.Total)
	assert.InDelta(t, 0.9682, Component{LossPass: 0.02, Decay: 0.6}.Way(2).Yield(), 5e-5)
}
