package ground

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"oldburrow/core/refuse"
)

var (
	number    = regexp.MustCompile(`\d+(?:\.\d+)?`)
	compass   = regexp.MustCompile(`(?i)[nsew]`)
	wholeText = regexp.MustCompile(`(?i)^[\s\d.,;:+\-−°'’′"”″nsewlatog]*$`)
)

// ReadCoordinates reads a place as people have it: decimal degrees, or degrees and minutes, or seconds too, with N, S, E and W
// before or after, or with a minus for south and west; the latitude first where nothing says otherwise. It refuses, under the field
// "place", what is no pair of coordinates or lies off the globe.
func ReadCoordinates(text string) (Fix, error) {
	wrong := func(says string) (Fix, error) { return Fix{}, refuse.Field("place", "%s", says) }
	const like = "write it such as 46.8, -105.3 or 46° 48' N, 105° 18' W"
	text = strings.NewReplacer("−", "-", "latitude", "", "longitude", "", "lat", "", "lon", "", "long", "").Replace(strings.ToLower(text))
	if strings.TrimSpace(text) == "" {
		return wrong("is missing: " + like)
	}
	if !wholeText.MatchString(text) {
		return wrong("is not a pair of coordinates: " + like)
	}
	parts := split(text)
	if len(parts) != 2 {
		return wrong("is not a pair of coordinates: " + like)
	}
	var fix Fix
	for i, part := range parts {
		deg, letter, ok := degrees(part)
		if !ok {
			return wrong("is not a pair of coordinates: " + like)
		}
		if letter == "" {
			letter = []string{"n", "e"}[i]
		}
		if strings.Contains("ns", letter) {
			fix.LatDeg = deg
		} else {
			fix.LonDeg = deg
		}
		if strings.Contains("ns", letter) && math.Abs(deg) > 90 || math.Abs(deg) > 180 {
			return wrong("lies off the globe: latitudes reach 90 degrees, longitudes 180")
		}
	}
	first, second := compass.FindString(parts[0]), compass.FindString(parts[1])
	if (first == "") != (second == "") || first != "" && strings.Contains("ns", first) == strings.Contains("ns", second) {
		return wrong("must name one of N and S, and one of E and W, or neither")
	}
	return fix, nil
}

// split cuts a text into its two coordinates: at a comma or semicolon that stands between them, at the letters, or in the middle.
func split(text string) []string {
	if parts := strings.FieldsFunc(text, func(r rune) bool { return r == ';' || r == ',' }); len(parts) == 2 {
		return parts
	}
	if at := compass.FindAllStringIndex(text, -1); len(at) == 2 {
		end := at[0][1]
		if number.FindStringIndex(text)[0] > at[0][0] { // the letters stand before
			end = at[1][0]
		}
		return []string{text[:end], text[end:]}
	}
	found := number.FindAllStringIndex(text, -1)
	if n := len(found); n == 2 || n == 4 || n == 6 {
		end := found[n/2-1][1]
		for end < len(text) && text[end] != ' ' && text[end] != '-' {
			end++
		}
		return []string{text[:end], text[end:]}
	}
	return nil
}

// degrees reads one coordinate, and the letter that it bears.
func degrees(part string) (deg float64, letter string, ok bool) {
	found := number.FindAllString(part, -1)
	letters := compass.FindAllString(part, -1)
	if len(found) < 1 || len(found) > 3 || len(letters) > 1 {
		return 0, "", false
	}
	for i, text := range found {
		v, err := strconv.ParseFloat(text, 64)
		if err != nil || i > 0 && v >= 60 {
			return 0, "", false
		}
		deg += v / math.Pow(60, float64(i))
	}
	if len(letters) == 1 {
		letter = letters[0]
	}
	if letter == "s" || letter == "w" || strings.HasPrefix(strings.TrimSpace(part), "-") {
		deg = -deg
	}
	return deg, letter, true
}
