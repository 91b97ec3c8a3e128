package store

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"reflect"
	"slices"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/seeds"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
)

// scene is a line with a few sets to build at, and the acts that somebody does there.
type scene struct {
	t       *testing.T
	s       *Store
	line    line.Line
	spots   []line.Spot
	designs []line.Design
	sets    []string
	traps   []line.Trap
	makes   []line.Make
	lure    line.Lure
	now     time.Time
}

func newScene(t *testing.T) *scene {
	c := &scene{t: t, s: open(t, filepath.Join(t.TempDir(), "line.db")), now: noon}
	c.line = line.Line{ID: id(), Name: "Upper", Zone: "America/Denver", LatDeg: 46.8, LonDeg: -105.3}
	property := line.Property{ID: id(), LineID: c.line.ID, Name: "A"}
	c.lure = line.Lure{ID: id(), LineID: c.line.ID, Name: "Old Fence", Class: "gland", By: "volume", Dose: 1}
	opened := noon.AddDate(-4, 0, 0)
	bottle := line.Bottle{ID: id(), LineID: c.line.ID, LureID: c.lure.ID, Holds: 500, OpenedAt: &opened}
	c.do(func(tx *Tx) error {
		return first(second(tx.PutLine(c.line)), second(tx.PutProperty(property)), second(tx.PutLure(c.lure)), second(tx.PutBottle(bottle)))
	})
	for i := range 4 {
		spot := line.Spot{ID: id(), LineID: c.line.ID, PropertyID: property.ID, Name: fmt.Sprint("spot ", i)}
		design := line.Design{ID: id(), LineID: c.line.ID, SpotID: spot.ID, Target: "coyote", Layout: laidOut(t)}
		trap := line.NewTrap()
		trap.ID, trap.LineID, trap.Number, trap.Size = id(), c.line.ID, i+1, "five"
		c.do(func(tx *Tx) error {
			return first(second(tx.PutSpot(spot)), second(tx.PutDesign(design)), second(tx.PutTrap(trap, noon.AddDate(-4, 0, 0))))
		})
		c.spots, c.designs, c.sets, c.traps = append(c.spots, spot), append(c.designs, design), append(c.sets, id()), append(c.traps, trap)
	}
	return c
}

func second[T any](_ T, err error) error { return err }

func first(errs ...error) error {
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

func (c *scene) do(change func(*Tx) error) {
	c.t.Helper()
	if _, err := c.s.Write(Asked{ID: id()}, c.now, func(tx *Tx) (any, error) { return nil, change(tx) }); err != nil {
		c.t.Fatal(err)
	}
}

func (c *scene) build(set int, at time.Time, trap int) line.Make {
	m := line.Make{ID: id(), LineID: c.line.ID, SetID: c.sets[set], DesignID: c.designs[set].ID, Target: "coyote", BuiltAt: at}
	m.Layout = laidOut(c.t, c.traps[trap].ID)
	m.Layout.Attractors[0].Smells[1].LureID = c.lure.ID
	c.makes = append(c.makes, m)
	c.do(func(tx *Tx) error { return second(tx.PutMake(m)) })
	return m
}

// read reads the record of a span.
func (c *scene) read(span tally.Span) (r line.Record) {
	c.t.Helper()
	err := c.s.Read(c.t.Context(), func(v View) error {
		n, err := v.Noted(c.line.ID, span)
		r = line.NewRecord(c.now, zoneOf(c.t, c.line), span, n)
		return err
	})
	if err != nil {
		c.t.Fatal(err)
	}
	return r
}

func zoneOf(t *testing.T, l line.Line) *time.Location {
	zone, err := time.LoadLocation(l.Zone)
	if err != nil {
		t.Fatal(err)
	}
	return zone
}

// Whatever is built, pulled, looked at and taken back over three years, in whatever order it arrives: read season by season the
// record says what it says read as a whole. What stands, the makes and looks of each season and their nights are the same, and
// nothing that is odd is lost.
func TestSeasonsAddUpToTheWhole(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	seeds.Each(t, 12, func(rng *rand.Rand) {
		c := newScene(t)
		at := func() time.Time {
			when := noon.AddDate(-3, 0, 0).Add(time.Duration(rng.IntN(3*365*24)) * time.Hour)
			switch rng.IntN(20) {
			case 0:
				return when.AddDate(5, 0, 0)
			case 1:
				return when.AddDate(-50, 0, 0)
			}
			return when
		}
		for year := range 3 { // something counts in each of them
			c.build(year, noon.AddDate(-year, 0, -1), year)
		}
		for range 60 {
			if len(c.makes) == 0 || rng.IntN(3) == 0 {
				c.build(rng.IntN(4), at(), rng.IntN(4))
				continue
			}
			m := c.makes[rng.IntN(len(c.makes))]
			when := m.BuiltAt.Add(time.Duration(rng.IntN(100*24)) * time.Hour)
			if rng.IntN(8) == 0 {
				when = at()
			}
			act := id()
			if rng.IntN(3) == 0 {
				c.do(func(tx *Tx) error {
					return second(tx.PutPull(line.Pull{ID: act, LineID: c.line.ID, MakeID: m.ID, At: when}))
				})
				if rng.IntN(4) == 0 {
					c.do(func(tx *Tx) error { return second(tx.UndoPull(c.line.ID, act, noon)) })
				}
				continue
			}
			look := line.Visit{ID: act, LineID: c.line.ID, MakeID: m.ID, At: when, Found: line.Found{Finding: line.Findings[rng.IntN(len(line.Findings))]}}
			if look.Finding == "catch" {
				look.Catches = []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}
			}
			c.do(func(tx *Tx) error { return second(tx.PutVisit(look)) })
			if rng.IntN(6) == 0 {
				c.do(func(tx *Tx) error { return second(tx.UndoVisit(c.line.ID, act, noon)) })
			}
		}
		c.agree()
	})
}

// agree compares the record read as a whole with what its seasons say.
func (c *scene) agree() {
	t := c.t
	seasons, err := View{q: c.s.db}.Seasons(c.line.ID)
	if err != nil || len(seasons) < 3 {
		t.Fatalf("seasons %+v, %v", seasons, err)
	}
	whole := c.read(tally.Span{})
	zone := zoneOf(t, c.line)
	nights, odd := map[string]float64{}, map[string]line.Why{}
	for i, season := range seasons {
		span := seasons.Span(season.ID, zone)
		part := c.read(span)
		for _, m := range part.Makes {
			nights[m.ID] += part.TrapNights(m)
			k := slices.IndexFunc(whole.Makes, func(x line.Make) bool { return x.ID == m.ID })
			if k < 0 || m.BuiltAt.Before(span.Until) && !sameEnd(m, whole.Makes[k], span) {
				t.Fatalf("of season %s\n%+v\nof the whole\n%+v", season.Name, m, whole.Makes[k])
			}
		}
		if i == len(seasons)-1 && !reflect.DeepEqual(ids(part.Standing()), ids(whole.Standing())) {
			t.Fatalf("%v stand in the open season, %v in all", ids(part.Standing()), ids(whole.Standing()))
		}
		for _, m := range part.Standing() {
			if i == len(seasons)-1 && !reflect.DeepEqual(part.Bead(m), whole.Bead(m)) {
				t.Fatalf("%+v is not %+v", part.Bead(m), whole.Bead(m))
			}
		}
		for _, x := range part.Odd {
			odd[x.ID] = x.Why
			if x.Number == 0 {
				t.Errorf("%+v is at no set", x)
			}
		}
		if want, got := lookIDs(whole, span), lookIDs(part, span); !reflect.DeepEqual(want, got) {
			t.Fatalf("looks of season %s: %v, want %v", season.Name, got, want)
		}
	}
	for _, m := range whole.Makes {
		if want := whole.TrapNights(m); nights[m.ID] != want {
			t.Fatalf("%g nights in seasons, %g in all, of %+v", nights[m.ID], want, m)
		}
	}
	for _, x := range whole.Odd {
		if odd[x.ID] != x.Why {
			t.Errorf("%+v is %q in its season", x, odd[x.ID])
		}
	}
}

// sameEnd tells whether two tellings of a make end it alike, as far as a span goes.
func sameEnd(a, b line.Make, span tally.Span) bool {
	past := func(at *time.Time) bool { return at == nil || !span.Until.IsZero() && !at.Before(span.Until) }
	return past(a.PulledAt) && past(b.PulledAt) || a.PulledAt != nil && b.PulledAt != nil && a.PulledAt.Equal(*b.PulledAt)
}

func ids(makes []line.Make) []string {
	found := []string{}
	for _, m := range makes {
		found = append(found, m.ID)
	}
	return found
}

func lookIDs(r line.Record, span tally.Span) []string {
	found := []string{}
	for _, v := range r.Visits {
		if span.Holds(v.At) {
			found = append(found, fmt.Sprint(v.ID, len(v.Catches)))
		}
	}
	return found
}

// What is made out as acts arrive is what is made out anew from all of them.
func TestWhatIsDerivedCanBeDerivedAnew(t *testing.T) {
	c := newScene(t)
	c.build(0, noon.AddDate(-2, 0, 0), 0)
	m := c.build(0, noon.AddDate(-1, 0, 0), 1)
	c.build(1, noon.AddDate(0, 1, 0), 2) // still to come
	c.do(func(tx *Tx) error {
		return first(
			second(tx.PutPull(line.Pull{ID: id(), LineID: c.line.ID, MakeID: m.ID, At: noon.AddDate(0, -10, 0)})),
			second(tx.PutShedCheck(line.ShedCheck{ID: id(), LineID: c.line.ID, TrapID: c.traps[0].ID, At: noon, Items: []line.CheckItem{{Key: "dog", Sound: true}}})),
			second(tx.PutShedCheck(line.ShedCheck{ID: id(), LineID: c.line.ID, TrapID: c.traps[0].ID, At: noon.AddDate(0, 0, -1), Items: []line.CheckItem{{Key: "dog"}, {Key: "jaws"}}})),
			second(tx.PutDose(line.Dose{ID: id(), LineID: c.line.ID, LureID: c.lure.ID, At: noon, Count: 2})),
		)
	})
	said := func() (all []any) {
		err := c.s.Read(t.Context(), func(v View) error {
			cards, err := v.Cards(c.line.ID)
			if err != nil {
				return err
			}
			seasons, err := v.Seasons(c.line.ID)
			if err != nil {
				return err
			}
			days := []string{}
			for _, x := range seasons {
				days = append(days, x.Name+" "+x.From+" "+x.To)
			}
			poured, err := v.Poured(c.line.ID, noon)
			var ends, rigs []string
			if err := c.s.db.Select(&ends, `SELECT id || coalesce(ended_at, '') FROM makes ORDER BY id`); err != nil {
				return err
			}
			if err := c.s.db.Select(&rigs, `SELECT r.make_id || r.trap_id || s.lure_id FROM rigs r JOIN smells s USING (make_id) ORDER BY 1`); err != nil {
				return err
			}
			all = []any{cards, days, poured, ends, rigs}
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
		return all
	}
	before := said()
	if card := before[0].(map[string]shed.Card)[c.traps[0].ID]; card.MendedAt == nil || len(card.Items) != 2 || !card.Items[1].Sound {
		t.Errorf("the card: %+v", card)
	}
	if lure := before[2].([]shed.OnShelf)[0]; lure.Left != 500-2-1 || lure.Met[0].Times != 2 {
		t.Errorf("the lure: %+v", lure)
	}
	for _, statement := range []string{`UPDATE makes SET ended_at = NULL`, `DELETE FROM rigs`, `DELETE FROM smells`, `DELETE FROM trap_cards`, `DELETE FROM lure_cards`, `DELETE FROM seasons`} {
		if _, err := c.s.db.Exec(statement); err != nil {
			t.Fatal(err)
		}
	}
	if err := first(c.s.SetFact("derivation", derivation+" of others"), c.s.derive()); err != nil {
		t.Fatal(err)
	}
	for i, after := range said() {
		if !reflect.DeepEqual(before[i], after) {
			t.Errorf("%+v\nbecomes\n%+v", before[i], after)
		}
	}
	// When its time has come the third make is poured too.
	err := c.s.Read(t.Context(), func(v View) error {
		poured, err := v.Poured(c.line.ID, noon.AddDate(0, 1, 0))
		if err == nil && poured[0].Left != 500-2-2 {
			t.Errorf("a month later: %+v", poured[0])
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}

// A trap found gone is missing in every season until it is built with, and only then.
func TestGoneTrapsStayGone(t *testing.T) {
	c := newScene(t)
	gone := func(v View) map[string]shed.Gone {
		found, err := v.GoneBefore(c.line.ID, noon)
		if err != nil {
			t.Fatal(err)
		}
		return found
	}
	m := c.build(0, noon.AddDate(-2, 0, 0), 0)
	at := noon.AddDate(-2, 0, 3)
	c.do(func(tx *Tx) error {
		return second(tx.PutVisit(line.Visit{ID: id(), LineID: c.line.ID, MakeID: m.ID, At: at, Found: line.Found{Finding: "gone"}}))
	})
	if found := gone(View{q: c.s.db}); len(found) != 1 || !found[c.traps[0].ID].At.Equal(at) || found[c.traps[0].ID].Set.Number != 1 {
		t.Errorf("%+v", found)
	}
	c.build(1, noon.AddDate(-1, 0, 0), 0)
	if found := gone(View{q: c.s.db}); len(found) != 0 {
		t.Errorf("built with again: %+v", found)
	}
}

// A reading that nobody waits for any more ends.
func TestReadingsWatchTheirContext(t *testing.T) {
	c := newScene(t)
	ctx, cancel := context.WithCancel(t.Context())
	err := c.s.Read(ctx, func(v View) error {
		if _, err := v.Lines(); err != nil {
			t.Fatal(err)
		}
		cancel()
		_, err := v.Noted(c.line.ID, tally.Span{})
		return err
	})
	if !errors.Is(err, context.Canceled) {
		t.Errorf("it goes on: %v", err)
	}
}
