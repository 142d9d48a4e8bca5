package recipepages

import (
	"errors"
	"fmt"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/web/show"
)

type wantsOfBlend struct{ Href, Text string }

// wantsOf is what the need of a making wants of a blend, and whether the blend is as heavy; nil
// where it has told none.
func (s *Room) wantsOf(c *gin.Context, b recipe.Blend, u show.Units) (*wantsOfBlend, error) {
	n, err := s.Studio.Yarns.NeedOf(c.Request.Context(), b.MakingID)
	if errors.Is(err, floor.ErrNotFound) || err == nil && !n.Enough {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	for _, v := range n.Blends {
		if v.ID == b.ID {
			w := &wantsOfBlend{Href: fmt.Sprintf("/needs/%d", n.ID), Text: u.Grams(v.WantG) + " of it"}
			if v.Apart {
				w.Text += ", other than it had when this page was opened"
			}
			return w, nil
		}
	}
	return nil, nil
}
