// Package shed says how the things stand that are prepared before going out: where each trap is and what keeps it home, what
// its pan was last measured at against the window it is meant for, what is left in the bottles and which spots have met them,
// and what to take along. It reads a line's records; lengths in mm, forces in newtons, volumes in ml, weights in g.
package shed

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/gauge"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
)

// Record is everything of a line that the shed reads: what was done in a season, the designs that are not built, the traps with
// their cards, traps that were found gone before the season and not built with
// since, what was poured, and what its trapper goes by.
type Record struct {
	line.Record
	Animals animal.Animals
	Schools schools.Schools
	Designs []line.Design
	Traps   []line.Trap
	Cards   map[string]Card // by trap
	Gone    map[string]Gone
	StillIn []line.StillIn // what pulls have left at the sets
	Poured  []OnShelf
}

// Gone is when and where a trap was found gone.
type Gone struct {
	At  time.Time
	Set line.Set
}

// PlaceKind is where a trap is.
type PlaceKind string

// Places where a trap can be. It is in one of them only.
const (
	Home    PlaceKind = "home"    // on the rack
	InSet   PlaceKind = "set"     // in a set that stands
	Missing PlaceKind = "missing" // gone from a set and not found
	Left    PlaceKind = "left"    // frozen in where its set was pulled
	Away    PlaceKind = "away"    // lent, mending, lost, worn out
)

// PlaceKinds lists them.
var PlaceKinds = []PlaceKind{Home, InSet, Missing, Left, Away}

// Place is where a trap is, and since when where that is known. SetID and SpotID are blank but in a set, or missing or left in at one.
type Place struct {
	Kind   PlaceKind  `json:"kind"`
	SetID  string     `json:"setId"`
	Number int        `json:"number"` // of the set
	SpotID string     `json:"spotId"`
	Since  *time.Time `json:"since" jsonschema:"nullable"`
	Why    line.Away  `json:"why"` // why it is away
}

// Hung is a trap as the rack shows it.
type Hung struct {
	Trap    line.Trap        `json:"trap"`
	Place   Place            `json:"place"`
	Checked *time.Time       `json:"checked" jsonschema:"nullable"` // its last shed check
	Checks  []line.CheckItem `json:"checks"`                        // what was last said of each item
	Faults  []line.CheckItem `json:"faults"`                        // those that keep it home
	Tension *Tension         `json:"tension" jsonschema:"nullable"`
	Wanted  *Wanted          `json:"wanted" jsonschema:"nullable"` // nil for a device without a pan to measure, and where a word is not known
	Verdict pan.Verdict      `json:"verdict"`
	Turn    gauge.Turn       `json:"turn"`
	Bars    Bar              `json:"bars"` // why no set can be built with it; blank where one can
}

// Bar is why no set can be built with a trap.
type Bar string

// Reasons why no set can be built with a trap.
const (
	BarsStands Bar = "stands" // it stands in a set
	BarsAway   Bar = "away"   // it is not on the rack
	BarsFault  Bar = "fault"  // the shed check keeps it home
)

// Bars lists them.
var Bars = []Bar{BarsStands, BarsAway, BarsFault}

// bars says why no set can be built with a trap; a remake of the set that it stands in can, if nothing is wrong with it.
func (h Hung) bars() Bar {
	switch {
	case h.Place.Kind == InSet:
		return BarsStands
	case h.Place.Kind != Home:
		return BarsAway
	case len(h.Faults) > 0:
		return BarsFault
	}
	return ""
}

// BarsFrom says why a set cannot be built with a trap.
func (h Hung) BarsFrom(setID string) Bar {
	switch {
	case h.Place.Kind == InSet && h.Place.SetID == setID && len(h.Faults) > 0:
		return BarsFault
	case h.Place.Kind == InSet && h.Place.SetID == setID:
		return ""
	}
	return h.bars()
}

// Fit tells whether a trap can go out.
func (h Hung) Fit() bool { return h.bars() == "" }

// Tension is the newest measurement of a pan, and why it no longer counts as new.
type Tension struct {
	gauge.Measured
	Measurement line.Measurement `json:"measurement"`
	Old         OldBy            `json:"old"`
	Fails       float64          `json:"fails"`       // the share of the targets that would not fire it
	PerQuarterN float64          `json:"perQuarterN"` // what a quarter turn did the last time; 0 where it is not known
}

// OldBy is why a measurement no longer counts as new.
type OldBy string

// Reasons why a measurement is old.
const (
	OldMonth   OldBy = "month"   // longer ago than a month
	OldChanged OldBy = "changed" // its hardware was changed or mended since
	OldHeld    OldBy = "held"    // it held an animal or fired since
)

// OldBys lists them.
var OldBys = []OldBy{OldMonth, OldChanged, OldHeld}

// Verdicts lists all that can be said of a trap's pan.
var Verdicts = append(slices.Clone(pan.Verdicts), Unmeasured, Locked)

// monthDays is how long a measurement is taken for new; a judgement.
const monthDays = 30

// Verdicts on a pan, beside those of its setting.
const (
	Unmeasured pan.Verdict = "unmeasured"
	Locked     pan.Verdict = "locked" // under this cover no setting fires
)

// Wanted is the window that a trap's pan should lie in, with the cover as it will be.
type Wanted struct {
	pan.WindowOutput
	Targets []string       `json:"targets"`
	Spares  []string       `json:"spares"`
	Cover   []layout.Layer `json:"cover"`
	CoverN  float64        `json:"coverN"`
	Footing bool           `json:"footing"` // the pan is the one dry footing in water
}

// Rack lists the traps by number as they stand. It refuses only records that cannot be.
func (r Record) Rack() ([]Hung, error) {
	hung := make([]Hung, 0, len(r.Traps))
	for _, t := range r.Traps {
		one, err := r.hang(t)
		if err != nil {
			return nil, fmt.Errorf("trap %d: %w", t.Number, err)
		}
		hung = append(hung, one)
	}
	slices.SortFunc(hung, func(a, b Hung) int { return cmp.Compare(a.Trap.Number, b.Trap.Number) })
	return hung, nil
}

func (r Record) hang(t line.Trap) (Hung, error) {
	card := r.Cards[t.ID]
	h := Hung{Trap: t, Place: r.Where(t), Checked: card.CheckedAt, Checks: append([]line.CheckItem{}, card.Items...), Faults: []line.CheckItem{}}
	for _, item := range h.Checks {
		if !item.Sound {
			h.Faults = append(h.Faults, item)
		}
	}
	h.Bars = h.bars()
	if !line.HasJaws(t.Type) {
		return h, nil
	}
	var err error
	if h.Tension, err = r.tension(t); err != nil {
		return h, err
	}
	wanted, err := r.wanted(t, h.Place)
	if err != nil {
		return h, refuse.Known(err) // of an animal or a cover that is not known no window can be told
	}
	h.Wanted = &wanted
	if h.Tension != nil {
		h.Tension.MeanN = bare(h.Tension.MeanN, h.Tension.Measurement.Covered, wanted)
		if h.Tension.Fails, err = failing(r.Animals, h.Tension.MeanN, wanted); err != nil {
			return h, err
		}
	}
	h.Verdict = verdict(h.Tension, wanted)
	if h.Tension != nil {
		h.Turn = gauge.TurnTo(h.Tension.MeanN, wanted.WindowOutput)
	}
	return h, nil
}

// bare is what a gauge would read without the cover that it was pressed through.
func bare(meanN float64, covered bool, w Wanted) float64 {
	if covered {
		return meanN - w.CoverN
	}
	return meanN
}

// failing is the largest share of a kind of target that would not fire a pan at a reading of the gauge.
func failing(known animal.Animals, gaugeN float64, w Wanted) (float64, error) {
	var p refuse.Problems
	most := 0.0
	for _, a := range known.Listed(&p, "targets", w.Targets) {
		fires, err := pan.Fire(a, pan.Effective(gaugeN, w.CoverN), w.Footing)
		if err != nil {
			return 0, err
		}
		most = max(most, 1-fires)
	}
	return most, p.Err()
}

// verdict judges a pan by what is wanted of it: first by the targets that would walk over it, then by those to spare.
func verdict(t *Tension, w Wanted) pan.Verdict {
	switch {
	case w.MaxN < 0:
		return Locked
	case t == nil:
		return Unmeasured
	}
	return w.Verdict(t.MeanN, t.Fails)
}

// Where tells where a trap is: where the newest make that names it put it, unless that was pulled, it was found gone, or the
// user says that it is away.
func (r Record) Where(t line.Trap) Place {
	if t.Away != "" {
		return Place{Kind: Away, Why: t.Away}
	}
	if place, left := r.leftIn(t); left {
		return place
	}
	made, ok := r.LastWith(t.ID)
	if !ok {
		if gone, ok := r.Gone[t.ID]; ok && !r.backSince(t, gone.At) {
			return Place{Kind: Missing, SetID: gone.Set.ID, Number: gone.Set.Number, SpotID: gone.Set.SpotID, Since: &gone.At}
		}
		return Place{Kind: Home}
	}
	since, set := r.stayFrom(made, t.ID), r.Set(made.SetID)
	at := Place{Kind: InSet, SetID: made.SetID, Number: set.Number, SpotID: set.SpotID, Since: &since}
	if last := r.LastLook(made.ID); last != nil && foundWith(made, *last, t.ID).Facts().Away && !r.backSince(t, last.At) {
		at.Kind, at.Since = Missing, &last.At
		return at
	}
	if made.PulledAt != nil {
		return Place{Kind: Home, Since: made.PulledAt}
	}
	return at
}

// leftIn is where a trap is that was not home when its set was pulled.
func (r Record) leftIn(t line.Trap) (Place, bool) {
	for _, x := range r.StillIn {
		if x.TrapID != t.ID || x.Trap == line.TrapHome || r.backSince(t, x.Since) {
			continue
		}
		at := Place{Kind: Left, SetID: x.SetID, Number: x.Number, SpotID: x.SpotID, Since: &x.Since}
		if x.Trap == line.TrapLost {
			at.Kind = Missing
		}
		return at, true
	}
	return Place{}, false
}

// foundWith is how a look found the rig of a trap.
func foundWith(made line.Make, look line.Visit, trapID string) line.Finding {
	rig, _ := made.Layout.RigWith(trapID)
	return look.FoundAt(rig.Slot)
}

// stayFrom is when a trap came into the set of a make, over the remakes with the same trap.
func (r Record) stayFrom(made line.Make, trapID string) time.Time {
	at := r.At(made.SetID)
	for i := len(at) - 1; i >= 0; i-- {
		if stayed(made, at[i], trapID) {
			made = at[i]
		}
	}
	return made.BuiltAt
}

// stayed tells whether a make is a remake of another one, and a trap was in both.
func stayed(made, before line.Make, trapID string) bool {
	_, here := made.Layout.RigWith(trapID)
	_, there := before.Layout.RigWith(trapID)
	return made.Follows != nil && *made.Follows == before.ID && here && there
}

// backSince tells whether a trap that was found gone has been in the hands since: checked, measured, or said to be back.
func (r Record) backSince(t line.Trap, gone time.Time) bool {
	card := r.Cards[t.ID]
	return after(card.CheckedAt, gone) || after(card.EditedAt, gone) ||
		slices.ContainsFunc(card.Measured, func(x line.Measurement) bool { return x.At.After(gone) })
}

// tension is the newest measurement of a trap.
func (r Record) tension(t line.Trap) (*Tension, error) {
	of := r.Cards[t.ID].Measured
	if len(of) == 0 {
		return nil, nil
	}
	last := of[len(of)-1]
	measured, err := gauge.Measure(last.Presses, last.Factor)
	if err != nil {
		return nil, err
	}
	found := &Tension{Measured: measured, Measurement: last, Old: r.old(t, last.At)}
	if len(of) > 1 && last.Turned != 0 {
		before, err := gauge.Measure(of[len(of)-2].Presses, of[len(of)-2].Factor)
		if err != nil {
			return nil, err
		}
		// Only a turn that did what turns do tells about the next one.
		found.PerQuarterN = max(0, (measured.MeanN-before.MeanN)/last.Turned)
	}
	return found, nil
}

// old says why a measurement no longer counts as new: the trap fired since, its hardware was changed, or a month is over.
func (r Record) old(t line.Trap, at time.Time) OldBy {
	for _, made := range r.With(t.ID) {
		for _, look := range r.Looks(made.ID) {
			if look.At.After(at) && foundWith(made, look, t.ID).Facts().Fired {
				return OldHeld
			}
		}
	}
	switch card := r.Cards[t.ID]; {
	case after(card.ChangedAt, at), after(card.MendedAt, at):
		return OldChanged
	case r.Now.Sub(at) > monthDays*24*time.Hour:
		return OldMonth
	}
	return ""
}

// wanted is the window of a trap: in a set, for the set's target under its cover; on the rack, for what it is meant for, under
// the cover of the design that names it, or else what such a set usually has.
func (r Record) wanted(t line.Trap, at Place) (Wanted, error) {
	target, footing := t.MeantFor, false
	var rig layout.Rig
	made, ok := r.LastWith(t.ID)
	if ok && at.Kind == InSet {
		target, footing = made.Target, made.Layout.OnFooting()
		rig, _ = made.Layout.RigWith(t.ID)
	} else if design, ok := r.designNaming(t.ID); ok && design.Layout.Check() == nil {
		target, footing = design.Target, design.Layout.OnFooting()
		rig, _ = design.Layout.RigWith(t.ID)
	} else {
		a, err := r.Animals.ByKey(target)
		if err != nil {
			return Wanted{}, err
		}
		usual, err := layout.New("hole", layout.Begin{Target: a, Schools: r.Schools})
		if err != nil {
			return Wanted{}, err
		}
		rig = usual.Rigs[0]
		rig.Pan.DiameterMm = t.PanDiameterMm
	}
	spares := slices.DeleteFunc(slices.Clone(t.Spares), func(key string) bool { return key == target })
	return WindowOf(r.Animals, target, spares, rig.Cover, rig.PanMm(), footing)
}

// designNaming finds the design that names a trap and is not built yet.
func (r Record) designNaming(trapID string) (line.Design, bool) {
	i := slices.IndexFunc(r.Designs, func(d line.Design) bool {
		_, named := d.Layout.RigWith(trapID)
		return d.SetID == nil && named
	})
	if i < 0 {
		return line.Design{}, false
	}
	return r.Designs[i], true
}

// WindowOf computes the window for an animal to catch and others to spare, by their keys, under a cover, of a pan that is the one dry footing
// or is not. It refuses animals that are not known, and what pan.Cover and pan.Window do.
func WindowOf(known animal.Animals, target string, spares []string, cover []layout.Layer, panDiameterMm float64, footing bool) (Wanted, error) {
	var p refuse.Problems
	in := pan.WindowDefaults()
	in.Targets, in.Avoid, in.Footing = known.Listed(&p, "targets", []string{target}), known.Listed(&p, "avoid", spares), footing
	if err := p.Err(); err != nil {
		return Wanted{}, err
	}
	adds, err := layout.CoverN(cover, panDiameterMm)
	if err != nil {
		return Wanted{}, err
	}
	in.CoverN, in.TradeN = adds, in.Targets[0].Habit.PanN
	out, err := pan.Window(in)
	return Wanted{WindowOutput: out, Targets: []string{target}, Spares: spares, Cover: cover, CoverN: adds, Footing: footing}, err
}
