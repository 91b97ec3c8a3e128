package round

import (
	"testing"
	"time"
)

// turns are days about which the clocks of a zone are changed, by an hour, by half an hour, at midnight itself, or never.
var turns = map[string][]string{
	"America/Denver": {"2026-03-08", "2026-11-01"}, "Asia/Kathmandu": {"2026-03-08"}, "Pacific/Auckland": {"2026-04-05", "2026-09-27"},
	"Australia/Lord_Howe": {"2026-04-05", "2026-10-04"}, "America/Havana": {"2026-03-08", "2026-11-01"}, "Africa/Cairo": {"2026-04-24", "2026-10-30"},
	"Asia/Amman": {"2021-10-29"}, // midnight comes twice, east of Greenwich
}

// A look is due by the midnight that ends the day after it, at every half hour of days of 23, 23 ½, 24, 24 ½ and 25 hours: found by walking
// on, a quarter of an hour at a time, until the clock on the wall shows that day.
func TestDueAtEveryHour(t *testing.T) {
	const quarter = 15 * time.Minute
	for name, days := range turns {
		zone, err := Zone(name)
		if err != nil {
			t.Fatal(err)
		}
		for _, text := range days {
			turn, err := time.Parse(time.DateOnly, text)
			if err != nil {
				t.Fatal(err)
			}
			for at := turn.Add(-48 * time.Hour); at.Before(turn.Add(48 * time.Hour)); at = at.Add(2 * quarter) {
				y, m, d := at.In(zone).Date()
				due := time.Date(y, m, d+2, 0, 0, 0, 0, time.UTC).Format(time.DateOnly)
				want := at.Truncate(quarter)
				for want.In(zone).Format(time.DateOnly) < due {
					want = want.Add(quarter)
				}
				if got := NextDay(at, zone); !got.Equal(want) {
					t.Fatalf("%s: seen %s, due %s, want %s", name, at.In(zone), got.In(zone), want.In(zone))
				}
				start := StartOfDay(y, m, d, zone)
				if day := at.In(zone).Format(time.DateOnly); start.In(zone).Format(time.DateOnly) != day || start.Add(-time.Nanosecond).In(zone).Format(time.DateOnly) >= day {
					t.Fatalf("%s: the day of %s begins %s", name, at.In(zone), start.In(zone))
				}
			}
		}
	}
}
