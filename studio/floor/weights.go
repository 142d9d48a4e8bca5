package floor

import (
	"fairtangle/core/carding"
	"fairtangle/core/unit"
	"fairtangle/store"
	"slices"
	"time"
)

// InGrams is a kept weight in grams.
func InGrams(m unit.Milligrams) float64 { return float64(m.Grams()) }

// NowOf is what a cell is to weigh as things stand: what was weighed where it
// is done, else what is wanted, or already lies in the bowl.
func NowOf(c store.WeighoutCell) unit.Milligrams {
	if c.Done && c.WeighedMg > 0 {
		return c.WeighedMg
	}
	return max(c.TargetMg, c.WeighedMg)
}

// TimeForm is how moments travel.
const TimeForm = time.RFC3339

// RankOf is the place of a look among the looks, 0 for what is least carded; -1: there is no such.
func RankOf(look string) int { return slices.Index(carding.Looks(), carding.Look(look)) }
