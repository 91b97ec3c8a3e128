package line

import (
	"fmt"
	"reflect"
	"testing"
	"time"

	"oldburrow/core/tally"
)

// A device's clock is a minute ahead of the program's: its look counts at once, whatever the hour, on days of 23, 24 ½ and 25 hours too; and when
// the program's clock has come there the record says what it said. A look far ahead, as after a clock that was set back, is told as odd and
// counts nothing until its time has come; then it counts as if nothing had been.
func TestALookOneMinuteAhead(t *testing.T) {
	for name, turn := range map[string]string{"America/Denver": "2026-11-01", "Asia/Kathmandu": "2026-11-20", "Pacific/Auckland": "2026-09-27", "Australia/Lord_Howe": "2026-04-05"} {
		zone, err := time.LoadLocation(name)
		if err != nil {
			t.Fatal(err)
		}
		day, err := time.ParseInLocation(time.DateOnly, turn, zone)
		if err != nil {
			t.Fatal(err)
		}
		for now := day.Add(-13 * time.Hour); now.Before(day.Add(40 * time.Hour)); now = now.Add(30 * time.Minute) {
			for _, finding := range []Finding{FoundPassed, FoundLocked, FoundDug, FoundCatch, FoundTaken} {
				m := Make{ID: "m", SetID: "s", Layout: oneTrap, BuiltAt: now.Add(-50 * time.Hour)}
				look := func(at time.Time) []Visit {
					return []Visit{{ID: "v", MakeID: "m", At: at, Found: Found{Finding: finding}}}
				}
				record := func(now time.Time, visits []Visit) Record {
					return NewRecord(now, zone, tally.Span{}, Noted{Sets: []Set{{ID: "s", Number: 1}}, Makes: []Make{m}, Visits: visits})
				}
				says := func(r Record) string {
					bead := r.Bead(r.Makes[0])
					return fmt.Sprint(bead.State, bead.Nights, bead.Last.UTC(), bead.Due, bead.Late, r.TrapNights(r.Makes[0]), r.Halved(r.Makes[0]), len(r.Visits), r.Odd)
				}
				at := now.Add(time.Minute)
				ahead, there := record(now, look(at)), record(at, look(at))
				if len(ahead.Visits) != 1 || len(ahead.Odd) != 0 || says(ahead) != says(there) {
					t.Fatalf("%s at %s, %s: a minute ahead %s, when it is there %s", name, now, finding, says(ahead), says(there))
				}
				if bead := ahead.Bead(m); !bead.Last.Equal(at) || bead.Due != nil && !bead.Due.After(at) || ahead.TrapNights(m) < 0 {
					t.Fatalf("%s at %s, %s: %+v, %g trap-nights", name, now, finding, bead, ahead.TrapNights(m))
				}
				far := now.Add(Ahead + time.Second)
				early, none, late := record(now, look(far)), record(now, nil), record(far, look(far))
				if len(early.Odd) != 1 || early.Odd[0].Why != WhyAhead || early.Odd[0].Number != 1 || len(early.Visits) != 0 || !reflect.DeepEqual(early.Bead(m).Last, none.Bead(m).Last) || early.TrapNights(m) != none.TrapNights(m) {
					t.Fatalf("%s at %s: far ahead it says %s, without it %s", name, now, says(early), says(none))
				}
				if len(late.Odd) != 0 || len(late.Visits) != 1 || !late.Bead(m).Last.Equal(far) {
					t.Fatalf("%s at %s: when it is there %s", name, now, says(late))
				}
			}
		}
	}
}
