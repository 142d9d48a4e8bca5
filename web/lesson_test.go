package web

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/train"
)

// lesson asks for a lesson; what is left out is as usual.
func lessonForm(more ...string) string {
	f := url.Values{
		"name": {"Tuesday"}, "bag": {"2", "5", "6"}, "equipment": {"1"}, "each": {"6"}, "passes": {"2"}, "way": {"own"},
		"pupils": {"Ada\n  Ben  K. \n\n<b>Cleo</b>\nDora"},
	}
	for i := 0; i < len(more); i += 2 {
		f.Del(more[i])
		for _, v := range strings.Split(more[i+1], ",") {
			f.Add(more[i], v)
		}
	}
	return f.Encode()
}

// A lesson is prepared whole: a blend for each pupil as the tasks have it, laid up on the carder and ready to be weighed; the wall leads
// from bag to bag, the sheets say what is weighed, and what is measured stands beside what was foreseen. Pressed twice it is one lesson.
func TestALesson(t *testing.T) {
	c := sample(t)
	before, err := c.s.Recipe.Makings(t.Context(), false)
	require.NoError(t, err)
	var at [2]string
	for i := range at {
		w := c.do("POST", "/lesson", formType, lessonForm("key", "one lesson"))
		require.Equal(t, 303, w.Code, w.Body.String())
		at[i] = w.Header().Get("Location")
	}
	require.Equal(t, at[0], at[1])
	after, err := c.s.Recipe.Makings(t.Context(), false)
	require.NoError(t, err)
	require.Len(t, after, len(before)+1)
	var making int64
	_, err = fmt.Sscanf(at[0], "/makings/%d/class", &making)
	require.NoError(t, err)

	blends, err := c.s.Recipe.BlendsOf(t.Context(), making)
	require.NoError(t, err)
	require.Len(t, blends, 4)
	list, err := c.s.Scale.WeighListOf(t.Context(), making, nil)
	require.NoError(t, err)
	require.Len(t, list.Columns, 4)
	for i, task := range train.Tasks(3, 4) {
		var sum, share float64
		for _, p := range task {
			sum += float64(p)
		}
		for _, b := range blends {
			if b.Name != []string{"Ada", "Ben K.", "<b>Cleo</b>", "Dora"}[i] {
				continue
			}
			assert.InDelta(t, 6, b.TotalG, 1e-9)
			for _, v := range b.Components {
				share = v.Share
				assert.Contains(t, []float64{float64(task[0]) / sum, float64(task[1]) / sum, float64(task[2]) / sum}, share)
			}
		}
	}
	var all float64
	for n, v := range list.Columns {
		var of float64
		for _, f := range list.Fibres {
			of += f.Grams[n]
		}
		assert.InDelta(t, v.TotalG, of, 1e-6, "a pupil’s bags add up to what she weighs")
		all += of
		laid, err := c.s.Laying.LayupsOf(t.Context(), v.BlendID)
		require.NoError(t, err)
		require.Len(t, laid, 1)
		assert.EqualValues(t, 1, laid[0].EquipmentID)
	}
	assert.InDelta(t, list.TotalG, all, 1e-6)

	wall := c.page(at[0])
	assert.Contains(t, wall, "This bag is open")
	assert.NotContains(t, wall, "<b>Cleo")
	assert.Contains(t, wall, "&lt;b&gt;Cleo")
	sheets := c.page(at[0] + "/sheets")
	assert.Equal(t, 4, strings.Count(sheets, `class="placesheet"`))
	for _, v := range list.Columns {
		c.weighTheRest(int(v.WeighoutID))
	}
	assert.Contains(t, c.page(at[0]), "All is weighed")

	samples := c.page(at[0] + "/samples")
	assert.Equal(t, 4, strings.Count(samples, "not measured yet"))
	w := c.form(at[0]+"/samples", "blend", fmt.Sprint(blends[0].ID), "hex", "#336655", "photo", "1")
	require.Equal(t, 303, w.Code, w.Body.String())
	assert.Equal(t, fmt.Sprintf("/photos/1?making=%d&kept=%d&did=noted", making, blends[0].ID), w.Header().Get("Location"))
	assert.Contains(t, c.page(fmt.Sprintf("/photos/1?making=%d", making)), "This is the sample of")
	samples = c.page(at[0] + "/samples")
	assert.Contains(t, samples, "#336655")
	assert.Contains(t, samples, "by CIEDE2000")
	for _, bad := range [][]string{{"blend", "1", "hex", "#336655"}, {"blend", "x"}, {"blend", fmt.Sprint(blends[0].ID), "hex", "green"}, {"blend", "999"}} {
		assert.Contains(t, []int{404, 422}, c.form(at[0]+"/samples", bad...).Code, bad)
	}
}

// What can not be prepared is said where it was typed, with all of that, and nothing of it is kept.
func TestALessonThatCanNotBe(t *testing.T) {
	c := sample(t)
	before, err := c.s.Recipe.Makings(t.Context(), false)
	require.NoError(t, err)
	for say, more := range map[string][]string{
		"two at least":                {"bag", "2"},
		"not on the shelf any more":   {"bag", "2,999"},
		"at most 6 bags":              {"bag", "1,2,3,4,5,6,7"},
		"stands there twice":          {"pupils", "Ada\nada"},
		"1 to 24 names":               {"pupils", " \n "},
		"40 is the most":              {"pupils", strings.Repeat("x", 41)},
		"is not there any more":       {"equipment", "999"},
		"Choose what it is carded on": {"equipment", ""},
		"A sample weighs":             {"each", "0.1"},
		"goes through 1 to 5 times":   {"passes", "9"},
		"is not a number":             {"each", "six"},
		"Give the lesson a name":      {"name", " "},
	} {
		w := c.do("POST", "/lesson", formType, lessonForm(more...))
		assert.Equal(t, 422, w.Code, say)
		assert.Contains(t, w.Body.String(), say)
		assert.Contains(t, w.Body.String(), `aria-describedby="`, say)
		if more[0] != "pupils" {
			assert.Contains(t, w.Body.String(), "Dora", "what was typed stays")
		}
	}
	after, err := c.s.Recipe.Makings(t.Context(), false)
	require.NoError(t, err)
	assert.Len(t, after, len(before))
	w := c.do("POST", "/lesson", formType, lessonForm("bag", "2", "way", "same", "equipment", "2"))
	assert.Equal(t, 303, w.Code, "all card the same of one bag, on a board")
	for _, path := range []string{"", "/sheets", "/samples"} {
		assert.Equal(t, 404, c.do("GET", "/makings/999/class"+path, "", "").Code)
		c.page("/makings/1/class" + path)
	}
}
