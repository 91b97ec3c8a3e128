package exchange

import (
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

// ReadGeoJSON reads a FeatureCollection, a Feature or a bare geometry. It refuses, under the field "file", what is none of
// these, nests too deeply, or holds nothing that can be used.
func ReadGeoJSON(raw []byte) (Report, error) {
	report := Report{Things: []Thing{}, Ignored: []Ignored{}}
	features, err := featuresOf(raw)
	if err != nil {
		return Report{}, refuse.Field("file", "cannot be read as GeoJSON: %s", err)
	}
	for _, f := range features {
		if err := report.feature(f); err != nil {
			return Report{}, refuse.Field("file", "cannot be read as GeoJSON: %s", err)
		}
	}
	if len(report.Things) == 0 {
		return Report{}, refuse.Field("file", "holds no point, line or area that can be used%s", why(report))
	}
	return report, nil
}

func featuresOf(raw []byte) ([]*geojson.Feature, error) {
	raw = inUTF8(raw)
	if err := shallow(raw); err != nil {
		return nil, err
	}
	var any any
	if err := json.Unmarshal(raw, &any); err != nil {
		return nil, errors.New("it is not JSON, or is cut off")
	}
	if !placed(any) {
		return nil, errors.New("a place in it lacks its numbers: each is [longitude, latitude]")
	}
	var head struct{ Type string }
	if err := json.Unmarshal(raw, &head); err != nil {
		return nil, errors.New("it is not JSON, or is cut off")
	}
	switch head.Type {
	case "FeatureCollection":
		all, err := geojson.UnmarshalFeatureCollection(raw)
		if err != nil {
			return nil, errors.New("its features are broken")
		}
		return all.Features, nil
	case "Feature":
		one, err := geojson.UnmarshalFeature(raw)
		if err != nil {
			return nil, errors.New("its feature is broken")
		}
		return []*geojson.Feature{one}, nil
	case "":
		return nil, errors.New("it has no type")
	}
	bare, err := geojson.UnmarshalGeometry(raw)
	if err != nil || bare.Geometry() == nil {
		return nil, fmt.Errorf("its type %q is not known", cut(head.Type))
	}
	return []*geojson.Feature{geojson.NewFeature(bare.Geometry())}, nil
}

// placed tells whether every place under the name coordinates has its two numbers: one that lacks them would be taken for nought.
func placed(x any) bool {
	switch x := x.(type) {
	case map[string]any:
		for name, inner := range x {
			if name == "coordinates" && !numbered(inner) || name != "coordinates" && name != "properties" && !placed(inner) {
				return false
			}
		}
	case []any:
		for _, inner := range x {
			if !placed(inner) {
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

// shallow refuses deep nesting before anything is built from it.
func shallow(raw []byte) error {
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
	t := Thing{Name: text(f.Properties, "name"), Note: text(f.Properties, "note", "desc", "description"), Type: text(f.Properties, "kind", "type")}
	if at, err := time.Parse(time.RFC3339, text(f.Properties, "time")); err == nil {
		at = at.UTC()
		t.Time = &at
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
	default:
		r.ignore(g.GeoJSONType(), "is not a point, line or area")
	}
	return nil
}

func (r *Report) form(t Thing, form string, points []orb.Point) error {
	t.Form = form
	for _, p := range points {
		if !onGlobe(p[0], p[1]) {
			r.ignore("a point", "lies nowhere on the globe")
			continue
		}
		t.At = append(t.At, [2]float64{p[0], p[1]})
	}
	if n := len(t.At); form == ground.Area && n > 1 && t.At[0] == t.At[n-1] {
		t.At = t.At[:n-1]
	}
	return r.add(t)
}

// text gives the first of some properties that is a text.
func text(p geojson.Properties, names ...string) string {
	for _, name := range names {
		if v, ok := p[name].(string); ok && v != "" {
			return v
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
		return orb.Polygon{append(orb.Ring(points), points[0])}
	}
	return orb.LineString(points)
}
