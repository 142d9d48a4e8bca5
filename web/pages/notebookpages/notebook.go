package notebookpages

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/carder"
	"fairtangle/studio/notebook"
	"fairtangle/studio/recipe"
	"fairtangle/web/pages/carderpages"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/yarnspages"
	"fairtangle/web/show"
)

// notebookLines is how many lines a page of the notebook shows.
const notebookLines = 20

type notebookBody struct {
	Q, Making, Sort string
	Makings         []recipe.MakingName
	Days            []notebookDay
	Total           int64
	Prev, Next      string
	Record          notebook.Record
	Plots           []weightPlot
	Kinds           []carderpages.KindLine
	Lessons         []lessonLine
	More            int // lessons that are not shown
	Unworn          []unwornLine
}

// unwornLine is a skein of which it is asked how it has worn.
type unwornLine struct {
	ID   int64
	Name string
	Days int
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
	Again  string // where it is made once more
	Card   string
	Making string
	MakeID int64
	Sort   string
	Shapes []shape
	Facts  []layingpages.CardFact
}

// shape is a batt, rolag or sample as it came off, all at one scale.
type shape struct {
	W, H, X float64
	Round   float64
	Hex     string
}

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

func (s *Room) notebook(c *gin.Context) error {
	b := notebookBody{Q: c.Query("q"), Making: c.Query("making"), Sort: c.Query("sort")}
	f := notebook.NotebookFilter{Search: b.Q, Sort: b.Sort, Limit: notebookLines}
	f.Making, _ = strconv.ParseInt(b.Making, 10, 64)
	at, _ := strconv.Atoi(c.Query("page"))
	at = min(max(at, 0), 1_000_000)
	f.Offset = at * f.Limit
	ctx := c.Request.Context()
	lines, total, err := s.Studio.Notebook.Notebook(ctx, f)
	if err != nil {
		return err
	}
	if b.Makings, err = s.Studio.Recipe.MakingNames(ctx); err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	if b.Record, err = s.Studio.Notebook.Record(ctx); err != nil {
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
		b.Prev = frame.WithQuery(c.Request.URL, "page", strconv.Itoa(at-1))
	}
	if int64(f.Offset+f.Limit) < total {
		b.Next = frame.WithQuery(c.Request.URL, "page", strconv.Itoa(at+1))
	}
	if b.Unworn, err = s.unworn(c.Request.Context()); err != nil {
		return err
	}
	b.sayRuns(u)
	s.Render(c, http.StatusOK, "notebook", frame.Page{Title: "Notebook", Here: "notebook", Wide: true}, b)
	return nil
}

var sortWords = map[string]string{"carding": "carded", "fleece": "raw fleece", "trial": "sample", "sample": "colour sample", "yarn": "sample of yarn",
	"skein": "skein"}

// undyed is the colour of what no colour is known of.
const undyed = "#d9d2c0"

func notebookLineOf(l notebook.NotebookLine, u show.Units) notebookLine {
	out := notebookLine{Name: l.Name, Making: l.Making, MakeID: l.MakingID, Sort: sortWords[l.Sort], Value: fmt.Sprintf("carding-%d", l.ID)}
	if v := l.Sample; v != nil {
		out.Href = fmt.Sprintf("/calibration?sample=%d", v.ID)
		out.Shapes = []shape{{W: 22, H: 22, Hex: v.Predicted.Hex}, {W: 22, H: 22, X: 22, Hex: v.Measured.Hex}}
		out.Facts = []layingpages.CardFact{
			{Name: "Colour foreseen, and measured", Value: v.Predicted.Hex + ", " + v.Measured.Hex},
			{Name: "Off by", Value: show.Fixed(v.Before, 1) + " CIEDE2000"},
		}
		if v.Note != "" {
			out.Facts = append(out.Facts, layingpages.CardFact{Name: "Note", Value: v.Note})
		}
		return out
	}
	if v := l.Yarn; v != nil {
		out.Href, out.Facts = fmt.Sprintf("/yarnsamples/%d", v.ID), yarnspages.SampleCardOf(*v, u).Facts
		out.Card = out.Href + "/card"
		out.Shapes = []shape{{W: 60, H: 4, Round: 2, Hex: undyed}}
		return out
	}
	if v := l.Skein; v != nil {
		out.Href = fmt.Sprintf("/skeins/%d", v.ID)
		w := 6 * math.Sqrt(max(v.WeightG, 4))
		out.Shapes = []shape{{W: w, H: 0.3 * w, Round: 0.15 * w, Hex: undyed}, {X: 0.3 * w, W: 0.4 * w, H: 0.3 * w, Round: 0.1 * w, Hex: undyed}}
		out.Facts = yarnspages.SkeinFacts(*v, u)
		return out
	}
	v := l.Run
	out.Href = fmt.Sprintf("/runs/%d", v.ID)
	if f := v.Fleece; f != nil {
		for i, p := range f.Parts {
			out.Shapes = append(out.Shapes, shape{W: 22, H: 16, X: float64(26 * i), Round: 8, Hex: p.Hex})
		}
		out.Facts = []layingpages.CardFact{
			{Name: "Raw", Value: u.Grams(f.RawG)},
			{Name: "Left of it", Value: show.Percent(f.SoFar)},
			{Name: "Parts", Value: strconv.Itoa(len(f.Parts))},
		}
		return out
	}
	out.Record, out.Card = out.Href+"/record", out.Href+"/card"
	if !v.Row.Sample {
		out.Again = out.Href + "/again"
	}
	out.Shapes = shapesOf(*v)
	if d := v.Decision; d != nil {
		out.Facts = append(out.Facts, layingpages.CardFact{Name: "Decided", Value: strings.TrimSuffix(carderpages.DecisionWords[d.Choice]+": "+d.Text, ": ")})
	}
	out.Facts = append(out.Facts, runFacts(*v, u)...)
	return out
}

// shapesOf draws what came off of a run: batts by the root of their grams, rolags one by one.
func shapesOf(v carder.Run) (out []shape) {
	x := 0.0
	for _, unit := range v.Units[:min(len(v.Units), 12)] {
		last := unit.Passes[len(unit.Passes)-1]
		if last.OffG == nil {
			continue
		}
		if v.Rolls() != "" && unit.Count != nil {
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
func runFacts(v carder.Run, u show.Units) []layingpages.CardFact {
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
	out := []layingpages.CardFact{{Name: "Came off", Value: fmt.Sprintf("%s of %d of %d", u.Grams(off), came, len(v.Units))}}
	if said > 0 {
		out = append(out, layingpages.CardFact{Name: "Foreseen", Value: fmt.Sprintf("~%s (%s to %s)", u.Grams(said), u.Plain(low), u.Grams(high))})
	}
	if rest := v.Line; rest.InG > 0 && rest.OpenG == 0 && came > 0 {
		out = append(out, layingpages.CardFact{Name: "Lost", Value: u.Grams(rest.DroppingsG + rest.PickedG + rest.RestG + rest.ThrownG)})
	}
	if len(looks) > 0 || len(foreseen) > 0 {
		out = append(
			out,
			layingpages.CardFact{Name: "Look", Value: strings.Join(unique(looks), ", ") + or(len(foreseen) > 0, ", foreseen "+strings.Join(foreseen, ""))},
		)
	}
	if minutes >= 1 {
		out = append(out, layingpages.CardFact{Name: "Minutes", Value: show.Fixed(minutes, 0)})
	}
	out = append(out, layingpages.CardFact{Name: "On", Value: v.Equipment.Name})
	for _, unit := range v.Units {
		for _, p := range unit.Passes {
			if p.Note != "" {
				out = append(out, layingpages.CardFact{Name: "Note", Value: p.Note})
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

// sayRuns puts into words and into a plot how good the forecasts were.
func (b *notebookBody) sayRuns(u show.Units) {
	r := b.Record
	b.Plots = plotsOf(r, u)
	b.Kinds = carderpages.KindLinesOf(r.Kinds)
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
	plotLeft, plotWide = 72.0, 400.0
	plotMost           = 60
)

// learning switches on or off that losses are learned, or leaves one weighing out.
func (s *Room) learning(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	ctx := c.Request.Context()
	if c.PostForm("run") == "" {
		if err := s.Studio.Notebook.Learning(ctx, c.PostForm("on") == "1"); err != nil {
			return err
		}
		frame.GoTo(c, "/notebook#learned", "saved")
		return nil
	}
	id, _ := strconv.ParseInt(c.PostForm("run"), 10, 64)
	unit, _ := strconv.Atoi(c.PostForm("unit"))
	pass, _ := strconv.Atoi(c.PostForm("pass"))
	apart := 0.0
	if c.PostForm("apart") == "1" {
		apart = 1
	}
	_, err := s.Studio.Carder.Tell(ctx, id, carder.EntryInput{Key: c.PostForm("key"), Unit: unit, Pass: pass, What: "apart", Number: &apart})
	if err != nil {
		return err
	}
	frame.GoTo(c, "/notebook#learned", "saved")
	return nil
}

// mostUnworn is how many skeins are asked of at once.
const mostUnworn = 5

// unworn are the skeins that are a month old and of which nobody said how they wore.
func (s *Room) unworn(ctx context.Context) (out []unwornLine, err error) {
	list, err := s.Studio.Yarns.Unworn(ctx)
	for _, k := range list[:min(len(list), mostUnworn)] {
		line := unwornLine{ID: k.ID, Name: k.Name}
		if at, err := time.Parse(time.RFC3339, k.At); err == nil {
			line.Days = int(time.Since(at).Hours() / 24)
		}
		out = append(out, line)
	}
	return out, err
}
