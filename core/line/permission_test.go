package line

import (
	"testing"

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
