package server

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"math"
	"net/http"
	"net/netip"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/plain"
	"oldburrow/core/refuse"
	"oldburrow/door"
	"oldburrow/store"
)

// mostWrongCodes is how many wrong codes end all that are open.
const mostWrongCodes = 5

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
		busyAtDoor(c)
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

// Chosen is another passphrase for the owner.
type Chosen struct {
	Passphrase string `json:"passphrase"`
}

// choosePassphrase keeps it, and ends the sessions of all but the one that asks.
func (s *Server) choosePassphrase(c *gin.Context) {
	var in Chosen
	if !decode(c, &in) {
		return
	}
	kept, err := door.Keep(in.Passphrase)
	switch {
	case errors.Is(err, door.ErrBusy):
		busyAtDoor(c)
		return
	case err == nil:
		err = s.Store.SetPassphrase(kept, visits(c).session)
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.door(c)
}

func busyAtDoor(c *gin.Context) {
	answer(c, Problem{Title: "Too many at the door", Code: codeBusy, Status: http.StatusServiceUnavailable, Detail: "Too many try to come in at once. Try again in a moment."})
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
