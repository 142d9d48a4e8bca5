package scalepages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/shelfpages"
	"fairtangle/web/pages/workshoppages"
	"fairtangle/web/show"
)

// stockView is the shelf as it is counted.
type stockView struct {
	Unit    string     `json:"unit"`
	Version int64      `json:"version"` // nothing here has one
	Lots    []stockRow `json:"lots"`
}

type stockRow struct {
	ID      int64    `json:"id"`
	Name    string   `json:"name"`
	Sub     string   `json:"sub"`
	Tuft    art.Link `json:"tuft"`
	Was     string   `json:"was"`     // in the ledger before it was counted
	Counted string   `json:"counted"` // empty where it was not
	Differs string   `json:"differs"`
	Same    bool     `json:"same"`
	Count   int64    `json:"count"` // the movement
}

func stockRowOf(v shelf.Counted, u show.Units) stockRow {
	row := stockRow{ID: v.ID, Name: v.Name, Sub: v.KindName + ", " + v.PreparationName(), Tuft: shelfpages.LotTuft(v.Lot, art.RowScale), Was: u.Amount(v.WasG)}
	if v.Count != nil {
		row.Counted, row.Count, row.Same = u.Amount(v.Count.BalanceG), v.Count.ID, v.Count.Grams == 0
		row.Differs = u.Signed(v.Count.Grams)
		if row.Same {
			row.Differs = "as in the ledger"
		}
	}
	return row
}

// countedLots is how many lots are counted on a page.
const countedLots = 200

type stockBody struct {
	View       stockView
	Pages      frame.PageLinks
	Scales     []workshoppages.ScaleRow
	Containers []workshop.Container
}

// stockPage counts the shelf, lot after lot.
func (s *Room) stockPage(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	body := stockBody{View: stockView{Unit: u.Weight(), Lots: []stockRow{}}, Pages: frame.PagesOf(c, countedLots)}
	var first, last int64
	if came := shelfpages.BatchOf(c.Query("came")); came != nil {
		first, last = came.First, came.Last
	}
	list, all, err := s.Studio.Shelf.Stock(c.Request.Context(), first, last, body.Pages.Offset, body.Pages.Size)
	if err != nil {
		return err
	}
	body.Pages.Of(c, all)
	for _, v := range list {
		body.View.Lots = append(body.View.Lots, stockRowOf(v, u))
	}
	if body.Scales, body.Containers, err = s.BenchOf(c, u); err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "stock", frame.Page{Title: "Stock-taking", Here: "shelf", Scripts: []string{"js/stock.js", "js/awake.js"}, Wide: true}, body)
	return nil
}

// BenchOf is the scales and containers that a page at the scale offers.
func (s *Room) BenchOf(c *gin.Context, u show.Units) (scales []workshoppages.ScaleRow, containers []workshop.Container, err error) {
	list, err := s.Studio.Workshop.Scales(c.Request.Context())
	if err != nil {
		return nil, nil, err
	}
	for _, v := range list {
		scales = append(scales, workshoppages.ScaleRow{Scale: v, Step: u.WithStep(v.StepG).Grams(v.StepG), Pan: s.Pans[v.Address]})
	}
	containers, err = s.Studio.Workshop.Containers(c.Request.Context())
	return scales, containers, err
}

// countLot books what was counted of a lot.
func (s *Room) countLot(c *gin.Context) error {
	var q readingRequest
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	grams, err := fromScale(q, u)
	if err != nil {
		return err
	}
	v, err := s.Studio.Shelf.Count(c.Request.Context(), n, grams, q.Key, q.Window)
	if err == nil {
		c.JSON(http.StatusOK, stockRowOf(v, u))
	}
	return err
}

// countBack takes a count back.
func (s *Room) countBack(c *gin.Context) error {
	var q struct {
		Count int64 `json:"count"`
	}
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	v, err := s.Studio.Shelf.CountBack(c.Request.Context(), n, q.Count)
	if err != nil {
		return answer.ShortIn(u, err)
	}
	c.JSON(http.StatusOK, stockRowOf(v, u))
	return nil
}
