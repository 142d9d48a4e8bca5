package web

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/train"
	"fairtangle/studio/practising"
	"fairtangle/web/api"
)

// bestForm is the best answer to an exercise as its form says it.
func bestForm(e train.Exercise) url.Values {
	form := url.Values{}
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
	return form
}

// opened is a round that was opened by the page.
func (c client) opened(values ...string) practising.Round {
	w := c.form("/rounds", values...)
	require.Equal(c.t, 303, w.Code, w.Body.String())
	list, err := c.s.Practice.Rounds(c.t.Context())
	require.NoError(c.t, err)
	require.Equal(c.t, fmt.Sprintf("/rounds/%d", list[0].ID), w.Header().Get("Location"))
	return list[0]
}

const formType = "application/x-www-form-urlencoded"

// comesIn is a pupil's home in a round.
func (c client) comesIn(r practising.Round, name string) string {
	w := c.form("/class/"+strings.ToLower(r.Code), "name", name)
	require.Equal(c.t, 303, w.Code, w.Body.String())
	return w.Header().Get("Location")
}

// A round with a class from its opening to its end: the first answer counts, who comes back is where she was, the wall shows where answers
// lay, a ranking stands nowhere but where it is asked for, and when it is over no name is kept.
func TestARoundWithAClass(t *testing.T) {
	c := sample(t)
	assert.Equal(t, 422, c.form("/rounds", "count", "99").Code)
	assert.Equal(t, 422, c.form("/rounds", "count", "3", "skill", "juggling").Code)
	r := c.opened("name", "Tuesday <b>", "count", "3", "skill", "weighing", "level", "3")
	assert.Regexp(t, `^[B-DF-HJ-NP-TV-Z2-9]{5}$`, r.Code)
	w := c.do("GET", "/class?code=+"+strings.ToLower(r.Code[:2])+"+"+r.Code[2:], "", "")
	assert.Equal(t, "/class/"+r.Code, w.Header().Get("Location"), "in any case, with spaces")
	ada, ben := c.comesIn(r, " Ada  L. "), c.comesIn(r, `<script>alert("x")</script>`)
	for name, say := range map[string]string{"ada l.": "Somebody is called that", " ": "Say what you are called", strings.Repeat("x", 41): "40 is the most", "A\u202eda\x00 L.": "Somebody is called that"} {
		w := c.form("/class/"+r.Code, "name", name)
		assert.Equal(t, 422, w.Code)
		assert.Contains(t, w.Body.String(), say)
	}
	e, err := c.s.Practice.Task(t.Context(), r, 1)
	require.NoError(t, err)
	assert.Contains(t, c.page(ada), "1 of 3")
	assert.Equal(t, 422, c.form(ada, "n", "1").Code)
	good := bestForm(e)
	good.Set("n", "1")
	for range 2 {
		w := c.do("POST", ada, formType, good.Encode())
		require.Equal(t, 303, w.Code, w.Body.String())
		assert.Equal(t, ada+"/said/1", w.Header().Get("Location"))
	}
	other := url.Values{"n": {"1"}, "choice0": {"0"}, "grams": {"1"}}
	assert.Equal(t, 303, c.do("POST", ada, formType, other.Encode()).Code)
	assert.Contains(t, c.page(ada+"/said/1"), "<b>100</b> of 100", "the first answer counts")
	assert.Contains(t, c.page(ada), "2 of 3")
	assert.Equal(t, 303, c.do("GET", ada+"/said/2", "", "").Code, "to where nothing was said yet")
	for _, n := range []string{"0", "4", "x", "-1"} {
		assert.Equal(t, 404, c.form(ada, "n", n).Code, n)
		assert.Equal(t, 404, c.do("GET", ada+"/said/"+n, "", "").Code, n)
		assert.Equal(t, 404, c.do("GET", fmt.Sprintf("/rounds/%d/wall/%s", r.ID, n), "", "").Code, n)
	}
	// A phone that lost its page comes back by its word, and is where it was.
	word := ada[strings.LastIndex(ada, "/")+1:]
	w = c.do("GET", "/class/"+r.Code+"?word="+strings.ToLower(word), "", "")
	assert.Equal(t, ada, w.Header().Get("Location"))
	assert.Contains(t, c.page("/class/"+r.Code+"?word=ZZZZZZZZ"), "Nobody has this word")
	w = c.do("GET", "/class/"+r.Code+"/ZZZZZZZZ", "", "")
	assert.Equal(t, 404, w.Code)
	assert.Contains(t, w.Body.String(), "not this place in it")

	teacher := fmt.Sprintf("/rounds/%d", r.ID)
	page := c.page(teacher)
	assert.Contains(t, page, "2 pupils, 1 answer")
	assert.NotContains(t, page, `<script>alert`)
	assert.NotContains(t, page, "On average")
	assert.Contains(t, c.page(teacher+"?ranking=yes"), "On average")
	assert.Contains(t, c.page(teacher+"/wall"), r.Code)
	wall := c.page(teacher + "/wall/1")
	assert.NotContains(t, wall, "class=\"lay\"")
	assert.Contains(t, wall, "1 of 2 pupils answered")
	assert.Contains(t, c.page(teacher+"/wall/1?shown=yes"), "class=\"lay\"")
	assert.NotContains(t, wall, "Ada", "no name on the wall")
	assert.NotContains(t, c.page(ben), "/makings", "a pupil is led nowhere else")

	require.Equal(t, 303, c.form("/bin/discard", "table", "rounds", "id", fmt.Sprint(r.ID)).Code)
	assert.Equal(t, 404, c.do("GET", ada, "", "").Code, "in the bin its code leads nowhere")
	require.Equal(t, 303, c.form("/bin/restore", "table", "rounds", "id", fmt.Sprint(r.ID)).Code)
	assert.Contains(t, c.page(ada), "2 of 3")

	for range 2 {
		assert.Equal(t, 303, c.form(teacher+"/end", "key", "ended").Code)
	}
	assert.Equal(t, 404, c.do("GET", ada, "", "").Code)
	assert.Equal(t, 404, c.form("/class/"+r.Code, "name", "Cleo").Code)
	page = c.page(teacher)
	assert.NotContains(t, page, "Ada")
	assert.Contains(t, page, "pupil 1")
	assert.Contains(t, page, "2 pupils, 1 answer", "what was said stays")
	_, seats, err := c.s.Practice.Round(t.Context(), r.ID)
	require.NoError(t, err)
	for _, v := range seats {
		assert.Empty(t, v.Name+v.Word)
	}
}

// Pupils come in without the passphrase: to the pages of their class while it is open, to what these are drawn with, and to nothing else.
// Codes are not guessed at.
func TestPupilsComeInToTheirClassAlone(t *testing.T) {
	c := sample(t)
	h, err := New(c.s, Options{Log: quiet, Passphrase: "a long passphrase", Hosts: []string{"example.com"}})
	require.NoError(t, err)
	from := "192.0.2.9:1"
	ask := func(method, path, body string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, path, strings.NewReader(body))
		r.Header.Set("Content-Type", formType)
		r.Header.Set("Accept", "text/html")
		r.RemoteAddr = from
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w
	}
	style := regexp.MustCompile(`/static/\w+/css/all.css`).FindString(c.page("/practise"))
	require.NotEmpty(t, style)
	assert.Equal(t, 401, ask("GET", "/class", "").Code)
	assert.Equal(t, 401, ask("GET", style, "").Code, "where no class is open nothing is served")
	r := c.opened("count", "2", "skill", "within")
	assert.Equal(t, 200, ask("GET", "/class", "").Code)
	assert.Equal(t, 200, ask("GET", style, "").Code)
	w := ask("POST", "/class/"+r.Code, "name=Ada")
	require.Equal(t, 303, w.Code, w.Body.String())
	ada := w.Header().Get("Location")
	assert.Equal(t, 200, ask("GET", ada, "").Code)
	assert.Equal(t, 200, ask("GET", ada+"/batt/1", "").Code)
	assert.Equal(t, 200, ask("GET", ada+"/batt/1?parts=3_1", "").Code)
	assert.Equal(t, 303, ask("POST", ada, "n=1&part0=3&part1=1").Code)
	assert.Equal(t, 200, ask("GET", ada+"/said/1", "").Code)
	for _, path := range routes()[http.MethodGet] {
		path = strings.NewReplacer(":id", fmt.Sprint(r.ID), ":n", "1").Replace(path)
		if !strings.HasPrefix(path, "/class") {
			assert.Equal(t, 401, ask("GET", path, "").Code, path)
		}
	}
	for _, path := range []string{"/classes", "/class/../makings", "/class/" + r.Code + "/../../makings", "/rounds", api.Root + "/lots", "/static/../makings"} {
		assert.NotEqual(t, 200, ask("GET", path, "").Code, path)
	}
	for _, path := range routes()[http.MethodPost] {
		if !strings.HasPrefix(path, "/class") {
			assert.Equal(t, 401, ask("POST", strings.ReplaceAll(path, ":id", fmt.Sprint(r.ID)), "").Code, path)
		}
	}
	from = "192.0.2.10:1"
	codes := map[int]int{}
	for i := range 100 {
		codes[ask("GET", fmt.Sprintf("/class/BCDF%d", i), "").Code]++
	}
	assert.InDelta(t, wrongInARow, codes[http.StatusNotFound], 2)
	assert.Equal(t, 100, codes[http.StatusNotFound]+codes[http.StatusTooManyRequests])
	assert.Equal(t, 200, ask("GET", ada, "").Code, "who knows the code is not slowed")
	require.NoError(t, c.s.Practice.EndRound(t.Context(), r.ID))
	w = ask("GET", ada, "")
	assert.Contains(t, w.Body.String(), "No round of a class can be come into here now")
	assert.NotEqual(t, 200, ask("GET", style, "").Code)
}

// Thirty phones at once: each answer is kept once, whoever presses twice, and where all are, each is where it was. The time of an answer is
// told, not judged.
func TestThirtyPhones(t *testing.T) {
	const phones, count = 30, 10
	c := sample(t)
	r := c.opened("count", fmt.Sprint(count), "level", "2", "skill", "")
	c.page(fmt.Sprintf("/rounds/%d", r.ID))
	var tasks []train.Exercise
	for n := 1; n <= count; n++ {
		e, err := c.s.Practice.Task(t.Context(), r, n)
		require.NoError(t, err)
		tasks = append(tasks, e)
	}
	took := make([][]time.Duration, phones)
	var all sync.WaitGroup
	for i := range phones {
		all.Go(func() {
			home := c.comesIn(r, fmt.Sprint("pupil ", i))
			for n, e := range tasks {
				c.page(home)
				f := bestForm(e)
				f.Set("n", fmt.Sprint(n+1))
				f.Set("key", fmt.Sprint(home, n))
				for range 2 {
					start := time.Now()
					w := c.do("POST", home, formType, f.Encode())
					took[i] = append(took[i], time.Since(start))
					assert.Equal(t, 303, w.Code, w.Body.String())
				}
				c.page(home + fmt.Sprint("/said/", n+1))
			}
		})
	}
	all.Wait()
	_, seats, err := c.s.Practice.Round(t.Context(), r.ID)
	require.NoError(t, err)
	require.Len(t, seats, phones)
	for _, v := range seats {
		require.Len(t, v.Answers, count, v.Name)
		assert.InDelta(t, 100, v.Mean(), 1e-9)
		assert.Zero(t, v.Next(r))
	}
	list := slices.Sorted(slices.Values(slices.Concat(took...)))
	t.Logf("%d answers of %d phones: half within %v, 95 of 100 within %v", len(list), phones, list[len(list)/2], list[len(list)*95/100])
}
