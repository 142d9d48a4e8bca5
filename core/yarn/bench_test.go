package yarn

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// BenchmarkPlan is the yarn of a batt of seven colours, 48 g at 100 tex.
func BenchmarkPlan(b *testing.B) {
	q := ask(lanes(7, 7, 7, 7, 7, 7, 6), Strips, 7, Two)
	for b.Loop() {
		_, err := Plan(q)
		require.NoError(b, err)
	}
}
