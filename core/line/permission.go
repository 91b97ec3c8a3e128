package line

import (
	"time"

	"oldburrow/core/odds"
	"oldburrow/core/tally"
)

// warnDays is from how many days before its end a permission is told of. A judgement.
const warnDays = 7

// Ending is a permission that ends soon, or has ended, while sets stand on its land: the property, its last day, whether that is over, and
// the sets.
type Ending struct {
	PropertyID string   `json:"propertyId"`
	Name       string   `json:"name"`
	Until      string   `json:"until"`
	Over       bool     `json:"over"`
	SetIDs     []string `json:"setIds"`
}

// Endings are the permissions that end soon or have ended where sets stand still, in the order of the properties.
func (r Record) Endings(properties []Property, spots []Spot) []Ending {
	found := []Ending{}
	today := r.Now.In(r.Zone).Format(time.DateOnly)
	warn := r.Now.In(r.Zone).AddDate(0, 0, warnDays).Format(time.DateOnly)
	for _, p := range properties {
		if p.Until == "" || p.Until > warn {
			continue
		}
		one := Ending{PropertyID: p.ID, Name: p.Name, Until: p.Until, Over: p.Until < today}
		for _, m := range r.Standing() {
			for _, s := range spots {
				if s.ID == r.sets[m.SetID].SpotID && s.PropertyID == p.ID {
					one.SetIDs = append(one.SetIDs, m.SetID)
				}
			}
		}
		if len(one.SetIDs) > 0 {
			found = append(found, one)
		}
	}
	return found
}

// NightsLeft is how many nights are left at a place and what ends them: the season's last day, or that of the permission where it comes
// before. What is over leaves the night that comes; more than anybody looks ahead end with nothing, and 0 are not known. Days are local.
func (r Record) NightsLeft(season, permission string) (nights int, to string) {
	for _, end := range []struct{ day, of string }{{season, odds.LeftToSeason}, {permission, odds.LeftToPermission}} {
		last, err := time.ParseInLocation(time.DateOnly, end.day, r.Zone)
		if err != nil {
			continue
		}
		if n := max(1, tally.Nights(r.Now, last.AddDate(0, 0, 1), r.Zone)); to == "" || n < nights {
			nights, to = n, end.of
		}
	}
	if nights >= odds.MostLeft() {
		return odds.MostLeft(), ""
	}
	return nights, to
}
