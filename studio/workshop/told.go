package workshop

import (
	"context"
	"time"

	"fairtangle/core/advice"
	"fairtangle/store"
)

// Told is what was told to a question of the second look. Of is plan (a blend), part (a component
// of a blend, named in About), lot or workshop; Value is null where it is to be told no more.
type Told struct {
	Of    string    `json:"of"`
	ID    int64     `json:"id"`
	About string    `json:"about,omitempty"`
	Key   string    `json:"key"`
	Value *float64  `json:"value"`
	At    time.Time `json:"at"`
}

// ToldOf lists what was told of some plans, parts, lots or the workshop (0), the latest first, but
// for what a day has made old.
func (s *Room) ToldOf(ctx context.Context, of string, ids ...int64) ([]Told, error) {
	rows, err := s.Store.Tellings(ctx, of, ids...)
	out := []Told{}
	for _, r := range rows {
		q, ok := advice.QuestionOf(r.Key)
		hours := time.Since(r.At).Hours()
		if !ok || q.Hours > 0 && hours > q.Hours {
			continue
		}
		v := r.Value
		if r.Key == "washed_hours_ago" {
			v += hours
		}
		out = append(out, Told{r.Of, r.OfID, r.About, r.Key, &v, r.At})
	}
	return out, err
}

// PreparedMM is to which length fibres of a blend are cut or pulled, by name, where that was told.
func (s *Room) PreparedMM(ctx context.Context, blend int64) (map[string]float64, error) {
	list, err := s.ToldOf(ctx, advice.OfPart, blend)
	out := map[string]float64{}
	for _, t := range list {
		if t.Key == "prepared_mm" && *t.Value > 0 {
			out[t.About] = *t.Value
		}
	}
	return out, err
}

// RuleBounds are the figures of rules that the maker has set.
func (s *Room) RuleBounds(ctx context.Context) (advice.Bounds, error) {
	rows, err := store.Pieces[store.RuleBound](ctx, s.Store)
	out := advice.Bounds{}
	for _, r := range rows {
		out[r.Key] = r.Value
	}
	return out, err
}
