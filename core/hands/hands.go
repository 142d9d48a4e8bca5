package hands

import (
	"fairtangle/core/layup"
)

// Work is what the steps are of.
type Work struct {
	Plan   layup.Plan
	Bed    layup.Bed
	Fibres []layup.Fibre
	Last   int // pass
}

// For returns what hands do at each step of the work. What is done again and again is told at each such step, what is not
// only at the first where it belongs.
func For(w Work, steps []layup.Step) [][]Motion {
	out, told := make([][]Motion, len(steps)), map[string]bool{}
	for i, s := range steps {
		out[i] = []Motion{}
		for _, key := range w.at(s) {
			m := motions[key]
			if told[key] && !m.often && !m.Safe {
				continue
			}
			if told[key] { // the rest was said
				m.Why, m.Camps = "", ""
			}
			told[key] = true
			out[i] = append(out[i], m)
		}
	}
	return out
}

// toolMotions are those of the tools beside the bed.
var toolMotions = map[layup.Tool][]string{
	layup.ToolFlick: {"raw.tug", "cards.flick"}, layup.ToolPicker: {"raw.nails", "raw.pick"}, layup.ToolOil: {"raw.rags", "raw.oil"},
	layup.ToolCombs: {"comb.points", "comb.lash", "comb.comb", "comb.draw"}, layup.ToolHackle: {"comb.points", "hackle.lash", "hackle.draw"},
	layup.ToolHands: {"hand.match", "hand.pull", "hand.judge"}, layup.ToolCards: {"cards.clean", "cards.load", "cards.stroke", "cards.move", "cards.lift"},
}

// at are the keys of what is done at a step.
func (w Work) at(s layup.Step) []string {
	switch s.Action {
	case layup.Ready:
		return w.ready()
	case layup.Alone:
		if w.Bed.Type == layup.Hands {
			return []string{"hand.pull"}
		}
		return []string{"feed.open", "feed.tray", "feed.brush", "lift.after"}
	case layup.First, layup.Then:
		return toolMotions[s.Tool]
	case layup.Put:
		return w.put(s)
	case layup.Lift:
		return w.lift(s)
	case layup.Split:
		return []string{"pass.judge", "pass.divide"}
	case layup.Again:
		return w.again(s)
	case layup.Roll:
		return w.roll()
	case layup.Card:
		return w.card()
	case layup.Tear:
		return []string{"hand.match", "hand.pull", "hand.judge", "hand.eye"}
	case layup.Clean:
		return w.keep()
	}
	return nil
}

func (w Work) ready() []string {
	switch w.Bed.Type {
	case layup.Board:
		return []string{"board.open"}
	case layup.Cards:
		return []string{"cards.clean"}
	case layup.Hands:
		return []string{"hand.match"}
	}
	out := []string{"drum.clean", "drum.clear"}
	if w.Bed.Electric {
		out = append(out, "drum.motor")
	}
	return append(out, "drum.first", "drum.packer")
}

// put are the motions of a layer that is laid.
func (w Work) put(s layup.Step) (out []string) {
	fed, painted, locks, dots := false, false, false, false
	for _, v := range s.Lays {
		f := w.Fibres[v.Component]
		fed = fed || v.Method == layup.Feed
		painted = painted || v.Method == layup.Paint
		locks = locks || v.Method == layup.Place && f.Lock()
		dots = dots || v.Method == layup.Place && f.Extra()
	}
	switch w.Bed.Type {
	case layup.Board:
		out = append(out, "board.veil")
		if s.Layer == 0 {
			out[0] = "board.base"
		}
		if locks {
			out = append(out, "board.locks")
		}
		return append(out, "board.edges", "board.brush")
	case layup.Cards:
		return []string{"cards.load"}
	case layup.Hands:
		return nil
	}
	if s.Pass > 1 {
		out = append(out, "pass.join")
	}
	if fed {
		out = append(out, w.tray(s)...)
	}
	if painted {
		out = append(out, "paint.hold")
		if w.Plan.OffOf(w.Bed).Way == layup.OffHole {
			out = append(out, "paint.line")
		}
	}
	if locks {
		out = append(out, "paint.locks")
	}
	if dots {
		out = append(out, "paint.dots")
	}
	return append(out, "feed.brush", "feed.edge", "feed.full")
}

// tray are the motions of what is fed through the tray.
func (w Work) tray(s layup.Step) []string {
	out := []string{"feed.open"}
	if s.Layer == 0 {
		out = append(out, "feed.base")
	}
	out = append(out, "feed.tips", "feed.tray", "feed.hands")
	if len(s.Lays) > 1 {
		out = append(out, "feed.lanes")
	}
	return append(out, "run.slow")
}

func (w Work) again(s layup.Step) []string {
	out := []string{"feed.tray", "feed.hands"}
	if s.Pass > 1 {
		out = append(out, "pass.pace")
	}
	return append(out, "run.pick", "run.licker", "feed.brush")
}

// lift are the motions of what is lifted off a drum: at the last pass as it is to come off.
func (w Work) lift(s layup.Step) []string {
	out := []string{"run.licker", "lift.ready", "lift.open"}
	off := w.Plan.OffOf(w.Bed)
	if s.Pass < w.Last {
		off.Way = layup.OffBatt
	}
	switch off.Way {
	case layup.OffRolags:
		out = append(out, "off.rolags", "roll."+off.Rods)
		if off.Tight {
			out = append(out, "roll.tight")
		}
		out = append(out, "off.wind")
	case layup.OffHole:
		out = []string{"run.licker", "lift.ready", "off.thread", "off.hole"}
	case layup.OffStrips:
		out = append(out, "lift.pull", "lift.stuck", "off.strip")
	case layup.OffMini:
		out = append(out, "lift.pull", "lift.stuck", "off.mini")
	default:
		out = append(out, "lift.pull", "lift.stuck")
	}
	return append(out, "lift.after")
}

// roll are the motions of what comes off a board.
func (w Work) roll() []string {
	off := w.Plan.OffOf(w.Bed)
	switch off.Way {
	case layup.OffSheet:
		return []string{"board.sheet"}
	case layup.OffHole:
		return []string{"off.thread", "off.board"}
	}
	drawn := "roll.loose"
	if off.Tight {
		drawn = "roll.tight"
	}
	return []string{"roll.edge", "roll." + off.Rods, "roll.draw", drawn, "roll.part", "roll.firm", "roll.slip", "roll.next"}
}

func (w Work) card() []string {
	out := []string{"cards.load", "cards.stroke", "cards.move", "cards.lift"}
	if w.Plan.OffOf(w.Bed).Way == layup.OffPunis {
		return append(out, "cards.puni", "cards.batch")
	}
	return append(out, "cards.roll")
}

// keep is how what came off is kept.
func (w Work) keep() []string {
	switch w.Plan.OffOf(w.Bed).Makes() {
	case "roving":
		return []string{"keep.roving"}
	case "batt":
		if w.Bed.Type == layup.Drum {
			return []string{"keep.roll"}
		}
	}
	return nil
}
