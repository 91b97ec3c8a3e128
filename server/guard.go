package server

import (
	"encoding/json"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/oklog/ulid/v2"
)

const (
	longestUpload = 2 * time.Minute // in which a file has to be here
	mostRequests  = 64              // under way at a time
	mostUploads   = 3
)

// longestBody is in which any other request has to be here; the tests do not wait so long.
var longestBody = 30 * time.Second

// ownHost refuses a Host that is neither loopback nor one that the program was told of: a page elsewhere that rebinds its own
// name to this machine is not answered.
func (s *Server) ownHost(c *gin.Context) {
	host := hostOf(c.Request.Host)
	if !isLoopback(host) && !slices.ContainsFunc(s.Hosts, func(h string) bool { return strings.EqualFold(h, host) }) {
		answer(c, Problem{Title: "Not this address", Status: http.StatusForbidden, Detail: "The program does not answer under this name. Start it with --host and the name, when that is yours."})
	}
}

func hostOf(hostport string) string {
	if host, _, err := net.SplitHostPort(hostport); err == nil {
		return host
	}
	return strings.Trim(hostport, "[]")
}

func isLoopback(host string) bool {
	ip := net.ParseIP(host)
	return strings.EqualFold(host, "localhost") || ip != nil && ip.IsLoopback()
}

// ownOrigin refuses what a page of another site asks for, but for looking: that shows it nothing.
func ownOrigin(c *gin.Context) {
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead {
		return
	}
	site, origin := c.GetHeader("Sec-Fetch-Site"), c.GetHeader("Origin")
	foreign := site != "" && site != "same-origin" && site != "none"
	if origin != "" {
		from, err := url.Parse(origin)
		foreign = foreign || err != nil || from.Scheme != "http" && from.Scheme != "https" || !strings.EqualFold(from.Host, c.Request.Host)
	}
	if foreign {
		answer(c, Problem{Title: "Not from here", Status: http.StatusForbidden, Detail: "Another site asked for this. Only the program's own pages may."})
	}
}

// jsonBody and fileBody name what a request may carry. None of it can be sent by a page of another site without asking first.
func jsonBody(c *gin.Context) { carries(c, longestBody, "application/json") }

func fileBody(c *gin.Context) {
	carries(c, longestUpload, "application/octet-stream", "application/json", "application/geo+json", "application/gpx+xml", "application/xml",
		"text/xml", "text/csv", "application/vnd.ms-excel")
}

func photoBody(c *gin.Context) {
	carries(c, longestUpload, "image/jpeg", "image/png", "image/gif", "image/webp", "application/octet-stream")
}

func carries(c *gin.Context, within time.Duration, kinds ...string) {
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead {
		return
	}
	kind, _, err := mime.ParseMediaType(c.GetHeader("Content-Type"))
	if err != nil || !slices.Contains(kinds, kind) {
		answer(c, Problem{Title: "Not in this form", Status: http.StatusUnsupportedMediaType, Detail: "The request's Content-Type must be " + strings.Join(kinds, ", ") + "."})
		return
	}
	// A body that trickles is cut off; a test's recorder has no deadline to set.
	_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Now().Add(within))
}

// few lets so many requests of a kind be under way at a time; one more is told to come again.
func few(most int) gin.HandlerFunc {
	room := make(chan struct{}, most)
	return func(c *gin.Context) {
		select {
		case room <- struct{}{}:
			defer func() { <-room }()
			c.Next()
		default:
			c.Header("Retry-After", "1")
			answer(c, Problem{Title: "Too many at once", Status: http.StatusServiceUnavailable, Detail: "The program is busy. What you entered is kept in this browser and sent again in a moment."})
		}
	}
}

// log writes a line for each request, with an id that its answer carries too. Addresses are written without what follows the
// question mark.
func log(c *gin.Context) {
	id, begun := ulid.Make().String(), time.Now()
	c.Header("Request-Id", id)
	c.Next()
	level := slog.LevelDebug
	if c.Writer.Status() >= 500 {
		level = slog.LevelWarn
	}
	slog.Log(c.Request.Context(), level, "request", "id", id, "method", c.Request.Method, "path", c.Request.URL.Path, "status", c.Writer.Status(), "bytes", c.Writer.Size(), "took", time.Since(begun).Round(time.Microsecond))
}

// reply answers with JSON. What cannot be encoded is a failure, and never an empty answer that looks well.
func reply(c *gin.Context, found any) {
	raw, err := json.Marshal(found)
	if err != nil {
		fail(c, err)
		return
	}
	c.Data(http.StatusOK, "application/json; charset=utf-8", raw)
}
