package pages

import (
	"fmt"
	"math"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/web/show"
)

// notebookLines is how many lines a page of the notebook shows.
const notebookLines = 20

type notebookBody struct {
	Q, Making, Sort string
	Makings         []studio.Making
	Days            []notebookDay
	Total           int64
	Prev, Next      string
	Record          studio.Record
	Plot            weightPlot
	Kinds           []kindLine
	Lessons         []lessonLine
	More            int // lessons that are not shown
	LooksSaid       string
	WeightsSaid     string
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

// weightPlot has the weights that were foreseen over time, with their ranges.
type weightPlot struct {
	Points []plotWeight
	Ticks  []plotLabel
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
	if b.Makings, err = s.studio.Makings(ctx, false); err != nil {
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

var sortWords = map[string]string{"carding": "carded", "fleece": "raw fleece", "sample": "sample"}

func notebookLineOf(l studio.NotebookLine, u show.Units) notebookLine {
	out := notebookLine{Name: l.Name, Making: l.Making, MakeID: l.MakingID, Sort: sortWords[l.Sort], Value: fmt.Sprintf("%s-%d", l.Sort, l.ID)}
	if v := l.Sample; v != nil {
		out.Href = fmt.Sprintf("/calibration?sample=%d", v.ID)
		out.Shapes = []shape{{W: 22, H: 22, Hex: v.Predicted.Hex}, {W: 22, H: 22, X: 22, Hex: v.Measured.Hex}}
		out.Facts = []cardFact{{"Colour foreseen, and measured", v.Predicted.Hex + ", " + v.Measured.Hex}, {"Off by", show.Fixed(v.Before, 1) + " CIEDE2000"}}
		if v.Note != "" {
			out.Facts = append(out.Facts, cardFact{"Note", v.Note})
		}
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
	out.Facts = runFacts(*v, u)
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
	b.WeightsSaid = "No weight was foreseen and weighed yet."
	if n := len(r.Weights); n > 0 {
		b.WeightsSaid = fmt.Sprintf("Of %s foreseen, %d lay in the range that was stated (it should be 9 of 10).", show.Plural(n, "weight"), r.Held)
	}
	if r.Looks > 0 {
		b.LooksSaid = fmt.Sprintf("Of %s foreseen, %d came as foreseen.", show.Plural(r.Looks, "look"), r.LooksHit)
	}
	b.Plot = plotOf(r.Weights, u)
	for _, k := range r.Kinds {
		b.Kinds = append(b.Kinds, kindLine{k.Name, show.Fixed(k.UsualPct, 1), show.Fixed(k.MeanPct, 1), show.Fixed(k.LowPct, 1) + " to " + show.Fixed(k.HighPct, 1),
			strconv.Itoa(k.Seen) + "×"})
	}
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

// The plot of weights: from top to bottom, and between the latest of them.
const (
	plotTop, plotFoot  = 10.0, 150.0
	plotLeft, plotWide = 52.0, 420.0
	plotMost           = 60
)

func plotOf(list []studio.Forecast, u show.Units) (out weightPlot) {
	list = list[max(0, len(list)-plotMost):]
	if len(list) == 0 {
		return out
	}
	low, high := math.Inf(1), math.Inf(-1)
	for _, f := range list {
		low, high = min(low, f.Said.LowG, f.OffG), max(high, f.Said.HighG, f.OffG)
	}
	pad := max(0.5, 0.06*(high-low))
	low, high = max(0, low-pad), high+pad
	y := func(g float64) float64 { return plotFoot - (g-low)/(high-low)*(plotFoot-plotTop) }
	for i, f := range list {
		title := fmt.Sprintf("%s, %d: foreseen %s (%s to %s), came off %s", f.Name, f.Unit+1, u.Grams(f.Said.Grams), u.Plain(f.Said.LowG), u.Grams(f.Said.HighG), u.Grams(f.OffG))
		out.Points = append(out.Points, plotWeight{
			X: plotLeft + plotWide*(float64(i)+0.5)/float64(len(list)), Low: y(f.Said.LowG), High: y(f.Said.HighG), Said: y(f.Said.Grams), Off: y(f.OffG), Held: f.Held,
			Title: title, Href: fmt.Sprintf("/runs/%d/record", f.RunID),
		})
	}
	for i := range 4 {
		g := low + (high-low)*float64(i)/3
		out.Ticks = append(out.Ticks, plotLabel{y(g), u.Grams(g)})
	}
	return out
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
type swatchesBody struct{ Blends []makingBlend }

func (s *server) swatches(c *gin.Context) error {
	list, err := s.studio.Swatches(c.Request.Context())
	if err != nil {
		return err
	}
	var b swatchesBody
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
	b := recordCardBody{Run: v, Blend: blend, Bands: bandsOf(blend), Facts: runFacts(v, u), Size: c.DefaultQuery("size", "A5"), Sizes: []string{"A6", "A5", "A4"}}
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
