package shelfpages

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// colourRows are shown at first, and one more than are filled.
const colourRows = 5

type lotFormBody struct {
	Form         frame.Form
	Lot          *shelf.Lot
	Families     []string
	Kinds        map[string][]fibre.Kind
	Preparations []fibre.Preparation
	Rows         []int
	Photos       []shelf.Photo
	Sources      []frame.Option
	Lies         []fibre.Lie
	Words        []fibre.Word
}

var SourceOptions = []frame.Option{
	{
		Value: "picker",
		Label: "chosen by eye",
	}, {Value: "value", Label: "a typed value"}, {Value: "photo", Label: "a photo with a card"}, {Value: "reader", Label: "a colour reader"},
}

// foreseenSource is how the colour of what was made here is known until it is measured.
var foreseenSource = frame.Option{Value: "foreseen", Label: "foreseen, not measured yet"}

func (s *Room) lotForm(c *gin.Context, status int, f frame.Form, lot *shelf.Lot) error {
	kinds, err := s.Studio.Workshop.AllKinds(c.Request.Context(), false)
	if err != nil {
		return err
	}
	b := lotFormBody{Form: f, Lot: lot, Preparations: fibre.Preparations(), Sources: SourceOptions, Lies: fibre.Lies, Words: (&fibre.Words{}).Each()}
	if b.Photos, err = s.Studio.Shelf.Photos(c.Request.Context()); err != nil {
		return err
	}
	if lot != nil { // its kind may lie in the bin, or be its own
		if _, ok := kinds.Find(lot.Kind); !ok {
			kinds.List = append(kinds.List, lot.KindProperties())
		}
		if lot.Made != nil {
			b.Sources = append(slices.Clip(SourceOptions), foreseenSource)
		}
	}
	b.Families, b.Kinds = workshop.KindOptions(kinds.List)
	rows := colourRows
	for i := range shelf.MostColours {
		if f.V("hex"+strconv.Itoa(i)) != "" {
			rows = max(rows, min(i+2, shelf.MostColours)) // and an empty one
		}
	}
	for i := range rows {
		b.Rows = append(b.Rows, i)
	}
	title := "New lot"
	if lot != nil {
		title = lot.Name
	}
	s.Render(c, status, "lotform", frame.Page{Title: title, Here: "shelf", Scripts: []string{"js/swatch.js"}}, b)
	return nil
}

// newLotForm is the form of a new lot; one that is like another has its kind, preparation, and where it is from and lies.
func (s *Room) newLotForm(c *gin.Context) error {
	f := frame.NewForm()
	f.Values["preparation"] = "combed_top"
	f.Values["hex0"], f.Values["share0"], f.Values["source0"] = "#8c9a9e", "", "picker"
	if id, err := strconv.ParseInt(c.Query("like"), 10, 64); err == nil {
		switch l, err := s.Studio.Shelf.Lot(c.Request.Context(), id); {
		case err == nil:
			f.Values["kind"], f.Values["preparation"], f.Values["where_from"], f.Values["place"] = l.Kind, l.Preparation, l.WhereFrom, l.Place
			if l.Superwash {
				f.Values["superwash"] = "yes"
			}
		case !errors.Is(err, floor.ErrNotFound):
			return err
		}
	}
	return s.lotForm(c, http.StatusOK, f, nil)
}

// readLot reads the form of a lot.
func readLot(v url.Values, u show.Units) (in shelf.LotInput, r *frame.Reader) {
	r = &frame.Reader{Values: v}
	in = shelf.LotInput{
		Name: v.Get("name"), Kind: v.Get("kind"), Preparation: v.Get("preparation"), Superwash: v.Get("superwash") != "",
		Lies: v.Get("lies"),
	}
	for _, w := range in.Words.Each() {
		*w.Text = v.Get(w.Name)
	}
	in.StapleMM, in.CostPer100g = readShown(r, u)
	if v.Get("run_cm") != "" {
		mm, err := u.ReadLength("run_cm", v.Get("run_cm"))
		r.Add(err)
		in.RunCM = mm / 10
	}
	if id, err := strconv.ParseInt(v.Get("photo_id"), 10, 64); err == nil {
		in.PhotoID = &id
	}
	for i := range shelf.MostColours {
		n := strconv.Itoa(i)
		if v.Get("hex"+n) == "" {
			continue
		}
		c := shelf.LotColour{Hex: frame.HexOf(v.Get("hex" + n)), Share: 1, Source: v.Get("source" + n)}
		if v.Get("share"+n) != "" {
			c.Share = r.Number("share"+n, "a share in percent or parts")
			if c.Share <= 0 {
				r.Wrong.Add("share"+n, "A share is above 0.")
			}
		}
		if _, _, err := (workshop.ColourInput{Hex: &c.Hex}).Read(); err != nil {
			r.Wrong.Add("hex"+n, "Write # and six digits or letters a to f.")
		}
		in.Colours = append(in.Colours, c)
	}
	return in, r
}

func (s *Room) createLot(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	v := c.Request.PostForm
	in, r := readLot(v, u)
	grams := 0.0
	if v.Get("grams") != "" {
		grams = r.Grams(u, "grams")
	}
	check, err := s.Studio.Shelf.LotChecker(c.Request.Context())
	if err != nil {
		return err
	}
	lot := shelf.NewLot{LotInput: in, Grams: grams}
	if err := r.Both(check(&lot)); err != nil {
		return s.lotAgain(c, err, v, nil)
	}
	lots, err := s.Studio.Shelf.CreateLots(c.Request.Context(), []shelf.NewLot{lot}, "")
	if err != nil {
		return s.lotAgain(c, err, v, nil)
	}
	frame.GoTo(c, fmt.Sprintf("/lots/%d", lots[0].ID), "added")
	return nil
}

// lotAgain shows the form again with what was typed and what is wrong.
func (s *Room) lotAgain(c *gin.Context, err error, v url.Values, lot *shelf.Lot) error {
	f := frame.Typed(v)
	if now, ok := answer.StaleAs[shelf.Lot](err); ok {
		f.Stale(now.Version, fmt.Sprintf(": it is called “%s” there, %s", now.Name, now.KindName))
		return s.lotForm(c, http.StatusConflict, f, lot)
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.lotForm(c, http.StatusUnprocessableEntity, f, lot)
}

func (s *Room) editLotForm(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	f.Values = map[string]string{
		"version": strconv.FormatInt(l.Version, 10), "name": l.Name, "kind": l.Kind, "preparation": l.Preparation, "lies": l.Lies,
	}
	for _, w := range l.Words.Each() {
		f.Values[w.Name] = *w.Text
	}
	if l.Superwash {
		f.Values["superwash"] = "yes"
	}
	if l.StapleMM != nil {
		f.Values["staple_mm"] = u.PlainStaple(*l.StapleMM)
	}
	if l.PhotoID != nil {
		f.Values["photo_id"] = strconv.FormatInt(*l.PhotoID, 10)
	}
	if l.RunCM > 0 {
		f.Values["run_cm"] = u.PlainStaple(l.RunCM * 10)
	}
	if l.CostPer100g != nil {
		f.Values["cost_per_100g"] = u.PlainPrice(*l.CostPer100g)
	}
	for i, v := range l.Colours {
		n := strconv.Itoa(i)
		f.Values["hex"+n], f.Values["source"+n] = v.Hex, v.Source
		if len(l.Colours) > 1 {
			f.Values["share"+n] = show.Number(v.Share * 100)
		}
	}
	return s.lotForm(c, http.StatusOK, f, &l)
}

func (s *Room) updateLot(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	in, r := readLot(c.Request.PostForm, u)
	if len(r.Wrong) > 0 {
		return s.lotAgain(c, r.Wrong, c.Request.PostForm, &l)
	}
	keepSpectra(&in, l)
	keepShown(&in, l, c.Request.PostForm, u)
	if _, err := s.Studio.Shelf.UpdateLot(c.Request.Context(), l.ID, r.Version(), in); err != nil {
		return s.lotAgain(c, err, c.Request.PostForm, &l)
	}
	frame.GoTo(c, fmt.Sprintf("/lots/%d", l.ID), "saved")
	return nil
}

// readShown reads the length and the price in the maker's units.
func readShown(r *frame.Reader, u show.Units) (stapleMM, per100g *float64) {
	per100g, err := u.ReadPrice("cost_per_100g", r.Values.Get("cost_per_100g"))
	r.Add(err)
	if r.Values.Get("staple_mm") != "" {
		mm, err := u.ReadLength("staple_mm", r.Values.Get("staple_mm"))
		r.Add(err)
		stapleMM = &mm
	}
	return stapleMM, per100g
}

// keepShown leaves a length and a price as they are where what was shown of them
// was not changed: they are shown rounded.
func keepShown(in *shelf.LotInput, was shelf.Lot, v url.Values, u show.Units) {
	if was.StapleMM != nil && v.Get("staple_mm") == u.PlainStaple(*was.StapleMM) {
		in.StapleMM = was.StapleMM
	}
	if was.RunCM > 0 && v.Get("run_cm") == u.PlainStaple(was.RunCM*10) {
		in.RunCM = was.RunCM
	}
	if was.CostPer100g != nil && v.Get("cost_per_100g") == u.PlainPrice(*was.CostPer100g) {
		in.CostPer100g = was.CostPer100g
	}
}

// keepSpectra leaves what was measured where the colour was not changed.
func keepSpectra(in *shelf.LotInput, was shelf.Lot) {
	for i := range in.Colours {
		v := &in.Colours[i]
		for _, o := range was.Colours {
			if (v.Source == "reader" || v.Source == foreseenSource.Value && o.Source == v.Source) && o.Hex == strings.ToLower(v.Hex) {
				v.Reflectance, v.Sigma = o.Reflectance, o.Sigma
			}
		}
	}
}
