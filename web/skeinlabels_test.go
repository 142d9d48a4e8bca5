package web

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// The label of a skein says what was spun up in it, by the weights of the lots, and its grist by what stands on it; without lots it says
// what the blends of its making hold. In ounces and yards it is the same yarn.
func TestASkeinsLabel(t *testing.T) {
	c := sample(t)
	create := func(path, body string) any {
		code, got := c.json("POST", api.Root+path, body)
		require.Equal(t, 201, code, got)
		return got["id"]
	}
	a := create("/lots", `{"name":"grey Romney","kind":"romney","preparation":"carded_sliver","colours":[{"hex":"#8a8a88","share":1}],"grams":75}`)
	b := create("/lots", `{"name":"tussah","kind":"silk_tussah","preparation":"combed_top","colours":[{"hex":"#c9a24a","share":1}],"grams":25}`)
	m := create("/makings", `{"name":"A shawl"}`)
	of := create(fmt.Sprintf("/makings/%v/skeins", m), fmt.Sprintf(`{"name":"Skein 1","ply":"two","length_m":200,"weight_g":80,"lots":[%v,%v]}`, a, b))
	page := c.page(fmt.Sprintf("/skeins/%v/labels", of))
	for _, want := range []string{"75\u00a0% wool, 25\u00a0% silk", "80.0 g", "two-ply, 200\u00a0m, 250\u00a0m in 100\u00a0g"} {
		assert.Contains(t, page, want)
	}
	assert.Contains(t, c.page(fmt.Sprintf("/skeins/%v/labels?length=100&grams=80", of)), "100\u00a0m, 125\u00a0m in 100\u00a0g", "grist is of what stands there")
	w := c.do("GET", fmt.Sprintf("/skeins/%v/labels?length=long&name=kept", of), "", "")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), `value="kept"`)
	bare := create(fmt.Sprintf("/makings/%v/skeins", m), `{"name":"Skein 2","weight_g":10}`)
	assert.Contains(t, c.page(fmt.Sprintf("/skeins/%v/labels", bare)), "What it was spun of is not known here")
	assert.Equal(t, 404, c.do("GET", "/skeins/999/labels", "", "").Code)
}
