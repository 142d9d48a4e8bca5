package scalepages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/web/answer"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type weighListBody struct {
	Making  recipe.Making
	List    scale.WeighList
	Heads   []listHead
	Columns []listColumn
	Rows    []listRow
	Total   string
	Left    string
	Only    string // the query that names the blends
}

// listHead is a weigh-out over its columns.
type listHead struct {
	Name, Href string
	Span       int
}

type listColumn struct {
	Title, Hex, Total string
	Done              bool
}

type listRow struct {
	Name, Href string
	Tuft       art.Link
	Cells      []listCell
	Total      string
	Short      string
}

type listCell struct {
	Text string
	Done bool
}

func (s *Room) weighListPage(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	list, err := s.Studio.Scale.WeighListOf(c.Request.Context(), m.ID, answer.IDs(c, "blends"))
	if err != nil {
		return err
	}
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return err
	}
	u, set, err := s.Units(c)
	if err != nil {
		return err
	}
	b := weighListBody{Making: m, List: list, Left: u.Grams(max(0, list.TotalG-list.WeighedG))}
	if c.Query("blends") != "" {
		b.Only = "?blends=" + c.Query("blends")
	}
	b.fill(u)
	s.Render(c, http.StatusOK, "weighlist", frame.Page{
		Title: "Weigh list of " + m.Name, Here: "makings", Strand: frame.StrandFor(m, st, "Weigh", nil, set.Ground), Scripts: []string{"js/print.js"}, Wide: true,
	}, b)
	return nil
}

// fill turns the list into texts.
func (b *weighListBody) fill(u show.Units) {
	for _, v := range b.List.Columns {
		href := fmt.Sprintf("/weighouts/%d", v.WeighoutID)
		if n := len(b.Heads); n > 0 && b.Heads[n-1].Href == href {
			b.Heads[n-1].Span++
		} else {
			b.Heads = append(b.Heads, listHead{v.Name, href, 1})
		}
		b.Columns = append(b.Columns, listColumn{Title: strconv.Itoa(v.Unit + 1), Hex: v.Hex, Done: v.Done})
	}
	sums, all := make([]float64, len(b.Columns)), 0.0
	for i, f := range b.List.Fibres {
		row := listRow{
			Name: f.Name,
			Tuft: art.TuftLink(f.KindProperties(), f.Preparation, f.HexList, nil, f.Staple, art.RowScale, frame.SeedOf(f.LotID, i)),
		}
		if f.LotID != nil {
			row.Href = fmt.Sprintf("/lots/%d", *f.LotID)
		}
		if u.Shows(f.ShortG) {
			row.Short = "short by " + u.Grams(f.ShortG)
		}
		var total float64
		for n, grams := range f.Grams {
			cell := listCell{Done: f.Done[n] && grams > 0}
			if grams > 0 {
				cell.Text = u.Plain(grams)
				sums[n] += u.Shown(grams)
				total += u.Shown(grams)
			}
			row.Cells = append(row.Cells, cell)
		}
		row.Total, all = u.PlainShown(total), all+total
		b.Rows = append(b.Rows, row)
	}
	for n, v := range sums {
		b.Columns[n].Total = u.PlainShown(v)
	}
	b.Total = u.Weighs(u.PlainShown(all))
}

// weighOutAll plans a weigh-out for each blend of the list that has none.
func (s *Room) weighOutAll(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	if _, err := s.Studio.Scale.WeighOutAll(c.Request.Context(), m.ID, answer.IDs(c, "blends")); err != nil {
		return err
	}
	at := fmt.Sprintf("/makings/%d/weighlist", m.ID)
	if q := c.Query("blends"); q != "" {
		c.Redirect(http.StatusSeeOther, at+"?did=kept&blends="+q)
		return nil
	}
	frame.GoTo(c, at, "kept")
	return nil
}
