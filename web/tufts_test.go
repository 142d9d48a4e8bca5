package web

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"mime/multipart"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/fibre"
	"fairtangle/studio/workshop"
	"fairtangle/web/api"
)

// stashPhoto is a picture of three patches on a plain ground.
func stashPhoto(t *testing.T, patches bool) []byte {
	img := image.NewRGBA(image.Rect(0, 0, 600, 300))
	for i := range img.Pix {
		img.Pix[i] = 210
	}
	if patches {
		for n, c := range []color.RGBA{{160, 60, 40, 255}, {40, 80, 150, 255}, {60, 120, 70, 255}} {
			for y := 90; y < 200; y++ {
				for x := 60 + 190*n; x < 160+190*n; x++ {
					img.SetRGBA(x, y, c)
				}
			}
		}
	}
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, img))
	return b.Bytes()
}

// broughtIn is the address of a photo that was brought in.
func broughtIn(t *testing.T, c client, data []byte) string {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	w, err := form.CreateFormFile("photo", "stash.png")
	require.NoError(t, err)
	_, err = w.Write(data)
	require.NoError(t, err)
	require.NoError(t, form.Close())
	r := httptest.NewRequest("POST", "/photos", &body)
	r.Header.Set("Content-Type", form.FormDataContentType())
	got := httptest.NewRecorder()
	c.h.ServeHTTP(got, r)
	require.Equal(t, 303, got.Code, got.Body.String())
	return strings.Split(got.Header().Get("Location"), "?")[0]
}

// A photo of several tufts becomes rows with their colours, and rows become lots in one deed: what was typed stays where something is
// wrong, with the numbers on the photo; pressed twice they are there once. A photo without tufts says so.
func TestAStashByOnePhoto(t *testing.T) {
	c := sample(t)
	at := broughtIn(t, c, stashPhoto(t, true))
	page := c.page(at + "/tufts?all=corriedale")
	assert.Contains(t, page, "3 found")
	assert.Len(t, regexp.MustCompile(`<li data-x="[\d.]+" data-y="[\d.]+">`).FindAllString(page, -1), 3)
	assert.Contains(t, page, `value="#a03c28"`)
	fields := []string{"key", "stash-by-photo", "photo", strings.TrimPrefix(at, "/photos/")}
	for i, name := range []string{"brick", "sea", ""} {
		n := fmt.Sprint(i)
		fields = append(fields, "name"+n, name, "kind"+n, "corriedale", "preparation"+n, "combed_top", "hex"+n, "#a03c28", "x"+n, "300", "y"+n, "500",
			"grams"+n, map[int]string{0: "20", 1: "a lot", 2: ""}[i])
	}
	w := c.form("/shelf/lines/put", fields...)
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), `value="a lot"`)
	assert.Contains(t, w.Body.String(), `data-x="300"`)
	for i, v := range fields {
		if v == "a lot" {
			fields[i] = ""
		}
	}
	before := c.page("/shelf?q=brick")
	assert.NotContains(t, before, ">brick<")
	for range 2 {
		require.Equal(t, 303, c.form("/shelf/lines/put", fields...).Code)
	}
	_, lots := c.json("GET", api.Root+"/lots?q=brick", "")
	found := list(lots["lots"])
	require.Len(t, found, 1)
	colours := list(found[0].(map[string]any)["colours"])
	assert.Equal(t, "photo", colours[0].(map[string]any)["source"])
	_, lots = c.json("GET", api.Root+"/lots?q=sea&sort=name", "")
	assert.NotEmpty(t, list(lots["lots"]), "a lot may wait for its weight")

	at = broughtIn(t, c, stashPhoto(t, false))
	w = c.do("GET", at+"/tufts", "", "")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "Nothing lies apart")
	assert.Equal(t, 404, c.do("GET", "/photos/999/tufts", "", "").Code)
}

// A spot that was clicked becomes a row with the colour that is there, beside what was typed; rows become the scraps of a bag, sorted, in one
// deed; a scrap without a weight is refused at its field.
func TestScrapsByOnePhoto(t *testing.T) {
	c := sample(t)
	at := broughtIn(t, c, stashPhoto(t, true))
	fields := []string{"key", "scraps-by-photo", "photo", strings.TrimPrefix(at, "/photos/"), "all", "romney", "made", "carded_sliver",
		"name0", "red", "kind0", "romney", "preparation0", "combed_top", "hex0", "#a03c28", "x0", "180", "y0", "480", "grams0", ""}
	w := c.form("/shelf/lines/spot", append(slices.Clone(fields), "across", "50", "down", "48")...)
	require.Equal(t, 200, w.Code)
	page := w.Body.String()
	assert.Contains(t, page, `value="#285096"`, "the second patch")
	assert.Contains(t, page, `data-x="500" data-y="480"`)
	assert.Contains(t, page, `value="red"`)
	w = c.form("/shelf/lines/spot", append(slices.Clone(fields), "across", "right there", "down", "48")...)
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "A place on the photo is from 0 to 100 %.")
	assert.Contains(t, w.Body.String(), `value="right there"`)

	fields = append(fields, "name1", "blue", "kind1", "romney", "preparation1", "combed_top", "hex1", "#285096", "grams1", "4", "into", "bag")
	w = c.form("/shelf/lines/put", fields...)
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "A scrap weighs above 0.")
	assert.Contains(t, w.Body.String(), `id="grams0-wrong"`)
	fields[slices.Index(fields, "grams0")+1] = "6.5"
	var home string
	for range 2 {
		w = c.form("/shelf/lines/put", fields...)
		require.Equal(t, 303, w.Code, w.Body.String())
		assert.Contains(t, []string{"", w.Header().Get("Location")}, home)
		home = w.Header().Get("Location")
	}
	_, bag := c.json("GET", api.Root+home, "")
	assert.Len(t, list(bag["piles"]), 2, "red and blue are two piles")
	assert.Len(t, list(bag["scraps"]), 2)
}

// Lots that came together go into the bin together, as long as none of them was touched; what is no such list is refused with a sentence.
func TestABatchIsTakenBack(t *testing.T) {
	c := sample(t)
	fields := []string{"key", "batch-of-three"}
	for i, name := range []string{"one", "two", "three"} {
		n := fmt.Sprint(i)
		fields = append(fields, "name"+n, name, "kind"+n, "romney", "preparation"+n, "combed_top", "hex"+n, "#285096", "grams"+n, "10")
	}
	w := c.form("/shelf/lines/put", fields...)
	require.Equal(t, 303, w.Code)
	page := c.page(w.Header().Get("Location"))
	assert.Contains(t, page, "3 lots came together")
	at := regexp.MustCompile(`came=(\d+)-(\d+)`).FindStringSubmatch(w.Header().Get("Location"))
	require.Equal(t, 201, c.do("POST", api.Root+"/lots/"+at[2]+"/movements", "application/json", `{"reason":"take-out","grams":3}`).Code)
	w = c.form("/shelf/back", "first", at[1], "last", at[2])
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "three was changed since, or some of it was taken")
	assert.Equal(t, 303, c.do("POST", "/lots/"+at[2]+"/undo/"+lastMovement(c, at[2]), "application/x-www-form-urlencoded", "").Code)
	last, err := strconv.Atoi(at[2])
	require.NoError(t, err)
	for range 2 { // pressed twice it is one
		assert.Equal(t, 303, c.form("/shelf/back", "key", "batch-back-1", "first", at[1], "last", fmt.Sprint(last-1)).Code)
	}
	w = c.form("/shelf/back", "first", at[1], "last", fmt.Sprint(last-1))
	assert.Contains(t, w.Body.String(), "lies in the bin already")
	for _, silly := range [][2]string{{"0", "3"}, {"9", "3"}, {"1", "99999999"}, {"x", ""}} {
		assert.Contains(t, []int{404, 422}, c.form("/shelf/back", "first", silly[0], "last", silly[1]).Code, silly)
		assert.NotContains(t, c.page("/shelf?came="+silly[0]+"-"+silly[1]), "came together")
	}
	assert.Contains(t, c.page("/bin"), "two")
}

func lastMovement(c client, lot string) string {
	_, moves := c.list("GET", api.Root+"/lots/"+lot+"/movements")
	return fmt.Sprint(moves[0]["id"])
}

// Several lots are changed alike in one deed: what is empty they keep, tags are added, each once; one that another window changed stops
// all of it, with what was chosen and typed still there.
func TestSeveralLotsAtOnce(t *testing.T) {
	c := sample(t)
	at := func(id int) string {
		_, l := c.json("GET", fmt.Sprintf("%s/lots/%d", api.Root, id), "")
		return fmt.Sprintf("%d.%v", id, l["version"])
	}
	lot := func(id int) map[string]any {
		_, l := c.json("GET", fmt.Sprintf("%s/lots/%d", api.Root, id), "")
		return l
	}
	send := func(fields ...string) *httptest.ResponseRecorder {
		v := url.Values{}
		for i := 0; i+1 < len(fields); i += 2 {
			v.Add(fields[i], fields[i+1])
		}
		return c.do("POST", "/shelf/several", "application/x-www-form-urlencoded", v.Encode())
	}
	prepared := lot(1)["preparation"]
	require.Equal(t, 303, send("key", "several-first", "lot", at(1), "lot", at(2), "tags", "sock, Fair ", "place", "blue box").Code)
	require.Equal(t, 303, send("key", "several-second", "lot", at(2), "tags", "fair, gift").Code)
	assert.Equal(t, "sock, Fair", lot(1)["tags"])
	assert.Equal(t, "sock, Fair, gift", lot(2)["tags"])
	assert.Equal(t, "blue box", lot(2)["place"])
	assert.Equal(t, prepared, lot(1)["preparation"])
	page := c.page("/shelf/several?q=gift")
	assert.Contains(t, page, "sock, Fair, gift")
	assert.NotContains(t, page, `value="1.`)
	assert.Contains(t, c.page("/shelf?q=gift"), fmt.Sprint(lot(2)["name"]))
	stale := at(3)
	require.Equal(t, 303, send("key", "several-other", "lot", stale, "tags", "other").Code)
	w := send("key", "several-stale", "lot", at(1), "lot", stale, "tags", "late", "place", "attic")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "was changed in another window")
	assert.Contains(t, w.Body.String(), `value="attic"`)
	assert.Equal(t, "sock, Fair", lot(1)["tags"], "all or none")
	for _, wrong := range [][]string{{"tags", "x"}, {"lot", at(1)}, {"lot", at(1), "preparation", "spun"}, {"lot", "999.1", "tags", "x"}, {"lot", "x", "tags", "y"}} {
		code := send(append([]string{"key", "several-wrong" + strings.Join(wrong, "")}, wrong...)...).Code
		assert.Contains(t, []int{404, 422}, code, wrong)
	}
}

// A table of empty rows is filled in; rows without a name are left out.
func TestATableIsFilledIn(t *testing.T) {
	c := sample(t)
	page := c.page("/shelf/lines?rows=20")
	assert.Contains(t, page, `name="name19"`)
	assert.NotContains(t, page, `name="name20"`)
	assert.NotContains(t, c.page("/shelf/lines?rows=-3"), `name="name0"`)
	assert.Contains(t, c.page("/shelf/lines?rows=9999"), `name="name99"`)
	w := c.form("/shelf/lines/put", "key", "table-filled-in", "name0", "a first", "kind0", "romney", "preparation0", "combed_top", "hex0", "#a8a39a", "grams0", "12",
		"name1", "", "kind1", "", "preparation1", "combed_top", "hex1", "#a8a39a", "name2", "a third", "kind2", "romney", "preparation2", "combed_top", "hex2", "#a8a39a")
	require.Equal(t, 303, w.Code, w.Body.String())
	_, got := c.json("GET", api.Root+"/lots?q=a+third", "")
	assert.Len(t, list(got["lots"]), 1)
}

// Another like it begins with what it is and where it is from; of a lot that is not there, as any new one.
func TestAnotherLikeIt(t *testing.T) {
	c := sample(t)
	assert.Contains(t, c.page("/lots/3"), `href="/lots/new?like=3"`)
	page := c.page("/lots/new?like=3")
	assert.Contains(t, page, `value="silk_tussah" selected`)
	assert.Contains(t, page, `value="cupboard, second shelf"`)
	assert.NotContains(t, page, "tussah, raw honey")
	assert.Equal(t, 200, c.do("GET", "/lots/new?like=99999", "", "").Code)
}

// What a maker calls a kind is understood in a list that she types, as her own kinds are; a wrong one is told at its field, another window
// stops it, and it is let go of again.
func TestShortNames(t *testing.T) {
	c := sample(t)
	version := func() string {
		return regexp.MustCompile(`action="/kinds/short"[^>]*><input type="hidden" name="key" value="[^"]*"><input type="hidden" name="version"\s+value="(\d+)"`).FindStringSubmatch(c.page("/kinds"))[1]
	}
	w := c.form("/kinds/short", "version", version(), "short.name", "cori", "short.kind", "")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), `id="short.kind-wrong"`)
	assert.Contains(t, w.Body.String(), `value="cori"`)
	own, _ := fibre.FindKind("romney")
	own.Name = "Herd of ours"
	made, err := c.s.Workshop.SaveKind(t.Context(), workshop.OwnKind{Kind: own})
	require.NoError(t, err)
	was := version()
	for range 2 { // pressed twice it is one
		require.Equal(t, 303, c.form("/kinds/short", "key", "short-name-1", "version", was, "short.name", "cori", "short.kind", "corriedale").Code)
	}
	assert.Equal(t, 409, c.form("/kinds/short", "version", was, "short.name", "rom", "short.kind", "romney").Code)
	w = c.form("/shelf/lines", "lines", "cori 200 g\n50 g herd of ours")
	assert.Contains(t, w.Body.String(), `<option
value="corriedale" selected>`)
	assert.Contains(t, w.Body.String(), `<option
value="`+made.Key+`" selected>`)
	require.Equal(t, 303, c.form("/kinds/short/drop", "version", version(), "drop", "cori").Code)
	assert.NotContains(t, c.page("/kinds"), "<b>cori</b>")
	code, got := c.json("POST", api.Root+"/lots/read", `{"lines":["ewe 30 g"],"weight_unit":"g","kinds":{"ewe":"romney"}}`)
	require.Equal(t, 200, code)
	assert.Equal(t, "romney", list(got["lots"])[0].(map[string]any)["kind"])
}

// A lot has a photo that shows it: those of a stash by one photo have that; it is chosen in its form, and one that is not there is refused.
func TestAPhotoShowsALot(t *testing.T) {
	c := sample(t)
	at := broughtIn(t, c, stashPhoto(t, true))
	photo := strings.TrimPrefix(at, "/photos/")
	w := c.form("/shelf/lines/put", "key", "lot-with-photo", "photo", photo, "name0", "brick", "kind0", "romney", "preparation0", "combed_top", "hex0", "#a03c28")
	require.Equal(t, 303, w.Code)
	_, lots := c.json("GET", api.Root+"/lots?q=brick", "")
	lot := list(lots["lots"])[0].(map[string]any)
	assert.Equal(t, photo, fmt.Sprint(lot["photo_id"]))
	page := "/lots/" + fmt.Sprint(lot["id"])
	assert.Contains(t, c.page(page), `class="lotphoto"`)
	assert.Contains(t, c.page(page+"/edit"), `<option value="`+photo+`"`)
	fields := []string{"version", "1", "name", "brick", "kind", "romney", "preparation", "combed_top", "hex0", "#a03c28", "source0", "photo", "photo_id", "99"}
	w = c.form(page+"/edit", fields...)
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), `id="photo_id-wrong"`)
	require.Equal(t, 303, c.form("/bin/discard", "table", "photos", "id", photo).Code)
	assert.NotContains(t, c.page(page), `class="lotphoto"`)
	fields[slices.Index(fields, "99")] = photo
	require.Equal(t, 303, c.form(page+"/edit", fields...).Code, "one that it has may lie in the bin")
	fields[1], fields[slices.Index(fields, "photo_id")+1] = "2", ""
	require.Equal(t, 303, c.form(page+"/edit", fields...).Code)
	_, got := c.json("GET", api.Root+page, "")
	assert.Nil(t, got["photo_id"])
}
