package shelfpages

import (
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/studio/shelf"
	"fairtangle/web/pages/frame"
)

// severalBody is a list of lots to be changed alike.
type severalBody struct {
	Form         frame.Form
	Q            string
	Rows         []severalRow
	More         int64 // that are not shown
	Tags         []string
	Words        []fibre.Word
	Preparations []fibre.Preparation
}

type severalRow struct {
	Value, Name, Sub string
	On               bool
}

// severalShown is how many lots one page shows.
const severalShown = 200

func (s *Room) several(c *gin.Context) error {
	return s.showSeveral(c, http.StatusOK, frame.NewForm(), c.Query("q"), nil)
}

func (s *Room) showSeveral(c *gin.Context, status int, f frame.Form, q string, on []string) error {
	ctx := c.Request.Context()
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	filter, err := s.Studio.Shelf.Filter(ctx, q, "", "", "name")
	if err != nil {
		return err
	}
	filter.Limit = severalShown
	list, err := s.Studio.Shelf.Shelf(ctx, filter)
	if err != nil {
		return err
	}
	b := severalBody{Form: f, Q: q, More: list.Total - int64(len(list.Lots)), Tags: shelf.TagsInUse(list.Lots), Preparations: fibre.Preparations()}
	for _, w := range (&fibre.Words{}).Each() {
		if !w.Long {
			b.Words = append(b.Words, w)
		}
	}
	for _, l := range list.Lots {
		row := severalRow{Value: strconv.FormatInt(l.ID, 10) + "." + strconv.FormatInt(l.Version, 10), Name: l.Name, Sub: l.KindName + ", " + u.Grams(l.Grams)}
		for _, w := range l.Words.Each() {
			if !w.Long && w.Said() != "" {
				row.Sub += " · " + w.Said()
			}
		}
		row.On = slices.ContainsFunc(on, func(v string) bool { return strings.HasPrefix(v, strconv.FormatInt(l.ID, 10)+".") })
		b.Rows = append(b.Rows, row)
	}
	s.Render(c, status, "several", frame.Page{Title: "Several lots", Here: "shelf"}, b)
	return nil
}

// changeSeveral changes the lots that were chosen, all or none.
func (s *Room) changeSeveral(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	v := c.Request.PostForm
	in := shelf.Several{Preparation: v.Get("preparation")}
	for _, w := range in.Words.Each() {
		*w.Text = v.Get(w.Name)
	}
	var lots []shelf.At
	for _, text := range v["lot"] {
		id, version, _ := strings.Cut(text, ".")
		var at shelf.At
		at.ID, _ = strconv.ParseInt(id, 10, 64)
		at.Version, _ = strconv.ParseInt(version, 10, 64)
		lots = append(lots, at)
	}
	err := shelf.ChangeSeveral(c.Request.Context(), s.Studio.Shelf, lots, in)
	if err == nil {
		c.Redirect(http.StatusSeeOther, frame.WithQuery(c.Request.URL, "did", "saved"))
		return nil
	}
	f := frame.Typed(v)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showSeveral(c, http.StatusUnprocessableEntity, f, c.Query("q"), v["lot"])
}
