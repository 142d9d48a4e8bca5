package plate

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
)

// Tared while it moves, what it comes to rest at counts as nothing, whatever was taken or taken back meanwhile; tared at
// rest, what comes afterwards counts.
func TestTaredWhileItMoves(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		mg := rapid.Map(rapid.IntRange(-20000, 20000), func(v int) unit.Milligrams { return unit.Milligrams(v) })
		moving, rest, later := mg.Draw(t, "moving"), mg.Draw(t, "rest"), mg.Draw(t, "later")
		back := unit.Milligrams(rapid.IntRange(0, 9000).Draw(t, "back"))
		p := Plate{Mode: rapid.SampledFrom([]Mode{Bowl, Dishes}).Draw(t, "mode")}
		p.Hear(Heard{Gross: moving})
		p.Tare()
		if p.Mode == Bowl {
			p.Back(back)
		} else {
			back = 0
		}
		assert.Equal(t, back, p.Hear(Heard{Gross: rest, Stable: true, At: 1}).Net)
		assert.Equal(t, later-rest+back, p.Hear(Heard{Gross: later, Stable: true, At: 2}).Net, "once only")
		p.Tare()
		assert.Equal(t, later-rest, p.Hear(Heard{Gross: later + later - rest, Stable: true, At: 3}).Net, "tared at rest")
	})
}
