package yarns

import (
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
