package server

import (
	"maps"
	"reflect"
	"slices"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/core/promise"
	"oldburrow/core/tally"
	"oldburrow/demo"
	"oldburrow/store"
)

// promises are those of the line, made out.
func (x *site) promises() map[string]promise.Make {
	x.t.Helper()
	x.promised()
	made := map[string]promise.Make{}
	err := x.server.read(x.t.Context(), x.line, func(r reading) error {
		rows, err := r.Promises(x.line, tally.Span{})
		for _, m := range rows {
			made[m.MakeID] = m
		}
		return err
	})
	if err != nil {
		x.t.Fatal(err)
	}
	return made
}

// standsAt are the makes that stand, by the names of their spots.
func (x *site) standsAt() map[string]line.Make {
	found := map[string]line.Make{}
	view := x.view()
	for _, s := range view.Sets {
		spot := view.Spots[slices.IndexFunc(view.Spots, func(p line.Spot) bool { return p.ID == s.Set.SpotID })]
		found[spot.Name] = s.Make
	}
	return found
}

// record is everything that was done on the line.
func (x *site) record() (rec line.Record) {
	x.t.Helper()
	err := x.server.read(x.t.Context(), x.line, func(r reading) (err error) {
		rec, err = r.RecordOf(tally.Span{})
		return err
	})
	if err != nil {
		x.t.Fatal(err)
	}
	return rec
}

// dayOf numbers the local days, so that nights can be told apart.
func dayOf(at time.Time) int {
	return tally.Nights(demo.Start().AddDate(-1, 0, 0), at, demo.Start().Location())
}

// Every make of the line has promised something on each night that it stood, and only then; whoever stands here promises for every target.
func TestEveryMakeHasPromised(t *testing.T) {
	x := newDemo(t)
	made := x.promises()
	view := x.view()
	for _, s := range view.Sets {
		said, ok := made[s.Make.ID]
		if want := s.Bead.Nights; s.Bead.State != line.Down && (!ok || said.Nights() != want) {
			t.Errorf("set %d stood %d nights and promised on %d", s.Set.Number, want, said.Nights())
		}
		for key, a := range said.Of {
			if on, _, ok := said.On(key, said.Nights()-1); said.Nights() > 0 && (!ok || on.Passes <= 0 || on.Held <= 0 || a.Fire > a.Step) {
				t.Errorf("set %d promises of a %s: %+v", s.Set.Number, key, on)
			}
		}
	}
	if len(made) < 24 {
		t.Errorf("%d makes", len(made))
	}
	var moved Moment
	x.decode(&moved)(x.do("POST", "/demo/night", id(), nil))
	after := x.promises()
	for id, was := range made {
		is := after[id]
		if more := is.Nights() - was.Nights(); !reflect.DeepEqual(is.Cut(was.Nights()), was.Cut(was.Nights())) || more < 0 || more > 1 {
			t.Errorf("make %s: a night later %d nights more, and before it stands %+v", id, more, is)
		}
	}
}

// Sign that is entered a week late moves what was promised from its day on, at the sets within fifty metres, and nothing before it or beyond;
// removed, everything is as it was.
func TestSignOfLastWeekMovesNoNightBefore(t *testing.T) {
	x := newDemo(t)
	before := x.promises()
	view := x.view()
	rec := x.record()
	spot := view.Spots[slices.IndexFunc(view.Spots, func(p line.Spot) bool { return p.Name == "Ditch mouth" })]
	seen := demo.Start().AddDate(0, 0, -7)
	sign := line.Sign{SpotID: &spot.ID, LatDeg: spot.LatDeg, LonDeg: spot.LonDeg, What: "tracks", Animal: "bobcat", Age: "last_night", Holds: "well", SeenAt: seen}
	name := id()
	x.put(x.of("signs", name), sign, &sign)
	after := x.promises()
	built, spotOf := map[string]time.Time{}, map[string]string{}
	for _, m := range rec.Makes {
		built[m.ID], spotOf[m.ID] = m.BuiltAt, rec.Set(m.SetID).SpotID
	}
	near := func(makeID string) bool { return spotOf[makeID] == spot.ID }
	moved := 0
	for id, was := range before {
		is := after[id]
		for key := range was.Of {
			for night := range was.Nights() {
				a, _, _ := was.On(key, night)
				b, _, _ := is.On(key, night)
				if reflect.DeepEqual(a, b) {
					continue
				}
				moved++
				if a.Passes >= b.Passes || key != "bobcat" || !near(id) || dayOf(built[id])+night < dayOf(seen) {
					t.Errorf("night %d of make %s: a %s was promised to pass %g times, now %g", night, id, key, a.Passes, b.Passes)
				}
			}
		}
	}
	if moved < 5 {
		t.Errorf("%d nights moved", moved)
	}
	sign.Deleted = true
	x.put(x.of("signs", name), sign, nil)
	if again := x.promises(); !reflect.DeepEqual(again, before) {
		t.Error("removed it left something behind")
	}
}

// In which order things are entered moves nothing: a look of two days ago and sign of the week before, either first, made out between or not; and
// what is taken back was never there.
func TestTheOrderOfEnteringMovesNoPromise(t *testing.T) {
	look, sign := id(), id()
	of := func(steps ...func(x *site)) (made map[string]promise.Make) {
		x := newDemo(t)
		for _, step := range steps {
			step(x)
		}
		return x.promises()
	}
	makesOut := func(x *site) { x.promised() }
	caught := func(x *site) {
		at := x.standsAt()["Stack yard"]
		x.put(x.of("visits", look), line.Visit{MakeID: at.ID, At: demo.Start().AddDate(0, 0, -2).Add(3 * time.Hour), Found: line.Found{Finding: line.FoundPassed, Animal: "red_fox", By: "track"}}, nil)
	}
	tracks := func(x *site) {
		view := x.view()
		spot := view.Spots[slices.IndexFunc(view.Spots, func(p line.Spot) bool { return p.Name == "Stack yard" })]
		x.put(x.of("signs", sign), line.Sign{SpotID: &spot.ID, LatDeg: spot.LatDeg, LonDeg: spot.LonDeg, What: "tracks", Animal: "red_fox", Age: "last_night", Holds: "well", SeenAt: demo.Start().AddDate(0, 0, -9)}, nil)
	}
	back := func(x *site) {
		x.put(x.of("visits", look)+"/undo", map[string]any{"at": demo.Start()}, nil)
	}
	want := of(caught, tracks)
	if got := of(tracks, makesOut, caught); !reflect.DeepEqual(got, want) {
		t.Error("the sign first, made out between: otherwise")
	}
	if got := of(caught, makesOut, tracks, makesOut, back); !reflect.DeepEqual(got, of(tracks)) || reflect.DeepEqual(got, want) {
		t.Error("what is taken back is still there, or nothing was moved by it")
	}
}

// A change of the computation has everything told anew, a few nights at a time; nothing of it counts as a write.
func TestANewFormTellsEverythingAnew(t *testing.T) {
	x := newDemo(t)
	want := x.promises()
	stood, err := x.server.Store.Standing()
	if err != nil {
		t.Fatal(err)
	}
	if err := x.server.Store.Keep(func(tx *store.Tx) error {
		return tx.KeepPromises(x.line, "an older form", map[string]promise.Make{slices.Sorted(maps.Keys(want))[0]: {}}, demo.Start())
	}); err != nil {
		t.Fatal(err)
	}
	if since, anew, err := x.promising(page.PromiseForm); err != nil || !anew || !since.IsZero() {
		t.Errorf("%v, told anew %v, %v", since, anew, err)
	}
	says := func(told *time.Time, anew bool) {
		t.Helper()
		var book page.BookView
		x.get("/lines/"+x.line+"/book", &book)
		if book.Anew != anew || (book.ToldTo == nil) != (told == nil) || told != nil && !book.ToldTo.Equal(*told) {
			t.Errorf("the book says told anew %v, as far as %v; want %v, %v", book.Anew, book.ToldTo, anew, told)
		}
	}
	says(nil, true)
	half := time.Date(2026, time.November, 10, 0, 0, 0, 0, demo.Start().Location())
	cut := map[string]promise.Make{}
	for id, m := range want {
		cut[id] = m.Cut(5)
	}
	if err := x.server.Store.Keep(func(tx *store.Tx) error { return tx.KeepPromises(x.line, page.PromiseForm, cut, half) }); err != nil {
		t.Fatal(err)
	}
	says(&half, true)
	if err := x.server.Store.Keep(func(tx *store.Tx) error { return tx.KeepPromises(x.line, "an older form", cut, half) }); err != nil {
		t.Fatal(err)
	}
	if got := x.promises(); !reflect.DeepEqual(got, want) {
		t.Error("it is not told anew")
	}
	if stands, err := x.server.Store.Standing(); err != nil || stands.Writes != stood.Writes {
		t.Errorf("%d writes, %d before: %v", stands.Writes, stood.Writes, err)
	}
	if _, anew, err := x.promising(page.PromiseForm); err != nil || anew {
		t.Errorf("told anew %v, %v", anew, err)
	}
	says(nil, false)
}

func (x *site) promising(form string) (since time.Time, anew bool, err error) {
	err = x.server.read(x.t.Context(), x.line, func(r reading) (err error) {
		since, anew, err = r.view.Promising(x.line, form)
		return err
	})
	return since, anew, err
}
