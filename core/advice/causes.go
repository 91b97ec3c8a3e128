// Package advice says what is to be made of what a look found: which causes lie behind it, whether to leave a set, change or move it, and what of all that
// could be done is worth the hours that there are. Its weights are judgements of the trade.
package advice

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

// Facts are what is known of a set at a look, each nil or blank where it is not: then it speaks neither for a cause nor against one.
type Facts struct {
	Coverage   *float64  `json:"coverage,omitempty" jsonschema:"nullable"`   // share of the night's hours in which scent lay over the way
	Step       *float64  `json:"step,omitempty" jsonschema:"nullable"`       // chance to step on this pan
	StepBest   *float64  `json:"stepBest,omitempty" jsonschema:"nullable"`   // and at the best place of the map
	PrintsMm   *float64  `json:"printsMm,omitempty" jsonschema:"nullable"`   // mean distance of the marked prints from the middle of the pan, mm
	Fire       *float64  `json:"fire,omitempty" jsonschema:"nullable"`       // share of the targets that fire the pan as it was measured, with its cover and crust
	Locked     *bool     `json:"locked,omitempty" jsonschema:"nullable"`     // by frost, crust, flood or snow that night
	Firm       *bool     `json:"firm,omitempty" jsonschema:"nullable"`       // the bed
	ScentOnBed *bool     `json:"scentOnBed,omitempty" jsonschema:"nullable"` //
	LooseSoil  *bool     `json:"looseSoil,omitempty" jsonschema:"nullable"`  // lies beside the bed or before it
	Shy        *bool     `json:"shy,omitempty" jsonschema:"nullable"`        // animals are known to be shy there
	OpenHole   *bool     `json:"openHole,omitempty" jsonschema:"nullable"`   //
	Met        *float64  `json:"met,omitempty" jsonschema:"nullable"`        // makes there with such a smell before
	BareHands  *bool     `json:"bareHands,omitempty" jsonschema:"nullable"`  //
	PanHigh    *bool     `json:"panHigh,omitempty" jsonschema:"nullable"`    // it stands above the jaws
	PanPlug    *bool     `json:"panPlug,omitempty" jsonschema:"nullable"`    // something lies under the pan
	Jaws       JawsAre   `json:"jaws,omitempty" jsonschema:"nullable"`       //
	Bait       BaitIs    `json:"bait,omitempty" jsonschema:"nullable"`       //
	HoleMm     *float64  `json:"holeMm,omitempty" jsonschema:"nullable"`     // along its slant
	Backing    BackingIs `json:"backing,omitempty" jsonschema:"nullable"`    //
	Hold       *float64  `json:"hold,omitempty" jsonschema:"nullable"`       // the anchor's chance
	Drag       *bool     `json:"drag,omitempty" jsonschema:"nullable"`       //
	Stock      *bool     `json:"stock,omitempty" jsonschema:"nullable"`      // stood in the field that day
	RainMm     *float64  `json:"rainMm,omitempty" jsonschema:"nullable"`     // since it was last seen
	Nights     *float64  `json:"nights,omitempty" jsonschema:"nullable"`     // since it was built
	Diggers    *float64  `json:"diggers,omitempty" jsonschema:"nullable"`    // share of those about that dig
	LossesHere *float64  `json:"lossesHere,omitempty" jsonschema:"nullable"` // animals lost and traps gone there
	TrapFault  *bool     `json:"trapFault,omitempty" jsonschema:"nullable"`  // an open one stands in the trap's story
}

// JawsAre is how the jaws of a trap are for the animal.
type JawsAre string

// BaitIs is how much bait lies at a set.
type BaitIs string

// BackingIs is what stands behind what an animal comes to.
type BackingIs string

// What they can be.
const (
	JawsOK       JawsAre   = "ok"
	JawsSmall    JawsAre   = "small"
	JawsWorn     JawsAre   = "worn"
	BaitNone     BaitIs    = "none"
	BaitLittle   BaitIs    = "little"
	BaitMuch     BaitIs    = "much"
	BackingSolid BackingIs = "solid"
	BackingOpen  BackingIs = "open"
)

// Lists of them.
var (
	JawsCanBe    = []JawsAre{JawsOK, JawsSmall, JawsWorn}
	BaitCanBe    = []BaitIs{BaitNone, BaitLittle, BaitMuch}
	BackingCanBe = []BackingIs{BackingSolid, BackingOpen}
)

// CauseKey names what can lie behind a finding.
type CauseKey string

// MendKey names what is done about it.
type MendKey string

// Mends that are no change of the set.
const (
	Leave  MendKey = "leave"
	Search MendKey = "search"
)

// firstFrom is the share from which the likeliest cause says what to do.
const firstFrom = .35

// factor is what one fact does to a cause, by its name; 1 where it is not known or says nothing.
type factor struct {
	fact string
	of   func(Facts) float64
}

// cause is a cause of a finding: its weight, what is done about it, and what moves it.
type cause struct {
	key    CauseKey
	weight float64
	mend   MendKey
	moves  []factor
}

func whenTrue(fact string, is func(Facts) *bool, times float64) factor {
	return factor{fact, func(f Facts) float64 { return when(is(f), times, 1) }}
}

// when is one of two where something is so or is not, and 1 where nobody knows.
func when(is *bool, yes, no float64) float64 {
	switch {
	case is == nil:
		return 1
	case *is:
		return yes
	}
	return no
}

// from is what a number does; 1 where it is not known.
func from(fact string, of func(Facts) *float64, does func(float64) float64) factor {
	return factor{fact, func(f Facts) float64 {
		if x := of(f); x != nil {
			return does(*x)
		}
		return 1
	}}
}

func word[T ~string](fact string, of func(Facts) T, times map[T]float64) factor {
	return factor{fact, func(f Facts) float64 {
		if t, known := times[of(f)]; known {
			return t
		}
		return 1
	}}
}

func held(x, low, high float64) float64 { return max(low, min(high, x)) }

// Facts as the table below asks for them.
var (
	scentOnBed  = whenTrue("scentOnBed", func(f Facts) *bool { return f.ScentOnBed }, 3)
	bareHands   = whenTrue("bareHands", func(f Facts) *bool { return f.BareHands }, 1.5)
	panHigh     = whenTrue("panHigh", func(f Facts) *bool { return f.PanHigh }, 3)
	trapFault   = whenTrue("trapFault", func(f Facts) *bool { return f.TrapFault }, 6)
	openBacking = func(times float64) factor {
		return word("backing", func(f Facts) BackingIs { return f.Backing }, map[BackingIs]float64{BackingOpen: times})
	}
	wornJaws = word("jaws", func(f Facts) JawsAre { return f.Jaws }, map[JawsAre]float64{JawsWorn: 3})
	badJaws  = word("jaws", func(f Facts) JawsAre { return f.Jaws }, map[JawsAre]float64{JawsSmall: 3, JawsWorn: 3})
	met      = func(by float64) factor {
		return from("met", func(f Facts) *float64 { return f.Met }, func(n float64) float64 { return 1 + by*n })
	}
	diggers = func(by float64) factor {
		return from("diggers", func(f Facts) *float64 { return f.Diggers }, func(share float64) float64 { return .3 + by*share })
	}
	firm = func(no, yes float64) factor {
		return factor{"firm", func(f Facts) float64 { return when(f.Firm, yes, no) }}
	}
	notFired = from("fire", func(f Facts) *float64 { return f.Fire }, func(fire float64) float64 { return held((1-fire)/.05, .2, 10) })
	notHeld  = from("hold", func(f Facts) *float64 { return f.Hold }, func(hold float64) float64 { return held((1-hold)/.05, .2, 10) })
)

// shyOfHole: a shy animal at an open hole, and one that is known not to be.
func shyOfHole(f Facts) float64 {
	switch {
	case f.Shy == nil:
		return 1
	case !*f.Shy:
		return .5
	case f.OpenHole != nil && *f.OpenHole:
		return 4
	}
	return 1
}

// offPan is how much seldomer this pan is stepped on than the best place, squared, within bounds.
func offPan(f Facts) float64 {
	switch {
	case f.Step == nil || f.StepBest == nil:
		return 1
	case *f.Step == 0 && *f.StepBest > 0:
		return 9
	case *f.Step == 0:
		return 1
	}
	return min(9, (*f.StepBest / *f.Step)*(*f.StepBest / *f.Step))
}

// causesOf are the causes of each finding, in their order.
var causesOf = map[line.Finding][]cause{
	line.FoundPassed: {
		{"wind_missed", 3, "other_side", []factor{from("coverage", func(f Facts) *float64 { return f.Coverage }, func(c float64) float64 { return 2 - 2*c })}},
		{"not_new", 2, "other_smell", []factor{met(.5)}},
		{"shy", 2, "subtle", []factor{{"shy", shyOfHole}}},
		{"not_hungry", 1, Leave, nil},
		{"not_seen", 1, "show", nil},
	},
	line.FoundLooked: {
		{"uneasy_scent", 2, "clean", []factor{scentOnBed, bareHands}},
		{"uneasy_shape", 2, "lower_guides", []factor{whenTrue("shy", func(f Facts) *bool { return f.Shy }, 2)}},
		{"back_open", 1, "backing", []factor{openBacking(2)}},
		{"young_set", 2, Leave, []factor{from("nights", func(f Facts) *float64 { return f.Nights }, func(n float64) float64 {
			switch {
			case n <= 3:
				return 3
			case n > 6:
				return .3
			}
			return 1
		})}},
	},
	line.FoundStood: {
		{"pan_off", 3, "move_pan", []factor{{"step", offPan}, from("printsMm", func(f Facts) *float64 { return f.PrintsMm }, func(mm float64) float64 {
			if mm > 50 {
				return 3
			}
			return 1
		})}},
		{"from_behind", 1, "backing", []factor{openBacking(3)}},
		{"short_visit", 1, "bait", []factor{word("bait", func(f Facts) BaitIs { return f.Bait }, map[BaitIs]float64{BaitNone: 2})}},
	},
	line.FoundStepped: {
		{"heavy", 3, "lighten", []factor{notFired}},
		{"locked", 2, "proof", []factor{{"locked", func(f Facts) float64 { return when(f.Locked, 8, .3) }}}},
		{"soil_under", 2, "plug", []factor{{"panPlug", func(f Facts) float64 { return when(f.PanPlug, .3, 2.5) }}}},
		{"cover_caught", 1, "free_cover", nil},
		{"side_step", 1, "guides", nil},
	},
	line.FoundDug: {
		{"loose_bed", 3, "rebed", []factor{firm(3, .3)}},
		{"scent_metal", 2, "clean", []factor{scentOnBed, bareHands}},
		{"loose_soil", 1.5, "spoil_away", []factor{whenTrue("looseSoil", func(f Facts) *bool { return f.LooseSoil }, 3)}},
		{"digger", 2, "second_trap", []factor{diggers(3)}},
		{"much_bait", 1, "less_bait", []factor{word("bait", func(f Facts) BaitIs { return f.Bait }, map[BaitIs]float64{BaitMuch: 2})}},
	},
	line.FoundRobbed: {
		{"shallow", 3, "deepen", []factor{from("holeMm", func(f Facts) *float64 { return f.HoleMm }, func(mm float64) float64 {
			switch {
			case mm < 150:
				return 3
			case mm > 250:
				return .4
			}
			return 1
		})}},
		{"back_open", 2, "backing", []factor{word("backing", func(f Facts) BackingIs { return f.Backing }, map[BackingIs]float64{BackingOpen: 3, BackingSolid: .4})}},
		{"small_animal", 2, "wedge", []factor{diggers(2)}},
	},
	line.FoundRolled: {
		{"scent_on_bed", 4, "clean", []factor{scentOnBed}},
		{"lure_kind", 1, "other_smell", []factor{met(1)}},
	},
	line.FoundSprung: {
		{"toe_touch", 2, "lower_pan", []factor{panHigh}},
		{"light", 2, "stiffen", []factor{from("fire", func(f Facts) *float64 { return f.Fire }, func(fire float64) float64 {
			if fire > .995 {
				return 2
			}
			return 1
		})}},
		{"slipped", 2, "swap_trap", []factor{wornJaws}},
		{"wobble", 1.5, "rebed", []factor{firm(3, 1)}},
		{"not_the_animal", 1, Leave, []factor{whenTrue("stock", func(f Facts) *bool { return f.Stock }, 4), from("rainMm", func(f Facts) *float64 { return f.RainMm }, func(mm float64) float64 {
			if mm > 10 {
				return 2
			}
			return 1
		})}},
	},
	line.FoundLost: {
		{"toe_hold", 2, "swap_trap", []factor{panHigh}},
		{"jaws", 3, "swap_trap", []factor{badJaws}},
		{"trap_fault", 1, "swap_trap", []factor{trapFault, from("lossesHere", func(f Facts) *float64 { return f.LossesHere }, func(n float64) float64 { return 1 + n })}},
		{"tangled", 1, "shorten", nil},
	},
	line.FoundGone: {
		{"drag_at_work", 5, Search, []factor{{"drag", func(f Facts) float64 {
			if f.Drag != nil && *f.Drag {
				return 1
			}
			return 0
		}}}},
		{"anchor_failed", 3, "anchor", []factor{notHeld}},
		{"link", 1, "rig", []factor{trapFault}},
		{"people", 1, "landowner", nil},
	},
}

// Explained lists the findings that have causes, in the order of all findings.
func Explained() []line.Finding {
	return slices.DeleteFunc(slices.Clone(line.Findings), func(f line.Finding) bool { return causesOf[f] == nil })
}

// CauseKeys lists all causes, and MendKeys all that is done about them, sorted.
func CauseKeys() []CauseKey { return keysIn(func(c cause) CauseKey { return c.key }) }

// MendKeys lists all that is done about causes, sorted.
func MendKeys() []MendKey { return keysIn(func(c cause) MendKey { return c.mend }) }

func keysIn[K cmp.Ordered](of func(cause) K) []K {
	found := map[K]bool{}
	for _, causes := range causesOf {
		for _, c := range causes {
			found[of(c)] = true
		}
	}
	return slices.Sorted(maps.Keys(found))
}

// CausesInput is a finding with what is known of its set.
type CausesInput struct {
	Finding line.Finding `json:"finding"`
	Species string       `json:"species,omitempty" jsonschema:"nullable"`
	Facts
}

// CausesOutput are its causes, the likeliest first, and what is done first: the mend of that one where it is likely enough, else leave; of a trap that is
// gone, search.
type CausesOutput struct {
	Causes []Cause `json:"causes"`
	First  MendKey `json:"first"`
}

// Cause is a cause with the share of all that lies behind such a finding.
type Cause struct {
	Key   CauseKey `json:"key"`
	Share float64  `json:"share"`

	Mend  MendKey  `json:"-"`
	Moved []string `json:"-"` // the facts that speak for it or against it, the strongest first
}

// Sure is how sure a cause is.
type Sure string

// Sures lists it, the surest first.
var Sures = []Sure{"most_likely", "likely", "possible"}

// mostFrom is the share from which a cause is the most likely one.
const mostFrom = .6

// Sure is that of a cause by its share.
func (c Cause) Sure() Sure {
	switch {
	case c.Share >= mostFrom:
		return Sures[0]
	case c.Share >= firstFrom:
		return Sures[1]
	}
	return Sures[2]
}

// seenBy are the facts that somebody can go and see, by their name.
var seenBy = map[string]func(*Facts) **bool{
	"locked": func(f *Facts) **bool { return &f.Locked }, "firm": func(f *Facts) **bool { return &f.Firm }, "scentOnBed": func(f *Facts) **bool { return &f.ScentOnBed },
	"looseSoil": func(f *Facts) **bool { return &f.LooseSoil }, "panHigh": func(f *Facts) **bool { return &f.PanHigh }, "panPlug": func(f *Facts) **bool { return &f.PanPlug },
	"stock": func(f *Facts) **bool { return &f.Stock }, "trapFault": func(f *Facts) **bool { return &f.TrapFault }, "drag": func(f *Facts) **bool { return &f.Drag },
}

// Seeable lists their names.
func Seeable() []string { return slices.Sorted(maps.Keys(seenBy)) }

// Said are the facts with what somebody went to see since: each by its name, with a minus before it where it is not so.
func (f Facts) Said(said []string) (Facts, error) {
	var p refuse.Problems
	for _, one := range said {
		name, not := strings.CutPrefix(one, "-")
		refuse.OneOf(&p, "said", name, Seeable())
		if is := seenBy[name]; is != nil {
			*is(&f) = new(!not)
		}
	}
	return f, p.Err()
}

// Causes says what can lie behind a finding. It refuses a finding that has no causes, and facts that cannot be.
func Causes(in CausesInput) (CausesOutput, error) {
	if err := in.check(); err != nil {
		return CausesOutput{}, err
	}
	out, sum := CausesOutput{Causes: []Cause{}, First: Leave}, 0.0
	for _, c := range causesOf[in.Finding] {
		one := Cause{Key: c.key, Share: c.weight, Mend: c.mend}
		strength := map[string]float64{}
		for _, move := range c.moves {
			times := move.of(in.Facts)
			one.Share *= times
			if times != 1 {
				one.Moved, strength[move.fact] = append(one.Moved, move.fact), max(times, 1/max(times, 1e-9))
			}
		}
		slices.SortStableFunc(one.Moved, func(a, b string) int { return cmp.Compare(strength[b], strength[a]) })
		if one.Share > 0 {
			out.Causes = append(out.Causes, one)
			sum += one.Share
		}
	}
	for i := range out.Causes {
		out.Causes[i].Share /= sum
	}
	slices.SortStableFunc(out.Causes, func(a, b Cause) int { return cmp.Compare(b.Share, a.Share) })
	switch {
	case in.Finding == line.FoundGone:
		out.First = Search
	case out.Causes[0].Share >= firstFrom:
		out.First = out.Causes[0].Mend
	}
	return out, nil
}

func (in CausesInput) check() error {
	var p refuse.Problems
	refuse.OneOf(&p, "finding", in.Finding, Explained())
	within := func(field string, x *float64, high float64) {
		if x != nil {
			p.Within(field, *x, 0, high, "")
		}
	}
	for field, share := range map[string]*float64{"coverage": in.Coverage, "step": in.Step, "stepBest": in.StepBest, "fire": in.Fire, "hold": in.Hold, "diggers": in.Diggers} {
		within(field, share, 1)
	}
	for field, x := range map[string]*float64{"printsMm": in.PrintsMm, "met": in.Met, "holeMm": in.HoleMm, "rainMm": in.RainMm, "nights": in.Nights, "lossesHere": in.LossesHere} {
		within(field, x, 1e4)
	}
	refuse.OneOfSaid(&p, "jaws", in.Jaws, JawsCanBe)
	refuse.OneOfSaid(&p, "bait", in.Bait, BaitCanBe)
	refuse.OneOfSaid(&p, "backing", in.Backing, BackingCanBe)
	return p.Err()
}
