package layingpages

import (
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/advice"
	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/web/show"
)

// doneFirst are the answers to questions that mean something to do before or while it is carded.
var doneFirst = map[string]string{
	"cleaned": "Clean the cloth first, and run some grams of scrap wool through.", "wisps": "Pull the top into wisps of one staple.",
	"dust_cared": "Moving air, a mask that fits, wipe up wet.",
}

// firstSteps says what is to be done first, of what was told of a blend.
func (s *Room) firstSteps(c *gin.Context, blend int64, u show.Units) (string, error) {
	var out []string
	for _, of := range []string{advice.OfPlan, advice.OfPart} {
		told, err := s.Studio.Workshop.ToldOf(c.Request.Context(), of, blend)
		if err != nil {
			return "", err
		}
		for _, t := range told {
			switch what := doneFirst[t.Key]; {
			case t.Key == "prepared_mm":
				out = append(out, "Cut or pull "+t.About+" to "+u.Length(*t.Value)+".")
			case t.Key == "per_minute":
				out = append(out, "Turn "+show.Number(*t.Value)+" times a minute.")
			case t.Key == "turns":
				out = append(out, show.Number(*t.Value)+" turns of the drum for a unit.")
			case what != "" && *t.Value == 1:
				out = append(out, what)
			}
		}
	}
	return strings.Join(out, " "), nil
}

// PutFirst puts what is to be done first into the step before the work begins.
func (s *Room) PutFirst(c *gin.Context, blend int64, l laying.Layup, steps []BenchStep, u show.Units) error {
	first, err := s.firstSteps(c, blend, u)
	for i := range steps {
		if l.Steps[i].Action == layup.Ready && first != "" {
			steps[i].How += " " + first
		}
	}
	return err
}
