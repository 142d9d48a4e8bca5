package store

import (
	"context"
	"database/sql"
	"time"

	"fairtangle/core/unit"
)

// Claim is what a kept weigh-out still wants of a lot.
type Claim struct {
	LotID    int64
	MakingID int64
	Making   string
	BlendID  int64
	At       time.Time
	Mg       unit.Milligrams
}

// Claims lists what the weigh-outs of makings that are not put away still want of lots; of all lots
// where none is named.
func (s *Store) Claims(ctx context.Context, lots []int64) (out []Claim, err error) {
	q := s.reading(ctx).Table("weighout_cells l").
		Select("c.lot_id, b.making_id, m.name AS making, b.id AS blend_id, o.created_at AS at, sum(max(0, l.target_mg - l.weighed_mg)) AS mg").
		Joins("JOIN weighout_components c ON c.weighout_id = l.weighout_id AND c.position = l.position").
		Joins("JOIN weighouts o ON o.id = l.weighout_id JOIN blends b ON b.id = o.blend_id JOIN makings m ON m.id = b.making_id").
		Where("NOT l.done AND o.deleted_at IS NULL AND b.deleted_at IS NULL AND m.deleted_at IS NULL AND m.archived_at IS NULL").
		Group("o.id, c.lot_id").Having("mg > 0")
	if lots == nil {
		q = q.Where("c.lot_id IS NOT NULL")
	} else {
		q = q.Where("c.lot_id IN ?", lots)
	}
	return out, q.Scan(&out).Error
}

// NeedsOfLots lists the needs of makings that are not put away whose blends hold one of these lots, or
// that want a lot whole, with the names of their makings; all needs where lots is nil.
func (s *Store) NeedsOfLots(ctx context.Context, lots []int64) (out []Need, names map[int64]string, err error) {
	q := s.reading(ctx).Where("making_id IN (SELECT id FROM makings WHERE deleted_at IS NULL AND archived_at IS NULL)")
	if lots != nil {
		q = q.Where(`making_id IN (SELECT b.making_id FROM blend_components c JOIN blends b ON b.id = c.blend_id WHERE c.lot_id IN ? AND b.deleted_at IS NULL)
			OR CASE WHEN json_valid(plan) THEN json_extract(plan, '$.lot_id') END IN ?`, lots, lots)
	}
	if err := q.Order("id").Find(&out).Error; err != nil {
		return out, nil, err
	}
	makings := make([]int64, len(out))
	for i, n := range out {
		makings[i] = n.MakingID
	}
	var list []Making
	err = s.reading(ctx).Select("id", "name").Where("id IN ?", makings).Find(&list).Error
	names = map[int64]string{}
	for _, m := range list {
		names[m.ID] = m.Name
	}
	return out, names, err
}

// BlendsWithoutNeed lists the blends of makings at work that have no need, which hold one of these lots; all of them where lots is nil.
func (s *Store) BlendsWithoutNeed(ctx context.Context, lots []int64) (out []Blend, err error) {
	q := s.reading(ctx).Preload("Components", inOrder).Where(`making_id IN (SELECT id FROM makings WHERE deleted_at IS NULL AND archived_at IS NULL)
		AND making_id NOT IN (SELECT making_id FROM needs)`)
	if lots != nil {
		q = q.Where("id IN (SELECT blend_id FROM blend_components WHERE lot_id IN ?)", lots)
	}
	return out, q.Order("id").Find(&out).Error
}

// LotsWantedBy lists the lots that a making's blends and weigh-outs are of, and that its need names.
func (s *Store) LotsWantedBy(ctx context.Context, making int64) (out []int64, err error) {
	out = []int64{}
	return out, s.reading(ctx).Raw(`SELECT c.lot_id FROM blend_components c JOIN blends b ON b.id = c.blend_id WHERE b.making_id = @making AND c.lot_id IS NOT NULL
		UNION SELECT c.lot_id FROM weighout_components c JOIN weighouts o ON o.id = c.weighout_id JOIN blends b ON b.id = o.blend_id
		WHERE b.making_id = @making AND c.lot_id IS NOT NULL
		UNION SELECT CASE WHEN json_valid(plan) THEN json_extract(plan, '$.lot_id') END AS lot FROM needs WHERE making_id = @making AND lot IS NOT NULL`,
		sql.Named("making", making)).Scan(&out).Error
}
