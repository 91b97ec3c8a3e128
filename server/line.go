package server

import (
	"net/http"
	"reflect"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/round"
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
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, Moment{At: now.UTC()})
}

// SetView is a set as the string shows it: its newest make, how that stands, and its last look. DesignVersion is the version of
// the make's design where that says what the make does; such a design is not told again. 0: it stands among the designs.
type SetView struct {
	Set       line.Set    `json:"set"`
	Make      line.Make   `json:"make"`
	Bead      line.Bead   `json:"bead"`
	LastVisit *line.Visit `json:"lastVisit" jsonschema:"nullable"`
	// Uncounted is a look since then that is kept, answers the set and does not count.
	Uncounted     *line.Uncounted `json:"uncounted" jsonschema:"nullable"`
	DesignVersion int             `json:"designVersion"`
}

// LineView is the line as every page needs it, in the open season. Sets are in running order, as Round has them.
type LineView struct {
	Line       line.Line       `json:"line"`
	Now        time.Time       `json:"now"`
	Light      round.Light     `json:"light"`
	Plane      ground.Plane    `json:"plane"`
	Season     *line.Season    `json:"season" jsonschema:"nullable"` // nil while nothing was done
	Properties []line.Property `json:"properties"`
	Spots      []line.Spot     `json:"spots"`
	Sets       []SetView       `json:"sets"`
	Designs    []line.Design   `json:"designs"`
	Round      []line.Stop     `json:"round"`
	Worth      []line.Worth    `json:"worth"`
	Endings    []line.Ending   `json:"endings"` // of permissions, where sets stand
	// Unreadable is what stands in the file and cannot be read.
	Unreadable []store.Unreadable `json:"unreadable"`
	// Behind is the program's own newest act, when its clock is well behind that; nil while it is not.
	Behind *time.Time `json:"behind" jsonschema:"nullable"`
	// Trouble says why nothing can be written to the file; blank while it can.
	Trouble string `json:"trouble"`
}

// behindBy is by how much the program's clock may be behind what it wrote itself: it is set right by so much again and again.
const behindBy = 2 * time.Minute

func lineView(r reading, _ *gin.Context) (any, error) {
	rec, err := r.record()
	if err != nil {
		return nil, err
	}
	view := LineView{Line: r.line, Now: r.now.UTC(), Sets: []SetView{}}
	view.Plane = ground.PlaneAbout(ground.Fix{LatDeg: r.line.LatDeg, LonDeg: r.line.LonDeg})
	if view.Light, err = round.Daylight(r.now, r.zone, r.line.LatDeg, r.line.LonDeg); err != nil {
		return view, err
	}
	if season, _, err := r.season(""); err != nil {
		return view, err
	} else if season.ID != "" {
		view.Season = &season
	}
	if view.Properties, err = r.Properties(r.line.ID); err != nil {
		return view, err
	}
	if view.Spots, err = r.Spots(r.line.ID); err != nil {
		return view, err
	}
	if view.Designs, err = r.Designs(r.line.ID, rec.Sets); err != nil {
		return view, err
	}
	sets := slices.DeleteFunc(slices.Clone(rec.Sets), func(s line.Set) bool { return len(rec.At(s.ID)) == 0 })
	view.Round = line.Round(sets, view.Spots, view.Designs)
	view.Worth = rec.WorthDoing(view.Round)
	view.Endings = rec.Endings(view.Properties, view.Spots)
	for _, stop := range view.Round {
		if made, ok := rec.NewestMake(stop.SetID); ok {
			version := view.tellOnce(made)
			view.Sets = append(view.Sets, SetView{rec.Set(stop.SetID), made, rec.Bead(made), rec.LastLook(made.ID), rec.Uncounted(made), version})
		}
	}
	view.Unreadable = r.Unread()
	if stands, err := r.server.Store.Standing(); err == nil && stands.Newest.After(r.now.Add(behindBy)) {
		view.Behind = &stands.Newest
	}
	if why := r.server.Store.Barred(); why != nil {
		view.Trouble = problemOf(why).Detail
	}
	return view, nil
}

// tellOnce takes the design of a make out of the view when the make says all that it does, and gives its version.
func (v *LineView) tellOnce(made line.Make) int {
	i := slices.IndexFunc(v.Designs, func(d line.Design) bool {
		return d.ID == made.DesignID && d.SetID != nil && *d.SetID == made.SetID && d.Target == made.Target && reflect.DeepEqual(d.Layout, made.Layout)
	})
	if i < 0 {
		return 0
	}
	version := v.Designs[i].Version
	v.Designs = slices.Delete(v.Designs, i, i+1)
	return version
}
