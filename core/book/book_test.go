package book

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/core/seeds"
	"oldburrow/core/tally"
)

var zone = func() *time.Location {
	zone, err := round.Zone("America/Denver")
	if err != nil {
		panic(err)
	}
	return zone
}()

var oneTrap = layout.Layout{Rigs: []layout.Rig{{}}}

func at(day, hour int) time.Time { return time.Date(2026, time.October, day, hour, 0, 0, 0, zone) }

// season is two sets over the night on which the clocks go back: one remade after a coyote, one that caught a raccoon and a fox.
func season(now time.Time, span tally.Span) line.Record {
	catch := func(id, species string) []line.Catch { return []line.Catch{{ID: id, Species: species}} }
	return line.NewRecord(now, zone, span, line.Noted{
		Sets:  []line.Set{{ID: "s1", SpotID: "p1", Number: 1}, {ID: "s2", SpotID: "p2", Number: 2}},
		Makes: []line.Make{{Layout: oneTrap, ID: "a", SetID: "s1", BuiltAt: at(28, 15)}, {Layout: oneTrap, ID: "b", SetID: "s1", BuiltAt: at(31, 8)}, {Layout: oneTrap, ID: "c", SetID: "s2", BuiltAt: at(30, 15)}},
		Pulls: []line.Pull{{ID: "p", MakeID: "c", At: at(35, 9)}},
		Visits: []line.Visit{
			{ID: "v1", MakeID: "a", At: at(31, 7), Found: line.Found{Finding: "catch"}, Catches: catch("x1", "coyote")},
			{ID: "v2", MakeID: "c", At: at(32, 7), Found: line.Found{Finding: "catch"}, Catches: append(catch("x2", "raccoon"), catch("x3", "red_fox")...)},
			{ID: "v3", MakeID: "c", At: at(33, 7), Found: line.Found{Finding: "quiet"}},
		},
	})
}

func TestBook(t *testing.T) {
	b, err := Of(season(at(36, 9), tally.Span{}), animal.Reference)
	if err != nil {
		t.Fatal(err)
	}
	// Set 1: three nights half, then five; set 2: two nights half, then three until it was pulled.
	if b.Sets[0].TrapNights != 1.5+5 || b.Sets[1].TrapNights != 1+3 || b.Total.TrapNights != 10.5 {
		t.Errorf("nights: %+v", b.Sets)
	}
	if b.Total.Catches != 2 || b.Others != 1 || b.Sets[1].Catches != 1 || b.Sets[0].SpotID != "p1" || b.Total.Rate == nil || b.Total.Rate.Per100 != 200/10.5 {
		t.Errorf("%+v, %d others", b.Total, b.Others)
	}
	if b.Since == nil || !b.Since.Equal(at(28, 15)) || len(b.Catches) != 3 || b.Catches[0].Number != 2 || b.Catches[2].ID != "x1" || !b.Catches[2].Target {
		t.Errorf("since %v: %+v", b.Since, b.Catches)
	}
	got := ""
	for _, n := range b.Nights {
		got += fmt.Sprintf("%s %d %d; ", n.Evening[5:], n.Traps, n.Held)
	}
	if want := "10-28 1 0; 10-29 1 0; 10-30 2 1; 10-31 2 2; 11-01 2 0; 11-02 2 0; 11-03 2 0; 11-04 1 0; "; got != want {
		t.Errorf("the nights\n%s, want\n%s", got, want)
	}
	empty, err := Of(line.NewRecord(at(36, 9), zone, tally.Span{}, line.Noted{}), animal.Reference)
	if err != nil || empty.Since != nil || empty.Total.Rate != nil || len(empty.Nights) != 0 || empty.Catches == nil {
		t.Errorf("nothing: %+v, %v", empty, err)
	}
}

// Cut into two seasons at any midnight, nights and catches are those of the whole.
func TestSeasonsOfABook(t *testing.T) {
	whole, err := Of(season(at(36, 9), tally.Span{}), animal.Reference)
	if err != nil {
		t.Fatal(err)
	}
	for day := 27; day < 38; day++ {
		cut := at(day, 0)
		before, err := Of(season(at(36, 9), tally.Span{Until: cut}), animal.Reference)
		if err != nil {
			t.Fatal(err)
		}
		after, err := Of(season(at(36, 9), tally.Span{From: cut}), animal.Reference)
		if err != nil {
			t.Fatal(err)
		}
		if before.Total.TrapNights+after.Total.TrapNights != whole.Total.TrapNights || before.Total.Catches+after.Total.Catches != 2 || before.Others+after.Others != 1 {
			t.Errorf("cut on day %d: %+v and %+v", day, before.Total, after.Total)
		}
		nights := append(before.Nights, after.Nights...)
		traps := 0
		for _, n := range nights {
			traps += n.Traps
		}
		if len(nights) != len(whole.Nights) && cut.After(at(28, 15)) && cut.Before(at(36, 0)) || traps != 13 {
			t.Errorf("cut on day %d: nights %+v and %+v", day, before.Nights, after.Nights)
		}
	}
}

// What is counted night by night is what the makes stood, however many there are and however long ago the first.
func TestNightsAreThoseOfTheMakes(t *testing.T) {
	seeds.Each(t, 200, func(rng *rand.Rand) {
		n := line.Noted{}
		now := at(28, 9).AddDate(0, 0, rng.IntN(600))
		for i := range 1 + rng.IntN(6) {
			set := line.Set{ID: fmt.Sprint("s", i), Number: i + 1}
			n.Sets = append(n.Sets, set)
			built := at(28, 9).AddDate(0, 0, rng.IntN(300)).Add(time.Duration(rng.IntN(24*60)) * time.Minute)
			n.Makes = append(n.Makes, line.Make{Layout: oneTrap, ID: fmt.Sprint("m", i), SetID: set.ID, BuiltAt: built})
			if rng.IntN(2) == 0 {
				n.Pulls = append(n.Pulls, line.Pull{ID: fmt.Sprint("p", i), MakeID: fmt.Sprint("m", i), At: built.Add(time.Duration(rng.IntN(200*24)) * time.Hour)})
			}
		}
		r := line.NewRecord(now, zone, tally.Span{}, n)
		b, err := Of(r, animal.Reference)
		if err != nil {
			t.Fatal(err)
		}
		traps := 0
		for _, night := range b.Nights {
			traps += night.Traps
		}
		if len(b.Nights) > mostNights {
			t.Fatalf("%d nights are told", len(b.Nights))
		}
		if len(b.Nights) < mostNights && float64(traps) != b.Total.TrapNights {
			t.Fatalf("%d in nights, %g by makes", traps, b.Total.TrapNights)
		}
	})
}
