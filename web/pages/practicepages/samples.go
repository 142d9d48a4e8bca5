package practicepages

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// samplesBody are the samples of a class side by side: what was foreseen, and what came.
type samplesBody struct {
	Making recipe.Making
	Rows   []sampleRow
	Photos []frame.Option
	Some   bool // one at least was measured
}

// sampleRow is the sample of a pupil; Hex is empty until it was measured.
type sampleRow struct {
	Name, Href    string
	Foreseen, Hex string
	Words, DeltaE string
	Sample        int64
}

// mostPhotos is how many photos are offered to measure on.
const mostPhotos = 12

// classSamples shows the samples of a class side by side.
func (s *Room) classSamples(c *gin.Context) error {
	id, _, err := s.Named(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	var b samplesBody
	if b.Making, err = s.Studio.Recipe.Making(ctx, id); err != nil {
		return err
	}
	blends, err := s.Studio.Recipe.BlendsSeen(ctx, id)
	if err != nil {
		return err
	}
	measured, err := s.Studio.Reach.Calibration(ctx)
	if err != nil {
		return err
	}
	latest := map[int64]reach.SamplePoint{}
	for _, p := range measured.Samples {
		if p.BlendID != nil && p.ID > latest[*p.BlendID].ID {
			latest[*p.BlendID] = p
		}
	}
	for _, v := range blends {
		row := sampleRow{Name: v.Name, Href: fmt.Sprintf("/blends/%d", v.ID), Foreseen: v.Hex}
		if p, known := latest[v.ID]; known {
			b.Some = true
			row.Foreseen, row.Hex, row.Sample = p.Predicted.Hex, p.Measured.Hex, p.ID
			row.Words, row.DeltaE = p.Apart().Words, show.Fixed(p.Before, 1)
		}
		b.Rows = append(b.Rows, row)
	}
	photos, err := s.Studio.Shelf.Photos(ctx)
	if err != nil {
		return err
	}
	for _, p := range photos[:min(mostPhotos, len(photos))] {
		b.Photos = append(b.Photos, frame.Option{Value: fmt.Sprintf("/photos/%d?making=%d", p.ID, id), Label: p.Name})
	}
	s.Render(c, http.StatusOK, "classsamples", frame.Page{Title: "Samples of " + b.Making.Name, Here: "makings"}, b)
	return nil
}

// keepClassSample keeps the colour that a photo shows of a pupil’s sample.
func (s *Room) keepClassSample(c *gin.Context) error {
	id, _, err := s.Named(c)
	if err != nil {
		return err
	}
	if _, err := s.Posted(c); err != nil {
		return err
	}
	of, err := strconv.ParseInt(c.PostForm("blend"), 10, 64)
	if err != nil {
		return fault.New("blend", "Choose whose sample it is.")
	}
	b, err := s.Studio.Recipe.Blend(c.Request.Context(), of)
	if err != nil {
		return err
	}
	if b.MakingID != id {
		return fault.New("blend", "That blend is of another making.")
	}
	hex := c.PostForm("hex")
	if err := s.Studio.Reach.AddSample(c.Request.Context(), reach.SampleInput{
		Name: b.Name, BlendID: &of, Measured: workshop.ColourInput{Hex: &hex}, Source: "photo", Note: "measured in a lesson",
	}); err != nil {
		return err
	}
	photo, err := strconv.ParseInt(c.PostForm("photo"), 10, 64)
	if err != nil {
		frame.GoTo(c, fmt.Sprintf("/makings/%d/class/samples", id), "noted")
		return nil
	}
	frame.GoTo(c, fmt.Sprintf("/photos/%d?making=%d&kept=%d", photo, id, of), "noted") // where the next one is read
	return nil
}
