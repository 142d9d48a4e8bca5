// Package slow has requests that take as long as they can: at the bounds of what is taken, and by
// chance below them.
package slow

import (
	"fmt"
	"math/rand/v2"
	"strings"

	"fairtangle/core/colour"
)

// Request is a call that keeps nothing, under the root of the API.
type Request struct{ Path, Body string }

var (
	kinds        = []string{"silk_mulberry", "angora_rabbit", "merino_superfine", "lincoln", "nylon_trilobal", "romney", "alpaca_suri", "flax_top", "cashmere"}
	preparations = []string{"combed_top", "neps", "washed_locks", "carded_sliver"}
)

// Requests are at the bounds of every call that can take long.
func Requests() []Request {
	return requests(func(most int) int { return most }, func(i, n int) int { return i * 37 % n })
}

// Random are requests of the same shapes, of any size up to their bounds and of any values.
func Random(r *rand.Rand) []Request {
	return requests(func(most int) int { return 2 + r.IntN(most-1) }, func(_, n int) int { return r.IntN(n) })
}

// requests are of sizes up to the most, and of values below n.
func requests(size func(most int) int, value func(i, n int) int) []Request {
	hex := func(i int) string {
		return colour.Linear{float64(value(i, 256)) / 255, float64(value(i*3+1, 256)) / 255, float64(value(i*5+2, 256)) / 255}.Hex()
	}
	components := size(64)
	return []Request{
		{"order", `{"jobs":[` + some(size(200), func(i int) string {
			return fmt.Sprintf(`{"name":"%d","colour":{"hex":%q},"sheds":%t,"minutes":%d}`, i, hex(i), value(i, 7) == 0, 1+value(i, 40))
		}) + `],"cleaning_min":12,"quick_min":4,"free_min":900}`},
		{"advice", `{"components":[` + some(components, func(i int) string {
			return fmt.Sprintf(`{"name":"%d","kind":%q,"preparation":%q,"colour":{"hex":%q},"share":%.17g,"staple_mm":%d,"dyed_by_hand":true,"bleed_tested":false}`,
				i, kinds[value(i, len(kinds))], preparations[value(i, 4)], hex(i), 1/float64(components), 20+5*value(i, 64))
		}) + `],"equipment":{"preset":"drum_standard_hand"},"passes":9,"goal":"even","total_g":900,"step_g":0.1,"units":1,"layers":[` +
			some(size(200), func(i int) string {
				return fmt.Sprintf(`{"lays":[{"component":%d,"grams":2,"method":"feed"},{"component":%d,"from":0.2,"to":0.4,"grams":1,"method":"place"}]}`,
					value(i, components), value(i+9, components))
			}) + `]}`},
		{"gradient", `{"stops":[` + some(size(60), func(i int) string {
			return fmt.Sprintf(`{"colour":{"hex":%q},"grams":40}`, hex(i))
		}) + `],"school":"even","bridges":3,"max_jump":4,"reorder":true}`},
		{"correct", `{"made":{"colour":{"hex":"#7d8f92"},"grams":100},"target":{"hex":"#405060"},"components":[` +
			some(size(200), func(i int) string {
				return fmt.Sprintf(`{"id":"%d","colour":{"hex":%q},"available_g":50}`, i, hex(i))
			}) + `],"max_components":4,"count":50,"max_added_g":400,"step_g":0.1}`},
		{fmt.Sprintf("yarn/swatch.png?stitches=%d&rows=%d&stitch_mm=2", size(120), size(160)),
			`{"equipment":{"preset":"drum_standard_hand"},"seed":1,"passes":[` +
				some(size(9), func(int) string { return `{"split":4,"refeed":"spread"}` }) + `],"components":[` +
				some(8, func(i int) string {
					return fmt.Sprintf(`{"name":"%d","kind":%q,"colour":{"hex":%q}}`, i, kinds[value(i, len(kinds))], hex(i))
				}) + `],"layers":[` +
				some(8, func(i int) string { return fmt.Sprintf(`{"lays":[{"component":%d,"grams":6,"method":"feed"}]}`, i) }) +
				`],"division":{"way":"strips","parts":4},"ply":"single","singles_tex":60}`},
	}
}

func some(n int, one func(i int) string) string {
	list := make([]string, n)
	for i := range list {
		list[i] = one(i)
	}
	return strings.Join(list, ",")
}
