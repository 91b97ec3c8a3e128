package server

import (
	"crypto/rand"
	"fmt"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync/atomic"
	"time"

	"github.com/gin-gonic/gin"
	"rsc.io/qr"

	"oldburrow/core/line"
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
