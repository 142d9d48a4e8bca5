package match

import (
	"context"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

// manyLots are n colours spread over the whole range.
func manyLots(n int) (out []Lot) {
	for i := range n {
		c := colour.Linear{0.02 + 0.9*math.Mod(float64(i)*0.381, 1), 0.02 + 0.9*math.Mod(float64(i)*0.617, 1), 0.02 + 0.9*math.Mod(float64(i)*0.271, 1)}
		r, _ := c.Reflectance()
		out = append(out, Lot{Colour: r, Available: math.Inf(1), Most: 1, Cost: math.NaN()})
	}
	return out
}

// TestASearchThatNobodyWaitsForEnds stops searches that would run for hours;
// how long they took to stop is in the log.
func TestASearchThatNobodyWaitsForEnds(t *testing.T) {
	target := colour.Lab{L: 45, A: 12, B: -8}
	find := Query{Target: target, Lots: manyLots(200), Model: mix.Default(), Components: 8, Total: 60, Step: 0.1, Count: 5, Thorough: true}
	dark := manyLots(1)[0].Colour
	mend := Mend{Made: 60, Colour: dark, Target: target, Lots: manyLots(200), Model: mix.Default(), Components: 4, MostAdded: 60, Step: 0.001, Count: 5}
	for name, run := range map[string]func(context.Context) error{
		"find":    func(ctx context.Context) error { _, err := Find(ctx, find); return err },
		"quick":   func(ctx context.Context) error { _, err := Quick(ctx, find); return err },
		"correct": func(ctx context.Context) error { _, _, err := Correct(ctx, mend); return err },
	} {
		ctx, cancel := context.WithTimeout(t.Context(), 3*time.Millisecond)
		began := time.Now()
		require.ErrorIs(t, run(ctx), context.DeadlineExceeded, name)
		t.Logf("%s ended %v after it was left", name, time.Since(began)-3*time.Millisecond)
		cancel()
	}
}

// TestASearchThatIsStoppedAnswers keeps what was found until then.
func TestASearchThatIsStoppedAnswers(t *testing.T) {
	q := Query{Target: colour.Lab{L: 45, A: 12, B: -8}, Lots: manyLots(200), Model: mix.Default(), Components: 4, Total: 60, Step: 1, Count: 5, Thorough: true}
	q.Watch = func(p Progress) bool { return p.Done < 2000 }
	a, err := Find(t.Context(), q)
	require.NoError(t, err)
	require.NotEmpty(t, a.Blends)
	require.False(t, a.Complete)
	require.Less(t, a.Examined, 3000)
}
