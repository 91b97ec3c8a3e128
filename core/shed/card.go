package shed

import (
	"slices"
	"time"

	"oldburrow/core/line"
)

// Card is what a trap's whole history of changes and checks comes to: its last check and what was last said of each item, when
// its entry was last touched, when something that its pan's tension hangs on was last changed, when such a thing that had been
// broken was last found sound, and its newest two measurements in order of time.
type Card struct {
	CheckedAt *time.Time         `json:"checkedAt"`
	Items     []line.CheckItem   `json:"items"`
	EditedAt  *time.Time         `json:"editedAt"`
	ChangedAt *time.Time         `json:"changedAt"`
	MendedAt  *time.Time         `json:"mendedAt"`
	Measured  []line.Measurement `json:"measured"`
}

// CardOf writes the card of a trap from its versions, checks and measurements, each in order of time.
func CardOf(versions []TrapVersion, checks []line.ShedCheck, measurements []line.Measurement) Card {
	var c Card
	for _, m := range measurements {
		if m.UndoneAt == nil {
			c.Measured = append(c.Measured, m)
		}
	}
	c.Measured = c.Measured[max(0, len(c.Measured)-2):]
	for i, v := range versions {
		c.EditedAt = &versions[i].At
		if i > 0 && hardwareDiffers(versions[i-1].Trap, v.Trap) {
			c.ChangedAt = &versions[i].At
		}
	}
	latest := map[line.CheckKey]line.CheckItem{}
	for i, check := range checks {
		c.CheckedAt = &checks[i].At
		for _, item := range check.Items {
			before, said := latest[item.Key]
			if said && !before.Sound && item.Sound && slices.Contains(panHangsOn, item.Key) {
				c.MendedAt = &checks[i].At
			}
			latest[item.Key] = item
		}
	}
	for _, key := range line.CheckKeys {
		if item, ok := latest[key]; ok {
			c.Items = append(c.Items, item)
		}
	}
	return c
}

var panHangsOn = []line.CheckKey{"springs", "dog", "latch", "pan_level", "pan_square", "play"}

func hardwareDiffers(before, after line.Trap) bool {
	return before.Type != after.Type || before.JawSpreadMm != after.JawSpreadMm || before.PanDiameterMm != after.PanDiameterMm ||
		before.JawForm != "" && after.JawForm != "" && before.JawForm != after.JawForm ||
		differ(before.Offset, after.Offset) || differ(before.OffsetMm, after.OffsetMm) ||
		differ(before.Laminated, after.Laminated) || differ(before.Padded, after.Padded)
}

// differ tells whether two things that are known differ: to learn what a trap is like does not change it.
func differ[T comparable](before, after *T) bool {
	return before != nil && after != nil && *before != *after
}

func after(at *time.Time, than time.Time) bool { return at != nil && at.After(than) }
