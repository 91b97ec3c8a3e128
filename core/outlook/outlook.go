// Package outlook says what the weather did and will do to a line: its nights, the frost at its spots, the cover and the
// scent of its sets, and on which side of a travel way an attractor belongs. It reads hours of a record and a forecast, and
// lays over them what was read by hand. Depths in mm, distances in m, directions in degrees from north.
package outlook

import (
	"math"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/core/scent"
	"oldburrow/core/weather"
)

// Line is everything that an outlook is drawn from. Standing are the makes that stand; Observed and Expected are hours in order.
type Line struct {
	Line     line.Line
	Now      time.Time
	Zone     *time.Location
	Spots    []line.Spot
	Features []line.Feature
	Standing []Standing
	Readings []line.Reading
	Observed []weather.Hour
	Expected []weather.Hour
}

// Standing is a set that stands, with its newest make.
type Standing struct {
	Set   line.Set
	Make  line.Make
	Looks []line.Visit // at this make, in their order
}

// Outlook is what is known of a line's weather and what it does. Where no hour is known, Known is false and the rest is empty.
type Outlook struct {
	Known     bool           `json:"known"`
	LastNight *weather.Night `json:"lastNight" jsonschema:"nullable"`
	Tonight   *weather.Night `json:"tonight" jsonschema:"nullable"`
	SnowCm    *float64       `json:"snowCm" jsonschema:"nullable"` // as it lies now
	Nights    int            `json:"nights"`                       // of the record that the wind is counted from
	NightWind []int          `json:"nightWind"`                    // hours by sector, north first
	TonightBy []int          `json:"tonightWind"`                  // likewise
	Spots     []Spot         `json:"spots"`
	Sets      []Set          `json:"sets"`
}

// Spot is the frost at a spot, now and on the coming mornings; Probed says that a probe corrects it.
type Spot struct {
	SpotID   string    `json:"spotId"`
	DepthMm  float64   `json:"depthMm"`
	Known    bool      `json:"known"` // else nothing is said of its depth: the weather of too many days is missing
	Probed   bool      `json:"probed"`
	Unsaid   bool      `json:"unsaid"` // nothing can be computed before its soil, wetness and surface are said
	Mornings []Morning `json:"mornings"`
	// Underfoot is how the ground is there today.
	Underfoot layout.Underfoot `json:"underfoot"`
}

// Morning is the frost expected on a morning.
type Morning struct {
	Date    string  `json:"date"`
	DepthMm float64 `json:"depthMm"`
}

// Set is what the night did to a set: why its cover may be locked, and over which share of the night hours its scent
// lies across the travel way, by the record and tonight.
type Set struct {
	SetID   string  `json:"setId"`
	Locked  string  `json:"locked"`
	Swirls  bool    `json:"swirls"`
	Way     bool    `json:"way"` // where its travel way runs is known; without it Record and Tonight say nothing
	Record  float64 `json:"record"`
	Tonight float64 `json:"tonight"`
	// WrongSide: its scent seldom lay across its way, and wind can be played there. FrozenIn: its anchor is held until thaw.
	WrongSide bool `json:"wrongSide"`
	FrozenIn  bool `json:"frozenIn"`
	// FreezesIn is the day before the frost of the coming mornings takes its anchor; blank where it is held already, or none does.
	FreezesIn string      `json:"freezesIn"`
	Run       *anchor.Run `json:"run" jsonschema:"nullable"` // of its drag
	Beds      []BedNow    `json:"beds"`
}

// Figures of the outlook, each a habit or a judgement.
const (
	recordNights = 10
	plainScentM  = 25.0
	baitScentM   = 40.0
	passesM      = 45.0 // how near a travel way must pass a spot to be the one that it stands at
	straightM    = 80.0 // where none does, the way is taken to run straight this far either way ...
	stepM        = 2.0  // ... this far in front of the set
	seldom       = 0.35 // share of night hours under which a set stands on the wrong side
	frozenInMm   = 50.0 // frost that holds an anchor
	pointedM     = 60.0 // how far from the way one may point
	alongM       = 60.0 // and how far along it a place is looked for
)

// sky is a line with its hours put together and corrected.
type sky struct {
	Line
	hours []weather.Hour
}

// Of draws the outlook of a line. It refuses spots whose soil is not known.
func Of(l Line) (Outlook, error) { return l.sky().view() }

// SnowCm is how deep snow lies on the line now; nil where nothing is known of it.
func (l Line) SnowCm() *float64 { return l.sky().snowCm() }

func (w *sky) snowCm() *float64 {
	var found *float64
	for _, h := range w.hours {
		if !h.At.After(w.Now) {
			found = &h.SnowDepthCm
		}
	}
	return found
}

// sky puts record and forecast together and lays over them what was read by hand.
func (l Line) sky() *sky {
	w := &sky{Line: l, hours: append([]weather.Hour{}, l.Observed...)}
	for _, h := range l.Expected {
		if n := len(w.hours); n == 0 || h.At.After(w.hours[n-1].At) {
			w.hours = append(w.hours, h)
		}
	}
	for _, r := range w.Readings {
		switch r.Kind {
		case line.SnowDepth:
			w.hours = weather.Deepen(w.hours, r.At, r.Value)
		case line.WindShift:
			_, tonight := w.nights(r.At)
			for i, h := range w.hours {
				if !h.At.Before(tonight[0].Add(-time.Hour)) && h.At.Before(tonight[1]) {
					w.hours[i].WindFromDeg = r.Value
				}
			}
		}
	}
	return w
}

// nights are the windows of the night that ends on the morning of a time's local day, and of the one that begins that evening.
func (w *sky) nights(at time.Time) (last, next [2]time.Time) {
	window := func(evening time.Time) [2]time.Time {
		dusk, dawn := evening.Add(6*time.Hour), evening.Add(20*time.Hour) // where the sun does not set or rise
		if light, err := round.Daylight(evening, w.Zone, w.Line.Line.LatDeg, w.Line.Line.LonDeg); err == nil && light.LastLight != nil {
			dusk = *light.LastLight
		}
		if light, err := round.Daylight(evening.AddDate(0, 0, 1), w.Zone, w.Line.Line.LatDeg, w.Line.Line.LonDeg); err == nil && light.Sunrise != nil {
			dawn = light.Sunrise.Add(time.Hour)
		}
		return [2]time.Time{dusk, dawn}
	}
	y, m, d := at.In(w.Zone).Date()
	noon := time.Date(y, m, d, 12, 0, 0, 0, w.Zone)
	return window(noon.AddDate(0, 0, -1)), window(noon)
}

func (w *sky) view() (Outlook, error) {
	v := Outlook{Known: len(w.hours) > 0, Spots: []Spot{}, Sets: []Set{}, NightWind: []int{}, TonightBy: []int{}}
	if !v.Known {
		return v, nil
	}
	last, next := w.nights(w.Now)
	v.LastNight, v.Tonight = weather.NightOf(w.hours, last[0], last[1]), weather.NightOf(w.hours, next[0], next[1])
	past := w.recordOf(recordNights)
	v.Nights, v.NightWind = len(past), weather.Rose(past)
	if v.Tonight != nil {
		v.TonightBy = weather.Rose([]weather.Night{*v.Tonight})
	}
	days := weather.EveryDay(weather.Days(w.hours, w.Zone))
	v.SnowCm = w.snowCm()
	v.Spots = w.frosts(days)
	v.Sets = w.sets(v, past, days)
	return v, nil
}

// Frosts is the frost at the line's spots; none where no hour is known.
func (l Line) Frosts() []Spot {
	w := l.sky()
	if len(w.hours) == 0 {
		return nil
	}
	return w.frosts(weather.EveryDay(weather.Days(w.hours, w.Zone)))
}

func (w *sky) frosts(days []weather.Day) []Spot {
	spots, snow := []Spot{}, w.snowCm()
	for _, spot := range w.Spots {
		found := w.frost(spot, days)
		found.Underfoot = layout.On(found.FrostMm(), snow)
		spots = append(spots, found)
	}
	return spots
}

// FrostMm is how deep it is; nil where that is not known.
func (s Spot) FrostMm() *float64 {
	if !s.Known {
		return nil
	}
	return &s.DepthMm
}

// recordOf gives the last nights of the record, the one that has just ended included.
func (w *sky) recordOf(n int) []weather.Night {
	var past []weather.Night
	for i := range n {
		last, _ := w.nights(w.Now.AddDate(0, 0, -i))
		if night := weather.NightOf(w.hours, last[0], last[1]); night != nil {
			past = append(past, *night)
		}
	}
	return past
}

// Figures of what is known of frost; judgements.
const (
	hoursOfDay  = 18   // of 24 make a day known
	gapDays     = 2    // unknown in a row: then the depth is not known any more
	thawCDays   = 30.0 // degree-days above zero after which no frost is left, whatever there was
	halvingDays = 14.0 // in which half of a probe's correction is forgotten
)

func (w *sky) sets(v Outlook, past []weather.Night, days []weather.Day) []Set {
	spots := map[string]line.Spot{}
	for _, s := range w.Spots {
		spots[s.ID] = s
	}
	frost := map[string]Spot{}
	for _, f := range v.Spots {
		frost[f.SpotID] = f
	}
	found := []Set{}
	record := scent.Plumes(weather.Winds(past), 0, 0)
	var tonight []scent.Plume
	if v.Tonight != nil {
		tonight = scent.Plumes(weather.Winds([]weather.Night{*v.Tonight}), 0, 0)
	}
	for _, standing := range w.Standing {
		set, made := standing.Set, standing.Make
		spot, known := spots[set.SpotID]
		if !known {
			continue
		}
		one := Set{SetID: set.ID, Swirls: spot.Swirls, Beds: w.beds(standing, spot, v.Tonight, frost[spot.ID].Underfoot)}
		if v.LastNight != nil {
			one.Locked = locked(made.Layout, *v.LastNight)
			if one.Locked == "" && w.stoodWet(standing, spot, *v.LastNight) {
				one.Locked = "froze"
			}
		}
		reach := reachM(made.Layout)
		at := w.plane().At(spot.PlaceOf(made.Layout))
		if way := w.travelAt(at, spot, made.Layout.FacingDeg); way != nil {
			pieces := scent.Pieces(way)
			one.Way, one.Record, one.Tonight = true, shareOf(at, pieces, reach, record), shareOf(at, pieces, reach, tonight)
		}
		one.WrongSide = one.Way && !one.Swirls && len(record) > 0 && one.Record < seldom
		one.FrozenIn = made.Layout.Drives() && frost[spot.ID].DepthMm > frozenInMm
		one.Run, _ = w.RunOf(made.Layout) // what stands was checked when it was built
		if made.Layout.Drives() && !one.FrozenIn {
			one.FreezesIn = freezesIn(frost[spot.ID])
		}
		found = append(found, one)
	}
	return found
}

// locked is what a night did to the cover of a set, blank if nothing: to that of any trap, in any layer.
func locked(l layout.Layout, n weather.Night) string {
	for _, rig := range l.Rigs {
		for _, layer := range rig.Cover {
			if why := weather.Locks(layer.Material, n); why != "" {
				return why
			}
		}
	}
	return ""
}

func (l Line) plane() ground.Plane {
	return ground.PlaneAbout(ground.Fix{LatDeg: l.Line.LatDeg, LonDeg: l.Line.LonDeg})
}

// travelAt is the travel way drawn nearest to a spot, or a straight one along the spot's bearing, a step in front of a set
// that is known to face it; nil when neither is known.
func (w *sky) travelAt(at [2]float64, spot line.Spot, facingDeg *float64) [][2]float64 {
	if way, off := w.nearestWay(at); off <= passesM {
		return way
	}
	if facingDeg == nil || spot.TravelBearingDeg == nil {
		return nil
	}
	fx, fy := bearing(*facingDeg)
	dx, dy := bearing(*spot.TravelBearingDeg)
	x, y := at[0]+stepM*fx, at[1]+stepM*fy
	return [][2]float64{{x - straightM*dx, y - straightM*dy}, {x + straightM*dx, y + straightM*dy}}
}

func shareOf(at [2]float64, pieces [][2]float64, reach float64, plumes []scent.Plume) float64 {
	if len(plumes) == 0 {
		return 0
	}
	return scent.Share(at, pieces, reach, plumes)
}

func (w *sky) nearestWay(at [2]float64) (way [][2]float64, off float64) {
	off = 1e9
	for _, f := range w.Features {
		if f.Kind != "travel_way" {
			continue
		}
		points := make([][2]float64, len(f.Points))
		for i, p := range f.Points {
			points[i] = w.plane().At(ground.Fix{LatDeg: p[1], LonDeg: p[0]})
		}
		if d := ground.FromWay(at, points); d < off {
			way, off = points, d
		}
	}
	return way, off
}

// bearing is a direction as a unit vector, east and north.
func bearing(deg float64) (east, north float64) {
	return math.Sin(deg * math.Pi / 180), math.Cos(deg * math.Pi / 180)
}

func turned(deg, by float64) float64 { return math.Mod(deg+by, 360) }
