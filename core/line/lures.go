package line

import "time"

// When a place has met a lure often, by the makes and the nights of a season; judgements of the trade.
const (
	oftenMakes  = 3
	oftenNights = 30
)

// LuresAt tells how lures, by their ids, stand to a spot in the record: "met" where one of them was set there often this season, "new"
// where none of them was set there, blank between, and where none is named.
func (r Record) LuresAt(spotID string, ids []string) string {
	if len(ids) == 0 {
		return ""
	}
	found := "new"
	for _, id := range ids {
		makes, nights := 0, 0.0
		for _, m := range r.Makes {
			if r.sets[m.SetID].SpotID != spotID || !m.smellsOf(id) {
				continue
			}
			end := r.Now
			if m.PulledAt != nil {
				end = *m.PulledAt
			}
			makes++
			nights += end.Sub(m.BuiltAt).Hours() / 24
		}
		switch {
		case makes >= oftenMakes || nights >= oftenNights:
			return "met"
		case makes > 0:
			found = ""
		}
	}
	return found
}

func (m Make) smellsOf(lureID string) bool {
	for _, smell := range m.Layout.Smells() {
		if smell.LureID == lureID {
			return true
		}
	}
	return false
}

// SignNear is how old the best sign of an animal is by a day, of those that count for a place: today, days_3, days_7 or older; "none"
// where somebody looked and the ground would have held a track; blank where nobody did.
func SignNear(signs []Sign, animal string, counts func(Sign) bool, now time.Time) string {
	found := ""
	for _, s := range signs {
		if s.Deleted || s.SeenAt.After(now) || !counts(s) {
			continue
		}
		age := signDays[s.Age] + now.Sub(s.SeenAt).Hours()/24
		switch {
		case s.What == "none":
			if s.Holds == "well" && age <= weekDays && found == "" {
				found = "none"
			}
		case s.Animal == animal:
			if is := agedTo(age); found == "" || found == "none" || rank[is] < rank[found] {
				found = is
			}
		}
	}
	return found
}

// Came is what came to the sets of a spot, by the record: each animal that a look named or a trap held, as sign of its day.
func (r Record) Came(spotID string) []Sign {
	var found []Sign
	came := func(animal string, at time.Time) {
		if animal != "" && animal != Unsure {
			found = append(found, Sign{SpotID: &spotID, What: "tracks", Animal: animal, Age: "last_night", SeenAt: at})
		}
	}
	for _, m := range r.Makes {
		if r.sets[m.SetID].SpotID != spotID {
			continue
		}
		for _, look := range r.looks[m.ID] {
			if look.UndoneAt != nil {
				continue
			}
			came(look.Animal, look.At)
			for _, also := range look.Also {
				came(also.Animal, look.At)
			}
			for _, c := range look.Catches {
				came(c.Species, look.At)
			}
		}
	}
	return found
}

// signDays is how old a sign of an age bracket is when it is seen, days.
var signDays = map[string]float64{"last_night": 0, "three_days": 2, "week": 5, "older": 14}

var rank = map[string]int{"today": 0, "days_3": 1, "days_7": 2, "older": 3}

const weekDays = 7

func agedTo(days float64) string {
	switch {
	case days <= 1:
		return "today"
	case days <= 3:
		return "days_3"
	case days <= weekDays:
		return "days_7"
	}
	return "older"
}

// HasCaught tells whether a make of a set has caught in the record.
func (r Record) HasCaught(setID string) bool {
	for _, m := range r.At(setID) {
		for _, look := range r.looks[m.ID] {
			if look.UndoneAt == nil && len(look.Catches) > 0 {
				return true
			}
		}
	}
	return false
}
