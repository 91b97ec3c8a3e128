package shed

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"oldburrow/core/gauge"
	"oldburrow/core/line"
)

// TrapVersion is a trap as it was from a time on. Nothing that was noted of a trap is overwritten.
type TrapVersion struct {
	At   time.Time `json:"at"`
	Trap line.Trap `json:"trap"`
}

// Change is one thing of a trap that was changed; lengths are in mm and weights in g, written out.
type Change struct {
	Field  string `json:"field"`
	Before string `json:"before"`
	After  string `json:"after"`
}

// EventKind is what happened to a trap.
type EventKind string

// Kinds of events in a trap's history.
const (
	Added    EventKind = "added"
	Changed  EventKind = "changed"
	Checked  EventKind = "checked"
	Measured EventKind = "measured"
	Built    EventKind = "built"
	Pulled   EventKind = "pulled"
	Found    EventKind = "found" // a look found something at its set other than quiet
)

// EventKinds lists them.
var EventKinds = []EventKind{Added, Changed, Checked, Measured, Built, Pulled, Found}

// Event is one thing that happened to a trap.
type Event struct {
	At          time.Time         `json:"at"`
	Kind        EventKind         `json:"kind"`
	Changes     []Change          `json:"changes,omitempty"`
	Check       *line.ShedCheck   `json:"check,omitempty"`
	Measurement *line.Measurement `json:"measurement,omitempty"`
	MeanN       float64           `json:"meanN,omitempty"` // what its presses came to
	SetID       string            `json:"setId,omitempty"`
	Number      int               `json:"number,omitempty"`
	SpotID      string            `json:"spotId,omitempty"`
	Finding     line.Finding      `json:"finding,omitempty"`
	Who         string            `json:"who,omitempty"` // did it; blank for the owner, and for whoever is at the table
}

// History is everything that was noted of a trap, over all seasons: its versions, checks and measurements in order of time, and
// what was done at the sets that it was in.
type History struct {
	Record       line.Record
	Versions     []TrapVersion
	Checks       []line.ShedCheck
	Measurements []line.Measurement
}

// Story tells everything that happened to a trap, the newest first: every change, check and measurement, where it has been
// and what was found there.
func (h History) Story(trapID string) ([]Event, error) {
	events := []Event{}
	for i, v := range h.Versions {
		if i == 0 {
			events = append(events, Event{At: v.At, Kind: Added})
			continue
		}
		changes, err := changes(h.Versions[i-1].Trap, v.Trap)
		if err != nil {
			return nil, err
		}
		if len(changes) > 0 {
			events = append(events, Event{At: v.At, Kind: Changed, Changes: changes})
		}
	}
	for _, check := range h.Checks {
		events = append(events, Event{At: check.At, Kind: Checked, Check: &check, Who: check.Who})
	}
	for _, m := range h.Measurements {
		came, err := gauge.Measure(m.Presses, m.Factor)
		if err != nil {
			return nil, err
		}
		events = append(events, Event{At: m.At, Kind: Measured, Measurement: &m, MeanN: came.MeanN, Who: m.Who})
	}
	events = append(events, stays(h.Record, trapID)...)
	slices.SortStableFunc(events, func(a, b Event) int { return b.At.Compare(a.At) })
	return events, nil
}

// stays are the sets that a trap was in. Being remade in the same set is one stay.
func stays(r line.Record, trapID string) []Event {
	var events []Event
	makes := r.With(trapID)
	for i, made := range makes {
		set := r.Set(made.SetID)
		at := Event{SetID: set.ID, Number: set.Number, SpotID: set.SpotID}
		add := func(when time.Time, kind EventKind, finding line.Finding, who string) {
			at.At, at.Kind, at.Finding, at.Who = when, kind, finding, who
			events = append(events, at)
		}
		if !slices.ContainsFunc(makes[:i], func(before line.Make) bool { return stayed(made, before, trapID) }) {
			add(made.BuiltAt, Built, "", made.Who)
		}
		for _, look := range r.Looks(made.ID) {
			if found := foundWith(made, look, trapID); found != line.FoundQuiet {
				add(look.At, Found, found, look.Who)
			}
		}
		remade := slices.ContainsFunc(makes[i+1:], func(next line.Make) bool { return stayed(next, made, trapID) })
		if made.PulledAt != nil && !remade {
			add(*made.PulledAt, Pulled, "", made.PulledBy)
		}
	}
	return events
}

// changes compares two versions of a trap, field by field as they are written.
func changes(before, after line.Trap) ([]Change, error) {
	was, err := fields(before)
	if err != nil {
		return nil, err
	}
	is, err := fields(after)
	if err != nil {
		return nil, err
	}
	found := []Change{}
	for field, value := range is {
		if field != "version" && written(field, was[field]) != written(field, value) {
			found = append(found, Change{field, written(field, was[field]), written(field, value)})
		}
	}
	slices.SortFunc(found, func(a, b Change) int { return strings.Compare(a.Field, b.Field) })
	return found, nil
}

func fields(t line.Trap) (map[string]any, error) {
	raw, err := json.Marshal(t)
	if err != nil {
		return nil, err
	}
	var found map[string]any
	return found, json.Unmarshal(raw, &found)
}

func written(field string, value any) string {
	switch v := value.(type) {
	case nil:
		return "not known"
	case bool:
		if v {
			return "yes"
		}
		return "no"
	case float64:
		unit := ""
		if strings.HasSuffix(field, "Mm") {
			unit = " mm"
		} else if strings.HasSuffix(field, "G") {
			unit = " g"
		}
		return fmt.Sprintf("%g%s", v, unit)
	case []any:
		words := make([]string, len(v))
		for i, one := range v {
			words[i] = fmt.Sprint(one)
		}
		return strings.Join(words, ", ")
	}
	return fmt.Sprint(value)
}
