package round

import (
	"math"
	"testing"
	"time"
)

func TestStartOfDayWhateverTheClocksDo(t *testing.T) {
	for _, c := range []struct{ zone, want string }{
		{"America/Denver", "2026-12-06T00:00:00-07:00"},
		{"America/Denver", "2026-11-01T00:00:00-06:00"},
		{"America/Sao_Paulo", "2018-11-04T01:00:00-02:00"},   // midnight skipped
		{"Asia/Beirut", "2022-03-27T01:00:00+03:00"},         // midnight skipped
		{"Atlantic/Azores", "2026-10-25T00:00:00Z"},          // midnight comes twice
		{"America/Havana", "2026-11-01T00:00:00-04:00"},      // midnight comes twice
		{"Africa/Cairo", "2023-04-28T01:00:00+03:00"},        // midnight skipped
		{"Australia/Lord_Howe", "2026-04-05T00:00:00+11:00"}, // half an hour back at two
		{"Asia/Amman", "2022-02-25T01:00:00+03:00"},          // midnight skipped
	} {
		zone, err := time.LoadLocation(c.zone)
		if err != nil {
			t.Fatal(err)
		}
		want, err := time.Parse(time.RFC3339, c.want)
		if err != nil {
			t.Fatal(err)
		}
		y, m, d := want.In(zone).Date()
		got := StartOfDay(y, m, d, zone)
		if !got.Equal(want) {
			t.Errorf("%s: day starts %s, want %s", c.zone, got.Format(time.RFC3339), c.want)
		}
		if before := got.Add(-time.Second).In(zone); before.Day() == d && before.Month() == m {
			t.Errorf("%s: a second before the start it is already that day", c.zone)
		}
	}
}

func TestDueRefuses(t *testing.T) {
	good := DueInput{Mode: CalendarDay, Last: "2026-12-04T13:10:00Z", Zone: "America/Denver"}
	if _, err := Due(good); err != nil {
		t.Fatal(err)
	}
	for name, change := range map[string]func(*DueInput){
		"mode":  func(in *DueInput) { in.Mode = "weekly" },
		"last":  func(in *DueInput) { in.Last = "yesterday" },
		"zone":  func(in *DueInput) { in.Zone = "Nowhere/Here" },
		"hours": func(in *DueInput) { in.Mode = Hours },
	} {
		in := good
		change(&in)
		if _, err := Due(in); err == nil {
			t.Errorf("a bad %s is accepted", name)
		}
	}
}

func TestDaylight(t *testing.T) {
	// Times of an almanac, to the minute.
	for _, c := range []struct {
		place, zone   string
		lat, lon      float64
		day, up, down string
	}{
		{"Greenwich, midsummer", "Europe/London", 51.4779, 0, "2026-06-21", "04:43", "21:21"},
		{"the equator, equinox", "UTC", 0, 0, "2026-03-20", "06:04", "18:11"},
		{"New York, midwinter", "America/New_York", 40.7128, -74.006, "2026-12-21", "07:17", "16:32"},
		{"Sydney, midsummer", "Australia/Sydney", -33.8688, 151.2093, "2026-12-21", "05:41", "20:05"},
	} {
		zone, err := time.LoadLocation(c.zone)
		if err != nil {
			t.Fatal(err)
		}
		day, _ := time.ParseInLocation("2006-01-02", c.day, zone)
		light, err := Daylight(day.Add(5*time.Hour), zone, c.lat, c.lon)
		if err != nil {
			t.Fatal(err)
		}
		for _, pair := range []struct {
			name, want string
			got        *time.Time
		}{{"sunrise", c.up, light.Sunrise}, {"sunset", c.down, light.Sunset}} {
			want, _ := time.ParseInLocation("2006-01-02 15:04", c.day+" "+pair.want, zone)
			if pair.got == nil || pair.got.Sub(want).Abs() > 90*time.Second {
				t.Errorf("%s: %s %v, want %v", c.place, pair.name, pair.got, want.UTC())
			}
		}
		if !light.FirstLight.Before(*light.Sunrise) || !light.LastLight.After(*light.Sunset) {
			t.Errorf("%s: twilight is out of order", c.place)
		}
	}
}

func TestPolarDayAndNight(t *testing.T) {
	oslo, _ := time.LoadLocation("Europe/Oslo")
	for _, month := range []time.Month{time.June, time.December} {
		light, err := Daylight(time.Date(2026, month, 21, 12, 0, 0, 0, oslo), oslo, 78.2, 15.6)
		if err != nil || light.Sunrise != nil || light.Sunset != nil {
			t.Errorf("%s in the far north: %+v, %v", month, light, err)
		}
	}
	if _, err := Daylight(time.Now(), oslo, 91, 0); err == nil {
		t.Error("a latitude of 91 degrees is accepted")
	}
}

// The sun's declination and the equation of time: that of the first day as Meeus works it out (Astronomical Algorithms, examples 25.a and 28.b),
// the others worked out apart from the same series, so far off that its smallest terms tell.
func TestTheSun(t *testing.T) {
	for day, want := range map[string][2]float64{
		"1992-10-13": {-7.785069796, 13.710886558}, "2026-12-04": {-22.205742146, 9.999736610}, "0100-03-01": {-7.747913162, -14.168376517},
		"4000-07-20": {20.061503662, -10.715345325}, "2100-02-11": {-14.070594054, -14.075283195},
	} {
		at, err := time.Parse(time.DateOnly, day)
		if err != nil {
			t.Fatal(err)
		}
		if declination, equation := sun(at); math.Abs(declination-want[0]) > 2e-8 || math.Abs(equation-want[1]) > 2e-8 {
			t.Errorf("%s: %.9f° and %.9f min, want %.9f° and %.9f min", day, declination, equation, want[0], want[1])
		}
	}
}

// altitude is the height of the sun's centre, degrees, by the low-precision formulas of the almanac offices: another way to
// the sun than the one that Daylight takes.
func altitude(t time.Time, lat, lon float64) float64 {
	d := float64(t.Unix())/86400 + 2440587.5 - 2451545
	g, q := 357.529+0.98560028*d, 280.459+0.98564736*d
	long := q + 1.915*sinDeg(g) + 0.020*sinDeg(2*g)
	tilt := 23.439 - 0.00000036*d
	rightAscension := math.Atan2(cosDeg(tilt)*sinDeg(long), cosDeg(long)) * 180 / math.Pi
	declination := math.Asin(sinDeg(tilt)*sinDeg(long)) * 180 / math.Pi
	hourAngle := 15*(18.697374558+24.06570982441908*d) + lon - rightAscension
	return math.Asin(sinDeg(lat)*sinDeg(declination)+cosDeg(lat)*cosDeg(declination)*cosDeg(hourAngle)) * 180 / math.Pi
}

// At the times given the sun must stand where they say it does: a minute is at most a quarter of a degree.
func TestPlacesAgreeWithTheSun(t *testing.T) {
	for _, c := range []struct {
		zone     string
		lat, lon float64
		day      string
	}{
		{"America/Denver", 46.8, -105.3, "2026-12-04"}, {"America/Denver", 39.7, -105.0, "2026-03-08"}, {"America/New_York", 40.7, -74.0, "2026-11-01"},
		{"America/Anchorage", 61.2, -149.9, "2026-12-21"}, {"America/Regina", 50.4, -104.6, "2027-01-15"}, {"America/Chicago", 29.8, -95.4, "2026-06-21"},
		{"Europe/Stockholm", 59.3, 18.1, "2026-02-10"}, {"Australia/Hobart", -42.9, 147.3, "2026-07-04"}, {"Africa/Nairobi", -1.3, 36.8, "2026-09-23"},
		{"Pacific/Auckland", -36.8, 174.8, "2026-04-05"}, {"Pacific/Kiritimati", 1.9, -157.4, "2026-11-20"}, {"Pacific/Pago_Pago", -14.3, -170.7, "2026-11-20"},
		{"Asia/Anadyr", 64.7, 177.5, "2026-03-20"}, {"Pacific/Apia", -13.8, -171.8, "2026-06-21"},
	} {
		zone, err := time.LoadLocation(c.zone)
		if err != nil {
			t.Fatal(err)
		}
		day, err := time.ParseInLocation("2006-01-02", c.day, zone)
		if err != nil {
			t.Fatal(err)
		}
		light, err := Daylight(day.Add(9*time.Hour), zone, c.lat, c.lon)
		if err != nil {
			t.Fatal(err)
		}
		for name, want := range map[string]struct {
			at     *time.Time
			height float64
		}{"first light": {light.FirstLight, -6}, "sunrise": {light.Sunrise, -0.833}, "sunset": {light.Sunset, -0.833}, "last light": {light.LastLight, -6}} {
			if want.at == nil {
				t.Errorf("%s: no %s", c.zone, name)
				continue
			}
			// How fast the sun rises or sinks there turns a minute into degrees.
			minute := math.Abs(altitude(want.at.Add(30*time.Second), c.lat, c.lon) - altitude(want.at.Add(-30*time.Second), c.lat, c.lon))
			if off := math.Abs(altitude(*want.at, c.lat, c.lon) - want.height); off > minute {
				t.Errorf("%s %s: at %s %s the sun stands %.2f° off", c.zone, c.day, name, want.at.In(zone).Format("15:04"), off)
			}
			if got := want.at.In(zone).Format("2006-01-02"); got != c.day {
				t.Errorf("%s: %s of %s comes on %s", c.zone, name, c.day, got)
			}
		}
	}
}
