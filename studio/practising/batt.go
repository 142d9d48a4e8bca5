package practising

import (
	"context"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/train"
	"fairtangle/core/yarn"
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
			return drawAs(ctx, pic, e, l, b)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return formats.WritePNG(battWide, battHigh, pic.RGBA(nil))
}

// Of the shapes: what of a batt is rolled (g), how long fibre is drawn as it is; stitches and rows of a swatch, and the yarn in a stitch
// (mm); how many lengths of a strand lie below each other, and pixels to a millimetre of them.
const (
	rolledG, rolledDraft = 1.1, 1.75
	stitches, rows       = 36, 10
	stitchMM             = 8
	lengths, perMM       = 6, 16.0
	strips               = 4
)

// drawAs draws a batt as an exercise shows it.
func drawAs(ctx context.Context, pic *appearance.Picture, e train.Exercise, l train.Laid, b *carding.Batt) error {
	long, high := fibre.Wave(l.Crimp)
	sheet := appearance.NewSheet(b, &l.Eye.Palette, carding.Face, l.Seed, long, high)
	switch e.Shape {
	case train.AsRolag:
		appearance.Roll(pic, sheet, appearance.Tube{Skin: l.Plan.Bed.LengthMM, Draft: rolledDraft, Grams: rolledG})
	case train.AsStrand, train.AsSwatch:
		return drawSpun(ctx, pic, e, l, b)
	default:
		appearance.Draw(pic, sheet, sheet.Whole(pic.W, pic.H))
	}
	return nil
}

// drawSpun draws the single that a batt is spun into, in lengths from all of it or knitted.
func drawSpun(ctx context.Context, pic *appearance.Picture, e train.Exercise, l train.Laid, b *carding.Batt) error {
	f := b.Field(len(e.Lots))
	y, err := yarn.Plan(yarn.Request{
		Field: yarn.Field{WidthMM: f.WidthMM, LengthMM: f.LengthMM, Lanes: f.Lanes, Cells: f.Cells, N: f.N, Grams: f.Grams}, Way: yarn.Strips, Parts: strips,
		Order: yarn.LeftToRight, From: yarn.End, Ply: yarn.Single, Tex: yarn.UsualTex, Seed: l.Seed, Mix: l.Mix,
	})
	if err != nil {
		return err
	}
	s := appearance.NewStrand(y, &l.Eye.Palette, f.Unopened, appearance.Spun{Tex: yarn.UsualTex}, l.Seed)
	if e.Shape == train.AsSwatch {
		w := appearance.Swatch{Stitches: stitches, Rows: rows, StitchMM: stitchMM}
		w.FromM = max(0, y.PliedM-w.UsesM()) / 2
		return appearance.DrawSwatch(ctx, pic, s, w, float64(pic.W)/(stitches+2))
	}
	for i := range lengths {
		row := appearance.NewPicture(pic.W, pic.H/lengths)
		appearance.DrawStrand(row, s, 1000*y.PliedM*(float64(i)+0.5)/lengths, perMM)
		copy(pic.Pix[i*len(row.Pix):], row.Pix)
	}
	return nil
}
