package pages

import (
	"encoding/json"
	"fmt"
	"net/http"
	"reflect"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/studio"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// runView is a run as the carder's bench shows it, with all texts ready.
type runView struct {
	ID      int64                `json:"id"`
	Version int64                `json:"version"`
	Unit    string               `json:"unit"`  // of weights
	Small   string               `json:"small"` // the unit of small lengths
	At      int                  `json:"at"`    // the unit at which the work is
	Paused  bool                 `json:"paused"`
	Since   float64              `json:"since"` // seconds since the last entry
	Units   []runUnit            `json:"units"`
	Steps   map[int][]benchStep  `json:"steps"` // by how many passes the unit goes through
	Word    string               `json:"word"`  // what a unit is called
	Pass    string               `json:"pass_word"`
	Rolls   string               `json:"rolls"` // rolags or punis, where they come off
	Again   bool                 `json:"again"`
	Drum    bool                 `json:"drum"`
	Ticks   map[string]bool      `json:"ticks"`
	Photos  map[int64]runPicture `json:"photos"`
	Looks   []runLook            `json:"looks"`
	Line    lineView             `json:"line"`
	Log     []runLog             `json:"log"`
	All     lineView             `json:"all"`
	Clean   bool                 `json:"clean"`
	// Shelved is what went onto the shelf of all units together, ToShelf what came off and
	// lies on none.
	Shelved []shelved `json:"shelved"`
	ToShelf string    `json:"to_shelf"`
	// Pictured says that the steps have their pictures.
	Pictured bool `json:"pictured"`
}

// runPicture is a photo of a pass.
type runPicture struct {
	Name string `json:"name"`
	URL  string `json:"url"`
	Href string `json:"href"`
}

// runLook is a look with a picture of this blend that has it, where a stage foreseen has.
type runLook struct {
	Name    string `json:"name"`
	Picture string `json:"picture"`
}

type runUnit struct {
	Key     int       `json:"key"`
	Title   string    `json:"title"`
	Said    string    `json:"said"`
	Step    int       `json:"step"`
	Passes  []runPass `json:"passes"`
	Count   string    `json:"count"`
	Pieces  []string  `json:"pieces"`
	Rolled  string    `json:"rolled"` // what the pieces weigh together
	Note    string    `json:"note"`
	Done    bool      `json:"done"`
	Hex     string    `json:"hex"`
	Line    lineView  `json:"line"`
	Shelved []shelved `json:"shelved"`
	ToShelf string    `json:"to_shelf"` // grams that came off and lie on no shelf
	Fit     string    `json:"fit"`      // where the carder is fitted by the looks that were seen
}

// shelved is what went onto the shelf.
type shelved struct {
	Entry int64  `json:"entry"`
	Href  string `json:"href"`
	Said  string `json:"said"`
}

type runPass struct {
	In        string           `json:"in"`
	Out       string           `json:"off"`
	Residue   string           `json:"residue"`
	Back      string           `json:"back"`
	Droppings string           `json:"droppings"`
	Picked    string           `json:"picked"`
	Cloth     string           `json:"cloth"`
	Specks    string           `json:"specks"`
	Minutes   string           `json:"minutes"`
	Clearance string           `json:"clearance"`
	Pace      string           `json:"pace"`
	Look      string           `json:"look"`
	Note      string           `json:"note"`
	Photos    []int64          `json:"photos"`
	Seconds   float64          `json:"seconds"`
	Clock     string           `json:"clock"` // what is said of it beside the figures
	Lost      string           `json:"lost"`
	Ask       []string         `json:"ask"`
	More      bool             `json:"more"` // another pass is advised
	Why       string           `json:"why"`
	Foreseen  string           `json:"foreseen"`
	After     map[string]int64 `json:"after"`
}

// runLog is an entry as it is listed.
type runLog struct {
	ID     int64  `json:"id"`
	Key    string `json:"key"` // what was ticked
	When   string `json:"when"`
	Where  string `json:"where"`
	Said   string `json:"said"`
	Stands bool   `json:"stands"`
	Undone bool   `json:"undone"`
	Undoes bool   `json:"undoes"`
}

// unitWords are what one filling of the equipment is called.
var unitWords = map[string]string{"drum": "Batt", "board": "Board", "hand_cards": "Pair of cards", "hands": "Pile"}

// asks are what an entry that does not add up makes one ask.
var asks = map[losses.Ask]string{
	losses.Moisture:      "Was it weighed in another room, or on a damper day? Wool takes up moisture.",
	losses.ForgottenBatt: "Was a part of it left out?",
	losses.Slip:          "Is it a slip of typing?",
}

func (s *server) runView(c *gin.Context, v studio.Run, u show.Units) (runView, error) {
	u = u.WithStep(v.Weighout.StepG)
	out := runView{
		ID: v.ID, Version: v.Version, Unit: u.Weight(), Small: u.SmallUnit(), At: v.Unit, Paused: v.Paused, Since: v.Since(),
		Units: []runUnit{}, Steps: map[int][]benchStep{},
		Word: unitWords[v.Equipment.Type], Pass: "pass", Again: v.Equipment.Bed().Again(), Drum: v.Equipment.Type == string(layup.Drum), Ticks: v.Ticks(),
		Photos: map[int64]runPicture{}, Looks: []runLook{}, Shelved: []shelved{}, Log: runLogOf(v, u), All: lineViewOf(v.Line, u, ""), Clean: v.Clean(),
	}
	if v.Equipment.Type == string(layup.Hands) {
		out.Pass = "round"
	}
	if v.Boarded() {
		out.Rolls = "rolags"
	}
	for i, x := range v.Units {
		if out.Steps[len(x.Passes)] == nil {
			l := v.Steps(i)
			out.Steps[len(x.Passes)] = runSteps(l, u)
			if err := s.putFirst(c, v.BlendID, l, out.Steps[len(x.Passes)], u); err != nil {
				return out, err
			}
		}
		unit := runUnitOf(v, i, u, out.Word)
		for _, p := range x.Passes {
			for _, id := range p.Photos {
				photo, err := s.studio.Photo(c.Request.Context(), id)
				if err == nil {
					out.Photos[id] = runPicture{photo.Name, viewPhoto(photo).URL, fmt.Sprintf("/photos/%d", id)}
				} else if err != studio.ErrNotFound {
					return out, err
				}
			}
		}
		out.Units = append(out.Units, unit)
	}
	for _, e := range v.Shelved {
		out.Shelved = append(out.Shelved, shelvedView(e, u))
	}
	if g := v.AllToShelve(); g > 0 {
		out.ToShelf = u.Amount(g)
	}
	for _, l := range carding.Looks() {
		out.Looks = append(out.Looks, runLook{Name: string(l)})
	}
	return out, nil
}

// runSteps are the steps of the work with their texts, the last ones as they are in a run.
func runSteps(l studio.Layup, u show.Units) []benchStep {
	steps := benchSteps(l, nil, u)
	for i, v := range l.Steps {
		steps[i].Action = string(v.Action)
		steps[i].Checks = make([]string, len(v.Cautions))
		for k, caution := range v.Cautions {
			steps[i].Checks[k] = studio.CheckOf(caution)
		}
		if v.Action == layup.Clean {
			steps[i].How = "Everything that was weighed is noted. Cover the cloth, or go on with the next."
		}
	}
	return steps
}

func runUnitOf(v studio.Run, i int, u show.Units, word string) runUnit {
	x := v.Units[i]
	out := runUnit{
		Key: i, Title: fmt.Sprintf("%s %d", word, i+1), Step: x.Step, Passes: []runPass{}, Pieces: []string{}, Note: x.Note, Hex: x.Hex,
		Line: lineViewOf(x.Line, u, x.Hex), Shelved: []shelved{},
	}
	var sum float64
	for _, g := range x.PiecesG {
		out.Pieces, sum = append(out.Pieces, u.Amount(g)), sum+g
	}
	if x.Count != nil {
		out.Count = show.Number(*x.Count)
	}
	if n := len(x.PiecesG); n > 0 {
		out.Rolled = fmt.Sprintf("%s weighed, %s together", show.Plural(n, "rolag"), u.Grams(sum))
		if x.Count != nil && *x.Count > float64(n) {
			out.Rolled += fmt.Sprintf("; all %s weigh ~%s, if the others are like these", show.Number(*x.Count), u.Grams(sum/float64(n)**x.Count))
		}
	}
	last := x.Passes[len(x.Passes)-1]
	out.Done = last.OffG != nil
	switch {
	case out.Done:
		out.Said = u.Grams(*last.OffG) + " came off"
	case x.Step < 0:
		out.Said = "not begun"
	default:
		out.Said = "at work"
	}
	for p := range x.Passes {
		out.Passes = append(out.Passes, runPassOf(v, i, p, u))
	}
	for _, e := range x.Shelved {
		out.Shelved = append(out.Shelved, shelvedView(e, u))
	}
	if looks := looksSeen(x); looks != "" && v.LayupID != nil && v.Equipment.Type == string(layup.Drum) {
		out.Fit = fmt.Sprintf("/layups/%d/card?looks=%s#fithead", *v.LayupID, looks)
	}
	if g := v.ToShelve(i); g > 0 {
		out.ToShelf = u.Amount(g)
	}
	return out
}

// looksSeen are the looks after each pass with commas between them, empty where none was
// noted.
func looksSeen(x studio.RunUnit) string {
	list := make([]string, len(x.Passes))
	for i, p := range x.Passes {
		list[i] = p.Look
	}
	if looks := strings.Join(list, ","); strings.Trim(looks, ",") != "" {
		return looks
	}
	return ""
}

func shelvedView(e studio.RunShelved, u show.Units) shelved {
	return shelved{e.Entry, fmt.Sprintf("/lots/%d", e.LotID), u.Grams(e.Grams) + " as " + formWord(e.Form)}
}

func formWord(key string) string {
	for _, f := range studio.Forms {
		if f.Key == key {
			return strings.ToLower(f.Name)
		}
	}
	return key
}

func runPassOf(v studio.Run, i, p int, u show.Units) runPass {
	x := v.Units[i].Passes[p]
	amount := func(g *float64) string {
		if g == nil {
			return ""
		}
		return u.Amount(*g)
	}
	number := func(n *float64) string {
		if n == nil {
			return ""
		}
		return show.Number(*n)
	}
	out := runPass{
		In: amount(x.InG), Out: amount(x.OffG), Residue: amount(x.ResidueG), Back: x.Residue, Droppings: amount(x.DroppingsG), Picked: amount(x.PickedG),
		Cloth: amount(x.ClothG), Specks: number(x.Specks), Pace: number(x.Pace), Look: x.Look, Note: x.Note, Photos: x.Photos,
		Seconds: 60 * x.Minutes, After: x.After, Ask: []string{},
	}
	if x.Clearance != nil {
		out.Clearance = u.PlainSmall(*x.Clearance)
	}
	if x.Minutes >= 0.05 || x.Corrected {
		out.Minutes = show.Number(float64(int(x.Minutes*10+0.5)) / 10)
	}
	switch {
	case x.Corrected:
		out.Clock = "as you corrected it"
	case x.Stood:
		out.Clock = "an interruption is not counted"
	}
	for _, t := range v.Units[i].Line.Stretches {
		if t.Last != p+1 {
			continue
		}
		out.Lost = lostWords(t, u)
		for _, a := range t.Ask {
			out.Ask = append(out.Ask, asks[a])
		}
	}
	if v.Equipment.Bed().Again() {
		a := v.Another(i, p+1)
		out.More, out.Why = a.More, a.Why
	}
	if p < len(v.Foreseen) {
		out.Foreseen = fmt.Sprintf("Foreseen: %s, patches differ by %s", v.Foreseen[p].Look, show.Fixed(v.Foreseen[p].PatchDeltaE, 1))
	}
	return out
}

func lostWords(t studio.RunStretch, u show.Units) string {
	over := ""
	if t.First < t.Last {
		over = fmt.Sprintf(" over passes %d to %d", t.First, t.Last)
	}
	if t.LossG < 0 {
		return fmt.Sprintf("%s more came off than went in%s", u.Grams(-t.LossG), over)
	}
	return fmt.Sprintf("%s lost%s, %s %%", u.Grams(t.LossG), over, show.Fixed(t.LossPct, 1))
}

// runBody is the page of a run.
type runBody struct {
	View      runView
	Bed       *bedView // of the lay-up, where it still lies so
	Run       studio.Run
	Blend     studio.Blend
	Equipment string
	Scales    []scaleRow
}

func (s *server) runAround(c *gin.Context) (v studio.Run, b studio.Blend, u show.Units, p page, err error) {
	n, u, err := s.named(c)
	if err != nil {
		return v, b, u, p, err
	}
	ctx := c.Request.Context()
	if v, err = s.studio.Run(ctx, n); err != nil {
		return v, b, u, p, err
	}
	m, err := s.studio.Making(ctx, v.MakingID)
	if err != nil {
		return v, b, u, p, err
	}
	st, err := s.stateOf(c, m.ID)
	if err != nil {
		return v, b, u, p, err
	}
	_, set, err := s.units(c)
	if err != nil {
		return v, b, u, p, err
	}
	var of *studio.Blend
	if v.BlendID != 0 {
		if b, err = s.studio.Blend(ctx, v.BlendID); err != nil {
			return v, b, u, p, err
		}
		of = &b
	}
	p = page{Here: "makings", Strand: strandFor(m, st, "Card", of, set.Ground), Wide: true}
	return v, b, u, p, nil
}

// runPage is the carder's bench: one step, one weight, one key.
func (s *server) runPage(c *gin.Context) error {
	v, b, u, p, err := s.runAround(c)
	if err != nil {
		return err
	}
	if v.Sort == studio.FleeceRun {
		return s.fleecePage(c, v, u, p)
	}
	body := runBody{Run: v, Blend: b, Equipment: v.Equipment.Name}
	if body.View, err = s.runView(c, v, u); err != nil {
		return err
	}
	if err := s.pictured(c, v, u, &body); err != nil {
		return err
	}
	if body.Scales, _, err = s.benchOf(c, u); err != nil {
		return err
	}
	p.Title, p.Scripts = v.Name+", at the carder", []string{"js/run.js"}
	s.render(c, http.StatusOK, "run", p, body)
	return nil
}

// pictured puts pictures of what is foreseen beside the steps, where the lay-up still lies
// as it did when the run began.
func (s *server) pictured(c *gin.Context, v studio.Run, u show.Units, body *runBody) error {
	body.View.Pictured = true
	if v.LayupID == nil {
		return nil
	}
	l, err := s.studio.Layup(c.Request.Context(), *v.LayupID)
	if err == studio.ErrNotFound {
		return nil
	}
	if err != nil {
		return err
	}
	if !reflect.DeepEqual(l.PlanInput, v.Steps(0).PlanInput) {
		return nil
	}
	view := s.bedView(l, u, stepsView{})
	body.Bed = &view
	for n, steps := range body.View.Steps {
		l.Steps = v.StepsOf(n).Steps
		if err := s.expected(c, l, steps); err != nil {
			return err
		}
	}
	f, err := s.studio.Foretell(c.Request.Context(), l.ID, studio.Division{})
	if _, isFault := fault.From(err); isFault {
		return nil
	} else if err != nil {
		return err
	}
	stages, err := s.studio.Stages(c.Request.Context(), f, true)
	if err != nil {
		return err
	}
	for i := range body.View.Looks {
		for _, t := range stages {
			if string(t.Look) == body.View.Looks[i].Name {
				body.View.Looks[i].Picture = fmt.Sprintf("/layups/%d/card.png?of=%s&stage=%d&w=320&h=130", l.ID, f.Digest, t.Pass)
				break
			}
		}
	}
	return nil
}

// runRow is a run in a list.
type runRow struct {
	ID       int64
	Name     string
	Href     string
	Sub      string
	Finished bool
}

func runRows(list []studio.Run, u show.Units) (out []runRow) {
	for _, v := range list {
		row := runRow{ID: v.ID, Name: v.Name, Href: fmt.Sprintf("/runs/%d", v.ID)}
		if v.Sort == studio.FleeceRun {
			row.Sub = "raw fleece"
			out = append(out, row)
			continue
		}
		off := 0
		for _, x := range v.Units {
			if x.Passes[len(x.Passes)-1].OffG != nil {
				off++
			}
		}
		row.Finished = off == len(v.Units)
		row.Sub = fmt.Sprintf("%d of %d came off on the %s", off, len(v.Units), v.Equipment.Name)
		if v.Line.OffG > 0 {
			row.Sub += ", " + u.Grams(v.Line.OffG)
		}
		out = append(out, row)
	}
	return out
}

// startRun begins the carding of a weigh-out.
func (s *server) startRun(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if err := parsed(c); err != nil {
		return err
	}
	equipment, _ := strconv.ParseInt(c.PostForm("equipment_id"), 10, 64)
	v, err := s.studio.StartRun(c.Request.Context(), n, studio.StartRun{EquipmentID: equipment})
	if err != nil {
		return err
	}
	goTo(c, fmt.Sprintf("/runs/%d", v.ID), "")
	return nil
}

// entryRequest is what was typed or pressed of a run; Mg goes before Text where a scale
// said it.
type entryRequest struct {
	Key   string `json:"key"`
	Unit  int    `json:"unit"`
	Pass  int    `json:"pass"`
	What  string `json:"what"`
	Text  string `json:"text"`
	Back  string `json:"back"` // what becomes of the residue
	Mg    int64  `json:"mg"`
	After *int64 `json:"after"`
	// Undoes takes an entry back instead.
	Undoes int64 `json:"undoes"`
}

// runWords are what is asked for of a number, by what it tells.
var runWords = map[run.What]string{
	run.Specks: "how many specks, such as 3", run.Minutes: "minutes, such as 12", run.Clearance: "a clearance",
	run.Pace: "turns in a minute, such as 30", run.Count: "how many, such as 4", run.Step: "a step", run.Photo: "a photo", run.Cleaned: "1",
	run.Oil: "percent of the weight, such as 2",
}

// tellRun keeps one thing told of a run. An emptied field takes back what it said.
func (s *server) tellRun(c *gin.Context) error {
	var q entryRequest
	n, u, err := asked(s, c, &q)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	var v studio.Run
	in := studio.EntryInput{Key: q.Key, Unit: q.Unit, Pass: q.Pass, What: q.What, Text: q.Text, After: q.After}
	what := run.What(q.What)
	emptied := strings.TrimSpace(q.Text) == "" && q.Mg == 0 && (what.Weights() || runWords[what] != "") && what != run.Piece
	switch {
	case q.Undoes != 0:
		v, err = s.studio.Reverse(ctx, n, q.Undoes, q.Key)
	case emptied && q.After != nil && *q.After != 0:
		v, err = s.studio.Reverse(ctx, n, *q.After, q.Key)
	case emptied:
		v, err = s.studio.Run(ctx, n)
	default:
		if what.Weights() {
			g := float64(q.Mg) / 1000
			if q.Mg == 0 {
				if g, err = u.ReadGrams("grams", q.Text); err != nil {
					return err
				}
			}
			in.Grams, in.Text = &g, q.Back
		} else if word := runWords[what]; word != "" {
			number, err := show.ReadNumber("number", q.Text, word)
			if what == run.Clearance {
				number, err = u.ReadSmall("number", q.Text)
			}
			if err != nil {
				return err
			}
			in.Number, in.Text = &number, ""
		}
		if what == run.Raw {
			v, err = s.studio.TakeRaw(ctx, n, in)
		} else {
			v, err = s.studio.Tell(ctx, n, in)
		}
	}
	return s.toldRun(c, v, err, u)
}

// toldRun answers with the run as it stands, or as another window has left it.
func (s *server) toldRun(c *gin.Context, v studio.Run, err error, u show.Units) error {
	if other, ok := answer.StaleAs[studio.Run](err); ok {
		if other.Sort == studio.FleeceRun {
			return studio.Stale{Current: fleeceViewOf(other, u)}
		}
		view, err := s.runView(c, other, u)
		if err != nil {
			return err
		}
		return studio.Stale{Current: view}
	}
	if err != nil {
		return answer.ShortIn(u, err)
	}
	if v.Sort == studio.FleeceRun {
		c.JSON(http.StatusOK, fleeceViewOf(v, u))
		return nil
	}
	view, err := s.runView(c, v, u)
	if err != nil {
		return err
	}
	body := runBody{View: view}
	if n := len(v.Entries); n > 0 && (v.Entries[n-1].What == string(run.More) || v.Entries[n-1].What == string(run.Enough)) { // other steps than before
		if err := s.pictured(c, v, u, &body); err != nil {
			return err
		}
	}
	c.JSON(http.StatusOK, body.View)
	return nil
}

// photoOfRun takes a photo of a pass in: it is encoded anew, and what the camera wrote into
// it is gone.
func (s *server) photoOfRun(c *gin.Context) error {
	n, u, err := s.named(c)
	if err != nil {
		return err
	}
	if err := parsed(c); err != nil {
		return err
	}
	var q entryRequest
	if err := json.Unmarshal([]byte(c.PostForm("entry")), &q); err != nil {
		return answer.BadShape{Field: "entry", Message: "The entry is JSON."}
	}
	file, header, err := c.Request.FormFile("file")
	if err != nil {
		return fault.New("file", "Choose a picture.")
	}
	defer file.Close()
	in := studio.EntryInput{Key: q.Key, Unit: q.Unit, Pass: q.Pass, What: string(run.Photo)}
	v, err := s.studio.PhotoOfRun(c.Request.Context(), n, in, header.Filename, file)
	return s.toldRun(c, v, err, u)
}
