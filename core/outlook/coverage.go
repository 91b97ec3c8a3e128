package outlook

import (
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/scent"
	"oldburrow/core/weather"
)

// Coverage is the share of night hours in which the scent of a set at a spot lies across its travel way, by the record and tonight; nil
// where that is not known: the way is not, or the wind, or it swirls there.
func (l Line) Coverage(set layout.Layout, spotID string) (record, tonight *float64) {
	w := l.sky()
	for _, spot := range l.Spots {
		if spot.ID != spotID || spot.Swirls {
			continue
		}
		at := w.plane().At(ground.Fix{LatDeg: spot.LatDeg, LonDeg: spot.LonDeg})
		way := w.travelAt(at, spot, set.FacingDeg)
		if way == nil {
			return nil, nil
		}
		share := func(nights []weather.Night) *float64 {
			plumes := scent.Plumes(weather.Winds(nights), 0, 0)
			if len(plumes) == 0 {
				return nil
			}
			return new(shareOf(at, scent.Pieces(way), reachM(set), plumes))
		}
		record = share(w.recordOf(recordNights))
		if _, next := w.nights(w.Now); len(w.hours) > 0 {
			if night := weather.NightOf(w.hours, next[0], next[1]); night != nil {
				tonight = share([]weather.Night{*night})
			}
		}
	}
	return record, tonight
}

// reachM is how far a set is smelt.
func reachM(set layout.Layout) float64 {
	if set.Baited() {
		return baitScentM
	}
	return plainScentM
}
