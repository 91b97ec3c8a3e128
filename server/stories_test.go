package server

import (
	"math"
	"slices"
	"testing"
	"time"

	"oldburrow/core/book"
	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/demo"
)

// The demo's drawings promised more than came, and all that came is told: by the book, by the nights told apart and by the stories of its places.
func TestTheDemosSeasonIsToldAlike(t *testing.T) {
	x := newDemo(t)
	x.promises()
	at := "/lines/" + x.line
	var b page.BookView
	x.get(at+"/book", &b)
	if all := b.Promised.All; all.Expected < 1.1*float64(all.Caught) || all.Caught != b.Total.Catches {
		t.Errorf("promised and came: %+v, the book has %d", all, b.Total.Catches)
	}
	var apart page.ApartView
	x.get(at+"/apart", &apart)
	for _, by := range []book.ApartBy{book.ByPlace, book.ByKind, book.ByTrap, book.ByMonth} {
		caught, nights := 0, 0.0
		for _, g := range apart.Groups[by] {
			caught, nights = caught+g.Catches, nights+g.TrapNights
		}
		if caught != b.Total.Catches || math.Abs(nights-b.Total.TrapNights) > 1e-6 {
			t.Errorf("by %s: %d in %g, the book has %d in %g", by, caught, nights, b.Total.Catches, b.Total.TrapNights)
		}
	}
	if sizes := apart.Groups[book.ByTrap]; !slices.ContainsFunc(sizes, func(g book.Alike) bool { return g.Key == "five and a half" }) {
		t.Errorf("traps by their sizes: %+v", sizes)
	}
	if classes := apart.Groups[book.ByClass]; !slices.ContainsFunc(classes, func(g book.Alike) bool { return g.Key == "gland" }) {
		t.Errorf("lures by their classes: %+v", classes)
	}
	// Each figure opens to its nights, and each link of the leak table to its findings.
	var heap page.NightsView
	most := apart.Groups[book.ByPlace][0]
	x.get(at+"/alike?by=place&key="+most.Key, &heap)
	held := 0
	for _, m := range heap.Makes {
		held += m.Catches
		if m.SpotID != most.Key {
			t.Errorf("%s opens to a set at %s", most.Key, m.SpotID)
		}
	}
	if held != most.Catches || held == 0 {
		t.Errorf("%d held in its nights, want %d", held, most.Catches)
	}
	for _, lost := range b.Promised.Lost {
		var behind page.ShowedView
		x.get(at+"/showed/"+lost.Animal, &behind)
		fires := 0.0
		for _, one := range behind.Showed {
			if one.Kept["fires"] {
				fires += one.Counts
			}
		}
		if math.Abs(fires-lost.Links.Fires.Kept) > 1e-9 {
			t.Errorf("%s: the findings come to %g that fired, %g is told", lost.Animal, fires, lost.Links.Fires.Kept)
		}
	}
	caught, promised := 0, 0.0
	for _, spot := range x.view().Spots {
		var told page.StoriesView
		x.get(at+"/stories/"+spot.ID, &told)
		for _, s := range told.Stories {
			for _, m := range s.Makes {
				caught += s.Promised[m.MakeID].Caught
				promised += s.Promised[m.MakeID].Expected
				if slices.Contains(m.Nights, line.FoundGone) && len(m.Caught) > 0 {
					t.Errorf("set %d: what was found with the trap that walked off is not told as held: %v", s.Number, m.Nights)
				}
			}
		}
	}
	if caught != b.Promised.All.Caught || math.Abs(promised-b.Promised.All.Expected) > .1 {
		t.Errorf("the places tell of %d and %g, the book of %+v", caught, promised, b.Promised.All)
	}
	x.get(at+"/stories/"+x.view().Spots[0].ID+"?season=all", &page.StoriesView{})
	for path, status := range map[string]int{
		"/stories/" + id(): 404, "/story/" + id(): 404, "/apart?animal=unicorn": 422, "/compare?by=mood&a=x&b=y": 422, "/compare?by=kind&a=flat&b=flat": 422, "/apart?season=" + id(): 404,
		"/alike?by=mood&key=a": 422, "/showed/unicorn": 404,
	} {
		if got, raw := x.do("GET", at+path, "", ""); got != status {
			t.Errorf("%s: %d %s", path, got, raw)
		}
	}
}

// A set that is made another way says in which parts, what the drawings promised before and since, and what came.
func TestAChangeIsFollowed(t *testing.T) {
	x := newDemo(t)
	x.promises()
	made := x.standsAt()["Two-track bend"]
	other := made.Layout.WithRigMoved(0, 0, 60)
	next := line.Make{SetID: made.SetID, DesignID: made.DesignID, Follows: &made.ID, Target: made.Target, Layout: other, BuiltAt: demo.Start().AddDate(0, 0, -1).Add(6 * time.Hour)}
	anew := id()
	x.put(x.of("makes", anew), next, nil)
	x.promises()
	var told page.StoriesView
	x.get("/lines/"+x.line+"/story/"+made.SetID, &told)
	change, is := told.Stories[0].Changes[anew]
	if !is || !slices.Contains(change.Parts, "setback") {
		t.Fatalf("changes: %+v", told.Stories[0].Changes)
	}
	if !change.Known || change.PromisedBefore == nil || change.PromisedSince == nil || *change.PromisedBefore == *change.PromisedSince {
		t.Errorf("what it was meant to do: %+v", change)
	}
	if change.A.TrapNights < 10 || change.B.TrapNights != 1 {
		t.Errorf("what it did: %+v", change)
	}
	for id, c := range told.Stories[0].Changes {
		if len(c.Parts) == 0 {
			t.Errorf("make %s was changed in nothing", id)
		}
	}
	x.put(x.of("makes", anew)+"/undo", map[string]any{"at": demo.Start()}, nil)
	var since page.StoriesView
	x.get("/lines/"+x.line+"/story/"+made.SetID, &since)
	if _, is := since.Stories[0].Changes[anew]; is {
		t.Error("what was undone is still told")
	}
}

// How a set was built can be said until it is looked at, and not of what was taken back: a phone that says it late changes nothing.
func TestWhenItCanBeSaidHowASetWasBuilt(t *testing.T) {
	x := newDemo(t)
	stood := x.standsAt()["Two-track bend"]
	made := stood
	made.ID, made.BuiltAt, made.Follows = id(), demo.Start().Add(-time.Hour), nil
	x.put(x.of("makes", made.ID), made, nil)
	said := made
	said.Layout = made.Layout.WithRigMoved(0, 0, 25)
	said.AsBuilt = &line.AsBuilt{Landmark: "by the post"}
	var got line.Make
	x.put(x.of("makes", made.ID), said, &got)
	if got.AsBuilt == nil || got.AsBuilt.Designed == nil || got.Layout.Rigs[0].Pan.YMm != said.Layout.Rigs[0].Pan.YMm || got.AsBuilt.Designed.Rigs[0].Pan.YMm != made.Layout.Rigs[0].Pan.YMm {
		t.Fatalf("built as %+v", got.AsBuilt)
	}
	x.refused("PUT", x.of("makes", stood.ID), id(), func() line.Make { m := stood; m.AsBuilt = said.AsBuilt; return m }(), 422, "asBuilt") // it was looked at
	x.put(x.of("makes", made.ID)+"/undo", Moment{At: demo.Start()}, nil)
	late := said
	late.AsBuilt = &line.AsBuilt{Landmark: "by the gate"}
	x.refused("PUT", x.of("makes", made.ID), id(), late, 422, "asBuilt")
	if x.standsAt()["Two-track bend"].ID != stood.ID {
		t.Error("what was taken back stands again")
	}
}
