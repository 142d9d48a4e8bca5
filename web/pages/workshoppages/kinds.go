package workshoppages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fibre"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
)

type kindsBody struct {
	Own      []fibre.Kind
	IDs      []int64
	Families []string
	By       map[string][]fibre.Kind
}

func (s *Room) kindsPage(c *gin.Context) error {
	rows, err := s.Studio.Workshop.OwnKinds(c.Request.Context())
	if err != nil {
		return err
	}
	var b kindsBody
	all, err := s.Studio.Workshop.AllKinds(c.Request.Context(), false)
	if err != nil {
		return err
	}
	for _, r := range rows {
		k, _ := all.Find(fmt.Sprintf("own-%d", r.ID))
		b.Own, b.IDs = append(b.Own, k), append(b.IDs, r.ID)
	}
	b.Families, b.By = workshop.KindOptions(fibre.Kinds())
	s.Render(c, http.StatusOK, "kinds", frame.Page{Title: "Kinds of fibre", Here: "workshop"}, b)
	return nil
}
