package server

import (
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

// Program says what this program shows. File names the data file, and which of its restored lives this is.
type Program struct {
	File  string    `json:"file"`
	Demo  bool      `json:"demo"`
	Now   time.Time `json:"now"`
	Still bool      `json:"still"`
	GPS   bool      `json:"gps"`
	// Role is what who asks may do, and Who which person that is; blank for the owner. Helpers names who did something, by id.
	Role    line.Role         `json:"role"`
	Who     string            `json:"who,omitempty"`
	Helpers map[string]string `json:"helpers"`
	Lines   []line.Line       `json:"lines"`
	// Backup is how the copies of the file stand; nil where none are kept.
	Backup *Backup `json:"backup" jsonschema:"nullable"`
}

func (s *Server) program(c *gin.Context) {
	a := Program{Demo: s.Demo != nil, Now: s.Clock.Now().UTC(), Still: s.Demo != nil && s.Demo.still, GPS: s.GPS != nil, Helpers: map[string]string{}}
	who := visits(c)
	a.Role, a.Who = who.role, who.person.ID
	err := s.Store.Read(c.Request.Context(), func(v store.View) (err error) {
		if a.Lines, err = v.Lines(); err != nil {
			return err
		}
		people, err := v.People()
		for _, p := range people {
			a.Helpers[p.ID] = p.Name
		}
		return err
	})
	if err == nil {
		var stands store.Standing
		stands, err = s.Store.Standing()
		a.File = stands.File
		if who.role == line.Owner {
			a.Backup = s.backup(stands.Writes)
		}
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, a)
}

// Health says that the program answers and can read its file.
type Health struct {
	OK      bool   `json:"ok"`
	Version string `json:"version,omitempty"` // to whoever came in
}

func (s *Server) health(c *gin.Context) {
	if _, err := s.Store.Identity(); err != nil {
		fail(c, err)
		return
	}
	if visits(c).role == "" {
		reply(c, Health{OK: true})
		return
	}
	reply(c, Health{true, s.Version})
}

func (s *Server) moveOnNight(c *gin.Context) {
	if s.Demo == nil {
		answer(c, Problem{Title: "Only in the demo", Status: http.StatusNotFound, Detail: "A real line's clock is not moved by hand."})
		return
	}
	now, err := s.Demo.MoveOnNight()
	s.wakes()
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, Moment{At: now.UTC()})
}
