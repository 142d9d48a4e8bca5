package shelfpages

import (
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/stash"
	"fairtangle/studio/reach"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// linesBody is a list of fibre as it was typed, and as it was understood.
type linesBody struct {
	Form         frame.Form
	Rows         []lineRow
	Families     []string
	Kinds        map[string][]fibre.Kind
	Preparations []fibre.Preparation
	Unsure       int // rows of which something was guessed
	Photo        *linesPhoto
}

// lineRow is a line as it was understood. Names of its fields end in N.
type lineRow struct {
	N      string
	At     int             // of the list, from 1
	Said   string          // the line
	Unsure map[string]bool // of what it was guessed
	Left   string          // what was not understood
	X, Y   float64         // where it lies in the photo, in thousandths
}

// mostLines is how many lines of a list one page shows.
const mostLines = 100

// noColour is that of a lot of which none was named, until it is looked at.
const noColour = "#a8a39a"

func (s *Room) linesForm(c *gin.Context) error {
	n, _ := strconv.Atoi(c.Query("rows"))
	f := frame.NewForm()
	var rows []lineRow
	for i := range min(max(n, 0), mostLines) { // a table to be filled in
		at := strconv.Itoa(i)
		f.Values["preparation"+at], f.Values["hex"+at] = usualMade, noColour
		rows = append(rows, lineRow{N: at, At: i + 1, Unsure: map[string]bool{}})
	}
	return s.showLines(c, http.StatusOK, f, rows)
}

func (s *Room) showLines(c *gin.Context, status int, f frame.Form, rows []lineRow) error {
	return s.showLinesOf(c, status, f, rows, nil)
}

func (s *Room) showLinesOf(c *gin.Context, status int, f frame.Form, rows []lineRow, of *linesPhoto) error {
	kinds, err := s.Studio.Workshop.AllKinds(c.Request.Context(), false)
	if err != nil {
		return err
	}
	b := linesBody{Form: f, Rows: rows, Preparations: fibre.Preparations(), Photo: of}
	b.Families, b.Kinds = workshop.KindOptions(kinds.List)
	for _, r := range rows {
		if len(r.Unsure) > 0 || r.Left != "" {
			b.Unsure++
		}
	}
	title := "A list of fibre"
	if of != nil {
		title = "Tufts on a photo"
	}
	s.Render(c, status, "lines", frame.Page{Title: title, Here: "shelf", Scripts: []string{"js/swatch.js", "js/tufts.js"}}, b)
	return nil
}

// readLines shows how a list was understood; nothing is on the shelf yet.
func (s *Room) readLines(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	own, err := workshop.KindNames(c.Request.Context(), s.Studio.Workshop)
	if err != nil {
		return err
	}
	names := stash.Named(own)
	f := frame.Typed(c.Request.PostForm)
	var rows []lineRow
	for _, line := range strings.Split(f.V("lines"), "\n") {
		l, ok := stash.ReadLine(line, u.Weight(), names)
		if !ok {
			continue
		}
		if len(rows) == mostLines {
			f.Errors["lines"] = fmt.Sprintf("The first %d are shown; put them on the shelf before the rest.", mostLines)
			break
		}
		rows = append(rows, understood(f, strconv.Itoa(len(rows)), strings.TrimSpace(line), l, u))
	}
	if len(rows) == 0 {
		f.Errors["lines"] = "Write a line for each bag."
		return s.showLines(c, http.StatusUnprocessableEntity, f, nil)
	}
	return s.showLines(c, http.StatusOK, f, rows)
}

// understood fills the fields of a row in with what was understood of its line.
func understood(f frame.Form, n, line string, l stash.Lot, u show.Units) lineRow {
	at, _ := strconv.Atoi(n)
	r := lineRow{N: n, At: at + 1, Said: line, Unsure: map[string]bool{}, Left: l.Left}
	for _, of := range l.Unsure {
		r.Unsure[of] = true
	}
	if l.Kind == "" { // it may wait for its kind
		l.Kind = "unknown"
		r.Unsure[stash.OfKind] = true
	}
	if l.Hex == "" {
		l.Hex = noColour
		r.Unsure[stash.OfColour] = true
	}
	f.Values["said"+n], f.Values["name"+n], f.Values["kind"+n], f.Values["preparation"+n], f.Values["hex"+n] = line, l.Name, l.Kind, l.Preparation, l.Hex
	f.Values["left"+n] = l.Left
	f.Values["unsure"+n] = strings.Join(slices.Sorted(maps.Keys(r.Unsure)), " ")
	if l.Grams != nil {
		f.Values["grams"+n] = u.Plain(*l.Grams)
	}
	return r
}

// rowsOf are the rows of a list as they came back with its form.
func rowsOf(v url.Values) (rows []lineRow) {
	for i := range mostLines {
		n := strconv.Itoa(i)
		if !v.Has("name" + n) {
			break
		}
		rows = append(rows, lineRow{N: n, At: i + 1, Said: v.Get("said" + n), Unsure: unsureOf(v, n), Left: v.Get("left" + n),
			X: placeOf(v, "x"+n), Y: placeOf(v, "y"+n)})
	}
	return rows
}

// putLines puts the rows of a list on the shelf, or into a bag of scraps, all or none; a row without a name is left out.
func (s *Room) putLines(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	v := c.Request.PostForm
	r := &frame.Reader{Values: v}
	var in []shelf.NewLot
	var where []string
	rows := rowsOf(v)
	of, wrong := s.linesPhoto(c, v.Get("photo"))
	if wrong != nil {
		return wrong
	}
	source := "picker"
	if v.Get("photo") != "" {
		source = "photo"
	}
	for _, row := range rows {
		n := row.N
		if strings.TrimSpace(v.Get("name"+n)) == "" {
			continue
		}
		lot := shelf.NewLot{LotInput: shelf.LotInput{Name: v.Get("name" + n), Kind: v.Get("kind" + n), Preparation: v.Get("preparation" + n),
			Colours: []shelf.LotColour{{Hex: v.Get("hex" + n), Share: 1, Source: source}}}}
		if of != nil {
			lot.PhotoID = &of.ID
		}
		if v.Get("grams"+n) != "" {
			lot.Grams = r.Kept(u, "grams"+n)
		}
		in, where = append(in, lot), append(where, n)
	}
	err = r.Wrong.Err()
	if len(in) == 0 && err == nil {
		err = fault.New("lines", "There is nothing to put on the shelf.")
	}
	var home, did string
	if err == nil {
		home, did, err = s.kept(c, in, of)
	}
	if err == nil {
		frame.GoTo(c, home, did)
		return nil
	}
	f := frame.Typed(v)
	if !s.Blame(c, &f, atLines(err, where)) {
		return err
	}
	return s.showLinesOf(c, http.StatusUnprocessableEntity, f, rows, of)
}

// kept keeps the rows of a list, as lots or as the scraps of a bag, and names the page where they are then.
func (s *Room) kept(c *gin.Context, in []shelf.NewLot, of *linesPhoto) (home, did string, err error) {
	ctx := c.Request.Context()
	if of != nil && c.PostForm("into") == "bag" {
		bag := reach.BagInput{Name: of.Name}
		for _, l := range in {
			bag.Scraps = append(bag.Scraps, reach.Scrap{Name: l.Name, Kind: l.Kind, Hex: l.Colours[0].Hex, Grams: l.Grams})
		}
		sorted, err := s.Studio.Reach.SortBag(ctx, bag, 0)
		if err != nil {
			return "", "", err
		}
		made, err := s.Studio.Reach.CreateBag(ctx, sorted.BagInput)
		return fmt.Sprintf("/scraps/%d", made.ID), "", err
	}
	lots, err := s.Studio.Shelf.CreateLots(ctx, in, "")
	return shelfWith(lots), "imported", err
}

func unsureOf(v url.Values, n string) map[string]bool {
	out := map[string]bool{}
	for _, of := range strings.Fields(v.Get("unsure" + n)) {
		out[of] = true
	}
	return out
}

// atLines puts what is wrong with a lot at the fields of its row.
func atLines(err error, where []string) error {
	list, ok := fault.From(err)
	if !ok {
		return err
	}
	list = slices.Clone(list)
	for i, f := range list {
		n, field := 0, f.Field
		if rest, several := strings.CutPrefix(strings.Replace(f.Field, "scraps[", "lots[", 1), "lots["); several {
			if _, err := fmt.Sscanf(rest, "%d].%s", &n, &field); err != nil {
				continue
			}
		}
		if n < len(where) && slices.Contains([]string{"name", "kind", "preparation", "grams"}, field) {
			list[i].Field = field + where[n]
		} else if n < len(where) && (field == "hex" || strings.HasPrefix(field, "colours")) {
			list[i].Field = "hex" + where[n]
		}
	}
	return list
}
