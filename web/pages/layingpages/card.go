package layingpages

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/carding"
	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/reachpages"
	"fairtangle/web/show"
)

// cardView is a batt foretold, with everything that the page says.
type cardView struct {
	Version   int64       `json:"version"`
	Strips    int         `json:"strips"`
	Refeed    string      `json:"refeed"`
	Planned   int         `json:"planned"`
	Stages    []cardStage `json:"stages"`
	Ways      []cardWay   `json:"ways,omitempty"`
	Size      string      `json:"size"` // of the batt, in words
	LongMM    float64     `json:"long_mm"`
	WideMM    float64     `json:"wide_mm"`
	CanDivide bool        `json:"can_divide"`
	Again     bool        `json:"again"` // it goes through again: passes, or rounds by hand
	Round     string      `json:"round"` // what one going through is called
	Fit       *cardFit    `json:"fit,omitempty"`
	Wanted    int         `json:"wanted_strips"`
}

// cardStage is the batt after a pass.
type cardStage struct {
	Pass    int        `json:"pass"`
	Name    string     `json:"name"`
	Look    string     `json:"look"`
	Spread  float64    `json:"spread"` // CIEDE2000 between patches
	Said    string     `json:"said"`   // what one sees, in a sentence
	Facts   []CardFact `json:"facts"`
	Picture string     `json:"picture"`      // address, to which side and size are added
	Do      string     `json:"do,omitempty"` // what planning so many passes is called
	Wide    string     `json:"wide,omitempty"`
}

// CardFact is a line of a card.
type CardFact struct {
	Name  string `json:"name"`
	Value string `json:"value"`
}

// cardWay is a way to feed the strips again, and what it does to this batt.
type cardWay struct {
	Key    string `json:"key"`
	Name   string `json:"name"`
	Effect string `json:"effect"`
}

var cardWays = []cardWay{
	{Key: string(carding.OwnPlace), Name: "Each strip in its own place"}, {Key: string(carding.Spread), Name: "Each strip over the whole width"},
	{Key: string(carding.Pieces), Name: "In pieces, shuffled, over the whole width"},
}

type cardBody struct {
	View   cardView
	Layup  laying.Layup
	Blend  recipe.Blend
	Making recipe.Making
	Strips []int
	Why    string // nothing can be foretold
	Beside []frame.Option
	What   string // a finding whose mend is set beside it
	Looks  []carding.Look
	Parts  []int
	Rolags bool
	Hands  bool
	Ticks  []reachpages.PlotTick
	Tools  string // what is done beside it is not foreseen
}

// division reads how a batt is to be divided from an address.
func division(c *gin.Context) laying.Division {
	strips, _ := strconv.Atoi(c.Query("strips"))
	return laying.Division{Strips: strips, Refeed: c.Query("refeed"), If: c.Query("if")}
}

func (s *Room) cardPage(c *gin.Context) error {
	l, b, m, u, p, err := s.LayupAround(c)
	if err != nil {
		return err
	}
	for i := range p.Strand.Stops {
		p.Strand.Stops[i].Here = p.Strand.Stops[i].Name == "Card"
	}
	body := cardBody{
		Layup: l, Blend: b, Making: m, Strips: layup.StripCounts[1:], Looks: carding.Looks(), Rolags: l.Equipment.Type == string(layup.Board),
		Hands: l.Equipment.Type == string(layup.Hands), Parts: []int{2, 3, 4, 6, 8}, Tools: toolsSaid(l),
	}
	if body.Rolags {
		body.Parts = []int{1, 2, 3, 4, 5, 6}
	}
	f, err := s.Studio.Laying.Foretell(c.Request.Context(), l.ID, division(c))
	if err == nil {
		body.View, err = s.cardView(c, f, u, true, false)
	}
	if faults, ok := frame.FaultsByField(u, err); ok {
		for _, v := range faults {
			body.Why = v
		}
	} else if err != nil {
		return err
	}
	for i := range body.View.Stages { // as js/card.js places them
		body.Ticks = append(body.Ticks, reachpages.PlotTick{At: 30 + 250*(float64(i)+0.5)/float64(len(body.View.Stages)), Label: i + 1})
	}
	if body.Beside, err = s.cardBesides(c, l, m); err != nil {
		return err
	}
	if body.What = c.Query("what"); body.What != "" {
		body.Beside = append(
			[]frame.Option{{Value: fmt.Sprintf("%d  %s", l.ID, body.What), Label: "this one, if you did what the second look says"}},
			body.Beside...)
	}
	p.Title, p.Scripts = l.Name+", carded", []string{"js/card.js"}
	s.Render(c, http.StatusOK, "card", p, body)
	return nil
}

// foretelling readies the lay-up of the path, divided as the address says.
func (s *Room) foretelling(c *gin.Context) (*laying.Foretelling, show.Units, error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return nil, show.Units{}, err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return nil, u, err
	}
	f, err := s.Studio.Laying.Foretell(c.Request.Context(), n, division(c))
	return f, u, err
}

// foretell answers a script with the view for a division.
func (s *Room) foretell(c *gin.Context) error {
	f, u, err := s.foretelling(c)
	if err != nil {
		return err
	}
	v, err := s.cardView(c, f, u, c.Query("coarse") != "", c.Query("quick") != "")
	if err == nil {
		c.JSON(http.StatusOK, v)
	}
	return err
}

// cardView is what a division does. A quick answer leaves what the other ways would do
// to the next.
func (s *Room) cardView(c *gin.Context, f *laying.Foretelling, u show.Units, coarse, quick bool) (cardView, error) {
	ctx := c.Request.Context()
	l, d := f.Layup, f.Division
	v := cardView{
		Again: f.Shown > 1 && l.Equipment.Bed().Again(), Round: roundOf(f), Fit: fitView(f),
		Version: l.Version, Strips: d.Strips, Refeed: d.Refeed, Planned: f.Planned, CanDivide: f.Shown > 1 && l.Equipment.Type == string(layup.Drum),
		LongMM: l.Equipment.LengthMM, WideMM: l.Equipment.WidthMM, Wanted: l.Strips,
		Size: fmt.Sprintf("%s along, %s wide", u.Size(l.Equipment.LengthMM), u.Size(l.Equipment.WidthMM)),
	}
	stages, err := s.Studio.Laying.Stages(ctx, f, coarse)
	if err != nil {
		return v, err
	}
	v.Stages = cardStages(f, stages, v.Round, u)
	if !v.CanDivide || quick {
		return v, nil
	}
	for _, w := range cardWays {
		alike, err := s.Studio.Laying.Foretell(ctx, l.ID, laying.Division{Strips: d.Strips, Refeed: w.Key})
		if err != nil {
			return v, err
		}
		list, err := s.Studio.Laying.Stages(ctx, alike, true)
		if err != nil {
			return v, err
		}
		w.Effect = wayEffect(list, min(max(f.Planned, 2), len(list)))
		v.Ways = append(v.Ways, w)
	}
	return v, nil
}

// roundOf is what going through once is called.
func roundOf(f *laying.Foretelling) string {
	if f.Layup.Equipment.Type == string(layup.Hands) {
		return "round"
	}
	return "pass"
}

// cardStages is what each stage says and where its pictures are.
func cardStages(f *laying.Foretelling, stages []carding.Stage, round string, u show.Units) (list []cardStage) {
	q := url.Values{"strips": {strconv.Itoa(f.Division.Strips)}, "refeed": {f.Division.Refeed}, "of": {f.Digest}}
	if f.Division.If != "" {
		q.Set("if", f.Division.If)
	}
	for _, st := range stages {
		out := cardStage{Pass: st.Pass, Name: passName(round, st.Pass, len(stages)), Look: string(st.Look), Spread: st.Patch, Said: cardSaid(st)}
		q.Set("stage", strconv.Itoa(st.Pass))
		out.Picture = fmt.Sprintf("/layups/%d/card.png?%s", f.Layup.ID, q.Encode())
		out.Facts = cardFacts(f.OfFibres(st), f.Layup, u)
		list = append(list, out)
	}
	return list
}

func passName(round string, pass, of int) string {
	switch {
	case of == 1:
		return "as laid"
	case pass == 1:
		return round + " 1, as laid"
	}
	return fmt.Sprintf("%s %d", round, pass)
}

// wayEffect says what a way to feed the strips again does by the pass that is planned.
func wayEffect(list []carding.Stage, pass int) string {
	first, last := list[0], list[pass-1]
	at := fmt.Sprintf("%s after pass %d", last.Look, pass)
	switch {
	case first.Graded() && last.Graded():
		return "keeps your gradient; " + at
	case first.Graded():
		return "ends your gradient; " + at
	}
	return at
}

// lookWords say what a look is.
var lookWords = map[carding.Look]string{
	carding.Streaky:   "strips of one colour beside another.",
	carding.Marled:    "fine streaks, each colour still seen.",
	carding.Heathered: "one colour from afar, several near by.",
	carding.Even:      "one colour, however near.",
}

func cardSaid(v carding.Stage) string {
	out := string(v.Look) + ", " + lookWords[v.Look]
	if v.Graded() {
		out = string(v.Look) + ", in each part of the width " + lookWords[v.Look] + " A gradient lies across it."
	}
	if v.TwoSided() {
		out += " Its two sides differ."
	}
	return out
}

func cardFacts(v carding.Stage, l laying.Layup, u show.Units) []CardFact {
	grams, lost := v.TotalG(), v.LostG()
	lin := v.Even
	out := []CardFact{
		{"Patches differ by", "~" + show.Fixed(v.Patch, 1)},
		{"seen on the face, the back, cut through", fmt.Sprintf("%s, %s, %s", show.Fixed(v.Spreads[carding.Face].Patch, 1),
			show.Fixed(v.Spreads[carding.Back].Patch, 1), show.Fixed(v.Spreads[carding.Cut].Patch, 1))},
		{"Colour across differs by", "~" + show.Fixed(v.Across, 0)},
		{"Mixed evenly it is", lin.Hex()},
		{"Comes off", "~" + u.Grams(grams)},
	}
	if lost > 0.005 {
		out = append(out, CardFact{"lost in this pass", "~" + u.Grams(lost)})
	}
	if i, worst, ok := v.MostIrregular(); ok {
		out = append(out, CardFact{"Irregularity, most in " + l.Fibres[i].Name, show.Fixed(worst, 1) + "; 1 is by chance alone"})
	}
	for i, f := range l.Fibres {
		if i >= len(v.Grams) || v.Grams[i] <= 0 {
			continue
		}
		said := fmt.Sprintf("%s by weight; %s of the face, %s of the back", show.Percent(v.Grams[i]/grams),
			show.Percent(v.Spreads[carding.Face].Shares[i]), show.Percent(v.Spreads[carding.Back].Shares[i]))
		if spread := v.Strips.Spread(i); spread > 0.005 {
			said += fmt.Sprintf("; from strip to strip ± %s points", show.Fixed(100*spread, 1))
		}
		out = append(out, CardFact{f.Name, said})
	}
	return out
}

// layupNow answers a script with a lay-up as it is kept, to be changed.
func (s *Room) layupNow(c *gin.Context) error {
	l, err := s.layup(c)
	if err == nil {
		c.JSON(http.StatusOK, gin.H{"version": l.Version, "input": l.LayupInput})
	}
	return err
}

// cardNeeds answers with lines of JSON: how far the forecast is, at last how many passes
// it takes to each look.
func (s *Room) cardNeeds(c *gin.Context) error {
	f, u, err := s.foretelling(c)
	if err != nil {
		return err
	}
	round := roundOf(f)
	return s.InLines(c, u, func(say func(any) bool) (any, error) {
		needs, err := f.Needs(c.Request.Context(), func(i, n int) { say(gin.H{"part": float64(i) / float64(n)}) })
		return gin.H{"needs": passesViews(needs, round)}, err
	})
}

// passesView is how many passes it takes to a look.
type passesView struct {
	Look   string `json:"look"`
	Passes int    `json:"passes"`
	Words  string `json:"words"`
	Range  string `json:"range"`
	Never  bool   `json:"never"`
}

func passesViews(needs map[carding.Look]carding.Needed, round string) (out []passesView) {
	for _, l := range carding.Looks()[1:] {
		n := needs[l]
		v := passesView{Look: string(l), Passes: n.Median, Words: fmt.Sprintf("to be %s", l), Never: n.Median > carding.Horizon}
		switch {
		case v.Never:
			v.Words = fmt.Sprintf("more than %s to be %s", show.Plural(carding.Horizon, round), l)
		case n.Low == n.High:
			v.Range = "on any carder like yours"
		case n.High > carding.Horizon:
			v.Range = fmt.Sprintf("from %d on carders like yours", n.Low)
		default:
			v.Range = fmt.Sprintf("%d to %d on carders like yours", n.Low, n.High)
		}
		out = append(out, v)
	}
	return out
}
