package outlook

import (
	"slices"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/scent"
	"oldburrow/core/weather"
)

// Coverage is the share of night hours in which the scent of a set at a spot lies across its travel way, by the record and tonight; nil
// where that is not known: the way is not, or the wind, or it swirls there. A set with a place of its own is smelt from there. Facings is the record's for a set that faced otherwise, where
// its facing says on which side of the way it lies.
func (l Line) Coverage(set layout.Layout, spotID string) (record, tonight *float64, facings []odds.Facing) {
	w := l.sky()
	i := slices.IndexFunc(l.Spots, func(s line.Spot) bool { return s.ID == spotID })
	if i < 0 || l.Spots[i].Swirls {
		return nil, nil, nil
	}
	spot := l.Spots[i]
	at := w.plane().At(spot.PlaceOf(set))
	across := func(facingDeg *float64, nights []weather.Night) *float64 {
		plumes := scent.Plumes(weather.Winds(nights), 0, 0)
		way := w.travelAt(at, spot, facingDeg)
		if way == nil || len(plumes) == 0 {
			return nil
		}
		return new(shareOf(at, scent.Pieces(way), reachM(set), plumes))
	}
	nights := w.recordOf(recordNights)
	record = across(set.FacingDeg, nights)
	if _, next := w.nights(w.Now); len(w.hours) > 0 {
		if night := weather.NightOf(w.hours, next[0], next[1]); night != nil {
			tonight = across(set.FacingDeg, []weather.Night{*night})
		}
	}
	if _, off := w.nearestWay(at); off > passesM && record != nil {
		for deg := 0.0; deg < 360; deg += 45 {
			facings = append(facings, odds.Facing{FacingDeg: deg, Coverage: *across(&deg, nights)})
		}
	}
	return record, tonight, facings
}

// WeekC is the mean of the seven days before now, °C; nil where most of their hours are not known.
func (l Line) WeekC() *float64 {
	sum, n := 0.0, 0
	for _, h := range l.sky().hours {
		if ago := l.Now.Sub(h.At); ago >= 0 && ago < 7*24*time.Hour {
			sum, n = sum+h.TempC, n+1
		}
	}
	if n < 7*12 {
		return nil
	}
	return new(sum / float64(n))
}

// reachM is how far a set is smelt.
func reachM(set layout.Layout) float64 {
	if set.Baited() {
		return baitScentM
	}
	return plainScentM
}
