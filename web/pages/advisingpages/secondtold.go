package advisingpages

import (
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/advice"
	"fairtangle/studio/advising"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// there are the pages where something has to be first that a rule misses.
var there = map[string]struct{ text, href string }{
	"the equipment":                                {"Lay it up on a piece of equipment", "/blends/%d/layup"},
	"how it is laid":                               {"Lay it up on a piece of equipment", "/blends/%d/layup"},
	"what it is used for":                          {"Say what it is for", "/makings/%d/need"},
	"how it is to look":                            {"Say what it is for", "/makings/%d/need"},
	"what is to come off":                          {"Say what it is for", "/makings/%d/need"},
	"what carding loses":                           {"Say what it is for", "/makings/%d/need"},
	"what is on the shelf":                         {"Put the fibre on the shelf", "/shelf"},
	"the weight of it":                             {"Give the blend a weight", "/blends/%d"},
	"the weight of a unit":                         {"Give the blend a weight", "/blends/%d"},
	"the step of the scale":                        {"Set the step of your scale", "/workshop"},
	"what the carder takes in a turn":              {"Write down what the carder takes in a turn", "/workshop"},
	"how many pins the cloth has in a square inch": {"Write down how many pins the cloth has", "/workshop"},
}

// asks takes in what could be looked at if it was told: questions that are answered here, and ways
// to where the rest is told.
func (v *SecondView) asks(l advising.SecondLook, u show.Units) {
	for _, t := range l.Unjudged {
		list := t.Asks()
		if w, ok := there[t.Tell]; ok && len(list) == 0 {
			href := w.href
			switch {
			case strings.HasPrefix(href, "/makings/"):
				href = fmt.Sprintf(href, l.MakingID)
			case strings.HasPrefix(href, "/blends/"):
				href = fmt.Sprintf(href, l.BlendID)
			}
			v.way(w.text, href)
		}
		for _, q := range list {
			v.ask(q, l, u)
		}
	}
	for _, t := range l.Told {
		w := toldView{ID: fmt.Sprintf("%s %d %s %s", t.Of, t.ID, t.About, t.Key), Of: t.Of, About: t.ID, Name: t.About, Key: t.Key, Text: toldWords(t, l, u)}
		if !slices.ContainsFunc(v.Told, func(o toldView) bool { return o.ID == w.ID }) {
			v.Told = append(v.Told, w)
		}
	}
}

// way takes in a page where something is told, once.
func (v *SecondView) way(text, href string) {
	if w := (wayThere{text, href}); !slices.Contains(v.There, w) {
		v.There = append(v.There, w)
	}
}

// ask puts a question of the plan or the workshop; of its lots it leads to where all of a lot is told.
func (v *SecondView) ask(q advice.Question, l advising.SecondLook, u show.Units) {
	if q.Of == advice.OfLot {
		for i, id := range l.LotIDs {
			if id != 0 && i < len(l.Plan.Fibres) && l.Plan.Fibres[i].Asked(q.Key) {
				v.way("Say how "+l.Plan.Fibres[i].Name+" is", fmt.Sprintf("/lots/%d#how", id))
			}
		}
		return
	}
	a := askView{Of: q.Of, Key: q.Key, Ask: q.Ask, Unit: unitOfQuestion(q, u), Answers: AnswersTo(q)}
	if q.Of == advice.OfPlan {
		a.About = l.BlendID
	}
	a.ID = fmt.Sprintf("%s %d %s", a.Of, a.About, a.Key)
	if !slices.ContainsFunc(v.Asks, func(o askView) bool { return o.ID == a.ID }) {
		v.Asks = append(v.Asks, a)
	}
}

// AnswersTo are the answers in words, by their numbers; none where a figure is asked for.
func AnswersTo(q advice.Question) []string {
	switch {
	case q.Figure:
		return []string{}
	case len(q.Choices) > 0:
		return q.Choices
	}
	return []string{"no", "yes"}
}

// unitOfQuestion is the unit in which its figure is typed.
func unitOfQuestion(q advice.Question, u show.Units) string {
	switch q.Unit {
	case "g":
		return u.Weight()
	case "mm":
		return u.SmallUnit()
	case "cm³":
		return roomUnit(u)
	}
	return q.Unit
}

// cm3PerIn3 is an inch cubed.
const cm3PerIn3 = 16.387064

func roomUnit(u show.Units) string {
	if u.LengthUnit() == "in" {
		return "in³"
	}
	return "cm³"
}

// typedAnswer reads a figure in the maker's units.
func typedAnswer(key, text string, u show.Units) (v float64, err error) {
	q, _ := advice.QuestionOf(key)
	switch q.Unit {
	case "g":
		return u.ReadGrams("value", text)
	case "mm":
		return u.ReadSmall("value", text)
	}
	v, err = show.ReadNumber("value", text, "a figure, such as 12")
	if q.Unit == "cm³" && roomUnit(u) == "in³" {
		v *= cm3PerIn3
	}
	return v, err
}

// toldWords says what was told to a question.
func toldWords(t workshop.Told, l advising.SecondLook, u show.Units) string {
	q, _ := advice.QuestionOf(t.Key)
	who := t.About
	if i := slices.Index(l.LotIDs, t.ID); t.Of == advice.OfLot && i >= 0 {
		who = l.Plan.Fibres[i].Name
	}
	if who != "" {
		who += ": "
	}
	said := ""
	switch v := *t.Value; {
	case !q.Figure:
		said = AnswersTo(q)[int(v)]
	case q.Unit == "g":
		said = u.Grams(v)
	case q.Unit == "mm":
		said = u.PlainSmall(v) + " " + u.SmallUnit()
	case q.Unit == "cm³" && roomUnit(u) == "in³":
		said = show.Fixed(v/cm3PerIn3, 1) + " in³"
	default:
		said = strings.TrimSpace(show.Number(v) + " " + q.Unit)
	}
	return who + q.Ask + " " + said
}

// tellRequest is an answer to a question, as it was typed or chosen; none takes it back.
type tellRequest struct {
	Of     string `json:"of"`
	About  int64  `json:"about"`
	Name   string `json:"name"`
	Key    string `json:"key"`
	Answer *int   `json:"answer"`
	Typed  string `json:"typed"`
}

// tellLook keeps the answer to a question.
func (s *Room) tellLook(c *gin.Context) error {
	var q tellRequest
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	t := workshop.Told{Of: q.Of, ID: q.About, About: q.Name, Key: q.Key}
	if q.Answer != nil {
		v := float64(*q.Answer)
		t.Value = &v
	} else if q.Typed != "" {
		v, err := typedAnswer(q.Key, q.Typed, u)
		if err != nil {
			return err
		}
		t.Value = &v
	}
	before, err := s.Studio.Advising.TellLook(c.Request.Context(), t)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, advising.LookTaken{Kind: advising.MendsTold, Before: before})
	return nil
}
