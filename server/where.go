package server

import (
	"github.com/gin-gonic/gin"

	"oldburrow/core/ground"
	"oldburrow/core/refuse"
)

// Written is a place as somebody wrote it, or pasted it.
type Written struct {
	Place string `json:"place"`
}

// coordinates reads a place as people write it.
func coordinates(c *gin.Context) {
	var w Written
	if !decode(c, &w) {
		return
	}
	fix, err := ground.ReadCoordinates(w.Place)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, fix)
}

// middle is the middle of everything that stands in a GPX or GeoJSON file: where a line lies.
func middle(c *gin.Context) {
	report, ok := fileOf(c)
	if !ok {
		return
	}
	var lat, lon float64
	n := 0
	for _, thing := range report.Things {
		for _, p := range thing.At {
			lat, lon, n = lat+p[1], lon+p[0], n+1
		}
	}
	if n == 0 {
		fail(c, refuse.Field("place", "is not in that file: it holds no points"))
		return
	}
	reply(c, ground.Fix{LatDeg: lat / float64(n), LonDeg: lon / float64(n)})
}
