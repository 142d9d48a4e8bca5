package advising

import (
	"context"
	"errors"
	"slices"
	"time"

	"fairtangle/core/advice"
	"fairtangle/core/run"
	"fairtangle/store"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// toldByRun takes what a run showed so far: the last specks that were counted, and what its batts
// weigh.
func toldByRun(p *advice.Plan, v carder.Run) {
	for _, u := range v.State.Units {
		for _, pass := range u.Passes {
			if e, ok := pass.Facts[run.Specks]; ok {
				n := int(e.Number)
				p.Told.Specks = &n
			}
		}
		if mg, ok := u.OffAtLast(); ok {
			p.Told.BattsG = append(p.Told.BattsG, floor.InGrams(mg))
		}
	}
}

// sampled reports whether some of a blend was carded already: a sample was weighed out, a batt of it came off, or the colour
// that it had was recorded.
func (s *Room) sampled(ctx context.Context, b recipe.Blend, list []recipe.WeighoutRow) (bool, error) {
	var ids []int64
	for _, w := range list {
		if w.Sample {
			return true, nil
		}
		ids = append(ids, w.ID)
	}
	off, err := s.Store.CameOff(ctx, ids)
	if err != nil {
		return false, err
	}
	for _, n := range off {
		if n > 0 {
			return true, nil
		}
	}
	rows, err := store.Pieces[store.Sample](ctx, s.Store, "blend_id = ?", b.ID)
	return len(rows) > 0, err
}

// runsRead is how many of the latest runs on a piece of equipment the second look reads.
const runsRead = 40

// toldByCloth takes what lay on the equipment before: how light the last blend was that another
// run carded on it, whether that sheds, and whether the cloth was cleaned since.
func (s *Room) toldByCloth(ctx context.Context, b recipe.Blend, equipment int64, at *carder.Run, p *advice.Plan) error {
	rows, err := s.Store.RunsOn(ctx, equipment, runsRead)
	if err != nil {
		return err
	}
	until := time.Now().UTC()
	if at != nil {
		until = at.Row.CreatedAt
		if at.Clean() {
			yes := true
			p.Told.Cleaned = &yes
		}
	}
	var last *store.Run
	for i, r := range rows {
		if last == nil && r.CreatedAt.Before(until) {
			last = &rows[i]
		}
	}
	if last == nil || last.WeighoutID == nil {
		return nil
	}
	w, err := s.Store.Weighout(ctx, *last.WeighoutID)
	if err != nil || w.BlendID == b.ID {
		return ignoreGone(err)
	}
	before, err := s.recipe.Blend(ctx, w.BlendID)
	if err != nil {
		return ignoreGone(err)
	}
	sheds := false
	for _, c := range before.Components {
		dots := c.Fibre.Role == "texture" && c.Preparation != "locks"
		sheds = sheds || c.Fibre.Family == "sparkle" || dots || c.Fibre.Key == "dog_down"
	}
	light := before.Lab[0]
	p.Told.BeforeL, p.Told.BeforeShed = &light, &sheds
	end := last.Entries[len(last.Entries)-1].At
	cleaned, err := s.carder.CleaningsOf(ctx, equipment)
	if slices.ContainsFunc(cleaned, func(c store.Cleaning) bool { return c.At.After(end) && c.At.Before(until) }) {
		yes := true
		p.Told.Cleaned = &yes
	}
	return err
}

// ignoreGone passes an error on but for that of what is not there any more.
func ignoreGone(err error) error {
	if errors.Is(err, floor.ErrNotFound) {
		return nil
	}
	return err
}
