package store

import (
	"time"

	"fairtangle/core/unit"
)

// Weighout is a table of grams to weigh and how far it is worked through.
type Weighout struct {
	Base
	BlendID    int64
	Name       string
	Units      int
	FinishedMg unit.Milligrams
	Passes     int
	StepMg     unit.Milligrams
	ByFibre    bool                `gorm:"serializer:yes"` // one bag after the other for all units; else unit by unit
	LayupID    *int64              // the lay-up that it follows
	Sample     bool                `gorm:"serializer:yes"`  // a few grams, to see how it comes out
	Lays       []WeighoutLay       `gorm:"serializer:json"` // as they were when it was made
	Components []WeighoutComponent `gorm:"foreignKey:WeighoutID"`
	Cells      []WeighoutCell      `gorm:"foreignKey:WeighoutID"`
	Weighings  []Weighing          `gorm:"foreignKey:WeighoutID"`
	Notes      []WeighoutNote      `gorm:"foreignKey:WeighoutID"`
	// AddedToMg is set where it mends a blend that was carded: how much there was of
	// it, and CameHex how that came out.
	AddedToMg unit.Milligrams
	CameHex   string
}

// WeighoutNote is what came off of one unit.
type WeighoutNote struct {
	ID         int64 `gorm:"primaryKey"`
	WeighoutID int64
	Version    int64
	Unit       int
	OffMg      *unit.Milligrams // nil: not weighed
	Note       string
}

// WeighoutComponent is a component as it was when the weigh-out was made.
type WeighoutComponent struct {
	ID          int64 `gorm:"primaryKey"`
	WeighoutID  int64
	Position    int
	LotID       *int64
	Name        string
	Kind        string
	Preparation string
	Hex         string
	OnlyHex     string // the one colour of the lot that is used; empty: all
	Share       float64
	LossPct     float64
	Decay       float64 // 0: each pass loses as much
	JoinsAtPass int
	AloneFirst  int             // how often it is carded alone before it is laid
	OwnMg       unit.Milligrams // that the maker has of what is no lot
}

// WeighoutLay is a lay that a component is divided into, in proportion to its
// grams. Layer -1 is what was not laid.
type WeighoutLay struct {
	Position int `json:"position"`
	Layer    int `json:"layer"`
	PlanLay
}

// WeighoutCell is one component of one unit: planned, what it should be now,
// and what lies in the bowl.
type WeighoutCell struct {
	ID         int64 `gorm:"primaryKey"`
	WeighoutID int64
	Unit       int
	Position   int
	PlannedMg  unit.Milligrams
	TargetMg   unit.Milligrams
	WeighedMg  unit.Milligrams
	Done       bool `gorm:"serializer:yes"`
}

// Weighing is one acknowledged reading.
type Weighing struct {
	ID         int64 `gorm:"primaryKey"`
	Key        string
	WeighoutID int64
	Unit       int
	Position   int
	GramsMg    unit.Milligrams
	Policy     string
	MovementID *int64
	At         time.Time
	UndoneAt   *time.Time
	Before     string // the unit's cells as they were, in files of before version 0004
}

// TableName names the table of units.
func (WeighoutNote) TableName() string { return "weighout_units" }
