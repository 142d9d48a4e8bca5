package pages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/web/show"
)

type binBody struct{ Items []binRow }

type binRow struct {
	floor.BinItem
	What string
	When string
}

func (s *server) binPage(c *gin.Context) error {
	items, err := s.studio.Floor.Bin(c.Request.Context())
	if err != nil {
		return err
	}
	var b binBody
	for _, i := range items {
		b.Items = append(b.Items, binRow{i, binWords[i.Table], show.Moment(i.At)})
	}
	s.render(c, http.StatusOK, "bin", page{Title: "Bin", Here: "bin"}, b)
	return nil
}

// homes are the pages to go to after something went to the bin.
var homes = map[string]string{
	"lots":       "/shelf",
	"makings":    "/makings",
	"blends":     "/makings",
	"weighouts":  "/makings",
	"equipment":  "/workshop",
	"kinds":      "/kinds",
	"gradients":  "/makings",
	"scrap_sets": "/scraps",
	"photos":     "/photos",
	"samples":    "/calibration",
	"layups":     "/makings",
	"scales":     "/scales",
	"containers": "/scales",
	"runs":       "/makings",
	"cleanings":  "/workshop",
	"sources":    "/buy",
	"offers":     "/buy",
	"buy_lists":  "/buy",

	"yarn_samples": "/makings",
	"skeins":       "/makings",
	"silences":     "/advice",
}

func (s *server) discard(c *gin.Context) error {
	table := c.PostForm("table")
	n, _ := strconv.ParseInt(c.PostForm("id"), 10, 64)
	if err := s.studio.Floor.Discard(c.Request.Context(), table, n); err != nil {
		return err
	}
	back := homes[table]
	if to := c.PostForm("back"); strings.HasPrefix(to, "/makings/") {
		back = to
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("%s?binned=%s-%d", back, table, n))
	return nil
}

func (s *server) restore(c *gin.Context) error {
	n, _ := strconv.ParseInt(c.PostForm("id"), 10, 64)
	if err := s.studio.Floor.Restore(c.Request.Context(), c.PostForm("table"), n); err != nil {
		return err
	}
	back := "/bin"
	if home := homes[c.PostForm("table")]; c.PostForm("undo") != "" && home != "" {
		back = home
	}
	goTo(c, back, "restored")
	return nil
}
