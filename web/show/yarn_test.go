package show

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// 240 m are 262 yards; 360 m in 100 g are 112 yards in an ounce; 900 cm² are 139.5 square inches;
// 350 g on a square metre are 10.3 ounces on a square yard.
func TestYarnInBothUnits(t *testing.T) {
	yards := Units{Inches: true, Ounces: true}
	assert.Equal(t, "262\u00a0yd", yards.Yarn(240))
	assert.Equal(t, "112\u00a0yd in 1\u00a0oz", yards.Grist(360))
	assert.Equal(t, "139.5", yards.PlainArea(900))
	assert.Equal(t, "10.3", yards.PlainLaid(350))
	assert.Equal(t, "240\u00a0m", Units{}.Yarn(240))
	assert.Equal(t, "360\u00a0m in 100\u00a0g", Units{}.Grist(360))
}

// What is shown and read again is what it was, to half of its last digit.
func TestYarnIsReadAsItIsShown(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		u := Units{Inches: rapid.Bool().Draw(t, "in"), Ounces: rapid.Bool().Draw(t, "oz")}
		v := rapid.Float64Range(1, 5000).Draw(t, "v")
		for _, way := range []struct {
			show func(float64) string
			read func(string, string) (float64, error)
		}{{u.PlainYarn, u.ReadYarn}, {u.PlainGrist, u.ReadGrist}, {u.PlainArea, u.ReadArea}, {u.PlainLaid, u.ReadLaid}} {
			shown := way.show(v)
			back, err := way.read("x", shown)
			require.NoError(t, err)
			assert.Equal(t, shown, way.show(back))
		}
	})
}
