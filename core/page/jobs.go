package page

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"oldburrow/core/advice"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
)

// JobsView is what is worth doing over the line with so many minutes and the traps that are free: what to do, that which brings most a minute first, and
// what does not fit into it. Told is of how many of its sets and free spots it is made out as they stand now; the others are being weighed.
type JobsView struct {
	Jobs    []JobTold `json:"jobs"`
	Rest    []JobTold `json:"rest"`
	Gain    float64   `json:"gain"`
	Minutes float64   `json:"minutes"`
	Costly  []string  `json:"costly"` // spots whose sets bring too little for the looks that they ask
	Traps   []string  `json:"traps"`  // that are free, and were planned with
	Told    int       `json:"told"`
	Of      int       `json:"of"`
}

// JobTold is a job with how it is done: what is otherwise at the set, or the set that is built.
type JobTold struct {
	advice.Job
	Change  *advice.BetterChange `json:"change" jsonschema:"nullable"`
	Pattern string               `json:"pattern"`
	Layout  *layout.Layout       `json:"layout" jsonschema:"nullable"`
}

// WeighForm counts the forms of what is weighed, with the computation that weighs it: of another form it is weighed anew.
var WeighForm = fmt.Sprintf("%d.1", odds.Version)

// usualMinutes is how long somebody works where nobody says. A judgement.
const usualMinutes = 120.0

// Figures of the way to a spot where no set stands: judgements.
const (
	roundabout = 1.3
	walkM      = 70.0 // a minute
)

// weighing is one thing that is weighed: a set that stands, or a spot where none does. What it is weighed by is told by its basis.
type weighing struct {
	key, basis string
	standing   line.Make
	spot       line.Spot
}

// weighings are all of them, those of the newest looks first.
func (r Reading) weighings(record shed.Record) ([]weighing, error) {
	rack, err := record.Rack()
	if err != nil {
		return nil, err
	}
	spots, err := r.Spots(r.Of.ID)
	if err != nil {
		return nil, err
	}
	form := WeighForm + " " + r.Now.In(r.Zone).Format("2006-01-02")
	var found []weighing
	busy := map[string]bool{}
	for _, m := range record.Standing() {
		busy[record.Set(m.SetID).SpotID] = true
		if record.Bead(m).State == line.Open {
			continue // it has to be made again first
		}
		basis := []string{form, m.ID}
		if look := record.LastLook(m.ID); look != nil {
			basis = append(basis, look.ID, fmt.Sprint(look.MendedAt))
		}
		for _, h := range rack {
			if _, in := m.Layout.RigWith(h.Trap.ID); in {
				basis = append(basis, fmt.Sprint(len(h.Checks), len(h.Faults)))
			}
		}
		found = append(found, weighing{"set " + m.SetID, strings.Join(basis, " "), m, line.Spot{}})
	}
	slices.SortStableFunc(found, func(a, b weighing) int { return record.LastSeen(b.standing).Compare(record.LastSeen(a.standing)) })
	for _, spot := range spots {
		if !busy[spot.ID] {
			found = append(found, weighing{"spot " + spot.ID, fmt.Sprint(form, spot.Version), line.Make{}, spot})
		}
	}
	return found, nil
}

// jobs plans them.
func jobs(r Reading, q Asked) (any, error) {
	record, err := r.Shed()
	if err != nil {
		return nil, err
	}
	wanted, err := r.weighings(record)
	if err != nil {
		return nil, err
	}
	kept, err := r.Weighed(r.Of.ID)
	if err != nil {
		return nil, err
	}
	have, nights, err := r.have(record, q)
	if err != nil {
		return nil, err
	}
	view := JobsView{Of: len(wanted), Traps: have.Traps}
	if kept, err = r.weighedHere(wanted, kept); err != nil {
		return nil, err
	}
	var sets []advice.AtSet
	var spots []advice.AtSpot
	for _, w := range wanted {
		k := w.in(kept)
		if k == nil {
			continue
		}
		view.Told++
		if k.Set != nil {
			sets = append(sets, k.Set.Over(nights))
		} else if k.Spot != nil {
			spots = append(spots, k.Spot.Over(nights))
		}
	}
	plan, err := advice.Planned(sets, spots, have)
	if err != nil {
		return nil, err
	}
	view.Jobs, view.Rest, view.Gain, view.Minutes, view.Costly = told(plan.Jobs, sets, spots), told(plan.Rest, sets, spots), plan.Gain, plan.Minutes, plan.Costly
	return view, nil
}

// in is it as it was weighed; nil where it was not, as it stands now.
func (w weighing) in(kept []advice.Kept) *advice.Kept {
	for i, k := range kept {
		if k.Key == w.key && k.Basis == w.basis {
			return &kept[i]
		}
	}
	return nil
}

// mostHere is how many are weighed at once where no program does it in the background.
const mostHere = 3

// weighedHere is what was weighed, with what is missing where that is little and no program weighs it: what was done since it was taken along.
func (r Reading) weighedHere(wanted []weighing, kept []advice.Kept) ([]advice.Kept, error) {
	missing := slices.DeleteFunc(slices.Clone(wanted), func(w weighing) bool { return w.in(kept) != nil })
	if _, here := r.Source.(*Bundle); !here || len(missing) > mostHere {
		return kept, nil
	}
	kept = slices.Clone(kept)
	for _, w := range missing {
		found, ok, err := r.Weigh(context.Background(), w.key)
		if err != nil {
			return nil, err
		}
		if ok {
			kept = append(kept, found)
		}
	}
	return kept, nil
}

func told(jobs []advice.Job, sets []advice.AtSet, spots []advice.AtSpot) []JobTold {
	found := []JobTold{}
	for _, j := range jobs {
		one := JobTold{Job: j}
		switch j.Kind {
		case advice.JobChange:
			i := slices.IndexFunc(sets, func(at advice.AtSet) bool { return at.SetID == j.SetID })
			one.Change = sets[i].Change
		case advice.JobBuild, advice.JobMove:
			i := slices.IndexFunc(spots, func(at advice.AtSpot) bool { return at.SpotID == j.SpotID })
			one.Pattern, one.Layout = spots[i].Pattern, spots[i].Layout
		}
		found = append(found, one)
	}
	return found
}

// have is what there is to work with, as it is asked, and over how many nights; 0 where nobody says.
func (r Reading) have(record shed.Record, q Asked) (have advice.Have, nights float64, err error) {
	var p refuse.Problems
	number := func(field string, usual, most float64) float64 {
		if q.Query[field] == "" {
			return usual
		}
		n, err := strconv.ParseFloat(q.Query[field], 64)
		if err != nil {
			p.Add(field, "must be a number, not %q", q.Query[field])
			return usual
		}
		p.Within(field, n, 0, most, "")
		return n
	}
	have.Minutes, nights = number("minutes", usualMinutes, 24*60), number("nights", 0, 366)
	if err := p.Err(); err != nil {
		return have, 0, err
	}
	rack, err := record.Rack()
	if err != nil {
		return have, 0, err
	}
	have.Traps, have.Without = []string{}, listed(q.Query["without"])
	only := listed(q.Query["traps"])
	for _, h := range rack {
		if h.Fit() && line.HasJaws(h.Trap.Type) && (len(only) == 0 || slices.Contains(only, h.Trap.ID)) {
			have.Traps = append(have.Traps, h.Trap.ID)
		}
	}
	have.Away, err = r.away(record)
	return have, nights, err
}

func listed(of string) []string {
	return strings.FieldsFunc(of, func(c rune) bool { return c == ',' })
}

// away is how many minutes each spot lies off the sets that are looked at in any case, there and back.
func (r Reading) away(record shed.Record) (map[string]float64, error) {
	spots, err := r.Spots(r.Of.ID)
	if err != nil {
		return nil, err
	}
	var seen []line.Spot
	for _, m := range record.Standing() {
		for _, spot := range spots {
			if spot.ID == record.Set(m.SetID).SpotID {
				seen = append(seen, spot)
			}
		}
	}
	found := map[string]float64{}
	for _, spot := range spots {
		plane := ground.PlaneAbout(ground.Fix{LatDeg: spot.LatDeg, LonDeg: spot.LonDeg})
		for i, other := range seen {
			takes := 2 * roundabout * ground.Apart(plane.At(ground.Fix{LatDeg: other.LatDeg, LonDeg: other.LonDeg}), [2]float64{}) / walkM
			if i == 0 || takes < found[spot.ID] {
				found[spot.ID] = takes
			}
		}
	}
	return found, nil
}

// Unweighed are the keys of what is not weighed as it stands now, those of the newest looks first, and those of what is kept and wanted no more.
func (r Reading) Unweighed() (missing, over []string, err error) {
	record, err := r.Shed()
	if err != nil {
		return nil, nil, err
	}
	wanted, err := r.weighings(record)
	if err != nil {
		return nil, nil, err
	}
	kept, err := r.Weighed(r.Of.ID)
	for _, w := range wanted {
		if w.in(kept) == nil {
			missing = append(missing, w.key)
		}
	}
	for _, k := range kept {
		if !slices.ContainsFunc(wanted, func(w weighing) bool { return w.key == k.Key }) {
			over = append(over, k.Key)
		}
	}
	return missing, over, err
}

// Weigh weighs one of them; false where it is none any more.
func (r Reading) Weigh(ctx context.Context, key string) (advice.Kept, bool, error) {
	record, err := r.Shed()
	if err != nil {
		return advice.Kept{}, false, err
	}
	wanted, err := r.weighings(record)
	if err != nil {
		return advice.Kept{}, false, err
	}
	i := slices.IndexFunc(wanted, func(w weighing) bool { return w.key == key })
	if i < 0 {
		return advice.Kept{}, false, nil
	}
	w := wanted[i]
	found := advice.Kept{Key: w.key, Basis: w.basis}
	drawn, err := r.outlookLine()
	if err != nil {
		return found, false, err
	}
	if w.spot.ID != "" {
		found.Spot, err = r.weighSpot(record, drawn, w.spot)
		return found, true, err
	}
	found.Set, err = r.weighSet(ctx, record, drawn, w.standing)
	return found, true, err
}

func (r Reading) weighSet(ctx context.Context, record shed.Record, drawn outlook.Line, m line.Make) (*advice.AtSet, error) {
	look := line.Visit{MakeID: m.ID, At: r.Now, Found: line.Found{Finding: line.FoundQuiet}}
	if last := record.LastLook(m.ID); last != nil {
		look = *last
	}
	seen, err := r.seen(record, drawn, look)
	if refuse.Known(err) != nil {
		return nil, err
	}
	if err != nil {
		return nil, nil // of a set whose words are not known nothing is claimed
	}
	at, err := seen.WeighSet(ctx, r.Forbids)
	return &at, err
}

func (r Reading) weighSpot(record shed.Record, drawn outlook.Line, spot line.Spot) (*advice.AtSpot, error) {
	ranked, left := map[string][]odds.Ranked{}, 0.0
	targets := record.Targets()
	if len(targets) == 0 {
		targets = r.Animals.TargetKeys()
	}
	for _, target := range targets {
		found, at, err := r.rankAt(drawn, spot.ID, target, nil)
		if err != nil {
			return nil, err
		}
		ranked[target], left = found, advice.Left(at.around)
	}
	at := advice.WeighSpot(spot.ID, left, ranked, func(target string) bool {
		a, err := r.Animals.ByKey(target)
		return err == nil && a.Wary
	})
	return &at, nil
}
