package practicepages

import (
	"math"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"fairtangle/core/train"
	"fairtangle/studio/practising"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// practisedBody is what is said to an answer, the true one beside it.
type practisedBody struct {
	exerciseBody
	ID          int64
	Score       string
	Verdict     string
	Why         []string
	Hex         string // the colour that the answer makes
	Mine, Truth []barPart
	Again, Next string
}

// barPart is a share of a bar, percent of its width.
type barPart struct {
	X, Wide   float64
	Fill, Say string
}

// verdicts are what is said first, by the least score; nothing is ever shaming.
var verdicts = []struct {
	from  float64
	words string
}{{97, "That is it."}, {80, "Very close."}, {50, "On the way."}, {0, "Not yet: the true one is below."}}

// practised shows what is said to an answer.
func (s *Room) practised(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	p, e, j, err := s.Studio.Practice.Taken(c.Request.Context(), n)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b := saidOf(e, p.Answer, j, u, address(e, "/batt.png"))
	b.ID, b.Again = p.ID, address(e, "")
	_, light, err := s.Studio.Practice.Standings(c.Request.Context())
	if err != nil {
		return err
	}
	b.Next = exerciseHref(e.Skill, light)
	s.Render(c, http.StatusOK, "practised", frame.Page{Title: b.Name, Here: "practise"}, b)
	return nil
}

// saidOf is what is said to an answer; batt is where the batt of the exercise is drawn.
func saidOf(e train.Exercise, a train.Answer, j train.Judged, u show.Units, batt string) practisedBody {
	b := practisedBody{Score: show.Fixed(math.Round(j.Score), 0), Hex: j.Hex}
	b.Exercise, b.Name, b.Said = e, practising.Names[e.Skill], e.Asked.In(u)
	for _, v := range verdicts {
		if j.Score >= v.from {
			b.Verdict = v.words
			break
		}
	}
	for _, w := range j.Why {
		b.Why = append(b.Why, w.In(u))
	}
	best := e.Best()
	for i, ch := range e.Choices {
		v := choiceView{Asked: ch.Asked}
		for n, o := range ch.Options {
			v.Options = append(v.Options, optionView{n, o.In(u), n == a.Chosen[i], n == best.Chosen[i]})
		}
		if i >= len(e.Pile) {
			b.Options = append(b.Options, v)
			continue
		}
		b.Layers = append(b.Layers, layerOf(e, i, v, u))
	}
	slices.Reverse(b.Layers)
	if e.AsksParts() {
		b.Mine, b.Truth = bar(e, a.Parts), bar(e, best.Parts)
	}
	if len(e.Shown()) > 0 {
		b.Batt = batt
	}
	if e.Skill == train.Within {
		b.Yours = withParts(batt, a.Parts)
	}
	return b
}

// bar places the shares of an answer side by side.
func bar(e train.Exercise, parts []float64) (out []barPart) {
	at := 0.0
	for i, share := range train.Shares(parts) {
		if share > 0 {
			out = append(out, barPart{100 * at, 100 * share, e.Lots[i].Hex, show.Percent(share) + " " + e.Lots[i].Name})
			at += share
		}
	}
	return out
}
