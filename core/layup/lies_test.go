package layup

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestHowFibreLies: what is rolled lies round, what is drawn off along, and crosswise only what is flat.
func TestHowFibreLies(t *testing.T) {
	for _, v := range []struct {
		bed  Type
		off  Off
		want Lie
	}{
		{Drum, Off{}, Along}, {Drum, Off{Crossed: true}, Crossed}, {Drum, Off{Way: OffRolags, Crossed: true}, Round}, {Drum, Off{Way: OffHole, Crossed: true}, Along},
		{Drum, Off{Way: OffMini, Crossed: true}, Crossed}, {Board, Off{}, Round}, {Board, Off{Way: OffHole}, Along}, {Cards, Off{}, Round},
		{Cards, Off{Way: OffPunis}, Round}, {Hands, Off{}, Along}, {Hands, Off{Crossed: true}, Crossed},
	} {
		assert.Equal(t, v.want, Plan{Off: v.off}.LieOf(Bed{Type: v.bed}), "%+v", v)
	}
}
