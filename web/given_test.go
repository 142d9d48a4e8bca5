package web

import (
	"encoding/json"
	"fmt"
	"html"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/given"
)

// A recipe goes out as one file that needs nothing else, with nothing of the giver's stock, prices or numbers in it, and comes in as near
// as the shelf comes; made twice by one press it is there once.
func TestARecipeIsGivenAndTaken(t *testing.T) {
	c := sample(t)
	doc := c.do("GET", "/blends/3/give?as=html&by=Nan+%3Cb%3E&note=slowly%3C/script%3E&grams=60", "", "")
	require.Equal(t, 200, doc.Code)
	text := doc.Body.String()
	assert.Regexp(t, `attachment.*\.html`, doc.Header().Get("Content-Disposition"))
	assert.NotRegexp(t, `(src|href)=|<link|@import|url\(`, text, "it loads nothing")
	assert.Len(t, regexp.MustCompile(`<script`).FindAllString(text, -1), 1, "the one that carries the JSON, which nothing runs")
	for _, own := range []string{"lot_id", "cost", "have_g", "making_id"} {
		assert.NotContains(t, text, own)
	}
	r, err := given.Read([]byte(text))
	require.NoError(t, err)
	assert.Equal(t, "Nan <b>", r.By)
	assert.Equal(t, 60.0, r.TotalG)
	require.NotEmpty(t, r.Layers)
	alone, err := given.Read(c.do("GET", "/blends/3/give?as=json&by=Nan+%3Cb%3E&note=slowly%3C/script%3E&grams=60", "", "").Body.Bytes())
	require.NoError(t, err)
	assert.Equal(t, r, alone)

	w := c.form("/given", "recipe", text)
	require.Equal(t, 200, w.Code, w.Body.String())
	for _, want := range []string{"the same to the eye", "given by Nan &lt;b&gt;", r.Components[0].Name} {
		assert.Contains(t, w.Body.String(), want)
	}
	fields := fields(mainOf(w.Body.String()))
	for i, v := range fields {
		fields[i] = html.UnescapeString(v)
	}
	bad := c.form("/given/take", append(fields, "grams", "heavy")...)
	assert.Equal(t, 422, bad.Code)
	assert.Contains(t, bad.Body.String(), "is not a number")
	assert.Contains(t, bad.Body.String(), `value="heavy"`, "what was typed stays")
	var homes []string
	for range 2 {
		w := c.form("/given/take", append(fields, "making", "0")...)
		require.Equal(t, 303, w.Code, w.Body.String())
		homes = append(homes, w.Header().Get("Location"))
	}
	assert.Equal(t, homes[0], homes[1])
	_, blends := c.sheet("/out/lists/blends")
	var shares []float64
	for _, l := range blends {
		if l["blend_number"] == regexp.MustCompile(`\d+`).FindString(homes[0]) {
			var v float64
			_, _ = fmt.Sscan(l["share_pct"], &v)
			shares = append(shares, v/100)
		}
	}
	require.Len(t, shares, len(r.Components))
	for i, v := range shares {
		assert.InDelta(t, r.Components[i].Share, v, 1e-6)
	}
	schema := c.do("GET", "/recipe.schema.json", "", "")
	assert.True(t, json.Valid(schema.Body.Bytes()))
	for _, none := range []string{"", "no recipe", `{"format":"fair-tangle-recipe","version":1}`, strings.Repeat("x", 1<<16)} {
		assert.Equal(t, 422, c.form("/given", "recipe", none).Code)
		assert.Equal(t, 422, c.form("/given/take", "recipe", none).Code)
	}
	assert.Equal(t, 422, c.do("GET", "/blends/3/give?as=html&grams=x", "", "").Code)
}
