package scalepages

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/workshoppages"
	"fairtangle/web/show"
)

// scaleView is the bench view as its page shows it.
type scaleView struct {
	ID      int64       `json:"id"`
	Version int64       `json:"version"`
	Unit    string      `json:"unit"`
	Title   string      `json:"title"`
	Units   []scaleUnit `json:"units"`
	Next    *scale.Cell `json:"next"`
	Undo    bool        `json:"undo"`
	Done    string      `json:"done"`
	ByFibre bool        `json:"by_fibre"`
	Bags    string      `json:"bags"` // how often another bag is opened
}

type scaleUnit struct {
	Title string      `json:"title"`
	Bowl  string      `json:"bowl"`
	Of    string      `json:"of"`
	Done  bool        `json:"done"`
	Cells []scaleCell `json:"cells"`
}

type scaleCell struct {
	Letter  string   `json:"letter"`
	Name    string   `json:"name"`
	Tuft    art.Link `json:"tuft"`
	Band    string   `json:"band"`
	Wanted  string   `json:"wanted"`  // what is still to weigh
	Target  string   `json:"target"`  // in all
	Weighed string   `json:"weighed"` // so far, empty where nothing
	WantedN float64  `json:"wanted_n"`
	StepN   float64  `json:"step_n"`
	Done    bool     `json:"done"`
	Have    string   `json:"have"`
	Changed string   `json:"changed"`
	Lays    string   `json:"lays"` // how it is divided over the layers
	All     string   `json:"all"`  // for all units that have nothing of it yet
	AllN    float64  `json:"all_n"`
	AllSaid string   `json:"all_said"`
	Short   string   `json:"short"` // that the shelf has too little for what is still to weigh
}

func scaleViewOf(w scale.Weighout, u show.Units) scaleView {
	u = u.WithStep(w.StepG)
	v := scaleView{ID: w.ID, Version: w.Version, Unit: u.Weight(), Next: w.Next, Undo: w.CanUndo}
	v.Done, v.ByFibre = fmt.Sprintf("%d of %d weighed", w.DoneCells, w.AllCells), w.ByFibre
	if w.BagChanges > 0 {
		v.Bags = "Another bag is opened " + show.Plural(w.BagChanges, "time") + "."
	}
	for n, unit := range w.Units {
		su := scaleUnit{Title: fmt.Sprintf("Unit %d of %d", n+1, len(w.Units)), Bowl: u.Grams(unit.WeighedG), Of: u.Grams(unit.TotalG), Done: unit.Done}
		for i, cell := range unit.Cells {
			p := w.Components[i]
			left := max(0, cell.TargetG-cell.WeighedG)
			sc := scaleCell{
				Letter: show.Letter(i), Name: p.Name, Wanted: u.Plain(left), Target: u.Plain(cell.TargetG), Done: cell.Done,
				Band:    art.BandLink(p.KindProperties(), p.HexList, i, art.WholeTile),
				WantedN: u.Shown(left), StepN: u.Shown(w.StepG),
				Tuft: art.TuftLink(p.KindProperties(), p.Preparation, p.HexList, nil, p.Staple, art.RowScale, frame.SeedOf(p.LotID, i)),
			}
			if cell.WeighedG > 0 {
				sc.Weighed = u.Plain(cell.WeighedG)
			}
			if p.HaveG != nil {
				sc.Have = u.Weighs(u.Amount(*p.HaveG)) + " on the shelf"
			}
			if p.ShortG > 0.0005 && !cell.Done {
				sc.Short = fmt.Sprintf("%s too little is on the shelf for all that is still to weigh.", u.Grams(p.ShortG))
			}
			if cell.TargetG != cell.PlannedG {
				sc.Changed = "planned " + u.Plain(cell.PlannedG)
			}
			if sc.Lays = dividedOver(w, n, i, u); p.AloneFirst > 0 {
				sc.Lays = "it is carded alone first, then divided"
			}
			sc.together(w, i, u)
			su.Cells = append(su.Cells, sc)
		}
		v.Units = append(v.Units, su)
	}
	return v
}

// together says what is weighed for all units at once, where there are several.
func (sc *scaleCell) together(w scale.Weighout, component int, u show.Units) {
	all, units := w.TogetherG(component)
	if units < 2 {
		return
	}
	sc.All, sc.AllN = u.Plain(all), u.Shown(all)
	sc.AllSaid = fmt.Sprintf("Weigh %s for all %d units, and divide", u.Grams(all), units)
}

// dividedOver says how a component of a unit is divided over the layers of the
// lay-up, where there is more than one place for it.
func dividedOver(w scale.Weighout, unit, component int, u show.Units) string {
	var parts []string
	at := map[int]int{}
	sums := []float64{}
	for _, l := range w.Lays {
		if l.Component != component {
			continue
		}
		if _, ok := at[l.Layer]; !ok {
			at[l.Layer] = len(sums)
			sums = append(sums, 0)
			parts = append(parts, fmt.Sprintf("for layer %d", l.Layer+1))
			if l.Layer < 0 {
				parts[len(parts)-1] = "left over"
			}
		}
		sums[at[l.Layer]] += l.Grams[unit]
	}
	if len(parts) < 2 {
		return ""
	}
	for i := range parts {
		parts[i] = u.Grams(sums[i]) + " " + parts[i]
	}
	return "then divide: " + strings.Join(parts, ", ")
}

type scaleBody struct {
	View  scaleView
	W     scale.Weighout
	Blend recipe.Blend
	// Next is another weigh-out of the making that is still open.
	Next       *scale.WeighColumn
	Scales     []workshoppages.ScaleRow
	Containers []workshop.Container
}

func (s *Room) scalePage(c *gin.Context) error {
	w, b, p, err := s.weighoutAround(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	list, err := s.Studio.Scale.WeighListOf(c.Request.Context(), b.MakingID, nil)
	if err != nil {
		return err
	}
	body := scaleBody{View: scaleViewOf(w, u), W: w, Blend: b}
	for i, v := range list.Columns {
		if !v.Done && v.WeighoutID != w.ID && body.Next == nil {
			body.Next = &list.Columns[i]
		}
	}
	if body.Scales, body.Containers, err = s.BenchOf(c, u); err != nil {
		return err
	}
	p.Title, p.Scripts = "At the scale: "+w.Name, []string{"js/scale.js", "js/awake.js"}
	s.Render(c, http.StatusOK, "scale", p, body)
	return nil
}

// readingRequest is what was typed at the scale.
type readingRequest struct {
	Key       string `json:"key"`
	Version   int64  `json:"version"`
	Unit      int    `json:"unit"`
	Component int    `json:"component"`
	Text      string `json:"text"`
	Mg        int64  `json:"mg"` // that the scale showed, in place of a text
	Policy    string `json:"policy"`
	Window    string `json:"window"`
}

func (s *Room) reading(c *gin.Context) (n int64, in scale.Reading, u show.Units, err error) {
	if n, err = answer.ID(c, "id"); err != nil {
		return n, in, u, err
	}
	var q readingRequest
	if err = answer.Decode(c, &q); err != nil {
		return n, in, u, err
	}
	if u, _, err = s.Units(c); err != nil {
		return n, in, u, err
	}
	g, err := fromScale(q, u)
	in = scale.Reading{Key: q.Key, Version: q.Version, Unit: q.Unit, Component: q.Component, Grams: g, Policy: q.Policy, Window: q.Window, Live: q.Mg > 0}
	return n, in, u, err
}

type consideredView struct {
	Verdict string       `json:"verdict"`
	Off     string       `json:"off"`
	Options []optionView `json:"options"`
}

type optionView struct {
	Policy string   `json:"policy"`
	Letter string   `json:"letter"`
	Name   string   `json:"name"`
	Why    string   `json:"why"`
	Lines  []string `json:"lines"`
	Total  string   `json:"total"`
	Share  string   `json:"share"`
	Colour string   `json:"colour"`
	Stock  []string `json:"stock"`
}

// policyWords are the key, the name and the meaning of each way on.
var policyWords = map[string][3]string{
	"keep-shares": {"S", "Keep the shares", "The others follow; the unit gets heavier."},
	"keep-total":  {"T", "Keep the total", "The rest gives way; the shares drift."},
	scale.AsIs:    {"L", "Leave the others", "Nothing else changes."},
}

// consideredView shows the ways on for a reading that is off.
func consideredViewOf(w scale.Weighout, in scale.Reading, got scale.Considered, u show.Units) consideredView {
	u = u.WithStep(w.StepG)
	v := consideredView{Verdict: got.Verdict, Off: u.Grams(max(got.OffG, -got.OffG)), Options: []optionView{}}
	for _, o := range got.Options {
		words := policyWords[o.Policy]
		if got.Verdict == "under" && o.Policy == "keep-shares" {
			words = [3]string{"B", "Book it, add the rest", "It stays open until the rest is in."}
		}
		ov := optionView{Policy: o.Policy, Letter: words[0], Name: words[1], Why: words[2], Total: u.Grams(o.TotalG),
			Share: show.Fixed(o.WorstShare*100, 1) + "\u00a0%", Colour: show.Fixed(o.DeltaE, 1)}
		for i, g := range o.ToWeighG {
			line := show.Letter(i) + " " + u.Grams(g)
			if had := w.Units[in.Unit].Cells[i].WeighedG; had > 0 && g > had && i != in.Component {
				line = fmt.Sprintf("%s, add %s", line, u.Grams(g-had))
			}
			ov.Lines = append(ov.Lines, line)
		}
		for _, short := range o.Short {
			ov.Stock = append(ov.Stock, fmt.Sprintf("%s is then short by %s", short.Name, u.Grams(short.Grams)))
		}
		v.Options = append(v.Options, ov)
	}
	return v
}

// enterTogether books one reading for all units that have nothing of a component yet.
func (s *Room) enterTogether(c *gin.Context) error {
	n, in, u, err := s.reading(c)
	if err != nil {
		return err
	}
	w, portions, err := s.Studio.Scale.WeighTogether(c.Request.Context(), n, in)
	if stale, ok := answer.StaleAs[scale.Weighout](err); ok {
		return floor.Stale{Current: scaleViewOf(stale, u)}
	}
	if err == nil {
		parts := make([]string, len(portions))
		for i, p := range portions {
			parts[i] = fmt.Sprintf("unit %d %s", p.Unit+1, u.WithStep(w.StepG).Plain(float64(p.Mg.Grams())))
		}
		c.JSON(http.StatusOK, gin.H{"view": scaleViewOf(w, u), "divide": "Divide it: " + u.Weighs(strings.Join(parts, ", "))})
	}
	return err
}

// enterReading books what was entered, or answers with the ways on.
func (s *Room) enterReading(c *gin.Context) error {
	n, in, u, err := s.reading(c)
	if err != nil {
		return err
	}
	w, ask, err := s.Studio.Scale.Enter(c.Request.Context(), n, in)
	if err == nil && ask != nil {
		if w, err = s.Studio.Scale.Weighout(c.Request.Context(), n); err == nil {
			c.JSON(http.StatusOK, gin.H{"ask": consideredViewOf(w, in, *ask, u)})
			return nil
		}
	}
	if stale, ok := answer.StaleAs[scale.Weighout](err); ok {
		return floor.Stale{Current: scaleViewOf(stale, u)}
	}
	if err == nil {
		c.JSON(http.StatusOK, gin.H{"view": scaleViewOf(w, u)})
	}
	return err
}

// AnswerScale answers with the weigh-out as the scale shows it.
func (s *Room) AnswerScale(c *gin.Context, w scale.Weighout, u show.Units, err error) error {
	if stale, ok := answer.StaleAs[scale.Weighout](err); ok {
		return floor.Stale{Current: scaleViewOf(stale, u)}
	}
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, scaleViewOf(w, u))
	return nil
}

// undoReading takes back the last weighing, or that of the place named.
func (s *Room) undoReading(c *gin.Context) error {
	var q struct {
		Version   int64 `json:"version"`
		Unit      *int  `json:"unit"`
		Component int   `json:"component"`
	}
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	var w scale.Weighout
	if q.Unit == nil {
		w, err = s.Studio.Scale.UndoWeighing(c.Request.Context(), n, q.Version)
	} else {
		w, err = s.Studio.Scale.TakeBack(c.Request.Context(), n, q.Version, scale.Cell{Unit: *q.Unit, Component: q.Component})
	}
	return s.AnswerScale(c, w, u, err)
}
