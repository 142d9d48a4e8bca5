package main

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"fairtangle/web"
)

// sealing is whether what is sent goes sealed, and by which certificate.
type sealing struct {
	wanted    bool
	cert, key string
}

// ownCertFor is how long a certificate that the program made is good; a week before it ends another one is made.
const ownCertFor = 825 * 24 * time.Hour

// ready is how it is sealed, nil where it is not, and how it is reached from other devices by the names that it answers to.
func (s sealing) ready(dir string, names []string, at net.Addr) (*tls.Config, web.Beyond, error) {
	beyond := web.Beyond{TLS: s.wanted || s.cert != ""}
	_, port, err := net.SplitHostPort(at.String())
	if err != nil {
		return nil, beyond, err
	}
	for _, name := range names {
		ip := net.ParseIP(name)
		if plain := ip == nil && strings.Contains(name, "."); plain || ip.To4() != nil && !ip.IsLoopback() && !ip.IsUnspecified() {
			if at := addressOf(beyond.TLS, net.JoinHostPort(name, port)); !slices.Contains(beyond.Addresses, at) {
				beyond.Addresses = append(beyond.Addresses, at)
			}
		}
	}
	if !beyond.TLS {
		return nil, beyond, nil
	}
	var pair tls.Certificate
	if s.cert == "" && s.key == "" {
		pair, err = ownCert(filepath.Clean(dir)+"-tls", names, time.Now())
		if err == nil {
			beyond.Fingerprint = fingerprint(pair.Certificate[0])
		}
	} else {
		pair, err = tls.LoadX509KeyPair(s.cert, s.key)
	}
	if err != nil {
		return nil, beyond, fmt.Errorf("certificate: %w", err)
	}
	return &tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12}, beyond, nil
}

func addressOf(sealed bool, host string) string {
	if sealed {
		return "https://" + host
	}
	return "http://" + host
}

// fingerprint is the SHA-256 of a certificate as browsers write it.
func fingerprint(der []byte) string {
	sum := sha256.Sum256(der)
	out := make([]string, len(sum))
	for i, b := range sum {
		out[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(out, ":")
}

// ownCert is the certificate that the program made for itself, in a directory beside the data: the one that is there while it is good and
// has all names, so that a device that was told of it once is not asked again.
func ownCert(dir string, names []string, now time.Time) (pair tls.Certificate, err error) {
	certFile, keyFile := filepath.Join(dir, "cert.pem"), filepath.Join(dir, "key.pem")
	names = append([]string{"localhost", "127.0.0.1", "::1"}, names...)
	if pair, err = tls.LoadX509KeyPair(certFile, keyFile); err == nil && pair.Leaf != nil && now.Add(7*24*time.Hour).Before(pair.Leaf.NotAfter) &&
		!slices.ContainsFunc(names, func(n string) bool { return pair.Leaf.VerifyHostname(n) != nil }) {
		return pair, nil
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return pair, err
	}
	serial, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120))
	if err != nil {
		return pair, err
	}
	of := x509.Certificate{
		SerialNumber: serial, Subject: pkix.Name{CommonName: "Fair Tangle on this computer"}, NotBefore: now.Add(-time.Hour), NotAfter: now.Add(ownCertFor),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}, BasicConstraintsValid: true,
	}
	for _, n := range names {
		if ip := net.ParseIP(n); ip != nil {
			of.IPAddresses = append(of.IPAddresses, ip)
		} else {
			of.DNSNames = append(of.DNSNames, n)
		}
	}
	der, err := x509.CreateCertificate(rand.Reader, &of, &of, key.Public(), key)
	if err != nil {
		return pair, err
	}
	secret, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return pair, err
	}
	if err := errors.Join(os.MkdirAll(dir, 0o700), os.WriteFile(keyFile, pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: secret}), 0o600),
		os.WriteFile(certFile, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), 0o600)); err != nil {
		return pair, err
	}
	return tls.LoadX509KeyPair(certFile, keyFile)
}
