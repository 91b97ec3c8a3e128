package outlook

import (
	"testing"
	"time"

	"oldburrow/core/weather"
)

// Asked at each hour of a day, and of days of 23 and 25 hours, in zones of all kinds: last night ended on the morning of this local day and
// tonight begins on its evening, whatever the hour; both have their hours, and what is told of them is the same all day.
func TestTheNightsAtEveryHour(t *testing.T) {
	for name, of := range map[string]struct {
		day      string
		lat, lon float64
	}{
		"America/Denver": {"2026-03-08", 46.8, -105.3}, "Asia/Kathmandu": {"2026-11-20", 27.7, 85.3}, "Pacific/Auckland": {"2026-09-27", -36.8, 174.8}, "Australia/Lord_Howe": {"2026-10-04", -31.5, 159.1},
	} {
		zone, err := time.LoadLocation(name)
		if err != nil {
			t.Fatal(err)
		}
		y, m, d := dayOf(t, of.day)
		for _, shift := range []int{-1, 0, 1} {
			start, end := time.Date(y, m, d+shift, 0, 0, 0, 0, zone), time.Date(y, m, d+shift+1, 0, 0, 0, 0, zone)
			var first *Outlook
			for now := start; now.Before(end); now = now.Add(time.Hour) {
				l := someLine(t)
				l.Line.LatDeg, l.Line.LonDeg, l.Line.Zone, l.Zone, l.Now = of.lat, of.lon, name, zone, now
				cold := func(h *weather.Hour) { h.TempC = -float64(h.At.In(zone).Day()) }
				l.Observed, l.Expected = hours(start.AddDate(0, 0, -12), now, cold), hours(now, start.AddDate(0, 0, 4), cold)
				v, err := Of(l)
				if err != nil || v.LastNight == nil || v.Tonight == nil {
					t.Fatalf("%s at %s: %+v, %v", name, now, v, err)
				}
				today := now.In(zone).Format(time.DateOnly)
				last, tonight := v.LastNight, v.Tonight
				if last.To.In(zone).Format(time.DateOnly) != today || tonight.From.In(zone).Format(time.DateOnly) != today || last.From.In(zone).Format(time.DateOnly) >= today {
					t.Errorf("%s at %s: last night from %s to %s, tonight from %s", name, now, last.From.In(zone), last.To.In(zone), tonight.From.In(zone))
				}
				for _, night := range []*weather.Night{last, tonight} {
					if long := night.To.Sub(night.From).Hours(); long < 9 || long > 17 || float64(len(night.Hours)) < long-1 || float64(len(night.Hours)) > long+1.5 {
						t.Errorf("%s at %s: a night of %.1f h with %d hours", name, now, long, len(night.Hours))
					}
				}
				if first == nil {
					first = &v
				} else if !last.From.Equal(first.LastNight.From) || last.ColdestC != first.LastNight.ColdestC || tonight.ColdestC != first.Tonight.ColdestC {
					t.Errorf("%s at %s: %+v, at midnight %+v", name, now, last, first.LastNight)
				}
			}
		}
	}
}

func dayOf(t *testing.T, text string) (int, time.Month, int) {
	t.Helper()
	at, err := time.Parse(time.DateOnly, text)
	if err != nil {
		t.Fatal(err)
	}
	return at.Date()
}
