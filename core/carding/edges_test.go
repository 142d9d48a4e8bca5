package carding

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// edgeMM is over how many mm across the share of a component falls from nine tenths to one tenth, at the border of two halves.
func edgeMM(b *Batt, component int) float64 {
	by := make([]float64, b.grid.Lanes)
	var most float64
	for x := range by {
		var all float64
		for k, s := range b.slots {
			for z := range b.grid.Layers {
				for _, v := range b.row(z, x, k) {
					if all += float64(v); s.component == component {
						by[x] += float64(v)
					}
				}
			}
		}
		by[x] /= all
	}
	for _, v := range by[len(by)/8 : len(by)/3] {
		most += v / float64(len(by)/3-len(by)/8)
	}
	at := func(part float64) float64 { // the last place at which so much of it lies
		for x := len(by) - 1; x > 0; x-- {
			if by[x] < part*most && by[x-1] >= part*most {
				return (float64(x) - 0.5 + (by[x-1]-part*most)/(by[x-1]-by[x])) * b.lane
			}
		}
		return 0
	}
	return at(0.1) - at(0.9)
}

// TestFedAndPaintedDiffer: what is fed is spread by the small drum and strays by its edge (2.563 × 4 mm); what is painted keeps its
// stroke, 8 mm at most; after a pass whose strips are spread both lie everywhere alike.
func TestFedAndPaintedDiffer(t *testing.T) {
	const seeds = 6
	for _, painted := range []bool{false, true} {
		var edge, left, all float64
		for seed := range uint64(seeds) {
			b, err := New(Bed{WidthMM: 200, LengthMM: 580, FullG: 70}, FineGrid(200, 580), DefaultParams(), seed, 8)
			require.NoError(t, err)
			for c, from := range []float64{0, 100} {
				if painted {
					require.NoError(t, b.Paint(c, 20, from, from+100, 0, 1))
				} else {
					require.NoError(t, b.Feed(c, 20, from, from+100, Teased))
				}
			}
			edge += edgeMM(b, 0) / seeds
			require.NoError(t, b.Card(Pass{Strips: 4, Refeed: Spread}))
			for x := range b.grid.Lanes {
				for k, s := range b.slots {
					for z := range b.grid.Layers {
						for _, v := range b.row(z, x, k) {
							if s.component == 0 {
								all += float64(v)
							}
							if s.component == 0 && x < b.grid.Lanes/2 {
								left += float64(v)
							}
						}
					}
				}
			}
		}
		if painted {
			assert.LessOrEqual(t, edge, 8.0, "painted")
		} else {
			assert.GreaterOrEqual(t, edge, 10.0, "fed")
		}
		assert.InDelta(t, 0.5, left/all, 0.05, "spread, painted %v", painted)
	}
}

func TestBoundsOfAClothAndItsLays(t *testing.T) {
	good, grid := Bed{WidthMM: 200, LengthMM: 580, FullG: 60}, FineGrid(200, 580)
	_, err := New(good, grid, DefaultParams(), 1, 3)
	require.NoError(t, err)
	for name, bad := range map[string]struct {
		bed   Bed
		grid  Grid
		slots int
	}{
		"narrow": {Bed{WidthMM: 10, LengthMM: 580, FullG: 60}, grid, 3}, "long": {Bed{WidthMM: 200, LengthMM: 9000, FullG: 60}, grid, 3},
		"empty": {Bed{WidthMM: 200, LengthMM: 580}, grid, 3}, "no slots": {good, grid, 0}, "too many": {good, grid, MaxSlots + 1},
		"odd lanes": {good, Grid{25, grid.Cells, 12}, 3}, "odd cells": {good, Grid{24, 33, 12}, 3}, "flat": {good, Grid{24, 32, 2}, 3},
	} {
		_, err := New(bad.bed, bad.grid, DefaultParams(), 1, bad.slots)
		assert.ErrorIs(t, err, errBounds, name)
	}
	lay := Lay{To: 1, End: 1, Grams: 5, Method: FeedIt}
	plan := func(v Lay) error {
		return (&Plan{Bed: good, Components: make([]Component, 1), Layers: [][]Lay{{v}}}).Check()
	}
	require.NoError(t, plan(lay))
	for _, change := range []func(*Lay){
		func(v *Lay) { v.To = 1.2 }, func(v *Lay) { v.From = -0.1 }, func(v *Lay) { v.From = 1 }, func(v *Lay) { v.End = 1.2 }, func(v *Lay) { v.Start = -0.1 },
		func(v *Lay) { v.Component = 1 }, func(v *Lay) { v.Component = -1 }, func(v *Lay) { v.Chunky = 11 }, func(v *Lay) { v.Method = "thrown" },
	} {
		bad := lay
		change(&bad)
		assert.Error(t, plan(bad), "%+v", bad)
	}
}
