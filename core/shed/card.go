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
	return Card{}.and(nil, versions, checks, measurements)
}

// and goes on with a card by what came after it. was is what the trap was until then; nil where it was not there.
func (c Card) and(was *line.Trap, versions []TrapVersion, checks []line.ShedCheck, measurements []line.Measurement) Card {
	c.Measured = slices.Clone(c.Measured)
	for _, m := range measurements {
		if m.UndoneAt == nil {
			c.Measured = append(c.Measured, m)
		}
	}
	c.Measured = c.Measured[max(0, len(c.Measured)-2):]
	for i, v := range versions {
		c.EditedAt = &versions[i].At
		if was != nil && hardwareDiffers(*was, v.Trap) {
			c.ChangedAt = &versions[i].At
		}
		was = &versions[i].Trap
	}
	latest := map[line.CheckKey]line.CheckItem{}
	for _, item := range c.Items {
		latest[item.Key] = item
	}
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
	c.Items = nil
	for _, key := range line.CheckKeys {
		if item, ok := latest[key]; ok {
			c.Items = append(c.Items, item)
		}
	}
	return c
}

// Story is what happened to a trap from a time on, each in order of time, what it was until then, and the card that it had: its card can be made
// out of that. What of the trap was taken back is among it.
type Story struct {
	Base         Card               `json:"base"`
	Was          *line.Trap         `json:"was"` // nil where it was not there
	Versions     []TrapVersion      `json:"versions"`
	Checks       []line.ShedCheck   `json:"checks"`
	Measurements []line.Measurement `json:"measurements"`
}

// StorySince cuts the whole story of a trap at a time.
func StorySince(from time.Time, versions []TrapVersion, checks []line.ShedCheck, measurements []line.Measurement) Story {
	v, c, m := 0, 0, 0
	for v < len(versions) && versions[v].At.Before(from) {
		v++
	}
	for c < len(checks) && checks[c].At.Before(from) {
		c++
	}
	for m < len(measurements) && measurements[m].At.Before(from) {
		m++
	}
	found := Story{CardOf(versions[:v], checks[:c], measurements[:m]), nil, versions[v:], checks[c:], measurements[m:]}
	if v > 0 {
		found.Was = &versions[v-1].Trap
	}
	return found
}

// Card is the card of the trap.
func (s Story) Card() Card { return s.Base.and(s.Was, s.Versions, s.Checks, s.Measurements) }

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
