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
