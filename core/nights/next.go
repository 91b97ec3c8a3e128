package nights

import (
	"context"
	"math/rand/v2"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/refuse"
)

// How far ahead a set is drawn, and how often.
const (
	NextNights = 14
	nextRuns   = 2000
	shownRuns  = 5
	usualHours = 14.0 // they only order who comes
)

// Next is what the next nights of a set may bring, if it is looked at every morning and made again as it was where something happened: of so many
// runs the shares in which it holds none of its target, one, or more; holds another animal, or a dog or a cat; was fired and held nothing; was dug
// open, robbed or rolled on; and shows nothing on any morning. First is the night in which half of the runs that hold one have held it, counted from
// one; nil where there are none. Runs that are told night by night stand for the others.
type Next struct {
	Nights   int              `json:"nights"`
	Runs     int              `json:"runs"`
	None     float64          `json:"none"`
	One      float64          `json:"one"`
	More     float64          `json:"more"`
	First    *int             `json:"first" jsonschema:"nullable"`
	Others   float64          `json:"others"`
	Pets     float64          `json:"pets"`
	Lost     float64          `json:"lost"`
	Spoilt   float64          `json:"spoilt"`
	Quiet    float64          `json:"quiet"`
	Mornings [][]line.Finding `json:"mornings"`
}

// NextOf draws the next nights of a set. How many pass is drawn for each run between what the line's record leaves open, so that what is told is
// no surer than that. It refuses a device, of which no chain is claimed.
func NextOf(ctx context.Context, q odds.Question) (Next, error) {
	comers, err := odds.ComersTo(ctx, q, NextNights)
	if err == nil && comers == nil {
		err = refuse.Field("layout.pattern", "is a loop: no footfall is claimed of one")
	}
	if err != nil {
		return Next{}, err
	}
	found := Next{Nights: NextNights, Runs: nextRuns, Mornings: [][]line.Finding{}}
	a := ahead{
		comers: comers, food: q.Layout.Baited(), night: Night{Hours: usualHours, Tells: TellsOf("", "", q.Underfoot)},
		from: max(1, q.Circumstances.Night), caught: q.Circumstances.CaughtBefore, firmness: q.Firmness(),
		set: Set{
			Visitors: slices.Clone(comers),
			Loose:    slices.ContainsFunc(q.Layout.Rigs, func(r layout.Rig) bool { return r.Bed.Firm != nil && !*r.Bed.Firm }),
			Drag:     slices.ContainsFunc(q.Layout.Anchors, func(a layout.Anchor) bool { return layout.Drags(a.Kind) && !a.Tied }),
		},
	}
	var firsts []int
	for run := range nextRuns {
		if err := ctx.Err(); err != nil {
			return Next{}, err
		}
		r := a.run(run)
		found.count(r)
		if r.first > 0 {
			firsts = append(firsts, r.first)
		}
		if run < shownRuns {
			found.Mornings = append(found.Mornings, r.mornings)
		}
	}
	for _, share := range []*float64{&found.None, &found.One, &found.More, &found.Others, &found.Pets, &found.Lost, &found.Spoilt, &found.Quiet} {
		*share /= nextRuns
	}
	if len(firsts) > 0 {
		slices.Sort(firsts)
		found.First = &firsts[len(firsts)/2]
	}
	return found, nil
}

// ahead is a set with its next nights before it.
type ahead struct {
	comers []odds.Comer
	set    Set
	night  Night
	food   bool
	from   int // the night since it was built that comes next
	caught bool

	firmness float64 // with which it is believed how many pass
}

// run is one course of them.
type run struct {
	held, others, pets, lost, spoilt int
	first                            int
	mornings                         []line.Finding
}

func (a ahead) run(number int) (r run) {
	prior := distuv.Gamma{Alpha: a.firmness, Beta: a.firmness, Src: rand.NewPCG(uint64(number), 1)}
	times, age, caught := prior.Rand(), a.from, a.caught
	stand := Made(a.food)
	var events []Event
	for n := range NextNights {
		for i, c := range a.comers {
			v := &a.set.Visitors[i]
			v.Passes, v.Commits = c.Passes*times, c.CommitsOn(n, age, caught)
		}
		events = stand.Draw(events[:0], a.set, a.night, uint64(number), 0, n)
		age++
		again, opened := false, stand.Open
		for _, e := range events {
			facts := e.Shows.Facts()
			again, opened = again || facts.Remake, opened || facts.Ends
			r.tells(e, a.comers[e.Visitor], n)
		}
		caught = caught || r.held > 0
		morning := line.FoundQuiet
		if seen := stand.Look(); len(seen) > 0 {
			morning = seen[0].Shows
		}
		r.mornings = append(r.mornings, morning)
		if again {
			if opened { // what only lost its food is baited, and its bed left as it lies
				age = 1
			}
			stand = Made(a.food)
		}
	}
	return r
}

// tells counts what one visitor did.
func (r *run) tells(e Event, c odds.Comer, n int) {
	walkedOff := e.Shows == line.FoundGone && !e.Found
	switch {
	case e.Through == odds.Fires || e.Through == odds.Held && walkedOff:
		r.lost++
	case e.Through == odds.Held && e.Visitor == 0:
		if r.held++; r.first == 0 {
			r.first = n + 1
		}
	case e.Through == odds.Held:
		if r.others++; c.Animal.Pet {
			r.pets++
		}
	case e.Shows.Facts().Remake:
		r.spoilt++
	}
}

func (n *Next) count(r run) {
	switch {
	case r.held == 0:
		n.None++
	case r.held == 1:
		n.One++
	default:
		n.More++
	}
	quiet := !slices.ContainsFunc(r.mornings, func(f line.Finding) bool { return f != line.FoundQuiet })
	for share, is := range map[*float64]bool{&n.Others: r.others > 0, &n.Pets: r.pets > 0, &n.Lost: r.lost > 0, &n.Spoilt: r.spoilt > 0, &n.Quiet: quiet} {
		if is {
			*share++
		}
	}
}
