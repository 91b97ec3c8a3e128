package exchange

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"time"

	"golang.org/x/net/html/charset"
	"golang.org/x/text/encoding/unicode"

	"oldburrow/core/ground"
	"oldburrow/core/refuse"
)

// ReadGPX reads waypoints, routes and tracks of a GPX 1.1 file; zone is that of times that name none. It refuses, under the field "file", what is no GPX, declares
// entities, nests too deeply, or holds nothing that can be used.
func ReadGPX(raw []byte, zone *time.Location) (Report, error) {
	report := newReport(zone)
	if err := readGPX(raw, &report); err != nil {
		return Report{}, refuse.Field("file", "cannot be read as GPX: %s", err)
	}
	if len(report.Things) == 0 {
		return Report{}, refuse.Field("file", "holds no waypoint, route or track that can be used%s", why(report))
	}
	return report.ended(), nil
}

// pointNames are what a GPX's points are called.
var pointNames = map[string]string{"wpt": "a waypoint", "rtept": "a point of a route", "trkpt": "a point of a track"}

// nowhere says why a place is none.
func nowhere(lon, lat float64) string {
	if math.Abs(lon) > 360 && math.Abs(lat) > 360 {
		return "lies nowhere on the globe: its figures look like metres of another reference system; save the file in degrees, as WGS 84"
	}
	return "lies nowhere on the globe"
}

func why(r Report) string {
	if len(r.Ignored) == 0 {
		return ""
	}
	return fmt.Sprintf(": %s %s", r.Ignored[0].What, r.Ignored[0].Why)
}

// gpxReader walks through the file token by token and keeps only what it is in the middle of.
type gpxReader struct {
	*xml.Decoder
	report *Report
	points int
	parts  []int // where the segments of a track begin
}

func readGPX(raw []byte, report *Report) error {
	if bytes.HasPrefix(raw, []byte{0xFF, 0xFE}) || bytes.HasPrefix(raw, []byte{0xFE, 0xFF}) {
		decoded, err := unicode.UTF16(unicode.BigEndian, unicode.UseBOM).NewDecoder().Bytes(raw)
		if err != nil {
			return errors.New("its UTF-16 text is broken")
		}
		raw = decoded
	}
	r := gpxReader{Decoder: xml.NewDecoder(bytes.NewReader(raw)), report: report}
	r.CharsetReader = func(label string, in io.Reader) (io.Reader, error) {
		if strings.HasPrefix(strings.ToLower(label), "utf-16") {
			return in, nil // decoded above, by its byte order mark
		}
		return charset.NewReaderLabel(label, in)
	}
	seen := false
	for depth := 0; ; {
		token, err := r.Token()
		if errors.Is(err, io.EOF) {
			if !seen {
				return errors.New("it has no gpx element")
			}
			return nil
		}
		if err != nil {
			return tidy(err)
		}
		switch token := token.(type) {
		case xml.Directive:
			return errors.New("it declares a document type, which no GPX file needs")
		case xml.EndElement:
			depth--
		case xml.StartElement:
			switch name := token.Name.Local; {
			case depth == 0 && name != "gpx":
				return fmt.Errorf("it begins with %q, not with gpx", cut(name))
			case depth == 0:
				seen = true
				depth++
			case name == "wpt" || name == "rte" || name == "trk":
				if err := r.thing(token); err != nil {
					return err
				}
			default:
				if name != "metadata" {
					report.ignore(cut(name), "is not a waypoint, route or track")
				}
				if err := r.skip(); err != nil {
					return err
				}
			}
		}
	}
}

// thing reads a waypoint, route or track. A closed track whose type says so is an area.
func (r *gpxReader) thing(start xml.StartElement) error {
	t := Thing{Form: ground.Line}
	r.parts = nil
	if start.Name.Local == "wpt" {
		t.Form = ground.Point
		r.point(start, &t)
	}
	if err := r.inside(start.Name.Local, &t, 1); err != nil {
		return err
	}
	if kind, ok := ground.KindOf(ground.FeatureKind(t.Type)); ok && kind.Form == ground.Area && t.Form == ground.Line {
		t.Form = ground.Area
	}
	t.Sign = signOf(t.Type)
	for _, part := range r.segments(t) {
		if n := len(part.At); part.Form == ground.Area && n > 1 && part.At[0] == part.At[n-1] {
			part.At = part.At[:n-1]
		}
		if err := r.report.add(part); err != nil {
			return err
		}
	}
	return nil
}

// segments are the parts of a track, each a thing of its own: between them the receiver was off, and nobody went there.
func (r *gpxReader) segments(t Thing) []Thing {
	var parts []Thing
	for i, from := range r.parts {
		to := len(t.At)
		if i+1 < len(r.parts) {
			to = r.parts[i+1]
		}
		if to > from {
			part := t
			part.At = t.At[from:to:to]
			parts = append(parts, part)
		}
	}
	if len(parts) < 2 {
		return []Thing{t}
	}
	for i := range parts {
		if t.Name != "" {
			parts[i].Name = fmt.Sprintf("%s, part %d", t.Name, i+1)
		}
	}
	return parts
}

func (r *gpxReader) inside(within string, t *Thing, depth int) error {
	if depth > mostDepth {
		return errors.New("it nests too deeply")
	}
	for {
		token, err := r.Token()
		if err != nil {
			return tidy(err)
		}
		switch token := token.(type) {
		case xml.EndElement:
			return nil
		case xml.StartElement:
			if err := r.child(within, token, t, depth); err != nil {
				return err
			}
		}
	}
}

func (r *gpxReader) child(within string, start xml.StartElement, t *Thing, depth int) error {
	inPoint := within == "rtept" || within == "trkpt"
	switch name := start.Name.Local; name {
	case "trkseg":
		r.parts = append(r.parts, len(t.At))
		return r.inside(name, t, depth+1)
	case "rtept", "trkpt":
		if r.points++; r.points > mostPoints {
			return fmt.Errorf("it holds more than %d points", mostPoints)
		}
		r.point(start, t)
		return r.inside(name, t, depth+1)
	case "name", "desc", "cmt", "type", "sym", "time":
		text, err := r.text()
		if err != nil || inPoint && (name != "time" || t.Time != nil) {
			return err // of a line's points only the first date is taken, as the line's
		}
		if name == "time" {
			t.Time = r.report.timeOf(text)
		} else {
			t.say(name, text)
		}
		return nil
	default:
		return r.skip()
	}
}

// say takes in what the file says of the thing as a whole.
func (t *Thing) say(name, text string) {
	switch name {
	case "name":
		t.Name = text
	case "desc":
		t.Note = text
	case "cmt":
		if t.Note == "" {
			t.Note = text
		}
	case "type":
		t.Type = strings.TrimSpace(text)
	case "sym":
		if t.Type == "" {
			t.Type = strings.TrimSpace(text)
		}
	}
}

// point adds the place that an element carries, or notes that it lies nowhere.
func (r *gpxReader) point(start xml.StartElement, t *Thing) {
	lat, lon := math.NaN(), math.NaN()
	for _, a := range start.Attr {
		v, err := strconv.ParseFloat(strings.TrimSpace(a.Value), 64)
		if err != nil {
			continue
		}
		switch a.Name.Local {
		case "lat":
			lat = v
		case "lon":
			lon = v
		}
	}
	if !onGlobe(lon, lat) {
		r.report.ignore(pointNames[start.Name.Local], nowhere(lon, lat))
		return
	}
	t.At = append(t.At, [2]float64{lon, lat})
}

// text reads the text up to the end of the element.
func (r *gpxReader) text() (string, error) {
	var text strings.Builder
	for depth := 1; ; {
		token, err := r.Token()
		if err != nil {
			return "", tidy(err)
		}
		switch token := token.(type) {
		case xml.CharData:
			if text.Len() < 4*longestText {
				text.Write(token)
			}
		case xml.StartElement:
			if depth++; depth > mostDepth {
				return "", errors.New("it nests too deeply")
			}
		case xml.EndElement:
			if depth--; depth == 0 {
				return text.String(), nil
			}
		}
	}
}

func (r *gpxReader) skip() error {
	_, err := r.text()
	return err
}

// tidy says an XML error without the library's name before it.
func tidy(err error) error {
	if errors.Is(err, io.EOF) {
		return errors.New("it ends in the middle")
	}
	return errors.New(strings.TrimPrefix(err.Error(), "XML syntax error "))
}

type gpxFile struct {
	XMLName xml.Name   `xml:"gpx"`
	Xmlns   string     `xml:"xmlns,attr"`
	Version string     `xml:"version,attr"`
	Creator string     `xml:"creator,attr"`
	Name    string     `xml:"metadata>name"`
	Points  []gpxPoint `xml:"wpt"`
	Tracks  []gpxTrack `xml:"trk"`
}

type gpxPoint struct {
	Lat  float64 `xml:"lat,attr"`
	Lon  float64 `xml:"lon,attr"`
	Time string  `xml:"time,omitempty"`
	Name string  `xml:"name,omitempty"`
	Desc string  `xml:"desc,omitempty"`
	Type string  `xml:"type,omitempty"`
}

type gpxTrack struct {
	Name   string     `xml:"name,omitempty"`
	Desc   string     `xml:"desc,omitempty"`
	Type   string     `xml:"type,omitempty"`
	Points []gpxPoint `xml:"trkseg>trkpt"`
}

// WriteGPX writes the ground as GPX 1.1: points as waypoints, lines and areas as tracks (areas closed), what each is as its
// type. A line's date stands at its first point.
func WriteGPX(g Ground) ([]byte, error) {
	file := gpxFile{Xmlns: "http://www.topografix.com/GPX/1/1", Version: "1.1", Creator: "Old Burrow", Name: g.Line.Name}
	for _, t := range g.things() {
		if t.Form == ground.Point {
			file.Points = append(file.Points, gpxPoint{Lat: t.At[0][1], Lon: t.At[0][0], Time: stamp(t.Time), Name: t.Name, Desc: t.Note, Type: t.Type})
			continue
		}
		track := gpxTrack{Name: t.Name, Desc: t.Note, Type: t.Type}
		at := t.At
		if t.Form == ground.Area {
			at = append(append([][2]float64{}, at...), at[0])
		}
		for i, p := range at {
			point := gpxPoint{Lat: p[1], Lon: p[0]}
			if i == 0 {
				point.Time = stamp(t.Time)
			}
			track.Points = append(track.Points, point)
		}
		file.Tracks = append(file.Tracks, track)
	}
	raw, err := xml.MarshalIndent(file, "", " ")
	return append([]byte(xml.Header), append(raw, '\n')...), err
}

func stamp(t *time.Time) string {
	if t == nil {
		return ""
	}
	return t.UTC().Format(time.RFC3339)
}
