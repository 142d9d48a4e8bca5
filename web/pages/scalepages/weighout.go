package scalepages

import (
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

type weighoutBody struct {
	W     scale.Weighout
	Blend recipe.Blend
	Grid  grid
	Off   string
	Delta string
	Came  cameView
	Runs  []frame.RunRow
	// Equipment is offered to card it on, where it follows no lay-up.
	Equipment []workshop.Equipment
}

// cameView is what came off, unit by unit, as the page shows it.
type cameView struct {
	ID    int64      `json:"id"`
	Unit  string     `json:"unit"`
	Units []cameUnit `json:"units"`
}

type cameUnit struct {
	Key      int    `json:"key"`
	Title    string `json:"title"`
	Expected string `json:"expected"`
	Off      string `json:"off"`
	Lost     string `json:"lost"` // of what went in, where it was weighed
	Note     string `json:"note"`
	Version  int64  `json:"version"`
}

func cameViewOf(w scale.Weighout, u show.Units) cameView {
	v := cameView{ID: w.ID, Unit: u.Weight(), Units: []cameUnit{}}
	for i, unit := range w.Units {
		row := cameUnit{Key: i, Title: strconv.Itoa(i + 1), Expected: "~" + u.Grams(unit.ExpectedG), Note: unit.Note, Version: unit.NoteVersion}
		if unit.OffG != nil {
			row.Off = u.Amount(*unit.OffG)
		}
		if lost := unit.LostShare; lost != nil && *lost >= 0 {
			row.Lost = show.Fixed(100**lost, 1) + "\u00a0% lost"
		} else if lost != nil {
			row.Lost = show.Fixed(-100**lost, 1) + "\u00a0% more than went in"
		}
		v.Units = append(v.Units, row)
	}
	return v
}

// noteUnit keeps what was typed of a unit: the grams that came off, or the note.
func (s *Room) noteUnit(c *gin.Context) error {
	var q struct {
		Unit    int     `json:"unit"`
		Version int64   `json:"version"`
		Off     *string `json:"off"`
		Note    *string `json:"note"`
	}
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	w, err := s.Studio.Scale.Weighout(c.Request.Context(), n)
	if err != nil {
		return err
	}
	in := scale.NoteInput{Version: q.Version}
	if q.Unit >= 0 && q.Unit < len(w.Units) {
		in.OffG, in.Note = w.Units[q.Unit].OffG, w.Units[q.Unit].Note
	}
	if q.Note != nil {
		in.Note = *q.Note
	}
	if q.Off != nil {
		in.OffG = nil
		if strings.TrimSpace(*q.Off) != "" {
			off, err := u.ReadGrams("off_g", *q.Off)
			if err != nil {
				return err
			}
			in.OffG = &off
		}
	}
	w, err = s.Studio.Scale.NoteUnit(c.Request.Context(), n, q.Unit, in)
	return frame.Edited(c, w, err, func(w scale.Weighout) any { return cameViewOf(w, u) })
}

// weighoutAround loads a weigh-out with what lies around it.
func (s *Room) weighoutAround(c *gin.Context) (w scale.Weighout, b recipe.Blend, p frame.Page, err error) {
	n, err := answer.ID(c, "id")
	if err != nil {
		return w, b, p, err
	}
	if w, err = s.Studio.Scale.Weighout(c.Request.Context(), n); err != nil {
		return w, b, p, err
	}
	if b, err = s.Studio.Recipe.Blend(c.Request.Context(), w.BlendID); err != nil {
		return w, b, p, err
	}
	m, err := s.Studio.Recipe.Making(c.Request.Context(), b.MakingID)
	if err != nil {
		return w, b, p, err
	}
	st, err := s.StateOf(c, m.ID)
	if err != nil {
		return w, b, p, err
	}
	_, set, err := s.Units(c)
	if err != nil {
		return w, b, p, err
	}
	p = frame.Page{Here: "makings", Strand: frame.StrandFor(m, st, "Weigh", &b, set.Ground), Wide: true}
	return w, b, p, nil
}

func (s *Room) weighoutPage(c *gin.Context) error {
	w, b, p, err := s.weighoutAround(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	p.Title, p.Scripts = "Weigh-out "+w.Name, []string{"js/print.js", "js/weighout.js"}
	body := weighoutBody{
		Came: cameViewOf(w, u), W: w, Blend: b, Grid: gridOf(w, u), Off: show.Fixed(w.WorstShare*100, 2) + "\u00a0%", Delta: show.Fixed(w.LargestDelta, 2),
	}
	runs, err := s.Studio.Carder.RunsOfWeighout(c.Request.Context(), w.ID)
	if err != nil {
		return err
	}
	body.Runs = frame.RunRows(runs, u)
	if w.LayupID == nil && len(runs) == 0 {
		if body.Equipment, err = s.Studio.Workshop.Equipment(c.Request.Context()); err != nil {
			return err
		}
	}
	s.Render(c, http.StatusOK, "weighout", p, body)
	return nil
}
