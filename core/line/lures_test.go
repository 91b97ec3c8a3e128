package line

import (
	"slices"
	"testing"
	"time"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/odds"
	"oldburrow/core/tally"
)

// Sign ages between the day that it was seen and the day asked about; the best that counts is told, of that animal alone. Ground that holds
// a track and shows none says none, for a week, and only where there is no sign.
func TestSignNear(t *testing.T) {
	now := day(20, 6)
	seen := func(animal string, age SignAge, daysAgo int) Sign {
		return Sign{What: "tracks", Animal: animal, Age: age, Holds: "well", SeenAt: now.AddDate(0, 0, -daysAgo)}
	}
	none := func(holds WouldHold, daysAgo int) Sign {
		return Sign{What: "none", Animal: Unsure, Age: "last_night", Holds: holds, SeenAt: now.AddDate(0, 0, -daysAgo)}
	}
	deleted := seen("coyote", "last_night", 0)
	deleted.Deleted = true
	for _, c := range []struct {
		name  string
		signs []Sign
		want  odds.Age
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
		{"of an age that nobody said", []Sign{seen("coyote", "", 3)}, "no_age"},
		{"of no age, seen longer ago than a week", []Sign{seen("coyote", "", 8)}, "older"},
		{"of no age, beside one of the week", []Sign{seen("coyote", "", 1), seen("coyote", "week", 1)}, "days_7"},
		{"of no age, beside an old one", []Sign{seen("coyote", "older", 1), seen("coyote", "", 1)}, "no_age"},
		{"of an age that is not known", []Sign{seen("coyote", "a_month", 3)}, "no_age"},
		{"of tomorrow", []Sign{seen("coyote", "last_night", -1)}, ""},
	} {
		if got, _ := SignNear(c.signs, "coyote", func(Sign) bool { return true }, now); got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
	if got, n := SignNear([]Sign{seen("coyote", "last_night", 0)}, "coyote", func(Sign) bool { return false }, now); got != "" || n != 0 {
		t.Errorf("somewhere else: %q", got)
	}
}

// A lure is new where it was not set, met where it was set thrice or for thirty nights, and between that nothing is said.
func TestLureAt(t *testing.T) {
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
		want string
	}{
		{"never set", at(day(20, 9)), "new"},
		{"set elsewhere", at(day(20, 9), built("a", "there", "fence", 1, 5)), "new"},
		{"set once", at(day(20, 9), built("a", "here", "fence", 1, 5)), ""},
		{"another was set", at(day(20, 9), built("a", "here", "gland", 1, 5)), "new"},
		{"thrice, at two sets", at(day(20, 9), built("a", "here", "fence", 1, 3), built("b", "here", "fence", 4, 6), built("c", "beside", "fence", 7, 9)), "met"},
		{"thirty nights", at(day(1, 9).AddDate(0, 0, 30), built("a", "here", "fence", 1, 0)), "met"},
		{"not quite", at(day(1, 9).AddDate(0, 0, 29), built("a", "here", "fence", 1, 0)), ""},
	} {
		if got := c.rec.LureAt("here", "fence"); got != c.want {
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
	for _, s := range rec.Came(Spot{ID: "here"}) {
		came[s.Animal] = s.SeenAt.Day()
	}
	if len(came) != 3 || came["badger"] != 3 || came["raccoon"] != 4 || came["dog"] != 4 {
		t.Errorf("%v", came)
	}
}

// A set has caught an animal when any of its makes has: another animal settles nothing, and what was taken back is no catch.
func TestHasCaught(t *testing.T) {
	makes := []Make{{ID: "a", SetID: "set", Layout: oneTrap, BuiltAt: day(1, 9)}, {ID: "b", SetID: "set", Layout: oneTrap, BuiltAt: day(5, 9)}}
	look := Visit{ID: "v", MakeID: "a", At: day(3, 7), Found: Found{Finding: "catch"}, Catches: []Catch{{ID: "c", Species: "coyote"}}}
	of := func(looks ...Visit) Record {
		return NewRecord(day(9, 9), day(1, 0).Location(), tally.Span{}, Noted{Sets: []Set{{ID: "set", Number: 1}}, Makes: makes, Visits: looks})
	}
	undone := look
	undone.UndoneAt = new(day(3, 8))
	if !of(look).HasCaught("set", "coyote") || of(look).HasCaught("set", "raccoon") || of().HasCaught("set", "coyote") || of(look).HasCaught("other", "coyote") || of(undone).HasCaught("set", "coyote") {
		t.Error("who has caught")
	}
}

// A set was robbed when a look at any of its makes found it so, first or beside something else, and was not taken back.
func TestWasRobbed(t *testing.T) {
	makes := []Make{{ID: "a", SetID: "set", Layout: oneTrap, BuiltAt: day(1, 9)}}
	of := func(look Visit) bool {
		look.ID, look.MakeID, look.At = "v", "a", day(3, 7)
		return NewRecord(day(9, 9), day(1, 0).Location(), tally.Span{}, Noted{Sets: []Set{{ID: "set", Number: 1}}, Makes: makes, Visits: []Visit{look}}).WasRobbed("set")
	}
	robbed := Found{Finding: "robbed"}
	if !of(Visit{Found: robbed}) || !of(Visit{Found: Found{Finding: "catch"}, Also: []Found{robbed}}) {
		t.Error("a robbed set was not")
	}
	if of(Visit{Found: Found{Finding: "worked"}}) || of(Visit{Found: robbed, UndoneAt: new(day(3, 8))}) {
		t.Error("a set was robbed that was not, or of which that was taken back")
	}
}

// Signs are counted apart by their day and by how far apart they lie, those of the last thirty days alone.
func TestSignsAreCountedApart(t *testing.T) {
	now := day(28, 20)
	seen := func(daysAgo int, northM float64) Sign {
		return Sign{What: "tracks", Animal: "coyote", Age: "last_night", SeenAt: now.AddDate(0, 0, -daysAgo), LatDeg: 46.8 + northM/ground.MetresPerDegree, LonDeg: -105.3}
	}
	other := seen(3, 0)
	other.Animal = "bobcat"
	for _, c := range []struct {
		name  string
		signs []Sign
		want  int
	}{
		{"one", []Sign{seen(1, 0)}, 1},
		{"twice the same", []Sign{seen(1, 0), seen(1, 40)}, 1},
		{"well apart on one day", []Sign{seen(1, 0), seen(1, 60)}, 2},
		{"on two days at one place", []Sign{seen(1, 0), seen(2, 0)}, 2},
		{"another animal's", []Sign{seen(1, 0), other}, 1},
		{"one of long ago", []Sign{seen(1, 0), seen(31, 0)}, 1},
		{"all of long ago", []Sign{seen(31, 0), seen(40, 0)}, 1},
		{"none", nil, 0},
		{"four", []Sign{seen(1, 0), seen(2, 0), seen(3, 0), seen(3, 80)}, 4},
	} {
		if _, got := SignNear(c.signs, "coyote", func(Sign) bool { return true }, now); got != c.want {
			t.Errorf("%s: %d, want %d", c.name, got, c.want)
		}
	}
}

// A spot has met a kind of set often after three makes or thirty nights of it there, whoever built them; the make that is asked about does not
// count.
func TestKindsMet(t *testing.T) {
	hole, post := oneTrap, oneTrap
	hole.Kind, post.Kind = "dirt_hole", "scent_post"
	built := func(id, set string, l layout.Layout, on int) Make {
		return Make{ID: id, SetID: set, Layout: l, BuiltAt: day(on, 9)}
	}
	of := func(met []Met, butMake string, makes ...Make) []layout.Kind {
		var but *Make
		for _, m := range makes {
			if m.ID == butMake {
				but = &m
			}
		}
		rec := NewRecord(day(20, 9), day(1, 0).Location(), tally.Span{From: day(1, 0)}, Noted{
			Sets: []Set{{ID: "a", SpotID: "here", Number: 1}, {ID: "b", SpotID: "there", Number: 2}, {ID: "c", SpotID: "here", Number: 3}}, Makes: makes,
		})
		return rec.KindsMet(Spot{ID: "here", Met: met}, but)
	}
	theirs := func(kind layout.Kind, on string) Met { return Met{What: "others_set", Kind: kind, On: on} }
	three := []Make{built("x", "a", hole, 1), built("y", "a", hole, 4), built("z", "c", hole, 5)}
	for name, c := range map[string]struct{ got, want []layout.Kind }{
		"two":                    {of(nil, "", three[:2]...), []layout.Kind{}},
		"three":                  {of(nil, "", three...), []layout.Kind{"dirt_hole"}},
		"three with this one":    {of(nil, "z", three...), []layout.Kind{}},
		"of another kind":        {of(nil, "", three[0], three[1], built("w", "c", post, 5)), []layout.Kind{}},
		"elsewhere":              {of(nil, "", three[0], three[1], built("w", "b", hole, 5)), []layout.Kind{}},
		"two and somebody's":     {of([]Met{theirs("dirt_hole", "")}, "", three[:2]...), []layout.Kind{"dirt_hole"}},
		"somebody's, years ago":  {of([]Met{theirs("dirt_hole", "2019-11-10")}, "", three[:2]...), []layout.Kind{}},
		"somebody's of any kind": {of([]Met{theirs("", "")}, "", three[:2]...), []layout.Kind{}},
	} {
		if !slices.Equal(c.got, c.want) {
			t.Errorf("%s: %v, want %v", name, c.got, c.want)
		}
	}
	long := NewRecord(day(1, 9).AddDate(0, 0, 30), day(1, 0).Location(), tally.Span{}, Noted{Sets: []Set{{ID: "a", SpotID: "here"}}, Makes: []Make{built("x", "a", post, 1)}})
	if got := long.KindsMet(Spot{ID: "here"}, nil); !slices.Equal(got, []layout.Kind{"scent_post"}) {
		t.Errorf("thirty nights of one: %v", got)
	}
}

// The heaviest about is of those that the line is set for and of the wild ones that were near; a dog is not, and what was far off is not.
func TestTheHeaviestAbout(t *testing.T) {
	here := Spot{ID: "here", LatDeg: 46.8, LonDeg: -105.3}
	far := Spot{ID: "far", LatDeg: 46.8 + 805/ground.MetresPerDegree, LonDeg: -105.3}
	makes := []Make{{ID: "a", SetID: "set", Target: "red_fox", Layout: oneTrap, BuiltAt: day(1, 9)}, {ID: "b", SetID: "off", Target: "red_fox", Layout: oneTrap, BuiltAt: day(1, 9)}}
	held := func(makeID, species string) Visit {
		return Visit{ID: makeID + species, MakeID: makeID, At: day(3, 7), Found: Found{Finding: "catch"}, Catches: []Catch{{ID: "c" + species, Species: species}}}
	}
	about := func(signs []Sign, looks ...Visit) string {
		rec := NewRecord(day(9, 9), day(1, 0).Location(), tally.Span{}, Noted{
			Sets: []Set{{ID: "set", SpotID: "here", Number: 1}, {ID: "off", SpotID: "far", Number: 2}}, Makes: makes, Visits: looks,
		})
		return Heaviest(animals, rec.Targets(), Sighted(signs).With(rec.Sighted()).Near(here.PlaceOf(oneTrap), []Spot{here, far})).Key
	}
	sign := func(animal string, s Spot) Sign {
		return Sign{What: "tracks", Animal: animal, LatDeg: s.LatDeg, LonDeg: s.LonDeg, SeenAt: day(2, 9)}
	}
	none := sign("coyote", here)
	none.What = "none"
	for _, c := range []struct{ name, got, want string }{
		{"nobody but the target", about(nil), "red_fox"},
		{"a badger's sign", about([]Sign{sign("badger", here)}), "badger"},
		{"a coyote's sign, and a dog's", about([]Sign{sign("coyote", here), sign("dog", here), sign("badger", here)}), "coyote"},
		{"a coyote's sign far off", about([]Sign{sign("coyote", far)}), "red_fox"},
		{"a coyote's sign half a mile off", about([]Sign{sign("coyote", Spot{LatDeg: 46.8 + 795/ground.MetresPerDegree, LonDeg: -105.3})}), "coyote"},
		{"no sign of a coyote", about([]Sign{none}), "red_fox"},
		{"a bobcat caught here", about(nil, held("a", "bobcat")), "bobcat"},
		{"a bobcat caught far off", about(nil, held("b", "bobcat")), "red_fox"},
	} {
		if c.got != c.want {
			t.Errorf("%s: %s, want %s", c.name, c.got, c.want)
		}
	}
	if got := Heaviest(animals, nil, []string{"dog"}); got.Key != "" {
		t.Errorf("a dog is the heaviest: %s", got.Key)
	}
}
