package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/web/show"
)

type newWeighoutBody struct {
	Blend studio.Blend
	Form  form
	Plan  *studio.Weighout
	Lines []weighLine
	Fills []studio.Fill
	UnitG float64
	Grid  grid
	Steps []option
}

type weighLine struct {
	N    int
	Name string
	Tuft tuft
}

// grid is the table of a weigh-out with everything as text.
type grid struct {
	Units []int
	Rows  []gridRow
	Sums  []string
	Total string
}

type gridRow struct {
	Letter, Name, Sub string
	Tuft              tuft
	Cells             []gridCell
	Total             string
	Finished, Asked   string
	Short             string
}

type gridCell struct {
	Text    string
	Scale   string // where it is weighed, for what is kept and open
	Planned string // where it differs from what is wanted now
	Done    bool
	Next    bool
}

func gridOf(w studio.Weighout, u show.Units) grid {
	u = u.WithStep(w.StepG)
	var out grid
	for i := range w.Units {
		out.Units = append(out.Units, i+1)
		out.Sums = append(out.Sums, u.Plain(w.Units[i].TotalG))
	}
	out.Total = u.Grams(w.TotalG)
	for i, p := range w.Components {
		row := gridRow{
			Letter: letter(i), Name: p.Name, Total: u.Plain(p.TotalG), Finished: show.Percent(p.FinishedShare), Asked: show.Percent(p.Share),
			Sub:  fmt.Sprintf("loses %s\u00a0%% a pass", show.Number(p.LossPct)),
			Tuft: tuftOf(p.KindProperties(), p.Preparation, p.HexList, nil, p.Staple, rowScale, seedOf(p.LotID, i)),
		}
		if p.JoinsAtPass > 1 {
			row.Sub += fmt.Sprintf(", joins at pass %d", p.JoinsAtPass)
		}
		if p.ShortG > 0 {
			row.Short = fmt.Sprintf("the shelf is short by %s", u.Grams(p.ShortG))
		}
		for n, unit := range w.Units {
			cell := unit.Cells[i]
			text := cell.TargetG
			if cell.Done && cell.WeighedG > 0 {
				text = cell.WeighedG
			}
			g := gridCell{Text: u.Plain(text), Done: cell.Done, Next: w.Next != nil && w.Next.Unit == n && w.Next.Component == i}
			if w.ID != 0 && !cell.Done {
				g.Scale = fmt.Sprintf("/weighouts/%d/scale#%d-%d", w.ID, n, i)
			}
			if text != cell.PlannedG {
				g.Planned = u.Plain(cell.PlannedG)
			}
			row.Cells = append(row.Cells, g)
		}
		out.Rows = append(out.Rows, row)
	}
	return out
}

func seedOf(lot *int64, i int) int64 {
	if lot != nil {
		return *lot
	}
	return int64(i + 1)
}

func stepOptions(u show.Units) (out []option) {
	steps := studio.ScaleSteps
	if u.Ounces {
		steps = append(append(steps[:0:0], studio.OunceSteps...), steps...)
	}
	for i, mg := range steps {
		g := show.Number(float64(mg.Grams()))
		label := g + "\u00a0g"
		if u.Ounces && i < len(studio.OunceSteps) {
			u.Step = mg
			label = u.StepText()
		}
		out = append(out, option{g, label})
	}
	return out
}

func (s *server) newWeighoutForm(c *gin.Context) error {
	b, err := s.blend(c)
	if err != nil {
		return err
	}
	in, err := s.studio.WeighoutSuggestion(c.Request.Context(), b)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	f := newForm()
	f.Values = map[string]string{
		"name": in.Name, "units": strconv.Itoa(in.Units), "finished": u.Exact(in.FinishedG), "passes": strconv.Itoa(in.Passes), "step": show.Number(in.StepG),
	}
	for i, l := range in.Lines {
		f.Values[fmt.Sprintf("loss%d", i)], f.Values[fmt.Sprintf("joins%d", i)] = show.Number(l.LossPct), strconv.Itoa(l.JoinsAtPass)
	}
	if q := c.Request.URL.Query(); q.Has("units") {
		for k := range q {
			f.Values[k] = q.Get(k)
		}
	}
	return s.showNewWeighout(c, http.StatusOK, b, f)
}

// readWeighout reads the form's values.
func readWeighout(values map[string]string, u show.Units, components int) (studio.WeighoutInput, *reader) {
	v := url.Values{}
	for k, s := range values {
		v.Set(k, s)
	}
	r := &reader{v: v}
	in := studio.WeighoutInput{
		Name: v.Get("name"), Units: r.whole("units", "how many"), FinishedG: r.grams(u, "finished"), Passes: r.whole("passes", "how many"),
		StepG: r.number("step", "the scale's step"),
	}
	for i := range components {
		in.Lines = append(in.Lines, studio.WeighoutLoss{
			LossPct: r.number(fmt.Sprintf("loss%d", i), "a loss in percent, such as 2"), JoinsAtPass: r.whole(fmt.Sprintf("joins%d", i), "a pass"),
		})
	}
	return in, r
}

func (s *server) showNewWeighout(c *gin.Context, status int, b studio.Blend, f form) error {
	u, set, err := s.units(c)
	if err != nil {
		return err
	}
	m, err := s.studio.Making(c.Request.Context(), b.MakingID)
	if err != nil {
		return err
	}
	st, err := s.stateOf(c, m.ID)
	if err != nil {
		return err
	}
	body := newWeighoutBody{Blend: b, Steps: stepOptions(u)}
	in, r := readWeighout(f.Values, u, len(b.Components))
	err = r.wrong.Err()
	if err == nil {
		var plan studio.Weighout
		if plan, err = s.studio.PlanWeighout(c.Request.Context(), b.ID, in); err == nil {
			plan.Next = nil // nothing is to be weighed before it is kept
			body.Plan, body.Grid, body.UnitG = &plan, gridOf(plan, u), plan.TotalG/float64(len(plan.Units))
			if body.Fills, err = s.studio.Fills(c.Request.Context(), b, body.UnitG, plan.TotalG); err != nil {
				return err
			}
		}
	}
	if err != nil {
		if !f.with(err) {
			return err
		}
		weighFields(&f)
		if status == http.StatusOK && c.Request.URL.RawQuery != "" {
			status = http.StatusUnprocessableEntity
		}
	}
	body.Form = f
	for i, v := range b.Components {
		body.Lines = append(body.Lines, weighLine{i, v.Name, tuftOf(v.KindProperties(), v.Preparation, v.Hexes(), nil, v.StapleMM(), rowScale, seedOf(v.LotID, i))})
	}
	s.render(c, status, "newweighout", page{
		Title: "Weigh-out of " + b.Name, Here: "makings", Strand: strandFor(m, st, "Weigh", &b, set.Ground), Scripts: []string{"js/live.js"}, Wide: true,
	}, body)
	return nil
}

// weighFields renames the core's fields to those of the form.
func weighFields(f *form) {
	rename := map[string]string{"finished_g": "finished", "step_g": "step"}
	for i := range 200 {
		rename[fmt.Sprintf("components[%d].loss_pct", i)] = fmt.Sprintf("loss%d", i)
		rename[fmt.Sprintf("components[%d].joins_at_pass", i)] = fmt.Sprintf("joins%d", i)
	}
	for from, to := range rename {
		if m := f.Errors[from]; m != "" {
			f.Errors[to] = m
			delete(f.Errors, from)
		}
	}
}

func (s *server) createWeighout(c *gin.Context) error {
	b, err := s.blend(c)
	if err != nil {
		return err
	}
	if err := c.Request.ParseForm(); err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	f := typed(c.Request.PostForm)
	in, r := readWeighout(f.Values, u, len(b.Components))
	if err = r.wrong.Err(); err == nil {
		var w studio.Weighout
		if w, err = s.studio.CreateWeighout(c.Request.Context(), b.ID, in); err == nil {
			goTo(c, fmt.Sprintf("/weighouts/%d", w.ID), "kept")
			return nil
		}
	}
	if !f.with(err) {
		return err
	}
	return s.showNewWeighout(c, http.StatusUnprocessableEntity, b, f)
}

type weighoutBody struct {
	W     studio.Weighout
	Blend studio.Blend
	Grid  grid
	Made  string
	Off   string
	Delta string
}

// weighoutAround loads a weigh-out with what lies around it.
func (s *server) weighoutAround(c *gin.Context) (w studio.Weighout, b studio.Blend, p page, err error) {
	n, err := id(c, "id")
	if err != nil {
		return w, b, p, err
	}
	if w, err = s.studio.Weighout(c.Request.Context(), n); err != nil {
		return w, b, p, err
	}
	if b, err = s.studio.Blend(c.Request.Context(), w.BlendID); err != nil {
		return w, b, p, err
	}
	m, err := s.studio.Making(c.Request.Context(), b.MakingID)
	if err != nil {
		return w, b, p, err
	}
	st, err := s.stateOf(c, m.ID)
	if err != nil {
		return w, b, p, err
	}
	_, set, err := s.units(c)
	p = page{Here: "makings", Strand: strandFor(m, st, "Weigh", &b, set.Ground), Wide: true}
	return w, b, p, err
}

func (s *server) weighoutPage(c *gin.Context) error {
	w, b, p, err := s.weighoutAround(c)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	p.Title, p.Scripts = "Weigh-out "+w.Name, []string{"js/print.js"}
	s.render(c, http.StatusOK, "weighout", p, weighoutBody{
		W: w, Blend: b, Grid: gridOf(w, u), Off: show.Fixed(w.WorstShare*100, 2) + "\u00a0%", Delta: show.Fixed(w.LargestDelta, 2),
	})
	return nil
}

// scaleView is the bench view as its page shows it.
type scaleView struct {
	ID      int64         `json:"id"`
	Version int64         `json:"version"`
	Unit    string        `json:"unit"`
	Title   string        `json:"title"`
	Units   []scaleUnit   `json:"units"`
	Next    *studio.Place `json:"next"`
	Undo    bool          `json:"undo"`
	Done    string        `json:"done"`
}

type scaleUnit struct {
	Title string      `json:"title"`
	Bowl  string      `json:"bowl"`
	Of    string      `json:"of"`
	Done  bool        `json:"done"`
	Cells []scaleCell `json:"cells"`
}

type scaleCell struct {
	Letter  string  `json:"letter"`
	Name    string  `json:"name"`
	Tuft    tuft    `json:"tuft"`
	Band    string  `json:"band"`
	Wanted  string  `json:"wanted"`  // what is still to weigh
	Target  string  `json:"target"`  // in all
	Weighed string  `json:"weighed"` // so far, empty where nothing
	WantedN float64 `json:"wanted_n"`
	StepN   float64 `json:"step_n"`
	Done    bool    `json:"done"`
	Have    string  `json:"have"`
	Changed string  `json:"changed"`
}

func scaleViewOf(w studio.Weighout, u show.Units) scaleView {
	u = u.WithStep(w.StepG)
	v := scaleView{ID: w.ID, Version: w.Version, Unit: u.Weight(), Next: w.Next, Undo: w.CanUndo}
	v.Done = fmt.Sprintf("%d of %d weighed", w.DoneCells, w.AllCells)
	for n, unit := range w.Units {
		su := scaleUnit{Title: fmt.Sprintf("Unit %d of %d", n+1, len(w.Units)), Bowl: u.Grams(unit.WeighedG), Of: u.Grams(unit.TotalG), Done: unit.Done}
		for i, cell := range unit.Cells {
			p := w.Components[i]
			left := max(0, cell.TargetG-cell.WeighedG)
			sc := scaleCell{
				Letter: letter(i), Name: p.Name, Wanted: u.Plain(left), Target: u.Plain(cell.TargetG), Done: cell.Done,
				Band:    bandURL(p.KindProperties(), p.HexList, i),
				WantedN: number(u.Plain(left)), StepN: number(u.Exact(w.StepG)),
				Tuft: tuftOf(p.KindProperties(), p.Preparation, p.HexList, nil, p.Staple, rowScale, seedOf(p.LotID, i)),
			}
			if cell.WeighedG > 0 {
				sc.Weighed = u.Plain(cell.WeighedG)
			}
			if p.HaveG != nil {
				sc.Have = u.Exact(*p.HaveG) + "\u00a0" + u.Weight() + " on the shelf"
			}
			if cell.TargetG != cell.PlannedG {
				sc.Changed = "planned " + u.Plain(cell.PlannedG)
			}
			su.Cells = append(su.Cells, sc)
		}
		v.Units = append(v.Units, su)
	}
	return v
}

// number reads back a text made here, for drawing.
func number(s string) float64 {
	v, _ := strconv.ParseFloat(s, 64)
	return v
}

type scaleBody struct {
	View  scaleView
	W     studio.Weighout
	Blend studio.Blend
}

func (s *server) scalePage(c *gin.Context) error {
	w, b, p, err := s.weighoutAround(c)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	p.Title, p.Scripts = "At the scale: "+w.Name, []string{"js/scale.js"}
	s.render(c, http.StatusOK, "scale", p, scaleBody{View: scaleViewOf(w, u), W: w, Blend: b})
	return nil
}

// readingRequest is what was typed at the scale.
type readingRequest struct {
	Key       string `json:"key"`
	Version   int64  `json:"version"`
	Unit      int    `json:"unit"`
	Component int    `json:"component"`
	Text      string `json:"text"`
	Policy    string `json:"policy"`
}

func (s *server) reading(c *gin.Context) (n int64, in studio.Reading, u show.Units, err error) {
	if n, err = id(c, "id"); err != nil {
		return n, in, u, err
	}
	var q readingRequest
	if err = decode(c, &q); err != nil {
		return n, in, u, err
	}
	if u, _, err = s.units(c); err != nil {
		return n, in, u, err
	}
	g, err := u.ReadGrams("grams", q.Text)
	return n, studio.Reading{Key: q.Key, Version: q.Version, Unit: q.Unit, Component: q.Component, Grams: g, Policy: q.Policy}, u, err
}

type consideredView struct {
	Verdict string       `json:"verdict"`
	Off     string       `json:"off"`
	Options []optionView `json:"options"`
}

type optionView struct {
	Policy string   `json:"policy"`
	Name   string   `json:"name"`
	Why    string   `json:"why"`
	Lines  []string `json:"lines"`
	Total  string   `json:"total"`
	Share  string   `json:"share"`
	Colour string   `json:"colour"`
	Stock  string   `json:"stock"`
}

var policyWords = map[string][2]string{
	"keep-shares": {"Keep the shares", "The others follow; the unit gets heavier."},
	"keep-total":  {"Keep the total", "The rest gives way; the shares drift."},
	studio.AsIs:   {"Leave the others", "Nothing else changes."},
}

func (s *server) considerReading(c *gin.Context) error {
	n, in, u, err := s.reading(c)
	if err != nil {
		return err
	}
	got, err := s.studio.Consider(c.Request.Context(), n, in)
	if err != nil {
		return err
	}
	w, err := s.studio.Weighout(c.Request.Context(), n)
	if err != nil {
		return err
	}
	u = u.WithStep(w.StepG)
	v := consideredView{Verdict: got.Verdict, Off: u.Grams(max(got.OffG, -got.OffG)), Options: []optionView{}}
	for _, o := range got.Options {
		words := policyWords[o.Policy]
		if got.Verdict == "under" && o.Policy == "keep-shares" {
			words = [2]string{"Book it, add the rest", "It stays open until the rest is in."}
		}
		ov := optionView{Policy: o.Policy, Name: words[0], Why: words[1], Total: u.Grams(o.TotalG),
			Share: show.Fixed(o.WorstShare*100, 1) + "\u00a0%", Colour: show.Fixed(o.DeltaE, 1)}
		for i, g := range o.ToWeighG {
			line := letter(i) + " " + u.Grams(g)
			if had := w.Units[in.Unit].Cells[i].WeighedG; had > 0 && g > had && i != in.Component {
				line = fmt.Sprintf("%s, add %s", line, u.Grams(g-had))
			}
			ov.Lines = append(ov.Lines, line)
		}
		if o.ShortG > 0 {
			ov.Stock = fmt.Sprintf("%s is then short by %s", o.ShortOf, u.Grams(o.ShortG))
		}
		v.Options = append(v.Options, ov)
	}
	c.JSON(http.StatusOK, v)
	return nil
}

func (s *server) bookReading(c *gin.Context) error {
	n, in, u, err := s.reading(c)
	if err != nil {
		return err
	}
	w, err := s.studio.Weigh(c.Request.Context(), n, in)
	return s.answerScale(c, w, u, err)
}

func (s *server) answerScale(c *gin.Context, w studio.Weighout, u show.Units, err error) error {
	if stale, ok := staleAs[studio.Weighout](err); ok {
		return store.Stale{Current: scaleViewOf(stale, u)}
	}
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, scaleViewOf(w, u))
	return nil
}

func (s *server) undoReading(c *gin.Context) error {
	n, err := id(c, "id")
	if err != nil {
		return err
	}
	var q struct {
		Version int64 `json:"version"`
	}
	if err := decode(c, &q); err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	w, err := s.studio.UndoWeighing(c.Request.Context(), n, q.Version)
	return s.answerScale(c, w, u, err)
}
