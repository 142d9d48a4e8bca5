package laying

import (
	"context"
	"fmt"

	"fairtangle/core/appearance"
	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/studio/floor"
)

// Parted is what the parts of a foretold batt hold: strips torn off its width, or the
// rolags of a board.
type Parted struct {
	Parts  []carding.Part
	Even   []colour.Linear // each mixed evenly
	All    colour.Linear   // all of them mixed evenly
	From   []float64       // CIEDE2000 of each from that
	Most   float64         // CIEDE2000 between two of them
	Rolags bool
}

// MostParts is into how many parts a batt is divided at most.
const MostParts = 24

// Parts foretells what each of n parts holds after a stage; of strips by weight each
// weighs the same. A board is rolled off in n rolags; n 0 is as its lay-up has it.
func (s *Room) Parts(ctx context.Context, f *Foretelling, stage, n int, byWeight bool) (out Parted, err error) {
	out.Rolags = f.Layup.Bed.Type == layup.Board
	if n == 0 {
		n = 4
		if f.Layup.Rolls != nil {
			n = f.Layup.Rolls.Count
		}
	}
	if n < 1 || n > MostParts {
		return out, fault.New("parts", "A batt is divided into 1 to %d parts.", MostParts)
	}
	if out.Rolags {
		out.Parts, err = s.rolags(ctx, f, n)
	} else {
		var stages []carding.Stage
		if stages, err = s.Stages(ctx, f, true); err == nil && (stage < 1 || stage > len(stages)) {
			err = floor.ErrNotFound
		}
		if err == nil {
			out.Parts = stages[stage-1].Lanes.Parts(f.Plan.Bed.WidthMM, n, byWeight)
		}
	}
	if err != nil {
		return out, err
	}
	out.All, out.Even, out.From, out.Most = f.Palette.Differences(out.Parts)
	return out, nil
}

// rolags are those of a board.
func (s *Room) rolags(ctx context.Context, f *Foretelling, n int) ([]carding.Part, error) {
	key := fmt.Sprintf("%s %d", f.Digest, n)
	return s.rolled.Of(ctx, key, func(ctx context.Context) (out []carding.Part, err error) {
		err = s.after(ctx, f, Sight{Stage: 1, Coarse: true}, func(b *carding.Batt, _ []carding.Placed) {
			out = b.RolagParts(n, len(f.Plan.Components))
		})
		return out, err
	})
}

// drawPart draws one part of a sheet.
func (s *Room) drawPart(ctx context.Context, f *Foretelling, v Sight, pic *appearance.Picture, sheet *appearance.Sheet) error {
	parted, err := s.Parts(ctx, f, v.Stage, v.Of, v.ByWeight)
	if err != nil {
		return err
	}
	if v.Part < 1 || v.Part > len(parted.Parts) {
		return floor.ErrNotFound
	}
	part := parted.Parts[v.Part-1]
	if parted.Rolags {
		draft := f.Layup.LaidPlan.Draft
		if draft == 0 {
			draft = layup.DefaultDraft
		}
		appearance.Roll(pic, sheet, appearance.Tube{Core: part.From, Skin: part.To, Draft: draft, Grams: part.Total()})
		return nil
	}
	strip := sheet.Strip(part.From, part.To)
	appearance.Draw(pic, strip, strip.Whole(v.Width, v.Height))
	return nil
}
