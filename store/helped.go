package store

import "context"

// Helped lists what made it go again on a piece of equipment, or on any where that is 0, the latest last: each text is what was
// seen and the cause. What was taken back is not among it.
func (s *Store) Helped(ctx context.Context, equipment int64) (out []string, err error) {
	q := s.reading(ctx).Table("run_entries e").Joins("JOIN runs r ON r.id = e.run_id").
		Where("e.what = 'helped' AND e.undoes_id IS NULL AND e.id NOT IN (SELECT undoes_id FROM run_entries WHERE undoes_id IS NOT NULL)")
	if equipment != 0 {
		q = q.Where("r.equipment_id = ?", equipment)
	}
	return out, q.Order("e.id").Pluck("e.text", &out).Error
}
