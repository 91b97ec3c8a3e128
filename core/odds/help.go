package odds

import (
	"context"
	"math"
	"reflect"
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/schools"
)

// Remedy is one single thing that could be otherwise at a set, and what that would come to. What its numbers mean is said by its key.
type Remedy struct {
	Key       string         `json:"key"`
	Slot      int            `json:"slot"`             // of the trap, the anchor, the attractor or the guide
	To        string         `json:"to,omitempty"`     // what it becomes: a material, a backing, a class of lure, a pattern, a way to anchor
	XMm       float64        `json:"xMm,omitempty"`    // by how much it is moved
	YMm       float64        `json:"yMm,omitempty"`    // likewise
	GaugeN    float64        `json:"gaugeN,omitempty"` // what a pan is set to
	FacingDeg *float64       `json:"facingDeg,omitempty"`
	Layout    *layout.Layout `json:"layout" jsonschema:"nullable"` // the set then; nil where one only waits
	Per100    float64        `json:"per100"`                       // caught in 100 set-nights then
	Gain      float64        `json:"gain"`                         // of them, by the same feet
	Error     float64        `json:"error"`                        // the standard error of the gain
	Minutes   float64        `json:"minutes"`                      // that it takes

	around *Circumstances // those of the set then, where they are others
}

// What can be changed.
const (
	FirmBed      = "firm_bed"
	MovePan      = "move_pan"
	LighterPan   = "lighter_pan"
	HeavierPan   = "heavier_pan"
	ThinnerCover = "thinner_cover"
	OtherCover   = "other_cover"
	DeeperHole   = "deeper_hole"
	Plug         = "plug"
	Backing      = "backing"
	SetGuides    = "guides"
	LowerGuides  = "lower_guides"
	CloserGuides = "closer_guides"
	WiderGuides  = "wider_guides"
	NoGuides     = "no_guides"
	LayStick     = "stick"
	MoveStick    = "move_stick"
	NarrowWay    = "narrow"
	SecondTrap   = "second_trap"
	SetScent     = "scent"
	AddUrine     = "add_urine"
	AddBait      = "add_bait"
	NoBait       = "no_bait"
	OtherLure    = "other_lure"
	LowerLure    = "lower_lure"
	FaceWay      = "face"
	SoilAway     = "soil_away"
	Gloves       = "gloves"
	DigOut       = "dig_out"
	Blend        = "blend"
	Anchor       = "anchor"
	OtherPattern = "pattern"
	Wait         = "wait"
)

// changeTakes is how long changes take at a set, minutes. Judgements of the trade; what is not listed is computed.
var changeTakes = map[string]float64{
	FirmBed: 5, MovePan: 10, LighterPan: 1, HeavierPan: 1, ThinnerCover: 2, OtherCover: 4, DeeperHole: 5, Plug: 1, Backing: 4, SetGuides: 5, LowerGuides: 2,
	CloserGuides: 3, WiderGuides: 3, NoGuides: 1, LayStick: 3, MoveStick: 1, NarrowWay: 8, SecondTrap: 15, SetScent: 2, AddUrine: 1, AddBait: 1, NoBait: 2,
	OtherLure: 1, LowerLure: 1, FaceWay: 15, SoilAway: 3, Gloves: 0, DigOut: 5, Blend: 5, Wait: 0,
}

// RemedyKeys lists what can be changed.
func RemedyKeys() []string {
	keys := []string{Anchor, OtherPattern}
	for key := range changeTakes {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	return keys
}

// A change is worth saying when its gain passes so many standard errors, and so many catches in 100 set-nights.
const (
	sureErrors = 2.0
	leastGain  = .05
)

// quickVisits are drawn of each place that a part is tried at, from a seed of their own: what is best of many by luck is not by the seed
// that its gain is told by.
const (
	quickVisits = 4000
	quickSeed   = 7919
)

// Help tries every single change that the trade offers for a set, and gives each that would catch more for certain, as it is found. It asks
// for circumstances; of a device it knows no help. A context that ends ends it.
func Help(ctx context.Context, q Question, found func(Remedy)) error {
	h, err := newHelper(ctx, q)
	if err != nil || h == nil {
		return err
	}
	for _, offers := range []func(*helper) ([]Remedy, error){
		(*helper).beds, (*helper).scents, (*helper).places, (*helper).hands, (*helper).tensions, (*helper).guides, (*helper).anchors, (*helper).moves, (*helper).patterns,
	} {
		changes, err := offers(h)
		if err != nil {
			return err
		}
		for _, c := range changes {
			good, err := h.weigh(&c)
			if err != nil {
				return err
			}
			if good && c.Gain > sureErrors*c.Error && c.Gain >= leastGain {
				found(c)
			}
		}
	}
	return nil
}

// helper tries changes on one set, all on the same feet.
type helper struct {
	ctx   context.Context
	q     Question
	begun layout.Layout // as the pattern begins for the target
	base  []float64
	met   struct { // whom the set met, and what became of them: many a change leaves that as it is
		ways []Way
		feet *Feet
	}
}

func newHelper(ctx context.Context, q Question) (*helper, error) {
	q.Map = false
	if !layout.Claims(q.Layout.Pattern) || q.Circumstances == nil {
		return nil, nil
	}
	h := &helper{ctx: ctx, q: q}
	begin := h.begin()
	begin.Variant = layout.VariantOf(q.Layout, begin)
	var err error
	if h.begun, err = layout.New(q.Layout.Pattern, begin); err != nil {
		return nil, err
	}
	if h.base, err = h.worth(q); err != nil {
		return nil, err
	}
	return h, nil
}

func (h *helper) begin() layout.Begin {
	return layout.Begin{
		Target: h.q.Target, Schools: schools.Usual(),
		Spot: layout.Spot{Soil: h.q.Soil.Kind, Wetness: h.q.Soil.Wetness, FrostMm: h.q.Soil.DeepestMm, Shy: h.q.Circumstances.Shy},
	}
}

// worth is how many a set is expected to catch in 100 set-nights, by each block of its visits.
func (h *helper) worth(q Question) ([]float64, error) {
	if err := h.ctx.Err(); err != nil {
		return nil, err
	}
	ways, err := Ways(firmed(q.Layout), q.Target, q.Visits)
	if err != nil {
		return nil, err
	}
	feet := h.met.feet
	if feet == nil || !reflect.DeepEqual(ways, h.met.ways) {
		if feet, err = walk(q, ways); err != nil {
			return nil, err
		}
		if h.met.feet == nil {
			h.met.ways, h.met.feet = ways, feet
		}
	}
	chain, err := linkedAsHeld(q, feet)
	if err != nil {
		return nil, err
	}
	// The feet's own links are in what each block holds; the others, and the anchor's, are the same for all blocks.
	scale := 100.0
	for _, link := range chain.Links {
		if link.Key != "steps" && link.Key != "fires" {
			scale *= link.Mid
		}
	}
	scale /= heldBy(1, feet.PadShare)
	blocks := make([]float64, len(feet.held))
	for i, held := range feet.held {
		blocks[i] = scale * held
	}
	return blocks, nil
}

// weigh says what a change would come to. It is false for a set that its pattern does not allow.
func (h *helper) weigh(c *Remedy) (bool, error) {
	asked := h.q
	if c.Layout != nil {
		asked.Layout = *c.Layout
	}
	if c.around != nil {
		asked.Circumstances = c.around
	}
	if asked.Layout.Check() != nil {
		return false, nil
	}
	then, err := h.worth(asked)
	if err != nil {
		return false, err
	}
	c.Per100 = mean(then)
	c.Gain, c.Error = paired(then, h.base)
	if c.Key != Anchor && c.Key != OtherPattern {
		c.Minutes = changeTakes[c.Key]
	}
	return true, nil
}

// paired is by how much what was met is more than another, block by block, and the standard error of that.
func paired(more, less []float64) (by, standardError float64) {
	if len(more) != len(less) || len(more) < 2 {
		return 0, math.Inf(1)
	}
	square := 0.0
	for i := range more {
		by += more[i] - less[i]
	}
	by /= float64(len(more))
	for i := range more {
		off := more[i] - less[i] - by
		square += off * off
	}
	return by, math.Sqrt(square / float64(len(more)-1) / float64(len(more)))
}

func mean(of []float64) float64 {
	sum := 0.0
	for _, x := range of {
		sum += x
	}
	return sum / float64(max(1, len(of)))
}

// better moves a part about and gives the change to the best of the places, by a quick run; nothing where the part stands best.
func (h *helper) better(key string, slot int, by [][2]float64, moved func(x, y float64) layout.Layout) ([]Remedy, error) {
	held := func(l layout.Layout) (float64, error) {
		if err := h.ctx.Err(); err != nil {
			return 0, err
		}
		feet, err := feetOf(Question{Layout: firmed(l), Target: h.q.Target, Visits: quickVisits, Seed: quickSeed})
		if err != nil || feet == nil {
			return 0, err
		}
		return mean(feet.held), nil
	}
	best, err := held(h.q.Layout)
	if err != nil {
		return nil, err
	}
	var found []Remedy
	for _, d := range by {
		l := moved(d[0], d[1])
		if l.Check() != nil {
			continue
		}
		is, err := held(l)
		if err != nil {
			return nil, err
		}
		if is > best {
			best, found = is, []Remedy{{Key: key, Slot: slot, XMm: d[0], YMm: d[1], Layout: &l}}
		}
	}
	return found, nil
}
