package advice

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/schools"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
)

// say changes what is known of a look.
type say = func(*Seen)

func stoodFor(nights int) say {
	return func(s *Seen) {
		s.Make.BuiltAt = noon.AddDate(0, 0, -nights)
		s.Asked.Circumstances.Night = nights + 1
	}
}

// made is another pattern for another animal.
func made(t *testing.T, pattern, target string) say {
	t.Helper()
	a, err := animal.Reference.ByKey(target)
	if err != nil {
		t.Fatal(err)
	}
	l, err := layout.New(pattern, layout.Begin{Target: a, Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	return func(s *Seen) {
		l := l.Clone()
		l.FacingDeg = new(0.0)
		s.Make.Target, s.Make.Layout, s.Asked.Target = target, l, a
	}
}

func lies(change func(*layout.Layout)) say { return func(s *Seen) { change(&s.Make.Layout) } }

func trap(change func(*shed.Hung)) say {
	return func(s *Seen) {
		h := shed.Hung{Trap: line.NewTrap(), Checks: []line.CheckItem{{Key: "dog", Sound: true}}}
		h.Trap.Usual = nil
		change(&h)
		s.Traps = []shed.Hung{h}
	}
}

var (
	byHand     = func(s *Seen) { s.Asked.Schools.WalkedBy = "change" }
	shyHere    = func(s *Seen) { s.Spot.Shy, s.Asked.Circumstances.Site.Shy = true, true }
	firmBed    = lies(func(l *layout.Layout) { l.Rigs[0].Bed.Firm = new(true) })
	rocks      = func(s *Seen) { s.Look.Bed = line.FeltRocks }
	scented    = func(s *Seen) { s.Make.AsBuilt = &line.AsBuilt{ScentOnBed: new(true)} }
	bareHand   = lies(func(l *layout.Layout) { l.Hands = "bare" })
	openBack   = lies(func(l *layout.Layout) { l.Backing = "none" })
	closedBack = lies(func(l *layout.Layout) { l.Backing = "bank" })
	offWind    = func(s *Seen) {
		for i := range s.Drawn.Observed {
			s.Drawn.Observed[i].WindFromDeg = 0
		}
		s.Asked.Circumstances.Coverage, s.Asked.Circumstances.Facings = new(.05), []odds.Facing{{FacingDeg: 180, Coverage: .8}}
	}
	newLure = func(s *Seen) {
		s.Asked.Circumstances.Site.Day = "2026-12-04"
		s.Asked.Circumstances.Shelf = []odds.ShelfLure{{LureID: "met", Name: "Old Fence", Class: "gland", Doses: 9, Stands: odds.LuresMet}, {LureID: "new", Name: "Creek musk", Class: "musk", Doses: 9, Stands: odds.LuresNew}}
		for i := range s.Make.Layout.Attractors {
			for k := range s.Make.Layout.Attractors[i].Smells {
				if smell := &s.Make.Layout.Attractors[i].Smells[k]; !smell.IsBait() && smell.Kind != layout.Urine {
					smell.LureID = "met"
				}
			}
		}
	}
	inClay = func(s *Seen) { s.Asked.Soil = anchor.Soil{Kind: "firm_clay", Wetness: "moist"} }
	pads   = lies(func(l *layout.Layout) { l.Rigs[0].Under = "wool" })
	high   = lies(func(l *layout.Layout) { l.Rigs[0].Pan.HeightMm = new(l.Rigs[0].Jaws.HeightMm + 20) })
	deep   = func(mm float64) say { return lies(func(l *layout.Layout) { l.Attractors[0].Hole.DepthMm = mm }) }
	out    = func(x, y float64) say {
		return func(s *Seen) { s.Make.Layout = s.Make.Layout.WithRigMoved(0, x, y) }
	}
	coons = func(s *Seen) {
		for _, key := range []string{"raccoon", "skunk", "badger"} {
			s.Asked.Circumstances.Others[key] = odds.Presence{Sign: odds.AgeToday, Signs: 5, About: new(1.0)}
		}
		s.Asked.Circumstances.Sign = odds.AgeNone
	}
	fires = func(share float64) say {
		return trap(func(h *shed.Hung) { h.Tension = &shed.Tension{Fails: 1 - share} })
	}
	faulty = trap(func(h *shed.Hung) { h.Faults = []line.CheckItem{{Key: "latch"}}; h.Checks = h.Faults })
	worn   = trap(func(h *shed.Hung) { h.Faults = []line.CheckItem{{Key: "dog"}}; h.Checks = h.Faults })
	small  = trap(func(h *shed.Hung) { h.Trap.JawSpreadMm = 80 })
	prints = func(y float64) say {
		return func(s *Seen) {
			s.Look.Animal = s.Make.Target
			s.Look.Prints = []line.Print{{XMm: -60, YMm: y}, {XMm: 60, YMm: y}, {XMm: -50, YMm: y + 10}, {XMm: 50, YMm: y - 10}}
		}
	}
)

// What a look at a set means and what is done about it first, by the trade: so many nights after it was built, of a place, a weather and a history. The
// other school is of those who change what was walked by; where it says the same it is left blank.
func TestWhatALookMeans(t *testing.T) {
	type row struct {
		says    string
		finding line.Finding
		known   []say
		said    string
		cause   CauseKey
		first   MendKey
		other   MendKey
	}
	rows := []row{
		{"the wind missed it", line.FoundPassed, []say{stoodFor(8), offWind}, "", "wind_missed", "other_side", ""},
		{"the wind missed it, and it is young", line.FoundPassed, []say{stoodFor(3), offWind}, "", "wind_missed", Leave, "other_side"},
		{"it knows this lure", line.FoundPassed, []say{stoodFor(8), newLure}, "", "not_new", "other_smell", ""},
		{"it knows this lure, five nights", line.FoundPassed, []say{stoodFor(5), newLure}, "", "not_new", Leave, "other_smell"},
		{"a fox knows this lure, two nights", line.FoundPassed, []say{made(t, "hole", "red_fox"), stoodFor(2), newLure}, "", "not_new", Leave, "other_smell"},
		{"a fox knows this lure, four nights", line.FoundPassed, []say{made(t, "hole", "red_fox"), stoodFor(4), newLure}, "", "not_new", "other_smell", ""},
		{"a bobcat knows this lure", line.FoundPassed, []say{made(t, "hole", "bobcat"), stoodFor(4), newLure}, "", "not_new", "other_smell", ""},
		{"shy of the open hole", line.FoundPassed, []say{stoodFor(8), shyHere}, "", "shy", "subtle", ""},
		{"shy of the open hole, the second night", line.FoundPassed, []say{stoodFor(2), shyHere}, "", "shy", "subtle", ""},
		{"a shy fox at an open hole, which sees no other half as well", line.FoundPassed, []say{made(t, "hole", "red_fox"), stoodFor(4), shyHere}, "", "shy", Leave, ""},
		{"a tuft, and nothing else known", line.FoundPassed, []say{made(t, "tuft", "red_fox"), stoodFor(1)}, "", "not_new", Leave, ""},

		{"a young set", line.FoundLooked, []say{stoodFor(2)}, "", "young_set", Leave, ""},
		{"a young set of a fox", line.FoundLooked, []say{made(t, "hole", "red_fox"), stoodFor(1)}, "", "young_set", Leave, ""},
		{"scent on its bed", line.FoundLooked, []say{stoodFor(8), scented}, "", "uneasy_scent", "clean", ""},
		{"scent on its bed, five nights", line.FoundLooked, []say{stoodFor(5), scented}, "", "uneasy_scent", Leave, "clean"},
		{"nose prints over the bed", line.FoundLooked, []say{stoodFor(8)}, "scentOnBed", "uneasy_scent", "clean", ""},
		{"made with bare hands", line.FoundLooked, []say{stoodFor(8), bareHand}, "", "uneasy_scent", "clean", ""},
		{"a tall fence where they are shy", line.FoundLooked, []say{stoodFor(8), shyHere, lies(func(l *layout.Layout) {
			l.Guides = append(l.Guides, layout.Guide{Kind: "stone", XMm: 400, YMm: 300, RMm: 40, HeightMm: new(400.0)})
		})}, "", "uneasy_shape", "lower_guides", ""},
		{"shy, and nothing stands tall", line.FoundLooked, []say{stoodFor(8), shyHere}, "", "uneasy_shape", Leave, ""},

		{"the pan far out", line.FoundStood, []say{stoodFor(8), out(0, 150)}, "", "pan_off", "move_pan", ""},
		{"the pan far aside", line.FoundStood, []say{stoodFor(8), out(110, 0)}, "", "pan_off", "move_pan", ""},
		{"a fox's pan far out", line.FoundStood, []say{made(t, "hole", "red_fox"), stoodFor(8), out(0, 150)}, "", "pan_off", "move_pan", ""},
		{"a few prints somewhat off the pan", line.FoundStood, []say{stoodFor(8), prints(420)}, "", "pan_off", Leave, ""},
		{"prints in front of a pan far out", line.FoundStood, []say{stoodFor(8), out(0, 150), prints(300)}, "", "pan_off", "move_pan", ""},
		{"the pan well laid", line.FoundStood, []say{stoodFor(8)}, "", "pan_off", Leave, ""},
		{"a flat with its pan far out", line.FoundStood, []say{made(t, "object", "coyote"), stoodFor(8), out(0, 150)}, "", "pan_off", "move_pan", ""},
		{"a post with its pan far out", line.FoundStood, []say{made(t, "tuft", "red_fox"), stoodFor(8), out(0, 180)}, "", "pan_off", "move_pan", ""},
		{"a trail with its pan aside", line.FoundStood, []say{made(t, "trail", "coyote"), stoodFor(8), out(120, 60)}, "", "pan_off", "move_pan", ""},

		{"half of them do not fire it", line.FoundStepped, []say{stoodFor(8), fires(.5)}, "", "heavy", "lighten", ""},
		{"a tenth of them do not", line.FoundStepped, []say{stoodFor(8), fires(.9)}, "", "heavy", "lighten", ""},
		{"it fires for all", line.FoundStepped, []say{stoodFor(8), fires(.99)}, "", "soil_under", "plug", ""},
		{"soil lies under the pan", line.FoundStepped, []say{stoodFor(8)}, "-panPlug", "soil_under", "plug", ""},
		{"wool lies under the pan", line.FoundStepped, []say{stoodFor(8), pads}, "", "heavy", "lighten", ""},
		{"wool under it, and it fires for all", line.FoundStepped, []say{stoodFor(8), pads, fires(.99)}, "", "cover_caught", Leave, ""},
		{"a crust lifts in one piece", line.FoundStepped, []say{stoodFor(8)}, "locked", "locked", "proof", ""},
		{"frozen beside it", line.FoundStepped, []say{stoodFor(8), func(s *Seen) { s.Look.Also = []line.Found{{Finding: line.FoundLocked}} }}, "", "locked", "proof", ""},
		{"a bobcat on a stiff pan", line.FoundStepped, []say{made(t, "hole", "bobcat"), stoodFor(4), fires(.7)}, "", "heavy", "lighten", ""},

		{"the bed rocks", line.FoundDug, []say{stoodFor(8), rocks}, "", "loose_bed", "rebed", ""},
		{"a thumb says the bed moves", line.FoundDug, []say{stoodFor(3)}, "-firm", "loose_bed", "rebed", ""},
		{"firm, and scent on it", line.FoundDug, []say{stoodFor(8), firmBed, scented}, "", "scent_metal", "clean", ""},
		{"firm, and soil beside it", line.FoundDug, []say{stoodFor(8), firmBed, lies(func(l *layout.Layout) { l.Spoil = "sides" })}, "", "loose_soil", "spoil_away", ""},
		{"it dug in the heap", line.FoundDug, []say{stoodFor(8), firmBed}, "looseSoil", "loose_soil", Leave, ""},
		{"firm, and diggers about, of a pattern with one trap", line.FoundDug, []say{stoodFor(8), firmBed, coons}, "", "digger", Leave, ""},
		{"a fox dug a bed that moves", line.FoundDug, []say{made(t, "hole", "red_fox"), stoodFor(2), rocks}, "", "loose_bed", "rebed", ""},

		{"a shallow hole", line.FoundRobbed, []say{stoodFor(8), deep(120)}, "", "shallow", "deepen", ""},
		{"deep, and open behind", line.FoundRobbed, []say{stoodFor(8), deep(300), openBack}, "", "back_open", "backing", ""},
		{"deep and closed, small prints about", line.FoundRobbed, []say{stoodFor(8), deep(300), closedBack, coons}, "", "small_animal", Leave, ""},

		{"hair on the bed", line.FoundRolled, []say{stoodFor(8)}, "scentOnBed", "scent_on_bed", "clean", ""},
		{"scent came on it", line.FoundRolled, []say{stoodFor(8), scented}, "", "scent_on_bed", "clean", ""},

		{"the pan stands high", line.FoundSprung, []say{stoodFor(8), high}, "", "toe_touch", "lower_pan", ""},
		{"seen to stand high", line.FoundSprung, []say{stoodFor(8)}, "panHigh", "toe_touch", "lower_pan", ""},
		{"it fires for anything", line.FoundSprung, []say{stoodFor(8), fires(.999)}, "", "light", Leave, ""},
		{"worn jaws", line.FoundSprung, []say{stoodFor(8), worn}, "", "slipped", "swap_trap", ""},
		{"it wobbles", line.FoundSprung, []say{stoodFor(8), rocks}, "", "wobble", "rebed", ""},
		{"stock in the field and rain", line.FoundSprung, []say{stoodFor(8), func(s *Seen) {
			for i := range s.Drawn.Observed {
				s.Drawn.Observed[i].RainMm = 1
			}
		}}, "stock", "not_the_animal", Leave, ""},
		{"nothing known of it", line.FoundSprung, []say{stoodFor(8)}, "", "toe_touch", Leave, ""},

		{"lost with the pan high", line.FoundLost, []say{stoodFor(8), high}, "", "toe_hold", "swap_trap", ""},
		{"lost from small jaws", line.FoundLost, []say{stoodFor(8), small}, "", "jaws", "swap_trap", ""},
		{"lost by a faulty trap", line.FoundLost, []say{stoodFor(8), faulty}, "", "trap_fault", "swap_trap", ""},
		{"lost twice", line.FoundLost, []say{stoodFor(8)}, "", "jaws", "swap_trap", ""},

		{"gone with its drag", line.FoundGone, []say{stoodFor(8), lies(func(l *layout.Layout) {
			l.Anchors[0] = layout.Anchor{Slot: l.Anchors[0].Slot, Kind: "drag", Cover: "thick_brush"}
		}), inClay}, "", "drag_at_work", Search, ""},
		{"gone from its anchor", line.FoundGone, []say{stoodFor(8)}, "", "", Search, ""},
		{"gone with a bad link", line.FoundGone, []say{stoodFor(8), faulty, inClay}, "", "link", Search, ""},

		{"locked", line.FoundLocked, []say{stoodFor(8)}, "", "", "proof", ""},
		{"taken by people", line.FoundTaken, []say{stoodFor(8)}, "", "", "landowner", ""},
		{"three nights barren", line.FoundQuiet, []say{stoodFor(3)}, "", "", Leave, ""},
		{"held by the pad", line.FoundCatch, []say{stoodFor(3), func(s *Seen) { s.Look.Catches = []line.Catch{{Species: "coyote", Hold: line.HeldByPad}} }}, "", "", Leave, ""},
	}
	if len(rows) < 60 {
		t.Fatalf("%d rows", len(rows))
	}
	moved := map[string]bool{}
	for _, c := range rows {
		for _, school := range []MendKey{c.first, c.other} {
			if school == "" {
				continue
			}
			s := lookedAt(t, c.finding, func(s *Seen) {
				for _, known := range c.known {
					known(s)
				}
				if school == c.other {
					byHand(s)
				}
				s.Asked.Layout = s.Make.Layout
			})
			var said []string
			if c.said != "" {
				said = []string{c.said}
			}
			a, err := s.Advise(t.Context(), said, nil)
			if err != nil {
				t.Fatalf("%s: %v", c.says, err)
			}
			moves(t, c.finding, a.Facts, moved)
			cause := CauseKey("")
			if len(a.Causes) > 0 {
				cause = a.Causes[0].Key
			}
			if c.cause != "" && cause != c.cause || a.First != school {
				t.Errorf("%s: %s by %s (%s), want %s by %s\n\t%+v\n\t%+v", c.says, a.First, cause, a.Why, school, c.cause, a.Causes, told(a.Options))
			}
		}
	}
	facts := reflect.TypeFor[Facts]()
	for i := range facts.NumField() {
		if name, _, _ := strings.Cut(facts.Field(i).Tag.Get("json"), ","); !moved[name] {
			t.Errorf("%s is known at none of these, or moves nothing there", name)
		}
	}
}

// moves notes which of the facts that are known move a share.
func moves(t *testing.T, finding line.Finding, f Facts, moved map[string]bool) {
	t.Helper()
	if !slices.Contains(Explained(), finding) {
		return
	}
	with := shares(t, finding, f)
	v := reflect.ValueOf(f)
	for i := range v.NumField() {
		if v.Field(i).IsZero() {
			continue
		}
		without := f
		reflect.ValueOf(&without).Elem().Field(i).SetZero()
		if name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ","); !reflect.DeepEqual(with, shares(t, finding, without)) {
			moved[name] = true
		}
	}
}

// Each mend has its way, and each way opens something: a change that can be made, or an act. What is a change says in which form the set is made again.
func TestEachMendOpensSomething(t *testing.T) {
	for _, mend := range MendKeys() {
		w, ok := ways[mend]
		changes := len(w.remedies) > 0 || w.makes != nil
		if !ok || mend != Leave && !changes && w.act == "" || changes && (w.form == "" || !slices.Contains(line.Forms, w.form)) || w.act != "" && !slices.Contains(Deeds, w.act) {
			t.Errorf("%s: %+v", mend, w)
		}
		for _, key := range w.remedies {
			if !slices.Contains(odds.RemedyKeys(), key) {
				t.Errorf("%s: the bench offers no %s", mend, key)
			}
		}
	}
	for mend := range ways {
		if !slices.Contains(append(MendKeys(), Search, Leave), mend) {
			t.Errorf("%s mends nothing", mend)
		}
	}
}

// Where the rules disagree: patience stands before what a change brings, a set that is not to be left as it stands before patience; what brings hardly more
// than waiting is waited for; and what is not to be changed is left.
func TestWhatIsChosen(t *testing.T) {
	worth := func(gain, lost float64) WaitInput {
		return WaitInput{PerNight: .1, Left: 20, Change: &WaitChange{Gain: gain, Lost: lost}}
	}
	for says, c := range map[string]struct {
		in     Choosing
		first  MendKey
		second MendKey
		why    Because
	}{
		"it brings twice as much":               {Choosing{Finding: line.FoundDug, Mend: "rebed", Worth: worth(2, 0)}, "rebed", Leave, BecauseMend},
		"passed, and too young":                 {Choosing{Finding: line.FoundPassed, Mend: "other_smell", Patience: 6, Stood: 5, Worth: worth(3, 0)}, Leave, "other_smell", BecausePatience},
		"passed, and old enough":                {Choosing{Finding: line.FoundPassed, Mend: "other_smell", Patience: 6, Stood: 6, Worth: worth(3, 0)}, "other_smell", Leave, BecauseMend},
		"looked, and too young":                 {Choosing{Finding: line.FoundLooked, Mend: "clean", Patience: 3, Stood: 2, Worth: worth(3, 0)}, Leave, "clean", BecausePatience},
		"dug, whose youth is no matter":         {Choosing{Finding: line.FoundDug, Mend: "rebed", Patience: 6, Stood: 1, Worth: worth(3, 0)}, "rebed", Leave, BecauseMend},
		"too young, and not to be left":         {Choosing{Finding: line.FoundPassed, Mend: "proof", Patience: 6, Stood: 1, Beyond: true, Worth: worth(1, 0)}, "proof", Leave, BecauseMend},
		"it gains what it loses":                {Choosing{Finding: line.FoundStood, Mend: "move_pan", Worth: worth(1.25, 4)}, Leave, "move_pan", BecauseWaiting},
		"it gains hardly anything":              {Choosing{Finding: line.FoundStood, Mend: "move_pan", Worth: worth(1.04, 0)}, Leave, "move_pan", BecauseWaiting},
		"it gains just enough":                  {Choosing{Finding: line.FoundStood, Mend: "move_pan", Worth: worth(1.06, 0)}, "move_pan", Leave, BecauseMend},
		"nothing is likely enough":              {Choosing{Finding: line.FoundSprung, Mend: Leave, Worth: worth(3, 0)}, Leave, "", BecauseUnsure},
		"nothing says what the change is worth": {Choosing{Finding: line.FoundStood, Mend: "guides", Worth: WaitInput{PerNight: .1, Left: 20}}, Leave, "guides", BecauseWaiting},
	} {
		got, err := Choose(c.in)
		if err != nil || got.First != c.first || got.Second != c.second || got.Why != c.why {
			t.Errorf("%s: %+v, %v", says, got, err)
		}
	}
	if _, err := Choose(Choosing{Worth: WaitInput{}}); err == nil {
		t.Error("a set that promised nothing is weighed")
	}
}

// A set that was made otherwise is followed: what was found since that reached the link it had failed at, and what came through it.
func TestAChangeIsFollowed(t *testing.T) {
	at := func(change func(*layout.Layout), found ...line.Finding) *Since {
		s := lookedAt(t, line.FoundQuiet, nil)
		before, now := s.Make, s.Make
		before.ID, before.BuiltAt = "before", noon.AddDate(0, 0, -15)
		now.ID, now.BuiltAt, now.Layout = "now", noon.AddDate(0, 0, -9), now.Layout.Clone()
		change(&now.Layout)
		visits := []line.Visit{{ID: "a", MakeID: "before", At: now.BuiltAt, Found: line.Found{Finding: line.FoundStepped}}}
		for i, f := range found {
			visits = append(visits, line.Visit{ID: string(rune('b' + i)), MakeID: "now", At: noon.AddDate(0, 0, -len(found)+i), Found: line.Found{Finding: f}})
		}
		s.Record = line.NewRecord(noon, time.UTC, tally.Span{}, line.Noted{Sets: []line.Set{{ID: "s", SpotID: "spot"}}, Makes: []line.Make{before, now}, Visits: visits})
		made := s.Record.At("s")
		s.Make, s.Look = made[len(made)-1], visits[len(visits)-1]
		return s.Since()
	}
	lighter := func(l *layout.Layout) { l.Rigs[0].Pan.GaugeN = 8 }
	if got := at(func(*layout.Layout) {}, line.FoundQuiet); got != nil {
		t.Errorf("made as it was: %+v", got)
	}
	for says, c := range map[SinceSays][]line.Finding{
		NotYet:   {line.FoundQuiet, line.FoundStepped, line.FoundStepped},
		Disagree: {line.FoundStepped, line.FoundStepped, line.FoundStepped},
		Agrees:   {line.FoundStepped, line.FoundSprung},
	} {
		got := at(lighter, c...)
		if got == nil || got.Says != says || got.After != line.FoundStepped || got.Link != odds.Fires || !slices.Equal(got.Parts, []string{"pan"}) || got.Nights < 7 || got.Nights > 9 {
			t.Errorf("%s: %+v", says, got)
		}
	}
	if got := at(lighter, line.FoundQuiet, line.FoundPassed); got.Reached != 0 || got.Kept != 0 {
		t.Errorf("nothing reached the pan: %+v", got)
	}
}

// Nothing is offered that a rule card forbids, whatever lies behind a finding, and that is said; nothing whose anchor fails the heaviest about; nothing
// with a set of its own that brings less than leaving, unless it is to be done first.
func TestWhatIsNotOffered(t *testing.T) {
	wolf, _ := animal.Reference.ByKey("coyote")
	for _, pattern := range []string{"hole", "object", "tuft", "trail_pair"} {
		for _, finding := range Explained() {
			s := lookedAt(t, finding, func(s *Seen) {
				made(t, pattern, "red_fox")(s)
				stoodFor(8)(s)
				s.Make.Layout.Anchors[0] = layout.Anchor{Slot: s.Make.Layout.Anchors[0].Slot, Kind: "stake", LengthMm: 250}
				s.Asked.Layout, s.Asked.Heaviest = s.Make.Layout, &wolf
				s.Asked.Soil = anchor.Soil{Kind: "soft_clay", Wetness: "wet"}
			})
			free, err := s.Advise(t.Context(), nil, nil)
			if err != nil {
				t.Fatal(err)
			}
			for _, o := range free.Options {
				if o.Layout == nil {
					continue
				}
				if o.Worth <= *free.Alone && o.Mend != free.First {
					t.Errorf("%s, %s: %s costs more than it brings", pattern, finding, o.Mend)
				}
				held, err := anchor.Of(anchor.Question{Layout: *o.Layout, Animal: wolf, Soil: s.Asked.Soil})
				if err != nil || slices.ContainsFunc(held, anchor.Held.Fails) {
					t.Errorf("%s, %s: %s fails the heaviest (%v)", pattern, finding, o.Mend, err)
				}
			}
			none, err := s.Advise(t.Context(), nil, func(layout.Layout, line.Set, string) []string { return []string{"seasons"} })
			if err != nil {
				t.Fatal(err)
			}
			for _, o := range none.Options {
				if o.Layout != nil {
					t.Errorf("%s, %s: %s is offered and forbidden", pattern, finding, o.Mend)
				}
			}
			if offered := slices.ContainsFunc(free.Options, func(o Option) bool { return o.Layout != nil }); offered && !slices.Equal(none.Forbidden, []string{"seasons"}) {
				t.Errorf("%s, %s: it is not said what is forbidden: %v", pattern, finding, none.Forbidden)
			}
		}
	}
}

// told are options as a failing test tells them.
func told(options []Option) (found []string) {
	for _, o := range options {
		found = append(found, fmt.Sprintf("%s %.2f×, %.1f lost, %.2f, judged %v", o.Mend, o.Times, o.Lost, o.Worth, o.Judged))
	}
	return found
}
