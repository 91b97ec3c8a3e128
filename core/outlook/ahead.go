package outlook

import (
	"cmp"
	"slices"
	"time"

	"oldburrow/core/ground"
	"oldburrow/core/line"
)

// Drawn is something that is drawn near a place: what it is, its name, blank where it has none, and how far off it lies, m.
type Drawn struct {
	Kind ground.FeatureKind `json:"kind"`
	Name string             `json:"name"`
	M    float64            `json:"m"`
}

// ThingsNear are what is drawn within so many metres of a spot, the nearest first.
func (l Line) ThingsNear(spot line.Spot, withinM float64) []Drawn {
	at := l.plane().At(ground.Fix{LatDeg: spot.LatDeg, LonDeg: spot.LonDeg})
	found := []Drawn{}
	for _, f := range l.Features {
		if off := l.off(at, f); f.Kind != "boundary" && off <= withinM {
			found = append(found, Drawn{f.Kind, f.Name, off})
		}
	}
	slices.SortStableFunc(found, func(a, b Drawn) int { return cmp.Compare(a.M, b.M) })
	return found
}

// Ahead is what the weather service expects of the nights to come: of how many it tells, on how many of them it rains, freezes and snows, and how much.
type Ahead struct {
	Nights int     `json:"nights"`
	Rain   int     `json:"rain"`
	RainMm float64 `json:"rainMm"`
	Frost  int     `json:"frost"`
	Snow   int     `json:"snow"`
	SnowCm float64 `json:"snowCm"`
}

// What of a night is said, and how far ahead anybody looks. Judgements.
const (
	nightsAhead = 3
	saidRainMm  = 1.0
	saidSnowCm  = 1.0
	mostOfNight = 6 // hours of it that must be known
)

// Ahead tells it; nil where nothing is known.
func (l Line) Ahead() *Ahead {
	found := Ahead{}
	y, m, d := l.Now.In(l.Zone).Date()
	for n := range nightsAhead {
		from := time.Date(y, m, d+n, 18, 0, 0, 0, l.Zone)
		hours, rain, snow, coldest := 0, 0.0, 0.0, 99.0
		for _, h := range l.Expected {
			if !h.At.Before(from) && h.At.Before(from.Add(14*time.Hour)) && h.At.After(l.Now) {
				hours, rain, snow, coldest = hours+1, rain+h.RainMm, snow+h.SnowCm, min(coldest, h.TempC)
			}
		}
		if hours < mostOfNight {
			continue
		}
		found.Nights++
		if rain >= saidRainMm {
			found.Rain, found.RainMm = found.Rain+1, found.RainMm+rain
		}
		if snow >= saidSnowCm {
			found.Snow, found.SnowCm = found.Snow+1, found.SnowCm+snow
		}
		if coldest < 0 {
			found.Frost++
		}
	}
	if found.Nights == 0 {
		return nil
	}
	return &found
}
