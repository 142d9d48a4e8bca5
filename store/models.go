package store

import (
	"time"

	"gorm.io/gorm"

	"fairtangle/core/fibre"
	"fairtangle/core/price"
	"fairtangle/core/unit"
)

// Base is the identity, version and bin mark of a row that can be edited.
type Base struct {
	ID        int64 `gorm:"primaryKey"`
	Version   int64
	CreatedAt time.Time
	UpdatedAt time.Time
	DeletedAt gorm.DeletedAt // when it went to the bin
	// Amiss is what of it could not be as it was kept, in sentences.
	Amiss []string `gorm:"-" json:"-"`
}

func (b Base) id() int64      { return b.ID }
func (b Base) version() int64 { return b.Version }

// Colour is one colour of a lot with its share of the lot. Reflectance has 36
// bands where it was measured.
type Colour struct {
	Hex         string    `json:"hex"`
	Share       float64   `json:"share"`
	Source      string    `json:"source"`
	Reflectance []float64 `json:"reflectance,omitempty"`
	// Sigma is how unsure a foreseen colour is, in CIEDE2000.
	Sigma float64 `json:"sigma,omitempty"`
}

// Lot is one bag or bundle on the shelf. GramsMg is the sum of its movements,
// kept beside them in the same transaction.
type Lot struct {
	Base
	Name          string
	Kind          string
	Preparation   string
	Colours       []Colour `gorm:"serializer:json"`
	ColoursBefore []Colour `gorm:"serializer:json"` // the last change can be taken back
	LiesBefore    string   // and how those lay
	RunCMBefore   float64  // and ran
	ShelfOrder    float64  // colour.ShelfOrder of the mean colour
	GramsMg       unit.Milligrams
	StapleMM      *float64
	Superwash     bool    `gorm:"serializer:yes"`
	Lies          string  // how its colours lie, of fibre.Lies; empty: as its preparation has it
	RunCM         float64 // how long one colour runs along, or how large a blotch is; 0: as usual
	PhotoID       *int64  // that shows it
	CentsPer100g  *int64
	fibre.Words
	MovementCount int64
	Made          *Made `gorm:"serializer:json"` // of what it was made, where it was made here

	usedOf map[string]unit.Milligrams // weighed of single colours, picked out
}

// Movement is a line of the fibre ledger. Lines are added, never changed.
type Movement struct {
	ID        int64 `gorm:"primaryKey"`
	LotID     int64
	At        time.Time
	DeltaMg   unit.Milligrams
	BalanceMg unit.Milligrams
	Reason    string
	Note      string
	UndoesID  *int64
}

// Kind is a kind of fibre that the maker added.
type Kind struct {
	Base
	Name                      string
	Family, Role              string
	DiameterLow, DiameterHigh float64
	StapleLow, StapleHigh     float64
	Density                   float64
	Crimp, Cohesion, Lustre   string
	LossPctLow, LossPctHigh   float64
	LossDecay                 float64 // 0: that of the family
	Note                      string
	OfBlend                   bool `gorm:"serializer:yes"` // the fibre of what was made here; no list offers it
}

// Making is one piece of work.
type Making struct {
	Base
	Name       string
	Note       string
	Schools    map[string]string `gorm:"serializer:json"` // what the maker holds to, by matter
	ArchivedAt *time.Time
}

// Blend is a recipe of a making.
type Blend struct {
	Base
	MakingID   int64
	Name       string
	TotalMg    unit.Milligrams // finished
	Passes     int             // planned
	TargetHex  string
	Came       *Came            `gorm:"serializer:json"` // how it came out, once it was carded
	Place      string           // in the gradient that it was made from
	AgainOf    *int64           // the run that it is made again after
	ShelfOrder *float64         // colour.ShelfOrder of its colour as it was when it was saved; nil: not worked out, or none
	Components []BlendComponent `gorm:"foreignKey:BlendID"`
}

// Came is a blend as it was carded: how much there was of it, of what, and the
// colour with which it came out.
type Came struct {
	Grams       float64    `json:"grams"`
	Hex         string     `json:"hex"`
	Reflectance []float64  `json:"reflectance,omitempty"`
	Of          []CamePart `json:"of"`
}

// CamePart is a component of what was carded, in finished grams.
type CamePart struct {
	Key   string  `json:"key"`
	Grams float64 `json:"grams"`
}

// BlendComponent is a lot, or a kind and colour still to buy, with its parts.
type BlendComponent struct {
	ID          int64 `gorm:"primaryKey"`
	BlendID     int64
	Position    int
	LotID       *int64
	Name        string
	Kind        string
	Preparation string
	Hex         string
	OnlyHex     string // the one colour of the lot that is used; empty: all
	Parts       float64
	Locked      bool            `gorm:"serializer:yes"`
	OwnMg       unit.Milligrams // that the maker has of what is no lot
}

// Equipment is a carder, a board or a pair of cards.
type Equipment struct {
	Base
	Preset   string
	Name     string
	Type     string // drum, board, hand_cards
	Drive    string // hand, electric
	WidthMM  float64
	LengthMM float64
	TPI      float64
	ToothMM  float64
	SmoothG  float64
	LoftyG   float64
	Minutes  float64
	FeedG    float64
	Note     string
}

// TableName keeps the uncountable noun as it is.
func (Equipment) TableName() string { return "equipment" }

// Scale is a bench scale of the workshop.
type Scale struct {
	Base
	Name       string
	Address    string // HOST:PORT or a serial port
	StepMg     unit.Milligrams
	CapacityMg unit.Milligrams
}

// Tool is a tool beside the carders: a picker, combs, a hackle, a flicker.
type Tool struct {
	Base
	Name           string
	Kind           string
	Minutes        float64 // for 100 g
	LossPct        float64
	Cleaning, Note string
}

// Sale is what went from the table: sold, given or kept.
type Sale struct {
	Base
	Name      string // what it was
	How       string // sold, given, kept
	Pieces    int64
	Cents     int64 // for one
	CostCents int64 // of fibre, packing and machine in one, and what fees and tax take
	Minutes   float64
	BlendID   *int64
	Note      string
}

// Container is a bowl or a dish with what it weighs empty.
type Container struct {
	Base
	Name     string
	WeightMg unit.Milligrams
}

// Settings are the workshop's own, one row.
type Settings struct {
	Base
	WeightUnit     string // g, oz
	LengthUnit     string // cm, in
	StepMg         unit.Milligrams
	Ground         string // light, mid, dark
	Model          string
	ModelParameter float64
	CoveringPower  bool `gorm:"serializer:yes"`
	Currency       string
	Calibrated     bool   `gorm:"serializer:yes"` // predictions follow the samples
	Learning       bool   `gorm:"serializer:yes"` // losses follow the runs
	ReaderAddress  string // of the colour reader, host:port
	// Sample is what came with the sample world, the last id of each table; empty: it is not here.
	Sample map[string]int64 `gorm:"serializer:json"`
	// CopiesFolder is where copies are kept; empty: beside the data.
	CopiesFolder string
	ShortNames   []ShortName `gorm:"serializer:json"`
	Rates        *Rates      `gorm:"serializer:json"` // what prices are counted with; nil: nothing was told
	// ContentNames are what the maker calls contents on labels, by what they are usually called.
	ContentNames map[string]string `gorm:"serializer:json"`
}

// Rates are what prices are counted with.
type Rates = price.Rates

// ShortName is what a maker calls a kind of fibre.
type ShortName struct {
	Name string `json:"name"`
	Kind string `json:"kind"`
}

// TableName keeps the plural as it is.
func (Settings) TableName() string { return "settings" }

// Gradient is a row of colours of a making, as it is edited.
type Gradient struct {
	Base
	MakingID int64
	Name     string
	Plan     GradientPlan `gorm:"serializer:json"`
}

// GradientPlan is what a gradient is computed from.
type GradientPlan struct {
	Stops   []GradientStop `json:"stops"`
	School  string         `json:"school"`
	Bridges int            `json:"bridges"`
	MaxJump float64        `json:"max_jump"`
	Extra   []int          `json:"extra"`
	// Passes that its blends go through; left out, DefaultPasses.
	Passes *int `json:"passes"`
}

// GradientStop is a lot, or one colour of it, or fibre that is no lot.
type GradientStop struct {
	LotID       *int64  `json:"lot_id"`
	Name        string  `json:"name"`
	Kind        string  `json:"kind"`
	Preparation string  `json:"preparation"`
	Hex         string  `json:"hex"`
	Grams       float64 `json:"grams"`
	Key         int64   `json:"key"` // its name among the stops
}

// ScrapBag is a bag of scraps and the piles they lie in.
type ScrapBag struct {
	Base
	Name   string
	Scraps []Scrap `gorm:"serializer:json"`
}

// TableName is the name that the first release gave it.
func (ScrapBag) TableName() string { return "scrap_sets" }

// Scrap is a bit of fibre; Pile counts from 0.
type Scrap struct {
	LotID   *int64   `json:"lot_id"`
	Name    string   `json:"name"`
	Kind    string   `json:"kind"`
	Hex     string   `json:"hex"`
	Grams   float64  `json:"grams"`
	Pile    int      `json:"pile"`
	Key     int64    `json:"key"`               // its name in the bag
	Colours []string `json:"colours,omitempty"` // of a bit that is no lot and has several, about as much of each; Hex is their mean
}

// Photo is a picture kept as a file named by its content.
type Photo struct {
	Base
	Name          string
	File          string
	Width, Height int
	Card          *NeutralCard `gorm:"serializer:json"`
}

// NeutralCard is the spot of a photo that shows a neutral card.
type NeutralCard struct {
	X          float64    `json:"x"`
	Y          float64    `json:"y"`
	Radius     float64    `json:"radius"` // all three in fractions of the width or height
	ReflectPct float64    `json:"reflects_pct"`
	Gains      [3]float64 `json:"gains"`
}

// Sample is a blend that was carded even and measured. Its components are kept
// as they were.
type Sample struct {
	Base
	Name       string
	BlendID    *int64
	Components []SampleComponent `gorm:"serializer:json"`
	Measured   Colour            `gorm:"serializer:json"`
	Note       string
}

// SampleComponent is a component of a sample with its share by weight.
type SampleComponent struct {
	LotID       *int64    `json:"lot_id"`
	Name        string    `json:"name"`
	Kind        string    `json:"kind"`
	Hex         string    `json:"hex"`
	Reflectance []float64 `json:"reflectance,omitempty"`
	Share       float64   `json:"share"`
}

// Layup is a lay-up of a blend on a piece of equipment, shared by all units.
type Layup struct {
	Base
	BlendID     int64
	EquipmentID int64
	Name        string
	Units       int
	// Components are those of the blend as they were when it was last saved;
	// lays count in them.
	Components []LayupComponent `gorm:"serializer:json"`
	Plan       LayupPlan        `gorm:"serializer:json"`
}

// LayupComponent tells which component of the blend is meant.
type LayupComponent struct {
	LotID *int64 `json:"lot_id,omitempty"`
	Only  string `json:"only,omitempty"`
	Name  string `json:"name"`
	Kind  string `json:"kind"`
	Hex   string `json:"hex"`
}

// Same reports whether two are the same component: of the same lot, or of the same fibre that is none.
func (c LayupComponent) Same(as LayupComponent) bool {
	if c.LotID != nil || as.LotID != nil {
		return c.LotID != nil && as.LotID != nil && *c.LotID == *as.LotID && c.Only == as.Only
	}
	return c.Name == as.Name && c.Kind == as.Kind && c.Hex == as.Hex
}

// Made is of what a lot was made here.
type Made struct {
	RunID    int64    `json:"run_id"`
	MakingID int64    `json:"making_id"`
	BlendID  int64    `json:"blend_id,omitempty"`
	Form     string   `json:"form"`            // batt, rolags, punis, roving, cloud, leftover, fleece
	Count    int      `json:"count,omitempty"` // of rolags or punis
	Place    string   `json:"place,omitempty"` // in a gradient
	Of       []MadeOf `json:"of"`              // what lies in it, down to what no run made
	From     []MadeIn `json:"from"`            // what was weighed in for it
	Said     *Colour  `json:"said,omitempty"`  // the colour foreseen of it
}

// MadeOf is a fibre that lies in a lot, by its share. Lot is 0 where it was none.
type MadeOf struct {
	Lot       int64   `json:"lot,omitempty"`
	Name      string  `json:"name"`
	Kind      string  `json:"kind"`
	Superwash bool    `json:"superwash,omitempty"`
	Share     float64 `json:"share"`
}

// MadeIn is a component that was weighed in for a lot.
type MadeIn struct {
	Lot  int64           `json:"lot,omitempty"`
	Name string          `json:"name"`
	Mg   unit.Milligrams `json:"mg"`
}
