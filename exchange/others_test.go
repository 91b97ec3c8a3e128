package exchange

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/seeds"
)

// A long track keeps where it went: what is left out lies on it, and how far off is said.
func TestALongTrackIsThinned(t *testing.T) {
	var raw strings.Builder
	raw.WriteString(`<gpx><trk><name>the drive</name><trkseg>`)
	var at [][2]float64
	for i := range 12000 {
		lon, lat := -105.3+float64(i)*2e-5, 46.8
		if i > 6000 {
			lon, lat = -105.3+6000*2e-5, 46.8+float64(i-6000)*2e-5 // one corner
		}
		at = append(at, [2]float64{lon, lat})
		fmt.Fprintf(&raw, `<trkpt lat="%f" lon="%f"/>`, lat, lon)
	}
	raw.WriteString(`</trkseg></trk></gpx>`)
	report, err := gpx([]byte(raw.String()))
	if err != nil || len(report.Things) != 1 || len(report.Said) != 1 || !strings.Contains(report.Said[0], "the drive had 12000 points and keeps") || !strings.Contains(report.Said[0], "2 m off") {
		t.Fatalf("%d things, %v, %v", len(report.Things), report.Said, err)
	}
	kept := report.Things[0].At
	if len(kept) > 100 || kept[0] != at[0] || math.Abs(kept[len(kept)-1][1]-at[len(at)-1][1]) > 1e-6 {
		t.Errorf("it keeps %d points, from %v to %v", len(kept), kept[0], kept[len(kept)-1])
	}
	plane := ground.PlaneAbout(ground.Fix{LatDeg: 46.8, LonDeg: -105.3})
	on := func(p [2]float64) [2]float64 { return plane.At(ground.Fix{LatDeg: p[1], LonDeg: p[0]}) }
	var way [][2]float64
	for _, p := range kept {
		way = append(way, on(p))
	}
	for _, p := range at {
		if far := ground.FromWay(on(p), way); far > 2.05 {
			t.Fatalf("%v lies %.1f m off", p, far)
		}
	}
	// One that goes to and fro everywhere is thinned until it can be kept, and that is said.
	rng := rand.New(rand.NewPCG(1, 1))
	wild := Thing{Form: ground.Line, Name: "wild"}
	for range 20000 {
		wild.At = append(wild.At, [2]float64{-105.3 + rng.Float64()*1e-3, 46.8 + rng.Float64()*1e-3})
	}
	r := newReport(time.UTC)
	if err := r.add(wild); err != nil || len(r.Things[0].At) > mostOnALine || !strings.Contains(r.Said[0], "than 64 m off") {
		t.Errorf("%d points, %v, %v", len(r.Things[0].At), r.Said, err)
	}
}

// Where a receiver was off nobody went: the parts of a track stay apart.
func TestSegmentsStayApart(t *testing.T) {
	const two = `<trkseg><trkpt lat="46.8" lon="-105.3"/><trkpt lat="46.81" lon="-105.3"/></trkseg>`
	report, err := gpx([]byte(`<gpx><trk><name>in and out</name>` + two + `<trkseg></trkseg>` + strings.ReplaceAll(two, "105.3", "105.9") + `</trk><trk><name>whole</name>` + two + `</trk></gpx>`))
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, thing := range report.Things {
		got = append(got, fmt.Sprintf("%s %d %g", thing.Name, len(thing.At), thing.At[0][0]))
	}
	if want := []string{"in and out, part 1 2 -105.3", "in and out, part 2 2 -105.9", "whole 2 -105.3"}; !slices.Equal(got, want) {
		t.Errorf("%q", got)
	}
}

// Times that name no zone are the line's own, which is said; a time that cannot be is left out, and with it nothing else.
func TestTimesWithoutAZone(t *testing.T) {
	zone, err := time.LoadLocation("America/Denver")
	if err != nil {
		t.Fatal(err)
	}
	point := func(at string) string {
		return `<wpt lat="46.8" lon="-105.3"><time>` + at + `</time><name>a</name></wpt>`
	}
	report, err := ReadGPX([]byte(`<gpx>`+point("2026-12-04T05:50:00")+point("2026-12-04T05:50:00Z")+point("9999-12-31T23:59:59-10:00")+`</gpx>`), zone)
	if err != nil || len(report.Things) != 3 {
		t.Fatalf("%+v, %v", report, err)
	}
	first, second := report.Things[0].Time, report.Things[1].Time
	if first == nil || second == nil || first.Hour() != 12 || second.Hour() != 5 || report.Things[2].Time != nil {
		t.Errorf("%v, %v, %v", first, second, report.Things[2].Time)
	}
	if said := fmt.Sprint(report.Said, report.Ignored); !strings.Contains(said, "America/Denver): 1") || !strings.Contains(said, "a time") {
		t.Errorf("said: %s", said)
	}
}

// What is broken in one feature costs that feature alone; collections are taken apart; names are read however they are written.
func TestFeaturesOfOthers(t *testing.T) {
	report, err := geoJSON([]byte(`{"type":"FeatureCollection","features":[
		{"type":"Feature","geometry":{"type":"Point","coordinates":[]},"properties":{"name":"empty"}},
		{"type":"Feature","geometry":{"type":"LineString","coordinates":[[1,2],[3]]},"properties":{"name":"half"}},
		{"type":"Feature","geometry":{"type":"Teapot","coordinates":[1,2]},"properties":{}},
		{"type":"Feature","geometry":{"type":"GeometryCollection","geometries":[{"type":"Point","coordinates":[1,2]},{"type":"LineString","coordinates":[[1,2],[3,4]]}]},"properties":{"Name":"both"}},
		{"type":"Feature","geometry":{"type":"Point","coordinates":[5,6]},"properties":{"TITLE":"loud"}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, thing := range report.Things {
		got = append(got, thing.Form+" "+thing.Name)
	}
	if want := []string{"point both", "line both", "point loud"}; !slices.Equal(got, want) {
		t.Errorf("%q, %+v", got, report.Ignored)
	}
}

// Places that are most likely not meant are asked about, with what they are; those near the line are not.
func TestDoubtfulPlaces(t *testing.T) {
	l := line.Line{LatDeg: 46.8, LonDeg: -105.3}
	for _, c := range []struct {
		at    [][2]float64
		doubt string
		says  string
	}{
		{[][2]float64{{-105.3, 46.8}}, "", ""},
		{[][2]float64{{-105.3, 47.24}}, "", ""}, // 49 km
		{[][2]float64{{-105.3, 47.26}}, DoubtFar, "lies 51 km from"},
		{[][2]float64{{-105.3, 46.8}, {-90, 46.8}}, DoubtFar, "from the middle of the line"},
		{[][2]float64{{0, 0}}, DoubtNought, "0, 0"},
		{[][2]float64{{-105.3, 46.8}, {0, 0}}, DoubtNought, "without a fix"},
		{[][2]float64{{46.8, -75.3}}, DoubtFar, "lies"},
		{[][2]float64{{46.8, -105.3}}, "", ""}, // not on the globe: never gets here
	} {
		if !onGlobe(c.at[0][0], c.at[0][1]) {
			continue
		}
		thing := Thing{Form: ground.Point, At: c.at}
		if sure := thing.IsSure(l); thing.Doubt != c.doubt || !strings.Contains(thing.Says, c.says) || sure != (c.doubt == "") {
			t.Errorf("%v: %q %q, sure %v", c.at, thing.Doubt, thing.Says, sure)
		}
		if thing.Sure = true; !thing.IsSure(l) {
			t.Errorf("%v: it is not taken though somebody says that it is right", c.at)
		}
	}
	south := line.Line{LatDeg: 40, LonDeg: 30}
	thing := Thing{Form: ground.Point, At: [][2]float64{{40.01, 30}}}
	if thing.IsSure(south); thing.Doubt != DoubtExchanged || !strings.Contains(thing.Says, "exchanged, 0.") && !strings.Contains(thing.Says, "exchanged, 1.") {
		t.Errorf("exchanged: %+v", thing)
	}
	report, err := geoJSON([]byte(`{"type":"FeatureCollection","crs":{"type":"name","properties":{"name":"urn:ogc:def:crs:EPSG::26913"}},"features":[{"type":"Feature","geometry":{"type":"Point","coordinates":[-105.3,46.8]},"properties":{}}]}`))
	if report.Doubt(l); err != nil || report.Things[0].Doubt != DoubtReference || !strings.Contains(report.Things[0].Says, "26913") || report.Things[0].IsSure(l) {
		t.Errorf("another reference: %+v, %v", report.Things, err)
	}
	for _, plain := range []string{"urn:ogc:def:crs:OGC:1.3:CRS84", "EPSG:4326"} {
		report, err := geoJSON([]byte(`{"type":"FeatureCollection","crs":{"type":"name","properties":{"name":"` + plain + `"}},"features":[{"type":"Feature","geometry":{"type":"Point","coordinates":[-105.3,46.8]},"properties":{}}]}`))
		if err != nil || report.Things[0].Doubt != "" {
			t.Errorf("%s: %+v, %v", plain, report.Things, err)
		}
	}
	if _, err := geoJSON([]byte(`{"type":"Point","coordinates":[477000,5183000]}`)); err == nil || !strings.Contains(err.Error(), "metres of another reference system") {
		t.Errorf("metres: %v", err)
	}
}

// A file that is none of those that are read is named for what it is.
func TestOtherKindsOfFiles(t *testing.T) {
	for raw, says := range map[string]string{
		"PK\x03\x04\x14\x00\x00\x00doc.kml\x00":             "KMZ",
		"PK\x03\x04\x14\x00xl/workbook.xml":                 "workbook",
		"PK\x03\x04\x14\x00notes.txt":                       "packed",
		"\n<!DOCTYPE html><html><body>Sign in":              "web page",
		"<html>":                                            "web page",
		"<?xml version=\"1.0\"?>\n<kml xmlns=\"http://x\">": "KML",
		"%PDF-1.7":         "PDF",
		"\xff\xd8\xff\xe0": "picture",
		"\xef\xbb\xbf<?xml version=\"1.0\"?><gpx></gpx>": "",
		`{"type":"Point"}`:    "",
		"number,size\n1,pk\n": "",
		"<?xml version=\"1.0\"?><gpx><wpt><name>kml</name></wpt></gpx>": "",
	} {
		if err := Known([]byte(raw)); err == nil && says != "" || err != nil && (says == "" || !strings.Contains(err.Error(), says)) {
			t.Errorf("%q: %v, want %q", raw, err, says)
		}
	}
}

// CSV as spreadsheets of every country write it, with the same traps in it.
func TestSheetsOfOthers(t *testing.T) {
	const plain = "number,size,jaw_spread_mm,note\n3,five,127.5,Fährte\n"
	semicolons := strings.ReplaceAll(strings.ReplaceAll(plain, ",", ";"), "127.5", "127,5")
	latin, _ := charmap.Windows1252.NewEncoder().String(semicolons)
	wide, _ := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(semicolons)
	little, _ := unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM).NewEncoder().String(plain)
	bare, _ := unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewEncoder().String(plain)
	for name, c := range map[string]struct {
		raw, encoding, between string
		comma                  bool
	}{
		"plain":               {plain, "utf-8", ",", false},
		"marked":              {"\ufeff" + plain, "utf-8", ",", false},
		"semicolons":          {semicolons, "utf-8", ";", true},
		"tabs":                {strings.ReplaceAll(strings.ReplaceAll(plain, ",", "\t"), "127.5", "127,5"), "utf-8", "\t", true},
		"says so":             {"sep=;\r\n" + semicolons, "utf-8", ";", true},
		"of an old machine":   {latin, "windows-1252", ";", true},
		"two bytes a letter":  {wide, "utf-16le", ";", true},
		"little, no mark":     {little, "utf-16le", ",", false},
		"a cell left blank":   {"number\tsize\ttag\tjaw_spread_mm\tnote\n3\tfive\t\t127,5\tFährte\n", "utf-8", "\t", true},
		"without a mark":      {bare, "utf-16be", ",", false},
		"with blank rows":     {"number,size,jaw_spread_mm,note\n,,,\n3,five,127.5,Fährte\n,,,\n , ,,\n\n", "utf-8", ",", false},
		"a comma in the note": {strings.Replace(semicolons, "Fährte", "Fährte", 1), "utf-8", ";", true},
	} {
		found, err := ReadTraps([]byte(c.raw), "", nil, animal.Reference)
		if err != nil || len(found.Traps) != 1 || len(found.Wrong) != 0 {
			t.Errorf("%s: %+v, %v", name, found, err)
			continue
		}
		if x := found.Traps[0]; x.Number != 3 || x.JawSpreadMm != 127.5 || x.Note != "Fährte" {
			t.Errorf("%s: %+v", name, x)
		}
		if found.Written != (Written{c.encoding, c.between, c.comma}) {
			t.Errorf("%s: %+v", name, found.Written)
		}
	}
	// The guess can be put right, and a note with a comma in it is no figure.
	found, err := ReadTraps([]byte("number;size;note\n3;five;5,5 \xe4\n"), "windows-1251", nil, animal.Reference)
	if err != nil || found.Traps[0].Note != "5,5 д" {
		t.Errorf("%+v, %v", found.Traps, err)
	}
	if _, err := ReadTraps([]byte(plain), "klingon", nil, animal.Reference); err == nil || !strings.HasPrefix(err.Error(), "encoding") {
		t.Errorf("an encoding that there is not: %v", err)
	}
	// A row is named by where it stands, also after blank ones.
	found, _ = ReadTraps([]byte("number,size\n,\n3,\n"), "", nil, animal.Reference)
	if len(found.Wrong) != 1 || found.Wrong[0].Row != 3 {
		t.Errorf("%+v", found.Wrong)
	}
}

// A picture that is all grain is made smaller until it can be kept.
func TestAGrainyPhoto(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	rng := rand.New(rand.NewPCG(1, 2))
	grain := image.NewRGBA(image.Rect(0, 0, 1600, 1600))
	for i := range grain.Pix {
		grain.Pix[i] = uint8(rng.Uint32())
	}
	grain.Set(0, 0, color.White)
	var raw bytes.Buffer
	if err := jpeg.Encode(&raw, grain, &jpeg.Options{Quality: 98}); err != nil {
		t.Fatal(err)
	}
	photo, err := ReadPhoto(raw.Bytes(), time.UTC)
	if err != nil || len(photo.JPEG) > largestPhoto || photo.Width >= 1600 || photo.Width < 300 {
		t.Fatalf("%d bytes, %d across, %v", len(photo.JPEG), photo.Width, err)
	}
	if kept, err := jpeg.Decode(bytes.NewReader(photo.JPEG)); err != nil || kept.Bounds().Dx() != photo.Width || kept.Bounds().Dy() != photo.Height {
		t.Errorf("it is not as large as it says: %v", err)
	}
}

// Things that stand on both sides of where the grid of places is cut are known all the same.
func TestKnownAcrossTheGrid(t *testing.T) {
	seeds.Each(t, 2000, func(rng *rand.Rand) {
		lat, lon := rng.Float64()*160-80, rng.Float64()*358-179
		east := func(m float64) float64 { return m / ground.PlaneAbout(ground.Fix{LatDeg: lat}).EastM }
		have := Ground{Spots: []line.Spot{{Name: "a", LatDeg: lat, LonDeg: lon}}}
		report := Report{Things: []Thing{
			{Form: ground.Point, Kind: SpotKind, Name: "a", At: [][2]float64{{lon + east(1.3), lat + 1.3/ground.MetresPerDegree}}},
			{Form: ground.Point, Kind: SpotKind, Name: "a", At: [][2]float64{{lon + east(3), lat}}},
			{Form: ground.Point, Kind: SpotKind, Name: "b", At: [][2]float64{{lon, lat}}},
		}}
		report.Mark(have)
		if !report.Things[0].Known || report.Things[1].Known || report.Things[2].Known {
			t.Fatalf("at %g, %g: %+v", lat, lon, report.Things)
		}
	})
}

// BenchmarkMark is how long it takes to see which things of a file a line has already; its time must not grow as their square.
func BenchmarkMark(b *testing.B) {
	for _, n := range []int{5000, 50000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			var have Ground
			report := Report{}
			for i := range n {
				lat := 46 + float64(i)*3e-5
				report.Things = append(report.Things, Thing{Form: ground.Point, Kind: SpotKind, Name: "a", At: [][2]float64{{-105.3, lat}}})
				if i%5 < 2 {
					have.Spots = append(have.Spots, line.Spot{Name: "a", LatDeg: lat, LonDeg: -105.3})
				}
			}
			for b.Loop() {
				report.Mark(have)
			}
		})
	}
}

// BenchmarkPreview is how long a file takes from its text to what of it is known, on a line that has two of five things of it already: ten
// times as many must not take more than about ten times as long.
func BenchmarkPreview(b *testing.B) {
	for _, n := range []int{5000, 50000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			var have Ground
			var raw strings.Builder
			raw.WriteString("<gpx>")
			for i := range n {
				lat := 46 + float64(i)*3e-5
				fmt.Fprintf(&raw, `<wpt lat="%f" lon="-105.3"><name>post %d</name></wpt>`, lat, i)
				if i%5 < 2 {
					have.Spots = append(have.Spots, line.Spot{Name: fmt.Sprintf("post %d", i), LatDeg: lat, LonDeg: -105.3})
				}
			}
			raw.WriteString("</gpx>")
			text := []byte(raw.String())
			for b.Loop() {
				report, err := gpx(text)
				if err != nil {
					b.Fatal(err)
				}
				report.Mark(have)
				report.Doubt(line.Line{LatDeg: 46, LonDeg: -105.3})
			}
		})
	}
}

// A cell that a table would compute goes out so that it does not, and comes back as it was written, whatever it begins with.
func TestCellsComeBackAsTheyWere(t *testing.T) {
	for _, cell := range []string{"", "'", "''", "a", "'a", "''a", "'''", "=1+1", "'=1+1", "''=1+1", "-2", "'-2", "@x", "+3", "\tx", "'\tx", "a=b"} {
		out := harmless(cell)
		if back := unharmed(out); back != cell {
			t.Errorf("%q goes out as %q and comes back as %q", cell, out, back)
		}
		if out != "" && strings.ContainsAny(out[:1], "=+-@\t\r") {
			t.Errorf("%q goes out as %q, which is computed", cell, out)
		}
	}
}

// A comment is the note of what has no description; a segment of one point is no line, and is said to be left out.
func TestCommentsAndShortSegments(t *testing.T) {
	point := func(lat float64) string { return fmt.Sprintf(`<trkpt lat="%g" lon="-105.3"/>`, lat) }
	report, err := ReadGPX([]byte(`<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1">
		<wpt lat="46.8" lon="-105.3"><name>a</name><cmt>said</cmt></wpt>
		<wpt lat="46.81" lon="-105.3"><name>b</name><cmt>said</cmt><desc>described</desc></wpt>
		<wpt lat="46.82" lon="-105.3"><name>c</name><desc>described</desc><cmt>said</cmt></wpt>
		<trk><name>t</name><trkseg>`+point(46.8)+point(46.81)+`</trkseg><trkseg>`+point(46.82)+`</trkseg><trkseg>`+point(46.83)+point(46.84)+`</trkseg></trk></gpx>`), time.UTC)
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, x := range report.Things {
		got = append(got, x.Name+"|"+x.Note)
	}
	if want := "a|said; b|described; c|described; t, part 1|; t, part 3|"; strings.Join(got, "; ") != want {
		t.Errorf("%s, want %s", strings.Join(got, "; "), want)
	}
	if ignored := fmt.Sprint(report.Ignored); !strings.Contains(ignored, "a line has too few points") {
		t.Errorf("left out: %s", ignored)
	}
}
