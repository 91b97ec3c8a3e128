package line

import (
	"time"

	"oldburrow/core/odds"
)

// When a place has met a lure often, by the makes and the nights of a season; judgements of the trade.
const (
	oftenMakes  = 3
	oftenNights = 30
)

// LureAt tells how a lure stands to a spot in the record: met where it was set there often this season, new where it was not set there, blank
// between.
func (r Record) LureAt(spotID, lureID string) string {
	var met exposure
	for _, m := range r.Makes {
		if r.sets[m.SetID].SpotID == spotID && m.smellsOf(lureID) {
			met = met.and(m, r.Now)
		}
	}
	switch {
	case met.often():
		return odds.LuresMet
	case met.makes > 0:
		return ""
	}
	return odds.LuresNew
}

// exposure is how much of something a place has met: in how many makes, over how many nights.
type exposure struct {
	makes  int
	nights float64
}

func (e exposure) and(m Make, now time.Time) exposure {
	if m.PulledAt != nil {
		now = *m.PulledAt
	}
	makes := 1
	if m.goesOn() && e.makes > 0 {
		makes = 0 // it is the same bed again
	}
	return exposure{e.makes + makes, e.nights + now.Sub(m.BuiltAt).Hours()/24}
}

func (e exposure) often() bool { return e.makes >= oftenMakes || e.nights >= oftenNights }

func (m Make) smellsOf(lureID string) bool {
	for _, smell := range m.Layout.Smells() {
		if smell.LureID == lureID {
			return true
		}
	}
	return false
}
