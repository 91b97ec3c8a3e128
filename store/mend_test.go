package store

import (
	"reflect"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// looked builds a set with a trap and looks at it once.
func looked(t *testing.T) (*scene, line.Make, line.Visit) {
	c := newScene(t)
	m := c.build(0, noon.AddDate(0, 0, -5), 0)
	look := line.Visit{ID: id(), LineID: c.line.ID, MakeID: m.ID, At: noon.AddDate(0, 0, -2), Found: line.Found{Finding: "catch"}}
	look.Catches = []line.Catch{{ID: id(), Species: "raccoon"}}
	c.do(func(tx *Tx) error { return second(tx.PutVisit(look)) })
	return c, m, look
}

// What is put right counts from then on; what stood before stays to be read; said again it is done once.
func TestALookIsMended(t *testing.T) {
	c, m, look := looked(t)
	right := look
	right.Found, right.At = line.Found{Finding: "sprung", Animal: "coyote", By: "hair"}, look.At.Add(time.Hour)
	right.Catches = nil
	mend := line.Mend{ID: id(), LineID: c.line.ID, VisitID: look.ID, At: noon, Reason: "it had slipped out, the hair was a coyote's", Visit: right}
	for range 2 {
		c.do(func(tx *Tx) error { return second(tx.PutMend(mend)) })
	}
	now := c.read(tally.Span{}).LastLook(m.ID)
	if now == nil || now.Finding != "sprung" || now.Animal != "coyote" || len(now.Catches) != 0 || now.MendedAt == nil || !now.At.Equal(right.At) {
		t.Errorf("it stands as %+v", now)
	}
	mends, err := View{q: c.s.db}.Mends(c.line.ID, look.ID)
	if err != nil || len(mends) != 1 || mends[0].Before.Finding != "catch" || mends[0].Before.Catches[0].Species != "raccoon" || mends[0].Reason != mend.Reason {
		t.Errorf("before it: %+v, %v", mends, err)
	}
	// A second mend goes on from the first; another word under the same id is refused, as is a look of another line.
	again := mend
	again.ID, again.Visit = id(), look
	c.do(func(tx *Tx) error { return second(tx.PutMend(again)) })
	if now := c.read(tally.Span{}).LastLook(m.ID); now.Finding != "catch" || len(now.Catches) != 1 {
		t.Errorf("put back it stands as %+v", now)
	}
	mend.Reason = "another"
	if err := doing(t, c.s, func(tx *Tx) error { return second(tx.PutMend(mend)) }); err == nil {
		t.Error("another mend under the same id is taken")
	}
	again.ID, again.LineID = id(), id()
	if err := doing(t, c.s, func(tx *Tx) error { return second(tx.PutMend(again)) }); err == nil {
		t.Error("a look of another line is mended")
	}
	if entered := look; doing(t, c.s, func(tx *Tx) error { return second(tx.PutVisit(entered)) }) != nil {
		t.Error("the look sent again as it was entered, and stands, is refused")
	}
}

// A make that was taken back never was: its trap is home, its lure is poured back, its set is a design again. One that was looked at stays.
func TestAMakeIsTakenBack(t *testing.T) {
	c, m, look := looked(t)
	undo := func(id string) error {
		return doing(t, c.s, func(tx *Tx) error { return second(tx.UndoMake(c.line.ID, id, noon)) })
	}
	if field(undo(m.ID)) != "undoneAt" {
		t.Error("a make that was looked at is taken back")
	}
	remade := c.build(0, noon.AddDate(0, 0, -1), 1)
	if field(undo(m.ID)) != "undoneAt" {
		t.Error("a make that was remade is taken back")
	}
	for range 2 {
		if err := undo(remade.ID); err != nil {
			t.Fatal(err)
		}
	}
	if r := c.read(tally.Span{}); len(r.Makes) != 1 || r.Makes[0].PulledAt != nil || len(r.With(c.traps[1].ID)) != 0 {
		t.Errorf("%+v", r.Makes)
	}
	c.do(func(tx *Tx) error { return second(tx.UndoVisit(c.line.ID, look.ID, noon)) })
	if err := undo(m.ID); err != nil {
		t.Fatal(err)
	}
	design, err := View{q: c.s.db}.Design(c.line.ID, m.DesignID)
	if err != nil || design.SetID != nil || len(c.read(tally.Span{}).Makes) != 0 {
		t.Errorf("%+v, %v", design, err)
	}
	poured, err := View{q: c.s.db}.Poured(c.line.ID, noon)
	if err != nil || poured[0].Left != 500 || len(poured[0].Met) != 0 {
		t.Errorf("%+v, %v", poured, err)
	}
}

// Of a remake only bait, and what was not there before, comes off the shelf; a dose that was taken back does not.
func TestARemakeTakesWhatItRenews(t *testing.T) {
	c := newScene(t)
	left := func() float64 {
		poured, err := View{q: c.s.db}.Poured(c.line.ID, c.now)
		if err != nil {
			t.Fatal(err)
		}
		return 500 - poured[0].Left
	}
	c.build(0, noon.AddDate(0, 0, -9), 0)
	c.build(0, noon.AddDate(0, 0, -8), 0)
	if left() != 1 {
		t.Errorf("a lure that stays takes %g doses in two makes", left())
	}
	baited := line.Make{ID: id(), LineID: c.line.ID, SetID: c.sets[0], DesignID: c.designs[0].ID, Target: "coyote", BuiltAt: noon.AddDate(0, 0, -7), Layout: laidOut(t, c.traps[0].ID)}
	baited.Layout.Attractors[0].Smells[0].LureID = c.lure.ID
	c.do(func(tx *Tx) error { return second(tx.PutMake(baited)) })
	if left() != 2 {
		t.Errorf("as bait it is renewed: %g doses", left())
	}
	dose := line.Dose{ID: id(), LineID: c.line.ID, LureID: c.lure.ID, At: noon.AddDate(0, 0, -1), Count: 3}
	c.do(func(tx *Tx) error { return second(tx.PutDose(dose)) })
	c.do(func(tx *Tx) error { return second(tx.UndoDose(c.line.ID, dose.ID, noon)) })
	if left() != 2 {
		t.Errorf("a dose taken back: %g", left())
	}
}

// Everything that was done on a day is told, whoever's kind it is, and whether it was taken back.
func TestTheActsOfADay(t *testing.T) {
	c, m, look := looked(t)
	c.do(func(tx *Tx) error {
		return second(tx.PutPull(line.Pull{ID: id(), LineID: c.line.ID, MakeID: m.ID, At: noon.AddDate(0, 0, -1)}))
	})
	c.do(func(tx *Tx) error { return second(tx.UndoVisit(c.line.ID, look.ID, noon)) })
	kinds := func(from, until int) (found []line.ActKind) {
		acts, err := View{q: c.s.db}.Acts(c.line.ID, noon.AddDate(0, 0, from), noon.AddDate(0, 0, until))
		if err != nil {
			t.Fatal(err)
		}
		for _, a := range acts {
			found = append(found, a.Kind)
			if a.Undone != (a.ID == look.ID) || a.SetID != c.sets[0] {
				t.Errorf("%+v", a)
			}
		}
		return found
	}
	if got := kinds(-6, 0); !reflect.DeepEqual(got, []line.ActKind{"make", "look", "pull"}) {
		t.Errorf("all: %v", got)
	}
	if got := kinds(-3, -1); !reflect.DeepEqual(got, []line.ActKind{"look"}) {
		t.Errorf("one day: %v", got)
	}
}
