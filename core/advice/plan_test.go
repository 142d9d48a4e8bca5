package advice

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/layup"
)

// What lies thick and thin on purpose is no fault, however thin.
func TestThickAndThinOnPurpose(t *testing.T) {
	uneven := func(q *Plan) { q.Uneven = true }
	for _, rule := range []string{"R19", "R20"} {
		with := []change{fibres(of("corriedale", 1)), on(drumOf(72)), laidAs(twoLanes(35, 5))}
		found := func(list []change) bool {
			var q Plan
			for _, c := range list {
				c(&q)
			}
			return slices.ContainsFunc(judged(q, nil).Findings, func(f Finding) bool { return f.Rule == rule })
		}
		assert.True(t, found(with), rule)
		assert.False(t, found(append(with, uneven)), rule)
	}
}

// Half a gram that is laid is what a unit weighs, whatever the total says.
func TestAUnitIsWhatIsLaid(t *testing.T) {
	p := Plan{TotalG: 40, Units: 2, Layers: []layup.Layer{{Lays: []layup.Lay{{Grams: 0.5}}}}}
	assert.InDelta(t, 0.5, p.UnitG(), 1e-12)
	p.Layers = nil
	assert.InDelta(t, 20, p.UnitG(), 1e-12)
}

func TestNoRuleHasNoMend(t *testing.T) {
	assert.False(t, Mendable("R999"))
	assert.True(t, Mendable("R08"))
}

// A lane that is too full is named by where it lies, in percent of the width.
func TestALaneIsNamedByItsPlace(t *testing.T) {
	p := layup.Plan{Layers: twoLanes(30, 10)}
	bed := *drum72()
	fibre := layup.Fibre{Name: "grey", Grams: 40, Wanted: 40, Family: "wool", Crimp: "high", Cohesion: "grippy", StapleMM: 90}
	list := []layup.Fibre{fibre}
	said := ""
	for _, f := range (LaidPlan{Plan: p, Bed: bed, Fibres: list, Passes: 1, Survey: p.Survey(bed, list, 1)}).Judge(nil).Findings {
		said += f.What.String()
	}
	assert.Contains(t, said, "from 0 to 50 % of the width")
	assert.Contains(t, said, "from 50 to 100 % of the width")
}

func drum72() *layup.Bed {
	var q Plan
	on(drumOf(72))(&q)
	return q.Bed
}

// A veil of wool goes over a drum by the tray and over a board by hand.
func TestAVeilIsFedOrPainted(t *testing.T) {
	for typ, by := range map[layup.Type]layup.Method{layup.Drum: layup.Feed, layup.Board: layup.Paint} {
		p := Plan{Fibres: []Fibre{of("corriedale", 1)}, Bed: &layup.Bed{Type: typ}, Layers: twoLanes(20, 20)}
		y, _, ok := p.veil(0.1)
		require.True(t, ok)
		assert.Equal(t, by, y.Lays[0].Method, typ)
		assert.InDelta(t, 4, y.Lays[0].Grams, 1e-9)
	}
}

// One fibre alone is there on purpose, however little of it is usual in a blend; a batt of fine wools wears all alike.
func TestOneFibreAlone(t *testing.T) {
	found := func(rule string, list ...change) bool {
		var q Plan
		for _, c := range list {
			c(&q)
		}
		return slices.ContainsFunc(judged(q, nil).Findings, func(f Finding) bool { return f.Rule == rule })
	}
	share := func(key string, s float64) change { return fibres(of(key, s), of("corriedale", 1-s)) }
	assert.True(t, found("R10", share("angora_rabbit", 0.9)))
	assert.False(t, found("R10", fibres(of("angora_rabbit", 1))))
	fine := fibres(of("merino_superfine", 0.25), of("merino_superfine", 0.25), of("merino_superfine", 0.25), of("merino_superfine", 0.25))
	assert.False(t, found("R26", fine, goes(2)), "each of four superfine wools is not delicate beside the others")
	assert.True(t, found("R26", fibres(of("romney", 0.8), of("merino_superfine", 0.2)), goes(2)))
	assert.True(t, found("R26", fibres(of("merino_superfine", 0.8), of("angora_rabbit", 0.2)), goes(2)), "angora is, beside them")
}
