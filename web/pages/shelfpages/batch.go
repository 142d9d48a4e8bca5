package shelfpages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/shelf"
	"fairtangle/web/pages/frame"
)

// Batch are lots that came onto the shelf together, one number after the other.
type Batch struct{ First, Last int64 }

// N is how many they are.
func (b Batch) N() int64 { return b.Last - b.First + 1 }

// shelfWith is the shelf with lots that just came onto it.
func shelfWith(lots []shelf.Lot) string {
	if len(lots) < 2 {
		return "/shelf"
	}
	return fmt.Sprintf("/shelf?came=%d-%d", lots[0].ID, lots[len(lots)-1].ID)
}

// BatchOf reads lots as shelfWith names them; nil where none are named.
func BatchOf(came string) *Batch {
	var b Batch
	if n, err := fmt.Sscanf(came, "%d-%d", &b.First, &b.Last); n < 2 || err != nil || b.First < 1 || b.N() < 2 || b.N() > shelf.MostBack {
		return nil
	}
	return &b
}

// takeBack puts all lots that came together into the bin.
func (s *Room) takeBack(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	first, _ := strconv.ParseInt(c.PostForm("first"), 10, 64)
	last, _ := strconv.ParseInt(c.PostForm("last"), 10, 64)
	err := shelf.TakeBack(c.Request.Context(), s.Studio.Shelf, first, last)
	if err == nil {
		frame.GoTo(c, "/shelf", "takenback")
		return nil
	}
	f := frame.NewForm()
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showShelf(c, http.StatusUnprocessableEntity, f.E("came"))
}
