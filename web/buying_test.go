package web

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// A list of what a making lacks is bought from two sources, never dearer than from one of them;
// what comes is a lot with its dye lot and its cost, and goes into the blend that waited for it.
func TestAListIsBought(t *testing.T) {
	c := sample(t)
	_, m := c.json("POST", api.Root+"/makings", `{"name":"Shawl"}`)
	for i, hex := range []string{"#884422", "#226644"} {
		body := fmt.Sprintf(`{"name":"Blend %d","total_g":100,"passes":1,"components":[{"name":"wool %d","kind":"corriedale","preparation":"combed_top","hex":%q,"parts":1}]}`, i, i, hex)
		code, b := c.json("POST", fmt.Sprintf("%s/makings/%v/blends", api.Root, m["id"]), body)
		require.Equal(t, 201, code, b)
	}
	code, l := c.json("POST", api.Root+"/buylists", fmt.Sprintf(`{"making_ids":[%v]}`, m["id"]))
	require.Equal(t, 201, code, l)
	items := func() []any { return l["items"].([]any) }
	require.Len(t, items(), 2)
	item := func(i int) map[string]any { return items()[i].(map[string]any) }
	assert.InDelta(t, 100/0.98, item(0)["grams"], 0.001)
	assert.Equal(t, "Shawl", item(0)["for"])

	// The fair: 100 g for 6, and 5 % off from 50; by post: 50 g for 2.50, postage 3, none from 10.
	code, fair := c.json("POST", api.Root+"/sources", `{"name":"the fair","discounts":[{"from":50,"pct":5}]}`)
	require.Equal(t, 201, code, fair)
	code, post := c.json("POST", api.Root+"/sources", `{"name":"by post","postage":3,"free_from":10}`)
	require.Equal(t, 201, code, post)
	offer := func(source any, hex string, pack, price float64) {
		body := fmt.Sprintf(`{"name":"wool","kind":"corriedale","hex":%q,"pack_g":%v,"price":%v,"breaks":[{"from":5,"price":%v}]}`, hex, pack, price, price-0.5)
		code, o := c.json("POST", fmt.Sprintf("%s/sources/%v/offers", api.Root, source), body)
		require.Equal(t, 201, code, o)
	}
	offer(fair["id"], "#884422", 100, 6)
	offer(fair["id"], "#226644", 100, 6)
	offer(post["id"], "#884422", 50, 2.5)
	_, l = c.json("GET", fmt.Sprintf("%s/buylists/%v", api.Root, l["id"]), "")
	// 102 g of both at the fair are four packs, 24.00; of the first 3 × 50 g by post 7.50 + 3.00, and
	// the other at the fair 12.00 make 22.50.
	assert.Equal(t, 22.5, l["total"])
	assert.Equal(t, true, l["exact"])
	assert.Equal(t, post["id"], item(0)["source_id"])
	assert.Len(t, l["sources"], 2)
	var notes []string
	for _, r := range l["round_ups"].([]any) {
		v := r.(map[string]any)
		notes = append(notes, fmt.Sprintf("%v %v more %v extra", v["name"], v["more"], v["extra"]))
	}
	assert.Equal(t, []string{"by post 2.5 more -0.5 extra", "the fair 38 more 35.5 extra"}, notes)

	version := l["version"]
	code, l = c.json("POST", fmt.Sprintf("%s/buylists/%v/came", api.Root, l["id"]), fmt.Sprintf(`{"version":%v,"item":1,"grams":148.2,"dye_lot":"K 17"}`, version))
	require.Equal(t, 200, code, l)
	assert.Equal(t, true, item(0)["came"])
	_, lot := c.json("GET", fmt.Sprintf("%s/lots/%v", api.Root, item(0)["lot_id"]), "")
	assert.Equal(t, 148.2, lot["grams"])
	assert.Equal(t, "dye lot K 17", lot["note"])
	assert.Equal(t, "by post", lot["where_from"])
	assert.InDelta(t, 7.5/150*100, lot["cost_per_100g"], 0.006)
	_, b := c.list("GET", fmt.Sprintf("%s/makings/%v/blends", api.Root, m["id"]))
	var waits []any
	for _, v := range b {
		waits = append(waits, v["components"].([]any)[0].(map[string]any)["lot_id"])
	}
	assert.ElementsMatch(t, []any{item(0)["lot_id"], nil}, waits)
	code, _ = c.json("POST", fmt.Sprintf("%s/buylists/%v/came", api.Root, l["id"]), fmt.Sprintf(`{"version":%v,"item":2,"grams":100}`, version))
	assert.Equal(t, 409, code, "another window was first")
	code, _ = c.json("POST", fmt.Sprintf("%s/buylists/%v/came", api.Root, l["id"]), fmt.Sprintf(`{"version":%v,"item":1,"grams":100}`, l["version"]))
	assert.Equal(t, 422, code, "it has come already")
	code, l = c.json("POST", fmt.Sprintf("%s/buylists/%v/again", api.Root, l["id"]), fmt.Sprintf(`{"version":%v}`, l["version"]))
	require.Equal(t, 200, code, l)
	assert.Len(t, items(), 2)

	w := c.do("GET", fmt.Sprintf("/buy/%v/to-buy.csv", l["id"]), "", "")
	assert.True(t, strings.HasPrefix(w.Body.String(),
		"name,kind,preparation,colour,for,grams,source,packs,bought_g,price,came\r\nwool 0,corriedale,combed_top,#884422,Shawl,"), w.Body.String())
	for _, path := range []string{"/buy", "/buy?making=3", fmt.Sprintf("/buy/%v", l["id"]), "/sources/1", "/sources/1?offer=1"} {
		assert.NotEmpty(t, c.page(path), path)
	}
	for body, field := range map[string]string{`{"name":"","postage":0}`: "name", `{"name":"x","postage":-1}`: "postage", `{"name":"x","discounts":[{"from":1,"pct":95}]}`: "pct"} {
		code, got := c.json("POST", api.Root+"/sources", body)
		assert.Equal(t, 422, code, body)
		assert.Contains(t, fmt.Sprint(got["errors"]), field)
	}
}

// A list takes lines of the maker's own: they stay when it is looked at again, come off again, and come onto the shelf like the others.
func TestALineOfOnesOwn(t *testing.T) {
	c := sample(t)
	assert.Equal(t, 422, c.form("/buy", "name", "").Code)
	w := c.form("/buy", "name", "for the fair", "key", "own-list-1")
	require.Equal(t, 303, w.Code)
	at := w.Header().Get("Location")
	assert.Contains(t, c.page(at), "Nothing on it yet")
	fields := []string{"key", "own-line-1", "version", "1", "own.name", "lichen", "own.kind", "shetland", "own.hex", "olive green", "own.grams", "lots", "own.for", "hats"}
	w = c.form(at+"/lines", fields...)
	assert.Equal(t, 422, w.Code)
	for _, kept := range []string{`value="lichen"`, `value="olive green"`, `value="lots"`, `id="own.grams-wrong"`} {
		assert.Contains(t, w.Body.String(), kept)
	}
	fields[slices.Index(fields, "lots")] = "100"
	for range 2 { // pressed twice it is one
		require.Equal(t, 303, c.form(at+"/lines", fields...).Code)
	}
	for field, wrong := range map[string]string{"own.hex": "no such colour", "own.kind": "", "own.name": "", "own.grams": "0"} {
		bad := slices.Clone(fields)
		bad[1], bad[slices.Index(bad, field)+1], bad[3] = "own-line-wrong-"+field, wrong, "2"
		w = c.form(at+"/lines", bad...)
		assert.Equal(t, 422, w.Code, field)
		assert.Contains(t, w.Body.String(), `id="`+field+`-wrong"`)
	}
	_, list1 := c.json("GET", api.Root+strings.Replace(at, "/buy/", "/buylists/", 1), "")
	items := list(list1["items"])
	require.Len(t, items, 1)
	item := items[0].(map[string]any)
	assert.Equal(t, []any{"lichen", "shetland", "hats", 100.0, true}, []any{item["name"], item["kind"], item["for"], item["grams"], item["own"]})
	require.Equal(t, 303, c.form(at+"/again", "version", "2").Code)
	assert.Contains(t, c.page(at), ">Take it off<")
	assert.Equal(t, 409, c.form(at+"/lines/drop", "version", "1", "id", "1").Code)
	for range 2 {
		assert.Equal(t, 303, c.form(at+"/lines/drop", "key", "own-drop-1", "version", "3", "id", "1").Code)
	}
	assert.Equal(t, 422, c.form(at+"/lines/drop", "version", "4", "id", "1").Code)
	assert.Contains(t, c.page(at), "Nothing on it yet")
	id := strings.TrimPrefix(at, "/buy/")
	code, got := c.json("POST", api.Root+"/buylists/"+id+"/lines", `{"version":4,"name":"silk","kind":"silk_mulberry","hex":"#ffffff","grams":25}`)
	require.Equal(t, 200, code, got)
	code, got = c.json("POST", api.Root+"/buylists/"+id+"/came", `{"version":5,"item":1,"grams":26}`)
	require.Equal(t, 200, code, got)
	code, _ = c.json("POST", api.Root+"/buylists/"+id+"/lines/drop", `{"version":6,"item":1}`)
	assert.Equal(t, 422, code, "what has come stays")
}
