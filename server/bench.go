package server

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"oldburrow/core/asked"
	"oldburrow/core/line"
	"oldburrow/core/shed"
	"oldburrow/store"
)

// runs keeps the latest answers by the whole of what was asked: it is asked again and again while a hand goes back and forth.
type runs struct{ cache *lru.Cache[string, any] }

func newRuns() *runs {
	cache, err := lru.New[string, any](256)
	if err != nil {
		panic(err) // only a size below one is refused
	}
	return &runs{cache}
}

// of gives what was answered before, or answers anew. What it hangs on beside the question is the same as long as the program runs.
func (r *runs) of(path string, raw []byte, answer func() (any, error)) (any, error) {
	key := path + " " + string(raw)
	if found, ok := r.cache.Get(key); ok {
		return found, nil
	}
	found, err := answer()
	if err == nil {
		r.cache.Add(key, found)
	}
	return found, err
}

// answers answers what only computes, at once or line by line. It ends with the request: whoever asks anew leaves the old one.
func (s *Server) answers(one asked.Route) gin.HandlerFunc {
	return func(c *gin.Context) {
		raw, ok := body(c, largestBody, "request")
		if !ok {
			return
		}
		path, with := strings.TrimPrefix(c.Request.URL.Path, "/api"), s.with()
		if one.Lines {
			lines(c, func(ctx context.Context, tell func(any)) error {
				_, err := asked.Answer(ctx, with, path, raw, tell)
				return err
			})
			return
		}
		found, err := s.runs.of(path, raw, func() (any, error) { return asked.Answer(c.Request.Context(), with, path, raw, nil) })
		if err != nil {
			fail(c, err)
			return
		}
		reply(c, found)
	}
}

// putDesign saves a design as it stands on the bench, also one that cannot be built as it is: the bench says what is wrong.
func (s *Server) putDesign(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutDesign, func(x *line.Design) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.CheckDraft(s.with().Animals)
	})
}

func (s *Server) putMake(c *gin.Context) {
	var x line.Make
	if !decode(c, &x) {
		return
	}
	x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
	if err := x.Check(s.with().Animals); err != nil {
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
	record, err := r.Shed()
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
