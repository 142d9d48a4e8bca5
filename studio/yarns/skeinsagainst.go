package yarns

import (
	"context"
	"errors"
	"math"

	"fairtangle/core/yarn"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Against is what the skeins of a making are beside its need.
type Against struct {
	LengthM float64 `json:"length_m"` // of all of them
	WeightG float64 `json:"weight_g"`
	NeedM   float64 `json:"need_m"` // 0: no length is needed
	NeedG   float64 `json:"need_g"`
	Told    bool    `json:"told"`   // there is a need to meet
	Enough  bool    `json:"enough"` // it is met, in length where that is told
	SpareM  float64 `json:"spare_m"`
	SpareG  float64 `json:"spare_g"`
}

// AgainstNeed compares skeins with a need. A skein whose length was not measured counts by its
// weight and the others' grist, or the need's.
func AgainstNeed(list []Skein, n *Need) (a Against) {
	var long, heavy float64
	for _, k := range list {
		if k.LengthM > 0 && k.WeightG > 0 {
			long, heavy = long+k.LengthM, heavy+k.WeightG
		}
	}
	grist := yarn.GristOf(long, heavy)
	if n != nil && grist == 0 {
		grist = n.Grist
	}
	for _, k := range list {
		l, g := k.LengthM, k.WeightG
		if l <= 0 {
			l = g * grist / 100
		}
		if g <= 0 && grist > 0 {
			g = 100 * l / grist
		}
		a.LengthM, a.WeightG = a.LengthM+l, a.WeightG+g
	}
	if n == nil || !n.Enough || n.Way != NeedWays[0] {
		return a
	}
	a.Told, a.NeedM, a.NeedG = true, n.Length, n.YarnG
	a.SpareM, a.SpareG = a.LengthM-a.NeedM, a.WeightG-a.NeedG
	if a.NeedM > 0 {
		a.Enough = a.SpareM >= 0
	} else {
		a.Enough = a.SpareG >= 0
	}
	return a
}

// Shown is what the maker's own skeins and samples have shown, as parts of 1, and how many did.
type Shown struct {
	Mean map[string]float64 `json:"mean"` // waste_pct, finishing_pct, take_up_pct, shrinkage_pct
	N    map[string]int     `json:"n"`
}

func (v Shown) or(field string, usual float64) float64 {
	if v.N[field] == 0 {
		return usual
	}
	return v.Mean[field]
}

// shownFrom is how many of the latest skeins and samples count.
const shownFrom = 20

// ShownBySkeins are the means of what the latest skeins and samples showed.
func (s *Room) ShownBySkeins(ctx context.Context) (Shown, error) {
	out := Shown{map[string]float64{}, map[string]int{}}
	skeins, err := store.LatestPieces[store.Skein](ctx, s.Store, shownFrom)
	if err != nil {
		return out, err
	}
	samples, err := store.LatestPieces[store.YarnSample](ctx, s.Store, shownFrom)
	if err != nil {
		return out, err
	}
	add := func(list ...Showed) {
		for _, v := range list {
			for field, p := range map[string]*float64{"waste_pct": v.WastePct, "finishing_pct": v.FinishingPct, "take_up_pct": v.TakeUpPct,
				"shrinkage_pct": v.ShrinkagePct} {
				if p != nil && out.N[field] < shownFrom && !math.IsNaN(*p) {
					out.Mean[field] += *p / 100
					out.N[field]++
				}
			}
		}
	}
	for _, r := range skeins {
		add(skeinOf(r).Showed)
	}
	for _, r := range samples {
		add(yarnSampleOf(r).Showed)
	}
	for field, n := range out.N {
		out.Mean[field] /= float64(n)
	}
	return out, nil
}

// MeasuredGrist is the grist that the sample that was liked, or else the latest that was measured,
// has after washing; 0 where none was.
func MeasuredGrist(list []YarnSample) (grist float64, of string) {
	for _, v := range list {
		if v.GristM > 0 && (grist == 0 || v.Liked) {
			grist, of = v.GristM, v.Name
			if v.Liked {
				return grist, of
			}
		}
	}
	return grist, of
}

// SkeinsAgainst compares the skeins of a making with its need.
func (s *Room) SkeinsAgainst(ctx context.Context, making int64) (Against, error) {
	list, err := s.SkeinsOf(ctx, making)
	if err != nil {
		return Against{}, err
	}
	n, err := s.NeedOf(ctx, making)
	switch {
	case errors.Is(err, floor.ErrNotFound):
		return AgainstNeed(list, nil), nil
	case err != nil:
		return Against{}, err
	}
	return AgainstNeed(list, &n), nil
}
