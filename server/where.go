package server

import (
	"math"

	"github.com/gin-gonic/gin"

	"oldburrow/core/ground"
	"oldburrow/core/refuse"
)

// middle is the middle of everything that stands in a GPX or GeoJSON file: where a line lies. On both sides of the date line that is not
// half the globe away.
func middle(c *gin.Context) {
	report, ok := fileOf(c, "UTC")
	if !ok {
		return
	}
	var lat, east float64
	var first *[2]float64
	n := 0.0
	for _, thing := range report.Things {
		for _, p := range thing.At {
			if p == [2]float64{} {
				continue // of a receiver without a fix
			}
			if first == nil {
				first = &p
			}
			lat, east, n = lat+p[1], east+turned(p[0]-first[0]), n+1
		}
	}
	if n == 0 {
		fail(c, refuse.Field("place", "is not in that file: it holds no points"))
		return
	}
	reply(c, ground.Fix{LatDeg: lat / n, LonDeg: turned(first[0] + east/n)})
}

// turned is a longitude, or how far one lies from another, the short way round: from -180 to 180 degrees.
func turned(deg float64) float64 { return math.Remainder(deg, 360) }
