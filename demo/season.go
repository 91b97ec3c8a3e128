// Package demo makes up the Kettle Fork line: a season of sets, looks and catches. What people do is its script; what came of it by night was drawn
// by the program's own core and is kept beside it, so that nothing that the core learns later moves it. Everything in it is invented, and it is the
// same on every machine.
package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/core/shed"
	"oldburrow/core/weather"
)

// Zone is the demo line's clock.
const Zone = "America/Denver"

// Season is the demo line as the store takes it.
type Season struct {
	Line       line.Line
	Properties []line.Property
	Spots      []line.Spot
	Features   []line.Feature
	Falls      []line.Fall
	Signs      []line.Sign
	Designs    []line.Design
	Makes      []line.Make
	Pulls      []line.Pull
	Visits     []line.Visit
	Hours      []weather.Hour

	Traps        []shed.TrapVersion
	Checks       []line.ShedCheck
	Measurements []line.Measurement
	Calibrations []line.Calibration
	Lures        []line.Lure
	Bottles      []line.Bottle
	Recipes      []line.Recipe
	KitMarks     []line.KitMark
}

// Start is when the demo's clock starts: Friday 4 December 2026, ten to six in the morning.
func Start() time.Time { return at(time.December, 4, 5, 50) }

func at(m time.Month, day, hour, minute int) time.Time {
	zone, err := round.Zone(Zone)
	if err != nil {
		panic(err) // the zone data is built in
	}
	return time.Date(2026, m, day, hour, minute, 0, 0, zone)
}

// place is a spot of the script with the set that stands there; a target of "" leaves it without one.
type place struct {
	property, name string
	north, east    float64 // metres from the line's middle
	bearing, width float64 // degrees, mm
	soil           ground.Soil
	wetness        ground.Wetness
	target         string
	built          time.Time
	lastLook       time.Time
	change         func(*layout.Layout)
}

var (
	middleLat, middleLon = 46.8, -105.3
	properties           = []struct{ name, permission, asked, until string }{
		{"Alder Slough hayfield", "shut both gates", "2026-09-12", "2027-03-31"},
		{"Upper Breaks pasture", "cattle out from November", "2026-09-12", "2027-03-31"},
		{"Quarry Road section", "keep off the feed ground", "2026-10-03", "2026-12-20"},
		{"Two Culverts", "call before driving in", "2026-10-05", ""},
	}
)

func places() []place {
	friday := Start()
	return []place{
		{"Alder Slough hayfield", "Ditch mouth", -620, -540, 75, 600, "loam", "moist", "coyote", at(time.October, 24, 14, 10), friday, nil},
		{"Alder Slough hayfield", "Stack yard", -480, -252, 20, 3000, "loam", "moist", "coyote", at(time.October, 24, 15, 40), friday, func(l *layout.Layout) {
			l.Backing, l.Anchors[0].Kind, l.Anchors[0].LengthMm, l.Rigs[0].ChainMm = "sod", layout.Drag, 0, 1830
			l.Anchors[0].Cover = "edge"
		}},
		{"Upper Breaks pasture", "Foot of the breaks", 254, -186, 85, 450, "firm_clay", "moist", "bobcat", at(time.October, 26, 13, 20), friday, func(l *layout.Layout) {
			l.Show, l.Attractors[0].Hole.AngleDeg = "subtle", 50
		}},
		{"Upper Breaks pasture", "Gate gap", 300, 205, 170, 350, "loam", "moist", "red_fox", at(time.October, 30, 16, 5), friday, func(l *layout.Layout) {
			l.Backing = "tuft"
		}},
		{"Quarry Road section", "Two-track bend", 90, 560, 115, 1500, "firm_sand", "dry", "coyote", at(time.November, 5, 14, 30), at(time.December, 3, 0, 0), func(l *layout.Layout) {
			l.Rigs[0].Cover[0].Material, l.Rigs[0].Pan.GaugeN = "peat", 16.5
		}},
		{"Two Culverts", "North culvert", -180, 840, 10, 700, "soft_clay", "wet", "", time.Time{}, time.Time{}, nil},
		{"Alder Slough hayfield", "Bale row", -150, -400, 90, 3000, "loam", "moist", "", time.Time{}, time.Time{}, nil},
		{"Alder Slough hayfield", "Creek crossing", -330, -700, 75, 900, "soft_clay", "wet", "", time.Time{}, time.Time{}, nil},
		{"Upper Breaks pasture", "West saddle", 432, -650, 160, 800, "shale", "dry", "", time.Time{}, time.Time{}, nil},
		{"Upper Breaks pasture", "Juniper edge", 470, -330, 60, 600, "shale", "dry", "", time.Time{}, time.Time{}, nil},
		{"Upper Breaks pasture", "Breaks trail junction", 318, 20, 80, 500, "firm_clay", "moist", "", time.Time{}, time.Time{}, nil},
		{"Quarry Road section", "Bone flat", -420, 560, 40, 4000, "firm_sand", "dry", "", time.Time{}, time.Time{}, nil},
		{"Quarry Road section", "Pit rim", 330, 640, 20, 1200, "loose_sand", "dry", "", time.Time{}, time.Time{}, nil},
		{"Two Culverts", "South culvert", -330, 900, 175, 700, "soft_clay", "wet", "", time.Time{}, time.Time{}, nil},
		{"Two Culverts", "Pond edge", 60, 1005, 120, 900, "muck", "wet", "", time.Time{}, time.Time{}, nil},
	}
}

// Walk is the way past the line's spots that the stand-in receiver walks.
func Walk() []ground.Fix {
	var walk []ground.Fix
	for _, p := range places() {
		lat, lon := p.at()
		walk = append(walk, ground.Fix{LatDeg: lat, LonDeg: lon})
	}
	return walk
}

// known is what is known of some spots beside where they lie.
var known = map[string]func(*line.Spot){
	"North culvert":         func(s *line.Spot) { s.Swirls = true },
	"South culvert":         func(s *line.Spot) { s.Swirls = true },
	"Ditch mouth":           func(s *line.Spot) { s.There = []string{"ditch"} },
	"Foot of the breaks":    func(s *line.Spot) { s.There = []string{"ditch"} },
	"Gate gap":              func(s *line.Spot) { s.WaysMeet = new(2) },
	"Breaks trail junction": func(s *line.Spot) { s.WaysMeet = new(3) },
	"Two-track bend": func(s *line.Spot) {
		s.Surface, s.SeenBy = "bare", "anybody on Quarry Road"
	},
	"Pit rim": func(s *line.Spot) {
		s.Shy, s.Surface = true, "bare"
		s.Met = []line.Met{{What: "others_set", Note: "an open hole, pulled", On: "2026-11-10", Kind: "dirt_hole"}}
	},
}

func (p place) at() (lat, lon float64) {
	return onGlobe(p.north, p.east)
}

// offset is how far north and east of the line's middle a spot lies, metres.
func offset(s line.Spot) (north, east float64) {
	return (s.LatDeg - middleLat) * ground.MetresPerDegree, (s.LonDeg - middleLon) * ground.MetresPerDegree * math.Cos(middleLat*math.Pi/180)
}

// onGlobe turns metres north and east of the line's middle into degrees.
func onGlobe(north, east float64) (lat, lon float64) {
	return middleLat + north/ground.MetresPerDegree, middleLon + east/(ground.MetresPerDegree*math.Cos(middleLat*math.Pi/180))
}

// maker makes up the season. Its ids come from the script's times and one seeded source, so that they never change.
type maker struct {
	rng    *rand.Rand
	nights nightly
	season Season
}

// nightly tells what a look at a make of the script found of the nights before it.
type nightly interface {
	morning(p script, made line.Make, look time.Time) (morning, error)
}

// Build makes up the season until the demo's start, as it was drawn.
func Build() (Season, error) {
	drawn, err := keptNights()
	if err != nil {
		return Season{}, err
	}
	return build(drawn)
}

func build(drawn nightly) (Season, error) {
	m := &maker{rng: rand.New(rand.NewPCG(2026, 338)), nights: drawn}
	opening := at(time.October, 20, 18, 0)
	m.season.Line = line.Line{ID: m.id(opening), Name: "Kettle Fork line", Zone: Zone, LatDeg: middleLat, LonDeg: middleLon}
	propertyID := map[string]string{}
	for i, p := range properties {
		id := m.id(opening.Add(time.Duration(i) * time.Minute))
		propertyID[p.name] = id
		m.season.Properties = append(m.season.Properties, line.Property{ID: id, LineID: m.season.Line.ID, Name: p.name, Permission: p.permission, Asked: p.asked, Until: p.until})
	}
	for i, p := range places() {
		lat, lon := p.at()
		spot := line.Spot{
			ID: m.id(opening.Add(time.Duration(10+i) * time.Minute)), LineID: m.season.Line.ID, PropertyID: propertyID[p.property], Name: p.name,
			LatDeg: lat, LonDeg: lon,
			TravelBearingDeg: new(p.bearing), TravelWidthMm: new(p.width), Soil: p.soil, Wetness: p.wetness, Surface: "grass", WaysMeet: new(1), Met: []line.Met{}, There: []string{},
		}
		if know := known[p.name]; know != nil {
			know(&spot)
		}
		m.season.Spots = append(m.season.Spots, spot)
		if p.target == "" {
			continue
		}
		if err := m.set(dirtHoleAt(i, p, spot)); err != nil {
			return m.season, fmt.Errorf("%s: %w", p.name, err)
		}
	}
	m.land(propertyID, opening.Add(time.Hour))
	for _, one := range signs() {
		m.season.Signs = append(m.season.Signs, m.sign(one))
	}
	m.shelves()
	m.nextSet("Creek crossing")
	return m.season, m.others()
}

// nextSet lays out the set that is meant to be built next, at a spot by its name.
func (m *maker) nextSet(name string) {
	for _, spot := range m.season.Spots {
		if spot.Name == name {
			design := line.Design{ID: m.id(at(time.December, 3, 19, 30)), LineID: spot.LineID, SpotID: spot.ID, Target: "coyote", Layout: dirtHole("coyote")}
			m.season.Designs = append(m.season.Designs, design)
		}
	}
}

func (m *maker) id(t time.Time) string {
	return ulid.MustNew(ulid.Timestamp(t), entropy{m.rng}).String()
}

// entropy reads bytes from the seeded source.
type entropy struct{ rng *rand.Rand }

func (e entropy) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = byte(e.rng.Uint32())
	}
	return len(p), nil
}

// script is how a set comes to stand: where, for whom, how it is made, from when until which last look; how many of the line are looked at before
// it; what it was rebuilt as after the look of a day; and what is amiss there that nobody knows of.
type script struct {
	spot            line.Spot
	target          string
	layout          layout.Layout
	built, lastLook time.Time
	before          int
	rebuilt         map[string]layout.Layout
	fouled          bool // its first trap cannot fire
	robber          bool // a raccoon comes every other night
}

// key names a set of the script: there is one of a pattern at a spot.
func (p script) key() string { return p.spot.Name + ", " + p.layout.Pattern }

// dirtHoleAt is the set of the script at a place, the i-th of the line.
func dirtHoleAt(i int, p place, spot line.Spot) script {
	l := dirtHole(p.target)
	rackTrap(11+i, &l.Rigs[0])
	if p.change != nil {
		p.change(&l)
	}
	own := script{spot: spot, target: p.target, layout: l, built: p.built, lastLook: p.lastLook, before: i, rebuilt: map[string]layout.Layout{}}
	if own.key() == locked { // the dry soil has run out
		l = l.Clone()
		l.Rigs[0].Cover[0].Material = "damp_packed"
		own.rebuilt["2026-12-03"] = l
	}
	return own
}

// remakes is how long after a look a set stands again.
const remakes = 25 * time.Minute

// set builds one set and looks at it every morning until the last look that the script allows. It is made anew where its bed was opened or its food is
// gone, and where the script says so; a trap that was carried off stands again where it was found.
func (m *maker) set(p script) error {
	setID := m.id(p.built)
	design := line.Design{ID: m.id(p.built), LineID: p.spot.LineID, SpotID: p.spot.ID, SetID: nil, Target: p.target, Layout: p.layout}
	at := len(m.season.Designs)
	m.season.Designs = append(m.season.Designs, design)
	build := func(t time.Time, follows *string) line.Make {
		l := m.season.Designs[at].Layout
		made := line.Make{
			ID: m.id(t), LineID: p.spot.LineID, SetID: setID, DesignID: design.ID, Follows: follows,
			Target: p.target, Layout: l, BuiltAt: t,
		}
		m.season.Makes = append(m.season.Makes, made)
		return made
	}
	made := build(p.built, nil)
	for day := p.built.AddDate(0, 0, 1); ; day = day.AddDate(0, 0, 1) {
		y, month, d := day.Date()
		look := time.Date(y, month, d, 6, 55+8*p.before+m.rng.IntN(6), 0, 0, p.built.Location())
		if look.After(p.lastLook) {
			return nil
		}
		found, err := m.nights.morning(p, made, look)
		if err != nil {
			return err
		}
		seen := m.looked(made, look, found)
		anew, rebuilt := p.rebuilt[day.Format(time.DateOnly)]
		if rebuilt {
			m.season.Designs[at].Layout = anew
		} else if found.Finding == line.FoundTaken {
			if m.season.Designs[at].Layout, err = m.anotherTrap(made.Layout); err != nil {
				return err
			}
		}
		if !rebuilt && !found.Finding.Facts().Ends && found.Finding != line.FoundRobbed && found.Finding != line.FoundRolled {
			continue
		}
		remade := seen.Add(remakes)
		m.season.Makes[len(m.season.Makes)-1].PulledAt = &remade
		before := made.ID
		made = build(remade, &before)
	}
}

// searched is how long the search takes for a trap that was carried off.
const searched = 2 * time.Hour

// looked writes up a morning's look, with the search for what is gone and with the check of a trap that did not hold. It gives the time at which all
// of that was done.
func (m *maker) looked(made line.Make, t time.Time, found morning) time.Time {
	visit := line.Visit{ID: m.id(t), LineID: made.LineID, MakeID: made.ID, At: t, Found: found.Found, Also: found.Also, Seen: line.Seen{Prints: found.Prints}}
	visit.Catches = m.caught(t, visit.ID, found.Caught)
	switch found.Finding {
	case line.FoundGone:
		visit.Search = &line.Search{Toward: "ne", Cover: "juniper"}
		m.season.Visits = append(m.season.Visits, visit)
		t = t.Add(searched)
		again := line.Visit{ID: m.id(t), LineID: made.LineID, MakeID: made.ID, At: t, Found: line.Found{Finding: line.FoundAgain}, Seen: line.Seen{Search: &line.Search{FarM: new(85.0), HungOn: "a juniper root"}}}
		again.Catches = m.caught(t, again.ID, found.Dragged)
		visit = again
	case line.FoundLost:
		id := made.Layout.Rigs[found.Trap].TrapID
		check := line.ShedCheck{ID: m.id(t.Add(10 * time.Minute)), LineID: made.LineID, TrapID: id, At: t.Add(10 * time.Minute), Items: []line.CheckItem{{Key: "jaws", Sound: true, Note: "hair between them, they close evenly"}, {Key: "dog", Sound: true}}}
		m.season.Checks = append(m.season.Checks, check)
	}
	m.season.Visits = append(m.season.Visits, visit)
	return t
}

// caught writes up animals that were held.
func (m *maker) caught(t time.Time, visitID string, held []holding) []line.Catch {
	catches := []line.Catch{}
	for _, h := range held {
		c := line.Catch{ID: m.id(t), VisitID: visitID, Species: h.Species, Sex: h.Sex, Foot: h.Foot, Hold: h.Hold, Rigs: append([]int{}, h.Rigs...)}
		if h.Species == "dog" {
			c.Owner = "the ranch house, told the same morning"
		}
		catches = append(catches, c)
	}
	return catches
}
