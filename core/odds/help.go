package odds

import (
	"context"
	"slices"

	"oldburrow/core/layout"
)

// Remedy is one single thing that could be otherwise at a set, and what that would come to over the nights that are left, those that the
// change itself costs counted. What its numbers mean is said by its key.
type Remedy struct {
	Key       RemedyKey      `json:"key"`
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
	Minutes   float64        `json:"minutes"`                      // that it takes at the set, without the way there
	LureID    string         `json:"lureId,omitempty"`             // of the shelf; blank for one that has to be fetched
	Lure      string         `json:"lure,omitempty"`               // its name
	Doses     int            `json:"doses,omitempty"`              // that are left of it
	Anew      bool           `json:"anew,omitempty"`               // the set settles anew, and that costs nights
	Opens     string         `json:"opens,omitempty"`              // the day on which a season turns, without which there would be no gain

	// Reopens and Clean are said of a change that has no key: it opens the bed, it takes away what scent came onto it.
	Reopens bool `json:"-"`
	Clean   bool `json:"-"`

	around *Circumstances // those of the set then, where they are others
}

// RemedyKey is a key of what can be changed at a set.
type RemedyKey string

// What can be changed.
const (
	FirmBed      RemedyKey = "firm_bed"
	MovePan      RemedyKey = "move_pan"
	LighterPan   RemedyKey = "lighter_pan"
	HeavierPan   RemedyKey = "heavier_pan"
	ThinnerCover RemedyKey = "thinner_cover"
	OtherCover   RemedyKey = "other_cover"
	DeeperHole   RemedyKey = "deeper_hole"
	Plug         RemedyKey = "plug"
	Backing      RemedyKey = "backing"
	SetGuides    RemedyKey = "guides"
	LowerGuides  RemedyKey = "lower_guides"
	CloserGuides RemedyKey = "closer_guides"
	WiderGuides  RemedyKey = "wider_guides"
	NoGuides     RemedyKey = "no_guides"
	LayStick     RemedyKey = "stick"
	MoveStick    RemedyKey = "move_stick"
	NarrowWay    RemedyKey = "narrow"
	SecondTrap   RemedyKey = "second_trap"
	SetScent     RemedyKey = "scent"
	AddUrine     RemedyKey = "add_urine"
	AddBait      RemedyKey = "add_bait"
	NoBait       RemedyKey = "no_bait"
	OtherLure    RemedyKey = "other_lure"
	LowerLure    RemedyKey = "lower_lure"
	FaceWay      RemedyKey = "face"
	SoilAway     RemedyKey = "soil_away"
	Gloves       RemedyKey = "gloves"
	DigOut       RemedyKey = "dig_out"
	Blend        RemedyKey = "blend"
	Anchor       RemedyKey = "anchor"
	CallAside    RemedyKey = "call_aside"
	ScatToIt     RemedyKey = "scat"
	RollStone    RemedyKey = "roll_stone"
	OtherPattern RemedyKey = "pattern"
	Wait         RemedyKey = "wait"
)

// changeTakes is how long changes take at a set, minutes. Judgements of the trade; what is not listed is computed.
var changeTakes = map[RemedyKey]float64{
	FirmBed: 5, MovePan: 10, LighterPan: 1, HeavierPan: 1, ThinnerCover: 2, OtherCover: 4, DeeperHole: 5, Plug: 1, Backing: 4, SetGuides: 5, LowerGuides: 2,
	CloserGuides: 3, WiderGuides: 3, NoGuides: 1, LayStick: 3, MoveStick: 1, NarrowWay: 8, SecondTrap: 15, SetScent: 2, AddUrine: 1, AddBait: 1, NoBait: 2,
	OtherLure: 1, LowerLure: 1, FaceWay: 15, SoilAway: 3, Gloves: 0, DigOut: 5, Blend: 5, Wait: 0, CallAside: 4, ScatToIt: 3, RollStone: 4,
}

// RemedyKeys lists what can be changed.
func RemedyKeys() []RemedyKey {
	keys := []RemedyKey{Anchor, OtherPattern}
	for key := range changeTakes {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	return keys
}

// A change is worth saying when its gain passes so many standard errors, and so large a share of what the set catches; what spares others,
// when it is so many catches in 100 set-nights.
const (
	sureErrors = 2.0
	leastShare = .05
	leastFewer = .05
)

// reopens are the changes that open the bed: the set settles anew.
var reopens = []RemedyKey{FirmBed, MovePan, SecondTrap, FaceWay, Anchor}

// quickVisits are drawn of each place that a part is tried at, from a seed of their own: what is best of many by luck is not by the seed
// that its gain is told by.
const (
	quickVisits = 4000
	quickSeed   = 7919
)

// Help tries every single change that the trade offers for a set, and gives each that would catch more for certain, as it is found. It asks
// for circumstances; of a device it knows no help. A context that ends ends it.
func Help(ctx context.Context, q Question, found func(Remedy)) error {
	h, err := newHelper(ctx, q.overTheNightsLeft())
	if err != nil || h == nil {
		return err
	}
	for _, group := range offered {
		changes, err := group.offers(h)
		if err != nil {
			return err
		}
		for _, c := range changes {
			good, err := h.weigh(&c)
			if err != nil {
				return err
			}
			if good && h.tells(c.Gain, c.Error) {
				found(c)
			}
		}
	}
	return nil
}

// overTheNightsLeft is a question that is answered on average over the nights that are left.
func (q Question) overTheNightsLeft() Question {
	if q.Circumstances != nil {
		q.over = q.Circumstances.left()
	}
	return q
}

// tells whether a gain is worth saying.
func (h *helper) tells(gain, standardError float64) bool {
	return gain > sureErrors*standardError && gain >= leastShare*h.base.mean()
}

// group is some changes that are offered together.
type group struct {
	offers func(*helper) ([]Remedy, error)
	gives  []RemedyKey
}

// offered is what the trade offers for more of the target.
var offered = []group{
	{(*helper).beds, []RemedyKey{FirmBed, ThinnerCover, OtherCover}},
	{(*helper).scents, []RemedyKey{SetScent, DeeperHole, Plug, AddUrine, AddBait, LowerLure, OtherLure}},
	{(*helper).places, []RemedyKey{Backing, DigOut, FaceWay}},
	{(*helper).aside, []RemedyKey{CallAside, ScatToIt, RollStone}},
	{(*helper).hands, []RemedyKey{SoilAway, Gloves, Wait}},
	{(*helper).tensions, []RemedyKey{LighterPan}},
	{(*helper).guides, []RemedyKey{LowerGuides, NoGuides, CloserGuides, WiderGuides, SetGuides, LayStick, NarrowWay, SecondTrap}},
	{(*helper).anchors, []RemedyKey{Anchor}},
	{(*helper).moves, []RemedyKey{MovePan, MoveStick}},
	{(*helper).patterns, []RemedyKey{OtherPattern}},
}

// helper tries changes on one set, all on the same feet.
type helper struct {
	ctx   context.Context
	q     Question
	begun layout.Layout // as the pattern begins for the target
	base  worth
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
		Target: h.q.Target, Schools: h.q.Schools,
		Spot: layout.Spot{Soil: h.q.Soil.Kind, Wetness: h.q.Soil.Wetness, FrostMm: h.q.Soil.DeepestMm, Shy: h.q.Circumstances.Site.Shy},
	}
}

// worth is how many a set is expected to catch in 100 set-nights, by each block of its visits.
func (h *helper) worth(q Question) (worth, error) {
	if err := h.ctx.Err(); err != nil {
		return worth{}, err
	}
	walked := q
	walked.Layout = firmed(q.Layout)
	feet, err := keptFeet(walked)
	if err != nil {
		return worth{}, err
	}
	chain, frozen, err := linkedAsHeld(q, feet)
	if err != nil {
		return worth{}, err
	}
	// The feet's own links are in what each block holds; the others, and the anchor's, are the same for all blocks.
	scale := 100.0
	for _, link := range chain.Links {
		if link.Key != Steps && link.Key != Fires {
			scale *= link.Mid
		}
	}
	return worth{feet.held, scale / heldBy(1, feet.PadShare), frozen}, nil
}

// weigh says what a change would come to. It is false for a set that its pattern does not allow.
func (h *helper) weigh(c *Remedy) (bool, error) {
	asked, base := h.after(c), h.base
	if asked.Layout.Check() != nil {
		return false, nil
	}
	if c.Key == Wait { // it is only told how much more a settled set catches than this one tonight
		tonight := h.q
		tonight.over, asked.over = 0, 0
		var err error
		if base, err = h.worth(tonight); err != nil {
			return false, err
		}
	}
	then, err := h.worth(asked)
	if err != nil {
		return false, err
	}
	c.Per100 = then.mean()
	c.Gain, c.Error = paired(then, base)
	if c.Key != Anchor && c.Key != OtherPattern {
		c.Minutes = changeTakes[c.Key]
	}
	if still := then.mean()*then.frozen - base.mean()*base.frozen; h.tells(c.Gain, c.Error) && !h.tells(still, c.Error) {
		c.Opens = h.turns(asked)
	}
	return true, nil
}

func (c *Remedy) reopens() bool { return c.Reopens || slices.Contains(reopens, c.Key) }

// after is the question of the set after a change: what opens its bed has it settle anew, and another pattern is another set.
func (h *helper) after(c *Remedy) Question {
	asked := h.q
	if c.Layout != nil {
		asked.Layout = *c.Layout
	}
	around := *asked.Circumstances
	if c.around != nil {
		around = *c.around
	}
	was := around
	switch {
	case c.Key == OtherPattern:
		around.Night, around.CaughtBefore, around.Site.KindsMet = 1, false, around.KindsMetThen
	case c.reopens():
		around.Night = 1
	}
	if c.Clean {
		around.ScentOnBed = new(false)
	}
	c.Anew = asked.Target.Wary && !asked.Layout.Blind() && !around.CaughtBefore && (was.Night > 1 || was.CaughtBefore)
	c.Anew = c.Anew && (c.Key == OtherPattern || c.reopens())
	asked.Circumstances = &around
	return asked
}

// turns is the first of the nights left on which something else speaks for or against a set, before or after a change.
func (h *helper) turns(after Question) string {
	for i := 1; i < h.q.over; i++ {
		for _, q := range []Question{h.q, after} {
			if !slices.Equal(q.termsOn(i), q.termsOn(0)) {
				if day, ok := h.q.Circumstances.on(i); ok {
					return day.Format("2006-01-02")
				}
			}
		}
	}
	return ""
}

// better moves a part about and gives the change to the best of the places, by a quick run; nothing where the part stands best.
func (h *helper) better(key RemedyKey, slot int, by [][2]float64, moved func(x, y float64) layout.Layout) ([]Remedy, error) {
	held := func(l layout.Layout) (float64, error) {
		if err := h.ctx.Err(); err != nil {
			return 0, err
		}
		feet, err := feetOf(Question{Layout: firmed(l), Target: h.q.Target, Visits: quickVisits, Seed: quickSeed})
		if err != nil || feet == nil {
			return 0, err
		}
		return feet.held.mean(), nil
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
