package practising

import (
	"context"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/train"
	"fairtangle/formats"
)

// The size of a picture of a batt, px.
const battWide, battHigh = 640, 170

// Shown is the batt of an exercise, as PNG. A class asks for the same many times: it is drawn once.
func (s *Room) Shown(ctx context.Context, e train.Exercise) ([]byte, error) {
	return s.pics.Of(ctx, keyOf(e.Skill, e.Level, e.Seed, e.ByLightness), func(ctx context.Context) ([]byte, error) {
		return Batt(ctx, e, e.Shown())
	})
}

// Batt draws what carding makes of the lots of an exercise in such shares, as PNG. Where the shares are the same, so is the picture.
func Batt(ctx context.Context, e train.Exercise, parts []float64) ([]byte, error) {
	var sum float64
	for _, p := range parts {
		sum += p
	}
	if !(sum > 0) || len(parts) != len(e.Lots) {
		return nil, fault.New("parts", "Give at least one of them a part.")
	}
	l, err := e.Laying(parts, e.Passes)
	if err != nil {
		return nil, err
	}
	pic := appearance.NewPicture(battWide, battHigh)
	last := len(l.Plan.Passes) + 1
	err = carding.Run(ctx, l.Plan, l.Params, l.Grid, l.Seed, func(stage int, b *carding.Batt, _ []carding.Placed) error {
		if stage == last {
			long, high := fibre.Wave(l.Crimp)
			sheet := appearance.NewSheet(b, &l.Eye.Palette, carding.Face, l.Seed, long, high)
			appearance.Draw(pic, sheet, sheet.Whole(pic.W, pic.H))
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return formats.WritePNG(battWide, battHigh, pic.RGBA(nil))
}
