// Package guidepages serves the guide: what is done at each stop of the work, and what the words mean. It asks
// nobody.
package guidepages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/web/pages/frame"
)

// Room is what its handlers share.
type Room struct{ *frame.Frame }

// New is the room.
func New(f *frame.Frame) *Room {
	return &Room{f}
}

// Routes lead to the guide.
func (s *Room) Routes(r frame.Routes) { r.Get("/guide", s.guide) }

type guideBody struct {
	Stops []stop
	Words []frame.Term
}

func (s *Room) guide(c *gin.Context) error {
	s.Render(c, http.StatusOK, "guide", frame.Page{Title: "Guide", Here: "guide"}, guideBody{stops, frame.Terms})
	return nil
}
