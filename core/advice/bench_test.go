package advice

import (
	"testing"

	"fairtangle/core/layup"
)

// BenchmarkJudge is all rules, with mends, over a blend of eight fibres in sixteen layers.
func BenchmarkJudge(b *testing.B) {
	q := plan(fibres(
		of("corriedale", 0.2), of("merino", 0.2), of("lincoln", 0.15), of("silk_tussah", 0.15), of("viscose", 0.1), of("romney", 0.1), of("flax_top", 0.08),
		of("film_metallised", 0.02)), on(drumOf(72)), goes(2), weighs(240, 4), makes("batt"), looks("even"), use("socks"))
	for range 2 {
		q.Layers = append(q.Layers, layers(layup.Feed, 6, 6, 4.5, 4.5, 3, 3, 2.4, 0.6)...)
	}
	for b.Loop() {
		Judge(q, nil)
	}
}
