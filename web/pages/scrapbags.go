package pages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio"
)

type bagsBody struct {
	Form form
	Bags []studio.Bag
}

func (s *server) scrapBags(c *gin.Context) error { return s.showBags(c, http.StatusOK, newForm()) }

func (s *server) showBags(c *gin.Context, status int, f form) error {
	bags, err := s.studio.Bags(c.Request.Context())
	if err != nil {
		return err
	}
	s.render(c, status, "scrapbags", page{Title: "Scraps", Here: "shelf"}, bagsBody{f, bags})
	return nil
}

func (s *server) createBag(c *gin.Context) error {
	if err := parsed(c); err != nil {
		return err
	}
	v, err := s.studio.CreateBag(c.Request.Context(), studio.BagInput{Name: c.PostForm("name"), Scraps: []studio.Scrap{}})
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
