package notebookpages

import (
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/notebook"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/show"
)

// besideBody is two lines of the notebook side by side.
type besideBody struct {
	Names [2]notebookLine
	Rows  []besideRow
	Only  bool // fewer than two were chosen
}

type besideRow struct {
	Name   string
	Values [2]string
}

// notebookBeside sets two runs side by side.
func (s *Room) notebookBeside(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	var b besideBody
	chosen := c.QueryArray("with")
	b.Only = len(chosen) < 2
	for i, v := range chosen[:min(len(chosen), 2)] {
		_, number, _ := strings.Cut(v, "-")
		n, err := strconv.ParseInt(number, 10, 64)
		if err != nil || !strings.HasPrefix(v, "carding-") {
			return floor.ErrNotFound
		}
		r, err := s.Studio.Carder.Run(c.Request.Context(), n)
		if err != nil {
			return err
		}
		at, _ := time.Parse(time.RFC3339, r.At)
		l := notebook.NotebookLine{Run: &r}
		l.Name, l.Sort, l.ID, l.At = r.Name, "carding", r.ID, at
		b.Names[i] = notebookLineOf(l, u)
		facts := append([]layingpages.CardFact{{Name: "When", Value: show.Date(at)}}, contentFacts(r)...)
		for _, f := range append(facts, b.Names[i].Facts...) {
			b.put(i, f)
		}
	}
	s.Render(c, http.StatusOK, "beside", frame.Page{Title: "Side by side", Here: "notebook", Wide: true}, b)
	return nil
}

func (b *besideBody) put(i int, f layingpages.CardFact) {
	for k := range b.Rows {
		if b.Rows[k].Name == f.Name && b.Rows[k].Values[i] == "" {
			b.Rows[k].Values[i] = f.Value
			return
		}
	}
	row := besideRow{Name: f.Name}
	row.Values[i] = f.Value
	b.Rows = append(b.Rows, row)
}

// contentFacts are the fibres of a run and their shares.
func contentFacts(v carder.Run) (out []layingpages.CardFact) {
	for _, c := range v.Weighout.Components {
		out = append(out, layingpages.CardFact{Name: c.Name, Value: show.Percent(c.FinishedShare)})
	}
	return out
}
