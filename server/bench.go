package server

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/calc"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/store"
)

// Question is what the bench asks of a layout: for which target, on what ground, by how many visits, with the chance map or without.
type Question struct {
	Layout    layout.Layout    `json:"layout"`
	Target    string           `json:"target"`
	Visits    int              `json:"visits"`
	Map       bool             `json:"map"`
	Spares    []string         `json:"spares,omitempty"` // whom the pans should not fire for; nobody where nobody is named
	Underfoot layout.Underfoot `json:"underfoot,omitzero"`
	Ground    anchor.Soil      `json:"ground,omitzero"` // what its anchors stand in
	// Circumstances are those under which the whole chain is asked for.
	Circumstances *odds.Circumstances `json:"circumstances,omitempty"`
}

const mostVisits = 300000

// runs keeps the latest simulations by their whole input and the computation's version.
type runs struct{ cache *lru.Cache[string, any] }

func newRuns() *runs {
	cache, err := lru.New[string, any](256)
	if err != nil {
		panic(err) // only a size below one is refused
	}
	return &runs{cache}
}

func (r *runs) of(kind string, q Question, compute func() (any, error)) (any, error) {
	raw, err := json.Marshal(struct {
		Kind    string
		Version int
		Question
	}{kind, odds.Version, q})
	if err != nil {
		return nil, err
	}
	if found, ok := r.cache.Get(string(raw)); ok {
		return found, nil
	}
	found, err := compute()
	if err == nil {
		r.cache.Add(string(raw), found)
	}
	return found, err
}

// forOdds is the question as the core takes it. It refuses what is not known by name.
func (q Question) forOdds(target animal.Animal, with brings) (odds.Question, error) {
	var p refuse.Problems
	asked := odds.Question{
		Layout: q.Layout, Target: target, Animals: with.animals, Schools: with.schools, Spares: with.animals.Listed(&p, "spares", q.Spares),
		Visits: q.Visits, Map: q.Map, Underfoot: q.Underfoot, Soil: q.Ground,
	}
	q.Ground.Check(&p)
	if asked.Circumstances = q.Circumstances; asked.Circumstances != nil {
		asked.Circumstances.Check(&p, with.animals)
		if key := q.Circumstances.Heaviest; key != "" {
			heaviest := with.animals.Named(&p, "circumstances.heaviest", key)
			asked.Heaviest = &heaviest
		}
	}
	return asked, p.Err()
}

func (s *Server) bench(c *gin.Context) {
	s.ask(c, "target", func(q Question, target animal.Animal) (any, error) {
		asked, err := q.forOdds(target, s.brings())
		if err != nil {
			return nil, err
		}
		return odds.Of(asked)
	})
}

// lessons are what a trail set teaches of an animal.
func (s *Server) lessons(c *gin.Context) {
	var p refuse.Problems
	target := s.brings().animals.Named(&p, "target", c.Param("target"))
	err := p.Err()
	var found any
	if err == nil {
		found, err = s.runs.of("lessons", Question{Target: target.Key, Visits: lessonVisits}, func() (any, error) { return odds.Lessons(target, lessonVisits) })
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, found)
}

const lessonVisits = 20000

// target checks the question itself, and gives whom it is asked for.
func (q Question) target(known animal.Animals) (animal.Animal, error) {
	var p refuse.Problems
	p.Within("visits", float64(q.Visits), 1, mostVisits, "")
	target := known.Named(&p, "target", q.Target)
	return target, p.Err()
}

func (s *Server) ask(c *gin.Context, kind string, compute func(Question, animal.Animal) (any, error)) {
	var q Question
	if !decode(c, &q) {
		return
	}
	target, err := q.target(s.brings().animals)
	var found any
	if err == nil {
		found, err = s.runs.of(kind, q, func() (any, error) { return compute(q, target) })
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, found)
}

func (s *Server) calc(c *gin.Context) {
	raw, ok := body(c, largestBody, "request")
	if !ok {
		return
	}
	out, err := calc.Run(c.Param("name"), raw)
	if err != nil {
		fail(c, err)
		return
	}
	c.Data(http.StatusOK, "application/json", out)
}

func design(r reading, c *gin.Context) (any, error) { return r.Design(r.line.ID, c.Param("id")) }

// putDesign saves a design as it stands on the bench, also one that cannot be built as it is: the bench says what is wrong.
func (s *Server) putDesign(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutDesign, func(x *line.Design) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.CheckDraft(s.brings().animals)
	})
}

func (s *Server) putMake(c *gin.Context) {
	var x line.Make
	if !decode(c, &x) {
		return
	}
	x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
	if err := x.Check(s.brings().animals); err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) {
		r, err := s.readingOf(t.View, theLine(c))
		if err != nil {
			return nil, err
		}
		odd, err := r.oddTraps(x)
		if err != nil {
			return nil, err
		}
		x.Flags = line.Flags(s.oddTime(x.BuiltAt), odd)
		return t.PutMake(x)
	})
}

// oddTraps says why the traps of a make should not have gone out; the make is kept all the same, and each trap is where it
// was built last.
func (r reading) oddTraps(x line.Make) (string, error) {
	if len(x.Layout.TrapIDs()) == 0 {
		return "", nil
	}
	record, err := r.shedRecord()
	if err != nil {
		return "", err
	}
	record.Traps = slices.DeleteFunc(record.Traps, func(t line.Trap) bool {
		_, named := x.Layout.RigWith(t.ID)
		return !named
	})
	rack, err := record.Rack()
	if err != nil {
		return "", err
	}
	var odd []string
	for _, rig := range x.Layout.Rigs {
		if rig.TrapID != "" {
			odd = append(odd, oddTrap(rack, rig.TrapID, x.SetID))
		}
	}
	return line.Flags(odd...), nil
}

func oddTrap(rack []shed.Hung, trapID, setID string) string {
	i := slices.IndexFunc(rack, func(h shed.Hung) bool { return h.Trap.ID == trapID })
	if i < 0 {
		return line.FlagTrapUnlisted
	}
	switch rack[i].BarsFrom(setID) {
	case shed.BarsStands:
		return fmt.Sprintf("%s %d", line.FlagTrapStood, rack[i].Place.Number)
	case shed.BarsAway:
		return line.FlagTrapAway
	case shed.BarsFault:
		return line.FlagTrapFaulty
	}
	return ""
}
