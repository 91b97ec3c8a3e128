package advice

import (
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/schools"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
	"oldburrow/core/weather"
)

var noon = time.Date(2026, 12, 4, 14, 0, 0, 0, time.UTC)

// lookedAt is a hole of the fifth night before, for a coyote, as it was looked at, with what else was noted.
func lookedAt(t *testing.T, finding line.Finding, change func(*Seen)) Seen {
	t.Helper()
	coyote := animal.Reference[0]
	l, err := layout.New("hole", layout.Begin{Target: coyote, Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	l.FacingDeg = new(0.0)
	s := Seen{Make: line.Make{ID: "m", SetID: "s", Target: "coyote", Layout: l, BuiltAt: noon.AddDate(0, 0, -5)}}
	s.Look = line.Visit{ID: "v", MakeID: "m", At: noon, Found: line.Found{Finding: finding}}
	s.Spot = line.Spot{ID: "spot", LatDeg: 46.8, LonDeg: -105.3, TravelBearingDeg: new(90.0), Soil: "loam", Wetness: "moist", Surface: "grass"}
	s.Drawn = outlook.Line{Line: line.Line{LatDeg: 46.8, LonDeg: -105.3}, Now: noon, Zone: time.UTC, Spots: []line.Spot{s.Spot}}
	for at := noon.AddDate(0, 0, -6); at.Before(noon); at = at.Add(time.Hour) {
		s.Drawn.Observed = append(s.Drawn.Observed, weather.Hour{At: at, TempC: 4, WindFromDeg: 180, WindMs: 3, RainMm: .1})
	}
	s.Asked = odds.Question{
		Layout: l, Target: coyote, Animals: animal.Reference, Schools: schools.Usual(),
		Circumstances: &odds.Circumstances{Sign: odds.AgeDays3, Signs: 2, WaysMeet: 1, Coverage: new(.4), Night: 6, Others: map[string]odds.Presence{}},
	}
	if change != nil {
		change(&s)
	}
	s.Record = line.NewRecord(noon.Add(time.Hour), time.UTC, tally.Span{}, line.Noted{
		Sets: []line.Set{{ID: "s", SpotID: "spot", Number: 1}, {ID: "t", SpotID: "spot", Number: 2}},
		Makes: []line.Make{
			{ID: "before", SetID: "t", Target: "coyote", Layout: l, BuiltAt: noon.AddDate(0, 0, -20)},
			{ID: "other", SetID: "t", Target: "coyote", Layout: layout.Layout{Rigs: l.Rigs}, BuiltAt: noon.AddDate(0, 0, -15)},
			{ID: "was", SetID: "s", Target: "coyote", Layout: l, BuiltAt: noon.AddDate(0, 0, -12)}, s.Make,
		},
		Visits: []line.Visit{
			{ID: "lost", MakeID: "was", At: noon.AddDate(0, 0, -9), Found: line.Found{Finding: line.FoundLost}},
			{ID: "last", MakeID: "m", At: noon.AddDate(0, 0, -2), Found: line.Found{Finding: line.FoundQuiet}}, s.Look,
		},
	})
	return s
}

func factsOf(t *testing.T, s Seen) Facts {
	t.Helper()
	f, err := s.Facts(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	return f
}

// What the record says of a set is read as it stands; what nobody said is not known, and never nought.
func TestFactsOfAPlainSet(t *testing.T) {
	f := factsOf(t, lookedAt(t, line.FoundPassed, nil))
	for name, unknown := range map[string]bool{
		"scentOnBed": f.ScentOnBed == nil, "shy": f.Shy == nil, "printsMm": f.PrintsMm == nil, "panPlug": f.PanPlug == nil, "fire": f.Fire == nil,
		"jaws": f.Jaws == "", "trapFault": f.TrapFault == nil, "step": f.Step == nil, "hold": f.Hold == nil, "diggers": f.Diggers == nil, "stock": f.Stock == nil, "panHigh": f.PanHigh == nil,
	} {
		if !unknown {
			t.Errorf("%s is said, and nobody did", name)
		}
	}
	if *f.Met != 2 || *f.Nights != 5 || *f.LossesHere != 1 || !*f.OpenHole || *f.Drag || *f.Locked || *f.HoleMm < 150 || f.Bait != BaitLittle || f.Backing != BackingSolid {
		t.Errorf("%+v: met %g, nights %g, losses %g", f, *f.Met, *f.Nights, *f.LossesHere)
	}
	if f.RainMm == nil || *f.RainMm < 4.7 || *f.RainMm > 4.9 { // two days since it was last seen
		t.Errorf("rain %v", f.RainMm)
	}
	if f.Coverage == nil || *f.Coverage < 0 || *f.Coverage > 1 {
		t.Errorf("coverage %v", f.Coverage)
	}
}

// Each fact is read where it stands: of the make, its bed, its traps, the look, the place and the weather.
func TestFactsAreRead(t *testing.T) {
	hung := func(change func(*shed.Hung)) func(*Seen) {
		return func(s *Seen) {
			h := shed.Hung{Trap: line.NewTrap(), Checks: []line.CheckItem{{Key: "dog", Sound: true}}}
			h.Trap.Usual = nil
			change(&h)
			s.Traps = []shed.Hung{h}
		}
	}
	is := func(b *bool, want bool) bool { return b != nil && *b == want }
	for name, c := range map[string]struct {
		finding line.Finding
		change  func(*Seen)
		want    func(Facts) bool
	}{
		"scent on the bed":   {line.FoundDug, func(s *Seen) { s.Make.AsBuilt = &line.AsBuilt{ScentOnBed: new(true)} }, func(f Facts) bool { return is(f.ScentOnBed, true) }},
		"it rocks":           {line.FoundDug, func(s *Seen) { s.Look.Bed = line.FeltRocks }, func(f Facts) bool { return is(f.Firm, false) }},
		"a bed that gives":   {line.FoundDug, func(s *Seen) { s.Make.Layout.Rigs[0].Bed.Firm = new(false) }, func(f Facts) bool { return is(f.Firm, false) }},
		"nobody felt it":     {line.FoundDug, func(s *Seen) { s.Make.Layout.Rigs[0].Bed.Firm = nil }, func(f Facts) bool { return f.Firm == nil }},
		"soil beside it":     {line.FoundDug, func(s *Seen) { s.Make.Layout.Spoil = "sides" }, func(f Facts) bool { return is(f.LooseSoil, true) }},
		"soil carried off":   {line.FoundDug, func(s *Seen) { s.Make.Layout.Spoil = "carried_off" }, func(f Facts) bool { return is(f.LooseSoil, false) }},
		"shy there":          {line.FoundPassed, func(s *Seen) { s.Spot.Shy = true }, func(f Facts) bool { return is(f.Shy, true) }},
		"bare hands":         {line.FoundDug, func(s *Seen) { s.Make.Layout.Hands = "bare" }, func(f Facts) bool { return is(f.BareHands, true) }},
		"gloves":             {line.FoundDug, func(s *Seen) { s.Make.Layout.Hands = "gloves" }, func(f Facts) bool { return is(f.BareHands, false) }},
		"under the pan":      {line.FoundStepped, func(s *Seen) { s.Make.Layout.Rigs[0].Under = "foam" }, func(f Facts) bool { return is(f.PanPlug, true) }},
		"a pan that is high": {line.FoundSprung, func(s *Seen) { s.Make.Layout.Rigs[0].Pan.HeightMm = new(60.0) }, func(f Facts) bool { return is(f.PanHigh, true) }},
		"an open back":       {line.FoundRobbed, func(s *Seen) { s.Make.Layout.Backing = "none" }, func(f Facts) bool { return f.Backing == BackingOpen && f.Diggers != nil }},
		"a tuft behind":      {line.FoundRobbed, func(s *Seen) { s.Make.Layout.Backing = "tuft" }, func(f Facts) bool { return f.Backing == "" }},
		"on a drag":          {line.FoundGone, func(s *Seen) { s.Make.Layout.Anchors[0] = layout.Anchor{Kind: "drag"} }, func(f Facts) bool { return is(f.Drag, true) }},
		"how it holds":       {line.FoundGone, nil, func(f Facts) bool { return f.Hold != nil && *f.Hold > 0 && *f.Hold <= 1 }},
		"locked beside":      {line.FoundStepped, func(s *Seen) { s.Look.Also = []line.Found{{Finding: line.FoundLocked}} }, func(f Facts) bool { return is(f.Locked, true) }},
		"no weather": {line.FoundStepped, func(s *Seen) { s.Drawn.Observed = nil }, func(f Facts) bool {
			return f.Locked == nil && f.RainMm == nil && f.Coverage == nil
		}},
		"prints": {line.FoundStood, func(s *Seen) {
			pan := s.Make.Layout.Rigs[0].Pan
			s.Look.Prints = []line.Print{{XMm: pan.XMm + 30, YMm: pan.YMm}, {XMm: pan.XMm, YMm: pan.YMm - 50}}
		}, func(f Facts) bool { return *f.PrintsMm == 40 && *f.Step > 0 && *f.StepBest >= *f.Step }},
		"three baits": {line.FoundDug, func(s *Seen) {
			s.Make.Layout.Aside = []layout.Smell{{Kind: "bait", Name: "a"}, {Kind: "bait", Name: "b"}}
		}, func(f Facts) bool { return f.Bait == BaitMuch }},
		"no bait": {line.FoundStood, func(s *Seen) { s.Make.Layout.Attractors[0].Smells = nil }, func(f Facts) bool { return f.Bait == BaitNone && f.Met == nil }},
		"as measured": {line.FoundStepped, hung(func(h *shed.Hung) { h.Tension = &shed.Tension{Fails: .3} }), func(f Facts) bool {
			return f.Fire != nil && *f.Fire == .7 && f.Jaws == JawsOK && is(f.TrapFault, false)
		}},
		"a bent dog": {line.FoundLost, hung(func(h *shed.Hung) { h.Faults = []line.CheckItem{{Key: "dog"}}; h.Checks = h.Faults }), func(f Facts) bool {
			return f.Jaws == JawsWorn && is(f.TrapFault, true)
		}},
		"small jaws": {line.FoundLost, hung(func(h *shed.Hung) { h.Trap.JawSpreadMm = 80 }), func(f Facts) bool { return f.Jaws == JawsSmall }},
		"usual jaws": {line.FoundLost, hung(func(h *shed.Hung) { h.Trap.JawSpreadMm, h.Trap.Usual = 80, []string{"jawSpreadMm"} }), func(f Facts) bool { return f.Jaws == JawsOK }},
	} {
		if f := factsOf(t, lookedAt(t, c.finding, c.change)); !c.want(f) {
			t.Errorf("%s: %+v", name, f)
		}
	}
	if a, err := Target(animal.Reference, line.Make{Target: "red_fox"}, line.Visit{Found: line.Found{Animal: "bobcat"}}); err != nil || a.Key != "bobcat" {
		t.Errorf("whose it was: %s, %v", a.Key, err)
	}
	if a, err := Target(animal.Reference, line.Make{Target: "red_fox"}, line.Visit{Found: line.Found{Animal: "skunk"}}); err != nil || a.Key != "red_fox" {
		t.Errorf("whom it is for: %s, %v", a.Key, err)
	}
}
