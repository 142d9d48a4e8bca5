package layingpages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/core/carding"
	"fairtangle/studio/laying"
	"fairtangle/web/answer"
	"fairtangle/web/pages/workshoppages"
)

// cardFit is what a test batt told of the carder.
type cardFit struct {
	Used  bool     `json:"used"`
	Said  string   `json:"said"`
	Looks []string `json:"looks"` // as they were noted, where it was this lay-up
}

func fitView(f *laying.Foretelling) *cardFit {
	if f.Fit == nil {
		return nil
	}
	v := &cardFit{Used: f.Fit.Used, Said: workshoppages.CarderSaid(f.Fit)}
	if f.Fit.LayupID == f.Layup.ID {
		for _, l := range f.Fit.Looks {
			v.Looks = append(v.Looks, string(l))
		}
	}
	return v
}

// fitRequest is the look that was seen after each pass, empty where it was not noted.
type fitRequest struct {
	Looks []carding.Look `json:"looks"`
}

// fitCarder answers with lines of JSON: how far the fit is, at last that it is done.
func (s *Room) fitCarder(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	var q fitRequest
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	return s.InLines(c, u, func(say func(any) bool) (any, error) {
		progress := func(i, n int) { say(gin.H{"part": float64(i) / float64(n)}) }
		return gin.H{"done": true}, s.Studio.Laying.FitCarder(c.Request.Context(), n, division(c), q.Looks, progress)
	})
}

// useFit has the forecast follow the test batt, or leave it out.
func (s *Room) useFit(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	var q struct {
		Used bool `json:"used"`
	}
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	l, err := s.Studio.Laying.Layup(c.Request.Context(), n)
	if err != nil {
		return err
	}
	if err := s.Studio.Laying.UseCarderFit(c.Request.Context(), l.EquipmentID, q.Used); err != nil {
		return err
	}
	c.JSON(http.StatusOK, gin.H{"used": q.Used})
	return nil
}
