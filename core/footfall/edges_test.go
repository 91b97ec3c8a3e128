package footfall

import (
	"math"
	"math/rand/v2"
	"testing"

	"oldburrow/core/seeds"
)

// The map reaches to the centres of its outermost cells, on every side alike, and says nothing beyond; at a cell's centre it says that
// cell's chance.
func TestTheMapsEdges(t *testing.T) {
	m := Map{X0Mm: -5, Y0Mm: 100, CellMm: 10, Cols: 3, Rows: 2, Chance: []float64{.1, .2, .3, .4, .5, .6}}
	for _, c := range []struct {
		x, y, want float64
		there      bool
	}{
		{-5, 100, .1, true}, {5, 100, .2, true}, {15, 100, .3, true}, {-5, 110, .4, true}, {15, 110, .6, true}, {0, 105, .3, true}, {15, 105, .45, true}, {10, 110, .55, true},
		{-5.01, 100, 0, false}, {15.01, 100, 0, false}, {0, 99.99, 0, false}, {0, 110.01, 0, false},
	} {
		if got, there := m.At(c.x, c.y); there != c.there || math.Abs(got-c.want) > 1e-12 {
			t.Errorf("at %g, %g: %g, %v; want %g, %v", c.x, c.y, got, there, c.want, c.there)
		}
	}
}

// Feet anywhere about the map's edges, and such as lie exactly as far from a cell as a foot reaches, are counted as measuring counts them.
func TestFeetAtTheMapsEdges(t *testing.T) {
	seeds.Each(t, 300, func(rng *rand.Rand) {
		for _, approach := range []string{Stand, Pass} {
			c := newCells(approach)
			wide, high := cellMm*float64(c.cols-1), cellMm*float64(c.rows-1)
			near := func(from, over float64) float64 { // mostly about one end or the other
				return from + over*float64(rng.IntN(2)) + 120*(rng.Float64()-.5)
			}
			reach := 50.0
			visit := []foot{
				{x: near(c.x0, wide), y: near(c.y0, high)}, {x: near(c.x0, wide), y: c.y0 + high*rng.Float64()}, {x: c.x0 + wide*rng.Float64(), y: near(c.y0, high)},
				{x: c.x0 + cellMm*float64(rng.IntN(c.cols)), y: c.y0 + cellMm*float64(rng.IntN(c.rows))}, // 30 and 40 mm off lies 50 mm off
			}
			c.visit(visit, reach)
			c.flush()
			for i, got := range c.total {
				x, y, want := c.x0+cellMm*float64(i%c.cols), c.y0+cellMm*float64(i/c.cols), 0
				for _, f := range visit {
					if math.Hypot(f.x-x, f.y-y) <= reach {
						want = 1
					}
				}
				if got != want {
					t.Fatalf("%s: the cell at %g, %g is counted %d times of %v", approach, x, y, got, visit)
				}
			}
		}
	})
}

// A foot that bears on two pans at once is on the one that it bears on with its pad, and else on the nearer: whichever of them is named first.
func TestAFootOnTwoPans(t *testing.T) {
	light, stiff := 5.0, 300.0
	in := coyote(1)
	a := kind("coyote")
	reach := onMm(under(0, 0), a)
	pans := []Pan{{XMm: -35, DiameterMm: 60, TensionN: &light}, {XMm: 35, DiameterMm: 60, TensionN: &stiff}}
	for _, order := range [][]Pan{pans, {pans[1], pans[0]}} {
		in.Pans = order
		w := newWalker(a, in)
		for _, c := range []struct {
			x, tension float64
			pad        bool
		}{{-35, light, true}, {-6, light, true}, {6, stiff, true}, {35, stiff, true}, {-4, light, false}, {4, stiff, false}, {-35 - reach + .1, light, false}} {
			met, pad, _ := w.meets(foot{x: c.x})
			if met == nil || met.tensionN != c.tension || pad != c.pad {
				t.Errorf("a foot at %g is on %+v, pad %v; want the pan of %g N, pad %v", c.x, met, pad, c.tension, c.pad)
			}
		}
		if met, _, _ := w.meets(foot{x: -35 - reach - .1}); met != nil {
			t.Errorf("a foot beyond both is on %+v", met)
		}
	}
}

// Each trap's own bed frightens, and only as far as its own jaws reach: the long rig beside a firm one, and the firm one beside it.
func TestEachTrapsOwnBed(t *testing.T) {
	firm, loose, small, wide := true, false, 120.0, 260.0
	in := coyote(1)
	in.Pans = []Pan{{XMm: -400, DiameterMm: 60, JawSpreadMm: &small, Firm: &loose}, {XMm: 400, DiameterMm: 60, JawSpreadMm: &wide, Firm: &loose}, {YMm: 400, DiameterMm: 60, JawSpreadMm: &wide, Firm: &firm}}
	w := newWalker(kind("coyote"), in)
	for _, c := range []struct {
		f     foot
		loose bool
	}{
		{foot{x: -400 + 69.9}, true}, {foot{x: -400 + 70.1}, false}, {foot{x: 400 - 139.9}, true}, {foot{x: 400 - 140.1}, false}, {foot{y: 399}, false}, {foot{y: 300}, false},
	} {
		if _, _, loose := w.meets(c.f); loose != c.loose {
			t.Errorf("at %+v the bed gives: %v", c.f, loose)
		}
	}
}

// A point of the plan goes into the axes of an approach and comes back; axes that are turned a quarter have their y along the plan's x.
func TestAxes(t *testing.T) {
	a := Axes{XMm: 100, YMm: -50, FacingDeg: 90}
	if x, y := a.At(30, 200); math.Abs(x-300) > 1e-9 || math.Abs(y-(-80)) > 1e-9 {
		t.Errorf("200 mm out and 30 to the right lie at (%g, %g)", x, y)
	}
	if x, y := a.On(300, -80); math.Abs(x-30) > 1e-9 || math.Abs(y-200) > 1e-9 {
		t.Errorf("(300, -80) lies %g to the right, %g out", x, y)
	}
	a.FacingDeg = 25
	for _, at := range [][2]float64{{0, 0}, {-40, 70}, {310, -220}} {
		x, y := a.At(at[0], at[1])
		if math.Abs(math.Hypot(x-a.XMm, y-a.YMm)-math.Hypot(at[0], at[1])) > 1e-9 {
			t.Errorf("%v is farther off on the plan", at)
		}
		if x, y = a.On(x, y); math.Abs(x-at[0]) > 1e-9 || math.Abs(y-at[1]) > 1e-9 {
			t.Errorf("%v came back as (%g, %g)", at, x, y)
		}
	}
}

// A share of one map is laid over another, cell by cell.
func TestMapsAreLaidOverEachOther(t *testing.T) {
	m, other := Map{Chance: []float64{.1, .2, 0}}, Map{Chance: []float64{.4, 0, .8}}
	m.Add(&other, .5)
	for i, want := range []float64{.3, .2, .4} {
		if math.Abs(m.Chance[i]-want) > 1e-12 {
			t.Errorf("cell %d is %g, want %g", i, m.Chance[i], want)
		}
	}
}

// Of two pans that lie low a foot is drawn to the nearer, by the animal's share of the way; of one that lies level, or too far off, it is not.
func TestDrawnToTheNearerPan(t *testing.T) {
	in := coyote(1)
	in.Pans, in.RecessMm = []Pan{under(-60, 200), under(60, 240)}, 10
	share := kind("coyote").Recess
	for _, c := range []struct{ x, y, toX, toY float64 }{{-30, 190, -60, 200}, {30, 250, 60, 240}, {60, 100, -60, 200}} {
		want := foot{x: c.x + share*(c.toX-c.x), y: c.y + share*(c.toY-c.y)}
		if math.Hypot(c.x-c.toX, c.y-c.toY) > recessNearMm {
			want = foot{x: c.x, y: c.y}
		}
		if got := newWalker(kind("coyote"), in).drawn(foot{x: c.x, y: c.y}); math.Abs(got.x-want.x) > 1e-9 || math.Abs(got.y-want.y) > 1e-9 {
			t.Errorf("a foot at (%g, %g) comes down at (%g, %g), want (%g, %g)", c.x, c.y, got.x, got.y, want.x, want.y)
		}
	}
	in.RecessMm = recessMm - .1
	if got := newWalker(kind("coyote"), in).drawn(foot{x: -30, y: 190}); got != (foot{x: -30, y: 190}) {
		t.Errorf("a pan that lies level draws a foot to %+v", got)
	}
}

// On the dry footings a foot comes down about the nearer of them, and off the middle of a stone it goes straight out.
func TestFootingsAndStones(t *testing.T) {
	in := coyote(1)
	in.Dry = []Guide{{XMm: -100, YMm: 100, RMm: 30}, {XMm: 120, YMm: 140, RMm: 30}}
	w := newWalker(kind("coyote"), in)
	w.dry = true
	for range 200 {
		w.place(140, 90, 0, 1)
		w.place(110, -90, 0, 1)
	}
	for i, f := range w.feet {
		if at := in.Dry[1-i%2]; !f.dry || math.Hypot(f.x-at.XMm, f.y-at.YMm) > math.Sqrt2*at.RMm {
			t.Fatalf("foot %d is at (%g, %g)", i, f.x, f.y)
		}
	}
	in.Dry, in.Guides = nil, []Guide{{XMm: 10, YMm: 200, RMm: 40}}
	w = newWalker(kind("coyote"), in)
	w.settle(foot{x: 10, y: 200})
	w.settle(foot{x: 10, y: 180})
	clear := 40 + kind("coyote").PadRadiusMm()
	for i, want := range []float64{200 + clear, 200 - clear} {
		if f := w.feet[i]; math.Abs(f.x-10) > 1e-9 || math.Abs(f.y-want) > 1e-9 {
			t.Errorf("off the stone foot %d comes down at (%g, %g), want y %g", i, f.x, f.y, want)
		}
	}
}
