package line

import (
	"errors"
	"reflect"
	"testing"

	"oldburrow/core/layout"
	"oldburrow/core/refuse"
	"oldburrow/core/tally"
)

// pulledOf is a record of a set with two rigs that was pulled on the third, with what else was noted.
func pulledOf(pulls []Pull, more ...Make) Record {
	two := layout.Layout{
		Rigs:    []layout.Rig{{Slot: 0, TrapID: "one", AnchorSlot: 0}, {Slot: 1, TrapID: "two", AnchorSlot: 1}},
		Anchors: []layout.Anchor{{Slot: 0, Kind: layout.Stake, LengthMm: 450}, {Slot: 1, Kind: "cable", LengthMm: 600}},
	}
	makes := append([]Make{{ID: "m", SetID: "s", Layout: two, BuiltAt: day(1, 9)}}, more...)
	return NewRecord(day(20, 9), day(1, 0).Location(), tally.Span{}, Noted{
		Sets: []Set{{ID: "s", SpotID: "spot", Number: 7}, {ID: "t", SpotID: "spot", Number: 8}}, Makes: makes, Pulls: pulls,
	})
}

// What a pull leaves is in the ground until somebody says that it came out, that it is lost, or builds with it; with that taken back it is in again.
func TestWhatIsStillIn(t *testing.T) {
	first := Pull{ID: "p", MakeID: "m", At: day(3, 9), Rigs: []RigOut{
		{Slot: 0, Trap: TrapFrozenIn, Sprung: true, Anchor: AnchorFrozen}, {Slot: 1, Trap: TrapHome, Anchor: AnchorLeft},
	}}
	later := func(on int, slot int, trap TrapOut, anchor AnchorOut) Pull {
		return Pull{ID: "later", MakeID: "m", At: day(on, 9), Later: true, Rigs: []RigOut{{Slot: slot, Trap: trap, Anchor: anchor}}}
	}
	undone := later(5, 0, TrapHome, AnchorOutOf)
	at := day(6, 9)
	undone.UndoneAt = &at
	again := Make{ID: "k", SetID: "t", Layout: layout.Layout{Rigs: []layout.Rig{{TrapID: "one"}}}, BuiltAt: day(9, 9)}
	frozen := StillIn{MakeID: "m", SetID: "s", Number: 7, SpotID: "spot", Slot: 0, TrapID: "one", Trap: TrapFrozenIn, Anchor: AnchorFrozen, Kind: layout.Stake, LengthMm: 450, Since: day(3, 9)}
	left := StillIn{MakeID: "m", SetID: "s", Number: 7, SpotID: "spot", Slot: 1, TrapID: "two", Trap: TrapHome, Anchor: AnchorLeft, Kind: "cable", LengthMm: 600, Since: day(3, 9)}
	lost, anchorOnly := frozen, frozen
	lost.Trap, anchorOnly.Trap = TrapLost, TrapHome
	for name, c := range map[string]struct {
		r    Record
		want []StillIn
	}{
		"left":            {pulledOf([]Pull{first}), []StillIn{frozen, left}},
		"fetched":         {pulledOf([]Pull{first, later(5, 0, TrapHome, AnchorOutOf)}), []StillIn{left}},
		"its anchor left": {pulledOf([]Pull{later(5, 1, TrapHome, AnchorOutOf), first}), []StillIn{frozen}},
		"lost":            {pulledOf([]Pull{first, later(5, 0, TrapLost, AnchorFrozen)}), []StillIn{lost, left}},
		"taken back":      {pulledOf([]Pull{first, undone}), []StillIn{frozen, left}},
		"said too early":  {pulledOf([]Pull{first, later(2, 0, TrapHome, AnchorOutOf)}), []StillIn{frozen, left}},
		"built with":      {pulledOf([]Pull{first}, again), []StillIn{anchorOnly, left}},
		"nothing said":    {pulledOf([]Pull{{ID: "p", MakeID: "m", At: day(3, 9)}}), nil},
	} {
		if got := c.r.StillIn(nil); !reflect.DeepEqual(got, c.want) && len(got)+len(c.want) > 0 {
			t.Errorf("%s: %+v, not %+v", name, got, c.want)
		}
		if p := c.r.PullOf(c.r.Makes[0]); p == nil || p.ID != "p" {
			t.Errorf("%s: pulled by %+v", name, p)
		}
		if bead := c.r.Bead(c.r.Makes[0]); bead.State != Down || bead.Nights != 2 || len(c.r.Odd) > 0 {
			t.Errorf("%s: %+v, odd %+v", name, bead, c.r.Odd)
		}
	}
	if got := pulledOf(nil).StillIn([]StillIn{{MakeID: "old", Slot: 0, TrapID: "three", Trap: TrapFrozenIn, Anchor: AnchorOutOf, Since: day(1, 9)}}); len(got) != 1 {
		t.Errorf("of the season before: %+v", got)
	}
	if p := pulledOf(nil).PullOf(pulledOf(nil).Makes[0]); p != nil {
		t.Errorf("one that stands was pulled: %+v", p)
	}
	over := Make{ID: "n", SetID: "s", BuiltAt: day(4, 9)}
	if got := pulledOf([]Pull{later(4, 1, TrapHome, AnchorLeft)}, over).StillIn(nil); len(got) != 1 || got[0].Anchor != AnchorLeft || !got[0].Since.Equal(day(4, 9)) || got[0].LengthMm != 600 {
		t.Errorf("of one that was made again elsewhere: %+v", got)
	}
	if got := pulledOf([]Pull{later(4, 1, TrapHome, AnchorLeft)}).StillIn(nil); len(got) != 0 {
		t.Errorf("of one that stands: %+v", got)
	}
	if bead := pulledOf([]Pull{later(5, 0, TrapHome, AnchorOutOf)}).Standing(); len(bead) != 1 {
		t.Error("a later pull pulled what stands")
	}
}

// A trap that can fire is not left, and nothing comes out twice or as what it cannot.
func TestPullRefuses(t *testing.T) {
	good := Pull{ID: idA, MakeID: idB, At: noon, Rigs: []RigOut{{Trap: TrapFrozenIn, Sprung: true, Anchor: AnchorFrozen}}, Done: []Chore{"gate_shut"}}
	if err := good.Check(); err != nil {
		t.Error(err)
	}
	for field, spoil := range map[string]func(*Pull){
		"rigs[0].sprung": func(p *Pull) { p.Rigs = []RigOut{{Trap: TrapFrozenIn, Anchor: AnchorFrozen}} },
		"rigs[0].trap":   func(p *Pull) { p.Rigs = []RigOut{{Trap: "left", Anchor: AnchorOutOf}} },
		"rigs[0].anchor": func(p *Pull) { p.Rigs = []RigOut{{Trap: TrapHome}} },
		"rigs[1].slot": func(p *Pull) {
			p.Rigs = []RigOut{{Trap: TrapHome, Anchor: AnchorOutOf}, {Trap: TrapHome, Anchor: AnchorOutOf}}
		},
		"done[0]": func(p *Pull) { p.Done = []Chore{"gate"} },
	} {
		bad := good
		spoil(&bad)
		var problems refuse.Problems
		if err := bad.Check(); !errors.As(err, &problems) || problems[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}
