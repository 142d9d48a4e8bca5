package web

import (
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// By one press beside its price a piece is noted as sold, given or kept, once however often it is pressed; the list says what they made,
// and what is wrong is said with what was typed. Two windows do not overwrite each other.
func TestWhatWentIsNoted(t *testing.T) {
	c := sample(t)
	page := mainOf(c.page("/blends/3/price?pieces=4&grams=60&minutes=88&hour=18&packing=0.4&mark_up=20&fees=6&tax=19"))
	forms := regexp.MustCompile(`(?s)<form method="post" action="/sold".*?</form>`).FindAllString(page, -1)
	require.Len(t, forms, 2)
	for _, how := range []string{"sold", "given", "kept"} {
		form := forms[1]
		if how == "sold" {
			form = forms[0]
		}
		one := append(fields(form), "how", how, "key", "press-"+how)
		for range 2 {
			require.Equal(t, 303, c.form("/sold", one...).Code)
		}
	}
	list := c.page("/sold")
	for _, want := range []string{"1 piece", "15.00", "6.27", "8.73", "2.98", "given away", "kept for myself", "23.81"} { // 8.73/(22/60)
		assert.Contains(t, list, want)
	}
	_, rows := c.sheet("/out/lists/sales")
	require.Len(t, rows, 3)
	assert.Equal(t, "15", rows[0]["price_each"])
	assert.Equal(t, "0", rows[1]["price_each"], "what was given brought nothing")
	assert.Equal(t, "3", rows[0]["blend_number"])

	at := "/sold?sale=" + rows[0]["sale_number"]
	mine := fields(mainOf(c.page(at)))
	require.Equal(t, 303, c.form("/sold", append(mine, "pieces", "2", "key", "a")...).Code)
	assert.Contains(t, c.page("/sold"), "17.46")
	late := c.form("/sold", append(mine, "pieces", "3", "key", "b")...)
	assert.Equal(t, 409, late.Code)
	assert.Contains(t, late.Body.String(), `value="3"`)
	for field, v := range map[string]string{"pieces": "none", "price": "dear", "name": "", "how": "lost", "minutes": "-1"} {
		w := c.form("/sold", "name", "batt", "how", "sold", "pieces", "1", "price", "3", field, v)
		assert.Equal(t, 422, w.Code, field)
		assert.Contains(t, w.Body.String(), `aria-invalid="true"`, field)
	}
	require.Equal(t, 303, c.form("/bin/discard", "table", "sales", "id", rows[1]["sale_number"]).Code)
	_, rows = c.sheet("/out/lists/sales")
	assert.Len(t, rows, 2)
	assert.Contains(t, c.page("/bin"), "Low Water")
}
