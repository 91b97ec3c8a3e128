package promise

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/nights"
	"oldburrow/core/odds"
	"oldburrow/core/seeds"
	"oldburrow/core/tally"
)

// Runs give back every night as it was, to four digits, and what is cut off is gone.
func TestRunsGiveBackEveryNight(t *testing.T) {
	seeds.Each(t, 200, func(rng *rand.Rand) {
		var r Runs
		var each []float64
		for range rng.IntN(40) {
			x := []float64{0, .25, .8333333, 1}[rng.IntN(4)]
			before := slices.Clone(r)
			next := r.add(x)
			if !slices.Equal(before, r) {
				t.Fatalf("%v became %v when a night was added", before, r)
			}
			r, each = next, append(each, x)
		}
		n := rng.IntN(45)
		for _, c := range []struct {
			r    Runs
			want []float64
		}{{r, each}, {r.cut(n), each[:min(n, len(each))]}} {
			if c.r.Len() != len(c.want) {
				t.Fatalf("%v has %d nights, want %d", c.r, c.r.Len(), len(c.want))
			}
			for i, x := range c.want {
				if math.Abs(c.r.at(i)-x) > 5e-5 {
					t.Fatalf("night %d of %v: %g, want %g", i, c.r, c.r.at(i), x)
				}
			}
		}
	})
}

// What is told anew stands before what stood, until that is told anew too.
func TestWhatIsToldAnewStandsBeforeWhatStood(t *testing.T) {
	old, anew := said("a", 9), said("a", 0)
	for range 4 {
		anew.Add(nights.Well, map[string]odds.Night{"coyote": {Passes: .2, Notices: .5, Commits: 1, Held: 1}})
	}
	both := anew.Then(old)
	for night := range 9 {
		is, tells, ok := both.On("coyote", night)
		from := old
		if night < 4 {
			from = anew
		}
		want, as, _ := from.On("coyote", night)
		if !ok || is.Passes != want.Passes || tells != as || both.Nights() != 9 {
			t.Errorf("night %d of %d: passes %g on ground %d, want %g on %d", night, both.Nights(), is.Passes, tells, want.Passes, as)
		}
	}
	if again := old.Then(anew); again.Nights() != 9 || anew.Nights() != 4 {
		t.Errorf("%d nights, and %d", again.Nights(), anew.Nights())
	}
}

var denver = func() *time.Location {
	zone, err := time.LoadLocation("America/Denver")
	if err != nil {
		panic(err)
	}
	return zone
}()

func on(day, hour int) time.Time { return time.Date(2026, 11, day, hour, 0, 0, 0, denver) }

// said is what a make promised of a coyote, a tenth a night, and of a bobcat, a fiftieth, on so many nights.
func said(id string, n int) Make {
	m := Make{MakeID: id, Of: map[string]Animal{
		"coyote": {Tread: odds.Tread{Step: .5, Fire: .5}}, "bobcat": {Tread: odds.Tread{Step: .1, Fire: .1}},
	}}
	for range n {
		m.Add(nights.Some, map[string]odds.Night{
			"coyote": {Passes: .4, Notices: .5, Commits: 1, Held: 1}, "bobcat": {Passes: .4, Notices: .5, Commits: 1, Held: 1},
		})
	}
	return m
}

// recordOf is a line of one dirt hole at a spot, built on the first of November, and one trail at another, with looks at them.
func recordOf(looks ...line.Visit) line.Record {
	made := func(id, set string, kind layout.Kind) line.Make {
		return line.Make{ID: id, SetID: set, BuiltAt: on(1, 16), Layout: layout.Layout{Kind: kind, Rigs: []layout.Rig{{Slot: 0}}}}
	}
	return line.NewRecord(on(11, 9), denver, tally.Span{}, line.Noted{
		Sets:   []line.Set{{ID: "A", SpotID: "gate"}, {ID: "B", SpotID: "creek"}},
		Makes:  []line.Make{made("a", "A", "dirt_hole"), made("b", "B", "trail")},
		Visits: looks,
	})
}

func look(id, made string, day int, finding line.Finding, who string, caught ...string) line.Visit {
	v := line.Visit{ID: id, MakeID: made, At: on(day, 7), Found: line.Found{Finding: finding, Animal: who}}
	for _, species := range caught {
		v.Catches = append(v.Catches, line.Catch{Species: species})
	}
	return v
}

// at is what is counted of an animal at sets of a kind, and the same at the spot where such a set stands here.
func at(t *testing.T, s Season, animal string, kind layout.Kind) learn.Sum {
	t.Helper()
	counts := s.Counts[animal]
	if spot := map[layout.Kind]string{"dirt_hole": "gate", "trail": "creek"}[kind]; counts.Kinds[kind] != counts.Spots[spot] {
		t.Errorf("%s at a %s: %+v, but %+v at the %s", animal, kind, counts.Kinds[kind], counts.Spots[spot], spot)
	}
	return counts.Kinds[kind]
}

// What is promised is summed over the nights that a set worked, half ones half, and what came is counted beside it: of an animal at a kind of
// set at a spot, whatever the set was built for.
func TestWhatWasPromisedAndWhatCame(t *testing.T) {
	rec := recordOf(look("1", "a", 5, line.FoundQuiet, ""), look("2", "a", 7, line.FoundCatch, "coyote", "coyote"), look("3", "b", 9, line.FoundQuiet, ""))
	s := Of(rec, map[string]Make{"a": said("a", 10), "b": said("b", 10)}, animal.Reference)
	for _, c := range []struct {
		animal string
		kind   layout.Kind
		want   learn.Sum
	}{
		{"coyote", "dirt_hole", learn.Sum{Expected: .1 * (4 + 2*.5), Caught: 1}}, // after the catch it works no more
		{"bobcat", "dirt_hole", learn.Sum{Expected: .02 * 5}},
		{"coyote", "trail", learn.Sum{Expected: .1 * 10}},
	} {
		if is := at(t, s, c.animal, c.kind); math.Abs(is.Expected-c.want.Expected) > 1e-9 || is.Caught != c.want.Caught {
			t.Errorf("%s at a %s: %+v, want %+v", c.animal, c.kind, is, c.want)
		}
	}
	if s.Missing != 0 || len(s.Counts) != 2 || len(s.Counts["bobcat"].Kinds) != 2 {
		t.Errorf("%d nights are missing; %v", s.Missing, s.Counts)
	}
	gate := s.At("gate")
	coyote := gate.Animals["coyote"]
	if math.Abs(coyote.Line.Expected-1.5) > 1e-9 || coyote.Line.Caught != 1 || math.Abs(coyote.Kinds["trail"].Expected-1) > 1e-9 || coyote.Spot.Caught != 1 ||
		math.Abs(coyote.Spot.Expected-.5) > 1e-9 || math.Abs(gate.Line.Expected-1.8) > 1e-9 {
		t.Errorf("at the gate: %+v", gate)
	}
}

// A night of which nothing is promised yet counts neither way: nothing was expected, and what came in it is not counted.
func TestANightWithoutAPromiseCountsNeitherWay(t *testing.T) {
	rec := recordOf(look("1", "a", 9, line.FoundCatch, "coyote", "coyote"))
	s := Of(rec, map[string]Make{"a": said("a", 3), "b": said("b", 10)}, animal.Reference)
	if is := at(t, s, "coyote", "dirt_hole"); math.Abs(is.Expected-.1*1.5) > 1e-9 || is.Caught != 0 {
		t.Errorf("%+v", is)
	}
	if s.Missing != 7 || len(s.Links) != 0 {
		t.Errorf("%d nights are missing, and %v is told", s.Missing, s.Links)
	}
	if s := Of(rec, nil, animal.Reference); s.Missing != 20 || len(s.Counts) != 0 {
		t.Errorf("of nothing: %+v", s)
	}
}

// Of a season count its own nights and looks alone.
func TestASeasonsOwnNights(t *testing.T) {
	rec := recordOf(look("1", "b", 4, line.FoundStepped, "coyote"), look("2", "b", 9, line.FoundCatch, "coyote", "coyote"))
	all := Of(rec, map[string]Make{"b": said("b", 10)}, animal.Reference)
	rec.Span = tally.Span{From: on(6, 0)}
	late := Of(rec, map[string]Make{"b": said("b", 10)}, animal.Reference)
	rec.Span = tally.Span{Until: on(6, 0)}
	early := Of(rec, map[string]Make{"b": said("b", 10)}, animal.Reference)
	of := func(s Season) learn.Sum { return at(t, s, "coyote", "trail") }
	if e, l, whole := of(early), of(late), of(all); math.Abs(e.Expected+l.Expected-whole.Expected) > 1e-9 || e.Caught != 0 || l.Caught != 1 || l.Expected == 0 {
		t.Errorf("%+v and %+v of %+v", e, l, whole)
	}
	if both := early.With(late); both.Links["coyote"] != all.Links["coyote"] || early.Links["coyote"] == late.Links["coyote"] || math.Abs(of(both).Expected-of(all).Expected) > 1e-9 || of(both).Caught != 1 {
		t.Errorf("%+v, %+v", both.Links, of(both))
	}
}

// What walked off with the trap and was found with it is counted once: as held. Another animal's findings, and those of nobody known, tell nothing.
func TestWhatFindingsTellOfTheLinks(t *testing.T) {
	told := func(looks ...line.Visit) nights.Telling {
		return Of(recordOf(looks...), map[string]Make{"b": said("b", 10)}, animal.Reference).Links["coyote"]
	}
	found := look("2", "b", 6, line.FoundAgain, "", "coyote")
	walked := told(look("1", "b", 5, line.FoundGone, "coyote"), found).Found()
	if walked.Held.Reached != 1 || walked.Held.Kept != 1 {
		t.Errorf("found with it: %+v", walked.Held)
	}
	if lost := told(look("1", "b", 5, line.FoundGone, "coyote")).Found(); lost.Held.Kept != 0 || lost.Held.Reached == 0 {
		t.Errorf("never found: %+v", lost.Held)
	}
	if lost := told(look("1", "b", 5, line.FoundGone, "coyote"), look("2", "b", 8, line.FoundCatch, "bobcat", "bobcat")).Found(); lost.Held.Kept != 0 || lost.Held.Reached == 0 {
		t.Errorf("what a later look caught is not what was gone: %+v", lost.Held)
	}
	if other := told(look("1", "b", 5, line.FoundStepped, "bobcat"), look("2", "b", 6, line.FoundStepped, "")); other != (nights.Telling{}) {
		t.Errorf("of others: %+v", other)
	}
	also := look("1", "b", 5, line.FoundQuiet, "")
	also.Also = []line.Found{{Finding: line.FoundStepped, Animal: "coyote"}}
	// Under a crust a step shows more seldom, so that one that shows stands for more.
	plain := look("1", "b", 5, line.FoundStepped, "coyote")
	crusted := plain
	crusted.Bed = line.FeltCrusted
	if under := told(crusted).Found().Fires.Reached; under <= 2*told(plain).Found().Fires.Reached {
		t.Errorf("under a crust it stands for %g", under)
	}
	if told(also).Found().Fires.Reached == 0 {
		t.Error("what stands beside the main finding tells nothing")
	}
}

// An account says what was promised and what came, of all, of each target and of each at each kind, how far that leaves it open, at which link a
// target is lost, and at which sets most are.
func TestAnAccount(t *testing.T) {
	var looks []line.Visit
	for i, found := range []line.Finding{line.FoundStood, line.FoundStood, line.FoundStood, line.FoundStepped} {
		looks = append(looks, look(string(rune('1'+i)), "b", 3+i, found, "coyote"))
	}
	looks = append(looks, look("6", "a", 4, line.FoundStood, "coyote"), look("7", "b", 9, line.FoundCatch, "bobcat", "bobcat"))
	a, err := AccountOf(recordOf(looks...), map[string]Make{"a": said("a", 10), "b": said("b", 10)}, animal.Reference)
	if err != nil {
		t.Fatal(err)
	}
	if len(a.Targets) != 2 || len(a.Kinds) != 4 || a.All.Caught != 1 || math.Abs(a.All.Expected-1.98) > 1e-9 || a.All.Low > .03 || a.All.High < 5.5 || a.All.High > 5.6 {
		t.Errorf("%+v", a) // of one that came, chance leaves .025 to 5.57
	}
	of := map[string]Lost{}
	for _, l := range a.Lost {
		of[l.Animal] = l
	}
	coyote := of["coyote"]
	if coyote.Told.Leak == nil || *coyote.Told.Leak != "steps" || coyote.Told.Sure {
		t.Fatalf("coyotes are lost: %+v", coyote.Told)
	}
	if cat := of["bobcat"]; cat.Links.Held.Kept != 1 || cat.Links.Held.Reached != 1 {
		t.Errorf("bobcats: %+v", cat.Links)
	}
	if at := coyote.At; len(at) != 2 || at[0].SetID != "B" || at[0].Lost != 10 || at[1].SetID != "A" {
		t.Errorf("lost at %+v", at)
	}
	// What is told of a link is what the findings behind it come to, in the order in which they were found.
	showed := ShowedOf(recordOf(looks...), map[string]Make{"a": said("a", 10), "b": said("b", 10)}, "coyote")
	reached, lost := 0.0, 0.0
	for i, one := range showed {
		if i > 0 && one.At.Before(showed[i-1].At) {
			t.Errorf("%+v stands before %+v", showed[i-1], one)
		}
		if kept, there := one.Kept["steps"]; there {
			reached += one.Counts
			if !kept {
				lost += one.Counts
			}
		}
	}
	if len(showed) != 5 || math.Abs(reached-coyote.Links.Steps.Reached) > 1e-9 || math.Abs(reached-lost-coyote.Links.Steps.Kept) > 1e-9 || showed[0].SetID != "B" || showed[4].Kept["steps"] != true {
		t.Errorf("%+v come to %g, %g of them lost; told is %+v", showed, reached, lost, coyote.Links.Steps)
	}
}

// Marked prints count where they tell how an animal stood: at the attractor by how far from it, along a way by what lies between one and the next;
// not those of what was caught, nor of another animal, nor of another season.
func TestWhichPrintsCount(t *testing.T) {
	prints := []line.Print{{XMm: 40, YMm: 250}, {XMm: -40, YMm: 270}}
	marked := func(l layout.Layout, f line.Finding, animalKey string, prints []line.Print, span tally.Span) learn.Prints {
		v := look("1", "b", 5, f, animalKey)
		v.Prints = prints
		rec := recordOf(v)
		rec.Span = span
		for i := range rec.Makes {
			rec.Makes[i].Layout = l
		}
		return Of(rec, map[string]Make{"b": said("b", 10)}, animal.Reference).Prints["coyote"]
	}
	hole := layout.Layout{Pattern: "hole", Attractors: []layout.Attractor{{YMm: 10}}, Rigs: []layout.Rig{{}}}
	if got := marked(hole, line.FoundStood, "coyote", prints, tally.Span{}); !slices.Equal(got.Reach, []float64{240, 260}) || got.Step != nil {
		t.Errorf("at a hole: %+v", got)
	}
	trail := layout.Layout{Pattern: "trail", Way: &layout.Way{BearingDeg: 90}, Rigs: []layout.Rig{{}}}
	if got := marked(trail, line.FoundPassed, "coyote", []line.Print{{YMm: 700}, {YMm: 0}, {YMm: 330}}, tally.Span{}); !slices.Equal(got.Step, []float64{330, 370}) || got.Reach != nil {
		t.Errorf("along a way: %+v", got)
	}
	for what, got := range map[string]learn.Prints{
		"of what was caught": marked(hole, line.FoundGone, "coyote", prints, tally.Span{}), "of a bobcat": marked(hole, line.FoundStood, "bobcat", prints, tally.Span{}),
		"of another season": marked(hole, line.FoundStood, "coyote", prints, tally.Span{From: time.Date(2030, 1, 1, 0, 0, 0, 0, time.UTC)}),
	} {
		if !got.IsZero() {
			t.Errorf("%s: %+v", what, got)
		}
	}
	two := Season{Prints: map[string]learn.Prints{"coyote": {Reach: []float64{1}}}}.With(Season{Prints: map[string]learn.Prints{"coyote": {Reach: []float64{2}}, "bobcat": {Step: []float64{3}}}})
	if at := two.At(""); !slices.Equal(at.Animals["coyote"].Prints.Reach, []float64{1, 2}) || !slices.Equal(at.Animals["bobcat"].Prints.Step, []float64{3}) {
		t.Errorf("two seasons: %+v", at)
	}
}
