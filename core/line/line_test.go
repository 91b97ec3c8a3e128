package line

import (
	"errors"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/odds"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
	"oldburrow/core/tally"
)

const (
	idA = "01K8V7Z8R5Q6T9W3X1Y2Z4A5B6"
	idB = "01K8V7Z8R5Q6T9W3X1Y2Z4A5B7"
)

var noon = time.Date(2026, 12, 4, 19, 0, 0, 0, time.UTC)

func field(err error) string {
	var p refuse.Problems
	if errors.As(err, &p) {
		return p[0].Field
	}
	return ""
}

// animals are those that the line of these tests knows.
var animals = animal.Reference

// oneTrap is a layout of which nothing is asked but that it has one trap.
var oneTrap = layout.Layout{Rigs: []layout.Rig{{}}}

func laidOut(t *testing.T, pattern string) layout.Layout {
	t.Helper()
	l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func TestChecks(t *testing.T) {
	l := laidOut(t, "hole")
	aLine := Line{ID: idA, Name: "Kettle Fork line", Zone: "America/Denver", LatDeg: 46.8, LonDeg: -105.3}
	spot := Spot{ID: idA, PropertyID: idB, Name: "Gate gap", LatDeg: 46.8, LonDeg: -105.3, TravelBearingDeg: new(90.0), TravelWidthMm: new(600.0), WaysMeet: new(1), Soil: "loam", Wetness: "moist", Surface: "grass"}
	at := idB
	sign := Sign{ID: idA, SpotID: &at, What: "tracks", Animal: "coyote", Age: "week", Holds: "well", SeenAt: noon}
	way := Feature{MadeAt: noon, ID: idA, Kind: "travel_way", Points: [][2]float64{{-105.3, 46.8}, {-105.2, 46.8}}, WidthMm: 600}
	fall := Fall{ID: idA, Kind: "snow", Ended: noon}
	bad := "x"
	design := Design{ID: idA, SpotID: idB, Target: "coyote", Layout: l}
	made := Make{ID: idA, SetID: idB, DesignID: idB, Target: "coyote", Layout: l, BuiltAt: noon}
	caught := Catch{ID: idB, Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}
	visit := Visit{ID: idA, MakeID: idB, At: noon, Found: Found{Finding: "catch"}, Catches: []Catch{caught}}
	for _, c := range []struct {
		want string
		got  error
	}{
		{"", aLine.Check()}, {"", spot.Check()}, {"", sign.Check(noon, animals)}, {"", design.CheckDraft(animals)}, {"", made.Check(animals)}, {"", visit.Check(animals)}, {"", way.Check()}, {"", fall.Check(noon)},
		{"asked", Property{ID: idA, Name: "A", Asked: "yesterday"}.Check()},
		{"until", Property{ID: idA, Name: "A", Asked: "2026-09-10", Until: "2026-09-09"}.Check()},
		{"waysMeet", with(spot, func(x *Spot) { x.WaysMeet = new(0) }).Check()},
		{"surface", with(spot, func(x *Spot) { x.Surface = "lava" }).Check()},
		{"met[0].what", with(spot, func(x *Spot) { x.Met = []Met{{What: "ghost"}} }).Check()},
		{"met[0].on", with(spot, func(x *Spot) { x.Met = []Met{{What: "lure", On: "soon"}} }).Check()},
		{"spotId", with(sign, func(x *Sign) { x.SpotID = &bad }).Check(noon, animals)},
		{"candidates[0]", with(sign, func(x *Sign) { x.Candidates = []string{"yeti"} }).Check(noon, animals)},
		{"count", with(sign, func(x *Sign) { x.Count = -1 }).Check(noon, animals)},
		{"directionDeg", with(sign, func(x *Sign) { d := 361.0; x.DirectionDeg = &d }).Check(noon, animals)},
		{"holds", with(sign, func(x *Sign) { x.Holds = "maybe" }).Check(noon, animals)},
		{"kind", with(way, func(x *Feature) { x.Kind = "moat" }).Check()},
		{"points", with(way, func(x *Feature) { x.Points = x.Points[:1] }).Check()},
		{"points", with(way, func(x *Feature) { x.Kind = "gate" }).Check()},
		{"points", with(way, func(x *Feature) { x.Kind = "hay" }).Check()},
		{"points", with(way, func(x *Feature) { x.Points = [][2]float64{{-200, 0}, {0, 0}} }).Check()},
		{"points", with(way, func(x *Feature) { x.Points = [][2]float64{{math.NaN(), 0}, {0, 0}} }).Check()},
		{"widthMm", with(way, func(x *Feature) { x.WidthMm = -1 }).Check()},
		{"kind", with(fall, func(x *Fall) { x.Kind = "hail" }).Check(noon)},
		{"ended", fall.Check(noon.Add(-time.Hour))},
		{"madeAt", with(way, func(x *Feature) { x.MadeAt = time.Time{} }).Check()},
		{"", sign.Check(noon.Add(-20*time.Second), animals)},
		{"at", with(visit, func(x *Visit) { x.At = time.Date(9999, 1, 1, 0, 0, 0, 0, time.UTC) }).Check(animals)},
		{"builtAt", with(made, func(x *Make) { x.BuiltAt = time.Date(12, 1, 1, 0, 0, 0, 0, time.UTC) }).Check(animals)},
		{"makeId", Pull{ID: idA, At: noon}.Check()},
		{"at", Pull{ID: idA, MakeID: idB}.Check()},
		{"name", with(aLine, func(x *Line) { x.Name = "  " }).Check()},
		{"name", with(aLine, func(x *Line) { x.Name = strings.Repeat("a", 81) }).Check()},
		{"zone", with(aLine, func(x *Line) { x.Zone = "Mountain" }).Check()},
		{"latDeg", with(aLine, func(x *Line) { x.LatDeg = 120 }).Check()},
		{"id", with(aLine, func(x *Line) { x.ID = "1" }).Check()},
		{"name", Property{ID: idA}.Check()},
		{"propertyId", with(spot, func(x *Spot) { x.PropertyID = "" }).Check()},
		{"travelBearingDeg", with(spot, func(x *Spot) { x.TravelBearingDeg = new(400.0) }).Check()},
		{"travelWidthMm", with(spot, func(x *Spot) { x.TravelWidthMm = new(3.0) }).Check()},
		{"soil", with(spot, func(x *Spot) { x.Soil = "gold" }).Check()},
		{"wetness", with(spot, func(x *Spot) { x.Wetness = "soggy" }).Check()},
		{"", with(spot, func(x *Spot) {
			x.Soil, x.Wetness, x.Surface, x.TravelBearingDeg, x.TravelWidthMm, x.WaysMeet = "", "", "", nil, nil, nil
		}).Check()},
		{"seenAt", sign.Check(noon.Add(-time.Hour), animals)},
		{"seenAt", with(sign, func(x *Sign) { x.SeenAt = time.Time{} }).Check(noon, animals)},
		{"what", with(sign, func(x *Sign) { x.What = "song" }).Check(noon, animals)},
		{"animal", with(sign, func(x *Sign) { x.Animal = "yeti" }).Check(noon, animals)},
		{"note", with(sign, func(x *Sign) { x.Note = strings.Repeat("a", 2001) }).Check(noon, animals)},
		{"target", with(design, func(x *Design) { x.Target = "skunk" }).CheckDraft(animals)},
		{"builtAt", with(made, func(x *Make) { x.BuiltAt = time.Time{} }).Check(animals)},
		{"layout.attractors[0].hole.angleDeg", with(made, func(x *Make) { x.Layout.Attractors[0].Hole.AngleDeg = 5 }).Check(animals)},
		{"finding", with(visit, func(x *Visit) { x.Finding, x.Catches = "dunno", nil }).Check(animals)},
		{"finding", with(visit, func(x *Visit) { x.Finding = "quiet" }).Check(animals)},
		{"animal", with(visit, func(x *Visit) { x.Animal = "yeti" }).Check(animals)},
		{"by", with(visit, func(x *Visit) { x.Animal, x.By = "coyote", "gossip" }).Check(animals)},
		{"animal", with(visit, func(x *Visit) { x.By = "track" }).Check(animals)},
		{"also[0].finding", with(visit, func(x *Visit) { x.Also = []Found{{Finding: "catch"}} }).Check(animals)},
		{"also[1].animal", with(visit, func(x *Visit) { x.Also = []Found{{Finding: "passed"}, {Finding: "dug", Animal: "yeti"}} }).Check(animals)},
		{"rigs[0].state", with(visit, func(x *Visit) { x.Rigs = []RigFound{{0, "asleep"}} }).Check(animals)},
		{"rigs[1].slot", with(visit, func(x *Visit) { x.Rigs = []RigFound{{0, "set"}, {0, "fired"}} }).Check(animals)},
		{"catches[0].rigs[0]", with(visit, func(x *Visit) { x.Catches = []Catch{with(caught, func(c *Catch) { c.Rigs = []int{-1} })} }).Check(animals)},
		{"catches", with(visit, func(x *Visit) { x.Catches = nil }).Check(animals)},
		{"catches[0].species", with(visit, func(x *Visit) { x.Catches = []Catch{{ID: idB, Sex: "male", Foot: "left_fore", Hold: "pad"}} }).Check(animals)},
		{"catches[0].sex", with(visit, func(x *Visit) { x.Catches = []Catch{{ID: idB, Species: "coyote", Foot: "left_fore", Hold: "pad"}} }).Check(animals)},
		{"catches[0].foot", with(visit, func(x *Visit) { x.Catches = []Catch{{ID: idB, Species: "coyote", Sex: "male", Foot: "fin"}} }).Check(animals)},
		{"", with(visit, func(x *Visit) { x.Catches = []Catch{{ID: idB, Species: "coyote", Sex: "male"}} }).Check(animals)}, // nobody looked at the foot
		{"catches[0].owner", with(visit, func(x *Visit) {
			x.Catches = []Catch{{ID: idB, Species: "dog", More: More{Owner: strings.Repeat("a", 201)}}}
		}).Check(animals)},
	} {
		if got := field(c.got); got != c.want {
			t.Errorf("refused %q (%v), want %q", got, c.got, c.want)
		}
	}
}

func with[T any](x T, change func(*T)) T {
	change(&x)
	return x
}

func day(d, hour int) time.Time {
	zone, err := time.LoadLocation("America/Denver")
	if err != nil {
		panic(err)
	}
	return time.Date(2026, 12, d, hour, 0, 0, 0, zone)
}

func TestBeadAndTrapNights(t *testing.T) {
	zone := day(1, 0).Location()
	made := Make{Layout: oneTrap, ID: idA, BuiltAt: day(1, 15)}
	look := func(d int, finding Finding) Visit {
		return Visit{MakeID: idA, At: day(d, 7), Found: Found{Finding: finding}}
	}
	pulled, undone := day(4, 9), day(3, 8)
	for _, c := range []struct {
		name   string
		made   Make
		pulls  []Pull
		visits []Visit
		now    time.Time
		state  BeadState
		stood  int
		late   bool
		earned float64
	}{
		{"just built", made, nil, nil, day(1, 16), Working, 0, false, 0},
		{"one night", made, nil, nil, day(2, 6), Working, 1, false, 1},
		{"a day without a look", made, nil, nil, day(3, 1), Working, 2, true, 2},
		{"looked at every day", made, nil, []Visit{look(2, "quiet"), look(3, "quiet")}, day(4, 6), Working, 3, false, 3},
		{"locked one night", made, nil, []Visit{look(2, "quiet"), look(3, "locked")}, day(4, 6), Working, 3, false, 2.5},
		{"caught, and left so", made, nil, []Visit{look(2, "quiet"), look(4, "catch")}, day(6, 6), Open, 5, true, 2},
		{"sprung, then seen working", made, nil, []Visit{look(2, "sprung"), look(3, "quiet")}, day(4, 6), Working, 3, false, 2.5},
		{"pulled", made, []Pull{{ID: idB, MakeID: idA, At: pulled}}, []Visit{look(2, "quiet")}, day(9, 6), Down, 3, false, 3},
		{"a look taken back", made, nil, []Visit{look(2, "quiet"), {MakeID: idA, At: day(3, 7), Found: Found{Finding: "catch"}, UndoneAt: &undone}}, day(3, 9), Working, 2, false, 2},
		{"another make's look", made, nil, []Visit{{MakeID: idB, At: day(2, 7), Found: Found{Finding: "catch"}}}, day(2, 9), Working, 1, false, 1},
	} {
		r := NewRecord(c.now, zone, tally.Span{}, Noted{Makes: []Make{c.made}, Pulls: c.pulls, Visits: c.visits})
		made := r.Makes[0]
		bead := r.Bead(made)
		if bead.State != c.state || bead.Nights != c.stood || bead.Late != c.late {
			t.Errorf("%s: %+v, want %s, %d nights, late %v", c.name, bead, c.state, c.stood, c.late)
		}
		if got := r.TrapNights(made); got != c.earned {
			t.Errorf("%s: earned %g trap-nights, want %g", c.name, got, c.earned)
		}
		if (bead.Due == nil) != (c.state == Down) {
			t.Errorf("%s: due %v", c.name, bead.Due)
		}
	}
}

// On the night that the clocks go back the day has 25 hours, and a set due at its end is still due today.
func TestDueTodayWhateverTheClocksDo(t *testing.T) {
	zone := day(1, 0).Location()
	at := func(d, hour, minute int) time.Time { return time.Date(2026, 11, d, hour, minute, 0, 0, zone) }
	made := Make{Layout: oneTrap, ID: idA, BuiltAt: time.Date(2026, 10, 30, 15, 0, 0, 0, zone)}
	seen := []Visit{{MakeID: idA, At: time.Date(2026, 10, 31, 7, 0, 0, 0, zone), Found: Found{Finding: "quiet"}}}
	beadOf := func(seen []Visit, now time.Time) Bead {
		return NewRecord(now, zone, tally.Span{}, Noted{Makes: []Make{made}, Visits: seen}).Bead(made)
	}
	if bead := beadOf(seen, at(1, 0, 10)); !bead.Today || bead.Late {
		t.Errorf("ten past midnight: %+v", bead)
	}
	if bead := beadOf(append(seen, Visit{MakeID: idA, At: at(1, 0, 20), Found: Found{Finding: "quiet"}}), at(1, 23, 30)); bead.Today {
		t.Errorf("seen today: %+v", bead)
	}
	if bead := beadOf(seen, at(2, 6, 0)); !bead.Today || !bead.Late {
		t.Errorf("a day too late: %+v", bead)
	}
}

// Every finding has its answer and its facts; and an animal got through all the links before the one at which it ended.
func TestFindingsAreAllAsked(t *testing.T) {
	answers := map[Answer]int{}
	for _, finding := range Findings {
		f := finding.Facts()
		answers[f.Answer]++
		if f.Ends && !f.Half {
			t.Errorf("%s ends the make but its nights count whole", finding)
		}
		if f.Sought && !f.Away || f.Away && !f.Ends || f.Fired && !f.Ends || f.Ends && !f.Remake && finding != FoundTaken {
			t.Errorf("of %s follows %+v", finding, f)
		}
		reached, failed := slices.Index(odds.LinkKeys, f.Reached), slices.Index(odds.LinkKeys, f.Failed)
		switch {
		case f.Answer == AnswerSearch || finding == FoundGone || f.Answer == AnswerTrouble:
			if failed >= 0 {
				t.Errorf("%s tells that %s failed", finding, f.Failed)
			}
		case finding == FoundCatch:
			if f.Reached != odds.Held || failed >= 0 {
				t.Errorf("of a catch follows %+v", f)
			}
		case failed != reached+1:
			t.Errorf("%s reached %q and failed at %q", finding, f.Reached, f.Failed)
		}
	}
	if len(answers) != len(Answers) || answers[AnswerSearch] != 2 {
		t.Errorf("the round gives five answers, and a search two ends, not %v", answers)
	}
	if strange := Finding("chewed").Facts(); strange != (Facts{Finding: "chewed"}) {
		t.Errorf("of one that is not known follows %+v", strange)
	}
}

// An animal of one's own may be named where it is known, and nowhere else.
func TestAnimalsOfOnesOwn(t *testing.T) {
	own := animal.Animal{Key: "own:1", Target: true}
	with := append(slices.Clone(animals), own)
	sign := Sign{ID: idA, LatDeg: 44, LonDeg: -106, What: "tracks", Animal: own.Key, Age: "older", Holds: "well", SeenAt: noon}
	trap := NewTrap()
	trap.ID, trap.Number, trap.Size, trap.MeantFor = idA, 1, "five", own.Key
	look := Visit{ID: idA, MakeID: idB, At: noon, Found: Found{Finding: "catch"}, Catches: []Catch{{ID: idB, Species: own.Key, Sex: "male"}}}
	for named, check := range map[string]func(animal.Animals) error{
		"animal":             func(known animal.Animals) error { return sign.Check(noon, known) },
		"meantFor":           trap.Check,
		"catches[0].species": look.Check,
		"target":             Design{ID: idA, SpotID: idB, Target: own.Key}.CheckDraft,
	} {
		if got := field(check(animals)); got != named {
			t.Errorf("%s: not known, it is refused by %q", named, got)
		}
		if err := check(with); err != nil {
			t.Errorf("%s: known, it is refused: %v", named, err)
		}
	}
}
