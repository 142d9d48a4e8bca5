package shelfpages

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/shelf"
	"fairtangle/web/pages/frame"
)

// spotRadius is how large a spot is that was clicked on the photo of a stash, as a part of its longer side.
const spotRadius = 0.012

// addSpot adds a row for a spot of the photo that was clicked, with the colour that is there. What was typed stays.
func (s *Room) addSpot(c *gin.Context) error {
	if _, err := s.Posted(c); err != nil {
		return err
	}
	v := c.Request.PostForm
	of, err := s.linesPhoto(c, v.Get("photo"))
	if err != nil {
		return err
	}
	f, rows := frame.Typed(v), rowsOf(v)
	across, down, err := spotOf(v.Get("across"), v.Get("down"))
	switch {
	case err != nil:
	case of == nil:
		err = fault.New("lines", "The photo is not there any more.")
	case len(rows) == mostLines:
		err = fault.New("lines", "The first %d are shown; put them on the shelf before the rest.", mostLines)
	}
	var seen shelf.PhotoReading
	if err == nil {
		seen, err = s.Studio.Shelf.ReadSpot(c.Request.Context(), of.ID, shelf.Spot{X: across / 100, Y: down / 100, Radius: spotRadius})
	}
	if err != nil {
		if !s.Blame(c, &f, atSpot(err)) {
			return err
		}
		return s.showLinesOf(c, http.StatusUnprocessableEntity, f, rows, of)
	}
	n, name := strconv.Itoa(len(rows)), seen.Name
	for i := 2; named(f, rows, name); i++ {
		name = fmt.Sprintf("%s %d", seen.Name, i)
	}
	f.Values["name"+n], f.Values["hex"+n], f.Values["kind"+n], f.Values["preparation"+n] = name, seen.Hex, f.V("all"), f.V("made")
	f.Values["across"], f.Values["down"] = "", ""
	rows = append(rows, lineRow{N: n, At: len(rows) + 1, Said: "a spot that was clicked", Unsure: map[string]bool{}, X: 10 * across, Y: 10 * down})
	return s.showLinesOf(c, http.StatusOK, f, rows, of)
}

// spotOf is a place on a photo in percent of its width and height.
func spotOf(across, down string) (x, y float64, err error) {
	for _, v := range []struct {
		field, text string
		into        *float64
	}{{"across", across, &x}, {"down", down, &y}} {
		n, wrong := strconv.ParseFloat(strings.TrimSpace(v.text), 64)
		if wrong != nil || !(n >= 0 && n <= 100) {
			return 0, 0, fault.New(v.field, "A place on the photo is from 0 to 100 %%.")
		}
		*v.into = n
	}
	return x, y, nil
}

// atSpot puts what is wrong with a spot at its first field.
func atSpot(err error) error {
	list, ok := fault.From(err)
	if !ok || len(list) == 0 || list[0].Field == "lines" || list[0].Field == "down" {
		return err
	}
	return fault.New("across", "%s", list[0].Message)
}

func named(f frame.Form, rows []lineRow, name string) bool {
	for _, r := range rows {
		if f.V("name"+r.N) == name {
			return true
		}
	}
	return false
}
