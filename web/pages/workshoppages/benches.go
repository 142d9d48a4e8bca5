package workshoppages

import (
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type newerBody struct {
	Form   frame.Form
	Name   string // of the copy
	At     string
	Groups []newerGroup
	All    int
	Said   []string // what was taken over, when it was just done
	Found  []newerLot
}

// newerGroup is what belongs together: a making, the shelf, the workshop.
type newerGroup struct {
	Name   string
	Things []newerThing
}

type newerThing struct {
	Key, Name, Word string
	How             string // how it stands to what is here
	Theirs          string // the choice of a box; empty: one of several
	Ticked          bool
	Can             []newerChoice
	Here            string // the page of what is here
	Sides           []newerSide
}

// newerSide is something in which it differs, on both sides.
type newerSide struct{ What, There, Here string }

// sideText says one side in the maker's words.
func sideText(column string, v any, u show.Units) string {
	switch v := v.(type) {
	case []workshop.ThingFibre:
		var out []string
		for _, p := range v {
			out = append(out, show.Percent(p.Share)+" "+p.Name)
		}
		return strings.Join(out, ", ")
	case int64:
		if strings.HasSuffix(column, "_mg") {
			return u.Grams(float64(v) / 1000)
		}
		return strconv.FormatInt(v, 10)
	case float64:
		if strings.HasSuffix(column, "_mm") {
			return u.Length(v)
		}
		return show.Number(v)
	case string:
		return v
	}
	return ""
}

type newerChoice struct {
	Value, Words string
	Chosen       bool
}

type newerLot struct {
	ID   int64
	Name string
}

// differing are the words for what two differ in; a column that is not among them has its own name.
var differing = map[string]string{
	"blend_components": "fibres", "total_mg": "weight", "target_hex": "the colour wanted", "plan": "how it is planned", "components": "fibres",
	"weighout_cells": "weights", "weighout_components": "fibres", "weighout_units": "what came off", "weighings": "what was weighed",
	"run_entries": "what was told", "tellings": "answers to questions", "deleted_at": "whether it lies in the bin", "archived_at": "whether it is put away",
	"cents_per100g": "price", "where_from": "where it is from", "scraps": "bits", "told": "what was told", "lays": "how it is laid", "staple_mm": "staple",
	"run_cm": "how long one colour is", "finished_mg": "weight", "step_mg": "step", "came": "how it came out", "schools": "schools", "items": "what is on it",
}

func differ(columns []string) string {
	var out []string
	for _, c := range columns {
		words := differing[c]
		if words == "" {
			words = strings.ReplaceAll(c, "_", " ")
		}
		if !slices.Contains(out, words) {
			out = append(out, words)
		}
	}
	return strings.Join(out, ", ")
}

// how says how a thing stands to what is here.
func how(v workshop.Thing, u show.Units) string {
	there, here := v.Changed()
	words := ""
	switch v.State {
	case workshop.ThingBooked:
		are := "are"
		if v.Lines == 1 {
			are = "is"
		}
		return show.Plural(v.Lines, "booking") + " that " + are + " not here, " + u.Signed(float64(v.Mg.Grams())) + " in all"
	case workshop.ThingNew:
		return "not here yet, from " + show.Moment(there)
	case workshop.ThingBoth:
		words = "changed on both: there on " + show.Moment(there) + ", here on " + show.Moment(here)
	default:
		words = "changed there on " + show.Moment(there) + ", not here since"
	}
	if v.Binned {
		return words + "; it lies in the bin there"
	}
	return words + "; differs in " + differ(v.Differ)
}

// choiceWords are the words for what can become of a thing that was changed on both.
var choiceWords = map[workshop.Choice]string{workshop.KeepMine: "Keep it as it is here", workshop.TakeTheirs: "Have it as it is there",
	workshop.TakeBeside: "Have both, side by side"}

func (s *Room) newerThingOf(v workshop.Thing, f frame.Form, u show.Units) newerThing {
	out := newerThing{Key: v.Key(), Name: v.Name, Word: v.Word, How: how(v, u)}
	if out.Name == "" {
		out.Name, out.Word = v.Word, ""
	}
	if v.Here != 0 {
		out.Here = s.Studio.Workshop.Vault.HomeOf(v)
	}
	typed, was := f.Values[out.Key]
	if len(v.Can) == 1 {
		out.Theirs, out.Ticked = string(v.Can[0]), typed != "" || !was && len(f.Values) == 0
		if v.State == workshop.ThingBoth {
			out.How += ". What was weighed on both stands side by side"
		}
		return out
	}
	for _, side := range v.Sides {
		out.Sides = append(out.Sides, newerSide{differ([]string{side.What}), sideText(side.What, side.There, u), sideText(side.What, side.Here, u)})
	}
	for n, c := range v.Can {
		out.Can = append(out.Can, newerChoice{string(c), choiceWords[c], typed == string(c) || typed == "" && n == 0})
	}
	return out
}

// newer shows what a copy of another bench has that is not here, or newer.
func (s *Room) newer(c *gin.Context) error { return s.showNewer(c, http.StatusOK, frame.Form{}) }

func (s *Room) showNewer(c *gin.Context, status int, f frame.Form) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	v, list, err := s.Studio.Workshop.Vault.NewerIn(c.Request.Context(), c.Param("name"))
	if err != nil {
		if form := frame.NewForm(); s.Blame(c, &form, err) {
			return s.showCopies(c, http.StatusUnprocessableEntity, form)
		}
		return err
	}
	b := newerBody{Form: f, Name: v.Name, At: v.At.Format("2 January 2006, 15:04"), All: len(list)}
	b.Groups = s.newerGroups(list, f, u)
	if err := s.tookOver(c, &b); err != nil {
		return err
	}
	s.Render(c, status, "benches", frame.Page{Title: "What another computer has", Here: "workshop"}, b)
	return nil
}

func (s *Room) newerGroups(list []workshop.Thing, f frame.Form, u show.Units) (out []newerGroup) {
	for _, v := range list {
		name := v.Making
		switch {
		case v.Table == "makings":
			name = v.Name
		case v.Table == "lots" || v.Table == "movements":
			name = "On the shelf"
		case name == "":
			name = "Everything else"
		}
		i := slices.IndexFunc(out, func(g newerGroup) bool { return g.Name == name })
		if i < 0 {
			out, i = append(out, newerGroup{Name: name}), len(out)
		}
		out[i].Things = append(out[i].Things, s.newerThingOf(v, f, u))
	}
	return out
}

// tookOver says what was taken over when the page is shown after that.
func (s *Room) tookOver(c *gin.Context, b *newerBody) error {
	if c.Query("did") != "taken" {
		return nil
	}
	n := func(name string) int64 {
		v, _ := strconv.ParseInt(c.Query(name), 10, 32)
		return max(v, 0)
	}
	b.Said = append(b.Said, show.Plural(n("things"), "thing")+" came over.")
	if along := n("along"); along > 0 {
		b.Said = append(b.Said, strconv.FormatInt(along, 10)+" more came along, since what was chosen needs them.")
	}
	if lines := n("lines"); lines > 0 {
		b.Said = append(b.Said, show.Plural(lines, "booking")+" of fibre came with them.")
	}
	for _, text := range strings.Split(c.Query("found"), ",") {
		id, err := strconv.ParseInt(text, 10, 64)
		if err != nil {
			continue
		}
		if l, err := s.Studio.Shelf.Lot(c.Request.Context(), id); err == nil {
			b.Found = append(b.Found, newerLot{l.ID, l.Name})
		}
	}
	return nil
}

// takeOver takes over what was chosen of a copy.
func (s *Room) takeOver(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	chosen := map[string]workshop.Choice{}
	for key, values := range c.Request.PostForm {
		if values[0] != "" {
			chosen[key] = workshop.Choice(values[0])
		}
	}
	name := c.Param("name")
	taken, err := s.Studio.Workshop.Vault.TakeOver(c.Request.Context(), name, chosen)
	if err == nil {
		q := url.Values{"did": {"taken"}, "things": {strconv.Itoa(taken.Things)}, "along": {strconv.Itoa(taken.Along)}, "lines": {strconv.Itoa(taken.Lines)}}
		var lots []string
		for _, l := range taken.Found {
			lots = append(lots, strconv.FormatInt(l.Here, 10))
		}
		if len(lots) > 0 {
			q.Set("found", strings.Join(lots, ","))
		}
		c.Redirect(http.StatusSeeOther, "/copies/"+url.PathEscape(name)+"/newer?"+q.Encode())
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showNewer(c, http.StatusUnprocessableEntity, f)
}
