package line

import "time"

// Act is one thing that was done on a line, as a list of a day tells it. Ids are blank where it has none of them. What says in a word
// what it was: a finding, an animal's key, a number.
type Act struct {
	Kind   ActKind   `json:"kind" db:"kind"`
	ID     string    `json:"id" db:"id"`
	At     time.Time `json:"at" db:"at"`
	Timed  bool      `json:"timed" db:"timed"` // false where only its day is known
	SetID  string    `json:"setId" db:"set_id"`
	TrapID string    `json:"trapId" db:"trap_id"`
	LureID string    `json:"lureId" db:"lure_id"`
	SpotID string    `json:"spotId" db:"spot_id"`
	What   string    `json:"what" db:"what"`
	Who    string    `json:"who,omitempty" db:"who"` // did it; blank for the owner
	Undone bool      `json:"undone" db:"undone"`
}

// ActKind is what kind of act it was.
type ActKind string

// The acts that the list of a day tells.
const (
	ActLook        ActKind = "look"
	ActMake        ActKind = "make"
	ActPull        ActKind = "pull"
	ActDose        ActKind = "dose"
	ActMeasurement ActKind = "measurement"
	ActSign        ActKind = "sign"
)

// LaterPull is what a pull was that took out what another had left.
const LaterPull = "later"

// ActKinds lists them.
var ActKinds = []ActKind{ActLook, ActMake, ActPull, ActDose, ActMeasurement, ActSign}

// OfDay is a set on a day, with the make that stood when the day began or was built on it first, and what was found on it.
type OfDay struct {
	SetID string  `json:"setId"`
	Make  Make    `json:"make"`
	Looks []Visit `json:"looks"`
	Built []Make  `json:"built"` // on that day
}

// Day lists what stood on a line in a day, from its beginning until its end, along the way round.
func (r Record) Day(from, until time.Time, stops []Stop) []OfDay {
	found := []OfDay{}
	for _, s := range stops {
		if s.SetID == "" {
			continue
		}
		one := OfDay{SetID: s.SetID, Looks: []Visit{}, Built: []Make{}}
		for _, m := range r.At(s.SetID) {
			if !m.BuiltAt.Before(until) || m.PulledAt != nil && m.PulledAt.Before(from) {
				continue
			}
			if one.Make.ID == "" {
				one.Make = m
			}
			if !m.BuiltAt.Before(from) {
				one.Built = append(one.Built, m)
			}
			for _, look := range r.Looks(m.ID) {
				if !look.At.Before(from) && look.At.Before(until) {
					one.Looks = append(one.Looks, look)
				}
			}
		}
		if one.Make.ID != "" {
			found = append(found, one)
		}
	}
	return found
}

// Unreadable is a record that is kept and cannot be read, and why.
type Unreadable struct {
	What string `json:"what"`
	ID   string `json:"id"`
	Why  string `json:"why"`
}
