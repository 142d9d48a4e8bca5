package shelfpages

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/advisingpages"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// howQuestion is a question of how a lot is, with what was told.
type howQuestion struct {
	Key, Ask, Unit string
	Answers        []frame.Option // none: a figure
	Told           string         // as it is typed or chosen; empty: not told
	When           string
}

// howQuestions are those that are asked of a lot, with what was typed where that was wrong.
func (s *Room) howQuestions(c *gin.Context, l shelf.Lot, f frame.Form) (out []howQuestion, err error) {
	told, err := s.Studio.Workshop.ToldOf(c.Request.Context(), advice.OfLot, l.ID)
	if err != nil {
		return nil, err
	}
	asked := advice.Fibre{Kind: l.KindProperties(), Preparation: l.Preparation}
	for _, q := range advice.QuestionsOf(advice.OfLot) {
		if !asked.Asked(q.Key) {
			continue
		}
		h := howQuestion{Key: q.Key, Ask: q.Ask, Unit: q.Unit}
		for i, a := range advisingpages.AnswersTo(q) {
			h.Answers = append(h.Answers, frame.Option{Value: strconv.Itoa(i), Label: a})
		}
		for _, t := range told {
			if t.Key == q.Key {
				h.Told, h.When = show.Number(*t.Value), show.Moment(t.At)
				if q.Unit == "hours" {
					h.Told = show.Fixed(*t.Value, 0)
				}
			}
		}
		if v, typed := f.Values[q.Key]; typed {
			h.Told = v
		}
		out = append(out, h)
	}
	return out, nil
}

// tellLot keeps how a lot is.
func (s *Room) tellLot(c *gin.Context) error {
	l, err := s.Lot(c)
	if err != nil {
		return err
	}
	if _, err := s.Posted(c); err != nil {
		return err
	}
	before, err := s.howQuestions(c, l, frame.NewForm())
	if err != nil {
		return err
	}
	var list []workshop.Told
	var wrong fault.List
	for _, q := range before {
		text := c.PostForm(q.Key)
		if text == q.Told {
			continue
		}
		t := workshop.Told{Of: advice.OfLot, ID: l.ID, Key: q.Key}
		if text != "" {
			v, err := show.ReadNumber(q.Key, text, "a figure, such as 12")
			known, _ := advice.QuestionOf(q.Key)
			if err == nil && !known.Takes(v) {
				wrong.Add(q.Key, "A figure from 0 to %g.", known.Most)
			} else if err != nil {
				wrong.Add(q.Key, "Type a figure, such as 12.")
			}
			t.Value = &v
		}
		list = append(list, t)
	}
	if err = wrong.Err(); err == nil {
		_, err = s.Studio.Advising.TellLook(c.Request.Context(), list...)
	}
	if err == nil {
		c.Redirect(http.StatusSeeOther, "/lots/"+strconv.FormatInt(l.ID, 10)+"?did=saved#how")
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.ShowLot(c, http.StatusUnprocessableEntity, l, f)
}
