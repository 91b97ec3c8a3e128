package tally

import (
	"math/rand/v2"
	"testing"
	"time"

	"oldburrow/core/seeds"
)

// Nights between any two times about a change of clocks are the midnights that are walked through, a quarter of an hour at a time.
func TestNightsAtEveryHour(t *testing.T) {
	const quarter = 15 * time.Minute
	for name, text := range map[string]string{
		"America/Denver": "2026-11-01", "Asia/Kathmandu": "2026-03-08", "Pacific/Auckland": "2026-09-27", "Australia/Lord_Howe": "2026-10-04", "America/Havana": "2026-11-01", "Africa/Cairo": "2026-04-24",
	} {
		zone, err := time.LoadLocation(name)
		if err != nil {
			t.Fatal(err)
		}
		turn, err := time.Parse(time.DateOnly, text)
		if err != nil {
			t.Fatal(err)
		}
		seeds.Each(t, 400, func(rng *rand.Rand) {
			from := turn.Add(time.Duration(rng.IntN(4*96)-2*96) * quarter)
			to := from.Add(time.Duration(rng.IntN(4*96)) * quarter)
			want, day := 0, from.In(zone).Format(time.DateOnly)
			for at := from; !at.After(to); at = at.Add(quarter) {
				if is := at.In(zone).Format(time.DateOnly); is > day {
					want, day = want+1, is
				}
			}
			if got := Nights(from, to, zone); got != want {
				t.Errorf("%s: %d nights from %s to %s, want %d", name, got, from.In(zone), to.In(zone), want)
			}
		})
	}
}
