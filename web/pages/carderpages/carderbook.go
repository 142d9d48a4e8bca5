package carderpages

import (
	"fmt"
	"math"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/core/layup"
	"fairtangle/studio/carder"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/workshoppages"
	"fairtangle/web/show"
)

type carderBookBody struct {
	Form          frame.Form
	Book          carder.CarderBook
	Passes, Kinds []KindLine
	Minutes, Most string
	Fullest       []fullLine
	Cloth         bool // it has one
	Learned       bool // its cleanings have shown what it holds
	Cleanings     []cleaningLine
	FitSaid       string
	FitLayup      int64
}

type cleaningLine struct {
	ID         int64
	When, Said string
}

// fullLine is one of the fullest units, and whether it is what the equipment is said to hold.
type fullLine struct {
	carder.FullBatt
	Weight, Load string
	Holds        bool
}

func fullLines(list []carder.FullBatt, u show.Units) (out []fullLine) {
	for _, v := range list {
		percent := math.Round(100 * v.Load)
		out = append(out, fullLine{v, u.Grams(v.Grams), show.Percent(percent / 100), percent == 100})
	}
	return out
}

// wasFull has what a unit weighed be what the equipment holds.
func (s *Room) wasFull(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	run, _ := strconv.ParseInt(r.Values.Get("run"), 10, 64)
	unit, _ := strconv.Atoi(r.Values.Get("unit"))
	_, err = s.Studio.Carder.WasFull(c.Request.Context(), n, carder.FullInput{Version: r.Version(), Run: run, Unit: unit})
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/equipment/%d/book#fullest", n), "saved")
		return nil
	}
	f := frame.NewForm()
	if now, ok := answer.StaleAs[workshop.Equipment](err); ok {
		f.Stale(now.Version, fmt.Sprintf(", as “%s”", now.Name))
		return s.showCarderBook(c, http.StatusConflict, n, f)
	}
	return err
}

// carderBook shows what the runs on a piece of equipment have shown.
func (s *Room) carderBook(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	f := frame.NewForm()
	if c.Query("full") == "0" {
		f.Values["full"] = "0"
	}
	return s.showCarderBook(c, http.StatusOK, n, f)
}

func (s *Room) showCarderBook(c *gin.Context, status int, n int64, f frame.Form) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	book, err := s.Studio.Carder.CarderBook(c.Request.Context(), n)
	if err != nil {
		return err
	}
	b := carderBookBody{Form: f, Book: book, Kinds: KindLinesOf(book.Kinds), Cloth: layup.Type(book.Equipment.Type) != layup.Hands}
	b.Learned = book.HoldsG != book.UsualG
	for _, p := range book.Passes {
		b.Passes = append(
			b.Passes,
			KindLine{Name: strconv.Itoa(p.Pass), Now: show.Fixed(p.Mid, 1), Range: rangeWords(p.Seen, 1), Seen: strconv.Itoa(p.Times) + "×"},
		)
	}
	b.Minutes = fmt.Sprintf("about %s minutes by its measures; none was timed yet", show.Fixed(book.Equipment.Minutes, 0))
	if m := book.Minutes; m != nil {
		b.Minutes = fmt.Sprintf("%s minutes (9 of 10 between %s, of %d)", show.Fixed(m.Mid, 0), rangeWords(*m, 0), m.Times)
	}
	b.Most = "none was weighed yet"
	if book.MostG > 0 {
		b.Most = u.Grams(book.MostG)
	}
	b.Fullest = fullLines(book.Fullest, u)
	for _, v := range book.Cleanings {
		at, _ := time.Parse(time.RFC3339, v.At)
		b.Cleanings = append(b.Cleanings, cleaningLine{v.ID, show.Moment(at), cleaningWords(v, u)})
	}
	fit, err := s.Studio.Laying.CarderFit(c.Request.Context(), n)
	if err != nil {
		return err
	}
	if fit != nil {
		b.FitSaid, b.FitLayup = workshoppages.CarderSaid(fit), fit.LayupID
	}
	s.Render(c, status, "carderbook", frame.Page{Title: book.Equipment.Name + ", what it has shown", Here: "workshop", Wide: true}, b)
	return nil
}

func rangeWords(v carder.Seen, places int) string {
	return show.Fixed(v.Low, places) + " and " + show.Fixed(v.High, places)
}

func cleaningWords(v carder.Cleaning, u show.Units) string {
	said := []string{"brushed over"}
	if v.Full {
		said[0] = "all of it"
	}
	if v.BroughtG != nil {
		said = append(said, fmt.Sprintf("brought up %s, where ~%s were believed", u.Grams(*v.BroughtG), u.Grams(v.HeldG)))
	}
	if v.Minutes > 0 {
		said = append(said, show.Plural(int(v.Minutes+0.5), "minute"))
	}
	if v.Note != "" {
		said = append(said, v.Note)
	}
	return strings.Join(said, ", ")
}

// cleaned notes a cleaning.
func (s *Room) cleaned(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	r := &frame.Reader{Values: c.Request.PostForm}
	in := carder.CleaningInput{Full: r.Values.Get("full") != "0", Minutes: r.OrUsual("minutes", "minutes"), Note: r.Values.Get("note")}
	if strings.TrimSpace(r.Values.Get("brought_g")) != "" {
		g := r.Grams(u, "brought_g")
		in.BroughtG = &g
	}
	if err = r.Wrong.Err(); err == nil {
		_, err = s.Studio.Carder.Clean(c.Request.Context(), n, in)
	}
	if err == nil {
		frame.GoTo(c, fmt.Sprintf("/equipment/%d/book#cloth", n), "saved")
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showCarderBook(c, http.StatusUnprocessableEntity, n, f)
}

// KindLine is what was learned of a kind.
type KindLine struct{ Name, Usual, Now, Range, Seen string }

// KindLinesOf are what was learned of kinds, as a list shows it.
func KindLinesOf(list []carder.KindLearned) (out []KindLine) {
	for _, k := range list {
		out = append(out, KindLine{
			Name: k.Name, Usual: show.Fixed(k.UsualPct, 1), Now: show.Fixed(k.MeanPct, 1), Range: show.Fixed(k.LowPct, 1) + " to " + show.Fixed(k.HighPct, 1),
			Seen: strconv.Itoa(k.Seen) + "×",
		})
	}
	return out
}
