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
	a, ok := l.across(set, spotID)
	if !ok {
		return nil, nil, nil
	}
	nights := a.recordOf(recordNights)
	record, tonight = a.share(set.FacingDeg, nights), a.tonight()
	if _, off := a.nearestWay(a.at); off > passesM && record != nil {
		for deg := 0.0; deg < 360; deg += 45 {
			facings = append(facings, odds.Facing{FacingDeg: deg, Coverage: *a.share(&deg, nights)})
		}
	}
	return record, tonight, facings
}

// Covered is over which share of the hours of the night that began on the line's day the scent of a set lay across its way, as far as the wind of
// that night is known; else over that of the nights before it. Nil where that is not known either.
func (l Line) Covered(set layout.Layout, spotID string) *float64 {
	a, ok := l.across(set, spotID)
	if !ok || a.travelAt(a.at, a.spot, set.FacingDeg) == nil {
		return nil
	}
	if share := a.tonight(); share != nil {
		return share
	}
	return a.share(set.FacingDeg, a.recordOf(recordNights))
}

// across is how the scent of a set at a spot lies to the travel way there.
type across struct {
	*sky
	set  layout.Layout
	spot line.Spot
	at   [2]float64
}

// across is false where no wind tells of it.
func (l Line) across(set layout.Layout, spotID string) (across, bool) {
	i := slices.IndexFunc(l.Spots, func(s line.Spot) bool { return s.ID == spotID })
	if i < 0 || l.Spots[i].Swirls {
		return across{}, false
	}
	return across{l.sky(), set, l.Spots[i], l.plane().At(l.Spots[i].PlaceOf(set))}, true
}

// share is over which share of the hours of some nights it lies across the way, when the set faces so; nil where the way or the wind is not known.
func (a across) share(facingDeg *float64, nights []weather.Night) *float64 {
	plumes := scent.Plumes(weather.Winds(nights), 0, 0)
	way := a.travelAt(a.at, a.spot, facingDeg)
	if way == nil || len(plumes) == 0 {
		return nil
	}
	return new(shareOf(a.at, scent.Pieces(way), reachM(a.set), plumes))
}

func (a across) tonight() *float64 {
	if _, next := a.nights(a.Now); len(a.hours) > 0 {
		if night := weather.NightOf(a.hours, next[0], next[1]); night != nil {
			return a.share(a.set.FacingDeg, []weather.Night{*night})
		}
	}
	return nil
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
