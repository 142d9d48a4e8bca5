package yarnspages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/yarns"
	"fairtangle/web/show"
)

// spunWay is another way to spin the batt, beside the one at hand.
type spunWay struct {
	Title   string         `json:"title"`
	Pattern string         `json:"pattern"`
	Said    string         `json:"said"`
	Picture string         `json:"picture"`
	Swatch  string         `json:"swatch"`
	Plan    yarns.YarnPlan `json:"plan"`
}

func spunWayOf(y yarns.Yarn, title string, u show.Units) spunWay {
	w := spunWay{Title: title, Pattern: patternWords[y.Pattern], Plan: y.YarnPlan, Picture: yarnAddress(y) + "&what=bar&w=900"}
	w.Swatch = yarnAddress(y) + "&what=cloth&w=220&from=" + strconv.FormatFloat(y.PliedM/3, 'f', 2, 64)
	w.Said = u.Yarn(y.PliedM) + " at " + u.Grist(y.GristM)
	if n := len(y.Runs); n > 1 {
		shortest, longest := y.PliedM, 0.0
		for _, r := range y.Runs {
			shortest, longest = min(shortest, r.ToM-r.FromM), max(longest, r.ToM-r.FromM)
		}
		w.Said += fmt.Sprintf("; %d stretches of colour, %s to %s long", n, u.PlainYarn(shortest), u.Yarn(longest))
	}
	if y.PlyDE >= 4 {
		w.Said += fmt.Sprintf("; plies differ by %s CIEDE2000", show.Fixed(y.PlyDE, 1))
	}
	return w
}

func wayTitle(p yarns.YarnPlan) string {
	order := map[string]string{"back-and-forth": ", back and forth", "right-to-left": ", from the right"}[p.Order]
	from := map[string]string{"fold": " from the fold", "across": " from the side"}[p.From]
	switch p.Way {
	case "whole":
		return fmt.Sprintf("Whole%s, %s", from, plyWords[p.Ply])
	case "halves":
		return fmt.Sprintf("Two halves%s%s, %s", from, order, plyWords[p.Ply])
	}
	return fmt.Sprintf("%s%s%s, %s", show.Plural(p.Parts, map[string]string{"strips": "strip", "rolags": "rolag"}[p.Way]), from, order, plyWords[p.Ply])
}

// yarnWays answers a script with four ways to spin the same batt.
func (s *Room) yarnWays(c *gin.Context) error {
	y, u, err := s.yarnAsked(c)
	if err != nil {
		return err
	}
	out := []spunWay{}
	for _, p := range y.FourWays() {
		other, err := s.Studio.Yarns.YarnAs(c.Request.Context(), y.LayupID, p, "")
		if err != nil {
			return err
		}
		out = append(out, spunWayOf(other, wayTitle(p), u))
	}
	c.JSON(http.StatusOK, out)
	return nil
}

// yarnBeside answers a script with the yarn of another lay-up, spun alike, and how far it differs.
func (s *Room) yarnBeside(c *gin.Context) error {
	y, u, err := s.yarnAsked(c)
	if err != nil {
		return err
	}
	id, err := strconv.ParseInt(c.Query("other"), 10, 64)
	if err != nil {
		return fault.New("other", "Choose what to set beside it.")
	}
	other, err := s.Studio.Yarns.YarnAs(c.Request.Context(), id, y.YarnPlan, "")
	if err != nil {
		return err
	}
	w := spunWayOf(other, other.Foretold.Layup.Name, u)
	d := y.Differ(other)
	c.JSON(http.StatusOK, gin.H{"way": w, "said": apartSaid(d.Yarn, d.Cloth)})
	return nil
}

// apartSaid says whether two batts still look like one yarn.
func apartSaid(asYarn, asCloth float64) string {
	figures := fmt.Sprintf(" Place by place they differ by %s CIEDE2000, as cloth from afar by %s.", show.Fixed(asYarn, 1), show.Fixed(asCloth, 1))
	switch {
	case asYarn < 3:
		return "One yarn to the eye: go from one to the other where you like." + figures
	case asCloth < 3:
		return "As cloth they are one; side by side in one piece the change shows. Alternate them by rows." + figures
	case asYarn < 12 && asCloth < 8:
		return "Related, but not one yarn: knit them as two, or alternate every two rows to pass from one to the other." + figures
	}
	return "Two yarns: nobody takes one for the other." + figures
}
