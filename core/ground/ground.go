// Package ground names what lies on the ground: soils and how wet they lie, surfaces, and the things that a trapper draws on
// a map. It also averages places read from a receiver.
package ground

import "slices"

// Soil is a kind of soil, of which a spot has one; the loosest stand first.
type Soil string

// Soils lists them.
var Soils = []Soil{"loose_sand", "firm_sand", "loam", "firm_clay", "soft_clay", "shale", "muck"}

// Wetness is how wet a soil lies.
type Wetness string

// Wetnesses lists them.
var Wetnesses = []Wetness{"dry", "moist", "wet"}

// Surface is what covers the soil, the least first.
type Surface string

// Surfaces lists them.
var Surfaces = []Surface{"bare", "grass", "litter"}

// Forms of a thing on the map.
const (
	Point = "point"
	Line  = "line"
	Area  = "area"
)

// FeatureKind is the key of a kind of thing on the map.
type FeatureKind string

// Kind is a kind of thing on the map: its form, and the group it is offered in.
type Kind struct {
	Key   FeatureKind `json:"key"`
	Form  string      `json:"form"`
	Group string      `json:"group"`
}

// Groups of kinds: the land itself, what gathers travel, and what can hurt or be hurt.
const (
	Land     = "land"
	Gathers  = "gathers"
	Hazards  = "hazards"
	Watchers = "watchers"
)

// Kinds lists everything that can be drawn, in the order it is offered.
var Kinds = []Kind{
	{"boundary", Area, Land}, {"travel_way", Line, Land}, {"road", Line, Land}, {"two_track", Line, Land}, {"fence", Line, Land},
	{"stream", Line, Land}, {"breaks", Line, Land}, {"pond", Area, Land}, {"cover", Area, Land}, {"hay", Area, Land},
	{"field_edge", Point, Gathers}, {"gate", Point, Gathers}, {"road_bend", Point, Gathers}, {"trail_meets_road", Point, Gathers},
	{"intersection", Point, Gathers}, {"creek_crossing", Point, Gathers}, {"pond_edge", Point, Gathers}, {"spring", Point, Gathers}, {"ditch", Point, Gathers},
	{"saddle", Point, Gathers}, {"terrace", Point, Gathers}, {"culvert", Point, Gathers}, {"bridge", Point, Gathers},
	{"crawl_under", Point, Gathers}, {"bale_row", Point, Gathers}, {"lone_stone", Point, Gathers}, {"lone_tree", Point, Gathers},
	{"hollow_log", Point, Gathers}, {"log", Point, Gathers}, {"hollow_tree", Point, Gathers}, {"thicket_edge", Point, Gathers}, {"carcass", Point, Gathers},
	{"public_road", Line, Hazards}, {"dwelling", Point, Hazards}, {"peoples_trail", Line, Hazards}, {"deep_water", Area, Hazards},
	{"steep_bank", Line, Hazards}, {"machinery_lane", Line, Hazards}, {"livestock", Area, Hazards}, {"others_set", Point, Hazards},
	{"seen_from", Point, Watchers},
}

// KindOf finds a kind by its key.
func KindOf(key FeatureKind) (Kind, bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.Key == key })
	if i < 0 {
		return Kind{}, false
	}
	return Kinds[i], true
}

// FeatureKinds lists the keys of all kinds.
var FeatureKinds = func() (keys []FeatureKind) {
	for _, k := range Kinds {
		keys = append(keys, k.Key)
	}
	return keys
}()
