package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/shed"
)

// Large is how large a made-up line is: so many seasons, and so many sets built in each of them.
type Large struct {
	Seasons int
	Sets    int
}

// What a set of a large line has in each season, on the average.
const (
	largeMakes = 5
	largeLooks = 33
	largeSigns = 8.4
	largeTraps = 6.7 // on the rack, of all seasons
)

// Days draws a large line a day at a time, in their order, up to the demo's start: every season from the middle of October on,
// pulled at its end but for the last one. It is there to see what the tenth season costs.
func (l Large) Days(put func(at time.Time, day Season) error) error {
	d := drawing{maker: &maker{rng: rand.New(rand.NewPCG(uint64(l.Seasons), uint64(l.Sets)))}, Large: l}
	if err := d.begin(put); err != nil {
		return err
	}
	last := Start().Year()
	for year := last - l.Seasons + 1; year <= last; year++ {
		if err := d.year(year, year == last, put); err != nil {
			return fmt.Errorf("season %d: %w", year, err)
		}
	}
	return nil
}

// drawing is a large line in the making.
type drawing struct {
	*maker
	Large
	line    line.Line
	spots   []line.Spot
	traps   []line.Trap
	lures   []line.Lure
	targets []string
}

// begin draws what is there before the first season.
func (d *drawing) begin(put func(time.Time, Season) error) error {
	t := at(time.September, 1, 9, 0).AddDate(1-d.Seasons, 0, 0)
	var s Season
	d.line = line.Line{ID: d.id(t), Name: "Kettle Fork, at large", Zone: Zone, LatDeg: middleLat, LonDeg: middleLon}
	s.Line = d.line
	for i := range max(1, d.Sets/12) {
		s.Properties = append(s.Properties, line.Property{ID: d.id(t), LineID: d.line.ID, Name: fmt.Sprintf("Section %d", i+1)})
	}
	for i := range d.Sets * 3 / 2 {
		lat, lon := onGlobe(float64(i/12)*400+float64(i*37%90)-1500, float64(i%12)*420+float64(i*53%110)-2500)
		spot := line.Spot{
			ID: d.id(t), LineID: d.line.ID, PropertyID: s.Properties[i%len(s.Properties)].ID, Name: fmt.Sprintf("Place %d", i+1), LatDeg: lat, LonDeg: lon,
			TravelBearingDeg: new(float64(i * 37 % 180)), TravelWidthMm: new(700.0), WaysMeet: new(1), Soil: "loam", Wetness: "moist", Surface: "grass", Met: []line.Met{},
		}
		s.Spots = append(s.Spots, spot)
	}
	for i := range int(largeTraps * float64(d.Sets)) {
		trap := line.NewTrap()
		trap.Usual = nil
		trap.ID, trap.LineID, trap.Number, trap.Size = d.id(t), d.line.ID, i+1, "five and a half"
		s.Traps = append(s.Traps, shed.TrapVersion{At: t, Trap: trap})
		trap.Version = 1
		d.traps = append(d.traps, trap)
	}
	for i, class := range line.LureClasses {
		lure := line.Lure{ID: d.id(t), LineID: d.line.ID, Name: fmt.Sprintf("Number %d", i+1), Class: class, By: "volume", Dose: 1.5}
		s.Lures = append(s.Lures, lure)
		d.lures = append(d.lures, lure)
	}
	d.spots = s.Spots
	d.targets = []string{"coyote", "red_fox", "bobcat"}
	return put(t, s)
}

// year draws a season day by day.
func (d *drawing) year(year int, last bool, put func(time.Time, Season) error) error {
	day := time.Date(year, time.October, 15, 9, 0, 0, 0, Start().Location())
	end := time.Date(year, time.December, 4, 0, 0, 0, 0, Start().Location())
	days := int(end.Sub(day).Hours() / 24)
	sets := make([]standing, d.Sets)
	if err := put(day.AddDate(0, 0, -1), d.shedOf(day.AddDate(0, 0, -1), year)); err != nil {
		return err
	}
	for n := 0; day.Before(end); day, n = day.AddDate(0, 0, 1), n+1 {
		today := Season{Line: d.line}
		for i := range sets {
			d.at(&sets[i], &today, i, n, days, year, day.Add(time.Duration(i%120)*time.Minute))
		}
		for range int(largeSigns*float64(d.Sets)) / days {
			today.Signs = append(today.Signs, d.largeSign(day))
		}
		for _, key := range []string{"trowel", "sifter", "mat", "hammer", "driver", "gauge"} {
			today.KitMarks = append(today.KitMarks, line.KitMark{ID: d.id(day), LineID: d.line.ID, Day: day.Format(time.DateOnly), Key: key, Mark: "packed", On: true, At: day})
		}
		if err := put(day, today); err != nil {
			return err
		}
	}
	if last {
		return nil
	}
	pulled := Season{Line: d.line}
	for _, s := range sets {
		pulled.Pulls = append(pulled.Pulls, line.Pull{ID: d.id(end), LineID: d.line.ID, MakeID: s.made.ID, At: end})
	}
	return put(end, pulled)
}

// standing is a set of the season and how often it was looked at and remade.
type standing struct {
	made   line.Make
	looks  int
	remade int
}

// at builds a set in the first days, and then looks at it and remakes it as often as such a set is.
func (d *drawing) at(s *standing, today *Season, i, n, days, year int, when time.Time) {
	if n < i%10 {
		return
	}
	if n == i%10 {
		spot := d.spots[(i+year*7)%len(d.spots)]
		k := i % len(d.targets)
		l := dirtHole(d.targets[k])
		trap := d.traps[(i*3+year)%len(d.traps)]
		l.Rigs[0].TrapID, l.Rigs[0].Name = trap.ID, fmt.Sprintf("trap %d", trap.Number)
		l.Attractors[0].Smells = []layout.Smell{
			{Kind: "bait", Name: "bait", LureID: d.lures[(i+2)%len(d.lures)].ID, Place: "bottom"},
			{Kind: "lure", Name: "lure", LureID: d.lures[i%len(d.lures)].ID, Place: "lip"},
			{Kind: "urine", Name: "urine", Place: "backing"},
		}
		design := line.Design{ID: d.id(when), LineID: d.line.ID, SpotID: spot.ID, Target: d.targets[k], Layout: l}
		today.Designs = append(today.Designs, design)
		s.made = line.Make{LineID: d.line.ID, SetID: d.id(when), DesignID: design.ID, Target: d.targets[k], Layout: l}
		d.remake(s, today, when)
		return
	}
	if s.looks*days > largeLooks*n && n < days-2 {
		return
	}
	s.looks++
	look := line.Visit{ID: d.id(when), LineID: d.line.ID, MakeID: s.made.ID, At: when, Found: line.Found{Finding: line.FoundQuiet}, Catches: []line.Catch{}}
	switch roll := d.rng.Float64(); {
	case s.remade < largeMakes-1 && s.remade*days < (largeMakes-1)*n:
		s.remade++
		look.Finding = line.FoundSprung
		if roll < .5 {
			look.Finding = line.FoundCatch
			held := holding{Species: d.targets[i%len(d.targets)], Sex: line.Sexes[d.rng.IntN(2)], Foot: line.Feet[d.rng.IntN(2)], Hold: "toe"}
			if roll < .4 {
				held.Hold = "pad"
			}
			look.Catches = d.caught(when, look.ID, []holding{held})
		}
		defer d.remake(s, today, when.Add(20*time.Minute))
	case roll < .15:
		look.Finding = line.FoundPassed
	case roll < .2:
		look.Finding = line.FoundLocked
	}
	today.Visits = append(today.Visits, look)
}

func (d *drawing) remake(s *standing, today *Season, when time.Time) {
	s.made.ID, s.made.BuiltAt = d.id(when), when
	today.Makes = append(today.Makes, s.made)
}

// shedOf is what is done in the shed before a season, and the weather that was known until then and will be in it.
func (d *drawing) shedOf(t time.Time, year int) Season {
	s := Season{Line: d.line}
	for _, trap := range d.traps {
		s.Checks = append(s.Checks, line.ShedCheck{ID: d.id(t), LineID: d.line.ID, TrapID: trap.ID, At: t, Items: []line.CheckItem{{Key: "jaws", Sound: true}, {Key: "dog", Sound: d.rng.Float64() > .02}, {Key: "chain", Sound: true}}})
		mean := 18 + 4*d.rng.Float64()
		presses := []float64{mean, mean * 1.02, mean * .98}
		for i, n := range presses {
			presses[i] = math.Round(10*n) / 10 // as a gauge reads
		}
		s.Measurements = append(s.Measurements, line.Measurement{ID: d.id(t), LineID: d.line.ID, TrapID: trap.ID, At: t, Gauge: "spring scale", Factor: 1, Presses: presses})
	}
	for _, lure := range d.lures {
		s.Bottles = append(s.Bottles, line.Bottle{ID: d.id(t), LineID: d.line.ID, LureID: lure.ID, Holds: 250, OpenedAt: &t})
	}
	from := time.Date(year, time.July, 1, 0, 0, 0, 0, time.UTC)
	for at := from; at.Before(from.AddDate(0, 5, 3)); at = at.Add(time.Hour) {
		h := Hour(at.AddDate(Start().Year()-year, 0, 0))
		h.At = at
		s.Hours = append(s.Hours, h)
	}
	return s
}

func (d *drawing) largeSign(t time.Time) line.Sign {
	lat, lon := onGlobe(d.rng.Float64()*3000-1500, d.rng.Float64()*5000-2500)
	kinds := line.SignKinds
	return line.Sign{
		ID: d.id(t), LineID: d.line.ID, LatDeg: lat, LonDeg: lon, What: kinds[d.rng.IntN(len(kinds)-1)], Animal: d.targets[d.rng.IntN(len(d.targets))],
		Candidates: []string{}, Age: "last_night", Holds: "well", SeenAt: t,
	}
}
