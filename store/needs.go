package store

import "context"

// Need is what a making is for, and how much of it. A making has one at most.
type Need struct {
	Base
	MakingID int64
	Plan     NeedPlan `gorm:"serializer:json"`
}

// NeedPlan is what a need is worked out from. 0 and null are what was not told.
type NeedPlan struct {
	What   string   `json:"what"` // in the maker's words
	Way    string   `json:"way"`  // yarn, batts, felt, figure, lot
	Length float64  `json:"length_m"`
	Grist  float64  `json:"grist_m_per_100g"`
	WPI    float64  `json:"wpi"` // where the grist is estimated by it
	Weight float64  `json:"weight_g"`
	Plies  int      `json:"plies"`
	Count  int      `json:"count"` // of batts or rolags
	Each   float64  `json:"each_g"`
	Area   float64  `json:"area_cm2"`
	Laid   float64  `json:"g_per_m2"`
	Felt   float64  `json:"felt_g"`
	LotID  *int64   `json:"lot_id"` // all of this lot
	Locked []string `json:"locked"`
	// Allowances; null is what is usual.
	MarginPct    *float64   `json:"margin_pct"`
	WastePct     *float64   `json:"waste_pct"`
	FinishingPct *float64   `json:"finishing_pct"`
	TakeUpPct    *float64   `json:"take_up_pct"`
	ShrinkagePct *float64   `json:"shrinkage_pct"`
	SampleG      *float64   `json:"sample_g"`
	Uses         []string   `json:"uses"` // next-to-skin, hard-wearing, socks, felting, machine-wash
	Look         string     `json:"look"` // even, heather, streaky, striped, gradient, textured, or none
	Parts        []NeedPart `json:"parts"`
	Looks        []NeedLook `json:"looks,omitempty"` // of blends that are to look otherwise
}

// NeedLook is how one blend is to look, where that is otherwise than the whole.
type NeedLook struct {
	BlendID int64  `json:"blend_id"`
	Look    string `json:"look"`
}

// LookOf is how a blend is to look.
func (p NeedPlan) LookOf(blend int64) string {
	for _, v := range p.Looks {
		if v.BlendID == blend {
			return v.Look
		}
	}
	return p.Look
}

// NeedPart is how much of the fibre goes into a blend, in parts.
type NeedPart struct {
	BlendID int64   `json:"blend_id"`
	Parts   float64 `json:"parts"`
}

// NeedOf returns the need of a making; ErrNotFound where it has none.
func (s *Store) NeedOf(ctx context.Context, making int64) (n Need, err error) {
	return n, found(s.reading(ctx).First(&n, "making_id = ?", making).Error)
}
