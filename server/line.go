package server

import (
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/store"
)

// About says what this program shows. File names the data file, and which of its restored lives this is.
type About struct {
	File  string      `json:"file"`
	Demo  bool        `json:"demo"`
	Now   time.Time   `json:"now"`
	Still bool        `json:"still"`
	GPS   bool        `json:"gps"`
	Lines []line.Line `json:"lines"`
}

func (s *Server) about(c *gin.Context) {
	a := About{Demo: s.Demo != nil, Now: s.Clock.Now().UTC(), Still: s.Demo != nil && s.Demo.still, GPS: s.GPS != nil}
	err := s.Store.Read(c.Request.Context(), func(v store.View) (err error) {
		a.Lines, err = v.Lines()
		return err
	})
	if err == nil {
		a.File, err = s.Store.Identity()
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
	Version string `json:"version"`
}

func (s *Server) health(c *gin.Context) {
	if _, err := s.Store.Identity(); err != nil {
		fail(c, err)
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
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, Moment{At: now.UTC()})
}

// SetView is a set as the string shows it: its newest make, how that stands, and its last look.
type SetView struct {
	Set       line.Set    `json:"set"`
	Make      line.Make   `json:"make"`
	Bead      line.Bead   `json:"bead"`
	LastVisit *line.Visit `json:"lastVisit" jsonschema:"nullable"`
}

// LineView is the whole line as every page needs it. Sets are in running order: by property as first met, then by number.
type LineView struct {
	Line       line.Line       `json:"line"`
	Now        time.Time       `json:"now"`
	Light      round.Light     `json:"light"`
	Properties []line.Property `json:"properties"`
	Spots      []line.Spot     `json:"spots"`
	Sets       []SetView       `json:"sets"`
	Designs    []line.Design   `json:"designs"`
	// Unreadable is what stands in the file and cannot be read.
	Unreadable []store.Unreadable `json:"unreadable"`
	// Trouble says why nothing can be written to the file; blank while it can.
	Trouble string `json:"trouble"`
}

func lineView(r reading, _ *gin.Context) (any, error) {
	rec, err := r.record()
	if err != nil {
		return nil, err
	}
	view := LineView{Line: r.line, Now: r.now.UTC(), Sets: []SetView{}}
	if view.Light, err = round.Daylight(r.now, r.zone, r.line.LatDeg, r.line.LonDeg); err != nil {
		return view, err
	}
	if view.Properties, err = r.Properties(r.line.ID); err != nil {
		return view, err
	}
	if view.Spots, err = r.Spots(r.line.ID); err != nil {
		return view, err
	}
	if view.Designs, err = r.Designs(r.line.ID); err != nil {
		return view, err
	}
	for _, set := range runningOrder(rec.Sets, view.Spots) {
		made, ok := rec.NewestMake(set.ID)
		if !ok {
			continue
		}
		one := SetView{Set: set, Make: made, Bead: line.BeadOf(made, rec.Visits, rec.Now, rec.Zone)}
		if looks := line.Looks(made, rec.Visits); len(looks) > 0 {
			one.LastVisit = &looks[len(looks)-1]
		}
		view.Sets = append(view.Sets, one)
	}
	view.Unreadable = r.Unread()
	if why := r.server.Store.Barred(); why != nil {
		view.Trouble = problemOf(why).Detail
	}
	return view, nil
}

// runningOrder keeps the sets of one property together, in the order in which properties are first met.
func runningOrder(sets []line.Set, spots []line.Spot) []line.Set {
	propertyOf := map[string]string{}
	for _, spot := range spots {
		propertyOf[spot.ID] = spot.PropertyID
	}
	var order []string
	of := map[string][]line.Set{}
	for _, set := range sets {
		property := propertyOf[set.SpotID]
		if of[property] == nil {
			order = append(order, property)
		}
		of[property] = append(of[property], set)
	}
	var all []line.Set
	for _, property := range order {
		all = append(all, of[property]...)
	}
	return all
}
