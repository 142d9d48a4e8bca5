package practicepages

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/train"
	"fairtangle/studio/practising"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// mostOnSheet is how many exercises a sheet has at most.
const mostOnSheet = 30

// sheetBody are exercises to print, and apart from them the answers.
type sheetBody struct {
	Form    frame.Form
	Skills  []frame.Option
	Levels  []frame.Option
	Tasks   []sheetTask
	Address string // that makes the same sheet again
}

type sheetTask struct {
	exerciseBody
	N      int
	Answer string
	Why    []string
}

// sheet makes a sheet of exercises: the same address is the same sheet.
func (s *Room) sheet(c *gin.Context) error {
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	b := sheetBody{Form: frame.NewForm(), Skills: skillOptions(), Levels: levelOptions()}
	for f, usual := range map[string]string{"skill": "", "level": "1", "count": "8", "by": "hue", "seed": ""} {
		if b.Form.Values[f] = c.Query(f); b.Form.Values[f] == "" {
			b.Form.Values[f] = usual
		}
	}
	status := http.StatusOK
	if err := b.fill(c, s, u); err != nil {
		if !s.Blame(c, &b.Form, err) {
			return err
		}
		status = http.StatusUnprocessableEntity
	}
	s.Render(c, status, "exercisesheet", frame.Page{Title: "A sheet of exercises", Here: "practise", Scripts: []string{"js/print.js"}}, b)
	return nil
}

// fill makes the exercises.
func (b *sheetBody) fill(c *gin.Context, s *Room, u show.Units) error {
	v := b.Form.Values
	n, err := strconv.Atoi(v["count"])
	if err != nil || n < 1 || n > mostOnSheet {
		return fault.New("count", "A sheet has 1 to %d exercises.", mostOnSheet)
	}
	level, err := strconv.Atoi(v["level"])
	if err != nil {
		level = 1
	}
	seed, err := strconv.ParseUint(v["seed"], 10, 64)
	if err != nil || seed > practising.MostSeed {
		seed = rand.Uint64() & (practising.MostSeed >> 1)
	}
	light := v["by"] == "lightness"
	for i := range n {
		skill := train.Skill(v["skill"])
		if practising.Names[skill] == "" {
			skill = train.Skills[i%len(train.Skills)]
		}
		e, err := s.Studio.Practice.Exercise(c.Request.Context(), skill, level, seed+uint64(i), light)
		if err != nil {
			return err
		}
		t := sheetTask{exerciseBody: bodyOf(e, frame.NewForm(), u, address(e, "/batt.png")), N: i + 1, Answer: bestWords(e, u)}
		j, err := e.Judge(e.Best())
		if err != nil {
			return err
		}
		if !e.AsksParts() {
			t.Why = []string{j.Why[0].In(u)}
		}
		b.Tasks = append(b.Tasks, t)
	}
	b.Address = fmt.Sprintf("/practise/sheet?skill=%s&level=%d&count=%d&by=%s&seed=%d", v["skill"], level, n, v["by"], seed)
	return nil
}

// bestWords is the best answer in words.
func bestWords(e train.Exercise, u show.Units) string {
	best := e.Best()
	said := ""
	for i, n := range best.Chosen {
		if e.Choices[i].Menu && n == 0 {
			continue // a layer that is fine
		}
		if said != "" {
			said += "; "
		}
		if e.Choices[i].Menu {
			said += e.Choices[i].Asked + ": "
		}
		said += e.Choices[i].Options[n].In(u)
	}
	if e.Grams {
		return u.Grams(float64(best.Grams))
	}
	if e.AsksParts() {
		for i, p := range bar(e, best.Parts) {
			if i > 0 {
				said += ", "
			}
			said += p.Say
		}
	}
	return said
}
