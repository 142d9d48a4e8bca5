package demo

import (
	"context"
	"fmt"

	stages "fairtangle/core/fleece"
	"fairtangle/studio"
	"fairtangle/studio/carder"
	"fairtangle/studio/scale"
)

// fillRuns rolls the cuffs of the mitts off the board and puts them onto the shelf, and has
// this year's fleece half done.
func fillRuns(ctx context.Context, s *studio.Studio, cuffs, layup, making, raw int64) error {
	if err := rollCuffs(ctx, s, cuffs, layup); err != nil {
		return fmt.Errorf("roll the cuffs: %w", err)
	}
	if err := prepareFleece(ctx, s, making, raw); err != nil {
		return fmt.Errorf("prepare the fleece: %w", err)
	}
	return nil
}

// teller tells a run one thing after the other, each with a key of its own.
type teller struct {
	s   *studio.Studio
	run int64
	n   int
	err error
}

func (t *teller) key() string {
	t.n++
	return fmt.Sprintf("sample-run-%d-%d", t.run, t.n)
}

func (t *teller) tell(ctx context.Context, unit, pass int, what string, in carder.EntryInput) {
	if t.err != nil {
		return
	}
	in.Key, in.Unit, in.Pass, in.What = t.key(), unit, pass, what
	_, t.err = t.s.Carder.Tell(ctx, t.run, in)
}

func value(v float64) *float64 { return &v }

func rollCuffs(ctx context.Context, s *studio.Studio, blend, layup int64) error {
	w, err := s.Scale.CreateWeighout(ctx, blend, scale.WeighoutInput{Name: "Cuffs, one board", Units: 1, FinishedG: 28, Passes: 1, StepG: 0.1, LayupID: &layup})
	if err != nil {
		return err
	}
	for i := 0; w.Next != nil; i++ {
		at := *w.Next
		w, err = s.Scale.Weigh(ctx, w.ID, scale.Reading{
			Key: fmt.Sprintf(
				"sample-cuffs-%d",
				i,
			), Version: w.Version, Unit: at.Unit, Component: at.Component, Grams: w.Units[at.Unit].Cells[at.Component].TargetG,
		})
		if err != nil {
			return err
		}
	}
	v, err := s.Carder.StartRun(ctx, w.ID, carder.StartRun{})
	if err != nil {
		return err
	}
	t := &teller{s: s, run: v.ID}
	t.tell(ctx, 0, 1, "step", carder.EntryInput{Number: value(float64(len(v.Steps(0).Steps) - 1))})
	t.tell(ctx, 0, 0, "count", carder.EntryInput{Number: value(3)})
	for _, g := range []float64{9.2, 9.0, 8.8} {
		t.tell(ctx, 0, 0, "piece", carder.EntryInput{Grams: value(g)})
	}
	t.tell(ctx, 0, 1, "droppings", carder.EntryInput{Grams: value(0.3)})
	t.tell(ctx, 0, 1, "look", carder.EntryInput{Text: "streaky"})
	t.tell(ctx, 0, 1, "minutes", carder.EntryInput{Number: value(18)})
	t.tell(ctx, 0, 1, "note", carder.EntryInput{Text: "The locks kept clear of the cuts."})
	if t.err != nil {
		return t.err
	}
	_, err = s.Carder.Shelve(ctx, v.ID, carder.ShelfInput{Key: "sample-cuffs-shelf", Unit: 0, Form: "rolags", Name: "Cuff rolags", Count: 3})
	return err
}

func prepareFleece(ctx context.Context, s *studio.Studio, making, raw int64) error {
	v, err := s.Carder.StartFleece(ctx, raw, making)
	if err != nil {
		return err
	}
	t := &teller{s: s, run: v.ID}
	if _, err := s.Carder.TakeRaw(ctx, v.ID, carder.EntryInput{Key: t.key(), Grams: value(2400)}); err != nil {
		return err
	}
	t.tell(ctx, 0, stages.Skirted, "off", carder.EntryInput{Grams: value(2080)})
	for i, p := range []struct {
		name, hex     string
		sorted, dried float64
	}{{"grey back", "#958a7c", 1120, 790}, {"dark side", "#50463d", 560, 0}, {"coarse britch", "#a39a8c", 370, 0}} {
		t.tell(ctx, i+1, 0, "part", carder.EntryInput{Text: p.name})
		t.tell(ctx, i+1, 0, "hex", carder.EntryInput{Text: p.hex})
		t.tell(ctx, i+1, stages.Sorted, "off", carder.EntryInput{Grams: value(p.sorted)})
		if p.dried > 0 {
			t.tell(ctx, i+1, stages.Washed, "look", carder.EntryInput{})
			t.tell(ctx, i+1, stages.Dried, "off", carder.EntryInput{Grams: value(p.dried)})
		}
	}
	t.tell(ctx, 2, stages.Washed, "look", carder.EntryInput{})
	for _, check := range []string{"cuts", "vm"} {
		t.tell(ctx, 0, 0, "tick", carder.EntryInput{Text: check})
	}
	return t.err
}
