package main

import (
	"crypto/tls"
	"net"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The certificate that the program makes for itself has the names it answers to, stays the same at the next start, and is made anew for
// another name or before it ends; its key is the maker's alone.
func TestTheOwnCertificateStays(t *testing.T) {
	dir, now := filepath.Join(t.TempDir(), "data-tls"), time.Now()
	first, err := ownCert(dir, []string{"192.0.2.7", "bench.local"}, now)
	require.NoError(t, err)
	for _, name := range []string{"192.0.2.7", "bench.local", "localhost", "127.0.0.1"} {
		assert.NoError(t, first.Leaf.VerifyHostname(name))
	}
	assert.Error(t, first.Leaf.VerifyHostname("elsewhere.example"))
	again, err := ownCert(dir, []string{"bench.local"}, now.Add(400*24*time.Hour))
	require.NoError(t, err)
	assert.Equal(t, fingerprint(first.Certificate[0]), fingerprint(again.Certificate[0]))
	assert.Regexp(t, `^([0-9A-F]{2}:){31}[0-9A-F]{2}$`, fingerprint(first.Certificate[0]))
	other, err := ownCert(dir, []string{"kitchen.local"}, now)
	require.NoError(t, err)
	assert.NotEqual(t, first.Certificate[0], other.Certificate[0])
	later, err := ownCert(dir, []string{"kitchen.local"}, now.Add(ownCertFor))
	require.NoError(t, err)
	assert.NotEqual(t, other.Certificate[0], later.Certificate[0])
}

// What is shown to other devices is what one can type there: addresses of networks and names with a dot.
func TestHowItIsReached(t *testing.T) {
	at := &net.TCPAddr{IP: net.IPv4zero, Port: 8080}
	names := []string{"bench", "bench.local", "192.0.2.7", "192.0.2.7", "127.0.0.1", "0.0.0.0", "fd00::2"}
	c, beyond, err := sealing{}.ready(filepath.Join(t.TempDir(), "data"), names, at)
	require.NoError(t, err)
	assert.Nil(t, c)
	assert.Equal(t, []string{"http://bench.local:8080", "http://192.0.2.7:8080"}, beyond.Addresses)
	c, beyond, err = sealing{wanted: true}.ready(filepath.Join(t.TempDir(), "data"), names, at)
	require.NoError(t, err)
	assert.EqualValues(t, tls.VersionTLS12, c.MinVersion)
	assert.Equal(t, "https://192.0.2.7:8080", beyond.Addresses[1])
	assert.NotEmpty(t, beyond.Fingerprint)
	_, _, err = sealing{cert: "/nowhere.pem", key: "/nowhere.pem"}.ready(t.TempDir(), names, at)
	assert.ErrorContains(t, err, "certificate")
	assert.Contains(t, hostNames("0.0.0.0:8080", "mine.example"), "mine.example")
	assert.Equal(t, []string{"127.0.0.1"}, hostNames("127.0.0.1:8080", ""))
}
