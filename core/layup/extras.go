package layup

import "slices"

// room makes sure that there is a place between two layers: a single layer is
// laid in two halves.
func (k *build) room() {
	if len(k.plan.Layers) == 1 {
		k.plan, _ = k.plan.Split(0, 2, k.o.Step)
	}
}

// between lays neps, noil, threads and film between the layers, the same in
// each gap, whole width; what waits for a later pass all in the middle. What has
// nothing to lie between is laid as it is.
func (k *build) between() {
	if len(k.extras) == 0 {
		return
	}
	k.room()
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
	k.room()
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
