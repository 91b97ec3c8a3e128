package gauge

import (
	"context"
	"errors"
	"fmt"
	"math"
	"net"
	"strings"
	"testing"
	"time"
)

func TestParse(t *testing.T) {
	sum := func(body string) string { return body + "*" + hex(checksum(body)) }
	for _, c := range []struct {
		line  string
		force float64
		err   error
	}{
		{lineOf(12, 18.24), 18.24, nil},
		{lineOf(12, -0.31), -0.31, nil},
		{sum("F,1,4.1,LBF,OK"), 4.1 * 4.4482216, nil},
		{sum("F,1,2,kgf,OK"), 19.6133, nil},
		{sum("F,1,99.9,N,OVER"), 0, ErrDamaged},
		{sum("F,1,NaN,N,OK"), 0, ErrDamaged},
		{sum("F,1,1,STONE,OK"), 0, ErrDamaged},
		{"F,000012,+0018.24,N,OK*00", 0, ErrDamaged},
		{"", 0, ErrDamaged},
	} {
		force, err := Parse(c.line)
		if !errors.Is(err, c.err) || math.Abs(force-c.force) > 1e-6 {
			t.Errorf("%q: %g, %v", c.line, force, err)
		}
	}
}

func hex(b byte) string {
	const digits = "0123456789ABCDEF"
	return string([]byte{digits[b>>4], digits[b&15]})
}

func read(t *testing.T, s *StandIn, commands ...string) (Press, error) {
	t.Helper()
	return Read(context.Background(), s.Address(), 3*time.Second, commands...)
}

func TestStandInIsRead(t *testing.T) {
	s, err := NewStandIn(18, time.Millisecond)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	sum, damaged := 0.0, 0
	for range 8 {
		p, err := read(t, s, Command(26, Well))
		if err != nil || p.Drifted() {
			t.Fatalf("%+v, %v", p, err)
		}
		sum, damaged = sum+p.PeakN, damaged+p.Damaged
	}
	if mean := sum / 8; math.Abs(mean-26) > 1.5 {
		t.Errorf("a pan of 26 N reads %g", mean)
	}
}

func TestStandInDriftsAndSticks(t *testing.T) {
	s, err := NewStandIn(18, time.Millisecond)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if _, err := read(t, s, Command(18, Sticks)); !errors.Is(err, ErrStuck) {
		t.Errorf("stuck: %v", err)
	}
	var last Press
	for range 3 {
		if last, err = read(t, s, Command(18, Drifts)); err != nil {
			t.Fatal(err)
		}
	}
	if !last.Drifted() || last.PeakN < 18.5 {
		t.Errorf("after three drifting presses: %+v", last)
	}
	if p, err := read(t, s, Command(18, Well), Zero); err != nil || p.Drifted() {
		t.Errorf("zeroed: %+v, %v", p, err)
	}
}

func TestGaugesThatFail(t *testing.T) {
	if _, err := Read(context.Background(), "127.0.0.1:1", time.Second); err == nil || errors.Is(err, ErrNoPress) {
		t.Errorf("a gauge that is not there: %v", err)
	}
	s, err := NewStandIn(0.5, time.Millisecond) // too light to be seen as a press
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if _, err := Read(context.Background(), s.Address(), 200*time.Millisecond); !errors.Is(err, ErrNoPress) {
		t.Errorf("nobody presses: %v", err)
	}
}

// A line missing by the gauge's own count, or damaged, just before the peak is no reading.
func TestLinesLostBeforeThePeak(t *testing.T) {
	for name, skip := range map[string]int{"whole": -1, "lost": 5, "damaged": 105} {
		listener, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			t.Fatal(err)
		}
		go func() {
			conn, err := listener.Accept()
			if err != nil {
				return
			}
			defer conn.Close()
			for i, force := range []float64{0, 0, 4, 8, 12, 16, 18, 12, 3, 0, 0, 0, 0, 0} {
				said := lineOf(i, force)
				if i == skip-100 {
					said = "F,9" + said[3:]
				}
				if i != skip {
					fmt.Fprintf(conn, "%s\r\n", strings.TrimSpace(said))
				}
			}
		}()
		p, err := Read(context.Background(), listener.Addr().String(), 2*time.Second)
		listener.Close()
		if skip < 0 && (err != nil || p.PeakN != 18) || skip >= 0 && !errors.Is(err, ErrUnsure) {
			t.Errorf("%s: %+v, %v", name, p, err)
		}
	}
}

func FuzzParse(f *testing.F) {
	f.Add(lineOf(1, 18.2))
	f.Fuzz(func(t *testing.T, said string) {
		if force, err := Parse(said); err == nil && !(math.Abs(force) < 20000) {
			t.Errorf("%q is taken for %g N", said, force)
		}
	})
}
