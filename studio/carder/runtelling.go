package carder

import (
	"context"
	"math"
	"slices"
	"strings"

	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/core/trouble"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
)

// telling is something that is being told of a run: the entry that it makes, and what is wrong with it.
type telling struct {
	s   *Room
	ctx context.Context
	v   Run
	in  EntryInput
	e   store.RunEntry
	l   fault.List
}

// ofUnit reports whether something is told of a unit as a whole, not of a pass.
func ofUnit(what run.What, pass int) bool {
	switch what {
	case run.Count, run.Piece, run.Tick, run.Cleaned, run.Pause, run.Decided:
		return true
	case run.Note:
		return pass == 0
	}
	return false
}

// told is what can be told of a run at the carder, and what is looked at of each.
var told = map[run.What]func(*telling){
	run.In: (*telling).weight, run.Off: (*telling).weight, run.Droppings: (*telling).weight, run.Picked: (*telling).weight, run.Cloth: (*telling).weight,
	run.Piece: func(t *telling) {
		if t.e.Text = ""; t.e.Mg == 0 && len(t.l) == 0 {
			t.l.Add("grams", "Enter a weight above %s.", unit.Grams(0))
		}
	},
	run.Residue: func(t *telling) {
		if t.e.Text == "" {
			t.e.Text = string(losses.Returned)
		}
		if !slices.Contains([]losses.Residue{losses.Returned, losses.Kept, losses.Thrown}, losses.Residue(t.e.Text)) {
			t.l.Add("text", "The residue is returned, kept or thrown.")
		}
	},
	run.Step:      func(t *telling) { t.s.stepTo(&t.l, t.v, t.in, &t.e) },
	run.Specks:    func(t *telling) { t.number(0, mostSpecks, "Specks in a pinch are from %g to %g.") },
	run.Minutes:   func(t *telling) { t.number(0, mostMinutes, "Minutes are from %g to %g.") },
	run.Clearance: func(t *telling) { t.number(0, mostClearance, "The clearance lies between %g and %g mm.") },
	run.Pace:      func(t *telling) { t.number(0, mostPace, "The pace lies between %g and %g turns a minute.") },
	run.Oil:       func(t *telling) { t.number(0, mostOil, "Oil is from %g to %g %% of the weight.") },
	run.Count: func(t *telling) {
		t.number(0, mostRolls, "Count from %g to %g.")
		if t.e.Number != math.Trunc(t.e.Number) {
			t.l.Add("number", "Count whole ones.")
		}
	},
	run.Look: func(t *telling) {
		if t.e.Text != "" && !slices.Contains(carding.Looks(), carding.Look(t.e.Text)) {
			t.l.Add("text", "A look is streaky, marled, heathered or even.")
		}
	},
	run.Note: func(t *telling) { floor.CheckText(&t.l, "text", "", &t.e.Text, floor.MaxNote, false) },
	run.Tick: func(t *telling) {
		if !slices.Contains(Checks, t.e.Text) {
			t.l.Add("text", "There is no such check.")
		}
	},
	run.Photo: func(t *telling) {
		if t.number(1, math.MaxInt32, "Choose a photo."); len(t.l) == 0 {
			if _, err := t.s.shelf.Photo(t.ctx, int64(t.e.Number)); err != nil {
				t.l.Add("number", "There is no such photo.")
			}
		}
	},
	run.Apart: func(t *telling) {
		if t.e.Number = laying.Or(t.in.Number, 1); t.e.Number != 0 && t.e.Number != 1 {
			t.l.Add("number", "1 leaves it out, 0 takes it in again.")
		}
	},
	run.Cleaned: func(t *telling) { t.e.Unit, t.e.Number = 0, laying.Or(t.in.Number, 1) },
	run.Decided: func(t *telling) {
		if !t.v.Sample {
			t.l.Add("what", "This is decided of a sample.")
		}
		t.number(run.TakeIt, run.LeaveIt, "1 takes the blend, 2 changes it, 3 leaves it.")
		floor.CheckText(&t.l, "text", "", &t.e.Text, floor.MaxNote, false)
		t.e.Unit = 0
	},
	run.Helped: func(t *telling) {
		seen, cause, _ := strings.Cut(t.e.Text, " ")
		if !trouble.Is(seen, cause) {
			t.l.Add("text", "Name what was seen and the cause.")
		}
	},
	run.Pause:  func(*telling) {},
	run.Enough: (*telling).farEnough,
	run.More: func(t *telling) {
		if t.farEnough(); len(t.l) == 0 && !t.v.Equipment.Bed().Again() {
			t.l.Add("what", "What lies on a board or on cards is not carded again.")
		}
	},
}

// weight is told by its grams alone.
func (t *telling) weight() { t.e.Text = "" }

// number takes a number between two.
func (t *telling) number(least, most float64, sentence string) {
	if t.in.Number == nil || !(*t.in.Number >= least && *t.in.Number <= most) {
		t.l.Add("number", sentence, least, most)
		return
	}
	t.e.Number = *t.in.Number
}

// farEnough refuses what is told of a pass to which the unit has not come.
func (t *telling) farEnough() {
	if t.in.Pass < 1 || len(t.l) == 0 && t.in.Pass > len(t.v.State.Units[t.in.Unit].Passes) {
		t.l.Add("pass", "The unit has not come so far.")
	}
}
