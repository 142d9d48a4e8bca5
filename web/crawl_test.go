package web

import (
	"encoding/json"
	"html"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var (
	linkIn = regexp.MustCompile(`href="(/[^"#]*)`)
	tagIn  = regexp.MustCompile(`<[^>]+>`)
	// metric is a quantity or a unit in grams, centimetres or millimetres.
	metric = regexp.MustCompile(`(?i)[\d~] ?(g|kg|cm|mm)\b(?:[^³²]|$)|\b(in|per|of|per 100) (g|cm|mm|grams)\b`)
)

// own are addresses and what the maker wrote in her own words: names of samples,
// notes.
var own = regexp.MustCompile(`/art/\S*|\w+, \d+ g by hand|Four batts of 60 g a panel|Cut to 11 cm before|cost_per_100g`)

// crawl reads every page that can be reached by links, once each.
func (c client) crawl(see func(path, page string)) {
	seen := map[string]bool{}
	next := []string{"/makings"}
	for len(next) > 0 {
		path := next[0]
		next = next[1:]
		if seen[path] || strings.HasPrefix(path, "/static/") || strings.HasPrefix(path, "/art/") || strings.HasPrefix(path, "/api") ||
			strings.Contains(path, ".csv") || strings.Contains(path, ".png") {
			continue
		}
		seen[path] = true
		w := c.do("GET", path, "", "")
		if w.Code >= 300 {
			assert.Less(c.t, w.Code, 400, path)
			continue
		}
		if !strings.HasPrefix(w.Header().Get("Content-Type"), "text/html") {
			continue // a file for programs: its headings name their units
		}
		assert.NotContains(c.t, w.Body.String(), "could not be read as it was kept", path)
		see(path, w.Body.String())
		for _, m := range linkIn.FindAllStringSubmatch(w.Body.String(), -1) {
			next = append(next, html.UnescapeString(m[1]))
		}
	}
	require.Greater(c.t, len(seen), 80)
}

func (c client) weighsInOunces() {
	settings := append(fields(mainOf(c.page("/workshop"))), "weight_unit", "oz", "length_unit", "in")
	require.Equal(c.t, 303, c.form("/workshop", settings...).Code)
}

// What is refused is said in the maker's units as well.
func TestAnOunceMakerIsRefusedInOunces(t *testing.T) {
	c := sample(t)
	c.weighsInOunces()
	for path, body := range map[string]string{
		"/blends/6/mend":      `{"input":{"name":"b","total_g":0,"passes":1,"components":[]},"made":"0","added":"-1","most":1,"how":"predicted"}`,
		"/layups/1/change":    `{"version":1,"input":{"name":"n","equipment_id":1,"units":1,"layers":[{"lays":[{"component":0,"grams":-1,"method":"feed"}]}],"draft":1.75}}`,
		"/scraps/1/change":    `{"version":1,"input":{"name":"s","scraps":[{"name":"a","kind":"romney","hex":"#777777","grams":-4}]}}`,
		"/gradients/1/change": `{"version":1,"input":{"name":"g","stops":[{"name":"a","kind":"romney","preparation":"combed_top","hex":"#777777","grams":-4}],"school":"thirds","bridges":2,"max_jump":8}}`,
	} {
		w := c.do("POST", path, "application/json", body)
		assert.Equal(t, 422, w.Code, "%s %s", path, w.Body)
		var p struct{ Errors []struct{ Message string } }
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &p))
		for _, e := range p.Errors {
			assert.NotRegexp(t, metric, strings.ReplaceAll(e.Message, "\u00a0", " "), path)
		}
	}
}

// So are wrong measures of equipment and of a lot, on their forms.
func TestWrongMeasuresAreToldInInches(t *testing.T) {
	c := sample(t)
	c.weighsInOunces()
	kind := append(fields(mainOf(c.page("/kinds/new?like=romney"))), "name", "Estuary cross")
	require.Equal(t, 303, c.form("/kinds/new", kind...).Code)
	for path, wrong := range map[string][]string{
		"/kinds/2": {"staple_mm_low", "99"}, "/equipment/1": {"width_mm", "9000", "smooth_g", "9000", "tooth_mm", "99"}, "/lots/1/edit": {"staple_mm", "99"},
	} {
		page := c.page(path)
		w := c.form(path, append(fields(mainOf(page)), wrong...)...)
		require.Equal(t, 422, w.Code, path)
		said := html.UnescapeString(strings.Join(regexp.MustCompile(`class="wrong"[^<]*`).FindAllString(w.Body.String(), -1), " "))
		assert.Contains(t, said, "lies between", path)
		assert.NotContains(t, said, "in in")
		assert.NotRegexp(t, metric, strings.ReplaceAll(said, "\u00a0", " "), path)
	}
}

// keyIn is the name of a value in what a page hands to its script, which nobody reads.
var keyIn = regexp.MustCompile(`"\w+":`)

// labelIn are the labels of fields and columns, metricLabel one that ends in a unit that was not chosen.
var (
	labelIn     = regexp.MustCompile(`(?s)<(?:label|th|legend)[^>]*>(.*?)</(?:label|th|legend)>`)
	metricLabel = regexp.MustCompile(`(?:,|\bin)\s+(?:g|kg|mm|cm|m)$`)
)

// With ounces and inches chosen no page says a weight or a length in anything else.
func TestAnOunceMakerReadsOuncesAndInches(t *testing.T) {
	c := sample(t)
	c.weighsInOunces()
	pages, wrong := 0, 0
	c.crawl(func(path, page string) {
		pages++
		for _, m := range labelIn.FindAllStringSubmatch(page, -1) {
			label := strings.TrimSpace(strings.ReplaceAll(html.UnescapeString(tagIn.ReplaceAllString(m[1], " ")), "\u00a0", " "))
			assert.NotRegexp(t, metricLabel, label, path)
			assert.NotRegexp(t, `\bin in\b`, label, path)
		}
		text := strings.ReplaceAll(html.UnescapeString(tagIn.ReplaceAllString(page, "\n")), "\u00a0", " ")
		text = keyIn.ReplaceAllString(own.ReplaceAllString(text, ""), "")
		if found := metric.FindAllStringIndex(text, -1); found != nil {
			wrong++
			for _, at := range found[:min(len(found), 3)] {
				t.Errorf("%s: %q in …%q…", path, text[at[0]:at[1]], text[max(0, at[0]-60):min(len(text), at[1]+20)])
			}
		}
	})
	t.Logf("%d of %d pages say something in grams or metres", wrong, pages)
}

// What a file would bring in is shown in the maker's units too.
func TestAnOunceMakerSeesAFileInOunces(t *testing.T) {
	c := sample(t)
	c.weighsInOunces()
	got := c.upload([]byte("name,kind,preparation,colours,grams,staple_mm\nseal grey,romney,combed_top,#777777,283.5,120\n"))
	require.Equal(t, 200, got.Code, got.Body.String())
	text := own.ReplaceAllString(html.UnescapeString(tagIn.ReplaceAllString(got.Body.String(), "\n")), "")
	assert.Contains(t, text, "10 oz")
	assert.NotRegexp(t, metric, text)
}
