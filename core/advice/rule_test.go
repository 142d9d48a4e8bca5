package advice

import (
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A rule has a number and a key of its own, says all that it has to say, and is seen in a plan or on the cloth.
func TestRulesAreWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, r := range rules {
		assert.False(t, seen[r.ID] || seen[r.Key], r.ID)
		seen[r.ID], seen[r.Key] = true, true
		for _, said := range []string{r.When, r.Why, r.Do, r.Schools} {
			assert.True(t, strings.HasSuffix(said, "."), "%s: %q", r.ID, said)
		}
		assert.True(t, r.judge != nil || len(r.laid) > 0, r.ID)
		assert.NotEmpty(t, r.Group)
		for _, designer := range []string{"user", "override", "gate", "R0", "R1", "R2", "R3", "R4", "R5", "R6", "R7"} {
			assert.NotContains(t, r.When+r.Why+r.Do+r.Schools, designer, r.ID)
		}
	}
}

// words that stand for figures in the sentences of the rules.
var wordsFor = map[string]float64{
	"a tenth": 0.1, "a fifth": 0.2, "a quarter": 0.25, "a third": 1. / 3, "half": 0.5, "twice": 2, "three times": 3, "four times": 4, "one and a half": 1.5,
	"three fibres": 3, "ten steps": 10, "six months": 6, "once": 1, "two staples": 2, "a quarter more": 1.25, "the cloth holds": 1, "the first tenth": 0.1,
	"more than it takes": 1, "above what it holds": 1, "less than three times": 3, "goes through once": 2,
}

var figure = regexp.MustCompile(`\d+(?:\.\d+)?`)

// Every figure that a rule goes by stands in what it says of when it speaks: as it is, in percent, or as a word.
func TestFiguresStandInTheWords(t *testing.T) {
	for _, r := range rules {
		var said []float64
		for _, n := range figure.FindAllString(r.When, -1) {
			v, err := strconv.ParseFloat(n, 64)
			assert.NoError(t, err)
			said = append(said, v, v/100, 1+v/100)
		}
		for word, v := range wordsFor {
			if strings.Contains(r.When, word) {
				said = append(said, v, 1+v)
			}
		}
		for name, v := range r.figures {
			near := false
			for _, s := range said {
				near = near || math.Abs(s-v) < 1e-9
			}
			assert.True(t, near, "%s goes by %s %g, and says: %s", r.ID, name, v, r.When)
		}
	}
}
