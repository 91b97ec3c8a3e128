package server

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/oklog/ulid/v2"

	"oldburrow/core/gauge"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
	"oldburrow/exchange"
	gauges "oldburrow/instrument/gauge"
	"oldburrow/store"
)

// Gauge is where presses are read from. StandIn says that it is made up.
type Gauge struct {
	Address string
	StandIn bool
}

// trapStory is everything that happened to a trap, over all seasons.
func trapStory(r reading, c *gin.Context) (any, error) {
	id := c.Param("id")
	traps, err := r.Traps(r.Of.ID)
	if err != nil {
		return nil, err
	}
	if !slices.ContainsFunc(traps, func(t line.Trap) bool { return t.ID == id }) {
		return nil, store.ErrUnknown
	}
	noted, err := r.view.NotedOfTrap(r.Of.ID, id)
	if err != nil {
		return nil, err
	}
	h := shed.History{Record: line.NewRecord(r.Now, r.Zone, tally.Span{}, noted)}
	if h.Versions, err = r.view.TrapVersions(id); err != nil {
		return nil, err
	}
	if h.Checks, err = r.view.ShedChecks(id); err != nil {
		return nil, err
	}
	if h.Measurements, err = r.view.Measurements(id); err != nil {
		return nil, err
	}
	return h.Story(id)
}

func (s *Server) putTrap(c *gin.Context) {
	keep := func(t *store.Tx, x line.Trap) (line.Trap, error) { return t.PutTrap(x, s.Clock.Now()) }
	putOne(s, c, keep, func(x *line.Trap) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check(s.with().Animals)
	})
}

func (s *Server) putShedCheck(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutShedCheck, func(x *line.ShedCheck) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putMeasurement(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutMeasurement, func(x *line.Measurement) error {
		x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
		return x.Check()
	})
}

func (s *Server) putCalibration(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutCalibration, func(x *line.Calibration) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

// Ask is what the gauge is asked for: whether to zero it first; and, only of a made-up one, how hard its made-up pan is and
// what it does.
type Ask struct {
	Zero bool    `json:"zero"`
	PanN float64 `json:"panN"`
	Acts string  `json:"acts"`
}

// PressRead is a press as the gauge read it, and whether its zero had drifted.
type PressRead struct {
	gauges.Press
	Drifted bool    `json:"drifted"`
	OffN    float64 `json:"offN"` // what it reads at rest
	StandIn bool    `json:"standIn"`
}

// pressWait is how long the gauge is listened to for a press.
const pressWait = 8 * time.Second

// press reads one press. What is no reading is answered as a problem and never as a number.
func (s *Server) press(c *gin.Context) {
	if s.Gauge == nil {
		answer(c, Problem{Title: "No gauge", Status: http.StatusNotFound, Detail: "No gauge is connected: start with --gauge, or write the presses as you read them."})
		return
	}
	var ask Ask
	if !decode(c, &ask) {
		return
	}
	var commands []string
	if s.Gauge.StandIn {
		var p refuse.Problems
		p.Within("panN", ask.PanN, 1, gauge.MostN, " N")
		refuse.OneOf(&p, "acts", ask.Acts, []string{gauges.Well, gauges.Drifts, gauges.Sticks})
		if err := p.Err(); err != nil {
			fail(c, err)
			return
		}
		commands = append(commands, gauges.Command(ask.PanN, ask.Acts))
	}
	if ask.Zero {
		commands = append(commands, gauges.Zero)
	}
	found, err := gauges.Read(c.Request.Context(), s.Gauge.Address, pressWait, commands...)
	switch {
	case errors.Is(err, gauges.ErrStuck):
		answer(c, Problem{Title: "Stuck", Status: http.StatusConflict, Detail: "The gauge stopped moving under load: it is stuck, and this is no reading. Free it, zero it, and press again."})
	case errors.Is(err, gauges.ErrUnsure):
		answer(c, Problem{Title: "No reading", Status: http.StatusConflict, Detail: "A line of the gauge was lost, damaged or leapt just before the peak: this is no reading. Press again."})
	case errors.Is(err, gauges.ErrNoPress):
		answer(c, Problem{Title: "No press", Status: http.StatusConflict, Detail: fmt.Sprintf("The gauge saw no press in %.0f seconds. Press the pan until it gives way, and let go.", pressWait.Seconds())})
	case err != nil:
		answer(c, Problem{Title: "The gauge does not answer", Status: http.StatusNotFound, Detail: "The gauge cannot be reached. Is it on and connected? Write the presses as you read them."})
	default:
		reply(c, PressRead{found, found.Drifted(), found.OffN(), s.Gauge.StandIn})
	}
}

// trapFile writes the rack as a file.
func (r reading) trapFile() ([]byte, error) {
	hung, err := r.Hung()
	if err != nil {
		return nil, err
	}
	traps, says := make([]line.Trap, len(hung)), make([]exchange.TrapSays, len(hung))
	for i, h := range hung {
		traps[i], says[i] = h.Trap, trapSays(h)
	}
	return exchange.WriteTraps(traps, says)
}

func trapSays(h shed.Hung) exchange.TrapSays {
	says := exchange.TrapSays{Place: string(h.Place.Kind)}
	if h.Place.Number > 0 {
		says.Place += fmt.Sprintf(" %d", h.Place.Number)
	}
	if h.Tension != nil {
		says.TensionN, says.MeasuredAt = fmt.Sprintf("%.1f", h.Tension.MeanN), h.Tension.Measurement.At.Format(time.RFC3339)
	}
	return says
}

// RackPreview is what a file of traps would do, and what of it cannot be taken.
type RackPreview struct {
	shed.Difference
	Wrong   []exchange.WrongRow `json:"wrong"`
	Ignored []string            `json:"ignored"`
	Written exchange.Written    `json:"written"`
}

// previewTraps says what a file would do to the rack; nothing is changed.
func (s *Server) previewTraps(c *gin.Context) {
	raw, ok := body(c, largestUpload, "file")
	if !ok {
		return
	}
	var have []line.Trap
	err := s.read(c.Request.Context(), c.Param("line"), func(r reading) (err error) {
		have, err = r.Traps(r.Of.ID)
		return err
	})
	if err != nil {
		fail(c, err)
		return
	}
	file, err := exchange.ReadTraps(raw, c.Query("encoding"), have, s.with().Animals)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, RackPreview{shed.Compare(have, file.Traps), file.Wrong, file.Ignored, file.Written})
}

// TrapsToBring are the traps of a preview that are to be taken in.
type TrapsToBring struct {
	Traps []line.Trap `json:"traps"`
}

// BroughtTraps says how many were taken in.
type BroughtTraps struct {
	Traps int `json:"traps"`
}

// bringTraps takes in the traps of a file, all or none.
func (s *Server) bringTraps(c *gin.Context) {
	var b TrapsToBring
	if !decode(c, &b) {
		return
	}
	now, known := s.Clock.Now(), s.with().Animals
	for i := range b.Traps {
		x := &b.Traps[i]
		x.LineID = theLine(c).ID
		if x.ID == "" {
			x.ID = ulid.MustNew(ulid.Timestamp(now), ulid.DefaultEntropy()).String()
		}
		if err := x.Check(known); err != nil {
			var p refuse.Problems
			p.Under(fmt.Sprintf("traps[%d]", i), err)
			fail(c, p)
			return
		}
	}
	s.write(c, func(t *store.Tx) (any, error) {
		for _, x := range b.Traps {
			if _, err := t.PutTrap(x, now); err != nil {
				return nil, err
			}
		}
		return BroughtTraps{len(b.Traps)}, nil
	})
}
