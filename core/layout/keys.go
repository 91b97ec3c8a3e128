package layout

import "slices"

// Kind is a plan mark: the five of the trade, what is beyond them, and what is no trap.
type Kind string

// Kinds lists them.
var Kinds = []Kind{"dirt_hole", "flat", "trench", "trail", "scent_post", "tree", "spring", "device"}

// AttractorKind is what an animal comes to.
type AttractorKind string

// AttractorKinds lists them.
var AttractorKinds = []AttractorKind{"hole", "object", "post"}

// SmellKind is what a smell says to an animal; lure is one whose class was not said.
type SmellKind string

// The kinds of what smells.
const (
	Bait      SmellKind = "bait"
	FoodLure  SmellKind = "food"
	AnyLure   SmellKind = "lure"
	Gland     SmellKind = "gland"
	Curiosity SmellKind = "curiosity"
	Musk      SmellKind = "musk"
	Call      SmellKind = "call"
	Urine     SmellKind = "urine"
	Scat      SmellKind = "scat" // that was moved to the set
)

// SmellKinds lists them.
var SmellKinds = []SmellKind{Bait, FoodLure, AnyLure, Gland, Curiosity, Musk, Call, Urine, Scat}

// Carrier is what a smell is put on.
type Carrier string

// Carriers lists them.
var Carriers = []Carrier{"wool", "swab", "stick", "soil", "bare"}

// SmellPlace is where a smell is put.
type SmellPlace string

// SmellPlaces lists them.
var SmellPlaces = []SmellPlace{"bottom", "lip", "plug", "backing", "face", "top", "under", "beside"}

// Device is what a rig closes with.
type Device string

// Devices lists them.
var Devices = []Device{"jaws", "foot_loop", "cable_loop"}

// PanOver is what lies over a pan.
type PanOver string

// PanOvers lists them.
var PanOvers = []PanOver{"cloth", "fibreglass", "waxed_paper", "leaf"}

// PanUnder is what lies under a pan.
type PanUnder string

// PanUnders lists them.
var PanUnders = []PanUnder{"foam", "polyfill", "wool"}

// ShowKind is how a set shows: torn-up ground with a fan of soil, or everything carried off and blended.
type ShowKind string

// Shows lists them.
var Shows = []ShowKind{"dug_out", "subtle"}

// Mouth is what a hole's opening is like.
type Mouth string

// Mouths lists them.
var Mouths = []Mouth{"slit", "long"}

// Wrap is what a stick's top is wrapped in.
type Wrap string

// Wraps lists them.
var Wraps = []Wrap{"wool", "cloth", "string"}

// ChainLie is how a chain lies.
type ChainLie string

// ChainLies lists them.
var ChainLies = []ChainLie{"buried", "covered", "open"}

// JawGuard is what keeps feet off a loose jaw.
type JawGuard string

// JawGuards lists them.
var JawGuards = []JawGuard{"stone", "clod", "stick", "backing", "nothing"}

// Spoil is where the loose soil went.
type Spoil string

// Spoils lists them.
var Spoils = []Spoil{"carried_off", "behind", "sides", "before"}

// Hands is how a set was handled.
type Hands string

// HandsUsed lists them.
var HandsUsed = []Hands{"gloves", "bare", "both"}

// Backing is what stands behind the attractor, the most solid first.
type Backing string

// Backings lists them.
var Backings = []Backing{"bank", "stone", "stump", "log", "sod", "tuft", "none"}

// Between is what a way lies between, or under.
type Between string

// Betweens lists them.
var Betweens = []Between{"brush", "banks", "culvert", "fence", "ruts"}

// AnchorKind is what holds a trap, or one end of a cable.
type AnchorKind string

// The anchors: what is driven into the ground by itself, what goes with the animal, what is driven into wood, and a cable between two posts
// on which the animal slides away.
const (
	Stake   AnchorKind = "stake"
	Crossed AnchorKind = "crossed"
	Cable   AnchorKind = "cable"
	Drag    AnchorKind = "drag"
	Grapple AnchorKind = "grapple"
	Toggle  AnchorKind = "toggle"
	Log     AnchorKind = "log"
	Staple  AnchorKind = "staple"
	Slide   AnchorKind = "slide"
)

// AnchorKinds lists them.
var AnchorKinds = []AnchorKind{Stake, Crossed, Cable, Drag, Grapple, Toggle, Log, Staple, Slide}

// DragKinds lists the anchors that go with the animal, and hang in what it runs into.
var DragKinds = []AnchorKind{Drag, Grapple, Toggle, Log}

// Drags tells whether an anchor goes with the animal.
func Drags(kind AnchorKind) bool { return slices.Contains(DragKinds, kind) }

// Ends lists what can hold one end of a cable.
var Ends = []AnchorKind{Stake, Crossed, Cable, Staple}

// DragCover is what a drag can hang in, from the thickest.
type DragCover string

// DragCovers lists them.
var DragCovers = []DragCover{"thick_brush", "timber", "edge", "open"}

// Plug is what closes a hole over its bait.
type Plug string

// Plugs lists them.
var Plugs = []Plug{"none", "grass", "wool"}

// GuideKind is what a guide is made of.
type GuideKind string

// GuideKinds lists them.
var GuideKinds = []GuideKind{"stone", "clod", "stick", "tuft", "log", Landing}

// Landing is a stone in water that a foot is meant to come down on.
const Landing GuideKind = "landing"
