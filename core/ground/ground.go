// Package ground names what lies on the ground: soils and how wet they lie, surfaces, and the things that a trapper draws on
// a map. It also averages places read from a receiver.
package ground

import "slices"

// Soils lists the soils, loosest first; a spot has one of them.
func Soils() []string {
	return []string{"loose_sand", "firm_sand", "loam", "firm_clay", "soft_clay", "shale", "muck"}
}

// Wetnesses lists how wet a soil can lie.
func Wetnesses() []string { return []string{"dry", "moist", "wet"} }

// Surfaces lists what covers the soil, least first.
func Surfaces() []string { return []string{"bare", "grass", "litter"} }

// Forms of a thing on the map.
const (
	Point = "point"
	Line  = "line"
	Area  = "area"
)

// Kind is a kind of thing on the map: its form, and the group it is offered in.
type Kind struct {
	Key   string `json:"key"`
	Form  string `json:"form"`
	Group string `json:"group"`
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
func KindOf(key string) (Kind, bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.Key == key })
	if i < 0 {
		return Kind{}, false
	}
	return Kinds[i], true
}

// KindKeys lists the keys of all kinds.
func KindKeys() []string {
	keys := make([]string, len(Kinds))
	for i, k := range Kinds {
		keys[i] = k.Key
	}
	return keys
}
