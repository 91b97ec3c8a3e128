// Package demo makes up the Kettle Fork line: a season of sets, looks and catches, drawn by running the program's own core
// over a seeded script. Everything in it is invented, and it is the same on every machine.
package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/footfall"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
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
			l.Backing, l.Rigs[0].Cover[0].Material = "tuft", "damp_packed"
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

// maker draws the season. Its ids come from the script's times and one seeded source, so that they never change.
type maker struct {
	rng    *rand.Rand
	season Season
}

// Build draws the season up to the demo's start.
func Build() (Season, error) {
	m := &maker{rng: rand.New(rand.NewPCG(2026, 338))}
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

// script is how a set comes to stand: where, for whom, how it is made, from when until which last look; how many of the line are
// looked at before it; what was found on days that are told and not drawn, and what it was rebuilt as after the look of a day.
type script struct {
	spot            line.Spot
	target          string
	layout          layout.Layout
	built, lastLook time.Time
	before          int
	found           map[string]line.Found
	rebuilt         map[string]layout.Layout
}

// dirtHoleAt is the set of the script at a place, the i-th of the line.
func dirtHoleAt(i int, p place, spot line.Spot) script {
	l := dirtHole(p.target)
	rackTrap(11+i, &l.Rigs[0])
	if p.change != nil {
		p.change(&l)
	}
	return script{spot: spot, target: p.target, layout: l, built: p.built, lastLook: p.lastLook, before: i}
}

// set builds one set and looks at it every morning until the last look that the script allows.
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
		visit, err := m.look(made, look)
		if err != nil {
			return err
		}
		if found, told := p.found[day.Format(time.DateOnly)]; told {
			visit.Found, visit.Catches = found, []line.Catch{}
		}
		m.season.Visits = append(m.season.Visits, visit)
		anew, rebuilt := p.rebuilt[day.Format(time.DateOnly)]
		if rebuilt {
			m.season.Designs[at].Layout = anew
		}
		if !rebuilt && !visit.Finding.Facts().Ends {
			continue
		}
		remade := look.Add(25 * time.Minute)
		m.season.Makes[len(m.season.Makes)-1].PulledAt = &remade
		before := made.ID
		made = build(remade, &before)
	}
}

// visitor is an animal of the country, and how often it comes by a spot in a night.
type visitor struct {
	species string
	passes  float64
}

var visitors = []visitor{{"coyote", .10}, {"red_fox", .05}, {"grey_fox", .02}, {"bobcat", .03}, {"raccoon", .05}, {"skunk", .03}, {"badger", .01}}

// The part of the animals that notice a set, and of those the part that commit to it; and how many are held once it fires.
const (
	notice = .7
	commit = .5
	hold   = .93
)

// look draws the night before a look and says what is found.
func (m *maker) look(made line.Make, t time.Time) (line.Visit, error) {
	visit := line.Visit{ID: m.id(t), LineID: made.LineID, MakeID: made.ID, At: t, Found: line.Found{Finding: line.FoundQuiet}, Catches: []line.Catch{}}
	if locked(t) && m.rng.Float64() < .6 {
		visit.Finding = line.FoundLocked
		return visit, nil
	}
	for _, v := range visitors {
		passes := v.passes
		if v.species == made.Target {
			passes *= 2
		}
		if m.rng.Float64() >= passes {
			continue
		}
		finding, pad, err := m.come(made.Layout, v.species)
		if err != nil {
			return visit, err
		}
		if finding == line.FoundQuiet {
			continue
		}
		visit.Found = line.Found{Finding: finding, Animal: v.species, By: told[finding]}
		if finding == line.FoundCatch {
			visit.Catches = []line.Catch{m.caught(t, visit.ID, v.species, pad)}
			return visit, nil
		}
	}
	return visit, nil
}

// told is what says whose a finding is; what is not among them is told by the track.
var told = map[line.Finding]line.Evidence{
	line.FoundPassed: "track", line.FoundLooked: "scat", line.FoundStood: "track", line.FoundStepped: "track", line.FoundDug: "track", line.FoundRobbed: "track",
	line.FoundSprung: "track", line.FoundLost: "hair", line.FoundCatch: "seen",
}

// locked tells whether the weather of the night before a look could lock a cover: the first snow and the rain that froze.
func locked(t time.Time) bool {
	y, month, d := t.Date()
	return y == 2026 && month == time.November && (d == 13 || d == 14 || d == 21)
}

// come draws one animal that comes by, and what it leaves to be found.
func (m *maker) come(l layout.Layout, species string) (finding line.Finding, pad bool, err error) {
	pick := func(chance float64, yes, no line.Finding) line.Finding {
		if m.rng.Float64() < chance {
			return yes
		}
		return no
	}
	if m.rng.Float64() >= notice {
		return pick(.4, line.FoundPassed, line.FoundQuiet), false, nil
	}
	if m.rng.Float64() >= commit {
		return pick(.5, line.FoundLooked, pick(.2, line.FoundRobbed, pick(.2, line.FoundDug, line.FoundQuiet))), false, nil
	}
	ways, err := odds.Comings(l, kind(species), 1)
	if err != nil {
		return "", false, err
	}
	in := m.way(ways).Feet
	in.Seed = m.rng.Uint64()
	feet, err := footfall.Simulate(kind(species), in)
	switch {
	case err != nil:
		return "", false, err
	case feet.Fire == 0 && feet.Step == 0:
		return line.FoundStood, false, nil
	case feet.Fire == 0:
		return line.FoundStepped, false, nil
	case m.rng.Float64() < hold:
		return line.FoundCatch, feet.PadShare == 1, nil
	}
	return pick(.6, line.FoundSprung, line.FoundLost), false, nil
}

// way draws by which of the ways to a set an animal comes.
func (m *maker) way(ways []odds.Coming) odds.Coming {
	if len(ways) == 1 {
		return ways[0]
	}
	roll := m.rng.Float64()
	for _, w := range ways[:len(ways)-1] {
		if roll -= w.Share; roll < 0 {
			return w
		}
	}
	return ways[len(ways)-1]
}

func (m *maker) caught(t time.Time, visitID, species string, pad bool) line.Catch {
	c := line.Catch{ID: m.id(t), VisitID: visitID, Species: species, Sex: line.Sexes[m.rng.IntN(2)], Foot: line.Feet[m.rng.IntN(2)], Hold: "toe", Rigs: []int{}}
	if pad {
		c.Hold = "pad"
	}
	return c
}
