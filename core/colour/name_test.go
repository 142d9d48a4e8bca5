package colour

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestNamesThatAnyoneWouldGive(t *testing.T) {
	for hex, want := range map[string]string{
		"#ffffff": "white", "#000000": "black", "#808080": "mid grey", "#f3ecd9": "cream", "#c8c8c8": "pale grey", "#3a3a3c": "dark grey",
		"#1d4c55": "deep teal", "#26324a": "dark blue", "#a03a32": "deep red", "#d9b23a": "bright yellow", "#5d8a45": "green",
		"#76743f": "olive", "#6b4c35": "deep rust", "#e0469a": "pink", "#5f4f73": "deep violet",
	} {
		c, err := ParseHex(hex)
		require.NoError(t, err)
		assert.Equal(t, want, Name(c.Lab()), hex)
	}
}

// Whatever the colour, it has a name; greys have no hue as their noun, and a
// lighter shade of a colour is never called deeper.
func TestEveryColourHasAName(t *testing.T) {
	rank := map[string]int{"dark": 0, "deep": 1, "muted": 2, "soft": 3, "bright": 3, "pale": 4}
	rapid.Check(t, func(t *rapid.T) {
		c := anyLab(t, "c")
		name := Name(c)
		require.NotEmpty(t, strings.TrimSpace(name))
		if c.Chroma() < 4 {
			assert.Regexp(t, "grey|white|black", name)
		}
		lighter := Lab{min(100, c.L+rapid.Float64Range(0, 60).Draw(t, "by")), c.A, c.B}
		if c.Chroma() >= 14 {
			shade := func(l Lab) int {
				first, _, two := strings.Cut(Name(l), " ")
				if v, ok := rank[first]; ok && two {
					return v
				}
				return 2
			}
			assert.LessOrEqual(t, shade(c), shade(lighter), "%s, %s", name, Name(lighter))
		}
	})
}
