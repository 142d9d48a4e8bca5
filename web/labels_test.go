package web

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/studio/workshop"
)

// Labels of a blend: contents of what is finished, through its batts, in whole percent that add up; care by the tenderest; as many as
// asked for, from the place on a sheet that is free, none over its edge; what is wrong is said at its field.
func TestLabelsOfABlend(t *testing.T) {
	c := sample(t)
	page := c.page("/blends/6/labels")
	for _, want := range []string{"66\u00a0% wool, 18\u00a0% silk, 16\u00a0% linen", "Hand wash cool", "Slack"} {
		assert.Contains(t, page, want)
	}
	labels := func(page string) int { return strings.Count(page, `class="labeledge"`) }
	assert.Equal(t, 8, labels(page))
	page = c.page("/blends/6/labels?count=40&start=20&size=small&paper=letter&numbered=yes&style=for-sale&name=%3Cb%3E&more=%D8%B9%D9%85%D9%84")
	assert.Equal(t, 40, labels(page))
	assert.Contains(t, page, "40 of 40")
	assert.Contains(t, page, "&lt;b&gt;")
	assert.Contains(t, page, "عمل")
	assert.Contains(t, page, "law of your country")
	assert.Equal(t, 3, strings.Count(page, `class="labelsheet letter"`), "21 places a sheet, the first 19 used")
	for _, m := range regexp.MustCompile(`<rect x="([\d.]+)" y="([\d.]+)" width="64"\s+height="34"`).FindAllStringSubmatch(page, -1) {
		x, _ := strconv.ParseFloat(m[1], 64)
		y, _ := strconv.ParseFloat(m[2], 64)
		assert.True(t, x >= 6 && x+64 <= 215.9-6 && y >= 6 && y+34 <= 279.4-6, m)
	}
	assert.Equal(t, 1, labels(c.page("/blends/6/labels?count=1&size=own&width=150&height=100")))
	for ask, says := range map[string]string{
		"count=0": "1 to 400", "count=many": "whole number", "start=999": "places", "size=own&width=500&height=40": "wide on this paper", "size=own&width=50&height=1": "high on this paper",
		"size=own&width=wide&height=40": "number",
	} {
		w := c.do("GET", "/blends/6/labels?"+ask, "", "")
		assert.Equal(t, 422, w.Code, ask)
		assert.Contains(t, w.Body.String(), says, ask)
	}
	c.form("/makings/3/blends", "blend_name", "bare", "key", "a-bare-blend")
	assert.Equal(t, 404, c.do("GET", "/blends/999/labels", "", "").Code)
	assert.Contains(t, c.page("/blends/13/labels"), "The blend is empty")
}

// With a code each label has one, of the page's address as it was asked for, beside its text and within its edge.
func TestLabelsWithACode(t *testing.T) {
	c := sample(t)
	page := c.page("/blends/3/labels?count=3&code=yes&size=tag")
	assert.Contains(t, page, "/blends/3</code>")
	codes := regexp.MustCompile(`<svg x="([\d.]+)" y="([\d.]+)" width="([\d.]+)"[^>]*\s+viewBox="[^"]*" class="labelcode"`).FindAllStringSubmatch(page, -1)
	edges := regexp.MustCompile(`<rect x="([\d.]+)" y="([\d.]+)" width="([\d.]+)"\s+height="([\d.]+)" class="labeledge"`).FindAllStringSubmatch(page, -1)
	require.Len(t, codes, 3)
	require.Len(t, edges, 3)
	for i := range codes {
		var x, y, mm, ex, ey, w, h float64
		_, err := fmt.Sscan(strings.Join(append(codes[i][1:], edges[i][1:]...), " "), &x, &y, &mm, &ex, &ey, &w, &h)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, mm, 15.0, "a phone reads it")
		assert.GreaterOrEqual(t, x, ex)
		assert.LessOrEqual(t, x+mm, ex+w)
		assert.LessOrEqual(t, y+mm, ey+h)
	}
	assert.NotContains(t, c.page("/blends/3/labels"), "labelcode")
}

// What contents are called is the maker's: two that are called alike are one on the label, and a name that is too long is refused with what
// was typed.
func TestContentsAreCalledAsTheMakerWants(t *testing.T) {
	c := sample(t)
	form := fields(mainOf(c.page("/kinds")))
	at := func(usual string) string {
		i := slices.Index(workshop.Contents(), usual)
		require.GreaterOrEqual(t, i, 0)
		return fmt.Sprint("content", i)
	}
	require.Equal(t, 303, c.form("/kinds/contents", append(form, at("wool"), "Schurwolle", at("linen"), "silk")...).Code)
	assert.Contains(t, c.page("/blends/6/labels"), "66\u00a0% Schurwolle, 34\u00a0% silk")
	w := c.form("/kinds/contents", "version", "0", at("silk"), strings.Repeat("s", 61))
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), strings.Repeat("s", 61))
	form = fields(mainOf(c.page("/kinds")))
	require.Equal(t, 303, c.form("/kinds/contents", append(form, at("wool"), "", at("linen"), "")...).Code)
	assert.Contains(t, c.page("/blends/6/labels"), "66\u00a0% wool, 18\u00a0% silk, 16\u00a0% linen")
}
