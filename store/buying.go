package store

import "fairtangle/core/unit"

// Source is where fibre is bought, in the maker's own words.
type Source struct {
	Base
	Name          string
	PostageCents  int64
	FreeFromCents int64      // of goods, from which no postage is asked; 0: it always is
	Discounts     []Discount `gorm:"serializer:json"`
	Note          string
}

// Discount takes so many percent off an order of so much.
type Discount struct {
	FromCents int64   `json:"from_cents"`
	Pct       float64 `json:"pct"`
}

// Offer is a pack that a source sells, at a price that the maker has noted.
type Offer struct {
	Base
	SourceID int64
	Name     string
	Kind     string
	Hex      string
	PackMg   unit.Milligrams
	Cents    int64        // of one pack
	Breaks   []PriceBreak `gorm:"serializer:json"`
}

// PriceBreak is the price of each pack from so many on.
type PriceBreak struct {
	From  int   `json:"from"`
	Cents int64 `json:"cents"`
}

// BuyList is what is to be bought for makings.
type BuyList struct {
	Base
	Name    string
	Makings []int64   `gorm:"serializer:json"`
	Items   []BuyItem `gorm:"serializer:json"`
}

// BuyItem is a line of it. LotID is set when it has come.
type BuyItem struct {
	Key         int64           `json:"key"`
	Name        string          `json:"name"`
	Kind        string          `json:"kind"`
	Preparation string          `json:"preparation"`
	Hex         string          `json:"hex"`
	Mg          unit.Milligrams `json:"mg"`
	For         string          `json:"for"` // names of makings
	LotID       *int64          `json:"lot_id,omitempty"`
	Own         bool            `json:"own,omitempty"` // no making asks for it
}
