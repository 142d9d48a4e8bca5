package pages

import (
	"fmt"
	"math"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/core/carding"
	"fairtangle/studio"
	"fairtangle/web/show"
)

// notebookLines is how many lines a page of the notebook shows.
const notebookLines = 20

type notebookBody struct {
	Q, Making, Sort string
	Makings         []studio.MakingName
	Days            []notebookDay
	Total           int64
	Prev, Next      string
	Record          studio.Record
	Plots           []weightPlot
	Kinds           []kindLine
	Lessons         []lessonLine
	More            int // lessons that are not shown
}

// notebookDay is what was made on a day.
type notebookDay struct {
	Day   string
	Lines []notebookLine
}

type notebookLine struct {
	Value  string // names it to be set beside another: run-3
	Name   string
	Href   string
	Record string
	Card   string
	Making string
	MakeID int64
	Sort   string
	Shapes []shape
	Facts  []cardFact
}

// shape is a batt, rolag or sample as it came off, all at one scale.
type shape struct {
	W, H, X float64
	Round   float64
	Hex     string
}

// kindLine is what was learned of a kind.
type kindLine struct{ Name, Usual, Now, Range, Seen string }

type lessonLine struct {
	Run        int64
	Unit, Pass int
	Where      string
	Href       string
	Lost       string
	State      string
	Apart      bool
	Doubts     bool
}

// weightPlot has numbers that were foreseen over time, with their ranges.
type weightPlot struct {
	Points []plotWeight
	Ticks  []plotLabel
	Name   string
	Said   string
}

type plotWeight struct {
	X, Low, High, Said, Off float64
	Held                    bool
	Title                   string
	Href                    string
}

type plotLabel struct {
	Y    float64
	Text string
}

func (s *server) notebook(c *gin.Context) error {
	b := notebookBody{Q: c.Query("q"), Making: c.Query("making"), Sort: c.Query("sort")}
	f := studio.NotebookFilter{Search: b.Q, Sort: b.Sort, Limit: notebookLines}
	f.Making, _ = strconv.ParseInt(b.Making, 10, 64)
	at, _ := strconv.Atoi(c.Query("page"))
	at = min(max(at, 0), 1_000_000)
	f.Offset = at * f.Limit
	ctx := c.Request.Context()
	lines, total, err := s.studio.Notebook(ctx, f)
	if err != nil {
		return err
	}
	if b.Makings, err = s.studio.MakingNames(ctx); err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	if b.Record, err = s.studio.Record(ctx); err != nil {
		return err
	}
	b.Total = total
	for _, l := range lines {
		day := show.Date(l.At)
		if n := len(b.Days); n == 0 || b.Days[n-1].Day != day {
			b.Days = append(b.Days, notebookDay{Day: day})
		}
		d := &b.Days[len(b.Days)-1]
		d.Lines = append(d.Lines, notebookLineOf(l, u))
	}
	if at > 0 {
		b.Prev = withQuery(c.Request.URL, "page", strconv.Itoa(at-1))
	}
	if int64(f.Offset+f.Limit) < total {
		b.Next = withQuery(c.Request.URL, "page", strconv.Itoa(at+1))
	}
	b.look(u)
	s.render(c, http.StatusOK, "notebook", page{Title: "Notebook", Here: "notebook", Wide: true}, b)
	return nil
}

var sortWords = map[string]string{"carding": "carded", "fleece": "raw fleece", "trial": "sample", "sample": "colour sample", "yarn": "sample of yarn",
	"skein": "skein"}

// undyed is the colour of what no colour is known of.
const undyed = "#d9d2c0"

func notebookLineOf(l studio.NotebookLine, u show.Units) notebookLine {
	out := notebookLine{Name: l.Name, Making: l.Making, MakeID: l.MakingID, Sort: sortWords[l.Sort], Value: fmt.Sprintf("carding-%d", l.ID)}
	if v := l.Sample; v != nil {
		out.Href = fmt.Sprintf("/calibration?sample=%d", v.ID)
		out.Shapes = []shape{{W: 22, H: 22, Hex: v.Predicted.Hex}, {W: 22, H: 22, X: 22, Hex: v.Measured.Hex}}
		out.Facts = []cardFact{{"Colour foreseen, and measured", v.Predicted.Hex + ", " + v.Measured.Hex}, {"Off by", show.Fixed(v.Before, 1) + " CIEDE2000"}}
		if v.Note != "" {
			out.Facts = append(out.Facts, cardFact{"Note", v.Note})
		}
		return out
	}
	if v := l.Yarn; v != nil {
		out.Href, out.Facts = fmt.Sprintf("/yarnsamples/%d", v.ID), sampleCardOf(*v, u).Facts
		out.Card = out.Href + "/card"
		out.Shapes = []shape{{W: 60, H: 4, Round: 2, Hex: undyed}}
		return out
	}
	if v := l.Skein; v != nil {
		out.Href = fmt.Sprintf("/skeins/%d", v.ID)
		w := 6 * math.Sqrt(max(v.WeightG, 4))
		out.Shapes = []shape{{W: w, H: 0.3 * w, Round: 0.15 * w, Hex: undyed}, {X: 0.3 * w, W: 0.4 * w, H: 0.3 * w, Round: 0.1 * w, Hex: undyed}}
		out.Facts = skeinFacts(*v, u)
		return out
	}
	v := l.Run
	out.Href = fmt.Sprintf("/runs/%d", v.ID)
	if f := v.Fleece; f != nil {
		for i, p := range f.Parts {
			out.Shapes = append(out.Shapes, shape{W: 22, H: 16, X: float64(26 * i), Round: 8, Hex: p.Hex})
		}
		out.Facts = []cardFact{{"Raw", u.Grams(f.RawG)}, {"Left of it", show.Percent(f.SoFar)}, {"Parts", strconv.Itoa(len(f.Parts))}}
		return out
	}
	out.Record, out.Card = out.Href+"/record", out.Href+"/card"
	out.Shapes = shapesOf(*v)
	if d := v.Decision; d != nil {
		out.Facts = append(out.Facts, cardFact{"Decided", strings.TrimSuffix(decisionWords[d.Choice]+": "+d.Text, ": ")})
	}
	out.Facts = append(out.Facts, runFacts(*v, u)...)
	return out
}

// shapesOf draws what came off of a run: batts by the root of their grams, rolags one by one.
func shapesOf(v studio.Run) (out []shape) {
	x := 0.0
	for _, unit := range v.Units[:min(len(v.Units), 12)] {
		last := unit.Passes[len(unit.Passes)-1]
		if last.OffG == nil {
			continue
		}
		if v.Boarded() && unit.Count != nil {
			for range int(min(*unit.Count, 8)) {
				out = append(out, shape{W: 30, H: 10, X: x, Round: 5, Hex: unit.Hex})
				x += 33
			}
			continue
		}
		w := 6 * math.Sqrt(*last.OffG)
		out = append(out, shape{W: w, H: 0.42 * w, X: x, Round: 2, Hex: unit.Hex})
		x += w + 4
	}
	return out
}

// runFacts are what was foreseen of a run and what came, side by side.
func runFacts(v studio.Run, u show.Units) []cardFact {
	u = u.WithStep(v.Weighout.StepG)
	var off, said, low, high, minutes float64
	var looks, foreseen []string
	came := 0
	for _, unit := range v.Units {
		for p, pass := range unit.Passes {
			minutes += pass.Minutes
			if pass.Look != "" && p == len(unit.Passes)-1 {
				looks = append(looks, pass.Look)
			}
		}
		if g := unit.Passes[len(unit.Passes)-1].OffG; g != nil {
			came++
			off += *g
			if unit.Weight != nil {
				said, low, high = said+unit.Weight.Grams, low+unit.Weight.LowG, high+unit.Weight.HighG
			}
		}
	}
	if n := len(v.Units[0].Passes); n <= len(v.Foreseen) {
		foreseen = append(foreseen, v.Foreseen[n-1].Look)
	}
	out := []cardFact{{"Came off", fmt.Sprintf("%s of %d of %d", u.Grams(off), came, len(v.Units))}}
	if said > 0 {
		out = append(out, cardFact{"Foreseen", fmt.Sprintf("~%s (%s to %s)", u.Grams(said), u.Plain(low), u.Grams(high))})
	}
	if rest := v.Line; rest.InG > 0 && rest.OpenG == 0 && came > 0 {
		out = append(out, cardFact{"Lost", u.Grams(rest.DroppingsG + rest.PickedG + rest.RestG + rest.ThrownG)})
	}
	if len(looks) > 0 || len(foreseen) > 0 {
		out = append(out, cardFact{"Look", strings.Join(unique(looks), ", ") + or(len(foreseen) > 0, ", foreseen "+strings.Join(foreseen, ""))})
	}
	if minutes >= 1 {
		out = append(out, cardFact{"Minutes", show.Fixed(minutes, 0)})
	}
	out = append(out, cardFact{"On", v.Equipment.Name})
	for _, unit := range v.Units {
		for _, p := range unit.Passes {
			if p.Note != "" {
				out = append(out, cardFact{"Note", p.Note})
			}
		}
	}
	return out
}

func or(is bool, text string) string {
	if is {
		return text
	}
	return ""
}

func unique(list []string) (out []string) {
	for _, s := range list {
		if len(out) == 0 || out[len(out)-1] != s {
			out = append(out, s)
		}
	}
	return out
}

// look puts into words and into a plot how good the forecasts were.
func (b *notebookBody) look(u show.Units) {
	r := b.Record
	b.Plots = plotsOf(r, u)
	b.Kinds = kindLinesOf(r.Kinds)
	const shown = 12
	for _, l := range r.Lessons[:min(len(r.Lessons), shown)] {
		line := lessonLine{
			Run: l.RunID, Unit: l.Unit, Pass: l.Pass, Where: fmt.Sprintf("%s, %d, pass %d", l.Name, l.Unit+1, l.Pass), Href: fmt.Sprintf("/runs/%d/record", l.RunID),
			Lost: show.Fixed(l.LossPct, 1) + "\u00a0%", Apart: l.Apart, Doubts: l.Doubts,
		}
		switch {
		case l.Apart:
			line.State = "left out by you"
		case l.Doubts:
			line.State = "does not add up, so nothing is learned from it"
		}
		b.Lessons = append(b.Lessons, line)
	}
	b.More = max(0, len(r.Lessons)-shown)
}

func kindLinesOf(list []studio.KindLearned) (out []kindLine) {
	for _, k := range list {
		out = append(out, kindLine{
			Name: k.Name, Usual: show.Fixed(k.UsualPct, 1), Now: show.Fixed(k.MeanPct, 1), Range: show.Fixed(k.LowPct, 1) + " to " + show.Fixed(k.HighPct, 1),
			Seen: strconv.Itoa(k.Seen) + "×",
		})
	}
	return out
}

// The plot of weights: from top to bottom, and between the latest of them.
const (
	plotTop, plotFoot  = 10.0, 150.0
	plotLeft, plotWide = 72.0, 400.0
	plotMost           = 60
)

// plotted is what was foreseen of a number, and what came.
type plotted struct {
	said, low, high, came float64
	held                  bool
	title, href           string
}

// plotOf plots the latest of them between bounds that hold them all; tick writes a number. With
// whole, the plot goes from the least number to the greatest and has a line at each.
func plotOf(list []plotted, least, most float64, whole bool, tick func(float64) string) (out weightPlot) {
	list = list[max(0, len(list)-plotMost):]
	if len(list) == 0 {
		return out
	}
	low, high, lines := least, most, most-least+1
	if !whole {
		low, high, lines = math.Inf(1), math.Inf(-1), 4
		for _, f := range list {
			low, high = min(low, f.low, f.came), max(high, f.high, f.came)
		}
		pad := max(least, 0.06*(high-low))
		low, high = max(0, low-pad), high+pad
	}
	y := func(g float64) float64 { return plotFoot - (g-low)/(high-low)*(plotFoot-plotTop) }
	for i, f := range list {
		out.Points = append(out.Points, plotWeight{
			X: plotLeft + plotWide*(float64(i)+0.5)/float64(len(list)), Low: y(f.low), High: y(f.high), Said: y(f.said), Off: y(f.came), Held: f.held,
			Title: f.title, Href: f.href,
		})
	}
	for i := range int(lines) {
		g := low + (high-low)*float64(i)/(lines-1)
		out.Ticks = append(out.Ticks, plotLabel{y(g), tick(g)})
	}
	return out
}

// plotsOf are the plots of weights, minutes, colours and looks, each with a sentence.
func plotsOf(r studio.Record, u show.Units) (out []weightPlot) {
	add := func(name, said string, p weightPlot) {
		p.Name, p.Said = name, said
		out = append(out, p)
	}
	of := func(n int, what string, held int) string {
		return fmt.Sprintf("Of %s foreseen, %d lay in the range that was stated (it should be 9 of 10).", show.Plural(n, what), held)
	}
	var weights []plotted
	for _, f := range r.Weights {
		title := fmt.Sprintf("%s, %d: foreseen %s (%s to %s), came off %s", f.Name, f.Unit+1, u.Grams(f.Said.Grams), u.Plain(f.Said.LowG),
			u.Grams(f.Said.HighG), u.Grams(f.OffG))
		weights = append(weights, plotted{f.Said.Grams, f.Said.LowG, f.Said.HighG, f.OffG, f.Held, title, fmt.Sprintf("/runs/%d/record", f.RunID)})
	}
	if len(weights) > 0 {
		add("Weight", of(len(weights), "weight", r.Held), plotOf(weights, 0.5, 0, false, u.Grams))
	}
	if list, held := comparedOf(r.Minutes, func(v float64) string { return show.Fixed(v, 0) + " min" }); len(list) > 0 {
		add("Minutes of a pass", of(len(list), "time", held), plotOf(list, 1, 0, false, func(v float64) string { return show.Fixed(v, 0) + "\u00a0min" }))
	}
	if list, held := comparedOf(r.Colours, func(v float64) string { return show.Fixed(v, 1) }); len(list) > 0 {
		add("Colour, how far off in CIEDE2000", of(len(list), "colour", held), plotOf(list, 0.5, 0, false, func(v float64) string { return show.Fixed(v, 1) }))
	}
	if list, held := comparedOf(r.LookList, lookName); len(list) > 0 {
		said := fmt.Sprintf("Of %s foreseen, %d came as foreseen.", show.Plural(len(list), "look"), held)
		add("Look", said, plotOf(list, 1, float64(len(carding.Looks())), true, lookName))
	}
	return out
}

func lookName(v float64) string {
	return string(carding.Looks()[min(max(int(v+0.5), 1), len(carding.Looks()))-1])
}

// comparedOf is what is plotted of numbers that were foreseen, and how many lay in their range.
func comparedOf(list []studio.Compared, words func(float64) string) (out []plotted, held int) {
	for _, f := range list {
		where := fmt.Sprintf("%s, %d, pass %d", f.Name, f.Unit+1, f.Pass)
		href := fmt.Sprintf("/runs/%d/record", f.RunID)
		if f.LotID != 0 {
			where, href = f.Name, fmt.Sprintf("/lots/%d", f.LotID)
		}
		said := words(f.Said)
		switch {
		case f.LotID != 0:
			said = "at most " + words(f.High)
		case f.High > f.Low:
			said += fmt.Sprintf(" (%s to %s)", words(f.Low), words(f.High))
		}
		out = append(out, plotted{f.Said, f.Low, f.High, f.Came, f.Held, fmt.Sprintf("%s: foreseen %s, came %s", where, said, words(f.Came)), href})
		if f.Held {
			held++
		}
	}
	return out, held
}

// learning switches on or off that losses are learned, or leaves one weighing out.
func (s *server) learning(c *gin.Context) error {
	if err := parsed(c); err != nil {
		return err
	}
	ctx := c.Request.Context()
	if c.PostForm("run") == "" {
		if err := s.studio.Learning(ctx, c.PostForm("on") == "1"); err != nil {
			return err
		}
		goTo(c, "/notebook#learned", "saved")
		return nil
	}
	id, _ := strconv.ParseInt(c.PostForm("run"), 10, 64)
	unit, _ := strconv.Atoi(c.PostForm("unit"))
	pass, _ := strconv.Atoi(c.PostForm("pass"))
	apart := 0.0
	if c.PostForm("apart") == "1" {
		apart = 1
	}
	_, err := s.studio.Tell(ctx, id, studio.EntryInput{Key: c.PostForm("key"), Unit: unit, Pass: pass, What: "apart", Number: &apart})
	if err != nil {
		return err
	}
	goTo(c, "/notebook#learned", "saved")
	return nil
}

// swatchesBody is all blends ever made, as fibre.
type swatchesBody struct {
	Blends []makingBlend
	Pages  pageLinks
}

// swatchesPage is how many swatches a page shows.
const swatchesPage = 48

func (s *server) swatches(c *gin.Context) error {
	b := swatchesBody{Pages: pagesOf(c, swatchesPage)}
	list, all, err := s.studio.Swatches(c.Request.Context(), b.Pages.Offset, b.Pages.Size)
	if err != nil {
		return err
	}
	b.Pages.of(c, all)
	for _, v := range list {
		b.Blends = append(b.Blends, makingBlend{v, bandsOf(v)})
	}
	s.render(c, http.StatusOK, "swatches", page{Title: "Swatches of the past", Here: "notebook", Wide: true}, b)
	return nil
}

// besideBody is two lines of the notebook side by side.
type besideBody struct {
	Names [2]notebookLine
	Rows  []besideRow
	Only  bool // fewer than two were chosen
}

type besideRow struct {
	Name   string
	Values [2]string
}

// notebookBeside sets two runs side by side.
func (s *server) notebookBeside(c *gin.Context) error {
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	var b besideBody
	chosen := c.QueryArray("with")
	b.Only = len(chosen) < 2
	for i, v := range chosen[:min(len(chosen), 2)] {
		_, number, _ := strings.Cut(v, "-")
		n, err := strconv.ParseInt(number, 10, 64)
		if err != nil || !strings.HasPrefix(v, "carding-") {
			return studio.ErrNotFound
		}
		r, err := s.studio.Run(c.Request.Context(), n)
		if err != nil {
			return err
		}
		at, _ := time.Parse(time.RFC3339, r.At)
		l := studio.NotebookLine{Run: &r}
		l.Name, l.Sort, l.ID, l.At = r.Name, "carding", r.ID, at
		b.Names[i] = notebookLineOf(l, u)
		facts := append([]cardFact{{"When", show.Date(at)}}, contentFacts(r)...)
		for _, f := range append(facts, b.Names[i].Facts...) {
			b.put(i, f)
		}
	}
	s.render(c, http.StatusOK, "beside", page{Title: "Side by side", Here: "notebook", Wide: true}, b)
	return nil
}

func (b *besideBody) put(i int, f cardFact) {
	for k := range b.Rows {
		if b.Rows[k].Name == f.Name && b.Rows[k].Values[i] == "" {
			b.Rows[k].Values[i] = f.Value
			return
		}
	}
	row := besideRow{Name: f.Name}
	row.Values[i] = f.Value
	b.Rows = append(b.Rows, row)
}

// contentFacts are the fibres of a run and their shares.
func contentFacts(v studio.Run) (out []cardFact) {
	for _, c := range v.Weighout.Components {
		out = append(out, cardFact{c.Name, show.Percent(c.FinishedShare)})
	}
	return out
}

// recordCardBody is a run on one sheet, to print and keep.
type recordCardBody struct {
	Run      studio.Run
	View     runView
	Blend    studio.Blend
	Bands    []bandPart
	Facts    []cardFact
	Contents []cardFact
	Layers   []string
	Picture  string
	When     string
	Size     string
	Sizes    []string
}

// recordCard is the record of a run as a card, from A6 to A4.
func (s *server) recordCard(c *gin.Context) error {
	v, blend, u, p, err := s.runAround(c)
	if err != nil {
		return err
	}
	if v.Sort == studio.FleeceRun {
		return studio.ErrNotFound
	}
	b := recordCardBody{Run: v, Blend: blend, Bands: bandsOf(blend), Facts: runFacts(v, u), Size: c.DefaultQuery("size", "A5"), Sizes: cardSizes}
	if b.View, err = s.runView(c, v, u); err != nil {
		return err
	}
	at, _ := time.Parse(time.RFC3339, v.At)
	b.When = show.Date(at)
	shown := u.WithStep(v.Weighout.StepG)
	for _, k := range v.Weighout.Components {
		b.Contents = append(b.Contents, cardFact{k.Name, show.Percent(k.FinishedShare) + ", " + shown.Grams(k.TotalG) + " weighed in"})
	}
	l := v.Steps(0)
	for i, layer := range l.LayupInput.Layers {
		b.Layers = append(b.Layers, fmt.Sprintf("%d. %s", i+1, layerTitle(layer, l)))
	}
	for _, unit := range b.View.Units {
		for _, pass := range unit.Passes {
			for _, id := range pass.Photos {
				b.Picture = b.View.Photos[id].URL
			}
		}
	}
	p.Title, p.Scripts = v.Name+", record card", []string{"js/print.js"}
	s.render(c, http.StatusOK, "recordcard", p, b)
	return nil
}
