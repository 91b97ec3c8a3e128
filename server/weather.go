package server

import (
	"context"
	"math"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/scent"
	"oldburrow/core/weather"
	"oldburrow/store"
)

// WeatherView is what is known of a line's weather, and what it does to sets and ground. Where nothing is known, Known is
// false and what depends on it is empty.
type WeatherView struct {
	Known     bool           `json:"known"`
	Connected bool           `json:"connected"` // a service is asked
	StandIn   bool           `json:"standIn"`
	FetchedAt *time.Time     `json:"fetchedAt" jsonschema:"nullable"`
	Stale     bool           `json:"stale"`
	Trouble   string         `json:"trouble"`
	LastNight *weather.Night `json:"lastNight" jsonschema:"nullable"`
	Tonight   *weather.Night `json:"tonight" jsonschema:"nullable"`
	Nights    int            `json:"nights"`      // of the record that the wind is counted from
	NightWind []int          `json:"nightWind"`   // hours by sector, north first
	TonightBy []int          `json:"tonightWind"` // likewise
	Spots     []SpotWeather  `json:"spots"`
	Sets      []SetWeather   `json:"sets"`
	Readings  []line.Reading `json:"readings"`
}

// SpotWeather is the frost at a spot, now and on the coming mornings; Probed says that a probe corrects it.
type SpotWeather struct {
	SpotID   string    `json:"spotId"`
	DepthMm  float64   `json:"depthMm"`
	Probed   bool      `json:"probed"`
	Mornings []Morning `json:"mornings"`
}

// Morning is the frost expected on a morning.
type Morning struct {
	Date    string  `json:"date"`
	DepthMm float64 `json:"depthMm"`
}

// SetWeather is what the night did to a set: why its cover may be locked, and over which share of the night hours its scent
// lies across the travel way, by the record and tonight.
type SetWeather struct {
	SetID   string  `json:"setId"`
	Locked  string  `json:"locked"`
	Swirls  bool    `json:"swirls"`
	Record  float64 `json:"record"`
	Tonight float64 `json:"tonight"`
}

const (
	freshFor     = 30 * time.Minute
	staleAfter   = 3 * time.Hour
	recordNights = 10
	seasonBefore = 45 * 24 * time.Hour // frost needs the weeks before the first set
	longestAsked = 240 * 24 * time.Hour
	fetchFact    = "weather:"
	plainScentM  = 25.0
	baitScentM   = 40.0
)

func (s *Server) weather(c *gin.Context) {
	l := theLine(c)
	trouble := s.refresh(c.Request.Context(), l)
	w, err := s.skyOf(l)
	if err != nil {
		fail(c, err)
		return
	}
	view, err := w.view()
	if err != nil {
		fail(c, err)
		return
	}
	view.Connected, view.Trouble = s.Weather != nil, trouble
	c.JSON(http.StatusOK, view)
}

// refresh asks the service when what is kept is no longer fresh. What it cannot get is said in words; the last good weather
// stays.
func (s *Server) refresh(ctx context.Context, l line.Line) string {
	if s.Weather == nil {
		return ""
	}
	now := s.Clock.Now()
	last, _ := s.fetched(l.ID)
	if last != nil && now.Sub(*last) < freshFor && !now.Before(*last) {
		return ""
	}
	from, err := s.askFrom(l, now)
	if err != nil {
		return "The weather kept in the file cannot be read."
	}
	report, err := s.Weather.Get(ctx, l.LatDeg, l.LonDeg, from, now)
	if err != nil {
		return "The weather service gives no usable answer: " + err.Error()
	}
	err = s.Store.Keep(func(t *store.Tx) error {
		if err := t.PutHours(l.ID, report.Observed, false); err != nil {
			return err
		}
		return t.PutForecast(l.ID, report.Forecast)
	})
	if err == nil {
		mark := now.UTC().Format(time.RFC3339)
		if report.StandIn {
			mark += " stand-in"
		}
		err = s.Store.SetFact(fetchFact+l.ID, mark)
	}
	if err != nil {
		return "The weather could not be kept."
	}
	return ""
}

// askFrom is the hour from which the record still lacks something.
func (s *Server) askFrom(l line.Line, now time.Time) (time.Time, error) {
	from := now.Add(-seasonBefore)
	rec, err := s.record(l)
	if err != nil {
		return from, err
	}
	if len(rec.makes) > 0 {
		from = rec.makes[0].BuiltAt.Add(-seasonBefore)
	}
	hours, err := s.Store.Hours(l.ID, false)
	if err != nil {
		return from, err
	}
	if n := len(hours); n > 0 && hours[0].At.Before(from.Add(time.Hour)) {
		from = hours[n-1].At.Add(-6 * time.Hour)
	}
	if now.Sub(from) > longestAsked {
		from = now.Add(-longestAsked)
	}
	return from, nil
}

// fetched is when the service was last read with success, and whether it was a stand-in.
func (s *Server) fetched(lineID string) (*time.Time, bool) {
	mark, err := s.Store.Fact(fetchFact + lineID)
	if err != nil || len(mark) < len("2006-01-02T15:04:05Z") {
		return nil, false
	}
	at, err := time.Parse(time.RFC3339, mark[:20])
	if err != nil {
		return nil, false
	}
	return &at, len(mark) > 20
}

// sky is everything that a line's weather is read from.
type sky struct {
	record
	line      line.Line
	spots     []line.Spot
	features  []line.Feature
	readings  []line.Reading
	observed  []weather.Hour
	hours     []weather.Hour // observed, then forecast
	fetchedAt *time.Time
	standIn   bool
}

func (s *Server) skyOf(l line.Line) (*sky, error) {
	w := &sky{line: l}
	var err error
	if w.record, err = s.record(l); err != nil {
		return nil, err
	}
	if w.spots, err = s.Store.Spots(l.ID); err != nil {
		return nil, err
	}
	if w.features, err = s.Store.Features(l.ID); err != nil {
		return nil, err
	}
	if w.readings, err = s.Store.Readings(l.ID); err != nil {
		return nil, err
	}
	if w.observed, err = s.Store.Hours(l.ID, false); err != nil {
		return nil, err
	}
	expected, err := s.Store.Hours(l.ID, true)
	if err != nil {
		return nil, err
	}
	w.fetchedAt, w.standIn = s.fetched(l.ID)
	w.correct(expected)
	return w, nil
}

// correct puts record and forecast together and lays over them what was read by hand.
func (w *sky) correct(expected []weather.Hour) {
	w.hours = append([]weather.Hour{}, w.observed...)
	for _, h := range expected {
		if n := len(w.hours); n == 0 || h.At.After(w.hours[n-1].At) {
			w.hours = append(w.hours, h)
		}
	}
	for _, r := range w.readings {
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
}

// nights are the windows of the night that ends on the morning of a time's local day, and of the one that begins that evening.
func (w *sky) nights(at time.Time) (last, next [2]time.Time) {
	window := func(evening time.Time) [2]time.Time {
		dusk, dawn := evening.Add(6*time.Hour), evening.Add(20*time.Hour) // where the sun does not set or rise
		if light, err := round.Daylight(evening, w.zone, w.line.LatDeg, w.line.LonDeg); err == nil && light.LastLight != nil {
			dusk = *light.LastLight
		}
		if light, err := round.Daylight(evening.AddDate(0, 0, 1), w.zone, w.line.LatDeg, w.line.LonDeg); err == nil && light.Sunrise != nil {
			dawn = light.Sunrise.Add(time.Hour)
		}
		return [2]time.Time{dusk, dawn}
	}
	y, m, d := at.In(w.zone).Date()
	noon := time.Date(y, m, d, 12, 0, 0, 0, w.zone)
	return window(noon.AddDate(0, 0, -1)), window(noon)
}

func (w *sky) view() (WeatherView, error) {
	v := WeatherView{
		Known: len(w.hours) > 0, StandIn: w.standIn, FetchedAt: w.fetchedAt, Readings: append([]line.Reading{}, w.readings...),
		Spots: []SpotWeather{}, Sets: []SetWeather{}, NightWind: []int{}, TonightBy: []int{},
	}
	v.Stale = w.fetchedAt != nil && w.now.Sub(*w.fetchedAt) > staleAfter
	if !v.Known {
		return v, nil
	}
	last, next := w.nights(w.now)
	v.LastNight, v.Tonight = weather.NightOf(w.hours, last[0], last[1]), weather.NightOf(w.hours, next[0], next[1])
	past := w.recordOf(recordNights)
	v.Nights, v.NightWind = len(past), weather.Rose(past)
	if v.Tonight != nil {
		v.TonightBy = weather.Rose([]weather.Night{*v.Tonight})
	}
	for _, spot := range w.spots {
		frost, err := w.frost(spot)
		if err != nil {
			return v, err
		}
		v.Spots = append(v.Spots, frost)
	}
	v.Sets = w.sets(v, past)
	return v, nil
}

// recordOf gives the last nights of the record, the one that has just ended included.
func (w *sky) recordOf(n int) []weather.Night {
	var past []weather.Night
	for i := range n {
		last, _ := w.nights(w.now.AddDate(0, 0, -i))
		if night := weather.NightOf(w.hours, last[0], last[1]); night != nil {
			past = append(past, *night)
		}
	}
	return past
}

// frost computes the frost at a spot day by day; a probe scales what comes after it.
func (w *sky) frost(spot line.Spot) (SpotWeather, error) {
	days := weather.Days(w.hours, w.zone)
	in := ground.FrostInput{Soil: spot.Soil, Wetness: spot.Wetness, Surface: spot.Surface}
	for _, d := range days {
		in.DailyMeanC, in.SnowCm = append(in.DailyMeanC, d.MeanC), append(in.SnowCm, d.SnowCm)
	}
	depths, err := ground.FrostDays(in)
	out := SpotWeather{SpotID: spot.ID, Mornings: []Morning{}}
	if err != nil {
		return out, err
	}
	scale, today := 1.0, w.now.In(w.zone).Format(time.DateOnly)
	for i, d := range days {
		// The depth on a morning is that after the day before.
		morning := 0.0
		if i > 0 {
			morning = depths[i-1].DepthMm
		}
		for _, r := range w.readings {
			if r.Kind == line.FrostProbe && *r.SpotID == spot.ID && r.At.In(w.zone).Format(time.DateOnly) == d.Date && morning > 0 {
				scale, out.Probed = r.Value/morning, true
			}
		}
		switch {
		case d.Date == today:
			out.DepthMm = scale * morning
		case d.Date > today:
			out.Mornings = append(out.Mornings, Morning{Date: d.Date, DepthMm: scale * morning})
		}
	}
	return out, nil
}

func (w *sky) sets(v WeatherView, past []weather.Night) []SetWeather {
	spots := map[string]line.Spot{}
	for _, s := range w.spots {
		spots[s.ID] = s
	}
	found := []SetWeather{}
	record := scent.Plumes(weather.Winds(past), 0, 0)
	var tonight []scent.Plume
	if v.Tonight != nil {
		tonight = scent.Plumes(weather.Winds([]weather.Night{*v.Tonight}), 0, 0)
	}
	for _, set := range w.record.sets {
		made, ok := w.newestMake(set.ID)
		spot, known := spots[set.SpotID]
		if !ok || !known || made.PulledAt != nil {
			continue
		}
		one := SetWeather{SetID: set.ID, Swirls: spot.Swirls}
		if v.LastNight != nil {
			one.Locked = weather.Locks(made.Layout.Cover.Material, *v.LastNight)
		}
		reach := plainScentM
		if made.Layout.Attractant.Bait != "" {
			reach = baitScentM
		}
		at, pieces := w.plane().At(ground.Fix{LatDeg: spot.LatDeg, LonDeg: spot.LonDeg}), scent.Pieces(w.travelAt(spot))
		if len(record) > 0 {
			one.Record = scent.Share(at, pieces, reach, record)
		}
		if len(tonight) > 0 {
			one.Tonight = scent.Share(at, pieces, reach, tonight)
		}
		found = append(found, one)
	}
	return found
}

func (w *sky) plane() ground.Plane {
	return ground.Plane{Middle: ground.Fix{LatDeg: w.line.LatDeg, LonDeg: w.line.LonDeg}}
}

// passesM is how near a travel way must pass a spot to be the one that it stands at.
const passesM = 45.0

// travelAt is the travel way drawn nearest to a spot, or a straight one through it along its bearing.
func (w *sky) travelAt(spot line.Spot) [][2]float64 {
	at := w.plane().At(ground.Fix{LatDeg: spot.LatDeg, LonDeg: spot.LonDeg})
	if way, off := w.nearestWay(at); off <= passesM {
		return way
	}
	dx, dy := bearing(spot.TravelBearingDeg)
	const long = 80
	return [][2]float64{{at[0] - long*dx, at[1] - long*dy}, {at[0] + long*dx, at[1] + long*dy}}
}

func (w *sky) nearestWay(at [2]float64) (way [][2]float64, off float64) {
	off = 1e9
	for _, f := range w.features {
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

// PlaceQuestion asks where beside a travel way an attractor belongs: near a place, with a class of scent.
type PlaceQuestion struct {
	LatDeg float64 `json:"latDeg"`
	LonDeg float64 `json:"lonDeg"`
	Class  string  `json:"class"`
}

// PlaceAnswer is the best place on each side of the way, the better first; BearingDeg is the way's there.
type PlaceAnswer struct {
	Sides  []PlaceSide `json:"sides"`
	Nights int         `json:"nights"`
}

// PlaceSide is one side's best place. Compass says which side of the way it is, degrees from north.
type PlaceSide struct {
	ground.Fix
	CompassDeg float64 `json:"compassDeg"`
	FacingDeg  float64 `json:"facingDeg"`
	BearingDeg float64 `json:"bearingDeg"`
	OffM       float64 `json:"offM"`
	Record     float64 `json:"record"`
	Tonight    float64 `json:"tonight"`
}

const (
	pointedM = 60.0 // how far from the way one may point
	alongM   = 60.0 // and how far along it a place is looked for
)

func (s *Server) placeIt(c *gin.Context) {
	var q PlaceQuestion
	if !read(c, &q) {
		return
	}
	reach, ok := scent.Ranges[q.Class]
	if !ok {
		fail(c, refuse.Field("class", "%q is not a class of scent: choose gland, bait, curiosity, musk, call or urine", q.Class))
		return
	}
	w, err := s.skyOf(theLine(c))
	if err != nil {
		fail(c, err)
		return
	}
	found, err := w.placeIt(q, reach)
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, found)
}

func (w *sky) placeIt(q PlaceQuestion, reach float64) (PlaceAnswer, error) {
	at := w.plane().At(ground.Fix{LatDeg: q.LatDeg, LonDeg: q.LonDeg})
	way, off := w.nearestWay(at)
	if off > pointedM {
		return PlaceAnswer{}, refuse.Field("latDeg", "is not at a travel way: draw one, then point at it")
	}
	past := w.recordOf(recordNights)
	search := scent.Search{Travel: way, Near: at, AlongM: alongM, RangeM: reach, Record: scent.Plumes(weather.Winds(past), 0, 0)}
	if _, next := w.nights(w.now); len(w.hours) > 0 {
		if night := weather.NightOf(w.hours, next[0], next[1]); night != nil {
			search.Tonight = scent.Plumes(weather.Winds([]weather.Night{*night}), 0, 0)
		}
	}
	sides, err := scent.Best(search)
	if err != nil {
		return PlaceAnswer{}, err
	}
	answer := PlaceAnswer{Nights: len(past), Sides: []PlaceSide{}}
	for _, side := range sides {
		one := PlaceSide{Fix: w.plane().Fix(side.At), FacingDeg: side.FacingDeg, OffM: side.OffM, Record: side.Record, Tonight: side.Tonight}
		one.CompassDeg = turned(side.FacingDeg, 180)
		one.BearingDeg = turned(side.FacingDeg, 90)
		answer.Sides = append(answer.Sides, one)
	}
	if len(answer.Sides) == 2 && answer.Sides[1].Record+answer.Sides[1].Tonight > answer.Sides[0].Record+answer.Sides[0].Tonight {
		answer.Sides[0], answer.Sides[1] = answer.Sides[1], answer.Sides[0]
	}
	return answer, nil
}

func (s *Server) putReading(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutReading, func(x *line.Reading) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check(s.Clock.Now())
	})
}

// LogPreview is what a weather log holds: the hours that can be taken, and what is wrong with which rows.
type LogPreview struct {
	Hours []weather.Hour `json:"hours"`
	Wrong []WrongRow     `json:"wrong"`
}

// WrongRow is a row of a log that cannot be taken.
type WrongRow struct {
	Row  int    `json:"row"`
	Says string `json:"says"`
}

// previewLog reads an own weather log; nothing is changed.
func (s *Server) previewLog(c *gin.Context) {
	raw, ok := body(c, largestUpload, "log")
	if !ok {
		return
	}
	zone, err := round.Zone(theLine(c).Zone)
	if err != nil {
		fail(c, err)
		return
	}
	hours, wrong, err := readLog(raw, zone, s.Clock.Now())
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, LogPreview{hours, wrong})
}

// bringLog takes in the hours of an own log over a service's.
func (s *Server) bringLog(c *gin.Context) {
	raw, ok := body(c, largestUpload, "log")
	if !ok {
		return
	}
	var b struct {
		Hours []weather.Hour `json:"hours"`
	}
	err := strict(raw, &b)
	if err == nil && len(b.Hours) == 0 {
		err = refuse.Field("hours", "are missing: the log holds none that can be taken")
	}
	if err == nil {
		err = weather.Ordered(b.Hours)
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) {
		return gin.H{"hours": len(b.Hours)}, t.PutHours(theLine(c).ID, b.Hours, true)
	})
}

// bearing is a direction as a unit vector, east and north.
func bearing(deg float64) (east, north float64) {
	return math.Sin(deg * math.Pi / 180), math.Cos(deg * math.Pi / 180)
}

func turned(deg, by float64) float64 { return math.Mod(deg+by, 360) }
