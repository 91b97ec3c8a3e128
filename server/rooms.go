package server

import (
	"net/http"
	"runtime"
	"time"

	"github.com/gin-gonic/gin"
)

// A room has places for so many requests of a kind under way at a time, and lets so many more wait a while for one. Each kind has its
// own: whoever only reads or has something computed keeps no look out.
type room struct {
	places, queue chan struct{}
	patience      time.Duration
}

func newRoom(places, queue int, patience time.Duration) *room {
	return &room{make(chan struct{}, places), make(chan struct{}, queue), patience}
}

// rooms are those of a server. Pages are read, what is done is put, what is posted is only computed.
type rooms struct{ reads, writes, computes *room }

func newRooms() rooms {
	atOnce := 2 * runtime.GOMAXPROCS(0) // computing more at a time makes nothing quicker
	return rooms{reads: newRoom(64, 64, 3*time.Second), writes: newRoom(64, 256, 20*time.Second), computes: newRoom(atOnce, 64, 10*time.Second)}
}

// enter gives a request its place and has it leave it again; where there is none it is told to come again.
func (r rooms) enter(c *gin.Context) {
	kind := r.reads
	switch c.Request.Method {
	case http.MethodPut:
		kind = r.writes
	case http.MethodPost:
		kind = r.computes
	}
	if !kind.take(c) {
		c.Header("Retry-After", "1")
		answer(c, Problem{Title: "Too many at once", Code: codeBusy, Status: http.StatusServiceUnavailable, Detail: "The program is busy. What you entered is kept in this browser and sent again in a moment."})
		return
	}
	defer func() { <-kind.places }()
	c.Next()
}

// take waits for a place, as long as there is room to wait and anybody waits for the answer.
func (r *room) take(c *gin.Context) bool {
	select {
	case r.places <- struct{}{}:
		return true
	default:
	}
	select {
	case r.queue <- struct{}{}:
		defer func() { <-r.queue }()
	default:
		return false
	}
	late := time.NewTimer(r.patience)
	defer late.Stop()
	select {
	case r.places <- struct{}{}:
		return true
	case <-late.C:
	case <-c.Request.Context().Done():
	}
	return false
}

// few lets so many requests be under way at a time, inside their rooms.
func few(most int) gin.HandlerFunc {
	one := newRoom(most, 0, 0)
	return rooms{one, one, one}.enter
}

// readWithin is in which a client has to take in so many bytes of its answer at the least: one that never reads is cut off. The tests do
// not wait so long.
var readWithin = 20 * time.Second

const atATime = 64 << 10

// paced cuts off whoever does not read its answer.
func paced(h http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { h.ServeHTTP(pacedWriter{w}, r) })
}

// pacedWriter gives a deadline to each part of an answer. Streams and large answers may go on as long as somebody takes them in.
type pacedWriter struct{ http.ResponseWriter }

func (w pacedWriter) soon() {
	// A test's recorder has no deadline to set.
	_ = http.NewResponseController(w.ResponseWriter).SetWriteDeadline(time.Now().Add(readWithin))
}

func (w pacedWriter) WriteHeader(status int) {
	w.soon()
	w.ResponseWriter.WriteHeader(status)
}

func (w pacedWriter) Write(raw []byte) (n int, err error) {
	for begun := false; !begun || len(raw) > 0; begun = true {
		part := raw[:min(len(raw), atATime)]
		w.soon()
		wrote, err := w.ResponseWriter.Write(part)
		n += wrote
		if err != nil {
			return n, err
		}
		raw = raw[len(part):]
	}
	return n, nil
}

func (w pacedWriter) Flush() {
	w.soon()
	_ = http.NewResponseController(w.ResponseWriter).Flush()
}

func (w pacedWriter) Unwrap() http.ResponseWriter { return w.ResponseWriter }
