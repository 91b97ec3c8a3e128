package demo

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/nights"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/round"
	"oldburrow/core/schools"
	"oldburrow/core/tally"
	"oldburrow/core/weather"
)

// What is true of the made-up country. So many pass of those whom the land and its sign promise: fewer than by the record, which takes what came
// before for sign. They stand so much farther back than elsewhere, so that so many of those step on a pan whom the drawings promise; and by the two sets
// with a story so many more pass.
const (
	truePasses  = 1.5
	trueSteps   = .6
	fartherBack = 1.12
	trueStories = 3
)

// What people do at a set by night: each morning with these chances, and so many times as often where stock is, or by a public road.
const (
	disturbs     = .002
	disturbsMore = 4
	takes        = .0005
	takesMore    = 4
	byTheRoad    = "Quarry Road section" // its feed ground lies at the road
)

// Drawing draws the nights of the season. What comes to a set hangs on its make and on the week, and is worked out once for all seeds.
type Drawing struct {
	ctx    context.Context
	frame  Season // what the draw hangs on: land, spots, signs
	zone   *time.Location
	hours  []weather.Hour
	comers map[string][]odds.Comer
	skies  map[string]nights.Night
}

// NewDrawing makes ready to draw.
func NewDrawing(ctx context.Context) (*Drawing, error) {
	zone, err := round.Zone(Zone)
	if err != nil {
		return nil, err
	}
	d := &Drawing{ctx: ctx, zone: zone, comers: map[string][]odds.Comer{}, skies: map[string]nights.Night{}}
	for t := at(time.July, 1, 0, 0); t.Before(Start()); t = t.Add(time.Hour) {
		d.hours = append(d.hours, Hour(t))
	}
	d.frame, err = build(Kept{})
	return d, err
}

// Draw draws the season of a seed, and gives what is to be kept of it. A season that cannot be lived through, as no spare trap is left, fails.
func (d *Drawing) Draw(seed uint64) (Season, Kept, error) {
	drawn := drawn{Drawing: d, kept: Kept{seed, map[string]map[string]morning{}}, at: map[string]*standsNow{}, rng: rand.New(rand.NewPCG(seed, 1))}
	season, err := build(&drawn)
	return season, drawn.kept, err
}

// drawn is a season that is being drawn.
type drawn struct {
	*Drawing
	kept Kept
	at   map[string]*standsNow
	rng  *rand.Rand // of what the core does not draw
}

// standsNow is a make of the script, and what the nights have left of it.
type standsNow struct {
	makeID string
	nights.Stand
	number uint64
	caught bool
}

// morning draws the night before a look, and keeps what the look found.
func (d *drawn) morning(p script, made line.Make, look time.Time) (morning, error) {
	now, known := d.at[p.key()]
	if !known {
		now = &standsNow{number: uint64(len(d.at) + 1)}
		d.at[p.key()] = now
	}
	if now.makeID != made.ID {
		now.makeID, now.Stand = made.ID, nights.Made(made.Layout.Baited())
	}
	comers, err := d.comersTo(p, made.Layout, look)
	if err != nil {
		return morning{}, err
	}
	over, err := d.over(p, made, look)
	if err != nil {
		return morning{}, err
	}
	evening := look.AddDate(0, 0, -1)
	set := nights.Set{Visitors: d.planted(p, made, evening, comers, now.caught), Drag: made.Layout.Anchors[0].Kind == layout.Drag}
	now.Draw(nil, set, over, d.kept.Seed, now.number, d.night(look))
	found, err := d.tell(now.Look(), set.Visitors, made.Layout)
	if err != nil {
		return morning{}, err
	}
	d.people(p, &found)
	for _, c := range slices.Concat(found.Caught, found.Dragged) {
		now.caught = now.caught || c.Species == made.Target
	}
	if found.Finding != line.FoundQuiet {
		if d.kept.Mornings[p.key()] == nil {
			d.kept.Mornings[p.key()] = map[string]morning{}
		}
		d.kept.Mornings[p.key()][look.Format(time.DateOnly)] = found
	}
	return found, nil
}

// robsFrom is on which day of November the raccoon begins to come.
const robsFrom = 5

// night numbers the nights of the season.
func (d *drawn) night(look time.Time) int {
	return tally.Nights(at(time.October, 20, 12, 0), look, d.zone)
}

// planted are the comers of a night, by what is true of the country and amiss at the set.
func (d *drawn) planted(p script, made line.Make, evening time.Time, comers []odds.Comer, caught bool) []odds.Comer {
	came := slices.Clone(comers)
	for i := range came {
		c := &came[i]
		c.Passes *= truePasses
		if !made.Layout.Blind() {
			c.Steps *= trueSteps
			c.Animal.Reach.Mean *= fartherBack
		}
		if c.Animal.Key == p.target && (p.fouled || p.robber) {
			c.Passes *= trueStories
		}
		c.Commits = c.CommitsOn(0, tally.Nights(made.BuiltAt, evening, d.zone)+1, caught)
		if p.fouled && made.Layout.Rigs[0].TrapID == trapID(fouled) {
			c.Fires = 0
		}
		if p.robber && c.Animal.Key == "raccoon" && made.Layout.Pattern == p.layout.Pattern && evening.Month() == time.November && evening.Day() >= robsFrom {
			c.Passes, c.Notices, c.Commits = 2*float64(evening.Day()%2), 1, .02
		}
	}
	return came
}

// comersTo are all that come to a set in the week of a look.
func (d *Drawing) comersTo(p script, l layout.Layout, look time.Time) ([]odds.Comer, error) {
	week := tally.Nights(p.built, look, d.zone) / 7
	key := fmt.Sprint(p.key(), l.Pattern, l.Rigs[0].TrapID, week)
	if found, known := d.comers[key]; known {
		return found, nil
	}
	evening := p.built.AddDate(0, 0, 7*week)
	q, err := d.question(p, l, evening)
	if err != nil {
		return nil, err
	}
	found, err := odds.ComersTo(d.ctx, q, 1)
	d.comers[key] = found
	return found, err
}

// visits is by how many the feet at a set are drawn.
const visits = 4000

// near is how near a sign lies to a set to count for it, m.
const near = 50.0

// question is what the core is asked of a set on an evening, by what was known of the land and its sign by then.
func (d *Drawing) question(p script, l layout.Layout, evening time.Time) (odds.Question, error) {
	drawn := d.line(evening)
	signs := slices.DeleteFunc(slices.Clone(d.frame.Signs), func(x line.Sign) bool { return x.SeenAt.After(evening) })
	plane := ground.PlaneAbout(p.spot.PlaceOf(l))
	counts := func(x line.Sign) bool {
		return x.SpotID != nil && *x.SpotID == p.spot.ID || ground.Apart(plane.At(ground.Fix{LatDeg: x.LatDeg, LonDeg: x.LonDeg}), [2]float64{}) <= near
	}
	spot, target := p.spot.Reckoned(), kind(p.target)
	c := &odds.Circumstances{Site: drawn.SiteOf(l, p.spot, signs), Night: 1, WaysMeet: *p.spot.WaysMeet, Others: map[string]odds.Presence{}}
	c.Coverage, _, _ = drawn.Coverage(l, p.spot.ID)
	for _, a := range animal.Reference {
		is := odds.Presence{About: odds.About(a, evening, drawn.WeekC())}
		if is.Sign, is.Signs = line.SignNear(signs, a.Key, counts, evening); a.Key == p.target {
			c.Sign, c.Signs = is.Sign, is.Signs
		} else {
			c.Others[a.Key] = is
		}
	}
	return odds.Question{
		Layout: l, Target: target, Animals: animal.Reference, Schools: schools.Usual(), Visits: visits, Circumstances: c,
		Soil: anchor.Soil{Kind: spot.Soil, Wetness: spot.Wetness},
	}, nil
}

// line is the demo's line as an outlook reads it at a time, with the weather until then.
func (d *Drawing) line(now time.Time) outlook.Line {
	known, _ := slices.BinarySearchFunc(d.hours, now, func(h weather.Hour, t time.Time) int { return h.At.Compare(t) })
	return outlook.Line{Line: d.frame.Line, Now: now, Zone: d.zone, Spots: d.frame.Spots, Features: d.frame.Features, Observed: d.hours[:known]}
}

// over is what the night before a look was like at a set: the first of its hours in which it freezes or something falls is the one from which a bed is
// locked that was found locked.
func (d *Drawing) over(p script, made line.Make, look time.Time) (nights.Night, error) {
	key := fmt.Sprint(p.key(), made.Layout.Pattern, look.Format(time.DateOnly))
	if found, known := d.skies[key]; known {
		return found, nil
	}
	l := d.line(look)
	l.Spots = []line.Spot{p.spot}
	l.Standing = []outlook.Standing{{Set: line.Set{ID: made.SetID, SpotID: p.spot.ID}, Make: made}}
	v, err := outlook.Of(l)
	if err != nil || v.LastNight == nil {
		return nights.Night{}, cmp.Or(err, fmt.Errorf("no weather is known of the night before %s", look))
	}
	night := v.LastNight
	found := nights.Night{
		Hours: night.To.Sub(night.From).Hours(), RainMm: night.RainMm, SnowMm: 10 * night.SnowCm,
		Tells: nights.TellsOf(p.spot.Surface, p.spot.Wetness, v.Spots[0].Underfoot),
	}
	if v.Sets[0].Locked != "" {
		found.LocksAt = new(0.0)
		for _, h := range night.Hours {
			if h.TempC < 0 || h.RainMm > 0 || h.SnowCm > 0 {
				found.LocksAt = new(math.Max(0, h.At.Sub(night.From).Hours()))
				break
			}
		}
	}
	d.skies[key] = found
	return found, nil
}

// told is what says whose a finding is.
var told = map[line.Finding]line.Evidence{
	line.FoundLooked: "scat", line.FoundRolled: "hair", line.FoundLost: "hair", line.FoundCatch: "seen", line.FoundGone: "track",
}

// tell writes up what a look saw, the gravest first.
func (d *drawn) tell(events []nights.Event, visitors []odds.Comer, l layout.Layout) (morning, error) {
	found := morning{Found: line.Found{Finding: line.FoundQuiet}}
	for _, e := range events {
		one := line.Found{Finding: e.Shows}
		var who animal.Animal
		if e.Visitor >= 0 {
			who = visitors[e.Visitor].Animal
		}
		if e.Known {
			one.Animal, one.By = who.Key, cmp.Or(told[e.Shows], "track")
		}
		switch {
		case found.Finding == line.FoundQuiet:
			found.Found = one
			if e.Shows == line.FoundLost {
				found.Trap = e.Trap
			}
		case e.Shows != line.FoundCatch && e.Shows != line.FoundGone && !slices.Contains(found.Also, one):
			found.Also = append(found.Also, one)
		}
		switch {
		case e.Shows == line.FoundCatch:
			found.Caught = append(found.Caught, d.holds(who, e.Trap, l))
		case e.Shows == line.FoundGone && e.Found:
			found.Dragged = append(found.Dragged, d.holds(who, e.Trap, l))
		case e.Shows == line.FoundStood && e.Known && found.Prints == nil:
			prints, err := e.Prints(who, l)
			if err != nil {
				return found, err
			}
			found.Prints = prints[:min(marks, len(prints))]
		}
	}
	return found, nil
}

// marks is how many prints of a visit somebody marks.
const marks = 2

// most are held by the pad.
const most = .8

func (d *drawn) holds(who animal.Animal, trap int, l layout.Layout) holding {
	h := holding{Species: who.Key, Sex: line.Sexes[d.rng.IntN(2)], Foot: line.Feet[d.rng.IntN(2)], Hold: "toe"}
	if d.rng.Float64() < most {
		h.Hold = "pad"
	}
	if len(l.Rigs) > 1 {
		h.Rigs = []int{l.Rigs[trap].Slot}
	}
	return h
}

// people draws what people did at a set by night, where nothing is held there.
func (d *drawn) people(p script, found *morning) {
	disturbed, taken := disturbs, takes
	for _, of := range d.frame.Properties {
		if of.ID == p.spot.PropertyID && of.Name == byTheRoad {
			disturbed, taken = disturbs*disturbsMore, takes*takesMore
		}
	}
	is := line.FoundQuiet
	switch roll := d.rng.Float64(); {
	case roll < taken:
		is = line.FoundTaken
	case roll < taken+disturbed:
		is = line.FoundDisturbed
	}
	if is != line.FoundQuiet && found.Finding == line.FoundQuiet {
		*found = morning{Found: line.Found{Finding: is}}
	}
}
