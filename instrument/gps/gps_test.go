package gps

import (
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"net"
	"testing"
	"time"

	"oldburrow/core/ground"
)

var gate = ground.Fix{LatDeg: 46.803063, LonDeg: -105.297244}

func TestParse(t *testing.T) {
	for _, c := range []struct {
		sentence string
		lat, lon float64
		err      error
	}{
		{"$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47", 48.1173, 11.516667, nil},
		{"$GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W*6A", 48.1173, 11.516667, nil},
		{"$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*48", 0, 0, ErrChecksum},
		{"$GPGGA,,,,,,0,00,,,M,,M,,*66", 0, 0, ErrNoFix},
		{"$GPGSV,1,1,00*79", 0, 0, ErrOther},
		{summed("GPGGA,123519,4807.038,N,01131.000,E,6,08,0.9,545.4,M,46.9,M,,"), 0, 0, ErrNoFix}, // reckoned
		{summed("GPGGA,123519,4807.038,N,01131.000,E,8,08,0.9,545.4,M,46.9,M,,"), 0, 0, ErrNoFix}, // simulated
		{summed("GPGGA,123519,4807.038,N,01131.000,E,A,08,0.9,545.4,M,46.9,M,,"), 0, 0, ErrNoFix}, // unknown
		{summed("GPGGA,123519,4807.038,N,01131.000,E,4,08,0.9,545.4,M,46.9,M,,"), 48.1173, 11.516667, nil},
		{summed("GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W,E"), 0, 0, ErrNoFix},
		{summed("GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W,A"), 48.1173, 11.516667, nil},
		{"GPGGA no dollar*00", 0, 0, ErrOther},
		{"", 0, 0, ErrOther},
		{"$*00", 0, 0, ErrOther},
	} {
		fix, err := Parse(c.sentence)
		if !errors.Is(err, c.err) || math.Abs(fix.LatDeg-c.lat) > 1e-5 || math.Abs(fix.LonDeg-c.lon) > 1e-5 {
			t.Errorf("%q: %+v, %v", c.sentence, fix, err)
		}
	}
}

func summed(body string) string { return fmt.Sprintf("$%s*%02X", body, checksum(body)) }

// On the date line neighbours lie together.
func TestAverageOnTheDateLine(t *testing.T) {
	mean, err := ground.AverageOf([]ground.Fix{{LatDeg: 52, LonDeg: 179.99999}, {LatDeg: 52, LonDeg: -179.99999}, {LatDeg: 52, LonDeg: 179.99998}})
	if err != nil || mean.Used != 3 || mean.SpreadM > 3 || math.Abs(math.Abs(mean.LonDeg)-180) > 1e-4 {
		t.Errorf("%+v, %v", mean, err)
	}
}

func TestSentencesReadBack(t *testing.T) {
	for _, at := range []ground.Fix{gate, {LatDeg: -33.87, LonDeg: 151.21}, {}, {LatDeg: 89.99999, LonDeg: -179.99999}} {
		fix, err := Parse(sentence(at, true))
		if err != nil || ground.Metres(at, fix) > 0.3 {
			t.Errorf("%+v read back as %+v, %v", at, fix, err)
		}
	}
	if _, err := Parse(sentence(gate, false)); !errors.Is(err, ErrNoFix) {
		t.Errorf("no fix: %v", err)
	}
}

func TestStandInIsAveraged(t *testing.T) {
	s, err := NewStandIn([]ground.Fix{gate}, 2*time.Millisecond)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	r, err := Read(context.Background(), s.Address(), 900*time.Millisecond)
	if err != nil {
		t.Fatal(err)
	}
	if len(r.Fixes) < 50 || r.Damaged == 0 || r.NoFix == 0 {
		t.Fatalf("%d fixes, %d damaged, %d without", len(r.Fixes), r.Damaged, r.NoFix)
	}
	mean, err := ground.AverageOf(r.Fixes)
	if err != nil || ground.Metres(gate, mean.Fix) > 2 {
		t.Errorf("averaged %.1f m off, %v", ground.Metres(gate, mean.Fix), err)
	}
	if mean.SpreadM < 1 || mean.SpreadM > 10 || mean.Used == 0 || mean.Used > len(r.Fixes) {
		t.Errorf("spread %.1f m of %d", mean.SpreadM, mean.Used)
	}
}

func TestAverageLeavesStraysOut(t *testing.T) {
	fixes := []ground.Fix{gate, gate, gate, gate, {LatDeg: gate.LatDeg + .001, LonDeg: gate.LonDeg}}
	mean, err := ground.AverageOf(fixes)
	if err != nil || mean.Used != 4 || ground.Metres(gate, mean.Fix) > .01 {
		t.Errorf("%+v, %v", mean, err)
	}
	if _, err := ground.AverageOf(nil); err == nil {
		t.Error("nothing is averaged")
	}
}

func TestReceiversThatFail(t *testing.T) {
	if _, err := Read(context.Background(), "127.0.0.1:1", time.Second); err == nil {
		t.Error("a receiver that is not there is read")
	}
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer listener.Close()
	go func() {
		conn, err := listener.Accept()
		if err != nil {
			return
		}
		_, _ = io.WriteString(conn, "garbage without end")
		time.Sleep(2 * time.Second)
		conn.Close()
	}()
	r, err := Read(context.Background(), listener.Addr().String(), 200*time.Millisecond)
	if err != nil || len(r.Fixes) != 0 {
		t.Errorf("garbage gives %+v, %v", r, err)
	}
}

func FuzzParse(f *testing.F) {
	f.Add("$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47")
	f.Fuzz(func(t *testing.T, said string) {
		fix, err := Parse(said)
		if err == nil && !(math.Abs(fix.LatDeg) <= 90 && math.Abs(fix.LonDeg) <= 180) {
			t.Errorf("%q is taken for %+v", said, fix)
		}
	})
}
