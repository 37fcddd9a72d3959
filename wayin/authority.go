// Package wayin is how devices of the home network reach Clear Jar: certificates, names it answers to, and the plain
// page that leads a phone through trusting them. What happens inside is not its business.
package wayin

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
	"io/fs"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// How long certificates hold. published: CA/Browser Forum baseline requirements ask at most 398 days of a server's
// certificate, and phones keep to it (from memory). assumption: the authority itself holds ten years, so that a phone trusts it once.
const (
	authorityHolds = 10 * 365 * 24 * time.Hour
	serverHolds    = 365 * 24 * time.Hour
	renewBefore    = 30 * 24 * time.Hour
	// slack is how far the clock of a phone may be behind.
	slack = 24 * time.Hour
)

// Files of an authority in its folder.
const (
	keyFile  = "authority.key"
	certFile = "authority.crt"
)

// Authority is a small one of this household: it speaks for the names of this server and for numbers of home networks,
// and for nothing else, so that who trusts it trusts no more than that.
type Authority struct {
	Cert *x509.Certificate
	key  *ecdsa.PrivateKey
	now  func() time.Time

	mu   sync.Mutex
	leaf map[string]*tls.Certificate
}

// homeNumbers are the ranges an authority may speak for. published: RFC 1918, RFC 4193, RFC 3927, RFC 4291.
var homeNumbers = []string{"10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "fc00::/7", "fe80::/10", "::1/128"}

// ErrNotItsName says that an authority may not speak for a name.
var ErrNotItsName = errors.New("this authority may not speak for every name that is configured")

// OpenAuthority opens the authority in a folder, or makes one that may speak for these names. Its key is readable by its owner only.
func OpenAuthority(folder string, hosts []string, now func() time.Time) (*Authority, error) {
	a := &Authority{now: now, leaf: map[string]*tls.Certificate{}}
	err := a.load(folder)
	if errors.Is(err, fs.ErrNotExist) {
		err = a.make(folder, hosts)
	}
	if err != nil {
		return nil, err
	}
	if a.now().After(a.Cert.NotAfter) {
		return nil, fmt.Errorf("the authority in %s ran out on %s: move it away, start again, and let the phones trust the new one", folder, a.Cert.NotAfter.Format("2 Jan 2006"))
	}
	for _, h := range hosts {
		if !a.mayName(h) {
			return nil, fmt.Errorf("%w: %s is none of %s. Move the folder %s away to make a new authority, and let the phones trust it", ErrNotItsName, h, strings.Join(a.Cert.PermittedDNSDomains, ", "), folder)
		}
	}
	return a, nil
}

func (a *Authority) mayName(host string) bool {
	if ip := net.ParseIP(host); ip != nil {
		return slices.ContainsFunc(a.Cert.PermittedIPRanges, func(n *net.IPNet) bool { return n.Contains(ip) })
	}
	return slices.ContainsFunc(a.Cert.PermittedDNSDomains, func(d string) bool { return host == d || strings.HasSuffix(host, "."+d) })
}

func (a *Authority) load(folder string) error {
	info, err := os.Stat(filepath.Join(folder, keyFile))
	if err != nil {
		return err
	}
	if info.Mode().Perm()&0o077 != 0 {
		return fmt.Errorf("%s can be read by others (%o): whoever has it can pass for this server. chmod 600 it, and make a new authority when you are not sure who read it", filepath.Join(folder, keyFile), info.Mode().Perm())
	}
	key, err := readPEM(filepath.Join(folder, keyFile))
	if err != nil {
		return err
	}
	if a.key, err = x509.ParseECPrivateKey(key); err != nil {
		return fmt.Errorf("%s: %w", keyFile, err)
	}
	cert, err := readPEM(filepath.Join(folder, certFile))
	if err != nil {
		return err
	}
	if a.Cert, err = x509.ParseCertificate(cert); err != nil {
		return fmt.Errorf("%s: %w", certFile, err)
	}
	if pub, ok := a.Cert.PublicKey.(*ecdsa.PublicKey); !ok || !pub.Equal(&a.key.PublicKey) {
		return fmt.Errorf("key and certificate in %s do not belong together: restore both from one backup, or move the folder away", folder)
	}
	return nil
}

func readPEM(path string) ([]byte, error) {
	raw, err := os.ReadFile(path) //nolint:gosec // a path of the one who runs the server
	if err != nil {
		return nil, err
	}
	block, _ := pem.Decode(raw)
	if block == nil {
		return nil, fmt.Errorf("%s is damaged: it holds no PEM block", path)
	}
	return block.Bytes, nil
}

func (a *Authority) make(folder string, hosts []string) error {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return err
	}
	serial, err := newSerial()
	if err != nil {
		return err
	}
	now := a.now()
	names := []string{"localhost"}
	for _, h := range hosts {
		if net.ParseIP(h) == nil {
			names = append(names, h)
		}
	}
	t := &x509.Certificate{
		SerialNumber: serial, Subject: pkix.Name{CommonName: "Clear Jar at home, " + now.Format("2 Jan 2006"), Organization: []string{"Clear Jar"}},
		NotBefore: now.Add(-slack), NotAfter: now.Add(authorityHolds),
		KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageCRLSign, BasicConstraintsValid: true, IsCA: true, MaxPathLenZero: true,
		PermittedDNSDomainsCritical: true, PermittedDNSDomains: names,
	}
	for _, r := range homeNumbers {
		_, n, err := net.ParseCIDR(r)
		if err != nil {
			return err
		}
		t.PermittedIPRanges = append(t.PermittedIPRanges, n)
	}
	der, err := x509.CreateCertificate(rand.Reader, t, t, &key.PublicKey, key)
	if err != nil {
		return err
	}
	raw, err := x509.MarshalECPrivateKey(key)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(folder), 0o700); err != nil {
		return err
	}
	// Both files come to stand there at once, or neither.
	begun, err := os.MkdirTemp(filepath.Dir(folder), "."+filepath.Base(folder)+"-")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(begun) }()
	if err := errors.Join(writeNew(filepath.Join(begun, certFile), "CERTIFICATE", der, 0o644), writeNew(filepath.Join(begun, keyFile), "EC PRIVATE KEY", raw, 0o600)); err != nil {
		return err
	}
	if err := os.Rename(begun, folder); err != nil {
		if errors.Is(err, fs.ErrExist) { // another that starts at the same time made it
			return a.load(folder)
		}
		return err
	}
	return a.load(folder)
}

func writeNew(path, kind string, der []byte, mode os.FileMode) error {
	f, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, mode) //nolint:gosec // a path of the one who runs the server
	if err != nil {
		return err
	}
	return errors.Join(pem.Encode(f, &pem.Block{Type: kind, Bytes: der}), f.Sync(), f.Close())
}

func newSerial() (*big.Int, error) {
	return rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 127))
}

// Fingerprint is the SHA-256 of a certificate in pairs, as phones show it.
func Fingerprint(c *x509.Certificate) string {
	sum := sha256.Sum256(c.Raw)
	pairs := make([]string, len(sum))
	for i, b := range sum {
		pairs[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(pairs, ":")
}

// For gives the certificate of a server for these names: made when it is first asked for, and anew before it runs out.
func (a *Authority) For(hosts []string) (*tls.Certificate, error) {
	a.mu.Lock()
	defer a.mu.Unlock()
	names := append([]string{"localhost", "127.0.0.1", "::1"}, hosts...)
	slices.Sort(names)
	names = slices.Compact(names)
	known := strings.Join(names, " ")
	if c := a.leaf[known]; c != nil && a.now().Before(c.Leaf.NotAfter.Add(-renewBefore)) {
		return c, nil
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	serial, err := newSerial()
	if err != nil {
		return nil, err
	}
	now := a.now()
	t := &x509.Certificate{
		SerialNumber: serial, Subject: pkix.Name{CommonName: "Clear Jar"}, NotBefore: now.Add(-slack), NotAfter: now.Add(serverHolds),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
	}
	if t.NotAfter.After(a.Cert.NotAfter) {
		t.NotAfter = a.Cert.NotAfter
	}
	for _, n := range names {
		if ip := net.ParseIP(n); ip != nil {
			t.IPAddresses = append(t.IPAddresses, ip)
		} else {
			t.DNSNames = append(t.DNSNames, n)
		}
	}
	der, err := x509.CreateCertificate(rand.Reader, t, a.Cert, &key.PublicKey, a.key)
	if err != nil {
		return nil, err
	}
	leaf, err := x509.ParseCertificate(der)
	if err != nil {
		return nil, err
	}
	c := &tls.Certificate{Certificate: [][]byte{der, a.Cert.Raw}, PrivateKey: key, Leaf: leaf}
	a.leaf = map[string]*tls.Certificate{known: c}
	return c, nil
}
