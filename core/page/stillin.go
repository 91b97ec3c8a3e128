package page

import (
	"oldburrow/core/line"
	"oldburrow/core/outlook"
	"oldburrow/core/tally"
)

// StillNow is what is still in the ground at a set that was pulled. Due: what is frozen in can be tried today, since no frost is left there, or, where
// the frost is not known, since another week is over.
type StillNow struct {
	line.StillIn
	Due bool `json:"due"`
}

// stillIn is what pulls have left at the sets of the line until now.
func (r Reading) stillIn(rec line.Record) ([]line.StillIn, error) {
	before, err := r.StillInBefore(r.Of.ID, rec.Span.From)
	return rec.StillIn(before), err
}

// stillNow is the same, and what of it is due.
func (r Reading) stillNow(rec line.Record) ([]StillNow, error) {
	left, err := r.stillIn(rec)
	if err != nil || len(left) == 0 {
		return []StillNow{}, err
	}
	drawn, err := r.outlookLine()
	if err != nil {
		return nil, err
	}
	frosts := map[string]outlook.Spot{}
	for _, f := range drawn.Frosts() {
		frosts[f.SpotID] = f
	}
	found := make([]StillNow, len(left))
	for i, x := range left {
		found[i] = StillNow{x, x.Frozen() && r.canTry(x, frosts[x.SpotID])}
	}
	return found, nil
}

// triedEvery is after how many days what is frozen in is tried again where nobody knows the frost.
const triedEvery = 7

func (r Reading) canTry(x line.StillIn, frost outlook.Spot) bool {
	if frost.Known || frost.Probed {
		return frost.DepthMm == 0
	}
	days := tally.Nights(x.Since, r.Now, r.Zone)
	return days > 0 && days%triedEvery == 0
}
