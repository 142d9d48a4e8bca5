package web

import (
	"html"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A price is worked out from what was typed, what one counts with is kept for the next, and what is wrong is said at its field with what
// was typed; the labels take the price over.
func TestAPriceIsWorkedOut(t *testing.T) {
	c := sample(t)
	page := c.page("/blends/3/price?pieces=4&grams=60&minutes=88&hour=18&packing=0.4&mark_up=20&fees=6&tax=19")
	for _, want := range []string{`<span class="big">15.00</span>`, "8.73", "23.81", "11.50"} { // by hand: (2.58+0.4+6.6)·1.2/(1/1.19−0.06) = 14.73
		assert.Contains(t, page, want)
	}
	link := regexp.MustCompile(`href="(/blends/3/labels[^"]*)"`).FindStringSubmatch(page)
	require.NotNil(t, link)
	labels := c.page(html.UnescapeString(link[1]))
	assert.Contains(t, labels, `<b dir="auto">15.00</b>`)
	assert.Contains(t, labels, "law of your country")
	for field, v := range map[string]string{"pieces": "2.5", "grams": "heavy", "minutes": "-1", "hour": "much", "fees": "99", "tax": "1e9"} {
		w := c.do("GET", "/blends/3/price?"+field+"="+v, "", "")
		assert.Equal(t, 422, w.Code, field)
		assert.Regexp(t, `name="`+field+`"[^>]*value="`+v+`"|value="`+v+`"[^>]*name="`+field+`"`, w.Body.String(), "what was typed stays")
		assert.Contains(t, w.Body.String(), `aria-invalid="true"`, field)
	}
	bad := c.form("/blends/3/price", "hour", "much", "packing", "0.4")
	assert.Equal(t, 422, bad.Code)
	w := c.form("/blends/3/price", "pieces", "2", "grams", "30", "minutes", "20", "hour", "21.5", "tax", "")
	require.Equal(t, 303, w.Code, w.Body.String())
	assert.Contains(t, c.page("/blends/1/price"), `value="21.5"`, "kept for the next")
	assert.Contains(t, c.page(w.Header().Get("Location")), `value="30`)
}
