package store

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
)

// TestASecondSendBooksNothing sends movements under keys, some of them again:
// the lot holds what the first of each key booked.
func TestASecondSendBooksNothing(t *testing.T) {
	s := open(t)
	rapid.Check(t, func(t *rapid.T) {
		ctx := t.Context()
		l := lot(t, s, "a", 50_000)
		holds := unit.Milligrams(50_000)
		first := map[string]Movement{}
		for range rapid.IntRange(1, 12).Draw(t, "sends") {
			key := fmt.Sprintf("lot %d, %s", l.ID, rapid.SampledFrom([]string{"one", "two", "three"}).Draw(t, "key"))
			m := Movement{LotID: l.ID, DeltaMg: unit.Milligrams(rapid.IntRange(1, 3).Draw(t, "mg")), Reason: WeighIn}
			got, err := s.AddMovement(ctx, m, key)
			before, again := first[key]
			switch {
			case again && before.DeltaMg != m.DeltaMg:
				require.ErrorContains(t, err, "other content")
			case again:
				require.NoError(t, err)
				require.Equal(t, before.ID, got.ID)
			default:
				require.NoError(t, err)
				first[key] = got
				holds += m.DeltaMg
			}
		}
		now, err := s.Lot(ctx, l.ID)
		require.NoError(t, err)
		require.Equal(t, holds, now.GramsMg)
	})
}

func TestWhatWasUndoneIsNotBookedAgain(t *testing.T) {
	s := open(t)
	l := lot(t, s, "a", 50_000)
	m, err := s.CountTo(t.Context(), l.ID, 47_000, "counted", "the key")
	require.NoError(t, err)
	_, err = s.UndoMovement(t.Context(), l.ID, m.ID)
	require.NoError(t, err)
	_, err = s.CountTo(t.Context(), l.ID, 47_000, "counted", "the key")
	require.ErrorContains(t, err, "undone since")
	now, err := s.Lot(t.Context(), l.ID)
	require.NoError(t, err)
	assert.Equal(t, unit.Milligrams(50_000), now.GramsMg)
}

func TestAFileComesInOnce(t *testing.T) {
	s := open(t)
	file := func() []Lot {
		return []Lot{{Name: "a", Colours: []Colour{}, GramsMg: 5000}, {Name: "b", Colours: []Colour{}}}
	}
	made, err := s.CreateLots(t.Context(), file(), "", "the key")
	require.NoError(t, err)
	assert.Len(t, made, 2)
	again, err := s.CreateLots(t.Context(), file(), "", "the key")
	require.NoError(t, err)
	assert.Empty(t, again)
	_, err = s.CreateLots(t.Context(), file()[:1], "", "the key")
	require.ErrorContains(t, err, "other content")
	_, n, err := s.Lots(t.Context(), LotFilter{})
	require.NoError(t, err)
	assert.EqualValues(t, 2, n)
	drift, err := s.Drift(t.Context())
	require.NoError(t, err)
	assert.Empty(t, drift)
}
