package need

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/losses"
)

var usual = Allowances{Margin: Margin, Waste: Waste, Finishing: Finishing, TakeUp: TakeUp}

func work(t *testing.T, q Request) Answer {
	if q.StepG == 0 {
		q.StepG = 0.1
	}
	a, err := Work(q)
	require.NoError(t, err)
	return a
}

// A hat of 240 m two-ply at 360 m in 100 g, over two passes with a silk that joins at the
// second: yarn 100·240/360 = 66.667 g; fibre 66.667·1.1/(0.97·0.98) = 77.144 g; singles
// 240·2·1.05 = 504 m at 360·2·1.05 = 756 m in 100 g; wool 0.6·77.144/(0.98·0.988) = 47.805 g, silk
// 0.4·77.144/0.98 = 31.487 g; two units of 60 g.
func TestAHatByHand(t *testing.T) {
	a := work(t, Request{Yarn: &Yarn{LengthM: 240, GristM: 360, Plies: 2}, Allowances: usual, Passes: 2, SampleG: 8, CapacityG: 60,
		Components: []Component{{Share: 0.6, Loses: losses.Fall{First: 0.02, Decay: 0.6}, JoinsAt: 1},
			{Share: 0.4, Loses: losses.Fall{First: 0.02, Decay: 1}, JoinsAt: 2}}})
	assert.InDelta(t, 66.667, a.Yarn.WeightG, 5e-4)
	assert.InDelta(t, 77.144, a.FibreG, 5e-4)
	assert.Equal(t, [2]float64{a.FibreG, a.FibreG}, [2]float64{a.LowG, a.HighG})
	assert.InDelta(t, 504, a.SinglesM, 1e-9)
	assert.InDelta(t, 756, a.SinglesGrist, 1e-9)
	assert.Equal(t, []float64{38.6, 38.5}, a.PerPlyG)
	assert.InDeltaSlice(t, []float64{47.805, 31.487}, a.WeighInG, 5e-4)
	assert.Equal(t, 2, a.Units)
	assert.InDelta(t, 79.292+8, a.SetAsideG(), 1e-3)
	assert.False(t, a.Estimated)
}

// The same hat by 14 wraps per inch: 1.5·14² = 294 m in 100 g, between 382.2 and 205.8; yarn
// 81.633 g, fibre 94.463 g, between 72.664 and 134.947 g.
func TestAHatByWraps(t *testing.T) {
	a := work(t, Request{Yarn: &Yarn{LengthM: 240, WPI: 14, Plies: 2}, Allowances: usual})
	assert.True(t, a.Estimated)
	assert.InDelta(t, 294, a.Yarn.GristM, 1e-9)
	assert.InDeltaSlice(t, []float64{81.633, 94.463, 72.664, 134.947}, []float64{a.Yarn.WeightG, a.FibreG, a.LowG, a.HighG}, 1e-3)
}

// 100 g of fibre in three plies on a scale of 0.1 g: 33.3, 33.3 and 33.4 g. Singles alone have no
// take-up.
func TestThreePliesByHand(t *testing.T) {
	assert.Equal(t, []float64{33.3, 33.3, 33.4}, Plies(100, 3, 0.1))
	a := work(t, Request{Yarn: &Yarn{WeightG: 100, GristM: 200, Plies: 1}, Allowances: usual})
	assert.InDelta(t, 200, a.SinglesM, 1e-9)
}

// Ten batts of 60 g are 600 g off the carder; at 2 % lost 612.245 g go in.
func TestTenBattsByHand(t *testing.T) {
	a := work(t, Request{Batts: &Batts{10, 60}, Allowances: usual, Passes: 1, Components: []Component{{Share: 1, Loses: losses.Fall{First: 0.02}, JoinsAt: 1}}})
	assert.InDelta(t, 600, a.FibreG, 1e-9)
	assert.InDelta(t, 612.245, a.TotalG, 5e-4)
	assert.Equal(t, 10, a.Units)
	assert.Empty(t, a.PerPlyG)
}

// A felt of 900 cm² with 350 g on a square metre and a tenth more: 31.5·1.1 = 34.65 g.
func TestAFeltByHand(t *testing.T) {
	a := work(t, Request{Felt: &Felt{900, 350}, Allowances: Allowances{Margin: 0.1}})
	assert.InDelta(t, 34.65, a.FibreG, 1e-9)
}

// The parts of the flow add up to what is set aside, plies to the fibre to half a step, and the
// weight comes back from the fibre.
func TestEveryGramHasAPlace(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		part := rapid.Float64Range(0, 0.5)
		q := Request{
			Allowances: Allowances{
				Margin:    part.Draw(t, "margin"),
				Waste:     part.Draw(t, "waste"),
				Finishing: part.Draw(t, "finishing"),
				TakeUp:    part.Draw(t, "take up"),
			},
			ClothG: rapid.Float64Range(0, 5).
				Draw(t, "cloth"),
			Passes:  rapid.IntRange(0, 6).Draw(t, "passes"),
			SampleG: rapid.Float64Range(0, 20).Draw(t, "sample"),
			StepG:   0.1,
		}
		size := rapid.Float64Range(1, 900)
		switch rapid.IntRange(0, 3).Draw(t, "way") {
		case 0:
			q.Yarn = &Yarn{LengthM: size.Draw(t, "m"), GristM: size.Draw(t, "grist"), Plies: rapid.IntRange(1, 6).Draw(t, "plies")}
		case 1:
			q.Batts = &Batts{rapid.IntRange(1, 20).Draw(t, "count"), size.Draw(t, "g")}
		case 2:
			q.Felt = &Felt{size.Draw(t, "cm2"), size.Draw(t, "gsm")}
		default:
			q.FibreG = size.Draw(t, "g")
		}
		share := rapid.Float64Range(0, 1).Draw(t, "share")
		for _, s := range []float64{share, 1 - share} {
			q.Components = append(q.Components, Component{
				Share: s, Loses: losses.Fall{First: rapid.Float64Range(0, 0.2).Draw(t, "loss"), Decay: part.Draw(t, "decay")},
				JoinsAt: rapid.IntRange(0, max(q.Passes, 1)).Draw(t, "joins"), Alone: rapid.IntRange(0, 2).Draw(t, "alone"),
			})
		}
		a, err := Work(q)
		require.NoError(t, err)
		var sum float64
		for _, p := range a.Flow {
			require.GreaterOrEqual(t, p.Grams, -1e-9, p.Key)
			sum += p.Grams
		}
		assert.InDelta(t, a.SetAsideG(), sum, 1e-6)
		if q.Yarn == nil {
			return
		}
		sum = 0
		for _, g := range a.PerPlyG {
			sum += g
		}
		assert.InDelta(t, a.FibreG, sum, 0.05+1e-6)
		assert.InDelta(t, a.Yarn.LengthM, a.Yarn.WeightG*a.Yarn.GristM/100, 1e-6*a.Yarn.LengthM)
		back := a.FibreG * (1 - q.Allowances.Waste) * (1 - q.Allowances.Finishing) / (1 + q.Allowances.Margin)
		assert.InDelta(t, a.Yarn.WeightG, back, 1e-9*back)
	})
}

func shrunk(part float64) *float64 { return &part }

// Washed lengths of 240 m at 360 m in 100 g, 10 % shorter and 5 % lighter by washing: 266.7 m are plied, of 560 m of two singles at
// 798 m in 100 g; they weigh what is lost in washing more than the yarn.
func TestWashingShortensByHand(t *testing.T) {
	al := Allowances{Finishing: 0.05, TakeUp: 0.05, Shrinkage: shrunk(0.10)}
	a := work(t, Request{Yarn: &Yarn{LengthM: 240, GristM: 360, Plies: 2}, Allowances: al})
	assert.InDelta(t, 266.667, a.PlyM, 1e-3)
	assert.InDelta(t, 560, a.SinglesM, 1e-9)
	assert.InDelta(t, 798, a.SinglesGrist, 1e-9)
	assert.InDelta(t, a.Yarn.WeightG/0.95, 100*a.SinglesM/a.SinglesGrist, 1e-9)
	al.Shrinkage = nil
	a = work(t, Request{Yarn: &Yarn{LengthM: 240, GristM: 360, Plies: 2}, Allowances: al})
	assert.InDelta(t, 504, a.SinglesM, 1e-9)
	assert.InDelta(t, 756, a.SinglesGrist, 1e-9)
}

// All three of length, grist and weight may be told where they make each other; batts that are too large for the cloth make more
// units; what the cloth takes up is set aside as well (losses.md, section 4: 103.39 + 2.25 + 8).
func TestWhatIsSetAside(t *testing.T) {
	a := work(t, Request{Yarn: &Yarn{LengthM: 240, GristM: 360, WeightG: 66.7, Plies: 1}})
	assert.InDelta(t, 66.7, a.Yarn.WeightG, 0.05)
	a = work(t, Request{Yarn: &Yarn{LengthM: 240, WPI: 14, WeightG: 90, Plies: 1}})
	assert.InDelta(t, 100*240/90.0, a.Yarn.GristM, 1e-9, "what is told of both is more than what wraps estimate")
	assert.False(t, a.Estimated)
	assert.Equal(t, 7, work(t, Request{Batts: &Batts{3, 130}, CapacityG: 60}).Units)
	assert.Equal(t, 3, work(t, Request{Batts: &Batts{3, 13}, CapacityG: 60}).Units)
	a = work(t, Request{FibreG: 103.39, ClothG: 2.25, SampleG: 8})
	assert.InDelta(t, 113.64, a.SetAsideG(), 1e-9)
}

// What is changed last holds, what is locked stays, and the three always agree; with both others
// locked nothing is changed but what is refused.
func TestWhatIsChangedLastHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := Product{Value: [3]float64{3, 4, 12}}
		for range rapid.IntRange(1, 12).Draw(t, "changes") {
			i := rapid.IntRange(0, 2).Draw(t, "which")
			p.Fixed[rapid.IntRange(0, 2).Draw(t, "lock")] = rapid.Bool().Draw(t, "locked")
			order := rapid.SampledFrom([][2]int{{(i + 1) % 3, (i + 2) % 3}, {(i + 2) % 3, (i + 1) % 3}}).Draw(t, "order")
			next, ok := p.Set(i, rapid.Float64Range(0.01, 1e4).Draw(t, "value"), order)
			if !ok {
				require.True(t, p.Fixed[(i+1)%3] && p.Fixed[(i+2)%3])
				continue
			}
			for k := range 3 {
				if k != i && p.Fixed[k] {
					require.Equal(t, p.Value[k], next.Value[k])
				}
			}
			require.InEpsilon(t, next.Value[2], next.Value[0]*next.Value[1], 1e-9)
			require.False(t, math.IsInf(next.Value[1], 0))
			p = next
		}
	})
}

func TestWhatIsAskedWrongIsNamed(t *testing.T) {
	one := func(q Request) Request { q.StepG = 0.1; return q }
	for field, q := range map[string]Request{
		"yarn":                  one(Request{}),
		"yarn.length_m":         one(Request{Yarn: &Yarn{LengthM: -1, GristM: 1, Plies: 1}}),
		"Give a weight of yarn": one(Request{Yarn: &Yarn{GristM: 200, Plies: 1}}),  // a grist alone is of no length
		"or a length with":      one(Request{Yarn: &Yarn{LengthM: 200, Plies: 1}}), // nor a length of no grist
		"plies":                 one(Request{Yarn: &Yarn{WeightG: 5, Plies: 13}}),
		"batts.count":           one(Request{Batts: &Batts{0, 10}}),
		"batts.grams":           one(Request{Batts: &Batts{1, math.NaN()}}),
		"yarn.weight_g":         one(Request{Yarn: &Yarn{LengthM: 240, GristM: 360, WeightG: 80, Plies: 1}}), // these weigh 66.7 g
		"this grist weighs":     one(Request{Yarn: &Yarn{LengthM: 240, WPI: 14, WeightG: 140, Plies: 1}}),    // 82 g, give or take a third
		"shrinkage_pct":         one(Request{FibreG: 5, Allowances: Allowances{Shrinkage: shrunk(0.6)}}),
		"cloth_g":               one(Request{FibreG: 5, ClothG: -1}),
		"felt.area_cm2":         one(Request{Felt: &Felt{0, 5}}),
		"waste_pct":             one(Request{FibreG: 5, Allowances: Allowances{Waste: 0.95}}),
		"components":            one(Request{FibreG: 5, Components: []Component{{Share: 0.5}}}),
		"components[0].share":   one(Request{FibreG: 5, Components: []Component{{Share: 2}}}),
		"step_g":                {FibreG: 5},
	} {
		_, err := Work(q)
		assert.ErrorContains(t, err, field)
	}
}
