package demo

import (
	"time"

	"oldburrow/core/ground"
	"oldburrow/core/line"
)

// thing is something on the demo's map, in metres east and north of the line's middle.
type thing struct {
	kind     ground.FeatureKind
	name     string
	width    float64 // mm, of a travel way
	property string  // of a boundary
	at       [][2]float64
}

func land() []thing {
	return []thing{
		{"boundary", "Alder Slough hayfield", 0, "Alder Slough hayfield", [][2]float64{{-960, -860}, {90, -860}, {90, 120}, {-960, 120}}},
		{"boundary", "Upper Breaks pasture", 0, "Upper Breaks pasture", [][2]float64{{-960, 130}, {420, 130}, {420, 700}, {-960, 700}}},
		{"boundary", "Quarry Road section", 0, "Quarry Road section", [][2]float64{{100, -860}, {712, -860}, {712, 250}, {800, 250}, {800, 700}, {430, 700}, {430, 126}, {100, 126}}},
		{"boundary", "Two Culverts", 0, "Two Culverts", [][2]float64{{720, -500}, {1180, -500}, {1180, 240}, {720, 240}}},
		{"hay", "", 0, "", [][2]float64{{-640, 90}, {70, 90}, {60, -230}, {-220, -370}, {-600, -240}}},
		{"cover", "juniper", 0, "", [][2]float64{{-900, 420}, {-500, 430}, {-180, 460}, {-180, 680}, {-900, 680}}},
		{"cover", "juniper", 0, "", [][2]float64{{60, 450}, {400, 430}, {400, 680}, {60, 690}}},
		{"cover", "willows", 0, "", [][2]float64{{-760, -348}, {-690, -343}, {-560, -375}, {-540, -470}, {-760, -490}}},
		{"cover", "willows", 0, "", [][2]float64{{848, -187}, {893, -240}, {908, -318}, {906, -350}, {960, -350}, {950, -240}, {880, -178}}},
		{"breaks", "the breaks", 0, "", [][2]float64{{-950, 250}, {-700, 310}, {-520, 340}, {-320, 300}, {-186, 263}, {-90, 300}, {20, 328}, {140, 392}, {260, 410}, {410, 470}, {600, 500}, {790, 560}}},
		{"stream", "Kettle Fork, dry in places", 0, "", [][2]float64{{-980, -420}, {-800, -352}, {-700, -336}, {-660, -330}, {-500, -400}, {-280, -420}, {-100, -330}, {60, -300}, {240, -340}, {470, -190}, {700, -180}, {842, -184}, {900, -250}, {1180, -210}}},
		{"stream", "the south draw", 0, "", [][2]float64{{900, -250}, {902, -333}, {960, -430}}},
		{"public_road", "Quarry Road", 0, "", [][2]float64{{420, -900}, {450, -620}, {470, -380}, {430, -120}, {426, 120}, {470, 330}, {520, 700}}},
		{"two_track", "", 0, "", [][2]float64{{-930, 60}, {-640, 105}, {-260, 118}, {60, 108}, {300, 140}, {428, 100}}},
		{"two_track", "", 0, "", [][2]float64{{440, 60}, {560, 90}, {660, 20}, {840, -60}, {1000, -40}}},
		{"fence", "", 0, "", [][2]float64{{-960, 125}, {-300, 128}, {196, 126}}},
		{"fence", "", 0, "", [][2]float64{{224, 126}, {424, 128}}},
		{"fence", "", 0, "", [][2]float64{{60, 300}, {200, 300}}},
		{"fence", "", 0, "", [][2]float64{{210, 300}, {400, 302}}},
		{"fence", "", 0, "", [][2]float64{{92, -860}, {96, -340}, {92, 120}}},
		{"travel_way", "", 1400, "", [][2]float64{{-900, 200}, {-640, 260}, {-420, 300}, {-180, 262}, {60, 330}, {210, 345}, {420, 420}, {640, 470}}},
		{"travel_way", "", 900, "", [][2]float64{{-180, 262}, {-150, 60}, {-260, -140}, {-260, -480}, {-300, -640}}},
		{"travel_way", "", 1200, "", [][2]float64{{210, 345}, {212, 130}, {150, -80}, {30, -290}}},
		{"travel_way", "", 700, "", [][2]float64{{700, -180}, {840, -180}, {1000, -230}, {1160, -330}}},
		{"travel_way", "", 800, "", [][2]float64{{-900, -560}, {-700, -600}, {-540, -620}, {-320, -600}, {-260, -480}}},
		{"gate", "gate gap", 0, "", [][2]float64{{205, 296}}},
		{"creek_crossing", "", 0, "", [][2]float64{{-702, -335}}},
		{"culvert", "", 0, "", [][2]float64{{841, -183}}},
		{"culvert", "", 0, "", [][2]float64{{901, -332}}},
		{"saddle", "", 0, "", [][2]float64{{-590, 395}}},
		{"bale_row", "", 0, "", [][2]float64{{-460, -95}}},
		{"lone_tree", "", 0, "", [][2]float64{{-40, 190}}},
		{"log", "", 0, "", [][2]float64{{-520, 470}}},
		{"pond_edge", "", 0, "", [][2]float64{{1008, 62}}},
		{"pond", "", 0, "", [][2]float64{{1020, 40}, {1090, 30}, {1120, 90}, {1060, 130}, {1020, 100}}},
		{"dwelling", "ranch house", 0, "", [][2]float64{{330, -760}}},
		{"livestock", "winter feed ground", 0, "", [][2]float64{{130, -520}, {380, -520}, {380, -680}, {130, -680}}},
		{"seen_from", "from the road", 0, "", [][2]float64{{432, 20}}},
		{"others_set", "somebody's set, pulled in November", 0, "", [][2]float64{{700, 400}}},
	}
}

func (m *maker) land(propertyID map[string]string, drawn time.Time) {
	for i, t := range land() {
		f := line.Feature{ID: m.id(drawn.Add(time.Duration(i) * time.Second)), LineID: m.season.Line.ID, Kind: t.kind, Name: t.name, WidthMm: t.width, MadeAt: drawn}
		for _, p := range t.at {
			lat, lon := onGlobe(p[1], p[0])
			f.Points = append(f.Points, [2]float64{lon, lat})
		}
		if id, ok := propertyID[t.property]; ok {
			f.PropertyID = &id
		}
		m.season.Features = append(m.season.Features, f)
	}
	for _, fall := range []struct {
		kind  line.FallKind
		ended time.Time
	}{{"snow", at(time.November, 12, 21, 0)}, {"rain", at(time.November, 20, 16, 0)}} {
		m.season.Falls = append(m.season.Falls, line.Fall{ID: m.id(fall.ended), LineID: m.season.Line.ID, Kind: fall.kind, Ended: fall.ended})
	}
}

// seen is a sign of the script: at a spot, or some metres from it.
type seen struct {
	spot        string
	east, north float64
	what        line.SignKind
	animal      string
	age         line.SignAge
	when        time.Time
	direction   float64 // degrees, 0 for none
	count       int
	note        string
}

func signs() []seen {
	return []seen{
		{"Ditch mouth", -50, -40, "scat", "coyote", "week", at(time.October, 22, 16, 30), 0, 2, "on the ditch bank"},
		{"Stack yard", 45, -45, "tracks", "coyote", "last_night", at(time.October, 23, 8, 10), 200, 2, "both ways along the stack"},
		{"Foot of the breaks", -60, 35, "tracks", "bobcat", "three_days", at(time.October, 25, 9, 0), 85, 1, "along the foot of the breaks, toward the east"},
		{"West saddle", -40, 40, "scratched", "coyote", "week", at(time.October, 25, 11, 10), 0, 1, "kicked up beside a juniper"},
		{"Gate gap", 2, -3, "fence_gap", "red_fox", "older", at(time.October, 29, 15, 20), 0, 1, "hair on the lowest wire, weeds clear"},
		{"Juniper edge", 6, -5, "scat", "bobcat", "", at(time.October, 28, 12, 20), 0, 2, "under a juniper, scratched over"},
		{"Two-track bend", 45, 30, "scat", "coyote", "three_days", at(time.November, 4, 11, 45), 0, 1, "in the bend of the two-track"},
		{"Creek crossing", 35, -45, "tracks", "raccoon", "last_night", at(time.November, 6, 8, 30), 90, 3, "in the mud on both sides"},
		{"Bale row", 50, -35, "kill", "red_fox", "last_night", at(time.November, 13, 7, 50), 0, 1, "a vole, eaten on the fresh snow"},
		{"Breaks trail junction", -45, 30, "tracks", "coyote", "last_night", at(time.November, 13, 9, 15), 270, 2, "two, over the new snow"},
		{"Juniper edge", 40, 45, "tracks", "bobcat", "last_night", at(time.November, 14, 10, 5), 60, 1, "from juniper to juniper"},
		{"South culvert", -40, -45, "tracks", "grey_fox", "three_days", at(time.November, 18, 9, 30), 180, 1, ""},
		{"Pit rim", -40, -45, "den", line.Unsure, "older", at(time.November, 19, 14, 0), 0, 1, "badger or coyote, not used now"},
		{"Pond edge", -50, -40, "none", line.Unsure, "last_night", at(time.November, 25, 8, 40), 0, 0, "mud all round, nothing has walked on it"},
		{"Foot of the breaks", -40, -45, "scat", line.Unsure, "week", at(time.December, 2, 8, 20), 0, 1, "fox or coyote"},
		{"Two-track bend", -60, -30, "tracks", "coyote", "last_night", at(time.December, 2, 8, 50), 235, 1, "crossing toward the hay bottom"},
		{"North culvert", 40, 45, "tracks", "bobcat", "last_night", at(time.December, 3, 9, 40), 10, 1, "in and out of the north pipe"},
		{"Breaks trail junction", 70, 25, "tracks", "coyote", "last_night", at(time.December, 3, 10, 10), 80, 1, "along the foot of the breaks"},
	}
}

func (m *maker) sign(s seen) line.Sign {
	spot := m.season.Spots[0]
	for _, one := range m.season.Spots {
		if one.Name == s.spot {
			spot = one
		}
	}
	north, east := offset(spot)
	x := line.Sign{
		ID: m.id(s.when), LineID: m.season.Line.ID, SpotID: &spot.ID, What: s.what, Animal: s.animal, Age: s.age,
		Count: s.count, SeenAt: s.when, Holds: "well", Note: s.note, Candidates: []string{},
	}
	x.LatDeg, x.LonDeg = onGlobe(north+s.north, east+s.east)
	if s.direction != 0 {
		x.DirectionDeg = &s.direction
	}
	if s.animal == line.Unsure && s.what == "scat" {
		x.Candidates = []string{"red_fox", "coyote"}
	}
	for _, fall := range m.season.Falls {
		if fall.Ended.Before(s.when) && s.when.Sub(fall.Ended) < 48*time.Hour {
			x.YoungerThan = &fall.ID
		}
	}
	return x
}
