package line

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
