package carderpages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/shelfpages"
	"fairtangle/web/show"
)

// goOnView is the ways on where a lot runs out.
type goOnView struct {
	Said string    `json:"said"`
	Ways []wayView `json:"ways"`
}

type wayView struct {
	Way    string    `json:"way"`
	Lot    int64     `json:"lot"`
	Name   string    `json:"name"`
	Effect string    `json:"effect"`
	Tuft   *art.Link `json:"tuft,omitempty"`
}

// runningOut answers a script with the ways on for a component that there is too little of.
func (s *Room) runningOut(c *gin.Context) error {
	n, u, err := s.Named(c)
	if err != nil {
		return err
	}
	component, _ := strconv.Atoi(c.Query("component"))
	o, err := s.Studio.Scale.RunningOut(c.Request.Context(), n, component)
	if err != nil {
		return err
	}
	v := goOnView{Said: fmt.Sprintf("%s are left, %s are still to weigh.", u.Grams(o.HaveG), u.Grams(o.RestG)), Ways: []wayView{}}
	for _, i := range o.Instead {
		enough := fmt.Sprintf("only %s there", u.Grams(i.Lot.Grams))
		if i.Enough {
			enough = u.Grams(i.Lot.Grams) + " there"
		}
		tuft := shelfpages.LotTuft(i.Lot, art.RowScale)
		v.Ways = append(v.Ways, wayView{
			"instead", i.Lot.ID, "Weigh the rest from " + i.Lot.Name, fmt.Sprintf("%s; a unit with it is %s (%s)", enough, i.Words, show.Fixed(i.DeltaE, 1)), &tuft,
		})
	}
	if o.FewerUnits > 0 {
		v.Ways = append(v.Ways, wayView{Way: "fewer", Name: "Leave " + show.Plural(o.FewerUnits, "unit") + " out", Effect: "the others are as planned"})
	}
	if o.SpreadG > 0 {
		effect := fmt.Sprintf("about %s for each unit that wants it; its colour moves by %s", u.Grams(o.SpreadG), show.Fixed(o.SpreadDeltaE, 1))
		v.Ways = append(v.Ways, wayView{Way: "spread", Name: "Spread what there is", Effect: effect})
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// goOn takes one of them.
func (s *Room) goOn(c *gin.Context) error {
	var q struct {
		Version   int64  `json:"version"`
		Component int    `json:"component"`
		Way       string `json:"way"`
		Lot       int64  `json:"lot"`
	}
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	w, err := s.Studio.Scale.GoOn(c.Request.Context(), n, q.Version, q.Component, q.Way, q.Lot)
	return s.scale.AnswerScale(c, w, u, err)
}
