package store

import (
	"context"
	"time"

	"fairtangle/core/unit"
)

// Claim is what a kept weigh-out still wants of a lot.
type Claim struct {
	LotID    int64
	MakingID int64
	BlendID  int64
	At       time.Time
	Mg       unit.Milligrams
}

// Claims lists what the weigh-outs of makings that are not put away still want of lots.
func (s *Store) Claims(ctx context.Context) (out []Claim, err error) {
	return out, s.reading(ctx).Raw(`SELECT c.lot_id, b.making_id, b.id AS blend_id, o.created_at AS at, sum(max(0, l.target_mg - l.weighed_mg)) AS mg
		FROM weighout_cells l JOIN weighout_components c ON c.weighout_id = l.weighout_id AND c.position = l.position
		JOIN weighouts o ON o.id = l.weighout_id JOIN blends b ON b.id = o.blend_id JOIN makings m ON m.id = b.making_id
		WHERE NOT l.done AND c.lot_id IS NOT NULL AND o.deleted_at IS NULL AND b.deleted_at IS NULL AND m.deleted_at IS NULL AND m.archived_at IS NULL
		GROUP BY o.id, c.lot_id HAVING mg > 0`).Scan(&out).Error
}
