package round

import (
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
