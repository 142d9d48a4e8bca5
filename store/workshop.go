package store

import (
	"context"
	"errors"
	"fmt"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// usual are the settings of a workshop that has none, as the first release had them.
var usual = Settings{
	Base: Base{ID: 1}, WeightUnit: "g", LengthUnit: "cm", StepMg: 100, Ground: "light", Model: "stearns-noechel", ModelParameter: 0.15, Learning: true,
}

// Settings returns the workshop's settings; the usual ones where they are lost.
func (s *Store) Settings(ctx context.Context) (v Settings, err error) {
	err = found(s.reading(ctx).First(&v, 1).Error)
	if errors.Is(err, ErrNotFound) {
		return usual, nil
	}
	return v, err
}

// UpdateSettings saves the settings.
func (s *Store) UpdateSettings(ctx context.Context, v Settings) (out Settings, err error) {
	v.ID = 1
	err = s.tx(ctx, func(tx *gorm.DB) error {
		lost := usual
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&lost).Error; err != nil {
			return err
		}
		return save(tx, &v, func(c *Settings) {
			v.Base = c.Base
			v.Version++
			*c = v
			out = v
		})
	})
	return out, err
}

// Equipment lists the equipment.
func (s *Store) Equipment(ctx context.Context) (out []Equipment, err error) {
	return out, s.reading(ctx).Order("id").Find(&out).Error
}

// OneEquipment returns one piece of equipment.
func (s *Store) OneEquipment(ctx context.Context, id int64) (e Equipment, err error) {
	return e, found(s.reading(ctx).First(&e, id).Error)
}

// AnyEquipment returns one piece, also from the bin: lay-ups on it stay what they
// are.
func (s *Store) AnyEquipment(ctx context.Context, id int64) (e Equipment, err error) {
	return e, found(s.reading(ctx).Unscoped().First(&e, id).Error)
}

// CreateEquipment adds a piece of equipment.
func (s *Store) CreateEquipment(ctx context.Context, e Equipment) (Equipment, error) {
	e.Base = Base{Version: 1}
	return e, s.create(ctx, &e)
}

// Furnish puts the first equipment into a workshop that never had any, all at once.
func (s *Store) Furnish(ctx context.Context, first []Equipment) error {
	return s.tx(ctx, func(tx *gorm.DB) error {
		var had int64
		if err := tx.Unscoped().Model(&Equipment{}).Count(&had).Error; err != nil || had > 0 {
			return err
		}
		for i := range first {
			first[i].Base = Base{Version: 1}
		}
		return tx.Create(&first).Error
	})
}

// UpdateEquipment saves a piece of equipment.
func (s *Store) UpdateEquipment(ctx context.Context, e Equipment) (out Equipment, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		return save(tx, &e, func(c *Equipment) {
			e.Base = c.Base
			e.Version++
			*c = e
			out = e
		})
	})
	return out, err
}

// Kinds lists the maker's own kinds; withBin those in the bin too, for lots
// that still name them.
func (s *Store) Kinds(ctx context.Context, withBin bool) (out []Kind, err error) {
	q := s.reading(ctx)
	if withBin {
		q = q.Unscoped()
	} else {
		q = q.Where("NOT of_blend")
	}
	return out, q.Order("name COLLATE NOCASE, id").Find(&out).Error
}

// OwnKindKey names a kind of the maker's own among all kinds.
func OwnKindKey(id int64) string { return fmt.Sprintf("own-%d", id) }

// Kind returns one of the maker's own kinds.
func (s *Store) Kind(ctx context.Context, id int64) (k Kind, err error) {
	return k, found(s.reading(ctx).Where("NOT of_blend").First(&k, id).Error)
}

// CreateKind adds a kind.
func (s *Store) CreateKind(ctx context.Context, k Kind) (Kind, error) {
	k.Base = Base{Version: 1}
	return k, s.create(ctx, &k)
}

// UpdateKind saves a kind.
func (s *Store) UpdateKind(ctx context.Context, k Kind) (out Kind, err error) {
	defer s.retold(ctx, true)
	err = s.tx(ctx, func(tx *gorm.DB) error {
		return save(tx, &k, func(c *Kind) {
			k.Base = c.Base
			k.Version++
			*c = k
			out = k
		})
	})
	return out, err
}
