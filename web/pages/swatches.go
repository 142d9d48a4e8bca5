package pages

import (
	"net/http"

	"github.com/gin-gonic/gin"
)

// swatchesBody is all blends ever made, as fibre.
type swatchesBody struct {
	Blends []makingBlend
	Pages  pageLinks
}

// swatchesPage is how many swatches a page shows.
const swatchesPage = 48

func (s *server) swatches(c *gin.Context) error {
	b := swatchesBody{Pages: pagesOf(c, swatchesPage)}
	list, all, err := s.studio.Notebook.Swatches(c.Request.Context(), b.Pages.Offset, b.Pages.Size)
	if err != nil {
		return err
	}
	b.Pages.of(c, all)
	for _, v := range list {
		b.Blends = append(b.Blends, makingBlend{v, bandsOf(v)})
	}
	s.render(c, http.StatusOK, "swatches", page{Title: "Swatches of the past", Here: "notebook", Wide: true}, b)
	return nil
}
