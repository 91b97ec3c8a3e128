package anchor

import (
	"math"
	"math/rand/v2"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/schools"
	"oldburrow/core/seeds"
)

func capacity(t *testing.T, in HoldingInput) float64 {
	t.Helper()
	out, err := Holding(in)
	if err != nil {
		t.Fatal(err)
	}
	return out.CapacityN
}

// A longer chain never lowers what is asked, a spring never raises it; a deeper anchor in one soil never bears less, and wetter clay
// never more.
func TestWhatHoldsGoesTheRightWay(t *testing.T) {
	seeds.Each(t, 400, func(rng *rand.Rand) {
		a := animal.Reference[rng.IntN(len(animal.Reference))]
		chain := rng.Float64() * 3000
		demand := func(chainMm float64, spring bool) float64 {
			out, err := Pull(a, PullInput{chainMm, spring})
			if err != nil {
				t.Fatal(err)
			}
			return out.DemandN
		}
		if demand(chain+rng.Float64()*900, false) < demand(chain, false) || demand(chain, true) > demand(chain, false) {
			t.Errorf("%s on %g mm of chain", a.Key, chain)
		}
		in := HoldingInput{
			Soil: ground.Soils[rng.IntN(7)], Wetness: ground.Wetnesses[rng.IntN(3)], Kind: []Driven{Stake, Crossed, Plate}[rng.IntN(3)],
			DiameterMm: 8 + rng.Float64()*12, LengthMm: 200 + rng.Float64()*600, PullAngleDeg: rng.Float64() * 90,
			PlateLengthMm: 121, PlateWidthMm: 28, DepthMm: 200 + rng.Float64()*600,
		}
		deeper := in
		deeper.LengthMm, deeper.DepthMm = in.LengthMm+100, in.DepthMm+100
		if was, is := capacity(t, in), capacity(t, deeper); is < was-1e-9 {
			t.Errorf("%+v bears %g, deeper %g", in, was, is)
		}
		for _, clay := range []ground.Soil{"firm_clay", "soft_clay", "muck", "loam"} {
			in.Soil = clay
			last := math.Inf(1)
			for _, in.Wetness = range ground.Wetnesses {
				now := capacity(t, in)
				if now > last+1e-9 {
					t.Errorf("%+v bears more than drier", in)
				}
				last = now
			}
		}
	})
	if _, err := Holding(HoldingInput{Soil: "snow", Wetness: "wet", Kind: Stake, DiameterMm: 12, LengthMm: 600}); err == nil {
		t.Error("a stake in snow is answered")
	}
}

// set is a hole for a coyote with one anchor.
func set(t *testing.T, a layout.Anchor) layout.Layout {
	t.Helper()
	l, err := layout.New("hole", layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	a.XMm, a.YMm = l.Anchors[0].XMm, l.Anchors[0].YMm
	l.Anchors = []layout.Anchor{a}
	if err := l.Check(); err != nil {
		t.Fatal(err)
	}
	return l
}

func held(t *testing.T, q Question) Held {
	t.Helper()
	found, err := Of(q)
	if err != nil {
		t.Fatal(err)
	}
	return found[0]
}

// Every kind of anchor has its answer; what it hangs on is asked for where it was not said.
func TestEveryKindOfAnchor(t *testing.T) {
	wet := func(a layout.Anchor) Question {
		return Question{Layout: set(t, a), Animal: animal.Reference[0], Soil: Soil{Kind: "soft_clay", Wetness: "wet"}}
	}
	stakes := []layout.End{{Kind: "stake", LengthMm: 610}, {Kind: "cable", LengthMm: 457.2}}
	for name, c := range map[string]struct {
		anchor layout.Anchor
		word   Surety
		unsaid string
	}{
		"stake":        {layout.Anchor{Kind: "stake", LengthMm: 610}, Fails, ""},
		"crossed":      {layout.Anchor{Kind: "crossed", LengthMm: 610}, Holds, ""},
		"earth anchor": {layout.Anchor{Kind: "cable", LengthMm: 457.2}, Fails, ""},
		"staple":       {layout.Anchor{Kind: "staple", LengthMm: 50}, Holds, ""},
		"soft wood":    {layout.Anchor{Kind: "staple", LengthMm: 50, Soft: true}, Fails, ""},
		"slide":        {layout.Anchor{Kind: "slide", LengthMm: 2400, Ends: stakes}, Fails, ""},
		"bare slide":   {layout.Anchor{Kind: "slide", LengthMm: 2400}, "", "ends"},
		"drag":         {layout.Anchor{Kind: "drag", Cover: "timber"}, Holds, ""},
		"grapple":      {layout.Anchor{Kind: "grapple", Cover: "open"}, Holds, ""},
		"toggle":       {layout.Anchor{Kind: "toggle", Tied: true}, Holds, ""},
		"log":          {layout.Anchor{Kind: "log"}, "", "cover"},
		"proved":       {layout.Anchor{Kind: "stake", LengthMm: 610, ProofN: new(900.0)}, Holds, ""},
	} {
		h := held(t, wet(c.anchor))
		word := Surety("")
		if len(h.Times) > 0 {
			word = h.Times[0].Word
		}
		if word != c.word || h.Unsaid != c.unsaid {
			t.Errorf("%s: %+v", name, h)
		}
	}
	q := wet(layout.Anchor{Kind: "stake", LengthMm: 610})
	q.Soil.Kind = ""
	if h := held(t, q); h.Unsaid != "soil" || len(h.Times) != 0 || h.Least() != nil {
		t.Errorf("in no soil: %+v", h)
	}
}

// What would help is ranked by how much; a crossed pair is among it, and each is what it says when it is done.
func TestWhatWouldHelp(t *testing.T) {
	q := Question{Layout: set(t, layout.Anchor{Kind: "stake", LengthMm: 460}), Animal: animal.Reference[0], Soil: Soil{Kind: "soft_clay", Wetness: "wet"}}
	h := held(t, q)
	keys := map[string]bool{}
	for i, m := range h.Stronger {
		keys[m.Key] = true
		if i > 0 && m.Gain > h.Stronger[i-1].Gain || m.Gain <= 0 || m.Minutes <= 0 {
			t.Errorf("%+v", m)
		}
		done := q
		done.Layout = m.Layout
		if got := held(t, done); math.Abs(*got.Least()-m.Chance) > 1e-12 {
			t.Errorf("%s: %g, done %g", m.Key, m.Chance, *got.Least())
		}
	}
	if !keys[Cross] || !keys[Deeper] || !keys[Spring] || keys[UseDrag] {
		t.Errorf("%+v", h.Stronger)
	}
}

// Frost holds while it lasts. At the thaw only what stands below it counts, and a plate in frost bears nothing.
func TestFrostAndThaw(t *testing.T) {
	q := Question{Layout: set(t, layout.Anchor{Kind: "cable", LengthMm: 300}), Animal: animal.Reference[0], Soil: Soil{Kind: "loam", Wetness: "moist", FrostMm: new(40.0), DeepestMm: new(320.0)}}
	h := held(t, q)
	if len(h.Times) != 3 || h.Times[0].Word != Holds || h.Times[2].When != Thaw || h.Times[2].Chance != 0 || h.Reaches {
		t.Errorf("%+v", h)
	}
	if len(h.Stronger) == 0 || h.Stronger[0].Anchor.LengthMm <= 320 {
		t.Errorf("nothing that reaches below is named first: %+v", h.Stronger)
	}
	q.Layout = set(t, layout.Anchor{Kind: "slide", LengthMm: 2400, Ends: []layout.End{{Kind: "stake", LengthMm: 610}, {Kind: "stake", LengthMm: 300}}})
	if held(t, q).Reaches {
		t.Error("a slide cable whose one end stands in the frost reaches below it")
	}
	q.Layout = set(t, layout.Anchor{Kind: "stake", LengthMm: 700})
	warm := q
	warm.FrostMm, warm.DeepestMm = nil, nil
	if *held(t, q).Times[2].CapacityN >= *held(t, warm).Times[0].CapacityN {
		t.Error("a stake that stood in frost bears at the thaw what it bore")
	}
}

// The share of the pattern that is churned up lies between none and all, and shrinks as the anchor stands aside; drags run less in
// thicker cover, and one's own finds move the habit.
func TestCirclesAndRuns(t *testing.T) {
	last := 1.0
	for aside := 0.0; aside < 2000; aside += 50 {
		out, err := CircleOf(animal.Reference[1], CircleInput{ChainMm: 460, TrapLengthMm: 150, AnchorToAttractorMm: aside})
		if err != nil || out.PatternShare < 0 || out.PatternShare > last+1e-12 {
			t.Fatalf("%g aside: %+v, %v", aside, out, err)
		}
		last = out.PatternShare
	}
	if last != 0 {
		t.Errorf("two metres off it is still churned up: %g", last)
	}
	far := 0.0
	for _, cover := range layout.DragCovers {
		run, err := RunIn(cover, nil)
		if err != nil || run.MedianM <= far || run.FarM != 3*run.MedianM {
			t.Errorf("%s: %+v, %v", cover, run, err)
		}
		far = run.MedianM
	}
	if run, _ := RunIn("timber", []float64{100, 100, 100, 100, 100}); math.Abs(run.MedianM-math.Sqrt(2800)) > 1e-9 {
		t.Errorf("five finds weigh as much as the habit: %+v", run)
	}
	if _, err := RunIn("desert", nil); err == nil {
		t.Error("a drag in a desert is answered")
	}
}

// A fence over the set is in reach while the anchor stands under the bed, and is not when it stands far enough aside.
func TestWhatIsInReach(t *testing.T) {
	l, err := layout.New("crawl_under", layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	q := Question{Layout: l, Animal: animal.Reference[0], Soil: Soil{Kind: "firm_clay", Wetness: "moist"}}
	near := func() []Near { return held(t, q).Circle.Near }
	if found := near(); len(found) != 1 || found[0].Kind != "fence" || found[0].Mm >= held(t, q).Circle.ReachMm {
		t.Errorf("under the fence: %+v", found)
	}
	q.Layout.Anchors[0].XMm += 1500
	if found := near(); len(found) != 0 {
		t.Errorf("a step and a half off: %+v", found)
	}
	q.Layout.Anchors[0] = layout.Anchor{Kind: "drag", Cover: "timber"}
	if h := held(t, q); h.Circle != nil || math.Abs(h.Run.MedianM-28) > 1e-9 {
		t.Errorf("on a drag: %+v", h)
	}
	for pattern, want := range map[string]string{"culvert_pair": "culvert", "creek_pinch": "bank", "tree_hole": "tree", "spring_hole": "water", "log_crossing": "log"} {
		if q.Layout, err = layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()}); err != nil {
			t.Fatal(err)
		}
		if found := near(); len(found) == 0 || found[0].Kind != want {
			t.Errorf("%s: %+v", pattern, found)
		}
	}
}

// What lies in reach is told before what a drag runs to, by how far it lies; what is no matter is not told.
func TestWhatLiesOnTheLand(t *testing.T) {
	things := []Thing{
		{"fence", "", [][2]float64{{-10, .5}, {10, .5}}},
		{"fence", "far", [][2]float64{{-10, 5}, {10, 5}}},
		{"public_road", "Quarry Road", [][2]float64{{20, -10}, {20, 10}}},
		{"boundary", "home", [][2]float64{{60, -50}, {60, 50}}},
		{"pond", "", [][2]float64{{300, 0}, {310, 0}, {300, 10}, {300, 0}}},
		{"gate", "", [][2]float64{{0, .2}}},
		{"seen_from", "the road", [][2]float64{{150, 0}}},
		{"seen_from", "the hill", [][2]float64{{450, 0}}},
		{"culvert", "", [][2]float64{{0, -.9}}},
	}
	if found := Land([2]float64{0, 0}, 1190, nil, things); found[0].TowardDeg != 0 || found[1].TowardDeg != 180 {
		t.Errorf("the fence lies north, the culvert south: %+v", found)
	}
	told := func(run *Run) string {
		said := ""
		for _, near := range Land([2]float64{0, 0}, 1190, run, things) {
			said += near.Kind + " " + near.Within + ", "
		}
		return said
	}
	if got := told(nil); got != "fence reach, culvert reach, seen_from seen, " {
		t.Errorf("fixed: %s", got)
	}
	if got := told(&Run{MedianM: 28, FarM: 84}); got != "fence reach, culvert reach, public_road run, boundary far, seen_from seen, " {
		t.Errorf("on a drag: %s", got)
	}
}

// Frost that is not known is left out, and that is said of what stands in the ground; of what goes with the animal it is no matter.
func TestFrostThatIsNotKnownIsSaid(t *testing.T) {
	l := layout.Layout{
		Rigs:    []layout.Rig{{Slot: 0, ChainMm: 450, AnchorSlot: 0}, {Slot: 1, ChainMm: 450, AnchorSlot: 1}},
		Anchors: []layout.Anchor{{Slot: 0, Kind: layout.Stake, LengthMm: 600}, {Slot: 1, Kind: layout.Drag, Cover: "timber"}},
	}
	coyote, err := animal.Reference.ByKey("coyote")
	if err != nil {
		t.Fatal(err)
	}
	for name, c := range map[string]struct {
		frost, deepest *float64
		said           bool
	}{"none known": {nil, nil, true}, "now known": {new(0.0), nil, true}, "both known": {new(0.0), new(60.0), false}} {
		held, err := Of(Question{Layout: l, Animal: coyote, Soil: Soil{Kind: "firm_clay", Wetness: "moist", FrostMm: c.frost, DeepestMm: c.deepest}})
		if err != nil || held[0].NoFrost != c.said || held[1].NoFrost {
			t.Errorf("%s: %+v, %v", name, held, err)
		}
	}
	for _, reach := range []struct {
		anchors []layout.Anchor
		more    bool
	}{{l.Anchors, true}, {l.Anchors[1:], false}} {
		l.Anchors = reach.anchors
		if mm, err := Reach(l, coyote); err != nil || (mm > 400) != reach.more {
			t.Errorf("reaches %g, %v", mm, err)
		}
	}
}

// A proof by hand says what an anchor bore then. In frost it is the frost that bore: at the thaw the proof is worth nothing, and where the soil
// is not said nothing is claimed of that time.
func TestAProofEndsWithTheFrost(t *testing.T) {
	for _, frostMm := range []float64{0, 20, 120, 320} {
		q := Question{Layout: set(t, layout.Anchor{Kind: "stake", LengthMm: 300, ProofN: new(4000.0)}), Animal: animal.Reference[0], Soil: Soil{Kind: "loam", Wetness: "moist", FrostMm: new(frostMm), DeepestMm: new(frostMm)}}
		proved := held(t, q)
		q.Layout.Anchors[0].ProofN = nil
		plain := held(t, q)
		if len(proved.Times) != len(plain.Times) {
			t.Fatalf("%g mm: %+v, without a proof %+v", frostMm, proved.Times, plain.Times)
		}
		for i, at := range proved.Times {
			switch {
			case at.When == Thaw && *at.CapacityN != *plain.Times[i].CapacityN:
				t.Errorf("%g mm: the proof counts at the thaw: %g, without it %g", frostMm, *at.CapacityN, *plain.Times[i].CapacityN)
			case at.When != Thaw && *at.CapacityN != max(4000, *plain.Times[i].CapacityN):
				t.Errorf("%g mm, %s: bears %g, proved 4000", frostMm, at.When, *at.CapacityN)
			}
		}
		q.Layout.Anchors[0].ProofN = new(4000.0)
		q.Soil.Kind = ""
		if h := held(t, q); len(h.Times) == 0 || h.Times[0].When != Now || *h.Times[0].CapacityN < 4000 {
			t.Errorf("%g mm, the soil not said: %+v", frostMm, h)
		} else if last := h.Times[len(h.Times)-1]; last.When == Thaw {
			t.Errorf("%g mm, the soil not said: it is told what holds at the thaw: %+v", frostMm, last)
		}
	}
}
