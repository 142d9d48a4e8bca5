package carderpages

import (
	"errors"
	"fmt"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/carding"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/reachpages"
	"fairtangle/web/show"
)

// RunView is a run as the carder's bench shows it, with all texts ready.
type RunView struct {
	ID      int64                           `json:"id"`
	Version int64                           `json:"version"`
	Unit    string                          `json:"unit"`  // of weights
	Small   string                          `json:"small"` // the unit of small lengths
	At      int                             `json:"at"`    // the unit at which the work is
	Paused  bool                            `json:"paused"`
	Since   float64                         `json:"since"` // seconds since the last entry
	Units   []runUnit                       `json:"units"`
	Steps   map[int][]layingpages.BenchStep `json:"steps"` // by how many passes the unit goes through
	Word    string                          `json:"word"`  // what a unit is called
	Pass    string                          `json:"pass_word"`
	Rolls   string                          `json:"rolls"` // rolags or punis, where they come off
	Again   bool                            `json:"again"`
	Drum    bool                            `json:"drum"`
	Ticks   map[string]bool                 `json:"ticks"`
	Photos  map[int64]runPicture            `json:"photos"`
	Looks   []runLook                       `json:"looks"`
	Line    lineView                        `json:"line"`
	Log     []runLog                        `json:"log"`
	All     lineView                        `json:"all"`
	Clean   bool                            `json:"clean"`
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
	Oil       string           `json:"oil"`
	Look      string           `json:"look"`
	Note      string           `json:"note"`
	Photos    []int64          `json:"photos"`
	Seconds   float64          `json:"seconds"`
	Clock     string           `json:"clock"` // what is said of it beside the figures
	Corrected bool             `json:"corrected"`
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

// asks are what an entry that does not add up makes one ask.
var asks = map[losses.Ask]string{
	losses.Moisture:      "Was it weighed in another room, or on a damper day? Wool takes up moisture.",
	losses.ForgottenBatt: "Was a part of it left out?",
	losses.Slip:          "Is it a slip of typing?",
}

// RunView is a run as its page shows it.
func (s *Room) RunView(c *gin.Context, v carder.Run, u show.Units) (RunView, error) {
	u = u.WithStep(v.Weighout.StepG)
	out := RunView{
		ID: v.ID, Version: v.Version, Unit: u.Weight(), Small: u.SmallUnit(), At: v.Unit, Paused: v.Paused, Since: v.Since(),
		Units: []runUnit{}, Steps: map[int][]layingpages.BenchStep{},
		Word: frame.UnitWords[v.Equipment.Type], Pass: "pass", Again: v.Equipment.Bed().Again(), Drum: v.Equipment.Type == string(layup.Drum), Ticks: v.Ticks(),
		Photos: map[int64]runPicture{}, Looks: []runLook{}, Shelved: []shelved{}, Log: runLogOf(v, u), All: lineViewOf(v.Line, u, ""), Clean: v.Clean(),
	}
	if v.Equipment.Type == string(layup.Hands) {
		out.Pass = "round"
	}
	out.Rolls = v.Rolls()
	for i, x := range v.Units {
		if out.Steps[len(x.Passes)] == nil {
			l := v.Steps(i)
			out.Steps[len(x.Passes)] = runSteps(l, u)
			if err := s.laying.PutFirst(c, v.BlendID, l, out.Steps[len(x.Passes)], u); err != nil {
				return out, err
			}
		}
		unit := runUnitOf(v, i, u, out.Word)
		for _, p := range x.Passes {
			for _, id := range p.Photos {
				photo, err := s.Studio.Shelf.Photo(c.Request.Context(), id)
				if err == nil {
					out.Photos[id] = runPicture{photo.Name, reachpages.ViewPhoto(photo).URL, fmt.Sprintf("/photos/%d", id)}
				} else if !errors.Is(err, floor.ErrNotFound) {
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
func runSteps(l laying.Layup, u show.Units) []layingpages.BenchStep {
	steps := layingpages.BenchSteps(l, nil, u)
	for i, v := range l.Steps {
		steps[i].Action = string(v.Action)
		steps[i].Checks = make([]string, len(v.Cautions))
		for k, caution := range v.Cautions {
			steps[i].Checks[k] = carder.CheckOf(caution)
		}
		if v.Action == layup.Clean {
			steps[i].How = "If what came off is not noted yet, weigh it now. Then cover the cloth, or go on with the next."
		}
	}
	return steps
}

func runUnitOf(v carder.Run, i int, u show.Units, word string) runUnit {
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
func looksSeen(x carder.RunUnit) string {
	list := make([]string, len(x.Passes))
	for i, p := range x.Passes {
		list[i] = p.Look
	}
	if looks := strings.Join(list, ","); strings.Trim(looks, ",") != "" {
		return looks
	}
	return ""
}

func shelvedView(e carder.RunShelved, u show.Units) shelved {
	return shelved{e.Entry, fmt.Sprintf("/lots/%d", e.LotID), u.Grams(e.Grams) + " as " + formWord(e.Form)}
}

func formWord(key string) string {
	for _, f := range carder.Forms {
		if f.Key == key {
			return strings.ToLower(f.Name)
		}
	}
	return key
}

func runPassOf(v carder.Run, i, p int, u show.Units) runPass {
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
		Cloth: amount(x.ClothG), Specks: number(x.Specks), Pace: number(x.Pace), Oil: number(x.OilPct), Look: x.Look, Note: x.Note, Photos: x.Photos,
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
		out.Clock, out.Corrected = "as you corrected it", true
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

func lostWords(t carder.RunStretch, u show.Units) string {
	over := ""
	if t.First < t.Last {
		over = fmt.Sprintf(" over passes %d to %d", t.First, t.Last)
	}
	if t.LossG < 0 {
		return fmt.Sprintf("%s more came off than went in%s", u.Grams(-t.LossG), over)
	}
	return fmt.Sprintf("%s lost%s, %s %%", u.Grams(t.LossG), over, show.Fixed(t.LossPct, 1))
}
