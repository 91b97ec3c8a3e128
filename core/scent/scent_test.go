package scent

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"oldburrow/core/refuse"
)

var eastWest = [][2]float64{{-100, 0}, {100, 0}}

func TestScentLiesAcrossTheWay(t *testing.T) {
	for _, c := range []struct {
		name string
		at   [2]float64
		wind Wind
		want float64
	}{
		{"upwind of the way", [2]float64{0, 8}, Wind{FromDeg: 0, SpeedMs: 3}, 1},
		{"downwind of it", [2]float64{0, -8}, Wind{FromDeg: 0, SpeedMs: 3}, 0},
		{"too far off", [2]float64{0, 45}, Wind{FromDeg: 0, SpeedMs: 3}, 0},
		{"torn by strong wind", [2]float64{0, 30}, Wind{FromDeg: 0, SpeedMs: 9}, 0},
		{"still, close by", [2]float64{0, 8}, Wind{SpeedMs: 0.2}, 1},
		{"still, farther off", [2]float64{0, 15}, Wind{SpeedMs: 0.2}, 0},
		{"along the way, off it", [2]float64{0, 8}, Wind{FromDeg: 270, SpeedMs: 3}, 1},
		{"away from the way", [2]float64{0, 8}, Wind{FromDeg: 180, SpeedMs: 3}, 0},
	} {
		out, err := Coverage(Input{Attractor: c.at, Travel: eastWest, RangeM: 40, Wind: []Wind{c.wind}})
		if err != nil || out.Coverage != c.want {
			t.Errorf("%s: %v, %v", c.name, out.Coverage, err)
		}
	}
}

func TestWindow(t *testing.T) {
	for _, c := range []struct {
		h, from, to int
		want        bool
	}{{18, 17, 8, true}, {7, 17, 8, true}, {8, 17, 8, false}, {12, 17, 8, false}, {9, 8, 17, true}, {17, 8, 17, false}, {3, 5, 5, true}} {
		if InWindow(c.h, c.from, c.to) != c.want {
			t.Errorf("%d from %d to %d", c.h, c.from, c.to)
		}
	}
}

func TestRefusals(t *testing.T) {
	good := Input{Attractor: [2]float64{0, 8}, Travel: eastWest, RangeM: 40, Wind: []Wind{{FromDeg: 0, SpeedMs: 3, Hour: 4}}}
	for field, change := range map[string]func(*Input){
		"travel":          func(in *Input) { in.Travel = in.Travel[:1] },
		"rangeM":          func(in *Input) { in.RangeM = 0 },
		"wind":            func(in *Input) { in.FromHour, in.ToHour = 10, 12 },
		"wind[0].fromDeg": func(in *Input) { in.Wind = []Wind{{FromDeg: 400}} },
		"wind[0].speedMs": func(in *Input) { in.Wind = []Wind{{SpeedMs: -1}} },
		"attractor":       func(in *Input) { in.Attractor[0] = math.NaN() },
		"fromHour":        func(in *Input) { in.FromHour = 24 },
	} {
		in := good
		change(&in)
		_, err := Coverage(in)
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// night winds: mostly from west-south-west, as down a valley, some from elsewhere.
func nightWinds(hours int) []Wind {
	rng := rand.New(rand.NewPCG(3, 9))
	winds := make([]Wind, hours)
	for i := range winds {
		winds[i] = Wind{FromDeg: math.Mod(247+rng.NormFloat64()*25+360, 360), SpeedMs: 1 + 5*rng.Float64(), Hour: i % 24}
		if rng.Float64() < .2 {
			winds[i].FromDeg = 360 * rng.Float64()
		}
	}
	return winds
}

func crooked(length float64) [][2]float64 {
	way := [][2]float64{{0, 0}}
	for x := 0.0; x < length; x += 50 {
		way = append(way, [2]float64{x + 50, 18 * math.Sin(x/90)})
	}
	return way
}

// The search must find what trying a grid ten times finer finds, within two in a hundred.
func TestSearchFindsTheBestOfAFinerGrid(t *testing.T) {
	plumes := Plumes(nightWinds(24*12), 17, 8)
	for _, near := range [][2]float64{{100, 0}, {260, 10}, {410, -5}} {
		way := crooked(600)
		s := Search{Travel: way, Near: near, AlongM: 40, RangeM: 40, Record: plumes}
		sides, err := Best(s)
		if err != nil || len(sides) != 2 {
			t.Fatalf("%d sides, %v", len(sides), err)
		}
		for _, side := range sides {
			finest := exhaustive(s, side.Left)
			if side.Record < finest-.02 {
				t.Errorf("near %v, left %v: found %.3f, a finer grid %.3f", near, side.Left, side.Record, finest)
			}
			got := Share(side.At, Pieces(way), s.RangeM, plumes)
			if math.Abs(got-side.Record) > 1e-9 {
				t.Errorf("says %.3f, is %.3f", side.Record, got)
			}
			if f := foot(side); nearest(f, way) > .6 {
				t.Errorf("faces %.0f°, which is not at the way", side.FacingDeg)
			}
		}
	}
}

// exhaustive tries every tenth of a metre along and off the way.
func exhaustive(s Search, left bool) float64 {
	pieces := Pieces(s.Travel)
	best := 0.0
	for i := range pieces {
		if math.Hypot(pieces[i][0]-s.Near[0], pieces[i][1]-s.Near[1]) > s.AlongM {
			continue
		}
		dx, dy := direction(pieces, i)
		sign := -1.0
		if left {
			sign = 1
		}
		for off := 1.5; off <= 15; off += .15 {
			best = math.Max(best, Share([2]float64{pieces[i][0] - dy*sign*off, pieces[i][1] + dx*sign*off}, pieces, s.RangeM, s.Record))
		}
	}
	return best
}

func nearest(at [2]float64, way [][2]float64) float64 {
	least := math.Inf(1)
	for _, p := range Pieces(way) {
		least = math.Min(least, math.Hypot(p[0]-at[0], p[1]-at[1]))
	}
	return least
}

func TestSearchTakesTheUpwindSide(t *testing.T) {
	record := Plumes([]Wind{{FromDeg: 10, SpeedMs: 3}, {FromDeg: 350, SpeedMs: 2}}, 0, 0)
	sides, err := Best(Search{Travel: eastWest, Near: [2]float64{0, 0}, AlongM: 30, RangeM: 40, Record: record})
	if err != nil {
		t.Fatal(err)
	}
	north, south := sides[0], sides[1]
	if north.At[1] < 0 {
		north, south = south, north
	}
	if north.Record != 1 || south.Record != 0 || math.Abs(north.FacingDeg-180) > 1 || north.OffM > 3 {
		t.Errorf("north %+v, south %+v", north, south)
	}
	if _, err := Best(Search{Travel: eastWest, Near: [2]float64{0, 0}, AlongM: 30, RangeM: 40}); err == nil {
		t.Error("a search without wind is answered")
	}
	if _, err := Best(Search{Travel: eastWest, Near: [2]float64{0, 900}, AlongM: 30, RangeM: 40, Record: record}); err == nil {
		t.Error("a search far from the way is answered")
	}
}

func BenchmarkCoverageOfNinetyNights(b *testing.B) {
	in := Input{Attractor: [2]float64{1000, 8}, Travel: crooked(2000), RangeM: 40, Wind: nightWinds(90 * 24), FromHour: 17, ToHour: 8}
	for b.Loop() {
		if _, err := Coverage(in); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkPlacement(b *testing.B) {
	s := Search{Travel: crooked(2000), Near: [2]float64{1000, 0}, AlongM: 60, RangeM: 40, Record: Plumes(nightWinds(90*24), 17, 8)}
	for b.Loop() {
		if _, err := Best(s); err != nil {
			b.Fatal(err)
		}
	}
}
