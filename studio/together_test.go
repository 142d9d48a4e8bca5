package studio

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
)

// What is weighed for several units at once is divided among those that had nothing of it yet:
// the portions add up to the reading, each lies in its unit, and no other unit gets any, also after
// single weighings, over-weighings, what was taken back, and in another order.
func TestWhatIsDividedIsWhatWasWeighed(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := t.Context()
	few(t, 30)
	n := 0
	key := func() string { n++; return fmt.Sprintf("divided-%06d", n) }
	for _, l := range lots {
		_, err := s.Shelf.Move(ctx, l.ID, shelf.MoveInput{Reason: shelf.WeighIn, Grams: 20_000})
		require.NoError(t, err)
	}
	rapid.Check(t, func(t *rapid.T) {
		w := plannedFor(t, s, m.ID, lots, rapid.IntRange(2, 6).Draw(t, "units"))
		if rapid.Bool().Draw(t, "by fibre") {
			var err error
			w, err = s.Scale.WeighBy(ctx, w.ID, w.Version, true)
			require.NoError(t, err)
		}
		t.Repeat(map[string]func(*rapid.T){
			"alone": func(t *rapid.T) {
				u, c := rapid.IntRange(0, len(w.Units)-1).Draw(t, "unit"), rapid.IntRange(0, len(w.Components)-1).Draw(t, "component")
				now, err := s.Scale.Weigh(ctx, w.ID, scale.Reading{Key: key(), Version: w.Version, Unit: u, Component: c,
					Grams: rapid.Float64Range(0.1, 40).
						Draw(t, "grams"),
					Policy: rapid.SampledFrom([]string{scale.AsIs, "keep-shares", "keep-total"}).Draw(t, "policy")})
				if err == nil {
					w = now
				}
			},
			"back": func(t *rapid.T) {
				if now, err := s.Scale.UndoWeighing(ctx, w.ID, w.Version); err == nil {
					w = now
				}
			},
			"together": func(t *rapid.T) {
				c := rapid.IntRange(0, len(w.Components)-1).Draw(t, "component")
				before := w
				reading := unit.Grams(rapid.Float64Range(0.5, 200).Draw(t, "grams")).Milligrams()
				now, parts, err := s.Scale.WeighTogether(
					ctx,
					w.ID,
					scale.Reading{Key: key(), Version: w.Version, Component: c, Grams: floor.InGrams(reading), Policy: scale.AsIs},
				)
				if err != nil {
					return // nothing was left to weigh, or too little for each
				}
				w = now
				got := map[int]unit.Milligrams{}
				var sum unit.Milligrams
				for _, p := range parts {
					got[p.Unit] += p.Mg
					sum += p.Mg
				}
				require.Equal(t, reading, sum, "%v", parts)
				for u := range w.Units {
					was, is := before.Units[u].Cells[c].WeighedG, w.Units[u].Cells[c].WeighedG
					require.InDelta(t, was+floor.InGrams(got[u]), is, 1e-9, "unit %d", u)
					if got[u] > 0 {
						require.Zero(t, was, "unit %d had some", u)
					}
				}
			},
			"": func(*rapid.T) {},
		})
	})
}
