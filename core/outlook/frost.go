package outlook

import (
	"math"
	"time"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/weather"
)

// freezing is how the frost at a spot stands after each day, as far as it is known.
type freezing struct {
	spot    line.Spot
	index   float64
	known   bool
	unknown int     // days in a row
	thawed  float64 // degree-days above zero since the depth was lost
	scale   float64 // by which a probe corrects what is computed
	probed  bool
}

// day goes on by one day.
func (f *freezing) day(d weather.Day) {
	f.scale = 1 + (f.scale-1)*math.Pow(.5, 1/halvingDays)
	if d.Hours < hoursOfDay {
		f.unknown++
		if f.unknown >= gapDays {
			f.known, f.thawed = false, 0
		}
		return
	}
	f.unknown = 0
	if f.known {
		f.index = ground.NextIndex(f.index, f.spot.Surface, d.MeanC, d.SnowCm)
		return
	}
	f.thawed += math.Max(0, d.MeanC)
	if f.thawed >= thawCDays {
		f.known, f.index, f.scale, f.probed = true, 0, 1, false
	}
}

// probe takes what a probe read in the morning.
func (f *freezing) probe(depthMm float64) {
	f.probed = true
	if computed := ground.DepthMm(f.spot.Soil, f.spot.Wetness, f.index); f.known && computed > 0 {
		f.scale = depthMm / computed
		return
	}
	f.known, f.unknown, f.scale = true, 0, 1
	f.index = ground.IndexAt(f.spot.Soil, f.spot.Wetness, depthMm)
}

func (f *freezing) depthMm() float64 {
	return f.scale * ground.DepthMm(f.spot.Soil, f.spot.Wetness, f.index)
}

// frost computes the frost at a spot day by day; a probe corrects what comes after it.
func (w *sky) frost(spot line.Spot, days []weather.Day) Spot {
	out := Spot{SpotID: spot.ID, Mornings: []Morning{}}
	spot = spot.Reckoned()
	if spot.Soil == "" || spot.Wetness == "" || spot.Surface == "" {
		out.Unsaid = true
		return out
	}
	f := freezing{spot: spot, known: true, scale: 1}
	today := w.Now.In(w.Zone).Format(time.DateOnly)
	for _, d := range days {
		// The depth on a morning is that after the day before.
		for _, r := range w.Readings {
			if r.Kind == line.FrostProbe && *r.SpotID == spot.ID && r.At.In(w.Zone).Format(time.DateOnly) == d.Date {
				f.probe(r.Value)
			}
		}
		switch {
		case d.Date == today:
			out.Known, out.Probed = f.known, f.probed
			if f.known {
				out.DepthMm = f.depthMm()
			}
		case d.Date > today && f.known && out.Known:
			out.Mornings = append(out.Mornings, Morning{Date: d.Date, DepthMm: f.depthMm()})
		}
		f.day(d)
	}
	return out
}
