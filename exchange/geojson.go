package exchange

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

// ReadGeoJSON reads a FeatureCollection, a Feature or a bare geometry; zone is that of times that name none. It refuses, under the
// field "file", what is none of these, nests too deeply, or holds nothing that can be used. A feature that is broken is left out alone.
func ReadGeoJSON(raw []byte, zone *time.Location) (Report, error) {
	report := newReport(zone)
	if err := readGeoJSON(inUTF8(raw), &report); err != nil {
		return Report{}, refuse.Field("file", "cannot be read as GeoJSON: %s", err)
	}
	if len(report.Things) == 0 {
		return Report{}, refuse.Field("file", "holds no point, line or area that can be used%s", why(report))
	}
	return report.ended(), nil
}

func readGeoJSON(raw []byte, report *Report) error {
	if err := Shallow(raw); err != nil {
		return err
	}
	var head struct {
		Type     string
		Features []json.RawMessage
		CRS      json.RawMessage
	}
	if err := json.Unmarshal(raw, &head); err != nil && !json.Valid(raw) {
		return errors.New("it is not JSON, or is cut off")
	} else if err != nil {
		return errors.New("its features are no list")
	}
	features := head.Features
	switch head.Type {
	case "":
		return errors.New("it has no type")
	case "FeatureCollection":
	case "Feature":
		features = []json.RawMessage{raw}
	default:
		if bare, err := geojson.UnmarshalGeometry(raw); placed(raw) && (err != nil || bare.Geometry() == nil) {
			return fmt.Errorf("its type %q is not known", cut(head.Type))
		}
		features = []json.RawMessage{fmt.Appendf(nil, `{"type":"Feature","properties":{},"geometry":%s}`, raw)}
	}
	for _, one := range features {
		if err := report.featureIn(one); err != nil {
			return err
		}
	}
	var reference struct{ Properties struct{ Name string } }
	_ = json.Unmarshal(head.CRS, &reference) // one that names nothing is that of the format
	if name := reference.Properties.Name; !isWGS84(name) {
		for i := range report.Things {
			report.Things[i].Doubt = DoubtReference
			report.Things[i].Says = fmt.Sprintf("is given in another reference system (%s): save the file as WGS 84, or its places lie off", cut(name))
		}
	}
	return nil
}

// isWGS84 tells whether the name of a reference system is that of plain longitude and latitude; a file that names none has that.
func isWGS84(name string) bool {
	return name == "" || strings.Contains(name, "CRS84") || strings.HasSuffix(name, ":4326")
}

// featureIn takes in one feature, or notes what is broken in it.
func (r *Report) featureIn(raw json.RawMessage) error {
	if !placed(raw) {
		r.ignore("a feature", "has no place, or lacks the numbers of one: each is [longitude, latitude]")
		return nil
	}
	feature, err := geojson.UnmarshalFeature(raw)
	if err != nil {
		r.ignore("a feature", "is broken, or has no geometry")
		return nil
	}
	return r.feature(feature)
}

// placed tells whether every place under the name coordinates has its two numbers: one that lacks them would be taken for nought.
func placed(raw []byte) bool {
	var x any
	return json.Unmarshal(raw, &x) == nil && isPlaced(x)
}

func isPlaced(x any) bool {
	switch x := x.(type) {
	case map[string]any:
		for name, inner := range x {
			if name == "coordinates" && !numbered(inner) || name != "coordinates" && name != "properties" && !isPlaced(inner) {
				return false
			}
		}
	case []any:
		for _, inner := range x {
			if !isPlaced(inner) {
				return false
			}
		}
	}
	return true
}

func numbered(x any) bool {
	list, ok := x.([]any)
	if !ok || len(list) == 0 {
		return false
	}
	if _, ok := list[0].([]any); ok {
		for _, inner := range list {
			if !numbered(inner) {
				return false
			}
		}
		return true
	}
	for _, n := range list {
		if _, ok := n.(float64); !ok {
			return false
		}
	}
	return len(list) >= 2
}

// Shallow refuses JSON that nests too deeply, before anything is built from it.
func Shallow(raw []byte) error {
	depth, quoted := 0, false
	for i := 0; i < len(raw); i++ {
		switch c := raw[i]; {
		case quoted && c == '\\':
			i++
		case c == '"':
			quoted = !quoted
		case quoted:
		case c == '{' || c == '[':
			if depth++; depth > mostDepth {
				return errors.New("it nests too deeply")
			}
		case c == '}' || c == ']':
			depth--
		}
	}
	return nil
}

func (r *Report) feature(f *geojson.Feature) error {
	if f == nil || f.Geometry == nil {
		r.ignore("a feature", "has no geometry")
		return nil
	}
	t := Thing{Name: text(f.Properties, "name", "title"), Note: text(f.Properties, "note", "desc", "description"), Type: text(f.Properties, "kind", "type")}
	if at := text(f.Properties, "time"); at != "" {
		t.Time = r.timeOf(at)
	}
	t.Width = f.Properties.MustFloat64("widthMm", 0)
	t.Land = part[Land](f.Properties, "land")
	t.Spot = part[line.Spot](f.Properties, "spot")
	t.Sign = part[line.Sign](f.Properties, "sign")
	return r.geometry(t, f.Geometry)
}

// geometry takes in each point, line and ring of a geometry as a thing of its own.
func (r *Report) geometry(t Thing, g orb.Geometry) error {
	switch g := g.(type) {
	case orb.Point:
		return r.form(t, ground.Point, []orb.Point{g})
	case orb.MultiPoint:
		for _, p := range g {
			if err := r.form(t, ground.Point, []orb.Point{p}); err != nil {
				return err
			}
		}
	case orb.LineString:
		return r.form(t, ground.Line, g)
	case orb.MultiLineString:
		for _, l := range g {
			if err := r.form(t, ground.Line, l); err != nil {
				return err
			}
		}
	case orb.Polygon:
		if len(g) > 1 {
			r.ignore("a hole in an area", "is not kept")
		}
		if len(g) > 0 {
			return r.form(t, ground.Area, g[0])
		}
	case orb.MultiPolygon:
		for _, p := range g {
			if err := r.geometry(t, p); err != nil {
				return err
			}
		}
	case orb.Collection:
		for _, one := range g {
			if err := r.geometry(t, one); err != nil {
				return err
			}
		}
	default:
		r.ignore(g.GeoJSONType(), "is not a point, line or area")
	}
	return nil
}

func (r *Report) form(t Thing, form string, points []orb.Point) error {
	t.Form = form
	for _, p := range points {
		if !onGlobe(p[0], p[1]) {
			r.ignore("a point", nowhere(p[0], p[1]))
			continue
		}
		t.At = append(t.At, [2]float64{p[0], p[1]})
	}
	if n := len(t.At); form == ground.Area && n > 1 && t.At[0] == t.At[n-1] {
		t.At = t.At[:n-1]
	}
	return r.add(t)
}

// text gives the first of some properties that is a text, in whatever letters its name is written.
func text(p geojson.Properties, names ...string) string {
	for _, name := range names {
		if v, ok := p[name].(string); ok && v != "" {
			return v
		}
		for _, written := range slices.Sorted(maps.Keys(p)) {
			if v, ok := p[written].(string); ok && v != "" && strings.EqualFold(written, name) {
				return v
			}
		}
	}
	return ""
}

// part decodes a property that is a record of our own; nil when it is not there or is something else.
func part[T any](p geojson.Properties, name string) *T {
	if _, ok := p[name].(map[string]any); !ok {
		return nil
	}
	raw, err := json.Marshal(p[name])
	if err != nil {
		return nil
	}
	var v T
	if json.Unmarshal(raw, &v) != nil {
		return nil
	}
	return &v
}

// WriteGeoJSON writes the ground as a FeatureCollection. What each thing is stands under "kind"; spots and sign carry their
// whole record, with the ids left out, under "spot" and "sign".
func WriteGeoJSON(g Ground) ([]byte, error) {
	all := geojson.NewFeatureCollection()
	for _, t := range g.things() {
		f := geojson.NewFeature(geometryOf(t))
		f.Properties["kind"] = t.Type
		put := func(name string, value any, there bool) {
			if there {
				f.Properties[name] = value
			}
		}
		put("name", t.Name, t.Name != "")
		put("note", t.Note, t.Note != "")
		put("time", stamp(t.Time), t.Time != nil)
		put("widthMm", t.Width, t.Width != 0)
		put("land", t.Land, t.Land != nil)
		if t.Spot != nil {
			s := *t.Spot
			s.ID, s.LineID, s.PropertyID, s.Version = "", "", "", 0
			f.Properties["spot"] = s
		}
		if t.Sign != nil {
			s := *t.Sign
			s.ID, s.LineID, s.SpotID, s.PhotoID, s.YoungerThan, s.Version = "", "", nil, nil, nil, 0
			f.Properties["sign"] = s
		}
		all.Append(f)
	}
	raw, err := json.MarshalIndent(all, "", " ")
	return append(raw, '\n'), err
}

func geometryOf(t Thing) orb.Geometry {
	points := make([]orb.Point, len(t.At))
	for i, p := range t.At {
		points[i] = orb.Point(p)
	}
	switch t.Form {
	case ground.Point:
		return points[0]
	case ground.Area:
		ring := append(orb.Ring(points), points[0])
		if ring.Orientation() == orb.CW {
			ring.Reverse() // RFC 7946 has the outside of an area to the right
		}
		return orb.Polygon{ring}
	}
	return orb.LineString(points)
}
