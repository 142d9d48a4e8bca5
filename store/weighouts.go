package store

import (
	"context"

	"gorm.io/gorm"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

func byUnit(db *gorm.DB) *gorm.DB { return db.Order("unit, position") }
func byID(db *gorm.DB) *gorm.DB   { return db.Order("id") }

func whole(db *gorm.DB) *gorm.DB {
	return db.Preload("Components", inOrder).
		Preload("Cells", byUnit).
		Preload("Weighings", byID).
		Preload("Notes", func(db *gorm.DB) *gorm.DB { return db.Order("unit") })
}

// Weighout returns a weigh-out whole.
func (s *Store) Weighout(ctx context.Context, id int64) (w Weighout, err error) {
	return w, found(whole(s.reading(ctx)).First(&w, id).Error)
}

// WeighoutsOf lists the weigh-outs of blends with their components and cells.
func (s *Store) WeighoutsOf(ctx context.Context, blends []int64) (out []Weighout, err error) {
	return out, s.reading(ctx).Preload("Components", inOrder).Preload("Cells", byUnit).Where("blend_id IN ?", blends).Order("id DESC").Find(&out).Error
}

// WaitingOn lists the weigh-outs that follow a lay-up on equipment and of which units have not come
// off, a page of them, those of the making touched last first; all is how many there are.
func (s *Store) WaitingOn(ctx context.Context, equipment int64, offset, limit int) (out []int64, all int64, err error) {
	q := s.reading(ctx).Table("layups l").Joins("JOIN weighouts o ON o.layup_id = l.id JOIN blends b ON b.id = o.blend_id JOIN makings m ON m.id = b.making_id").
		Where("l.equipment_id = ? AND l.deleted_at IS NULL AND o.deleted_at IS NULL AND b.deleted_at IS NULL", equipment).
		Where("m.deleted_at IS NULL AND m.archived_at IS NULL").
		Where("o.units > (SELECT coalesce(max(r.came_off), 0) FROM runs r WHERE r.weighout_id = o.id AND r.deleted_at IS NULL)").
		Session(&gorm.Session{})
	if err := q.Count(&all).Error; err != nil {
		return nil, 0, err
	}
	return out, all, q.Order("m.updated_at DESC, m.id DESC, b.id, o.id DESC").Offset(offset).Limit(limit).Pluck("o.id", &out).Error
}

// ToCard is a weigh-out as something to card: whose it is, how many units, and the fibres in it.
type ToCard struct {
	ID, BlendID int64
	Name        string
	Units       int
	FinishedMg  unit.Milligrams
	LayupID     *int64
	Components  []WeighoutComponent `gorm:"foreignKey:WeighoutID"`
}

// ToCardByID returns weigh-outs as something to card, by number.
func (s *Store) ToCardByID(ctx context.Context, ids []int64) (map[int64]ToCard, error) {
	var list []ToCard
	err := s.reading(ctx).Table("weighouts").Where("deleted_at IS NULL AND id IN ?", ids).Preload("Components", inOrder).Find(&list).Error
	out := map[int64]ToCard{}
	for _, w := range list {
		out[w.ID] = w
	}
	return out, err
}

// CreateWeighout adds a weigh-out with its components and cells.
func (s *Store) CreateWeighout(ctx context.Context, w Weighout) (Weighout, error) {
	w.Base = Base{Version: 1}
	err := s.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&Blend{}, w.BlendID).Error; err != nil {
			return found(err)
		}
		return tx.Create(&w).Error
	})
	return w, err
}

// RoundWeighout says in which order it is weighed.
func (s *Store) RoundWeighout(ctx context.Context, id, version int64, byFibre bool) (out Weighout, err error) {
	err = s.changeWeighout(ctx, id, version, func(tx *gorm.DB, w *Weighout) error {
		w.ByFibre = byFibre
		return tx.Model(&Weighout{}).Where("id = ?", id).UpdateColumn("by_fibre", byFibre).Error
	}, &out)
	return out, err
}

// GoOn changes what is wanted, and the lot that a component is weighed from.
func (s *Store) GoOn(ctx context.Context, id, version int64, lot *WeighoutComponent, change func(*Weighout) error) (out Weighout, err error) {
	err = s.changeWeighout(ctx, id, version, func(tx *gorm.DB, w *Weighout) error {
		if lot != nil {
			if err := tx.Select("*").Updates(lot).Error; err != nil {
				return err
			}
			for i := range w.Components {
				if w.Components[i].ID == lot.ID {
					w.Components[i] = *lot
				}
			}
		}
		return change(w)
	}, &out)
	return out, err
}

// Weigh books one reading: the weighing, the movement out of the lot, and the
// cells of its unit as change leaves them, in one transaction. The same key a
// second time changes nothing and gives the weigh-out as it is, so that a
// client may try again after a lost connection; with other content, or after the
// weighing was taken back, it is refused.
func (s *Store) Weigh(ctx context.Context, id, version int64, w Weighing, change func(*Weighout) error) (out Weighout, err error) {
	return s.WeighAll(ctx, id, version, []Weighing{w}, change)
}

// WeighAll is Weigh of several readings at once: all of them are booked, or none.
func (s *Store) WeighAll(ctx context.Context, id, version int64, list []Weighing, change func(*Weighout) error) (out Weighout, err error) {
	err = s.Deed(ctx, func(ctx context.Context) error {
		again, err := weighedBefore(s.reading(ctx), id, list)
		if again {
			out, err = s.Weighout(ctx, id)
			return err
		}
		if err != nil {
			return err
		}
		return s.changeWeighout(ctx, id, version, func(tx *gorm.DB, wo *Weighout) error {
			if err := change(wo); err != nil {
				return err
			}
			for _, w := range list {
				if err := s.takeOut(tx, wo, w); err != nil {
					return err
				}
			}
			return nil
		}, &out)
	})
	return out, err
}

// weighedBefore reports whether weighings with these keys are there already.
func weighedBefore(tx *gorm.DB, id int64, list []Weighing) (again bool, err error) {
	for _, w := range list {
		var before Weighing
		if err := tx.Where("key = ?", w.Key).Limit(1).Find(&before).Error; err != nil {
			return false, err
		}
		if before.ID == 0 {
			continue
		}
		if err := before.repeated(id, w); err != nil {
			return false, err
		}
		again = true
	}
	return again, nil
}

// takeOut takes what was weighed out of its lot and writes the weighing.
func (s *Store) takeOut(tx *gorm.DB, wo *Weighout, w Weighing) error {
	if lot := wo.Components[w.Position].LotID; lot != nil {
		var l Lot
		if err := tx.First(&l, *lot).Error; err != nil {
			return fault.New("grams", "The lot of this component lies in the bin. Restore it first.")
		}
		m, err := s.move(tx, &l, Movement{DeltaMg: -w.GramsMg, Reason: Weighed, Note: wo.Name})
		if err != nil {
			return err
		}
		w.MovementID = &m.ID
	}
	w.WeighoutID, w.At = wo.ID, s.now().UTC()
	if err := tx.Create(&w).Error; err != nil {
		return err
	}
	wo.Weighings = append(wo.Weighings, w)
	return nil
}

// repeated refuses a key that was used for something else.
func (w Weighing) repeated(weighout int64, again Weighing) error {
	switch {
	case w.WeighoutID != weighout || w.Unit != again.Unit || w.Position != again.Position || w.GramsMg != again.GramsMg || w.Policy != again.Policy:
		return fault.New("key", "This key belongs to another weighing. Weigh with a key that is its own.")
	case w.UndoneAt != nil:
		return fault.New("key", "What was weighed with this key was taken back since. Weigh it again with another key.")
	}
	return nil
}

// NoteUnit keeps what came off of a unit, based on the version of its note; 0
// where there is none yet.
func (s *Store) NoteUnit(ctx context.Context, n WeighoutNote) (out Weighout, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		var w Weighout
		if err := whole(tx).First(&w, n.WeighoutID).Error; err != nil {
			return found(err)
		}
		for _, old := range w.Notes {
			if old.Unit == n.Unit {
				if old.Version != n.Version {
					return Stale{Current: w}
				}
				n.ID = old.ID
			}
		}
		n.Version++
		if err := tx.Save(&n).Error; err != nil {
			return err
		}
		return whole(tx).First(&out, n.WeighoutID).Error
	})
	return out, err
}

// TakeBack takes back the weighings that which names: their fibre goes back to
// its lot, and again works the unit's cells out from what is left.
func (s *Store) TakeBack(ctx context.Context, id, version int64, which func(Weighout) []int, again func(*Weighout, int) error) (out Weighout, err error) {
	err = s.changeWeighout(ctx, id, version, func(tx *gorm.DB, wo *Weighout) error {
		list := which(*wo)
		if len(list) == 0 {
			return fault.New("", "Nothing was weighed there yet.")
		}
		now := s.now().UTC()
		for _, i := range list {
			w := &wo.Weighings[i]
			if w.MovementID != nil {
				var m Movement
				if err := tx.First(&m, *w.MovementID).Error; err != nil {
					return err
				}
				if _, err := s.reverse(tx, m); err != nil {
					return err
				}
			}
			w.UndoneAt = &now
			if err := tx.Model(&Weighing{}).Where("id = ?", w.ID).UpdateColumn("undone_at", now).Error; err != nil {
				return err
			}
		}
		return again(wo, wo.Weighings[list[0]].Unit)
	}, &out)
	s.retold(ctx, true)
	return out, err
}

// changeWeighout loads a weigh-out, checks its version, lets change alter it,
// and saves it with its cells. What else change writes it also puts into the weigh-out,
// so that nothing is read twice.
func (s *Store) changeWeighout(ctx context.Context, id, version int64, change func(*gorm.DB, *Weighout) error, out *Weighout) error {
	return s.tx(ctx, func(tx *gorm.DB) error {
		var w Weighout
		if err := whole(tx).First(&w, id).Error; err != nil {
			return found(err)
		}
		if w.Version != version {
			return Stale{Current: w}
		}
		before := append([]WeighoutCell(nil), w.Cells...)
		if err := change(tx, &w); err != nil {
			return err
		}
		for i, c := range w.Cells {
			if c == before[i] {
				continue
			}
			if err := tx.Select("*").Updates(&c).Error; err != nil {
				return err
			}
		}
		w.Version++
		if err := tx.Model(&Weighout{}).Where("id = ?", id).Updates(map[string]any{"version": w.Version, "name": w.Name}).Error; err != nil {
			return err
		}
		*out = w
		return nil
	})
}
