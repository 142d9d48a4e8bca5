package web

import (
	"encoding/json"
	"fmt"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTheForecastAndTheBenchSayTheSameWeight compares what comes off after each pass as
// the simulation has it with what the order of the work says, which is worked out from
// the weigh-out's losses.
func TestTheForecastAndTheBenchSayTheSameWeight(t *testing.T) {
	c := sample(t)
	lift := regexp.MustCompile(`"title":"Lift the batt off, pass (\d)","amount":"(~[^"]+)"`)
	compared := 0
	for layup := 1; layup <= 3; layup++ {
		var view struct {
			Stages []struct {
				Facts []struct{ Name, Value string }
			}
		}
		w := c.do("GET", fmt.Sprintf("/layups/%d/card.json", layup), "", "")
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &view))
		for _, m := range lift.FindAllStringSubmatch(c.page(fmt.Sprintf("/layups/%d/bench", layup)), -1) {
			for _, f := range view.Stages[int(m[1][0]-'1')].Facts {
				if f.Name == "Comes off" {
					assert.Equal(t, m[2], f.Value, "lay-up %d, pass %s", layup, m[1])
					compared++
				}
			}
		}
	}
	assert.GreaterOrEqual(t, compared, 4)
}
