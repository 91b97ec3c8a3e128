package outlook

import (
	"slices"
	"testing"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
)

// drawnAt is something drawn at points of the plane, m east and north of the line's middle.
func drawnAt(kind ground.FeatureKind, points ...[2]float64) line.Feature {
	f := line.Feature{Kind: kind}
	for _, p := range points {
		at := middle.Fix(p)
		f.Points = append(f.Points, [2]float64{at.LonDeg, at.LatDeg})
	}
	return f
}

// What lies about a set is read from the map and from the sign, about its own place where it has one; what was noted at its spot is there.
func TestSiteOf(t *testing.T) {
	o := someLine(t)
	here := middle.Fix([2]float64{0, 0})
	spot := line.Spot{ID: "here", LatDeg: here.LatDeg, LonDeg: here.LonDeg, Shy: true, Through: "few"}
	way := drawnAt("travel_way", [2]float64{-50, 3}, [2]float64{50, 3})
	way.WidthMm = 800
	o.Features = []line.Feature{
		way, drawnAt("culvert", [2]float64{4, 0}), drawnAt("culvert", [2]float64{40, 0}), drawnAt("stream", [2]float64{-30, 12}, [2]float64{30, 12}),
		drawnAt("pond", [2]float64{6, -30}, [2]float64{20, -30}, [2]float64{20, 30}, [2]float64{6, 30}), drawnAt("hay", [2]float64{0, 0}, [2]float64{1, 0}, [2]float64{0, 1}),
		drawnAt("cover", [2]float64{-60, -60}, [2]float64{-20, -60}, [2]float64{-20, 60}, [2]float64{-60, 60}),
	}
	scat := line.Sign{What: "scat", Animal: "coyote", LatDeg: here.LatDeg, LonDeg: here.LonDeg, SeenAt: o.Now.AddDate(0, 0, -1)}
	later := scat
	later.What, later.SeenAt = "fence_gap", o.Now.AddDate(0, 0, 1)
	near := func(l layout.Layout, s line.Spot) map[string]float64 {
		found := map[string]float64{}
		for _, n := range o.SiteOf(l, s, []line.Sign{scat, later}).Near {
			found[n.Key] = n.M
		}
		return found
	}
	found := near(layout.Layout{}, spot)
	for key, want := range map[string]float64{"culvert": 4, "stream": 12, "pond_edge": 6, "scat": 0} {
		if m, ok := found[key]; !ok || m < want-.05 || m > want+.05 {
			t.Errorf("%s lies %g m off (%v), want %g", key, m, ok, want)
		}
	}
	if _, ok := found["fence_gap"]; ok || len(found) != 4 {
		t.Errorf("what is not there yet, or not asked for: %v", found)
	}
	spot.There = []string{"ditch"}
	if m, ok := near(layout.Layout{}, spot)["ditch"]; !ok || m != 0 {
		t.Errorf("noted by hand: %g, %v", m, ok)
	}
	site := o.SiteOf(layout.Layout{}, spot, nil)
	if !site.Shy || site.Through != "few" || site.WayMm == nil || *site.WayMm != 800 || site.InCover == nil || *site.InCover || site.Day != o.Now.In(o.Zone).Format("2006-01-02") {
		t.Errorf("%+v", site)
	}
	spot.TravelWidthMm = new(450.0)
	if site := o.SiteOf(layout.Layout{}, spot, nil); *site.WayMm != 450 {
		t.Errorf("what the spot says of its way goes before what is drawn: %g", *site.WayMm)
	}
	for east, in := range map[float64]bool{-4: false, -6: true, -40: true, -76: false, -74: true} {
		at := middle.Fix([2]float64{east, 0})
		if site := o.SiteOf(layout.Layout{At: &at}, spot, nil); *site.InCover != in {
			t.Errorf("%g m east: in cover %v", east, *site.InCover)
		}
	}
	o.Features = o.Features[:2]
	if site := o.SiteOf(layout.Layout{}, spot, nil); site.InCover != nil {
		t.Error("known to stand in the open where no cover is drawn")
	}
	spot.There = append(spot.There, layout.Cover)
	if site := o.SiteOf(layout.Layout{}, spot, nil); site.InCover == nil || !*site.InCover {
		t.Error("said to stand in cover")
	}
}

// A point lies within a ring whichever way that is drawn round, and not beside it.
func TestWithinARing(t *testing.T) {
	ring := [][2]float64{{0, 0}, {10, 0}, {10, 10}, {5, 4}, {0, 10}}
	back := slices.Clone(ring)
	slices.Reverse(back)
	for at, in := range map[[2]float64]bool{{1, 1}: true, {5, 3}: true, {5, 6}: false, {9, 8}: true, {-1, 5}: false, {11, 5}: false, {5, -1}: false} {
		if ground.Within(at, ring) != in || ground.Within(at, back) != in {
			t.Errorf("%v within %v", at, !in)
		}
	}
}

// Today smells a standing set from where it stands: from its own place, where that was said.
func TestTodaySmellsASetFromItsOwnPlace(t *testing.T) {
	o := someLine(t)
	at := middle.Fix([2]float64{0, -10})
	o.Standing[0].Make.Layout.At = &at
	record, _, _ := o.Coverage(o.Standing[0].Make.Layout, o.Standing[0].Set.SpotID)
	found, err := Of(o)
	if err != nil || record == nil {
		t.Fatal(err, record)
	}
	for _, s := range found.Sets {
		if s.SetID == o.Standing[0].Set.ID && s.Record != *record {
			t.Errorf("today %g, the bench %g", s.Record, *record)
		}
	}
}

// A dwelling counts within a quarter of a mile, wherever it is drawn.
func TestDwelling(t *testing.T) {
	o := someLine(t)
	here := middle.Fix([2]float64{0, 0})
	for m, want := range map[float64]bool{10: true, 399: true, 401: false} {
		o.Features = []line.Feature{drawnAt("culvert", [2]float64{1, 0}), drawnAt("dwelling", [2]float64{0, m})}
		if got := o.Dwelling(here); got != want {
			t.Errorf("a dwelling %g m off: %v", m, got)
		}
	}
}
