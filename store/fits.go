package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// CarderFit is what a test batt told of a carder: the looks that were seen, and which
// carders it may be.
type CarderFit struct {
	EquipmentID int64 `gorm:"primaryKey"`
	LayupID     int64
	Layup       string        // its name then
	Looks       []string      `gorm:"serializer:json"`
	Carders     []KnownCarder `gorm:"serializer:json"`
	Used        bool          `gorm:"serializer:yes"`
	At          time.Time
}

// KnownCarder is one that it may be, and how likely.
type KnownCarder struct {
	Clumps float64 `json:"clumps"`
	Opens  float64 `json:"opens"`
	Weight float64 `json:"weight"`
}

// CarderFit returns what is known of a carder; ErrNotFound where no test batt was noted.
func (s *Store) CarderFit(ctx context.Context, equipment int64) (v CarderFit, err error) {
	return v, found(s.reading(ctx).First(&v, "equipment_id = ?", equipment).Error)
}

// KeepCarderFit keeps what is known of a carder in place of what was.
func (s *Store) KeepCarderFit(ctx context.Context, v CarderFit) error {
	v.At = time.Now()
	return s.tx(ctx, func(tx *gorm.DB) error { return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&v).Error })
}

// UseCarderFit has forecasts follow what is known of a carder, or leave it out.
func (s *Store) UseCarderFit(ctx context.Context, equipment int64, used bool) error {
	return s.tx(ctx, func(tx *gorm.DB) error {
		done := tx.Model(&CarderFit{}).Where("equipment_id = ?", equipment).Update("used", used)
		if done.Error == nil && done.RowsAffected == 0 {
			return ErrNotFound
		}
		return done.Error
	})
}
