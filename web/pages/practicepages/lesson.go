package practicepages

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/shelf"
	"fairtangle/studio/teaching"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// lessonBody is what a lesson is asked for.
type lessonBody struct {
	Form      frame.Form
	Bags      []bagRow
	More      int // lots that are not shown
	Equipment []frame.Option
}

// bagRow is a lot that may lie on the table.
type bagRow struct {
	ID             int64
	Name, Hex, Sub string
	Chosen         bool
}

// mostBagsShown is how many lots a lesson is chosen from.
const mostBagsShown = 300

// lesson asks for the bags, the carder and the pupils.
func (s *Room) lesson(c *gin.Context) error {
	f := frame.NewForm()
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	f.Values["name"], f.Values["passes"], f.Values["each"] = "Lesson of "+show.Date(time.Now()), "1", u.Plain(usualSampleG)
	return s.showLesson(c, http.StatusOK, f, nil)
}

// usualSampleG is what a sample of a lesson weighs, where nothing else is said.
const usualSampleG = 6

func (s *Room) showLesson(c *gin.Context, status int, f frame.Form, chosen []int64) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b := lessonBody{Form: f}
	lots, err := s.Studio.Shelf.Shelf(c.Request.Context(), shelf.LotFilter{Stock: "some", Limit: mostBagsShown})
	if err != nil {
		return err
	}
	b.More = max(0, int(lots.Total)-len(lots.Lots))
	for _, l := range lots.Lots {
		b.Bags = append(b.Bags, bagRow{l.ID, l.Name, l.MeanHex, l.KindName + ", " + u.Grams(l.Grams), slices.Contains(chosen, l.ID)})
	}
	list, err := s.Studio.Workshop.Equipment(c.Request.Context())
	if err != nil {
		return err
	}
	for _, e := range list {
		b.Equipment = append(b.Equipment, frame.Option{Value: strconv.FormatInt(e.ID, 10), Label: e.Name})
	}
	s.Render(c, status, "lesson", frame.Page{Title: "A lesson", Here: "practise", Scripts: []string{"js/busy.js", "js/bags.js"}}, b)
	return nil
}

// prepareLesson makes a lesson, and goes to what the wall shows of it.
func (s *Room) prepareLesson(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	f := frame.Typed(c.Request.PostForm)
	r := &frame.Reader{Values: c.Request.PostForm}
	v := teaching.Lesson{
		Name: f.V("name"), Bags: answer.Numbers(c.Request.PostForm["bag"]), EachG: r.Grams(u, "each"), Passes: r.Count("passes", "how often it goes through"),
		Same: f.V("way") == "same",
	}
	v.Equipment, _ = strconv.ParseInt(f.V("equipment"), 10, 64) // none is refused below
	for _, line := range strings.Split(f.V("pupils"), "\n") {
		if strings.TrimSpace(line) != "" {
			v.Pupils = append(v.Pupils, line)
		}
	}
	var making int64
	if err = r.Wrong.Err(); err == nil {
		making, err = s.Studio.Teaching.Prepare(c.Request.Context(), v)
	}
	if err == nil {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/makings/%d/class", making))
		return nil
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showLesson(c, http.StatusUnprocessableEntity, f, v.Bags)
}
