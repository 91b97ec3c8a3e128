package anchor

import (
	"cmp"
	"math"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
)

// Question asks how the anchors of a set hold an animal in some ground.
type Question struct {
	Layout layout.Layout
	Animal animal.Animal
	Soil
}

// Soil is what an anchor stands in; what is blank or nil is not known. FrostMm is the depth of frost now, DeepestMm the deepest of the
// coming mornings.
type Soil struct {
	Kind      ground.Soil    `json:"soil,omitempty"`
	Wetness   ground.Wetness `json:"wetness,omitempty"`
	FrostMm   *float64       `json:"frostMm,omitempty"`
	DeepestMm *float64       `json:"deepestMm,omitempty"`
}

// Check refuses words that are not known, and frost that cannot be.
func (g Soil) Check(p *refuse.Problems) {
	refuse.OneOfSaid(p, "soil", g.Kind, ground.Soils)
	refuse.OneOfSaid(p, "wetness", g.Wetness, ground.Wetnesses)
	p.Within("frostMm", value(g.FrostMm), 0, 5000, " mm")
	p.Within("deepestMm", value(g.DeepestMm), 0, 5000, " mm")
}

// When is a time at which an anchor is asked to hold.
type When string

// When an anchor is asked to hold.
const (
	Now     When = "now"
	Morning When = "morning" // the coldest to come
	Thaw    When = "thaw"    // of the frost that is there or comes
)

// Whens lists them.
var Whens = []When{Now, Morning, Thaw}

// Bears is what an anchor bears at a time, N (nil for what goes with the animal), and how likely that holds.
type Bears struct {
	When      When     `json:"when"`
	FrostMm   float64  `json:"frostMm"`
	CapacityN *float64 `json:"capacityN,omitempty"`
	Chance    float64  `json:"chance"`
	Word      Surety   `json:"word"`
}

// Held is how one anchor holds: what is asked of it, N, what it bears at each time, and which changes would help. Without times nothing
// is known of it; Unsaid names what would have to be said.
type Held struct {
	Slot     int        `json:"slot"`
	DemandN  float64    `json:"demandN"`
	Times    []Bears    `json:"times"`
	Worst    *Bears     `json:"worst" jsonschema:"nullable"` // of the times until the coldest morning to come, not of the thaw
	Proved   bool       `json:"proved"`                      // a pull with a scale says so
	Reaches  bool       `json:"reaches"`                     // below the frost that is there or comes
	NoFrost  bool       `json:"noFrost"`                     // how deep it is frozen is not known, and is left out
	Unsaid   string     `json:"unsaid,omitempty"`
	Stronger []Stronger `json:"stronger"`
	Circle   *Circle    `json:"circle,omitempty"` // of a fixed anchor
	Run      *Run       `json:"run,omitempty"`    // of one that goes with the animal, where its cover is said
}

// Stronger is a change to an anchor: what it becomes, with the chain that goes with it, the set with that done, by how much the chance to hold
// grows, and what it takes to make and to get out again, minutes.
type Stronger struct {
	Key     string        `json:"key"`
	Anchor  layout.Anchor `json:"anchor"`
	ChainMm float64       `json:"chainMm,omitempty"` // 0: as it is
	Spring  bool          `json:"spring,omitempty"`
	Layout  layout.Layout `json:"layout"`
	Chance  float64       `json:"chance"`
	Gain    float64       `json:"gain"`
	Minutes float64       `json:"minutes"`
	Out     float64       `json:"out"`
}

// What would help.
const (
	Deeper  = "deeper"
	Cross   = "cross"
	Cable   = "cable"
	UseDrag = "drag"
	Shorter = "shorter"
	Spring  = "spring"
	Below   = "below" // the frost
)

// Usual sizes, mm, and judgements of what frost and wood add, N.
const (
	usualStakeMm = 12.7
	usualPlateMm = 121.0
	plateWideMm  = 28.0
	frostGripsN  = 3000.0
	gripsFromMm  = 25.0
	soundWoodN   = 900.0
	softWoodN    = 300.0
	deeperMm     = 152.4
	belowMm      = 50.0
	shorterMm    = 304.8
	usualCableMm = 457.2
	longestInMm  = 1220.0
)

// minutesOf are what changes take to make and, with the anchor, to get out again. Judgements.
var minutesOf = map[string][2]float64{
	Deeper: {2, 3}, Below: {6, 10}, Cross: {4, 5}, Cable: {5, 5}, UseDrag: {2, 0}, Shorter: {1, 0}, Spring: {2, 0},
}

// Of is how each anchor of a set holds. It refuses soils that are not known by name.
func Of(q Question) ([]Held, error) {
	found := []Held{}
	for _, a := range q.Layout.Anchors {
		held, err := q.held(a)
		if err != nil {
			return nil, err
		}
		held.Worst = held.untilThaw()
		if held.Stronger, err = q.stronger(a, held); err != nil {
			return nil, err
		}
		if held.Circle, err = q.circle(a); err != nil {
			return nil, err
		}
		if layout.Drags(a.Kind) && a.Cover != "" {
			run, err := RunIn(a.Cover, nil)
			if err != nil {
				return nil, err
			}
			held.Run = &run
		}
		found = append(found, held)
	}
	return found, nil
}

// Least is how likely an anchor holds at the worst of the times; nil where nothing is known.
func (h Held) Least() *float64 { return chance(h.least(func(Bears) bool { return true })) }

// Tonight is how likely an anchor holds until the coldest morning to come; nil where nothing is known.
func (h Held) Tonight() *float64 { return chance(h.untilThaw()) }

// Fails tells whether an anchor is known to bear less than is asked of it, at some time before the thaw.
func (h Held) Fails() bool {
	worst := h.untilThaw()
	return worst != nil && worst.Word == Fails
}

func (h Held) untilThaw() *Bears { return h.least(func(b Bears) bool { return b.When != Thaw }) }

// least is the time of those that count at which it bears least; nil where nothing is known.
func (h Held) least(counts func(Bears) bool) *Bears {
	var least *Bears
	for i, t := range h.Times {
		if counts(t) && (least == nil || t.Chance < least.Chance) {
			least = &h.Times[i]
		}
	}
	return least
}

func chance(b *Bears) *float64 {
	if b == nil {
		return nil
	}
	return &b.Chance
}

func (q Question) held(a layout.Anchor) (Held, error) {
	h := Held{Slot: a.Slot, Times: []Bears{}, Stronger: []Stronger{}, Reaches: true}
	for _, r := range q.Layout.Rigs {
		if r.AnchorSlot != a.Slot {
			continue
		}
		pull, err := Pull(q.Animal, PullInput{r.ChainMm, r.Spring})
		if err != nil {
			return h, err
		}
		h.DemandN = math.Max(h.DemandN, pull.DemandN)
	}
	if layout.Drags(a.Kind) {
		if chance := dragHolds(a.Cover, a.Tied); chance != nil {
			h.Times = append(h.Times, Bears{When: Now, Chance: *chance, Word: Holds})
		} else {
			h.Unsaid = "cover"
		}
		return h, nil
	}
	if a.Kind == layout.Slide && len(a.Ends) == 0 {
		h.Unsaid = "ends"
		return h, nil
	}
	inUnknown := (q.Soil.Kind == "" || q.Wetness == "") && a.Kind != layout.Staple
	if inUnknown && a.ProofN == nil {
		h.Unsaid = "soil"
		return h, nil
	}
	h.NoFrost = driven(a) && (q.FrostMm == nil || q.DeepestMm == nil)
	frost, deepest := value(q.FrostMm), math.Max(value(q.FrostMm), value(q.DeepestMm))
	times := []Bears{{When: Now, FrostMm: frost}}
	if deepest > frost {
		times = append(times, Bears{When: Morning, FrostMm: deepest})
	}
	if deepest >= gripsFromMm && driven(a) {
		times = append(times, Bears{When: Thaw, FrostMm: deepest})
	}
	for _, t := range times {
		if inUnknown && t.When == Thaw { // in what it will stand then was not said, and what was pulled at was frozen
			h.Unsaid = "soil"
			continue
		}
		bears, err := q.bears(a, t)
		if err != nil {
			return h, err
		}
		if a.ProofN != nil && *a.ProofN > bears && t.When != Thaw {
			bears, h.Proved = *a.ProofN, true
		}
		t.CapacityN, t.Chance, t.Word = &bears, Chance(bears, h.DemandN), Word(bears, h.DemandN)
		h.Times = append(h.Times, t)
	}
	h.Reaches = reaches(a, deepest)
	return h, nil
}

// value is a number, or nought where there is none: frost that is not known is not counted on.
func value(x *float64) float64 {
	if x == nil {
		return 0
	}
	return *x
}

// driven tells whether an anchor stands in the ground, and can freeze in there.
func driven(a layout.Anchor) bool {
	return a.Kind == layout.Slide && slices.ContainsFunc(a.Ends, func(e layout.End) bool { return e.Kind != layout.Staple }) ||
		slices.Contains([]layout.AnchorKind{layout.Stake, layout.Crossed, layout.Cable}, a.Kind)
}

// reaches tells whether all of an anchor that is driven goes below a frost.
func reaches(a layout.Anchor, frostMm float64) bool {
	if a.Kind == layout.Slide {
		return !slices.ContainsFunc(a.Ends, func(e layout.End) bool { return e.Kind != layout.Staple && e.LengthMm <= frostMm })
	}
	return !driven(a) || a.LengthMm > frostMm
}

// bears is what an anchor bears at a time, N.
func (q Question) bears(a layout.Anchor, at Bears) (float64, error) {
	switch a.Kind {
	case layout.Staple:
		if a.Soft {
			return softWoodN, nil
		}
		return soundWoodN, nil
	case layout.Crossed:
		if second := a.SecondMm; second > 0 && second != a.LengthMm { // as one pair of each depth would, between them
			a.SecondMm = 0
			first, err := q.bears(a, at)
			if err != nil {
				return 0, err
			}
			a.LengthMm = second
			other, err := q.bears(a, at)
			return (first + other) / 2, err
		}
	case layout.Slide: // the weaker of its two ends
		weakest := math.Inf(1)
		for _, end := range a.Ends {
			bears, err := q.bears(layout.Anchor{Kind: end.Kind, LengthMm: end.LengthMm, Soft: a.Soft}, at)
			if err != nil {
				return 0, err
			}
			weakest = math.Min(weakest, bears)
		}
		return weakest, nil
	}
	if q.Soil.Kind == "" || q.Wetness == "" {
		return 0, nil // only its proof speaks
	}
	in := HoldingDefaults()
	in.Soil, in.Wetness, in.Kind, in.LengthMm, in.DiameterMm = q.Soil.Kind, q.Wetness, Driven(a.Kind), a.LengthMm, cmp.Or(a.DiameterMm, usualStakeMm)
	if a.Kind == layout.Cable {
		in.Kind, in.DepthMm = Plate, a.LengthMm
		in.PlateLengthMm, in.PlateWidthMm = cmp.Or(a.PlateLengthMm, usualPlateMm), cmp.Or(a.PlateWidthMm, plateWideMm)
	}
	if at.When == Thaw { // what stood in frost stands loose
		if a.Kind == layout.Cable && at.FrostMm >= a.LengthMm {
			return 0, nil
		}
		if a.Kind != "cable" {
			if in.LengthMm -= at.FrostMm; in.LengthMm < 50 {
				return 0, nil
			}
		}
	}
	out, err := Holding(in)
	if at.When != Thaw && at.FrostMm >= gripsFromMm {
		out.CapacityN += frostGripsN
	}
	return out.CapacityN, err
}

// stronger are the changes that would make an anchor hold better, the best first.
func (q Question) stronger(a layout.Anchor, now Held) ([]Stronger, error) {
	found := []Stronger{}
	least := now.Least()
	if least == nil || *least > .97 {
		return found, nil
	}
	deepest := math.Max(value(q.FrostMm), value(q.DeepestMm))
	ways := []Stronger{}
	if driven(a) && a.Kind != layout.Slide {
		if deeper := a.LengthMm + deeperMm; deeper <= longestInMm {
			ways = append(ways, Stronger{Key: Deeper, Anchor: resized(a, a.Kind, deeper)})
		}
		if below := math.Max(a.LengthMm, usualCableMm) + deepest; deepest >= gripsFromMm && below <= longestInMm {
			ways = append(ways, Stronger{Key: Below, Anchor: resized(a, a.Kind, below)})
		}
		if a.Kind == layout.Stake {
			ways = append(ways, Stronger{Key: Cross, Anchor: resized(a, layout.Crossed, a.LengthMm)})
		}
		if cable := math.Max(usualCableMm, deepest+belowMm); a.Kind != "cable" && cable <= longestInMm {
			ways = append(ways, Stronger{Key: Cable, Anchor: resized(a, "cable", cable)})
		}
	}
	if !layout.Drags(a.Kind) && a.Cover != "" {
		ways = append(ways, Stronger{Key: UseDrag, Anchor: layout.Anchor{Slot: a.Slot, Kind: layout.Drag, XMm: a.XMm, YMm: a.YMm, Cover: a.Cover}})
	}
	for _, r := range q.Layout.Rigs {
		if r.AnchorSlot != a.Slot || layout.Drags(a.Kind) {
			continue
		}
		if r.ChainMm > shorterMm {
			ways = append(ways, Stronger{Key: Shorter, Anchor: a, ChainMm: shorterMm})
		}
		if !r.Spring {
			ways = append(ways, Stronger{Key: Spring, Anchor: a, Spring: true})
		}
		break
	}
	for _, m := range ways {
		m, held, err := q.eased(a, m)
		if err != nil {
			return nil, err
		}
		if best := held.Least(); best != nil && *best-*least > .01 {
			m.Layout = m.on(q.Layout)
			m.Chance, m.Gain, m.Minutes, m.Out = *best, *best-*least, minutesOf[m.Key][0], minutesOf[m.Key][1]
			if m.Key != Shorter && m.ChainMm > 0 {
				m.Minutes += minutesOf[Shorter][0]
			}
			if m.Key != Spring && m.Spring {
				m.Minutes += minutesOf[Spring][0]
			}
			found = append(found, m)
		}
	}
	slices.SortStableFunc(found, func(a, b Stronger) int { return cmp.Compare(b.Gain, a.Gain) })
	return found, nil
}

// eased is a change to an anchor; where that alone is known to fail, with a shorter chain and a shock spring too.
func (q Question) eased(was layout.Anchor, m Stronger) (Stronger, Held, error) {
	held, err := q.with(m).held(m.Anchor)
	if err != nil || !held.Fails() || m.Key == Shorter || m.Key == Spring {
		return m, held, err
	}
	for _, r := range q.Layout.Rigs {
		if r.AnchorSlot == was.Slot {
			if r.ChainMm > shorterMm {
				m.ChainMm = shorterMm
			}
			m.Spring = !r.Spring
		}
	}
	held, err = q.with(m).held(m.Anchor)
	return m, held, err
}

// resized is an anchor of another kind or length; what was proved of the one before says nothing of it.
func resized(a layout.Anchor, kind layout.AnchorKind, lengthMm float64) layout.Anchor {
	a.Kind, a.LengthMm, a.SecondMm, a.ProofN = kind, lengthMm, 0, nil
	return a
}

// with is the question with a change made.
func (q Question) with(m Stronger) Question {
	q.Layout = m.on(q.Layout)
	return q
}

// on is a set with the change made.
func (m Stronger) on(l layout.Layout) layout.Layout {
	l.Rigs, l.Anchors = slices.Clone(l.Rigs), slices.Clone(l.Anchors)
	for i := range l.Rigs {
		r := &l.Rigs[i]
		if r.AnchorSlot != m.Anchor.Slot {
			continue
		}
		if m.ChainMm > 0 {
			r.ChainMm = math.Min(r.ChainMm, m.ChainMm)
		}
		r.Spring = r.Spring || m.Spring
	}
	for i := range l.Anchors {
		if l.Anchors[i].Slot == m.Anchor.Slot {
			l.Anchors[i] = m.Anchor
		}
	}
	return l
}
