package odds

import (
	"math"
	"slices"
	"testing"

	"oldburrow/core/anchor"
	"oldburrow/core/layout"
	"oldburrow/core/pan"
)

// offeredAt is what is offered for a set, whatever it is worth: by few feet, for none of them are weighed.
func offeredAt(t *testing.T, q Question, of func(*helper) ([]Remedy, error)) []Remedy {
	t.Helper()
	q.Visits = 200
	h, err := newHelper(t.Context(), q.overTheNightsLeft())
	if err != nil {
		t.Fatal(err)
	}
	found, err := of(h)
	if err != nil {
		t.Fatal(err)
	}
	return found
}

// one is the only offer of a key.
func one(t *testing.T, found []Remedy, key RemedyKey) Remedy {
	t.Helper()
	i := slices.IndexFunc(found, func(r Remedy) bool { return r.Key == key })
	if i < 0 {
		t.Fatalf("no %s among %v", key, found)
	}
	return found[i]
}

func keysOfOffers(found []Remedy) []RemedyKey {
	keys := []RemedyKey{}
	for _, r := range found {
		keys = append(keys, r.Key)
	}
	slices.Sort(keys)
	return keys
}

// Each change is offered where there is something to change, and nowhere else.
func TestWhatIsOfferedWhere(t *testing.T) {
	ordinary := func(*Question) {}
	smells := func(kinds ...layout.SmellKind) func(*Question) {
		return func(q *Question) {
			for i := range q.Layout.Attractors {
				q.Layout.Attractors[i].Smells = nil
			}
			for _, kind := range kinds {
				q.Layout.Attractors[0].Smells = append(q.Layout.Attractors[0].Smells, layout.Smell{Kind: kind, Name: "it", Place: "lip"})
			}
		}
	}
	hole := func(depth, diameter float64, plug layout.Plug) func(*Question) {
		return func(q *Question) {
			a := &q.Layout.Attractors[0]
			a.Hole.DepthMm, a.Hole.DiameterMm, a.Plug = depth, diameter, plug
		}
	}
	for name, c := range map[string]struct {
		pattern string
		make    func(*Question)
		of      func(*helper) ([]Remedy, error)
		want    []RemedyKey
	}{
		"a thick cover of other things": {"hole", func(q *Question) { q.Layout.Rigs[0].Cover = []layout.Layer{{Material: pan.DrySoil, ThicknessMm: 12}} }, (*helper).beds, []RemedyKey{OtherCover, ThinnerCover}},
		"a thin cover of waxed soil":    {"hole", func(q *Question) { q.Layout.Rigs[0].Cover = []layout.Layer{{Material: pan.WaxedSoil, ThicknessMm: 6}} }, (*helper).beds, []RemedyKey{OtherCover}},
		"a quarter inch and a hair": {"hole", func(q *Question) {
			q.Layout.Rigs[0].Cover = []layout.Layer{{Material: pan.WaxedSoil, ThicknessMm: 7.3}}
		}, (*helper).beds, []RemedyKey{OtherCover}},
		"more than that": {"hole", func(q *Question) {
			q.Layout.Rigs[0].Cover = []layout.Layer{{Material: pan.WaxedSoil, ThicknessMm: 7.4}}
		}, (*helper).beds, []RemedyKey{OtherCover, ThinnerCover}},
		"a loose bed": {"hole", func(q *Question) {
			q.Layout.Rigs[0].Bed.Firm, q.Layout.Rigs[0].Cover = new(false), []layout.Layer{{Material: pan.Peat, ThicknessMm: 6}}
		}, (*helper).beds, []RemedyKey{FirmBed, OtherCover}},
		"a shallow hole, open":    {"hole", func(q *Question) { smells(layout.Bait, layout.Urine)(q); hole(150, 90, "none")(q) }, (*helper).scents, []RemedyKey{DeeperHole, Plug}},
		"a punched hole":          {"hole", func(q *Question) { smells(layout.Bait, layout.Urine)(q); hole(150, 30, "wool")(q) }, (*helper).scents, []RemedyKey{}},
		"a deep hole with a plug": {"hole", func(q *Question) { smells(layout.Bait, layout.Urine)(q); hole(8*25.4, 90, "wool")(q) }, (*helper).scents, []RemedyKey{}},
		"no urine":                {"hole", func(q *Question) { smells(layout.Bait)(q); hole(300, 90, "wool")(q) }, (*helper).scents, []RemedyKey{AddUrine}},
		"no bait":                 {"hole", func(q *Question) { smells(layout.Urine)(q); hole(300, 90, "wool")(q) }, (*helper).scents, []RemedyKey{AddBait}},
		"nothing to smell":        {"hole", func(q *Question) { smells()(q); hole(150, 90, "none")(q) }, (*helper).scents, []RemedyKey{SetScent}},
		"a lure that hangs high": {"hole", func(q *Question) {
			smells(layout.Bait, layout.Urine)(q)
			hole(300, 90, "wool")(q)
			q.Layout.Attractors[0].Smells[1].HeightMm = 60
		}, (*helper).scents, []RemedyKey{LowerLure}},
		"a lure two inches up": {"hole", func(q *Question) {
			smells(layout.Bait, layout.Urine)(q)
			hole(300, 90, "wool")(q)
			q.Layout.Attractors[0].Smells[1].HeightMm = 50
		}, (*helper).scents, []RemedyKey{}},
		"nothing in a trail":     {"trail", ordinary, (*helper).scents, []RemedyKey{}},
		"open behind":            {"hole", func(q *Question) { q.Layout.Backing = "none" }, (*helper).places, []RemedyKey{Backing}},
		"sod behind":             {"hole", func(q *Question) { q.Layout.Backing = "sod" }, (*helper).places, []RemedyKey{Backing}},
		"a stone behind":         {"hole", func(q *Question) { q.Layout.Backing = "stone" }, (*helper).places, []RemedyKey{}},
		"a bank behind":          {"hole", func(q *Question) { q.Layout.Backing = "bank" }, (*helper).places, []RemedyKey{}},
		"nothing behind a trail": {"trail", func(q *Question) { q.Layout.Backing, q.Layout.Show = "none", "dug_out" }, (*helper).places, []RemedyKey{}},
		"a subtle show":          {"hole", func(q *Question) { q.Layout.Backing, q.Layout.Show = "stone", "subtle" }, (*helper).places, []RemedyKey{DigOut}},
		"it could face better": {"hole", func(q *Question) {
			q.Layout.Backing = "stone"
			q.Circumstances.Facings = []Facing{{10, .4}, {80, .8}, {140, .7}}
		}, (*helper).places, []RemedyKey{FaceWay}},
		"it faces as well as it could": {"hole", func(q *Question) { q.Layout.Backing = "stone"; q.Circumstances.Facings = []Facing{{10, .4}, {80, .5}} }, (*helper).places, []RemedyKey{}},
		"soil at the sides":            {"hole", func(q *Question) { q.Layout.Spoil = "sides" }, (*helper).hands, []RemedyKey{SoilAway}},
		"soil before it":               {"hole", func(q *Question) { q.Layout.Spoil = "before" }, (*helper).hands, []RemedyKey{SoilAway}},
		"soil carried off, bare hands": {"hole", func(q *Question) { q.Layout.Spoil, q.Layout.Hands = "carried_off", "bare" }, (*helper).hands, []RemedyKey{Gloves}},
		"the third night, gloves":      {"hole", func(q *Question) { q.Layout.Spoil, q.Layout.Hands, q.Circumstances.Night = "carried_off", "gloves", 3 }, (*helper).hands, []RemedyKey{Wait}},
		"the fourth night":             {"hole", func(q *Question) { q.Layout.Spoil, q.Layout.Hands, q.Circumstances.Night = "carried_off", "gloves", 4 }, (*helper).hands, []RemedyKey{}},
		"a stiff pan":                  {"hole", func(q *Question) { q.Layout.Rigs[0].Pan.GaugeN = 60 }, (*helper).tensions, []RemedyKey{LighterPan}},
		"a light pan":                  {"hole", func(q *Question) { q.Layout.Rigs[0].Pan.GaugeN = 8 }, (*helper).tensions, []RemedyKey{}},
		"stones that steer":            {"hole", func(q *Question) { q.Layout.Guides = []layout.Guide{{Kind: "stone", XMm: 100, YMm: 300, RMm: 40}} }, (*helper).guides, []RemedyKey{CloserGuides, NoGuides, WiderGuides}},
		"a stone that is tall": {"hole", func(q *Question) {
			q.Layout.Guides = []layout.Guide{{Kind: "stone", XMm: 100, YMm: 300, RMm: 40, HeightMm: new(layout.UneasyMm + 1.0)}}
		}, (*helper).guides, []RemedyKey{CloserGuides, LowerGuides, NoGuides, WiderGuides}},
		"a stone as tall as it may be": {"hole", func(q *Question) {
			q.Layout.Guides = []layout.Guide{{Kind: "stone", XMm: 100, YMm: 300, RMm: 40, HeightMm: new(layout.UneasyMm)}}
		}, (*helper).guides, []RemedyKey{CloserGuides, NoGuides, WiderGuides}},
		"a trail with its stick": {"trail", ordinary, (*helper).guides, []RemedyKey{}},
		"a trail without it":     {"trail", func(q *Question) { q.Layout.Guides = nil }, (*helper).guides, []RemedyKey{LayStick}},
		"a wide trail":           {"trail", func(q *Question) { q.Layout.Way.WidthMm += 100 }, (*helper).guides, []RemedyKey{NarrowWay}},
		"a wide trench":          {"trench", func(q *Question) { q.Layout.Trench.WidthMm += 100; q.Layout.Guides = nil }, (*helper).guides, []RemedyKey{NarrowWay}},
		"half a pair":            {"trail_pair", func(q *Question) { q.Layout.Rigs, q.Layout.Anchors = q.Layout.Rigs[:1], q.Layout.Anchors[:1] }, (*helper).guides, []RemedyKey{SecondTrap}},
		"an anchor that holds":   {"hole", ordinary, (*helper).anchors, []RemedyKey{}},
		"a short stake in wet clay": {"hole", func(q *Question) {
			q.Layout.Anchors[0].Kind, q.Layout.Anchors[0].LengthMm, q.Soil = "stake", 250, anchor.Soil{Kind: "soft_clay", Wetness: "wet"}
		}, (*helper).anchors, []RemedyKey{Anchor}},
	} {
		q := askedOf(t, c.pattern, "coyote")
		c.make(&q)
		if got := keysOfOffers(offeredAt(t, q, c.of)); !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", name, got, c.want)
		}
	}
}

// What is offered is what it says, and leaves the rest of the set as it was.
func TestWhatAnOfferChanges(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	q.Layout.Rigs[0].Cover = []layout.Layer{{Material: pan.Peat, ThicknessMm: 8}, {Material: pan.DrySoil, ThicknessMm: 5}}
	beds := offeredAt(t, q, (*helper).beds)
	if got := one(t, beds, ThinnerCover).Layout.Rigs[0].Cover; len(got) != 1 || got[0].Material != pan.DrySoil || got[0].ThicknessMm != 6.35 {
		t.Errorf("a thinner cover: %+v", got)
	}
	if got := one(t, beds, OtherCover); got.To != string(pan.WaxedSoil) || got.Layout.Rigs[0].Cover[0].Material != pan.WaxedSoil || got.Layout.Rigs[0].Cover[1].Material != pan.WaxedSoil || got.Layout.Rigs[0].Cover[1].ThicknessMm != 5 {
		t.Errorf("another cover: %+v", got.Layout.Rigs[0].Cover)
	}
	q.Layout.Rigs[0].Cover = []layout.Layer{{Material: pan.WaxedSoil, ThicknessMm: 5}}
	if got := one(t, offeredAt(t, q, (*helper).beds), OtherCover); got.To != string(pan.Peat) {
		t.Errorf("another cover than waxed soil: %s", got.To)
	}

	q.Layout.Attractors[0].Smells = []layout.Smell{{Kind: layout.Curiosity, Name: "it", HeightMm: 300, Place: "top"}, {Kind: layout.Gland, Name: "low", HeightMm: 20, Place: "lip"}}
	scents := offeredAt(t, q, (*helper).scents)
	if got := one(t, scents, LowerLure).Layout.Attractors[0].Smells; got[0].HeightMm != 50.8 || got[1].HeightMm != 20 {
		t.Errorf("a lower lure: %+v", got)
	}
	if got := one(t, scents, AddBait).Layout.Attractors[0].Smells; len(got) != 3 || got[2].Kind != layout.Bait || got[2].Place != "bottom" {
		t.Errorf("bait: %+v", got)
	}
	if got := one(t, scents, AddUrine).Layout.Attractors[0].Smells; len(got) != 3 || got[2].Kind != layout.Urine || got[2].Place != "backing" {
		t.Errorf("urine: %+v", got)
	}
	flat := askedOf(t, "object", "coyote")
	flat.Layout.Attractors[0].Smells = []layout.Smell{{Kind: layout.Gland, Name: "it", Place: "beside"}}
	if got := one(t, offeredAt(t, flat, (*helper).scents), AddBait).Layout.Attractors[0].Smells; got[1].Place != "under" {
		t.Errorf("bait at a stone: %+v", got)
	}

	q.Circumstances.Facings = []Facing{{10, .4}, {80, .8}, {140, .7}}
	if got := one(t, offeredAt(t, q, (*helper).places), FaceWay); *got.FacingDeg != 80 || *got.Layout.FacingDeg != 80 || *got.around.Coverage != .8 {
		t.Errorf("faced: %+v", got)
	}

	q.Layout.Guides = []layout.Guide{{Kind: "stone", XMm: 100, YMm: 300, RMm: 40}, {Kind: "stone", XMm: -90, YMm: 310, RMm: 40}, {Kind: "stone", YMm: 400, RMm: 40, HeightMm: new(500.0)}}
	guides := offeredAt(t, q, (*helper).guides)
	for key, want := range map[RemedyKey][3]float64{CloserGuides: {74.6, -64.6, 0}, WiderGuides: {125.4, -115.4, 0}, LowerGuides: {100, -90, 0}} {
		for i, g := range one(t, guides, key).Layout.Guides {
			if math.Abs(g.XMm-want[i]) > 1e-9 {
				t.Errorf("%s, stone %d: %g, want %g", key, i, g.XMm, want[i])
			}
		}
	}
	if got := one(t, guides, CloserGuides).XMm; got != -25.4 {
		t.Errorf("closer by %g", got)
	}
	if got := one(t, guides, LowerGuides).Layout.Guides; *got[2].HeightMm != layout.UneasyMm || got[0].HeightMm != nil {
		t.Errorf("lower: %+v", got)
	}
	if got := one(t, guides, NoGuides).Layout.Guides; len(got) != 0 {
		t.Errorf("none: %+v", got)
	}
	pair := askedOf(t, "trail_pair", "coyote")
	whole := pair.Layout
	pair.Layout.Rigs, pair.Layout.Anchors = whole.Rigs[:1], whole.Anchors[:1]
	if got := one(t, offeredAt(t, pair, (*helper).guides), SecondTrap); got.Slot != 1 || len(got.Layout.Rigs) != 2 || len(got.Layout.Anchors) != 2 || got.Layout.Rigs[1].Slot != whole.Rigs[1].Slot {
		t.Errorf("a second trap: %+v", got)
	}
}

// A part is moved straight, near and farther, and aslant, the same to all sides.
func TestWhereAPartIsTried(t *testing.T) {
	found := around(8 * inchMm)
	if len(found) != 20 {
		t.Errorf("%d places", len(found))
	}
	for _, want := range [][2]float64{{25.4, 0}, {-25.4, 0}, {0, 50.8}, {0, -50.8}, {101.6, 0}, {0, 203.2}, {-203.2, 0}, {25.4, 25.4}, {25.4, -25.4}, {-25.4, 25.4}, {-25.4, -25.4}} {
		if !slices.ContainsFunc(found, func(at [2]float64) bool { return math.Hypot(at[0]-want[0], at[1]-want[1]) < 1e-9 }) {
			t.Errorf("not at %v", want)
		}
	}
	sum := [2]float64{}
	for _, at := range found {
		sum[0], sum[1] = sum[0]+at[0], sum[1]+at[1]
	}
	if math.Hypot(sum[0], sum[1]) > 1e-9 {
		t.Errorf("more to one side: %v", sum)
	}
}

// Only a lure gives way to another, to one that the shelf still has and the set has not.
func TestOnlyALureGivesWay(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	q.Circumstances.Site.Day = "2026-06-04"
	q.Circumstances.Shelf = []ShelfLure{{"old", "Old Fence", layout.Gland, 20, LuresMet, false}, {"empty", "Tin Cup", layout.Curiosity, 0, LuresNew, false}, {"urine", "Fox urine", layout.Urine, 20, LuresNew, false}, {"musk", "Creek musk", layout.Musk, 20, LuresNew, false}}
	q.Layout.Attractors[0].Smells = []layout.Smell{{Kind: layout.Bait, Name: "bait", Place: "bottom"}, {Kind: layout.Gland, Name: "Old Fence", LureID: "old", Place: "lip"}}
	got := one(t, offeredAt(t, q, (*helper).otherLure), OtherLure)
	if got.LureID != "musk" || got.Lure != "Creek musk" || got.Doses != 20 || got.Layout.Attractors[0].Smells[0].Kind != layout.Bait || got.Layout.Attractors[0].Smells[1].LureID != "musk" {
		t.Errorf("%+v", got)
	}
	q.Layout.Attractors[0].Smells = q.Layout.Attractors[0].Smells[:1]
	if found := offeredAt(t, q, (*helper).otherLure); len(found) != 0 {
		t.Errorf("for bait: %+v", found)
	}
}

// A pan is brought farther from what smells only where something smells and the trap is not set blind; and its tension goes up only where that
// is below the window.
func TestWhatMightSpareOthers(t *testing.T) {
	moved := func(pattern string) bool {
		return slices.Contains(keysOfOffers(offeredAt(t, askedOf(t, pattern, "coyote"), (*helper).sparings)), MovePan)
	}
	if !moved("hole") || moved("trail") {
		t.Errorf("a pan is brought farther off at a hole: %v, in a trail: %v", moved("hole"), moved("trail"))
	}
	q := askedOf(t, "hole", "coyote")
	h, err := newHelper(t.Context(), q.overTheNightsLeft())
	if err != nil {
		t.Fatal(err)
	}
	window, err := h.windowOf(q.Layout.Rigs[0])
	if err != nil {
		t.Fatal(err)
	}
	for off, want := range map[float64]bool{-1: true, 0: false, 1: false} {
		q.Layout.Rigs[0].Pan = new(*q.Layout.Rigs[0].Pan)
		q.Layout.Rigs[0].Pan.GaugeN = window.MaxN + off
		if got := slices.Contains(keysOfOffers(offeredAt(t, q, (*helper).sparings)), HeavierPan); got != want {
			t.Errorf("at %+g N off the window's end a heavier pan is offered: %v", off, got)
		}
	}
}

// A stick that lies off, along its way, is moved back to where a foot comes down on the pan.
func TestAStickThatLiesOff(t *testing.T) {
	t.Parallel()
	for _, off := range []float64{1, -1, 2, -2, 4, -4} {
		q := askedOf(t, "trail", "coyote")
		q.Visits = 4000
		stick := slices.IndexFunc(q.Layout.Guides, func(g layout.Guide) bool { return g.Kind == "stick" })
		lay := q.Layout.Guides[stick].XMm
		q.Layout.Guides[stick].XMm += off * inchMm
		h, err := newHelper(t.Context(), q.overTheNightsLeft())
		if err != nil {
			t.Fatal(err)
		}
		found, err := h.moves()
		if err != nil {
			t.Fatal(err)
		}
		if moved := one(t, found, MoveStick); moved.Slot != stick || moved.XMm != -off*inchMm || moved.Layout.Guides[stick].XMm != lay {
			t.Errorf("%g in off, it is moved by %g mm to %g", off, moved.XMm, moved.Layout.Guides[stick].XMm)
		}
	}
}

// A lure that makes them dig is offered where nothing stands close about the pan, and refused in a tight ring.
func TestALureThatMakesThemDig(t *testing.T) {
	t.Parallel()
	for pattern, offered := range map[string]bool{"hole": true, "three_stones": false} {
		q := askedOf(t, pattern, "red_fox")
		q.Visits, q.Circumstances.Site.Day = 1000, "2026-12-20"
		q.Circumstances.Shelf = []ShelfLure{{LureID: "digs", Name: "Creek musk", Class: layout.Gland, Doses: 9, Stands: LuresNew, Digs: true}}
		for i := range q.Layout.Attractors {
			for k := range q.Layout.Attractors[i].Smells {
				q.Layout.Attractors[i].Smells[k].Kind = layout.Curiosity
				q.Layout.Attractors[i].Smells[k].Name = "Tin Cup"
			}
		}
		found, err := Offered(t.Context(), q, OtherLure)
		if err != nil {
			t.Fatal(err)
		}
		is := slices.ContainsFunc(found, func(r Remedy) bool { return r.LureID == "digs" })
		if is != offered {
			t.Errorf("%s: offered %v: %+v", pattern, is, found)
		}
	}
}

// A call lure goes aside and high, or to the set by who does so; a scat is moved where one lies near; a stone to roll on is for who leads them to one. Nothing
// of it is offered at a blind set, nor twice.
func TestWhatLiesAside(t *testing.T) {
	t.Parallel()
	offered := func(pattern string, change func(*Question)) map[RemedyKey]layout.Layout {
		q := askedOf(t, pattern, "coyote")
		q.Visits = 1000
		change(&q)
		all, err := Offered(t.Context(), q, CallAside, ScatToIt, RollStone)
		if err != nil {
			t.Fatal(err)
		}
		found := map[RemedyKey]layout.Layout{}
		for _, r := range all {
			if r.Layout.Check() != nil || r.Minutes <= 0 {
				t.Errorf("%s: %s cannot be laid, or takes no time", pattern, r.Key)
			}
			found[r.Key] = *r.Layout
		}
		return found
	}
	plain := offered("hole", func(q *Question) {})
	if l, ok := plain[CallAside]; !ok || len(l.Aside) != 1 || l.Aside[0].HeightMm != callHighMm || len(plain) != 1 {
		t.Errorf("%+v", plain)
	}
	all := offered("hole", func(q *Question) {
		q.Schools.CallLure, q.Schools.Rolling = "set", "aside"
		q.Circumstances.Site.Near = []layout.Nearby{{Key: "scat", M: 6}}
		q.Circumstances.Shelf = []ShelfLure{{LureID: "draw", Name: "Long Draw", Class: layout.Call, Doses: 2}}
	})
	if l := all[CallAside]; len(l.Aside) != 0 || !slices.ContainsFunc(l.Attractors[0].Smells, func(s layout.Smell) bool { return s.LureID == "draw" }) {
		t.Errorf("at the set: %+v", l.Attractors[0].Smells)
	}
	if l := all[ScatToIt]; !slices.ContainsFunc(l.Smells(), func(s layout.Smell) bool { return s.Kind == layout.Scat }) {
		t.Errorf("a scat: %+v", l.Smells())
	}
	if !Rolled(all[RollStone]) {
		t.Errorf("a stone: %+v", all[RollStone].Aside)
	}
	if none := offered("trail", func(q *Question) { q.Schools.Rolling = "aside" }); len(none) != 0 {
		t.Errorf("at a blind set: %+v", none)
	}
	if again := offered("hole", func(q *Question) { q.Layout = all[RollStone]; q.Schools.Rolling = "aside" }); again[RollStone].Pattern != "" {
		t.Error("a second stone")
	}
}
