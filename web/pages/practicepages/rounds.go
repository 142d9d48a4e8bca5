package practicepages

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/train"
	"fairtangle/studio/floor"
	"fairtangle/studio/practising"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// roundsBody are the rounds that were held, and what a new one is asked for.
type roundsBody struct {
	Form           frame.Form
	Skills, Levels []frame.Option
	Open, Over     []roundRow
}

type roundRow struct {
	practising.Round
	When string
}

// rounds lists the rounds of classes.
func (s *Room) rounds(c *gin.Context) error {
	f := frame.NewForm()
	f.Values["count"], f.Values["level"] = "10", "1"
	return s.showRounds(c, http.StatusOK, f)
}

func (s *Room) showRounds(c *gin.Context, status int, f frame.Form) error {
	b := roundsBody{Form: f}
	b.Skills, b.Levels = skillOptions(), levelOptions()
	list, err := s.Studio.Practice.Rounds(c.Request.Context())
	if err != nil {
		return err
	}
	for _, r := range list {
		row := roundRow{r, show.Moment(r.At)}
		if r.Over {
			b.Over = append(b.Over, row)
		} else {
			b.Open = append(b.Open, row)
		}
	}
	s.Render(c, status, "rounds", frame.Page{Title: "A round with a class", Here: "practise", Scripts: []string{"js/busy.js"}}, b)
	return nil
}

// openRound opens a round.
func (s *Room) openRound(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	f := frame.Typed(c.Request.PostForm)
	count, err := strconv.Atoi(strings.TrimSpace(f.V("count")))
	if err != nil {
		count = 0
	}
	level, err := strconv.Atoi(f.V("level"))
	if err != nil {
		level = 1
	}
	r, err := s.Studio.Practice.OpenRound(c.Request.Context(), practising.Round{
		Name: f.V("name"), Skill: train.Skill(f.V("skill")), Level: level, Count: count, Seed: rand.Uint64(), ByLightness: f.V("by") == "lightness",
	})
	if err == nil {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/rounds/%d", r.ID))
		return nil
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showRounds(c, http.StatusUnprocessableEntity, f)
}

// roundBody is a round as who teaches sees it.
type roundBody struct {
	practising.Round
	When    string
	Codes   []frame.Code // that lead pupils to it
	Alone   bool         // no other device reaches the program
	Door    string       // the address where the code is typed
	Tasks   []taskRow
	Pupils  []pupilRow
	Ranking bool
	Said    int // answers
}

// taskRow is an exercise of a round, with how many answered it.
type taskRow struct {
	N    int
	Name string
	Said int
}

// pupilRow is a pupil, with a mark for each exercise.
type pupilRow struct {
	Name, Word string
	Marks      []bool
	Done       int
	Score      string // where a ranking is wanted
}

// asRound is a round as who teaches sees it.
func (s *Room) asRound(c *gin.Context) (b roundBody, seats []practising.Seat, err error) {
	id, err := answer.ID(c, "id")
	if err != nil {
		return b, nil, err
	}
	if b.Round, seats, err = s.Studio.Practice.Round(c.Request.Context(), id); err != nil {
		return b, nil, err
	}
	b.When, b.Alone = show.Moment(b.At), len(s.World.Beyond.Addresses) == 0
	if b.Door = frame.Class; !b.Alone {
		b.Door = s.World.Beyond.Addresses[0] + frame.Class
	}
	for _, at := range s.World.Beyond.Addresses {
		if b.Over {
			break
		}
		code, err := frame.CodeOf(at + frame.Class + "/" + b.Code)
		if err != nil {
			return b, nil, err
		}
		b.Codes = append(b.Codes, code)
	}
	return b, seats, nil
}

// round shows a round to who teaches: who is at it, and how far.
func (s *Room) round(c *gin.Context) error {
	b, seats, err := s.asRound(c)
	if err != nil {
		return err
	}
	for n := 1; n <= b.Count; n++ {
		e, err := s.Studio.Practice.Task(c.Request.Context(), b.Round, n)
		if err != nil {
			return err
		}
		t := taskRow{N: n, Name: practising.Names[e.Skill], Said: len(answersTo(e, seats, n))}
		b.Said += t.Said
		b.Tasks = append(b.Tasks, t)
	}
	b.Ranking = c.Query("ranking") == "yes" && !b.Over
	slices.SortStableFunc(seats, func(a, o practising.Seat) int {
		if b.Ranking {
			return cmp.Compare(o.Mean(), a.Mean())
		}
		return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(o.Name))
	})
	for _, v := range seats {
		row := pupilRow{Name: v.Name, Word: v.Word, Marks: make([]bool, b.Count), Done: len(v.Answers)}
		for n := range row.Marks {
			_, row.Marks[n] = v.Said(n + 1)
		}
		if b.Ranking && row.Done > 0 {
			row.Score = show.Fixed(v.Mean(), 0)
		}
		b.Pupils = append(b.Pupils, row)
	}
	s.Render(c, http.StatusOK, "round", frame.Page{Title: b.Name, Here: "practise", Scripts: []string{"js/wall.js"}}, b)
	return nil
}

// answersTo are what a class said to an exercise.
func answersTo(e train.Exercise, seats []practising.Seat, n int) (out []train.Answer) {
	for _, v := range seats {
		if a, said := v.Said(n); said {
			if _, err := e.Judge(a.Answer); err == nil { // what is kept may be of another exercise
				out = append(out, a.Answer)
			}
		}
	}
	return out
}

// endRound ends a round.
func (s *Room) endRound(c *gin.Context) error {
	id, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if err := s.Studio.Practice.EndRound(c.Request.Context(), id); err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/rounds/%d", id), "roundover")
	return nil
}

// wallBody is what stands on the wall: how to come in, or an exercise with where the answers lay.
type wallBody struct {
	roundBody
	Put        exerciseBody
	N          int
	Shown      bool
	Pupils     int
	Answered   int
	Best       string
	Why        string
	Lay        []layView
	Prev, Next string
	Show       string // where the answer stands
}

// wall shows how pupils come in.
func (s *Room) wall(c *gin.Context) error {
	r, seats, err := s.asRound(c)
	if err != nil {
		return err
	}
	b := wallBody{roundBody: r, Pupils: len(seats), Next: fmt.Sprintf("/rounds/%d/wall/1", r.ID)}
	s.Render(c, http.StatusOK, "wall", frame.Page{Title: r.Name, Bare: true, Scripts: []string{"js/wall.js"}}, b)
	return nil
}

// wallTask shows an exercise to all, and once it is wanted its answer with where the class’s lay.
func (s *Room) wallTask(c *gin.Context) error {
	r, seats, err := s.asRound(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b := wallBody{roundBody: r, Pupils: len(seats), Shown: c.Query("shown") == "yes"}
	if b.N, err = strconv.Atoi(c.Param("n")); err != nil {
		return floor.ErrNotFound
	}
	e, err := s.Studio.Practice.Task(c.Request.Context(), r.Round, b.N)
	if err != nil {
		return err
	}
	at := func(n int) string { return fmt.Sprintf("/rounds/%d/wall/%d", r.ID, n) }
	b.Put = bodyOf(e, frame.NewForm(), u, fmt.Sprintf("/rounds/%d/batt/%d", r.ID, b.N))
	if b.Prev = at(b.N - 1); b.N == 1 {
		b.Prev = strings.TrimSuffix(b.Prev, "/0")
	}
	if b.N < b.Count {
		b.Next = at(b.N + 1)
	}
	answers := answersTo(e, seats, b.N)
	if b.Answered, b.Show = len(answers), at(b.N)+"?shown=yes"; b.Shown {
		j, err := e.Judge(e.Best())
		if err != nil {
			return err
		}
		b.Show, b.Lay = at(b.N), layOf(e, answers, u)
		if len(e.Choices) < 3 {
			b.Best = bestWords(e, u)
		}
		if !e.AsksParts() {
			b.Why = j.Why[0].In(u)
		}
	}
	s.Render(c, http.StatusOK, "wall", frame.Page{Title: r.Name, Bare: true, Scripts: []string{"js/wall.js"}}, b)
	return nil
}

// wallBatt draws the batt of an exercise of a round.
func (s *Room) wallBatt(c *gin.Context) error {
	r, _, err := s.asRound(c)
	if err != nil {
		return err
	}
	return s.drawTask(c, r.Round)
}

func (s *Room) drawTask(c *gin.Context, r practising.Round) error {
	n, err := strconv.Atoi(c.Param("n"))
	if err != nil {
		return floor.ErrNotFound
	}
	e, err := s.Studio.Practice.Task(c.Request.Context(), r, n)
	if err != nil {
		return err
	}
	return s.draw(c, e)
}

func skillOptions() []frame.Option {
	out := []frame.Option{{Value: "", Label: "some of each"}}
	for _, skill := range train.Skills {
		out = append(out, frame.Option{Value: string(skill), Label: practising.Names[skill]})
	}
	return out
}

func levelOptions() (out []frame.Option) {
	for n := 1; n <= train.MostLevel; n++ {
		out = append(out, frame.Option{Value: strconv.Itoa(n), Label: fmt.Sprintf("level %d", n)})
	}
	return out
}

// noSuchRound is what is said to a code that leads nowhere.
var noSuchRound = fault.New("code", "No round has this code now. Look at the wall again: it has five signs.")
