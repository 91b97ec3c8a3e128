package nights

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/line"
	"oldburrow/core/odds"
)

func kind(t testing.TB, key string) animal.Animal {
	t.Helper()
	a, err := animal.Reference.ByKey(key)
	if err != nil {
		t.Fatal(err)
	}
	return a
}

// coyote comes by every other night, and gets through each link by a chance of its own.
func coyote(t testing.TB) odds.Comer {
	return odds.Comer{Animal: kind(t, "coyote"), Passes: .5, Notices: .7, Commits: .6, Steps: .5, Fires: .9, Held: .8, AnchorHold: .9}
}

var clear = Night{Hours: 14, Tells: Well}

// near fails where a share of n differs from what was to be expected by more than three standard errors.
func near(t *testing.T, what string, got, of, want float64) {
	t.Helper()
	if of == 0 || math.Abs(got/of-want) > 3*math.Sqrt(want*(1-want)/of)+1e-12 {
		t.Errorf("%s: %g of %g, want %.3f", what, got, of, want)
	}
}

// drawn draws so many first nights of a set.
func drawn(set Set, night Night, food bool, n int) (all []Event) {
	for i := range n {
		s := Made(food)
		all = s.Draw(all, set, night, 7, 1, i)
	}
	return all
}

func TestEachLinkIsKeptAsOften(t *testing.T) {
	v := coyote(t)
	set := Set{Visitors: []odds.Comer{v}}
	reached := map[odds.LinkKey]float64{}
	for i := range 60000 {
		s := Made(false)
		for _, e := range s.Draw(nil, set, clear, 7, 1, i) {
			for k, key := range odds.LinkKeys {
				if e.Through != "" && slices.Index(odds.LinkKeys, e.Through) >= k {
					reached[key]++
				}
			}
		}
	}
	for i, want := range []float64{v.Notices, v.Commits, v.Steps, v.Fires, v.Held} {
		near(t, string(odds.LinkKeys[i+1]), reached[odds.LinkKeys[i+1]], reached[odds.LinkKeys[i]], want)
	}
	// One or two come for nothing to a trap that is sprung; how often they come is theirs.
	came := float64(len(drawn(set, clear, false, 60000)))
	if want := v.Passes * 60000; math.Abs(came-want) > 3*math.Sqrt(want)+.01*want {
		t.Errorf("%g came, want %g", came, want)
	}
}

// Where one animal is about, what is caught in a trap-night is how often it passes times what its chain says.
func TestCatchesOfATrapNight(t *testing.T) {
	for _, passes := range []float64{.03, .14, .3} {
		v := coyote(t)
		v.Passes = passes
		set, caught, nights := Set{Visitors: []odds.Comer{v}}, 0.0, 0.0
		for i := range 60000 {
			s := Made(false)
			worked := 1.0
			for _, e := range s.Draw(nil, set, clear, 3, 2, i) {
				if e.Shows == line.FoundCatch {
					caught++
				}
				if e.Shows.Facts().Half {
					worked = .5
				}
			}
			nights += worked
		}
		want := passes * v.Notices * v.Commits * v.Steps * v.Fires * v.Held * nights
		if math.Abs(caught-want) > 3*math.Sqrt(want) {
			t.Errorf("passes %g: %g caught in %g nights, want %.0f", passes, caught, nights, want)
		}
	}
}

// What the morning shows of each loss, on each ground, and how often it tells who it was.
func TestWhatTheMorningShows(t *testing.T) {
	// loss is where a visitor is lost: how far it comes, and by which chances.
	type loss struct {
		through odds.LinkKey
		chances odds.Comer
	}
	type shown struct {
		lost   loss
		animal string
		night  Night
		set    Set
		food   bool
		want   map[line.Finding][2]float64 // how often, and of those how often it is known who
	}
	unnoticed := loss{odds.Passes, odds.Comer{}}
	declines := loss{odds.Notices, odds.Comer{Notices: 1}}
	misses := loss{odds.Commits, odds.Comer{Notices: 1, Commits: 1}}
	heavy := loss{odds.Steps, odds.Comer{Notices: 1, Commits: 1, Steps: 1}}
	lost := loss{odds.Fires, odds.Comer{Notices: 1, Commits: 1, Steps: 1, Fires: 1, AnchorHold: .7}}
	held := loss{odds.Held, odds.Comer{Notices: 1, Commits: 1, Steps: 1, Fires: 1, Held: 1, AnchorHold: 1}}
	of := func(l loss, key string) odds.Comer {
		v := l.chances
		v.Animal, v.Passes = kind(t, key), .4
		return v
	}
	at := func(tells Tells) Night { return Night{Hours: 14, Tells: tells} }
	looks := func(chance, not float64, passed float64) map[line.Finding][2]float64 {
		return map[line.Finding][2]float64{line.FoundLooked: {chance * not, .9}, line.FoundPassed: {(1 - chance) * not * passed, .9}}
	}
	with := func(of map[line.Finding][2]float64, f line.Finding, often float64) map[line.Finding][2]float64 {
		of[f] = [2]float64{often, .5}
		return of
	}
	one := func(f line.Finding, often, known float64) map[line.Finding][2]float64 {
		return map[line.Finding][2]float64{f: {often, known}}
	}
	for name, c := range map[string]shown{
		"passed, well":            {unnoticed, "coyote", at(Well), Set{}, false, one(line.FoundPassed, .7, .9)},
		"passed, some":            {unnoticed, "coyote", at(Some), Set{}, false, one(line.FoundPassed, .3, .6)},
		"passed, hardly":          {unnoticed, "coyote", at(Hardly), Set{}, false, one(line.FoundPassed, .02, .2)},
		"stood, well":             {misses, "coyote", at(Well), Set{}, false, one(line.FoundStood, .8, .9)},
		"stood, some":             {misses, "coyote", at(Some), Set{}, false, one(line.FoundStood, .5, .6)},
		"stood, hardly":           {misses, "coyote", at(Hardly), Set{}, false, one(line.FoundStood, .15, .2)},
		"stepped":                 {heavy, "coyote", at(Hardly), Set{}, false, one(line.FoundStepped, .9, .2)},
		"stepped on a crust":      {heavy, "coyote", Night{Hours: 14, Tells: Well, Crusted: true}, Set{}, false, one(line.FoundStepped, .3, .9)},
		"held":                    {held, "coyote", at(Some), Set{}, false, one(line.FoundCatch, 1, 1)},
		"a bobcat only looks":     {declines, "bobcat", at(Well), Set{}, true, looks(.6, 1, .7)},
		"a coyote digs and rolls": {declines, "coyote", at(Well), Set{}, true, with(with(looks(.6, .96*.97, .7), line.FoundDug, .04), line.FoundRolled, .96*.03)},
		"on a loose bed":          {declines, "coyote", at(Well), Set{Loose: true}, false, with(with(looks(.6, .88*.97, .7), line.FoundDug, .12), line.FoundRolled, .88*.03)},
		"scent on the bed":        {declines, "coyote", at(Well), Set{Scented: true}, false, with(with(looks(.6, .88*.88, .7), line.FoundDug, .12), line.FoundRolled, .88*.12)},
		"a fox":                   {declines, "red_fox", at(Well), Set{}, true, with(with(looks(.6, .9*.95, .7), line.FoundDug, .1), line.FoundRobbed, .9*.05)},
		"a raccoon":               {declines, "raccoon", at(Well), Set{}, true, with(with(looks(.6, .75*.6, .7), line.FoundDug, .25), line.FoundRobbed, .75*.4)},
		"a raccoon without food":  {declines, "raccoon", at(Well), Set{}, false, with(looks(.6, .75, .7), line.FoundDug, .25)},
		"an opossum":              {declines, "opossum", at(Well), Set{}, true, with(looks(.6, .7, .7), line.FoundRobbed, .3)},
		"a skunk":                 {declines, "skunk", at(Well), Set{}, true, with(with(looks(.6, .75*.7, .7), line.FoundDug, .25), line.FoundRobbed, .75*.3)},
		"a badger":                {declines, "badger", at(Well), Set{}, true, with(looks(.6, .75, .7), line.FoundDug, .25)},
		"a dog":                   {declines, "dog", at(Well), Set{}, true, with(looks(.6, .95, .7), line.FoundRolled, .05)},
	} {
		c.set.Visitors = []odds.Comer{of(c.lost, c.animal)}
		n, found, known := 0.0, map[line.Finding]float64{}, map[line.Finding]float64{}
		for i := range 30000 {
			s := Made(c.food)
			if all := s.Draw(nil, c.set, c.night, 5, 9, i); len(all) > 0 && all[0].Through == c.lost.through { // who comes later finds another set
				n++
				if found[all[0].Shows]++; all[0].Known {
					known[all[0].Shows]++
				}
			}
		}
		for f, share := range c.want {
			near(t, name+", "+string(f), found[f], n, share[0])
			near(t, name+", "+string(f)+" known", known[f], found[f], share[1])
		}
		for f := range found {
			if _, ok := c.want[f]; !ok && f != line.FoundQuiet {
				t.Errorf("%s: %s", name, f)
			}
		}
	}
	// What a trap does not hold is gone with it where its anchor gave, and else lost or sprung.
	n, found := 0.0, map[line.Finding]float64{}
	for _, e := range drawn(Set{Visitors: []odds.Comer{of(lost, "coyote")}}, at(Some), false, 30000) {
		if e.Through == odds.Fires {
			n++
			found[e.Shows]++
		}
	}
	near(t, "gone", found[line.FoundGone], n, .3)
	near(t, "lost", found[line.FoundLost], n, .7*.4)
	near(t, "sprung", found[line.FoundSprung], n, .7*.6)
	var caught, gone, again float64
	for _, e := range drawn(Set{Visitors: []odds.Comer{of(held, "coyote")}, Drag: true}, at(Some), false, 30000) {
		switch {
		case e.Through == odds.Held && e.Shows == line.FoundCatch:
			caught++
		case e.Through == odds.Held && e.Shows == line.FoundGone:
			gone++
			if e.Found != e.Known {
				t.Fatalf("found %v, known %v", e.Found, e.Known)
			}
			if e.Found {
				again++
			}
		}
	}
	near(t, "walks off with its drag", gone, caught+gone, .5)
	near(t, "is found that day", again, gone, .9)
}

// What a trap holds, an open bed and a lock leave nothing to those that come later; a second trap goes on.
func TestOneAfterAnother(t *testing.T) {
	sureOf := odds.Comer{Animal: kind(t, "coyote"), Passes: 2, Notices: 1, Commits: 1, Steps: 1, Fires: 1, Held: 1, AnchorHold: 1}
	digger := odds.Comer{Animal: kind(t, "raccoon"), Passes: 1, Notices: 1, Commits: 0}
	withTwo := func(v odds.Comer) odds.Comer {
		v.Traps = []float64{.5, .5}
		return v
	}
	for _, c := range []struct {
		name  string
		set   Set
		night Night
	}{
		{"one trap", Set{Visitors: []odds.Comer{sureOf, digger}}, clear},
		{"two traps", Set{Visitors: []odds.Comer{withTwo(sureOf), withTwo(digger)}}, clear},
		{"from midnight on locked", Set{Visitors: []odds.Comer{sureOf}}, Night{Hours: 14, LocksAt: new(6.0), Tells: Well}},
	} {
		most, later, traps := 0, 0, len(trapsOf(c.set.Visitors[0]))
		for i := range 4000 {
			s := Made(true)
			fired, open := map[int]bool{}, false
			var hour float64
			for _, e := range s.Draw(nil, c.set, c.night, 11, 4, i) {
				if e.Visitor < 0 {
					if e.Shows != line.FoundLocked || e.HourH != 6 {
						t.Fatalf("%s: %+v", c.name, e)
					}
					continue
				}
				if e.HourH < hour || e.HourH > c.night.Hours {
					t.Fatalf("%s: at %g after %g", c.name, e.HourH, hour)
				}
				hour = e.HourH
				over := open || len(fired) == traps || c.night.LocksAt != nil && hour >= 6
				if over != (e.Through == "") {
					t.Fatalf("%s: %+v, over %v", c.name, e, over)
				}
				if over {
					if later++; !slices.Contains([]line.Finding{line.FoundQuiet, line.FoundLooked, line.FoundPassed}, e.Shows) {
						t.Fatalf("%s: %+v at what fires no more", c.name, e)
					}
				}
				if e.Trap >= 0 {
					if fired[e.Trap] {
						t.Fatalf("%s: trap %d fires twice", c.name, e.Trap)
					}
					fired[e.Trap] = true
				}
				open = open || e.Shows == line.FoundDug || e.Shows == line.FoundRolled
			}
			if most = max(most, len(fired)); open != s.Open {
				t.Fatalf("%s: open %v", c.name, s.Open)
			}
		}
		if most != traps || later == 0 {
			t.Errorf("%s: %d traps fired, %d came later", c.name, most, later)
		}
	}
	// Which of two traps is fired is as their shares; what is gone of food is gone.
	v := sureOf
	v.Passes, v.Traps = .3, []float64{.8, .2}
	var first, all float64
	for _, e := range drawn(Set{Visitors: []odds.Comer{v}}, clear, false, 20000) {
		if e.Trap >= 0 && all < 1e9 {
			if all++; e.Trap == 0 {
				first++
			}
		}
	}
	if share := first / all; share < .74 || share > .8 { // the few second ones meet the other
		t.Errorf("the first trap fires %.3f of the time", share)
	}
	s := Made(true)
	robber := odds.Comer{Animal: kind(t, "raccoon"), Passes: 1, Notices: 1}
	robbed := 0
	for i := range 100 {
		for _, e := range s.Draw(nil, Set{Visitors: []odds.Comer{robber}}, clear, 1, 1, i) {
			if e.Shows == line.FoundRobbed {
				robbed++
			}
		}
		s.Open = false
	}
	if robbed != 1 || s.Food {
		t.Errorf("robbed %d times of the same food", robbed)
	}
}

// Prints last some nights, or until rain or snow; what was done stays to be seen; a look tells the gravest first, and each thing once.
func TestALookTellsWhatIsLeft(t *testing.T) {
	var quiet Set
	left := func() *Stand {
		s := Made(true)
		for _, f := range []line.Finding{line.FoundPassed, line.FoundLocked, line.FoundDug, line.FoundStood, line.FoundCatch, line.FoundStepped, line.FoundLooked, line.FoundGone} {
			s.left = append(s.left, trace{Event: Event{Shows: f}})
		}
		return &s
	}
	told := func(s *Stand) (all []line.Finding) {
		for _, e := range s.Look() {
			all = append(all, e.Shows)
		}
		return all
	}
	lasting := []line.Finding{line.FoundGone, line.FoundCatch, line.FoundDug, line.FoundLocked}
	whole := []line.Finding{line.FoundGone, line.FoundCatch, line.FoundDug, line.FoundStepped, line.FoundStood, line.FoundLooked, line.FoundPassed, line.FoundLocked}
	for name, c := range map[string]struct {
		nights []Night
		want   []line.Finding
	}{
		"the same morning": {nil, whole},
		"two nights on":    {[]Night{clear, clear}, whole},
		"three nights on":  {[]Night{clear, clear, clear}, lasting},
		"rain":             {[]Night{{Hours: 14, RainMm: 2}}, lasting},
		"hardly any rain":  {[]Night{{Hours: 14, RainMm: 1.9, SnowMm: 4.9}}, whole},
		"snow":             {[]Night{{Hours: 14, SnowMm: 5}}, lasting},
	} {
		s := left()
		for i, night := range c.nights {
			s.Draw(nil, quiet, night, 1, 1, i)
		}
		if got := told(s); !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", name, got, c.want)
		}
		if got := told(s); len(got) != 0 {
			t.Errorf("%s: and again %v", name, got)
		}
	}
	for _, f := range line.Findings {
		if f.Facts().Reached != "" && !slices.Contains(gravest, f) {
			t.Errorf("%s is not told", f)
		}
	}
}

// A night is drawn by seed, set and number, whatever was drawn before it.
func TestTheSameNightIsTheSame(t *testing.T) {
	v := coyote(t)
	v.Passes = 2
	set := Set{Visitors: []odds.Comer{v}}
	draw := func(seed, number uint64, n int) string {
		s := Made(true)
		return fmt.Sprint(s.Draw(nil, set, clear, seed, number, n))
	}
	once := draw(1, 2, 3)
	if draw(1, 2, 3) != once {
		t.Error("drawn again it is another")
	}
	seen := map[string]bool{once: true}
	for _, other := range [][3]int{{2, 2, 3}, {1, 3, 3}, {1, 2, 4}, {2, 1, 3}, {3, 2, 1}} {
		if night := draw(uint64(other[0]), uint64(other[1]), other[2]); seen[night] {
			t.Errorf("%v is the same as another", other)
		} else {
			seen[night] = true
		}
	}
	// No sure thing is surer than the surest, and at most three of a kind come.
	v.Passes, v.Notices = 30, 1
	came, passed := 0, 0
	for i := range 3000 {
		s := Made(false)
		all := s.Draw(nil, Set{Visitors: []odds.Comer{v}}, clear, 1, 1, i)
		if len(all) != 3 {
			t.Fatalf("%d came", len(all))
		}
		if came++; all[0].Through == odds.Passes {
			passed++
		}
	}
	near(t, "not noticed", float64(passed), float64(came), .02)
}

// What a finding tells of the chain is what happened.
func TestFindingsTellTheLink(t *testing.T) {
	v := coyote(t)
	for _, e := range drawn(Set{Visitors: []odds.Comer{v}}, clear, true, 20000) {
		says := e.Shows.Facts().Reached
		switch {
		case e.Shows == line.FoundQuiet || e.Through == "":
		case e.Shows == line.FoundPassed && e.Through == odds.Notices: // it noticed the set, and no print told so
		case says != e.Through:
			t.Fatalf("%s says %s, it came through %s", e.Shows, says, e.Through)
		}
	}
}

func BenchmarkNights(b *testing.B) {
	var set Set
	for _, a := range animal.Reference {
		set.Visitors = append(set.Visitors, odds.Comer{Animal: a, Passes: .08, Notices: .7, Commits: .6, Steps: .5, Fires: .9, Held: .8, AnchorHold: .9})
	}
	var into []Event
	b.ReportAllocs()
	for i := range b.N {
		s := Made(true)
		into = s.Draw(into[:0], set, clear, 1, 1, i)
	}
	b.ReportMetric(float64(b.N)/b.Elapsed().Seconds(), "nights/s")
}
