package web

import (
	"bytes"
	"fmt"
	"image/png"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// The yarn of a making is dyed over, and worked up: the dye narrows every step, panels take what they say, a weft is one too, and what is
// wrong stands at its field while all else is there.
func TestAMakingIsWorkedUp(t *testing.T) {
	c := sample(t)
	steps := regexp.MustCompile(`step between two of them is ([\d.]+) CIEDE2000 as they were carded, and ([\d.]+) dyed over`)
	dyed := func(depth string) (before, after float64) {
		found := steps.FindStringSubmatch(c.page("/makings/3/whole?dye=indigo&depth=" + depth))
		require.NotNil(t, found, depth)
		before, _ = strconv.ParseFloat(found[1], 64)
		after, _ = strconv.ParseFloat(found[2], 64)
		return before, after
	}
	last := 1e9
	for _, depth := range []string{"10", "60", "200"} {
		before, after := dyed(depth)
		assert.Less(t, after, before)
		assert.Less(t, after, last, "the deeper, the less is left of it")
		last = after
	}
	page := c.page("/makings/3/whole?stitches=60&rows=50&panels=3&gauge_stitches=22&gauge_rows=30")
	assert.Contains(t, page, "3 panels of 60 stitches by 50 rows")
	assert.Contains(t, page, "It takes "+strconv.Itoa(163)) // 9000 stitches of 18.1 mm
	assert.Regexp(t, `rows?, from row 1 of panel 1 to row \d+ of panel \d`, page)
	assert.Contains(t, c.page("/makings/3/whole?stitches=900&rows=2000"), "more than there is")
	assert.Contains(t, c.page("/makings/3/whole?stitches=60&rows=41&grows=1.5"), "From 60 to 120 stitches in 41 rows")
	assert.Regexp(t, `\d+ ends by \d+ picks`, c.page("/makings/3/whole?cloth=weft&wide_mm=20&long_mm=150"))
	page = c.page("/makings/3/whole?split=equal-weight")
	assert.Regexp(t, `is parted: [\d.]+.g for bobbin 1, [\d.]+.g for bobbin 2`, page)
	assert.NotContains(t, page, "Left over")

	at := regexp.MustCompile(`/makings/3/whole/piece.png[^"]*`).FindString(c.page("/makings/3/whole?stitches=60&rows=50&panels=2"))
	w := c.do("GET", strings.ReplaceAll(at, "&amp;", "&"), "", "")
	require.Equal(t, 200, w.Code)
	pic, err := png.Decode(bytes.NewReader(w.Body.Bytes()))
	require.NoError(t, err)
	assert.Greater(t, pic.Bounds().Dx(), pic.Bounds().Dy(), "two panels beside each other")

	for ask, field := range map[string]string{"dye=nonsense": "dye", "dye=rust&depth=900": "depth", "stitches=x": "stitches", "rows=99999": "rows", "panels=-1": "panels",
		"grows=99": "grows", "gauge_rows=0.1": "gauge_rows", "cloth=weft&wide_mm=0.1": "wide_mm", "stitches=1000&rows=5000": "rows"} {
		w := c.do("GET", "/makings/3/whole?"+ask, "", "")
		assert.Equal(t, 422, w.Code, ask)
		assert.Regexp(t, `aria-invalid="true"[^>]*id="`+field+`"|id="`+field+`"[^>]*aria-invalid="true"`, w.Body.String(), ask)
		assert.Contains(t, w.Body.String(), "m of yarn", ask)
	}
	w = c.do("GET", "/makings/3/whole/piece.png?stitches=x", "", "")
	assert.Equal(t, 422, w.Code)
}

// What a sample told is used by the next yarn of its making: its twist by plying back, the gauge of the piece that was liked.
func TestTheNextYarnUsesWhatASampleTold(t *testing.T) {
	c := sample(t)
	_, l := c.json("GET", api.Root+"/layups/2", "")
	_, b := c.json("GET", fmt.Sprintf("%s/blends/%v", api.Root, l["blend_id"]), "")
	_, usual := c.json("GET", api.Root+"/layups/2/yarn", "")
	code, v := c.json("POST", fmt.Sprintf("%s/makings/%v/yarnsamples", api.Root, b["making_id"]), `{"name":"Hard twist","ply":"two","wpi":16,"bumps_per_cm":4,"swatches":[
		{"tool":"4 mm","stitches":20,"rows":26},{"tool":"3.5 mm","stitches":22,"rows":30,"raw_stitches":21,"raw_rows":28,"liked":true,"why":"drapes"},
		{"tool":"3 mm","stitches":25,"rows":34}]}`)
	require.Equal(t, 201, code, v)
	assert.InDelta(t, 4.0/2*100/0.67, v["turns_per_m"], 1e-6)
	_, y := c.json("GET", api.Root+"/layups/2/yarn", "")
	assert.InDelta(t, v["turns_per_m"], y["turns_per_m"], 1e-6)
	assert.InDelta(t, 16, y["wraps_per_inch"], 1e-9)
	assert.InDelta(t, 1.176, y["diameter_mm"], 0.001)
	assert.Contains(t, c.page("/layups/2/yarn"), "As Hard twist showed.")
	assert.InDelta(t, v["turns_per_m"].(float64)*0.95/1.41421356, y["ply_turns_per_m"], 1e-4)
	assert.Equal(t, usual["low_turns_per_m"], y["low_turns_per_m"], "what is usual stays")
	assert.Less(t, y["steamed_shorter_pct"], y["shorter_pct"])
	code, y = c.json("PUT", fmt.Sprintf("%s/yarns/%v", api.Root, y["id"]), fmt.Sprintf(`{"version":%v,"wide_mm":200,"long_mm":200}`, y["version"]))
	require.Equal(t, 200, code, y)
	piece := y["piece"].(map[string]any)
	assert.Equal(t, 44.0, piece["across"])
	assert.Equal(t, 60.0, piece["rows"])
	assert.Contains(t, c.page(fmt.Sprintf("/makings/%v/whole", b["making_id"])), "At the gauge of Hard twist")
	card := c.page(fmt.Sprintf("/yarnsamples/%v/card", v["id"]))
	for _, said := range []string{"liked", "drapes", "21 × 28 before washing", "Twist of the singles"} {
		assert.Contains(t, card, said)
	}
	code, got := c.json("POST", fmt.Sprintf("%s/makings/%v/yarnsamples", api.Root, b["making_id"]),
		`{"name":"Two","bumps_per_cm":-1,"swatches":[{"liked":true,"tool":"a"},{"liked":true,"tool":"b"}]}`)
	assert.Equal(t, 422, code)
	assert.Contains(t, fmt.Sprint(got["errors"]), "bumps_per_cm")
	assert.Contains(t, fmt.Sprint(got["errors"]), "swatches")
}

// How a skein has worn is noted on it, and told where yarn of like fibre is foretold; nothing told is nothing kept.
func TestHowASkeinHasWornIsToldOfTheNext(t *testing.T) {
	c := sample(t)
	_, l := c.json("GET", api.Root+"/layups/2", "")
	_, b := c.json("GET", fmt.Sprintf("%s/blends/%v", api.Root, l["blend_id"]), "")
	code, k := c.json("POST", fmt.Sprintf("%s/makings/%v/skeins", api.Root, b["making_id"]), `{"name":"First wear","weight_g":50}`)
	require.Equal(t, 201, code, k)
	page := fmt.Sprintf("/skeins/%v", k["id"])
	base := []string{"name", "First wear", "weight_g", "50", "version", fmt.Sprint(k["version"])}
	w := c.form(page, append(base, "later.sheds", "often")...)
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "Say no, some or much.")
	w = c.form(page, append(base, "later.on", "yesterday", "later.note", "soft")...)
	assert.Equal(t, 422, w.Code)
	w = c.form(page, base...)
	require.Equal(t, 303, w.Code)
	_, k = c.json("GET", fmt.Sprintf("%s/skeins/%v", api.Root, k["id"]), "")
	assert.Nil(t, k["later"])
	base[5] = fmt.Sprint(k["version"])
	require.Equal(t, 303, c.form(page, append(base, "later.pills", "much", "later.sheds", "no", "later.on", "2026-05-04")...).Code)
	yarn := c.page("/layups/2/yarn")
	assert.Contains(t, yarn, "much: pills")
	assert.Contains(t, yarn, "does not shed")
	assert.Contains(t, yarn, "First wear")
	assert.Contains(t, c.page("/notebook?sort=skein"), "much: pills")
}
