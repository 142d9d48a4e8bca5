package yarn

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

// lanes is a batt of so many lanes of one component each, of these grams.
func lanes(grams ...float64) Field {
	n := len(grams)
	f := Field{WidthMM: 200, LengthMM: 500, Lanes: 24 * n, Cells: 64, N: n}
	f.Grams = make([]float64, f.Lanes*f.Cells*n)
	for x := range f.Lanes {
		for c := range f.Cells {
			f.Grams[(x*f.Cells+c)*n+x/24] = grams[x/24] / float64(24*f.Cells)
		}
	}
	return f
}

// mix gives each component a lightness and a hue of its own.
func mix(shares []float64) (out colour.Lab) {
	for k, s := range shares {
		out.L += s * (20 + 70*float64(k)/float64(max(1, len(shares)-1)))
		out.A += s * 40 * math.Cos(float64(2*k))
		out.B += s * 40 * math.Sin(float64(2*k))
	}
	return out
}

func ask(f Field, way string, parts int, ply string) Request {
	return Request{Field: f, Way: way, Parts: parts, Order: LeftToRight, From: End, Ply: ply, Tex: 100, TakeUp: 0.05, Waste: 0.03, Mix: mix, Seed: 1}
}

// 58 g in seven strips of one colour each, at 100 tex with 3 % lost and 5 % taken up: 58·0.97·10 =
// 562.6 m of single, chain-plied 562.6/3/1.05 = 178.60 m, each colour 25.515 m of it.
func TestAChainPlyOfSevenStripsByHand(t *testing.T) {
	y, err := Plan(ask(lanes(58./7, 58./7, 58./7, 58./7, 58./7, 58./7, 58./7), Strips, 7, Chain))
	require.NoError(t, err)
	assert.InDelta(t, 562.6, y.SinglesM, 1e-6)
	assert.InDelta(t, 178.603, y.PliedM, 1e-3)
	require.Len(t, y.Stretches, 7)
	for i, r := range y.Stretches {
		assert.InDelta(t, 25.515*float64(i), r.FromM, 1e-2)
		assert.InDelta(t, 25.515*float64(i+1), r.ToM, 1e-2)
		assert.InDelta(t, 1, r.Shares[i], 0.03, "a fold or two of the next")
	}
	assert.Equal(t, "stripes", y.Pattern)
	assert.InDelta(t, 100*178.603/(58*0.97), y.GristM, 1e-2)
}

// Two halves of two colours, plied: one run of both, a barber's pole of 562.6/2/1.05 = 267.90 m.
func TestABarberPoleOfTwoHalvesByHand(t *testing.T) {
	y, err := Plan(ask(lanes(29, 29), Halves, 2, Two))
	require.NoError(t, err)
	assert.InDelta(t, 267.905, y.PliedM, 1e-3)
	require.Len(t, y.Stretches, 1)
	assert.InDeltaSlice(t, []float64{0.5, 0.5}, y.Stretches[0].Shares, 1e-9)
	assert.Equal(t, "barber pole", y.Pattern)
	single, err := Plan(ask(lanes(29, 29), Halves, 2, Single))
	require.NoError(t, err)
	require.Len(t, single.Stretches, 2)
	assert.InDelta(t, 281.3, single.Stretches[0].ToM, 1e-6)
	assert.Equal(t, "long gradient", single.Pattern, "one colour, then the other")
}

// One colour is even; a twentieth of something that stands out shows as flecks; many lanes in
// order spun as one strip along its side are a long gradient.
func TestWhatAYarnIsCalled(t *testing.T) {
	f := Field{WidthMM: 200, LengthMM: 500, Lanes: 24, Cells: 64, N: 2, Grams: make([]float64, 2*24*64)}
	for i := range 24 * 64 {
		f.Grams[2*i], f.Grams[2*i+1] = 0.95*40/(24*64), 0.05*40/(24*64)
	}
	y, err := Plan(ask(f, Strips, 4, Two))
	require.NoError(t, err)
	assert.Equal(t, "flecks", y.Pattern)
	y, err = Plan(ask(lanes(30), Strips, 4, Two))
	require.NoError(t, err)
	assert.Equal(t, "even", y.Pattern)
	q := ask(lanes(8, 8, 8, 8, 8, 8, 8), Whole, 1, Chain)
	q.From = Across
	y, err = Plan(q)
	require.NoError(t, err)
	assert.Contains(t, []string{"long gradient", "stripes"}, y.Pattern)
	assert.InDelta(t, 1, y.Stretches[0].Shares[0], 0.1)
}

// Runs cover the yarn without a gap, grams add up, the colours of the runs together are those of
// the parts, a chain is a third of its single, and turning the order turns the runs.
func TestTheYarnIsTheBatt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 5).Draw(t, "colours")
		grams := make([]float64, n)
		var all float64
		for k := range grams {
			grams[k] = rapid.Float64Range(0.5, 12).Draw(t, "grams")
			all += grams[k]
		}
		q := ask(lanes(grams...), rapid.SampledFrom(Ways).Draw(t, "way"), rapid.IntRange(1, 9).Draw(t, "parts"), rapid.SampledFrom(Plies).Draw(t, "ply"))
		q.Order, q.From, q.Seed = rapid.SampledFrom(Orders).Draw(t, "order"), rapid.SampledFrom(Froms).Draw(t, "from"), rapid.Uint64().Draw(t, "seed")
		q.Tex = rapid.Float64Range(60, 900).Draw(t, "tex")
		q.Even = rapid.Bool().Draw(t, "by weight")
		y, err := Plan(q)
		require.NoError(t, err)
		var sum float64
		for _, p := range y.Parts {
			sum += p.Grams
			if q.Even {
				require.InDelta(t, all/float64(len(y.Parts)), p.Grams, 1e-9*all, "each as heavy as the next")
			}
		}
		assert.InDelta(t, all, sum, 1e-9*all)
		at := 0.0
		for _, r := range y.Stretches {
			require.InDelta(t, at, r.FromM, 1e-9)
			require.Greater(t, r.ToM, r.FromM)
			at = r.ToM
		}
		assert.InDelta(t, y.PliedM, at, 1e-9)
		if q.Ply == Chain {
			assert.InDelta(t, y.SinglesM/3/(1+q.TakeUp), y.PliedM, 1e-9)
		}
		for i := range 50 {
			for p := range PliesOf(q.Ply) {
				var one float64
				for _, s := range y.Shares(p, y.PliedM*(float64(i)+0.5)/50) {
					one += s
				}
				require.InDelta(t, 1, one, 1e-9)
			}
		}
	})
}

// A bobbin turned round gives the runs in the other order, each as long as it was.
func TestTurningTheOrderTurnsTheRuns(t *testing.T) {
	f := lanes(4, 9, 2, 7, 5)
	there, err := Plan(ask(f, Strips, 5, Single))
	require.NoError(t, err)
	q := ask(f, Strips, 5, Single)
	q.Order = RightToLeft
	back, err := Plan(q)
	require.NoError(t, err)
	require.Len(t, back.Stretches, len(there.Stretches))
	slices.Reverse(back.Stretches)
	for i, r := range there.Stretches {
		assert.InDelta(t, r.ToM-r.FromM, back.Stretches[i].ToM-back.Stretches[i].FromM, 1e-6)
		assert.InDeltaSlice(t, r.Shares, back.Stretches[i].Shares, 1e-6)
	}
	// By weight the runs are as the grams of the strips.
	for i, g := range []float64{4, 9, 2, 7, 5} {
		assert.InDelta(t, g/27*there.PliedM, there.Stretches[i].ToM-there.Stretches[i].FromM, 1e-6)
	}
}

// Two plies of two batts: 30 g and 24 g at 100 tex and nothing lost are 300 m and 240 m of single,
// so that 60 m are over. The second runs beside the first from its beginning, or, mirrored, from
// its end.
func TestTwoBattsPliedByHand(t *testing.T) {
	q := ask(lanes(15, 15), Strips, 2, Two)
	other := lanes(12, 12)
	q.Second, q.Waste, q.TakeUp = &other, 0, 0
	y, err := Plan(q)
	require.NoError(t, err)
	assert.InDelta(t, 540, y.SinglesM, 1e-9)
	assert.InDelta(t, 240, y.PliedM, 1e-9)
	assert.InDelta(t, 60, y.LeftM, 1e-9)
	assert.InDelta(t, 300, y.Place(1, 0), 1e-9)
	assert.Less(t, y.PlyDE, 11.0, "both begin with the first colour; 30 m of 240 lie beside the next")
	q.Mirrored = true
	m, err := Plan(q)
	require.NoError(t, err)
	assert.InDelta(t, 540, m.Place(1, 0), 1e-9)
	assert.Equal(t, "barber pole", m.Pattern, "the first colour of one beside the last of the other")
	assert.InDelta(t, 240, m.Stretches[len(m.Stretches)-1].ToM, 1e-9)
	whole := ask(lanes(15, 15), Halves, 2, Two)
	whole.Waste, whole.TakeUp, whole.Order = 0, 0, Orders[0]
	apart, err := Plan(whole)
	require.NoError(t, err)
	var by float64
	const places = 500
	for i := range places {
		at := apart.PliedM * (float64(i) + 0.5) / places
		by += colour.CIEDE2000(mix(apart.Shares(0, at)), mix(apart.Shares(1, at))) / places
	}
	assert.InDelta(t, by, apart.PlyDE, 0.5, "how far the two plies differ, on the mean")
	q.Ply = Three
	_, err = Plan(q)
	require.Error(t, err)
}

// The same colours in another order are another yarn and the same cloth; a yarn is no other than
// itself.
func TestHowFarTwoYarnsDiffer(t *testing.T) {
	black, white := colour.Linear{0.03, 0.03, 0.03}, colour.Linear{0.8, 0.8, 0.8}
	halves := func(part float64) colour.Linear {
		if part < 0.5 {
			return black
		}
		return white
	}
	turned := func(part float64) colour.Linear { return halves(1 - part) }
	assert.Equal(t, Apart{}, Differ(halves, halves))
	d := Differ(halves, turned)
	assert.InDelta(t, colour.CIEDE2000(black.Lab(), white.Lab()), d.Yarn, 1e-9)
	assert.InDelta(t, 0, d.Cloth, 1e-9)
}

// Each gram of the batt is spun once: the metres of each fibre are its grams, whatever lies where, however the batt
// is divided, from whichever end.
func TestEveryGramIsSpunOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 4).Draw(t, "n")
		f := Field{WidthMM: 200, LengthMM: 600, Lanes: 40, Cells: 60, N: n}
		f.Grams = make([]float64, f.Lanes*f.Cells*n)
		whole := make([]float64, n)
		seam := make([]int, n)
		for k := range seam {
			seam[k] = rapid.IntRange(0, f.Lanes).Draw(t, "seam")
		}
		painted := rapid.Bool().Draw(t, "painted")
		for x := range f.Lanes {
			for c := range f.Cells {
				for k := range n {
					if g := 0.005; x >= seam[k] || k == 0 {
						if painted && k == 1 && c > 40 {
							g *= 3
						}
						f.Grams[(x*f.Cells+c)*n+k] = g
						whole[k] += g
					}
				}
			}
		}
		q := ask(f, rapid.SampledFrom(Ways).Draw(t, "way"), rapid.IntRange(1, 7).Draw(t, "parts"), Single)
		q.Waste, q.Order, q.From = 0, rapid.SampledFrom(Orders).Draw(t, "order"), rapid.SampledFrom(Froms).Draw(t, "from")
		y, err := Plan(q)
		if err != nil {
			t.Fatal(err)
		}
		spun := make([]float64, n)
		for i, v := range y.shares {
			spun[i%n] += v / float64(len(y.shares)/n)
		}
		for k, v := range shares(whole) {
			if math.Abs(spun[k]-v) > 0.01 {
				t.Fatalf("%s, %d parts, %s, from %s: %.3f of the metres of fibre %d, %.3f of the grams", q.Way, q.Parts, q.Order, q.From, spun[k], k, v)
			}
		}
	})
}

// Three equal lanes spun whole: a third of the metres each.
func TestThreeEqualLanesByHand(t *testing.T) {
	for _, way := range []string{Whole, Halves} {
		q := ask(lanes(20, 20, 20), way, 1, Single)
		y, err := Plan(q)
		require.NoError(t, err)
		var metres [3]float64
		for _, r := range y.Stretches {
			for k, s := range r.Shares {
				metres[k] += s * (r.ToM - r.FromM) / y.PliedM
			}
		}
		for k := range metres {
			assert.InDelta(t, 1.0/3, metres[k], 0.01, "%s, lane %d", way, k)
		}
	}
}

// A yarn has one name, from whichever end it is looked at: of 60 batts spun from the left and from the right, all but
// what lies just between two names.
func TestOneNameFromBothEnds(t *testing.T) {
	u := &unit{7}
	apart := 0
	for range 60 {
		var grams []float64
		for range 1 + int(5*u.next()) {
			grams = append(grams, 0.5+4*u.next())
		}
		q := ask(lanes(grams...), Ways[int(4*u.next())], 1+int(6*u.next()), Single)
		q.Order = LeftToRight
		a, err := Plan(q)
		require.NoError(t, err)
		q.Order = RightToLeft
		b, err := Plan(q)
		require.NoError(t, err)
		if a.Pattern != b.Pattern {
			apart++
		}
	}
	assert.LessOrEqual(t, apart, 1)
}
