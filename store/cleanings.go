package store

import (
	"time"

	"fairtangle/core/unit"
)

// Cleaning is one of the cloth of a piece of equipment.
type Cleaning struct {
	Base
	Name        string
	EquipmentID int64
	At          time.Time
	Full        bool             `gorm:"serializer:yes"` // all of it; else it was brushed over
	BroughtMg   *unit.Milligrams // what it brought up; nil: not weighed
	HeldMg      unit.Milligrams  // what was believed to lie there
	Minutes     float64          // 0: not told
	Note        string
}
