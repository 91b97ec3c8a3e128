package archive

import (
	"crypto/rand"
	"fmt"
	"math"
	"reflect"
	"regexp"
	"slices"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/store"
)

// hidden is what others need not see, and the ids that stand for the file's own in an archive that is meant for them: the file's say when
// they were made. nil hides nothing.
type hidden struct {
	without []string
	at      uint64 // of the new ids, ms
	entropy *ulid.MonotonicEntropy
	fresh   map[string]string
	named   map[string]int // how many of each kind have a name by now
	lures   map[string]string
	spots   map[string]ground.Fix
	place   ground.Fix // of the line, as it is told
}

func hiding(ask Ask) (*hidden, error) {
	if len(ask.Without) == 0 {
		return nil, nil
	}
	var p refuse.Problems
	for _, part := range ask.Without {
		refuse.OneOf(&p, "without", part, Parts())
	}
	return &hidden{
		without: ask.Without, at: ulid.Timestamp(ask.At), entropy: ulid.Monotonic(rand.Reader, 0),
		fresh: map[string]string{}, named: map[string]int{}, lures: map[string]string{}, spots: map[string]ground.Fix{},
	}, p.Err()
}

func (h *hidden) parts() []string {
	if h == nil {
		return nil
	}
	return slices.DeleteFunc(Parts(), func(part string) bool { return !h.hides(part) })
}

func (h *hidden) hides(part string) bool { return slices.Contains(h.without, part) }

// idIn finds the ids in a record, wherever they stand.
var idIn = regexp.MustCompile(`\b[0-7][0-9A-HJKMNP-TV-Z]{25}\b`)

// ids puts new ids in the place of a record's own.
func (h *hidden) ids(raw []byte) []byte {
	if h == nil {
		return raw
	}
	return idIn.ReplaceAllFunc(raw, func(id []byte) []byte { return []byte(h.id(string(id))) })
}

func (h *hidden) id(id string) string {
	if h == nil {
		return id
	}
	if h.fresh[id] == "" {
		h.fresh[id] = ulid.MustNew(h.at, h.entropy).String()
	}
	return h.fresh[id]
}

// call gives the next name of a kind: others learn no other.
func (h *hidden) call(name *string, kind string) {
	if h.hides(Names) {
		h.named[kind]++
		*name = fmt.Sprintf("%s %d", kind, h.named[kind])
	}
}

func (h *hidden) hidesPhotos() bool { return h.hides(Places) || h.hides(Names) || h.hides(Notes) }

// shows takes out of a record what others need not see, and tells whether anything of it is left.
func (h *hidden) shows(record any) bool {
	if h == nil {
		return true
	}
	if who := reflect.ValueOf(record).Elem().FieldByName("Who"); who.IsValid() {
		who.SetString("")
	}
	switch x := record.(type) {
	case *line.Person:
		return false
	case *line.Line:
		h.line(x)
	case *line.Season:
		h.call(&x.Name, "Season")
	case *line.Property:
		h.call(&x.Name, "Property")
		if h.hides(Permission) {
			x.Permission, x.Asked, x.Until = "", "", ""
		}
		if h.hides(Permission) || h.hidesPhotos() {
			x.PaperID = nil
		}
		h.note(&x.Permission)
	case *line.Spot:
		h.spot(x)
	case *line.Photo:
		return !h.hidesPhotos()
	case *line.Sign:
		return h.sign(x)
	case *line.Feature:
		if h.hides(Names) {
			x.Name = ""
		}
		h.note(&x.Note)
		return !h.hides(Places)
	case *line.Reading, *store.HourOfWeather:
		return !h.hides(Places)
	case *line.Lure:
		h.call(&x.Name, "Lure")
		h.lures[x.ID] = x.Name
	case *line.Bottle:
		h.note(&x.Note)
	case *line.Recipe:
		h.call(&x.Name, "Recipe")
		return !h.hides(Notes)
	case *line.Pattern:
		h.call(&x.Name, "Pattern")
		h.layout(&x.Layout)
	case *line.Design:
		h.layout(&x.Layout)
	case *line.Make:
		h.made(x)
	case *line.KitMark:
		return !h.hides(Names) && !h.hides(Notes) // things of the user's own are named by it
	default:
		h.deed(x)
	}
	return true
}

func (h *hidden) made(x *line.Make) {
	h.layout(&x.Layout)
	h.built(x)
}

// built takes out of a make what was said of how it was built.
func (h *hidden) built(x *line.Make) {
	if x.AsBuilt == nil {
		return
	}
	said := *x.AsBuilt
	if said.Designed != nil {
		drawn := *said.Designed
		h.layout(&drawn)
		said.Designed = &drawn
	}
	if h.hides(Places) {
		said.Landmark = ""
	}
	if h.hidesPhotos() {
		said.PhotoID = nil
	}
	h.note(&said.Note)
	x.AsBuilt = &said
}

// deed takes out of what was done what others need not see.
func (h *hidden) deed(record any) {
	switch x := record.(type) {
	case *line.Trap:
		h.trap(x)
	case *shed.TrapVersion:
		h.trap(&x.Trap)
	case *line.ShedCheck:
		for i := range x.Items {
			h.note(&x.Items[i].Note)
		}
	case *line.Visit:
		h.visit(x)
	case *line.Pull:
		h.note(&x.Note)
	case *line.Correction:
		h.note(&x.Reason)
		h.made(&x.Make)
		if x.Before != nil {
			h.made(x.Before)
		}
	case *line.Mend:
		h.note(&x.Reason)
		h.visit(&x.Visit)
		if x.Before != nil {
			h.visit(x.Before)
		}
	}
}

func (h *hidden) note(text *string) {
	if h.hides(Notes) {
		*text = ""
	}
}

// degreesTold is how finely the latitude of a line is told that is not to be found, °.
const degreesTold = 5

func (h *hidden) line(x *line.Line) {
	h.call(&x.Name, "Line")
	if h.hides(Places) {
		x.LatDeg, x.LonDeg = min(85, max(-85, math.Round(x.LatDeg/degreesTold)*degreesTold)), 0
	}
	h.place = ground.Fix{LatDeg: x.LatDeg, LonDeg: x.LonDeg}
}

// spot puts a spot on a grid of a kilometre, ten in a row, in the place of where it lies.
func (h *hidden) spot(x *line.Spot) {
	h.call(&x.Name, "Spot")
	if h.hidesPhotos() {
		x.PhotoID = nil
	}
	h.note(&x.SeenBy)
	for i := range x.Met {
		h.note(&x.Met[i].Note)
	}
	if h.hides(Places) {
		n := len(h.spots)
		at := ground.PlaneAbout(h.place).Fix([2]float64{float64(n%10) * 1000, float64(n/10) * 1000})
		x.LatDeg, x.LonDeg, x.TravelBearingDeg = at.LatDeg, at.LonDeg, nil
		h.spots[x.ID] = at
	}
}

// sign lies at its spot, or is not told of at all.
func (h *hidden) sign(x *line.Sign) bool {
	h.note(&x.Note)
	if h.hidesPhotos() {
		x.PhotoID = nil
	}
	if !h.hides(Places) {
		return true
	}
	if x.SpotID == nil {
		return false
	}
	at := h.spots[*x.SpotID]
	x.LatDeg, x.LonDeg, x.DirectionDeg = at.LatDeg, at.LonDeg, nil
	return true
}

func (h *hidden) trap(x *line.Trap) {
	x.Tag = ""
	h.note(&x.Note)
}

func (h *hidden) visit(x *line.Visit) {
	h.note(&x.Note)
	if h.hidesPhotos() {
		x.PhotoID = nil
	}
	if x.Search != nil {
		search := *x.Search
		h.note(&search.Cover)
		h.note(&search.HungOn)
		if h.hides(Places) {
			search.Toward = ""
		}
		x.Search = &search
	}
	for i := range x.Catches {
		x.Catches[i].Owner = ""
	}
}

// unnamed are smells without what their owner calls them.
func (h *hidden) unnamed(smells []layout.Smell) []layout.Smell {
	smells = slices.Clone(smells)
	for i := range smells {
		smells[i].Name = h.lures[smells[i].LureID]
	}
	return smells
}

// layout takes out of a set where it lies, and what it smells of by name. What is read is shared: only a copy is changed.
func (h *hidden) layout(l *layout.Layout) {
	if h.hides(Places) {
		l.At, l.FacingDeg, l.Lie.DownDeg = nil, nil, nil
	}
	if !h.hides(Names) {
		return
	}
	l.Attractors = slices.Clone(l.Attractors)
	for i := range l.Attractors {
		l.Attractors[i].Smells = h.unnamed(l.Attractors[i].Smells)
	}
	l.Aside = h.unnamed(l.Aside)
}
