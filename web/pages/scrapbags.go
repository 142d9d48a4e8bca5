package pages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/reach"
)

type bagsBody struct {
	Form  form
	Bags  []reach.Bag
	Pages pageLinks
}

// bagsPage is how many bags a page shows.
const bagsPage = 24

func (s *server) scrapBags(c *gin.Context) error { return s.showBags(c, http.StatusOK, newForm()) }

func (s *server) showBags(c *gin.Context, status int, f form) error {
	b := bagsBody{Form: f, Pages: pagesOf(c, bagsPage)}
	var all int64
	var err error
	if b.Bags, all, err = s.studio.Reach.Bags(c.Request.Context(), b.Pages.Offset, b.Pages.Size); err != nil {
		return err
	}
	b.Pages.of(c, all)
	s.render(c, status, "scrapbags", page{Title: "Scraps", Here: "shelf"}, b)
	return nil
}

func (s *server) createBag(c *gin.Context) error {
	if err := parsed(c); err != nil {
		return err
	}
	v, err := s.studio.Reach.CreateBag(c.Request.Context(), reach.BagInput{Name: c.PostForm("name"), Scraps: []reach.Scrap{}})
	if err != nil {
		f := typed(c.Request.PostForm)
		if !s.blame(c, &f, err) {
			return err
		}
		return s.showBags(c, http.StatusUnprocessableEntity, f)
	}
	goTo(c, fmt.Sprintf("/scraps/%d", v.ID), "")
	return nil
}
