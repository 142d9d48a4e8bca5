package practising

import (
	"context"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/mix"
	"fairtangle/core/train"
	"fairtangle/formats"
)

// Of a batt of an exercise: the cloth that it is laid on, how it is laid and fed again, and how large its picture is, px.
const (
	battWideMM, battLongMM = 200, 580
	battFullG, battG       = 70.0, 40.0
	layersOfEach           = 2
	stripsAgain            = 4
	lostInEach             = 0.01
	battKind               = "corriedale"
	battWide, battHigh     = 640, 230
)

// Batt draws what carding makes of the lots of an exercise in such shares, as PNG. Where the shares are the same, so is the picture.
func Batt(ctx context.Context, e train.Exercise, parts []float64) ([]byte, error) {
	var sum float64
	for _, p := range parts {
		sum += p
	}
	kind, _ := fibre.FindKind(battKind)
	plan := carding.Plan{
		Bed:        carding.Bed{WidthMM: battWideMM, LengthMM: battLongMM, FullG: battFullG},
		Components: make([]carding.Component, len(e.Lots)), Loss: func(int, int) float64 { return lostInEach },
	}
	if !(sum > 0) || len(parts) != len(e.Lots) {
		return nil, fault.New("parts", "Give at least one of them a part.")
	}
	for range layersOfEach {
		for i, p := range parts {
			if p > 0 {
				plan.Layers = append(plan.Layers, []carding.Lay{{Component: i, To: 1, End: 1, Grams: battG * p / sum / layersOfEach, Method: carding.FeedIt}})
			}
		}
	}
	for range e.Passes {
		plan.Passes = append(plan.Passes, carding.Pass{Strips: stripsAgain, Refeed: carding.Spread})
	}
	if err := plan.Check(); err != nil {
		return nil, err
	}
	cloth, colours := make([]carding.Fibre, len(e.Lots)), make([]colour.Reflectance, len(e.Lots))
	for i, l := range e.Lots {
		cloth[i] = carding.Fibre{StapleMM: kind.StapleMM.Mid(), Density: kind.Density, Thickness: kind.Thickness()}
		c, err := colour.ParseHex(l.Hex)
		if err != nil {
			return nil, err
		}
		colours[i], _ = c.Reflectance()
	}
	palette := carding.NewPalette(mix.Default(), colours, nil)
	pic := appearance.NewPicture(battWide, battHigh)
	last := len(plan.Passes) + 1
	draw := func(stage int, b *carding.Batt, _ []carding.Placed) error {
		if stage == last {
			long, high := fibre.Wave(kind.Crimp)
			sheet := appearance.NewSheet(b, &palette, carding.Face, e.Seed, long, high)
			appearance.Draw(pic, sheet, sheet.Whole(pic.W, pic.H))
		}
		return nil
	}
	if err := carding.Run(ctx, plan, carding.DefaultParams().For(cloth), carding.FineGrid(battWideMM, battLongMM), e.Seed, draw); err != nil {
		return nil, err
	}
	return formats.WritePNG(battWide, battHigh, pic.RGBA(nil))
}
