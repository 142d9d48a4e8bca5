package web

import (
	"bytes"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/device"
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
