// Package gps reads places from a receiver that speaks NMEA 0183 over TCP, and ships a stand-in that walks a made-up line.
package gps

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"oldburrow/core/ground"
)

// Errors of a sentence.
var (
	ErrChecksum = errors.New("checksum does not match")
	ErrNoFix    = errors.New("no fix")
	ErrOther    = errors.New("not a place")
)

// longestSentence is what NMEA 0183 allows, with room for receivers that do not keep to it.
const longestSentence = 160

// Parse reads one GGA or RMC sentence. It returns ErrChecksum for a damaged one, ErrNoFix for one that says so, and ErrOther
// for any other kind or form.
func Parse(sentence string) (ground.Fix, error) {
	body, sum, ok := strings.Cut(strings.TrimSpace(sentence), "*")
	if !ok || len(sentence) > longestSentence || !strings.HasPrefix(body, "$") || len(body) < 6 {
		return ground.Fix{}, ErrOther
	}
	body = body[1:]
	if fmt.Sprintf("%02X", checksum(body)) != strings.ToUpper(sum) {
		return ground.Fix{}, ErrChecksum
	}
	fields := strings.Split(body, ",")
	switch kind := fields[0]; {
	case strings.HasSuffix(kind, "GGA") && len(fields) >= 7:
		// 1 to 5 are of satellites; what is reckoned, typed in, simulated or unknown is no place that was read.
		if quality, err := strconv.Atoi(fields[6]); err != nil || quality < 1 || quality > 5 {
			return ground.Fix{}, ErrNoFix
		}
		return place(fields[2:6])
	case strings.HasSuffix(kind, "RMC") && len(fields) >= 7:
		if fields[2] != "A" || len(fields) > 12 && strings.Contains("ESMN", fields[12]) && fields[12] != "" {
			return ground.Fix{}, ErrNoFix
		}
		return place(fields[3:7])
	}
	return ground.Fix{}, ErrOther
}

// place reads "4648.1234,N,10518.5678,W".
func place(fields []string) (ground.Fix, error) {
	lat, err := degrees(fields[0], fields[1], "N", "S", 90)
	if err != nil {
		return ground.Fix{}, err
	}
	lon, err := degrees(fields[2], fields[3], "E", "W", 180)
	return ground.Fix{LatDeg: lat, LonDeg: lon}, err
}

func degrees(text, side, plus, minus string, most float64) (float64, error) {
	v, err := strconv.ParseFloat(text, 64)
	whole := math.Floor(v / 100)
	d := whole + (v-100*whole)/60
	if err != nil || v < 0 || v-100*whole >= 60 || !(d <= most) || side != plus && side != minus {
		return 0, ErrOther
	}
	if side == minus {
		d = -d
	}
	return d, nil
}

func checksum(body string) byte {
	var sum byte
	for i := range len(body) {
		sum ^= body[i]
	}
	return sum
}

// sentence writes a GGA sentence; without a fix the place is left out.
func sentence(f ground.Fix, fix bool) string {
	body := "GPGGA,,,,,,0,00,,,M,,M,,"
	if fix {
		lat, ns := minutes(f.LatDeg, "N", "S")
		lon, ew := minutes(f.LonDeg, "E", "W")
		body = fmt.Sprintf("GPGGA,125000.00,%09.4f,%s,%010.4f,%s,1,08,1.1,870.0,M,,M,,", lat, ns, lon, ew)
	}
	return fmt.Sprintf("$%s*%02X\r\n", body, checksum(body))
}

func minutes(deg float64, plus, minus string) (float64, string) {
	side := plus
	if deg < 0 {
		deg, side = -deg, minus
	}
	whole := math.Floor(deg)
	return 100*whole + (deg-whole)*60, side
}
