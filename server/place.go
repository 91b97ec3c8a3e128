package server

import (
	"fmt"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/ground"
	"oldburrow/core/refuse"
	"oldburrow/instrument/gps"
)

// Receiver is where places are read from. StandIn says that it is made up.
type Receiver struct {
	Address string
	StandIn bool
}

// PlaceRead is a place averaged from what a receiver said.
type PlaceRead struct {
	ground.Average
	Fixes   int  `json:"fixes"`
	NoFix   int  `json:"noFix"`
	Damaged int  `json:"damaged"`
	StandIn bool `json:"standIn"`
}

const (
	longestRead = 10.0 // seconds
	fewestFixes = 3
	// widestSpreadM is how far places may lie about their middle that are averaged.
	widestSpreadM = 15.0
)

// place listens to the receiver for some seconds and averages.
func (s *Server) place(c *gin.Context) {
	if s.GPS == nil {
		answer(c, Problem{Title: "No receiver", Status: http.StatusNotFound, Detail: "No GPS receiver is connected: start with --gps, use this device's own place, or touch the map."})
		return
	}
	var ask struct {
		Seconds float64 `form:"seconds"`
	}
	if err := c.ShouldBindQuery(&ask); err != nil || !(ask.Seconds > 0 && ask.Seconds <= longestRead) {
		fail(c, refuse.Field("seconds", "must be above 0 and at most %g", longestRead))
		return
	}
	reading, err := gps.Read(c.Request.Context(), s.GPS.Address, time.Duration(ask.Seconds*float64(time.Second)))
	if err != nil {
		answer(c, Problem{Title: "The receiver does not answer", Status: http.StatusNotFound, Detail: "The GPS receiver cannot be reached. Is it on and connected?"})
		return
	}
	if len(reading.Fixes) < fewestFixes {
		answer(c, Problem{Title: "No fix", Status: http.StatusNotFound, Detail: fmt.Sprintf("The receiver gave %d usable places in %g seconds, %d without a fix, %d damaged. Stand clear of cover and try again.", len(reading.Fixes), ask.Seconds, reading.NoFix, reading.Damaged)})
		return
	}
	average, err := ground.AverageOf(reading.Fixes)
	if err != nil {
		fail(c, err)
		return
	}
	if average.SpreadM > widestSpreadM {
		answer(c, Problem{Title: "No fix", Status: http.StatusNotFound, Detail: fmt.Sprintf("The receiver's places lie %.0f m about their middle, too far to be one place. Stand still, clear of cover, and try again.", average.SpreadM)})
		return
	}
	reply(c, PlaceRead{Average: average, Fixes: len(reading.Fixes), NoFix: reading.NoFix, Damaged: reading.Damaged, StandIn: s.GPS.StandIn})
}
