package shelfpages

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/studio/buying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// Lot is the lot of the path.
func (s *Room) Lot(c *gin.Context) (shelf.Lot, error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return shelf.Lot{}, err
	}
	return s.Studio.Shelf.Lot(c.Request.Context(), n)
}

type lotBody struct {
	Lot     shelf.Lot
	Tuft    art.Link
	Ledger  []ledgerLine
	More    bool
	Blends  []shelf.BlendName
	Form    frame.Form
	Sources map[string]string
	Lies    string // how its colours lie, where it has several
	Made    *shelf.Made
	Of      []madeRow      // what lies in it
	From    []madeRow      // what was weighed in, where that was itself made here
	Runs    []frame.RunRow // of it as a raw fleece
	IsRaw   bool
	Makings []recipe.MakingName
	New     bool // it was just put on the shelf
	Claims  []buying.Claim
	Taken   float64 // grams, of all claims
	How     []howQuestion
	HowOpen bool // something is told, or was refused
	Parted  []partingLine
	Like    []shelf.Lot // that may be put to it
	Words   []fibre.Word
	Photo   *linesPhoto
}

type ledgerLine struct {
	shelf.Movement
	When    string
	Words   string
	CanUndo bool
}

var reasonWords = map[string]string{
	shelf.FirstEver: "put on the shelf", shelf.WeighIn: "weighed in", shelf.TakeOut: "taken out",
	shelf.Given: "given away", shelf.Sold: "sold", shelf.Spun: "spun", shelf.Prepared: "into a run of fleece",
	shelf.Parted: "parted", shelf.Together: "put together", shelf.Recount: "recounted", shelf.Weighed: "weighed out for", shelf.Undone: "undone",
}

const ledgerPage = 100

func (s *Room) lotPage(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	return s.ShowLot(c, http.StatusOK, l, frame.NewForm())
}

// liesOf says how the several colours of a lot lie; empty where it has one.
func liesOf(l shelf.Lot, u show.Units) string {
	at := slices.IndexFunc(fibre.Lies, func(v fibre.Lie) bool { return v.Key == fibre.LieOf(l.Lies, l.Preparation) })
	if at < 0 || len(l.Colours) < 2 {
		return ""
	}
	if l.RunCM == 0 {
		return fibre.Lies[at].Name
	}
	return fibre.Lies[at].Name + ", " + u.Size(l.RunCM*10) + " each"
}

// ShowLot shows a lot.
func (s *Room) ShowLot(c *gin.Context, status int, l shelf.Lot, f frame.Form) error {
	moves, err := s.Studio.Shelf.Ledger(c.Request.Context(), l.ID, ledgerPage+1)
	if err != nil {
		return err
	}
	b := lotBody{
		Lot:     l,
		Words:   l.Words.Each(),
		Tuft:    LotTuft(l, 1.1),
		Form:    f,
		More:    len(moves) > ledgerPage,
		New:     c.Query("did") == "added",
		Sources: map[string]string{},
	}
	for _, o := range append(SourceOptions, foreseenSource) {
		b.Sources[o.Value] = o.Label
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b.Lies = liesOf(l, u)
	if b.Photo, err = s.photoOf(c, l); err != nil {
		return err
	}
	if b.Parted, err = s.partingsOf(c, l); err != nil {
		return err
	}
	if b.Like, err = s.likeLots(c, l); err != nil {
		return err
	}
	b.Of, b.From = madeRows(l.Made)
	b.Made, b.IsRaw = l.Made, l.Preparation == "raw_fleece"
	if b.IsRaw {
		runs, err := s.Studio.Carder.RunsOfLot(c.Request.Context(), l.ID)
		if err != nil {
			return err
		}
		b.Runs = frame.RunRows(runs, show.Units{})
	}
	b.Ledger = ledgerLines(moves)
	if b.Blends, err = s.Studio.Shelf.BlendsUsing(c.Request.Context(), l.ID); err != nil {
		return err
	}
	if b.Makings, err = s.Studio.Recipe.MakingNames(c.Request.Context()); err != nil {
		return err
	}
	if b.Claims, err = s.Studio.Buying.ClaimsOn(c.Request.Context(), l.ID); err != nil {
		return err
	}
	for _, v := range b.Claims {
		b.Taken += v.Grams
	}
	if b.How, err = s.howQuestions(c, l, f); err != nil {
		return err
	}
	b.HowOpen = slices.ContainsFunc(b.How, func(q howQuestion) bool { return q.Told != "" })
	s.Render(c, status, "lot", frame.Page{Title: l.Name, Here: "shelf"}, b)
	return nil
}

// photoOf is the photo that shows a lot, nil where there is none.
func (s *Room) photoOf(c *gin.Context, l shelf.Lot) (*linesPhoto, error) {
	if l.PhotoID == nil {
		return nil, nil
	}
	return s.linesPhoto(c, strconv.FormatInt(*l.PhotoID, 10))
}

// ledgerLines are the latest lines of a ledger, each with whether it is undone on this page.
func ledgerLines(moves []shelf.Movement) (out []ledgerLine) {
	undone := map[int64]bool{}
	for _, m := range moves {
		if m.UndoesID != nil {
			undone[*m.UndoesID] = true
		}
	}
	for _, m := range moves[:min(len(moves), ledgerPage)] {
		line := ledgerLine{Movement: m, When: Moment(m.At), Words: reasonWords[m.Reason]}
		line.CanUndo = !undone[m.ID] && slices.Contains(undoable, m.Reason)
		out = append(out, line)
	}
	return out
}

// madeRow is a fibre that lies in a lot, or that was weighed in for it.
type madeRow struct {
	Name, Href string
	Share      float64 // 0: not told
	Grams      float64 // 0: not told
}

// madeRows are what lies in a lot and what was weighed in for it, in one list where both are
// the same.
func madeRows(m *shelf.Made) (of, from []madeRow) {
	if m == nil {
		return nil, nil
	}
	href := func(lot *int64) string {
		if lot == nil {
			return ""
		}
		return fmt.Sprintf("/lots/%d", *lot)
	}
	for _, v := range m.Of {
		of = append(of, madeRow{Name: v.Name, Href: href(v.LotID), Share: v.Share})
	}
	for _, v := range m.From {
		row := madeRow{Name: v.Name, Href: href(v.LotID), Grams: v.Grams}
		i := slices.IndexFunc(of, func(o madeRow) bool { return o.Name == row.Name && o.Href == row.Href && o.Grams == 0 })
		if i >= 0 {
			of[i].Grams = row.Grams
		} else {
			from = append(from, row)
		}
	}
	return of, from
}

// undoable are the reasons of movements that are undone on the lot's own page.
var undoable = []string{shelf.WeighIn, shelf.TakeOut, shelf.Recount, shelf.Given, shelf.Sold, shelf.Spun}

// Moment writes a moment as it travels.
func Moment(at string) string {
	t, _ := time.Parse(time.RFC3339, at)
	return show.Moment(t)
}

func (s *Room) moveLot(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	grams := r.Grams(u, "grams")
	reason := c.PostForm("reason")
	if why := c.PostForm("why"); reason == shelf.TakeOut && why != "" {
		reason = why
	}
	if err = r.Wrong.Err(); err == nil {
		_, err = s.Studio.Shelf.Move(c.Request.Context(), l.ID, shelf.MoveInput{
			Reason: reason, Grams: grams, Note: strings.TrimSpace(c.PostForm("note")), Key: c.PostForm("key"),
		})
		err = answer.ShortIn(u, err)
	}
	if err != nil {
		f := frame.Typed(c.Request.PostForm)
		if !s.Blame(c, &f, err) {
			return err
		}
		return s.ShowLot(c, http.StatusUnprocessableEntity, l, f)
	}
	frame.GoTo(c, fmt.Sprintf("/lots/%d", l.ID), "moved")
	return nil
}

func (s *Room) undoMove(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	m, err := answer.ID(c, "movement")
	if err != nil {
		return err
	}
	_, err = s.Studio.Shelf.UndoMove(c.Request.Context(), l.ID, m)
	return s.takenBack(c, l, err)
}

// takenBack goes back to a lot of which something was undone, or says there why it could not be.
func (s *Room) takenBack(c *gin.Context, l shelf.Lot, err error) error {
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/lots/%d", l.ID), "undone")
		return nil
	}
	u, _, unitsErr := s.Units(c)
	if unitsErr != nil {
		return unitsErr
	}
	f := frame.NewForm()
	if !s.Blame(c, &f, answer.ShortIn(u, err)) {
		return err
	}
	return s.ShowLot(c, http.StatusUnprocessableEntity, l, f)
}
