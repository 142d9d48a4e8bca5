package reachpages

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// runsAsked asks for the runs of a top in a photo, and with a lot makes them its colours.
type runsAsked struct {
	shelf.RunsInput
	Text string `json:"text"` // how long the known length is
	Lot  int64  `json:"lot"`
}

// photoRuns reads the runs of a painted top; with a lot they become its colours, in one deed.
func (s *Room) photoRuns(c *gin.Context) error {
	var q runsAsked
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	if q.LengthMM, err = u.ReadLength("length_mm", q.Text); err != nil {
		return err
	}
	if q.Lot == 0 {
		v, err := s.Studio.Shelf.RunsOfPhoto(c.Request.Context(), n, q.RunsInput)
		if err != nil {
			return err
		}
		c.JSON(http.StatusOK, runsView(v, u))
		return nil
	}
	return answer.Deed(s.Studio, func(c *gin.Context) error {
		l, v, err := s.Studio.Shelf.GiveRuns(c.Request.Context(), n, q.Lot, q.RunsInput)
		if err != nil {
			return err
		}
		view := runsView(v, u)
		view["given"], view["lot"], view["href"] = fmt.Sprintf("%s has these %d colours now.", l.Name, len(l.Colours)), l.ID, fmt.Sprintf("/lots/%d", l.ID)
		if len(l.Colours) == 1 {
			view["given"] = l.Name + " has this colour now."
		}
		c.JSON(http.StatusOK, view)
		return nil
	})(c)
}

// runsView is what is shown of the runs of a top.
func runsView(v shelf.PhotoRuns, u show.Units) gin.H {
	type run struct {
		Hex  string  `json:"hex"`
		Name string  `json:"name"`
		Long string  `json:"long"`
		Part float64 `json:"part"` // of the picture of them, percent
	}
	list := []run{}
	all := v.Runs[len(v.Runs)-1].ToMM
	for _, r := range v.Runs {
		list = append(list, run{r.Hex, r.Name, u.Length(r.ToMM - r.FromMM), 100 * (r.ToMM - r.FromMM) / all})
	}
	said := fmt.Sprintf("%d runs of %d colours; one is %s long on average.", len(v.Runs), len(v.Colours), u.Length(10*v.RunCM))
	switch {
	case len(v.Runs) == 1:
		said = "One colour all along."
	case len(v.Runs) == len(v.Colours):
		said = fmt.Sprintf("%d runs, each of a colour of its own; one is %s long on average.", len(v.Runs), u.Length(10*v.RunCM))
	}
	facts := []string{"Where one dye ran into the next, half of that counts to each.",
		fmt.Sprintf("Colours under %s CIEDE2000 apart are one; each is ± %s.", show.Fixed(shelf.SameColour, 0), show.Fixed(v.SigmaDeltaE, 0))}
	if !v.Balanced {
		facts = append(facts, "Without a grey card the colours are no surer than by eye.")
	}
	return gin.H{"runs": list, "said": said, "facts": facts}
}
