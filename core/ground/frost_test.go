package ground

import (
	"errors"
	"math"
	"slices"
	"testing"

	"oldburrow/core/refuse"
)

func cold(n int) (means, snow []float64) {
	for range n {
		means, snow = append(means, -6), append(snow, 0)
	}
	return means, snow
}

func depth(t *testing.T, change func(*FrostInput)) float64 {
	t.Helper()
	in := FrostInput{Soil: "loam", Wetness: "moist", Surface: "grass"}
	in.DailyMeanC, in.SnowCm = cold(10)
	change(&in)
	out, err := Frost(in)
	if err != nil {
		t.Fatal(err)
	}
	return out.DepthMm
}

func TestWhatKeepsFrostOut(t *testing.T) {
	plain := depth(t, func(*FrostInput) {})
	for name, change := range map[string]func(*FrostInput){
		"litter": func(in *FrostInput) { in.Surface = "litter" },
		"water":  func(in *FrostInput) { in.Wetness = "wet" },
		"snow": func(in *FrostInput) {
			for i := range in.SnowCm {
				in.SnowCm[i] = 20
			}
		},
		"a thaw": func(in *FrostInput) { in.DailyMeanC[7], in.DailyMeanC[8] = 4, 5 },
		"muck":   func(in *FrostInput) { in.Soil = "muck" },
	} {
		if got := depth(t, change); got >= plain {
			t.Errorf("%s: %.0f mm, no less than %.0f", name, got, plain)
		}
	}
	if bare := depth(t, func(in *FrostInput) { in.Surface = "bare" }); bare <= plain {
		t.Errorf("bare ground freezes to %.0f mm, under grass to %.0f", bare, plain)
	}
	if warm := depth(t, func(in *FrostInput) { in.DailyMeanC, in.SnowCm = []float64{3, 4}, []float64{0, 0} }); warm != 0 {
		t.Errorf("warm days freeze %.0f mm", warm)
	}
}

func TestFrostRefusals(t *testing.T) {
	for field, change := range map[string]func(*FrostInput){
		"soil": func(in *FrostInput) { in.Soil = "gold" }, "wetness": func(in *FrostInput) { in.Wetness = "" },
		"surface": func(in *FrostInput) { in.Surface = "tin" }, "snowCm": func(in *FrostInput) { in.SnowCm = in.SnowCm[:3] },
		"dailyMeanC[2]": func(in *FrostInput) { in.DailyMeanC[2] = -400 }, "snowCm[1]": func(in *FrostInput) { in.SnowCm[1] = -1 },
	} {
		in := FrostInput{Soil: "loam", Wetness: "moist", Surface: "grass"}
		in.DailyMeanC, in.SnowCm = cold(10)
		change(&in)
		_, err := Frost(in)
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

func TestPlane(t *testing.T) {
	plane := PlaneAbout(Fix{LatDeg: 46.8, LonDeg: -105.3})
	for _, f := range []Fix{{46.8, -105.3}, {46.81, -105.29}, {46.75, -105.4}} {
		if back := plane.Fix(plane.At(f)); Metres(f, back) > .01 {
			t.Errorf("%+v came back as %+v", f, back)
		}
	}
	// A thousandth of a degree north is 111 m; east it is less by the cosine of the latitude.
	if at := plane.At(Fix{LatDeg: 46.801, LonDeg: -105.299}); math.Abs(at[1]-111.32) > .1 || math.Abs(at[0]-111.32*math.Cos(46.8*math.Pi/180)) > .1 {
		t.Errorf("a thousandth of a degree either way is %v m", at)
	}
	way := [][2]float64{{0, 0}, {10, 0}, {10, 10}, {20, 20}}
	for at, want := range map[[2]float64]float64{{5, 3}: 3, {-4, 3}: 5, {13, 5}: 3, {10, 10}: 0, {18, 12}: math.Sqrt(18), {23, 24}: 5, {9, 8}: 1} {
		if got := FromWay(at, way); math.Abs(got-want) > 1e-9 {
			t.Errorf("%v lies %g from the way, want %g", at, got, want)
		}
	}
	if got := FromWay([2]float64{4, 3}, [][2]float64{{0, 0}, {0, 8}}); got != 4 {
		t.Errorf("%g from one leg", got)
	}
	if got := FromWay([2]float64{3, 4}, [][2]float64{{0, 0}, {0, 0}}); got != 5 {
		t.Errorf("%g from a leg of no length", got)
	}
	if got := FromWay([2]float64{3, 4}, way[:1]); !math.IsInf(got, 1) {
		t.Errorf("%g from a way that is none", got)
	}
}

// Whichever corner a ring begins at and whichever way it runs.
func TestWithin(t *testing.T) {
	ring := [][2]float64{{0, 0}, {10, 0}, {10, 4}, {4, 4}, {4, 10}, {0, 14}}
	for at, want := range map[[2]float64]bool{{2, 2}: true, {9, 3}: true, {3, 9}: true, {1, 12}: true, {3, 12}: false, {6, 6}: false, {-1, 2}: false, {11, 2}: false, {5, -1}: false, {2, 15}: false} {
		for i := range ring {
			turned := slices.Concat(ring[i:], ring[:i])
			is := Within(at, turned)
			slices.Reverse(turned)
			if is != want || Within(at, turned) != want {
				t.Errorf("%v is within from corner %d on: %v, the other way round %v", at, i, is, Within(at, turned))
			}
		}
	}
}

// A way has two points at least: from one alone nothing lies near or far.
func TestFromWay(t *testing.T) {
	way := [][2]float64{{0, 0}, {10, 0}, {10, 10}}
	for n, want := range []float64{math.Inf(1), math.Inf(1), 5, 3} {
		if got := FromWay([2]float64{7, 5}, way[:n]); got != want {
			t.Errorf("from %d points: %g, want %g", n, got, want)
		}
	}
}

// The index at which the frost is as deep as that gives that depth.
func TestTheIndexOfADepth(t *testing.T) {
	for _, soil := range Soils {
		for _, depth := range []float64{20, 150, 700} {
			if back := DepthMm(soil, "moist", IndexAt(soil, "moist", depth)); math.Abs(back-depth) > 1e-6 {
				t.Errorf("%s: %g mm came back as %g", soil, depth, back)
			}
		}
	}
}

func TestEveryKindHasAForm(t *testing.T) {
	seen := map[FeatureKind]bool{}
	for _, k := range Kinds {
		if seen[k.Key] || k.Form != Point && k.Form != Line && k.Form != Area || k.Group == "" {
			t.Errorf("%+v", k)
		}
		seen[k.Key] = true
	}
	for _, s := range Soils {
		if _, ok := soils[s]; !ok {
			t.Errorf("%s has no frost figures", s)
		}
	}
}
