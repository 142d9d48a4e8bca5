package reachpages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/reach"
	"fairtangle/web/pages/frame"
)

type bagsBody struct {
	Form  frame.Form
	Bags  []reach.Bag
	Pages frame.PageLinks
}

// bagsPage is how many bags a page shows.
const bagsPage = 24

func (s *Room) scrapBags(c *gin.Context) error { return s.showBags(c, http.StatusOK, frame.NewForm()) }

func (s *Room) showBags(c *gin.Context, status int, f frame.Form) error {
	b := bagsBody{Form: f, Pages: frame.PagesOf(c, bagsPage)}
	var all int64
	var err error
	if b.Bags, all, err = s.Studio.Reach.Bags(c.Request.Context(), b.Pages.Offset, b.Pages.Size); err != nil {
		return err
	}
	b.Pages.Of(c, all)
	s.Render(c, status, "scrapbags", frame.Page{Title: "Scraps", Here: "shelf"}, b)
	return nil
}

func (s *Room) createBag(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	v, err := s.Studio.Reach.CreateBag(c.Request.Context(), reach.BagInput{Name: c.PostForm("name"), Scraps: []reach.Scrap{}})
	if err != nil {
		f := frame.Typed(c.Request.PostForm)
		if !s.Blame(c, &f, err) {
			return err
		}
		return s.showBags(c, http.StatusUnprocessableEntity, f)
	}
	frame.GoTo(c, fmt.Sprintf("/scraps/%d", v.ID), "")
	return nil
}
