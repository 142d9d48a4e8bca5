package yarns

import (
	"context"
	"slices"

	"fairtangle/core/fibre"
	"fairtangle/core/losses"
	"fairtangle/core/need"
	"fairtangle/studio/recipe"
)

// partOf is a fibre of a blend as a need that goes through so many passes counts it: a blend of fewer joins it later, and one that is
// laid as it is loses nothing but what its fibres lose alone.
func partOf(b NeedBlend, c recipe.Component, passes int) need.Component {
	p := need.Component{Share: b.Share * c.Share, Loses: c.Loses(), Alone: c.Alone, JoinsAt: passes - b.Blend.LosesIn + max(c.JoinsAt, 1)}
	switch {
	case b.Blend.LosesIn > 0:
	case c.Alone == 0:
		p.Loses, p.JoinsAt = losses.Fall{}, 1
	case passes > 0: // the last of what it goes through alone counts as one of the others
		p.Alone, p.JoinsAt = c.Alone-1, passes
	}
	return p
}

// finishingOf is what a yarn of blends usually loses in washing: more by the part of them that was washed at home.
func finishingOf(blends []recipe.Blend) float64 {
	var all, home float64
	for _, b := range blends {
		for _, c := range b.Components {
			all += c.Grams
			if fibre.WashedAtHome(c.Preparation) {
				home += c.Grams
			}
		}
	}
	if all == 0 {
		return need.Finishing
	}
	return need.Finishing + (need.FinishingHome-need.Finishing)*home/all
}

// measureGrist puts a grist that was measured on a sample of the making in the place of one that is
// estimated or not told.
func (s *Room) measureGrist(ctx context.Context, n *Need) error {
	if n.Grist > 0 && n.WPI == 0 || n.MakingID == 0 {
		return nil
	}
	list, err := s.YarnSamplesOf(ctx, n.MakingID)
	if err != nil {
		return err
	}
	if grist, of := MeasuredGrist(list); grist > 0 {
		n.Grist, n.Measured = grist, of
		if n.Length > 0 && !slices.Contains(n.Locked, "weight") {
			n.Weight = 0
		}
	}
	return nil
}
