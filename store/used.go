package store

import (
	"context"

	"fairtangle/core/unit"
)

// Used is what was weighed, and not taken back, of a component of a blend. Name
// is set where it is no lot.
type Used struct {
	BlendID int64
	LotID   int64
	OnlyHex string
	Name    string
	Mg      unit.Milligrams
}

// UsedFor adds up what was weighed for blends, by component; samples are no part of them.
func (s *Store) UsedFor(ctx context.Context, blends []int64) (out []Used, err error) {
	return out, s.reading(ctx).Raw(`SELECT o.blend_id, coalesce(c.lot_id, 0) AS lot_id, c.only_hex, CASE WHEN c.lot_id IS NULL THEN c.name ELSE '' END AS name,
			sum(w.grams_mg) AS mg
		FROM weighings w JOIN weighouts o ON o.id = w.weighout_id
		JOIN weighout_components c ON c.weighout_id = w.weighout_id AND c.position = w.position
		WHERE w.undone_at IS NULL AND o.deleted_at IS NULL AND NOT o.sample AND o.blend_id IN ? GROUP BY 1, 2, 3, 4`, blends).Scan(&out).Error
}

// usedColours adds up what was weighed of single colours of lots, picked out.
func (s *Store) usedColours(ctx context.Context, lots []int64) (out []Used, err error) {
	return out, s.reading(ctx).Raw(`SELECT c.lot_id, c.only_hex, sum(w.grams_mg) AS mg
		FROM weighings w JOIN weighout_components c ON c.weighout_id = w.weighout_id AND c.position = w.position
		WHERE w.undone_at IS NULL AND c.only_hex <> '' AND c.lot_id IN ? GROUP BY 1, 2`, lots).Scan(&out).Error
}

// Left is what is left of a lot; of one of its colours, its part of the lot
// before single colours were taken out, less what was taken out of it.
func (l Lot) Left(only string) unit.Milligrams {
	if only == "" {
		return l.GramsMg
	}
	var part, sum float64
	for _, c := range l.Colours {
		sum += c.Share
		if c.Hex == only {
			part = c.Share
		}
	}
	whole := l.GramsMg
	for _, mg := range l.usedOf {
		whole += mg
	}
	if sum == 0 {
		return l.GramsMg
	}
	left := unit.Milligrams(float64(whole)*part/sum+0.5) - l.usedOf[only]
	return min(max(left, 0), l.GramsMg)
}
