package line

import (
	"encoding/json"
	"errors"
	"os"
	"slices"
	"testing"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/refuse"
	"oldburrow/core/tally"
)

// What cannot be so is doubted for what it is, and nothing else; the browser is held to the same cases.
func TestDoubts(t *testing.T) {
	raw, err := os.ReadFile("../testdata/doubts.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Look  Visit
		Slots []int
		Away  bool
		Doubt string
	}
	if err := json.Unmarshal(raw, &cases); err != nil {
		t.Fatal(err)
	}
	for _, c := range cases {
		made := Make{ID: "M", SetID: "S", BuiltAt: day(1, 6)}
		for _, slot := range c.Slots {
			made.Layout.Rigs = append(made.Layout.Rigs, layout.Rig{Slot: slot})
		}
		look := c.Look
		look.ID, look.MakeID, look.At = "V", "M", day(3, 6)
		noted := Noted{Makes: []Make{made}, Visits: []Visit{look}}
		if c.Away {
			noted.Visits = append(noted.Visits, Visit{ID: "G", MakeID: "M", At: day(2, 6), Found: Found{Finding: "gone"}})
		}
		r := NewRecord(day(4, 6), time.UTC, tally.Span{}, noted)
		why := ""
		if len(r.Odd) > 0 {
			why = string(r.Odd[0].Why)
		} else if look.StrangeTraps(made) != "" {
			why = "strange"
		}
		if why != c.Doubt {
			t.Errorf("%+v of %v: %q, want %q", c.Look, c.Slots, why, c.Doubt)
		}
	}
}

// A catch in a trap that the set does not have is in none of its traps, and the set wants to be remade all the same.
func TestACatchInAStrangeTrap(t *testing.T) {
	made := Make{ID: "M", SetID: "S", BuiltAt: day(1, 6), Layout: layout.Layout{Rigs: []layout.Rig{{Slot: 0}, {Slot: 1}}}}
	look := Visit{ID: "V", MakeID: "M", At: day(3, 6), Found: Found{Finding: "catch"}, Catches: []Catch{{ID: "C", Rigs: []int{7}}}}
	r := NewRecord(day(3, 7), time.UTC, tally.Span{}, Noted{Makes: []Make{made}, Visits: []Visit{look}})
	if bead := r.Bead(made); bead.State != Open || len(r.Looks("M")) != 1 {
		t.Errorf("%+v", bead)
	}
	for _, slot := range []int{0, 1} {
		if found := look.FoundAt(slot); found != "quiet" {
			t.Errorf("trap %d: %s", slot, found)
		}
	}
	if nights := r.TrapNights(made); nights != 4 {
		t.Errorf("%g trap-nights", nights)
	}
}

// What answers a set without counting is the newest that came since its last look that counts, at the time when somebody was there; a phone
// that is years ahead puts no look off.
func TestWhatAnswersWithoutCounting(t *testing.T) {
	made := Make{ID: "M", SetID: "S", BuiltAt: day(1, 6), Layout: layout.Layout{Rigs: []layout.Rig{{Slot: 0}}}}
	ahead := func(id string, at, received time.Time) Visit {
		return Visit{ID: id, MakeID: "M", At: at, ReceivedAt: &received, Found: Found{Finding: "quiet"}}
	}
	contrary := func(id string, at time.Time) Visit {
		return Visit{ID: id, MakeID: "M", At: at, Found: Found{Finding: "quiet"}, Rigs: []RigFound{{0, "holding"}}}
	}
	counts := func(id string, at time.Time) Visit {
		return Visit{ID: id, MakeID: "M", At: at, Found: Found{Finding: "quiet"}}
	}
	now := day(3, 6)
	for name, c := range map[string]struct {
		looks []Visit
		want  string
		due   time.Time
	}{
		"none":                       {[]Visit{counts("A", day(2, 6))}, "", day(4, 0)},
		"ahead by the phone":         {[]Visit{ahead("A", day(3, 9), day(3, 6))}, "A", day(5, 0)},
		"typed ahead":                {[]Visit{counts("A", day(3, 9))}, "", day(3, 0)},
		"years ahead":                {[]Visit{ahead("A", day(3, 6).AddDate(3, 0, 0), day(2, 6))}, "A", day(4, 0)},
		"sent late":                  {[]Visit{ahead("A", day(3, 7), day(9, 6))}, "A", day(5, 0)},
		"the newest of two":          {[]Visit{contrary("A", day(2, 6)), contrary("B", day(3, 5)), contrary("C", day(2, 8))}, "B", day(5, 0)},
		"looked at again since":      {[]Visit{contrary("A", day(2, 6)), counts("B", day(2, 8))}, "", day(4, 0)},
		"at the same time as it":     {[]Visit{contrary("A", day(2, 8)), counts("B", day(2, 8))}, "", day(4, 0)},
		"not found while sought":     {[]Visit{{ID: "G", MakeID: "M", At: day(2, 6), Found: Found{Finding: "gone"}}, ahead("A", day(3, 9), day(3, 6))}, "A", day(5, 0)},
		"and still gone by the look": {[]Visit{{ID: "G", MakeID: "M", At: day(2, 6), Found: Found{Finding: "gone"}}, {ID: "A", MakeID: "M", At: day(3, 9), ReceivedAt: &now, Found: Found{Finding: "gone"}}}, "A", day(2, 6)},
	} {
		r := NewRecord(now, now.Location(), tally.Span{}, Noted{Makes: []Make{made}, Visits: c.looks})
		got := ""
		if u := r.Uncounted(made); u != nil {
			got = u.Visit.ID
		}
		if bead := r.Bead(made); got != c.want || !bead.Due.Equal(c.due) {
			t.Errorf("%s: %q answers, due %v; want %q, %v", name, got, bead.Due, c.want, c.due)
		}
	}
}

// A trap that was found is sought no more: found a second time it was not gone.
func TestFoundTwice(t *testing.T) {
	made := Make{ID: "M", SetID: "S", BuiltAt: day(1, 6), Layout: layout.Layout{Rigs: []layout.Rig{{Slot: 0}}}}
	look := func(id string, finding Finding, at time.Time) Visit {
		return Visit{ID: id, MakeID: "M", At: at, Found: Found{Finding: finding}}
	}
	r := NewRecord(day(9, 6), time.UTC, tally.Span{}, Noted{Makes: []Make{made}, Visits: []Visit{
		look("D", "found", day(5, 6)), look("A", "gone", day(2, 6)), look("B", "quiet", day(3, 6)), look("C", "found", day(4, 6)),
	}})
	if len(r.Odd) != 1 || r.Odd[0].ID != "D" || r.Odd[0].Why != WhyFound || len(r.Visits) != 3 {
		t.Errorf("%+v", r.Odd)
	}
}

// The open season is the one that the local day lies in, from its first day on, else the last that has begun.
func TestTheOpenSeason(t *testing.T) {
	zone := day(1, 0).Location()
	seasons := Seasons{{ID: "a", From: "2026-07-01", To: "2027-03-01"}, {ID: "b", From: "2027-07-01", To: "2028-03-01"}}
	for text, want := range map[string]string{"2026-06-30": "", "2026-07-01": "a", "2027-05-05": "a", "2027-06-30": "a", "2027-07-01": "b", "2099-01-01": "b"} {
		at, err := time.ParseInLocation(time.DateOnly, text, zone)
		if err != nil {
			t.Fatal(err)
		}
		if got, ok := seasons.Open(at, zone); got.ID != want || ok != (want != "") {
			t.Errorf("on %s %q is open, want %q", text, got.ID, want)
		}
	}
	if x, ok := seasons.Before("b"); !ok || x.ID != "a" {
		t.Errorf("before b: %+v", x)
	}
	for _, id := range []string{"a", "z", ""} {
		if x, ok := seasons.Before(id); ok {
			t.Errorf("before %q: %+v", id, x)
		}
	}
}

// What a look lacks is asked for at its field; the browser is held to the same cases.
func TestWhatALookLacks(t *testing.T) {
	raw, err := os.ReadFile("../testdata/missing.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Look   Visit
		Fields []string
	}
	if err := json.Unmarshal(raw, &cases); err != nil {
		t.Fatal(err)
	}
	const id = "01K8V7Z8R5Q6T9W3X1Y2Z4A5B6"
	for _, c := range cases {
		look := c.Look
		look.ID, look.MakeID, look.At = id, id, day(3, 6)
		for i := range look.Catches {
			look.Catches[i].ID = id
		}
		lacks := []string{}
		var problems refuse.Problems
		if errors.As(look.Check(animals), &problems) {
			for _, p := range problems {
				lacks = append(lacks, p.Field)
			}
		}
		if !slices.Equal(lacks, c.Fields) {
			t.Errorf("%+v lacks %v, want %v", c.Look, lacks, c.Fields)
		}
	}
}
