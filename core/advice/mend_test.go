package advice

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
)

// anyPlan draws a plan of up to six fibres, in layers or not, on a drum or a board or nothing.
func anyPlan(r *rand.Rand) Plan {
	kinds := fibre.Kinds()
	pick := func(list ...string) string { return list[r.IntN(len(list))] }
	q := Plan{
		Passes: r.IntN(6), Uses: []string{pick("next-to-skin", "socks", "felting", "machine-wash")}, Goal: pick("", "even", "heather", "streaky", "gradient"),
		Product: pick("", "batt", "rolags", "punis", "roving"), StepG: 0.1, Units: 1 + r.IntN(4),
	}
	n := 1 + r.IntN(6)
	var sum float64
	for range n {
		f := Fibre{Name: "a", Kind: kinds[r.IntN(len(kinds))], Share: 0.02 + r.Float64(), Joins: 1}
		f.Preparation = pick("carded_sliver", "combed_top", "locks", "washed_locks")
		if r.IntN(2) == 0 {
			f.Kind, _ = fibre.FindKind(pick("corriedale", "merino", "romney", "lincoln"))
		}
		f.Locked = r.IntN(6) == 0
		lab := colour.Lab{L: 100 * r.Float64(), A: 80*r.Float64() - 40, B: 80*r.Float64() - 40}
		f.Lab = &lab
		if r.IntN(3) == 0 {
			have := 300 * r.Float64()
			f.HaveG = &have
		}
		sum += f.Share
		q.Fibres = append(q.Fibres, f)
	}
	for i := range q.Fibres {
		q.Fibres[i].Share /= sum
	}
	q.TotalG = 10 + 300*r.Float64()
	switch r.IntN(3) {
	case 0:
		q.Bed = drumOf([]float64{40, 72, 128}[r.IntN(3)])
		q.Bed.Electric = r.IntN(2) == 0
	case 1:
		q.Bed = board()
	}
	if r.IntN(2) == 0 {
		for i, f := range q.Fibres {
			method := []layup.Method{layup.Feed, layup.Paint, layup.Place}[r.IntN(3)]
			q.Layers = append(q.Layers, layup.Layer{Lays: []layup.Lay{{
				Component: i, To: 1, End: 1, Grams: f.Share * q.TotalG / float64(q.Units), Method: method,
			}}})
		}
		if r.IntN(2) == 0 { // side by side
			lanes := layup.Layer{}
			for i, y := range q.Layers {
				v := y.Lays[0]
				v.From, v.To = float64(i)/float64(n), float64(i+1)/float64(n)
				lanes.Lays = append(lanes.Lays, v)
			}
			q.Layers = []layup.Layer{lanes}
		} else if r.IntN(4) == 0 {
			for _, y := range q.Layers {
				y.Lays[0].Start, y.Lays[0].End = 0.2, 0.9
			}
		}
		r.Shuffle(len(q.Layers), func(i, j int) { q.Layers[i], q.Layers[j] = q.Layers[j], q.Layers[i] })
	}
	q.Mix = mixOf(q.Fibres)
	for i, tpi := range []float64{40, 90, 128} {
		q.Others = append(q.Others, Cloth{int64(i + 1), "another", drumOf(tpi)})
	}
	q.Told = Told{Strips: p(1 + r.IntN(4)), Rolags: p(1 + r.IntN(4)), Sampled: p(r.IntN(2) == 0), Starting: p(r.IntN(2) == 0), Next: pick("", "doff", "feed")}
	if r.IntN(4) == 0 {
		q.Told.TargetG, q.Told.LossPct = p(q.TotalG), p(20*r.Float64())
	}
	for _, v := range questions {
		if r.IntN(6) == 0 {
			q.Tell(v.Key, r.IntN(n), anyAnswer(r, v))
		}
	}
	return q
}

// anyAnswer draws an answer to a question.
func anyAnswer(r *rand.Rand, v Question) float64 {
	switch {
	case v.Figure:
		return math.Floor(math.Min(v.Most, 400) * r.Float64())
	case len(v.Choices) > 0:
		return float64(r.IntN(len(v.Choices)))
	}
	return float64(r.IntN(2))
}

// On 10,000 random plans: what a mend was offered for is gone after it, or it says why there is
// none; shares add up and so do the grams that lie on the cloth; nothing locked has moved; and there
// are never more stops than before.
func TestEveryMendEndsWhatItIsFor(t *testing.T) {
	r := rand.New(rand.NewPCG(17, 1))
	offered, refused := map[string]int{}, 0
	for range 10_000 {
		q := anyPlan(r)
		a := Judge(q, nil)
		for _, f := range a.Findings {
			if f.Mend == nil {
				if Mendable(f.Rule) {
					require.NotEmpty(t, f.CannotBe, f.Rule)
					refused++
				}
				continue
			}
			offered[f.Rule]++
			after := f.Mend.After
			now := judged(after, nil)
			require.False(t, now.has(f), "%s of %d: %s", f.Rule, f.Component, f.Mend.Preview)
			require.LessOrEqual(t, now.Stops(), a.Stops(), f.Rule)
			var sum float64
			for i, v := range after.Fibres {
				sum += v.Share
				require.GreaterOrEqual(t, v.Share, 0.0)
				if q.Fibres[i].Locked {
					require.InDelta(t, q.Fibres[i].Share, v.Share, 1e-12, "%s moved what is locked", f.Rule)
				}
			}
			require.InDelta(t, 1, sum, 1e-9, f.Rule)
			if len(q.Layers) == 0 {
				continue
			}
			lies := make([]float64, len(q.Fibres))
			for _, y := range after.Layers {
				for _, v := range y.Lays {
					lies[v.Component] += v.Grams
				}
			}
			for i, v := range after.Fibres {
				require.InDelta(t, v.Share*after.UnitG(), lies[i], 1e-6*(1+after.UnitG()), "%s: what lies there is what was planned", f.Rule)
			}
		}
	}
	t.Logf("mends offered: %v; refused with a reason: %d", offered, refused)
	for rule, r := range byID {
		if r.mend == nil {
			continue
		}
		assert.Positive(t, offered[rule], rule)
	}
}

// Whatever figures a maker sets, every plan is judged, and what is offered ends what it is for.
func TestAnyFiguresAreBorne(t *testing.T) {
	r := rand.New(rand.NewPCG(17, 2))
	for range 1000 {
		own := Bounds{}
		for key, usual := range Defaults() {
			switch r.IntN(8) {
			case 0:
				own[key] = 0
			case 1:
				own[key] = 1e6
			case 2:
				own[key] = usual * 2 * r.Float64()
			}
		}
		for _, f := range Judge(anyPlan(r), own).Findings {
			if f.Mend != nil {
				require.False(t, judged(f.Mend.After, own).has(f), "%s: %s", f.Rule, f.Mend.Preview)
				for _, v := range f.Mend.After.Fibres {
					require.False(t, math.IsNaN(v.Share) || math.IsInf(v.Share, 0), f.Rule)
				}
			}
		}
	}
}

// A mend brings a plan within the figures that the maker has set, not within the usual ones.
func TestAMendKeepsToTheMakersOwnBounds(t *testing.T) {
	for _, c := range []struct {
		rule  string
		own   Bounds
		plan  []change
		after func(Plan) float64
		most  float64
	}{
		{"R08", Bounds{"R08 from": 0.2}, []change{fibres(of("viscose", 0.4), of("corriedale", 0.6))}, func(q Plan) float64 { return q.Sum(Fibre.slippery) }, 0.2},
		{"R09", Bounds{"R08 from": 0.2}, []change{fibres(of("viscose", 0.8), of("corriedale", 0.2)), on(drumOf(72))},
			func(q Plan) float64 { return q.Sum(Fibre.slippery) }, 0.2},
		{"R11", Bounds{"R11 share": 0.01}, []change{fibres(of("film_metallised", 0.05), of("corriedale", 0.95))},
			func(q Plan) float64 { return q.Sum(Fibre.sparkle) }, 0.01},
		{"R16", Bounds{"R16 from": 0.5}, []change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(60, 1)},
			func(q Plan) float64 { return q.UnitG() / q.Capacity() }, 0.5},
		{"R03", Bounds{"R03 mm": 80}, []change{fibres(of("corriedale", 1, staple(120))), on(drumOf(72)), laidAs(layers(layup.Feed, 40))},
			func(q Plan) float64 { return q.Fibres[0].PreparedMM }, 80},
		{"R23", Bounds{"R23 turns": 20}, []change{fibres(of("corriedale", 1)), told(Told{PerMinute: p(30.0)})},
			func(q Plan) float64 { return *q.Told.PerMinute }, 20},
	} {
		mended := false
		for _, f := range Judge(plan(c.plan...), c.own).Findings {
			if f.Rule == c.rule {
				require.NotNil(t, f.Mend, c.rule)
				assert.LessOrEqual(t, c.after(f.Mend.After), c.most+1e-9, c.rule)
				mended = true
			}
		}
		assert.True(t, mended, c.rule)
	}
}

// No figure stands in the table for nothing: each is read by its own rule, and by no other.
func TestEveryFigureIsRead(t *testing.T) {
	// It changes what is said, not whether; the others are of lay-ups, and read there.
	read := map[string]bool{"R36 stop": true, "R19 load as laid": true, "L05 variation": true, "L07 share": true}
	for key := range Defaults() {
		for _, c := range cases {
			if key[:3] != c.rule {
				continue
			}
			for _, list := range [][]change{c.fires, c.near} {
				usual := fired(Judge(plan(list...), nil), c.rule)
				for _, v := range []float64{0, 1e6} {
					read[key] = read[key] || fired(Judge(plan(list...), Bounds{key: v}), c.rule) != usual
				}
			}
		}
		assert.True(t, read[key], "%s changes nothing", key)
	}
}

// The newcomer's bad plan: seven tenths of slippery fibre on a drum, a very short one, fed in lumps,
// no base of wool first, too many grams. Mends alone bring it to a plan without a stop.
func TestABadPlanBecomesAGoodOneByMends(t *testing.T) {
	q := plan(
		fibres(of("viscose", 0.7), of("corriedale", 0.2), of("neps_wool", 0.1)), on(drumOf(72)), goes(2), weighs(140, 1), makes("batt"),
		laidAs([]layup.Layer{
			{Lays: []layup.Lay{{Component: 2, To: 1, End: 1, Grams: 14, Method: layup.Feed}}},
			{Lays: []layup.Lay{{Component: 0, To: 1, End: 1, Grams: 98, Method: layup.Feed}}},
			{Lays: []layup.Lay{{Component: 1, To: 1, End: 1, Grams: 28, Method: layup.Feed}}},
		}),
	)
	before := Judge(q, nil)
	require.Positive(t, before.Stops())
	presses := 0
	for range 30 {
		a := Judge(q, nil)
		pressed := false
		for _, f := range a.Findings {
			if f.Mend != nil {
				q, pressed = f.Mend.After, true
				presses++
				break
			}
		}
		if !pressed {
			break
		}
	}
	after := Judge(q, nil)
	t.Logf("%d findings, %d stops; after %d presses %d findings, %d stops", len(before.Findings), before.Stops(), presses, len(after.Findings), after.Stops())
	assert.Zero(t, after.Stops())
	assert.Less(t, len(after.Findings), len(before.Findings))
	assert.Less(t, presses, 30, "mends do not go round in a circle")
}
