package match

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
)

// The last number that is allowed is, and the next is not; what is wrong is named.
func TestBoundsOfASearch(t *testing.T) {
	query := func(change func(*Query)) Query {
		q := Query{Target: colour.Lab{L: 50}, Lots: []Lot{lotOf(t, "#26324a"), lotOf(t, "#e2d8c3")}, Model: mix.Default(), Components: 2, Total: 60,
			Step: 1, Count: 1}
		for i := range q.Lots {
			q.Lots[i].Most, q.Lots[i].Available, q.Lots[i].Cost = 1, math.Inf(1), math.NaN()
		}
		change(&q)
		return q
	}
	for i, c := range []struct {
		field string
		bad   bool
		q     Query
	}{
		{"count", false, query(func(q *Query) { q.Count = MaxCount })}, {"count", true, query(func(q *Query) { q.Count = MaxCount + 1 })},
		{"count", true, query(func(q *Query) { q.Count = 0 })},
		{"max_components", false, query(func(q *Query) { q.Components = MaxComponents })}, {"max_components", true, query(func(q *Query) { q.Components = 0 })},
		{"max_components", true, query(func(q *Query) { q.Components = MaxComponents + 1 })},
		{"group_least", true, query(func(q *Query) { q.GroupLeast = 1.01 })}, {"group_least", true, query(func(q *Query) { q.GroupLeast = -0.01 })},
		{"components[1].min_share", false, query(func(q *Query) { q.Lots[1].Least = 1 })},
		{"components[1].min_share", true, query(func(q *Query) { q.Lots[1].Least = -0.1 })},
		{"components[1].max_share", true, query(func(q *Query) { q.Lots[1].Most = 1.1 })},
		{"components[1].max_share", false, query(func(q *Query) { q.Lots[1].Most = 0 })},
		{"components[1].max_share", true, query(func(q *Query) { q.Lots[1].Least, q.Lots[1].Most = 0.4, 0.3 })},
		{"components[1].max_share", false, query(func(q *Query) { q.Lots[1].Least, q.Lots[1].Most = 0.4, 0.4 })},
		{"components[0].available_g", true, query(func(q *Query) { q.Lots[0].Available = -1 })},
		{"components[0].available_g", false, query(func(q *Query) { q.Lots[0].Available = 0 })},
		{"components[0].cost_per_100g", true, query(func(q *Query) { q.Lots[0].Cost = -1 })},
		{"components[0].cost_per_100g", false, query(func(q *Query) { q.Lots[0].Cost = 0 })},
		{"total_g", false, query(func(q *Query) { q.Total = 1 })}, {"total_g", true, query(func(q *Query) { q.Total = 0 })},
		{"total_g", true, query(func(q *Query) { q.Total, q.Step = 0.4, 0.9 })}, {"total_g", true, query(func(q *Query) { q.Total = 60.1 })},
		{"total_g", false, query(func(q *Query) { q.Total = MaxSteps })}, {"total_g", true, query(func(q *Query) { q.Total = MaxSteps + 1 })},
		{"step_g", false, query(func(q *Query) { q.Step, q.Total = 0.001, 1 })}, {"step_g", true, query(func(q *Query) { q.Step = 0.0009 })},
		{"step_g", false, query(func(q *Query) { q.Step, q.Total = 1000, 1000 })}, {"step_g", true, query(func(q *Query) { q.Step, q.Total = 1001, 1001 })},
	} {
		err := c.q.Check()
		if !c.bad {
			assert.NoError(t, err, "%d %s", i, c.field)
			continue
		}
		l, _ := fault.From(err)
		if assert.Len(t, l, 1, "%d %s", i, c.field) {
			assert.Equal(t, c.field, l[0].Field)
		}
	}
}

// Whom a lot serves, at the edges of grey and brown.
func TestWhatDullsWhat(t *testing.T) {
	red := colour.Lab{L: 50, A: 60, B: 30}
	at := func(l, chroma, hue float64) colour.Lab {
		return colour.Lab{L: l, A: chroma * math.Cos(hue*math.Pi/180), B: chroma * math.Sin(hue*math.Pi/180)}
	}
	opposite := red.Hue() + 180
	for i, c := range []struct {
		way    string
		lot    colour.Lab
		serves bool
	}{
		{Grey, at(50, 9.99, 40), true}, {Grey, at(50, 10.01, 40), false},
		{Complement, at(50, 30, opposite), true}, {Complement, at(50, 30, opposite+49.9), true}, {Complement, at(50, 30, opposite-49.9), true},
		{Complement, at(50, 30, opposite+50.1), false}, {Complement, at(50, 30, opposite-50.1), false}, {Complement, at(50, 9.9, opposite), false},
		{Brown, at(54.9, 20, 60), true}, {Brown, at(55.1, 20, 60), false}, {Brown, at(40, 39.9, 60), true}, {Brown, at(40, 40.1, 60), false},
		{Brown, at(40, 9.9, 60), false}, {Brown, at(40, 20, 30.1), true}, {Brown, at(40, 20, 29.9), false}, {Brown, at(40, 20, 94.9), true}, {Brown, at(40,
			20, 95.1), false},
	} {
		assert.Equal(t, c.serves, serves(c.way, red, c.lot), "%d %s %+v", i, c.way, c.lot)
	}
	for _, drop := range []float64{0, 1, -0.1, math.NaN()} {
		_, err := Dull(lotOf(t, "#c4452c").Colour, drop, nil, mix.Default())
		assert.ErrorContains(t, err, "drop", "%v", drop)
	}
	out, err := Dull(lotOf(t, "#c4452c").Colour, 0.3, []Lot{lotOf(t, "#8a8a88"), lotOf(t, "#77787a")}, mix.Default())
	require.NoError(t, err)
	assert.GreaterOrEqual(t, out[1].Lot, 0)
	for i := range 2 { // the one that is taken keeps the lightness and hue best
		alone, err := Dull(lotOf(t, "#c4452c").Colour, 0.3, []Lot{lotOf(t, []string{"#8a8a88", "#77787a"}[i])}, mix.Default())
		require.NoError(t, err)
		assert.LessOrEqual(t, out[1].DeltaE, alone[1].DeltaE+1e-9)
	}
}
