package web

import (
	"fmt"
	"html"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A spreadsheet of thirty lots with headings of one's own: its columns are recognised, can be told otherwise, and its lots come onto the
// shelf as they were understood, each of them with what was guessed marked; pressed twice they are there once.
func TestASpreadsheetOfOnesOwnComesIn(t *testing.T) {
	c := sample(t)
	before := lotCount(t, c)
	var text strings.Builder
	text.WriteString("What I call it;Fiber type;Colourway;Ounces;Price paid;Where\n")
	for i := range 30 {
		fmt.Fprintf(&text, "stash %d;%s;%s;%s;£%d;attic\n", i+1, []string{"corriedale top", "romney roving", "mystery batt"}[i%3], []string{"rust", "grey-blue", "undyed"}[i%3],
			[]string{"4", "1 1/2", "100 g"}[i%3], i)
	}
	w := c.upload([]byte(text.String()))
	require.Equal(t, 200, w.Code, w.Body.String())
	page := w.Body.String()
	for _, want := range []string{"What its columns say", "30 lines", `value="what" selected`, `value="colour" selected`, `value="weight oz" selected`, "corriedale top"} {
		assert.Contains(t, page, want)
	}
	form := fields(mainOf(page))
	for i, v := range form {
		form[i] = html.UnescapeString(v)
	}
	none := c.form("/shelf/sheet", append(form, "column0", "", "column1", "")...)
	assert.Equal(t, 422, none.Code)
	assert.Contains(t, none.Body.String(), "Say of one column")
	assert.Contains(t, none.Body.String(), "stash 30", "the table is still there")
	w = c.form("/shelf/sheet", append(form, "column0", "name")...)
	require.Equal(t, 200, w.Code)
	page = w.Body.String()
	for _, want := range []string{`value="stash 30"`, `value="corriedale" selected`, `value="unknown" selected`, `value="113.4"`, `value="42.5"`, `value="100.0"`} {
		assert.Contains(t, page, want)
	}
	rows := fields(mainOf(page))
	for range 2 {
		require.Equal(t, 303, c.form("/shelf/lines/put", rows...).Code)
	}
	assert.Equal(t, before+30, lotCount(t, c))
	assert.Equal(t, 422, c.upload([]byte("only one line, and no headings of ours")).Code)
	assert.Equal(t, 422, c.form("/shelf/sheet", "text", "").Code)
}
