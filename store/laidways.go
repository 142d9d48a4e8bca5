package store

import (
	"context"
	"encoding/json"
)

// LaidWay is how a blend goes through its equipment, as its lay-up that was touched last says.
type LaidWay struct {
	Type       string // of the equipment
	Passes     int    // 0: as many as the blend
	Joins      []int
	Alone      []int
	Fed        []PlanFed
	Components []LayupComponent
}

// LaidWays tells of each blend that is laid how it goes through its equipment. A lay-up that can not be read is passed over.
func (s *Store) LaidWays(ctx context.Context, blends []int64) (map[int64]LaidWay, error) {
	var rows []struct {
		BlendID                             int64
		Type, Joins, Alone, Fed, Components string
		Passes                              int
	}
	err := s.reading(ctx).Raw(`SELECT l.blend_id, e.type, coalesce(json_extract(l.plan, '$.passes'), 0) AS passes,
			coalesce(json_extract(l.plan, '$.joins_at_pass'), '[]') AS joins, l.components,
			coalesce(json_extract(l.plan, '$.alone_first'), '[]') AS alone, coalesce(json_extract(l.plan, '$.fed'), '[]') AS fed
		FROM layups l JOIN equipment e ON e.id = l.equipment_id
		WHERE l.deleted_at IS NULL AND json_valid(l.plan) AND l.blend_id IN ? ORDER BY l.updated_at, l.id`, blends).Scan(&rows).Error
	out := make(map[int64]LaidWay, len(rows))
	for _, r := range rows {
		way := LaidWay{Type: r.Type, Passes: r.Passes}
		read := func(text string, into any) bool { return json.Unmarshal([]byte(text), into) == nil }
		if read(r.Joins, &way.Joins) && read(r.Components, &way.Components) && read(r.Alone, &way.Alone) && read(r.Fed, &way.Fed) {
			out[r.BlendID] = way
		}
	}
	return out, err
}
