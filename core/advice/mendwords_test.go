package advice

import (
	"slices"
	"testing"

	"fairtangle/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What each mend says and changes, of the first case of its rule; it reads like what the table says to do.
var mendWords = []struct{ rule, verb, said string }{
	{"R01", "tell", "corriedale pulled or cut to 108 mm."},
	{"R02", "tell", "corriedale pulled or cut to 100 mm."},
	{"R03", "tell", "lincoln pulled or cut to 100 mm."},
	{"R08", "share", "Slippery fibre 30 %, and corriedale 70 %."},
	{"R09", "share", "Slippery fibre 30 %, and corriedale 55 %."},
	{"R11", "share", "What glitters 2 %, and corriedale 98 %."},
	{"R12", "share", "Texture 10 %, and corriedale 90 %."},
	{"R13", "share", "corriedale 50 %; it lifts the short fibre and carries it."},
	{"R14", "share", "corriedale 64 %, for the spring."},
	{"R16", "units", "2 units of 35.5 g."},
	{"R17", "units", "2 units of 44 g."},
	{"R19", "order", "Each lane as wide as its grams ask: all lie equally thick."},
	{"R20", "order", "Each lane as wide as its grams ask: all lie equally thick."},
	{"R21", "tell", "154 turns of the drum."},
	{"R22", "tell", "A step before it: pull into wisps of one staple, lay them on the tray, let go."},
	{"R23", "tell", "25 turns a minute."},
	{"R24", "order", "4 g of corriedale first, over the whole width."},
	{"R25", "order", "A veil of 2 g of corriedale over it."},
	{"R26", "joins", "silk_tussah comes in at the last pass."},
	{"R27", "method", "locks_wool placed by hand, last of all."},
	{"R28", "order", "locks_wool clear of the cuts, each in the rolag that holds most of it."},
	{"R29", "method", "neps_wool scattered by hand on the drum."},
	{"R31", "order", "corriedale in 2 thin layers between the others."},
	{"R32", "tell", "Light strokes from the handle down, packed after each layer."},
	{"R33", "passes", "2 passes."},
	{"R34", "passes", "4 passes."},
	{"R35", "division", "Torn into 4 strips, each drawn thin."},
	{"R37", "joins", "neps_wool comes in at the last pass."},
	{"R38", "passes", "One pass: the colours stay apart."},
	{"R40", "tell", "Clean it first, and run some grams of scrap wool through."},
	{"R41", "tell", "Clean it first, and run some grams of scrap wool through."},
	{"R42", "tell", "Tested on white, wet: it holds its colour."},
	{"R45", "total", "104.2 g weighed in."},
	{"R46", "sample", "Weigh out a sample of a few grams first."},
	{"R47", "total", "99 g in all, which the shelf has."},
	{"R50", "tell", "Washed again, hotter, and rinsed."},
	{"R51", "tell", "Moving air, a mask that fits, wiped up wet."},
	{"R52", "tell", "Picked and shaken out."},
	{"R53", "tell", "Shaken, cut side down, over a mesh."},
	{"R54", "tell", "The tips are trimmed."},
	{"R55", "tell", "Parted, or kept together on purpose."},
	{"R56", "tell", "Dry: two weighings, six hours apart, agree."},
	{"R57", "tell", "The room has 50 % humidity now, and the fibre has lain in it."},
	{"R59", "tell", "Put apart, cared for, and no signs any more."},
	{"R62", "tell", "A rod of 6 mm."},
	{"R63", "tell", "Punis: firm, thin, rolled on one rod."},
	{"R64", "tell", "Round the drum, through a hole of 6 mm, half a staple at a time."},
	{"R65", "tell", "Along the lean, the drum turned back."},
	{"R66", "tell", "A label says what is in it."},
	{"R68", "tell", "All of it done."},
	{"R69", "tell", "Off, unplugged, and standing still."},
	{"R71", "tell", "No dye or acid any more today."},
	{"R72", "tell", "No child or pet near any more."},
	{"R73", "tell", "They are noted."},
	{"R74", "tell", "Rolled loosely, in a bag that breathes."},
}

// What a mend tells, told to the plan as it is, ends the finding: that is all that is kept of it.
func TestWhatMendsSayAndTell(t *testing.T) {
	for _, want := range mendWords {
		i := slices.IndexFunc(cases, func(c struct {
			rule        string
			fires, near []change
		}) bool {
			return c.rule == want.rule
		})
		require.GreaterOrEqual(t, i, 0, want.rule)
		q := plan(cases[i].fires...)
		a := Judge(q, nil)
		at := slices.IndexFunc(a.Findings, func(f Finding) bool { return f.Rule == want.rule })
		require.GreaterOrEqual(t, at, 0, want.rule)
		f := a.Findings[at]
		require.NotNil(t, f.Mend, want.rule)
		assert.Equal(t, want.verb, f.Mend.Verb, want.rule)
		assert.Equal(t, want.said, f.Mend.Preview.String(), want.rule)
		assert.Equal(t, want.verb == "tell", len(f.Mend.Tells) > 0, want.rule)
		if want.verb != "tell" {
			continue
		}
		told := plan(cases[i].fires...)
		told.Fibres = slices.Clone(told.Fibres)
		for _, v := range f.Mend.Tells {
			told.Tell(v.Key, v.Fibre, v.Value)
		}
		assert.False(t, judged(told, nil).has(f), "%s: told %v, it is found still", want.rule, f.Mend.Tells)
	}
	for rule, r := range byID {
		if r.mend == nil {
			continue
		}
		if slices.Contains([]string{"R06", "R07", "R10", "R18", "R30"}, rule) { // these have cases of their own, or none alone
			continue
		}
		assert.True(t, slices.ContainsFunc(mendWords, func(w struct{ rule, verb, said string }) bool { return w.rule == rule }), rule)
	}
}

// What is planned is said in the number that it is.
func TestPassesAreSaidAsTheyArePlanned(t *testing.T) {
	for passes, word := range map[int]string{1: "one pass", 2: "two passes"} {
		said := ""
		p := Plan{Goal: "even", Passes: passes, Fibres: []Fibre{of("corriedale", 0.95), of("jacob", 0.05)}}
		for _, f := range Judge(p, nil).Findings {
			if f.Rule == "R33" {
				said = f.What.In(unit.Metric{})
			}
		}
		assert.Contains(t, said, word)
	}
}
