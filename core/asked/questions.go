package asked

import (
	"context"
	"encoding/json"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/calc"
	"oldburrow/core/layout"
	"oldburrow/core/nights"
	"oldburrow/core/odds"
	"oldburrow/core/refuse"
)

// Question is what the bench asks of a layout: for which target, on what ground, by how many visits, with the chance map or without.
type Question struct {
	Layout    layout.Layout    `json:"layout"`
	Target    string           `json:"target"`
	Visits    int              `json:"visits"`
	Map       bool             `json:"map"`
	Spares    []string         `json:"spares,omitempty"` // whom the pans should not fire for; nobody where nobody is named
	Underfoot layout.Underfoot `json:"underfoot,omitzero"`
	Ground    anchor.Soil      `json:"ground,omitzero"` // what its anchors stand in
	// Circumstances are those under which the whole chain is asked for.
	Circumstances *odds.Circumstances `json:"circumstances,omitempty"`
}

const mostVisits = 300000

// forOdds is the question as the core takes it. It refuses what is not known by name.
func (q Question) forOdds(target animal.Animal, with With) (odds.Question, error) {
	var p refuse.Problems
	asks := odds.Question{
		Layout: q.Layout, Target: target, Animals: with.Animals, Schools: with.Schools, Spares: with.Animals.Listed(&p, "spares", q.Spares),
		Visits: q.Visits, Map: q.Map, Underfoot: q.Underfoot, Soil: q.Ground,
	}
	q.Ground.Check(&p)
	if asks.Circumstances = q.Circumstances; asks.Circumstances != nil {
		asks.Circumstances.Check(&p, with.Animals)
		if key := q.Circumstances.Heaviest; key != "" {
			heaviest := with.Animals.Named(&p, "circumstances.heaviest", key)
			asks.Heaviest = &heaviest
		}
	}
	return asks, p.Err()
}

// target checks the question itself, and gives whom it is asked for.
func (q Question) target(known animal.Animals) (animal.Animal, error) {
	var p refuse.Problems
	p.Within("visits", float64(q.Visits), 1, mostVisits, "")
	target := known.Named(&p, "target", q.Target)
	return target, p.Err()
}

// answered is what follows from a set, without the place or with it.
func (q Question) answered(with With) (odds.Answer, error) {
	target, err := q.target(with.Animals)
	if err != nil {
		return odds.Answer{}, err
	}
	asks, err := q.forOdds(target, with)
	if err != nil {
		return odds.Answer{}, err
	}
	return odds.Of(asks)
}

// Following is one line of what follows the chain of a set: who else it would catch, one thing that would help, one that would spare
// others, and at last that this is all.
type Following struct {
	Company *odds.Company `json:"company,omitempty"`
	Remedy  *odds.Remedy  `json:"remedy,omitempty"`
	Sparing *odds.Sparing `json:"sparing,omitempty"`
	Done    bool          `json:"done,omitempty"`
}

// Progress is one line of a search for the best: how many designs of how many were tried, and at last what was found.
type Progress struct {
	Tried int              `json:"tried"`
	Of    int              `json:"of"`
	Best  *odds.BestPlaces `json:"best,omitempty"`
}

// Comparing asks how two designs of one line compare, each as the bench asks of it.
type Comparing struct {
	First  Question `json:"first"`
	Second Question `json:"second"`
}

func (q Comparing) compared(ctx context.Context, with With) (odds.Difference, error) {
	var p refuse.Problems
	first, err := q.First.weighed(with)
	p.Under("first", err)
	second, err := q.Second.weighed(with)
	p.Under("second", err)
	if err := p.Err(); err != nil {
		return odds.Difference{}, err
	}
	return odds.Compare(ctx, first, second)
}

// weighed is a question that asks for catches: its circumstances must be said.
func (q Question) weighed(with With) (odds.Question, error) {
	target, err := q.target(with.Animals)
	if err != nil {
		return odds.Question{}, err
	}
	if q.Circumstances == nil {
		return odds.Question{}, refuse.Field("circumstances", "are missing: what is caught hangs on the place and the night")
	}
	least, err := odds.LeastVisits(q.Layout, target)
	if err != nil {
		return odds.Question{}, err
	}
	var p refuse.Problems
	if p.Within("visits", float64(q.Visits), float64(least), mostVisits, ""); p.Err() != nil {
		return odds.Question{}, p.Err()
	}
	return q.forOdds(target, with)
}

// ahead is what the next nights of a set may bring.
func (q Question) ahead(ctx context.Context, with With) (nights.Next, error) {
	weighed, err := q.weighed(with)
	if err != nil {
		return nights.Next{}, err
	}
	return nights.NextOf(ctx, weighed)
}

// stance is where the target's feet come down by the prints that were marked on the line, and what that does to the set.
func (q Question) stance(with With) (odds.Stance, error) {
	weighed, err := q.weighed(with)
	if err != nil {
		return odds.Stance{}, err
	}
	return odds.StanceOf(weighed)
}

// Written is a place as somebody wrote it, or pasted it.
type Written struct {
	Place string `json:"place"`
}

// follow tells what is computed after the chain: who else a set would catch, what would help, what would spare others, and that this is all.
func follow(ctx context.Context, asks odds.Question, tell func(any)) error {
	company, err := odds.CompanyOf(ctx, asks)
	if err != nil {
		return err
	}
	tell(Following{Company: &company})
	if err := odds.Help(ctx, asks, func(found odds.Remedy) { tell(Following{Remedy: &found}) }); err != nil {
		return err
	}
	if err := odds.Spare(ctx, asks, func(found odds.Sparing) { tell(Following{Sparing: &found}) }); err != nil {
		return err
	}
	tell(Following{Done: true})
	return nil
}

// tellEvery is after how many designs a search says how far it is.
const tellEvery = 10

// best searches for the best places of a set's parts, and tells how far it is.
func best(ctx context.Context, asks odds.Question, tell func(any)) error {
	var last Progress
	found, err := odds.FindBest(ctx, asks, func(tried, of int) {
		if last = (Progress{Tried: tried, Of: of}); tried%tellEvery == 0 {
			tell(last)
		}
	})
	if err != nil {
		return err
	}
	last.Best = &found
	tell(last)
	return nil
}

const lessonVisits = 20000

// lessons are what a trail set teaches of an animal.
func lessons(with With, target string) ([]odds.Lesson, error) {
	var p refuse.Problems
	named := with.Animals.Named(&p, "target", target)
	if err := p.Err(); err != nil {
		return nil, err
	}
	return odds.Lessons(named, lessonVisits)
}

func calculated(name string, body []byte) (any, error) {
	out, err := calc.Run(name, body)
	return json.RawMessage(out), err
}
