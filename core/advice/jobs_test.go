package advice

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
)

// drawnJobs is a line with some sets and free spots.
func drawnJobs(rng *rand.Rand) (sets []AtSet, spots []AtSpot, have Have) {
	have = Have{Minutes: float64(20 + rng.IntN(300)), Away: map[string]float64{}}
	for i := range 2 + rng.IntN(12) {
		at := AtSet{SetID: fmt.Sprint("s", i), SpotID: fmt.Sprint("at", i/2), Target: "coyote", Left: 14, Now: rng.Float64() * .05, Faulty: []string{}}
		if rng.IntN(2) == 0 {
			at.Change = &BetterChange{Mend: "rebed", After: line.FoundDug, Layout: &layout.Layout{}, More: rng.Float64() - .1, Minutes: float64(rng.IntN(20))}
		}
		if rng.IntN(4) == 0 {
			at.Faulty = []string{fmt.Sprint("bad", i)}
		}
		sets = append(sets, at)
	}
	for i := range rng.IntN(6) {
		rigs := make([]layout.Rig, 1+rng.IntN(2))
		spots = append(spots, AtSpot{SpotID: fmt.Sprint("free", i), Left: 14, Target: "red_fox", Pattern: "hole", Layout: &layout.Layout{Rigs: rigs}, Night: rng.Float64() * .1, Lost: 1.6, Minutes: 30})
		have.Away[fmt.Sprint("free", i)] = float64(rng.IntN(40))
	}
	for i := range rng.IntN(5) {
		have.Traps = append(have.Traps, fmt.Sprint("t", i))
	}
	return sets, spots, have
}

// Whatever is planned fits into the hours, stands at no place twice and takes no trap twice; what is not wanted is not there; and with more time no less is
// brought.
func TestWhatIsPlannedCanBeDone(t *testing.T) {
	rng := rand.New(rand.NewPCG(33, 4))
	kinds := map[JobKind]bool{}
	for range 300 {
		sets, spots, have := drawnJobs(rng)
		plan, err := Planned(sets, spots, have)
		if err != nil {
			t.Fatal(err)
		}
		places, traps, minutes, gain := map[string]bool{}, map[string]bool{}, 0.0, 0.0
		for _, j := range plan.Jobs {
			kinds[j.Kind] = true
			minutes, gain = minutes+j.Minutes, gain+j.Gain
			used := []string{"set " + j.SetID}
			switch j.Kind {
			case JobBuild:
				used = []string{"spot " + j.SpotID}
			case JobMove:
				used = append(used, "spot "+j.SpotID)
			}
			for _, place := range used {
				if places[place] {
					t.Fatalf("%s is worked at twice: %+v", place, plan.Jobs)
				}
				places[place] = true
			}
			for _, need := range j.needs {
				if trap, is := strings.CutPrefix(need, "trap "); is {
					if traps[trap] {
						t.Fatalf("%s is taken twice: %+v", trap, plan.Jobs)
					}
					traps[trap] = true
				}
			}
			if j.Gain < leastGain || j.Minutes < leastMinutes {
				t.Fatalf("%+v is hardly worth it", j)
			}
		}
		if minutes > have.Minutes+tied || minutes != plan.Minutes && minutes-plan.Minutes > 1e-9 || gain-plan.Gain > 1e-9 {
			t.Fatalf("%g minutes of %g, %g animals: %+v", minutes, have.Minutes, gain, plan)
		}
		for _, j := range plan.Rest {
			if slices.ContainsFunc(plan.Jobs, func(x Job) bool { return x.place() == j.place() }) {
				t.Fatalf("%s is told twice", j.Key)
			}
		}
		if len(plan.Jobs) > 0 {
			have.Without = []string{plan.Jobs[0].Key}
			less, err := Planned(sets, spots, have)
			if err != nil || slices.ContainsFunc(append(less.Jobs, less.Rest...), func(j Job) bool {
				return j.Key == have.Without[0] || plan.Jobs[0].Kind == JobBuild && j.Kind == JobBuild && j.place() == plan.Jobs[0].place()
			}) {
				t.Fatalf("what is not wanted is there: %+v, %v", less, err)
			}
		}
	}
	for _, kind := range JobKinds {
		if !kinds[kind] {
			t.Errorf("no %s was ever planned", kind)
		}
	}
}

// Over fewer nights a change brings less, in their measure, and what a new set loses by settling stays.
func TestOverFewerNights(t *testing.T) {
	set := AtSet{Left: 20, Now: .1, Change: &BetterChange{More: 2}}
	if got := set.Over(5); got.Left != 5 || got.Change.More != .5 || set.Change.More != 2 {
		t.Errorf("a set over five of twenty nights: %+v", got)
	}
	if got := set.Over(0); got.Left != 20 || got.Change.More != 2 {
		t.Errorf("nobody says over how many: %+v", got)
	}
	spot := AtSpot{Left: 20, Night: .1, Lost: 1.6}
	if got := spot.Over(5); got.brings() < .339 || got.brings() > .341 {
		t.Errorf("a spot over five nights brings %g", got.brings())
	}
	if got := spot.Over(1); got.brings() != 0 {
		t.Errorf("a spot over one night brings %g", got.brings())
	}
}

// Of a spot the best of what nothing lacks for stands, for whichever target; a wary one's settling counts, but not in a blind set.
func TestTheBestAtASpot(t *testing.T) {
	way := func(pattern string, mid float64, lacks ...string) []odds.Ranked {
		return []odds.Ranked{{Pattern: pattern, Layout: layout.Layout{Pattern: pattern}, Per100: odds.Range{Mid: mid}, Minutes: 20, Lacks: lacks}}
	}
	wary := func(target string) bool { return target == "coyote" }
	at := WeighSpot("x", 14, map[string][]odds.Ranked{"coyote": way("hole", 3), "red_fox": way("tuft", 2), "bobcat": way("snow_post", 9, "snow")}, wary)
	if at.Target != "coyote" || at.Pattern != "hole" || at.Night != .03 || at.Lost != odds.ToSettle() || at.Lost < 1.59 || at.Lost > 1.61 {
		t.Errorf("%+v", at)
	}
	if at = WeighSpot("x", 14, map[string][]odds.Ranked{"coyote": way("trail", 3)}, wary); at.Lost != 0 {
		t.Errorf("a blind set settles: %+v", at)
	}
	if at = WeighSpot("x", 14, nil, wary); at.Layout != nil {
		t.Errorf("nothing is claimed, and told: %+v", at)
	}
}

// Spots are named whose sets bring less than a fifth of what the others do, where there are enough to compare.
func TestCostlySpots(t *testing.T) {
	sets := []AtSet{{SpotID: "a", Now: .1}, {SpotID: "a", Now: .1}, {SpotID: "b", Now: .1}, {SpotID: "c", Now: .01}, {SpotID: "c", Now: .001}}
	if got := costlySpots(sets); !slices.Equal(got, []string{"c"}) {
		t.Errorf("%v", got)
	}
	if got := costlySpots(sets[2:]); len(got) != 0 {
		t.Errorf("of three sets: %v", got)
	}
}
