package practicepages

import (
	"errors"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/train"
	"fairtangle/studio/floor"
	"fairtangle/studio/practising"
	"fairtangle/web/pages/frame"
)

// classBody is where pupils come in: by a code, then by a name.
type classBody struct {
	Form frame.Form
	Code string // of the round; empty: it is asked for
	practising.Round
}

// class asks for the code of a round.
func (s *Room) class(c *gin.Context) error {
	if code := practising.Typed(c.Query("code")); code != "" {
		c.Redirect(http.StatusSeeOther, frame.Class+"/"+pathed(code))
		return nil
	}
	return s.askCode(c, http.StatusOK, frame.NewForm())
}

// pathed is a code without what an address reads otherwise.
func pathed(code string) string {
	out := []rune{}
	for _, r := range code {
		if r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' {
			out = append(out, r)
		}
	}
	if len(out) == 0 {
		return "-"
	}
	return string(out)
}

func (s *Room) askCode(c *gin.Context, status int, f frame.Form) error {
	s.Render(c, status, "class", frame.Page{Title: "Come in"}, classBody{Form: f})
	return nil
}

// lost answers a pupil whose round or seat is not there: with the page that asks for the code.
func (s *Room) lost(c *gin.Context, err error) error {
	if !errors.Is(err, floor.ErrNotFound) {
		return err
	}
	f := frame.NewForm()
	if f.Values["code"] = c.Param("code"); !s.Blame(c, &f, noSuchRound) {
		return err
	}
	if _, err := s.Studio.Practice.ByCode(c.Request.Context(), c.Param("code")); err == nil {
		f.Errors["code"] = "The round is there, but not this place in it. Come in again by the code, or by your word."
	}
	return s.askCode(c, http.StatusNotFound, f)
}

// join asks for a name; who was there already comes back by a word.
func (s *Room) join(c *gin.Context) error {
	r, err := s.Studio.Practice.ByCode(c.Request.Context(), c.Param("code"))
	if err != nil {
		return s.lost(c, err)
	}
	f := frame.NewForm()
	if word := practising.Typed(c.Query("word")); word != "" {
		_, _, err := s.Studio.Practice.Seat(c.Request.Context(), r.Code, word)
		if err == nil {
			c.Redirect(http.StatusSeeOther, frame.Class+"/"+r.Code+"/"+word)
			return nil
		}
		if !errors.Is(err, floor.ErrNotFound) {
			return err
		}
		f.Values["word"], f.Errors["word"] = c.Query("word"), "Nobody has this word here. It has eight signs, and stands on the page that you had."
	}
	return s.showJoin(c, http.StatusOK, r, f)
}

func (s *Room) showJoin(c *gin.Context, status int, r practising.Round, f frame.Form) error {
	s.Render(c, status, "class", frame.Page{Title: r.Name}, classBody{f, r.Code, r})
	return nil
}

// sit takes a pupil's name, and leads to the first exercise.
func (s *Room) sit(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	r, err := s.Studio.Practice.ByCode(c.Request.Context(), c.Param("code"))
	if err != nil {
		return s.lost(c, err)
	}
	seat, err := s.Studio.Practice.Sit(c.Request.Context(), r.Code, c.PostForm("name"))
	if err == nil {
		c.Redirect(http.StatusSeeOther, frame.Class+"/"+r.Code+"/"+seat.Word)
		return nil
	}
	f := frame.Typed(c.Request.PostForm)
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showJoin(c, http.StatusUnprocessableEntity, r, f)
}

// pupilBody is an exercise of a round, or what is said to the answer, as a pupil sees it.
type pupilBody struct {
	practising.Round
	Seat practising.Seat
	Home string // of the pupil
	N    int
	Put  *exerciseBody
	Said *practisedBody
	Bars []scoreBar // once all is answered
}

func (s *Room) asPupil(c *gin.Context) (b pupilBody, err error) {
	b.Round, b.Seat, err = s.Studio.Practice.Seat(c.Request.Context(), c.Param("code"), c.Param("word"))
	b.Home = frame.Class + "/" + b.Code + "/" + b.Seat.Word
	return b, err
}

func (b pupilBody) at(below string, n int) string { return b.Home + below + strconv.Itoa(n) }

// pupil puts the exercise that is next, or shows how it went once there is none.
func (s *Room) pupil(c *gin.Context) error {
	b, err := s.asPupil(c)
	if err != nil {
		return s.lost(c, err)
	}
	if b.N = b.Seat.Next(b.Round); b.N > 0 {
		return s.putTask(c, http.StatusOK, b, saidSoFar(c))
	}
	for i, a := range b.Seat.Answers {
		b.Bars = append(b.Bars, barOf(i, a.Score))
	}
	return s.showPupil(c, http.StatusOK, b)
}

func (s *Room) putTask(c *gin.Context, status int, b pupilBody, f frame.Form) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	e, err := s.Studio.Practice.Task(c.Request.Context(), b.Round, b.N)
	if err != nil {
		return err
	}
	put := bodyOf(e, f, u, b.at("/batt/", b.N))
	put.Action, put.Hidden = b.Home, map[string]string{"n": strconv.Itoa(b.N)}
	b.Put = &put
	return s.showPupil(c, status, b)
}

func (s *Room) showPupil(c *gin.Context, status int, b pupilBody) error {
	s.Render(c, status, "pupil", frame.Page{Title: b.Name, Scripts: []string{"js/practise.js"}}, b)
	return nil
}

// pupilSays takes a pupil's answer; the first one counts.
func (s *Room) pupilSays(c *gin.Context) error {
	u, err := s.Posted(c)
	if err != nil {
		return err
	}
	b, err := s.asPupil(c)
	if err != nil {
		return s.lost(c, err)
	}
	if b.N, err = strconv.Atoi(c.PostForm("n")); err != nil {
		return floor.ErrNotFound
	}
	e, err := s.Studio.Practice.Task(c.Request.Context(), b.Round, b.N)
	if err != nil {
		return err
	}
	f := frame.Typed(c.Request.PostForm)
	if _, said := b.Seat.Said(b.N); !said {
		var a train.Answer
		if a, err = readAnswer(e, f, u); err == nil {
			err = s.Studio.Practice.Say(c.Request.Context(), b.Code, b.Seat.Word, b.N, a)
		}
	}
	if err == nil {
		c.Redirect(http.StatusSeeOther, b.at("/said/", b.N))
		return nil
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.putTask(c, http.StatusUnprocessableEntity, b, f)
}

// pupilSaid shows what is said to an answer.
func (s *Room) pupilSaid(c *gin.Context) error {
	b, err := s.asPupil(c)
	if err != nil {
		return s.lost(c, err)
	}
	b.N, _ = strconv.Atoi(c.Param("n")) // none is no exercise of any round
	e, err := s.Studio.Practice.Task(c.Request.Context(), b.Round, b.N)
	if err != nil {
		return err
	}
	said, is := b.Seat.Said(b.N)
	j, err := e.Judge(said.Answer)
	if !is || err != nil { // nothing was said yet, or what is kept is of another exercise
		c.Redirect(http.StatusSeeOther, b.Home)
		return nil
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	v := saidOf(e, said.Answer, j, u, b.at("/batt/", b.N))
	b.Said = &v
	return s.showPupil(c, http.StatusOK, b)
}

// pupilBatt draws the batt of an exercise of a round, or what a pupil says is in it.
func (s *Room) pupilBatt(c *gin.Context) error {
	b, err := s.asPupil(c)
	if err != nil {
		return err
	}
	return s.drawTask(c, b.Round)
}

// barOf is a score as a bar in its place.
func barOf(i int, score float64) scoreBar {
	return scoreBar{float64(i) * 10, 30 - 0.3*max(4, score), 0.3 * max(4, score)}
}
