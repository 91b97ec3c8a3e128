package demo

import (
	"math"
	"math/rand/v2"
	"time"

	"oldburrow/core/round"
	"oldburrow/core/weather"
)

// spell is a stretch of the season's weather: the mean temperature by day's end, °C, and how far day and night swing.
type spell struct {
	from        time.Time
	meanC, half float64
}

func spells() []spell {
	return []spell{
		{at(time.September, 1, 0, 0), 11, 8}, {at(time.October, 15, 0, 0), 6, 7}, {at(time.October, 30, 0, 0), 3, 6}, {at(time.November, 11, 0, 0), -2, 3},
		{at(time.November, 16, 0, 0), 5, 4}, {at(time.November, 19, 0, 0), 3, 1.5}, {at(time.November, 21, 0, 0), -3, 5},
		{at(time.November, 25, 0, 0), -1, 5}, {at(time.December, 1, 0, 0), -7, 5.5}, {at(time.December, 9, 0, 0), -4, 5},
	}
}

// falls of the season: when, for how many hours, and how much an hour (snow cm, rain mm).
var falls = []struct {
	from       time.Time
	hours      float64
	snow, rain float64
}{
	{at(time.November, 12, 13, 0), 8, 1.1, 0},
	{at(time.November, 20, 5, 0), 11, 0, 0.9},
	{at(time.December, 6, 20, 0), 6, 0.6, 0},
}

// Hour is the made-up weather of any hour: it is the same on every machine.
func Hour(t time.Time) weather.Hour {
	zone, err := round.Zone(Zone)
	if err != nil {
		panic(err) // the zone data is built in
	}
	t = t.Truncate(time.Hour)
	local := t.In(zone)
	rng := rand.New(rand.NewPCG(uint64(t.Unix()/3600), 77))
	clock := float64(local.Hour())
	h := weather.Hour{At: t.UTC(), TempC: meanAt(local) + halfAt(local)*math.Cos((clock-15)/24*2*math.Pi) + rng.NormFloat64()*.4}
	night := clock < 8 || clock >= 17
	if night { // cold air drains down the breaks
		h.WindFromDeg, h.WindMs = 247+rng.NormFloat64()*16, 2.2+rng.Float64()*2.2
	} else {
		h.WindFromDeg, h.WindMs = 290+rng.NormFloat64()*40, 3+rng.Float64()*4
	}
	if calm := rand.New(rand.NewPCG(uint64(t.Unix()/86400), 5)); night && calm.Float64() < .12 {
		h.WindMs = rng.Float64() * .6
	}
	h.WindFromDeg = math.Mod(h.WindFromDeg+360, 360)
	for _, f := range falls {
		if !t.Before(f.from) && t.Before(f.from.Add(time.Duration(f.hours)*time.Hour)) {
			h.SnowCm, h.RainMm = f.snow, f.rain
			h.TempC = math.Min(h.TempC, map[bool]float64{true: -1, false: 4}[f.snow > 0])
		}
	}
	h.SnowDepthCm = math.Max(0, snowAt(t))
	h.TempC = math.Round(h.TempC*10) / 10
	return h
}

// meanAt goes evenly from one spell to the next over a day.
func meanAt(t time.Time) float64 { return blend(t, func(s spell) float64 { return s.meanC }) }
func halfAt(t time.Time) float64 { return blend(t, func(s spell) float64 { return s.half }) }

func blend(t time.Time, of func(spell) float64) float64 {
	all := spells()
	now, before := all[0], all[0]
	for _, s := range all {
		if !t.Before(s.from) {
			before, now = now, s
		}
	}
	share := math.Min(1, t.Sub(now.from).Hours()/24)
	return of(before) + share*(of(now)-of(before))
}

// snowAt is the snow that lies: what fell, settling by a tenth a day and gone in the thaw.
func snowAt(t time.Time) float64 {
	depth := 0.0
	for _, f := range falls {
		if f.snow == 0 || t.Before(f.from) {
			continue
		}
		fell := math.Min(f.hours, t.Sub(f.from).Hours()+1) * f.snow
		days := t.Sub(f.from).Hours() / 24
		depth += fell * math.Pow(.93, days)
	}
	thaw := at(time.November, 16, 12, 0)
	if t.After(thaw) && t.Before(at(time.December, 6, 0, 0)) {
		depth -= t.Sub(thaw).Hours() / 24 * 3.2
	}
	return depth
}
