package carderpages

import (
	"errors"
	"fmt"
	"net/http"
	"reflect"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/workshoppages"
	"fairtangle/web/show"
)

// runBody is the page of a run.
type runBody struct {
	View      RunView
	Bed       *layingpages.BedView // of the lay-up, where it still lies so
	Run       carder.Run
	Blend     recipe.Blend
	Equipment string
	Scales    []workshoppages.ScaleRow
}

// RunAround is a run with what stands around it.
func (s *Room) RunAround(c *gin.Context) (v carder.Run, b recipe.Blend, u show.Units, p frame.Page, err error) {
	n, u, err := s.Named(c)
	if err != nil {
		return v, b, u, p, err
	}
	ctx := c.Request.Context()
	if v, err = s.Studio.Carder.Run(ctx, n); err != nil {
		return v, b, u, p, err
	}
	m, err := s.Studio.Recipe.Making(ctx, v.MakingID)
	if err != nil {
		return v, b, u, p, err
	}
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return v, b, u, p, err
	}
	_, set, err := s.Units(c)
	if err != nil {
		return v, b, u, p, err
	}
	var of *recipe.Blend
	if v.BlendID != 0 {
		if b, err = s.Studio.Recipe.Blend(ctx, v.BlendID); err != nil {
			return v, b, u, p, err
		}
		of = &b
	}
	p = frame.Page{Here: "makings", Strand: frame.StrandFor(m, st, "Card", of, set.Ground), Wide: true}
	return v, b, u, p, nil
}

// runPage is the carder's bench: one step, one weight, one key.
func (s *Room) runPage(c *gin.Context) error {
	v, b, u, p, err := s.RunAround(c)
	if err != nil {
		return err
	}
	if v.Sort == carder.FleeceRun {
		return s.fleecePage(c, v, u, p)
	}
	body := runBody{Run: v, Blend: b, Equipment: v.Equipment.Name}
	if body.View, err = s.RunView(c, v, u); err != nil {
		return err
	}
	if err := s.pictured(c, v, u, &body); err != nil {
		return err
	}
	if body.Scales, _, err = s.scale.BenchOf(c, u); err != nil {
		return err
	}
	p.Title, p.Scripts = v.Name+", at the carder", []string{"js/run.js", "js/awake.js"}
	s.Render(c, http.StatusOK, "run", p, body)
	return nil
}

// pictured puts pictures of what is foreseen beside the steps, where the lay-up still lies
// as it did when the run began.
func (s *Room) pictured(c *gin.Context, v carder.Run, u show.Units, body *runBody) error {
	body.View.Pictured = true
	if v.LayupID == nil {
		return nil
	}
	l, err := s.Studio.Laying.Layup(c.Request.Context(), *v.LayupID)
	if errors.Is(err, floor.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	if !reflect.DeepEqual(l.PlanInput, v.Steps(0).PlanInput) {
		return nil
	}
	view := s.laying.BedView(l, u, frame.StepsView{})
	body.Bed = &view
	for n, steps := range body.View.Steps {
		l.Steps = v.StepsOf(n).Steps
		if err := s.laying.Expected(c, l, steps); err != nil {
			return err
		}
	}
	f, err := s.Studio.Laying.Foretell(c.Request.Context(), l.ID, laying.Division{})
	if _, isFault := fault.From(err); isFault {
		return nil
	} else if err != nil {
		return err
	}
	stages, err := s.Studio.Laying.Stages(c.Request.Context(), f, true)
	if err != nil {
		return err
	}
	for i := range body.View.Looks {
		for _, t := range stages {
			if string(t.Look) == body.View.Looks[i].Name {
				body.View.Looks[i].Picture = fmt.Sprintf("/layups/%d/card.png?of=%s&stage=%d&w=320&h=130", l.ID, f.Digest, t.Pass)
				break
			}
		}
	}
	return nil
}
