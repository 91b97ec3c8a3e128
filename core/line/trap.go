package line

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/gauge"
	"oldburrow/core/refuse"
)

// Trap is a trap or another device of the line, by its number. Size is the user's own name for it. Of its
// jaws each thing may be not known: blank or nil. MeantFor is the animal that it is prepared for and Spares those that its pan should not
// fire for. Away is blank, or why it is neither on the rack nor in a set.
type Trap struct {
	ID            string   `json:"id" db:"id"`
	LineID        string   `json:"lineId" db:"line_id"`
	Number        int      `json:"number" db:"number"`
	Size          string   `json:"size" db:"size"`
	Type          TrapType `json:"type" db:"type"`
	JawForm       JawForm  `json:"jawForm" db:"jaw_form"`
	Offset        *bool    `json:"offset" db:"jaws_offset" jsonschema:"nullable"` // whether the closed jaws leave a gap
	OffsetMm      *float64 `json:"offsetMm" db:"offset_mm" jsonschema:"nullable"`
	Laminated     *bool    `json:"laminated" db:"laminated" jsonschema:"nullable"`
	Padded        *bool    `json:"padded" db:"padded" jsonschema:"nullable"`
	JawSpreadMm   float64  `json:"jawSpreadMm" db:"jaw_spread_mm"`
	FrameLengthMm float64  `json:"frameLengthMm" db:"frame_length_mm"` // with the levers
	SetHeightMm   float64  `json:"setHeightMm" db:"set_height_mm"`
	PanDiameterMm float64  `json:"panDiameterMm" db:"pan_diameter_mm"`
	WeightG       float64  `json:"weightG" db:"weight_g"`
	Swivels       int      `json:"swivels" db:"swivels"`
	ChainMm       float64  `json:"chainMm" db:"chain_mm"`
	ShockSpring   bool     `json:"shockSpring" db:"shock_spring"`
	Tag           string   `json:"tag" db:"tag"`
	MeantFor      string   `json:"meantFor" db:"meant_for"`
	Spares        []string `json:"spares" db:"-"`
	SparesBy      string   `json:"sparesBy" db:"spares_by"` // program where nobody chose them, or blank
	Usual         []string `json:"usual,omitempty" db:"-"`  // fields that nobody measured: they stand as is usual for its size
	Away          Away     `json:"away" db:"away"`
	Note          string   `json:"note" db:"note"`
	Deleted       bool     `json:"deleted" db:"deleted"`
	Version       int      `json:"version" db:"version"`
}

// TrapType is a device that a rack holds.
type TrapType string

// TrapTypes lists them.
var TrapTypes = []TrapType{"coil_spring", "long_spring", "foot_snare", "cable_restraint"}

// JawForm is the form of a jaw; blank is not said.
type JawForm string

// JawForms lists them.
var JawForms = []JawForm{"square", "round"}

// Away is why a trap is neither on the rack nor in a set; blank where it is.
type Away string

// Aways lists them.
var Aways = []Away{"lent", "mending", "lost", "worn_out"}

// TypesWithJaws are the devices that close jaws.
var TypesWithJaws = []TrapType{"coil_spring", "long_spring"}

// HasJaws tells whether a type of device closes jaws.
func HasJaws(kind TrapType) bool { return slices.Contains(TypesWithJaws, kind) }

// NewTrap is a trap as a form begins with it: the trade's middling size for a coyote.
func NewTrap() Trap {
	offset := true
	return Trap{
		Type: "coil_spring", Offset: &offset, JawSpreadMm: 139.7, FrameLengthMm: 169.7, SetHeightMm: 40, PanDiameterMm: 60,
		WeightG: 900, Swivels: 3, ChainMm: 457.2, MeantFor: "coyote", Spares: []string{}, Usual: Measurable(),
	}
}

// Measurable are the fields of a trap that stand as is usual for its size until somebody measures them.
func Measurable() []string {
	return []string{"jawSpreadMm", "frameLengthMm", "setHeightMm", "panDiameterMm", "weightG", "swivels", "chainMm"}
}

// TrapSize is what is usual for traps that go by a size, mm and g.
type TrapSize struct {
	Size          string  `json:"size"`
	JawSpreadMm   float64 `json:"jawSpreadMm"`
	FrameLengthMm float64 `json:"frameLengthMm"`
	SetHeightMm   float64 `json:"setHeightMm"`
	PanDiameterMm float64 `json:"panDiameterMm"`
	WeightG       float64 `json:"weightG"`
}

// TrapSizes are the sizes that the trade counts by, with the middling measures of each: a judgement, since makers differ. A size that is not
// among them is taken for the middling one, as NewTrap has it.
func TrapSizes() []TrapSize {
	return []TrapSize{
		{"1", 101.6, 131.6, 32, 45, 450},
		{"1.5", 123.8, 153.8, 36, 51, 600},
		{"1.75", 133.4, 163.4, 38, 54, 700},
		{"2", 139.7, 169.7, 40, 60, 900},
		{"3", 152.4, 182.4, 44, 64, 1200},
		{"4", 165.1, 195.1, 48, 67, 1500},
	}
}

// Check refuses a trap without a number or a size, lengths that no device has, and animals that it is both for and against.
func (x Trap) Check(known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	p.Within("number", float64(x.Number), 1, 9999, "")
	p.Text("size", x.Size, 40)
	refuse.OneOf(&p, "type", x.Type, TrapTypes)
	if HasJaws(x.Type) {
		x.checkJaws(&p)
		p.Within("jawSpreadMm", x.JawSpreadMm, 75, 250, " mm")
		p.Within("frameLengthMm", x.FrameLengthMm, math.Max(75, x.JawSpreadMm), 400, " mm")
		p.Within("setHeightMm", x.SetHeightMm, 15, 100, " mm")
		p.Within("panDiameterMm", x.PanDiameterMm, 25, 100, " mm")
	}
	p.Within("weightG", x.WeightG, 0, 10000, " g")
	p.Within("swivels", float64(x.Swivels), 0, 10, "")
	p.Within("chainMm", x.ChainMm, 0, 4000, " mm")
	if len([]rune(x.Tag)) > 80 {
		p.Add("tag", "is too long: at most 80 characters")
	}
	for i, field := range x.Usual {
		refuse.OneOf(&p, fmt.Sprintf("usual[%d]", i), field, Measurable())
	}
	refuse.OneOf(&p, "meantFor", x.MeantFor, known.TargetKeys())
	refuse.OneOfSaid(&p, "sparesBy", x.SparesBy, []string{ByProgram})
	for i, key := range x.Spares {
		refuse.OneOf(&p, fmt.Sprintf("spares[%d]", i), key, known.Keys())
		if key == x.MeantFor {
			p.Add("spares", "cannot name what it is meant for")
		}
	}
	if x.Away != "" {
		refuse.OneOf(&p, "away", x.Away, Aways)
	}
	checkNote(&p, "note", x.Note)
	return p.Err()
}

func (x Trap) checkJaws(p *refuse.Problems) {
	if x.JawForm != "" {
		refuse.OneOf(p, "jawForm", x.JawForm, JawForms)
	}
	if x.OffsetMm == nil {
		return
	}
	p.Within("offsetMm", *x.OffsetMm, 0, 20, " mm")
	if x.Offset == nil || *x.Offset != (*x.OffsetMm > 0) {
		p.Add("offset", "must say whether the jaws are offset, as their gap of %g mm does", *x.OffsetMm)
	}
}

// OneWord is a trap whose jaws were said with one word, as they were before more was asked. What the word does not say is not known.
func (x Trap) OneWord(jaw string) (Trap, error) {
	yes := true
	switch jaw {
	case "square", "round":
		x.JawForm = JawForm(jaw)
	case "offset":
		x.Offset = &yes
	case "laminated":
		x.Laminated = &yes
	case "padded":
		x.Padded = &yes
	case "none", "":
	default:
		var p refuse.Problems
		refuse.OneOf(&p, "jaw", jaw, []string{"square", "round", "offset", "laminated", "padded", "none"})
		return x, p
	}
	return x, nil
}

// ByProgram says that nobody chose whom a pan should spare: every trap began with the skunk.
const ByProgram = "program"

// UnmarshalJSON reads a trap also as it was written when its jaws were one word, and when it began with somebody to spare.
func (x *Trap) UnmarshalJSON(raw []byte) error {
	type plain Trap // without UnmarshalJSON
	read := struct {
		*plain
		Jaw      string  `json:"jaw"`
		SparesBy *string `json:"sparesBy"`
	}{plain: (*plain)(x)}
	reader := json.NewDecoder(bytes.NewReader(raw))
	reader.DisallowUnknownFields()
	if err := reader.Decode(&read); err != nil {
		return err
	}
	switch {
	case read.SparesBy != nil:
		x.SparesBy = *read.SparesBy
	case slices.Equal(x.Spares, []string{"skunk"}):
		x.SparesBy = ByProgram
	}
	var err error
	*x, err = x.OneWord(read.Jaw)
	return err
}

// ShedCheck is one inspection of a trap: of each item looked at, whether it was sound. A later one says anew only what it
// looked at.
type ShedCheck struct {
	ID     string      `json:"id" db:"id"`
	LineID string      `json:"lineId" db:"line_id"`
	Who    string      `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	TrapID string      `json:"trapId" db:"trap_id"`
	At     time.Time   `json:"at" db:"at"`
	Items  []CheckItem `json:"items" db:"-"`
}

// CheckItem is one thing looked at.
type CheckItem struct {
	Key   CheckKey `json:"key"`
	Sound bool     `json:"sound"`
	Note  string   `json:"note"`
}

// CheckKey is a thing that a shed check looks at.
type CheckKey string

// CheckKeys lists them, in the order of the hands.
var CheckKeys = []CheckKey{"jaws", "springs", "dog", "latch", "pan_level", "pan_square", "play", "frame", "chain", "swivels", "links", "tag", "finish"}

// Check refuses an inspection of no trap, of nothing, and of what is not on the list.
func (x ShedCheck) Check() error {
	var p refuse.Problems
	checkAct(&p, x.ID, x.TrapID, x.At)
	if len(x.Items) == 0 {
		p.Add("items", "are missing: say of at least one thing whether it is sound")
	}
	for i, item := range x.Items {
		refuse.OneOf(&p, fmt.Sprintf("items[%d].key", i), item.Key, CheckKeys)
		checkNote(&p, fmt.Sprintf("items[%d].note", i), item.Note)
		if slices.ContainsFunc(x.Items[:i], func(before CheckItem) bool { return before.Key == item.Key }) {
			p.Add(fmt.Sprintf("items[%d].key", i), "%q is there twice", item.Key)
		}
	}
	return p.Err()
}

// Measurement is a pan's tension as it was measured: every press as the gauge read it, which gauge, what its calibration
// multiplies it by, and whether the gauge was a made-up one. Turned is how many quarter turns the pan's screw was turned since
// the measurement before, tighter is plus.
type Measurement struct {
	ID       string     `json:"id" db:"id"`
	LineID   string     `json:"lineId" db:"line_id"`
	Who      string     `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	TrapID   string     `json:"trapId" db:"trap_id"`
	At       time.Time  `json:"at" db:"at"`
	Gauge    string     `json:"gauge" db:"gauge"`
	StandIn  bool       `json:"standIn" db:"stand_in"`
	Factor   float64    `json:"factor" db:"factor"`
	Presses  []float64  `json:"presses" db:"-"` // N
	Turned   float64    `json:"turned" db:"turned"`
	Covered  bool       `json:"covered" db:"covered"` // pressed at the bed, under the cover that it stands with
	UndoneAt *time.Time `json:"undoneAt" db:"undone_at" jsonschema:"nullable"`
}

// Check refuses a measurement of no trap, by no gauge, and presses that gauge.Measure refuses.
func (x Measurement) Check() error {
	var p refuse.Problems
	checkAct(&p, x.ID, x.TrapID, x.At)
	p.Text("gauge", x.Gauge, 60)
	p.Within("turned", x.Turned, -40, 40, "")
	if _, err := gauge.Measure(x.Presses, x.Factor); err != nil {
		p = append(p, err.(refuse.Problems)...)
	}
	return p.Err()
}

// Calibration is a gauge tried with a known weight.
type Calibration struct {
	ID     string    `json:"id" db:"id"`
	LineID string    `json:"lineId" db:"line_id"`
	Gauge  string    `json:"gauge" db:"gauge"`
	At     time.Time `json:"at" db:"at"`
	KnownN float64   `json:"knownN" db:"known_n"`
	ReadN  float64   `json:"readN" db:"read_n"`
}

// Check refuses a calibration of no gauge, or one that gauge.Calibrate refuses.
func (x Calibration) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkAt(&p, x.At)
	p.Text("gauge", x.Gauge, 60)
	if _, err := gauge.Calibrate(x.KnownN, x.ReadN); err != nil {
		p = append(p, err.(refuse.Problems)...)
	}
	return p.Err()
}

// checkAct refuses something done to a trap that lacks an id, the trap or a time.
func checkAct(p *refuse.Problems, id, trapID string, at time.Time) {
	checkID(p, "id", id)
	checkID(p, "trapId", trapID)
	checkAt(p, at)
}

func checkAt(p *refuse.Problems, at time.Time) { checkTime(p, "at", at, "when was it") }
