package round

import (
	"math"
	"time"

	"oldburrow/core/refuse"
)

// Light is the light of one local day. A time that does not come that day (polar day or night) is nil.
type Light struct {
	FirstLight *time.Time `json:"firstLight" jsonschema:"nullable"` // the sun 6° below the horizon: enough to walk and see a set by
	Sunrise    *time.Time `json:"sunrise" jsonschema:"nullable"`
	Sunset     *time.Time `json:"sunset" jsonschema:"nullable"`
	LastLight  *time.Time `json:"lastLight" jsonschema:"nullable"`
}

// Heights of the sun's centre, degrees: at rising (refraction and half its disc) and at the ends of civil twilight.
const (
	risingDeg   = -0.833
	twilightDeg = -6.0
)

// Daylight computes the light of the local day that t falls in at a place, after the NOAA solar formulas. It refuses a place
// that is not on the globe.
func Daylight(t time.Time, zone *time.Location, latDeg, lonDeg float64) (Light, error) {
	var p refuse.Problems
	p.Within("latDeg", latDeg, -90, 90, "°")
	p.Within("lonDeg", lonDeg, -180, 180, "°")
	if err := p.Err(); err != nil {
		return Light{}, err
	}
	y, m, d := t.In(zone).Date()
	noon := time.Date(y, m, d, 12, 0, 0, 0, zone)
	at := func(height, side float64) *time.Time { return sunAt(noon, latDeg, lonDeg, height, side) }
	return Light{
		FirstLight: at(twilightDeg, -1), Sunrise: at(risingDeg, -1),
		Sunset: at(risingDeg, 1), LastLight: at(twilightDeg, 1),
	}, nil
}

// sunAt finds when the sun's centre stands at a height before (side −1) or after (+1) the solar noon nearest to a clock's
// noon, or nil when it does not that day. Declination and equation of time are taken at the time found, and it is found anew.
func sunAt(noon time.Time, lat, lon, height, side float64) *time.Time {
	t := noon
	for range 5 {
		declination, equation := sun(t)
		cos := (sinDeg(height) - sinDeg(lat)*sinDeg(declination)) / (cosDeg(lat) * cosDeg(declination))
		if !(cos >= -1 && cos <= 1) {
			return nil
		}
		hourAngle := math.Acos(cos) * 180 / math.Pi
		t = solarNoon(noon, lon, equation).Add(minutes(side * 4 * hourAngle))
	}
	t = t.UTC().Round(time.Second)
	return &t
}

// solarNoon is the solar noon nearest to a clock's noon; equation is in minutes.
func solarNoon(noon time.Time, lon, equation float64) time.Time {
	day := noon.UTC().Truncate(24 * time.Hour)
	t := day.Add(minutes(720 - 4*lon - equation))
	for t.Sub(noon) > 12*time.Hour {
		t = t.Add(-24 * time.Hour)
	}
	for noon.Sub(t) > 12*time.Hour {
		t = t.Add(24 * time.Hour)
	}
	return t
}

// sun gives the sun's declination in degrees and the equation of time in minutes.
func sun(t time.Time) (declination, equation float64) {
	century := (float64(t.Unix())/86400 + 2440587.5 - 2451545) / 36525
	long := math.Mod(280.46646+century*(36000.76983+century*0.0003032), 360)
	anomaly := 357.52911 + century*(35999.05029-0.0001537*century)
	eccentricity := 0.016708634 - century*(0.000042037+0.0000001267*century)
	centre := sinDeg(anomaly)*(1.914602-century*(0.004817+0.000014*century)) +
		sinDeg(2*anomaly)*(0.019993-0.000101*century) + sinDeg(3*anomaly)*0.000289
	node := 125.04 - 1934.136*century
	apparent := long + centre - 0.00569 - 0.00478*sinDeg(node)
	tilt := 23 + (26+(21.448-century*(46.815+century*(0.00059-century*0.001813)))/60)/60 + 0.00256*cosDeg(node)
	declination = math.Asin(sinDeg(tilt)*sinDeg(apparent)) * 180 / math.Pi
	y := math.Pow(math.Tan(radians(tilt/2)), 2)
	equation = 4 * 180 / math.Pi * (y*sinDeg(2*long) - 2*eccentricity*sinDeg(anomaly) +
		4*eccentricity*y*sinDeg(anomaly)*cosDeg(2*long) - 0.5*y*y*sinDeg(4*long) -
		1.25*eccentricity*eccentricity*sinDeg(2*anomaly))
	return declination, equation
}

func minutes(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
func radians(deg float64) float64     { return deg * math.Pi / 180 }
func sinDeg(deg float64) float64      { return math.Sin(radians(deg)) }
func cosDeg(deg float64) float64      { return math.Cos(radians(deg)) }
