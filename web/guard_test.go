package web

import (
	"bytes"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/device"
	"fairtangle/web/api"
)

// guarded asks a program with a passphrase for something, from an address.
func guarded(t *testing.T, log *bytes.Buffer) func(from, pass, path string) *httptest.ResponseRecorder {
	c := sample(t)
	h, err := New(c.s, Options{Log: slog.New(slog.NewTextHandler(log, nil)), Passphrase: "a long passphrase", Hosts: []string{"example.com"}})
	require.NoError(t, err)
	return func(from, pass, path string) *httptest.ResponseRecorder {
		r := httptest.NewRequest("GET", path, nil)
		r.RemoteAddr = from
		if pass != "" {
			r.SetBasicAuth("", pass)
		}
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w
	}
}

func TestGuessesAreSlowedByAddress(t *testing.T) {
	var log bytes.Buffer
	ask := guarded(t, &log)
	codes := map[int]int{}
	for range 100 {
		codes[ask("192.0.2.7:4000", "a wrong passphrase", "/makings").Code]++
	}
	assert.InDelta(t, wrongInARow, codes[http.StatusUnauthorized], 2)
	assert.Equal(t, 100, codes[http.StatusUnauthorized]+codes[http.StatusTooManyRequests])
	w := ask("192.0.2.7:4001", "a wrong passphrase", "/makings")
	assert.Equal(t, http.StatusTooManyRequests, w.Code)
	assert.NotEmpty(t, w.Header().Get("Retry-After"))
	for range 60 { // behind a proxy a stranger who guesses has the address of the maker
		assert.Equal(t, http.StatusOK, ask("192.0.2.7:4001", "a long passphrase", "/makings").Code)
	}
	assert.Equal(t, http.StatusOK, ask("192.0.2.8:4000", "a long passphrase", "/makings").Code, "others are not slowed")
	assert.Contains(t, log.String(), "address=192.0.2.7")
	for range 50 { // browsers ask once without, before they know that one is wanted
		assert.Equal(t, http.StatusUnauthorized, ask("[2001:db8::1]:9", "", "/makings").Code)
	}
	for i := range 100 {
		ask("[2001:db8::"+string(rune('1'+i%9))+"]:9", "a wrong passphrase", "/makings")
	}
	assert.Equal(t, http.StatusTooManyRequests, ask("[2001:db8::aaaa]:9", "a wrong passphrase", "/makings").Code, "of one network")
	assert.Equal(t, http.StatusUnauthorized, ask("[2001:db8:0:1::1]:9", "a wrong passphrase", "/makings").Code)
}

// Nothing is answered to who is not known: no page, no redirect, no 404.
func TestNothingIsToldBeforeSigningIn(t *testing.T) {
	var log bytes.Buffer
	ask := guarded(t, &log)
	for _, path := range []string{"/", "/shelf/", "/nowhere", "/makings/", "/api/v1/lots/", "//example.org/", "/static/x/y"} {
		w := ask("192.0.2.7:4000", "", path)
		assert.Equal(t, http.StatusUnauthorized, w.Code, path)
		assert.Empty(t, w.Header().Get("Location"), path)
	}
	w := ask("192.0.2.7:4000", "a long passphrase", "/shelf/")
	assert.Equal(t, "/shelf", w.Header().Get("Location"))
	w = ask("192.0.2.7:4000", "a long passphrase", "//example.org/")
	assert.Equal(t, "/example.org", w.Header().Get("Location"), "never to another site")
}

// What a proxy says of who asks counts where the proxy was named, and only then.
func TestAProxyIsBelievedWhereItWasNamed(t *testing.T) {
	c := sample(t)
	h, err := New(c.s, Options{Log: quiet, Passphrase: "a long passphrase", Hosts: []string{"example.com"}, Proxies: []string{"192.0.2.1"}})
	require.NoError(t, err)
	guess := func(from, forwarded string) int {
		r := httptest.NewRequest("GET", "/makings", nil)
		r.RemoteAddr = from
		r.Header.Set("X-Forwarded-For", forwarded)
		r.SetBasicAuth("", "wrong")
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w.Code
	}
	for range 2 * wrongInARow {
		guess("192.0.2.1:1", "203.0.113.9")
	}
	assert.Equal(t, http.StatusTooManyRequests, guess("192.0.2.1:1", "198.51.100.1, 203.0.113.9"), "what the client itself says is not believed")
	assert.Equal(t, http.StatusUnauthorized, guess("192.0.2.1:1", "203.0.113.10"))
	for range 2 * wrongInARow {
		guess("192.0.2.2:1", "203.0.113.11")
	}
	assert.Equal(t, http.StatusTooManyRequests, guess("192.0.2.2:1", "203.0.113.12"), "this one was not named")
}

// A page of another site takes nothing, is told so with all headers, and no answer leads away.
func TestAnotherSiteTakesNothing(t *testing.T) {
	c := sample(t)
	ask := func(method, path, body string, headers ...string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, path, strings.NewReader(body))
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		for i := 0; i < len(headers); i += 2 {
			r.Header.Set(headers[i], headers[i+1])
		}
		w := httptest.NewRecorder()
		c.h.ServeHTTP(w, r)
		return w
	}
	w := ask("GET", "/weighouts/1/live?window=a-window-of-its-own&name=me", "", "Sec-Fetch-Site", "cross-site")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	w = ask("POST", "/ground", "ground=dark", "Sec-Fetch-Site", "cross-site")
	assert.Equal(t, http.StatusForbidden, w.Code)
	assert.NotEmpty(t, w.Header().Get("Content-Security-Policy"))
	for _, back := range []string{"//evil.example", "/\t/evil.example", "/\n/evil.example", "/\\evil.example", "https://evil.example",
		"\t//evil.example", "/ /evil.example"} {
		w = ask("POST", "/ground", url.Values{"ground": {"dark"}, "back": {back}}.Encode())
		assert.Equal(t, "/", w.Header().Get("Location"), "%q", back)
	}
	w = ask("POST", "/ground", url.Values{"ground": {"dark"}, "back": {"/shelf?q=a%20b"}}.Encode())
	assert.Equal(t, "/shelf?q=a%20b", w.Header().Get("Location"))
	w = ask("GET", "/photos/1/picture.png", "")
	require.Equal(t, http.StatusOK, w.Code)
	assert.Contains(t, w.Header().Get("Cache-Control"), "private")
}

// The page of a pan runs no inline script, stands in no frame, and answers to this machine's names.
func TestThePageOfAPan(t *testing.T) {
	h := Only(nil, device.NewPan(0.1, 500, 1, time.Now).Page())
	ask := func(host, path string) *httptest.ResponseRecorder {
		r := httptest.NewRequest("GET", path, nil)
		r.Host = host
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w
	}
	w := ask("localhost:7041", "/")
	require.Equal(t, http.StatusOK, w.Code)
	assert.NotContains(t, w.Header().Get("Content-Security-Policy"), "unsafe-inline")
	assert.Contains(t, w.Header().Get("Content-Security-Policy"), "frame-ancestors 'none'")
	assert.NotRegexp(t, `<style|<script>|\son[a-z]+=`, w.Body.String())
	assert.Contains(t, ask("127.0.0.1:7041", "/pan.js").Body.String(), "fetch")
	assert.Equal(t, http.StatusMisdirectedRequest, ask("evil.example", "/state").Code)
}

// signedIn is a browser that keeps its cookie.
type signedIn struct {
	h      http.Handler
	cookie string
}

func (b *signedIn) ask(method, path string, fields ...string) *httptest.ResponseRecorder {
	q := url.Values{}
	for i := 0; i+1 < len(fields); i += 2 {
		q.Set(fields[i], fields[i+1])
	}
	r := httptest.NewRequest(method, path, strings.NewReader(q.Encode()))
	r.Header.Set("Accept", "text/html")
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	if b.cookie != "" {
		r.Header.Set("Cookie", "fair-tangle="+b.cookie)
	}
	w := httptest.NewRecorder()
	b.h.ServeHTTP(w, r)
	for _, c := range w.Result().Cookies() {
		b.cookie = c.Value
	}
	return w
}

// A browser signs in by a page that is the same wherever it asked, leads back there and nowhere else, and stays signed in until it is
// signed out, here or everywhere.
func TestOneSignsInByAPage(t *testing.T) {
	c := sample(t)
	h, err := New(c.s, Options{Log: quiet, Passphrase: "a long passphrase", Hosts: []string{"example.com"}, Beyond: Beyond{TLS: true, Addresses: []string{"https://bench.local:8080"}}})
	require.NoError(t, err)
	phone, tablet := &signedIn{h: h}, &signedIn{h: h}
	for _, path := range []string{"/shelf?q=a", "/nowhere", "//example.org/"} {
		w := phone.ask("GET", path)
		assert.Equal(t, 401, w.Code)
		assert.Contains(t, w.Body.String(), `name="passphrase"`)
		assert.Empty(t, w.Header().Get("Location"))
		assert.Empty(t, w.Header().Get("WWW-Authenticate"), "a browser asks nothing by itself")
	}
	assert.Contains(t, phone.ask("GET", "/shelf?q=a").Body.String(), `value="/shelf?q=a"`)
	w := phone.ask("POST", "/sign-in", "passphrase", "a wrong one", "to", "/shelf")
	assert.Equal(t, 401, w.Code)
	assert.Contains(t, w.Body.String(), "That is not the passphrase")
	assert.Contains(t, w.Body.String(), `value="/shelf"`)
	assert.Empty(t, phone.cookie)
	for _, b := range []*signedIn{phone, tablet} {
		w = b.ask("POST", "/sign-in", "passphrase", "a long passphrase", "to", "/shelf?q=a")
		require.Equal(t, 303, w.Code)
		assert.Equal(t, "/shelf?q=a", w.Header().Get("Location"))
		said := w.Header().Get("Set-Cookie")
		for _, want := range []string{"HttpOnly", "Secure", "SameSite=Lax"} {
			assert.Contains(t, said, want)
		}
		assert.Equal(t, 200, b.ask("GET", "/shelf").Code)
	}
	assert.Equal(t, "/", (&signedIn{h: h}).ask("POST", "/sign-in", "passphrase", "a long passphrase", "to", "//evil.example").Header().Get("Location"))
	page := phone.ask("GET", "/devices").Body.String()
	assert.Contains(t, page, "https://bench.local:8080")
	assert.Contains(t, page, "Sign out everywhere")
	kept := phone.cookie
	assert.Equal(t, 303, phone.ask("POST", "/devices/out", "where", "here").Code)
	phone.cookie = kept
	assert.Equal(t, 401, phone.ask("GET", "/shelf").Code, "what was signed out stays out, also for who kept the cookie")
	assert.Equal(t, 200, tablet.ask("GET", "/shelf").Code)
	require.Equal(t, 303, phone.ask("POST", "/sign-in", "passphrase", "a long passphrase").Code)
	kept = tablet.cookie
	assert.Equal(t, 303, phone.ask("POST", "/devices/out", "where", "everywhere").Code)
	tablet.cookie = kept
	assert.Equal(t, 401, tablet.ask("GET", "/shelf").Code)
	w = tablet.ask("POST", "/makings", "name", "typed")
	assert.Equal(t, 401, w.Code)
	assert.Contains(t, w.Body.String(), "what you sent was not taken")
	tablet.cookie = "made-up"
	assert.Equal(t, 401, tablet.ask("GET", "/shelf").Code)
}

// Ten thousand wrong ones from ten addresses: she signs in at once in between, and each of them is slowed.
func TestSheSignsInWhileOthersGuess(t *testing.T) {
	c := sample(t)
	h, err := New(c.s, Options{Log: quiet, Passphrase: "a long passphrase", Hosts: []string{"example.com"}})
	require.NoError(t, err)
	slowed := 0
	for i := range 10_000 {
		r := httptest.NewRequest("POST", "/sign-in", strings.NewReader("passphrase=guess"))
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.RemoteAddr = "192.0.2." + string(rune('0'+i%10)) + ":1"
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		if w.Code == http.StatusTooManyRequests {
			slowed++
		}
		if i%1000 == 500 {
			her := &signedIn{h: h}
			require.Equal(t, 303, her.ask("POST", "/sign-in", "passphrase", "a long passphrase").Code)
			require.Equal(t, 200, her.ask("GET", "/makings").Code)
		}
	}
	assert.Greater(t, slowed, 9_000)
}

// A program asks with a token until it is withdrawn; the secret is shown once and kept as its hash alone.
func TestAProgramAsksWithAToken(t *testing.T) {
	c := sample(t)
	h, err := New(c.s, Options{Log: quiet, Passphrase: "a long passphrase", Hosts: []string{"example.com"}})
	require.NoError(t, err)
	ask := func(token string) int {
		r := httptest.NewRequest("GET", api.Root+"/makings", nil)
		r.Header.Set("Authorization", "Bearer "+token)
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w.Code
	}
	her := &signedIn{h: h}
	require.Equal(t, 303, her.ask("POST", "/sign-in", "passphrase", "a long passphrase").Code)
	assert.Equal(t, 422, her.ask("POST", "/devices/tokens", "name", " ").Code)
	page := her.ask("POST", "/devices/tokens", "name", "the <b>loom</b>").Body.String()
	secret := regexp.MustCompile(`ft-[A-Z2-7]{26}`).FindString(page)
	require.NotEmpty(t, secret)
	assert.Contains(t, page, "the &lt;b&gt;loom&lt;/b&gt;")
	assert.Equal(t, 200, ask(secret))
	for _, wrong := range []string{"", "ft-", secret[:len(secret)-1], strings.ToLower(secret), "a wrong passphrase"} {
		assert.Equal(t, 401, ask(wrong), wrong)
	}
	page = her.ask("GET", "/devices").Body.String()
	assert.NotContains(t, page, secret)
	assert.Contains(t, page, "last used")
	id := regexp.MustCompile(`name="id" value="(\d+)"`).FindStringSubmatch(page)[1]
	require.Equal(t, 303, her.ask("POST", "/devices/withdraw", "id", id, "key", "withdraw-it-once").Code)
	assert.Equal(t, 401, ask(secret))
}

// Whatever is sent to the door lets nobody in, and breaks nothing.
func TestTheDoorHolds(t *testing.T) {
	c := sample(t)
	h, err := New(c.s, Options{Log: quiet, Passphrase: "a long passphrase", Hosts: []string{"example.com"}})
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.OneOf(rapid.String(), rapid.SampledFrom([]string{"", "a long passphrase ", "A long passphrase", "ft-", "fair-tangle=", "Bearer ", "Basic Og==", "\x00"}))
		r := httptest.NewRequest(rapid.SampledFrom([]string{"GET", "POST", "PUT", "DELETE"}).Draw(t, "method"),
			rapid.SampledFrom([]string{"/", "/sign-in", "/devices/tokens", "/devices/out", "/api/v1/lots", "/away", "/sw.js", "/-/stop", "/manifest.webmanifest"}).Draw(t, "path"),
			strings.NewReader(url.Values{"passphrase": {text.Draw(t, "said")}, "to": {text.Draw(t, "to")}}.Encode()))
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.Header.Set("Accept", rapid.SampledFrom([]string{"text/html", "application/json", ""}).Draw(t, "accept"))
		r.Header["Authorization"] = []string{rapid.SampledFrom([]string{"Bearer ", "Basic ", ""}).Draw(t, "as") + text.Draw(t, "authorization")}
		r.Header["Cookie"] = []string{"fair-tangle=" + text.Draw(t, "cookie")}
		r.Header["X-Stop"] = []string{text.Draw(t, "stop")}
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		require.Contains(t, []int{http.StatusUnauthorized, http.StatusTooManyRequests, http.StatusForbidden, http.StatusBadRequest}, w.Code)
		require.Empty(t, w.Header().Get("Set-Cookie"))
	})
}
