// Package carding foretells what becomes of fibre that was laid on a drum, a board
// or hand cards: where each component lies after each pass, how finely it is mixed
// there, and what an eye calls that.
//
// The batt is cut open at the seam and laid flat: a grid of lanes across, cells
// along the fibre and layers from the cloth outwards, with the grams of each slot
// in each cell. A slot is the fibre of one component that came in by one method in
// one state. Fibre is either opened, mixed below what an eye resolves, or in clumps,
// which are drawn into streaks. Everything is seeded and repeatable, and the mass of
// each slot is kept to 1e-12 of it.
package carding

import (
	"errors"
	"fmt"
	"math"
)

// Limits of a simulation.
const (
	MaxSlots  = 48
	MaxLays   = 2000
	MaxPasses = 20
	MaxTurns  = 20   // of strips and what joins, fed turn about
	LeastWide = 50.0 // mm
	MostWide  = 600.0
	LeastLong = 90.0
	MostLong  = 1500.0
)

// bins is into how many parts a strip is divided while it is fed again.
const bins = 32

// Grid is how finely a batt is looked at.
type Grid struct{ Lanes, Cells, Layers int }

// FineGrid is the usual grid for a cloth of a width and a length in mm: lanes of
// about 2.1 mm that all ways of dividing the batt fit into, cells of about 2.3 mm.
func FineGrid(width, length float64) Grid {
	return Grid{24 * max(1, int(math.Round(width/2.08/24))), bins * max(2, int(math.Round(length/75))), 12}
}

// Coarse is the grid for an answer while something is being moved: half as many
// lanes and cells, or as near to that as strips and bins allow.
func (g Grid) Coarse() Grid {
	half := func(n, of int) int { return of * max(1, int(math.Round(float64(n)/float64(2*of)))) }
	return Grid{half(g.Lanes, 24), half(g.Cells, bins), g.Layers}
}

// Bed is the cloth.
type Bed struct {
	WidthMM, LengthMM float64 // length round the drum, or up the board
	FullG             float64 // what a full one holds of this mix
	Open              bool    // a board or a card: its ends do not meet
}

// slot is fibre of one component that came in by one method in one state.
type slot struct {
	component int
	how       how
	unopened  float64 // part of it that is in clumps
	clump     float64 // grams of one
	cardings  int     // that it went through
	passes    int     // that it lost in: of that at which it was laid, and since
	ledger    float64 // grams that must be in the grid
	lost      float64 // grams in the latest pass
	fresh     bool    // came in at the latest pass
	from, to  float64 // of the staple that it is; to 0: all of it
	body      int     // the slot whose clumps it shares as their tip; -1: none
}

// asPlaced reports whether it lies as it was placed, not yet carded.
func (s slot) asPlaced() bool { return s.how == placed && s.cardings == 0 }

type how uint8

const (
	fed how = iota
	painted
	placed
)

// cardings is how often fibre is carded by coming in: once by the tray, never where it
// is laid on top.
func (h how) cardings() int {
	if h == fed {
		return 1
	}
	return 0
}

// Batt is what lies on the cloth.
type Batt struct {
	Params
	bed     Bed
	grid    Grid
	seed    uint64
	op      uint64
	workers int
	covered bool // what is laid on now will be covered by what is fed later

	lane, cell float64 // mm
	full       float64 // grams of one lane of one layer that was fed
	k          int     // slots that there is room for
	slots      []slot
	tips       []staplePart // of each component; nil: none has any
	alone      []int        // through how many passes each component went by itself; nil: none
	m          []float32    // grams; cell, slot, lane, layer from fastest to slowest
	high       []float64    // grams in the fed layers of each lane (on a board: of each block of a lane)
	sum        []float64    // grams of each slot in each layer, as they really are
	tapers     [][]float64
	work       work
	lostFirst  []float64 // of each component that came in at the latest pass, in that; set by Run
}

// work is room that is used again, so that nothing is allocated in a pass.
type work struct {
	weight, cumulated []float64
	from, to          []float64 // grams by lane, slot and bin
	height            []float64 // by lane and bin
	opened            []float64 // by layer, lane and slot
	before            []float64 // grams of each slot in each layer before the pass
	streaks           []streak
	ordered           []streak
	count, next       []int
	row, side         []float64 // the weights of spreading sideways
}

// roundingMost is how far, relatively, many small additions to single-precision cells
// go astray at most; more is a mistake.
const roundingMost = 1e-5

var errMass = errors.New("mass was not kept")

// New makes an empty cloth with room for so many slots.
func New(bed Bed, grid Grid, p Params, seed uint64, slots int) (*Batt, error) {
	if err := check(bed, grid, slots); err != nil {
		return nil, err
	}
	b := &Batt{
		Params: p, bed: bed, grid: grid, seed: seed, workers: 1,
		lane: bed.WidthMM / float64(grid.Lanes), cell: bed.LengthMM / float64(grid.Cells),
		full: bed.FullG / float64(grid.Lanes*(grid.Layers-1)), k: slots,
	}
	n := grid.Lanes * slots
	b.m = make([]float32, n*grid.Cells*grid.Layers)
	b.high = make([]float64, grid.Lanes*b.blocks())
	b.sum = make([]float64, slots*grid.Layers)
	b.tapers = make([][]float64, grid.Cells+1)
	b.work = work{
		weight: make([]float64, grid.Lanes), cumulated: make([]float64, grid.Lanes*bins),
		from: make([]float64, n*bins), to: make([]float64, n*bins), height: make([]float64, grid.Lanes*bins),
		opened: make([]float64, n*grid.Layers), before: make([]float64, slots*grid.Layers),
		count: make([]int, grid.Layers+1), next: make([]int, grid.Layers), row: make([]float64, grid.Cells),
		side: sideways(p.SpreadMM, bed.WidthMM/float64(grid.Lanes)),
	}
	return b, nil
}

var errBounds = errors.New("a cloth, a grid or slots out of bounds")

func check(bed Bed, g Grid, slots int) error {
	cloth := bed.WidthMM >= LeastWide && bed.WidthMM <= MostWide && bed.LengthMM >= LeastLong && bed.LengthMM <= MostLong
	grid := g.Lanes >= 24 && g.Lanes%24 == 0 && g.Cells >= bins && g.Cells%bins == 0 && g.Layers >= 3
	if !cloth || !grid || !(bed.FullG > 0 && bed.FullG <= 1e5) || slots < 1 || slots > MaxSlots {
		return errBounds
	}
	return nil
}

// blocks is into how many parts along the height of a lane is known: on a drum the
// tray fills all of it alike.
func (b *Batt) blocks() int {
	if b.bed.Open {
		return max(1, b.grid.Cells/boardBlock)
	}
	return 1
}

// row is the cells of a slot in a lane of a layer.
func (b *Batt) row(z, x, k int) []float32 {
	at := ((z*b.grid.Lanes+x)*b.k + k) * b.grid.Cells
	return b.m[at : at+b.grid.Cells : at+b.grid.Cells]
}

// surface is the layer of what was painted or placed on top.
func (b *Batt) surface() int { return b.grid.Layers - 1 }

// layer is the fed layer at a height in grams of a lane; what exceeds the capacity
// gathers in the topmost one.
func (b *Batt) layer(high float64) int {
	return min(b.grid.Layers-2, int(high/b.full))
}

// inClumps is the part of a component that is in clumps when it comes in by a method, and the grams of one, where so much is usual.
// What was carded alone is a batt of so many passes: drawn on it is as that lay, and the tray opens it once more.
func (b *Batt) inClumps(component int, h how, unopened, clump float64) (part, grams float64) {
	if component >= len(b.alone) || b.alone[component] == 0 {
		return unopened, clump
	}
	again := b.alone[component]
	if h != fed {
		again, unopened, clump = again-1, b.Unopened, b.ClumpG
	}
	for range again {
		unopened, clump = unopened*b.Opening, max(clump*b.Thinning, b.LeastG)
	}
	return unopened, clump
}

// slotOf finds or makes the slot of fibre that comes in now.
func (b *Batt) slotOf(component int, h how, unopened, clump float64) (int, error) {
	for k, s := range b.slots {
		if s.component == component && s.how == h && s.unopened == unopened && s.clump == clump && s.cardings == h.cardings() {
			return k, nil
		}
	}
	if len(b.slots) == b.k {
		return 0, fmt.Errorf("more than %d sorts of fibre", b.k)
	}
	b.slots = append(b.slots, b.ends(slot{component: component, how: h, unopened: unopened, clump: clump, cardings: h.cardings(), passes: 1}))
	return len(b.slots) - 1, nil
}

// Grams returns what lies on the cloth of each of n components.
func (b *Batt) Grams(n int) []float64 {
	out := make([]float64, n)
	for _, s := range b.slots {
		out[s.component] += s.ledger
	}
	return out
}

// Lost returns what the latest pass lost of each of n components: of what was there before, and of what came in at it.
func (b *Batt) Lost(n int) []float64 {
	out := make([]float64, n)
	copy(out, b.lostFirst)
	for _, s := range b.slots {
		out[s.component] += s.lost
	}
	return out
}

// settle makes the grams in the grid equal to the ledger, to the last bit that the
// cells can hold. A difference that is no rounding is a mistake and refused.
func (b *Batt) settle() error {
	for k := range b.slots {
		if err := b.settled(k); err != nil {
			return err
		}
	}
	return nil
}

// settled is settle of the one slot that something was laid of.
func (b *Batt) settled(k int) error {
	var have float64
	for z := range b.grid.Layers {
		have += b.sum[z*b.k+k]
	}
	rest := b.slots[k].ledger - have
	if math.Abs(rest) > roundingMost*b.slots[k].ledger {
		return fmt.Errorf("%w: slot %d is %g off, of %g", errMass, k, rest, b.slots[k].ledger)
	}
	b.give(k, rest)
	return nil
}

// keptTo is to which part of a slot its mass is kept.
const keptTo = 1e-12

// tries is into how many rows a rounding difference is offered that none takes: then it is finer than what cells of the slot can hold.
const tries = 8

// give puts a rounding difference into cells that hold much more.
func (b *Batt) give(k int, rest float64) {
	enough, refused := keptTo*b.slots[k].ledger/2, 0
	for z := 0; z < b.grid.Layers && math.Abs(rest) > enough; z++ {
		if b.sum[z*b.k+k] == 0 {
			continue
		}
		for x := 0; x < b.grid.Lanes && math.Abs(rest) > enough; x++ {
			if refused == tries {
				return
			}
			row, least := b.row(z, x, k), 4*math.Abs(rest)
			for c, v := range row {
				if float64(v) > least {
					row[c] = float32(float64(v) + rest)
					took := float64(row[c]) - float64(v)
					b.sum[z*b.k+k] += took
					if rest -= took; took == 0 {
						refused++
					}
					break
				}
			}
		}
	}
}
