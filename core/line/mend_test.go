package line

import (
	"testing"
	"time"

	ids "github.com/oklog/ulid/v2"
)

// A slip that is put right on the day of its entry, by the line's own clock, needs no reason; later it does.
func TestAMendOnTheDayOfEntry(t *testing.T) {
	zone, err := time.LoadLocation("America/Denver")
	if err != nil {
		t.Fatal(err)
	}
	id := func(at time.Time) string { return ids.MustNewDefault(at).String() }
	entered := time.Date(2026, 12, 4, 17, 0, 0, 0, zone) // the fifth has begun in Greenwich
	look := Visit{ID: id(entered), MakeID: id(entered), At: entered, Found: Found{Finding: "quiet"}}
	for _, c := range []struct {
		mended  time.Time
		reason  string
		refused bool
	}{
		{entered.Add(time.Minute), "", false},
		{time.Date(2026, 12, 4, 23, 59, 0, 0, zone), "", false},
		{time.Date(2026, 12, 5, 0, 1, 0, 0, zone), "", true},
		{time.Date(2026, 12, 5, 0, 1, 0, 0, zone), "two pages turned", false},
		{time.Date(2026, 12, 3, 23, 0, 0, 0, zone), "", true},
	} {
		mend := Mend{ID: id(c.mended), VisitID: look.ID, At: c.mended, Reason: c.reason, Visit: look}
		if err := mend.Check(zone, animals); (err != nil) != c.refused {
			t.Errorf("%s, %q: %v", c.mended, c.reason, err)
		}
	}
}
