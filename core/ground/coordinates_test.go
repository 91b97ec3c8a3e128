package ground

import (
	"math"
	"testing"
)

func TestCoordinatesAsPeopleHaveThem(t *testing.T) {
	for _, text := range []string{
		"46.8, -105.3", "46.8 -105.3", "46.8,-105.3", "46.8N 105.3W", "N46.8 W105.3", "46.8° N, 105.3° W", "105.3 W, 46.8 N", "lat 46.8, lon -105.3",
		"46° 48' N, 105° 18' W", "46 48 N 105 18 W", "N 46 48.000 W 105 18.000", "46°48'00\"N 105°18'00\"W", "46°48′0″ N; 105°18′0″ W", "46 48 0 -105 18 0",
		"46.80000° −105.30000°", "46.8°-105.3°", "46 48-105 18",
	} {
		fix, err := ReadCoordinates(text)
		if err != nil || math.Abs(fix.LatDeg-46.8) > 1e-9 || math.Abs(fix.LonDeg+105.3) > 1e-9 {
			t.Errorf("%q: %+v, %v", text, fix, err)
		}
	}
	if fix, err := ReadCoordinates("33 30 S, 70.5 E"); err != nil || fix.LatDeg != -33.5 || fix.LonDeg != 70.5 {
		t.Errorf("in the south: %+v, %v", fix, err)
	}
	if fix, err := ReadCoordinates("90 N, 180 E"); err != nil || fix != (Fix{LatDeg: 90, LonDeg: 180}) {
		t.Errorf("at the pole: %+v, %v", fix, err)
	}
	for _, text := range []string{"", "46.8", "here", "46.8, 205.3", "96.8, 5.3", "46.8 N, 105.3", "46.8 N, 105.3 S", "46 75 N, 105 18 W", "46 60 N, 105 18 W", "46 18 N, 105 18 60 W", "46.8 47.8 -105.3", "46.8 -105.3 200", "N46.8 W", "46.8 here 105.3", "1 2 3", "46.8, -105.3, 900"} {
		if fix, err := ReadCoordinates(text); err == nil {
			t.Errorf("%q is read as %+v", text, fix)
		}
	}
}

func FuzzReadCoordinates(f *testing.F) {
	f.Add("46° 48' N, 105° 18' W")
	f.Fuzz(func(t *testing.T, text string) {
		if fix, err := ReadCoordinates(text); err == nil && (math.Abs(fix.LatDeg) > 90 || math.Abs(fix.LonDeg) > 180) {
			t.Errorf("%q is read as %+v", text, fix)
		}
	})
}
