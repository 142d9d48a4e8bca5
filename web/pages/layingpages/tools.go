package layingpages

import (
	"fmt"
	"slices"
	"strings"

	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/studio/workshop"
	"fairtangle/web/show"
)

// toolWord is a tool that fibre goes through before it is laid, or after: its name, what it does, and what is then done at the carder.
type toolWord struct {
	Key, Name, Why string
	before, after  string // the title of its step
	how            string
}

var toolWords = []toolWord{
	{"flick", "flicked", "lock by lock: tips and butts open, what is brittle comes away", "Flick the locks", "Flick it",
		"A lock at a time, held tightly in its middle over leather: tip first, then the butt."},
	{"picker", "picked", "opened to a cloud; dust and short bits fall", "Open it in the picker", "",
		"A handful at a time, to and fro. Lift what is stuck with a needle, and clear out what fell after each batch."},
	{"combs", "combed", "long fibre along, short fibre and specks left in the comb: a top", "Comb it", "Comb it",
		"Lash it on, comb from the tips inwards, and draw it off in one length. Weigh what stays in the comb."},
	{"hackle", "over a hackle", "colours lashed on in turn, drawn off together", "Lash it on the hackle", "Over a hackle",
		"Thin handfuls lashed on, tips out; drawn off by half a staple at a time."},
	{"by-hand", "mixed by hand", "pulled apart and laid together, a handful at a time", "Mix it by hand", "Mix it further by hand",
		"Hold both ends, let the fibres slip apart, and lay the halves on each other the same way round."},
	{"hand-cards", "on hand cards", "evener than fingers, a little at a time", "Open it on hand cards", "Finish it on hand cards",
		"A thin veil at a time: light strokes, tips first, moved over and stroked again."},
	{"oil", "oiled", "half to two in a hundred, against static and breaking; it washes out", "Put oil on it", "",
		"One part of spinning oil in three to four of water, sprayed; covered for half a day. Note how much at the pass: it weighs with the " +
			"fibre. No linseed or other oil that dries: rags of it take fire."},
}

func toolsOf(list []layup.Tool) (out []toolWord) {
	for _, t := range list {
		i := slices.IndexFunc(toolWords, func(w toolWord) bool { return w.Key == string(t) })
		out = append(out, toolWords[i])
	}
	return out
}

// toolStep is what is done with a tool.
func toolStep(s *BenchStep, v layup.Step, l laying.Layup, u show.Units) {
	w := toolsOf([]layup.Tool{v.Tool})[0]
	s.Title, s.How = w.before, w.how
	if v.Action == layup.Then {
		s.Title = w.after
	}
	s.Amount = "~" + u.Grams(v.Grams)
	own := workshop.ToolOf(l.Tools, v.Tool)
	if own == nil {
		s.Feeds = fmt.Sprintf("about %s min, as practised hands take", show.Fixed(v.Tool.Minutes(v.Grams), 0))
		return
	}
	s.Feeds = fmt.Sprintf("%s, about %s min", own.Name, show.Fixed(own.Minutes*v.Grams/100, 0))
	if own.LossPct > 0 {
		s.Feeds += ", some " + u.Grams(v.Grams*own.LossPct/100) + " of it stay behind"
	}
	if own.Cleaning != "" {
		s.How += " Cleaning: " + own.Cleaning + "."
	}
}

// toolsSaid says what tools a lay-up uses beside its bed, and that nobody foresees what they do; empty where there are none.
func toolsSaid(l laying.Layup) string {
	p := l.LaidPlan
	var parts []string
	for _, v := range []struct {
		when string
		list []layup.Tool
	}{{"before it is laid: ", p.Before}, {"after it comes off: ", p.After}} {
		var names []string
		for _, w := range toolsOf(v.list) {
			names = append(names, w.Name)
		}
		if len(names) > 0 {
			parts = append(parts, v.when+strings.Join(names, ", "))
		}
	}
	if len(parts) == 0 {
		return ""
	}
	said := strings.Join(parts, "; ")
	said = strings.ToUpper(said[:1]) + said[1:] + ". What that does to the look is not foreseen"
	if len(p.After) > 0 {
		said += ": the forecast shows it as it comes off, and it will be evener"
	}
	return said + "."
}
