package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

type adviceSeen struct {
	Findings []struct {
		Rule     string             `json:"rule"`
		Key      string             `json:"key"`
		Severity string             `json:"severity"`
		Values   map[string]float64 `json:"values"`
		What     string             `json:"what"`
		Why      string             `json:"why"`
		Mend     *struct {
			Verb    string    `json:"verb"`
			Preview string    `json:"preview"`
			Ends    []string  `json:"ends"`
			Shares  []float64 `json:"shares"`
		} `json:"mend"`
	} `json:"findings"`
	Checked  []string `json:"checked"`
	Unjudged []struct {
		Rule string `json:"rule"`
		Tell string `json:"tell"`
	} `json:"not_judged"`
}

func advised(t *testing.T, c client, body string) (a adviceSeen) {
	w := c.do("POST", api.Root+"/advice", "application/json", body)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &a))
	return a
}

// Two fifths of viscose with wool, on a drum: it is told, with its figure, its reason and a mend that
// brings it to three tenths.
func TestAPlanIsLookedOver(t *testing.T) {
	c := sample(t)
	const slippery = `{"components":[{"name":"shine","kind":"viscose","share":0.42},{"name":"wool","kind":"corriedale","share":0.58}],
		"equipment":{"preset":"drum_standard_hand"},"passes":2,"total_g":120,"step_g":0.1,"units":2,"sampled":false}`
	a := advised(t, c, slippery)
	found := false
	for _, f := range a.Findings {
		if f.Rule != "R08" {
			continue
		}
		found = true
		assert.Equal(t, "slippery_share_high", f.Key)
		assert.Equal(t, "caution", f.Severity)
		assert.Equal(t, map[string]float64{"share": 0.42, "limit": 0.3}, f.Values)
		assert.Equal(t, "42 % of it is slippery.", f.What)
		require.NotNil(t, f.Mend)
		assert.InDeltaSlice(t, []float64{0.3, 0.7}, f.Mend.Shares, 1e-9)
		assert.Contains(t, f.Mend.Ends, "R08")
	}
	assert.True(t, found)
	assert.Contains(t, a.Checked, "R16")
	assert.NotContains(t, a.Checked, "R57", "the humidity was not told")
	for _, u := range a.Unjudged {
		assert.NotEmpty(t, u.Tell, u.Rule)
		assert.NotContains(t, a.Checked, u.Rule)
	}
	own := advised(t, c, strings.Replace(slippery, `"passes":2`, `"bounds":{"R08 from":0.5},"passes":2`, 1))
	for _, f := range own.Findings {
		assert.NotEqual(t, "R08", f.Rule, "a bound of the maker's own")
	}
}

// Severe ones come first, and a plan without fault has none.
func TestStopsComeFirst(t *testing.T) {
	c := sample(t)
	a := advised(t, c, `{"components":[{"name":"raw","kind":"romney","preparation":"raw_fleece","share":0.5},{"name":"wool","kind":"corriedale","share":0.5,"washed_hours_ago":5}],
		"equipment":{"preset":"drum_standard_hand"},"total_g":300,"units":1,"passes":5}`)
	rank, last := map[string]int{"stop": 0, "caution": 1, "hint": 2}, 0
	for _, f := range a.Findings {
		require.GreaterOrEqual(t, rank[f.Severity], last)
		last = rank[f.Severity]
	}
	assert.Equal(t, "stop", a.Findings[0].Severity)
	good := advised(t, c, `{"components":[{"name":"wool","kind":"corriedale","share":1}],"equipment":{"preset":"drum_standard_hand"},"total_g":50,"units":1,"passes":2,"sampled":true}`)
	assert.Empty(t, good.Findings)
}

func TestWhatCanNotBeLookedOverNamesItsField(t *testing.T) {
	c := sample(t)
	for body, field := range map[string]string{
		`{}`: "components", `{"components":[{"kind":"steel","share":1}]}`: "components[0].kind", `{"components":[{"kind":"merino","share":0.5}]}`: "components",
		`{"components":[{"kind":"merino","share":1}],"use":"sails"}`: "use", `{"components":[{"kind":"merino","share":1}],"goal":"loud"}`: "goal",
		`{"components":[{"kind":"merino","share":1}],"equipment":{"preset":"loom"}}`: "equipment.preset", `{"components":[{"kind":"merino","share":1}],"passes":99}`: "passes",
		`{"components":[{"kind":"merino","share":1}],"layers":[{"lays":[{"component":3,"grams":5,"method":"feed"}]}]}`:  "layers[0].lays[0].component",
		`{"components":[{"kind":"merino","share":1}],"layers":[{"lays":[{"component":0,"grams":5,"method":"throw"}]}]}`: "layers[0].lays[0].method",
		`{"components":[{"kind":"merino","share":1,"colour":{"hex":"no"}}]}`:                                            "components[0].colour",
	} {
		code, got := c.json("POST", api.Root+"/advice", body)
		assert.Equal(t, 422, code, body)
		assert.Contains(t, fmt.Sprint(got["errors"]), field, body)
	}
}

// second is the second look beside a blend.
func second(t *testing.T, c client, blend int) (v struct {
	Said string `json:"said"`
	Open []struct {
		Rule      string `json:"rule"`
		Component int    `json:"component"`
		Severity  string `json:"severity"`
		What      string `json:"what"`
		Mends     string `json:"mends"`
		Effect    string `json:"effect"`
	} `json:"open"`
	More []struct{ Rule string } `json:"more"`
}) {
	w := c.do("GET", fmt.Sprintf("/second.json?at=blend&blend=%d", blend), "", "")
	require.Equal(t, 200, w.Code, w.Body.String())
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &v))
	return v
}

// The sample world has no stop; of its blends three findings at most are open.
func TestTheSampleWorldHasNoStop(t *testing.T) {
	c := sample(t)
	for blend := 1; blend <= 10; blend++ {
		v := second(t, c, blend)
		assert.LessOrEqual(t, len(v.Open), 3)
		for _, f := range v.Open {
			assert.NotEqual(t, "stop", f.Severity, "blend %d: %s", blend, f.What)
		}
	}
}

// A press mends it: slippery fibre goes to three tenths, the total stays, and undo brings it back.
func TestABlendIsMendedByAPress(t *testing.T) {
	c := sample(t)
	v := second(t, c, 6)
	at := -2
	for _, f := range v.Open {
		if f.Rule == "R08" {
			at = f.Component
			assert.Equal(t, "both", f.Mends, "its lay-up follows")
			assert.Contains(t, f.Effect, "CIEDE2000")
		}
	}
	require.Equal(t, 2, at, "the one of which there is most")
	_, b := c.json("GET", api.Root+"/blends/6", "")
	press := fmt.Sprintf(`{"version":%v,"verb":"mend","key":"R08","at":2,"value":0}`, b["version"])
	code, now := c.json("POST", api.Root+"/blends/6/changes", press)
	require.Equal(t, 200, code, now)
	slippery := 0.0
	for _, x := range now["components"].([]any) {
		if v := x.(map[string]any); v["name"] == "tussah, raw honey" || v["name"] == "flax, bleached" {
			slippery += v["share"].(float64)
		}
	}
	assert.InDelta(t, 0.3, slippery, 1e-6)
	assert.Equal(t, b["total_g"], now["total_g"])
	for _, f := range second(t, c, 6).Open {
		assert.NotEqual(t, "R08", f.Rule)
	}
	code, got := c.json("POST", api.Root+"/blends/6/changes", fmt.Sprintf(`{"version":%v,"verb":"mend","key":"R08","at":2,"value":0}`, now["version"]))
	assert.Equal(t, 422, code, got)
	code, back := c.json("POST", api.Root+"/blends/6/steps", fmt.Sprintf(`{"version":%v,"way":"undo"}`, now["version"]))
	require.Equal(t, 200, code, back)
	assert.Contains(t, fmt.Sprint(second(t, c, 6).Open), "R08")
}

// A rule is silenced here with a reason, or for good, and speaks again; its figures can be set.
func TestARuleIsQuietAndHasItsFigures(t *testing.T) {
	c := sample(t)
	has := func() bool { return strings.Contains(fmt.Sprint(second(t, c, 6)), "R08") }
	require.True(t, has())
	w := c.form("/advice/R08/silence?blend=6", "reason", "")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), `action="/advice/R08/silence?blend=6"`, "with a reason it is silenced where it was asked for")
	assert.Contains(t, w.Body.String(), "Be quiet in Tide Table throw")
	w = c.form("/advice/R08/silence?blend=6", "reason", "I like it drapey")
	require.Equal(t, 303, w.Code, w.Body.String())
	assert.False(t, has())
	assert.Contains(t, second(t, c, 6).Said, "quiet")
	page := c.page("/advice")
	assert.Contains(t, page, "I like it drapey")
	assert.Contains(t, page, "in Tide Table throw")
	w = c.form("/bin/discard", "table", "silences", "id", "1", "back", "/advice")
	require.Equal(t, 303, w.Code)
	assert.True(t, has())
	w = c.form("/advice/R08/bounds", "R08 from", "much", "R08 to", "0.6")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), `value="much"`)
	require.Equal(t, 303, c.form("/advice/R08/bounds", "R08 from", "0.4", "R08 to", "0.6").Code)
	assert.False(t, has(), "two fifths are enough for this maker")
	assert.Contains(t, c.page("/advice/R08"), "usual is 0.3")
	require.Equal(t, 303, c.form("/advice/R08/bounds", "R08 from", "0.3").Code)
	assert.True(t, has())
	assert.Equal(t, 404, c.do("GET", "/advice/R99", "", "").Code)
}

// The knots say that something waits, on the pages after it; a silence takes it off.
func TestAKnotSaysThatSomethingWaits(t *testing.T) {
	c := sample(t)
	for _, path := range []string{"/layups/1", "/layups/1/card", "/layups/1/yarn", "/weighouts/1"} {
		for _, knot := range []string{"Blend", "Lay-up", "Card"} {
			assert.Contains(t, c.page(path), `title="1 to look at again">`+knot, path)
		}
	}
	require.Equal(t, 303, c.form("/advice/R08/silence?blend=6", "reason", "it is to drape").Code)
	assert.NotContains(t, c.page("/layups/1"), `to look at again">Blend`)
	assert.Contains(t, c.page("/layups/1"), `title="1 to look at again">Lay-up`)
	assert.NotContains(t, c.page("/layups/3"), "to look at again", "only hints wait there")
}
