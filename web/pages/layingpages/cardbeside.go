package layingpages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// besideView is another batt set beside the one at hand.
type besideView struct {
	Title   string      `json:"title"`
	Stages  []cardStage `json:"stages"`
	Against []string    `json:"against"` // what differs, stage by stage
}

// cardBesides is what can be set beside a lay-up: itself fed again in another way, and the
// other lay-ups of its making. A value is a lay-up and a way.
func (s *Room) cardBesides(c *gin.Context, l laying.Layup, m recipe.Making) (out []frame.Option, err error) {
	if l.Equipment.Type == string(layup.Drum) {
		for _, w := range cardWays {
			out = append(out, frame.Option{Value: fmt.Sprintf("%d %s", l.ID, w.Key), Label: "this one: " + w.Name})
		}
	}
	st, err := s.StateOf(c, m.ID)
	for _, r := range st.Layups {
		if r.ID != l.ID {
			out = append(out, frame.Option{Value: fmt.Sprintf("%d ", r.ID), Label: r.Name})
		}
	}
	return out, err
}

// cardBeside answers a script with another batt, and how it differs from the one at hand.
func (s *Room) cardBeside(c *gin.Context) error {
	f, u, err := s.foretelling(c)
	if err != nil {
		return err
	}
	id, err := strconv.ParseInt(c.Query("other"), 10, 64)
	if err != nil {
		return fault.New("other", "Choose what to set beside it.")
	}
	ctx := c.Request.Context()
	d := laying.Division{Refeed: c.Query("way"), If: c.Query("what")}
	if d.Refeed != "" {
		d.Strips = f.Division.Strips
	}
	other, err := s.Studio.Laying.Foretell(ctx, id, d)
	if err != nil {
		return err
	}
	mine, err := s.Studio.Laying.Stages(ctx, f, false)
	if err != nil {
		return err
	}
	theirs, err := s.Studio.Laying.Stages(ctx, other, false)
	if err != nil {
		return err
	}
	v := besideView{Title: other.Layup.Name}
	if d.If != "" {
		v.Title = "If you did: " + other.If.In(u)
	}
	for _, w := range cardWays {
		if w.Key == d.Refeed {
			v.Title = w.Name
		}
	}
	v.Stages = cardStages(other, theirs, roundOf(other), u)
	for i := range mine {
		v.Against = append(v.Against, against(mine[i], theirs[min(i, len(theirs)-1)]))
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// against says what differs between a batt and another beside it.
func against(a, b carding.Stage) string {
	looks := fmt.Sprintf("Both %s", a.Look)
	if a.Look != b.Look {
		looks = fmt.Sprintf("Above %s, here %s", a.Look, b.Look)
	}
	grade := ""
	switch {
	case a.Graded() && !b.Graded():
		grade = "; the gradient above is gone here"
	case !a.Graded() && b.Graded():
		grade = "; here lies a gradient that is not above"
	}
	mixed := "mixed evenly, the same to the eye"
	if d := colour.Compare(a.Even.Lab(), b.Even.Lab()); !d.Same {
		mixed = fmt.Sprintf("mixed evenly, this is %s (%s)", d.Words, show.Fixed(d.DeltaE, 1))
	}
	return fmt.Sprintf("%s%s; patches differ by ~%s above, ~%s here; %s.", looks, grade, show.Fixed(a.Patch, 1), show.Fixed(b.Patch, 1), mixed)
}
