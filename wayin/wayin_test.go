package wayin_test

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"io"
	"math/big"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/wayin"
)

var start = time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC)

type clock struct{ at time.Time }

func (c *clock) now() time.Time { return c.at }

// ours is a way in by the household's own authority.
func ours(t *testing.T, c *clock) (*wayin.Way, string) {
	t.Helper()
	folder := filepath.Join(t.TempDir(), "authority")
	w, err := wayin.Open(wayin.Wish{Listen: "0.0.0.0:8420", Hosts: []string{"ClearJar.local", "192.168.1.20"}, Authority: folder}, true, c.now)
	require.NoError(t, err)
	return w, folder
}

func TestBeyondThisMachineOnlyWithAllOfIt(t *testing.T) {
	t.Parallel()
	c := &clock{start}
	whole := wayin.Wish{Listen: "0.0.0.0:8420", Hosts: []string{"clearjar.local"}, Authority: filepath.Join(t.TempDir(), "a")}
	for says, change := range map[string]func(w *wayin.Wish) bool{
		"a certificate":    func(w *wayin.Wish) bool { w.Authority = ""; return true },
		"--host":           func(w *wayin.Wish) bool { w.Hosts = nil; return true },
		"somebody who can": func(*wayin.Wish) bool { return false },
		"--demo":           func(w *wayin.Wish) bool { w.Demo = true; return true },
	} {
		w := whole
		members := change(&w)
		_, err := wayin.Open(w, members, c.now)
		var missing wayin.Missing
		require.ErrorAs(t, err, &missing, says)
		require.Len(t, missing, 1)
		require.ErrorContains(t, err, says)
	}
	_, err := wayin.Open(wayin.Wish{Listen: ":8420"}, false, c.now)
	var missing wayin.Missing
	require.ErrorAs(t, err, &missing)
	require.Len(t, missing, 3)
	for listen, loopback := range map[string]bool{"127.0.0.1:8420": true, "[::1]:8420": true, "localhost:1": true, "127.0.0.53:1": true, "0.0.0.0:1": false, "[::]:1": false, ":1": false, "192.168.1.20:1": false, "[fe80::1]:1": false} {
		is, err := wayin.IsLoopback(listen)
		require.NoError(t, err, listen)
		require.Equal(t, loopback, is, listen)
	}
	for _, bad := range []string{"", "127.0.0.1", "127.0.0.1:x", "127.0.0.1:70000", "garden.example:8420"} {
		_, err := wayin.IsLoopback(bad)
		require.Error(t, err, bad)
	}
	for _, bad := range []string{"https://clearjar.local", "clearjar.local:8420", "a b", "-a", "", "a..b"} {
		w := whole
		w.Hosts = []string{bad}
		_, err := wayin.Open(w, true, c.now)
		require.ErrorContains(t, err, "no name and no number", bad)
	}
	way, err := wayin.Open(wayin.Wish{Listen: "127.0.0.1:8420", Demo: true}, false, c.now)
	require.NoError(t, err)
	require.True(t, way.Loopback)
	require.False(t, way.TLS())
}

// What a phone does: it trusts the authority, and nothing else.
func verify(t *testing.T, root, leaf *x509.Certificate, name string, at time.Time) error {
	t.Helper()
	pool := x509.NewCertPool()
	pool.AddCert(root)
	_, err := leaf.Verify(x509.VerifyOptions{Roots: pool, DNSName: name, CurrentTime: at})
	return err
}

func TestAnAuthorityOfThisHousehold(t *testing.T) {
	t.Parallel()
	c := &clock{start}
	w, folder := ours(t, c)
	info, err := os.Stat(filepath.Join(folder, "authority.key"))
	require.NoError(t, err)
	require.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	require.Equal(t, []string{"https://clearjar.local:8420", "https://192.168.1.20:8420"}, w.Addresses())
	require.Equal(t, []string{"http://clearjar.local:8421", "http://192.168.1.20:8421"}, w.TrustAddresses())

	cert, err := w.Certificate()
	require.NoError(t, err)
	for _, name := range []string{"clearjar.local", "192.168.1.20", "localhost", "127.0.0.1"} {
		require.NoError(t, verify(t, w.Ours.Cert, cert.Leaf, name, c.at), name)
	}
	require.Error(t, verify(t, w.Ours.Cert, cert.Leaf, "garden.example", c.at))
	// A phone whose clock is a day behind.
	require.NoError(t, verify(t, w.Ours.Cert, cert.Leaf, "clearjar.local", c.at.Add(-23*time.Hour)))
	// published: CA/Browser Forum baseline requirements, 398 days at most (from memory).
	require.LessOrEqual(t, cert.Leaf.NotAfter.Sub(cert.Leaf.NotBefore), 398*24*time.Hour)

	// Opened again it is the same, and its server's certificate is renewed by itself a month before it runs out.
	again, err := wayin.Open(w.Wish, true, c.now)
	require.NoError(t, err)
	require.Equal(t, wayin.Fingerprint(w.Ours.Cert), wayin.Fingerprint(again.Ours.Cert))
	same, err := w.Certificate()
	require.NoError(t, err)
	require.Same(t, cert, same)
	c.at = c.at.AddDate(0, 0, 340)
	renewed, err := w.Certificate()
	require.NoError(t, err)
	require.NotEqual(t, cert.Leaf.SerialNumber, renewed.Leaf.SerialNumber)
	require.NoError(t, verify(t, w.Ours.Cert, renewed.Leaf, "clearjar.local", c.at.AddDate(0, 11, 0)))
	// Its names are its own: others need another authority, and one whose key others read is not used.
	wish := w.Wish
	wish.Hosts = []string{"elsewhere.local"}
	_, err = wayin.Open(wish, true, c.now)
	require.ErrorIs(t, err, wayin.ErrNotItsName)
	require.NoError(t, os.Chmod(filepath.Join(folder, "authority.key"), 0o644))
	_, err = wayin.Open(w.Wish, true, c.now)
	require.ErrorContains(t, err, "can be read by others")
	require.NoError(t, os.Chmod(filepath.Join(folder, "authority.key"), 0o600))
	c.at = c.at.AddDate(11, 0, 0)
	_, err = wayin.Open(w.Wish, true, c.now)
	require.ErrorContains(t, err, "ran out")
}

// Whoever steals the authority's key cannot pass for a bank: who checks, a general TLS library, refuses any name that is not
// this server's. The same is asked of OpenSSL.
func TestTheAuthoritySpeaksForNothingElse(t *testing.T) {
	t.Parallel()
	c := &clock{time.Now()}
	w, folder := ours(t, c)
	raw, err := os.ReadFile(filepath.Join(folder, "authority.key"))
	require.NoError(t, err)
	block, _ := pem.Decode(raw)
	key, err := x509.ParseECPrivateKey(block.Bytes)
	require.NoError(t, err)
	forged := func(names []string, ips ...net.IP) *x509.Certificate {
		own, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
		require.NoError(t, err)
		der, err := x509.CreateCertificate(rand.Reader, &x509.Certificate{
			SerialNumber: big.NewInt(7), Subject: pkix.Name{CommonName: "forged"}, NotBefore: c.at.Add(-time.Hour), NotAfter: c.at.AddDate(0, 1, 0), DNSNames: names, IPAddresses: ips,
			KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
		}, w.Ours.Cert, &own.PublicKey, key)
		require.NoError(t, err)
		cert, err := x509.ParseCertificate(der)
		require.NoError(t, err)
		return cert
	}
	openssl := func(cert *x509.Certificate) error {
		leaf := filepath.Join(t.TempDir(), "leaf.pem")
		require.NoError(t, os.WriteFile(leaf, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: cert.Raw}), 0o600))
		return exec.CommandContext(t.Context(), "openssl", "verify", "-purpose", "sslserver", "-CAfile", filepath.Join(folder, "authority.crt"), leaf).Run() //nolint:gosec // our own files
	}
	good := forged([]string{"clearjar.local"}, net.IPv4(192, 168, 7, 7))
	require.NoError(t, verify(t, w.Ours.Cert, good, "clearjar.local", c.at))
	require.NoError(t, openssl(good))
	for _, bad := range []*x509.Certificate{forged([]string{"bank.example"}), forged([]string{"clearjar.local", "bank.example"}), forged(nil, net.IPv4(8, 8, 8, 8))} {
		name := "bank.example"
		if len(bad.DNSNames) == 0 {
			name = "8.8.8.8"
		}
		require.Error(t, verify(t, w.Ours.Cert, bad, name, c.at))
		require.Error(t, openssl(bad), name)
	}
}

func TestAuthoritiesThatAreMadeAtOnceAreOne(t *testing.T) {
	t.Parallel()
	folder := filepath.Join(t.TempDir(), "state", "authority")
	prints := make([]string, 8)
	var wg sync.WaitGroup
	for i := range prints {
		wg.Go(func() {
			a, err := wayin.OpenAuthority(folder, []string{"clearjar.local"}, time.Now)
			if err == nil {
				prints[i] = wayin.Fingerprint(a.Cert)
			}
		})
	}
	wg.Wait()
	for _, p := range prints {
		require.NotEmpty(t, p)
		require.Equal(t, prints[0], p)
	}
	left, err := os.ReadDir(filepath.Dir(folder))
	require.NoError(t, err)
	require.Len(t, left, 1)
	// One that was cut short says so, and is not replaced: phones trust what it was.
	require.NoError(t, os.WriteFile(filepath.Join(folder, "authority.crt"), []byte("half"), 0o600))
	_, err = wayin.OpenAuthority(folder, nil, time.Now)
	require.ErrorContains(t, err, "damaged")
}

// own writes a certificate as one gets it elsewhere.
func own(t *testing.T, folder, host string, from, until time.Time) (cert, key string) {
	t.Helper()
	k, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	der, err := x509.CreateCertificate(rand.Reader, &x509.Certificate{SerialNumber: big.NewInt(until.Unix()), NotBefore: from, NotAfter: until, DNSNames: []string{host}}, &x509.Certificate{SerialNumber: big.NewInt(1)}, &k.PublicKey, k)
	require.NoError(t, err)
	raw, err := x509.MarshalECPrivateKey(k)
	require.NoError(t, err)
	cert, key = filepath.Join(folder, "cert.pem"), filepath.Join(folder, "key.pem")
	require.NoError(t, os.WriteFile(cert, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), 0o600))
	require.NoError(t, os.WriteFile(key, pem.EncodeToMemory(&pem.Block{Type: "EC PRIVATE KEY", Bytes: raw}), 0o600))
	return cert, key
}

func TestACertificateOfOnesOwn(t *testing.T) {
	t.Parallel()
	c := &clock{start}
	folder := t.TempDir()
	cert, key := own(t, folder, "garden.example", start.AddDate(0, -1, 0), start.AddDate(0, 1, 0))
	wish := wayin.Wish{Listen: "0.0.0.0:443", Hosts: []string{"garden.example"}, CertFile: cert, KeyFile: key}
	w, err := wayin.Open(wish, true, c.now)
	require.NoError(t, err)
	require.Equal(t, []string{"https://garden.example"}, w.Addresses())
	require.Empty(t, w.TrustListen(), "phones trust it already")
	first, err := w.Certificate()
	require.NoError(t, err)

	// Renewed while it runs; half written meanwhile.
	require.NoError(t, os.WriteFile(cert, []byte("-----BEGIN CERT"), 0o600))
	require.NoError(t, os.Chtimes(cert, start, start.Add(time.Second)))
	kept, err := w.Certificate()
	require.NoError(t, err)
	require.Equal(t, first.Leaf.SerialNumber, kept.Leaf.SerialNumber)
	own(t, folder, "garden.example", start, start.AddDate(0, 3, 0))
	renewed, err := w.Certificate()
	require.NoError(t, err)
	require.NotEqual(t, first.Leaf.SerialNumber, renewed.Leaf.SerialNumber)

	// One that ran out opens nothing, while it runs and at a start.
	c.at = start.AddDate(0, 4, 0)
	_, err = w.Certificate()
	require.ErrorContains(t, err, "ran out")
	_, err = wayin.Open(wish, true, c.now)
	require.ErrorContains(t, err, "ran out")
	c.at = start
	wish.Hosts = []string{"other.example"}
	_, err = wayin.Open(wish, true, c.now)
	require.ErrorContains(t, err, "does not speak for other.example")
	require.NoError(t, os.Chmod(key, 0o644))
	wish.Hosts = []string{"garden.example"}
	_, err = wayin.Open(wish, true, c.now)
	require.ErrorContains(t, err, "can be read by others")
	wish.KeyFile = ""
	_, err = wayin.Open(wish, true, c.now)
	require.ErrorContains(t, err, "belong together")
}

// A connection as it is made: TLS 1.2 at least, HTTP/2, and trusted by who trusts the authority.
func TestAConnectionByTheAuthority(t *testing.T) {
	t.Parallel()
	w, _ := ours(t, &clock{time.Now()})
	srv := httptest.NewUnstartedServer(http.HandlerFunc(func(out http.ResponseWriter, r *http.Request) { _, _ = io.WriteString(out, r.Proto) }))
	srv.TLS, srv.EnableHTTP2 = w.Config(), true
	srv.StartTLS()
	defer srv.Close()
	pool := x509.NewCertPool()
	pool.AddCert(w.Ours.Cert)
	client := func(c *tls.Config) *http.Client {
		return &http.Client{Transport: &http.Transport{TLSClientConfig: c, ForceAttemptHTTP2: true}}
	}
	res, err := client(&tls.Config{RootCAs: pool, ServerName: "clearjar.local"}).Get(srv.URL)
	require.NoError(t, err)
	proto, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	require.Equal(t, "HTTP/2.0", string(proto))
	for _, refused := range []*tls.Config{{ServerName: "clearjar.local"}, {RootCAs: pool, ServerName: "garden.example"}, {RootCAs: pool, ServerName: "clearjar.local", MaxVersion: tls.VersionTLS11}, {RootCAs: pool, ServerName: "clearjar.local", MaxVersion: tls.VersionTLS12, CipherSuites: []uint16{tls.TLS_ECDHE_ECDSA_WITH_AES_128_CBC_SHA}}} { //nolint:gosec // that is the point
		res, err := client(refused).Get(srv.URL)
		if err == nil {
			_ = res.Body.Close()
		}
		require.Error(t, err)
	}
}

func TestThePlainPageLeadsThroughTrusting(t *testing.T) {
	t.Parallel()
	w, _ := ours(t, &clock{start})
	ask := func(host, path string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(http.MethodGet, path, nil)
		r.Host = host
		out := httptest.NewRecorder()
		w.TrustPage().ServeHTTP(out, r)
		return out
	}
	page := ask("192.168.1.20:8421", "/")
	require.Equal(t, http.StatusOK, page.Code)
	text := page.Body.String()
	require.Contains(t, text, wayin.Fingerprint(w.Ours.Cert))
	require.Contains(t, text, `href="https://192.168.1.20:8420"`)
	require.Contains(t, ask("clearjar.local:8421", "/").Body.String(), `href="https://clearjar.local:8420"`)
	for _, word := range []string{"iPhone", "Android", "do not install it"} {
		require.Contains(t, text, word)
	}
	require.NotContains(t, strings.ToLower(text), "<script")
	cert := ask("clearjar.local:8421", "/clear-jar-at-home.crt")
	require.Equal(t, w.Ours.Cert.Raw, cert.Body.Bytes())
	require.Equal(t, "application/x-x509-ca-cert", cert.Header().Get("Content-Type"))
	require.Equal(t, http.StatusMisdirectedRequest, ask("garden.example:8421", "/").Code)
	require.Equal(t, http.StatusNotFound, ask("clearjar.local:8421", "/api/shelf").Code)
	require.Equal(t, http.StatusNotFound, ask("clearjar.local:8421", "/authority.key").Code)
}
