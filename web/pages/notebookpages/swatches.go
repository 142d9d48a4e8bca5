package notebookpages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/recipepages"
)

// swatchesBody is all blends ever made, as fibre.
type swatchesBody struct {
	Blends []recipepages.MakingBlend
	Pages  frame.PageLinks
}

// swatchesPage is how many swatches a page shows.
const swatchesPage = 48

func (s *Room) swatches(c *gin.Context) error {
	b := swatchesBody{Pages: frame.PagesOf(c, swatchesPage)}
	list, all, err := s.Studio.Notebook.Swatches(c.Request.Context(), b.Pages.Offset, b.Pages.Size)
	if err != nil {
		return err
	}
	b.Pages.Of(c, all)
	for _, v := range list {
		b.Blends = append(b.Blends, recipepages.MakingBlend{Blend: v, Bands: recipepages.BandsOf(v)})
	}
	s.Render(c, http.StatusOK, "swatches", frame.Page{Title: "Swatches of the past", Here: "notebook", Wide: true}, b)
	return nil
}
