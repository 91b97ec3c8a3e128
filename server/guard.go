package server

import (
	"encoding/json"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/oklog/ulid/v2"

	"oldburrow/store"
)

const (
	longestUpload = 2 * time.Minute // in which a file has to be here
	mostUploads   = 3               // under way at a time
)

// longestBody is in which any other request has to be here; the tests do not wait so long.
var longestBody = 30 * time.Second

// named tells which file is open, and how many writes it has taken, with every answer that is about it. What was meant for another file, or for this one before it was restored, is not answered.
func (s *Server) named(c *gin.Context) {
	if !strings.HasPrefix(c.Request.URL.Path, "/api/") {
		return
	}
	stands, err := s.Store.Standing()
	if err != nil {
		return // what asks for it says so
	}
	s.tellStanding(c, stands)
	if meant := c.GetHeader("File"); meant != "" && meant != stands.File {
		fail(c, errOtherFile)
	}
}

// ownHeader is carried by every answer of this program, and by nothing else that may answer at its address.
const ownHeader = "Old-Burrow"

func (s *Server) tellStanding(c *gin.Context, stands store.Standing) {
	c.Header("File", stands.File)
	c.Header("Writes", strconv.Itoa(stands.Writes))
}

// ownHost refuses a Host that is neither loopback nor one under which the program is found from elsewhere: a page elsewhere that rebinds its own
// name to this machine is not answered.
func (s *Server) ownHost(c *gin.Context) {
	host := hostOf(c.Request.Host)
	if !isLoopback(host) && !s.calledSo(host) {
		answer(c, Problem{Title: "Not this address", Status: http.StatusForbidden, Detail: "The program does not answer under this name. Start it with --host and the name, when that is yours."})
	}
}

// calledSo tells whether the program is found under a name or an address from elsewhere.
func (s *Server) calledSo(host string) bool {
	if s.Door == nil {
		return false
	}
	names := s.Door.Names()
	return slices.ContainsFunc(names.Hosts, func(name string) bool { return strings.EqualFold(name, host) }) ||
		slices.ContainsFunc(names.Addresses, func(ip net.IP) bool { return ip.Equal(net.ParseIP(host)) })
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

func archiveBody(c *gin.Context) {
	carries(c, longestArchive, "application/octet-stream", "application/zip", "application/x-zip-compressed")
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

// log writes a line for each request, with an id that its answer carries too. Addresses are written without what follows the
// question mark.
func log(c *gin.Context) {
	id, begun := ulid.Make().String(), time.Now()
	c.Header("Request-Id", id)
	c.Next()
	level := slog.LevelDebug
	if status := c.Writer.Status(); status >= 500 && status != http.StatusServiceUnavailable {
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
	c.Data(http.StatusOK, jsonKind, raw)
}

const jsonKind = "application/json; charset=utf-8"
