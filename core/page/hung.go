package page

import (
	"encoding/json"
	"math"
	"time"

	"oldburrow/core/gauge"
	"oldburrow/core/line"
	"oldburrow/core/pan"
	"oldburrow/core/shed"
)

// Rack is the traps of a line as they stand, and the gauges that measured them. Hundreds of traps are alike in most of what they are: what a
// trap has of that stands once in the lists, and the trap says where.
type Rack struct {
	Traps   []OnNail           `json:"traps"`
	Alike   []line.Trap        `json:"alike"`
	Places  []shed.Place       `json:"places"`
	Checks  [][]line.CheckItem `json:"checks"`
	Windows []shed.Wanted      `json:"windows"`
	New     line.Trap          `json:"new"` // as a form begins with one
	Sizes   []line.TrapSize    `json:"sizes"`
	Gauges  []shed.Gauge       `json:"gauges"`
	Reads   bool               `json:"reads"` // a gauge is connected
	StandIn bool               `json:"standIn"`
}

// OnNail is a trap on the rack: what it has for itself, and where in the lists of the rack the rest stands.
type OnNail struct {
	ID      string        `json:"id"`
	Number  int           `json:"number"`
	Tag     string        `json:"tag,omitempty"`
	Note    string        `json:"note,omitempty"`
	Version int           `json:"version"`
	Alike   int           `json:"alike"`
	Place   int           `json:"place"`
	Checked *time.Time    `json:"checked" jsonschema:"nullable"`
	Checks  int           `json:"checks"`
	Faults  int           `json:"faults"`                        // those of the checks that keep it home
	Tension *Pressed      `json:"tension" jsonschema:"nullable"` // nil while nobody measured it
	Window  *int          `json:"window" jsonschema:"nullable"`  // nil for a device without a pan to measure, and where a word is not known
	Verdict pan.Verdict   `json:"verdict"`
	Turn    gauge.Turning `json:"turn,omitempty"` // tighter or looser; blank where it need not be turned
	TurnN   float64       `json:"turnN,omitempty"`
	Bars    shed.Bar      `json:"bars,omitempty"`
}

// Pressed is what a pan was last measured at, newtons to a thousandth and shares to a ten-thousandth: ten times finer than any gauge.
type Pressed struct {
	MeanN       float64    `json:"meanN"`
	SDN         float64    `json:"sdN"`
	Spread      float64    `json:"spread"`
	At          time.Time  `json:"at"`
	Gauge       string     `json:"gauge"`
	StandIn     bool       `json:"standIn,omitempty"`
	Covered     bool       `json:"covered,omitempty"`
	Presses     int        `json:"presses"`
	Old         shed.OldBy `json:"old"`
	Fails       float64    `json:"fails"`
	PerQuarterN float64    `json:"perQuarterN,omitempty"`
}

// hang puts the traps on their nails.
func (r *Rack) hang(traps []shed.Hung) {
	r.Traps = make([]OnNail, len(traps))
	alike, places, checks, windows := newOnce[line.Trap](), newOnce[shed.Place](), newOnce[[]line.CheckItem](), newOnce[shed.Wanted]()
	for i, h := range traps {
		t := h.Trap
		n := OnNail{ID: t.ID, Number: t.Number, Tag: t.Tag, Note: t.Note, Version: t.Version, Checked: h.Checked, Tension: pressed(h.Tension),
			Verdict: h.Verdict, Turn: h.Turn.Way, TurnN: rounded(h.Turn.ToMiddleN, 3), Bars: h.Bars}
		t.ID, t.Number, t.Tag, t.Note, t.Version = "", 0, "", "", 0
		n.Alike, n.Place = alike.at(t), places.at(h.Place)
		n.Checks, n.Faults = checks.at(h.Checks), checks.at(h.Faults)
		if h.Wanted != nil {
			n.Window = new(windows.at(*h.Wanted))
		}
		r.Traps[i] = n
	}
	r.Alike, r.Places, r.Checks, r.Windows = alike.found, places.found, checks.found, windows.found
}

func pressed(t *shed.Tension) *Pressed {
	if t == nil {
		return nil
	}
	m := t.Measurement
	return &Pressed{MeanN: rounded(t.MeanN, 3), SDN: rounded(t.SDN, 3), Spread: rounded(t.Spread, 4), At: m.At, Gauge: m.Gauge, StandIn: m.StandIn, Covered: m.Covered,
		Presses: len(m.Presses), Old: t.Old, Fails: rounded(t.Fails, 4), PerQuarterN: rounded(t.PerQuarterN, 3)}
}

func rounded(x float64, places int) float64 {
	tens := math.Pow10(places)
	return math.Round(x*tens) / tens
}

// once lists each of many values once.
type once[T any] struct {
	found []T
	where map[string]int
}

func newOnce[T any]() once[T] { return once[T]{[]T{}, map[string]int{}} }

// at is where a value stands in the list.
func (o *once[T]) at(x T) int {
	raw, err := json.Marshal(x)
	at, ok := o.where[string(raw)]
	if err == nil && ok {
		return at
	}
	o.found = append(o.found, x)
	o.where[string(raw)] = len(o.found) - 1
	return len(o.found) - 1
}
