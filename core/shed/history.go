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

// Kinds of events in a trap's history.
const (
	Added    = "added"
	Changed  = "changed"
	Checked  = "checked"
	Measured = "measured"
	Built    = "built"
	Pulled   = "pulled"
	Found    = "found" // a look found something at its set other than quiet
)

// Event is one thing that happened to a trap.
type Event struct {
	At          time.Time         `json:"at"`
	Kind        string            `json:"kind"`
	Changes     []Change          `json:"changes,omitempty"`
	Check       *line.ShedCheck   `json:"check,omitempty"`
	Measurement *line.Measurement `json:"measurement,omitempty"`
	MeanN       float64           `json:"meanN,omitempty"` // what its presses came to
	SetID       string            `json:"setId,omitempty"`
	Number      int               `json:"number,omitempty"`
	SpotID      string            `json:"spotId,omitempty"`
	Finding     string            `json:"finding,omitempty"`
}

// History tells everything that happened to a trap, the newest first: every change, check and measurement, where it has been
// and what was found there.
func (r Record) History(trapID string) ([]Event, error) {
	events := []Event{}
	var before *line.Trap
	for _, v := range r.TrapVersions {
		if v.Trap.ID != trapID {
			continue
		}
		if before == nil {
			events = append(events, Event{At: v.At, Kind: Added})
		} else if changes, err := changes(*before, v.Trap); err != nil {
			return nil, err
		} else if len(changes) > 0 {
			events = append(events, Event{At: v.At, Kind: Changed, Changes: changes})
		}
		before = &v.Trap
	}
	for _, check := range r.Checks {
		if check.TrapID == trapID {
			events = append(events, Event{At: check.At, Kind: Checked, Check: &check})
		}
	}
	for _, m := range r.Measurements {
		if m.TrapID != trapID {
			continue
		}
		came, err := gauge.Measure(m.Presses, m.Factor)
		if err != nil {
			return nil, err
		}
		events = append(events, Event{At: m.At, Kind: Measured, Measurement: &m, MeanN: came.MeanN})
	}
	events = append(events, r.stays(trapID)...)
	slices.SortStableFunc(events, func(a, b Event) int { return b.At.Compare(a.At) })
	return events, nil
}

// stays are the sets that a trap was in. Being remade in the same set is one stay.
func (r Record) stays(trapID string) []Event {
	spots := map[string]line.Set{}
	for _, set := range r.Sets {
		spots[set.ID] = set
	}
	var events []Event
	for i, made := range r.Makes {
		if made.Layout.Trap.ID != trapID {
			continue
		}
		at := Event{SetID: made.SetID, Number: spots[made.SetID].Number, SpotID: spots[made.SetID].SpotID}
		add := func(when time.Time, kind, finding string) {
			at.At, at.Kind, at.Finding = when, kind, finding
			events = append(events, at)
		}
		if !r.stayed(made, r.Makes[:i]) {
			add(made.BuiltAt, Built, "")
		}
		for _, look := range line.Looks(made, r.Visits) {
			if look.Finding != "quiet" {
				add(look.At, Found, look.Finding)
			}
		}
		remade := slices.ContainsFunc(r.Makes[i+1:], func(next line.Make) bool { return r.stayed(next, []line.Make{made}) })
		if made.PulledAt != nil && !remade {
			add(*made.PulledAt, Pulled, "")
		}
	}
	return events
}

// stayed tells whether a make is a remake, with the same trap, of one among those before.
func (r Record) stayed(made line.Make, before []line.Make) bool {
	return made.Follows != nil && slices.ContainsFunc(before, func(m line.Make) bool {
		return m.ID == *made.Follows && m.Layout.Trap.ID == made.Layout.Trap.ID
	})
}

// hardwareChanged tells whether the version at an index changed anything that the pan's tension hangs on.
func (r Record) hardwareChanged(i int) bool {
	after := r.TrapVersions[i].Trap
	for k := i - 1; k >= 0; k-- {
		if before := r.TrapVersions[k].Trap; before.ID == after.ID {
			return before.Type != after.Type || before.Jaw != after.Jaw || before.JawSpreadMm != after.JawSpreadMm ||
				before.PanDiameterMm != after.PanDiameterMm
		}
	}
	return false
}

// mended tells whether something that the pan's tension hangs on was found broken, and sound again after a time.
func (r Record) mended(trapID string, after time.Time) bool {
	broken := map[string]bool{}
	for _, check := range r.Checks {
		if check.TrapID != trapID {
			continue
		}
		for _, item := range check.Items {
			if item.Sound && broken[item.Key] && check.At.After(after) && slices.Contains(panHangsOn, item.Key) {
				return true
			}
			broken[item.Key] = !item.Sound
		}
	}
	return false
}

var panHangsOn = []string{"springs", "dog", "latch", "pan_level", "pan_square", "play"}

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
