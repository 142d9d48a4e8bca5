package layingpages

import (
	"fmt"
	"math"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/hands"
	"fairtangle/core/layup"
	"fairtangle/core/trouble"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// BenchStep is a step of the work with its texts.
type BenchStep struct {
	Number   int        `json:"number"`
	Title    string     `json:"title"`
	Amount   string     `json:"amount"` // the biggest on the page
	Feeds    string     `json:"feeds"`
	Lines    []benchLay `json:"lines"`
	Cautions []string   `json:"cautions"`
	Layer    int        `json:"layer"` // how far the section is built; -1: as it was
	Pass     int        `json:"pass"`
	How      string     `json:"how"`
	Href     string     `json:"href"`
	Link     string     `json:"link"`
	Picture  string     `json:"picture,omitempty"` // what it should look like now
	Expect   string     `json:"expect,omitempty"`
	Action   string     `json:"action,omitempty"` // in a run
	Checks   []string   `json:"checks,omitempty"` // in a run: what is ticked, by caution
	Trouble  string     `json:"trouble"`          // where what does not go as it should is looked for
	// Motions are what hands do.
	Motions []hands.Motion `json:"motions"`
	Half    int            `json:"half"` // 1: the first half of what is fed again, 2: the rest or all of it
}

// benchLay is one lay of a step.
type benchLay struct {
	Letter string `json:"letter"`
	Name   string `json:"name"`
	Where  string `json:"where"`
	Amount string `json:"amount"`
	Method string `json:"method"`
}

type benchBody struct {
	View   BedView
	Steps  []BenchStep
	Blend  recipe.Blend
	Making recipe.Making
	// Mirrored shows the second unit of a pair.
	Mirrored bool
}

var methodWords = map[layup.Method]string{layup.Feed: "through the tray", layup.Paint: "painted on", layup.Place: "laid on as it is"}

// againTitle says which strips are fed again.
func againTitle(v layup.Step) string {
	switch {
	case v.Portions > 2:
		return fmt.Sprintf("Feed it again, pass %d: portion %d of %d of each strip", v.Pass, v.Portion, v.Portions)
	case v.Half:
		return fmt.Sprintf("Feed it again, pass %d: half of each strip", v.Pass)
	case v.First == 1 && v.Last == v.Strips:
		return fmt.Sprintf("Feed it again, pass %d", v.Pass)
	case v.First == v.Last:
		return fmt.Sprintf("Feed it again, pass %d: strip %d of %d", v.Pass, v.First, v.Strips)
	}
	return fmt.Sprintf("Feed it again, pass %d: strips %d to %d of %d", v.Pass, v.First, v.Last, v.Strips)
}

// againWords says how strips go back: each in its place, or over the whole width.
func againWords(v layup.Step, l laying.Layup, u show.Units) string {
	if v.Refeed == layup.OwnPlace {
		return fmt.Sprintf("Each strip goes back where it lay, from the left: strip 1 from 0 to %s, and so on; %s wide each.",
			u.Size(l.Equipment.WidthMM/float64(v.Strips)), u.Size(l.Equipment.WidthMM/float64(v.Strips)))
	}
	return "One strip after the other, fibres along as they run, spread over the whole width of the tray."
}

// followedBy is the latest weigh-out that follows a lay-up.
func followedBy(weighs []recipe.WeighoutRow, layup int64) (recipe.WeighoutRow, bool) {
	for _, w := range weighs {
		if w.LayupID != nil && *w.LayupID == layup {
			return w, true
		}
	}
	return recipe.WeighoutRow{}, false
}

// BenchSteps are the steps of the work as the bench shows them.
func BenchSteps(l laying.Layup, weighs []recipe.WeighoutRow, u show.Units) (out []BenchStep) {
	u = u.WithStep(l.StepG)
	motions := l.Motions()
	for i, v := range l.Steps {
		s := BenchStep{Motions: motions[i], Number: i + 1, Layer: v.Layer, Pass: v.Pass, Cautions: v.Cautions, Lines: []benchLay{}}
		s.Trouble = fmt.Sprintf("pass=%d&step=%s", max(v.Pass, 1), trouble.StageOf(v.Action))
		switch v.Action {
		case layup.Ready:
			s.Title, s.How = "Before you begin", "Have "+l.Name+" weighed out beside you, layer by layer."
		case layup.Alone:
			aloneStep(&s, v, l, u)
		case layup.First, layup.Then:
			toolStep(&s, v, l, u)
		case layup.Put:
			putStep(&s, v, l, u)
		case layup.Lift:
			liftStep(&s, v, l, u)
		case layup.Split:
			s.Title, s.Amount = fmt.Sprintf("Divide it for pass %d", v.Pass), show.Plural(v.Strips, "strip")
			s.How = fmt.Sprintf("Tear the batt lengthwise into %s of about %s, in the order in which they lie, and draw each thin.",
				show.Plural(v.Strips, "strip"), u.Grams(v.Grams/float64(v.Strips)))
		case layup.Again:
			s.Title, s.Amount = againTitle(v), "~"+u.Grams(v.Grams)
			s.Feeds = fmt.Sprintf("%s of %s, so thin that the tray shows through", show.Plural(v.Feeds, "feed"), u.Grams(v.PortionG))
			s.How = againWords(v, l, u)
		case layup.Tear:
			s.Title, s.Amount = fmt.Sprintf("Tear it and lay it again, round %d", v.Pass), "~"+u.Grams(v.Grams)
			s.How = "Part it along into handfuls, lay one on the other the same way round, so that no colour lies on itself, and draw it out to its length again."
		case layup.Roll:
			rollStep(&s, l, u)
		case layup.Card:
			cardStep(&s, l)
		case layup.Clean:
			doneStep(&s, l, weighs)
		}
		out = append(out, s)
	}
	markHalves(out, l.Steps)
	return out
}

// putStep is a layer that is laid.
func putStep(s *BenchStep, v layup.Step, l laying.Layup, u show.Units) {
	hands := l.Equipment.Type == string(layup.Hands)
	s.Title, s.Amount = fmt.Sprintf("Layer %d: %s", v.Layer+1, LayerTitle(l.LayupInput.Layers[v.Layer], l)), u.Grams(v.Grams)
	if v.Portions > 1 {
		s.Title = fmt.Sprintf("%s, %d of %d", s.Title, v.Portion, v.Portions)
	}
	one := oneMethod(v.Lays)
	if !hands {
		s.Feeds = methodWords[one]
	}
	if v.Feeds > 0 {
		s.Feeds = fmt.Sprintf("%s of %s, so thin that the tray shows through", show.Plural(v.Feeds, "feed"), u.Grams(v.PortionG))
	}
	if l.Equipment.Type == "board" {
		s.How = "From the handle edge downwards, light strokes; brush it down before the next."
	}
	for _, lay := range v.Lays {
		line := benchLay{show.Letter(lay.Component), l.Fibres[lay.Component].Name, place(lay, l, u), u.Grams(lay.Grams), ""}
		if one == "" && !hands {
			line.Method = ", " + methodWords[lay.Method]
		}
		line.Method += fedSaid(l, lay.Component)
		s.Lines = append(s.Lines, line)
	}
}

// aloneStep is a fibre that is carded by itself first, for all units at once.
func aloneStep(s *BenchStep, v layup.Step, l laying.Layup, u show.Units) {
	units := max(l.Units, 1)
	for _, a := range l.LaidPlan.Loadings(l.Bed, l.LaidFibres, units) {
		if a.Component != v.Lays[0].Component {
			continue
		}
		s.Title, s.Amount = fmt.Sprintf("Card %s alone, %s", l.Fibres[a.Component].Name, show.Times(a.Passes)), u.Grams(a.WeighG)
		if a.Loads > 1 {
			s.Feeds = fmt.Sprintf("in %s of about %s", show.Plural(a.Loads, "filling"), u.Grams(a.EachG))
		}
		s.How = "Lift it off as a batt: it is laid of that, about " + u.Grams(a.LaidG) + "."
		if units > 1 {
			s.How = fmt.Sprintf("That is for all %d units. Lift it off as a batt and divide it into %d, about %s each: they are laid of that.",
				units, units, u.Grams(a.LaidG))
		}
		switch l.Bed.Type {
		case layup.Board:
			s.How = "On hand cards or a drum. " + s.How
		case layup.Hands:
			s.Title = fmt.Sprintf("Tear and lay %s alone, %s", l.Fibres[a.Component].Name, show.Times(a.Passes))
			s.How = strings.Replace(s.How, "Lift it off as a batt", "Keep it", 1)
		}
	}
}

// fedSaid says how a fibre of several colours is laid; of one there is nothing to say.
func fedSaid(l laying.Layup, component int) string {
	if component >= len(l.Blend.Components) || l.Blend.Components[component].Lies() == "" {
		return ""
	}
	fed := l.LaidPlan.FedOf(component)
	for _, w := range fedWords {
		if w.Key == fed.How && fed.How == "abreast" {
			return fmt.Sprintf(", %d %s", fed.Abreast, w.Short)
		}
		if w.Key == fed.How {
			return ", " + w.Short
		}
	}
	return ""
}

// doneStep is the last step: what came off is weighed, and noted where it was weighed out.
func doneStep(s *BenchStep, l laying.Layup, weighs []recipe.WeighoutRow) {
	s.Title, s.How = "Done", "Weigh what came off and note it, with what stayed in the cloth."
	if l.Equipment.Type == string(layup.Hands) {
		s.How = "Weigh it and note it." + crosswise(l)
	}
	s.Href, s.Link = fmt.Sprintf("/blends/%d/weigh", l.BlendID), "Weigh it out, so that what comes off can be noted"
	if w, ok := followedBy(weighs, l.ID); ok {
		s.Href, s.Link = fmt.Sprintf("/weighouts/%d#came-off", w.ID), "Note what came off"
	}
}

// markHalves tells of each step of a later pass how much of what is fed again
// lies on the cloth.
func markHalves(out []BenchStep, steps []layup.Step) {
	half := 2
	for i, v := range steps {
		switch {
		case v.Action == layup.Split:
			half = 0
		case v.Action == layup.Again && (v.Portion < v.Portions || v.Portions == 0 && v.Last < v.Strips):
			half = 1
		case v.Action == layup.Again:
			half = 2
		}
		out[i].Half = half
	}
}

// oneMethod is the method of all lays of a step, empty where they differ.
func oneMethod(lays []layup.Lay) layup.Method {
	for _, v := range lays {
		if v.Method != lays[0].Method {
			return ""
		}
	}
	return lays[0].Method
}

func cutWords(l laying.Layup, u show.Units) string {
	var out []string
	for _, c := range l.Rolls.Cuts {
		out = append(out, u.PlainLength(c*l.Equipment.LengthMM))
	}
	return strings.Join(out, ", ") + "\u00a0" + u.LengthUnit()
}

// place says where a lay lies.
func place(v layup.Lay, l laying.Layup, u show.Units) string {
	var out []string
	mm := func(part, of float64) string { return u.PlainLength(math.Round(part * of)) } // nobody lays finer
	if v.From > 0.001 || v.To < 0.999 {
		out = append(out, fmt.Sprintf("%s to %s\u00a0%s across", mm(v.From, l.Equipment.WidthMM), mm(v.To, l.Equipment.WidthMM), u.LengthUnit()))
	}
	if v.Start > 0.001 || v.End < 0.999 {
		out = append(out, fmt.Sprintf("%s to %s\u00a0%s along", mm(v.Start, l.Equipment.LengthMM), mm(v.End, l.Equipment.LengthMM), u.LengthUnit()))
	}
	if len(out) == 0 {
		return "whole width"
	}
	return strings.Join(out, ", ")
}

// benchPage is the lay-up at the carder, step by step; it also prints.
func (s *Room) benchPage(c *gin.Context) error {
	l, b, m, u, p, err := s.LayupAround(c)
	if err != nil {
		return err
	}
	body := benchBody{Blend: b, Making: m, Mirrored: l.MirrorPairs && c.Query("pair") == "second"}
	if body.Mirrored {
		l = l.Turned()
	}
	weighs, err := s.Studio.Recipe.WeighoutsOf(c.Request.Context(), b.ID)
	if err != nil {
		return err
	}
	body.Steps = BenchSteps(l, weighs, u)
	if err := s.PutFirst(c, b.ID, l, body.Steps, u); err != nil {
		return err
	}
	if !body.Mirrored {
		if err := s.Expected(c, l, body.Steps); err != nil {
			return err
		}
	}
	body.View = s.BedView(l, u, frame.StepsView{})
	p.Title, p.Scripts = l.Name+", at the carder", []string{"js/bench.js", "js/print.js", "js/awake.js"}
	s.Render(c, http.StatusOK, "bench", p, body)
	return nil
}

// Expected puts beside each lifting off what the batt should look like then, beside each
// dividing what is divided, and beside each round by hand what it becomes; what can not be
// foretold has no picture.
func (s *Room) Expected(c *gin.Context, l laying.Layup, steps []BenchStep) error {
	ctx := c.Request.Context()
	f, err := s.Studio.Laying.Foretell(ctx, l.ID, laying.Division{})
	if _, isFault := fault.From(err); isFault || !l.Equipment.Bed().Again() {
		return nil
	}
	if err != nil {
		return err
	}
	stages, err := s.Studio.Laying.Stages(ctx, f, true)
	if err != nil {
		return err
	}
	for i, v := range l.Steps {
		stage, word := v.Pass, "Foreseen: "
		switch v.Action {
		case layup.Lift, layup.Tear:
		case layup.Split:
			stage, word = v.Pass-1, "What is divided: "
		default:
			continue
		}
		if stage <= len(stages) {
			steps[i].Picture = fmt.Sprintf("/layups/%d/card.png?of=%s&stage=%d&w=640&h=260", l.ID, f.Digest, stage)
			steps[i].Expect = word + cardSaid(stages[stage-1])
		}
	}
	return nil
}
