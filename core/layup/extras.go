package layup

import (
	"math"
	"slices"
)

// room makes sure that there are so many places between two layers: the heaviest are laid in thinner ones, as far as the
// scale's steps go. A sandwich is left as it is where it has one.
func (k *build) room(gaps int) {
	layers := len(k.plan.Layers)
	if layers == 0 || k.o.Builder == Sandwich && layers > 1 {
		return
	}
	parts := make([]int, layers)
	for i := range parts {
		parts[i] = 1
	}
	thick := func(i int) float64 {
		var g float64
		for _, v := range k.plan.Layers[i].Lays {
			g += v.Grams
		}
		return g / float64(parts[i])
	}
	for n := layers; n < gaps+1; n++ {
		most := 0
		for i := range parts {
			if thick(i) > thick(most)+speck {
				most = i
			}
		}
		parts[most]++
	}
	for i := layers - 1; i >= 0; i-- {
		if parts[i] > 1 {
			k.plan, _ = k.plan.Split(i, parts[i], k.o.Step)
		}
	}
}

// gaps is between how many layers fibre of a first pass is scattered, so that no heap of it lies in one place.
func (k *build) gaps() int {
	var grams float64
	for _, i := range k.extras {
		if k.plan.JoinsAt(i) == 1 {
			grams += k.fibres[i].Grams
		}
	}
	return min(max(1, int(math.Ceil(grams/k.bed.tray()-1e-9))), mostGaps)
}

// between scatters fibre between the layers, the same in each gap, whole width; what waits for a later pass all in the
// middle. What has nothing to lie between is laid as it is.
func (k *build) between() {
	if len(k.extras) == 0 {
		return
	}
	k.room(k.gaps())
	if len(k.plan.Layers) < 2 {
		for _, i := range k.extras {
			k.put(k.over(i, k.fibres[i].Grams))
		}
		return
	}
	gaps := len(k.plan.Layers) - 1
	added := make([]Layer, gaps)
	for _, i := range k.extras {
		if k.plan.JoinsAt(i) > 1 { // all that joins later lies in one place
			added[gaps/2].Lays = append(added[gaps/2].Lays, k.over(i, k.fibres[i].Grams))
			continue
		}
		for at, g := range k.split(i, even(gaps)...) {
			if g > speck {
				added[at].Lays = append(added[at].Lays, k.over(i, g))
			}
		}
	}
	for at := gaps - 1; at >= 0; at-- {
		if len(added[at].Lays) > 0 {
			k.plan.Layers = slices.Insert(k.plan.Layers, at+1, added[at])
		}
	}
}

// putLocks lays locks just below the top layer; on a board that is rolled, in
// each rolag's zone, clear of the cuts.
func (k *build) putLocks() {
	if len(k.locks) == 0 {
		return
	}
	k.room(1)
	var layer Layer
	for _, i := range k.locks {
		zones := max(k.plan.Rolags, 1)
		for z, g := range k.split(i, even(zones)...) {
			if g <= speck {
				continue
			}
			v := k.over(i, g)
			v.Start, v.End = k.zone(z, zones)
			layer.Lays = append(layer.Lays, v)
		}
	}
	at := max(0, len(k.plan.Layers)-1)
	if at < len(k.plan.Layers) && k.fibres[k.plan.Layers[at].Lays[0].Component].Extra() {
		at++ // nothing else covers the extras
	}
	k.plan.Layers = slices.Insert(k.plan.Layers, at, layer)
}

// clearMM is how far a lock's lay stays from a cut where there is room.
const clearMM = 10

// zone is where the locks of the z-th of n rolags lie along the board.
func (k *build) zone(z, n int) (start, end float64) {
	start, end = float64(z)/float64(n), float64(z+1)/float64(n)
	gap := min(clearMM, k.bed.LengthMM/float64(n)/4) / k.bed.LengthMM
	if z > 0 {
		start += gap
	}
	if z < n-1 {
		end -= gap
	}
	return onGrid(start), onGrid(end)
}
