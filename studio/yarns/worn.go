package yarns

import (
	"cmp"
	"context"
	"slices"
	"time"

	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// How a yarn is after it has been in use: asked of a skein that is a month old, and told where yarn of like fibre is foretold.

// WornAfter is when it is asked how a skein has worn.
const WornAfter = 30 * 24 * time.Hour

// WornWords are how much it sheds, pills or stands off.
var WornWords = []string{"", "no", "some", "much"}

// checkWorn looks over how it wore; nothing told is nothing kept.
func checkWorn(l *fault.List, in **Worn, today time.Time) {
	w := *in
	if w == nil || w.Sheds == "" && w.Pills == "" && w.Halo == "" && w.Note == "" {
		*in = nil
		return
	}
	for field, v := range map[string]string{"later.sheds": w.Sheds, "later.pills": w.Pills, "later.halo": w.Halo} {
		if !slices.Contains(WornWords, v) {
			l.Add(field, "Say no, some or much.")
		}
	}
	floor.CheckText(l, "later.note", "", &w.Note, floor.MaxNote, false)
	if w.On == "" {
		w.On = today.Format(time.DateOnly)
	}
	if _, err := time.Parse(time.DateOnly, w.On); err != nil {
		l.Add("later.on", "Write the day as 2026-05-04.")
	}
}

// Unworn lists skeins that are a month old, and of which nobody has said yet how they wore; the oldest first.
func (s *Room) Unworn(ctx context.Context) (out []Skein, err error) {
	rows, err := store.Pieces[store.Skein](ctx, s.Store, "created_at <= ?", s.Store.Now().Add(-WornAfter))
	for _, r := range rows {
		if r.Told.Later == nil {
			out = append(out, skeinOf(r))
		}
	}
	floor.InOrder(out, func(a, b Skein) int { return cmp.Compare(a.ID, b.ID) })
	return out, err
}

// WornSkein is a skein of like fibre that has been in use: Like is the part of the fibre that is the same.
type WornSkein struct {
	ID   int64
	Name string
	Like float64
	Worn
}

// Skeins of like fibre: from which part on they count, and how many are told of.
const (
	likeFrom  = 0.5
	mostAlike = 3
)

// worn finds skeins in use of like fibre as a blend, the nearest first: a skein is of one of the blends of its making, or of all.
func (s *Room) worn(ctx context.Context, b recipe.Blend) (out []WornSkein, err error) {
	rows, err := store.LatestPieces[store.Skein](ctx, s.Store, 10*shownFrom)
	if err != nil {
		return nil, err
	}
	of, mine := map[int64][]map[string]float64{}, kindsOf(b)
	for _, r := range rows {
		if r.Told.Later == nil {
			continue
		}
		if of[r.MakingID] == nil {
			blends, err := s.recipe.BlendsOf(ctx, r.MakingID)
			if err != nil {
				return nil, err
			}
			of[r.MakingID] = []map[string]float64{kindsOf(blends...)}
			for _, v := range blends {
				of[r.MakingID] = append(of[r.MakingID], kindsOf(v))
			}
		}
		like := 0.0
		for _, kinds := range of[r.MakingID] {
			same := 0.0
			for k, share := range kinds {
				same += min(share, mine[k])
			}
			like = max(like, same)
		}
		if like >= likeFrom {
			out = append(out, WornSkein{r.ID, r.Name, like, *r.Told.Later})
		}
	}
	floor.InOrder(out, func(a, b WornSkein) int { return cmp.Compare(b.Like, a.Like) })
	return out[:min(len(out), mostAlike)], nil
}

// kindsOf is the part of each kind of fibre in blends, by weight.
func kindsOf(blends ...recipe.Blend) map[string]float64 {
	out, all := map[string]float64{}, 0.0
	for _, b := range blends {
		for _, c := range b.Components {
			out[c.Fibre.Key] += c.Grams
			all += c.Grams
		}
	}
	for k := range out {
		out[k] /= max(all, 1e-9)
	}
	return out
}
