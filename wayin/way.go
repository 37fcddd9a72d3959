package wayin

import (
	"crypto/tls"
	"crypto/x509"
	"errors"
	"fmt"
	"net"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Wish is how the one who runs the server wants it to be reached.
type Wish struct {
	// Listen is an address and a port, such as 127.0.0.1:8420 or 0.0.0.0:8420.
	Listen string
	// Hosts are the names and numbers devices call it by.
	Hosts []string
	// CertFile and KeyFile are certificates of one's own.
	CertFile, KeyFile string
	// Authority is the folder of the household's own authority.
	Authority string
	// TrustPort is the port of the plain page that leads a phone through trusting; 0 for the next one.
	TrustPort int
	// Demo lets anybody in.
	Demo bool
}

// Way is how the server is reached.
type Way struct {
	Wish
	// Loopback says that only this machine reaches it.
	Loopback bool
	Ours     *Authority
	files    *certFiles
	now      func() time.Time
}

// Missing is what is wanting before anybody else may reach the server.
type Missing []string

func (m Missing) Error() string {
	return "beyond this machine Clear Jar is reached only with all of these, and there is wanting: " + strings.Join(m, "; ")
}

// IsLoopback tells whether an address is this machine's own only.
func IsLoopback(listen string) (bool, error) {
	host, port, err := net.SplitHostPort(listen)
	if err != nil {
		return false, fmt.Errorf("%q is no address with a port, such as 127.0.0.1:8420: %w", listen, err)
	}
	if n, err := strconv.Atoi(port); err != nil || n < 0 || n > 65535 {
		return false, fmt.Errorf("%q is no port: 1 to 65535", port)
	}
	if host == "localhost" {
		return true, nil
	}
	ip := net.ParseIP(host)
	if ip == nil && host != "" {
		return false, fmt.Errorf("%q is no number of a network: listen on one of this machine's, or on 0.0.0.0; names go with --host", host)
	}
	return ip != nil && ip.IsLoopback(), nil
}

// Open works out how the server is reached, and refuses to be reached by others while something is wanting. members tells whether
// anybody can sign in.
func Open(w Wish, members bool, now func() time.Time) (*Way, error) {
	loopback, err := IsLoopback(w.Listen)
	if err != nil {
		return nil, err
	}
	for i, h := range w.Hosts {
		w.Hosts[i] = strings.ToLower(strings.Trim(strings.TrimSpace(h), "[]"))
		if !isHost(w.Hosts[i]) {
			return nil, fmt.Errorf("--host %q is no name and no number: clearjar.local or 192.168.1.20, without https:// and without a port", h)
		}
	}
	var missing Missing
	if !loopback {
		if w.CertFile == "" && w.Authority == "" {
			missing = append(missing, "a certificate (--tls-cert and --tls-key, or --authority FOLDER for one of this household's own)")
		}
		if len(w.Hosts) == 0 {
			missing = append(missing, "the names it is called by (--host, for each)")
		}
		if !members {
			missing = append(missing, "somebody who can sign in (clearjar household member NAME, or start on 127.0.0.1 first and use the code it prints)")
		}
		if w.Demo {
			missing = append(missing, "a household of one's own (--demo lets anybody in, so it stays on 127.0.0.1)")
		}
	}
	if len(missing) > 0 {
		return nil, missing
	}
	if (w.CertFile == "") != (w.KeyFile == "") {
		return nil, errors.New("--tls-cert and --tls-key belong together: give both")
	}
	way := &Way{Wish: w, Loopback: loopback, now: now}
	switch {
	case w.CertFile != "":
		way.files = &certFiles{cert: w.CertFile, key: w.KeyFile, now: now}
		c, err := way.files.get()
		if err != nil {
			return nil, err
		}
		for _, h := range w.Hosts {
			if err := c.Leaf.VerifyHostname(h); err != nil {
				return nil, fmt.Errorf("the certificate in %s does not speak for %s, so browsers would refuse it: %w", w.CertFile, h, err)
			}
		}
	case w.Authority != "":
		if way.Ours, err = OpenAuthority(w.Authority, w.Hosts, now); err != nil {
			return nil, err
		}
	}
	return way, nil
}

// isHost tells whether a text is a number or a name of letters, digits, lines and dots.
func isHost(h string) bool {
	if net.ParseIP(h) != nil {
		return true
	}
	if h == "" || len(h) > 253 {
		return false
	}
	for label := range strings.SplitSeq(h, ".") {
		if label == "" || len(label) > 63 || strings.Trim(label, "abcdefghijklmnopqrstuvwxyz0123456789-") != "" || strings.HasPrefix(label, "-") || strings.HasSuffix(label, "-") {
			return false
		}
	}
	return true
}

// TLS tells whether the server is reached by https.
func (w *Way) TLS() bool { return w.Ours != nil || w.files != nil }

// Config is that of the connection: TLS 1.2 at least, HTTP/2, and the certificate as it is at each handshake.
func (w *Way) Config() *tls.Config {
	return &tls.Config{
		MinVersion: tls.VersionTLS12, NextProtos: []string{"h2", "http/1.1"},
		// With TLS 1.2 only those that encrypt and authenticate in one.
		CipherSuites: []uint16{
			tls.TLS_ECDHE_ECDSA_WITH_AES_128_GCM_SHA256, tls.TLS_ECDHE_ECDSA_WITH_AES_256_GCM_SHA384, tls.TLS_ECDHE_ECDSA_WITH_CHACHA20_POLY1305_SHA256,
			tls.TLS_ECDHE_RSA_WITH_AES_128_GCM_SHA256, tls.TLS_ECDHE_RSA_WITH_AES_256_GCM_SHA384, tls.TLS_ECDHE_RSA_WITH_CHACHA20_POLY1305_SHA256,
		},
		GetCertificate: func(*tls.ClientHelloInfo) (*tls.Certificate, error) { return w.Certificate() },
	}
}

// Certificate is the one the server shows now.
func (w *Way) Certificate() (*tls.Certificate, error) {
	if w.files != nil {
		return w.files.get()
	}
	return w.Ours.For(w.Hosts)
}

// Addresses are those that devices open, names before numbers.
func (w *Way) Addresses() []string {
	scheme := "http"
	if w.TLS() {
		scheme = "https"
	}
	return w.addresses(scheme, w.port())
}

func (w *Way) addresses(scheme string, port int) []string {
	hosts := slices.Clone(w.Hosts)
	slices.SortStableFunc(hosts, func(a, b string) int {
		number := func(h string) int {
			if net.ParseIP(h) != nil {
				return 1
			}
			return 0
		}
		return number(a) - number(b)
	})
	var out []string
	for _, h := range hosts {
		at := net.JoinHostPort(h, strconv.Itoa(port))
		if scheme == "https" && port == 443 {
			at = strings.TrimSuffix(at, ":443")
		}
		out = append(out, scheme+"://"+at)
	}
	return out
}

func (w *Way) port() int {
	_, p, _ := net.SplitHostPort(w.Listen)
	n, _ := strconv.Atoi(p)
	return n
}

// TrustListen is where the plain page is served; empty when there is none.
func (w *Way) TrustListen() string {
	if w.Ours == nil {
		return ""
	}
	host, _, _ := net.SplitHostPort(w.Listen)
	return net.JoinHostPort(host, strconv.Itoa(w.trustPort()))
}

func (w *Way) trustPort() int {
	if w.TrustPort != 0 {
		return w.TrustPort
	}
	return w.port() + 1
}

// TrustAddresses are those of the plain page.
func (w *Way) TrustAddresses() []string {
	if w.Ours == nil {
		return nil
	}
	return w.addresses("http", w.trustPort())
}

// certFiles are certificates of one's own: read anew when their files change.
type certFiles struct {
	cert, key string
	now       func() time.Time

	mu      sync.Mutex
	changed [2]time.Time
	kept    *tls.Certificate
}

func (f *certFiles) get() (*tls.Certificate, error) {
	f.mu.Lock()
	defer f.mu.Unlock()
	var changed [2]time.Time
	for i, p := range []string{f.cert, f.key} {
		info, err := os.Stat(p)
		if err != nil {
			return f.orBefore(fmt.Errorf("the certificate cannot be read: %w", err))
		}
		if i == 1 && info.Mode().Perm()&0o077 != 0 {
			return f.orBefore(fmt.Errorf("%s can be read by others (%o): chmod 600 it", p, info.Mode().Perm()))
		}
		changed[i] = info.ModTime()
	}
	if f.kept == nil || changed != f.changed {
		c, err := tls.LoadX509KeyPair(f.cert, f.key)
		if err != nil {
			return f.orBefore(fmt.Errorf("%s and %s: %w", f.cert, f.key, err))
		}
		if c.Leaf, err = x509.ParseCertificate(c.Certificate[0]); err != nil {
			return f.orBefore(err)
		}
		if f.now().After(c.Leaf.NotAfter) {
			return f.orBefore(fmt.Errorf("the certificate in %s ran out on %s: renew it", f.cert, c.Leaf.NotAfter.Format("2 Jan 2006")))
		}
		f.kept, f.changed = &c, changed
	}
	if f.now().After(f.kept.Leaf.NotAfter) {
		return nil, fmt.Errorf("the certificate in %s ran out on %s: renew it", f.cert, f.kept.Leaf.NotAfter.Format("2 Jan 2006"))
	}
	return f.kept, nil
}

// orBefore gives the certificate from before while it holds: a renewal that is half written stops nobody.
func (f *certFiles) orBefore(err error) (*tls.Certificate, error) {
	if f.kept != nil && f.now().Before(f.kept.Leaf.NotAfter) {
		return f.kept, nil
	}
	return nil, err
}
