package line

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/seeds"
)

func TestUsualSeasons(t *testing.T) {
	zone := day(1, 0).Location()
	for _, c := range []struct {
		at   time.Time
		lat  float64
		want string
	}{
		{time.Date(2026, 7, 1, 0, 0, 0, 0, zone), 46.8, "2026/27 2026-07-01 2027-06-30"},
		{time.Date(2026, 6, 30, 23, 59, 0, 0, zone), 46.8, "2025/26 2025-07-01 2026-06-30"},
		{time.Date(2026, 7, 1, 3, 0, 0, 0, time.UTC), 46.8, "2025/26 2025-07-01 2026-06-30"}, // still June on the line
		{time.Date(2027, 2, 3, 0, 0, 0, 0, zone), 0, "2026/27 2026-07-01 2027-06-30"},
		{time.Date(2027, 2, 3, 0, 0, 0, 0, zone), -30, "2027 2027-01-01 2027-12-31"},
		{time.Date(2099, 12, 31, 0, 0, 0, 0, zone), 46.8, "2099/00 2099-07-01 2100-06-30"},
	} {
		s := Usual(c.at, zone, c.lat)
		if got := s.Name + " " + s.From + " " + s.To; got != c.want {
			t.Errorf("%s at %g°: %s, want %s", c.at, c.lat, got, c.want)
		}
	}
}

// A season opens with the first act after the end of the last one, or before the first, and never takes a day that another has.
func TestSeasonsOpen(t *testing.T) {
	zone := day(1, 0).Location()
	at := func(text string) time.Time {
		when, err := time.ParseInLocation("2006-01-02", text, zone)
		if err != nil {
			t.Fatal(err)
		}
		return when.Add(13 * time.Hour)
	}
	short := Seasons{{ID: "a", Name: "a", From: "2026-10-01", To: "2026-12-31"}}
	two := append(slices.Clone(short), Season{ID: "b", Name: "b", From: "2027-02-01", To: "2027-03-01"})
	for _, c := range []struct {
		seasons Seasons
		at      string
		want    string
	}{
		{nil, "2026-12-04", "2026-07-01 2027-06-30"},
		{short, "2026-12-31", ""},
		{short, "2026-10-01", ""},
		{short, "2027-01-01", "2027-01-01 2027-06-30"},
		{short, "2027-08-01", "2027-07-01 2028-06-30"},
		{short, "2026-09-30", "2026-07-01 2026-09-30"},
		{short, "2025-09-30", "2025-07-01 2026-06-30"},
		{two, "2027-01-15", ""}, // between two it belongs to the earlier one
		{two, "2027-03-02", "2027-03-02 2027-06-30"},
	} {
		s, opens := c.seasons.Opens(at(c.at), zone, 46.8)
		if got := strings.TrimSpace(s.From + " " + s.To); got != c.want || opens != (c.want != "") {
			t.Errorf("%s with %d seasons opens %q, want %q", c.at, len(c.seasons), got, c.want)
		}
	}
	for when, want := range map[string]string{"2026-09-01": "a", "2026-10-01": "a", "2027-01-15": "a", "2027-02-01": "b", "2028-01-01": "b"} {
		if s, ok := two.Of(at(when), zone); !ok || s.ID != want {
			t.Errorf("%s belongs to %q, want %q", when, s.ID, want)
		}
	}
}

// Whenever acts come, in whatever order, each day belongs to one season, the spans of the seasons follow each other without a gap,
// and no two seasons have a day in common.
func TestSeasonsNeverOverlap(t *testing.T) {
	zone := day(1, 0).Location()
	seeds.Each(t, 300, func(rng *rand.Rand) {
		var seasons Seasons
		for i := range 12 {
			at := day(1, 0).AddDate(0, 0, rng.IntN(3000)-1500)
			s, opens := seasons.Opens(at, zone, 46.8)
			if !opens {
				continue
			}
			s.ID = fmt.Sprint(i)
			if err := seasons.Fits(s); err != nil {
				t.Fatalf("%+v does not fit into %+v: %v", s, seasons, err)
			}
			if rng.IntN(2) == 0 { // the user ends it earlier
				if to := at.AddDate(0, 0, 10).Format(time.DateOnly); to < s.To {
					s.To = to
				}
			}
			seasons = append(seasons, s)
			slices.SortFunc(seasons, func(a, b Season) int { return strings.Compare(a.From, b.From) })
			if of, _ := seasons.Of(at, zone); of.ID != s.ID {
				t.Fatalf("%s opened %+v and belongs to %+v", at, s, of)
			}
		}
		for i := 1; i < len(seasons); i++ {
			before, after := seasons.Span(seasons[i-1].ID, zone), seasons.Span(seasons[i].ID, zone)
			if !before.Until.Equal(after.From) || seasons[i-1].To >= seasons[i].From {
				t.Fatalf("%+v then %+v", seasons[i-1], seasons[i])
			}
		}
	})
}

func TestSeasonsRefuse(t *testing.T) {
	for _, c := range []struct {
		x    Season
		want string
	}{
		{Season{ID: idA, Name: " ", From: "2026-07-01", To: "2026-08-01"}, "name"},
		{Season{ID: idA, Name: "a", From: "", To: "2026-08-01"}, "from"},
		{Season{ID: idA, Name: "a", From: "2026-07-01", To: "tomorrow"}, "to"},
		{Season{ID: idA, Name: "a", From: "2026-07-02", To: "2026-07-01"}, "to"},
		{Season{ID: idA, Name: "a", From: "9999-07-02", To: "9999-08-01"}, "from"},
		{Season{ID: "x", Name: "a", From: "2026-07-01", To: "2026-08-01"}, "id"},
	} {
		if err := c.x.Check(); err == nil || !strings.HasPrefix(err.Error(), c.want) {
			t.Errorf("%+v: %v, want %s", c.x, err, c.want)
		}
	}
	all := Seasons{{ID: "a", Name: "a", From: "2025-07-01", To: "2026-06-30"}, {ID: "b", Name: "b", From: "2026-07-01", To: "2027-06-30"}}
	for _, c := range []struct {
		x    Season
		want string
	}{
		{Season{ID: "b", From: "2026-06-30", To: "2027-06-30"}, "from"},
		{Season{ID: "a", From: "2025-07-01", To: "2026-07-01"}, "to"},
		{Season{ID: "c", From: "2020-07-01", To: "2030-07-01"}, "to"},
		{Season{ID: "b", From: "2026-09-01", To: "2026-12-31"}, ""},
	} {
		if err := all.Fits(c.x); (err == nil) != (c.want == "") || err != nil && !strings.HasPrefix(err.Error(), c.want) {
			t.Errorf("%+v: %v, want %q", c.x, err, c.want)
		}
	}
}

func TestTheWayRound(t *testing.T) {
	built := "S2"
	spots := []Spot{{ID: "p1", PropertyID: "A"}, {ID: "p2", PropertyID: "B"}, {ID: "p3", PropertyID: "A"}, {ID: "p4", PropertyID: "B"}, {ID: "p5", PropertyID: "C"}}
	sets := []Set{{ID: "S1", SpotID: "p2", Number: 1}, {ID: "S2", SpotID: "p1", Number: 2}}
	designs := []Design{{ID: "d2", SpotID: "p1", SetID: &built}, {ID: "d3", SpotID: "p4"}}
	stops := Round(sets, spots, designs)
	got := []string{}
	for _, s := range stops {
		got = append(got, s.SetID+s.DesignID+" "+s.SpotID+" "+s.PropertyID)
	}
	if want := "S1 p2 B, d3 p4 B, S2 p1 A,  p3 A,  p5 C"; strings.Join(got, ", ") != want {
		t.Errorf("the way round is %q, want %q", strings.Join(got, ", "), want)
	}
	n := noted{makes: []Make{{Layout: oneTrap, ID: "m1", SetID: "S1", BuiltAt: day(1, 12)}, {Layout: oneTrap, ID: "m2", SetID: "S2", BuiltAt: day(1, 12)}}, visits: []Visit{{ID: "v", MakeID: "m2", At: day(2, 7), Found: Found{Finding: "sprung"}}}}
	worth := []string{}
	for _, w := range n.record().WorthDoing(stops) {
		worth = append(worth, string(w.Kind)+" "+w.SetID+w.DesignID+" "+strings.Join(w.SpotIDs, "+"))
	}
	if want := "remake S2 p1, build d3 p4, begin  p3+p5"; strings.Join(worth, ", ") != want {
		t.Errorf("worth doing is %q, want %q", strings.Join(worth, ", "), want)
	}
}

func TestWhatStoodAtASpot(t *testing.T) {
	with := func(m Make, bait, lure string) Make {
		m.Layout.Attractors = []layout.Attractor{{Smells: []layout.Smell{{Kind: "bait", Name: bait}, {Kind: "lure", Name: lure}}}}
		return m
	}
	n := noted{
		makes: []Make{
			with(Make{Layout: oneTrap, ID: "a", SetID: "set0", BuiltAt: day(1, 12)}, "Kettle bait", "Old Fence"),
			with(Make{Layout: oneTrap, ID: "b", SetID: "set0", BuiltAt: day(5, 12)}, "Kettle bait", "Tin Cup"),
			{Layout: oneTrap, ID: "c", SetID: "set1", BuiltAt: day(9, 12)},
		},
		pulls:  []Pull{{ID: "p", MakeID: "b", At: day(8, 9)}},
		visits: []Visit{{ID: "v", MakeID: "a", At: day(5, 7), Found: Found{Finding: "catch"}, Catches: []Catch{{ID: "x"}, {ID: "y"}}}},
	}
	stood := n.record().Stood()
	if len(stood) != 2 || stood[0].SetID != "set1" || stood[0].Until != nil || stood[0].Caught != 0 {
		t.Fatalf("%+v", stood)
	}
	if s := stood[1]; !s.From.Equal(day(1, 12)) || s.Until == nil || !s.Until.Equal(day(8, 9)) || s.Caught != 2 || strings.Join(s.Smells, " + ") != "Kettle bait + Old Fence + Tin Cup" {
		t.Errorf("%+v", s)
	}
}

func TestWhatIsUsedIsNotDeleted(t *testing.T) {
	for name, err := range map[string]error{"land": Property{}.MayDelete(1), "a spot": Spot{}.MayDelete(2), "a lure": Lure{}.MayDelete(1), "a number": Trap{Number: 4}.MayHaveNumber(1)} {
		if err == nil {
			t.Errorf("%s may", name)
		}
	}
	for name, err := range map[string]error{"land": Property{}.MayDelete(0), "a spot": Spot{}.MayDelete(0), "a lure": Lure{}.MayDelete(0), "a number": Trap{Number: 4}.MayHaveNumber(0), "deleted": Trap{Deleted: true}.MayHaveNumber(1)} {
		if err != nil {
			t.Errorf("%s may not: %v", name, err)
		}
	}
}

// A second set at a spot stands beside the first, whatever was numbered between them.
func TestSetsOfOneSpotAreNeighbours(t *testing.T) {
	sets := []Set{{ID: "1", SpotID: "a"}, {ID: "2", SpotID: "b"}, {ID: "3", SpotID: "a"}, {ID: "4", SpotID: "b"}}
	var order string
	for _, s := range Round(sets, []Spot{{ID: "a"}, {ID: "b"}}, nil) {
		order += s.SetID
	}
	if order != "1324" {
		t.Errorf("the way round is %s", order)
	}
}
