package weigh

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
)

// The last number that is allowed is, and the next is not; what is wrong is named.
func TestBoundsOfAnOrder(t *testing.T) {
	order := func(change func(*Order)) Order {
		o := Order{Components: []Component{{Share: 0.6, LossPass: 0.02}, {Share: 0.4}}, Units: 2, Finished: 30, Passes: 2, Step: 0.1}
		change(&o)
		return o
	}
	for i, c := range []struct {
		field string
		bad   bool
		o     Order
	}{
		{"components", false, order(func(o *Order) { o.Components[1].Share = 0.4009 })}, {"components", true,
			order(func(o *Order) { o.Components[1].Share = 0.4011 })},
		{"components", true, order(func(o *Order) { o.Components[1].Share = 0.3989 })},
		{"components[1].share", true, order(func(o *Order) { o.Components[1].Share = -0.1 })},
		{"components[1].share", true, order(func(o *Order) { o.Components[1].Share = math.NaN() })},
		{"components[0].loss_pct", false, order(func(o *Order) { o.Components[0].LossPass = 0.9 })},
		{"components[0].loss_pct", true, order(func(o *Order) { o.Components[0].LossPass = 0.901 })},
		{"components[0].joins_at_pass", false, order(func(o *Order) { o.Components[0].JoinsAt = 2 })},
		{"components[0].joins_at_pass", true, order(func(o *Order) { o.Components[0].JoinsAt = 3 })},
		{"components[0].joins_at_pass", true, order(func(o *Order) { o.Components[0].JoinsAt = -1 })},
		{"units", false, order(func(o *Order) { o.Units = MaxUnits })}, {"units", true, order(func(o *Order) { o.Units = MaxUnits + 1 })},
		{"units", true, order(func(o *Order) { o.Units = 0 })},
		{"finished_g", true, order(func(o *Order) { o.Finished = 0 })}, {"finished_g", true, order(func(o *Order) { o.Finished = unit.MaxGrams + 1 })},
		{"passes", false, order(func(o *Order) { o.Passes = losses.MaxPasses })}, {"passes", true, order(func(o *Order) { o.Passes = losses.MaxPasses + 1 })},
		{"passes", true, order(func(o *Order) { o.Passes = -1 })},
		{"step_g", true, order(func(o *Order) { o.Step = 0 })}, {"step_g", true, order(func(o *Order) { o.Step = 1001 })},
		{"components[0].joins_at_pass", false, order(func(o *Order) { o.Passes, o.Components[0].JoinsAt = 0, 1 })},
		{"components[0].joins_at_pass", true, order(func(o *Order) { o.Passes, o.Components[0].JoinsAt = 0, 2 })},
	} {
		_, err := Make(c.o)
		if !c.bad {
			assert.NoError(t, err, "%d %s", i, c.field)
			continue
		}
		l, _ := fault.From(err)
		if assert.Len(t, l, 1, "%d %s", i, c.field) {
			assert.Equal(t, c.field, l[0].Field)
		}
	}
}

// A correction takes the steps that a plan takes, up to a kilogram and no more.
func TestTheStepOfACorrection(t *testing.T) {
	lines := []Line{{Planned: 1000, Weighed: 1000, Done: true}, {Planned: 1000}}
	for step, ok := range map[unit.Grams]bool{1000: true, 1000.5: false, 1e-6: true, 0: false} {
		_, err := Reweigh(lines, step, KeepTotal)
		assert.Equal(t, ok, err == nil, "%g g: %v", step, err)
	}
}
