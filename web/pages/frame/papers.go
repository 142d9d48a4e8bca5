package frame

import (
	"slices"

	"github.com/gin-gonic/gin"
)

// CardSizes are the papers that a card fits.
var CardSizes = []string{"A6", "A5", "A4"}

// CardSize is the paper that the address asks for, or else the usual one.
func CardSize(c *gin.Context, usual string) string {
	if size := c.Query("size"); slices.Contains(CardSizes, size) {
		return size
	}
	return usual
}

// How many lines a card holds before it is set smaller, and smaller still.
const (
	denseFrom   = 16
	densestFrom = 30
)

// Dense is how a card of so many lines is set, so that it stays on one page.
func Dense(lines int) string {
	switch {
	case lines >= densestFrom:
		return "densest"
	case lines >= denseFrom:
		return "dense"
	}
	return ""
}
