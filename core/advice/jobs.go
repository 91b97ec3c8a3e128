package advice

import (
	"cmp"
	"context"
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
)

// AtSet is what can be done at a set that stands, and what that is worth: Now is its catch a night as it stands, told by its barren nights too, over the
// nights that are left. Change is the change that brings most; nil where leaving it is worth about as much. Faulty are traps that stand there with an
// open fault.
type AtSet struct {
	SetID  string        `json:"setId"`
	SpotID string        `json:"spotId"`
	Target string        `json:"target"`
	Left   float64       `json:"left"`
	Now    float64       `json:"now"`
	Change *BetterChange `json:"change" jsonschema:"nullable"`
	Faulty []string      `json:"faulty"`
}

// BetterChange is a change that brings more: the mend that a finding asks for, or a remedy of the bench; how much more over the nights that are left, in
// animals, and its minutes there.
type BetterChange struct {
	Mend    MendKey        `json:"mend"`
	After   line.Finding   `json:"after"`
	Remedy  *odds.Remedy   `json:"remedy" jsonschema:"nullable"`
	Layout  *layout.Layout `json:"layout" jsonschema:"nullable"`
	More    float64        `json:"more"`
	Judged  bool           `json:"judged"`
	Minutes float64        `json:"minutes"`
}

// AtSpot is the best set that could be built at a spot where none stands: for whom, of which pattern, what it catches a night once it has settled, how
// many nights' catch that costs, and its minutes; nil where nothing is claimed of any.
type AtSpot struct {
	SpotID  string         `json:"spotId"`
	Left    float64        `json:"left"`
	Target  string         `json:"target"`
	Pattern string         `json:"pattern"`
	Layout  *layout.Layout `json:"layout" jsonschema:"nullable"`
	Night   float64        `json:"night"`
	Lost    float64        `json:"lost"`
	Minutes float64        `json:"minutes"`
}

// Kept is what was weighed of a set or of a spot, by its key, and by what it was.
type Kept struct {
	Key   string  `json:"key"`
	Basis string  `json:"basis"`
	Set   *AtSet  `json:"set" jsonschema:"nullable"`
	Spot  *AtSpot `json:"spot" jsonschema:"nullable"`
}

// Over is the same of a set over fewer nights; over all that are left where nobody says.
func (at AtSet) Over(nights float64) AtSet {
	if nights <= 0 || nights >= at.Left {
		return at
	}
	if at.Change != nil {
		less := *at.Change
		less.More *= nights / at.Left
		at.Change = &less
	}
	at.Left = nights
	return at
}

// Over is the same of a spot.
func (at AtSpot) Over(nights float64) AtSpot {
	if nights > 0 {
		at.Left = min(at.Left, nights)
	}
	return at
}

// WeighSet says what can be done at a set by its last look. A context that ends ends it.
func (s Seen) WeighSet(ctx context.Context, forbids Forbids) (AtSet, error) {
	at := AtSet{SetID: s.Make.SetID, SpotID: s.Spot.ID, Target: s.Asked.Target.Key, Left: Left(*s.Asked.Circumstances), Faulty: []string{}}
	for _, h := range s.Traps {
		if len(h.Faults) > 0 {
			at.Faulty = append(at.Faulty, h.Trap.ID)
		}
	}
	a, err := s.Advise(ctx, nil, forbids)
	if err != nil || a.Alone == nil {
		return at, err
	}
	at.Now = *a.Alone / a.Left
	if i := slices.IndexFunc(a.Options, func(o Option) bool { return o.Mend == a.First && o.Layout != nil }); i >= 0 {
		o := a.Options[i]
		at.Change = &BetterChange{Mend: o.Mend, After: s.Look.Finding, Layout: o.Layout, More: o.Worth - *a.Alone, Judged: o.Judged, Minutes: o.Minutes}
		return at, nil
	}
	if a.Why == BecausePatience {
		return at, nil
	}
	at.Change, err = s.better(ctx, a, forbids)
	return at, err
}

// better is the change of the bench that brings most over the nights that are left; nil where none brings enough.
func (s Seen) better(ctx context.Context, a Advice, forbids Forbids) (*BetterChange, error) {
	q := s.stands(a.Facts)
	keys := slices.DeleteFunc(odds.RemedyKeys(), func(key odds.RemedyKey) bool {
		return slices.Contains([]odds.RemedyKey{odds.OtherPattern, odds.Wait, odds.HeavierPan, odds.Blend, odds.NoBait}, key)
	})
	offers, err := odds.Offered(ctx, q, keys...)
	if err != nil {
		return nil, err
	}
	weighed, err := odds.Weigh(ctx, q, offers)
	if err != nil {
		return nil, err
	}
	var best *BetterChange
	for _, w := range weighed {
		if w.Key == odds.OtherLure && !q.Stale() {
			continue // any lure is new once; that is no reason to change one that still does its work
		}
		if len(forbids.Broken(*w.Layout, s.Record.Set(s.Make.SetID), q.Target.Key)) > 0 {
			continue
		}
		worth, err := Wait(WaitInput{PerNight: a.PerNight, Nights: a.Nights, Left: a.Left, Change: &WaitChange{Gain: w.Times, Lost: w.Lost}})
		if err != nil {
			return nil, err
		}
		more := *worth.Change - worth.Wait
		if *worth.Change >= worthIt*worth.Wait && (best == nil || more > best.More) {
			w.Remedy.Anew = w.Lost > 0
			best = &BetterChange{Mend: Leave, Remedy: &w.Remedy, Layout: w.Layout, More: more, Minutes: w.Minutes}
		}
	}
	return best, nil
}

// WeighSpot says what the best of what was ranked at a spot is, for each of some targets; the best of all of them stands.
func WeighSpot(spotID string, left float64, ranked map[string][]odds.Ranked, wary func(target string) bool) AtSpot {
	at := AtSpot{SpotID: spotID, Left: left}
	for target, found := range ranked {
		if len(found) == 0 || len(found[0].Lacks) > 0 {
			continue
		}
		best := found[0]
		if night := best.Per100.Mid / 100; night > at.Night || night == at.Night && target < at.Target {
			at.Target, at.Pattern, at.Layout, at.Night, at.Minutes = target, best.Pattern, &best.Layout, night, best.Minutes
			at.Lost = 0
			if wary(target) && !best.Layout.Blind() {
				at.Lost = odds.ToSettle()
			}
		}
	}
	return at
}

// JobKind is what a job is.
type JobKind string

// The jobs.
const (
	JobChange JobKind = "change" // a set is made otherwise
	JobTrap   JobKind = "trap"   // a trap with a fault is taken out
	JobBuild  JobKind = "build"
	JobMove   JobKind = "move" // a set is pulled and built elsewhere
)

// JobKinds lists them.
var JobKinds = []JobKind{JobChange, JobTrap, JobBuild, JobMove}

// Job is one thing that is worth doing: at which set, at which spot, with which trap, each blank where that says nothing; how many animals more it may
// bring over the nights that are left, and its minutes with the way there.
type Job struct {
	Key     string  `json:"key"`
	Kind    JobKind `json:"kind"`
	SetID   string  `json:"setId"`
	SpotID  string  `json:"spotId"`
	TrapID  string  `json:"trapId"`
	Target  string  `json:"target"`
	Gain    float64 `json:"gain"`
	Minutes float64 `json:"minutes"`

	needs []string
}

// Have is what there is to work with: minutes, traps that are free, and how many minutes each spot lies off the way. Jobs by some keys are not wanted.
type Have struct {
	Minutes float64
	Traps   []string
	Away    map[string]float64
	Without []string
}

// Plan is what to do of all that could be done, that which brings most a minute first, with what it comes to; Rest is what does not fit into it, in the
// same order, and Costly are spots whose sets bring too little for the looks that they ask.
type Plan struct {
	Jobs    []Job    `json:"jobs"`
	Rest    []Job    `json:"rest"`
	Gain    float64  `json:"gain"`
	Minutes float64  `json:"minutes"`
	Costly  []string `json:"costly"`
}

// Figures of the jobs; judgements.
const (
	faultyLoses  = .3 // of what a sound trap would hold
	pullMinutes  = 5
	mostMoved    = 3 // sets, and spots to which they may go
	costly       = .2
	leastGain    = .02 // animals: less is within what nobody knows
	leastMinutes = 3   // to stop, get it out and put it away again
	fewSets      = 4   // are too few to compare
)

// Planned plans the jobs of a line.
func Planned(sets []AtSet, spots []AtSpot, have Have) (Plan, error) {
	jobs := slices.Concat(changing(sets), building(spots, have), moving(sets, spots, have))
	for i := range jobs {
		jobs[i].Minutes = max(leastMinutes, jobs[i].Minutes)
	}
	jobs = slices.DeleteFunc(jobs, func(j Job) bool { return j.Gain < leastGain || slices.Contains(have.Without, j.Key) })
	slices.SortStableFunc(jobs, func(a, b Job) int {
		return cmp.Or(cmp.Compare(b.Gain*a.Minutes, a.Gain*b.Minutes), cmp.Compare(a.withTrap(), b.withTrap()))
	})
	in := WorkInput{Minutes: have.Minutes}
	for _, j := range jobs {
		in.Candidates = append(in.Candidates, Candidate{Key: j.withTrap(), Gain: j.Gain, Minutes: j.Minutes, Needs: j.needs})
	}
	out, err := Work(in)
	plan := Plan{Jobs: []Job{}, Rest: []Job{}, Gain: out.Gain, Minutes: out.Minutes, Costly: costlySpots(sets)}
	taken := map[string]bool{}
	for _, j := range jobs {
		if slices.Contains(out.Chosen, j.withTrap()) {
			plan.Jobs = append(plan.Jobs, j)
			taken[j.place()] = true
		}
	}
	for _, j := range jobs {
		if !taken[j.place()] { // once for a set, once for a spot
			plan.Rest, taken[j.place()] = append(plan.Rest, j), true
		}
	}
	return plan, err
}

// withTrap tells a job from the same with another trap: who leaves one out means it with whichever.
func (j Job) withTrap() string { return j.Key + " " + j.TrapID }

// place is where a job is done.
func (j Job) place() string {
	if j.Kind == JobBuild {
		return "spot " + j.SpotID
	}
	return "set " + j.SetID
}

func changing(sets []AtSet) (jobs []Job) {
	for _, at := range sets {
		if c := at.Change; c != nil {
			jobs = append(jobs, Job{
				Key: "change " + at.SetID, Kind: JobChange, SetID: at.SetID, SpotID: at.SpotID, Target: at.Target, Gain: c.More, Minutes: c.Minutes, needs: []string{"set " + at.SetID},
			})
		}
		if len(at.Faulty) > 0 {
			jobs = append(jobs, Job{
				Key: "trap " + at.SetID, Kind: JobTrap, SetID: at.SetID, SpotID: at.SpotID, TrapID: at.Faulty[0], Target: at.Target,
				Gain: at.Left * at.Now * faultyLoses / (1 - faultyLoses), Minutes: swapMinutes, needs: []string{"set " + at.SetID},
			})
		}
	}
	return jobs
}

// brings is what a new set at a spot brings.
func (at AtSpot) brings() float64 { return max(0, at.Left-at.Lost) * at.Night }

func building(spots []AtSpot, have Have) (jobs []Job) {
	for _, at := range spots {
		if at.Layout == nil || len(at.Layout.Rigs) > len(have.Traps) {
			continue
		}
		for _, trap := range have.Traps {
			jobs = append(jobs, Job{
				Key: "build " + at.SpotID, Kind: JobBuild, SpotID: at.SpotID, TrapID: trap, Target: at.Target, Gain: at.brings(), Minutes: at.Minutes + have.Away[at.SpotID],
				needs: append([]string{"spot " + at.SpotID, "trap " + trap}, others(have.Traps, trap, len(at.Layout.Rigs)-1)...),
			})
		}
	}
	return jobs
}

// others are the traps after one that a set of several takes too.
func others(traps []string, trap string, many int) (needs []string) {
	at := slices.Index(traps, trap)
	for i := range many {
		needs = append(needs, "trap "+traps[(at+1+i)%len(traps)])
	}
	return needs
}

// moving are the poorest sets, each to the best of the spots where nothing stands.
func moving(sets []AtSet, spots []AtSpot, have Have) (jobs []Job) {
	poor, good := slices.Clone(sets), slices.Clone(spots)
	slices.SortStableFunc(poor, func(a, b AtSet) int { return cmp.Compare(a.Now*a.Left, b.Now*b.Left) })
	slices.SortStableFunc(good, func(a, b AtSpot) int { return cmp.Compare(b.brings(), a.brings()) })
	for _, set := range poor[:min(mostMoved, len(poor))] {
		for _, spot := range good[:min(mostMoved, len(good))] {
			if spot.Layout == nil || len(spot.Layout.Rigs) > 1 {
				continue
			}
			jobs = append(jobs, Job{
				Key: "move " + set.SetID + " " + spot.SpotID, Kind: JobMove, SetID: set.SetID, SpotID: spot.SpotID, Target: spot.Target, Gain: spot.brings() - set.Now*set.Left,
				Minutes: pullMinutes + spot.Minutes + have.Away[spot.SpotID], needs: []string{"set " + set.SetID, "spot " + spot.SpotID},
			})
		}
	}
	return jobs
}

// costlySpots are those of which a set brings less than a fifth, for each look, of what the line's sets bring on average.
func costlySpots(sets []AtSet) []string {
	found, sum := []string{}, 0.0
	for _, at := range sets {
		sum += at.Now
	}
	if len(sets) < fewSets {
		return found
	}
	at := map[string]float64{}
	many := map[string]float64{}
	for _, s := range sets {
		at[s.SpotID], many[s.SpotID] = at[s.SpotID]+s.Now, many[s.SpotID]+1
	}
	for _, s := range sets {
		if at[s.SpotID]/many[s.SpotID] < costly*sum/float64(len(sets)) && !slices.Contains(found, s.SpotID) {
			found = append(found, s.SpotID)
		}
	}
	return found
}
