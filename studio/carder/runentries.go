package carder

import (
	"context"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// EntryInput is one thing to be told of a run. The same key a second time tells nothing
// new. After is the entry that it takes the place of, as far as its sender knows: 0 for
// none; left out, it takes the place of whatever stands there.
type EntryInput struct {
	Key    string   `json:"key"`
	Unit   int      `json:"unit"`
	Pass   int      `json:"pass"`
	What   string   `json:"what"`
	Grams  *float64 `json:"grams"`
	Number *float64 `json:"number"`
	Text   string   `json:"text"`
	After  *int64   `json:"after"`
}

// Limits of what is told of a run.
const (
	mostMinutes   = 600
	mostClearance = 10
	mostPace      = 500
	mostSpecks    = 1000
	mostOil       = 20 // % of the weight
	mostRolls     = 200
)

// Checks are those that are ticked before hands come near pins or a drive.
var Checks = []string{"pins", "drum", "unplugged", "still", "manual"}

// Tell tells something of a run.
func (s *Room) Tell(ctx context.Context, id int64, in EntryInput) (Run, error) {
	v, err := s.Run(ctx, id)
	if err != nil {
		return Run{}, err
	}
	e, err := s.entryOf(ctx, v, in)
	if err != nil {
		return Run{}, err
	}
	row, err := s.Store.Enter(ctx, id, []store.RunEntry{e}, func(now store.Run) error {
		if in.After == nil || run.What(e.What).Several() {
			return nil
		}
		if standing(now.Told(), e) != *in.After {
			return floor.Stale{Current: now}
		}
		return nil
	})
	if err != nil {
		return Run{}, s.staleRun(ctx, err)
	}
	return s.runView(ctx, row)
}

func (s *Room) staleRun(ctx context.Context, err error) error {
	return floor.ConvertStale(err, func(r store.Run) (Run, error) { return s.runView(ctx, r) })
}

// standing is the entry that another would take the place of, 0 where there is none.
func standing(entries []run.Entry, next store.RunEntry) (id int64) {
	for _, e := range run.Standing(entries) {
		if e.Unit == next.Unit && e.Pass == next.Pass && string(e.What) == next.What {
			id = e.ID
		}
	}
	return id
}

func ownKeyed(l *fault.List, key string) {
	if len(key) < 8 || len(key) > store.LongestKey {
		l.Add("key", "An entry carries a key of 8 to %d signs that is its own.", store.LongestKey)
	}
}

// entryOf checks what is to be told.
func (s *Room) entryOf(ctx context.Context, v Run, in EntryInput) (store.RunEntry, error) {
	if v.Sort == FleeceRun {
		return s.fleeceEntry(ctx, v, in)
	}
	t := telling{s: s, ctx: ctx, v: v, in: in, e: store.RunEntry{Key: in.Key, Unit: in.Unit, Pass: in.Pass, What: in.What, Text: in.Text}}
	ownKeyed(&t.l, in.Key)
	if in.Unit < 0 || in.Unit >= len(v.State.Units) {
		t.l.Add("unit", "There is no such unit in this run.")
	}
	what := run.What(in.What)
	if ofUnit(what, in.Pass) {
		t.e.Pass = 0
	} else if in.Pass < 1 || in.Pass > losses.MaxPasses {
		t.l.Add("pass", "A pass is from 1 to %d.", losses.MaxPasses)
	}
	if what.Weights() {
		if in.Grams == nil {
			t.l.Add("grams", "Enter a weight.")
		} else {
			floor.CheckGrams(&t.l, "grams", *in.Grams)
			t.e.Mg = unit.Grams(*in.Grams).Milligrams()
		}
	}
	if check, told := told[what]; told {
		check(&t)
	} else {
		t.l.Add("what", "This is not told of a run.")
	}
	return t.e, t.l.Err()
}

// stepTo moves the work to a step of its unit.
func (s *Room) stepTo(l *fault.List, v Run, in EntryInput, e *store.RunEntry) {
	if len(*l) > 0 {
		return
	}
	steps := v.Steps(in.Unit).Steps
	if in.Number == nil || *in.Number != math.Trunc(*in.Number) || *in.Number < 0 || int(*in.Number) >= len(steps) {
		l.Add("number", "There is no such step; there are %d.", len(steps))
		return
	}
	at := steps[int(*in.Number)]
	e.Number, e.Pass, e.Text = *in.Number, at.Pass, string(at.Action)
}

// Reverse takes an entry back by another one; both stay. What it put onto the shelf is
// taken off again.
func (s *Room) Reverse(ctx context.Context, id, entry int64, key string) (Run, error) {
	var l fault.List
	ownKeyed(&l, key)
	if err := l.Err(); err != nil {
		return Run{}, err
	}
	v, err := s.Run(ctx, id)
	if err != nil {
		return Run{}, err
	}
	at := slices.IndexFunc(v.Row.Entries, func(e store.RunEntry) bool { return e.ID == entry })
	if at < 0 {
		return Run{}, floor.ErrNotFound
	}
	old := v.Row.Entries[at]
	back := store.RunEntry{Key: key, Unit: old.Unit, Pass: old.Pass, What: old.What, UndoesID: &old.ID}
	var gone []int64
	if run.What(old.What) == run.Shelved {
		gone = append(gone, int64(old.Number))
	}
	row, err := s.Store.Reverse(ctx, id, back, func(now store.Run) error {
		for _, e := range now.Entries {
			if e.UndoesID != nil && *e.UndoesID == entry {
				return fault.New("entry", "This entry was taken back already.")
			}
		}
		if old.UndoesID != nil {
			return fault.New("entry", "This entry takes another back; enter it anew instead.")
		}
		return nil
	}, gone...)
	if err != nil {
		return Run{}, err
	}
	return s.runView(ctx, row)
}

// CheckOf is the check that belongs to a caution, empty where none does.
func CheckOf(caution string) string {
	return map[string]string{
		layup.ManualFirst: "manual", layup.SharpPins: "pins", layup.MovingDrum: "drum", layup.Unplug: "unplugged", layup.StandStill: "still",
	}[caution]
}

// unitName names what comes of a unit.
func unitName(v Run, unitNo int) string {
	word := map[layup.Type]string{layup.Drum: "batt", layup.Board: "board", layup.Cards: "pair of cards", layup.Hands: "pile"}[layup.Type(v.Equipment.Type)]
	return fmt.Sprintf("%s, %s %d", v.Name, word, unitNo+1)
}

// told reports whether something was told with this key before.
func (v Run) told(key string) bool {
	return slices.ContainsFunc(v.Row.Entries, func(e store.RunEntry) bool { return e.Key == key })
}

// PhotoOfRun takes a photo of a pass in and notes it there.
func (s *Room) PhotoOfRun(ctx context.Context, id int64, in EntryInput, file string, picture io.ReadSeeker) (Run, error) {
	v, err := s.Run(ctx, id)
	if err != nil {
		return Run{}, err
	}
	var l fault.List
	ownKeyed(&l, in.Key)
	if in.Unit < 0 || in.Unit >= len(v.State.Units) {
		l.Add("unit", "There is no such unit in this run.")
	}
	if err := l.Err(); err != nil {
		return Run{}, err
	}
	if v.told(in.Key) {
		return v, nil
	}
	name := []rune(fmt.Sprintf("%s, pass %d: %s", unitName(v, in.Unit), in.Pass, strings.ToValidUTF8(file, "")))
	p, err := s.shelf.TakePicture(ctx, string(name[:min(len(name), floor.MaxName)]), picture)
	if err != nil {
		return Run{}, err
	}
	err = s.Deed(ctx, func(ctx context.Context) error {
		photo, err := s.shelf.KeepPicture(ctx, p)
		if err != nil {
			return err
		}
		number := float64(photo.ID)
		in.Number = &number
		v, err = s.Tell(ctx, id, in)
		return err
	})
	return v, err
}
