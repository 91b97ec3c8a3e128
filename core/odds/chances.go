package odds

import (
	"fmt"
	"math"
	"slices"
	"sync"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
)

// Circumstances is what is known of a set's place and night, and of what the place and the set have been through: how old the best sign
// near it is, how many ways meet, over which share of the night its scent lies across the way, whether the place is shy, how its lures
// stand to the place and to the season, the night since it was built, and whether its chain of makes has caught. Nil, blank and nought
// are not known.
type Circumstances struct {
	Sign         string   `json:"sign"`
	WaysMeet     int      `json:"waysMeet"`
	Coverage     *float64 `json:"coverage" jsonschema:"nullable"`
	Shy          bool     `json:"shy"`
	Lures        string   `json:"lures"`  // new or met
	Season       string   `json:"season"` // in or out
	Night        int      `json:"night"`
	CaughtBefore bool     `json:"caughtBefore"`
	// Others is what is known about the place of each animal but the target, by its key; of who is not named nothing is known.
	Others map[string]Presence `json:"others,omitempty"`
	// Facings is over which share of the night the scent would lie across the way if the set faced otherwise.
	Facings []Facing `json:"facings,omitempty"`
}

// Presence is how old the best sign of an animal near a place is, blank where nobody looked, and which share of its usual numbers is
// about at that time; nil where that is not known.
type Presence struct {
	Sign  string   `json:"sign"`
	About *float64 `json:"about,omitempty"`
}

// Facing is a way in which a set could face, and its scent's coverage then.
type Facing struct {
	FacingDeg float64 `json:"facingDeg"`
	Coverage  float64 `json:"coverage"`
}

// presence is what is known of an animal about the place. All of a target's numbers are about.
func (c Circumstances) presence(q Question) Presence {
	if !q.other {
		return Presence{c.Sign, new(1.0)}
	}
	return c.Others[q.Target.Key]
}

// How lures stand to a place, and to the season.
const (
	LuresNew  = "new"
	LuresMet  = "met"
	InSeason  = "in"
	OutSeason = "out"
)

// Check refuses words that are not known, and counts that cannot be.
func (c Circumstances) Check(p *refuse.Problems) {
	for _, said := range []struct {
		field, word string
		known       []string
	}{{"sign", c.Sign, Signs()}, {"lures", c.Lures, []string{LuresNew, LuresMet}}, {"season", c.Season, []string{InSeason, OutSeason}}} {
		if said.word != "" {
			p.OneOf("circumstances."+said.field, said.word, said.known)
		}
	}
	p.Within("circumstances.waysMeet", float64(c.WaysMeet), 0, 3, "")
	p.Within("circumstances.night", float64(c.Night), 1, 10000, "")
	if c.Coverage != nil {
		p.Within("circumstances.coverage", *c.Coverage, 0, 1, "")
	}
	for key, is := range c.Others {
		at := "circumstances.others." + key
		animal.Named(p, at, key)
		if is.Sign != "" {
			p.OneOf(at+".sign", is.Sign, Signs())
		}
		if is.About != nil {
			p.Within(at+".about", *is.About, 0, 1, "")
		}
	}
	if len(c.Facings) > mostFacings {
		p.Add("circumstances.facings", "must be at most %d, not %d", mostFacings, len(c.Facings))
	}
	for i, f := range c.Facings {
		at := fmt.Sprintf("circumstances.facings[%d].", i)
		p.Within(at+"facingDeg", f.FacingDeg, 0, 360, "°")
		p.Within(at+"coverage", f.Coverage, 0, 1, "")
	}
}

const mostFacings = 16

// Chances is the whole chain of a set for its target: each link with its low and high, which what is not known and the run leave open;
// the catches in 100 set-nights likewise; what is not known, and what speaks for or against it. Weakest is the link farthest below its
// par, blank where none is weak.
type Chances struct {
	Links   []ChanceLink `json:"links"`
	Per100  Range        `json:"per100"`
	Weakest string       `json:"weakest"`
	Unknown []string     `json:"unknown"`
	Terms   []string     `json:"terms"`
}

// Range is a number with how low and how high it may be.
type Range struct {
	Low  float64 `json:"low"`
	Mid  float64 `json:"mid"`
	High float64 `json:"high"`
}

// ChanceLink is a link, with what a set as it begins would give there.
type ChanceLink struct {
	Key string `json:"key"`
	Range
	Par float64 `json:"par"`
}

// What can be not known.
const (
	NoSign     = "sign"
	NoWays     = "ways_meet"
	NoCoverage = "coverage"
	NoFirm     = "firm"
	NoHold     = "hold"
	NoAbout    = "about"
)

// Plausible ends of what is not known, and the par. Judgements.
const (
	leastCoverage, mostCoverage = .1, .9
	leastHold, mostHold         = .5, .97
	leastAbout                  = .2
	parCoverage                 = .5
	notWeak                     = .9 // of its par
)

// chances is the chain of a set under circumstances, by its feet on a firm bed, with each link's par and which of them is weak.
func chances(q Question, firm *Feet, anchorHolds *float64) (*Chances, error) {
	if firm == nil || q.Circumstances == nil {
		return nil, nil
	}
	found, err := linked(q, firm, anchorHolds)
	if err != nil {
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
	return found, nil
}

// linked is the chain of a set under circumstances, without pars.
func linked(q Question, firm *Feet, anchorHolds *float64) (*Chances, error) {
	c := *q.Circumstances
	about := c.presence(q)
	found := &Chances{Unknown: []string{}, Terms: termsOf(q, c)}
	low := ChainInput{
		Sign: about.Sign, WaysMeet: c.WaysMeet, Sight: q.Layout.Sight(q.Target, q.Underfoot).Share, Blind: Blind(q.Layout), Terms: slices.Clone(found.Terms),
		Night: c.Night, CaughtBefore: c.CaughtBefore, Food: q.Layout.Baited(), PadShare: firm.PadShare,
	}
	if low.Blind {
		low.Sight = 1
	}
	if anchorHolds != nil {
		low.AnchorHold = *anchorHolds
	}
	if c.Coverage != nil {
		low.Coverage = *c.Coverage
	}
	if about.About != nil {
		low.About = *about.About
	}
	high := low
	high.Terms = slices.Clone(found.Terms)
	unknown := func(key string, is bool, widen func()) {
		if is {
			found.Unknown = append(found.Unknown, key)
			widen()
		}
	}
	unknown(NoSign, about.Sign == "", func() { low.Sign, high.Sign = "none", "days_7" })
	unknown(NoAbout, about.About == nil, func() { low.About, high.About = leastAbout, 1 })
	unknown(NoWays, c.WaysMeet == 0, func() { low.WaysMeet, high.WaysMeet = 1, 3 })
	unknown(NoCoverage, c.Coverage == nil && !low.Blind, func() { low.Coverage, high.Coverage = leastCoverage, mostCoverage })
	unknown(NoFirm, slices.ContainsFunc(q.Layout.Rigs, func(r layout.Rig) bool { return r.Bed.Firm == nil && r.Jaws != nil }), func() { low.Terms = append(low.Terms, "bed_loose") })
	unknown(NoHold, anchorHolds == nil, func() { low.AnchorHold, high.AnchorHold = leastHold, mostHold })
	low.Steps, high.Steps = within(firm.Step, q.Visits)
	if firm.Step > 0 {
		low.Fires, high.Fires = firm.Fire/firm.Step, firm.Fire/firm.Step
	}
	least, err := Chain(q.Target, low)
	if err != nil {
		return nil, err
	}
	most, err := Chain(q.Target, high)
	if err != nil {
		return nil, err
	}
	found.Links = []ChanceLink{
		{"passes", between(least.Passes, most.Passes), 0}, {"notices", between(least.Notices, most.Notices), 0},
		{"commits", between(least.Commits, most.Commits), 0}, {"steps", between(low.Steps, high.Steps), 0},
		{"fires", between(low.Fires, high.Fires), 0}, {"held", between(least.Held, most.Held), 0},
	}
	found.Links[3].Mid = firm.Step // the run's own, and not the middle of its error
	found.Per100 = Range{Low: least.Per100, High: most.Per100, Mid: 100}
	for _, link := range found.Links {
		found.Per100.Mid *= link.Mid
	}
	return found, nil
}

// within is a share of so many visits, less and more by two standard errors.
func within(share float64, visits int) (low, high float64) {
	off := 2 * math.Sqrt(share*(1-share)/float64(visits))
	return math.Max(0, share-off), math.Min(1, share+off)
}

// between is a range with its middle as shares go: the geometric one.
func between(low, high float64) Range { return Range{low, math.Sqrt(low * high), high} }

// par is what a pattern's defaults give an animal: settled, with nothing that speaks for or against it.
type par struct {
	ChainOutput
	steps, fires float64
}

// pars keeps the pars that were computed: they hang on pattern, variant, target and visits alone, of which there are few.
var pars sync.Map

func parOf(q Question) (par, error) {
	begin := layout.Begin{Target: q.Target, Schools: schools.Usual()}
	begin.Variant = layout.VariantOf(q.Layout, begin)
	key := fmt.Sprint(q.Layout.Pattern, " ", begin.Variant, " ", q.Target.Key, " ", q.Visits)
	if found, ok := pars.Load(key); ok {
		return found.(par), nil
	}
	found, err := parFrom(q, begin)
	if err == nil {
		pars.Store(key, found)
	}
	return found, err
}

func parFrom(q Question, begin layout.Begin) (par, error) {
	usual, err := layout.New(q.Layout.Pattern, begin)
	if err != nil {
		return par{}, err
	}
	feet, err := feetOf(Question{Layout: usual, Target: q.Target, Visits: q.Visits})
	if err != nil || feet == nil {
		return par{}, err
	}
	in := ChainInput{
		Sign: "days_3", WaysMeet: 1, Coverage: parCoverage, Sight: usual.Sight(q.Target, layout.Underfoot{}).Share, Blind: Blind(usual), Night: 9, CaughtBefore: true,
		Food: usual.Baited(), About: 1, Steps: feet.Step, AnchorHold: mostHold, PadShare: feet.PadShare,
	}
	if feet.Step > 0 {
		in.Fires = feet.Fire / feet.Step
	}
	out, err := Chain(q.Target, in)
	return par{out, in.Steps, in.Fires}, err
}

// termsOf is what speaks for and against a set, as it is made and under its circumstances.
func termsOf(q Question, c Circumstances) []string {
	l := q.Layout
	found := []string{}
	say := func(key string, is bool) {
		if is {
			found = append(found, key)
		}
	}
	say("bed_loose", slices.ContainsFunc(l.Rigs, func(r layout.Rig) bool { return r.Bed.Firm != nil && !*r.Bed.Firm }))
	say("loose_soil", l.Spoil == "sides" || l.Spoil == "before")
	say("tall_fence", slices.ContainsFunc(l.Guides, func(g layout.Guide) bool { return g.HeightMm != nil && *g.HeightMm > layout.UneasyMm }))
	say("tree_hole", l.Pattern == "tree_hole")
	say("back_open_snow", q.Underfoot.Snow && l.Backing == "none" && len(l.Attractors) > 0)
	say("shy_punch_holes", c.Shy && l.Pattern == "punch_holes")
	say("shy_open_hole", c.Shy && l.Kind == "dirt_hole" && l.Pattern != "punch_holes")
	say("lure_new", c.Lures == LuresNew)
	say("lure_met", c.Lures == LuresMet)
	say("in_season", c.Season == InSeason)
	say("out_of_season", c.Season == OutSeason)
	say("bare_hands", l.Hands == "bare")
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
func holdTonight(l layout.Layout, anchors []anchor.Held, feet *Feet) *float64 {
	hold, fired := 0.0, 0.0
	for i, r := range l.Rigs {
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
