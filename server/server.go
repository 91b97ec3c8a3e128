// Package server is the HTTP interface: one file for each page's routes, JSON in and out, errors as problem+json, and the
// built front end.
package server

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"net/http"
	"runtime"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/strict"
	"oldburrow/instrument/weather"
	"oldburrow/store"
)

// Server answers requests about one data file. Demo is nil unless it shows the demo line.
type Server struct {
	Store *store.Store
	Clock Clock
	Demo  *DemoClock
	Dist  fs.FS
	GPS   *Receiver // nil when none is connected
	// Weather is nil when no service is asked: then weather is what was entered by hand, or not known.
	Weather *weather.Client
	Gauge   *Gauge // nil when none is connected
	// Door is nil where the program answers on its own machine alone.
	Door *Door
	// Now is the time of the world, where it is not that of this machine.
	Now func() time.Time
	// Copies says whether whole copies of the file are made by itself, night by night.
	Copies bool
	// Version says which program this is.
	Version string
	runs    *runs
	office  *office
	drawing chan struct{} // pages that are drawn up
	acted   chan struct{} // something was done
	weighs  chan string   // lines of which somebody asked what is worth doing
	copying sync.Mutex    // one copy at a time
	keeper  keeper
}

const largestBody = 1 << 20

// Handler answers every request.
func (s *Server) Handler() http.Handler { return paced(s.engine()) }

// engine builds the routes.
func (s *Server) engine() *gin.Engine {
	gin.SetMode(gin.ReleaseMode)
	s.runs, s.office, s.drawing, s.acted, s.weighs = newRuns(), newOffice(), make(chan struct{}, 2*runtime.GOMAXPROCS(0)), make(chan struct{}, 1), make(chan string, 1)
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.Use(log, gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, err any) { fail(c, fmt.Errorf("panic: %v", err)) }),
		headers, s.ownHost, ownOrigin, s.secret, s.comesIn, s.named, newRooms().enter, gzip.Gzip(gzip.DefaultCompression, gzip.WithExcludedPaths(streamed()), gzip.WithExcludedExtensions([]string{wasmKind})))
	s.mount(r)
	r.NoRoute(s.frontEnd)
	r.NoMethod(func(c *gin.Context) {
		answer(c, Problem{Title: "Not this way", Status: http.StatusMethodNotAllowed, Detail: "This address does not take " + c.Request.Method + "."})
	})
	return r
}

func headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set(ownHeader, "1")
	h.Set("Content-Security-Policy", "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; img-src 'self' data: blob:; object-src 'none'; base-uri 'self'; frame-ancestors 'none'; form-action 'self'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
}

func noStore(c *gin.Context) { c.Header("Cache-Control", "no-store") }

// frontEnd serves the built interface; any path that is no file of it is a page.
func (s *Server) frontEnd(c *gin.Context) {
	path := strings.TrimPrefix(c.Request.URL.Path, "/")
	if strings.HasPrefix(path, "api/") {
		fail(c, store.ErrUnknown)
		return
	}
	if _, err := fs.Stat(s.Dist, "index.html"); err != nil {
		c.String(http.StatusServiceUnavailable, "The interface is not built yet: run make build.\n")
		return
	}
	if strings.HasSuffix(path, wasmKind) {
		s.packed(c, path)
		return
	}
	if info, err := fs.Stat(s.Dist, path); err != nil || info.IsDir() {
		// A script or picture that is gone is gone; only what can be a page's address is the page.
		if strings.Contains(path[strings.LastIndex(path, "/")+1:], ".") {
			fail(c, store.ErrUnknown)
			return
		}
		path = "index.html"
	}
	c.Status(http.StatusOK) // gin presets 404 for a path without a route
	if strings.HasPrefix(path, "assets/") {
		c.Header("Cache-Control", forEver)
	} else {
		c.Header("Cache-Control", "no-cache")
	}
	http.ServeFileFS(c.Writer, c.Request, s.Dist, path)
}

// forEver is said of what has its own content in its name.
const forEver = "public, max-age=31536000, immutable"

// wasmKind is how what was packed when the interface was built ends: the core as a browser has it.
const wasmKind = ".wasm"

// packed serves such a file as it lies there. Every browser that can run it can unpack it.
func (s *Server) packed(c *gin.Context, path string) {
	raw, err := fs.ReadFile(s.Dist, path+".gz")
	if err != nil {
		fail(c, store.ErrUnknown)
		return
	}
	c.Header("Cache-Control", forEver)
	c.Header("Content-Encoding", "gzip")
	c.Data(http.StatusOK, "application/wasm", raw)
}

// knownLine refuses lines that the file does not hold and keeps the one it found for the route.
func (s *Server) knownLine(c *gin.Context) {
	err := s.Store.Read(c.Request.Context(), func(v store.View) error {
		l, err := v.Line(c.Param("line"))
		c.Set("line", l)
		return err
	})
	if err != nil {
		fail(c, err)
	}
}

func theLine(c *gin.Context) line.Line { return c.MustGet("line").(line.Line) }

// decode decodes the request's JSON, or answers with what is wrong with it and gives false.
func decode(c *gin.Context, into any) bool {
	raw, ok := body(c, largestBody, "request")
	if !ok {
		return false
	}
	if err := strict.Decode(raw, into); err != nil {
		fail(c, err)
		return false
	}
	return true
}

// write does a change under the request's mutation id and answers with the result.
func (s *Server) write(c *gin.Context, change func(*store.Tx) (any, error)) {
	asked, err := s.asked(c)
	asked.By = by(c)
	if err != nil {
		fail(c, err)
		return
	}
	result, err := s.Store.Write(asked, s.Clock.Now(), change)
	if err != nil {
		fail(c, err)
		return
	}
	s.wakes()
	if s.Demo != nil {
		if err := s.Demo.Keep(); err != nil {
			fail(c, err)
			return
		}
	}
	if stands, err := s.Store.Standing(); err == nil {
		s.tellStanding(c, stands)
	}
	c.Data(http.StatusOK, "application/json", result)
}

// asked is what the request says of itself: its mutation id, a digest of the whole, and what the device's clock showed.
func (s *Server) asked(c *gin.Context) (store.Asked, error) {
	a, err := clocksOf(c)
	if err != nil {
		return a, err
	}
	if a.ID = c.GetHeader("Mutation"); !line.IsID(a.ID) {
		return a, refuse.Field("Mutation", "is missing: every write carries a ULID of its own in this header")
	}
	digest := sha256.New()
	fmt.Fprintf(digest, "%s %s\n", c.Request.Method, c.Request.URL.Path)
	digest.Write(c.MustGet("body").([]byte))
	a.Digest = hex.EncodeToString(digest.Sum(nil))
	return a, nil
}

// clocksOf reads the device's own time, with what the program's was ahead of it, where a request says so.
func clocksOf(c *gin.Context) (a store.Asked, err error) {
	var p refuse.Problems
	if text := c.GetHeader("Device-Time"); text != "" {
		at, err := time.Parse(time.RFC3339, text)
		if err != nil || at.UTC().Year() > 9999 {
			p.Add("Device-Time", "is no time: write one such as 2026-12-04T13:10:00Z")
		}
		a.DeviceAt = &at
	}
	if text := c.GetHeader("Clock-Offset"); text != "" {
		ms, err := strconv.ParseInt(text, 10, 64)
		if err != nil {
			p.Add("Clock-Offset", "is no whole number of milliseconds")
		}
		a.OffsetMs = &ms
	}
	return a, p.Err()
}

// errOtherFile is what a write is refused with that was meant for another data file.
var errOtherFile = errors.New("meant for another data file")

// putOne reads a record, has it completed and checked, and keeps it.
func putOne[T any](s *Server, c *gin.Context, keep func(*store.Tx, T) (T, error), check func(*T) error) {
	var x T
	if !decode(c, &x) {
		return
	}
	if err := check(&x); err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) { return keep(t, x) })
}
