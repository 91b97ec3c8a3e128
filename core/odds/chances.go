package odds

import (
	"math"
	"slices"

	"oldburrow/core/anchor"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/schools"
)

// Chances is the whole chain of a set for its target: each link with its low and high, which what is not known leaves open; the catches in
// 100 set-nights, with the doubt that there is of a line without a record too; what is not known, and what speaks for or against it.
// Weakest is the link farthest below its par, blank where none is weak.
type Chances struct {
	Links   []ChanceLink  `json:"links"`
	Per100  Range         `json:"per100"`
	Weakest LinkKey       `json:"weakest"`
	Unknown []Unknown     `json:"unknown"`
	Terms   []layout.Term `json:"terms"`
	Suit    layout.Suit   `json:"suit"` // what the pattern finds at the place
	// ThroughBy is what tells which share of those that pass take a blind set's way.
	ThroughBy string  `json:"throughBy"`
	WithinM   float64 `json:"withinM"` // how near it asks for what it lacks
	// Told is what the line's record says at each level, the narrowest last: by that the catches are told. None where it says nothing.
	Told []learn.Told `json:"told"`
	// Leaks is what the line's findings say of the links; nil where they say nothing.
	Leaks *learn.LeaksSeen `json:"leaks,omitempty"`
}

// Range is a number with how low and how high it may be.
type Range struct {
	Low  float64 `json:"low"`
	Mid  float64 `json:"mid"`
	High float64 `json:"high"`
}

func (r Range) times(factor float64) Range {
	return Range{r.Low * factor, r.Mid * factor, r.High * factor}
}

// doubted is a number of catches with the doubt that the record leaves: four times in five it lies between.
func (q Question) doubted(r Range) Range {
	told := q.told()
	return Range{r.Low * told.Low / told.Factor, r.Mid, r.High * told.High / told.Factor}
}

// told is by how much what a chain promises of an animal is told: what the line's record says at the narrowest level. Of whom no line is set for
// nothing is learnt.
func (q Question) told() learn.Factor {
	if q.Circumstances == nil || !q.Target.Target {
		return learn.Unlearnt
	}
	told, err := q.Circumstances.Record.Narrowest(q.Target.Key, string(q.Layout.Kind))
	if err != nil { // what is asked with was checked
		return learn.Unlearnt
	}
	return told
}

// levels is what the record says at each level; what is asked with was checked.
func (q Question) levels() []learn.Told {
	levels, err := q.Circumstances.Record.Told(q.Target.Key, string(q.Layout.Kind))
	if err != nil || !q.Target.Target {
		return nil
	}
	return levels
}

// ChanceLink is a link, with what a set as it begins would give there.
type ChanceLink struct {
	Key LinkKey `json:"key"`
	Range
	Par float64 `json:"par"`
}

// Unknown is a key of what can be not known.
type Unknown string

// What can be not known.
const (
	NoSign     Unknown = "sign"
	NoSignAge  Unknown = "sign_age"
	NoWays     Unknown = "ways_meet"
	NoCoverage Unknown = "coverage"
	NoThrough  Unknown = "through"
	NoFirm     Unknown = "firm"
	NoHold     Unknown = "hold"
	NoAbout    Unknown = "about"
)

// Unknowns lists them.
var Unknowns = []Unknown{NoSign, NoSignAge, NoWays, NoCoverage, NoThrough, NoFirm, NoHold, NoAbout}

// Plausible ends of what is not known, and the par. Judgements.
const (
	leastCoverage, mostCoverage = .1, .9
	leastHold, mostHold         = .5, .97
	leastThrough, mostThrough   = .2, .9
	leastAbout                  = .2
	parCoverage                 = .5
	notWeak                     = .9 // of its par
)

// chances is the chain of a set under circumstances, by its feet on a firm bed, with each link's par and which of them is weak.
func chances(q Question, firm *Feet, anchorHolds *float64) (*Chances, error) {
	if firm == nil || q.Circumstances == nil {
		return nil, nil
	}
	found, _, err := linked(q, firm, anchorHolds)
	if err != nil {
		return nil, err
	}
	if err := found.leaks(q); err != nil {
		return nil, err
	}
	par, err := parOf(q)
	if err != nil {
		return nil, err
	}
	worst := notWeak
	for i, usual := range []float64{0, par.Notices, par.Commits, par.steps, par.fires, par.Held} {
		link := &found.Links[i]
		link.Par = usual
		if usual > 0 && link.Mid/usual < worst {
			worst, found.Weakest = link.Mid/usual, link.Key
		}
	}
	found.Per100, found.Told = q.doubted(found.Per100), append([]learn.Told{}, q.levels()...)
	return found, nil
}

// leaks tells the links as the line's findings show them, where they do: passing is never seen whole, and takes what they leave over.
func (c *Chances) leaks(q Question) error {
	links := q.Circumstances.recorded()[q.Target.Key].Links
	if links == nil {
		return nil
	}
	found, err := learn.See(learn.LeaksInput{Links: *links, Factor: q.told().Factor})
	if err != nil {
		return err
	}
	c.Leaks = &found
	for i, told := range []learn.LinkTold{found.Links.Commits, found.Links.Steps, found.Links.Fires, found.Links.Held} {
		link := &c.Links[i+2]
		if i == 0 && q.Layout.Blind() {
			link = &c.Links[1] // nothing is asked of those that take the way it lies in: what works it less takes another way
		}
		was := link.Mid
		link.Range = link.Range.times(told.Factor).atMost(1)
		if link.Mid > 0 {
			c.Links[0].Range = c.Links[0].Range.times(was / link.Mid)
		}
	}
	return nil
}

// Firmness is how firmly what is told of a set is believed, as the shape of a gamma distribution about it.
func (q Question) Firmness() float64 { return q.told().Shape }

func (r Range) atMost(is float64) Range {
	return Range{math.Min(is, r.Low), math.Min(is, r.Mid), math.Min(is, r.High)}
}

// bounds are a chain whose inputs are not all known: at worst and at best, and what is not known.
type bounds struct {
	least, most ChainInput
	unknown     []Unknown
}

func (o *bounds) lacks(key Unknown, is bool, widen func(least, most *ChainInput)) {
	if is {
		o.unknown = append(o.unknown, key)
		widen(&o.least, &o.most)
	}
}

// boundsOf is what the chain of a set hangs on.
func boundsOf(q Question, firm *Feet, anchorHolds *float64) bounds {
	c := *q.Circumstances
	is, suit := c.presence(q), q.Layout.Suits(q.Target, c.Site)
	in := ChainInput{
		Sign: is.Sign, Signs: is.Signs, WaysMeet: min(c.WaysMeet, len(meeting)), Sight: q.Layout.Sight(q.Target, c.Site).Share, Blind: q.Layout.Blind(), Through: suit.Through,
		Night: c.Night, CaughtBefore: c.CaughtBefore, Food: q.Layout.Baited(), PadShare: firm.PadShare, Steps: firm.Step, Terms: q.termsOn(0),
	}
	if in.Signs == 0 {
		in.Signs = usualSigns
	}
	if firm.Step > 0 {
		in.Fires = firm.Fire / firm.Step
	}
	in.AnchorHold, in.Coverage, in.About = value(anchorHolds), value(c.Coverage), value(is.About)
	if passes := q.Target.Unlooked; passes > 0 && is.Sign == "" {
		in.passing, in.Sign, in.WaysMeet = &passes, AgeNone, max(1, in.WaysMeet)
	}
	o := bounds{in, in, []Unknown{}}
	o.lacks(NoSign, is.Sign == "", func(least, most *ChainInput) {
		if in.passing == nil {
			least.Sign, most.Sign = AgeNone, AgeDays7
		}
	})
	o.lacks(NoSignAge, is.Sign == AgeUnsaid, func(least, most *ChainInput) { least.Sign, most.Sign = AgeOlder, AgeDays7 })
	o.lacks(NoAbout, is.About == nil, func(least, most *ChainInput) { least.About, most.About = leastAbout, 1 })
	o.lacks(NoWays, c.WaysMeet == 0 && in.passing == nil, func(least, most *ChainInput) { least.WaysMeet, most.WaysMeet = 1, 3 })
	o.lacks(NoCoverage, c.Coverage == nil && !in.Blind, func(least, most *ChainInput) { least.Coverage, most.Coverage = leastCoverage, mostCoverage })
	o.lacks(NoThrough, in.Blind && c.Site.Through == "", func(least, most *ChainInput) {
		least.Through, most.Through = math.Min(leastThrough, in.Through), math.Max(mostThrough, in.Through)
	})
	unfelt := slices.ContainsFunc(q.Layout.Rigs, func(r layout.Rig) bool { return r.Bed.Firm == nil && r.Jaws != nil })
	o.lacks(NoFirm, unfelt, func(least, _ *ChainInput) { least.Terms = append(slices.Clone(least.Terms), "bed_loose") })
	o.lacks(NoHold, anchorHolds == nil, func(least, most *ChainInput) { least.AnchorHold, most.AnchorHold = leastHold, mostHold })
	return o
}

func value(of *float64) float64 {
	if of == nil {
		return 0
	}
	return *of
}

// linked is the chain of a set under circumstances, without pars and without the doubt of its catches; and by how much its catches would be
// otherwise if the year stood still, as a share.
func linked(q Question, firm *Feet, anchorHolds *float64) (*Chances, float64, error) {
	o := boundsOf(q, firm, anchorHolds)
	least, err := Chain(q.Target, o.least)
	if err != nil {
		return nil, 0, err
	}
	most, err := Chain(q.Target, o.most)
	if err != nil {
		return nil, 0, err
	}
	frozen := 1.0
	if q.over > 0 {
		var stands, moves Range
		stands, moves = q.overNights(&o, false), q.overNights(&o, true)
		least, most = least.committing(moves.Low), most.committing(moves.High)
		if moves.Mid > 0 {
			frozen = stands.Mid / moves.Mid
		}
	}
	suit := q.Layout.Suits(q.Target, q.Circumstances.Site)
	told := q.told().Factor // passing is never seen whole, and takes all of it
	notices := between(least.Notices, most.Notices)
	if q.Layout.Blind() {
		notices.Mid = suit.Through // what the width of the way says, and not the middle of what it may be
	}
	found := &Chances{
		Unknown: o.unknown, Terms: q.termsOn(0), Suit: suit, ThroughBy: q.Layout.ThroughBy(q.Circumstances.Site), WithinM: layout.AsksWithin(q.Layout.Pattern).WithinM, Per100: Range{Low: told * least.Per100, High: told * most.Per100, Mid: 100},
		Links: []ChanceLink{
			{Passes, between(least.Passes, most.Passes).times(told), 0}, {Notices, notices, 0}, {Commits, between(least.Commits, most.Commits), 0},
			{Steps, between(firm.Step, firm.Step), 0}, {Fires, between(o.most.Fires, o.most.Fires), 0}, {Held, between(least.Held, most.Held), 0},
		},
	}
	for _, link := range found.Links {
		found.Per100.Mid *= link.Mid
	}
	return found, frozen, nil
}

// committing is a chain with another share that commit.
func (c ChainOutput) committing(commits float64) ChainOutput {
	if c.Commits > 0 {
		c.Chance, c.Per100 = c.Chance*commits/c.Commits, c.Per100*commits/c.Commits
	}
	c.Commits = commits
	return c
}

// overNights is which share commits on average over the nights that are asked about: the set settles, and, where the year moves, seasons
// open and close.
func (q Question) overNights(o *bounds, moves bool) Range {
	var low, high float64
	for i := range q.over {
		on := 0
		if moves {
			on = i
		}
		share := q.onNight(o, on, i)
		low, high = low+share.Low, high+share.High
	}
	n := float64(q.over)
	return between(low/n, high/n)
}

// onNight is which share commits as the year stands so many nights on, to a set that is so many nights older.
func (q Question) onNight(o *bounds, on, older int) Range {
	least, most := o.least, o.most
	felt := least.Terms[len(most.Terms):] // what is not known and speaks against it
	most.Terms, most.Night = q.termsOn(on), most.Night+older
	least.Terms, least.Night = append(slices.Clone(most.Terms), felt...), least.Night+older
	return between(commits(q.Target, least), commits(q.Target, most))
}

// between is a range with its middle as shares go: the geometric one.
func between(low, high float64) Range {
	if low == high {
		return Range{low, low, low}
	}
	return Range{low, math.Sqrt(low * high), high}
}

// par is what a pattern's defaults give an animal: settled, with nothing that speaks for or against it.
type par struct {
	ChainOutput
	steps, fires float64
}

func parOf(q Question) (par, error) {
	usual, feet, err := usualFeet(q)
	if err != nil || feet == nil {
		return par{}, err
	}
	suit := usual.Suits(q.Target, q.Circumstances.Site)
	in := ChainInput{
		Sign: AgeDays3, Signs: usualSigns, WaysMeet: 1, Coverage: parCoverage, Sight: suit.Sight, Blind: usual.Blind(), Through: suit.Through, Night: 9, CaughtBefore: true,
		Food: usual.Baited(), About: 1, Steps: feet.Step, AnchorHold: mostHold, PadShare: feet.PadShare,
	}
	if feet.Step > 0 {
		in.Fires = feet.Fire / feet.Step
	}
	out, err := Chain(q.Target, in)
	return par{out, in.Steps, in.Fires}, err
}

// usualFeet is a set as its pattern begins, and its feet.
func usualFeet(q Question) (layout.Layout, *Feet, error) {
	begin := layout.Begin{Target: q.Target, Schools: schools.Usual()}
	begin.Variant = layout.VariantOf(q.Layout, begin)
	usual, err := layout.New(q.Layout.Pattern, begin)
	if err != nil {
		return usual, nil, err
	}
	feet, err := keptFeet(Question{Layout: usual, Target: q.Target, Visits: q.Visits})
	return usual, feet, err
}

// termsOn is what speaks for and against a set, as it is made and under its circumstances, so many nights on.
func (q Question) termsOn(nights int) []layout.Term {
	c, l := *q.Circumstances, q.Layout
	at := c.Site
	if day, ok := c.on(nights); ok {
		at.Day = day.Format("2006-01-02")
	}
	found := slices.Clone(l.Suits(q.Target, at).Terms)
	say := func(key layout.Term, is bool) {
		if is {
			found = append(found, key)
		}
	}
	say("bed_loose", slices.ContainsFunc(l.Rigs, func(r layout.Rig) bool { return r.Bed.Firm != nil && !*r.Bed.Firm }))
	say("scent_on_bed", c.ScentOnBed != nil && *c.ScentOnBed)
	say("loose_soil", l.Spoil == "sides" || l.Spoil == "before")
	say("tall_fence", slices.ContainsFunc(l.Guides, func(g layout.Guide) bool { return g.HeightMm != nil && *g.HeightMm > layout.UneasyMm }))
	say("back_open_snow", q.Underfoot.Snow && l.Backing == "none" && len(l.Attractors) > 0 && !l.Blind())
	say("bare_hands", l.Hands == "bare")
	if l.Blind() {
		return found
	}
	say("kind_met", slices.Contains(at.KindsMet, l.Kind))
	if q.unlured {
		return found
	}
	lures := c.lures(l)
	say("lure_new", lures == LuresNew)
	say("lure_met", lures == LuresMet)
	if day, ok := c.on(nights); ok {
		season := c.season(l, day)
		say("in_season", season == InSeason)
		say("out_of_season", season == OutSeason)
	}
	return found
}

// firmed is a layout with every bed firm.
func firmed(l layout.Layout) layout.Layout {
	l.Rigs = slices.Clone(l.Rigs)
	firm := true
	for i := range l.Rigs {
		l.Rigs[i].Bed.Firm = &firm
	}
	return l
}

// holdTonight is how likely what fired a set is held by its anchor tonight: each rig by its own, as often as it is fired. Nil where one of
// them is not known.
func (q Question) holdTonight(anchors []anchor.Held, feet *Feet) *float64 {
	if q.Hold != nil {
		return q.Hold
	}
	hold, fired := 0.0, 0.0
	for i, r := range q.Layout.Rigs {
		at := slices.IndexFunc(anchors, func(a anchor.Held) bool { return a.Slot == r.AnchorSlot })
		if at < 0 {
			return nil
		}
		chance := anchors[at].Tonight()
		if chance == nil {
			return nil
		}
		share := 1.0
		if feet != nil && feet.Fire > 0 && i < len(feet.byRig) {
			share = feet.byRig[i]
		}
		hold, fired = hold+share*(*chance), fired+share
	}
	if fired == 0 {
		return nil
	}
	hold /= fired
	return &hold
}
