// Package pages puts the rooms together in which the pages are that people see, with the calls that
// their scripts make. Handlers decode, call the studio and render; they compute nothing.
package pages

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
	"fairtangle/web/answer"
	"fairtangle/web/pages/advisingpages"
	"fairtangle/web/pages/buyingpages"
	"fairtangle/web/pages/carderpages"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/guidepages"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/notebookpages"
	"fairtangle/web/pages/practicepages"
	"fairtangle/web/pages/reachpages"
	"fairtangle/web/pages/recipepages"
	"fairtangle/web/pages/scalepages"
	"fairtangle/web/pages/shelfpages"
	"fairtangle/web/pages/workshoppages"
	"fairtangle/web/pages/yarnspages"
)

// World is how the sample world is at hand.
type World = frame.World

// Beyond is how the program is reached from other devices.
type Beyond = frame.Beyond

// OwnPath is where to go back to, or home where that is no page of this program.
func OwnPath(back string) string { return frame.OwnPath(back, "/") }

// ForGuests reports whether an address is for the pupils of a class, who are let in by its code, and what of it may be one.
func ForGuests(path string) (code string, is bool) {
	code, _, _ = strings.Cut(strings.TrimPrefix(strings.TrimPrefix(path, frame.Class), "/"), "/")
	return code, frame.ForGuests(path)
}

// Routes registers every page; demo says on each that it is the sample world, and
// what computes for long takes turns; pans are where the simulated scales are worked, by
// their address. It returns the handler that answers people with an error.
func Routes(e *gin.Engine, st *studio.Studio, world World, turns *answer.Turns, pans map[string]string) (fail func(*gin.Context, error), err error) {
	files, err := shipped()
	if err != nil {
		return nil, err
	}
	f := frame.New(st, world, turns, pans, files)
	shelf, recipe := shelfpages.New(f), recipepages.New(f)
	laying := layingpages.New(f, recipe)
	scale := scalepages.New(f, recipe)
	carder := carderpages.New(f, laying, scale)
	rooms := []interface{ Routes(frame.Routes) }{
		shelf, recipe, laying, scale, carder, workshoppages.New(f), advisingpages.New(f), buyingpages.New(f), reachpages.New(f, shelf, recipe),
		yarnspages.New(f, shelf, recipe, laying), notebookpages.New(f, carder), guidepages.New(f),
		practicepages.New(f),
	}
	if err := f.Load(e); err != nil {
		return nil, err
	}
	e.GET("/", func(c *gin.Context) { c.Redirect(http.StatusSeeOther, "/makings") })
	get, ask := frame.Watched(answer.On(e.GET, f.Fail)), frame.Watched(answer.On(e.POST, f.Fail))
	for _, r := range rooms {
		r.Routes(frame.Routes{Get: get, Ask: ask, Deed: answer.Deeds(st, ask)})
	}
	return f.Fail, nil
}
