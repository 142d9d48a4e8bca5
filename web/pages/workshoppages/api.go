package workshoppages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/web/api"
	"fairtangle/web/pages/frame"
)

// apiPage shows the API's description to people.
func (s *Room) apiPage(c *gin.Context) error {
	page, err := api.Readable()
	if err != nil {
		return err
	}
	s.Frame.Render(c, http.StatusOK, "api", frame.Page{Title: "API", Here: "api"}, page)
	return nil
}
