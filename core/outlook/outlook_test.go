package outlook

import (
	"math"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/schools"
	"oldburrow/core/weather"
)

var (
	denver, _ = time.LoadLocation("America/Denver")
	morning   = time.Date(2026, 12, 4, 5, 50, 0, 0, denver)
	middle    = ground.PlaneAbout(ground.Fix{LatDeg: 46.8, LonDeg: -105.3})
)

func spotAt(id string, east, north float64) line.Spot {
	f := middle.Fix([2]float64{east, north})
	return line.Spot{ID: id, LatDeg: f.LatDeg, LonDeg: f.LonDeg, TravelBearingDeg: &dueEast, Soil: "loam", Wetness: "moist", Surface: "grass"}
}

// hours of cold from a time to another, the wind from the north.
func hours(from, to time.Time, change func(*weather.Hour)) []weather.Hour {
	var all []weather.Hour
	for at := from; at.Before(to); at = at.Add(time.Hour) {
		h := weather.Hour{At: at.UTC(), TempC: -8, WindFromDeg: 0, WindMs: 3}
		change(&h)
		all = append(all, h)
	}
	return all
}

var dueEast = 90.0

// someLine has a travel way from west to east, a set ten metres north of it and one ten metres south.
func someLine(t *testing.T) Line {
	t.Helper()
	l, err := layout.New("hole", layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	way := line.Feature{Kind: "travel_way"}
	for _, x := range []float64{-300, 0, 300} {
		f := middle.Fix([2]float64{x, 0})
		way.Points = append(way.Points, [2]float64{f.LonDeg, f.LatDeg})
	}
	plain := func(*weather.Hour) {}
	o := Line{
		Line: line.Line{LatDeg: 46.8, LonDeg: -105.3}, Now: morning, Zone: denver,
		Spots:    []line.Spot{spotAt("north", 0, 10), spotAt("south", 100, -10), spotAt("far", 0, 900)},
		Features: []line.Feature{way, {Kind: "fence", Points: way.Points}},
		Observed: hours(morning.AddDate(0, 0, -12), morning, plain),
		Expected: hours(morning.Add(-2*time.Hour), morning.AddDate(0, 0, 3), plain),
	}
	for i, id := range []string{"north", "south", "far"} {
		o.Standing = append(o.Standing, Standing{Set: line.Set{ID: id, SpotID: id, Number: i + 1}, Make: line.Make{Layout: l}})
	}
	return o
}

func drawn(t *testing.T, o Line) Outlook {
	t.Helper()
	v, err := Of(o)
	if err != nil {
		t.Fatal(err)
	}
	return v
}

func TestNightsRunFromDuskToAnHourAfterSunrise(t *testing.T) {
	v := drawn(t, someLine(t))
	from, to := v.LastNight.From.In(denver), v.LastNight.To.In(denver)
	if from.Day() != 3 || from.Hour() != 16 || to.Day() != 4 || to.Hour() != 8 {
		t.Errorf("last night from %s to %s", from, to)
	}
	if v.Tonight == nil || v.Tonight.From.In(denver).Day() != 4 || v.Nights != 10 || v.NightWind[0] != 160 {
		t.Errorf("%d nights, wind %v", v.Nights, v.NightWind)
	}
}

func TestSetsStandUpwindOrNot(t *testing.T) {
	o := someLine(t)
	o.Spots[2].Swirls = true
	v := drawn(t, o)
	north, south, far := v.Sets[0], v.Sets[1], v.Sets[2]
	if north.Record != 1 || north.Tonight != 1 || south.Record != 0 {
		t.Errorf("north of the way %+v, south of it %+v", north, south)
	}
	if north.WrongSide || !south.WrongSide || far.WrongSide || !north.FrozenIn {
		t.Errorf("judged %+v, %+v, %+v", north, south, far)
	}
	if !far.Swirls || far.Way || !north.Way {
		t.Errorf("no way is known at the third: %+v", far)
	}
	// A set that is known to face its way has it in front of it, along the spot's bearing.
	for facing, want := range map[float64]float64{180: 1, 0: 0} {
		o.Standing[2].Make.Layout.FacingDeg = &facing
		if far := drawn(t, o).Sets[2]; !far.Way || far.Record != want {
			t.Errorf("facing %g°: %+v", facing, far)
		}
	}
	damp := o.Standing[0].Make.Layout.Rigs[0]
	damp.Cover = append([]layout.Layer{{Material: "damp_packed", ThicknessMm: 5}}, damp.Cover...)
	o.Standing[0].Make.Layout.Rigs = []layout.Rig{damp}
	if v := drawn(t, o); v.Sets[0].Locked != "frozen" || v.Sets[1].Locked != "" {
		t.Errorf("locked: %+v", v.Sets)
	}
}

func TestReadingsGoOverTheHours(t *testing.T) {
	o := someLine(t)
	before := drawn(t, o)
	id := "north"
	half := before.Spots[0].DepthMm / 2
	o.Readings = []line.Reading{{Kind: line.FrostProbe, SpotID: &id, At: morning, Value: half}, {Kind: line.WindShift, At: morning, Value: 180}}
	after := drawn(t, o)
	if math.Abs(after.Spots[0].DepthMm-half) > .01 || !after.Spots[0].Probed || after.Spots[1].Probed {
		t.Errorf("probed %.1f mm, says %+v", half, after.Spots[0])
	}
	for i, m := range after.Spots[0].Mornings {
		// Of its correction half is forgotten in fourteen days.
		scale := 1 - math.Pow(.5, 1+float64(i+1)/14)
		if math.Abs(m.DepthMm-before.Spots[0].Mornings[i].DepthMm*scale) > .01 {
			t.Errorf("%s: %.1f mm, before the probe %.1f", m.Date, m.DepthMm, before.Spots[0].Mornings[i].DepthMm)
		}
	}
	if after.Sets[0].Tonight != 0 || after.Sets[1].Tonight != 1 || after.Sets[0].Record != 1 {
		t.Errorf("after the wind was shifted to the south: %+v", after.Sets)
	}
	if after.TonightBy[8] != len(after.Tonight.Hours) {
		t.Errorf("tonight's wind: %v", after.TonightBy)
	}
}

func TestNothingKnown(t *testing.T) {
	o := someLine(t)
	o.Observed, o.Expected = nil, nil
	if v := drawn(t, o); v.Known || v.LastNight != nil || len(v.Spots)+len(v.Sets) != 0 {
		t.Errorf("%+v", v)
	}
	if _, err := Place(o, Question{LatDeg: 46.8, LonDeg: -105.3, Class: "gland"}); err == nil {
		t.Error("a place is found without a wind")
	}
	o = someLine(t)
	o.Expected = nil
	if v := drawn(t, o); v.Tonight != nil || v.Sets[0].Tonight != 0 || v.Sets[0].Record != 1 {
		t.Errorf("without a forecast: %+v", v.Sets[0])
	}
}

func TestPlace(t *testing.T) {
	found, err := Place(someLine(t), Question{LatDeg: 46.80003, LonDeg: -105.3003, Class: "bait"})
	if err != nil {
		t.Fatal(err)
	}
	best, far := found.Sides[0], found.Sides[1]
	if best.CompassDeg > 5 && best.CompassDeg < 355 || math.Abs(best.FacingDeg-180) > 5 || best.Record != 1 || best.Tonight != 1 || far.Record != 0 {
		t.Errorf("best %+v, far %+v", best, far)
	}
	if math.Abs(math.Mod(best.BearingDeg, 180)-90) > 5 {
		t.Errorf("the way runs %.0f°", best.BearingDeg)
	}
	for name, q := range map[string]Question{
		"an unknown class": {LatDeg: 46.8, LonDeg: -105.3, Class: "roses"}, "far from any way": {LatDeg: 46.81, LonDeg: -105.3, Class: "gland"},
	} {
		if _, err := Place(someLine(t), q); err == nil {
			t.Errorf("%s is answered", name)
		}
	}
}

func BenchmarkOutlook(b *testing.B) {
	o := Line{Line: line.Line{LatDeg: 46.8, LonDeg: -105.3}, Now: morning, Zone: denver, Observed: hours(morning.AddDate(0, 0, -90), morning, func(*weather.Hour) {})}
	for i := range 15 {
		o.Spots = append(o.Spots, spotAt(string(rune('a'+i)), float64(i)*50, 0))
	}
	for b.Loop() {
		if _, err := Of(o); err != nil {
			b.Fatal(err)
		}
	}
}

// After two days without weather the depth of frost is not known, until a probe reads it or it has thawed for certain; a winter's
// record and ten days of another autumn do not run into one another.
func TestFrostOverMissingDays(t *testing.T) {
	cold, warm := func(*weather.Hour) {}, func(h *weather.Hour) { h.TempC = 6 }
	depth := func(readings []line.Reading, parts ...[]weather.Hour) Spot {
		o := someLine(t)
		o.Observed, o.Expected, o.Readings = nil, nil, readings
		for _, part := range parts {
			o.Observed = append(o.Observed, part...)
		}
		return drawn(t, o).Spots[0]
	}
	span := func(from, to int, change func(*weather.Hour)) []weather.Hour { // days before the morning
		return hours(time.Date(2026, 12, 4-from, 0, 0, 0, 0, denver), time.Date(2026, 12, 4-to, 0, 0, 0, 0, denver), change)
	}
	last := span(0, -1, cold)
	whole := depth(nil, span(30, 0, cold), last)
	if !whole.Known || whole.DepthMm < 100 {
		t.Fatalf("thirty cold days: %+v", whole)
	}
	if one := depth(nil, span(30, 10, cold), span(9, 0, cold), last); !one.Known || one.DepthMm >= whole.DepthMm || one.DepthMm < .9*whole.DepthMm {
		t.Errorf("one day is missing: %+v, whole %+v", one, whole)
	}
	if two := depth(nil, span(30, 10, cold), span(8, 0, cold), last); two.Known || two.DepthMm != 0 || len(two.Mornings) != 0 {
		t.Errorf("two days are missing: %+v", two)
	}
	id := "north"
	probe := []line.Reading{{Kind: line.FrostProbe, SpotID: &id, At: morning.AddDate(0, 0, -3), Value: 90}}
	if probed := depth(probe, span(30, 10, cold), span(8, 0, cold), last); !probed.Known || !probed.Probed || probed.DepthMm < 91 || probed.DepthMm > 140 {
		t.Errorf("probed three days ago: %+v", probed)
	}
	if thawed := depth(nil, span(60, 30, cold), span(20, 0, warm), last); !thawed.Known || thawed.DepthMm != 0 {
		t.Errorf("a winter's record, months of nothing and twenty warm days: %+v", thawed)
	}
	if early := depth(nil, span(60, 30, cold), span(4, 0, warm), last); early.Known {
		t.Errorf("four warm days tell it already: %+v", early)
	}
	// Half the hours of a day do not make it known.
	var nights []weather.Hour
	for _, h := range span(30, 0, cold) {
		if h.At.In(denver).Hour() < 12 {
			nights = append(nights, h)
		}
	}
	if half := depth(nil, nights, last); half.Known {
		t.Errorf("half of every day: %+v", half)
	}
}
