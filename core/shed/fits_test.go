package shed

import (
	"testing"

	"oldburrow/core/layout"
	"oldburrow/core/line"
)

// What fits in a trap's place is free, sound, of its kind, no larger than the bed, and measured within the set's window or never; by number.
func TestWhatFitsInATrapsPlace(t *testing.T) {
	r := record(t)
	bed := r.Makes[1].Layout.Rigs[0]
	room := 2 * bed.Bed.MarginMm
	r.Traps = []line.Trap{
		trap(1, nil), trap(5, nil), trap(3, nil),
		trap(2, func(x *line.Trap) { x.Away = "lent" }),
		trap(4, func(x *line.Trap) { x.FrameLengthMm = bed.Jaws.FrameMm + room + 1 }),
		trap(6, func(x *line.Trap) { x.FrameLengthMm = bed.Jaws.FrameMm + room }),
		trap(7, func(x *line.Trap) { x.Type = "long_spring" }),
		trap(8, nil), trap(9, func(x *line.Trap) { x.JawSpreadMm = bed.Jaws.SpreadMm + room + 1 }),
	}
	r.Measurements = []line.Measurement{measured("trap5", day(3), 0, 20, 20, 20), measured("trap3", day(3), 0, 2, 2, 2)}
	r.Checks = []line.ShedCheck{{ID: "c", TrapID: "trap8", At: day(3), Items: []line.CheckItem{{Key: "dog"}}}}
	numbers := func(slot int) (found []int) {
		traps, err := r.record().FitsIn(r.Makes[1], slot)
		if err != nil {
			t.Fatal(err)
		}
		for _, h := range traps {
			found = append(found, h.Trap.Number)
			if want := map[int]string{5: "inside", 6: "unmeasured"}[h.Trap.Number]; string(h.Verdict) != want || h.Wanted.Targets[0] != "coyote" {
				t.Errorf("trap %d is %s for %v", h.Trap.Number, h.Verdict, h.Wanted.Targets)
			}
		}
		return found
	}
	if got := numbers(0); len(got) != 2 || got[0] != 5 || got[1] != 6 {
		t.Errorf("they fit: %v", got)
	}
	if got := numbers(3); len(got) != 0 {
		t.Errorf("where no trap is there fit %v", got)
	}
	r.Makes[1].Target = "yeti"
	if got := numbers(0); len(got) != 0 {
		t.Errorf("of an animal that is not known: %v", got)
	}
}

// Where it rains the kit has dry peat for what stands, a bailer, and salt where that freezes; what thawed is to be fetched.
func TestKitForRainAndThaw(t *testing.T) {
	r := record(t)
	dry, rain, cold := 1.9, 2.0, -1.0
	for name, o := range map[string]Outside{"dry": {RainMm: &dry, ColdestC: &cold}, "nobody knows": {ColdestC: &cold}} {
		found := kit(t, r, nil, o)
		for _, key := range []string{"bailer", "salt"} {
			if _, there := found[key]; there {
				t.Errorf("%s: %s is packed", name, key)
			}
		}
	}
	for _, set := range []string{"a", "b", "c", "d", "e", "f", "g"} { // eight sets to look at: two litres more
		r.Makes = append(r.Makes, line.Make{ID: set, SetID: set, Target: "coyote", Layout: layoutFor(t, "coyote", ""), BuiltAt: day(1)})
	}
	wet := kit(t, r, nil, Outside{RainMm: &rain, ColdestC: &cold})
	plain := kit(t, r, nil, Outside{})
	if wet["bailer"].Group != Tools || wet["salt"].Group != Parts || wet["peat"].Litres != plain["peat"].Litres+2 {
		t.Errorf("for rain and frost: %+v, %+v, %+v", wet["bailer"], wet["salt"], wet["peat"])
	}
	if _, there := kit(t, r, nil, Outside{RainMm: &rain})["salt"]; there {
		t.Error("salt for a warm rain")
	}
	in := line.StillIn{MakeID: "m", Slot: 1, TrapID: "trap2", SpotID: "gate", Trap: line.TrapFrozenIn, Anchor: line.AnchorFrozen, Kind: layout.Stake, LengthMm: 600}
	left := in
	left.Slot, left.Trap, left.Anchor = 0, line.TrapHome, line.AnchorLeft
	found := kit(t, r, nil, Outside{Thawed: []line.StillIn{in, left}})
	if x := found["fetch trap 2 of m"]; x.Group != Fetch || x.TrapID != "trap2" || x.SpotID != "gate" {
		t.Errorf("the trap: %+v", x)
	}
	if x := found["fetch anchor 2 of m"]; x.Group != Fetch || x.What != "stake" || x.LengthMm != 600 {
		t.Errorf("its stake: %+v", x)
	}
	if _, there := found["fetch anchor 1 of m"]; there {
		t.Error("what was left on purpose is to be fetched")
	}
}

// A trap that was not home when its set was pulled is left or missing there, until it is in the hands again.
func TestWhereATrapIsThatWasLeft(t *testing.T) {
	r := record(t)
	at := func(x line.StillIn, checked ...line.ShedCheck) Place {
		r.Checks = checked
		rec := r.record()
		rec.StillIn = []line.StillIn{x}
		return rec.Where(trap(1, nil))
	}
	in := line.StillIn{SetID: "s1", Number: 1, SpotID: "gate", TrapID: "trap1", Trap: line.TrapFrozenIn, Since: day(4)}
	if p := at(in); p.Kind != Left || p.Number != 1 || p.SpotID != "gate" || !p.Since.Equal(day(4)) {
		t.Errorf("frozen in: %+v", p)
	}
	if p := at(in, line.ShedCheck{ID: "c", TrapID: "trap1", At: day(5), Items: []line.CheckItem{{Key: "dog", Sound: true}}}); p.Kind == Left {
		t.Errorf("checked since: %+v", p)
	}
	in.Trap = line.TrapLost
	if p := at(in); p.Kind != Missing {
		t.Errorf("lost: %+v", p)
	}
	in.Trap = line.TrapHome
	if p := at(in); p.Kind != InSet {
		t.Errorf("its anchor alone: %+v", p)
	}
}
