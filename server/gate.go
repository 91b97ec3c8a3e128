package server

import (
	"errors"
	"io/fs"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

// visitor is who asks: at the table, or by a session. Where nobody came in, there is no role.
type visitor struct {
	role    line.Role
	person  line.Person
	session string // its id; blank at the table
}

// forwarded tells whether somebody stands between: such a request does not come from the table.
func forwarded(h http.Header) bool {
	for name := range h {
		if name == "Forwarded" || name == "Via" || strings.HasPrefix(name, "X-Forwarded-") || name == "X-Real-Ip" {
			return true
		}
	}
	return false
}

// atTable tells whether a request comes from this machine, and was meant for it.
func atTable(r *http.Request) bool {
	return isLoopback(hostOf(r.RemoteAddr)) && isLoopback(hostOf(r.Host)) && !forwarded(r.Header)
}

// secret sends who comes plainly from elsewhere to where nobody listens in; what tells a phone whom to trust is told plainly.
func (s *Server) secret(c *gin.Context) {
	if c.Request.TLS != nil || atTable(c.Request) || strings.HasPrefix(c.Request.URL.Path, certificatePath) {
		return
	}
	if s.Door == nil {
		answer(c, Problem{Title: "Not this address", Status: http.StatusForbidden, Detail: "The program answers only on its own machine. Start it with --listen and a passphrase to reach it from another one."})
		return
	}
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead {
		to := *c.Request.URL
		to.Scheme, to.Host = "https", c.Request.Host
		c.Redirect(http.StatusPermanentRedirect, to.String())
		c.Abort()
		return
	}
	answer(c, Problem{Title: "Not in the open", Status: http.StatusBadRequest, Detail: "Nothing is taken over a connection that others can read. Use https."})
}

const cookieName = "__Host-burrow"

// comesIn finds out who asks, and lets nobody in who has neither a seat at the table nor a session: a page leads to the door, all else is
// refused.
func (s *Server) comesIn(c *gin.Context) {
	v, code, err := s.visitorOf(c)
	if err != nil {
		fail(c, err)
		return
	}
	c.Set("visitor", v)
	if v.role != "" || s.isOpen(c.Request) {
		return
	}
	if path := c.Request.URL.Path; c.Request.Method == http.MethodGet && !strings.HasPrefix(path, "/api/") {
		c.Redirect(http.StatusSeeOther, doorPath)
		c.Abort()
		return
	}
	p := Problem{Title: "Not signed in", Code: code, Status: http.StatusUnauthorized, Detail: "Sign in first, with the passphrase or a code from the table page."}
	if code == codeEnded {
		p.Detail = "This device was signed out. Sign in again; what was entered here and not sent yet is kept."
	}
	answer(c, p)
}

// Why somebody is not let in: there never was a session, or it ended.
const (
	codeSession = "session"
	codeEnded   = "ended"
	codeRole    = "role"
)

const (
	doorPath        = "/door/"
	certificatePath = "/certificate"
	signInPath      = "/api/sign-in"
	codePath        = "/api/code"
)

// isOpen tells whether a request is for what stands open: the door itself, the program's own scripts and pictures, which tell nothing of a
// line, and what says whom to trust.
func (s *Server) isOpen(r *http.Request) bool {
	path := r.URL.Path
	if slices.Contains([]string{"/healthz", signInPath, codePath}, path) || strings.HasPrefix(path, doorPath) || strings.HasPrefix(path, certificatePath) {
		return true
	}
	file := strings.TrimPrefix(path, "/")
	info, err := fs.Stat(s.Dist, file)
	return err == nil && !info.IsDir() && file != "index.html"
}

func (s *Server) visitorOf(c *gin.Context) (v visitor, code string, err error) {
	if atTable(c.Request) {
		return visitor{role: line.Owner}, "", nil
	}
	cookie, err := c.Cookie(cookieName)
	if err != nil || cookie == "" {
		return v, codeSession, nil
	}
	is, person, err := s.Store.Session(digest(cookie), s.wall())
	switch {
	case errors.Is(err, store.ErrUnknown):
		return v, codeEnded, nil
	case err != nil:
		return v, "", err
	}
	return visitor{role: person.Role, person: person, session: is.ID}, "", nil
}

func visits(c *gin.Context) visitor {
	v, _ := c.Get("visitor")
	is, _ := v.(visitor)
	return is
}

// may is which groups of routes a role may ask for.
var may = map[line.Role][]Group{
	line.Owner:   {Open, Read, Enter, Plan, Own},
	line.Partner: {Open, Read, Enter, Plan},
	line.Helper:  {Open, Read, Enter},
	"":           {Open},
}

// only lets in whose a group of routes is.
func only(group Group) gin.HandlerFunc {
	return func(c *gin.Context) {
		if !slices.Contains(may[visits(c).role], group) {
			answer(c, Problem{Title: "Not yours", Code: codeRole, Status: http.StatusForbidden, Detail: "Who came in as you did may not do this. Ask the owner of the line."})
		}
	}
}

// by is whose a write is.
func by(c *gin.Context) store.By {
	v := visits(c)
	return store.By{Who: v.person.ID, OwnOnly: v.role == line.Helper}
}
