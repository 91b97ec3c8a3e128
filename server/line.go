package server

import (
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/round"
)

// About says what this program shows.
type About struct {
	FileID string      `json:"fileId"`
	Epoch  string      `json:"epoch"`
	Demo   bool        `json:"demo"`
	Now    time.Time   `json:"now"`
	Still  bool        `json:"still"`
	GPS    bool        `json:"gps"`
	Lines  []line.Line `json:"lines"`
}

func (s *Server) about(c *gin.Context) {
	a := About{Demo: s.Demo != nil, Now: s.Clock.Now().UTC(), Still: s.Demo != nil && s.Demo.still, GPS: s.GPS != nil}
	var err error
	if a.FileID, err = s.Store.Fact("id"); err == nil {
		if a.Epoch, err = s.Store.Fact("epoch"); err == nil {
			a.Lines, err = s.Store.Lines()
		}
	}
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, a)
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
	c.JSON(http.StatusOK, Moment{At: now.UTC()})
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
}

func (s *Server) lineView(c *gin.Context) {
	view, err := s.viewOf(theLine(c))
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, view)
}

func (s *Server) viewOf(l line.Line) (LineView, error) {
	rec, err := s.record(l)
	if err != nil {
		return LineView{}, err
	}
	view := LineView{Line: l, Now: rec.now.UTC(), Sets: []SetView{}}
	if view.Light, err = round.Daylight(rec.now, rec.zone, l.LatDeg, l.LonDeg); err != nil {
		return view, err
	}
	if view.Properties, err = s.Store.Properties(l.ID); err != nil {
		return view, err
	}
	if view.Spots, err = s.Store.Spots(l.ID); err != nil {
		return view, err
	}
	if view.Designs, err = s.Store.Designs(l.ID); err != nil {
		return view, err
	}
	for _, set := range runningOrder(rec.sets, view.Spots) {
		made, ok := rec.newestMake(set.ID)
		if !ok {
			continue
		}
		one := SetView{Set: set, Make: made, Bead: line.BeadOf(made, rec.visits, rec.now, rec.zone)}
		if looks := line.Looks(made, rec.visits); len(looks) > 0 {
			one.LastVisit = &looks[len(looks)-1]
		}
		view.Sets = append(view.Sets, one)
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

// record is what was done on a line until now.
type record struct {
	now    time.Time
	zone   *time.Location
	sets   []line.Set
	makes  []line.Make
	visits []line.Visit
}

func (s *Server) record(l line.Line) (record, error) {
	rec := record{now: s.Clock.Now()}
	var err error
	if rec.zone, err = round.Zone(l.Zone); err != nil {
		return rec, err
	}
	if rec.sets, err = s.Store.Sets(l.ID); err != nil {
		return rec, err
	}
	if rec.makes, err = s.Store.Makes(l.ID); err != nil {
		return rec, err
	}
	rec.visits, err = s.Store.Visits(l.ID)
	return rec, err
}

func (r record) newestMake(setID string) (line.Make, bool) {
	for i := len(r.makes) - 1; i >= 0; i-- {
		if r.makes[i].SetID == setID {
			return r.makes[i], true
		}
	}
	return line.Make{}, false
}
