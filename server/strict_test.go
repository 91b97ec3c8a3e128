package server

import (
	"bytes"
	"encoding/csv"
	"encoding/xml"
	"errors"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"oldburrow/core/line"
	"oldburrow/core/page"
)

var ownID = regexp.MustCompile(`\b[0-7][0-9A-HJKMNP-TV-Z]{25}\b`)

func (x *site) goesOut(format string) []byte {
	x.t.Helper()
	status, raw := x.do("GET", "/lines/"+x.line+"/export/"+format, "", "")
	if status != 200 || len(raw) < 1000 {
		x.t.Fatalf("%s: %d, %d bytes", format, status, len(raw))
	}
	return raw
}

// schemaOrder is in which order GPX 1.1 wants what stands in its elements.
var schemaOrder = map[string][]string{
	"gpx": {"metadata", "wpt", "rte", "trk", "extensions"}, "metadata": {"name", "desc", "author", "copyright", "link", "time", "keywords", "bounds", "extensions"},
	"wpt": {"ele", "time", "magvar", "geoidheight", "name", "cmt", "desc", "src", "link", "sym", "type", "extensions"},
	"rte": {"name", "cmt", "desc", "src", "link", "number", "type", "extensions", "rtept"},
	"trk": {"name", "cmt", "desc", "src", "link", "number", "type", "extensions", "trkseg"}, "trkseg": {"trkpt", "extensions"},
	"rtept": {"ele", "time", "name"}, "trkpt": {"ele", "time", "name"},
}

// What goes out is read by eyes that forgive nothing: GPX in the order of its schema, with places on the globe and no id of ours.
func TestGPXByStrictEyes(t *testing.T) {
	x := newDemo(t)
	raw := x.goesOut("gpx")
	if id := ownID.Find(raw); id != nil {
		t.Errorf("it tells an id: %s", id)
	}
	reader := xml.NewDecoder(bytes.NewReader(raw))
	var within []string
	last := map[int]int{}
	points := 0
	for {
		token, err := reader.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			t.Fatal(err)
		}
		switch token := token.(type) {
		case xml.StartElement:
			name, depth := token.Name.Local, len(within)
			if token.Name.Space != "http://www.topografix.com/GPX/1/1" {
				t.Errorf("%s stands in %q", name, token.Name.Space)
			}
			if depth > 0 {
				at := slices.Index(schemaOrder[within[depth-1]], name)
				if at < 0 || at < last[depth] {
					t.Errorf("%s in %s stands where the schema has none", name, within[depth-1])
				}
				last[depth] = at
			}
			if name == "wpt" || name == "rtept" || name == "trkpt" {
				points++
				at := map[string]float64{}
				for _, a := range token.Attr {
					v, err := strconv.ParseFloat(a.Value, 64)
					if err != nil {
						t.Error(err)
					}
					at[a.Name.Local] = v
				}
				if len(at) != 2 || at["lat"] < 46 || at["lat"] > 47 || at["lon"] < -106 || at["lon"] > -105 {
					t.Errorf("a place at %v", at)
				}
			}
			within = append(within, name)
			last[len(within)] = 0
		case xml.EndElement:
			within = within[:len(within)-1]
		}
	}
	if points < 100 || len(within) != 0 {
		t.Errorf("%d places", points)
	}
}

// GeoJSON by another reader: as many things as the line has, rings closed and turned as RFC 7946 has it, nothing of ours in them.
func TestGeoJSONByStrictEyes(t *testing.T) {
	x := newDemo(t)
	raw := x.goesOut("geojson")
	if id := ownID.Find(raw); id != nil {
		t.Errorf("it tells an id: %s", id)
	}
	found, err := geojson.UnmarshalFeatureCollection(raw)
	if err != nil {
		t.Fatal(err)
	}
	var ground page.Ground
	x.get("/lines/"+x.line+"/ground", &ground)
	if n := len(ground.Features) + len(ground.Spots) + len(ground.Signs); len(found.Features) != n {
		t.Errorf("%d things, want %d", len(found.Features), n)
	}
	rings := 0
	for _, f := range found.Features {
		if b := f.Geometry.Bound(); b.Min[0] < -106 || b.Max[0] > -105 || b.Min[1] < 46 || b.Max[1] > 47 {
			t.Errorf("%v lies at %v", f.Properties, b)
		}
		if area, ok := f.Geometry.(orb.Polygon); ok {
			rings++
			if ring := area[0]; !ring.Closed() || len(ring) < 4 || ring.Orientation() != orb.CCW {
				t.Errorf("%v: closed %v, %d points, turned %v", f.Properties["name"], ring.Closed(), len(ring), ring.Orientation())
			}
		}
	}
	if rings < 5 {
		t.Errorf("%d rings", rings)
	}
}

// CSV by a reader that forgives no quote: the columns in their order, ids in those that are named for them alone, blank what is not recorded
// and nought what is nought.
func TestCSVByStrictEyes(t *testing.T) {
	x := newDemo(t)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	salted, plain := view.Sets[2].Make, view.Sets[3].Make
	x.put(x.of("visits", id()), line.Visit{MakeID: salted.ID, At: view.Now, Found: line.Found{Finding: "quiet"}, Note: "=1+1, \"said\"\nand gone", Seen: line.Seen{AgentG: new(0.0)}}, nil)
	x.put(x.of("visits", id()), line.Visit{MakeID: plain.ID, At: view.Now, Found: line.Found{Finding: "quiet"}}, nil)
	for format, columns := range map[string]string{
		"looks":   "id at local_date set spot property make_id target pattern night finding animal told_by also side bed rigs caught bailed agent_g note flags who",
		"catches": "id look_id at local_date set spot property target pattern species sex foot hold rigs were weight_g blood fate dead reported_at night setback_mm gauge_n who",
		"makes":   "id set spot property follows target kind pattern built_at local_date ended_at trap_nights setback_mm offset_mm gauge_n cover cover_mm firm anchor anchor_mm chain_mm traps smells facing_deg hands flags who",
	} {
		reader := csv.NewReader(bytes.NewReader(x.goesOut(format)))
		reader.LazyQuotes, reader.ReuseRecord = false, false
		rows, err := reader.ReadAll()
		if err != nil || strings.Join(rows[0], " ") != columns {
			t.Fatalf("%s: %v, %v", format, rows[0], err)
		}
		for _, row := range rows[1:] {
			for i, cell := range row {
				named := slices.Contains([]string{"id", "look_id", "make_id", "follows"}, rows[0][i])
				if ownID.MatchString(cell) && !named || named && cell != "" && !line.IsID(cell) {
					t.Errorf("%s, %s: %q", format, rows[0][i], cell)
				}
			}
		}
		if format != "looks" {
			continue
		}
		at := func(name string) int { return slices.Index(rows[0], name) }
		last := map[string][]string{}
		for _, row := range rows[1:] {
			last[row[at("make_id")]] = row
		}
		if s, p := last[salted.ID], last[plain.ID]; s[at("agent_g")] != "0" || p[at("agent_g")] != "" || s[at("note")] != "'=1+1, \"said\"\nand gone" || p[at("note")] != "" {
			t.Errorf("%q, %q", s, p)
		}
	}
}
