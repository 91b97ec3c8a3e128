package e2e

import (
	"encoding/json"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/bed"
	"oldburrow/core/layout"
	"oldburrow/core/odds"
	"oldburrow/core/schools"
)

// Going back and on again on the bench gives each design that there was, and no other: also after a reload, after a change from farther back,
// and after more changes than are kept.
func TestStepsBackAndOn(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	w.do(`() => { window.design = (n) => ({ target: 'coyote', layout: { n }, version: 7, name: 'x' }); window.steps = new L.Steps('k'); window.now = design(0);
		window.edit = (n) => { steps.note(now); now = design(n); return true };
		window.go = (way) => { const to = steps.go(way, now); if (to) now = { ...now, ...to }; return to && to.layout.n };
		return null }`)
	for _, c := range []struct{ expression, want string }{
		{`() => [steps.can.back, steps.can.on, go('back'), go('on')]`, `[false,false,null,null]`},
		{`() => [edit(1), edit(2), edit(3), steps.can.back, steps.can.on]`, `[true,true,true,true,false]`},
		{`() => [go('back'), go('back'), now.layout.n, steps.can.on, go('on'), go('back')]`, `[2,1,1,true,2,1]`},
		{`() => [(steps = new L.Steps('k'), go('on')), go('on'), go('on'), go('back')]`, `[2,3,null,2]`},
		{`() => [new L.Steps('other').can.back]`, `[false]`},
		// What was gone back from is gone with the next change, and what belongs to no step is not brought back.
		{`() => [edit(9), steps.can.on, go('on'), go('back'), go('back'), go('back'), go('back')]`, `[true,false,null,2,1,0,null]`},
		{`() => { for (let n = 1; n <= 100; n++) edit(n); let far = 0; while (go('back') !== null) far++; return [far, now.layout.n, now.name, Object.keys(steps.go('on', now)).join()] }`, `[80,20,"x","target,layout"]`},
		{`() => { sessionStorage.setItem('k', '{"back":'); return [new L.Steps('k').can.back] }`, `[false]`},
	} {
		if got := w.do(c.expression); got != c.want {
			t.Errorf("%s = %s, want %s", c.expression, got, c.want)
		}
	}
}

var (
	transform = regexp.MustCompile(`transform="translate\(([-\d.e]+) ([-\d.e]+)\)(?: rotate\(([-\d.e]+)\))?"`)
	toes      = regexp.MustCompile(`<ellipse cx="([-\d.e]+)" cy="([-\d.e]+)"`)
)

func number(t *testing.T, s string) float64 {
	t.Helper()
	if s == "" {
		return 0
	}
	n, err := strconv.ParseFloat(s, 64)
	if err != nil {
		t.Fatal(err)
	}
	return n
}

// The toes of every print that is drawn lie ahead of its pad, in the direction in which the core says that the animal goes, at sets that are
// drawn along their axis and along their way.
func TestToesPointWhereTheyGo(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	drawn := map[bool]int{}
	for _, pattern := range []string{"hole", "tuft_pair", "trail", "trail_pair", "object"} {
		l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
		if err != nil {
			t.Fatal(err)
		}
		answer, err := odds.Of(odds.Question{Layout: l, Target: animal.Reference[0], Visits: 500, Seed: 1})
		if err != nil {
			t.Fatal(err)
		}
		for _, paw := range answer.Feet.Paws {
			sin, cos := math.Sincos(paw.TurnDeg * math.Pi / 180)
			var got struct {
				Turned bool
				At, To struct{ X, Y float64 }
				Markup string
			}
			raw := w.do(`(l, paw, sin, cos) => { const v = L.viewOf(l, 1067, 600, 200, 420);
				return { turned: v.turned, at: L.place(v, paw.xMm, paw.yMm), to: L.place(v, paw.xMm + 50 * sin, paw.yMm - 50 * cos), markup: L.printOf({ paw, view: v }) } }`, l, paw, sin, cos)
			if err := json.Unmarshal([]byte(raw), &got); err != nil {
				t.Fatal(err)
			}
			drawn[got.Turned]++
			put, at := transform.FindStringSubmatch(got.Markup), toes.FindAllStringSubmatch(got.Markup, -1)
			if put == nil || len(at) != 4 {
				t.Fatalf("%s: no print: %s", pattern, got.Markup)
			}
			sin, cos = math.Sincos(number(t, put[3]) * math.Pi / 180)
			for _, toe := range at {
				x, y := number(t, toe[1]), number(t, toe[2])
				dx, dy := x*cos-y*sin, x*sin+y*cos
				wantX, wantY := got.To.X-got.At.X, got.To.Y-got.At.Y
				if ahead := (dx*wantX + dy*wantY) / math.Hypot(dx, dy) / math.Hypot(wantX, wantY); ahead < .5 || math.Abs(number(t, put[1])-got.At.X) > 1e-6 || math.Abs(number(t, put[2])-got.At.Y) > 1e-6 {
					t.Errorf("%s: of the print at %+v a toe points %.2f ahead: %s", pattern, paw, ahead, put[0])
				}
			}
		}
	}
	if drawn[true] == 0 || drawn[false] == 0 {
		t.Errorf("drawn along the way and along the axis: %v", drawn)
	}
}

var (
	pans     = regexp.MustCompile(`<path d="M([-\d.e]+) ([-\d.e]+)H([-\d.e]+)" stroke="var\(--ember\)"`)
	beds     = regexp.MustCompile(`<path d="M([-\d.e]+) ([-\d.e]+)L[-\d.e]+ ([-\d.e]+)H[-\d.e]+L([-\d.e]+) [-\d.e]+Z" fill="var\(--chosen\)"`)
	holds    = regexp.MustCompile(`<path d="M([-\d.e]+) [-\d.e]+L([-\d.e]+) ([-\d.e]+)" stroke-width="3.4"`)
	inInches = regexp.MustCompile(`[0-9¼½¾⅛⅜⅝⅞] in[ <,]`)
	frost    = regexp.MustCompile(`<path d="M4 ([-\d.e]+)H[-\d.e]+" stroke="var\(--slate\)"`)
)

// A set cut through is drawn to scale: each of two traps that differ by its own pan, bed, jaws and anchor, the trap in a trench on its floor,
// the frost as deep as it is; and what is said of it is said in the user's own units.
func TestTheCutIsToScale(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	const height = 600.0
	whole := 0
	for _, pattern := range []string{"trail_pair", "tuft_pair", "hole", "trench"} {
		l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
		if err != nil {
			t.Fatal(err)
		}
		for i := range l.Anchors {
			l.Anchors[i].Kind, l.Anchors[i].LengthMm = "stake", 110+30*float64(i)
		}
		if len(l.Rigs) > 1 { // a long trap beside a short one, dug deeper and covered otherwise
			r := &l.Rigs[1]
			r.Jaws = &layout.Jaws{SpreadMm: 170, FrameMm: 330, HeightMm: 40}
			deep := 110.0
			r.Bed.DepthMm, r.Pan.DiameterMm, r.ChainMm = &deep, 48, 900
		}
		type dug struct {
			Slot int        `json:"slot"`
			Bed  bed.Output `json:"bed"`
		}
		var rigs []dug
		for _, r := range l.Rigs {
			size, err := l.BedOf(r)
			if err != nil {
				t.Fatal(err)
			}
			rigs = append(rigs, dug{r.Slot, size})
		}
		for _, system := range []string{"us", "metric"} {
			var got struct {
				View   struct{ Scale, X0, GroundY float64 }
				Turned bool
				Floors []float64
				Markup string
			}
			raw := w.do(`(layout, rigs, system, height) => { const view = L.viewOf(layout, 1067, height, 200, 420);
				return { view, turned: view.turned, floors: layout.rigs.map((r) => layout.trench ? L.floorMm(layout, layout.trench, r.yMm) : 0),
					markup: L.cutOf({ layout, rigs, soil: 'loam', view, system, frostMm: 120 }) } }`, l, rigs, system, height)
			if err := json.Unmarshal([]byte(raw), &got); err != nil {
				t.Fatal(err)
			}
			cutPans, cutBeds, cutHolds := pans.FindAllStringSubmatch(got.Markup, -1), beds.FindAllStringSubmatch(got.Markup, -1), holds.FindAllStringSubmatch(got.Markup, -1)
			if len(cutPans) != len(l.Rigs) || len(cutBeds) != len(l.Rigs) || len(cutHolds) != len(l.Rigs) {
				t.Fatalf("%s: %d pans, %d beds, %d anchors are drawn", pattern, len(cutPans), len(cutBeds), len(cutHolds))
			}
			near := func(what string, px, mm float64) {
				t.Helper()
				if math.Abs(px-mm*got.View.Scale) > .01 {
					t.Errorf("%s, %s: %s is drawn %.2f px, want %.2f", pattern, system, what, px, mm*got.View.Scale)
				}
			}
			for i, r := range l.Rigs {
				size, floor := rigs[i].Bed, got.Floors[i]
				at, panAt := r.YMm, r.Pan.YMm
				if got.Turned {
					at, panAt = r.XMm, r.Pan.XMm
				}
				left, right := number(t, cutPans[i][1]), number(t, cutPans[i][3])
				near("the pan's width", right-left, r.Pan.DiameterMm)
				near("the pan's place", (right+left)/2-got.View.X0, panAt)
				bedLeft, bedRight := number(t, cutBeds[i][1]), number(t, cutBeds[i][4])
				near("the bed's place", (bedLeft+bedRight)/2-got.View.X0, at)
				near("the bed's depth", number(t, cutBeds[i][3])-number(t, cutBeds[i][2]), size.DepthMm)
				near("the ground over the bed", number(t, cutBeds[i][2])-got.View.GroundY, floor)
				axis := math.Abs(math.Sin(r.AxisDeg * math.Pi / 180))
				across := math.Abs(math.Cos(r.AxisDeg * math.Pi / 180))
				if got.Turned {
					axis, across = across, axis
				}
				stake := l.Anchors[slices.IndexFunc(l.Anchors, func(a layout.Anchor) bool { return a.Slot == r.AnchorSlot })].LengthMm
				if end := number(t, cutHolds[i][3]); end < height-18 { // else it goes on beyond the page, and a break says so
					near("the stake", end-got.View.GroundY, floor+stake)
					whole++
				}
				near("the bed along the cut", bedRight-bedLeft, size.LengthMm*axis+size.WidthMm*across)
			}
			line := frost.FindStringSubmatch(got.Markup)
			if line == nil {
				t.Fatalf("%s: no frost is drawn", pattern)
			}
			near("the frost", number(t, line[1])-got.View.GroundY, 120)
			inches, metric := inInches.MatchString(got.Markup), strings.Contains(got.Markup, " cm")
			if inches != (system == "us") || metric != (system == "metric") {
				t.Errorf("%s, %s: in inches %v, in centimetres %v", pattern, system, inches, metric)
			}
		}
	}
	if whole < 8 {
		t.Errorf("%d stakes are drawn to their end", whole)
	}
}

// everyPattern is how many patterns there are, with their variants.
const everyPattern = 36

// Every pattern and variant, as it begins for its target, is drawn at full size without a number that is none, and no two are drawn alike.
func TestNoTwoSetsAreDrawnAlike(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	drawn := map[string]string{}
	for _, pattern := range layout.PatternKeys() {
		for _, variant := range append([]string{""}, layout.VariantKeys(pattern)...) {
			title := pattern + " " + variant
			l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual(), Variant: variant})
			if err != nil {
				t.Fatal(err)
			}
			answer, err := odds.Of(odds.Question{Layout: l, Target: animal.Reference[0], Visits: 500, Seed: 1, Map: true})
			if err != nil {
				t.Fatal(err)
			}
			svg := w.do(`(layout, answer) => L.drawingOf({ layout, target: 'coyote', soil: 'loam', answer, rigging: false, land: [], onMove() {}, onRest() {} })`, l, answer)
			if strings.Contains(svg, "NaN") || strings.Contains(svg, "undefined") {
				t.Errorf("%s is drawn with what is no number", title)
			}
			if other, ok := drawn[svg]; ok {
				t.Errorf("%s is drawn as %s", title, other)
			}
			drawn[svg] = title
		}
	}
	if len(drawn) != everyPattern {
		t.Errorf("%d sets are drawn", len(drawn))
	}
}

var (
	window  = regexp.MustCompile(`<rect x="([-\d.e]+)" y="-9" width="([-\d.e]+)"`)
	against = regexp.MustCompile(`<path d="M([-\d.e]+) -9v9M([-\d.e]+) -9v9M[-\d.e]+ -4.5H[-\d.e]+"`)
	pointer = regexp.MustCompile(`<path d="M([-\d.e]+) -1l-4 -9h8z"`)
)

// A pan's tension stands on its ruler where it is, in pounds and in half kilograms, its window about it; what does not fit the ruler at its end.
func TestThePanOnItsRuler(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	const width = 200.0
	for system, whole := range map[string]float64{"us": 8 * 4.4482216, "metric": 7 * 4.903325} {
		at := func(n float64) float64 { return math.Min(n, whole) / whole * width }
		near := func(what string, found []string, want ...float64) {
			t.Helper()
			if len(found) != len(want)+1 {
				t.Errorf("%s: %s is not drawn: %v", system, what, found)
				return
			}
			for i, x := range want {
				if math.Abs(number(t, found[i+1])-x) > 1e-6 {
					t.Errorf("%s: %s stands at %v, want %v", system, what, found[1:], want)
				}
			}
		}
		draw := func(minN, maxN, meanN float64, conflict bool) string {
			var svg string
			raw := w.do(`(width, minN, maxN, meanN, conflict, system) => L.panScaleOf({ width, minN, maxN, meanN, conflict, system, figures: true })`, width, minN, maxN, meanN, conflict, system)
			if err := json.Unmarshal([]byte(raw), &svg); err != nil {
				t.Fatal(err)
			}
			return svg
		}
		plain := draw(8.9, 17.8, 13.3, false)
		near("the window", window.FindStringSubmatch(plain), at(8.9), at(17.8)-at(8.9))
		near("the pan", pointer.FindStringSubmatch(plain), at(13.3))
		if against.MatchString(plain) || strings.Contains(plain, " lb<") != (system == "us") || strings.Contains(plain, " kg<") != (system == "metric") {
			t.Errorf("%s: %s", system, plain)
		}
		heavy := draw(20, 12, 500, true)
		near("two ends that cross", against.FindStringSubmatch(heavy), at(12), at(20))
		near("a pan beyond it", pointer.FindStringSubmatch(heavy), width)
		if window.MatchString(heavy) {
			t.Errorf("%s: a window where there is none: %s", system, heavy)
		}
	}
}
