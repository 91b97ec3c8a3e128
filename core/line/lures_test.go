package line

import (
	"testing"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/tally"
)

// Sign ages between the day that it was seen and the day asked about; the best that counts is told, of that animal alone. Ground that holds
// a track and shows none says none, for a week, and only where there is no sign.
func TestSignNear(t *testing.T) {
	now := day(20, 6)
	seen := func(animal, age string, daysAgo int) Sign {
		return Sign{What: "tracks", Animal: animal, Age: age, Holds: "well", SeenAt: now.AddDate(0, 0, -daysAgo)}
	}
	none := func(holds string, daysAgo int) Sign {
		return Sign{What: "none", Animal: Unsure, Age: "last_night", Holds: holds, SeenAt: now.AddDate(0, 0, -daysAgo)}
	}
	deleted := seen("coyote", "last_night", 0)
	deleted.Deleted = true
	for _, c := range []struct {
		name  string
		signs []Sign
		want  string
	}{
		{"nobody looked", nil, ""},
		{"of today", []Sign{seen("coyote", "last_night", 0)}, "today"},
		{"of yesterday", []Sign{seen("coyote", "last_night", 1)}, "today"},
		{"of two days ago", []Sign{seen("coyote", "last_night", 2)}, "days_3"},
		{"two days old, seen two days ago", []Sign{seen("coyote", "three_days", 2)}, "days_7"},
		{"of three weeks ago", []Sign{seen("coyote", "last_night", 21)}, "older"},
		{"the best of several", []Sign{seen("coyote", "older", 0), seen("coyote", "last_night", 2), seen("coyote", "week", 0)}, "days_3"},
		{"of another", []Sign{seen("bobcat", "last_night", 0)}, ""},
		{"none where it would show", []Sign{none("well", 2)}, "none"},
		{"none a while ago", []Sign{none("well", 9)}, ""},
		{"none where it would not show", []Sign{none("poorly", 1)}, ""},
		{"sign goes before none", []Sign{none("well", 1), seen("coyote", "older", 3)}, "older"},
		{"taken off", []Sign{deleted}, ""},
		{"of tomorrow", []Sign{seen("coyote", "last_night", -1)}, ""},
	} {
		if got := SignNear(c.signs, "coyote", func(Sign) bool { return true }, now); got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
	if got := SignNear([]Sign{seen("coyote", "last_night", 0)}, "coyote", func(Sign) bool { return false }, now); got != "" {
		t.Errorf("somewhere else: %q", got)
	}
}

// A lure is new where it was not set, met where it was set thrice or for thirty nights, and between that nothing is said.
func TestLuresAt(t *testing.T) {
	built := func(id, set, lure string, on, pulled int) Make {
		l := oneTrap
		l.Attractors = []layout.Attractor{{Smells: []layout.Smell{{Kind: "lure", LureID: lure}}}}
		m := Make{ID: id, SetID: set, Layout: l, BuiltAt: day(on, 9)}
		if pulled > 0 {
			m.PulledAt = new(day(pulled, 9))
		}
		return m
	}
	at := func(now time.Time, makes ...Make) Record {
		pulls := []Pull{}
		for _, m := range makes {
			if m.PulledAt != nil {
				pulls = append(pulls, Pull{ID: "pull" + m.ID, MakeID: m.ID, At: *m.PulledAt})
			}
		}
		return NewRecord(now, day(1, 0).Location(), tally.Span{}, Noted{
			Sets: []Set{{ID: "here", SpotID: "here", Number: 1}, {ID: "beside", SpotID: "here", Number: 2}, {ID: "there", SpotID: "there", Number: 3}}, Makes: makes, Pulls: pulls,
		})
	}
	for _, c := range []struct {
		name string
		rec  Record
		ids  []string
		want string
	}{
		{"none named", at(day(20, 9)), nil, ""},
		{"never set", at(day(20, 9)), []string{"fence"}, "new"},
		{"set elsewhere", at(day(20, 9), built("a", "there", "fence", 1, 5)), []string{"fence"}, "new"},
		{"set once", at(day(20, 9), built("a", "here", "fence", 1, 5)), []string{"fence"}, ""},
		{"another was set", at(day(20, 9), built("a", "here", "gland", 1, 5)), []string{"fence"}, "new"},
		{"thrice, at two sets", at(day(20, 9), built("a", "here", "fence", 1, 3), built("b", "here", "fence", 4, 6), built("c", "beside", "fence", 7, 9)), []string{"fence"}, "met"},
		{"thirty nights", at(day(1, 9).AddDate(0, 0, 30), built("a", "here", "fence", 1, 0)), []string{"fence"}, "met"},
		{"not quite", at(day(1, 9).AddDate(0, 0, 29), built("a", "here", "fence", 1, 0)), []string{"fence"}, ""},
		{"the one that it knows", at(day(20, 9), built("a", "here", "fence", 1, 3), built("b", "here", "fence", 4, 6), built("c", "here", "fence", 7, 9)), []string{"gland", "fence"}, "met"},
	} {
		if got := c.rec.LuresAt("here", c.ids); got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

// What a look named or a trap held at any set of a spot came there on that day; what is unsure, was taken back, or came elsewhere did not.
func TestCame(t *testing.T) {
	makes := []Make{{ID: "a", SetID: "set", Layout: oneTrap, BuiltAt: day(1, 9)}, {ID: "b", SetID: "other", Layout: oneTrap, BuiltAt: day(1, 9)}}
	look := func(id, makeID, animal string, on int) Visit {
		return Visit{ID: id, MakeID: makeID, At: day(on, 7), Found: Found{Finding: "passed", Animal: animal}}
	}
	held := look("c", "a", "", 4)
	held.Finding, held.Catches, held.Also = "catch", []Catch{{ID: "c", Species: "raccoon"}}, []Found{{Finding: "passed", Animal: "dog"}}
	undone := look("u", "a", "skunk", 5)
	undone.UndoneAt = new(day(5, 8))
	rec := NewRecord(day(9, 9), day(1, 0).Location(), tally.Span{}, Noted{
		Sets:  []Set{{ID: "set", SpotID: "here", Number: 1}, {ID: "other", SpotID: "there", Number: 2}},
		Makes: makes, Visits: []Visit{look("v", "a", "badger", 3), look("w", "a", Unsure, 3), look("x", "b", "opossum", 3), held, undone},
	})
	came := map[string]int{}
	for _, s := range rec.Came("here") {
		came[s.Animal] = s.SeenAt.Day()
	}
	if len(came) != 3 || came["badger"] != 3 || came["raccoon"] != 4 || came["dog"] != 4 {
		t.Errorf("%v", came)
	}
}

// A set has caught when any of its makes has, and what was taken back is no catch.
func TestHasCaught(t *testing.T) {
	makes := []Make{{ID: "a", SetID: "set", Layout: oneTrap, BuiltAt: day(1, 9)}, {ID: "b", SetID: "set", Layout: oneTrap, BuiltAt: day(5, 9)}}
	look := Visit{ID: "v", MakeID: "a", At: day(3, 7), Found: Found{Finding: "catch"}, Catches: []Catch{{ID: "c", Species: "coyote"}}}
	of := func(looks ...Visit) Record {
		return NewRecord(day(9, 9), day(1, 0).Location(), tally.Span{}, Noted{Sets: []Set{{ID: "set", Number: 1}}, Makes: makes, Visits: looks})
	}
	undone := look
	undone.UndoneAt = new(day(3, 8))
	if !of(look).HasCaught("set") || of().HasCaught("set") || of(look).HasCaught("other") || of(undone).HasCaught("set") {
		t.Error("who has caught")
	}
}
