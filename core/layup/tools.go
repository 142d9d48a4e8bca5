package layup

import (
	"slices"

	"fairtangle/core/fault"
)

// Tool is what fibre goes through by itself before it is laid, or what came off goes through after it, beside the bed that the plan
// is of. What a tool does to the look is not foreseen, and it takes no part in the weights: what it leaves behind is weighed in a run.
type Tool string

// The tools: a picker opens locks; flicking opens their tips; combs and a hackle lay fibres along and keep the short ones back; hand
// cards and bare hands mix a little at a time; oil is sprayed on and rests.
const (
	ToolPicker Tool = "picker"
	ToolOil    Tool = "oil"
	ToolFlick  Tool = "flick"
	ToolCombs  Tool = "combs"
	ToolHackle Tool = "hackle"
	ToolHands  Tool = "by-hand"
	ToolCards  Tool = "hand-cards"
)

// ToolsBefore and ToolsAfter are the tools that can be used before anything is laid, and after it came off, in the order in which one
// would.
var (
	ToolsBefore = []Tool{ToolFlick, ToolPicker, ToolCombs, ToolHackle, ToolHands, ToolCards, ToolOil}
	ToolsAfter  = []Tool{ToolHands, ToolCards, ToolFlick, ToolCombs, ToolHackle}
)

// toolMinutes is how long 100 g take (judgement, from the loads and strokes of hands.md, sections 4 to 6).
var toolMinutes = map[Tool]float64{
	ToolFlick: 25, ToolPicker: 6, ToolCombs: 40, ToolHackle: 20, ToolHands: 15, ToolCards: 35, ToolOil: 2,
}

// Minutes is how long a tool takes for so many grams.
func (t Tool) Minutes(grams float64) float64 { return toolMinutes[t] * grams / 100 }

// UseTool adds a tool to what is used before or after, or takes it away; they come in the order in which one would.
func (p Plan) UseTool(t Tool, after, use bool) (Plan, error) {
	all, list := ToolsBefore, &p.Before
	if after {
		all, list = ToolsAfter, &p.After
	}
	if !slices.Contains(all, t) {
		return p, fault.New("tool", "There is no such tool here.")
	}
	var out []Tool
	for _, v := range all {
		if v == t && use || v != t && slices.Contains(*list, v) {
			out = append(out, v)
		}
	}
	*list = out
	return p, nil
}

// checkTools finds tools that are none.
func (p Plan) checkTools(l *fault.List) {
	for _, v := range []struct {
		field     string
		list, all []Tool
	}{{"before", p.Before, ToolsBefore}, {"after", p.After, ToolsAfter}} {
		for i, t := range v.list {
			if !slices.Contains(v.all, t) || slices.Contains(v.list[:i], t) {
				l.Add(v.field, "Each tool once, of those that can be used there.")
				return
			}
		}
	}
}

// toolSteps are the steps of tools, of so many grams each.
func toolSteps(a Action, pass int, list []Tool, grams float64) (out []Step) {
	for _, t := range list {
		s := Step{Action: a, Pass: pass, Layer: -1, Tool: t, Grams: grams, Cautions: []string{}}
		if t != ToolHands && t != ToolOil {
			s.Cautions = append(s.Cautions, SharpPins)
		}
		out = append(out, s)
	}
	return out
}
