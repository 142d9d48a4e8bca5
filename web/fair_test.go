package web

import (
	"fmt"
	"html"
	"regexp"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A table for a fair: its lines add up to what it takes, it makes no more of a blend than there is fibre for, and where there is not enough
// time it says so; what is wrong is said at its field.
func TestATableForAFair(t *testing.T) {
	c := sample(t)
	require.Equal(t, 303, c.form("/blends/3/price", "pieces", "1", "grams", "50", "minutes", "20", "hour", "12", "fees", "5").Code)
	row := regexp.MustCompile(`(?s)<tr><td><svg.*?<td class="n"><b>(\d+)</b></td>.*?>([\d.]+)</a></td><td\s+class="n">([\d.]+)</td><td class="n">([\d.]+)</td><td class="n">(\d+)</td>`)
	for making := 1; making <= 4; making++ {
		for wanted, hours := range map[string]string{"60": "8", "9000": "2"} {
			page := c.page(fmt.Sprintf("/makings/%d/fair?each=50&hours=%s&wanted=%s", making, hours, wanted))
			big := regexp.MustCompile(`<span class="big">([\d.]+)</span>`).FindStringSubmatch(page)
			require.NotNil(t, big)
			total, sum, minutes := number(t, big[1]), 0.0, 0.0
			for _, r := range row.FindAllStringSubmatch(page, -1) {
				assert.LessOrEqual(t, number(t, r[1]), number(t, r[5]), "no more than there is fibre for")
				assert.InDelta(t, number(t, r[1])*number(t, r[2]), number(t, r[3]), 0.005)
				sum += number(t, r[3])
				minutes += number(t, r[1]) * number(t, r[4])
			}
			assert.InDelta(t, total, sum, 0.01)
			for _, m := range regexp.MustCompile(`href="(/blends/\d+/price[^"]*)">([\d.]+)</a>`).FindAllStringSubmatch(page, -1) {
				assert.Contains(t, c.page(html.UnescapeString(m[1])), `<span class="big">`+m[2]+"</span>", "the same price on its own page")
			}
			assert.LessOrEqual(t, minutes, number(t, hours)*60+1)
			if total < number(t, wanted) {
				assert.Contains(t, page, "all there is time and fibre for")
			}
		}
	}
	for field, v := range map[string]string{"hours": "0", "wanted": "lots", "each": "-1", "minutes": "x"} {
		w := c.do("GET", "/makings/3/fair?"+field+"="+v, "", "")
		assert.Equal(t, 422, w.Code, field)
		assert.Contains(t, w.Body.String(), `aria-invalid="true"`, field)
	}
}

func number(t *testing.T, s string) float64 {
	v, err := strconv.ParseFloat(s, 64)
	require.NoError(t, err)
	return v
}
