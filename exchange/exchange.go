// Package exchange reads and writes the ground as GPX 1.1 and GeoJSON, the rack as CSV, and photos. Reading is bounded in size and
// depth, expands nothing, and says what it did not understand.
package exchange

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"oldburrow/core/ground"
	"oldburrow/core/line"
)

// Thing is one thing of a file: a point, line or area with what the file says of it, and the kind that it will most likely
// become. Points are [longitude, latitude].
type Thing struct {
	Form  string     `json:"form"`
	Kind  string     `json:"kind"`
	Type  string     `json:"type"` // what the file itself calls it
	Name  string     `json:"name"`
	Note  string     `json:"note"`
	Time  *time.Time `json:"time,omitempty"`
	Known bool       `json:"known"` // the line has it already
	// Doubt is why it is asked whether its places are right, and Says how that reads; Sure is the answer that they are.
	Doubt string       `json:"doubt,omitempty"`
	Says  string       `json:"says,omitempty"`
	Sure  bool         `json:"sure,omitempty"`
	Spot  *line.Spot   `json:"spot,omitempty"`
	Sign  *line.Sign   `json:"sign,omitempty"`
	Width float64      `json:"widthMm,omitempty"`
	Land  *Land        `json:"land,omitempty"`
	At    [][2]float64 `json:"points"`
}

// Land is the property that a spot or boundary belongs to.
type Land struct {
	Name       string `json:"name"`
	Permission string `json:"permission"`
	Asked      string `json:"asked"`
	Until      string `json:"until"`
}

// Ignored is what was not understood, how often, and why.
type Ignored struct {
	What  string `json:"what"`
	Why   string `json:"why"`
	Count int    `json:"count"`
}

// Report is what a file holds. Said is what was done to read it as it is.
type Report struct {
	Things  []Thing   `json:"things"`
	Ignored []Ignored `json:"ignored"`
	Said    []string  `json:"said"`

	zone     *time.Location // of times that name none
	zoneless int
}

func newReport(zone *time.Location) Report {
	return Report{Things: []Thing{}, Ignored: []Ignored{}, Said: []string{}, zone: zone}
}

// timeOf reads a time, by the line's own clock where it names no zone; nil where it is none or cannot be.
func (r *Report) timeOf(text string) *time.Time {
	text = strings.TrimSpace(text)
	at, err := time.Parse(time.RFC3339, text)
	for _, form := range []string{"2006-01-02T15:04:05", "2006-01-02 15:04:05", "2006-01-02T15:04", "2006-01-02 15:04"} {
		if err == nil {
			break
		}
		if at, err = time.ParseInLocation(form, text, r.zone); err == nil {
			r.zoneless++
		}
	}
	if at = at.UTC(); err != nil || at.Year() < 1970 || at.Year() > 2199 {
		r.ignore("a time", "cannot be read, or cannot be")
		return nil
	}
	return &at
}

// ended says what was done to read it as it is.
func (r *Report) ended() Report {
	if r.zoneless > 0 {
		r.Said = append(r.Said, fmt.Sprintf("times without a zone are taken as the line’s own (%s): %d", r.zone, r.zoneless))
	}
	return *r
}

// Kinds that a thing can become beside those of package ground.
const (
	SpotKind = "spot"
	SignKind = "sign"
)

// Limits of what is read.
const (
	MostBytes   = 20 << 20
	mostDepth   = 40
	mostThings  = 50000
	mostPoints  = 500000
	longestText = 500
)

func (r *Report) ignore(what, why string) {
	for i := range r.Ignored {
		if r.Ignored[i].What == what && r.Ignored[i].Why == why {
			r.Ignored[i].Count++
			return
		}
	}
	if len(r.Ignored) < 50 {
		r.Ignored = append(r.Ignored, Ignored{What: what, Why: why, Count: 1})
	}
}

// add takes a thing in, when its points make something, and guesses its kind from what the file calls it.
func (r *Report) add(t Thing) error {
	least := map[string]int{ground.Point: 1, ground.Line: 2, ground.Area: 3}[t.Form]
	if len(t.At) < least {
		r.ignore("a "+t.Form, "has too few points on the globe")
		return nil
	}
	if len(r.Things) >= mostThings {
		return fmt.Errorf("the file holds more than %d things", mostThings)
	}
	t.Name, t.Note, t.Type = cut(t.Name), cut(t.Note), cut(t.Type)
	if t.Kind == "" {
		t.Kind = guess(t)
	}
	r.thin(&t)
	r.Things = append(r.Things, t)
	return nil
}

// guess reads the kind from the file's own word for the thing, then from its name, else takes the likeliest of its form.
func guess(t Thing) string {
	if t.Type == SignKind || strings.HasPrefix(t.Type, SignKind+"/") {
		return SignKind
	}
	if t.Type == SpotKind {
		return SpotKind
	}
	if kind, ok := ground.KindOf(ground.FeatureKind(t.Type)); ok && kind.Form == t.Form {
		return string(kind.Key)
	}
	for _, text := range []string{t.Type, t.Name} {
		text = "_" + strings.ReplaceAll(strings.ToLower(text), " ", "_") + "_"
		for _, kind := range ground.Kinds {
			if kind.Form == t.Form && strings.Contains(text, "_"+string(kind.Key)+"_") {
				return string(kind.Key)
			}
		}
	}
	return map[string]string{ground.Point: SpotKind, ground.Line: "travel_way", ground.Area: "boundary"}[t.Form]
}

// signOf reads "sign/tracks/coyote/week", the type that sign is written with where there is no room for its fields; its age may be left out.
func signOf(kind string) *line.Sign {
	parts := strings.Split(kind, "/")
	if len(parts) < 3 || len(parts) > 4 || parts[0] != SignKind {
		return nil
	}
	found := &line.Sign{What: line.SignKind(parts[1]), Animal: parts[2], Holds: "unknown"}
	if len(parts) == 4 {
		found.Age = line.SignAge(parts[3])
	}
	return found
}

func typeOfSign(s line.Sign) string {
	return strings.TrimSuffix(strings.Join([]string{SignKind, string(s.What), s.Animal, string(s.Age)}, "/"), "/")
}

func cut(text string) string {
	text = strings.ToValidUTF8(strings.TrimSpace(text), "")
	if r := []rune(text); len(r) > longestText {
		return string(r[:longestText])
	}
	return text
}

func onGlobe(lon, lat float64) bool {
	return lon >= -180 && lon <= 180 && lat >= -90 && lat <= 90
}

// Ground is what is written: everything on a line's land.
type Ground struct {
	Line       line.Line
	Properties []line.Property
	Spots      []line.Spot
	Signs      []line.Sign
	Features   []line.Feature
}

// things puts the ground as things, in an order that does not change: features, spots, sign, each as the ground lists them.
func (g Ground) things() []Thing {
	land := map[string]*Land{}
	for _, p := range g.Properties {
		land[p.ID] = &Land{p.Name, p.Permission, p.Asked, p.Until}
	}
	var all []Thing
	for _, f := range g.Features {
		kind, ok := ground.KindOf(f.Kind)
		if !ok {
			continue
		}
		t := Thing{Form: kind.Form, Kind: string(f.Kind), Type: string(f.Kind), Name: f.Name, Note: f.Note, Time: &f.MadeAt, Width: f.WidthMm, At: f.Points}
		if f.PropertyID != nil {
			t.Land = land[*f.PropertyID]
		}
		all = append(all, t)
	}
	for _, s := range g.Spots {
		all = append(all, Thing{Form: ground.Point, Kind: SpotKind, Type: SpotKind, Name: s.Name, Spot: &s, Land: land[s.PropertyID], At: [][2]float64{{s.LonDeg, s.LatDeg}}})
	}
	for _, s := range g.Signs {
		all = append(all, Thing{Form: ground.Point, Kind: SignKind, Type: typeOfSign(s), Note: s.Note, Time: &s.SeenAt, Sign: &s, At: [][2]float64{{s.LonDeg, s.LatDeg}}})
	}
	return all
}

// Mark notes which things the line has already: the same kind and form within two metres, and for what has a name the same
// name.
func (r *Report) Mark(have Ground) {
	had := have.things()
	there := make(map[corner][]int32, len(had))
	for i := range had {
		at := cornerOf(&had[i])
		there[at] = append(there[at], int32(i))
	}
	for i := range r.Things {
		t := &r.Things[i]
		t.Known = slices.ContainsFunc(besides(t), func(at corner) bool {
			return slices.ContainsFunc(there[at], func(k int32) bool { return same(*t, had[k]) })
		})
	}
}

// corner is about where a thing begins, and what it is: only things of one corner and those beside it can be the same.
type corner struct {
	kind, name string
	points     int
	x, y       int
}

// cornerDeg is some times wider than things lie apart that are the same; toward the poles of the globe degrees of longitude are short.
const cornerDeg = 1e-4

// edge is how much of a corner lies near to the next one, and more than enough.
const edge = .3

// square is the corner that a place lies in, and where in it.
func square(at [2]float64) (x, y, inX, inY float64) {
	east := cornerDeg / math.Max(.01, math.Cos(math.Floor(at[1])*math.Pi/180))
	x, y = at[0]/east, at[1]/cornerDeg
	return math.Floor(x), math.Floor(y), x - math.Floor(x), y - math.Floor(y)
}

func cornerOf(t *Thing) corner {
	x, y, _, _ := square(t.At[0])
	return corner{t.Kind, t.Name, len(t.At), int(x), int(y)}
}

// besides are the corners in which a thing can stand that is the same: its own, and those whose edges it is near.
func besides(t *Thing) []corner {
	_, _, inX, inY := square(t.At[0])
	at := cornerOf(t)
	found := make([]corner, 0, 4)
	for _, dx := range nearTo(inX) {
		for _, dy := range nearTo(inY) {
			beside := at
			beside.x, beside.y = at.x+dx, at.y+dy
			found = append(found, beside)
		}
	}
	return found
}

// nearTo are the steps to where something near can be.
func nearTo(in float64) []int {
	switch {
	case in < edge:
		return []int{0, -1}
	case in > 1-edge:
		return []int{0, 1}
	}
	return []int{0}
}

const nearM = 2.0

func same(a, b Thing) bool {
	if a.Form != b.Form || a.Name != b.Name || len(a.At) != len(b.At) {
		return false
	}
	if a.Kind == SignKind && (a.Type != b.Type || a.Time == nil || b.Time == nil || a.Time.Unix() != b.Time.Unix()) {
		return false
	}
	return near(a.At, b.At) || a.Form == ground.Area && near(a.At, goneRound(b.At))
}

// goneRound are the points of an area from the same one the other way about.
func goneRound(points [][2]float64) [][2]float64 {
	other := slices.Clone(points)
	slices.Reverse(other[1:])
	return other
}

// near tells whether points lie by the points of another thing, one by one.
func near(a, b [][2]float64) bool {
	for i := range a {
		if ground.Metres(ground.Fix{LatDeg: a[i][1], LonDeg: a[i][0]}, ground.Fix{LatDeg: b[i][1], LonDeg: b[i][0]}) > nearM {
			return false
		}
	}
	return true
}
