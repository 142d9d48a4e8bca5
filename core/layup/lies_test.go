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

// A hole is a millimetre wide at least and three centimetres at most.
func TestBoundsOfAHole(t *testing.T) {
	for mm, fits := range map[float64]bool{0: true, 0.99: false, 1: true, 1.05: true, 30: true, 30.1: false, -1: false} {
		assert.Equal(t, fits, Plan{Off: Off{Way: OffHole, HoleMM: mm}}.OffFault() == nil, mm)
	}
}
