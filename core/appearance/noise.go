package appearance

import (
	"cmp"
	"math"
	"slices"
	"sync"
)

// Tiles of noise are drawn out along the fibre (u) and periodic both ways.
const (
	tileU, tileV = 1024, 256
	maskU, maskV = tileU - 1, tileV - 1
	shiftU       = 10
)

// tile is a field of noise: exactly uniform, made into what a race or a wave needs.
type tile []float32

// noise is every field of it.
type noise struct{ warp, patch, fibre, line tile }

// tiles are built once, all at the same time; sorting takes a moment.
var tiles = sync.OnceValue(func() *noise {
	var t noise
	var all sync.WaitGroup
	all.Go(func() { t.warp = made(1, 90, 40, normal) })
	all.Go(func() { t.patch = made(2, 110, 4, race) })
	all.Go(func() { t.fibre = made(3, 45, 1, race) })
	all.Go(func() { t.line = made(4, 60, 1, normal) })
	all.Wait()
	return &t
})

// race turns a uniform number into one of a race of exponentials: of several, each
// times its share, the largest belongs to each with the probability of its share.
func race(u float64) float64 { return 1 / -math.Log(u) }

func normal(u float64) float64 { return math.Sqrt2 * math.Erfinv(2*u-1) }

// made makes a tile: white noise, twice a moving mean of a samples along and b
// across, each value replaced by its rank, and that by kind.
func made(seed uint64, a, b int, kind func(float64) float64) tile {
	v := make([]float64, tileU*tileV)
	state := seed * 0x9E3779B97F4A7C15
	for i := range v {
		state += 0x9E3779B97F4A7C15
		z := state
		z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
		z = (z ^ z>>27) * 0x94D049BB133111EB
		v[i] = float64((z^z>>31)>>11) / (1 << 53)
	}
	for range 2 {
		means(v, tileV, tileU, tileU, 1, a)
		means(v, tileU, tileV, 1, tileU, b)
	}
	order := make([]int, len(v))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(i, j int) int { return cmp.Compare(v[i], v[j]) })
	out := make(tile, len(v))
	for rank, i := range order {
		out[i] = float32(kind((float64(rank) + 0.5) / float64(len(v))))
	}
	return out
}

// means replaces each value by the circular mean of n along lines of samples that are
// step apart; the lines are stride apart.
func means(v []float64, lines, samples, stride, step, n int) {
	if n < 2 {
		return
	}
	old := make([]float64, samples)
	for l := range lines {
		at := l * stride
		var sum float64
		for i := range samples {
			old[i] = v[at+i*step]
			if i < n {
				sum += old[i]
			}
		}
		for i := range samples {
			v[at+i*step] = sum / float64(n)
			sum += old[(i+n)%samples] - old[i]
		}
	}
}

// far keeps coordinates above 0; it is a whole number of tiles.
const far = 1 << 14

// across is the value at u and, interpolated, at v.
func (t tile) across(u, v float32) float32 {
	iu := int(u+far) & maskU
	v += far
	iv := int(v)
	f := v - float32(iv)
	a, b := t[(iv&maskV)<<shiftU|iu], t[((iv+1)&maskV)<<shiftU|iu]
	return a + (b-a)*f
}

// both is interpolated both ways.
func (t tile) both(u, v float32) float32 {
	u += far
	iu := int(u)
	f := u - float32(iu)
	a, b := t.across(float32(iu-far), v), t.across(float32(iu+1-far), v)
	return a + (b-a)*f
}
