package shelfpages

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

// linesPhoto is the photo on which the rows of a list lie.
type linesPhoto struct {
	ID            int64
	Name, URL     string
	Width, Height int
	Balanced      bool
}

// linesPhoto is the photo of an ID that came with a form; nil where there was none.
func (s *Room) linesPhoto(c *gin.Context, id string) (*linesPhoto, error) {
	n, err := strconv.ParseInt(id, 10, 64)
	if err != nil {
		return nil, nil
	}
	p, err := s.Studio.Shelf.Photo(c.Request.Context(), n)
	if errors.Is(err, floor.ErrNotFound) {
		return nil, nil
	}
	return &linesPhoto{p.ID, p.Name, fmt.Sprintf("/photos/%d/picture.png?v=%.12s", p.ID, p.File), p.Width, p.Height, p.Card != nil}, err
}

// placeOf is where a row lies in a photo, thousandths; 0 where that did not come.
func placeOf(v url.Values, field string) float64 {
	n, err := strconv.ParseFloat(v.Get(field), 64)
	if err != nil || !(n >= 0 && n <= 1000) {
		return 0
	}
	return n
}

// usualMade is the preparation of what comes in bags, where nothing was said.
const usualMade = "combed_top"

// tufts shows what lies on a photo as rows of a list: each with its colour, to be named and weighed; nothing is on the shelf yet. What
// they all are may come with the address.
func (s *Room) tufts(c *gin.Context) error {
	id, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	p, err := s.Studio.Shelf.Photo(ctx, id)
	if err != nil {
		return err
	}
	of, err := s.linesPhoto(c, c.Param("id"))
	if err != nil {
		return err
	}
	f := frame.NewForm()
	f.Values["photo"], f.Values["all"], f.Values["made"] = c.Param("id"), c.Query("all"), c.DefaultQuery("made", usualMade)
	found, err := shelf.Tufts(ctx, s.Studio.Shelf, p)
	if l, isFault := fault.From(err); isFault {
		f.Errors["lines"] = l[0].Message
		return s.showLinesOf(c, http.StatusUnprocessableEntity, f, nil, of)
	}
	if err != nil {
		return err
	}
	names := map[string]int{}
	var rows []lineRow
	for i, t := range found {
		n, name := strconv.Itoa(i), colour.Name(t.Colour.Lab())
		if names[name]++; names[name] > 1 {
			name = fmt.Sprintf("%s %d", name, names[name])
		}
		rows = append(rows, lineRow{N: n, At: i + 1, Said: fmt.Sprintf("number %d on the photo", i+1), Unsure: map[string]bool{}, X: 1000 * t.X, Y: 1000 * t.Y})
		f.Values["name"+n], f.Values["hex"+n] = name, t.Colour.Clipped().Hex()
		f.Values["kind"+n], f.Values["preparation"+n] = f.V("all"), f.V("made")
	}
	return s.showLinesOf(c, http.StatusOK, f, rows, of)
}
