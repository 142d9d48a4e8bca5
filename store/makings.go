package store

import (
	"context"
	"time"

	"gorm.io/gorm"
)

// Makings lists the makings with their blends, the latest touched first.
func (s *Store) Makings(ctx context.Context, archived bool) (out []Making, err error) {
	q := s.reading(ctx).Where("archived_at IS NULL")
	if archived {
		q = s.reading(ctx).Where("archived_at IS NOT NULL")
	}
	return out, q.Order("updated_at DESC, id DESC").Find(&out).Error
}

// MakingsPage lists a page of the makings at work, or of those put away, whose name or note has all
// words that are searched for, the latest touched first; all is how many there are.
func (s *Store) MakingsPage(ctx context.Context, archived bool, search string, offset, limit int) (out []Making, all int64, err error) {
	q := s.reading(ctx).Model(&Making{}).Where("archived_at IS NULL")
	if archived {
		q = s.reading(ctx).Model(&Making{}).Where("archived_at IS NOT NULL")
	}
	for _, like := range searched(search) {
		q = q.Where(`(name || ' ' || note) LIKE ? ESCAPE '\'`, like)
	}
	q = q.Session(&gorm.Session{})
	if err := q.Count(&all).Error; err != nil {
		return nil, 0, err
	}
	return out, all, q.Order("updated_at DESC, id DESC").Offset(offset).Limit(limit).Find(&out).Error
}

// Making returns one making.
func (s *Store) Making(ctx context.Context, id int64) (m Making, err error) {
	return m, found(s.reading(ctx).First(&m, id).Error)
}

// CreateMaking adds a making.
func (s *Store) CreateMaking(ctx context.Context, m Making) (Making, error) {
	m.Base = Base{Version: 1}
	return m, s.create(ctx, &m)
}

// UpdateMaking saves a making's name, note, schools and archive mark.
func (s *Store) UpdateMaking(ctx context.Context, m Making) (out Making, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		return save(tx, &m, func(c *Making) {
			c.Name, c.Note, c.ArchivedAt, c.Schools = m.Name, m.Note, m.ArchivedAt, m.Schools
			c.Version++
			out = *c
		})
	})
	return out, err
}

// CopyMaking copies a making with its blends and their lay-ups; weigh-outs stay behind, they
// tell what was done with the first.
func (s *Store) CopyMaking(ctx context.Context, id int64, name string) (out Making, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&out, id).Error; err != nil {
			return found(err)
		}
		out.Base, out.Name, out.ArchivedAt = Base{Version: 1}, name, nil
		if err := tx.Create(&out).Error; err != nil {
			return err
		}
		var blends []Blend
		if err := tx.Preload("Components", inOrder).Where("making_id = ?", id).Order("id").Find(&blends).Error; err != nil {
			return err
		}
		for _, b := range blends {
			old := b.ID
			b.Base, b.MakingID = Base{Version: 1}, out.ID
			if err := createBlend(tx, &b); err != nil {
				return err
			}
			var layups []Layup
			if err := tx.Where("blend_id = ?", old).Order("id").Find(&layups).Error; err != nil {
				return err
			}
			for _, l := range layups {
				l.Base, l.BlendID = Base{Version: 1}, b.ID
				if err := tx.Create(&l).Error; err != nil {
					return err
				}
			}
		}
		return nil
	})
	return out, err
}

func inOrder(db *gorm.DB) *gorm.DB { return db.Order("position") }

// BlendsOf lists the blends of makings with their components.
func (s *Store) BlendsOf(ctx context.Context, makings []int64) (out []Blend, err error) {
	return out, s.reading(ctx).Preload("Components", inOrder).Where("making_id IN ?", makings).Order("id").Find(&out).Error
}

// BlendsByID returns blends with their components.
func (s *Store) BlendsByID(ctx context.Context, ids []int64) (out []Blend, err error) {
	return out, s.reading(ctx).Preload("Components", inOrder).Where("id IN ?", ids).Order("id").Find(&out).Error
}

// MakingNames lists makings at work by name alone, the latest touched first; with ids those of them.
func (s *Store) MakingNames(ctx context.Context, ids ...int64) (out []Making, err error) {
	q := s.reading(ctx).Select("id", "name").Where("archived_at IS NULL")
	if len(ids) > 0 {
		q = q.Where("id IN ?", ids)
	}
	return out, q.Order("updated_at DESC, id DESC").Find(&out).Error
}

// Swatches lists a page of the blends with fibre of all makings, put away or not, in the order of their
// colours; all is how many there are.
func (s *Store) Swatches(ctx context.Context, offset, limit int) (out []Blend, all int64, err error) {
	q := s.reading(ctx).Model(&Blend{}).Where("shelf_order IS NOT NULL AND making_id IN (SELECT id FROM makings WHERE deleted_at IS NULL)").
		Session(&gorm.Session{})
	if err := q.Count(&all).Error; err != nil {
		return nil, 0, err
	}
	return out, all, q.Preload("Components", inOrder).Order("shelf_order, id").Offset(offset).Limit(limit).Find(&out).Error
}

// Unarranged lists blends with fibre, numbered after one, that have no place in the order of colours yet.
func (s *Store) Unarranged(ctx context.Context, after int64, limit int) (out []Blend, err error) {
	return out, s.reading(ctx).Unscoped().Preload("Components", inOrder).
		Where("id > ? AND shelf_order IS NULL AND id IN (SELECT blend_id FROM blend_components)", after).Order("id").Limit(limit).Find(&out).Error
}

// Arrange gives blends their places in the order of colours.
func (s *Store) Arrange(ctx context.Context, orders map[int64]*float64) error {
	return s.tx(ctx, func(tx *gorm.DB) error {
		for id, v := range orders {
			if err := tx.Model(&Blend{}).Unscoped().Where("id = ?", id).UpdateColumn("shelf_order", v).Error; err != nil {
				return err
			}
		}
		return nil
	})
}

// BlendNames lists blends with fibre of makings at work by their names alone, the latest touched first.
func (s *Store) BlendNames(ctx context.Context, limit int) (out []BlendName, err error) {
	return out, s.reading(ctx).Raw(`SELECT b.id, b.name, m.name AS making FROM blends b JOIN makings m ON m.id = b.making_id
		WHERE b.deleted_at IS NULL AND m.deleted_at IS NULL AND m.archived_at IS NULL AND b.id IN (SELECT blend_id FROM blend_components)
		ORDER BY m.updated_at DESC, m.id DESC, b.id LIMIT ?`, limit).Scan(&out).Error
}

// BlendName is a blend by the names of it and its making.
type BlendName struct {
	ID     int64
	Name   string
	Making string
}

// BlendsUsing lists the blends in which a lot is a component.
func (s *Store) BlendsUsing(ctx context.Context, lot int64) (out []Blend, err error) {
	return out, s.reading(ctx).Where(`id IN (SELECT blend_id FROM blend_components WHERE lot_id = ?)
		AND making_id IN (SELECT id FROM makings WHERE deleted_at IS NULL)`, lot).Order("id").Find(&out).Error
}

// Blend returns one blend with its components.
func (s *Store) Blend(ctx context.Context, id int64) (b Blend, err error) {
	return b, found(s.reading(ctx).Preload("Components", inOrder).First(&b, id).Error)
}

// CreateBlends adds blends to their makings, all or none.
func (s *Store) CreateBlends(ctx context.Context, list []Blend) ([]Blend, error) {
	err := s.tx(ctx, func(tx *gorm.DB) error {
		for i := range list {
			if err := tx.First(&Making{}, list[i].MakingID).Error; err != nil {
				return found(err)
			}
			list[i].Base = Base{Version: 1}
			if err := createBlend(tx, &list[i]); err != nil {
				return err
			}
		}
		return nil
	})
	return list, err
}

func createBlend(tx *gorm.DB, b *Blend) error {
	number(b.Components, 0)
	return tx.Create(b).Error
}

// number makes components new rows in their order.
func number(components []BlendComponent, blend int64) {
	for i := range components {
		components[i].ID, components[i].BlendID, components[i].Position = 0, blend, i
	}
}

// UpdateBlend replaces a blend with its components; with left, what it
// replaced becomes a step to go back to.
func (s *Store) UpdateBlend(ctx context.Context, b Blend, left *Leave) (out Blend, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		var current Blend
		if err := tx.Preload("Components", inOrder).First(&current, b.ID).Error; err != nil {
			return found(err)
		}
		if current.Version != b.Version {
			return Stale{Current: current}
		}
		if err := tx.Where("blend_id = ?", b.ID).Delete(&BlendComponent{}).Error; err != nil {
			return err
		}
		number(b.Components, b.ID)
		if len(b.Components) > 0 {
			if err := tx.Create(&b.Components).Error; err != nil {
				return err
			}
		}
		current.Name, current.TotalMg, current.Passes, current.TargetHex, current.Components, current.Came = b.Name, b.TotalMg, b.Passes, b.TargetHex, nil, b.Came
		current.ShelfOrder = b.ShelfOrder
		current.Version++
		if err := tx.Omit("Components").Select("*").Updates(&current).Error; err != nil {
			return err
		}
		current.Components = b.Components
		out = current
		if left != nil {
			if err := s.leave(tx, "blends", b.ID, *left); err != nil {
				return err
			}
		}
		return tx.Model(&Making{}).Where("id = ?", current.MakingID).UpdateColumn("updated_at", s.now().UTC()).Error
	})
	return out, err
}

// Began is when the first making was begun; zero where there is none.
func (s *Store) Began(ctx context.Context) (time.Time, error) {
	var first []Making
	err := s.reading(ctx).Select("created_at").Order("id").Limit(1).Find(&first).Error
	if err != nil || len(first) == 0 {
		return time.Time{}, err
	}
	return first[0].CreatedAt, nil
}
