package store

import (
	"errors"
	"slices"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/tally"
	"oldburrow/core/weather"
)

// A visit is recorded once, with its catches; taken back it stays, and only its own line takes it back.
func TestVisitsAreActs(t *testing.T) {
	s, first, second, _ := twoLines(t)
	property := line.Property{ID: id(), LineID: first.ID}
	spot := line.Spot{ID: id(), LineID: first.ID, PropertyID: property.ID}
	design := line.Design{ID: id(), LineID: first.ID, SpotID: spot.ID, Layout: laidOut(t)}
	made := line.Make{ID: id(), LineID: first.ID, SetID: id(), DesignID: design.ID, BuiltAt: noon, Layout: laidOut(t)}
	visit := line.Visit{ID: id(), LineID: first.ID, MakeID: made.ID, At: noon.Add(20 * time.Hour), Found: line.Found{Finding: "catch"}}
	visit.Catches = []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}
	err := doing(t, s, func(tx *Tx) error {
		_, err := tx.PutProperty(property)
		if err == nil {
			_, err = tx.PutSpot(spot)
		}
		if err == nil {
			_, err = tx.PutDesign(design)
		}
		if err == nil {
			_, err = tx.PutMake(made)
		}
		if err == nil {
			_, err = tx.PutVisit(visit)
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	untimed := visit
	untimed.ID, untimed.Catches, untimed.Timed = id(), []line.Catch{{ID: id(), Species: "dog", More: line.More{Owner: "tag 12"}}}, new(false)
	if err := doing(t, s, func(tx *Tx) (err error) { untimed, err = tx.PutVisit(untimed); return err }); err != nil {
		t.Fatal(err)
	}
	for _, read := range []func() (line.Visit, error){
		func() (line.Visit, error) { return View{q: s.db}.Visit(first.ID, untimed.ID) },
		func() (line.Visit, error) {
			n, err := View{q: s.db}.Noted(first.ID, tally.Span{})
			i := slices.IndexFunc(n.Visits, func(v line.Visit) bool { return v.ID == untimed.ID })
			return n.Visits[i], err
		},
	} {
		if got, err := read(); err != nil || got.HasTime() || got.Catches[0].Owner != "tag 12" {
			t.Errorf("of which only the day is known: %+v, %v", got, err)
		}
	}
	// Thousands of looks are read as one text: a sign in a note that parts them there parts nothing, and what is nothing stays so.
	for _, note := range []string{"tracks \x1e all round", "", "\x1e"} {
		if _, err := s.db.Exec(`UPDATE visits SET note = ? WHERE id = ?`, note, untimed.ID); err != nil {
			t.Fatal(err)
		}
		n, err := View{q: s.db}.Noted(first.ID, tally.Span{})
		i := slices.IndexFunc(n.Visits, func(v line.Visit) bool { return v.ID == untimed.ID })
		if err != nil || len(n.Visits) != 2 || n.Visits[i].Note != note || n.Visits[i].HasTime() || n.Visits[i].MendedAt != nil || n.Visits[1-i].Note != "" || !n.Visits[1-i].HasTime() {
			t.Errorf("with the note %q: %+v, %v", note, n.Visits, err)
		}
	}
	if acts, err := (View{q: s.db}).Acts(first.ID, noon, noon.AddDate(0, 0, 2)); err != nil || len(acts) != 3 || !acts[0].Timed || acts[1].Timed == acts[2].Timed {
		t.Errorf("%+v, %v", acts, err)
	}
	if err := doing(t, s, func(tx *Tx) error { _, err := tx.UndoVisit(first.ID, untimed.ID, noon); return err }); err != nil {
		t.Error(err)
	}
	again := visit
	err = doing(t, s, func(tx *Tx) (err error) { again, err = tx.PutVisit(again); return err })
	if err != nil || again.Finding != "catch" || len(again.Catches) != 1 {
		t.Errorf("put again: %+v, %v", again, err)
	}
	again.Finding, again.Catches = "quiet", nil
	var taken Taken
	if err := doing(t, s, func(tx *Tx) error { _, err := tx.PutVisit(again); return err }); !errors.As(err, &taken) {
		t.Errorf("put otherwise: %v", err)
	}
	stray := visit
	stray.ID, stray.LineID = id(), second.ID
	if got := field(doing(t, s, func(tx *Tx) error { _, err := tx.PutVisit(stray); return err })); got != "makeId" {
		t.Errorf("a visit of another line's make names %q", got)
	}
	err = doing(t, s, func(tx *Tx) error { _, err := tx.UndoVisit(second.ID, visit.ID, noon); return err })
	if !errors.Is(err, ErrUnknown) {
		t.Errorf("taken back from another line: %v", err)
	}
	if err := doing(t, s, func(tx *Tx) error { _, err := tx.UndoVisit(first.ID, visit.ID, noon); return err }); err != nil {
		t.Error(err)
	}
	undone, err := View{q: s.db}.Visit(first.ID, visit.ID)
	if err != nil || undone.UndoneAt == nil || len(undone.Catches) != 1 || undone.Catches[0].Species != "coyote" {
		t.Errorf("%+v, %v", undone, err)
	}
	if n, err := (View{q: s.db}).Noted(first.ID, tally.Span{}); err != nil || len(n.Visits) != 0 {
		t.Errorf("it counts: %+v, %v", n, err)
	}
	// A design keeps which set it became, whatever a late save says.
	design.Version = 1
	if err := doing(t, s, func(tx *Tx) (err error) { design, err = tx.PutDesign(design); return err }); err != nil || design.SetID == nil || *design.SetID != made.SetID {
		t.Errorf("saved late: %+v, %v", design, err)
	}
}

// What the user logged stands over what a service says later; a forecast is dropped for the next one.
func TestWeatherKeepsWhatSomebodySaw(t *testing.T) {
	s, first, second, _ := twoLines(t)
	hour := func(n int, c float64) weather.Hour {
		return weather.Hour{At: noon.Add(time.Duration(n) * time.Hour), TempC: c}
	}
	for _, change := range []func(*Tx) error{
		func(tx *Tx) error { return tx.PutHours(first.ID, []weather.Hour{hour(0, -3), hour(1, -4)}, false) },
		func(tx *Tx) error { return tx.PutHours(first.ID, []weather.Hour{hour(1, -9)}, true) },
		func(tx *Tx) error {
			return tx.PutHours(first.ID, []weather.Hour{hour(0, -5), hour(1, -6), hour(2, -7)}, false)
		},
		func(tx *Tx) error { return tx.PutForecast(first.ID, []weather.Hour{hour(3, -8), hour(4, -8)}) },
		func(tx *Tx) error { return tx.PutForecast(first.ID, []weather.Hour{hour(4, -12)}) },
	} {
		if err := s.Keep(change); err != nil {
			t.Fatal(err)
		}
	}
	hours, err := View{q: s.db}.Hours(first.ID, false, time.Time{})
	if err != nil || len(hours) != 3 || hours[0].TempC != -5 || hours[1].TempC != -9 || hours[2].TempC != -7 {
		t.Errorf("the record: %+v, %v", hours, err)
	}
	forecast, err := View{q: s.db}.Hours(first.ID, true, time.Time{})
	if err != nil || len(forecast) != 1 || forecast[0].TempC != -12 {
		t.Errorf("the forecast: %+v, %v", forecast, err)
	}
	if hours, err := (View{q: s.db}).Hours(second.ID, false, time.Time{}); err != nil || len(hours) != 0 {
		t.Errorf("another line's: %+v, %v", hours, err)
	}
	boom := errors.New("boom")
	err = s.Keep(func(tx *Tx) error {
		if err := tx.PutForecast(first.ID, nil); err != nil {
			return err
		}
		return boom
	})
	if forecast, _ := (View{q: s.db}).Hours(first.ID, true, time.Time{}); !errors.Is(err, boom) || len(forecast) != 1 {
		t.Errorf("half a change stays: %+v, %v", forecast, err)
	}
}
