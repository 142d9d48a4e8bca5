package hands

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/layup"
)

var (
	wool  = layup.Fibre{Name: "wool", Grams: 20, Family: "wool", Crimp: "medium", Preparation: "carded_sliver", StapleMM: 80, Cohesion: "grippy"}
	locks = layup.Fibre{Name: "locks", Grams: 2, Family: "wool", Preparation: "locks", StapleMM: 80}
	dots  = layup.Fibre{Name: "dots", Grams: 2, Family: "wool", Preparation: "neps", StapleMM: 5}
)

// worked are the keys of a lay-up of wool with locks and dots, step by step.
func worked(t *testing.T, b layup.Bed, off layup.Off, passes int) (steps []layup.Step, keys [][]string) {
	t.Helper()
	fibres := []layup.Fibre{wool, locks, dots}
	p, err := layup.Build(b, fibres, layup.Options{Builder: layup.Sandwich, Step: 0.1, Passes: passes})
	require.NoError(t, err)
	p.Off = off
	s := p.Survey(b, fibres, passes)
	for _, list := range For(Work{p, b, fibres, p.Last(b, passes)}, s.Steps) {
		var now []string
		for _, m := range list {
			assert.NotEmpty(t, m.Do, m.Key)
			now = append(now, m.Key)
		}
		keys = append(keys, now)
	}
	return s.Steps, keys
}

func of(steps []layup.Step, keys [][]string, a layup.Action, pass int) (out []string) {
	for i, s := range steps {
		if s.Action == a && s.Pass == pass {
			out = append(out, keys[i]...)
		}
	}
	return out
}

var (
	drum  = layup.Bed{Type: layup.Drum, Electric: true, WidthMM: 200, LengthMM: 580, ToothMM: 10, Smooth: 60, Lofty: 30, FeedG: 0.3}
	board = layup.Bed{Type: layup.Board, WidthMM: 300, LengthMM: 300, ToothMM: 12, Smooth: 40, Lofty: 25}
	cards = layup.Bed{Type: layup.Cards, WidthMM: 200, LengthMM: 100, ToothMM: 8, Smooth: 4, Lofty: 3}
)

func TestTheDrumStepByStep(t *testing.T) {
	steps, keys := worked(t, drum, layup.Off{}, 2)
	assert.Equal(t, []string{"drum.clean", "drum.clear", "drum.motor", "drum.first", "drum.packer"}, of(steps, keys, layup.Ready, 1))
	first := of(steps, keys, layup.Put, 1)
	assert.Equal(t, []string{"feed.open", "feed.base", "feed.tips", "feed.tray", "feed.hands", "run.slow", "feed.brush"}, first[:7])
	late := of(steps, keys, layup.Put, 2)
	assert.Contains(t, late, "paint.dots")
	assert.NotContains(t, late, "feed.open", "it was said")
	for pass := 1; pass <= 2; pass++ {
		lift := of(steps, keys, layup.Lift, pass)
		assert.Contains(t, lift, "lift.ready", "safety is said each time")
		assert.Contains(t, lift, "lift.open")
	}
	assert.Equal(t, []string{"keep.roll"}, of(steps, keys, layup.Clean, 2))
	steps, keys = worked(t, drum, layup.Off{Way: layup.OffHole}, 2)
	assert.Contains(t, of(steps, keys, layup.Lift, 1), "lift.pull", "only the last pass is drawn off")
	assert.Equal(t, []string{"lift.ready", "off.thread", "off.hole"}, of(steps, keys, layup.Lift, 2)[:3])
	assert.Equal(t, []string{"keep.roving"}, of(steps, keys, layup.Clean, 2))
	steps, keys = worked(t, drum, layup.Off{Way: layup.OffRolags, Rods: "two", Tight: true}, 1)
	assert.Subset(t, of(steps, keys, layup.Lift, 1), []string{"off.rolags", "roll.two", "roll.tight", "off.wind"})
}

func TestTheBoardAndTheCards(t *testing.T) {
	steps, keys := worked(t, board, layup.Off{}, 1)
	assert.Equal(t, []string{"roll.edge", "roll.starter", "roll.draw", "roll.loose", "roll.part", "roll.firm", "roll.slip", "roll.next"},
		of(steps, keys, layup.Roll, 1))
	assert.Equal(t, "board.base", of(steps, keys, layup.Put, 1)[0])
	steps, keys = worked(t, board, layup.Off{Rods: "one", Tight: true}, 1)
	assert.Equal(t, []string{"roll.edge", "roll.one", "roll.draw", "roll.tight"}, of(steps, keys, layup.Roll, 1)[:4])
	steps, keys = worked(t, board, layup.Off{Way: layup.OffSheet}, 1)
	assert.Equal(t, []string{"board.sheet"}, of(steps, keys, layup.Roll, 1))
	steps, keys = worked(t, cards, layup.Off{Way: layup.OffPunis}, 1)
	assert.Equal(t, []string{"cards.puni", "cards.batch"}, of(steps, keys, layup.Card, 1)[len(of(steps, keys, layup.Card, 1))-2:])
	steps, keys = worked(t, cards, layup.Off{Way: layup.OffHole}, 1)
	assert.Contains(t, of(steps, keys, layup.Card, 1), "cards.roll", "no hole on a card: as is usual there")
}

// Every motion that a step names is told, and every one that is told is named by a step of some work.
func TestEveryMotionHasItsStep(t *testing.T) {
	used := map[string]bool{}
	for _, b := range []layup.Bed{drum, board, cards, {Type: layup.Hands, WidthMM: 200, LengthMM: 300, ToothMM: 200, Smooth: 100, Lofty: 60}} {
		for _, way := range b.OffWays() {
			for _, rods := range layup.Rods {
				for _, tight := range []bool{false, true} {
					w := Work{layup.Plan{Off: layup.Off{Way: way, Rods: rods, Tight: tight}}, b, []layup.Fibre{wool, locks, dots}, 2}
					for _, a := range []layup.Action{layup.Ready, layup.Alone, layup.Lift, layup.Split, layup.Again, layup.Roll, layup.Card, layup.Tear, layup.Clean} {
						for pass := 1; pass <= 2; pass++ {
							for _, key := range w.at(layup.Step{Action: a, Pass: pass}) {
								used[key] = true
							}
						}
					}
					for _, tool := range layup.ToolsBefore {
						for _, key := range w.at(layup.Step{Action: layup.First, Tool: tool}) {
							used[key] = true
						}
					}
					for layer := range 2 {
						for _, m := range []layup.Method{layup.Feed, layup.Paint, layup.Place} {
							s := layup.Step{Action: layup.Put, Layer: layer, Pass: layer + 1}
							for c := range 3 {
								s.Lays = append(s.Lays, layup.Lay{Component: c, Method: m})
							}
							for _, key := range w.at(s) {
								used[key] = true
							}
						}
					}
				}
			}
		}
	}
	for key := range used {
		assert.Contains(t, motions, key)
	}
	for key, m := range motions {
		assert.True(t, used[key], "no step names %s", key)
		assert.LessOrEqual(t, len(m.Do), 150, "%s: short", key)
		all := m.Do + m.Why + m.See + m.Mind + m.Camps
		assert.NotContains(t, all, "licker", key)
		assert.NotRegexp(t, `\d (mm|cm|g)\b|\bgrams?\b`, all, "%s: quantities are told in the maker's units, on the page", key)
	}
	assert.Error(t, read("a thing to do"))
	assert.Error(t, read("= a.key\nDo it.\nDo more."))
	assert.True(t, motions["lift.open"].Safe)
}

// TestEveryToolHasItsMotions: each tool beside the bed is told at its step, with its care for hands first where it has points.
func TestEveryToolHasItsMotions(t *testing.T) {
	p, err := layup.Build(drum, []layup.Fibre{wool}, layup.Options{Builder: layup.Depth, Step: 0.1, Passes: 1})
	require.NoError(t, err)
	p.Before, p.After = layup.ToolsBefore, layup.ToolsAfter
	steps := p.Steps(drum, []layup.Fibre{wool}, 1)
	told := For(Work{p, drum, []layup.Fibre{wool}, 1}, steps)
	var before, after []layup.Tool
	for i, s := range steps {
		switch s.Action {
		case layup.First:
			before = append(before, s.Tool)
			assert.NotEmpty(t, told[i], s.Tool)
		case layup.Then:
			after = append(after, s.Tool)
		}
		for _, m := range told[i] {
			if s.Tool == layup.ToolPicker || s.Tool == layup.ToolCombs && s.Action == layup.First {
				assert.True(t, told[i][0].Safe, m.Key)
			}
		}
	}
	assert.Equal(t, layup.ToolsBefore, before)
	assert.Equal(t, layup.ToolsAfter, after)
}
