package layout

// Underfoot is how the ground is underfoot on the day that a set is made or looked at.
type Underfoot struct {
	Frozen bool `json:"frozen,omitempty"`
	Snow   bool `json:"snow,omitempty"`
}

// Frost that has to be chopped, and snow that has to be cleared: judgements of the trade.
const (
	frozenMm = 25.0
	snowyCm  = 3.0
)

// On is how the ground is under so much frost and snow; what is not known of them counts as none.
func On(frostMm, snowCm *float64) Underfoot {
	return Underfoot{Frozen: frostMm != nil && *frostMm >= frozenMm, Snow: snowCm != nil && *snowCm >= snowyCm}
}

// How much longer a set takes to build than in open ground. Habits of the trade.
const (
	frozenTakes = 3.0
	snowTakes   = 1.5
	bakedTakes  = 2.0
)

// Minutes is about how long the set takes to build on such a day; ground that is baked hard is said by its lie.
func (l Layout) Minutes(on Underfoot) float64 {
	minutes := patternOf(l.Pattern).Minutes
	if on.Frozen {
		minutes *= frozenTakes
	} else if l.Lie.Baked != nil && *l.Lie.Baked {
		minutes *= bakedTakes
	}
	if on.Snow {
		minutes *= snowTakes
	}
	return minutes
}
