package door

import (
	"crypto/tls"
	"crypto/x509"
	"errors"
	"io"
	"net"
	"net/netip"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"oldburrow/core/refuse"
)

var noon = time.Date(2026, 12, 4, 12, 0, 0, 0, time.UTC)

// A passphrase is known again, another is not, and twice the same is written down in two ways.
func TestAPassphraseIsKnownAgain(t *testing.T) {
	kept, err := Keep("four old fence posts")
	if err != nil {
		t.Fatal(err)
	}
	again, err := Keep("four old fence posts")
	if err != nil || again == kept {
		t.Errorf("twice the same: %v", err)
	}
	if strings.Contains(kept, "fence") {
		t.Errorf("it can be read: %s", kept)
	}
	for _, c := range []struct {
		said, kept string
		is         bool
	}{
		{"four old fence posts", kept, true}, {"four old fence posts", again, true}, {"four old fence post", kept, false}, {"", kept, false},
		{strings.Repeat("a", 300), kept, false}, {"four old fence posts", "", false}, {"four old fence posts", "four old fence posts", false},
		{"four old fence posts", kept[:len(kept)-4], false}, {"four old fence posts", strings.Replace(kept, "t=3", "t=1", 1), false},
	} {
		if is, err := Is(c.said, c.kept); err != nil || is != c.is {
			t.Errorf("%.30q against %.60q: %v, %v", c.said, c.kept, is, err)
		}
	}
	for _, passphrase := range []string{"", "seven77", strings.Repeat("ä", 257)} {
		var fields refuse.Problems
		if _, err := Keep(passphrase); !errors.As(err, &fields) || fields[0].Field != "passphrase" {
			t.Errorf("%.10q: %v", passphrase, err)
		}
	}
	if _, err := Keep(strings.Repeat("ä", 8)); err != nil {
		t.Errorf("eight characters: %v", err)
	}
}

// More than wait for one passphrase are sent away, and none of them costs anything.
func TestFewWaitAtTheDoor(t *testing.T) {
	for range 1 + mostWaiting {
		waiting <- struct{}{}
	}
	defer func() {
		for range 1 + mostWaiting {
			<-waiting
		}
	}()
	if _, err := Keep("four old fence posts"); !errors.Is(err, ErrBusy) {
		t.Errorf("%v", err)
	}
}

// The first two wrong guesses cost nothing, each after them twice the wait of the one before, up to five minutes; a right one or an hour
// clears them, and nobody else waits for it.
func TestGuessesAreSlowed(t *testing.T) {
	var g Guesses
	phone, other := netip.MustParseAddr("192.168.1.20"), netip.MustParseAddr("192.168.1.21")
	now := noon
	for i, want := range []int{0, 0, 1, 2, 4, 8, 16, 32, 64, 128, 256, 300, 300} {
		g.Wrong(phone, now)
		if got := g.Wait(phone, now); got != time.Duration(want)*time.Second {
			t.Errorf("after %d wrong: %v, want %d s", i+1, got, want)
		}
		if g.Wait(other, now) != 0 {
			t.Errorf("after %d wrong, another waits", i+1)
		}
	}
	if got := g.Wait(phone, now.Add(299*time.Second)); got != time.Second {
		t.Errorf("a second before the end: %v", got)
	}
	if g.Wait(phone, now.Add(time.Hour)) != 0 {
		t.Error("after an hour it is not forgotten")
	}
	g = Guesses{}
	for range 3 {
		g.Wrong(phone, now)
	}
	g.Right(phone)
	g.Wrong(phone, now)
	if g.Wait(phone, now) != 0 {
		t.Error("a right one clears nothing")
	}
	// Of a household with an IPv6 prefix all are one; an IPv4 address in IPv6 dress is itself.
	for range 3 {
		g.Wrong(netip.MustParseAddr("fd00:1:2:3::1"), now)
	}
	if g.Wait(netip.MustParseAddr("fd00:1:2:3:9:9:9:9"), now) == 0 || g.Wait(netip.MustParseAddr("fd00:1:2:4::1"), now) != 0 {
		t.Error("of an IPv6 prefix")
	}
	for range 2 {
		g.Wrong(netip.MustParseAddr("::ffff:192.168.1.20"), now)
	}
	if g.Wait(phone, now) != time.Second {
		t.Errorf("in IPv6 dress: %v", g.Wait(phone, now))
	}
}

// Many addresses that each guess little are slowed together, and a thousand are remembered, not more.
func TestGuessesFromEverywhere(t *testing.T) {
	var g Guesses
	last := netip.MustParseAddr("10.0.0.1")
	for i := range 30 {
		g.Wrong(last, noon.Add(time.Duration(i)*time.Second))
		last = last.Next()
	}
	at := noon.Add(30 * time.Second)
	if got := g.Wait(last, at); got != 0 {
		t.Errorf("after 30: %v", got)
	}
	g.Wrong(last, at)
	if got := g.Wait(netip.MustParseAddr("10.9.9.9"), at); got != allWait {
		t.Errorf("after 31: %v", got)
	}
	if got := g.Wait(netip.MustParseAddr("10.9.9.9"), at.Add(time.Hour)); got != 0 {
		t.Errorf("an hour later: %v", got)
	}
	for i := range 1500 {
		g.Wrong(last, at.Add(time.Duration(i)*time.Millisecond))
		last = last.Next()
	}
	if len(g.from) != mostRemember {
		t.Errorf("%d addresses are remembered", len(g.from))
	}
}

var machine = Names{Hosts: []string{"kettle.local", "mudroom"}, Addresses: []net.IP{net.ParseIP("192.168.1.7"), net.ParseIP("fd00::7"), net.ParseIP("203.0.113.7")}}

// vouched tells whether whoever trusts the authority's root alone lets its certificate stand for a name, at a time.
func vouched(t *testing.T, a *Authority, host string, at time.Time) error {
	t.Helper()
	leaf, err := a.Certificate(nil)
	if err != nil {
		t.Fatal(err)
	}
	root, err := x509.ParseCertificate(a.Root())
	if err != nil {
		t.Fatal(err)
	}
	roots := x509.NewCertPool()
	roots.AddCert(root)
	_, err = leaf.Leaf.Verify(x509.VerifyOptions{Roots: roots, DNSName: host, CurrentTime: at, KeyUsages: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}})
	return err
}

// The machine's certificate stands for its names and its addresses at home, and for nothing else; it is made anew in time, and the root stays.
func TestTheMachineIsVouchedFor(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "line-door")
	a, err := OpenAuthority(folder, machine, noon)
	if err != nil {
		t.Fatal(err)
	}
	for _, host := range []string{"kettle.local", "mudroom", "localhost", "192.168.1.7", "fd00::7"} {
		if err := vouched(t, a, host, noon); err != nil {
			t.Errorf("%s: %v", host, err)
		}
	}
	for _, host := range []string{"example.org", "other.local", "192.168.1.8", "203.0.113.7"} {
		if vouched(t, a, host, noon) == nil {
			t.Errorf("it stands for %s", host)
		}
	}
	first, _ := a.Certificate(nil)
	if a.Renew(machine, noon.AddDate(0, 0, 59)) != nil {
		t.Error("renew")
	}
	if same, _ := a.Certificate(nil); same != first {
		t.Error("made anew 31 days before its end")
	}
	if err := a.Renew(machine, noon.AddDate(0, 0, 61)); err != nil {
		t.Fatal(err)
	}
	second, _ := a.Certificate(nil)
	if second == first || vouched(t, a, "mudroom", noon.AddDate(0, 0, 150)) != nil || vouched(t, a, "mudroom", noon.AddDate(0, 0, 152)) == nil {
		t.Error("not made anew 29 days before its end, for 90 days")
	}
	moved := Names{Hosts: machine.Hosts, Addresses: []net.IP{net.ParseIP("10.0.0.9")}}
	if err := a.Renew(moved, noon.AddDate(0, 0, 61)); err != nil || vouched(t, a, "10.0.0.9", noon.AddDate(0, 0, 61)) != nil {
		t.Errorf("at another address: %v", err)
	}
	again, err := OpenAuthority(folder, machine, noon.AddDate(0, 1, 0))
	if err != nil || again.Fingerprint() != a.Fingerprint() || again.Anew {
		t.Errorf("opened again: %v", err)
	}
	for _, name := range []string{rootFile, keyFile} {
		if info, err := os.Stat(filepath.Join(folder, name)); err != nil || info.Mode().Perm() != 0o600 {
			t.Errorf("%s: %v", name, err)
		}
	}
	if len(a.Fingerprint()) != 32*3-1 || strings.ToUpper(a.Fingerprint()) != a.Fingerprint() {
		t.Errorf("fingerprint %s", a.Fingerprint())
	}
}

// A root that may not vouch for a new name is set aside and another made, and that is said; what is broken is told and nothing is written over.
func TestAnotherNameWantsAnotherRoot(t *testing.T) {
	folder := t.TempDir()
	before, err := OpenAuthority(folder, machine, noon)
	if err != nil {
		t.Fatal(err)
	}
	after, err := OpenAuthority(folder, Names{Hosts: []string{"burrow.home"}}, noon)
	if err != nil || !after.Anew || after.Fingerprint() == before.Fingerprint() || vouched(t, after, "burrow.home", noon) != nil {
		t.Errorf("%v", err)
	}
	if kept, _ := filepath.Glob(filepath.Join(folder, "*.old")); len(kept) != 2 {
		t.Errorf("set aside: %v", kept)
	}
	if err := os.WriteFile(filepath.Join(folder, rootFile), []byte("nothing"), 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := OpenAuthority(folder, machine, noon); err == nil || !strings.Contains(err.Error(), rootFile) {
		t.Errorf("a broken root: %v", err)
	}
	if raw, _ := os.ReadFile(filepath.Join(folder, rootFile)); string(raw) != "nothing" {
		t.Error("it was written over")
	}
}

// One port answers who speaks plainly and who speaks in secret, whatever is said at once, and one that says nothing holds up nobody.
func TestOnePortForBoth(t *testing.T) {
	a, err := OpenAuthority(t.TempDir(), machine, time.Now())
	if err != nil {
		t.Fatal(err)
	}
	plain, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	one := OnePort(plain, &tls.Config{GetCertificate: a.Certificate})
	said := make(chan string, 8)
	go func() {
		for {
			conn, err := one.Accept()
			if err != nil {
				close(said)
				return
			}
			go func() {
				defer conn.Close()
				text, _ := io.ReadAll(io.LimitReader(conn, 11))
				kind := "plain "
				if _, secret := conn.(*tls.Conn); secret {
					kind = "secret "
				}
				said <- kind + string(text)
			}()
		}
	}()
	silent, err := net.Dial("tcp", plain.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	defer silent.Close()
	speak := func(conn net.Conn, err error) {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
		defer conn.Close()
		if _, err := conn.Write([]byte("kettle fork")); err != nil {
			t.Fatal(err)
		}
	}
	speak(net.Dial("tcp", plain.Addr().String()))
	if got := <-said; got != "plain kettle fork" {
		t.Errorf("%q", got)
	}
	roots := x509.NewCertPool()
	root, _ := x509.ParseCertificate(a.Root())
	roots.AddCert(root)
	speak(tls.Dial("tcp", plain.Addr().String(), &tls.Config{RootCAs: roots, ServerName: "mudroom"}))
	if got := <-said; got != "secret kettle fork" {
		t.Errorf("%q", got)
	}
	if err := one.Close(); err != nil {
		t.Fatal(err)
	}
	if _, open := <-said; open {
		t.Error("it answers after its end")
	}
}
