package pages

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/web/answer"
	"fairtangle/web/art"
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
	// Layups are those that the weigh-out can follow.
	Layups []option
}

type weighLine struct {
	N    int
	Name string
	Tuft art.Link
}

// grid is the table of a weigh-out with everything as text.
type grid struct {
	Units []gridUnit
	Rows  []gridRow
	Sums  []string
	Total string
}

// gridUnit heads a column, with the colour that the unit will have.
type gridUnit struct {
	N   int
	Hex string
}

type gridRow struct {
	Letter, Name, Sub string
	Tuft              art.Link
	Cells             []gridCell
	Total             string
	Finished, Asked   string
	Short             string
	Lays              []gridLay
}

// gridLay is a lay that a component is divided into.
type gridLay struct {
	Name  string
	Cells []string
	Total string
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
		out.Units = append(out.Units, gridUnit{i + 1, w.Units[i].Hex})
	}
	sums, all := make([]float64, len(w.Units)), 0.0
	for i, p := range w.Components {
		row := gridRow{
			Letter: show.Letter(i), Name: p.Name, Finished: show.Percent(p.FinishedShare), Asked: show.Percent(p.Share),
			Sub:  fmt.Sprintf("loses %s\u00a0%% a pass", show.Number(p.LossPct)),
			Tuft: art.TuftLink(p.KindProperties(), p.Preparation, p.HexList, nil, p.Staple, art.RowScale, seedOf(p.LotID, i)),
		}
		if p.JoinsAtPass > 1 {
			row.Sub += fmt.Sprintf(", joins at pass %d", p.JoinsAtPass)
		}
		if p.ShortG > 0 {
			row.Short = fmt.Sprintf("the shelf is short by %s", u.Grams(p.ShortG))
		}
		if p.Share > 0 && vanishes(w, i) {
			row.Short = "rounds to nothing in a unit: weigh it once for all and divide it by eye, mix it into another fibre first, or take a finer scale"
		}
		row.Lays = layRows(w, i, u)
		var total float64
		for n, unit := range w.Units {
			cell := unit.Cells[i]
			text := cell.TargetG
			if cell.Done && cell.WeighedG > 0 {
				text = cell.WeighedG
			}
			shown := u.Shown(text)
			sums[n] += shown
			total += shown
			g := gridCell{Text: u.Plain(text), Done: cell.Done, Next: w.Next != nil && w.Next.Unit == n && w.Next.Component == i}
			if w.ID != 0 && !cell.Done {
				g.Scale = fmt.Sprintf("/weighouts/%d/scale#%d-%d", w.ID, n, i)
			}
			if text != cell.PlannedG {
				g.Planned = u.Plain(cell.PlannedG)
			}
			row.Cells = append(row.Cells, g)
		}
		row.Total, all = u.PlainShown(total), all+total
		out.Rows = append(out.Rows, row)
	}
	for _, v := range sums {
		out.Sums = append(out.Sums, u.PlainShown(v))
	}
	out.Total = u.PlainShown(all) + "\u00a0" + u.Weight()
	return out
}

// vanishes tells whether a component comes to no step of the scale in a unit.
func vanishes(w studio.Weighout, component int) bool {
	for _, u := range w.Units {
		if u.Cells[component].PlannedG == 0 {
			return true
		}
	}
	return false
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
	if in.LayupID != nil {
		f.Values["layup"] = strconv.FormatInt(*in.LayupID, 10)
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
	if id, err := strconv.ParseInt(v.Get("layup"), 10, 64); err == nil {
		in.LayupID = &id
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
	for _, l := range st.layups {
		if l.BlendID == b.ID {
			body.Layups = append(body.Layups, option{strconv.FormatInt(l.ID, 10), l.Name})
		}
	}
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
		if !s.blame(c, &f, err) {
			return err
		}
		weighFields(&f)
		if status == http.StatusOK && c.Request.URL.RawQuery != "" {
			status = http.StatusUnprocessableEntity
		}
	}
	body.Form = f
	for i, v := range b.Components {
		body.Lines = append(body.Lines, weighLine{i, v.Name, art.TuftLink(v.KindProperties(), v.Preparation, v.Hexes(), nil, v.StapleMM(), art.RowScale, seedOf(v.LotID, i))})
	}
	s.render(c, status, "newweighout", page{
		Title: "Weigh-out of " + b.Name, Here: "makings", Strand: strandFor(m, st, "Weigh", &b, set.Ground), Scripts: []string{"js/live.js"}, Wide: true,
	}, body)
	return nil
}

// weighFields renames the core's fields to those of the form.
func weighFields(f *form) {
	rename := map[string]string{"finished_g": "finished", "step_g": "step", "layup_id": "layup"}
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
	u, err := s.posted(c)
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
	if !s.blame(c, &f, err) {
		return err
	}
	return s.showNewWeighout(c, http.StatusUnprocessableEntity, b, f)
}

// weighAddition makes a weigh-out of what a mended blend adds.
func (s *server) weighAddition(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	w, err := s.studio.CreateAddition(c.Request.Context(), n)
	if err != nil {
		return err
	}
	goTo(c, fmt.Sprintf("/weighouts/%d", w.ID), "kept")
	return nil
}

type weighoutBody struct {
	W     studio.Weighout
	Blend studio.Blend
	Grid  grid
	Off   string
	Delta string
	Came  cameView
}

// cameView is what came off, unit by unit, as the page shows it.
type cameView struct {
	ID    int64      `json:"id"`
	Unit  string     `json:"unit"`
	Units []cameUnit `json:"units"`
}

type cameUnit struct {
	Key      int    `json:"key"`
	Title    string `json:"title"`
	Expected string `json:"expected"`
	Off      string `json:"off"`
	Lost     string `json:"lost"` // of what went in, where it was weighed
	Note     string `json:"note"`
	Version  int64  `json:"version"`
}

func cameViewOf(w studio.Weighout, u show.Units) cameView {
	v := cameView{ID: w.ID, Unit: u.Weight(), Units: []cameUnit{}}
	for i, unit := range w.Units {
		row := cameUnit{Key: i, Title: strconv.Itoa(i + 1), Expected: "~" + u.Grams(unit.ExpectedG), Note: unit.Note, Version: unit.NoteVersion}
		if unit.OffG != nil {
			row.Off = u.Amount(*unit.OffG)
		}
		if lost := unit.LostShare; lost != nil && *lost >= 0 {
			row.Lost = show.Fixed(100**lost, 1) + "\u00a0% lost"
		} else if lost != nil {
			row.Lost = show.Fixed(-100**lost, 1) + "\u00a0% more than went in"
		}
		v.Units = append(v.Units, row)
	}
	return v
}

// noteUnit keeps what was typed of a unit: the grams that came off, or the note.
func (s *server) noteUnit(c *gin.Context) error {
	var q struct {
		Unit    int     `json:"unit"`
		Version int64   `json:"version"`
		Off     *string `json:"off"`
		Note    *string `json:"note"`
	}
	n, err := answer.WithBody(c, &q)
	if err != nil {
		return err
	}
	u, _, err := s.units(c)
	if err != nil {
		return err
	}
	w, err := s.studio.Weighout(c.Request.Context(), n)
	if err != nil {
		return err
	}
	in := studio.NoteInput{Version: q.Version}
	if q.Unit >= 0 && q.Unit < len(w.Units) {
		in.OffG, in.Note = w.Units[q.Unit].OffG, w.Units[q.Unit].Note
	}
	if q.Note != nil {
		in.Note = *q.Note
	}
	if q.Off != nil {
		in.OffG = nil
		if strings.TrimSpace(*q.Off) != "" {
			off, err := u.ReadGrams("off_g", *q.Off)
			if err != nil {
				return err
			}
			in.OffG = &off
		}
	}
	w, err = s.studio.NoteUnit(c.Request.Context(), n, q.Unit, in)
	return edited(c, w, err, func(w studio.Weighout) any { return cameViewOf(w, u) })
}

// weighoutAround loads a weigh-out with what lies around it.
func (s *server) weighoutAround(c *gin.Context) (w studio.Weighout, b studio.Blend, p page, err error) {
	n, err := answer.ID(c, "id")
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
	p.Title, p.Scripts = "Weigh-out "+w.Name, []string{"js/print.js", "js/cameoff.js"}
	s.render(c, http.StatusOK, "weighout", p, weighoutBody{
		Came: cameViewOf(w, u), W: w, Blend: b, Grid: gridOf(w, u), Off: show.Fixed(w.WorstShare*100, 2) + "\u00a0%", Delta: show.Fixed(w.LargestDelta, 2),
	})
	return nil
}
