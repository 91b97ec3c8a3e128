// Package weather reads the hours of a record or a forecast: what a night was like, where its wind came from, and the days
// that frost is computed from. Temperatures in °C, wind in m/s and degrees that it comes from, rain in mm, snow in cm.
package weather

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"oldburrow/core/pan"
	"oldburrow/core/refuse"
	"oldburrow/core/scent"
)

// Hour is the weather of one hour, At being its beginning.
type Hour struct {
	At          time.Time `json:"at" db:"at"`
	TempC       float64   `json:"tempC" db:"temp_c"`
	WindFromDeg float64   `json:"windFromDeg" db:"wind_from_deg"`
	WindMs      float64   `json:"windMs" db:"wind_ms"`
	RainMm      float64   `json:"rainMm" db:"rain_mm"`
	SnowCm      float64   `json:"snowCm" db:"snow_cm"`
	SnowDepthCm float64   `json:"snowDepthCm" db:"snow_depth_cm"`
}

// Check refuses what no weather is: a lying instrument or a slip of the pen.
func (h Hour) Check() error {
	var p refuse.Problems
	if h.At.IsZero() || h.At.Year() < 1900 || h.At.Year() > 2200 {
		p.Add("at", "is no time of a season")
	}
	p.Within("tempC", h.TempC, -70, 55, " °C")
	p.Within("windFromDeg", h.WindFromDeg, 0, 360, "°")
	p.Within("windMs", h.WindMs, 0, 75, " m/s")
	p.Within("rainMm", h.RainMm, 0, 150, " mm")
	p.Within("snowCm", h.SnowCm, 0, 50, " cm")
	p.Within("snowDepthCm", h.SnowDepthCm, 0, 1000, " cm")
	return p.Err()
}

// Night is what the hours from dusk to an hour after sunrise were like.
type Night struct {
	From        time.Time `json:"from"`
	To          time.Time `json:"to"`
	Hours       []Hour    `json:"hours"`
	ColdestC    float64   `json:"coldestC"`
	FrozeAgain  bool      `json:"frozeAgain"` // it was above freezing and then below
	RainMm      float64   `json:"rainMm"`
	SnowCm      float64   `json:"snowCm"`
	WindFromDeg float64   `json:"windFromDeg"` // the mean direction
	WindSteady  float64   `json:"windSteady"`  // 0: from everywhere, 1: from one side
	WindMs      float64   `json:"windMs"`
}

// NightOf sums up the hours in [from, to); nil when there are none.
func NightOf(hours []Hour, from, to time.Time) *Night {
	n := Night{From: from, To: to, Hours: []Hour{}, ColdestC: math.Inf(1)}
	east, north, warm := 0.0, 0.0, false
	for _, h := range hours {
		if h.At.Before(from.Add(-30*time.Minute)) || !h.At.Before(to) {
			continue
		}
		n.Hours = append(n.Hours, h)
		n.ColdestC = math.Min(n.ColdestC, h.TempC)
		n.FrozeAgain = n.FrozeAgain || warm && h.TempC < -0.5
		warm = warm || h.TempC > 0.5
		n.RainMm += h.RainMm
		n.SnowCm += h.SnowCm
		n.WindMs += h.WindMs
		if h.WindMs >= 0.5 {
			east += math.Sin(h.WindFromDeg * math.Pi / 180)
			north += math.Cos(h.WindFromDeg * math.Pi / 180)
		}
	}
	if len(n.Hours) == 0 {
		return nil
	}
	count := float64(len(n.Hours))
	n.WindMs /= count
	n.WindSteady = math.Hypot(east, north) / count
	n.WindFromDeg = math.Mod(math.Atan2(east, north)*180/math.Pi+360, 360)
	return &n
}

// Sectors is how many directions the wind is counted in.
const Sectors = 16

// Rose counts night hours by the sector that the wind came from, north first; still hours are left out.
func Rose(nights []Night) []int {
	counts := make([]int, Sectors)
	for _, n := range nights {
		for _, h := range n.Hours {
			if h.WindMs >= 0.5 {
				counts[int(math.Round(h.WindFromDeg/360*Sectors))%Sectors]++
			}
		}
	}
	return counts
}

// Winds puts the hours of nights the way package scent takes them, all of them to be counted.
func Winds(nights []Night) []scent.Wind {
	var winds []scent.Wind
	for _, n := range nights {
		for _, h := range n.Hours {
			winds = append(winds, scent.Wind{FromDeg: h.WindFromDeg, SpeedMs: h.WindMs})
		}
	}
	return winds
}

// Day is a local calendar day: its mean temperature and the depth of snow that lay on it.
type Day struct {
	Date   string
	MeanC  float64
	SnowCm float64
	RainMm float64
	Hours  int
}

// Days sums up the hours by local calendar day, in order. The hours must be in order.
func Days(hours []Hour, zone *time.Location) []Day {
	var days []Day
	for _, h := range hours {
		date := h.At.In(zone).Format(time.DateOnly)
		if len(days) == 0 || days[len(days)-1].Date != date {
			days = append(days, Day{Date: date})
		}
		d := &days[len(days)-1]
		d.MeanC = (d.MeanC*float64(d.Hours) + h.TempC) / float64(d.Hours+1)
		d.SnowCm = math.Max(d.SnowCm, h.SnowDepthCm)
		d.RainMm += h.RainMm
		d.Hours++
	}
	return days
}

// EveryDay puts the days that are missing between others among them, without an hour.
func EveryDay(days []Day) []Day {
	var all []Day
	for _, d := range days {
		for len(all) > 0 {
			next := dayAfter(all[len(all)-1].Date)
			if next >= d.Date {
				break
			}
			all = append(all, Day{Date: next})
		}
		all = append(all, d)
	}
	return all
}

func dayAfter(date string) string {
	day, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return "9999-12-31"
	}
	return day.AddDate(0, 0, 1).Format(time.DateOnly)
}

// UnmarshalJSON reads an hour. One without a time, a temperature or a wind is refused: what was not said is not nought. Rain
// and snow that are not named fell not.
func (h *Hour) UnmarshalJSON(raw []byte) error {
	var said struct {
		At          *time.Time `json:"at"`
		TempC       *float64   `json:"tempC"`
		WindFromDeg *float64   `json:"windFromDeg"`
		WindMs      *float64   `json:"windMs"`
		RainMm      float64    `json:"rainMm"`
		SnowCm      float64    `json:"snowCm"`
		SnowDepthCm float64    `json:"snowDepthCm"`
	}
	if err := json.Unmarshal(raw, &said); err != nil {
		return err
	}
	var p refuse.Problems
	for _, of := range []struct {
		name    string
		missing bool
	}{{"at", said.At == nil}, {"tempC", said.TempC == nil}, {"windFromDeg", said.WindFromDeg == nil}, {"windMs", said.WindMs == nil}} {
		if of.missing {
			p.Add(of.name, "is missing: every hour has one. Of the hour is known %s", fieldsOf(raw))
		}
	}
	if err := p.Err(); err != nil {
		return err
	}
	*h = Hour{said.At.UTC(), *said.TempC, *said.WindFromDeg, *said.WindMs, said.RainMm, said.SnowCm, said.SnowDepthCm}
	return nil
}

func fieldsOf(raw []byte) string {
	var fields map[string]any
	if json.Unmarshal(raw, &fields) != nil || len(fields) == 0 {
		return "nothing"
	}
	return strings.Join(slices.Sorted(maps.Keys(fields)), ", ")
}

// longestStep is how far apart readings may lie that are taken for the hours between them.
const longestStep = 3 * time.Hour

// Hourly brings readings that come more often or more seldom than every hour to hours: several in an hour are their mean, and
// what fell is added up; between two that lie up to three hours apart temperature and wind go over evenly, and what fell is
// shared out. The readings must be in order.
func Hourly(readings []Hour) []Hour {
	var hours []Hour
	n := 0.0
	for _, r := range readings {
		at := r.At.UTC().Truncate(time.Hour)
		if last := len(hours) - 1; last >= 0 && hours[last].At.Equal(at) {
			h := &hours[last]
			n++
			h.TempC, h.WindMs = h.TempC+(r.TempC-h.TempC)/n, h.WindMs+(r.WindMs-h.WindMs)/n
			h.RainMm, h.SnowCm, h.SnowDepthCm, h.WindFromDeg = h.RainMm+r.RainMm, h.SnowCm+r.SnowCm, r.SnowDepthCm, r.WindFromDeg
			continue
		}
		n = 1
		if last := len(hours) - 1; last >= 0 {
			hours = append(hours, between(hours[last], r, at)...)
			if steps := at.Sub(hours[last].At); steps > time.Hour && steps <= longestStep {
				r.RainMm, r.SnowCm = r.RainMm/steps.Hours(), r.SnowCm/steps.Hours()
			}
		}
		r.At = at
		hours = append(hours, r)
	}
	return hours
}

// between fills the hours between two readings.
func between(a, b Hour, at time.Time) []Hour {
	steps := int(at.Sub(a.At) / time.Hour)
	if steps < 2 || at.Sub(a.At) > longestStep {
		return nil
	}
	var filled []Hour
	for i := 1; i < steps; i++ {
		share := float64(i) / float64(steps)
		h := a
		h.At = a.At.Add(time.Duration(i) * time.Hour)
		h.TempC, h.WindMs = a.TempC+share*(b.TempC-a.TempC), a.WindMs+share*(b.WindMs-a.WindMs)
		h.RainMm, h.SnowCm = b.RainMm/float64(steps), b.SnowCm/float64(steps)
		filled = append(filled, h)
	}
	return filled
}

// Ordered refuses hours that are out of order, doubled, or wrong, by their number.
func Ordered(hours []Hour) error {
	var p refuse.Problems
	for i, h := range hours {
		p.Under(fmt.Sprintf("hours[%d]", i), h.Check())
		if i > 0 && !h.At.After(hours[i-1].At) {
			p.Add(fmt.Sprintf("hours[%d].at", i), "does not come after the hour before it")
		}
	}
	return p.Err()
}

// Locks says why a night can have locked a cover so that the trap could not have fired, or blank: "frozen", "crusted" or
// "snowed_under". Damp covers freeze; rain that freezes crusts all but waxed soil; snow lies over everything. Judgements.
func Locks(material pan.Material, n Night) string {
	const frozenC, crustMm, buriedCm = -1.0, 2.0, 3.0
	damp := material == pan.DampPacked || material == pan.WetSoil || material == pan.RainCrust || material == pan.FrozenSoil
	switch {
	case n.SnowCm >= buriedCm:
		return "snowed_under"
	case damp && n.ColdestC <= frozenC:
		return "frozen"
	case n.RainMm >= crustMm && n.ColdestC <= frozenC && material != pan.WaxedSoil:
		return "crusted"
	}
	return ""
}

// Deepen corrects the depth of snow from a time on by a depth measured then.
func Deepen(hours []Hour, at time.Time, depthCm float64) []Hour {
	corrected := make([]Hour, len(hours))
	copy(corrected, hours)
	by, known := 0.0, false
	for i, h := range corrected {
		if h.At.Add(time.Hour).Before(at) || h.At.Add(time.Hour).Equal(at) {
			continue
		}
		if !known {
			by, known = depthCm-h.SnowDepthCm, true
		}
		corrected[i].SnowDepthCm = math.Max(0, h.SnowDepthCm+by)
	}
	return corrected
}

// Coldest is the coldest of the hours after a time; nil where there is none.
func Coldest(hours []Hour, after time.Time) *Hour {
	var found *Hour
	for i, h := range hours {
		if h.At.After(after) && (found == nil || h.TempC < found.TempC) {
			found = &hours[i]
		}
	}
	return found
}
