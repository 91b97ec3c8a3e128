package odds

import (
	"math"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
)

// Stance is where a target's feet come down on a line, by the model and by the prints that were marked there: how far from what it smells, and from one
// print to the next along a way; nil where too few were marked. Setback is what the first does to a set; nil where it is not worked by standing there.
type Stance struct {
	Reach   *Reached `json:"reach" jsonschema:"nullable"`
	Step    *Reached `json:"step" jsonschema:"nullable"`
	Setback *Setback `json:"setback" jsonschema:"nullable"`
}

// Reached is a distance by the model, mm, and by prints and model together.
type Reached struct {
	PriorMm   float64 `json:"priorMm"`
	PriorSDMm float64 `json:"priorSdMm"`
	learn.StanceOutput
}

// Setback is how far from the attractor a pan is best met, by the model and by the line's prints, mm; and, as the line's prints have them stand, how
// many fire the set as it lies and how many it would with its first pan there. After is it so; nil where that pan cannot be moved.
type Setback struct {
	PriorMm float64        `json:"priorMm"`
	OwnMm   float64        `json:"ownMm"`
	Here    float64        `json:"here"`
	There   float64        `json:"there"`
	After   *layout.Layout `json:"after" jsonschema:"nullable"`
}

// fewPrints are too few to say anything. A judgement.
const fewPrints = 3

// StanceOf says what the marked prints of a set's target do to it.
func StanceOf(q Question) (Stance, error) {
	var found Stance
	if q.Circumstances == nil || q.Circumstances.Record == nil {
		return found, nil
	}
	prints := q.Circumstances.Record.Animals[q.Target.Key].Prints
	var err error
	if found.Step, err = stood(q.Target.Step, prints.Step); err != nil {
		return found, err
	}
	if found.Reach, err = stood(q.Target.Reach, prints.Reach); err != nil || found.Reach == nil {
		return found, err
	}
	if q.Layout.Blind() || len(q.Layout.Attractors) == 0 {
		return found, nil
	}
	asked := q.Layout // with its beds as they are felt
	q.Layout, q.Map = firmed(q.Layout), true
	prior, err := feetOf(q)
	if err != nil || prior == nil || prior.Best == nil {
		return found, err
	}
	q.Target.Reach = animal.Spread{Mean: found.Reach.MeanMm, SD: found.Reach.SDMm}
	own, err := feetOf(q)
	if err != nil {
		return found, err
	}
	from, lies := q.Layout.Attractors[0].YMm, q.Layout.Rigs[0].Pan
	found.Setback = &Setback{PriorMm: prior.Best.YMm - from, OwnMm: own.Best.YMm - from, Here: own.Fire, There: own.Fire}
	if lies == nil || q.Layout.Stays(0) {
		return found, nil
	}
	q.Map = false
	dx, dy := own.Best.XMm-lies.XMm, own.Best.YMm-lies.YMm
	q.Layout = q.Layout.WithRigMoved(0, dx, dy)
	there, err := feetOf(q)
	if err != nil {
		return found, err
	}
	found.Setback.There, found.Setback.After = there.Fire, new(asked.WithRigMoved(0, dx, dy))
	return found, nil
}

// ByPrints is a set's question with its target standing as it stood there by some prints, [x, y] on the set's plan, mm, and the move of its first pan to
// where such feet come most; nil where there are too few, where it is not worked by standing there, or where the pan stays. The model's reach is worth
// a dozen prints.
func ByPrints(q Question, prints [][2]float64) (Question, *Remedy, error) {
	if len(prints) < fewPrints || q.Layout.Blind() || len(q.Layout.Attractors) == 0 || len(q.Layout.Rigs) == 0 || q.Layout.Rigs[0].Pan == nil || q.Layout.Stays(0) {
		return q, nil, nil
	}
	from, aside := q.Layout.Attractors[0].YMm, 0.0
	out := make([]float64, len(prints))
	for i, print := range prints {
		out[i], aside = print[1]-from, aside+print[0]
	}
	reach, err := stood(q.Target.Reach, out)
	if err != nil {
		return q, nil, err
	}
	q.Target.Reach = animal.Spread{Mean: reach.MeanMm, SD: reach.SDMm}
	mapped := q
	mapped.Layout, mapped.Map = firmed(q.Layout), true
	feet, err := feetOf(mapped)
	if err != nil || feet == nil || feet.Best == nil {
		return q, nil, err
	}
	n, lies := float64(len(prints)), q.Layout.Rigs[0].Pan
	c := Remedy{Key: MovePan, Slot: q.Layout.Rigs[0].Slot, Minutes: changeTakes[MovePan]}
	c.XMm, c.YMm = math.Round(feet.Best.XMm+aside/n*n/(learn.PrintsWorth+n)-lies.XMm), math.Round(feet.Best.YMm-lies.YMm)
	c.Layout = new(q.Layout.WithRigMoved(0, c.XMm, c.YMm))
	return q, &c, nil
}

func stood(prior animal.Spread, prints []float64) (*Reached, error) {
	if len(prints) < fewPrints {
		return nil, nil
	}
	out, err := learn.Stance(learn.StanceInput{MeanMm: prior.Mean, SDMm: prior.SD, Prints: prints})
	return &Reached{prior.Mean, prior.SD, out}, err
}
