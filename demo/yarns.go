package demo

import (
	"context"

	"fairtangle/core/yarn"
	"fairtangle/studio"
	"fairtangle/studio/yarns"
)

// fillYarns spins the border of the throw in seven strips, chain-plied, and notes a sample of the
// mitts' yarn.
func fillYarns(ctx context.Context, s *studio.Studio, border, mitts int64) error {
	y, err := s.Yarns.YarnOf(ctx, border)
	if err != nil {
		return err
	}
	plan := y.YarnPlan
	plan.Parts, plan.Ply = 7, yarn.Chain
	if _, err := s.Yarns.SaveYarn(ctx, y.ID, y.Version, plan); err != nil {
		return err
	}
	_, err = s.Yarns.AddYarnSample(ctx, mitts, yarns.YarnSample{Name: "Long draw, two-ply", SampleTold: yarns.SampleTold{
		Ply: yarn.Two, Twist: "small whorl, long draw from the rolag", Checked: "plied back: hangs still", WPI: 13, LengthM: 9.6, WeightG: 3.1, Sheds: "no",
		Hand: "springy, a little hairy", Liked: true,
		Swatches: []yarns.SwatchTold{{Tool: "thinner needles", Stitches: 24, Rows: 33}, {Tool: "thicker needles", Stitches: 22, Rows: 30}},
	}})
	return err
}
