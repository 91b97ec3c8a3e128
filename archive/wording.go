package archive

import (
	"fmt"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/core/shed"
	"oldburrow/store"
)

// wording says of a record which it is, as a trapper would.
type wording struct {
	numbers map[string]int    // of sets
	sets    map[string]string // of makes
	makes   map[string]string // of looks
	names   map[string]string // of lures, spots
	zones   map[string]*time.Location
}

func newWording() *wording {
	return &wording{map[string]int{}, map[string]string{}, map[string]string{}, map[string]string{}, map[string]*time.Location{}}
}

// learn notes what other records are told by.
func (w *wording) learn(record any) {
	switch x := record.(type) {
	case *line.Line:
		if zone, err := round.Zone(x.Zone); err == nil {
			w.zones[x.ID] = zone
		}
	case *line.Set:
		w.numbers[x.ID] = x.Number
	case *line.Make:
		w.sets[x.ID] = x.SetID
	case *line.Visit:
		w.makes[x.ID] = x.MakeID
	case *line.Lure:
		w.names[x.ID] = x.Name
	case *line.Spot:
		w.names[x.ID] = x.Name
	}
}

// of is a record in words.
func (w *wording) of(k store.Kind, record any) string {
	switch x := record.(type) {
	case *line.Line:
		return "line " + x.Name
	case *line.Season:
		return "season " + x.Name
	case *line.Property:
		return "property " + x.Name
	case *line.Spot:
		return "spot " + x.Name
	case *line.Lure:
		return "lure " + x.Name
	case *line.Recipe:
		return "recipe " + x.Name
	case *line.Pattern:
		return "pattern " + x.Name
	case *line.Trap:
		return fmt.Sprintf("trap %d", x.Number)
	case *shed.TrapVersion:
		return fmt.Sprintf("trap %d", x.Trap.Number)
	case *line.Set:
		return fmt.Sprintf("set %d", x.Number)
	case *line.Design:
		return "design at " + w.names[x.SpotID]
	}
	return k.Name() + w.deed(record)
}

// deed is where and when something was done.
func (w *wording) deed(record any) string {
	switch x := record.(type) {
	case *line.Make:
		return w.at(x.SetID, x.LineID, x.BuiltAt)
	case *line.Pull:
		return w.at(w.sets[x.MakeID], x.LineID, x.At)
	case *line.Visit:
		return w.at(w.sets[x.MakeID], x.LineID, x.At)
	case *line.Correction:
		return w.at(w.sets[x.MakeID], x.LineID, x.Make.BuiltAt)
	case *line.Mend:
		return w.at(w.sets[w.makes[x.VisitID]], x.LineID, x.Visit.At)
	case *line.Sign:
		return w.when(x.LineID, x.SeenAt)
	case *line.Fall:
		return w.when(x.LineID, x.Ended)
	case *line.Photo:
		if x.TakenAt != nil {
			return w.when(x.LineID, *x.TakenAt)
		}
	case *line.Reading:
		return w.when(x.LineID, x.At)
	case *line.Measurement:
		return w.when(x.LineID, x.At)
	case *line.ShedCheck:
		return w.when(x.LineID, x.At)
	case *line.Dose:
		return w.when(x.LineID, x.At)
	case *line.Level:
		return w.when(x.LineID, x.At)
	case *store.HourOfWeather:
		return w.when(x.LineID, x.At)
	}
	return ""
}

func (w *wording) at(set, lineID string, at time.Time) string {
	return fmt.Sprintf(" at set %d,%s", w.numbers[set], w.when(lineID, at))
}

func (w *wording) when(lineID string, at time.Time) string {
	if zone := w.zones[lineID]; zone != nil {
		at = at.In(zone)
	}
	return fmt.Sprintf(" %s %d:%02d", at.Format("2 Jan"), at.Hour(), at.Minute())
}

// spoken puts words in a row.
func spoken(words []string) string {
	said := ""
	for i, word := range words {
		switch {
		case i == 0:
		case i == len(words)-1:
			said += " and "
		default:
			said += ", "
		}
		said += word
	}
	return said
}
