package train

import (
	"math"
	"slices"
	"sync"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

// dyed and undyed are the fibres of exercises: dyed ones differ in hue, undyed ones hardly.
var (
	dyed = []Lot{
		{"deep teal", "#1f4e52"}, {"grey-blue", "#6b8799"}, {"indigo", "#2b3a67"}, {"sky", "#8fb4cf"}, {"moss", "#5f6b35"}, {"leaf green", "#5a8f45"},
		{"straw", "#d8c07a"}, {"gold", "#c9a24a"}, {"rust", "#a5512f"}, {"brick red", "#8f3a34"}, {"heather", "#8a6b8f"}, {"plum", "#5a3350"},
		{"rose", "#c98a93"}, {"cream", "#efe6d0"}, {"charcoal", "#3a3a3c"},
	}
	undyed = []Lot{
		{"white", "#efe8d8"}, {"oat", "#cfc2ab"}, {"light grey", "#aba49a"}, {"mid grey", "#827d77"}, {"dark grey", "#57524d"}, {"near black", "#2f2b28"},
	}
)

// How far lots of one exercise lie from each other at least, CIEDE2000, dyed or undyed: less would leave it open which of them is there.
const (
	apart       = 14.0
	undyedApart = 8.0
)

// fibres draws n lots that can be told apart; by lightness alone where that is trained.
func fibres(c *chance, n int, byLightness bool) []Lot {
	from, least := dyed, apart
	if byLightness {
		from, least = undyed, undyedApart
	}
	var out []Lot
	for _, i := range c.order(len(from)) {
		l := from[i]
		if len(out) < n && !slices.ContainsFunc(out, func(o Lot) bool { return colour.CIEDE2000(labOf(o.Hex), labOf(l.Hex)) < least }) {
			out = append(out, l)
		}
	}
	return out
}

func labOf(hex string) colour.Lab {
	c, err := colour.ParseHex(hex)
	if err != nil {
		return colour.Lab{}
	}
	return c.Lab()
}

// known are the colours of all fibres of exercises, worked out once.
var known = sync.OnceValue(func() map[string]colour.Reflectance {
	out := map[string]colour.Reflectance{}
	for _, l := range slices.Concat(dyed, undyed) {
		if c, err := colour.ParseHex(l.Hex); err == nil {
			out[l.Hex], _ = c.Reflectance()
		}
	}
	return out
})

// mixed is the colour of lots carded until they are even.
func mixed(lots []Lot, shares []float64) colour.Lab {
	of := make([]colour.Reflectance, len(lots))
	for i, l := range lots {
		of[i] = known()[l.Hex]
	}
	even := mix.Default().Even(of, shares)
	return even.Lab()
}

func hexOf(c colour.Lab) string { return c.Linear().Clipped().Hex() }

// step is what shares of exercises are whole numbers of.
const step = 0.05

// parted draws parts of a whole in steps, none below least; they add up to MostParts.
func parted(c *chance, n int, least int) []float64 {
	out := make([]float64, n)
	left := MostParts - n*least
	for i := range out {
		out[i] = float64(least)
	}
	for range left {
		// What has some draws more, so that shares differ.
		out[int(math.Floor(math.Pow(c.part(), 1.6)*float64(n)))]++
	}
	return mingled(c, out)
}

// mingled are the same in another order.
func mingled(c *chance, v []float64) []float64 {
	out := make([]float64, len(v))
	for i, k := range c.order(len(v)) {
		out[i] = v[k]
	}
	return out
}
