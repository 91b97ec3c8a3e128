package store

import (
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/tally"
	"oldburrow/core/weather"
)

// What is remembered is never old: not after a write of this program, nor after one of another that has the same file open.
func TestNothingOldIsRemembered(t *testing.T) {
	c := newScene(t)
	m := c.build(0, noon.AddDate(0, 0, -5), 0)
	other := open(t, c.s.path)
	defer other.Close()
	hours := func(s *Store) (n int) {
		err := s.Read(t.Context(), func(v View) error {
			found, err := v.Hours(c.line.ID, false, time.Time{})
			n = len(found)
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
		return n
	}
	looks := func() int { return len(c.read(tally.Span{}).Visits) }
	for i, by := range []*Store{c.s, other, c.s, other} {
		for range 2 {
			if looks() != i || hours(c.s) != i {
				t.Fatalf("%d looks and %d hours are read, want %d", looks(), hours(c.s), i)
			}
		}
		look := line.Visit{ID: id(), LineID: c.line.ID, MakeID: m.ID, At: noon.Add(time.Duration(-i) * time.Hour), Found: line.Found{Finding: "quiet"}}
		if _, err := by.Write(Asked{ID: id()}, noon, func(tx *Tx) (any, error) { return tx.PutVisit(look) }); err != nil {
			t.Fatal(err)
		}
		hour := weather.Hour{At: noon.Add(time.Duration(i) * time.Hour)}
		if err := by.Keep(func(tx *Tx) error { return tx.PutHours(c.line.ID, []weather.Hour{hour}, false) }); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := c.s.Write(Asked{ID: id()}, noon, func(tx *Tx) (any, error) {
		n, err := tx.Noted(c.line.ID, tally.Span{})
		if len(n.Visits) != 4 {
			t.Errorf("a change under way reads %d looks", len(n.Visits))
		}
		return nil, err
	}); err != nil {
		t.Fatal(err)
	}
}
