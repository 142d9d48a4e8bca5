package run

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/losses"
	"fairtangle/core/unit"
)

func mg(g float64) unit.Milligrams { return unit.Grams(g).Milligrams() }

// told numbers entries and sets them a minute apart.
func told(list ...Entry) []Entry {
	for i := range list {
		list[i].ID, list[i].At = int64(i+1), int64(i)*60_000
	}
	return list
}

// The worked batt of the loss table: 40.0 in, 37.9 off, 0.5 residue put back, 0.2 in the
// cloth, 0.9 droppings, 0.1 picked leave 0.4 g: 3.56 % of what went through.
func TestTheWorkedBatt(t *testing.T) {
	s := Read(told(
		Entry{Pass: 1, What: Off, Mg: mg(37.9)}, Entry{Pass: 1, What: Residue, Mg: mg(0.5), Text: "returned"}, Entry{Pass: 1, What: Cloth, Mg: mg(0.2)},
		Entry{Pass: 1, What: Droppings, Mg: mg(0.9)}, Entry{Pass: 1, What: Picked, Mg: mg(0.1)},
	), 1, 1)
	l := s.Units[0].Line([]unit.Milligrams{mg(40)}, mg(1.5), nil)
	assert.Equal(t, mg(0.4), l.Rest)
	assert.Equal(t, mg(38.4), l.Off, "with what was put back onto it")
	assert.False(t, l.Guessed, "the cloth was weighed")
	require.Len(t, l.Stretches, 1)
	assert.InDelta(t, 0.0356, l.Stretches[0].Rate, 5e-5)
	assert.True(t, l.Stretches[0].Learn)
}

// A forgotten batt is asked about, and nothing is learned from it.
func TestAForgottenBattIsAskedAbout(t *testing.T) {
	s := Read(told(Entry{Pass: 1, What: Off, Mg: mg(20)}), 1, 1)
	l := s.Units[0].Line([]unit.Milligrams{mg(40)}, 0, nil)
	assert.False(t, l.Stretches[0].Learn)
	assert.Contains(t, l.Stretches[0].Ask, losses.ForgottenBatt)
}

// Oil that was put on weighs with the fibre: 40 g with 2 % of it are 40.8 g, and what comes off at 40 g has lost 0.8 g.
func TestOilWeighsWithTheFibre(t *testing.T) {
	s := Read(told(Entry{Pass: 1, What: Oil, Number: 2}, Entry{Pass: 1, What: Off, Mg: mg(40)}, Entry{Pass: 2, What: Oil, Number: 0.5}, Entry{Pass: 2, What: Off, Mg: mg(39.5)}), 1, 2)
	l := s.Units[0].Line([]unit.Milligrams{mg(40)}, 0, nil)
	assert.Equal(t, []unit.Milligrams{mg(41), mg(1), mg(1.5)}, []unit.Milligrams{l.In, l.Oil, l.Rest})
	assert.Equal(t, []unit.Milligrams{mg(40.8), mg(40.2)}, []unit.Milligrams{l.Stretches[0].In, l.Stretches[1].In})
	assert.InDelta(t, 0.7, l.Stretches[1].Loss, 1e-9)
}

var weights = []What{In, Off, Residue, Droppings, Picked, Cloth, Oil}

func drawEntries(t *rapid.T, units, passes int) (list []Entry) {
	for i := range rapid.IntRange(0, 25).Draw(t, "entries") {
		e := Entry{
			ID: int64(i + 1), At: int64(i) * 60_000, Unit: rapid.IntRange(0, units-1).Draw(t, "unit"), Pass: rapid.IntRange(1, passes).Draw(t, "pass"),
			What: rapid.SampledFrom(weights).Draw(t, "what"), Mg: unit.Milligrams(rapid.Int64Range(0, 60_000).Draw(t, "mg")),
		}
		if e.What == Oil {
			e.Mg, e.Number = 0, rapid.Float64Range(0, 20).Draw(t, "oil")
		}
		if e.What == Residue {
			e.Text = rapid.SampledFrom([]string{"", "returned", "kept", "thrown"}).Draw(t, "back")
		}
		if i > 0 && rapid.IntRange(0, 4).Draw(t, "undo") == 0 {
			e.Undoes = rapid.Int64Range(1, int64(i)).Draw(t, "which")
		}
		list = append(list, e)
	}
	return list
}

func (l Line) sum() unit.Milligrams {
	return l.Off + l.Kept + l.Thrown + l.Droppings + l.Picked + l.Cloth + l.Between + l.Rest + l.Open
}

// Whatever was told, in whatever order, the line balances to the milligram; so does the
// whole of all units.
func TestTheMassLineBalances(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		units, passes := rapid.IntRange(1, 3).Draw(t, "units"), rapid.IntRange(1, 4).Draw(t, "passes")
		s := Read(drawEntries(t, units, passes), units, passes)
		var lines []Line
		for _, u := range s.Units {
			joins := make([]unit.Milligrams, passes)
			for i := range joins {
				joins[i] = unit.Milligrams(rapid.Int64Range(0, 50_000).Draw(t, "joins"))
			}
			l := u.Line(joins, 1500, nil)
			require.Equal(t, l.In, l.sum())
			lines = append(lines, l)
		}
		all := Whole(lines)
		require.Equal(t, all.In, all.sum())
	})
}

// Where every pass was weighed, what is not accounted for is the sum of that of the
// stretches, and they follow each other without a gap.
func TestStretchesCoverTheRun(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		passes := rapid.IntRange(1, 4).Draw(t, "passes")
		var list []Entry
		left := rapid.Int64Range(30_000, 60_000).Draw(t, "in")
		in := left
		for p := 1; p <= passes; p++ {
			lost := rapid.Int64Range(0, 2_000).Draw(t, "lost")
			dropped := rapid.Int64Range(0, lost).Draw(t, "dropped")
			left -= lost
			list = append(list, Entry{Pass: p, What: Droppings, Mg: unit.Milligrams(dropped)})
			if p == passes || rapid.Bool().Draw(t, "weighed") {
				list = append(list, Entry{Pass: p, What: Off, Mg: unit.Milligrams(left)})
			}
		}
		l := Read(told(list...), 1, passes).Units[0].Line([]unit.Milligrams{unit.Milligrams(in)}, 0, nil)
		var rest float64
		next := 1
		for _, s := range l.Stretches {
			require.Equal(t, next, s.First)
			rest, next = rest+s.Unaccounted, s.Last+1
		}
		require.Equal(t, passes+1, next)
		require.InDelta(t, float64(l.Rest.Grams()), rest, 1e-9)
		require.Equal(t, unit.Milligrams(left), l.Off)
	})
}

// Taking an entry back leaves what stood before it; both are kept.
func TestACounterEntryBringsBackWhatStood(t *testing.T) {
	list := told(Entry{Pass: 1, What: Off, Mg: mg(58)}, Entry{Pass: 1, What: Off, Mg: mg(85)}, Entry{Pass: 1, What: Off, Undoes: 2})
	got, ok := Read(list, 1, 1).Units[0].OffAtLast()
	assert.True(t, ok)
	assert.Equal(t, mg(58), got)
	list = told(append(list, Entry{Pass: 1, What: Off, Undoes: 1})...)
	_, ok = Read(list, 1, 1).Units[0].OffAtLast()
	assert.False(t, ok)
}

// The clock: two minutes at pass 1, none before it began, none in a pause, none over a
// power cut of an hour; what was corrected counts instead.
func TestTheClock(t *testing.T) {
	at := func(minute float64, e Entry) Entry {
		e.At = int64(minute * 60_000)
		return e
	}
	list := []Entry{
		at(0, Entry{Pass: 1, What: Step, Text: "ready"}),
		at(5, Entry{Pass: 1, What: Step, Number: 1, Text: "lay"}),
		at(7, Entry{Pass: 1, What: Pause}),
		at(27, Entry{Pass: 1, What: Step, Number: 2, Text: "lift"}),
		at(28, Entry{Pass: 1, What: Off, Mg: mg(50)}),
		at(90, Entry{Pass: 2, What: Step, Number: 3, Text: "divide"}),
		at(93, Entry{Pass: 2, What: Step, Number: 4, Text: "finish"}),
		at(99, Entry{Pass: 2, What: Off, Mg: mg(49)}),
	}
	for i := range list {
		list[i].ID = int64(i + 1)
	}
	s := Read(list, 1, 2)
	p := s.Units[0].Passes
	assert.InDelta(t, 180, p[0].Seconds, 1e-9)
	assert.True(t, p[0].Stood)
	assert.InDelta(t, 180, p[1].Seconds, 1e-9)
	assert.False(t, p[1].Stood)
	list = append(list, at(100, Entry{ID: 9, Pass: 1, What: Minutes, Number: 14}))
	p = Read(list, 1, 2).Units[0].Passes
	assert.InDelta(t, 14*60, p[0].Seconds, 1e-9)
	assert.True(t, p[0].Typed)
}

// Minutes of all passes are never more than went by.
func TestTheClockNeverRunsFasterThanTime(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var list []Entry
		now := int64(0)
		for i := range rapid.IntRange(1, 20).Draw(t, "n") {
			now += rapid.Int64Range(0, 90*60_000).Draw(t, "gap")
			e := Entry{ID: int64(i + 1), At: now, Unit: rapid.IntRange(0, 1).Draw(t, "unit"), Pass: rapid.IntRange(1, 2).Draw(t, "pass"), Text: "lay"}
			e.What = rapid.SampledFrom([]What{Step, Pause, Note}).Draw(t, "what")
			list = append(list, e)
		}
		var sum float64
		for _, u := range Read(list, 2, 2).Units {
			for _, p := range u.Passes {
				sum += p.Seconds
			}
		}
		require.LessOrEqual(t, sum, float64(now)/1000+1e-6)
	})
}

// Another pass, or enough: as decided last; what was told of a pass is never cut off.
func TestHowManyPasses(t *testing.T) {
	n := func(list ...Entry) int { return len(Read(told(list...), 1, 2).Units[0].Passes) }
	assert.Equal(t, 2, n())
	assert.Equal(t, 3, n(Entry{Pass: 2, What: More}))
	assert.Equal(t, 1, n(Entry{Pass: 1, What: Enough}))
	assert.Equal(t, 2, n(Entry{Pass: 1, What: Enough}, Entry{Pass: 1, What: More}))
	assert.Equal(t, 2, n(Entry{Pass: 2, What: Off, Mg: 1}, Entry{Pass: 1, What: Enough}))
	assert.Equal(t, 2, n(Entry{Pass: 2, What: More, Unit: 1}), "another unit")
}

func TestAnother(t *testing.T) {
	q := func(change func(*Question)) Answer {
		v := Question{School: FewPasses, Specks: MakeSpecks, Pass: 2, Planned: 2, Seen: Unknown, Now: 1, Next: 2, Goal: 1, SpecksNow: Unknown, SpecksBefore: Unknown}
		change(&v)
		return Another(v)
	}
	for _, c := range []struct {
		name   string
		change func(*Question)
		more   bool
	}{
		{"all done", func(*Question) {}, false},
		{"one to go", func(v *Question) { v.Pass = 1 }, true},
		{"silk waits", func(v *Question) { v.Joins = true }, true},
		{"less even than planned", func(v *Question) { v.Seen = 0 }, true},
		{"less even after three", func(v *Question) { v.Seen, v.Pass = 0, 3 }, false},
		{"one pass, school", func(v *Question) { v.School, v.Planned, v.Pass = OnePass, 1, 1 }, false},
		{"one pass, but two planned", func(v *Question) { v.School, v.Pass = OnePass, 1 }, true},
		{"until the look: not yet", func(v *Question) { v.School, v.Seen, v.Goal = UntilLook, 1, 2 }, true},
		{"until the look: there", func(v *Question) { v.School, v.Seen, v.Goal = UntilLook, 2, 2 }, false},
		{"what she sees goes before the forecast", func(v *Question) { v.School, v.Seen, v.Now, v.Goal = UntilLook, 1, 3, 2 }, true},
		{"specks rise", func(v *Question) { v.School, v.Seen, v.Goal, v.SpecksNow, v.SpecksBefore = UntilLook, 0, 2, 5, 3 }, false},
		{"specks rise, to be picked", func(v *Question) {
			v.School, v.Seen, v.Goal, v.SpecksNow, v.SpecksBefore, v.Specks = UntilLook, 0, 2, 5, 3, ShowSpecks
		}, true},
	} {
		a := q(c.change)
		assert.Equal(t, c.more, a.More, c.name)
		assert.NotEmpty(t, a.Why, c.name)
	}
}

// Three rolags weighed one by one are what came off; of two of three nothing is known yet;
// what was weighed as a whole goes before.
func TestRolagsOneByOne(t *testing.T) {
	list := []Entry{{What: Count, Number: 3}, {What: Piece, Mg: mg(7.1)}, {What: Piece, Mg: mg(6.9)}}
	_, ok := Read(told(list...), 1, 1).Units[0].OffAtLast()
	assert.False(t, ok)
	list = append(list, Entry{What: Piece, Mg: mg(7.4)})
	off, _ := Read(told(list...), 1, 1).Units[0].OffAtLast()
	assert.Equal(t, mg(21.4), off)
	off, _ = Read(told(append(list, Entry{Pass: 1, What: Off, Mg: mg(21.3)})...), 1, 1).Units[0].OffAtLast()
	assert.Equal(t, mg(21.3), off)
}

// What came off was not weighed, but went in again with 3 g that joined: it was what went in less those.
func TestWhatWentInAgainTellsWhatCameOff(t *testing.T) {
	s := Read(told(Entry{Pass: 2, What: In, Mg: mg(41)}, Entry{Pass: 2, What: Off, Mg: mg(40)}), 1, 2)
	l := s.Units[0].Line([]unit.Milligrams{mg(40), mg(3)}, mg(5), nil)
	require.Len(t, l.Stretches, 2)
	assert.InDelta(t, 2.0/40, l.Stretches[0].Rate, 1e-9, "40 went in, and 38 of the 41 came of it")
	assert.InDelta(t, 1.0/41, l.Stretches[1].Rate, 1e-9)
	assert.Equal(t, mg(3), l.Rest)
}

// The first moment of a run is one.
func TestAUnitBeganAtTheFirstMoment(t *testing.T) {
	assert.True(t, Unit{At: 0}.Began())
	assert.False(t, Unit{At: -1}.Began())
}
