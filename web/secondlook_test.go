package web

import (
	"encoding/json"
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lookAt is the second look where a maker stands.
func lookAt(t *testing.T, c client, where string) (v struct {
	Said  string
	Open  []struct{ Rule, What, Mends, Mend, Do, Why string }
	More  []struct{ Rule, What, Mends, Mend, Do, Why string }
	Asks  []struct{ Key, Ask, Unit string }
	There []struct{ Text, Href string }
	Told  []struct{ Key, Text string }
	Quiet []struct{ What, Because string }
}) {
	w := c.do("GET", "/second.json?"+where, "", "")
	require.Equal(t, 200, w.Code, "%s: %s", where, w.Body.String())
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &v))
	return v
}

// At every place of every making of the sample world something or nothing is said, never a stop; the
// ways to where more is told lead somewhere.
func TestTheSecondLookStandsEverywhere(t *testing.T) {
	c := sample(t)
	hrefs := map[string]bool{}
	look := func(where string) {
		v := lookAt(t, c, where)
		assert.NotContains(t, v.Said, "stop", where)
		assert.LessOrEqual(t, len(v.Open), 3, where)
		assert.NotEmpty(t, v.Said, where)
		for _, w := range v.There {
			hrefs[w.Href] = true
		}
	}
	for making := 1; making <= 3; making++ {
		for _, at := range []string{"need", "fibres"} {
			look(fmt.Sprintf("at=%s&making=%d", at, making))
		}
	}
	for blend := 1; blend <= 10; blend++ {
		for _, at := range []string{"blend", "lay-up", "weigh", "card", "yarn"} {
			look(fmt.Sprintf("at=%s&blend=%d", at, blend))
		}
	}
	look("at=gradient&gradient=1")
	look("at=card&blend=10&run=1")
	for href := range hrefs {
		path, _, _ := strings.Cut(href, "#")
		assert.Less(t, c.do("GET", path, "", "").Code, 400, href)
	}
	for _, wrong := range []string{"at=nowhere&blend=1", "at=blend&blend=999", "at=blend&blend=x", "at=blend", "at=card&blend=1&layup=3", "at=gradient&gradient=99"} {
		assert.Equal(t, 404, c.do("GET", "/second.json?"+wrong, "", "").Code, wrong)
	}
	for path, want := range map[string]string{
		"/makings/3": "at=fibres", "/blends/6": "at=blend", "/gradients/1": "at=gradient", "/layups/1": "at=lay-up",
		"/weighouts/1": "at=weigh", "/layups/1/card": "at=card", "/layups/1/yarn": "at=yarn", "/runs/1": "at=card",
	} {
		assert.Contains(t, c.page(path), `data-where="`+want, path)
	}
	need := c.do("GET", "/makings/3/need", "", "").Header().Get("Location")
	assert.Contains(t, c.page(need), `data-where="at=need`)
}

// Who weighs in ounces reads, and tells, in ounces and inches.
func TestTheSecondLookInOunces(t *testing.T) {
	c := sample(t)
	c.weighsInOunces()
	metric := regexp.MustCompile(`\d\s?(g|mm|cm)\b`)
	for blend := 1; blend <= 10; blend++ {
		for _, at := range []string{"blend", "lay-up", "weigh", "card", "yarn"} {
			v := lookAt(t, c, fmt.Sprintf("at=%s&blend=%d", at, blend))
			for _, f := range append(v.Open, v.More...) {
				for _, said := range []string{f.What, f.Mend, f.Do, f.Why} {
					assert.NotRegexp(t, metric, said)
				}
			}
			for _, a := range v.Asks {
				assert.NotContains(t, []string{"g", "mm", "cm³"}, a.Unit, a.Ask)
			}
		}
	}
	code, got := c.json("POST", "/second/tell", `{"of":"plan","about":6,"name":"","key":"dowel_mm","typed":"0.5"}`)
	require.Equal(t, 200, code, got)
	told := lookAt(t, c, "at=yarn&blend=6").Told
	require.Len(t, told, 1)
	assert.Contains(t, told[0].Text, "0.5")
	assert.NotContains(t, told[0].Text, "mm")
}

// What is told is checked at its question, changes what is said, and can be taken back.
func TestWhatIsToldChangesWhatIsSaid(t *testing.T) {
	c := sample(t)
	has := func() bool {
		v := lookAt(t, c, "at=card&blend=6")
		for _, f := range append(v.Open, v.More...) {
			if f.Rule == "R23" {
				return true
			}
		}
		return false
	}
	assert.False(t, has())
	for _, wrong := range []string{
		`{"of":"plan","about":6,"name":"","key":"per_minute","typed":"fast"}`, `{"of":"plan","about":6,"name":"","key":"per_minute","typed":"-3"}`,
		`{"of":"plan","about":6,"name":"","key":"wisps","answer":2}`, `{"of":"lot","about":6,"name":"","key":"wisps","answer":1}`,
		`{"of":"plan","about":999,"name":"","key":"wisps","answer":1}`, `{"of":"plan","about":6,"name":"","key":"nothing","answer":1}`,
	} {
		code, got := c.json("POST", "/second/tell", wrong)
		assert.Equal(t, 422, code, "%s: %v", wrong, got)
	}
	code, got := c.json("POST", "/second/tell", `{"of":"plan","about":6,"name":"","key":"per_minute","typed":"60"}`)
	require.Equal(t, 200, code, got)
	assert.True(t, has(), "sixty turns a minute jerk")
	undo, err := json.Marshal(got)
	require.NoError(t, err)
	code, got = c.json("POST", "/second/undo", string(undo))
	require.Equal(t, 200, code, got)
	assert.False(t, has())
}

// A mend pressed where its page does not change it: it is kept, and taken back only while nothing else was changed there.
func TestAMendPressedElsewhere(t *testing.T) {
	c := sample(t)
	press := `{"at":"fibres","blend":6,"layup":0,"run":0,"rule":"R08","component":2,"layer":-1}`
	code, done := c.json("POST", "/second/mend", press)
	require.Equal(t, 200, code, done)
	assert.Equal(t, "both", done["kind"], "its lay-up follows")
	assert.NotContains(t, fmt.Sprint(lookAt(t, c, "at=blend&blend=6")), "R08")
	assert.NotContains(t, fmt.Sprint(lookAt(t, c, "at=lay-up&blend=6")), "are not laid yet")
	code, again := c.json("POST", "/second/mend", press)
	assert.Equal(t, 422, code, again)
	undo, err := json.Marshal(done)
	require.NoError(t, err)
	code, got := c.json("POST", "/second/undo", string(undo))
	require.Equal(t, 200, code, got)
	assert.Contains(t, fmt.Sprint(lookAt(t, c, "at=blend&blend=6")), "R08")
	code, got = c.json("POST", "/second/undo", string(undo))
	assert.Contains(t, []int{409, 422}, code, "it was changed since: %v", got)
	code, got = c.json("POST", "/second/undo", `{"kind":"nothing","id":1,"version":1,"before":null,"followed":null}`)
	assert.Equal(t, 422, code, got)
}

// How a lot is: what was typed stays where it was refused; told, the lot waits on the shelf, until it is put right.
func TestALotSaysHowItIs(t *testing.T) {
	c := sample(t)
	assert.NotContains(t, c.page("/shelf"), "was dyed by hand")
	w := c.form("/lots/5/how", "washed_hours_ago", "a while", "damp", "")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), `value="a while"`)
	assert.Contains(t, w.Body.String(), "such as 12")
	w = c.form("/lots/5/how", "over_weight_pct", "900")
	assert.Equal(t, 422, w.Code)
	w = c.form("/lots/5/how", "dyed_by_hand", "1", "damp", "1", "washed_hours_ago", "3")
	require.Equal(t, 303, w.Code, w.Body.String())
	page := c.page("/lots/5")
	assert.Regexp(t, `name="washed_hours_ago" value="3"`, page)
	shelf := c.page("/shelf")
	assert.Contains(t, shelf, "was dyed by hand: test on white, wet")
	assert.Contains(t, shelf, "is damp: let it dry through")
	require.Equal(t, 303, c.form("/lots/5/how", "dyed_by_hand", "1", "bleed_tested", "1", "damp", "0", "washed_hours_ago", "30").Code)
	shelf = c.page("/shelf")
	assert.NotContains(t, shelf, "was dyed by hand")
	assert.NotContains(t, shelf, "is damp")
	require.Equal(t, 303, c.form("/lots/5/how", "dyed_by_hand", "", "bleed_tested", "", "damp", "", "washed_hours_ago", "").Code)
	assert.NotRegexp(t, `name="washed_hours_ago" value="\d`, c.page("/lots/5"), "it is told no more")
	assert.Equal(t, 404, c.form("/lots/999/how", "damp", "1").Code)
}

// Every rule has its page; where there is something to see, it is drawn as it goes wrong and as it goes well.
func TestWhyPagesWithTheirDrawings(t *testing.T) {
	c := sample(t)
	drawn := 0
	for _, id := range regexp.MustCompile(`/advice/([RL]\d\d)"`).FindAllStringSubmatch(c.page("/advice"), -1) {
		page := c.page("/advice/" + id[1])
		for _, code := range []string{"_pct", "share(", "licker_in", "_mm", "tpi", ".csv"} {
			assert.NotContains(t, page, code, "%s is in plain words", id[1])
		}
		if strings.Contains(page, "Goes wrong.") {
			drawn++
			assert.Contains(t, page, "Goes well.")
			assert.GreaterOrEqual(t, strings.Count(page, "<path d=\"M"), 2, id[1])
			assert.NotContains(t, page, "NaN")
		}
	}
	assert.Greater(t, drawn, 30)
	page := c.page("/layups/1/card?what=" + url.QueryEscape("R08_2_-1"))
	assert.Contains(t, page, "if you did what the second look says")
	code, got := c.json("GET", "/layups/1/beside?other=1&way=&strips=4&refeed=spread&what=R08_2_-1", "")
	require.Equal(t, 200, code, got)
	assert.Contains(t, got["title"], "If you did: Slippery fibre 30")
	code, _ = c.json("GET", "/layups/1/beside?other=1&way=&what=R99_1_1", "")
	assert.Equal(t, 422, code)
}
