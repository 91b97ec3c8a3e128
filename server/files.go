package server

import (
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/core/round"
	"oldburrow/core/strict"
	"oldburrow/core/tally"
	"oldburrow/exchange"
	"oldburrow/store"
)

// body reads the whole request within a limit, or answers that it is too large.
func body(c *gin.Context, limit int64, what string) ([]byte, bool) {
	raw, err := io.ReadAll(http.MaxBytesReader(c.Writer, c.Request.Body, limit))
	var large *http.MaxBytesError
	if errors.As(err, &large) {
		// What has not been read is not read any more.
		c.Header("Connection", "close")
		answer(c, Problem{Title: "Too large", Status: http.StatusRequestEntityTooLarge, Detail: fmt.Sprintf("A %s may be at most %d MB.", what, limit>>20)})
		return nil, false
	}
	if err != nil {
		answer(c, Problem{Title: "Cut off", Status: http.StatusRequestTimeout, Detail: "The request did not come whole, or too slowly. It can be sent again."})
		return nil, false
	}
	c.Set("body", raw)
	return raw, true
}

const largestUpload = 25 << 20

// preview says what each thing of a file will become; nothing is changed.
func (s *Server) preview(c *gin.Context) {
	report, ok := fileOf(c, theLine(c).Zone)
	if !ok {
		return
	}
	err := s.read(c.Request.Context(), c.Param("line"), func(r reading) error {
		have, err := r.Ground(tally.Span{})
		report.Mark(exchangeGround(r.Of, have))
		report.Doubt(r.Of)
		return err
	})
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, report)
}

// fileOf reads the file of the ground that was sent; it answers itself where that cannot be read.
func fileOf(c *gin.Context, zone string) (exchange.Report, bool) {
	raw, ok := body(c, exchange.MostBytes, "file")
	if !ok {
		return exchange.Report{}, false
	}
	report, err := reportOf(raw, zone)
	if err != nil {
		fail(c, err)
	}
	return report, err == nil
}

// reportOf reads a file of the ground, GPX or GeoJSON.
func reportOf(raw []byte, zone string) (exchange.Report, error) {
	clock, err := round.Zone(zone)
	if err == nil {
		err = exchange.Known(raw)
	}
	if err != nil {
		return exchange.Report{}, err
	}
	first := slices.IndexFunc(raw, func(b byte) bool { return b == '<' || b == '{' || b == '[' || b >= 0xFE })
	if first >= 0 && raw[first] != '{' && raw[first] != '[' {
		return exchange.ReadGPX(raw, clock)
	}
	return exchange.ReadGeoJSON(raw, clock)
}

func exchangeGround(l line.Line, g page.Ground) exchange.Ground {
	return exchange.Ground{Line: l, Properties: g.Properties, Spots: g.Spots, Signs: g.Signs, Features: g.Features}
}

// Bring is what of a file is to be taken in; Property takes spots that name none.
type Bring struct {
	Things   []exchange.Thing `json:"things"`
	Property string           `json:"property"`
}

// Brought says how many things were taken in.
type Brought struct {
	Features int `json:"features"`
	Spots    int `json:"spots"`
	Signs    int `json:"signs"`
}

// bring takes in the things of a file, all or none.
func (s *Server) bring(c *gin.Context) {
	raw, ok := body(c, 2*exchange.MostBytes, "file")
	if !ok {
		return
	}
	var b Bring
	if err := strict.Decode(raw, &b); err != nil {
		fail(c, err)
		return
	}
	l, now := theLine(c), s.Clock.Now()
	s.write(c, func(t *store.Tx) (any, error) {
		have, err := t.Properties(l.ID)
		if err != nil {
			return nil, err
		}
		return (&bringing{tx: t, line: l, now: now, animals: s.with().Animals, properties: have, fallback: b.Property}).all(b.Things)
	})
}

// files are the forms in which the ground goes out, by the name of the route.
var files = map[string]struct {
	name, kind string
	write      func(exchange.Ground) ([]byte, error)
}{
	"gpx":     {"ground.gpx", "application/gpx+xml", exchange.WriteGPX},
	"geojson": {"ground.geojson", "application/geo+json", exchange.WriteGeoJSON},
}

func (s *Server) export(c *gin.Context) {
	file, ok := files[c.Param("format")]
	if c.Param("format") == "traps" {
		ok, file.name, file.kind = true, "rack.csv", "text/csv; charset=utf-8"
	}
	done := doneFiles[c.Param("format")]
	if done != nil {
		ok, file.name, file.kind = true, c.Param("format")+".csv", "text/csv; charset=utf-8"
	}
	var raw []byte
	err := s.read(c.Request.Context(), c.Param("line"), func(r reading) error {
		if !ok {
			return store.ErrUnknown
		}
		if done != nil {
			d, err := r.done(c)
			if err == nil {
				raw, err = done(d)
			}
			return err
		}
		if file.write == nil {
			var err error
			raw, err = r.trapFile()
			return err
		}
		have, err := r.Ground(tally.Span{})
		if err == nil {
			raw, err = file.write(exchangeGround(r.Of, have))
		}
		return err
	})
	if err != nil {
		fail(c, err)
		return
	}
	download(c, file.name, file.kind, raw)
}

func download(c *gin.Context, name, kind string, raw []byte) {
	c.Header("Content-Disposition", `attachment; filename="`+name+`"`)
	c.Data(http.StatusOK, kind, raw)
}
