package train

import (
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

// seeds is how many exercises of a skill are looked at, every level in turn: fewer of those that are carded or judged to be made, and many
// of all where laws are tried at length.
func seeds(skill Skill) uint64 {
	if os.Getenv("RAPID_CHECKS") != "" {
		return 10_000
	}
	if n, few := map[Skill]uint64{Passes: 12, Splitting: 12, Piled: 300}[skill]; few {
		return n
	}
	return 2_000
}

// Every exercise has a best answer that gets all of the score and no other that does; the same seed is the same exercise.
func TestEveryExerciseHasOneBestAnswer(t *testing.T) {
	for _, skill := range Skills {
		t.Run(string(skill), func(t *testing.T) {
			t.Parallel()
			for seed := range seeds(skill) {
				level, light := int(seed%MostLevel)+1, seed%3 == 0
				e, err := Make(skill, level, seed, light)
				require.NoError(t, err)
				best, err := e.Judge(e.Best())
				require.NoError(t, err, "%d %+v", seed, e)
				require.InDelta(t, 100, best.Score, 1e-9, "seed %d level %d", seed, level)
				require.Len(t, best.Why, 2)
				for i, c := range e.Choices {
					for n := range c.Options {
						a := Answer{Chosen: append([]int{}, e.Best().Chosen...)}
						if a.Chosen[i] = n; n == e.Best().Chosen[i] {
							continue
						}
						j, err := e.Judge(a)
						require.NoError(t, err)
						require.Less(t, j.Score, 95.0, "seed %d: %s", seed, c.Options[n])
					}
				}
				if seed < 200 {
					again, err := Make(skill, level, seed, light)
					require.NoError(t, err)
					again.truth, e.truth = truth{}, truth{}
					require.Equal(t, e, again)
				}
			}
		})
	}
}

// Scores never fall when an answer comes closer: parts on the straight way to the best for what lies in a batt, a smaller difference
// with as many lots for a colour, a smaller error of a sum.
func TestScoresRiseWithCloserAnswers(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		skill := rapid.SampledFrom(Skills).Draw(t, "skill")
		e, err := Make(skill, rapid.IntRange(1, MostLevel).Draw(t, "level"), rapid.Uint64().Draw(t, "seed"), rapid.Bool().Draw(t, "light"))
		require.NoError(t, err)
		judge := func(a Answer) Judged {
			j, err := e.Judge(a)
			require.NoError(t, err)
			return j
		}
		switch {
		case e.Grams:
			off, k := rapid.Float64Range(-0.9, 2).Draw(t, "off"), rapid.Float64Range(0, 1).Draw(t, "closer")
			far, near := e.Best(), e.Best()
			far.Grams *= 1 + unitless(off)
			near.Grams *= 1 + unitless(off*k)
			assert.GreaterOrEqual(t, judge(near).Score, judge(far).Score-1e-9)
		case len(e.Lots) > 0 && skill == Within:
			parts := rapid.SliceOfN(rapid.Float64Range(0.1, MostParts), len(e.Lots), len(e.Lots)).Draw(t, "parts")
			k := rapid.Float64Range(0, 1).Draw(t, "closer")
			a, b := Shares(parts), Shares(e.Best().Parts)
			near := make([]float64, len(a))
			for i := range a {
				near[i] = a[i] + k*(b[i]-a[i])
			}
			// The colour is no straight line of the shares, so that part of the score is compared by itself.
			if colour.CIEDE2000(mixed(e.Lots, near), mixed(e.Lots, b)) <= colour.CIEDE2000(mixed(e.Lots, a), mixed(e.Lots, b)) {
				assert.GreaterOrEqual(t, judge(Answer{Parts: near}).Score, judge(Answer{Parts: a}).Score-1e-9)
			}
		case len(e.Choices) > 0 && skill != Difference && skill != Weighing && skill != Faults && skill != Splitting && skill != Piled: // options stand in the order of what they mean
			last := len(e.Choices) - 1
			best, n := e.Best().Chosen[last], len(e.Choices[last].Options)
			pick := func(name string) (Answer, int) {
				a := Answer{Chosen: slices.Clone(e.Best().Chosen)}
				a.Chosen[last] = rapid.IntRange(0, n-1).Draw(t, name)
				return a, max(a.Chosen[last]-best, best-a.Chosen[last])
			}
			a, offA := pick("a")
			b, offB := pick("b")
			if offA <= offB {
				assert.GreaterOrEqual(t, judge(a).Score, judge(b).Score-1e-9)
			}
		case skill == Reaching:
			want := mixed(e.Lots, Shares(e.Best().Parts))
			draw := func(name string) (a Answer, far float64, used int) {
				a.Parts = rapid.SliceOfN(rapid.Float64Range(0.5, MostParts), len(e.Lots), len(e.Lots)).Draw(t, name)
				return a, colour.CIEDE2000(mixed(e.Lots, Shares(a.Parts)), want), len(a.Parts)
			}
			a, farA, _ := draw("a")
			b, farB, _ := draw("b")
			if farA <= farB {
				assert.GreaterOrEqual(t, judge(a).Score, judge(b).Score-1e-9)
			}
		}
	})
}

// What is said to be of something else, or says nothing, is refused at its field.
func TestAnswersAreChecked(t *testing.T) {
	for skill, list := range map[Skill][]Answer{
		Difference: {{}, {Chosen: []int{0}}, {Chosen: []int{0, 9}}, {Chosen: []int{-1, 0}}},
		Within:     {{}, {Parts: []float64{1}}, {Parts: []float64{0, 0}}, {Parts: []float64{1, -1}}, {Parts: []float64{1, math.NaN()}}, {Parts: []float64{1, 99}}},
	} {
		e, err := Make(skill, 1, 7, false)
		require.NoError(t, err)
		for _, a := range list {
			_, err := e.Judge(a)
			assert.Error(t, err, "%s %+v", skill, a)
		}
	}
	_, err := Make("juggling", 1, 1, false)
	assert.Error(t, err)
}

// eye answers as somebody does who sees every colour off by so much CIEDE2000, in a direction by chance.
func eye(e Exercise, noise float64, r *rand.Rand) Answer {
	off := func(c colour.Lab) colour.Lab {
		return colour.Lab{L: c.L + noise*r.NormFloat64(), A: c.A + noise*r.NormFloat64(), B: c.B + noise*r.NormFloat64()}
	}
	if e.Skill == Difference {
		p, q := labOf(e.Patches[0].Hex), off(labOf(e.Patches[1].Hex))
		best, least := e.Best(), math.Inf(1)
		for way := range e.Choices[0].Options {
			for _, far := range []float64{1, 2.5, 6.5, 14} {
				if d := colour.CIEDE2000(q, toward(p, e.Choices[0].Options[way].String(), far)); d < least {
					least = d
					degree, _, _ := colour.Told(p, toward(p, e.Choices[0].Options[way].String(), far))
					best = Answer{Chosen: []int{way, degreeAt(degree)}}
				}
			}
		}
		return best
	}
	seen, best, least := off(mixed(e.Lots, Shares(e.Best().Parts))), e.Best(), math.Inf(1)
	for range 300 {
		parts := make([]float64, len(e.Lots))
		for i := range parts {
			if e.Skill == Within || e.Best().Parts[i] > 0 {
				parts[i] = 0.5 + (MostParts-0.5)*r.Float64()
			}
		}
		if d := colour.CIEDE2000(seen, mixed(e.Lots, Shares(parts))); d < least {
			least, best = d, Answer{Parts: parts}
		}
	}
	return best
}

// Difficulty is real: over eyes that see less and less well scores fall, and so they do from the first level to the last.
func TestScoresFallWithNoiseAndLevel(t *testing.T) {
	mean := func(skill Skill, level int, noise float64) (sum float64) {
		const n = 150
		r := rand.New(rand.NewPCG(5, uint64(level)))
		for seed := range uint64(n) {
			e, err := Make(skill, level, seed, false)
			require.NoError(t, err)
			j, err := e.Judge(eye(e, noise, r))
			require.NoError(t, err)
			sum += j.Score / n
		}
		return sum
	}
	for _, skill := range []Skill{Difference, Within, Reaching} {
		var at []float64
		for _, noise := range []float64{0, 3, 10} {
			at = append(at, mean(skill, 3, noise))
		}
		t.Logf("%s: %.0f at no noise, %.0f at 3, %.0f at 10", skill, at[0], at[1], at[2])
		assert.Greater(t, at[0], at[1]+2)
		assert.Greater(t, at[1], at[2]+2)
		first, last := mean(skill, 1, 2), mean(skill, MostLevel, 2)
		t.Logf("%s: %.0f at level 1, %.0f at level 5, noise 2", skill, first, last)
		assert.Greater(t, first, last+2)
	}
}

// By hand: two good answers lead on, a poor one back; a right answer doubles the days until it comes again, a wrong one starts anew.
func TestProgressByHand(t *testing.T) {
	const day = 20_000
	var turns []Turn
	stand := func(level int, score float64) Standing {
		turns = append(turns, Turn{Reaching, level, score, day})
		return Progress(turns)[2]
	}
	assert.Equal(t, day+1, stand(1, 85).Due)
	s := stand(1, 90)
	assert.Equal(t, 2, s.Level)
	assert.Equal(t, day+2, s.Due)
	assert.Equal(t, 2, stand(5, 100).Level, "what is tried for its own sake moves nothing")
	s = stand(2, 30)
	assert.Equal(t, 1, s.Level)
	assert.Equal(t, day+1, s.Due)
	assert.Equal(t, 4, s.Turns)
	assert.NotEqual(t, Reaching, Next(Progress(turns)).Skill, "what was never tried comes first")
	for _, skill := range Skills {
		turns = append(turns, Turn{skill, 1, 100, day}, Turn{skill, 1, 100, day}, Turn{skill, 1, 100, day})
	}
	turns = append(turns, Turn{Within, 2, 10, day})
	assert.Equal(t, Within, Next(Progress(turns)).Skill, "what is weak comes back")
}

// By hand: a layer lies wrong where it can be seen to. What slides lies on the cloth, what is loose on top or goes through the tray by
// itself, locks lie below the last two, a layer of more than 15 % of the cloth is a block; and nothing else does.
func TestPilesAreWrongWhereTheySay(t *testing.T) {
	found := map[int]int{}
	for seed := range uint64(200) {
		e, err := Make(Piled, int(seed%MostLevel)+1, seed, false)
		require.NoError(t, err)
		wrong := 0
		for i, l := range e.Pile {
			is := func(what string) bool { return strings.HasSuffix(l.Lot.Name, " "+what) }
			want := 0
			switch {
			case i == 0 && (is("silk") || is("viscose")):
				want = 1
			case i == len(e.Pile)-1 && is("silk noil") && l.How == "by hand":
				want = 2
			case i < len(e.Pile)-2 && is("locks"):
				want = 3
			case is("silk noil") && l.How == "from the tray" && i < len(e.Pile)-1:
				want = 4
			case float64(l.Grams) > 0.15*float64(drum.Smooth):
				want = 5
			}
			said := e.Best().Chosen[i]
			if is("silk noil") && i == len(e.Pile)-1 && l.How == "from the tray" {
				assert.Contains(t, []int{2, 4}, said, "seed %d", seed)
			} else {
				assert.Equal(t, want, said, "seed %d, layer %d: %+v", seed, i+1, l)
			}
			if said > 0 {
				wrong++
				found[said]++
			}
		}
		assert.Equal(t, [MostLevel]int{1, 1, 2, 2, 3}[e.Level-1], wrong)
	}
	assert.Len(t, found, len(reasons), "each of them comes")
}
