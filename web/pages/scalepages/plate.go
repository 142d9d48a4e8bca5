package scalepages

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"time"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/plate"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// plateView is what the place at the scale shows, in the maker's units.
type plateView struct {
	Net      string      `json:"net"`
	NetMg    int64       `json:"net_mg"`
	Left     string      `json:"left"` // still missing, or too much
	Part     float64     `json:"part"`
	Lo       float64     `json:"lo"` // the tolerance, in parts of what is wanted
	Hi       float64     `json:"hi"`
	Phase    plate.Phase `json:"phase"`
	Said     string      `json:"said"`
	Heard    bool        `json:"heard"`
	Stable   bool        `json:"stable"`
	Mode     plate.Mode  `json:"mode"`
	ScaleID  int64       `json:"scale_id"`
	Scale    string      `json:"scale"`
	Auto     bool        `json:"auto"`
	Note     string      `json:"note"` // that no scale is fine enough
	Problem  string      `json:"problem"`
	At       *scale.Cell `json:"at"`
	Together bool        `json:"together"`
	Version  int64       `json:"version"`
	Changes  int64       `json:"changes"` // made here until now
	Mine     bool        `json:"mine"`    // this window weighs
	Free     bool        `json:"free"`    // nobody weighs
	HeldBy   string      `json:"held_by"`
	Watching int         `json:"watching"`
}

// phaseWords say what to do, with the weight that is missing or too much.
var phaseWords = map[plate.Phase]string{
	plate.Overload: "More than this scale can weigh. Take something off.", plate.Clear: "Kept. Take the dish off.", plate.Nothing: "Put it on.",
	plate.Short: "%s to go", plate.Inside: "Hold still.", plate.Ready: "That is it.", plate.Over: "%s too much", plate.Unsteady: "Wait until it rests.",
	plate.Undone: "Taken back; it lies there still.",
}

func plateViewOf(p scale.PlateState, window string, stepG float64, u show.Units) plateView {
	fine := u.WithStep(stepG)
	if p.ScaleG > 0 {
		fine = u.WithStep(p.ScaleG)
	}
	left := float64(p.Left.Grams())
	v := plateView{
		Net: fine.Plain(float64(p.Net.Grams())), NetMg: int64(p.Net), Left: fine.Grams(max(left, -left)), Part: p.Part, Phase: p.Phase,
		Heard: p.Heard, Stable: p.Stable, Mode: p.Mode, ScaleID: p.ScaleID, Scale: p.Scale, Auto: p.Auto, Problem: p.Problem,
		At: p.At, Together: p.Together, Version: p.Version, Changes: p.Changes,
		Mine: p.Holder == window || p.Free, Free: p.Free, HeldBy: p.HeldBy, Watching: p.Watching,
	}
	if !p.Heard {
		v.Phase = ""
	}
	if wanted := float64((p.Net + p.Left).Grams()); wanted > 0 {
		v.Lo, v.Hi = max(0, 1-stepG/wanted), 1+stepG/wanted
	}
	if words := phaseWords[v.Phase]; words != "" {
		v.Said = words
		if p.Phase == plate.Short || p.Phase == plate.Over {
			v.Said = fmt.Sprintf(words, v.Left)
		}
	}
	switch {
	case p.FineNot && p.Better != "":
		v.Note = fmt.Sprintf("Fewer than five steps of %s. The %s is finer: weigh it there, in a dish.", p.Scale, p.Better)
	case p.FineNot:
		v.Note = fmt.Sprintf("%s shows steps of %s; this is fewer than five of them. Weigh it for all units together, and divide.", p.Scale, u.Grams(p.ScaleG))
	}
	return v
}

// windowOf is how a window is known, and what it calls itself.
func windowOf(c *gin.Context) (window, name string, err error) {
	window, name = c.Query("window"), c.Query("name")
	if len(window) < 8 || len(window) > 64 || name == "" || utf8.RuneCountInString(name) > 60 || !utf8.ValidString(name) {
		return "", "", fault.New("window", "A window is known by 8 to 64 signs, and calls itself something.")
	}
	return window, name, nil
}

// A stream says something every so often, so that who went away is noticed; who does not
// take it in time is left.
const (
	liveBeat  = 15 * time.Second
	livePatch = 30 * time.Second
)

// livePlate streams what the place at the scale shows, as server-sent events.
func (s *Room) livePlate(c *gin.Context) error {
	n, err := answer.ID(c, "id")
	if err != nil {
		return err
	}
	w, err := s.Studio.Scale.Weighout(c.Request.Context(), n)
	if err != nil {
		return err
	}
	return s.live(c, n, w.StepG)
}

// liveStock is livePlate where the shelf is counted.
func (s *Room) liveStock(c *gin.Context) error { return s.live(c, shelf.StockTaking, 0.1) }

func (s *Room) live(c *gin.Context, n int64, stepG float64) error {
	if from := c.GetHeader("Sec-Fetch-Site"); from != "" && from != "same-origin" {
		return fault.New("window", "Only a page of this program listens here.")
	}
	window, name, err := windowOf(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	watch, err := s.Studio.Scale.WatchPlace(c.Request.Context(), n, window, name)
	if errors.Is(err, floor.ErrEnding) { // the page asks again in a moment
		c.Status(http.StatusNoContent)
		return nil
	}
	if err != nil {
		return err
	}
	defer watch.Close()
	h := c.Writer.Header()
	h.Set("Content-Type", "text/event-stream")
	c.Status(http.StatusOK)
	out := http.NewResponseController(c.Writer)
	say := func(text string) error {
		if err := out.SetWriteDeadline(time.Now().Add(livePatch)); err != nil && !errors.Is(err, http.ErrNotSupported) {
			return err
		}
		if _, err := io.WriteString(c.Writer, text); err != nil {
			return err
		}
		return out.Flush()
	}
	if say("retry: 300\n\n") != nil {
		return nil
	}
	for {
		ctx, cancel := context.WithTimeout(c.Request.Context(), liveBeat)
		v, ok := watch.Next(ctx)
		beat := errors.Is(ctx.Err(), context.DeadlineExceeded)
		cancel()
		text := ": still here\n\n"
		if ok {
			data, err := json.Marshal(plateViewOf(v, window, stepG, u))
			if err != nil {
				return err
			}
			text = fmt.Sprintf("data: %s\n\n", data)
		}
		if !ok && !beat || say(text) != nil {
			return nil // nobody listens any more, or the program ends
		}
	}
}

// changePlate does one thing at the place at the scale.
func (s *Room) changePlate(c *gin.Context) error {
	var q struct {
		scale.PlateChange
		Window string `json:"window"`
		Weight string `json:"weight"` // as typed, in place of grams
	}
	n := int64(shelf.StockTaking)
	if c.Param("id") != "" {
		var err error
		if n, err = answer.ID(c, "id"); err != nil {
			return err
		}
	}
	if err := answer.Decode(c, &q); err != nil {
		return err
	}
	if q.Weight != "" {
		u, _, err := s.Units(c)
		if err != nil {
			return err
		}
		if q.Grams, err = u.ReadGrams("weight", q.Weight); err != nil {
			return err
		}
	}
	changes, err := s.Studio.Scale.ChangePlate(c.Request.Context(), n, q.Window, q.PlateChange)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, gin.H{"changes": changes})
	return nil
}

// scaleNow answers a script with a weigh-out as it stands.
func (s *Room) scaleNow(c *gin.Context) error {
	n, u, err := s.Named(c)
	if err != nil {
		return err
	}
	w, err := s.Studio.Scale.Weighout(c.Request.Context(), n)
	return s.AnswerScale(c, w, u, err)
}

// weighBy says in which order a weigh-out is weighed.
func (s *Room) weighBy(c *gin.Context) error {
	var q struct {
		Version int64 `json:"version"`
		ByFibre bool  `json:"by_fibre"`
	}
	n, u, err := frame.Asked(s.Frame, c, &q)
	if err != nil {
		return err
	}
	w, err := s.Studio.Scale.WeighBy(c.Request.Context(), n, q.Version, q.ByFibre)
	return s.AnswerScale(c, w, u, err)
}

// fromScale reads what was weighed: the milligrams that the scale showed, or what was
// typed.
func fromScale(q readingRequest, u show.Units) (float64, error) {
	if q.Mg > 0 {
		return float64(unit.Milligrams(q.Mg).Grams()), nil
	}
	return u.ReadGrams("grams", q.Text)
}
