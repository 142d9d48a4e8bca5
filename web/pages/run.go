package pages

import (
	"fmt"
	"net/http"
	"reflect"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/web/show"
)

// runBody is the page of a run.
type runBody struct {
	View      runView
	Bed       *bedView // of the lay-up, where it still lies so
	Run       carder.Run
	Blend     recipe.Blend
	Equipment string
	Scales    []scaleRow
}

// runAround is a run with what stands around it.
func (s *server) runAround(c *gin.Context) (v carder.Run, b recipe.Blend, u show.Units, p page, err error) {
	n, u, err := s.named(c)
	if err != nil {
		return v, b, u, p, err
	}
	ctx := c.Request.Context()
	if v, err = s.studio.Carder.Run(ctx, n); err != nil {
		return v, b, u, p, err
	}
	m, err := s.studio.Recipe.Making(ctx, v.MakingID)
	if err != nil {
		return v, b, u, p, err
	}
	st, err := s.stateOf(c, m.ID)
	if err != nil {
		return v, b, u, p, err
	}
	_, set, err := s.units(c)
	if err != nil {
		return v, b, u, p, err
	}
	var of *recipe.Blend
	if v.BlendID != 0 {
		if b, err = s.studio.Recipe.Blend(ctx, v.BlendID); err != nil {
			return v, b, u, p, err
		}
		of = &b
	}
	p = page{Here: "makings", Strand: strandFor(m, st, "Card", of, set.Ground), Wide: true}
	return v, b, u, p, nil
}

// runPage is the carder's bench: one step, one weight, one key.
func (s *server) runPage(c *gin.Context) error {
	v, b, u, p, err := s.runAround(c)
	if err != nil {
		return err
	}
	if v.Sort == carder.FleeceRun {
		return s.fleecePage(c, v, u, p)
	}
	body := runBody{Run: v, Blend: b, Equipment: v.Equipment.Name}
	if body.View, err = s.runView(c, v, u); err != nil {
		return err
	}
	if err := s.pictured(c, v, u, &body); err != nil {
		return err
	}
	if body.Scales, _, err = s.benchOf(c, u); err != nil {
		return err
	}
	p.Title, p.Scripts = v.Name+", at the carder", []string{"js/run.js"}
	s.render(c, http.StatusOK, "run", p, body)
	return nil
}

// pictured puts pictures of what is foreseen beside the steps, where the lay-up still lies
// as it did when the run began.
func (s *server) pictured(c *gin.Context, v carder.Run, u show.Units, body *runBody) error {
	body.View.Pictured = true
	if v.LayupID == nil {
		return nil
	}
	l, err := s.studio.Laying.Layup(c.Request.Context(), *v.LayupID)
	if err == floor.ErrNotFound {
		return nil
	}
	if err != nil {
		return err
	}
	if !reflect.DeepEqual(l.PlanInput, v.Steps(0).PlanInput) {
		return nil
	}
	view := s.bedView(l, u, stepsView{})
	body.Bed = &view
	for n, steps := range body.View.Steps {
		l.Steps = v.StepsOf(n).Steps
		if err := s.expected(c, l, steps); err != nil {
			return err
		}
	}
	f, err := s.studio.Laying.Foretell(c.Request.Context(), l.ID, laying.Division{})
	if _, isFault := fault.From(err); isFault {
		return nil
	} else if err != nil {
		return err
	}
	stages, err := s.studio.Laying.Stages(c.Request.Context(), f, true)
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

// runRow is a run in a list.
type runRow struct {
	ID       int64
	Name     string
	Href     string
	Sub      string
	Finished bool
}

// runRows are runs as a list shows them.
func runRows(list []carder.Run, u show.Units) (out []runRow) {
	for _, v := range list {
		row := runRow{ID: v.ID, Name: v.Name, Href: fmt.Sprintf("/runs/%d", v.ID)}
		if v.Sort == carder.FleeceRun {
			row.Sub = "raw fleece"
			out = append(out, row)
			continue
		}
		off := 0
		for _, x := range v.Units {
			if x.Passes[len(x.Passes)-1].OffG != nil {
				off++
			}
		}
		row.Finished = off == len(v.Units)
		row.Sub = fmt.Sprintf("%d of %d came off on the %s", off, len(v.Units), v.Equipment.Name)
		if v.Line.OffG > 0 {
			row.Sub += ", " + u.Grams(v.Line.OffG)
		}
		out = append(out, row)
	}
	return out
}
