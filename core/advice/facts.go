package advice

import (
	"context"
	"math"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
)

// Seen is a look at a make with all that is known about it: the record, the spot, the traps of its rigs that hang on the rack, the weather, and the
// question that its chain answers.
type Seen struct {
	Record line.Record
	Make   line.Make
	Look   line.Visit
	Spot   line.Spot
	Traps  []shed.Hung
	Drawn  outlook.Line
	Asked  odds.Question
}

// Figures by which facts are read, each a judgement.
const (
	smallJaws = 2.2 // a jaw spread under so many widths of the pad is small
	muchBait  = 3   // doses and more
	digsFrom  = .1  // who digs so often at a set is a digger
	mapVisits = 4000
	fewVisits = 400
)

// Facts are those that the record tells of a set as it stood when it was looked at. Whose feet and anchors are asked is computed where the finding hangs
// on it alone: it takes long. A context that ends ends it.
func (s Seen) Facts(ctx context.Context) (Facts, error) {
	m, l := s.Make, s.Make.Layout
	f := Facts{
		Coverage: s.Drawn.CoveredBefore(l, s.Spot.ID, s.Look.At), Locked: s.locked(), Firm: s.firm(), LooseSoil: looseSoil(l), Met: s.met(),
		HoleMm: holeMm(l), Backing: backingOf(l), Bait: baitOf(l), PanHigh: standsHigh(l), Drag: drags(l), RainMm: s.rain(), LossesHere: s.losses(),
	}
	if m.AsBuilt != nil {
		f.ScentOnBed = m.AsBuilt.ScentOnBed
	}
	if s.Spot.Shy {
		f.Shy = new(true)
	}
	f.OpenHole = new(l.OpenHole())
	if l.Hands != "" {
		f.BareHands = new(l.Hands == "bare")
	}
	f.PrintsMm = s.printsMm()
	f.Nights = new(float64(tally.Nights(m.BuiltAt, s.Look.At, s.Record.Zone)))
	if slices.ContainsFunc(l.Rigs, func(r layout.Rig) bool { return r.Under != "" }) {
		f.PanPlug = new(true)
	}
	s.ofTraps(&f)
	return f, s.ofFeet(ctx, &f)
}

// ofTraps reads what is known of the traps: the first of them that says anything.
func (s Seen) ofTraps(f *Facts) {
	for _, h := range s.Traps {
		if h.Tension != nil && f.Fire == nil {
			f.Fire = new(1 - h.Tension.Fails)
		}
		if len(h.Checks) > 0 {
			f.TrapFault = new(len(h.Faults) > 0 || f.TrapFault != nil && *f.TrapFault)
			f.Jaws = JawsOK
		}
	}
	for _, h := range s.Traps {
		if slices.ContainsFunc(h.Faults, func(x line.CheckItem) bool { return x.Key == "jaws" || x.Key == "dog" }) {
			f.Jaws = JawsWorn
			return
		}
		if h.Trap.JawSpreadMm < smallJaws*s.Asked.Target.PadWidth && !slices.Contains(h.Trap.Usual, "jawSpreadMm") {
			f.Jaws = JawsSmall
		}
	}
}

// ofFeet asks how often a foot finds the pan and the best place, how likely the anchor holds, and who digs among those about, each where the finding
// hangs on it.
func (s Seen) ofFeet(ctx context.Context, f *Facts) error {
	q := s.Asked
	switch s.Look.Finding {
	case line.FoundStood:
		q.Map, q.Visits = true, mapVisits
		answer, err := odds.Of(q)
		if err != nil || answer.Feet == nil || answer.Feet.Best == nil {
			return err
		}
		for _, rig := range answer.Rigs {
			if rig.OfBest != nil {
				best := answer.Feet.Best.Chance
				f.Step, f.StepBest = new(best**rig.OfBest), new(best)
				return nil
			}
		}
	case line.FoundGone, line.FoundDug, line.FoundRobbed:
		q.Visits = fewVisits
		comers, err := odds.ComersTo(ctx, q, 1)
		if err != nil || len(comers) == 0 {
			return err
		}
		f.Hold = new(comers[0].AnchorHold)
		digging, all := 0.0, 0.0
		for _, c := range comers {
			if all += c.Passes; c.Animal.Digs >= digsFrom {
				digging += c.Passes
			}
		}
		if all > 0 {
			f.Diggers = new(digging / all)
		}
	}
	return nil
}

// locked tells whether the weather had locked the set: by the look itself, or by what it was beside.
func (s Seen) locked() *bool {
	if s.Look.Finding == line.FoundLocked || slices.ContainsFunc(s.Look.Also, func(x line.Found) bool { return x.Finding == line.FoundLocked }) {
		return new(true)
	}
	return s.Drawn.LockedBefore(s.Make.Layout, s.Look.At)
}

// firm is the bed as the look felt it, or as it was built.
func (s Seen) firm() *bool {
	if s.Look.Bed == line.FeltRocks {
		return new(false)
	}
	known := false
	for _, r := range s.Make.Layout.Rigs {
		if r.Jaws == nil {
			continue
		}
		if r.Bed.Firm != nil && !*r.Bed.Firm {
			return new(false)
		}
		known = known || r.Bed.Firm != nil
	}
	if !known {
		return nil
	}
	return new(true)
}

// met counts the makes of the season that stood at the spot before with a smell of a kind that this one has.
func (s Seen) met() *float64 {
	kinds := map[layout.SmellKind]bool{}
	for _, smell := range s.Make.Layout.Smells() {
		kinds[smell.Kind] = true
	}
	if len(kinds) == 0 {
		return nil
	}
	n := 0.0
	for _, m := range s.Record.Makes {
		if m.ID == s.Make.ID || !m.BuiltAt.Before(s.Make.BuiltAt) || s.Record.Set(m.SetID).SpotID != s.Spot.ID {
			continue
		}
		if slices.ContainsFunc(m.Layout.Smells(), func(x layout.Smell) bool { return kinds[x.Kind] }) {
			n++
		}
	}
	return &n
}

// printsMm is how far the prints of the look lie from the nearest pan, on average.
func (s Seen) printsMm() *float64 {
	sum, n := 0.0, 0
	for _, print := range s.Look.Prints {
		nearest := math.Inf(1)
		for _, r := range s.Make.Layout.Rigs {
			if r.Pan != nil {
				nearest = math.Min(nearest, math.Hypot(print.XMm-r.Pan.XMm, print.YMm-r.Pan.YMm))
			}
		}
		if !math.IsInf(nearest, 1) {
			sum, n = sum+nearest, n+1
		}
	}
	if n == 0 {
		return nil
	}
	return new(sum / float64(n))
}

// rain is what fell since the set was last seen; nil where nobody knows.
func (s Seen) rain() *float64 {
	since := s.Make.BuiltAt
	for _, look := range s.Record.Looks(s.Make.ID) {
		if look.At.Before(s.Look.At) && look.ID != s.Look.ID {
			since = look.At
		}
	}
	return s.Drawn.RainBetween(since, s.Look.At)
}

// losses counts the animals that were lost and the traps that went from this set before.
func (s Seen) losses() *float64 {
	n := 0.0
	for _, m := range s.Record.At(s.Make.SetID) {
		for _, look := range s.Record.Looks(m.ID) {
			if look.At.Before(s.Look.At) && look.ID != s.Look.ID && (look.Finding == line.FoundLost || look.Finding == line.FoundGone) {
				n++
			}
		}
	}
	return &n
}

func looseSoil(l layout.Layout) *bool {
	if l.Spoil == "" {
		return nil
	}
	return new(l.Spoil == "sides" || l.Spoil == "before")
}

func holeMm(l layout.Layout) *float64 {
	for _, a := range l.Attractors {
		if a.Hole != nil {
			return new(a.Hole.DepthMm)
		}
	}
	return nil
}

func backingOf(l layout.Layout) BackingIs {
	switch l.Backing {
	case "bank", "stone", "stump", "log", "sod":
		return BackingSolid
	case "none":
		return BackingOpen
	}
	return ""
}

func baitOf(l layout.Layout) BaitIs {
	n := 0
	for _, smell := range l.Smells() {
		if smell.IsBait() {
			n++
		}
	}
	switch {
	case n == 0:
		return BaitNone
	case n >= muchBait:
		return BaitMuch
	}
	return BaitLittle
}

func standsHigh(l layout.Layout) *bool {
	for _, r := range l.Rigs {
		if r.Pan != nil && r.Jaws != nil && r.Pan.HeightMm != nil && *r.Pan.HeightMm > r.Jaws.HeightMm {
			return new(true)
		}
	}
	return nil
}

func drags(l layout.Layout) *bool {
	if len(l.Anchors) == 0 {
		return nil
	}
	return new(layout.Drags(l.Anchors[0].Kind) && !l.Anchors[0].Tied)
}

// Target is the animal that a finding is read for: whose it was, or whom the set is for.
func Target(known animal.Animals, m line.Make, look line.Visit) (animal.Animal, error) {
	if a, err := known.ByKey(look.Animal); err == nil && a.Target {
		return a, nil
	}
	return known.ByKey(m.Target)
}
