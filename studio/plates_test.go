package studio

import (
	"context"
	"encoding/json"
	"fmt"
	"net"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/plate"
	"fairtangle/device"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/workshop"
)

// speaking names a simulated scale in the workshop and gives its pan.
func speaking(t *testing.T, s *Studio, step, capacity float64) (*device.Pan, workshop.Scale) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	p := device.NewPan(step, capacity, 5, time.Now)
	ctx, stop := context.WithCancel(context.Background())
	t.Cleanup(stop)
	go func() { _ = p.Serve(ctx, l) }()
	v, err := s.Workshop.SaveScale(
		t.Context(),
		workshop.Scale{Name: fmt.Sprintf("scale of %g g", step), Address: l.Addr().String(), StepG: step, CapacityG: capacity},
	)
	require.NoError(t, err)
	return p, v
}

// shows waits until a window sees what is wanted.
func shows(t *testing.T, w *scale.Window, what string, is func(scale.PlateState) bool) scale.PlateState {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	defer cancel()
	for {
		v, ok := w.Next(ctx)
		require.True(t, ok, "%s; last it showed %+v", what, v)
		if is(v) {
			return v
		}
	}
}

// changed does one thing at a place.
func changed(s *Studio, id int64, window string, c scale.PlateChange) error {
	_, err := s.Scale.ChangePlate(context.Background(), id, window, c)
	return err
}

func phase(p plate.Phase) func(scale.PlateState) bool {
	return func(v scale.PlateState) bool { return v.Heard && v.Phase == p }
}

// TestAPlaceAtTheScale: the first window weighs, the second looks on and takes over; what
// is booked counts as nothing in the bowl, also where it is sent twice; undo brings it back.
func TestAPlaceAtTheScale(t *testing.T) {
	s, lots, m := shelfOf(t)
	w := planned(t, s, m.ID, lots)
	pan, its := speaking(t, s, 0.1, 500)
	ctx := t.Context()
	mine, err := s.Scale.WatchPlace(ctx, w.ID, "window-one", "The computer")
	require.NoError(t, err)
	defer mine.Close()
	require.NoError(t, changed(s, w.ID, "window-one", scale.PlateChange{Verb: "first"}))
	first := shows(t, mine, "an empty pan", phase(plate.Nothing))
	assert.Equal(t, its.ID, first.ScaleID)
	assert.Equal(t, &scale.Cell{Unit: 0, Component: 0}, first.At)
	wanted := w.Units[0].Cells[0].TargetG
	assert.InDelta(t, wanted, float64(first.Left.Grams()), 1e-9)

	other, err := s.Scale.WatchPlace(ctx, w.ID, "window-two", "The phone")
	require.NoError(t, err)
	shows(t, other, "the same", func(v scale.PlateState) bool { return v.Heard && v.Holder == "window-one" && v.Watching == 2 })
	assert.ErrorAs(t, changed(s, w.ID, "window-two", scale.PlateChange{Verb: "tare"}), &scale.ErrHeld{})
	in := scale.Reading{Key: "plate-000001", Version: w.Version, Unit: 0, Component: 0, Grams: wanted, Window: "window-two", Live: true}
	_, err = s.Scale.Weigh(ctx, w.ID, in)
	require.ErrorAs(t, err, &scale.ErrHeld{})
	_, _, err = s.Scale.WeighTogether(ctx, w.ID, in)
	require.ErrorAs(t, err, &scale.ErrHeld{})

	pan.Put(wanted)
	ready := shows(t, mine, "ready", phase(plate.Ready))
	in.Window, in.Grams = "window-one", floor.InGrams(ready.Net)
	w, err = s.Scale.Weigh(ctx, w.ID, in)
	require.NoError(t, err)
	for range 2 {
		_, err = s.Scale.Weigh(ctx, w.ID, in)
		require.NoError(t, err)
	}
	next := shows(t, other, "the next, from nothing", func(v scale.PlateState) bool { return v.Version == w.Version && v.Heard })
	assert.Equal(t, &scale.Cell{Unit: 0, Component: 1}, next.At)
	assert.InDelta(t, 0, float64(next.Net.Grams()), 0.11)
	w, err = s.Scale.UndoWeighing(ctx, w.ID, w.Version)
	require.NoError(t, err)
	back := shows(t, mine, "it lies there still", func(v scale.PlateState) bool { return v.Version == w.Version && v.Heard })
	assert.InDelta(t, wanted, float64(back.Net.Grams()), 0.11)

	require.NoError(t, changed(s, w.ID, "window-two", scale.PlateChange{Verb: "hold"}))
	shows(t, mine, "taken over", func(v scale.PlateState) bool { return v.HeldBy == "The phone" })
	require.ErrorAs(t, changed(s, w.ID, "window-one", scale.PlateChange{Verb: "at", Unit: 1}), &scale.ErrHeld{})
	require.NoError(t, changed(s, w.ID, "window-two", scale.PlateChange{Verb: "at", Unit: 1, Component: 1}))
	shows(t, mine, "elsewhere", func(v scale.PlateState) bool { return *v.At == scale.Cell{Unit: 1, Component: 1} })
	for _, c := range []scale.PlateChange{{Verb: "fly"}, {Verb: "at", Unit: 9}, {Verb: "mode", Text: "bucket"}, {Verb: "put", Grams: -1}, {Verb: "scale", ScaleID: 99}} {
		assert.Error(t, changed(s, w.ID, "window-two", c), c.Verb)
	}
	assert.Error(t, changed(s, w.ID, "nobody here", scale.PlateChange{Verb: "tare"}))
	other.Close()
	_, err = s.Scale.Weigh(ctx, w.ID, scale.Reading{Key: "program-0001", Version: w.Version, Unit: 0, Component: 0, Grams: wanted})
	require.NoError(t, err, "programs have no window")
	s.Scale.Hush()
	_, ok := mine.Next(ctx)
	for ok {
		_, ok = mine.Next(ctx)
	}
}

// TestTheScaleThatSuits: the finest that takes all of the bowl; too coarse for a pinch, it
// says which one is not.
func TestTheScaleThatSuits(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := t.Context()
	speaking(t, s, 0.01, 20)
	_, coarse := speaking(t, s, 1, 5000)
	b, err := s.Recipe.CreateBlend(
		ctx,
		m.ID,
		recipe.BlendInput{Name: "b", TotalG: 60, Passes: 1, Components: []recipe.BlendComponent{{LotID: &lots[0].ID, Parts: 59},
			{LotID: &lots[1].ID, Parts: 1}}},
	)
	require.NoError(t, err)
	w, err := s.Scale.CreateWeighout(ctx, b.ID, scale.WeighoutInput{Units: 1, FinishedG: 60, Passes: 1, StepG: 0.1})
	require.NoError(t, err)
	watch, err := s.Scale.WatchPlace(ctx, w.ID, "window-one", "The computer")
	require.NoError(t, err)
	defer watch.Close()
	v := shows(t, watch, "the coarse one", func(v scale.PlateState) bool { return v.Heard })
	assert.Equal(t, coarse.ID, v.ScaleID)
	assert.False(t, v.FineNot)
	require.NoError(t, changed(s, w.ID, "window-one", scale.PlateChange{Verb: "at", Component: 1}))
	v = shows(t, watch, "a pinch", func(v scale.PlateState) bool { return v.At.Component == 1 })
	assert.True(t, v.FineNot)
	assert.Equal(t, "scale of 0.01 g", v.Better)
	changes, err := s.Scale.ChangePlate(ctx, w.ID, "window-one", scale.PlateChange{Verb: "mode", Text: "dishes"})
	require.NoError(t, err)
	assert.Greater(t, changes, v.Changes, "what was shown before is older than the choice")
	v = shows(t, watch, "in a dish", func(v scale.PlateState) bool { return v.Heard && v.Scale == "scale of 0.01 g" })
	assert.GreaterOrEqual(t, v.Changes, changes)
	assert.Equal(t, plate.Dishes, v.Mode)
	assert.False(t, v.FineNot)
	elsewhere, moved := speaking(t, s, 2, 900)
	elsewhere.Put(40)
	fine := *mustScale(t, s, v.ScaleID)
	fine.Address = moved.Address
	_, err = s.Workshop.SaveScale(ctx, fine)
	require.NoError(t, err)
	require.NoError(t, changed(s, w.ID, "window-one", scale.PlateChange{Verb: "scale", ScaleID: fine.ID}))
	shows(t, watch, "it stands elsewhere now", func(v scale.PlateState) bool { return v.Heard && v.Gross == 40_000 })
	require.NoError(t, changed(s, w.ID, "window-one", scale.PlateChange{Verb: "scale", ScaleID: -1}))
	shows(t, watch, "none", func(v scale.PlateState) bool { return v.ScaleID == 0 && !v.Auto })

	none, suits := workshop.Suits(nil, 5)
	assert.Nil(t, none)
	assert.False(t, suits)
}

func mustScale(t *testing.T, s *Studio, id int64) *workshop.Scale {
	v, err := s.Workshop.OneScale(t.Context(), id)
	require.NoError(t, err)
	return &v
}

// TestWeighedOnceForAllUnits: the parts are those of the whole, in steps of the scale; sent
// again it is booked once; far off it is asked about.
func TestWeighedOnceForAllUnits(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := t.Context()
	w := planned(t, s, m.ID, lots)
	before, err := s.Shelf.Lot(ctx, lots[0].ID)
	require.NoError(t, err)
	all, units := w.TogetherG(0)
	assert.Equal(t, 2, units)
	assert.InDelta(t, w.Components[0].TotalG, all, 1e-9)
	in := scale.Reading{Key: "together-001", Version: w.Version, Component: 0, Grams: all + 5}
	_, _, err = s.Scale.WeighTogether(ctx, w.ID, in)
	require.ErrorContains(t, err, "5 g more than all of them want")
	in.Grams = all + 0.1
	w, _, err = s.Scale.WeighTogether(ctx, w.ID, in)
	require.NoError(t, err)
	kept(t, s, w)
	again, _, err := s.Scale.WeighTogether(ctx, w.ID, in)
	require.NoError(t, err)
	assert.Equal(t, w.Version, again.Version)
	assert.InDelta(t, all+0.1, w.Units[0].Cells[0].WeighedG+w.Units[1].Cells[0].WeighedG, 1e-9)
	assert.True(t, w.Units[0].Cells[0].Done && w.Units[1].Cells[0].Done)
	after, err := s.Shelf.Lot(ctx, lots[0].ID)
	require.NoError(t, err)
	assert.InDelta(t, before.Grams-all-0.1, after.Grams, 1e-9)
	_, _, err = s.Scale.WeighTogether(ctx, w.ID, scale.Reading{Key: "together-002", Version: w.Version, Component: 0, Grams: 5})
	require.ErrorContains(t, err, "has some of this already")
	for _, in := range []scale.Reading{{Key: "short"}, {Key: "together-003", Component: 1}, {Key: "together-003", Component: 1, Grams: -1}} {
		in.Version = w.Version
		_, _, err = s.Scale.WeighTogether(ctx, w.ID, in)
		require.Error(t, err)
	}
	w, err = s.Scale.TakeBack(ctx, w.ID, w.Version, scale.Cell{Unit: 1, Component: 0})
	require.NoError(t, err)
	assert.False(t, w.Units[1].Cells[0].Done)
	assert.True(t, w.Units[0].Cells[0].Done)
	kept(t, s, w)
}

// kept fails where what was answered is not what is on disk.
func kept(t *testing.T, s *Studio, w scale.Weighout) {
	t.Helper()
	now, err := s.Scale.Weighout(t.Context(), w.ID)
	require.NoError(t, err)
	want, err := json.Marshal(now)
	require.NoError(t, err)
	got, err := json.Marshal(w)
	require.NoError(t, err)
	assert.JSONEq(t, string(want), string(got))
}

// TestOneBagAfterTheOther: in either order every place comes once; by fibre each bag is
// opened once.
func TestOneBagAfterTheOther(t *testing.T) {
	s, lots, m := shelfOf(t)
	w := planned(t, s, m.ID, lots)
	assert.Equal(t, 6, w.BagChanges)
	w, err := s.Scale.WeighBy(t.Context(), w.ID, w.Version, true)
	require.NoError(t, err)
	assert.True(t, w.ByFibre)
	assert.Equal(t, 3, w.BagChanges)
	kept(t, s, w)
	assert.Equal(
		t,
		[]scale.Cell{
			{Unit: 0, Component: 0},
			{Unit: 1, Component: 0},
			{Unit: 0, Component: 1},
			{Unit: 1, Component: 1},
			{Unit: 0, Component: 2},
			{Unit: 1, Component: 2},
		},
		w.Order(),
	)
	w, err = s.Scale.Weigh(t.Context(), w.ID, scale.Reading{Key: "by-fibre-01", Version: w.Version, Grams: w.Units[0].Cells[0].TargetG})
	require.NoError(t, err)
	assert.Equal(t, &scale.Cell{Unit: 1, Component: 0}, w.Next)
	_, err = s.Scale.WeighBy(t.Context(), w.ID, w.Version-1, false)
	assert.ErrorAs(t, err, &floor.Stale{})
}

// Who has read a weigh-out before a weighing and comes to the place after it brings nothing back:
// windows that look on still see the weighing.
func TestAPlaceNeverGoesBack(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := t.Context()
	old := planned(t, s, m.ID, lots)
	watch, err := s.Scale.WatchPlace(ctx, old.ID, "window-one", "The computer")
	require.NoError(t, err)
	defer watch.Close()
	now, err := s.Scale.Weigh(ctx, old.ID, scale.Reading{Key: "never-back-1", Version: old.Version, Grams: old.Units[0].Cells[0].TargetG})
	require.NoError(t, err)
	s.Scale.BroughtOn(ctx, old, nil, nil) // late
	v := shows(t, watch, "the weighing", func(v scale.PlateState) bool { return v.Version == now.Version })
	assert.Equal(t, now.Next, v.At)
}
