package demo

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/studio/shelf"
)

// The sample world is what it says: about thirty lots, three makings, one of
// them half weighed, and nothing in it that a maker would find wrong.
func TestTheSampleWorld(t *testing.T) {
	dir := t.TempDir()
	ctx := context.Background()
	for range 2 { // made anew each time
		require.NoError(t, Clear(dir))
		db, err := store.Open(dir, time.Now)
		require.NoError(t, err)
		s, err := studio.New(ctx, db)
		require.NoError(t, err)
		require.NoError(t, Fill(ctx, s))
		shelf, err := s.Shelf.Shelf(ctx, shelf.LotFilter{})
		require.NoError(t, err)
		assert.InDelta(t, 35, shelf.Total, 3)
		makings, err := s.Recipe.Makings(ctx, false)
		require.NoError(t, err)
		require.Len(t, makings, 4)
		assert.Equal(t, "Tide Table throw", makings[0].Name)
		for _, m := range makings {
			blends, err := s.Recipe.BlendsOf(ctx, m.ID)
			require.NoError(t, err)
			assert.NotEmpty(t, blends, m.Name)
			for _, b := range blends {
				require.NotNil(t, b.LargestG, b.Name)
				assert.GreaterOrEqual(t, *b.LargestG, b.TotalG, "%s can be made from the shelf", b.Name)
				assert.Less(t, b.Sigma, 8.0, b.Name)
				if b.Target != nil {
					assert.Less(t, b.Target.DeltaE, 2.5, "%s reaches the colour it is for", b.Name)
				}
			}
		}
		w, err := s.Scale.Weighout(ctx, 1)
		require.NoError(t, err)
		assert.False(t, w.Done())
		assert.Greater(t, w.DoneCells, 0)
		assert.Less(t, w.WorstShare, 0.002)
		drift, err := db.Drift(ctx)
		require.NoError(t, err)
		assert.Empty(t, drift)
		require.NoError(t, db.Close())
	}
}
