package web

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/web/api"
)

// page is what a page that saves as it goes holds: the input as it was sent to
// it, and what stands there.
type editPage struct {
	c       client
	path    string
	version float64
	input   any
	view    map[string]any
}

func (p *editPage) take(view map[string]any) {
	p.view, p.version, p.input = view, view["version"].(float64), view["input"]
}

// do sends a change and gives the status; what was refused changes nothing.
func (p *editPage) do(change string, keep bool) (int, map[string]any) {
	input, err := json.Marshal(p.input)
	require.NoError(p.c.t, err)
	if change != "" {
		change = "," + change
	}
	code, got := p.c.json("POST", p.path+"/change", fmt.Sprintf(`{"version":%v,"input":%s,"keep":%v%s}`, p.version, input, keep, change))
	if code == 200 {
		p.take(got)
	}
	return code, got
}

func openPage(c client, path, id string) *editPage {
	body := c.do("GET", path, "", "").Body.String()
	_, rest, ok := strings.Cut(body, `id="`+id+`">`)
	require.True(c.t, ok, path)
	data, _, _ := strings.Cut(rest, "</script>")
	var view map[string]any
	require.NoError(c.t, json.Unmarshal([]byte(data), &view))
	p := &editPage{c: c, path: path}
	p.take(view)
	return p
}

func list(v any) []any { return v.([]any) }

func TestGradientChanges(t *testing.T) {
	p := openPage(sample(t), "/gradients/1", "gradient-data")
	name := func(i int) any { return list(p.view["stops"])[i].(map[string]any)["name"] }
	last := name(3)
	must := func(change string) {
		code, got := p.do(change, true)
		require.Equal(t, 200, code, "%s: %v", change, got)
	}
	must(`"change":{"verb":"turn"}`)
	assert.Equal(t, last, name(0))
	must(`"change":{"verb":"move","at":0,"by":3}`)
	assert.Equal(t, last, name(3))
	must(`"change":{"verb":"order"}`)
	must(`"change":{"verb":"order-within"}`)
	must(`"change":{"verb":"grams","at":0},"typed":{"grams":"112,5"}`)
	assert.Equal(t, "112.5", list(p.view["stops"])[0].(map[string]any)["grams"])
	must(`"change":{"verb":"school","text":"even"}`)
	must(`"change":{"verb":"bridges"},"typed":{"bridges":"0"}`)
	assert.Len(t, p.view["rungs"], 4)
	must(`"change":{"verb":"bridge","at":1,"by":2}`)
	assert.Len(t, p.view["rungs"], 6)
	must(`"change":{"verb":"bridge","at":1,"by":-1}`)
	assert.Len(t, p.view["rungs"], 5)
	must(`"change":{"verb":"max-jump"},"typed":{"max_jump":"3"}`)
	assert.Contains(t, p.view["said"], "above 3")
	must(`"change":{"verb":"school","text":"count"}`)
	assert.Regexp(t, `^(Every jump is at most 3;|\d+ jumps? above 3, the largest is 3\.)`, p.view["said"], "whole steps of the scale move it by little")
	must(`"change":{"verb":"hex","at":0,"text":"#FF8800"}`)
	must(`"change":{"verb":"stop-name","at":0,"text":" gorse "}`)
	assert.Equal(t, "gorse", name(0))
	must(`"change":{"verb":"add-lot","lot_id":29}`)
	assert.Len(t, p.view["stops"], 4+3, "a painted top comes in with each colour")
	must(`"change":{"verb":"remove","at":0}`)
	must(
		`"change":{"verb":"add","stop":{"lot_id":null,"name":"ends","kind":"merino","preparation":"combed_top","hex":"#123456","grams":0}},"typed":{"grams":"4,5"}`,
	)
	assert.Equal(t, "4.5", list(p.view["stops"])[6].(map[string]any)["grams"])
	must(`"change":{"verb":"name","text":"deep to shore"}`)

	before := p.version
	for change, field := range map[string]string{
		`"change":{"verb":"grams","at":0},"typed":{"grams":"much"}`: "grams", `"change":{"verb":"grams","at":0},"typed":{"grams":"0"}`: "stops[0].grams", `"change":{"verb":"grams","at":99},"typed":{"grams":"1"}`: "at",
		`"change":{"verb":"bridges"},"typed":{"bridges":"2.5"}`: "bridges", `"change":{"verb":"school","text":"halves"}`: "school", `"change":{"verb":"max-jump"},"typed":{"max_jump":"-1"}`: "max_jump",
		`"change":{"verb":"hex","at":1,"text":"blue"}`: "stops[1].hex", `"change":{"verb":"name","text":"  "}`: "name", `"change":{"verb":"fly"}`: "verb",
		`"change":{"verb":"add","stop":{"lot_id":null,"name":"","kind":"unicorn","preparation":"combed_top","hex":"#123456","grams":4}},"typed":{"grams":"4"}`: "stops[7].name",
	} {
		code, got := p.do(change, true)
		require.Equal(t, 422, code, "%s: %v", change, got)
		require.NotEmpty(t, got["errors"], "%s: %v", change, got)
		assert.Equal(t, field, list(got["errors"])[0].(map[string]any)["field"], change)
	}
	assert.Equal(t, before, openPage(p.c, "/gradients/1", "gradient-data").version, "nothing refused was kept")
}

func TestScrapChanges(t *testing.T) {
	p := openPage(sample(t), "/scraps/1", "bag-data")
	scraps := func() []any { return list(p.input.(map[string]any)["scraps"]) }
	n := len(scraps())
	must := func(change string) {
		code, got := p.do(change, true)
		require.Equal(t, 200, code, "%s: %v", change, got)
	}
	for k := 2; k <= 6; k++ {
		must(fmt.Sprintf(`"change":{"verb":"sort","to":%d}`, k))
		used := 0
		for _, v := range list(p.view["piles"]) {
			if len(list(v.(map[string]any)["scraps"])) > 0 {
				used++
			}
		}
		assert.Equal(t, k, used)
	}
	must(`"change":{"verb":"move","at":3,"to":5}`)
	assert.Equal(t, 5.0, scraps()[3].(map[string]any)["pile"])
	must(`"change":{"verb":"scrap-name","at":3,"text":"odd bit"}`)
	must(`"change":{"verb":"grams","at":3},"typed":{"grams":"1.5"}`)
	must(`"change":{"verb":"hex","at":3,"text":"#AA3322"}`)
	assert.Equal(t, "#aa3322", scraps()[3].(map[string]any)["hex"])
	must(`"change":{"verb":"colours","at":3,"text":"#AA3322 #3322aa"}`)
	two := scraps()[3].(map[string]any)
	assert.Equal(t, []any{"#aa3322", "#3322aa"}, two["colours"])
	assert.NotContains(t, []any{"#aa3322", "#3322aa"}, two["hex"], "the mean of both")
	must(`"change":{"verb":"colours","at":3,"text":"#aa3322"}`)
	assert.Equal(t, "#aa3322", scraps()[3].(map[string]any)["hex"])
	assert.Nil(t, scraps()[3].(map[string]any)["colours"], "one colour is no list")
	must(`"change":{"verb":"add","scrap":{"lot_id":null,"name":"one more","kind":"merino","hex":"#445566","grams":0,"pile":0}},"typed":{"grams":"2"}`)
	assert.Len(t, scraps(), n+1)
	must(`"change":{"verb":"remove","at":0}`)
	must(`"change":{"verb":"small"},"typed":{"most":"30"}`)
	assert.Greater(t, len(scraps()), n)
	for i := range scraps() { // all on one pile: too wide, and split into two stories
		p.input.(map[string]any)["scraps"].([]any)[i].(map[string]any)["pile"] = 0
	}
	must("")
	assert.Equal(t, true, list(p.view["piles"])[0].(map[string]any)["wide"])
	must(`"change":{"verb":"split","to":0}`)
	assert.NotEmpty(t, list(p.view["piles"])[1].(map[string]any)["scraps"])
	for change, field := range map[string]string{
		`"change":{"verb":"sort","to":9}`: "piles", `"change":{"verb":"split","to":5}`: "pile", `"change":{"verb":"add","scrap":{"name":"y"}},"typed":{"grams":"x"}`: "grams", `"change":{"verb":"small"},"typed":{"most":"0.001"}`: "most",
		`"change":{"verb":"grams","at":0},"typed":{"grams":""}`: "grams", `"change":{"verb":"hex","at":0,"text":"red"}`: "scraps[0].hex", `"change":{"verb":"colours","at":0,"text":"red blue"}`: "scraps[0].colours", `"change":{"verb":"move","at":-1,"to":1}`: "at", `"change":{"verb":"name","text":""}`: "name",
	} {
		code, got := p.do(change, true)
		require.Equal(t, 422, code, "%s: %v", change, got)
		require.NotEmpty(t, got["errors"], "%s: %v", change, got)
		assert.Equal(t, field, list(got["errors"])[0].(map[string]any)["field"], change)
	}
	old := *p
	must(`"change":{"verb":"name","text":"first"}`)
	old.input.(map[string]any)["name"] = "second"
	code, got := old.do("", true)
	require.Equal(t, 409, code)
	assert.Equal(t, "first", got["current"].(map[string]any)["input"].(map[string]any)["name"])
}

// Whatever is done to a gradient, in any order, its rungs hold every gram of
// its stops and nothing ends in a 500.
func TestGradientsKeepTheirGrams(t *testing.T) {
	c := sample(t)
	rapid.Check(t, func(t *rapid.T) {
		p := openPage(c, "/gradients/1", "gradient-data")
		for range rapid.IntRange(1, 6).Draw(t, "changes") {
			verb := rapid.SampledFrom([]string{"turn", "move", "order", "order-within", "bridge", "school", "bridges", "grams", "remove", "add-lot", "max-jump"}).
				Draw(t, "verb")
			text := rapid.SampledFrom([]string{"thirds", "even", "count", "3", "0", "12.5", "-4", "1e9", ""}).Draw(t, "text")
			typed := ""
			if field := map[string]string{"bridges": "bridges", "grams": "grams", "max-jump": "max_jump"}[verb]; field != "" {
				typed = fmt.Sprintf(`,"typed":{%q:%q}`, field, text)
			}
			code, got := p.do(fmt.Sprintf(`"change":{"verb":%q,"at":%d,"by":%d,"text":%q,"lot_id":%d}%s`, verb, rapid.IntRange(-1, 6).Draw(t, "at"),
				rapid.IntRange(-3, 6).Draw(t, "by"), text, rapid.IntRange(0, 33).Draw(t, "lot"), typed), false)
			require.Contains(t, []int{200, 404, 422}, code, got)
		}
		var stops float64
		for _, s := range list(p.input.(map[string]any)["stops"]) {
			stops += s.(map[string]any)["grams"].(float64)
		}
		if len(list(p.view["rungs"])) > 0 {
			assert.Equal(t, fmt.Sprintf("%.1f\u00a0g", stops), p.view["total"])
		}
	})
}

func TestToolsOfTheBlendPage(t *testing.T) {
	c := sample(t)
	_, b := c.json("GET", api.Root+"/blends/6", "")
	input := map[string]any{"name": "b", "total_g": 60, "passes": 2, "target": "#84979a"}
	var parts []map[string]any
	for _, v := range list(b["components"]) {
		parts = append(parts, map[string]any{"lot_id": v.(map[string]any)["lot_id"], "parts": v.(map[string]any)["parts"]})
	}
	input["components"] = parts
	in, err := json.Marshal(input)
	require.NoError(t, err)
	ask := func(path, more string) (int, map[string]any) {
		return c.json("POST", "/blends/6/"+path, fmt.Sprintf(`{"input":%s,%s}`, in, more))
	}
	for _, quick := range []bool{true, false} {
		code, got := ask("find", fmt.Sprintf(`"target":"","most":3,"wool":"60","no_sparkle":true,"kind":"","quick":%v`, quick))
		require.Equal(t, 200, code, got)
		require.NotEmpty(t, got["found"])
		for _, f := range list(got["found"]) {
			var sum float64
			for _, row := range list(f.(map[string]any)["rows"]) {
				sum += row.(map[string]any)["share"].(float64)
				assert.NotContains(t, row.(map[string]any)["sub"], "film")
			}
			assert.InDelta(t, 1, sum, 1e-9)
		}
	}
	code, got := ask("mend", `"made":"58,5","added":"10","most":2,"how":"said","said":[{"what":"light","how":"clearly"}]`)
	require.Equal(t, 200, code, got)
	assert.Contains(t, got["words"], "lighter")
	for _, m := range list(got["mends"]) {
		v := m.(map[string]any)
		assert.Regexp(t, `^\d+\.\d\x{a0}g `, v["add"])
		assert.LessOrEqual(t, v["total_g"], 68.5)
	}
	code, got = ask("mend", `"made":"58","added":"10","most":2,"how":"measured","measured":"#84979a"`)
	require.Equal(t, 200, code)
	assert.Empty(t, got["mends"], "what has the colour wanted needs no mend")
	code, got = ask("dull", `"drop":30`)
	require.Equal(t, 200, code)
	assert.Len(t, got["ways"], 3)
	for path, wrong := range map[string][2]string{
		"find?1": {`"most":3,"wool":"lots","target":""`, "wool"}, "find?2": {`"most":99,"target":""`, "max_components"}, "find?3": {`"most":3,"target":"","kind":"unicorn"`, "wish.kind"},
		"mend?1": {`"made":"x","added":"1","most":1,"how":"predicted"`, "made.grams"}, "mend?2": {`"made":"10","added":"0","most":1,"how":"predicted"`, "max_added_g"},
		"mend?3": {`"made":"10","added":"1","most":1,"how":"said","said":[]`, "said"}, "mend?4": {`"made":"10","added":"1","most":1,"how":"measured","measured":"no colour"`, "measured.hex"},
		"dull?1": {`"drop":100`, "drop"},
	} {
		code, got := ask(path, wrong[0])
		require.Equal(t, 422, code, "%s %v", path, got)
		assert.Equal(t, wrong[1], list(got["errors"])[0].(map[string]any)["field"], path)
	}

	// The long search tells of its progress line by line, at last the answer.
	w := c.do(
		"POST",
		"/blends/6/find/all",
		"application/json",
		fmt.Sprintf(`{"input":%s,"target":"","most":3,"wool":"","no_sparkle":true,"kind":"","quick":false}`, in),
	)
	lines := strings.Split(strings.TrimSpace(w.Body.String()), "\n")
	var end struct{ Answer map[string]any }
	require.NoError(t, json.Unmarshal([]byte(lines[len(lines)-1]), &end))
	assert.Equal(t, true, end.Answer["complete"])
	w = c.do("POST", "/blends/6/find/all", "application/json", fmt.Sprintf(`{"input":%s,"target":"blue","most":3}`, in))
	assert.Contains(t, w.Body.String(), `"problem"`)
}
