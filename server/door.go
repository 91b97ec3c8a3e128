package server

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"math"
	"net"
	"net/http"
	"net/netip"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"time"

	"github.com/gin-gonic/gin"
	"rsc.io/qr"

	"oldburrow/core/line"
	"oldburrow/core/plain"
	"oldburrow/core/refuse"
	"oldburrow/door"
	"oldburrow/store"
)

// Door is how other machines come in: whom the program vouches for itself by (nil where its owner has certificates of his own), under which
// names and addresses it is found, and on which port.
type Door struct {
	Authority *door.Authority
	Names     func() door.Names
	Port      string

	guesses door.Guesses
	codes   atomic.Int32 // wrong ones since one was right
}

// mostWrongCodes is how many wrong codes end all that are open.
const mostWrongCodes = 5

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

// SignIn is somebody with the passphrase, and how his device calls itself.
type SignIn struct {
	Passphrase string `json:"passphrase"`
	Device     string `json:"device"`
}

// Code is somebody with a code from the table page.
type Code struct {
	Code   string `json:"code"`
	Device string `json:"device"`
}

// SignedIn is who came in.
type SignedIn struct {
	Name string    `json:"name"`
	Role line.Role `json:"role"`
}

// signIn lets in who knows the passphrase, as the owner. Who is wrong again and again waits, before what he says is even looked at.
func (s *Server) signIn(c *gin.Context) {
	var in SignIn
	if !decode(c, &in) || !s.mayGuess(c) {
		return
	}
	kept, err := s.Store.Passphrase()
	if err != nil {
		fail(c, err)
		return
	}
	is, err := door.Is(in.Passphrase, kept)
	switch {
	case errors.Is(err, door.ErrBusy):
		answer(c, Problem{Title: "Too many at the door", Code: codeBusy, Status: http.StatusServiceUnavailable, Detail: "Too many try to come in at once. Try again in a moment."})
	case err != nil:
		fail(c, err)
	case !is:
		s.wrong(c, "passphrase", "is not the one that was chosen at the table")
	default:
		s.Door.guesses.Right(from(c))
		s.begin(c, func(session string) error {
			return s.Store.AddSession(store.Session{ID: session, Kind: store.OfDevice, Device: called(in.Device)}, s.wall())
		})
	}
}

// takeCode lets in who has a code that was made for him, once.
func (s *Server) takeCode(c *gin.Context) {
	var in Code
	if !decode(c, &in) || !s.mayGuess(c) {
		return
	}
	code := strings.ToUpper(strings.Join(strings.FieldsFunc(in.Code, func(r rune) bool { return r == ' ' || r == '-' }), ""))
	s.begin(c, func(session string) error {
		err := s.Store.TakeCode(digest(code), session, called(in.Device), s.wall())
		if errors.Is(err, store.ErrUnknown) {
			if s.Door.codes.Add(1) >= mostWrongCodes {
				s.Door.codes.Store(0)
				if err := s.Store.EndCodes(s.wall()); err != nil {
					return err
				}
			}
			s.wrong(c, "code", "is not one that was made at the table in the last ten minutes, or was used already")
			return nil
		}
		if err == nil {
			s.Door.codes.Store(0)
		}
		return err
	})
}

// mayGuess refuses who has to wait, and says how long.
func (s *Server) mayGuess(c *gin.Context) bool {
	if s.Door == nil {
		answer(c, Problem{Title: "There is no door", Status: http.StatusNotFound, Detail: "The program answers only on its own machine, where nothing is asked."})
		return false
	}
	wait := s.Door.guesses.Wait(from(c), s.wall())
	if wait > 0 {
		retryAfter(c, wait)
		answer(c, Problem{Title: "Not so fast", Code: codeBusy, Status: http.StatusTooManyRequests, Detail: fmt.Sprintf("That was wrong too often. Wait %d s and try again.", seconds(wait))})
	}
	return wait <= 0
}

// wrong notes a wrong guess, and says what it was.
func (s *Server) wrong(c *gin.Context, field, says string) {
	s.Door.guesses.Wrong(from(c), s.wall())
	retryAfter(c, s.Door.guesses.Wait(from(c), s.wall()))
	err := refuse.Field(field, "%s", says)
	answer(c, Problem{Title: "Not let in", Code: codeSession, Status: http.StatusUnauthorized, Detail: err.Error(), Fields: refuse.Problems{{Field: field, Says: says}}})
}

func retryAfter(c *gin.Context, wait time.Duration) {
	if wait > 0 {
		c.Header("Retry-After", strconv.Itoa(seconds(wait)))
	}
}

func seconds(wait time.Duration) int { return int(math.Ceil(wait.Seconds())) }

// begin has a session kept, and gives the device its secret.
func (s *Server) begin(c *gin.Context, keep func(session string) error) {
	token := random(32)
	if err := keep(digest(token)); err != nil {
		fail(c, err)
		return
	}
	if c.IsAborted() {
		return
	}
	_, person, err := s.Store.Session(digest(token), s.wall())
	if err != nil {
		fail(c, err)
		return
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: cookieName, Value: token, Path: "/", MaxAge: int(longestCookie.Seconds()), Secure: true, HttpOnly: true, SameSite: http.SameSiteLaxMode})
	reply(c, SignedIn{person.Name, person.Role})
}

// longestCookie is how long a browser keeps one at most.
const longestCookie = 400 * 24 * time.Hour

// signOut ends the session that asks.
func (s *Server) signOut(c *gin.Context) {
	if err := s.Store.EndSession(visits(c).session); err != nil {
		fail(c, err)
		return
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: cookieName, Path: "/", MaxAge: -1, Secure: true, HttpOnly: true, SameSite: http.SameSiteLaxMode})
	reply(c, SignedIn{})
}

func from(c *gin.Context) netip.Addr {
	address, _ := netip.ParseAddr(hostOf(c.Request.RemoteAddr)) // of none, all of them are one
	return address
}

// called is how a device calls itself, as it is listed.
func called(device string) string {
	plain.CleanAll(&device)
	if runes := []rune(device); len(runes) > 60 {
		device = string(runes[:60])
	}
	return device
}

// digest is what is kept of a secret.
func digest(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}

func random(n int) string {
	raw := make([]byte, n)
	if _, err := rand.Read(raw); err != nil {
		panic(err) // there is no randomness, and nothing can be kept secret
	}
	return base64.RawURLEncoding.EncodeToString(raw)
}

// DoorView is how the program is reached from elsewhere, and who is let in.
type DoorView struct {
	Now         time.Time     `json:"now"`  // of the world, also in the demo
	Open        bool          `json:"open"` // whether other machines reach it at all
	Passphrase  bool          `json:"passphrase"`
	Addresses   []string      `json:"addresses"`
	Fingerprint string        `json:"fingerprint"` // blank with certificates of the owner's own
	People      []line.Person `json:"people"`
	Devices     []CameIn      `json:"devices"`
}

// CameIn is a device that may come in. Key names it; whose it is, is blank where it is the owner's.
type CameIn struct {
	Key    string    `json:"key"`
	Device string    `json:"device"`
	Who    string    `json:"who,omitempty"`
	Seen   time.Time `json:"seen"`
	Ends   time.Time `json:"ends"`
	Asks   bool      `json:"asks"` // the one that asks
}

// door shows that.
func (s *Server) door(c *gin.Context) {
	kept, err := s.Store.Passphrase()
	if err != nil {
		fail(c, err)
		return
	}
	view := DoorView{Now: s.wall(), Open: s.Door != nil, Passphrase: kept != "", Addresses: s.addresses(), People: []line.Person{}, Devices: []CameIn{}}
	if s.Door != nil && s.Door.Authority != nil {
		view.Fingerprint = s.Door.Authority.Fingerprint()
	}
	err = s.Store.Read(c.Request.Context(), func(v store.View) error {
		people, err := v.People()
		view.People = append(view.People, people...)
		return err
	})
	if err != nil {
		fail(c, err)
		return
	}
	sessions, err := s.Store.Sessions(s.wall())
	if err != nil {
		fail(c, err)
		return
	}
	for _, is := range sessions {
		one := CameIn{Key: is.ID, Device: is.Device, Seen: is.SeenAt, Ends: is.EndsAt, Asks: is.ID == visits(c).session}
		if is.PersonID != nil {
			one.Who = *is.PersonID
		}
		view.Devices = append(view.Devices, one)
	}
	reply(c, view)
}

// addresses are where the program is found from elsewhere, those first that are sure and short.
func (s *Server) addresses() []string {
	found := []string{}
	if s.Door == nil {
		return found
	}
	names := s.Door.Names()
	long := []string{} // which nobody types
	for _, ip := range names.Addresses {
		switch at := net.JoinHostPort(ip.String(), s.Door.Port); {
		case ip.IsLoopback() || ip.IsLinkLocalUnicast():
		case ip.To4() != nil:
			found = append(found, at)
		default:
			long = append(long, at)
		}
	}
	for _, host := range names.Hosts {
		found = append(found, net.JoinHostPort(host, s.Door.Port))
	}
	return append(found, long...)
}

// CodeAsked asks for a code for somebody, blank for the owner, to come in at an address.
type CodeAsked struct {
	Who     string `json:"who"`
	Address string `json:"address"`
}

// CodeMade is a code, the link that it is part of, and that link as rows of dark and light to be read by a camera.
type CodeMade struct {
	Code  string    `json:"code"`
	Link  string    `json:"link"`
	Rows  []string  `json:"rows"`
	Until time.Time `json:"until"`
}

// makeCode makes a code of eight letters and digits, none of which looks like another.
func (s *Server) makeCode(c *gin.Context) {
	var asked CodeAsked
	if !decode(c, &asked) {
		return
	}
	if !slices.Contains(s.addresses(), asked.Address) {
		fail(c, refuse.Field("address", "is not one under which the program is found: choose one of those listed"))
		return
	}
	if err := s.helps(c, asked.Who); err != nil {
		fail(c, err)
		return
	}
	code := letters(8)
	session := store.Session{ID: digest(code), Kind: store.OfCode}
	if asked.Who != "" {
		session.PersonID = &asked.Who
	}
	if err := s.Store.AddSession(session, s.wall()); err != nil {
		fail(c, err)
		return
	}
	link := "https://" + asked.Address + doorPath + "#" + code
	rows, err := drawn(link)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, CodeMade{Code: code, Link: link, Rows: rows, Until: s.wall().Add(store.CodeLasts)})
}

// helps refuses somebody for whom no code can be made: who is not among those that help, or was removed.
func (s *Server) helps(c *gin.Context, who string) error {
	if who == "" {
		return nil // the owner
	}
	return s.Store.Read(c.Request.Context(), func(v store.View) error {
		people, err := v.People()
		if err == nil && !slices.ContainsFunc(people, func(p line.Person) bool { return p.ID == who && !p.Deleted }) {
			err = refuse.Field("who", "is nobody who helps here: choose one of those listed")
		}
		return err
	})
}

// unlike are letters and digits that nobody takes for one another.
const unlike = "23456789ABCDEFGHJKMNPQRSTUVWXYZ"

func letters(n int) string {
	var text strings.Builder
	for text.Len() < n {
		var raw [1]byte
		if _, err := rand.Read(raw[:]); err != nil {
			panic(err)
		}
		if int(raw[0]) < len(unlike)*(256/len(unlike)) { // else some would come oftener
			text.WriteByte(unlike[int(raw[0])%len(unlike)])
		}
	}
	return text.String()
}

// drawn is a text as a camera reads it, a row a text of # and blanks.
func drawn(text string) ([]string, error) {
	code, err := qr.Encode(text, qr.M)
	if err != nil {
		return nil, fmt.Errorf("draw the code: %w", err)
	}
	rows := make([]string, code.Size)
	for y := range rows {
		row := make([]byte, code.Size)
		for x := range row {
			row[x] = ' '
			if code.Black(x, y) {
				row[x] = '#'
			}
		}
		rows[y] = string(row)
	}
	return rows, nil
}

// endDevice ends the session of a device.
func (s *Server) endDevice(c *gin.Context) {
	if err := s.Store.EndSession(c.Param("id")); err != nil {
		fail(c, err)
		return
	}
	s.door(c)
}

// endDevices ends all but the one that asks.
func (s *Server) endDevices(c *gin.Context) {
	if err := s.Store.EndSessions(visits(c).session); err != nil {
		fail(c, err)
		return
	}
	s.door(c)
}

func (s *Server) putPerson(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutPerson, func(x *line.Person) error {
		x.ID = c.Param("id")
		return x.Check()
	})
}

// root gives the root certificate, as a phone takes it in.
func (s *Server) root(c *gin.Context) {
	if s.Door == nil || s.Door.Authority == nil {
		fail(c, store.ErrUnknown)
		return
	}
	c.Data(http.StatusOK, "application/x-x509-ca-cert", s.Door.Authority.Root())
}

// wall is the time by which sessions and certificates go: that of the world also in the demo.
func (s *Server) wall() time.Time {
	if s.Now != nil {
		return s.Now()
	}
	return time.Now()
}
