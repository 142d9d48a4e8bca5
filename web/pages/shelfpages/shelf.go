package shelfpages

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/formats"
	"fairtangle/studio/advising"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

const (
	wallPage  = 60
	tablePage = 100
)

type shelfBody struct {
	View, Q, Kind, Sort, Stock string
	Families                   []string
	Kinds                      []fibre.Kind
	Lots                       []shelfLot
	Total                      int64
	Pages                      frame.PageLinks
	Empty                      bool // nothing on the shelf at all
	ScaleMM                    []int
	ScaleTicks                 []tick
	Link                       func(key, value string) string
	Waits                      []advising.LotWaits // that are not ready
	Came                       *Batch              // that just came together
	Wrong                      string              // why they were not taken back
}

type tick struct {
	X     int
	Label string
}

type shelfLot struct {
	shelf.Lot
	Tuft  art.Link
	Taken float64 // grams that are spoken for
}

// LotTuft is the picture of a lot.
func LotTuft(l shelf.Lot, scale float64) art.Link {
	var hexes []string
	var shares []float64
	for _, c := range l.Colours {
		hexes, shares = append(hexes, c.Hex), append(shares, c.Share)
	}
	return art.TuftLink(l.KindProperties(), l.Preparation, hexes, shares, l.WorkingStapleMM, scale, l.ID)
}

// filter reads a filter from the query.
func (s *Room) filter(c *gin.Context) (shelf.LotFilter, error) {
	return s.Studio.Shelf.Filter(c.Request.Context(), c.Query("q"), c.Query("kind"), c.Query("stock"), c.Query("sort"))
}

func (s *Room) shelf(c *gin.Context) error { return s.showShelf(c, http.StatusOK, "") }

// showShelf shows the shelf, and what was wrong with what was just asked of it.
func (s *Room) showShelf(c *gin.Context, status int, wrong string) error {
	f, err := s.filter(c)
	if err != nil {
		return err
	}
	b := shelfBody{Came: BatchOf(c.Query("came")), Wrong: wrong, View: c.Query("view"), Q: c.Query("q"), Kind: c.Query("kind"), Sort: f.Sort, Stock: f.Stock}
	scale := art.ShelfScale
	f.Limit = wallPage
	if b.View == "table" {
		f.Limit, scale = tablePage, art.RowScale
	}
	b.Pages = frame.PagesOf(c, f.Limit)
	f.Offset = b.Pages.Offset
	found, err := s.Studio.Shelf.Shelf(c.Request.Context(), f)
	if err != nil {
		return err
	}
	shown := []int64{0} // no lot, so that none is not all
	for _, l := range found.Lots {
		shown = append(shown, l.ID)
	}
	taken, err := s.Studio.Buying.SpokenFor(c.Request.Context(), 0, shown...)
	if err != nil {
		return err
	}
	for _, l := range found.Lots {
		b.Lots = append(b.Lots, shelfLot{l, LotTuft(l, scale), taken[l.ID]})
	}
	if b.Kinds, err = s.Studio.Shelf.KindsInUse(c.Request.Context()); err != nil {
		return err
	}
	for _, k := range b.Kinds {
		if !slices.Contains(b.Families, k.Family) {
			b.Families = append(b.Families, k.Family)
		}
	}
	if f.Offset == 0 && b.Q == "" && b.Kind == "" {
		if b.Waits, err = s.Studio.Advising.LotsThatWait(c.Request.Context()); err != nil {
			return err
		}
	}
	b.Total, b.Empty = found.Total, len(b.Kinds) == 0 && found.Total == 0
	b.Pages.Of(c, found.Total)
	b.Link = func(key, value string) string { return frame.WithQuery(c.Request.URL, key, value) }
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	for mm := 0; mm <= 200; mm += 50 {
		b.ScaleTicks = append(b.ScaleTicks, tick{4 + int(float64(mm)*art.ShelfScale), u.Length(float64(mm))})
	}
	b.ScaleTicks[0].Label = "0"
	s.Render(c, status, "shelf", frame.Page{Title: "Shelf", Here: "shelf", Scripts: []string{"js/live.js"}, Wide: true}, b)
	return nil
}

// lotChoice is a lot among others, to be chosen.
type lotChoice struct {
	ID   int64    `json:"id"`
	Name string   `json:"name"`
	Sub  string   `json:"sub"`
	Tuft art.Link `json:"tuft"`
}

func lotChoiceOf(l shelf.Lot, u show.Units) lotChoice {
	return lotChoice{l.ID, l.Name, l.KindName + " · " + u.Weighs(u.Amount(l.Grams)), LotTuft(l, art.RowScale)}
}

// LotChoices are the first lots by name, of which there is fibre where stock says so, and the one that is chosen; where
// there are many, the others are found by a search.
type LotChoices struct {
	List []lotChoice
	Many bool
}

// LotChoices are lots to choose from.
func (s *Room) LotChoices(ctx context.Context, u show.Units, stock string, chosen *int64) (LotChoices, error) {
	found, err := s.Studio.Shelf.Shelf(ctx, shelf.LotFilter{Stock: stock, Sort: "name", Limit: wallPage})
	out := LotChoices{List: []lotChoice{}, Many: found.Total > wallPage}
	if err != nil {
		return out, err
	}
	there := chosen == nil
	for _, l := range found.Lots {
		out.List = append(out.List, lotChoiceOf(l, u))
		there = there || l.ID == *chosen
	}
	if there {
		return out, nil
	}
	l, err := s.Studio.Shelf.Lot(ctx, *chosen)
	if errors.Is(err, floor.ErrNotFound) {
		return out, nil
	}
	out.List = append(out.List, lotChoiceOf(l, u))
	return out, err
}

// pickLots answers the search of a blend for fibre on the shelf.
func (s *Room) pickLots(c *gin.Context) error {
	f, err := s.filter(c)
	if err != nil {
		return err
	}
	f.Limit = 24
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	found, err := s.Studio.Shelf.Shelf(c.Request.Context(), f)
	if err != nil {
		return err
	}
	out := make([]lotChoice, 0, len(found.Lots))
	for _, l := range found.Lots {
		out = append(out, lotChoiceOf(l, u))
	}
	c.JSON(http.StatusOK, gin.H{"lots": out, "more": found.Total - int64(len(out))})
	return nil
}

func (s *Room) exportLots(c *gin.Context) error {
	found, err := s.Studio.Shelf.Shelf(c.Request.Context(), shelf.LotFilter{Sort: "name"})
	if err != nil {
		return err
	}
	rows := make([]formats.LotRow, len(found.Lots))
	for i, l := range found.Lots {
		rows[i] = formats.LotRow{
			Name: l.Name, Kind: l.Kind, Preparation: l.Preparation, Grams: l.Grams, StapleMM: l.StapleMM,
			Superwash: l.Superwash, CostPer100g: l.CostPer100g, Lies: l.Lies, RunCM: l.RunCM, Words: l.Words,
		}
		if l.KindProperties().Blended { // elsewhere it is known by what lies most in it
			rows[i].Kind = l.Made.Of[0].Kind
		}
		for _, v := range l.Colours {
			rows[i].Colours = append(rows[i].Colours, formats.LotColour{Hex: v.Hex, Share: v.Share, Source: v.Source})
		}
	}
	var buf bytes.Buffer
	if err := formats.WriteLots(&buf, rows); err != nil {
		return err
	}
	c.Header("Content-Disposition", `attachment; filename="shelf.csv"`)
	c.Data(http.StatusOK, "text/csv; charset=utf-8", buf.Bytes())
	return nil
}
