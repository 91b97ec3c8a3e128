// Package layout describes how a set is laid out: its parts, their sizes and places, what holds for each pattern, and what to begin
// with for each animal. Lengths in mm, angles in degrees, tension in newtons. The first attractor's point nearest the trap (at a
// dirt hole the near edge of the hole) is the origin, or the middle of the way where there is no attractor; y runs from it toward
// the approaching animal (setback), x to the right of an animal facing it (offset).
package layout

import (
	"oldburrow/core/ground"
	"oldburrow/core/mix"
	"oldburrow/core/pan"
)

// Schema is the form in which layouts are written. Decode reads every form.
const Schema = 2

// Layout is one set as designed or as built. What is nil or blank is not known or not there, never nought.
type Layout struct {
	Schema     int         `json:"schema"`
	Kind       Kind        `json:"kind"`                // the plan mark
	Pattern    string      `json:"pattern"`             // what it is made after
	FacingDeg  *float64    `json:"facingDeg,omitempty"` // from the attractor to the travel way, from north
	Attractors []Attractor `json:"attractors"`
	Aside      []Smell     `json:"aside,omitempty"` // what smells and lies at none of them
	Trench     *Trench     `json:"trench,omitempty"`
	Way        *Way        `json:"way,omitempty"`
	Rigs       []Rig       `json:"rigs"`
	Anchors    []Anchor    `json:"anchors"`
	Guides     []Guide     `json:"guides"`
	Backing    Backing     `json:"backing"`
	Show       ShowKind    `json:"show"`
	Lie        Lie         `json:"lie,omitzero"`
	At         *ground.Fix `json:"at,omitempty"` // where the set itself stands; else at its spot
	Spoil      Spoil       `json:"spoil,omitempty"`
	Hands      Hands       `json:"hands,omitempty"`
}

// Attractor is what an animal comes to: a hole, an object, or a post. Its place is that of its point nearest the trap.
type Attractor struct {
	Slot     int           `json:"slot"`
	Kind     AttractorKind `json:"kind"`
	Of       string        `json:"of,omitempty"` // what it is made of
	XMm      float64       `json:"xMm"`
	YMm      float64       `json:"yMm"`
	RadiusMm float64       `json:"radiusMm,omitempty"` // of an object or a post
	HeightMm float64       `json:"heightMm,omitempty"` // above the ground
	Fixed    bool          `json:"fixed,omitempty"`    // spiked, driven or grown fast
	Wrap     Wrap          `json:"wrap,omitempty"`     // about its top, to take up what it smells of
	Colour   string        `json:"colour,omitempty"`   // of that
	Hole     *Hole         `json:"hole,omitempty"`
	Plug     Plug          `json:"plug"`
	Smells   []Smell       `json:"smells"`
}

// Hole is its diameter, its length along the slant, its angle below horizontal, and how far it turns from straight away from the
// animal, toward its right; blank of its mouth is round.
type Hole struct {
	DiameterMm float64 `json:"diameterMm"`
	DepthMm    float64 `json:"depthMm"`
	AngleDeg   float64 `json:"angleDeg"`
	TurnDeg    float64 `json:"turnDeg,omitempty"`
	Mouth      Mouth   `json:"mouth,omitempty"`
}

// Smell is one scented thing: its kind, what it is in the user's own words, its place on the shelf (blank for what is not on it), on
// what it is carried, how much by the user's own measure, and where.
type Smell struct {
	Kind     SmellKind  `json:"kind"`
	Name     string     `json:"name"`
	LureID   string     `json:"lureId,omitempty"`
	Carrier  Carrier    `json:"carrier,omitempty"`
	Amount   string     `json:"amount,omitempty"`
	Place    SmellPlace `json:"place"`
	HeightMm float64    `json:"heightMm,omitempty"`
}

// Trench is a trench toward the attractor; its floor falls from the ground to HeadMm at its head.
type Trench struct {
	WidthMm  float64 `json:"widthMm"`
	LengthMm float64 `json:"lengthMm"`
	HeadMm   float64 `json:"headMm"`
}

// Way is what an animal passes along: a point of its middle line, how its line turns from the x axis toward y, how wide the animal
// walks there, how wide it lies open before it is narrowed (0 is not known), and what it lies between.
type Way struct {
	XMm        float64 `json:"xMm"`
	YMm        float64 `json:"yMm"`
	BearingDeg float64 `json:"bearingDeg"`
	WidthMm    float64 `json:"widthMm"`
	OpenMm     float64 `json:"openMm,omitempty"`
	Between    Between `json:"between,omitempty"`
}

// Rig is one trap or other device with its bed, its cover and its chain. TrapID is its place on the rack, blank for one that is not
// listed there. Its place is the middle of its bed; AxisDeg is how far the levers turn from lying across the approach, toward y.
// Jaws or Loop is nil where it has none.
type Rig struct {
	Slot       int      `json:"slot"`
	TrapID     string   `json:"trapId,omitempty"`
	Name       string   `json:"name"`
	Device     Device   `json:"device"`
	XMm        float64  `json:"xMm"`
	YMm        float64  `json:"yMm"`
	AxisDeg    float64  `json:"axisDeg,omitempty"`
	Jaws       *Jaws    `json:"jaws,omitempty"`
	Loop       *Loop    `json:"loop,omitempty"`
	Pan        *Pan     `json:"pan,omitempty"`
	Bed        Bed      `json:"bed"`
	Cover      []Layer  `json:"cover"`           // from the pan upward
	Over       PanOver  `json:"over,omitempty"`  // what lies over the pan
	Under      PanUnder `json:"under,omitempty"` // and under it
	Guard      JawGuard `json:"guard,omitempty"` // what keeps feet off the loose jaw, the one that no dog holds
	ChainMm    float64  `json:"chainMm"`
	ChainLies  ChainLie `json:"chainLies,omitempty"`
	Swivels    int      `json:"swivels,omitempty"` // in the chain; 0 is not said
	Spring     bool     `json:"spring,omitempty"`  // a shock spring in the chain
	AnchorSlot int      `json:"anchorSlot"`
}

// Jaws are those of a trap as it stands set; the frame includes the levers.
type Jaws struct {
	SpreadMm float64 `json:"spreadMm"`
	FrameMm  float64 `json:"frameMm"`
	HeightMm float64 `json:"heightMm"`
}

// Loop is a cable's: its diameter, and its height above the ground.
type Loop struct {
	DiameterMm float64 `json:"diameterMm"`
	HeightMm   float64 `json:"heightMm"`
}

// Pan is where the pan lies on the set's plan, what the gauge read at its centre, and how high it stands above the trap's foot; nil
// is level with the jaws.
type Pan struct {
	XMm        float64  `json:"xMm"`
	YMm        float64  `json:"yMm"`
	DiameterMm float64  `json:"diameterMm"`
	GaugeN     float64  `json:"gaugeN"`
	HeightMm   *float64 `json:"heightMm,omitempty"`
}

// Bed is how much larger than the trap it is dug and how deep, where that is not what trap, base, drain and cover take; the base
// under the trap, what drains below that, what it is filled with, what keeps it from freezing and how much of it, and whether nothing
// moves in it.
type Bed struct {
	MarginMm float64      `json:"marginMm"`
	DepthMm  *float64     `json:"depthMm,omitempty"`
	BaseMm   float64      `json:"baseMm"`
	DrainMm  float64      `json:"drainMm,omitempty"`
	Fill     pan.Material `json:"fill,omitempty"` // blank is what covers it
	Agent    mix.Agent    `json:"agent,omitempty"`
	AgentG   *float64     `json:"agentG,omitempty"`
	Firm     *bool        `json:"firm,omitempty"`
}

// Layer is one layer of the cover.
type Layer struct {
	Material    pan.Material `json:"material"`
	ThicknessMm float64      `json:"thicknessMm"`
}

// Anchor is what holds a rig, or two: LengthMm is the depth of a stake, a cable or a staple, the run of a slide cable; a drag has none.
type Anchor struct {
	Slot          int        `json:"slot"`
	Kind          AnchorKind `json:"kind"`
	LengthMm      float64    `json:"lengthMm,omitempty"`
	SecondMm      float64    `json:"secondMm,omitempty"` // of the other stake of a crossed pair; 0 is as deep as the first
	XMm           float64    `json:"xMm"`
	YMm           float64    `json:"yMm"`
	DiameterMm    float64    `json:"diameterMm,omitempty"`    // of a stake; 0 is not said
	PlateLengthMm float64    `json:"plateLengthMm,omitempty"` // of an earth anchor; likewise
	PlateWidthMm  float64    `json:"plateWidthMm,omitempty"`
	ProofN        *float64   `json:"proofN,omitempty"` // what it bore when it was pulled with a scale
	Cover         DragCover  `json:"cover,omitempty"`  // what a drag can hang in; blank is not said
	Tied          bool       `json:"tied,omitempty"`   // a toggle or a log that is tied
	Soft          bool       `json:"soft,omitempty"`   // a staple in soft or dead wood
	Ends          []End      `json:"ends,omitempty"`   // of a slide cable
}

// End is what holds one end of a cable.
type End struct {
	Kind     AnchorKind `json:"kind"`
	LengthMm float64    `json:"lengthMm"`
}

// Guide steers a foot: a disc, or one drawn out to a length (a stick, a log, a row of tufts) that turns from the x axis toward y.
type Guide struct {
	Kind     GuideKind `json:"kind"`
	XMm      float64   `json:"xMm"`
	YMm      float64   `json:"yMm"`
	RMm      float64   `json:"rMm"`
	LengthMm float64   `json:"lengthMm,omitempty"`
	TurnDeg  float64   `json:"turnDeg,omitempty"`
	HeightMm *float64  `json:"heightMm,omitempty"`
}

// Lie is the ground at the set: how steep it falls and which way (from north), whether it is stony, baked hard, and sheltered from
// rain and snow, how tall grass or crop stands about it, and how deep water stands over it.
type Lie struct {
	SlopeDeg  *float64 `json:"slopeDeg,omitempty"`
	DownDeg   *float64 `json:"downDeg,omitempty"`
	Stony     *bool    `json:"stony,omitempty"`
	Baked     *bool    `json:"baked,omitempty"`
	Sheltered *bool    `json:"sheltered,omitempty"`
	GrassMm   *float64 `json:"grassMm,omitempty"`
	WaterMm   *float64 `json:"waterMm,omitempty"`
}
