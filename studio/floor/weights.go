package floor

import (
	"slices"
	"time"

	"fairtangle/core/carding"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
)

// InGrams is a kept weight in grams.
func InGrams(m unit.Milligrams) float64 { return float64(m.Grams()) }

// CellOf is a kept cell as it stands at the scale.
func CellOf(c store.WeighoutCell) weigh.Cell {
	return weigh.Cell{Unit: c.Unit, Component: c.Position, Planned: c.PlannedMg, Wanted: c.TargetMg, Weighed: c.WeighedMg, Done: c.Done}
}

// NowOf is what a cell comes to as things stand.
func NowOf(c store.WeighoutCell) unit.Milligrams { return CellOf(c).Now() }

// TimeForm is how moments travel.
const TimeForm = time.RFC3339

// RankOf is the place of a look among the looks, 0 for what is least carded; -1: there is no such.
func RankOf(look string) int { return slices.Index(carding.Looks(), carding.Look(look)) }
