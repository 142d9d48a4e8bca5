package studio

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"fairtangle/studio/scale"
)

// BenchmarkWeighing is one weighing, from the call until it is on disk and the weigh-out is
// worked out anew, beside one write of a page to this disk that is synced.
func BenchmarkWeighing(b *testing.B) {
	s, lots, m := shelfOf(b)
	w := planned(b, s, m.ID, lots)
	i := 0
	for b.Loop() {
		var err error
		i++
		w, err = s.Scale.Weigh(b.Context(), w.ID, scale.Reading{Key: fmt.Sprintf("bench-%06d", i), Version: w.Version, Grams: 1, Policy: scale.AsIs})
		require.NoError(b, err)
		b.StopTimer()
		w, err = s.Scale.UndoWeighing(b.Context(), w.ID, w.Version)
		require.NoError(b, err)
		b.StartTimer()
	}
}

func BenchmarkWeighingFloor(b *testing.B) {
	f, err := os.Create(filepath.Join(b.TempDir(), "page"))
	require.NoError(b, err)
	defer f.Close()
	page := make([]byte, 4096)
	for b.Loop() {
		_, err := f.Write(page)
		require.NoError(b, err)
		require.NoError(b, f.Sync())
	}
}
