package carding

import (
	"fairtangle/core/colour"
)

// Part is a piece of a batt: a strip of full length between two places across, or a
// rolag between two along a board, in mm; with the grams of each component in it.
type Part struct {
	From, To float64
	Grams    []float64
}

// Total is the grams of a part.
func (p Part) Total() float64 { return total(p.Grams) }

// Parts divides a batt so wide, whose lanes these are, into n strips of full length: of
// the same width, or, by weight, of the same grams. What lies in a lane that a cut goes
// through is divided in proportion; all parts add up to the batt.
func (s Shares) Parts(widthMM float64, n int, byWeight bool) []Part {
	lanes := s.Grams
	cuts := make([]float64, n+1) // in lanes
	for i := range cuts {
		cuts[i] = float64(i) * float64(len(lanes)) / float64(n)
	}
	if byWeight {
		weigh(cuts, lanes)
	}
	out, lane := make([]Part, n), widthMM/float64(len(lanes))
	for i := range out {
		from, to := cuts[i], cuts[i+1]
		out[i] = Part{from * lane, to * lane, make([]float64, len(lanes[0]))}
		for x, g := range lanes {
			part := min(to, float64(x+1)) - max(from, float64(x))
			if part <= 0 {
				continue
			}
			for k, m := range g {
				out[i].Grams[k] += part * m
			}
		}
	}
	return out
}

// weigh moves the cuts to where the same grams lie between each two of them.
func weigh(cuts []float64, lanes [][]float64) {
	var all float64
	for _, g := range lanes {
		all += total(g)
	}
	n := len(cuts) - 1
	i, below := 1, 0.0
	for x, g := range lanes {
		here := total(g)
		for i < n && here > 0 && below+here >= all*float64(i)/float64(n) {
			cuts[i] = float64(x) + (all*float64(i)/float64(n)-below)/here
			i++
		}
		below += here
	}
}

// RolagParts are the rolags of a board with where they lie along it.
func (b *Batt) RolagParts(n, components int) []Part {
	out := make([]Part, n)
	for i, g := range b.Rolags(n, components) {
		out[i] = Part{float64(i) * b.bed.LengthMM / float64(n), float64(i+1) * b.bed.LengthMM / float64(n), g}
	}
	return out
}

// Differences says how far parts differ: the colour of all of them mixed evenly, that of
// each, its difference from all, and the largest between two (CIEDE2000).
func (p *Palette) Differences(parts []Part) (even colour.Linear, each []colour.Linear, fromAll []float64, most float64) {
	all := make([]float64, len(p.Linear))
	for _, v := range parts {
		for k, g := range v.Grams {
			all[k] += g
		}
	}
	even = p.evenOf(all)
	mean := even.Lab()
	each, fromAll = make([]colour.Linear, len(parts)), make([]float64, len(parts))
	for i, v := range parts {
		if v.Total() <= 0 {
			continue
		}
		each[i] = p.evenOf(v.Grams)
		fromAll[i] = colour.CIEDE2000(mean, each[i].Lab())
		for j := range i {
			if parts[j].Total() > 0 {
				most = max(most, colour.CIEDE2000(each[j].Lab(), each[i].Lab()))
			}
		}
	}
	return even, each, fromAll, most
}

// evenOf is the colour of grams mixed evenly.
func (p *Palette) evenOf(grams []float64) colour.Linear {
	shares := make([]float32, len(grams))
	for k, g := range grams {
		shares[k] = float32(g / total(grams))
	}
	return p.Even(shares)
}
