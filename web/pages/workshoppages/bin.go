package workshoppages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type binBody struct{ Items []binRow }

type binRow struct {
	floor.BinItem
	What string
	When string
}

func (s *Room) binPage(c *gin.Context) error {
	items, err := s.Studio.Floor.Bin(c.Request.Context())
	if err != nil {
		return err
	}
	var b binBody
	for _, i := range items {
		sort, _ := floor.SortOf(i.Table)
		b.Items = append(b.Items, binRow{i, sort.Word, show.Moment(i.At)})
	}
	s.Render(c, http.StatusOK, "bin", frame.Page{Title: "Bin", Here: "bin"}, b)
	return nil
}

func (s *Room) discard(c *gin.Context) error {
	table := c.PostForm("table")
	n, _ := strconv.ParseInt(c.PostForm("id"), 10, 64)
	if err := s.Studio.Floor.Discard(c.Request.Context(), table, n); err != nil {
		return err
	}
	sort, _ := floor.SortOf(table)
	back := sort.List
	if to := c.PostForm("back"); strings.HasPrefix(to, "/makings/") {
		back = to
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("%s?binned=%s-%d", back, table, n))
	return nil
}

func (s *Room) restore(c *gin.Context) error {
	n, _ := strconv.ParseInt(c.PostForm("id"), 10, 64)
	if err := s.Studio.Floor.Restore(c.Request.Context(), c.PostForm("table"), n); err != nil {
		return err
	}
	back := "/bin"
	if sort, _ := floor.SortOf(c.PostForm("table")); c.PostForm("undo") != "" {
		back = sort.List
	}
	frame.GoTo(c, back, "restored")
	return nil
}
