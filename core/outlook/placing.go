package outlook

import (
	"oldburrow/core/ground"
	"oldburrow/core/refuse"
	"oldburrow/core/scent"
	"oldburrow/core/weather"
)

// Question asks where beside a travel way an attractor belongs: near a place, with a class of scent.
type Question struct {
	LatDeg float64 `json:"latDeg"`
	LonDeg float64 `json:"lonDeg"`
	Class  string  `json:"class"`
}

// Places is the best place on each side of the way, the better first; BearingDeg is the way's there.
type Places struct {
	Sides  []Side `json:"sides"`
	Nights int    `json:"nights"`
}

// Side is one side's best place. Compass says which side of the way it is, degrees from north.
type Side struct {
	ground.Fix
	CompassDeg float64 `json:"compassDeg"`
	FacingDeg  float64 `json:"facingDeg"`
	BearingDeg float64 `json:"bearingDeg"`
	OffM       float64 `json:"offM"`
	Record     float64 `json:"record"`
	Tonight    float64 `json:"tonight"`
}

// Place answers a question about a place by the night winds of the record and of tonight. It refuses an unknown class of
// scent, a point at no travel way, and a line of whose night wind nothing is known.
func Place(l Line, q Question) (Places, error) {
	reach, ok := scent.Ranges[q.Class]
	if !ok {
		return Places{}, refuse.Field("class", "%q is not a class of scent: choose gland, bait, curiosity, musk, call or urine", q.Class)
	}
	w := l.sky()
	at := w.plane().At(ground.Fix{LatDeg: q.LatDeg, LonDeg: q.LonDeg})
	way, off := w.nearestWay(at)
	if off > pointedM {
		return Places{}, refuse.Field("latDeg", "is not at a travel way: draw one, then point at it")
	}
	past := w.recordOf(recordNights)
	search := scent.Search{Travel: way, Near: at, AlongM: alongM, RangeM: reach, Record: scent.Plumes(weather.Winds(past), 0, 0)}
	if _, next := w.nights(w.Now); len(w.hours) > 0 {
		if night := weather.NightOf(w.hours, next[0], next[1]); night != nil {
			search.Tonight = scent.Plumes(weather.Winds([]weather.Night{*night}), 0, 0)
		}
	}
	sides, err := scent.Best(search)
	if err != nil {
		return Places{}, err
	}
	answer := Places{Nights: len(past), Sides: []Side{}}
	for _, side := range sides {
		one := Side{Fix: w.plane().Fix(side.At), FacingDeg: side.FacingDeg, OffM: side.OffM, Record: side.Record, Tonight: side.Tonight}
		one.CompassDeg = turned(side.FacingDeg, 180)
		one.BearingDeg = turned(side.FacingDeg, 90)
		answer.Sides = append(answer.Sides, one)
	}
	if len(answer.Sides) == 2 && answer.Sides[1].Record+answer.Sides[1].Tonight > answer.Sides[0].Record+answer.Sides[0].Tonight {
		answer.Sides[0], answer.Sides[1] = answer.Sides[1], answer.Sides[0]
	}
	return answer, nil
}
