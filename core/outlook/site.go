package outlook

import (
	"math"
	"slices"
	"time"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
)

// coverM is how near cover must lie for a set to stand in it, m.
const coverM = 15.0

// covers are what a set can stand in the cover of.
var covers = []ground.FeatureKind{"cover", "breaks", "thicket_edge"}

// alike are things drawn on the map that are what a pattern asks for under another name.
var alike = map[string]string{"pond": "pond_edge"}

// SiteOf is what is known of the place of a set that lies so at a spot, by the user's word, by the map, by the sign that is there and by the
// weather, on the line's day. What was noted at the spot by hand lies at it.
func (l Line) SiteOf(set layout.Layout, spot line.Spot, signs []line.Sign) layout.Site {
	at := l.plane().At(spot.PlaceOf(set))
	place := layout.Site{
		Day: l.Now.In(l.Zone).Format(time.DateOnly), WayMm: l.wayMm(at, spot), Through: spot.Reckoned().Through, Near: l.near(at, spot, signs), InCover: l.inCover(at, spot),
		Shy: spot.Shy, KindsMet: []layout.Kind{},
	}
	if snow := l.SnowCm(); snow != nil {
		place.SnowMm = new(*snow * 10)
	}
	return place
}

// wayMm is how wide the way is at a place: as the spot says, or else as the way is drawn that passes there; nil where neither is known.
func (l Line) wayMm(at [2]float64, spot line.Spot) *float64 {
	if spot.TravelWidthMm != nil {
		return spot.TravelWidthMm
	}
	nearest := passesM
	var found *float64
	for _, f := range l.Features {
		if off := l.off(at, f); f.Kind == "travel_way" && f.WidthMm > 0 && off <= nearest {
			nearest, found = off, &f.WidthMm
		}
	}
	return found
}

// dwellingM is how near a dwelling lies whose dogs and cats come by, m: a judgement.
const dwellingM = 400.0

// Dwelling tells whether a dwelling is drawn near a place.
func (l Line) Dwelling(lies ground.Fix) bool {
	at := l.plane().At(lies)
	return slices.ContainsFunc(l.Features, func(f line.Feature) bool { return f.Kind == "dwelling" && l.off(at, f) <= dwellingM })
}

// near is what lies about a place of all that patterns ask for, the nearest of each.
func (l Line) near(at [2]float64, spot line.Spot, signs []line.Sign) []layout.Nearby {
	nearest := map[string]float64{}
	asked, most := layout.Questions(), layout.AskedWithinM()
	say := func(key string, m float64) {
		if other, ok := alike[key]; ok {
			key = other
		}
		if before, ok := nearest[key]; slices.Contains(asked, key) && m <= most && (!ok || m < before) {
			nearest[key] = m
		}
	}
	for _, f := range l.Features {
		say(string(f.Kind), l.off(at, f))
	}
	plane := l.plane()
	for _, s := range signs {
		if !s.Deleted && !s.SeenAt.After(l.Now) {
			say(string(s.What), ground.Apart(at, plane.At(ground.Fix{LatDeg: s.LatDeg, LonDeg: s.LonDeg})))
		}
	}
	for _, key := range spot.There {
		say(key, 0)
	}
	found := []layout.Nearby{}
	for _, key := range asked {
		if m, ok := nearest[key]; ok {
			found = append(found, layout.Nearby{Key: key, M: m})
		}
	}
	return found
}

// inCover tells whether a place lies in cover, or hard by it; nil where none is drawn on the line and nobody said so.
func (l Line) inCover(at [2]float64, spot line.Spot) *bool {
	is, drawn := slices.Contains(spot.There, layout.Cover), false
	for _, f := range l.Features {
		if slices.Contains(covers, f.Kind) {
			drawn = true
			is = is || l.off(at, f) <= coverM
		}
	}
	if !is && !drawn {
		return nil
	}
	return &is
}

// off is how far something drawn lies from a place, m; nought within an area.
func (l Line) off(at [2]float64, f line.Feature) float64 {
	plane := l.plane()
	points := make([][2]float64, 0, len(f.Points)+1)
	for _, p := range f.Points {
		points = append(points, plane.At(ground.Fix{LatDeg: p[1], LonDeg: p[0]}))
	}
	if len(points) == 0 {
		return math.Inf(1)
	}
	if kind, ok := ground.KindOf(f.Kind); ok && kind.Form == ground.Area {
		if ground.Within(at, points) {
			return 0
		}
		points = append(points, points[0])
	}
	return ground.Apart(at, ground.Nearest(at, points))
}
