package carderpages

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/run"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// startRun begins the carding of a weigh-out.
func (s *Room) startRun(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	equipment, _ := strconv.ParseInt(c.PostForm("equipment_id"), 10, 64)
	v, err := s.Studio.Carder.StartRun(c.Request.Context(), n, carder.StartRun{EquipmentID: equipment})
	if err != nil {
		return err
	}
	frame.GoTo(c, fmt.Sprintf("/runs/%d", v.ID), "")
	return nil
}

// entryRequest is what was typed or pressed of a run; Mg goes before Text where a scale
// said it.
type entryRequest struct {
	Key   string `json:"key"`
	Unit  int    `json:"unit"`
	Pass  int    `json:"pass"`
	What  string `json:"what"`
	Text  string `json:"text"`
	Back  string `json:"back"` // what becomes of the residue
	Mg    int64  `json:"mg"`
	After *int64 `json:"after"`
	// Undoes takes an entry back instead.
	Undoes int64 `json:"undoes"`
}

// runWords are what is asked for of a number, by what it tells.
var runWords = map[run.What]string{
	run.Specks: "how many specks, such as 3", run.Minutes: "minutes, such as 12", run.Clearance: "a clearance",
	run.Pace: "turns in a minute, such as 30", run.Count: "how many, such as 4", run.Step: "a step", run.Photo: "a photo", run.Cleaned: "1",
	run.Oil: "percent of the weight, such as 2",
}

// tellRun keeps one thing told of a run. An emptied field takes back what it said.
func (s *Room) tellRun(c *gin.Context) error {
	var q entryRequest
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	var v carder.Run
	in := carder.EntryInput{Key: q.Key, Unit: q.Unit, Pass: q.Pass, What: q.What, Text: q.Text, After: q.After}
	what := run.What(q.What)
	emptied := strings.TrimSpace(q.Text) == "" && q.Mg == 0 && (what.Weights() || runWords[what] != "") && what != run.Piece
	switch {
	case q.Undoes != 0:
		v, err = s.Studio.Carder.Reverse(ctx, n, q.Undoes, q.Key)
	case emptied && q.After != nil && *q.After != 0:
		v, err = s.Studio.Carder.Reverse(ctx, n, *q.After, q.Key)
	case emptied:
		v, err = s.Studio.Carder.Run(ctx, n)
	default:
		if what.Weights() {
			g := float64(q.Mg) / 1000
			if q.Mg == 0 {
				if g, err = u.ReadGrams("grams", q.Text); err != nil {
					return err
				}
			}
			in.Grams, in.Text = &g, q.Back
		} else if word := runWords[what]; word != "" {
			number, err := show.ReadNumber("number", q.Text, word)
			if what == run.Clearance {
				number, err = u.ReadSmall("number", q.Text)
			}
			if err != nil {
				return err
			}
			in.Number, in.Text = &number, ""
		}
		if what == run.Raw {
			v, err = s.Studio.Carder.TakeRaw(ctx, n, in)
		} else {
			v, err = s.Studio.Carder.Tell(ctx, n, in)
		}
	}
	return s.toldRun(c, v, err, u)
}

// toldRun answers with the run as it stands, or as another window has left it.
func (s *Room) toldRun(c *gin.Context, v carder.Run, err error, u show.Units) error {
	if other, ok := answer.StaleAs[carder.Run](err); ok {
		if other.Sort == carder.FleeceRun {
			return floor.Stale{Current: fleeceViewOf(other, u)}
		}
		view, err := s.RunView(c, other, u)
		if err != nil {
			return err
		}
		return floor.Stale{Current: view}
	}
	if err != nil {
		return answer.ShortIn(u, err)
	}
	if v.Sort == carder.FleeceRun {
		c.JSON(http.StatusOK, fleeceViewOf(v, u))
		return nil
	}
	view, err := s.RunView(c, v, u)
	if err != nil {
		return err
	}
	body := runBody{View: view}
	if n := len(v.Entries); n > 0 && (v.Entries[n-1].What == string(run.More) || v.Entries[n-1].What == string(run.Enough)) { // other steps than before
		if err := s.pictured(c, v, u, &body); err != nil {
			return err
		}
	}
	c.JSON(http.StatusOK, body.View)
	return nil
}

// photoOfRun takes a photo of a pass in: it is encoded anew, and what the camera wrote into
// it is gone.
func (s *Room) photoOfRun(c *gin.Context) error {
	n, u, err := s.Named(c)
	if err != nil {
		return err
	}
	if err := frame.Parsed(c); err != nil {
		return err
	}
	var q entryRequest
	if err := json.Unmarshal([]byte(c.PostForm("entry")), &q); err != nil {
		return answer.BadShape{Field: "entry", Message: "The entry is JSON."}
	}
	file, header, err := c.Request.FormFile("file")
	if err != nil {
		return fault.New("file", "Choose a picture.")
	}
	defer file.Close()
	in := carder.EntryInput{Key: q.Key, Unit: q.Unit, Pass: q.Pass, What: string(run.Photo)}
	v, err := s.Studio.Carder.PhotoOfRun(c.Request.Context(), n, in, header.Filename, file)
	return s.toldRun(c, v, err, u)
}
