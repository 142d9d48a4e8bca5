package practicepages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/core/train"
	"fairtangle/studio/practising"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// overviewBody is where one stands.
type overviewBody struct {
	Skills []skillRow
	Next   string // the address of the next exercise
	Light  bool
	Any    bool
}

// skillRow is a skill with how one stands: Bars are the last scores, high by how good they were.
type skillRow struct {
	train.Standing
	Name, What, Href, Due string
	Bars                  []scoreBar
}

type scoreBar struct{ X, Y, High float64 }

var what = map[train.Skill]string{
	train.Difference: "Two colours: which way do they differ, and by how much?",
	train.Within:     "A batt, a rolag, a strand, a swatch: how much of each fibre lies in it?",
	train.Reaching:   "A colour and six lots: which shares make it?", train.Weighing: "The sums at the scale, and what to do when too much was weighed.",
	train.Passes:    "The first pass of a batt: after which are its colours mixed?",
	train.Splitting: "Stripes side by side, divided and spun: does the gradient survive?",
	train.Piled:     "A lay-up, layer by layer: what lies wrong, why, and what mends it?",
	train.Faults:    "A plan of a batt: what is wrong with it, what is fine?",
	train.Ordering:  "The steps of a piece of work: what is missing, what stands wrong?",
}

// overview shows where one stands with each skill, and what comes next.
func (s *Room) overview(c *gin.Context) error {
	of, light, err := s.Studio.Practice.Standings(c.Request.Context())
	if err != nil {
		return err
	}
	switch c.Query("by") {
	case "hue":
		light = false
	case "lightness":
		light = true
	}
	b := overviewBody{Light: light}
	for _, v := range of {
		row := skillRow{Standing: v, Name: practising.Names[v.Skill], What: what[v.Skill], Href: exerciseHref(v.Skill, light), Due: "not tried yet"}
		if v.Turns > 0 {
			b.Any = true
			row.Due = "comes again " + show.Date(practising.DayAt(v.Due))
			if v.Due <= s.Studio.Practice.Today() {
				row.Due = "to be done again"
			}
		}
		for i, score := range v.Last {
			row.Bars = append(row.Bars, barOf(i, score))
		}
		b.Skills = append(b.Skills, row)
	}
	b.Next = exerciseHref(train.Next(of).Skill, light)
	s.Render(c, http.StatusOK, "practise", frame.Page{Title: "Practise", Here: "practise"}, b)
	return nil
}

func exerciseHref(skill train.Skill, light bool) string {
	if light {
		return "/practise/" + string(skill) + "?by=lightness"
	}
	return "/practise/" + string(skill)
}
