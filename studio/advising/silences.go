package advising

import (
	"context"
	"maps"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// Silence is a rule that is not to be spoken of, in a making or, where that is 0, for good.
type Silence struct {
	ID       int64  `json:"id"`
	Rule     string `json:"rule"`
	MakingID int64  `json:"making_id"`
	Reason   string `json:"reason"`
}

func silenceOf(r store.Silence) Silence { return Silence{r.ID, r.Rule, r.MakingID, r.Reason} }

// Silences lists the rules that are not spoken of, the latest first.
func (s *Room) Silences(ctx context.Context) ([]Silence, error) {
	return workshop.PiecesAs(ctx, s.workshop, silenceOf)
}

// AddSilence has a rule be quiet.
func (s *Room) AddSilence(ctx context.Context, in Silence) (Silence, error) {
	var l fault.List
	t, ok := advice.TextOf(in.Rule)
	if !ok {
		l.Add("rule", "There is no such rule.")
	}
	floor.CheckText(&l, "reason", "why it is not spoken of", &in.Reason, floor.MaxFew, true)
	if in.MakingID != 0 {
		if _, err := s.recipe.Making(ctx, in.MakingID); err != nil {
			l.Add("making_id", "There is no such making.")
		}
	}
	if err := l.Err(); err != nil {
		return in, err
	}
	row, err := store.AddPiece(ctx, s.Store, store.Silence{Name: t.ID + " " + t.Key, Rule: in.Rule, MakingID: in.MakingID, Reason: in.Reason})
	return silenceOf(row), err
}

// SetRuleBounds sets figures of rules.
func (s *Room) SetRuleBounds(ctx context.Context, in map[string]float64) error {
	var l fault.List
	usual := advice.Defaults()
	for key, v := range in {
		if _, ok := usual[key]; !ok {
			l.Add(key, "There is no such figure.")
		}
		if !(v >= 0 && v <= 1e6) {
			l.Add(key, "A figure is from 0 to a million.")
		}
	}
	if err := l.Err(); err != nil {
		return err
	}
	return s.Deed(ctx, func(ctx context.Context) error {
		rows, err := store.Pieces[store.RuleBound](ctx, s.Store)
		if err != nil {
			return err
		}
		for _, key := range slices.Sorted(maps.Keys(in)) {
			row := store.RuleBound{Key: key, Value: in[key]}
			if at := slices.IndexFunc(rows, func(r store.RuleBound) bool { return r.Key == key }); at >= 0 {
				row.Base = rows[at].Base
			}
			if _, err := store.PutPiece(ctx, s.Store, row); err != nil {
				return err
			}
		}
		return nil
	})
}
