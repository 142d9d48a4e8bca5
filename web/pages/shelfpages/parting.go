package shelfpages

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// partingBody is a lot that is about to be parted.
type partingBody struct {
	Lot  shelf.Lot
	Form frame.Form
	Rows []int
	Own  string // the value of a part whose colour is typed
}

// ownColour is chosen for a part that has a colour of its own.
const ownColour = "own"

// moreRows is how many empty rows stand below those that are filled.
const moreRows = 1

// partForm is the form for parting a lot: empty, or filled by colour, by coat, or by hand into so many.
func (s *Room) partForm(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	into, _ := strconv.Atoi(c.Query("into"))
	f := frame.NewForm()
	f.Values["taken"] = u.Plain(l.Grams)
	by := c.Query("by")
	if by == "" {
		if by = "hand"; len(l.Colours) > 1 {
			by = "colour"
		}
	}
	for i, p := range l.PartsBy(by, min(max(into, 2), shelf.MostParts)) {
		n := strconv.Itoa(i)
		f.Values["name"+n], f.Values["grams"+n] = p.Name, u.Plain(p.Grams)
		if len(p.Colours) > 0 {
			f.Values["colour"+n] = strconv.Itoa(p.Colours[0])
		}
	}
	return s.showParting(c, http.StatusOK, l, f)
}

func (s *Room) showParting(c *gin.Context, status int, l shelf.Lot, f frame.Form) error {
	b := partingBody{Lot: l, Form: f, Own: ownColour}
	filled := 0
	for i := range shelf.MostParts {
		if f.V("name"+strconv.Itoa(i)) != "" || f.V("grams"+strconv.Itoa(i)) != "" {
			filled = i + 1
		}
	}
	for i := range min(filled+moreRows, shelf.MostParts) {
		b.Rows = append(b.Rows, i)
	}
	s.Render(c, status, "parting", frame.Page{Title: "Part " + l.Name, Here: "shelf", Scripts: []string{"js/swatch.js"}}, b)
	return nil
}

// partsIn reads the rows of the form; where[i] is the row of part i.
func partsIn(r *frame.Reader, u show.Units) (out []shelf.PartInput, where []string) {
	for i := range shelf.MostParts {
		n := strconv.Itoa(i)
		if strings.TrimSpace(r.Values.Get("name"+n)+r.Values.Get("grams"+n)) == "" {
			continue
		}
		p := shelf.PartInput{Name: r.Values.Get("name" + n), Grams: r.Kept(u, "grams"+n)}
		switch v := r.Values.Get("colour" + n); v {
		case "":
		case ownColour:
			hex := r.Values.Get("hex" + n)
			if _, _, err := (workshop.ColourInput{Hex: &hex}).Read(); err != nil {
				r.Wrong.Add("hex"+n, "Write # and six digits or letters a to f.")
			}
			p.Own = []shelf.LotColour{{Hex: hex, Share: 1, Source: "picker"}}
		default:
			at, _ := strconv.Atoi(v)
			p.Colours = []int{at}
		}
		if text := r.Values.Get("staple" + n); text != "" {
			mm, err := u.ReadLength("staple"+n, text)
			r.Add(err)
			p.StapleMM = &mm
		}
		out, where = append(out, p), append(where, n)
	}
	return out, where
}

// partLot parts a lot as the form says.
func (s *Room) partLot(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	in := shelf.PartingInput{Why: strings.TrimSpace(r.Values.Get("why")), Key: r.Values.Get("key")}
	if r.Values.Get("taken") != u.Plain(l.Grams) { // what was shown may have been rounded
		in.TakenG = r.Kept(u, "taken")
	}
	var where []string
	if in.Parts, where = partsIn(r, u); in.Why == "" {
		in.Why = r.Values.Get("fell")
	}
	if err = r.Wrong.Err(); err == nil {
		if _, err = s.Studio.Shelf.Part(c.Request.Context(), l.ID, in); err == nil {
			frame.GoTo(c, fmt.Sprintf("/lots/%d", l.ID), "parted")
			return nil
		}
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, answer.ShortIn(u, atRows(err, where))) {
		return err
	}
	return s.showParting(c, http.StatusUnprocessableEntity, l, f)
}

// atRows puts what is wrong with a part at the fields of its row.
func atRows(err error, where []string) error {
	list, ok := fault.From(err)
	if !ok {
		return err
	}
	list = slices.Clone(list)
	for i, f := range list {
		var n int
		var field string
		if _, err := fmt.Sscanf(strings.NewReplacer("parts[", "", "].", " ").Replace(f.Field), "%d %s", &n, &field); err == nil && n < len(where) {
			list[i].Field = map[string]string{"grams": "grams", "staple_mm": "staple", "name": "name"}[field] + where[n]
			if list[i].Field == where[n] {
				list[i].Field = "hex" + where[n]
			}
		}
		if f.Field == "taken_g" {
			list[i].Field = "taken"
		}
	}
	return list
}

// unpart takes a parting back, on the page of any lot that it is about.
func (s *Room) unpart(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	n, err := answer.ID(c, "parting")
	if err != nil {
		return err
	}
	_, err = s.Studio.Shelf.Unpart(c.Request.Context(), l.ID, n)
	return s.takenBack(c, l, err)
}

// putTogether puts another lot to this one.
func (s *Room) putTogether(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	other, _ := strconv.ParseInt(r.Values.Get("lots"), 10, 64)
	if _, err := s.Studio.Shelf.PutTogether(c.Request.Context(), l.ID, r.Version(), []int64{other}, r.Values.Get("key")); err != nil {
		f := frame.Typed(c.Request.PostForm)
		if now, ok := answer.StaleAs[shelf.Lot](err); ok {
			f.Stale(now.Version, ".")
			return s.ShowLot(c, http.StatusConflict, now, f)
		}
		if !s.Blame(c, &f, err) {
			return err
		}
		return s.ShowLot(c, http.StatusUnprocessableEntity, l, f)
	}
	frame.GoTo(c, fmt.Sprintf("/lots/%d", l.ID), "together")
	return nil
}

// partingLine is a parting on the page of one of its lots.
type partingLine struct {
	shelf.Parting
	When    string
	CanUndo bool // here: on the page of the lot that was parted, or into which the others went
}

// partingsOf are the partings of a lot that were not taken back.
func (s *Room) partingsOf(c *gin.Context, l shelf.Lot) (out []partingLine, err error) {
	list, err := s.Studio.Shelf.Partings(c.Request.Context(), l.ID)
	for _, p := range list {
		if !p.Undone {
			out = append(out, partingLine{p, Moment(p.At), p.Lot.ID == l.ID})
		}
	}
	return out, err
}

// likeLots are the lots that may be put to one: of its kind, prepared as it is, with fibre left.
func (s *Room) likeLots(c *gin.Context, l shelf.Lot) (out []shelf.Lot, err error) {
	sh, err := s.Studio.Shelf.Shelf(c.Request.Context(), shelf.LotFilter{Kinds: []string{l.Kind}, Stock: "some", Limit: 200})
	for _, o := range sh.Lots {
		if o.ID != l.ID && o.Preparation == l.Preparation && o.Superwash == l.Superwash && unit.Grams(o.Grams).Milligrams() > 0 {
			out = append(out, o)
		}
	}
	return out, err
}
