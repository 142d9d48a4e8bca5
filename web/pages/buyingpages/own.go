package buyingpages

import (
	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/buying"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// addLine adds a line of the maker's own to a list.
func (s *Room) addLine(c *gin.Context) error {
	return s.changedList(c, func(n int64, r *frame.Reader, u show.Units) error {
		v := r.Values
		in := buying.OwnLine{Name: v.Get("own.name"), Kind: v.Get("own.kind"), Hex: frame.HexOf(v.Get("own.hex")), For: v.Get("own.for"),
			Grams: r.Grams(u, "own.grams")}
		if err := r.Wrong.Err(); err != nil {
			return err
		}
		_, err := s.Studio.Buying.AddLine(c.Request.Context(), n, r.Version(), in)
		return fault.Under("own", err)
	})
}

// dropLine takes a line of the maker's own off a list.
func (s *Room) dropLine(c *gin.Context) error {
	return s.changedList(c, func(n int64, r *frame.Reader, _ show.Units) error {
		_, err := s.Studio.Buying.DropLine(c.Request.Context(), n, r.Version(), frame.IDIn(r))
		return err
	})
}
