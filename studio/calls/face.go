package calls

import (
	"context"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/formats"
	"fairtangle/studio/laying"
)

// Bounds of a picture, in pixels.
const (
	LeastPixels = 16
	MostPixels  = 2000
)

// FaceRequest says which picture of a foretold batt is wanted.
type FaceRequest struct {
	Stage         int
	Side          string // top, back, section
	Width, Height int
}

func (f FaceRequest) check(stages int) error {
	var l fault.List
	if f.Stage < 1 || f.Stage > stages {
		l.Add("stage", "The stages of this batt are 1 to %d.", stages)
	}
	if f.Side != "top" && f.Side != "back" && f.Side != "section" {
		l.Add("side", "A batt is seen from its top, its back or as a section.")
	}
	if f.Width < LeastPixels || f.Width > MostPixels {
		l.Add("width", "A picture is %d to %d pixels wide.", LeastPixels, MostPixels)
	}
	if f.Height < LeastPixels || f.Height > MostPixels {
		l.Add("height", "A picture is %d to %d pixels high.", LeastPixels, MostPixels)
	}
	return l.Err()
}

// Face draws a foretold batt as PNG, from nothing but the request.
func Face(ctx context.Context, q SimulateRequest, f FaceRequest) ([]byte, error) {
	s, err := q.ready()
	if err != nil {
		return nil, err
	}
	if err := f.check(len(s.plan.Passes) + 1); err != nil {
		return nil, err
	}
	s.plan.Passes = s.plan.Passes[:f.Stage-1]
	pic := appearance.NewPicture(f.Width, f.Height)
	err = carding.Run(ctx, s.plan, s.params, s.grid, q.Seed, func(stage int, b *carding.Batt, placed []carding.Placed) error {
		if stage == f.Stage {
			draw(pic, b, s, f.Side, q.Seed, laying.ThingsOf(placed, s.fibres))
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return formats.WritePNG(f.Width, f.Height, pic.RGBA(nil))
}

func draw(pic *appearance.Picture, b *carding.Batt, s simulation, side string, seed uint64, things []appearance.Thing) {
	if side == "section" {
		appearance.DrawSection(pic, appearance.NewSection(b, &s.eye.Palette, seed))
		return
	}
	from := carding.Face
	if side == "back" {
		from = carding.Back
	}
	long, high := fibre.Wave(s.crimp)
	sheet := appearance.NewSheet(b, &s.eye.Palette, from, seed, long, high, things...)
	appearance.Draw(pic, sheet, sheet.Whole(pic.W, pic.H))
}
