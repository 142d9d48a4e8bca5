package store

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func telling(of string, id int64, key string) Telling { return Telling{Of: of, OfID: id, Key: key} }

func ptr(v float64) *float64 { return &v }

// A telling takes the place of the one before, gives it back, and is told no more where it is nil; of a list all or none.
func TestTellingsTakeEachOthersPlace(t *testing.T) {
	now := time.Date(2026, 3, 1, 8, 0, 0, 0, time.UTC)
	s, err := Open(t.TempDir(), func() time.Time { return now })
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	ctx := t.Context()
	before, err := s.Tell(ctx, []Telling{telling("lot", 1, "damp"), telling("lot", 1, "washed_hours_ago"), telling("lot", 2, "damp")}, []*float64{ptr(1), ptr(3), ptr(0)})
	require.NoError(t, err)
	assert.Equal(t, []*float64{nil, nil, nil}, before)
	now = now.Add(time.Hour)
	before, err = s.Tell(ctx, []Telling{telling("lot", 1, "damp")}, []*float64{ptr(0)})
	require.NoError(t, err)
	assert.Equal(t, []*float64{ptr(1)}, before)
	list, err := s.Tellings(ctx, "lot", 1)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, "damp", list[0].Key, "the latest first")
	assert.Zero(t, list[0].Value)
	assert.True(t, now.Equal(list[0].At))
	list, err = s.Tellings(ctx, "lot", 1, 2)
	require.NoError(t, err)
	assert.Len(t, list, 3)
	list, err = s.Tellings(ctx, "plan", 1)
	require.NoError(t, err)
	assert.Empty(t, list, "of a plan nothing was told")
	before, err = s.Tell(ctx, []Telling{telling("lot", 1, "damp"), telling("lot", 9, "damp")}, []*float64{nil, nil})
	require.NoError(t, err)
	assert.Equal(t, []*float64{ptr(0), nil}, before)
	list, err = s.Tellings(ctx, "lot", 1, 9)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "washed_hours_ago", list[0].Key)
}

// Parts of a plan are told apart by what they are called.
func TestPartsAreToldApart(t *testing.T) {
	s, err := Open(t.TempDir(), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	one, two := telling("part", 4, "prepared_mm"), telling("part", 4, "prepared_mm")
	one.About, two.About = "flax", "silk"
	_, err = s.Tell(t.Context(), []Telling{one, two}, []*float64{ptr(100), ptr(80)})
	require.NoError(t, err)
	list, err := s.Tellings(t.Context(), "part", 4)
	require.NoError(t, err)
	assert.Len(t, list, 2)
}
