package server

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"oldburrow/core/asked"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/outlook"
	"oldburrow/core/page"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/shed"
	"oldburrow/demo"
	"oldburrow/store"
)

// What a browser takes along answers as the file does: records drawn at random, a dozen acts of any kind laid over a bundle from before them, and
// every page and question asked of both.
func TestABundleAnswersAsTheFileDoes(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	records, kept := 12, 1
	if os.Getenv("OLDBURROW_LONG") != "" {
		records, kept = 300, 20
	}
	d := newDrawing(t, newDemo(t))
	for i := range records {
		d.next()
		var b page.Bundle
		d.taken(&b)
		var writes []page.Write
		for range 1 + d.IntN(12) {
			if w, ok := d.act(); ok {
				writes = append(writes, w)
			}
		}
		// Some have stood since long before, some the program has not met yet.
		now := d.x.server.Clock.Now()
		held := &asked.Held{}
		d.holds(held, asked.Holding{Bundle: &b, Writes: writes})
		d.record = []recorded{{"/hold", asked.Holding{Bundle: &b, Writes: writes}, struct{}{}}}
		for _, q := range d.questions() {
			d.same(held, q, now, writes)
		}
		if t.Failed() {
			return
		}
		if i < kept {
			d.keeps(fmt.Sprintf("%02d.json", i))
		}
	}
	for _, r := range d.x.server.routes() {
		if route := strings.TrimPrefix(r.path, "/api/lines/:line"); r.method == http.MethodPut && route != r.path && r.takes == asJSON && d.drawn[strings.TrimPrefix(route, "/")] == 0 {
			t.Errorf("never drawn: %s", route)
		}
	}
	for _, r := range page.Routes() {
		if stem, _, _ := strings.Cut(strings.TrimPrefix(r.Path, "/"), "/"); d.answered[stem] < records/12 {
			t.Errorf("%s was answered %d times by both", r.Path, d.answered[stem])
		}
	}
	t.Log(d.drawn, d.refused, d.answered)
}

// Ten seasons leave something for today: what stood, and was gone, who was about, what was measured and poured. A phone that has one of them only
// answers as the file does that has all.
func TestABundleOfTheTenthSeason(t *testing.T) {
	size := demo.Large{Seasons: 10, Sets: 8}
	if os.Getenv("OLDBURROW_LONG") != "" {
		size.Sets = 60
	}
	server, of := large(t, size)
	d := newDrawing(t, &site{t: t, server: server, line: of})
	d.reads()
	var b page.Bundle
	d.taken(&b)
	held := &asked.Held{}
	d.holds(held, asked.Holding{Bundle: &b})
	for range 4 {
		for _, q := range d.questions() {
			d.same(held, q, server.Clock.Now(), nil)
		}
	}
	seen := slices.Concat(slices.Collect(maps.Values(b.Before.Seen))...)
	if !slices.ContainsFunc(seen, func(s line.Where) bool { return s.SpotID != "" }) || !slices.ContainsFunc(seen, func(s line.Where) bool { return s.At != nil }) || len(b.Rows.Stories) == 0 || len(b.Rows.Seasons) != 10 || len(b.Before.Promised.Counts["coyote"].Spots) < 8 || len(b.Rows.Promises) < 8 {
		t.Errorf("%d seen, %d traps, %d seasons, %d promised before and %d now", len(seen), len(b.Rows.Stories), len(b.Rows.Seasons), len(b.Before.Promised.Counts["coyote"].Spots), len(b.Rows.Promises))
	}
	// What it has not is not nothing.
	for _, path := range []string{"/book?season=all", "/apart?season=all", "/stories/" + b.Rows.Spots[0].ID + "?season=all", "/book?season=" + b.Rows.Seasons[0].ID, "/ground?season=" + b.Rows.Seasons[3].ID, "/day/2020-11-20", "/designs/" + id(), "/spots/" + id() + "/story"} {
		path, season, _ := strings.Cut(path, "?season=")
		raw, _ := json.Marshal(asked.OfLine{Now: server.Clock.Now(), Query: map[string]string{"season": season}})
		if found, err := held.Answer(t.Context(), asked.Usual(), d.under(path), raw, nil); err == nil {
			t.Errorf("%s %s is answered: %.200v", path, season, found)
		}
	}
}

// packedBy is how a browser gets something over a wire.
func packedBy(t testing.TB, raw []byte) []byte {
	var packed bytes.Buffer
	w := gzip.NewWriter(&packed)
	if _, err := w.Write(raw); err != nil || w.Close() != nil {
		t.Fatal(err)
	}
	return packed.Bytes()
}

// leftBefore is how much of a bundle is what earlier seasons left, but for the cards of the traps, which stand for their rows.
func leftBefore(t testing.TB, raw []byte) (bytes int, b page.Bundle) {
	var view BundleView
	if err := json.Unmarshal(raw, &view); err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(assembled(t, view), &b); err != nil {
		t.Fatal(err)
	}
	left := struct {
		Before page.Before
		Gone   map[string]shed.Gone
		Poured []*shed.Stood
	}{Before: b.Before, Gone: b.Rows.Gone}
	for _, p := range b.Rows.Pourings {
		left.Poured = append(left.Poured, p.Base)
	}
	text, err := json.Marshal(left)
	if err != nil {
		t.Fatal(err)
	}
	return len(text), b
}

// drawing draws what people do on the demo line.
type drawing struct {
	*rand.Rand
	t       *testing.T
	x       *site
	handler http.Handler
	drawn   map[string]int // acts that were taken, by route
	tried   map[string]int
	refused map[string]int

	view  page.LineView
	shelf page.Shelf
	traps []shed.Hung
	land  page.Ground
	// designs are those that are not built, and those of the sets.
	designs []line.Design
	done    []did // what can be taken back
	record  []recorded
	// answered counts what both answered, by the beginning of its path: what both refuse is alike too, and says little.
	answered map[string]int
}

// recorded is what was asked of what is held, and what it answered.
type recorded struct {
	Path   string `json:"path"`
	Body   any    `json:"body"`
	Answer any    `json:"answer"`
}

// keeps keeps a record that was drawn, where the stories are to find it: the browser's core is asked the same.
func (d *drawing) keeps(name string) {
	d.t.Helper()
	dir := os.Getenv("OLDBURROW_DRAWN")
	if dir == "" {
		return
	}
	raw, err := json.Marshal(d.record)
	if err == nil {
		err = os.WriteFile(filepath.Join(dir, name), raw, 0o600)
	}
	if err != nil {
		d.t.Fatal(err)
	}
}

type did struct{ kind, id string }

func newDrawing(t *testing.T, x *site) *drawing {
	seed := uint64(time.Now().UnixNano() % 100000)
	if text := os.Getenv("OLDBURROW_SEED"); text != "" {
		fmt.Sscan(text, &seed)
	}
	t.Logf("OLDBURROW_SEED=%d draws the same again", seed)
	return &drawing{Rand: rand.New(rand.NewPCG(seed, 1)), t: t, x: x, handler: x.server.Handler(), drawn: map[string]int{}, tried: map[string]int{}, refused: map[string]int{}, answered: map[string]int{}}
}

// asks asks the program without a wire between.
func (d *drawing) asks(method, path string, body any, headers map[string]string) (int, []byte) {
	d.t.Helper()
	raw, err := json.Marshal(body)
	if err != nil {
		d.t.Fatal(err)
	}
	request := atTheTable(method, path, string(raw))
	for name, value := range headers {
		request.Header.Set(name, value)
	}
	answer := httptest.NewRecorder()
	d.handler.ServeHTTP(answer, request)
	return answer.Code, answer.Body.Bytes()
}

func (d *drawing) get(path string, into any) {
	d.t.Helper()
	if status, raw := d.asks("GET", d.under(path), nil, nil); status != 200 || json.Unmarshal(raw, into) != nil {
		d.t.Fatalf("%s: %d %.300s", path, status, raw)
	}
}

func (d *drawing) under(path string) string { return "/lines/" + d.x.line + path }

// next is some hours later.
func (d *drawing) next() {
	clock := d.x.server.Demo
	clock.lock.Lock()
	clock.shows = clock.shows.Add(time.Duration(d.IntN(9*60)) * time.Minute)
	clock.lock.Unlock()
	d.reads()
}

// reads reads what stands now.
func (d *drawing) reads() {
	d.t.Helper()
	d.view, d.shelf, d.land = page.LineView{}, page.Shelf{}, page.Ground{}
	d.get("", &d.view)
	d.get("/shelf", &d.shelf)
	d.get("/ground", &d.land)
	d.designs = d.view.Designs
	for _, s := range d.view.Sets {
		d.designs = append(d.designs, line.Design{ID: s.Make.DesignID, SpotID: s.Set.SpotID, SetID: &s.Set.ID, Target: s.Make.Target, Layout: s.Make.Layout, Version: s.DesignVersion})
	}
	var rack page.Rack
	d.get("/rack", &rack)
	d.traps = takenDown(rack)
}

// taken takes the season along, as it comes over the wire.
func (d *drawing) taken(into *page.Bundle) {
	d.t.Helper()
	status, raw := d.asks("POST", d.under("/bundle"), BundleAsked{}, nil)
	var view BundleView
	if status != 200 || json.Unmarshal(raw, &view) != nil {
		d.t.Fatalf("the bundle: %d %.300s", status, raw)
	}
	if err := json.Unmarshal(assembled(d.t, view), into); err != nil {
		d.t.Fatal(err)
	}
}

// assembled puts the parts of a bundle together, as the browser does.
func assembled(t testing.TB, view BundleView) []byte {
	t.Helper()
	var head map[string]json.RawMessage
	if err := json.Unmarshal(view.Parts["head"].Is, &head); err != nil {
		t.Fatal(err)
	}
	rows := map[string]json.RawMessage{}
	for name, part := range view.Parts {
		if name != "head" {
			rows[name] = part.Is
		}
	}
	head["rows"], _ = json.Marshal(rows)
	raw, _ := json.Marshal(head)
	return raw
}

func (d *drawing) holds(held *asked.Held, what asked.Holding) {
	d.t.Helper()
	raw, err := json.Marshal(what)
	if err == nil {
		_, err = held.Answer(d.t.Context(), asked.Usual(), "/hold", raw, nil)
	}
	if err != nil {
		d.t.Fatal(err)
	}
}

func oneOf[T any](d *drawing, of []T) T { return of[d.IntN(len(of))] }

// at is a time near now: mostly before it, now and then a little ahead, or long ago.
func (d *drawing) at() time.Time {
	ago := time.Duration(d.IntN(40*60)) * time.Minute
	switch d.IntN(12) {
	case 0:
		ago = -time.Duration(d.IntN(25)) * time.Minute
	case 1:
		ago = time.Duration(d.IntN(60*24)) * time.Hour
	case 2:
		ago = 0
	}
	return d.view.Now.Add(-ago)
}

// kinds are what can be done, by the path under which it is put: each draws the id and the body, blank where there is nothing to do it to.
var kinds = map[string]func(d *drawing) (string, any){
	"seasons": func(d *drawing) (string, any) {
		s := *d.view.Season
		s.Name = "Season " + id()[20:]
		return s.ID, s
	},
	"properties": func(d *drawing) (string, any) {
		if p := oneOf(d, d.view.Properties); d.IntN(2) == 0 {
			p.Permission = "by word, " + id()[20:]
			return p.ID, p
		}
		return id(), line.Property{Name: "Alder " + id()[20:]}
	},
	"spots": func(d *drawing) (string, any) {
		s := oneOf(d, d.view.Spots)
		if d.IntN(2) == 0 {
			s.Soil, s.Shy = "loose_sand", !s.Shy
			return s.ID, s
		}
		return id(), line.Spot{PropertyID: s.PropertyID, Name: "Anew", LatDeg: s.LatDeg + d.Float64()/500, LonDeg: s.LonDeg, TravelWidthMm: new(600.0), WaysMeet: new(1), Soil: "loam", Wetness: "moist", Surface: "grass"}
	},
	"features": func(d *drawing) (string, any) {
		f := oneOf(d, d.land.Features)
		f.Note = id()
		return f.ID, f
	},
	"falls": func(d *drawing) (string, any) { return id(), line.Fall{Kind: oneOf(d, line.FallKinds), Ended: d.at()} },
	"readings": func(d *drawing) (string, any) {
		return id(), line.Reading{Kind: line.FrostProbe, SpotID: new(oneOf(d, d.view.Spots).ID), At: d.at(), Value: float64(d.IntN(150))}
	},
	"signs": func(d *drawing) (string, any) {
		if s := oneOf(d, d.land.Signs); d.IntN(3) == 0 {
			s.Note, s.Deleted = id(), d.IntN(3) == 0
			return s.ID, s
		}
		s := oneOf(d, d.view.Spots)
		return id(), line.Sign{SpotID: &s.ID, LatDeg: s.LatDeg, LonDeg: s.LonDeg, What: "tracks", Animal: oneOf(d, []string{"coyote", "bobcat", "skunk", "dog", line.Unsure}), Age: "last_night", Holds: "well", SeenAt: d.at()}
	},
	"designs": func(d *drawing) (string, any) {
		x := oneOf(d, d.designs)
		if d.IntN(2) == 0 {
			x = line.Design{ID: id(), SpotID: oneOf(d, d.view.Spots).ID, Target: x.Target, Layout: x.Layout}
		}
		x.Layout.Rigs = slices.Clone(x.Layout.Rigs)
		x.Layout.Rigs[0].Pan.GaugeN = float64(10 + d.IntN(30))
		return x.ID, x
	},
	"patterns": func(d *drawing) (string, any) {
		return id(), line.Pattern{Name: "Mine " + id()[20:], Target: "coyote", Layout: oneOf(d, d.view.Sets).Make.Layout}
	},
	"makes": func(d *drawing) (string, any) {
		m := oneOf(d, d.view.Sets).Make
		if d.IntN(3) == 0 { // how it was built
			m.Layout = m.Layout.Clone()
			m.Layout.Rigs[0].ChainMm += float64(10 * d.IntN(4))
			m.AsBuilt = &line.AsBuilt{
				Points: []line.PointsAt{{Slot: m.Layout.Rigs[0].Slot, Felt: layout.Points{oneOf(d, layout.Feels), "still", "still", oneOf(d, []layout.Feel{"", "still"})}}},
				Frozen: d.IntN(2) == 0, ScentOnBed: oneOf(d, []*bool{nil, new(true), new(false)}), Landmark: id(), Minutes: new(20.0),
			}
			return m.ID, m
		}
		if d.IntN(3) == 0 {
			x := oneOf(d, d.designs)
			if m = (line.Make{DesignID: x.ID, Target: x.Target, Layout: x.Layout, SetID: id()}); x.SetID != nil {
				m.SetID = *x.SetID
			}
		}
		m.BuiltAt, m.Layout.Rigs = d.at(), slices.Clone(m.Layout.Rigs)
		if t := oneOf(d, d.traps); d.IntN(2) == 0 {
			m.Layout.Rigs[0].TrapID = t.Trap.ID
		}
		return id(), m
	},
	"visits": func(d *drawing) (string, any) {
		v := line.Visit{MakeID: oneOf(d, d.view.Sets).Make.ID, At: d.at(), Found: line.Found{Finding: oneOf(d, []line.Finding{"quiet", "quiet", "worked", "sprung", "catch", "gone", "robbed"})}}
		switch v.Finding {
		case "catch":
			v.Catches = []line.Catch{{ID: id(), Species: oneOf(d, []string{"coyote", "bobcat", "skunk", "raccoon"}), Sex: "male"}}
		case "worked":
			v.Animal, v.By = "coyote", "tracks"
		}
		return id(), v
	},
	"mends": func(d *drawing) (string, any) {
		was := oneOf(d, d.view.Sets).LastVisit
		if was == nil {
			return "", nil
		}
		v := *was
		v.Note, v.At = id(), v.At.Add(-time.Duration(d.IntN(3))*time.Hour)
		return id(), line.Mend{VisitID: v.ID, At: d.view.Now, Reason: "typed wrong", Visit: v}
	},
	"pulls": func(d *drawing) (string, any) {
		if n := len(d.view.StillIn); n > 0 && d.IntN(2) == 0 {
			x := d.view.StillIn[d.IntN(n)]
			return id(), line.Pull{MakeID: x.MakeID, At: d.at(), Later: true, Rigs: []line.RigOut{{Slot: x.Slot, Trap: oneOf(d, []line.TrapOut{"home", "lost"}), Anchor: "out"}}}
		}
		m := oneOf(d, d.view.Sets).Make
		p := line.Pull{MakeID: m.ID, At: d.at()}
		for _, rig := range m.Layout.Rigs {
			if d.IntN(2) == 0 {
				p.Rigs = append(p.Rigs, line.RigOut{Slot: rig.Slot, Trap: oneOf(d, line.TrapOuts), Sprung: true, Anchor: oneOf(d, line.AnchorOuts)})
			}
		}
		return id(), p
	},
	"corrections": func(d *drawing) (string, any) {
		m := oneOf(d, d.view.Sets).Make
		m.AsBuilt = &line.AsBuilt{Points: []line.PointsAt{}, Landmark: id()}
		return id(), line.Correction{MakeID: m.ID, At: d.view.Now, Reason: "written down wrong", Make: m}
	},
	"traps": func(d *drawing) (string, any) {
		t := oneOf(d, d.traps).Trap
		if t.Note = id(); d.IntN(3) == 0 {
			t.ID, t.Version, t.Number = id(), 0, 1000+d.IntN(8999)
		}
		if d.IntN(3) == 0 {
			t.JawSpreadMm += 2
		}
		return t.ID, t
	},
	"checks": func(d *drawing) (string, any) {
		return id(), line.ShedCheck{TrapID: oneOf(d, d.traps).Trap.ID, At: d.at(), Items: []line.CheckItem{{Key: oneOf(d, line.CheckKeys), Sound: d.IntN(2) == 0}}}
	},
	"measurements": func(d *drawing) (string, any) {
		n := 10 + 20*d.Float64()
		return id(), line.Measurement{TrapID: oneOf(d, d.traps).Trap.ID, At: d.at(), Gauge: "hook gauge", Factor: 1, Presses: []float64{n, n + 1, n}}
	},
	"calibrations": func(d *drawing) (string, any) {
		return id(), line.Calibration{Gauge: "hook gauge", At: d.at(), KnownN: 20, ReadN: 20 + d.Float64()}
	},
	"lures": func(d *drawing) (string, any) {
		l := oneOf(d, d.shelf.Lures).Lure
		if l.Name = "Lure " + id()[20:]; d.IntN(2) == 0 {
			l.ID, l.Version = id(), 0
		}
		return l.ID, l
	},
	"bottles": func(d *drawing) (string, any) {
		l := oneOf(d, d.shelf.Lures)
		if len(l.Bottles) > 0 && d.IntN(2) == 0 {
			b := oneOf(d, l.Bottles).Bottle
			b.Note = id()
			return b.ID, b
		}
		return id(), line.Bottle{LureID: l.Lure.ID, Holds: 30, OpenedAt: new(d.view.Now)}
	},
	"levels": func(d *drawing) (string, any) {
		if l := oneOf(d, d.shelf.Lures); len(l.Bottles) > 0 {
			return id(), line.Level{BottleID: oneOf(d, l.Bottles).Bottle.ID, At: d.at(), Left: 5}
		}
		return "", nil
	},
	"doses": func(d *drawing) (string, any) {
		return id(), line.Dose{LureID: oneOf(d, d.shelf.Lures).Lure.ID, SpotID: new(oneOf(d, d.view.Spots).ID), At: d.at(), Count: float64(1+d.IntN(4)) / 2}
	},
	"recipes": func(d *drawing) (string, any) {
		return id(), line.Recipe{Name: "Mix " + id()[20:], Mix: mix.Usual()["brine"]}
	},
	"kit": func(d *drawing) (string, any) {
		return id(), line.KitMark{Day: d.day(0), Key: oneOf(d, []string{"hammer", "sifter"}), Mark: oneOf(d, line.Marks), On: d.IntN(3) > 0, At: d.at()}
	},
}

// draw draws one: a record of some kind, the taking back of one that was put, or another name for the line; half the time one that was drawn
// least.
func (d *drawing) draw() (route, path string, body any) {
	all := []string{""}
	for kind := range kinds {
		all = append(all, kind+"/:id")
	}
	for _, was := range d.done {
		if route := was.kind + "/:id/undo"; !slices.Contains(all, route) {
			all = append(all, route)
		}
	}
	slices.Sort(all)
	route = oneOf(d, all)
	if d.IntN(2) == 0 {
		// What the program keeps refusing starves no other.
		seldom := func(route string) int { return 3*d.drawn[route] + d.tried[route] }
		route = slices.MinFunc(all, func(a, b string) int { return seldom(a) - seldom(b) })
	}
	d.tried[route]++
	kind, _, _ := strings.Cut(route, "/")
	switch {
	case route == "":
		l := d.view.Line
		l.Name = "Line " + id()[20:]
		return route, "", l
	case strings.HasSuffix(route, "/undo"):
		was := oneOf(d, slices.DeleteFunc(slices.Clone(d.done), func(x did) bool { return x.kind != kind }))
		return route, "/" + kind + "/" + was.id + "/undo", Moment{At: d.at()}
	}
	of, body := kinds[kind](d)
	return route, "/" + kind + "/" + of, body
}

// act does one thing, and gives it as a browser keeps it; false where the program does not take it.
func (d *drawing) act() (page.Write, bool) {
	d.t.Helper()
	route, path, body := d.draw()
	if body == nil {
		return page.Write{}, false
	}
	headers, now := map[string]string{"Mutation": id()}, d.x.server.Clock.Now().UTC()
	w := page.Write{Path: d.under(path), At: now}
	if d.IntN(2) == 0 {
		device, ahead := now.Add(-time.Duration(d.IntN(90))*time.Second).Truncate(time.Second), int64(d.IntN(4000))
		headers["Device-Time"], headers["Clock-Offset"] = device.Format(time.RFC3339), fmt.Sprint(ahead)
		w.DeviceAt, w.AheadMs = &device, &ahead
	}
	status, answer := d.asks("PUT", w.Path, body, headers)
	if status != http.StatusOK {
		d.refused[fmt.Sprintf("%s %.160s", route, answer)]++
		return w, false
	}
	d.drawn[route]++
	if kind, id, ok := strings.Cut(strings.TrimPrefix(path, "/"), "/"); ok && !strings.Contains(id, "/") && slices.Contains(undoable(), kind) {
		d.done = append(d.done, did{kind, id})
	}
	w.Body, _ = json.Marshal(body)
	return w, true
}

func undoable() (kinds []string) {
	for _, act := range store.Undoable() {
		kinds = append(kinds, act.Path)
	}
	return kinds
}

// day is a local date so many days ago.
func (d *drawing) day(ago int) string {
	zone, _ := round.Zone(d.view.Line.Zone)
	return d.view.Now.In(zone).AddDate(0, 0, -ago).Format(time.DateOnly)
}

// asking is something that is asked of both.
type asking struct {
	path  string
	query map[string]string
	body  any
}

// questions are all that pages ask, with ids drawn anew.
func (d *drawing) questions() []asking {
	set, spot := oneOf(d, d.view.Sets), oneOf(d, d.view.Spots).ID
	of := page.CircumstancesAsked{Layout: set.Make.Layout, Target: set.Make.Target, SpotID: set.Set.SpotID, SetID: set.Set.ID}
	all := []asking{
		{path: ""}, {path: "/ground"}, {path: "/book"}, {path: "/story/" + set.Set.ID}, {path: "/stories/" + spot}, {path: "/apart"}, {path: "/showed/coyote"}, {path: "/alike", query: map[string]string{"by": "kind", "key": "dirt_hole"}},
		{path: "/apart", query: map[string]string{"animal": "coyote"}}, {path: "/compare", query: map[string]string{"by": "place", "a": set.Set.SpotID, "b": spot}}, {path: "/day/" + d.day(0)}, {path: "/day/" + d.day(1+d.IntN(20))}, {path: "/weather"}, {path: "/rack"}, {path: "/shelf"}, {path: "/jobs"}, {path: "/mended"}, {path: "/jobs", query: map[string]string{"minutes": "45", "nights": "7"}}, {path: "/works/" + spot, query: map[string]string{"target": "coyote"}}, {path: "/remake/" + set.Make.ID}, {path: "/remake/" + set.Make.ID, query: map[string]string{"bearing": "120"}},
		{path: "/kit/" + d.day(0)}, {path: "/designs/" + oneOf(d, d.designs).ID}, {path: "/patterns/red_fox", query: map[string]string{"spot": spot}},
		{path: "/defaults/bobcat", query: map[string]string{"spot": spot, "pattern": "object"}},
		{path: "/circumstances", body: of}, {path: "/reach", body: page.ReachAsked(of)},
		{path: "/repattern", body: page.Repattern{Layout: of.Layout, Target: of.Target, SpotID: of.SpotID, Pattern: "object"}},
	}
	if look := set.LastVisit; look != nil {
		all = append(all, asking{path: "/means/" + look.ID}, asking{path: "/means/" + look.ID, query: map[string]string{"said": "-firm"}})
	}
	asked := map[string]bool{"place": true, "means": true} // where a way is drawn, and somebody has looked
	for _, f := range d.land.Features {
		if f.Kind == "travel_way" {
			at := oneOf(d, f.Points)
			all = append(all, asking{path: "/place", body: outlook.Question{LatDeg: at[1], LonDeg: at[0], Class: "gland"}})
		}
	}
	for _, q := range all {
		stem, _, _ := strings.Cut(strings.TrimPrefix(q.path, "/"), "/")
		asked[stem] = true
	}
	for _, r := range page.Routes() {
		if stem, _, _ := strings.Cut(strings.TrimPrefix(r.Path, "/"), "/"); !asked[stem] {
			d.t.Fatalf("nothing is asked of %s", r.Path)
		}
	}
	return all
}

// same asks both, and wants the same answer but for versions and the numbers of sets that are new.
func (d *drawing) same(held *asked.Held, q asking, now time.Time, writes []page.Write) {
	d.t.Helper()
	path, method := d.under(q.path), "GET"
	if q.body != nil {
		method = "POST"
	}
	asks := asked.OfLine{Now: now, Query: q.query}
	asks.Body, _ = json.Marshal(q.body)
	mark := "?"
	for name, value := range q.query {
		path += mark + name + "=" + value
		mark = "&"
	}
	status, theirs := d.asks(method, path, q.body, nil)
	raw, _ := json.Marshal(asks)
	mine, err := held.Answer(d.t.Context(), asked.Usual(), d.under(q.path), raw, nil)
	if status != http.StatusOK || err != nil {
		var said asked.Problem
		if status == http.StatusNotFound && errors.Is(err, refuse.ErrUnknown) {
			return // of what was taken back neither tells
		}
		if err == nil || json.Unmarshal(theirs, &said) != nil || said.Status != status || said.Detail != asked.ProblemOf(err).Detail {
			d.t.Errorf("%s: the program says %d %.200s, the bundle %v", q.path, status, theirs, err)
		}
		return
	}
	stem, _, _ := strings.Cut(strings.TrimPrefix(q.path, "/"), "/")
	d.answered[stem]++
	d.record = append(d.record, recorded{d.under(q.path), asks, mine})
	ours, _ := json.Marshal(mine)
	if a, b := comparable(d.t, theirs), comparable(d.t, ours); !alike(a, b) {
		x, _ := json.Marshal(a)
		y, _ := json.Marshal(b)
		var laid []string
		for _, w := range writes {
			laid = append(laid, fmt.Sprintf("%s %.300s", w.Path, w.Body))
		}
		d.t.Errorf("%s at %v:\n%s\nafter\n%s", q.path, now, firstDifference(string(x), string(y)), strings.Join(laid, "\n"))
	}
}

func comparable(t *testing.T, raw []byte) (x any) {
	t.Helper()
	if err := json.Unmarshal(raw, &x); err != nil {
		t.Fatal(err)
	}
	return x
}

// alike compares the program's answer with the bundle's.
func alike(theirs, ours any) bool {
	switch a := theirs.(type) {
	case map[string]any:
		b, ok := ours.(map[string]any)
		if !ok || len(a) != len(b) {
			return false
		}
		for name, value := range a {
			if name == "number" && b[name] == 0.0 {
				a[name] = 0.0
				continue
			}
			if name == "version" || name == "designVersion" {
				a[name], b[name] = nil, nil
				continue
			}
			if !alike(value, b[name]) {
				return false
			}
		}
		return true
	case []any:
		b, ok := ours.([]any)
		if !ok || len(a) != len(b) {
			return false
		}
		for i := range a {
			if !alike(a[i], b[i]) {
				return false
			}
		}
		return true
	}
	return reflect.DeepEqual(theirs, ours)
}

// A remake over what smelled takes nothing of a lure. Where a pull between is told later, or taken back, the lure stands otherwise.
func TestWhatALureTookHangsOnWhatStood(t *testing.T) {
	x := newSite(t)
	lure, bottle, began := id(), id(), x.clock.at
	x.put(x.of("lures", lure), line.Lure{Name: "Dark Post", Class: layout.Gland, By: mix.ByVolume, Dose: 1.5}, nil)
	x.put(x.of("bottles", bottle), line.Bottle{LureID: lure, Holds: 30, OpenedAt: new(began.AddDate(0, 0, -9))}, nil)
	l := laidOut(t, "hole")
	for i, s := range l.Attractors[0].Smells {
		if !s.IsBait() && s.Kind != layout.Urine {
			l.Attractors[0].Smells[i].LureID = lure
		}
	}
	design := line.Design{ID: id(), SpotID: x.spot(), Target: "coyote", Layout: l}
	x.put(x.of("designs", design.ID), design, nil)
	set, first := id(), id()
	x.clock.at = began.AddDate(0, 0, 4)
	for i, made := range []string{first, id()} {
		x.put(x.of("makes", made), line.Make{SetID: set, DesignID: design.ID, Target: "coyote", Layout: l, BuiltAt: began.AddDate(0, 0, 2*i)}, nil)
	}
	left := func(want float64) {
		t.Helper()
		var shelf page.Shelf
		if x.get("/lines/"+x.line+"/shelf", &shelf); shelf.Lures[0].Left != want {
			t.Errorf("%g are left, want %g", shelf.Lures[0].Left, want)
		}
	}
	left(28.5)
	pull := x.of("pulls", id())
	x.put(pull, line.Pull{MakeID: first, At: began.AddDate(0, 0, 1)}, nil)
	left(27)
	x.put(pull+"/undo", Moment{At: x.clock.at}, nil)
	left(28.5)
}

// A look that comes after its make was taken back is told among what does not fit, here as there.
func TestALateLookAtWhatWasTakenBack(t *testing.T) {
	d := newDrawing(t, newDemo(t))
	made, now := id(), d.x.server.Clock.Now().UTC()
	d.reads()
	of := d.view.Sets[3].Make
	of.BuiltAt = now.Add(-2 * time.Hour)
	put := func(path string, body any) page.Write {
		t.Helper()
		if status, answer := d.asks("PUT", d.under(path), body, map[string]string{"Mutation": id()}); status != http.StatusOK {
			t.Fatalf("%d %s", status, answer)
		}
		raw, _ := json.Marshal(body)
		return page.Write{Path: d.under(path), At: now, Body: raw}
	}
	put("/makes/"+made, of)
	var b page.Bundle
	d.taken(&b)
	for _, rigs := range [][]line.RigFound{nil, {{Slot: 9, State: "fired"}}} {
		back := put("/makes/"+made+"/undo", Moment{At: now})
		look := put("/visits/"+id(), line.Visit{MakeID: made, At: now.Add(-time.Hour), Rigs: rigs, Found: line.Found{Finding: "sprung"}})
		held := &asked.Held{}
		d.holds(held, asked.Holding{Bundle: &b, Writes: []page.Write{back, look}})
		d.same(held, asking{path: "/book"}, now, nil)
		d.same(held, asking{path: ""}, now, nil)
		made = id()
		put("/makes/"+made, of)
		d.taken(&b)
	}
	var book page.BookView
	if d.get("/book", &book); len(book.Odd) != 2 {
		t.Errorf("%d looks do not fit: %+v", len(book.Odd), book.Odd)
	}
}

// Wherever what happened to a trap or a lure is cut, it comes to the same.
func TestACutStoryComesToTheSame(t *testing.T) {
	x := newDemo(t)
	now := x.server.Clock.Now()
	err := x.server.Store.Read(t.Context(), func(v store.View) error {
		cards, err := v.Cards(x.line)
		if err != nil {
			return err
		}
		pourings, err := v.Pourings(x.line)
		if err != nil {
			return err
		}
		for _, days := range []int{0, 1, 20, 45, 400} {
			from := now.AddDate(0, 0, -days)
			stories, err := v.Stories(x.line, from)
			if err != nil {
				return err
			}
			for id, card := range cards {
				if is, was := asText(t, stories[id].Card()), asText(t, card); is != was {
					t.Errorf("a trap, %d days ago:\n%s\n%s", days, is, was)
				}
			}
			for _, p := range pourings {
				if is, was := asText(t, p.Since(from, now).Pour(now)), asText(t, p.Pour(now)); is != was {
					t.Errorf("a lure, %d days ago:\n%s\n%s", days, is, was)
				}
			}
		}
		if len(cards) < 40 || len(pourings) < 5 {
			t.Errorf("%d traps, %d lures", len(cards), len(pourings))
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}
