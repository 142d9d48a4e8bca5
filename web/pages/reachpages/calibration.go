package reachpages

import (
	"fmt"
	"math"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/reach"
	"fairtangle/studio/workshop"
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/shelfpages"
	"fairtangle/web/show"
)

type calibrationBody struct {
	C        reach.Calibration
	Form     frame.Form
	Blends   []frame.Option
	Sources  []frame.Option
	Rows     []sampleRow
	Edit     int64
	Said     string
	Worth    bool // switching it on changes something
	Fitted   string
	Strength []string
	Ticks    []PlotTick
}

// PlotTick is a label of the plot's axes with its place, 0..100.
type PlotTick struct {
	At    float64
	Label int
}

// sampleRow is a sample in the table and in the plot: predicted against
// measured for lightness, and the errors before and after.
type sampleRow struct {
	reach.SamplePoint
	X, Before, After float64 // of the plot, 0..100, y downwards
	BeforeText       string
	AfterText        string
}

// sampledBlends is of how many blends, those touched last, a sample can be recorded here.
const sampledBlends = 100

func (s *Room) calibrationPage(c *gin.Context) error {
	f := frame.NewForm()
	f.Values["source"] = "photo"
	var edit int64
	if n, err := strconv.ParseInt(c.Query("sample"), 10, 64); err == nil {
		edit = n
	}
	return s.showCalibration(c, http.StatusOK, f, edit)
}

func (s *Room) showCalibration(c *gin.Context, status int, f frame.Form, edit int64) error {
	cal, err := s.Studio.Reach.Calibration(c.Request.Context())
	if err != nil {
		return err
	}
	b := calibrationBody{C: cal, Form: f, Sources: shelfpages.SourceOptions, Edit: edit, Worth: cal.Extent != "nothing"}
	blends, err := s.Studio.Recipe.BlendNames(c.Request.Context(), sampledBlends)
	if err != nil {
		return err
	}
	for _, v := range blends {
		b.Blends = append(b.Blends, frame.Option{Value: strconv.FormatInt(v.ID, 10), Label: v.Name + ", " + v.Making})
	}
	at := b.axes(cal)
	for _, p := range cal.Samples {
		b.Rows = append(
			b.Rows,
			sampleRow{p, at(p.Measured.Lab[0]), 100 - at(p.Predicted.Lab[0]), 100 - at(p.Fitted.Lab[0]), show.Fixed(p.Before, 1), show.Fixed(p.After, 1)},
		)
		if p.ID == edit && len(f.Errors) == 0 && f.Conflict == "" {
			b.Form.Values = map[string]string{
				"name":         p.Name,
				"note":         p.Note,
				"source":       p.Source,
				"measured.hex": p.Measured.Hex,
				"version":      strconv.FormatInt(p.Version, 10),
			}
		}
	}
	for _, v := range cal.Strengths {
		b.Strength = append(b.Strength, fmt.Sprintf("%s × %s", v.Name, show.Fixed(v.Strength, 2)))
	}
	b.Said, b.Fitted = calibrationWords(
		cal,
	), fmt.Sprintf(
		"%s, parameter %s instead of %s",
		cal.Model.Name,
		show.Fixed(cal.Fitted.Parameter, 2),
		show.Fixed(cal.Model.Parameter, 2),
	)
	s.Render(c, status, "calibration", frame.Page{Title: "Calibration", Here: "workshop", Scripts: []string{"js/swatch.js"}}, b)
	return nil
}

// axes lays the plot's axes around the samples, in whole tens of lightness, and
// gives the place of a lightness on them.
func (b *calibrationBody) axes(c reach.Calibration) func(float64) float64 {
	lo, hi := 100.0, 0.0
	for _, p := range c.Samples {
		for _, v := range []float64{p.Measured.Lab[0], p.Predicted.Lab[0], p.Fitted.Lab[0]} {
			lo, hi = min(lo, v), max(hi, v)
		}
	}
	lo, hi = 10*math.Floor((lo-2)/10), 10*math.Ceil((hi+2)/10)
	at := func(v float64) float64 { return 100 * (v - lo) / (hi - lo) }
	for v := lo; v <= hi; v += 10 {
		b.Ticks = append(b.Ticks, PlotTick{at(v), int(v)})
	}
	return at
}

// calibrationWords says in a sentence what the samples are worth.
func calibrationWords(c reach.Calibration) string {
	n := len(c.Samples)
	switch {
	case n == 0:
		return "No sample yet. Until there are some, predictions rest on the model as it is published."
	case n < c.Fewest:
		return fmt.Sprintf("%s so far; %d are needed before anything is learned from them.", show.Plural(n, "sample"), c.Fewest)
	case c.Extent == "nothing":
		return fmt.Sprintf(
			"The %s say that the model fits as it is: nothing that was tried predicts a sample better that it has not seen. Error %s.",
			show.Plural(n, "sample"),
			show.Fixed(c.Before, 1),
		)
	}
	what := "Its parameter is fitted"
	if c.Extent == "strengths" {
		what = "Its parameter and the strength of single lots are fitted"
	}
	return fmt.Sprintf("%s to %s. Error before %s, after %s; on samples left out %s before, %s after.", what, show.Plural(n, "sample"),
		show.Fixed(c.Before, 1), show.Fixed(c.After, 1), show.Fixed(c.LeftOutBefore, 1), show.Fixed(c.LeftOut, 1))
}

func (s *Room) switchCalibration(c *gin.Context) error {
	if err := s.Studio.Reach.UseCalibration(c.Request.Context(), c.PostForm("on") == "yes"); err != nil {
		return err
	}
	frame.GoTo(c, "/calibration", "saved")
	return nil
}

// saveSample adds a sample or changes one.
func (s *Room) saveSample(c *gin.Context) error {
	if err := frame.Parsed(c); err != nil {
		return err
	}
	v := c.Request.PostForm
	hex := frame.HexOf(v.Get("measured.hex"))
	in := reach.SampleInput{Name: v.Get("name"), Note: v.Get("note"), Source: v.Get("source"), Measured: workshop.ColourInput{Hex: &hex}}
	if n, err := strconv.ParseInt(v.Get("blend_id"), 10, 64); err == nil {
		in.BlendID = &n
	}
	edit, _ := strconv.ParseInt(v.Get("sample"), 10, 64)
	var err error
	if edit > 0 {
		err = s.Studio.Reach.UpdateSample(c.Request.Context(), edit, (&frame.Reader{Values: v}).Version(), in)
	} else {
		err = s.Studio.Reach.AddSample(c.Request.Context(), in)
	}
	if err == nil {
		frame.GoTo(c, "/calibration", "saved")
		return nil
	}
	f := frame.Typed(v)
	if now, ok := answer.StaleAs[reach.Calibration](err); ok {
		for _, p := range now.Samples {
			if p.ID == edit {
				f.Stale(p.Version, fmt.Sprintf(": it measured %s there", p.Measured.Hex))
			}
		}
		return s.showCalibration(c, http.StatusConflict, f, edit)
	}
	if !s.Blame(c, &f, err) {
		return err
	}
	return s.showCalibration(c, http.StatusUnprocessableEntity, f, edit)
}
