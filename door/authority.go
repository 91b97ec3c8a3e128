package door

import (
	"crypto"
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
	"sync"
	"time"
)

// How long certificates hold, and when the machine's own is made anew.
const (
	rootYears  = 10
	leafDays   = 90
	renewUnder = 30 * 24 * time.Hour
	backdated  = time.Hour // for a phone whose clock is behind
)

// Names are what a machine is called and where it is: its own name and those that its owner gave it, and the addresses of its interfaces.
type Names struct {
	Hosts     []string
	Addresses []net.IP
}

// home are the addresses for which the root may vouch: private ones, link-local and loopback. It can vouch for nobody's site.
var home = func() (nets []*net.IPNet) {
	for _, text := range []string{"10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "fc00::/7", "fe80::/10", "::1/128"} {
		_, ipNet, err := net.ParseCIDR(text)
		if err != nil {
			panic(err)
		}
		nets = append(nets, ipNet)
	}
	return nets
}()

// AtHome tells whether an address is one of a home: the root vouches for no other.
func AtHome(ip net.IP) bool {
	return slices.ContainsFunc(home, func(n *net.IPNet) bool { return n.Contains(ip) })
}

// Authority vouches for one machine, by a root that its phones were told to trust and by certificates of ninety days that it makes itself. It
// is safe for use by many at a time.
type Authority struct {
	folder string
	root   *x509.Certificate
	key    crypto.Signer
	// Anew tells that there was a root for other names, which is set aside: phones have to be told to trust this one.
	Anew bool

	mutex sync.Mutex
	leaf  *tls.Certificate
	names Names
}

const (
	rootFile = "root.pem"
	keyFile  = "root-key.pem"
)

// OpenAuthority reads the authority of a machine from its folder, or makes one there, for the names that it answers to. A root that may not
// vouch for one of the names is set aside and another made.
func OpenAuthority(folder string, names Names, now time.Time) (*Authority, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("make a place for the certificates: %w", err)
	}
	a := &Authority{folder: folder}
	err := a.read()
	switch {
	case errors.Is(err, os.ErrNotExist):
		err = a.begin(names, now)
	case err != nil:
	case !a.vouchesFor(names) || now.After(a.root.NotAfter.AddDate(0, 0, -leafDays)):
		a.Anew = true
		if err = a.setAside(now); err == nil {
			err = a.begin(names, now)
		}
	}
	if err != nil {
		return nil, err
	}
	return a, a.Renew(names, now)
}

func (a *Authority) read() error {
	cert, err := readPEM(filepath.Join(a.folder, rootFile), "CERTIFICATE")
	if err != nil {
		return err
	}
	key, err := readPEM(filepath.Join(a.folder, keyFile), "PRIVATE KEY")
	if err != nil {
		return err
	}
	if a.root, err = x509.ParseCertificate(cert); err != nil {
		return fmt.Errorf("read %s: %w", rootFile, err)
	}
	parsed, err := x509.ParsePKCS8PrivateKey(key)
	if err != nil {
		return fmt.Errorf("read %s: %w", keyFile, err)
	}
	signer, ok := parsed.(*ecdsa.PrivateKey)
	if !ok || !signer.PublicKey.Equal(a.root.PublicKey) {
		return fmt.Errorf("the key in %s is not that of the certificate beside it", a.folder)
	}
	a.key = signer
	return nil
}

func readPEM(path, kind string) ([]byte, error) {
	raw, err := os.ReadFile(path)
	if err != nil {
		return nil, fmt.Errorf("read the certificates: %w", err)
	}
	block, _ := pem.Decode(raw)
	if block == nil || block.Type != kind {
		return nil, fmt.Errorf("%s holds no %s", path, strings.ToLower(kind))
	}
	return block.Bytes, nil
}

// begin makes a root that may vouch for these names, for home addresses and for what is called so at home, and for nothing else.
func (a *Authority) begin(names Names, now time.Time) error {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return err
	}
	template := &x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: "Old Burrow on " + calledFirst(names)},
		NotBefore: now.Add(-backdated), NotAfter: now.AddDate(rootYears, 0, 0),
		KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageCRLSign, BasicConstraintsValid: true, IsCA: true, MaxPathLenZero: true,
		PermittedDNSDomainsCritical: true, PermittedIPRanges: home, PermittedDNSDomains: append([]string{"localhost", "local"}, names.Hosts...),
	}
	raw, err := x509.CreateCertificate(rand.Reader, template, template, key.Public(), key)
	if err != nil {
		return fmt.Errorf("make a root certificate: %w", err)
	}
	if a.root, err = x509.ParseCertificate(raw); err != nil {
		return err
	}
	a.key = key
	pkcs8, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return err
	}
	// The key first: a certificate without its key would be read as a broken authority.
	if err := a.write(keyFile, "PRIVATE KEY", pkcs8); err != nil {
		return err
	}
	return a.write(rootFile, "CERTIFICATE", raw)
}

// write puts a file down whole, to be read by its owner alone.
func (a *Authority) write(name, kind string, raw []byte) error {
	path := filepath.Join(a.folder, name)
	if err := os.WriteFile(path+".new", pem.EncodeToMemory(&pem.Block{Type: kind, Bytes: raw}), 0o600); err != nil {
		return fmt.Errorf("keep the certificates: %w", err)
	}
	if err := os.Rename(path+".new", path); err != nil {
		return fmt.Errorf("keep the certificates: %w", err)
	}
	return nil
}

func (a *Authority) setAside(now time.Time) error {
	stamp := now.UTC().Format(".20060102-150405.old")
	for _, name := range []string{rootFile, keyFile} {
		if err := os.Rename(filepath.Join(a.folder, name), filepath.Join(a.folder, name+stamp)); err != nil {
			return fmt.Errorf("set the old certificates aside: %w", err)
		}
	}
	return nil
}

// vouchesFor tells whether the root may vouch for every name.
func (a *Authority) vouchesFor(names Names) bool {
	for _, host := range names.Hosts {
		if !slices.ContainsFunc(a.root.PermittedDNSDomains, func(domain string) bool { return within(host, domain) }) {
			return false
		}
	}
	return true
}

// within tells whether a name is a domain or lies in it.
func within(host, domain string) bool {
	host, domain = strings.ToLower(host), strings.ToLower(domain)
	return host == domain || strings.HasSuffix(host, "."+domain)
}

// Renew makes the machine's certificate anew where it runs out within thirty days, or the machine is called or lies otherwise than when it was
// made.
func (a *Authority) Renew(names Names, now time.Time) error {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	if a.leaf != nil && a.leaf.Leaf.NotAfter.Sub(now) > renewUnder && same(a.names, names) {
		return nil
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return err
	}
	template := &x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: calledFirst(names)},
		NotBefore: now.Add(-backdated), NotAfter: now.AddDate(0, 0, leafDays),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}, BasicConstraintsValid: true,
		DNSNames: append([]string{"localhost"}, names.Hosts...), IPAddresses: slices.DeleteFunc(slices.Clone(names.Addresses), func(ip net.IP) bool { return !AtHome(ip) }),
	}
	raw, err := x509.CreateCertificate(rand.Reader, template, a.root, key.Public(), a.key)
	if err != nil {
		return fmt.Errorf("make a certificate: %w", err)
	}
	leaf, err := x509.ParseCertificate(raw)
	if err != nil {
		return err
	}
	a.leaf, a.names = &tls.Certificate{Certificate: [][]byte{raw, a.root.Raw}, PrivateKey: key, Leaf: leaf}, names
	return nil
}

func same(a, b Names) bool {
	return slices.Equal(a.Hosts, b.Hosts) && slices.EqualFunc(a.Addresses, b.Addresses, net.IP.Equal)
}

// Certificate is that of the machine, as it is now: what a TLS configuration asks for each connection.
func (a *Authority) Certificate(*tls.ClientHelloInfo) (*tls.Certificate, error) {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	return a.leaf, nil
}

// Root is the root certificate, as a phone takes it in (DER).
func (a *Authority) Root() []byte { return a.root.Raw }

// Fingerprint is the root's SHA-256 in pairs, to be compared by eye.
func (a *Authority) Fingerprint() string {
	sum := sha256.Sum256(a.root.Raw)
	pairs := make([]string, len(sum))
	for i, b := range sum {
		pairs[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(pairs, " ")
}

func calledFirst(names Names) string {
	if len(names.Hosts) > 0 {
		return names.Hosts[0]
	}
	return "localhost"
}

// serial is a number that no other certificate has (RFC 5280: at most 20 octets, above nought).
func serial() *big.Int {
	n, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120))
	if err != nil {
		panic(err) // there is no randomness, and nothing can be kept secret
	}
	return n.Add(n, big.NewInt(1))
}
