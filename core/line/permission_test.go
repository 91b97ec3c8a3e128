package line

import (
	"testing"
	"time"

	"oldburrow/core/tally"
)

// A permission is told of from seven days before its end, after it too, and as long as a set stands on its land.
func TestPermissionsThatEnd(t *testing.T) {
	spots := []Spot{{ID: "here", PropertyID: "mine"}, {ID: "there", PropertyID: "other"}}
	made := Make{ID: "a", SetID: "set", Layout: oneTrap, BuiltAt: day(1, 9)}
	of := func(on int, until string, pulls ...Pull) []Ending {
		rec := NewRecord(day(on, 9), day(1, 0).Location(), tally.Span{}, Noted{Sets: []Set{{ID: "set", SpotID: "here", Number: 1}}, Makes: []Make{made}, Pulls: pulls})
		return rec.Endings([]Property{{ID: "mine", Name: "Two Culverts", Until: until}, {ID: "other", Until: until}}, spots)
	}
	month := day(1, 9).Format("2006-01-")
	for _, c := range []struct {
		on         int
		told, over bool
	}{{12, false, false}, {13, true, false}, {20, true, false}, {21, true, true}} {
		found := of(c.on, month+"20")
		if (len(found) == 1) != c.told || c.told && (found[0].Over != c.over || found[0].PropertyID != "mine" || len(found[0].SetIDs) != 1) {
			t.Errorf("on the %d of the month: %+v", c.on, found)
		}
	}
	if found := of(21, month+"20", Pull{ID: "p", MakeID: "a", At: day(20, 9)}); len(found) != 0 {
		t.Errorf("when nothing stands there: %+v", found)
	}
	if found := of(21, ""); len(found) != 0 {
		t.Errorf("without an end: %+v", found)
	}
}

// The nights left end with the season or, where that comes before, with the permission; what is over leaves the night that comes; more than
// three weeks end with nothing.
func TestNightsLeft(t *testing.T) {
	rec := NewRecord(day(9, 9), day(1, 0).Location(), tally.Span{}, Noted{})
	on := func(n int) string { return day(n, 9).Format(time.DateOnly) }
	for _, c := range []struct {
		name, season, permission string
		nights                   int
		to                       string
	}{
		{"neither is known", "", "", 0, ""},
		{"today is the last", on(9), "", 1, "season"},
		{"five of the season", on(13), "", 5, "season"},
		{"the permission before", on(20), on(13), 5, "permission"},
		{"the season before", on(13), on(20), 5, "season"},
		{"both on one day", on(13), on(13), 5, "season"},
		{"the permission alone", "", on(13), 5, "permission"},
		{"a permission that is over", on(20), on(2), 1, "permission"},
		{"twenty", on(28), "", 20, "season"},
		{"three weeks", on(29), "", 21, ""},
		{"all winter", "2027-06-30", "", 21, ""},
	} {
		if nights, to := rec.NightsLeft(c.season, c.permission); nights != c.nights || to != c.to {
			t.Errorf("%s: %d to %q, want %d to %q", c.name, nights, to, c.nights, c.to)
		}
	}
}
