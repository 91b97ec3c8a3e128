package store

import (
	"fmt"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/book"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// At the midnight between two seasons, in zones of all kinds: what is looked at, pulled and built about it is counted once, in the season of
// its own local day; nothing of it is odd, and no third season begins.
func TestTheSeamOfSeasons(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	findings := []line.Finding{line.FoundCatch, line.FoundGone, line.FoundAgain}
	for i, zone := range []string{"America/Denver", "Asia/Kathmandu", "Pacific/Auckland", "Australia/Lord_Howe"} {
		for j, after := range []time.Duration{-time.Hour, -time.Second, 0, time.Hour} {
			atTheSeam(t, zone, findings[(i+j)%len(findings)], after)
		}
	}
}

func atTheSeam(t *testing.T, zoneName string, finding line.Finding, after time.Duration) {
	c := newScene(t)
	c.line.Zone, c.line.Version = zoneName, 1
	c.do(func(tx *Tx) error { return second(tx.PutLine(c.line)) })
	zone := zoneOf(t, c.line)
	seam := time.Date(2026, time.July, 1, 0, 0, 0, 0, zone) // on the north side, where the scene lies
	c.now = seam.AddDate(0, 0, 20)
	name := fmt.Sprintf("%s, %s %s after midnight", zoneName, finding, after)
	c.build(3, seam.AddDate(0, -2, 0), 3) // the season before has begun
	m := c.build(0, seam.Add(-4*time.Hour), 0)
	if finding == "found" {
		lost := line.Visit{ID: id(), LineID: c.line.ID, MakeID: m.ID, At: seam.Add(-3 * time.Hour), Found: line.Found{Finding: "gone"}}
		c.do(func(tx *Tx) error { return second(tx.PutVisit(lost)) })
	}
	look := line.Visit{ID: id(), LineID: c.line.ID, MakeID: m.ID, At: seam.Add(after), Found: line.Found{Finding: finding}}
	look.Catches = []line.Catch{{ID: id(), Species: "coyote", Sex: "male"}}
	c.do(func(tx *Tx) error { return second(tx.PutVisit(look)) })
	c.do(func(tx *Tx) error {
		return second(tx.PutPull(line.Pull{ID: id(), LineID: c.line.ID, MakeID: c.makes[0].ID, At: seam.Add(after)}))
	})
	c.build(1, seam.Add(after), 1)
	c.build(2, seam.Add(5*24*time.Hour), 2) // the season after goes on

	var seasons line.Seasons
	if err := c.s.Read(t.Context(), func(v View) (err error) { seasons, err = v.Seasons(c.line.ID); return err }); err != nil {
		t.Fatal(err)
	}
	if len(seasons) != 2 {
		t.Fatalf("%s: %d seasons: %+v", name, len(seasons), seasons)
	}
	of := func(span tally.Span) (b book.Book) {
		b, err := book.Of(c.read(span), animal.Reference)
		if err != nil {
			t.Fatal(err)
		}
		if len(b.Odd) > 0 {
			t.Errorf("%s: odd: %+v", name, b.Odd)
		}
		return b
	}
	whole := of(tally.Span{})
	before, then := of(seasons.Span(seasons[0].ID, zone)), of(seasons.Span(seasons[1].ID, zone))
	want := [2]int{1, 0}
	if after >= 0 {
		want = [2]int{0, 1}
	}
	if got := [2]int{before.Total.Catches, then.Total.Catches}; got != want || whole.Total.Catches != 1 || len(whole.Catches) != 1 {
		t.Errorf("%s: caught %v, want %v; %d in all", name, got, want, whole.Total.Catches)
	}
	if nights := before.Total.TrapNights + then.Total.TrapNights; nights != whole.Total.TrapNights {
		t.Errorf("%s: %g trap-nights and %g, %g in all", name, before.Total.TrapNights, then.Total.TrapNights, whole.Total.TrapNights)
	}
}

// A trap that a look of an earlier season found gone is gone, as long as that look stands and no later one does that stands.
func TestGoneInASeasonBefore(t *testing.T) {
	c := newScene(t)
	m := c.build(0, noon.AddDate(-1, 0, 0), 0)
	gone := func() (traps int) {
		err := c.s.Read(t.Context(), func(v View) error {
			found, err := v.GoneBefore(c.line.ID, noon)
			traps = len(found)
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
		return traps
	}
	look := func(finding line.Finding, days int) string {
		x := line.Visit{ID: id(), LineID: c.line.ID, MakeID: m.ID, At: m.BuiltAt.AddDate(0, 0, days), Found: line.Found{Finding: finding}}
		c.do(func(tx *Tx) error { return second(tx.PutVisit(x)) })
		return x.ID
	}
	undo := func(look string) {
		c.do(func(tx *Tx) error { return second(tx.UndoVisit(c.line.ID, look, noon)) })
	}
	says := func(when string, want int) {
		t.Helper()
		if got := gone(); got != want {
			t.Errorf("%s: %d traps are gone, want %d", when, got, want)
		}
	}
	says("before any look", 0)
	first := look("gone", 3)
	says("found gone", 1)
	later := look("found", 5)
	says("found again", 0)
	undo(later)
	says("and that taken back", 1)
	undo(first)
	says("nothing stands of it", 0)
}
