package exchange

import (
	"bytes"
	"errors"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

const someGPX = `<?xml version="1.0" encoding="UTF-8"?>
<gpx version="1.1" creator="a receiver" xmlns="http://www.topografix.com/GPX/1/1">
 <metadata><name>scouting</name><bounds minlat="1"/></metadata>
 <wpt lat="46.80" lon="-105.30"><time>2026-11-02T14:00:00Z</time><name>North gate</name><desc>wired shut</desc><sym>Gate</sym></wpt>
 <wpt lat="46.81" lon="-105.31"><name>Old bone</name></wpt>
 <wpt lat="946.81" lon="-105.31"><name>Nowhere</name></wpt>
 <rte><name>along the breaks</name><type>travel way</type><rtept lat="46.8" lon="-105.3"><name>one</name></rtept><rtept lat="46.81" lon="-105.3"/></rte>
 <trk><name>drive in</name><type>two_track</type><trkseg><trkpt lat="46.8" lon="-105.3"><ele>870</ele><time>2026-11-02T15:00:00Z</time></trkpt><trkpt lat="46.82" lon="-105.3"><time>2026-11-02T15:09:00Z</time></trkpt></trkseg></trk>
 <trk><name>too short</name><trkseg><trkpt lat="46.8" lon="-105.3"/></trkseg></trk>
 <extensions><deep><deeper/></deep></extensions>
</gpx>`

func gpx(raw []byte) (Report, error)     { return ReadGPX(raw, time.UTC) }
func geoJSON(raw []byte) (Report, error) { return ReadGeoJSON(raw, time.UTC) }

func TestReadGPX(t *testing.T) {
	report, err := gpx([]byte(someGPX))
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, thing := range report.Things {
		got = append(got, fmt.Sprintf("%s %s %q %d", thing.Form, thing.Kind, thing.Name, len(thing.At)))
	}
	want := []string{`point gate "North gate" 1`, `point spot "Old bone" 1`, `line travel_way "along the breaks" 2`, `line two_track "drive in" 2`}
	if !reflect.DeepEqual(got, want) {
		t.Errorf("read %q", got)
	}
	if at := report.Things[0].Time; at == nil || at.Hour() != 14 || report.Things[0].Note != "wired shut" {
		t.Errorf("the gate: %+v", report.Things[0])
	}
	if at := report.Things[3].Time; at == nil || at.Minute() != 0 {
		t.Errorf("a track's date is its first point's: %v", at)
	}
	ignored := fmt.Sprint(report.Ignored)
	for _, what := range []string{"a waypoint", "lies nowhere", "too few points", "extensions"} {
		if !strings.Contains(ignored, what) {
			t.Errorf("not said to be left out: %s in %s", what, ignored)
		}
	}
}

func TestEncodings(t *testing.T) {
	text := `<?xml version="1.0" encoding="%s"?><gpx><wpt lat="46.8" lon="-105.3"><name>Fährte</name></wpt></gpx>`
	latin, _ := charmap.ISO8859_1.NewEncoder().String(fmt.Sprintf(text, "ISO-8859-1"))
	wide, _ := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(fmt.Sprintf(text, "UTF-16"))
	for name, raw := range map[string]string{"utf-8": fmt.Sprintf(text, "UTF-8"), "latin": latin, "utf-16": wide} {
		report, err := gpx([]byte(raw))
		if err != nil || report.Things[0].Name != "Fährte" {
			t.Errorf("%s: %+v, %v", name, report.Things, err)
		}
	}
}

func TestBadFilesAreRefusedInWords(t *testing.T) {
	bomb := `<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><gpx><wpt lat="1" lon="1"><name>&b;</name></wpt></gpx>`
	for _, c := range []struct {
		name, raw, says string
		read            func([]byte) (Report, error)
	}{
		{"empty", ``, "no gpx element", gpx},
		{"html", `<html></html>`, `begins with "html"`, gpx},
		{"cut off", someGPX[:300], "GPX", gpx},
		{"entities", bomb, "declares a document type", gpx},
		{"unknown entity", `<gpx><wpt lat="1" lon="1"><name>&b;</name></wpt></gpx>`, "entity", gpx},
		{"deep", `<gpx><wpt lat="1" lon="1"><name>` + strings.Repeat("<a>", 500) + `</name></wpt></gpx>`, "nests too deeply", gpx},
		{"deep elsewhere", `<gpx>` + strings.Repeat("<a>", 500) + `</gpx>`, "nests too deeply", gpx},
		{"nothing in it", `<gpx></gpx>`, "holds no waypoint", gpx},
		{"only nonsense", `<gpx><wpt lat="north" lon="1"/></gpx>`, "lies nowhere on the globe", gpx},
		{"unknown encoding", `<?xml version="1.0" encoding="klingon"?><gpx/>`, "klingon", gpx},
		{"no json", `{"type":`, "cut off", geoJSON},
		{"no type", `{}`, "no type", geoJSON},
		{"other type", `{"type":"Topology"}`, "Topology", geoJSON},
		{"deep json", strings.Repeat(`{"a":`, 5000), "nests too deeply", geoJSON},
		{"no features", `{"type":"FeatureCollection","features":[]}`, "holds no point", geoJSON},
		{"null geometry", `{"type":"Feature","geometry":null,"properties":{}}`, "no geometry", geoJSON},
		{"off the globe", `{"type":"Point","coordinates":[500,1]}`, "nowhere on the globe", geoJSON},
	} {
		_, err := c.read([]byte(c.raw))
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != "file" || !strings.Contains(p[0].Says, c.says) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
}

func TestReadGeoJSON(t *testing.T) {
	report, err := geoJSON([]byte(`{"type":"FeatureCollection","features":[
		{"type":"Feature","geometry":{"type":"Polygon","coordinates":[[[0,0],[1,0],[1,1],[0,0]],[[0.1,0.1],[0.2,0.1],[0.2,0.2],[0.1,0.1]]]},"properties":{"name":"Hay bottom","kind":"hay"}},
		{"type":"Feature","geometry":{"type":"MultiLineString","coordinates":[[[0,0],[1,1]],[[2,2],[3,3]]]},"properties":null},
		{"type":"Feature","geometry":{"type":"GeometryCollection","geometries":[]},"properties":{}},
		{"type":"Feature","geometry":{"type":"Point","coordinates":[1,2]},"properties":{"kind":7,"spot":"no","sign":[1]}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	if len(report.Things) != 4 || report.Things[0].Kind != "hay" || len(report.Things[0].At) != 3 || report.Things[1].Kind != "travel_way" {
		t.Errorf("%+v", report.Things)
	}
	if ignored := fmt.Sprint(report.Ignored); !strings.Contains(ignored, "hole") {
		t.Errorf("left out: %s", ignored)
	}
}

// ground is one of everything.
func someGround() Ground {
	made := time.Date(2026, 11, 2, 14, 30, 0, 0, time.UTC)
	heading := 80.0
	property := line.Property{ID: "p", Name: "Alder Slough hayfield", Permission: "shut both gates", Asked: "2026-09-12", Until: "2027-03-31"}
	return Ground{
		Line:       line.Line{Name: "Kettle Fork line"},
		Properties: []line.Property{property},
		Features: []line.Feature{
			{ID: "a", Kind: "boundary", Name: "the field", PropertyID: &property.ID, MadeAt: made, Points: [][2]float64{{-105.3, 46.8}, {-105.2, 46.8}, {-105.2, 46.9}}},
			{ID: "b", Kind: "travel_way", Name: "along & under <the> fence", Note: "worn", WidthMm: 900, MadeAt: made, Points: [][2]float64{{-105.3, 46.8}, {-105.2, 46.85}}},
			{ID: "c", Kind: "culvert", MadeAt: made, Points: [][2]float64{{-105.25, 46.81}}},
		},
		Spots: []line.Spot{{ID: "s", Name: "Gate gap", PropertyID: "p", LatDeg: 46.8, LonDeg: -105.3, TravelBearingDeg: new(75.0), TravelWidthMm: new(600.0), WaysMeet: new(2), Soil: "loam", Wetness: "moist", Surface: "grass", Met: []line.Met{{What: "lure", Note: "gland", On: "2026-11-01"}}}},
		Signs: []line.Sign{{ID: "t", What: "tracks", Animal: "bobcat", Candidates: []string{}, Count: 1, DirectionDeg: &heading, Age: "week", Holds: "well", SeenAt: made, Note: "in the snow", LatDeg: 46.81, LonDeg: -105.31}},
	}
}

// formats are those that can be written and read.
var formats = map[string]struct {
	write func(Ground) ([]byte, error)
	read  func([]byte) (Report, error)
}{"gpx": {WriteGPX, gpx}, "geojson": {WriteGeoJSON, geoJSON}}

func TestRoundTripKeepsNamesDatesAndKinds(t *testing.T) {
	g := someGround()
	for name, format := range formats {
		raw, err := format.write(g)
		if err != nil {
			t.Fatal(err)
		}
		report, err := format.read(raw)
		if err != nil || len(report.Ignored) > 0 {
			t.Fatalf("%s: %v, %v\n%s", name, err, report.Ignored, raw)
		}
		back := map[string]Thing{}
		for _, thing := range report.Things {
			back[thing.Kind] = thing
		}
		for _, want := range g.things() {
			got := back[want.Kind]
			if got.Name != want.Name || got.Form != want.Form || len(got.At) != len(want.At) || got.Note != want.Note || got.Type != want.Type {
				t.Errorf("%s: %+v came back as %+v", name, want, got)
			}
			if want.Time != nil && (got.Time == nil || !got.Time.Equal(*want.Time)) {
				t.Errorf("%s: the date of %s is %v", name, want.Kind, got.Time)
			}
			if got.Sign != nil && (got.Sign.What != "tracks" || got.Sign.Animal != "bobcat" || got.Sign.Age != "week") {
				t.Errorf("%s: sign came back as %+v", name, got.Sign)
			}
		}
		report.Mark(g)
		for _, thing := range report.Things {
			if !thing.Known {
				t.Errorf("%s: %s is not known again", name, thing.Kind)
			}
		}
	}
	raw, _ := WriteGeoJSON(g)
	report, _ := geoJSON(raw)
	for _, thing := range report.Things {
		if thing.Spot != nil && (*thing.Spot.WaysMeet != 2 || len(thing.Spot.Met) != 1 || *thing.Land != Land{"Alder Slough hayfield", "shut both gates", "2026-09-12", "2027-03-31"}) {
			t.Errorf("the spot came back as %+v on %+v", thing.Spot, thing.Land)
		}
	}
}

// many is a file with that many waypoints.
func many(n int) []byte {
	var file bytes.Buffer
	file.WriteString(`<gpx version="1.1">`)
	for i := range n {
		fmt.Fprintf(&file, `<wpt lat="%f" lon="%f"><time>2026-11-02T14:00:00Z</time><name>point %d</name><type>gate</type></wpt>`, 46+float64(i)/1e6, -105.3, i)
	}
	file.WriteString(`</gpx>`)
	return file.Bytes()
}

func TestManyWaypoints(t *testing.T) {
	report, err := gpx(many(10000))
	if err != nil || len(report.Things) != 10000 || report.Things[9999].Name != "point 9999" {
		t.Fatalf("%d things, %v", len(report.Things), err)
	}
	if _, err := gpx(many(mostThings + 1)); err == nil {
		t.Error("there is no bound")
	}
}

func BenchmarkTenThousandWaypoints(b *testing.B) {
	raw := many(10000)
	for b.Loop() {
		if _, err := gpx(raw); err != nil {
			b.Fatal(err)
		}
	}
}

func FuzzReadGPX(f *testing.F) {
	f.Add([]byte(someGPX))
	f.Fuzz(func(t *testing.T, raw []byte) { checkReport(t, gpx, raw) })
}

func FuzzReadGeoJSON(f *testing.F) {
	f.Add([]byte(`{"type":"Feature","geometry":{"type":"Point","coordinates":[1,2]},"properties":{"name":"a"}}`))
	raw, _ := WriteGeoJSON(someGround())
	f.Add(raw)
	f.Fuzz(func(t *testing.T, raw []byte) { checkReport(t, geoJSON, raw) })
}

func checkReport(t *testing.T, read func([]byte) (Report, error), raw []byte) {
	report, err := read(raw)
	var p refuse.Problems
	if err != nil && !errors.As(err, &p) {
		t.Errorf("refused without a field: %v", err)
	}
	for _, thing := range report.Things {
		for _, at := range thing.At {
			if !onGlobe(at[0], at[1]) || math.IsNaN(at[0]) {
				t.Errorf("%v is taken for a place", at)
			}
		}
	}
}

// Sign of which nobody said how old it is goes out and comes in without an age.
func TestSignWithoutAnAge(t *testing.T) {
	g := someGround()
	g.Signs[0].Age = ""
	if kind := typeOfSign(g.Signs[0]); kind != "sign/tracks/bobcat" {
		t.Errorf("written as %s", kind)
	}
	for name, format := range formats {
		raw, err := format.write(g)
		if err != nil {
			t.Fatal(err)
		}
		report, err := format.read(raw)
		if err != nil {
			t.Fatal(err)
		}
		if i := slices.IndexFunc(report.Things, func(x Thing) bool { return x.Sign != nil }); i < 0 || report.Things[i].Sign.Age != "" || report.Things[i].Sign.Animal != "bobcat" {
			t.Errorf("%s: %+v", name, report.Things)
		}
	}
	if signOf("sign/tracks") != nil || signOf("sign/a/b/c/d") != nil {
		t.Error("what is no sign is read as one")
	}
}
