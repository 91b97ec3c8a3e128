package outlook

import (
	"testing"
	"time"

	"oldburrow/core/bed"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/weather"
)

// rained is a line with one set in wet clay, two days of rain behind it and a hard night to come.
func rained(t *testing.T) (Line, Standing) {
	t.Helper()
	built := time.Date(2026, time.December, 1, 12, 0, 0, 0, time.UTC)
	made := line.Make{ID: "M", SetID: "S", Layout: someLine(t).Standing[0].Make.Layout, BuiltAt: built}
	made.Layout.Rigs[0].Cover = []layout.Layer{{Material: "peat", ThicknessMm: 6}}
	standing := Standing{Set: line.Set{ID: "S", SpotID: "P"}, Make: made}
	l := Line{
		Now: built.AddDate(0, 0, 3), Zone: time.UTC, Standing: []Standing{standing},
		Spots: []line.Spot{{ID: "P", Soil: "soft_clay", Wetness: "wet", Surface: "grass"}},
	}
	for hour := range 96 {
		h := weather.Hour{At: built.Add(time.Duration(hour) * time.Hour), TempC: 4}
		if hour < 60 {
			h.RainMm = 1
		}
		if hour > 72 {
			h.TempC = -12
		}
		if h.At.After(l.Now) {
			l.Expected = append(l.Expected, h)
		} else {
			l.Observed = append(l.Observed, h)
		}
	}
	return l, standing
}

func theBed(t *testing.T, l Line) BedNow {
	t.Helper()
	found, err := Of(l)
	if err != nil || len(found.Sets) != 1 || len(found.Sets[0].Beds) != 1 {
		t.Fatalf("%+v, %v", found.Sets, err)
	}
	return found.Sets[0].Beds[0]
}

// Rain stands in a bed until it is bailed; what is put in keeps it open; how it felt goes before what was computed.
func TestRainStandsInABed(t *testing.T) {
	l, _ := rained(t)
	wet := theBed(t, l)
	if wet.Word != bed.WillLock || wet.WaterMm < 8 || wet.RenewG != 0 {
		t.Errorf("after the rain: %+v", wet)
	}
	look := func(change func(*line.Visit)) BedNow {
		at := line.Visit{ID: "V", MakeID: "M", At: l.Now.Add(-time.Hour)}
		change(&at)
		l.Standing[0].Looks = []line.Visit{at}
		return theBed(t, l)
	}
	if dry := look(func(v *line.Visit) { v.Bailed = true }); dry.Word != bed.Sound || dry.WaterMm != 0 {
		t.Errorf("bailed: %+v", dry)
	}
	little := look(func(v *line.Visit) { v.AgentG = new(20.0) })
	if little.Word != bed.WillLock || little.RenewG <= 0 || little.Agent != "salt" || little.WaterMm != wet.WaterMm {
		t.Errorf("with a little salt: %+v", little)
	}
	if enough := look(func(v *line.Visit) { v.AgentG = new(21 + little.RenewG) }); enough.Word != bed.Bail || enough.FreezesAtC > -14 {
		t.Errorf("with as much as it says: %+v", enough)
	}
	if felt := look(func(v *line.Visit) { v.Bed = "dry" }); felt.WaterMm != 0 || felt.Felt != "dry" {
		t.Errorf("felt dry: %+v", felt)
	}
	if felt, wet := look(func(v *line.Visit) { v.Bed = "flooded" }), look(func(v *line.Visit) { v.Bed = "wet" }); felt.WaterMm != wet.WaterMm || felt.Felt != "flooded" {
		t.Errorf("flooded: %+v, wet: %+v", felt, wet)
	}
	if felt := look(func(v *line.Visit) { v.Bed = "frozen" }); felt.WaterMm != wet.WaterMm {
		t.Errorf("a frozen bed says nothing of its water: %+v", felt)
	}
	l.Standing[0].Make.Layout.Rigs[0].Cover[0].Material = "waxed_soil"
	for i := range l.Observed {
		l.Observed[i].RainMm = 0
	}
	if felt := look(func(v *line.Visit) { v.Bed = "rocks" }); felt.Word != bed.Rocks {
		t.Errorf("it rocks in open ground: %+v", felt)
	}
	l.Readings = []line.Reading{{Kind: line.FrostProbe, SpotID: &l.Spots[0].ID, At: l.Now.Add(-time.Hour), Value: 80}}
	if felt := look(func(v *line.Visit) { v.Bed = "rocks" }); felt.Word != bed.Sound {
		t.Errorf("it rocks in frozen ground, where that is accepted: %+v", felt)
	}
	if felt := look(func(v *line.Visit) { v.Bed = "crusted" }); felt.Word != bed.Crusted {
		t.Errorf("crusted: %+v", felt)
	}
	l.Spots[0].Soil = ""
	if found, err := Of(l); err != nil || len(found.Sets[0].Beds) != 0 {
		t.Errorf("in no soil: %+v, %v", found.Sets, err)
	}
}

// An anchor that the frost of the coming mornings takes is told with the day before.
func TestWhenAnAnchorFreezesIn(t *testing.T) {
	s := Spot{Mornings: []Morning{{"2026-12-05", 30}, {"2026-12-06", 49}, {"2026-12-07", 58}}}
	if got := freezesIn(s); got != "2026-12-06" {
		t.Errorf("out by %s", got)
	}
	s.Mornings = s.Mornings[:2]
	if got := freezesIn(s); got != "" {
		t.Errorf("out by %s", got)
	}
}

// A day without weather is no dry day: a bed that asks for nothing by the others is not known, until somebody feels it. One that wants
// bailing wants it all the same.
func TestADayWithoutWeatherIsNoDryDay(t *testing.T) {
	l, _ := rained(t)
	keep := l.Observed
	l.Observed, l.Expected = nil, nil
	for _, h := range keep {
		if h.RainMm = 0; h.At.Day() != 2 {
			l.Observed = append(l.Observed, h)
		}
	}
	if got := theBed(t, l); got.Word != bed.NotKnown || got.Missing != 1 {
		t.Errorf("without its second day: %+v", got)
	}
	l.Standing[0].Looks = []line.Visit{{ID: "V", MakeID: "M", At: l.Now.Add(-time.Hour), Seen: line.Seen{Bed: "dry"}}}
	if got := theBed(t, l); got.Word == bed.NotKnown || got.Missing != 0 {
		t.Errorf("felt dry since: %+v", got)
	}
	l.Standing[0].Looks = nil
	l.Observed = keep[:30]
	if got := theBed(t, l); got.Word != bed.Bail && got.Word != bed.WillLock || got.Missing == 0 {
		t.Errorf("rained on the first day, then nothing known: %+v", got)
	}
	// What was felt of it once is past when somebody has had a hand in it.
	l, _ = rained(t)
	crusted := line.Visit{ID: "V", MakeID: "M", At: l.Now.Add(-3 * time.Hour), Seen: line.Seen{Bed: line.FeltCrusted}}
	bailed := line.Visit{ID: "W", MakeID: "M", At: l.Now.Add(-time.Hour), Seen: line.Seen{Bailed: true}}
	l.Standing[0].Looks = []line.Visit{crusted, bailed}
	if got := theBed(t, l); got.Felt != "" {
		t.Errorf("bailed since it was crusted: %+v", got)
	}
}

// Water is told by the hour: rain from before the bed was made is not in it, rain of this morning is, and half a day of hours that lack
// is half a day, not a dry one.
func TestWaterIsToldByTheHour(t *testing.T) {
	l, _ := rained(t)
	built := l.Standing[0].Make.BuiltAt
	rains := func(at time.Time) float64 {
		l, _ := rained(t)
		before := []weather.Hour{}
		for hour := range 12 {
			before = append(before, weather.Hour{At: built.Add(time.Duration(hour-12) * time.Hour), TempC: 4})
		}
		l.Observed = append(before, l.Observed...)
		for i := range l.Observed {
			if l.Observed[i].RainMm = 0; l.Observed[i].At.Equal(at) {
				l.Observed[i].RainMm = 6
			}
		}
		return theBed(t, l).WaterMm
	}
	for at, wet := range map[time.Time]bool{built.Add(-time.Hour): false, l.Now.Add(-time.Hour): true, l.Now.Add(-11 * time.Hour): true} {
		if got := rains(at); got > 0 != wet {
			t.Errorf("rain at %v, with the bed made at %v: %.1f mm now", at, built, got)
		}
	}
	keep := l.Observed
	for n, missing := range map[int]int{4: 0, 14: 1, 40: 2} {
		l.Observed = keep[:len(keep)-n]
		if got := theBed(t, l); got.Missing != missing {
			t.Errorf("without its last %d hours: %d days missing", n, got.Missing)
		}
	}
}
