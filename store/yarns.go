package store

import "context"

// Yarn is how the batt of a lay-up is to be spun. A lay-up has one at most.
type Yarn struct {
	Base
	LayupID int64
	Plan    YarnPlan `gorm:"serializer:json"`
}

// YarnPlan is what a yarn is worked out from. 0, null and the empty text are what is usual.
type YarnPlan struct {
	Stage     int      `json:"stage"` // of carding, from 1; 0: as many passes as are planned
	Way       string   `json:"way"`
	Parts     int      `json:"parts"`
	Even      bool     `json:"even"` // the parts weigh the same
	Order     string   `json:"order"`
	From      string   `json:"from"`
	Ply       string   `json:"ply"`
	Draw      string   `json:"draw,omitempty"`           // long, from-fold, short-backward, short-forward
	Pair      string   `json:"pair"`                     // second, mirrored: each ply is a batt of its own
	Grist     float64  `json:"singles_grist_m_per_100g"` // 0: as the need has it
	TakeUpPct *float64 `json:"take_up_pct"`
	WastePct  *float64 `json:"waste_pct"`
	S         bool     `json:"s"` // singles are spun S and plied Z
	Cloth     string   `json:"cloth"`
	Stitches  int      `json:"stitches"` // in a row of the piece; on a loom the ends
	Rows      int      `json:"rows"`
	StitchMM  float64  `json:"stitch_mm"`         // of yarn in a stitch
	AgainM    float64  `json:"again_m,omitempty"` // after so many m its colours come again; 0: after the whole of it
	Off       string   `json:"off,omitempty"`     // how it came off the tool when Way was chosen
	// 0 of these was not told: hook, ratio of the wheel and how far an arm draws; the finished piece, and what lies on 10 cm of it.
	HookMM        float64 `json:"hook_mm,omitempty"`
	Ratio         float64 `json:"ratio,omitempty"`
	DrawM         float64 `json:"draw_m,omitempty"`
	WideMM        float64 `json:"wide_mm,omitempty"`
	LongMM        float64 `json:"long_mm,omitempty"`
	GaugeStitches float64 `json:"gauge_stitches,omitempty"`
	GaugeRows     float64 `json:"gauge_rows,omitempty"`
}

// YarnSample is a piece of yarn that was tried.
type YarnSample struct {
	Base
	MakingID int64
	Name     string
	Told     SampleTold `gorm:"serializer:json"`
}

// SampleTold is what was told of it. 0, null and the empty text were not told.
type SampleTold struct {
	Ply      string       `json:"ply"`
	Twist    string       `json:"twist"`                  // how it was spun: the wheel's or the spindle's setting
	Checked  string       `json:"checked"`                // how the twist was: by plying back
	BumpsCM  float64      `json:"bumps_per_cm,omitempty"` // of a bit of fresh single that was let fold back on itself
	WPI      float64      `json:"wpi"`
	FibreG   float64      `json:"fibre_g"`   // that went in
	Singles  float64      `json:"singles_m"` // all of them together
	RawM     float64      `json:"raw_m"`     // before washing
	RawG     float64      `json:"raw_g"`
	LengthM  float64      `json:"length_m"` // after washing
	WeightG  float64      `json:"weight_g"`
	Swatches []SwatchTold `json:"swatches"` // side by side
	Sheds    string       `json:"sheds"`    // yes, no
	Hand     string       `json:"hand"`     // how it feels
	Liked    bool         `json:"liked"`    // of several, this one
	Note     string       `json:"note"`
}

// SwatchTold is a piece that was knitted of it.
type SwatchTold struct {
	Tool     string  `json:"tool"`     // the needle or hook
	Stitches float64 `json:"stitches"` // over 10 cm, washed
	Rows     float64 `json:"rows"`
	// Before it was washed; 0 was not told.
	RawStitches float64 `json:"raw_stitches,omitempty"`
	RawRows     float64 `json:"raw_rows,omitempty"`
	Liked       bool    `json:"liked,omitempty"` // of several tools, this one
	Why         string  `json:"why,omitempty"`
}

// Skein is yarn that is done.
type Skein struct {
	Base
	MakingID int64
	Name     string
	Told     SkeinTold `gorm:"serializer:json"`
}

// SkeinTold is what was told of it. 0 and the empty text were not told.
type SkeinTold struct {
	Ply     string  `json:"ply"`
	FibreG  float64 `json:"fibre_g"` // that went in
	Singles float64 `json:"singles_m"`
	RawG    float64 `json:"raw_g"` // before washing
	RawM    float64 `json:"raw_m"`
	Turns   int     `json:"turns"` // on the reel
	GirthCM float64 `json:"girth_cm"`
	LengthM float64 `json:"length_m"` // of turns and girth, where they were counted
	WeightG float64 `json:"weight_g"`
	Gone    string  `json:"gone"` // used, given, sold
	Note    string  `json:"note"`
	Lots    []int64 `json:"lots"` // of the shelf that were spun up in it
	Later   *Worn   `json:"later,omitempty"`
}

// Worn is how a yarn was after it had been in use: 0 and the empty text were not told.
type Worn struct {
	On    string `json:"on"`    // the day, as 2006-01-02
	Sheds string `json:"sheds"` // no, some, much; as the others
	Pills string `json:"pills"`
	Halo  string `json:"halo"`
	Note  string `json:"note"`
}

// YarnOf returns the yarn of a lay-up; ErrNotFound where it has none.
func (s *Store) YarnOf(ctx context.Context, layup int64) (y Yarn, err error) {
	return y, found(s.reading(ctx).First(&y, "layup_id = ?", layup).Error)
}
