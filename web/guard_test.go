package web

import (
	"bytes"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
	w := ask("192.0.2.7:4001", "a long passphrase", "/makings")
	assert.Equal(t, http.StatusTooManyRequests, w.Code, "a right one can not be told from a wrong one for a while")
	assert.NotEmpty(t, w.Header().Get("Retry-After"))
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
