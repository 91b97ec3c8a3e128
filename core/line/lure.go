package line

import (
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/mix"
	"oldburrow/core/refuse"
)

// Lure is something with a smell under the user's own name for it: a lure, a bait or a urine. Dose is what one set takes, in ml
// or g as By says.
type Lure struct {
	ID      string           `json:"id" db:"id"`
	LineID  string           `json:"lineId" db:"line_id"`
	Name    string           `json:"name" db:"name"`
	Class   layout.SmellKind `json:"class" db:"class"`
	By      mix.By           `json:"by" db:"measured_by"`
	Dose    float64          `json:"dose" db:"dose"`
	Deleted bool             `json:"deleted" db:"deleted"`
	Version int              `json:"version" db:"version"`
}

// LureClasses are the kinds of smell that a lure of the shelf can be.
var LureClasses = []layout.SmellKind{layout.Gland, layout.FoodLure, layout.Bait, layout.Curiosity, layout.Musk, layout.Call, layout.Urine}

// Dosage is what one set takes of something, in ml or g as By says.
type Dosage struct {
	By   mix.By  `json:"by"`
	Dose float64 `json:"dose"`
}

// UsualDoses is what one set takes of each class, to begin with: working habits.
func UsualDoses() map[layout.SmellKind]Dosage {
	return map[layout.SmellKind]Dosage{
		layout.Gland: {mix.ByVolume, 1.5}, layout.FoodLure: {mix.ByWeight, 4}, layout.Bait: {mix.ByWeight, 15}, layout.Curiosity: {mix.ByVolume, 1},
		layout.Musk: {mix.ByVolume, 1}, layout.Call: {mix.ByVolume, 3}, layout.Urine: {mix.ByVolume, 20},
	}
}

// Check refuses a lure without a name, a class or a dose.
func (x Lure) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	p.Text("name", x.Name, 60)
	refuse.OneOf(&p, "class", x.Class, LureClasses)
	refuse.OneOf(&p, "by", x.By, mix.Bys)
	if !(x.Dose > 0 && x.Dose <= 1000) {
		p.Add("dose", "must be above 0 and at most 1000 %s", mix.Unit(x.By))
	}
	return p.Err()
}

// Bottle is a bottle, jar or bag of a lure: what it held when it was full, and since when it has been open (nil: it is not).
// FreezesAtC is known for what was mixed here. Doses are taken from the bottle that was opened first.
type Bottle struct {
	ID         string     `json:"id" db:"id"`
	LineID     string     `json:"lineId" db:"line_id"`
	LureID     string     `json:"lureId" db:"lure_id"`
	Holds      float64    `json:"holds" db:"holds"`
	OpenedAt   *time.Time `json:"openedAt" db:"opened_at" jsonschema:"nullable"`
	FreezesAtC *float64   `json:"freezesAtC" db:"freezes_at_c" jsonschema:"nullable"`
	Note       string     `json:"note" db:"note"`
	Deleted    bool       `json:"deleted" db:"deleted"`
	Version    int        `json:"version" db:"version"`
}

// Check refuses a bottle of no lure or of no size.
func (x Bottle) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "lureId", x.LureID)
	if !(x.Holds > 0 && x.Holds <= 100000) {
		p.Add("holds", "must be above 0 and at most 100 litres or kilograms")
	}
	if x.OpenedAt != nil && x.OpenedAt.IsZero() {
		p.Add("openedAt", "must be a time, or left out for a bottle that is not open")
	}
	if x.FreezesAtC != nil {
		p.Within("freezesAtC", *x.FreezesAtC, -80, 10, " °C")
	}
	checkNote(&p, "note", x.Note)
	return p.Err()
}

// Level is what is left in a bottle as somebody saw it, over what the doses say.
type Level struct {
	ID       string    `json:"id" db:"id"`
	LineID   string    `json:"lineId" db:"line_id"`
	Who      string    `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	BottleID string    `json:"bottleId" db:"bottle_id"`
	At       time.Time `json:"at" db:"at"`
	Left     float64   `json:"left" db:"amount"`
}

// Check refuses a level in no bottle, and one below empty.
func (x Level) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "bottleId", x.BottleID)
	checkAt(&p, x.At)
	p.Within("left", x.Left, 0, 100000, "")
	return p.Err()
}

// Dose is a lure used by hand, beside what building sets uses: at a spot that has met it then, or nowhere (SpotID is nil).
type Dose struct {
	ID     string    `json:"id" db:"id"`
	LineID string    `json:"lineId" db:"line_id"`
	Who    string    `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	LureID string    `json:"lureId" db:"lure_id"`
	SpotID *string   `json:"spotId" db:"spot_id" jsonschema:"nullable"`
	At     time.Time `json:"at" db:"at"`
	Count  float64   `json:"count" db:"count"`

	UndoneAt *time.Time `json:"undoneAt" db:"undone_at" jsonschema:"nullable"`
}

// Check refuses a dose of no lure, and none.
func (x Dose) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "lureId", x.LureID)
	if x.SpotID != nil {
		checkID(&p, "spotId", *x.SpotID)
	}
	checkAt(&p, x.At)
	if !(x.Count > 0 && x.Count <= 100) {
		p.Add("count", "must be above 0 and at most 100 doses")
	}
	return p.Err()
}

// Recipe is how something is mixed, under the user's own name.
type Recipe struct {
	ID      string     `json:"id" db:"id"`
	LineID  string     `json:"lineId" db:"line_id"`
	Name    string     `json:"name" db:"name"`
	Mix     mix.Recipe `json:"mix" db:"-"`
	Deleted bool       `json:"deleted" db:"deleted"`
	Version int        `json:"version" db:"version"`
}

// Check refuses a recipe without a name, and one that mix.Recipe refuses.
func (x Recipe) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	p.Text("name", x.Name, 60)
	p.Under("mix", x.Mix.Check())
	return p.Err()
}

// KitMark is what was said of a thing on the list of a day ("2026-12-05"): packed, forgotten, left out of the plan, or always
// taken (a thing of the user's own, named by its key). The newest word on a thing holds.
type KitMark struct {
	ID     string    `json:"id" db:"id"`
	LineID string    `json:"lineId" db:"line_id"`
	Day    string    `json:"day" db:"day"`
	Key    string    `json:"key" db:"key"`
	Mark   Mark      `json:"mark" db:"mark"`
	On     bool      `json:"on" db:"is_on"`
	At     time.Time `json:"at" db:"at"`
}

// Mark is what can be said of a thing on the list.
type Mark string

// Marks lists them.
var Marks = []Mark{"packed", "forgot", "later", "own"}

// Check refuses a mark on no day, on nothing, and one that is not known.
func (x KitMark) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	if x.Day == "" {
		p.Add("day", "is missing: of which day is the list")
	}
	checkDate(&p, "day", x.Day)
	p.Text("key", x.Key, 80)
	refuse.OneOf(&p, "mark", x.Mark, Marks)
	checkAt(&p, x.At)
	return p.Err()
}
