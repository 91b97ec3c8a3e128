package line

import (
	"encoding/json"
	"reflect"
	"slices"
	"testing"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/tally"
)

// Of what was noted a span has what stood in it, its looks and pulls, and those from outside at what stood over its ends; what was counted there
// counts the same whether it is all that is known or not.
func TestWithinASpan(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 10, n, 15, 0, 0, 0, time.UTC) }
	built := func(id, set string, on int) Make {
		return Make{ID: id, SetID: set, BuiltAt: day(on), Layout: layout.Layout{Schema: layout.Schema}}
	}
	look := func(id, of string, on int) Visit {
		return Visit{ID: id, MakeID: of, At: day(on), Found: Found{Finding: "quiet"}, Catches: []Catch{}}
	}
	n := Noted{
		Sets:  []Set{{ID: "over", Number: 1}, {ID: "gone", Number: 2}, {ID: "in", Number: 3}, {ID: "later", Number: 4}},
		Makes: []Make{built("O", "over", 1), built("G", "gone", 1), built("I", "in", 12), built("L", "later", 25)},
		Pulls: []Pull{{ID: "pg", MakeID: "G", At: day(5)}, {ID: "pi", MakeID: "I", At: day(18)}, {ID: "po", MakeID: "O", At: day(28)}, {ID: "late", MakeID: "G", At: day(13)}},
		Visits: []Visit{look("o1", "O", 3), look("o2", "O", 14), look("o3", "O", 24), look("g1", "G", 3), look("i1", "I", 14), look("l1", "L", 26),
			{ID: "lost", MakeID: "O", At: time.Date(1970, 1, 1, 0, 0, 0, 0, time.UTC), Catches: []Catch{}}},
	}
	span := tally.Span{From: day(10), Until: day(20)}
	in := n.Within(span)
	var ids []string
	for _, m := range in.Makes {
		ids = append(ids, m.ID)
	}
	for _, v := range in.Visits {
		ids = append(ids, v.ID)
	}
	for _, p := range in.Pulls {
		ids = append(ids, p.ID)
	}
	for _, s := range in.Sets {
		ids = append(ids, s.ID)
	}
	if want := []string{"O", "I", "o1", "o2", "o3", "i1", "lost", "pi", "late", "over", "gone", "in"}; !slices.Equal(ids, want) {
		t.Errorf("within are %v, want %v", ids, want)
	}
	if !in.Ends["O"].Equal(day(28)) || len(in.Ends) != 1 || in.Others["G"].SetID != "gone" || len(in.Others) != 1 {
		t.Errorf("ended %v, others %v", in.Ends, in.Others)
	}
	// Once more, of what was taken along, it is the same.
	if again := in.Within(span); !reflect.DeepEqual(again.Visits, in.Visits) || !reflect.DeepEqual(again.Makes, in.Makes) || !reflect.DeepEqual(again.Others, in.Others) {
		t.Errorf("again: %+v", again)
	}
	raw, err := json.Marshal(in)
	var read Noted
	if err != nil || json.Unmarshal(raw, &read) != nil || !reflect.DeepEqual(read.Others, in.Others) || len(read.Visits) != len(in.Visits) {
		t.Errorf("read again: %v, %v", err, read.Others)
	}
	// One without an end also tells what bears a time that cannot be, and only that.
	open := n.Within(tally.Span{From: day(22)})
	ids = nil
	for _, v := range open.Visits {
		ids = append(ids, v.ID)
	}
	if want := []string{"o1", "o2", "o3", "l1", "lost"}; !slices.Equal(ids, want) {
		t.Errorf("from then on are %v, want %v", ids, want)
	}
	for _, made := range []string{"O", "I"} {
		all, part := NewRecord(day(29), time.UTC, span, n), NewRecord(day(29), time.UTC, span, in)
		a, _ := all.NewestMake(map[string]string{"O": "over", "I": "in"}[made])
		b, _ := part.NewestMake(map[string]string{"O": "over", "I": "in"}[made])
		if all.TrapNights(a) != part.TrapNights(b) || len(all.Looks(made)) != len(part.Looks(made)) {
			t.Errorf("%s: %g trap-nights of all, %g of the span", made, all.TrapNights(a), part.TrapNights(b))
		}
	}
}
