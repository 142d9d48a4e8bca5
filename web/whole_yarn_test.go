package web

import (
	"net/http"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// The blends of a making are spun one after the other: in the order asked for, without those left out; a bridge is a blend of equal
// parts of both, two thirds of the lighter one, and lies between them; pressed twice it is one.
func TestTheYarnOfAWholeMaking(t *testing.T) {
	c := sample(t)
	page := c.page("/makings/3/whole?ply=single")
	assert.Contains(t, page, "6 abrupt steps")
	first := func(page string) string {
		return regexp.MustCompile(`(?s)wholerow.*?<a href="/blends/(\d+)"`).FindStringSubmatch(page)[1]
	}
	assert.Equal(t, "3", first(page))
	assert.Equal(t, "6", first(c.page("/makings/3/whole?row=6,4")))
	assert.Contains(t, c.page("/makings/3/whole?row=3,4~6"), "left out")
	assert.Contains(t, c.page("/makings/3/whole?ply=two&plain=%233b3330"), "m of yarn")

	press := []string{"key", "a-bridge-once", "from", "3", "to", "4", "row", "3,4,5,6", "asked", "ply=single&row=old"}
	w := c.form("/makings/3/whole/bridge", press...)
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	at := w.Header().Get("Location")
	assert.Regexp(t, `row=3%2C\d+%2C4%2C5%2C6`, at)
	assert.Contains(t, at, "ply=single")
	page = c.page(at)
	assert.Contains(t, page, "Low Water to First Flood")
	id := regexp.MustCompile(`row=3%2C(\d+)%2C`).FindStringSubmatch(at)[1]
	_, b := c.json("GET", api.Root+"/blends/"+id, "")
	assert.Equal(t, 160.0, b["total_g"])
	var sum float64
	for _, v := range list(b["components"]) {
		sum += v.(map[string]any)["share"].(float64)
	}
	assert.InDelta(t, 1, sum, 1e-9)
	c.form("/makings/3/whole/bridge", press...)
	assert.Len(t, regexp.MustCompile(`Low Water to First Flood</a>`).FindAllString(c.page("/makings/3/whole"), -1), 1)

	for ask, says := range map[string]string{
		"ply=four": "single, two, three or chain", "plain=rustlike": "six digits or letters", "grist=soft": `value="soft"`, "ply=chain&plain=%23336699": "one strand",
		"split=anyhow": "each-rung",
	} {
		w := c.do("GET", "/makings/3/whole?"+ask, "", "")
		assert.Equal(t, 422, w.Code, ask)
		assert.Contains(t, w.Body.String(), says, ask)
		assert.Contains(t, w.Body.String(), "In which order", "the row is there all the same")
	}
	for _, wrong := range [][]string{{"from", "3", "to", "3"}, {"from", "3", "to", "999"}, {"from", "3", "to", "1"}, {}} {
		assert.Contains(t, []int{400, 422}, c.form("/makings/3/whole/bridge", wrong...).Code, wrong)
	}
	assert.Contains(t, c.page("/makings/3/whole?row=999,x,-1~zz"), "In which order")
}
