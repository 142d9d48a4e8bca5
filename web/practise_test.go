package web

import (
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/train"
)

// An exercise is the same for everybody who has its address; the best answer gets all of the score, is kept, and moves one on; what is not
// an answer is told at its field with what was said; the same press twice is one answer.
func TestPractising(t *testing.T) {
	c := sample(t)
	w := c.do("GET", "/practise/reaching", "", "")
	require.Equal(t, 303, w.Code)
	assert.Regexp(t, `^/practise/reaching\?seed=\d+&level=1&by=hue$`, w.Header().Get("Location"))
	for n, skill := range train.Skills {
		e, err := train.Make(skill, 1, 41, false)
		require.NoError(t, err)
		form := url.Values{"seed": {"41"}, "level": {"1"}, "by": {"hue"}, "key": {fmt.Sprint("practising-", skill)}}
		w := c.do("POST", "/practise/"+string(skill), "application/x-www-form-urlencoded", form.Encode())
		assert.Equal(t, 422, w.Code, skill)
		assert.Contains(t, w.Body.String(), `aria-invalid="true"`)
		form.Set("key", fmt.Sprint("practising again-", skill))
		best := e.Best()
		for i, p := range best.Parts {
			form.Set(fmt.Sprint("part", i), fmt.Sprint(p))
		}
		for i, k := range best.Chosen {
			form.Set(fmt.Sprint("choice", i), fmt.Sprint(k))
		}
		if e.Grams {
			form.Set("grams", fmt.Sprint(float64(best.Grams)))
		}
		var to [2]string
		for i := range to {
			w = c.do("POST", "/practise/"+string(skill), "application/x-www-form-urlencoded", form.Encode())
			require.Equal(t, 303, w.Code, w.Body.String())
			to[i] = w.Header().Get("Location")
		}
		assert.Equal(t, to[0], to[1], "one answer")
		page := c.page(to[0])
		assert.Contains(t, page, "That is it.")
		assert.Contains(t, page, "<b>100</b> of 100")
		of, _, err := c.s.Practice.Standings(t.Context())
		require.NoError(t, err)
		assert.Equal(t, 1, of[n].Turns)
	}
	for _, path := range []string{"/practise/juggling", "/practised/99", "/practise/weighing/batt.png?seed=1&level=1", "/practised/x"} {
		assert.Equal(t, 404, c.do("GET", path, "", "").Code, path)
	}
	for _, q := range []string{"seed=-1", "seed=99999999999999999999", "level=9&seed=1", "level=-3&seed=1", "level=x&seed=1", "seed=1&level=1&by=%00"} {
		assert.Contains(t, []int{200, 303}, c.do("GET", "/practise/within?"+q, "", "").Code, q)
	}
	for _, parts := range []string{"", "0_0", "1e9_1", "x_1", "NaN_1", "1_1_1_1_1", "-1_1"} {
		assert.Contains(t, []int{200, 422}, c.do("GET", "/practise/within/batt.png?seed=1&level=1&parts="+url.QueryEscape(parts), "", "").Code, parts)
	}
}

// A maker of ounces is asked and told in ounces.
func TestPractisingInOunces(t *testing.T) {
	c := sample(t)
	c.weighsInOunces()
	for seed := range 6 {
		page := c.page(fmt.Sprintf("/practise/weighing?seed=%d&level=2", seed))
		assert.Contains(t, page, "oz")
		assert.NotRegexp(t, regexp.MustCompile(`\d.g\b`), page)
	}
}

// A sheet is the same by its address, has as many exercises as asked for, and its answers apart, by another name than on the exercises.
func TestASheetOfExercises(t *testing.T) {
	c := sample(t)
	page := c.page("/practise/sheet?count=12&level=2&seed=5")
	assert.Equal(t, page, c.page("/practise/sheet?count=12&level=2&seed=5"))
	assert.Equal(t, 12, strings.Count(page, `class="sheettask"`))
	tasks, answers, apart := strings.Cut(page, `class="sheetanswers"`)
	require.True(t, apart)
	assert.Equal(t, 12, strings.Count(answers, "<li>"))
	assert.NotContains(t, tasks, "comes right after", "no answer stands among the exercises")
	assert.Equal(t, 3, strings.Count(c.page("/practise/sheet?count=3&skill=weighing&seed=5"), `class="sheettask"`))
	for _, q := range []string{"count=0", "count=31", "count=many"} {
		w := c.do("GET", "/practise/sheet?"+q, "", "")
		assert.Equal(t, 422, w.Code, q)
		assert.Contains(t, w.Body.String(), "A sheet has 1 to 30 exercises")
	}
	assert.Equal(t, 200, c.do("GET", "/practise/sheet?skill=juggling&level=-4&seed=x&count=2", "", "").Code)
}
