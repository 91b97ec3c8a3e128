package server

import (
	"bytes"
	"fmt"
	"net/http"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/jmoiron/sqlx"
	_ "modernc.org/sqlite" // to put another line into the file

	"oldburrow/archive"
	"oldburrow/core/animal"
	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/demo"
	"oldburrow/store"
)

// everything is all that can be read of a line, by its address: every view with every id of its kind, every file that goes out, and what is
// computed from its record; of spots, sets and traps so many at the most, and without addresses that have some words in them.
func (x *site) everything(most int, but ...string) map[string]string {
	x.t.Helper()
	at := "/lines/" + x.line
	var view page.LineView
	x.get(at, &view)
	var rack page.Rack
	x.get(at+"/rack", &rack)
	ids := map[string][]string{"designs": {}, "spots": {}, "traps": {}, "visits": {}, "sets": {}}
	for _, d := range view.Designs {
		ids["designs"] = append(ids["designs"], d.ID)
	}
	for _, s := range view.Spots {
		ids["spots"] = append(ids["spots"], s.ID)
	}
	for _, h := range rack.Traps {
		ids["traps"] = append(ids["traps"], h.ID)
	}
	for _, s := range view.Sets {
		ids["designs"] = append(ids["designs"], s.Make.DesignID)
		ids["sets"], ids["makes"] = append(ids["sets"], s.Set.ID), append(ids["makes"], s.Make.ID)
		if s.LastVisit != nil {
			ids["visits"] = append(ids["visits"], s.LastVisit.ID)
		}
	}
	found := map[string]string{}
	read := func(path string) {
		if slices.ContainsFunc(but, func(word string) bool { return strings.Contains(path, word) }) {
			return
		}
		status, raw := x.do("GET", strings.TrimPrefix(path, "/api"), "", "")
		found[path] = fmt.Sprintf("%d %s", status, raw)
	}
	for _, r := range x.server.engine().Routes() {
		path, ofLine := strings.CutPrefix(r.Path, "/api/lines/:line")
		if r.Method != http.MethodGet || !ofLine {
			continue
		}
		fill := map[string][]string{":day": {"2026-12-05"}, ":date": {"2026-12-03", "2026-12-04"}, ":set": ids["sets"][:min(most, len(ids["sets"]))], ":spot": ids["spots"][:min(most, len(ids["spots"]))], ":visit": ids["visits"][:min(most, len(ids["visits"]))], ":make": ids["makes"][:min(most, len(ids["makes"]))], ":target": animal.Reference.TargetKeys(), ":animal": animal.Reference.TargetKeys(), ":format": {"gpx", "geojson", "traps", "looks", "catches", "makes"}}
		if _, kind, ok := strings.Cut(path, "/"); ok && strings.Contains(path, ":id") {
			kind, _, _ = strings.Cut(kind, "/")
			fill[":id"] = ids[kind][:min(most, len(ids[kind]))]
			if len(ids[kind]) == 0 && kind != "photos" { // the demo has none
				x.t.Fatalf("no id for %s", path)
			}
		}
		paths := []string{path}
		for name, values := range fill {
			if strings.Contains(path, name) {
				paths = nil
				for _, value := range values {
					paths = append(paths, strings.Replace(path, name, value, 1))
				}
			}
		}
		for _, p := range paths {
			if strings.HasPrefix(path, "/works/") {
				p += "?target=red_fox"
			}
			if strings.Contains(path, ":target") {
				p += "?spot=" + ids["spots"][3]
			}
			if path == "/compare" {
				p += "?by=kind&a=dirt_hole&b=flat"
			}
			if path == "/alike" {
				p += "?by=kind&key=dirt_hole"
			}
			read("/api" + at + p)
		}
	}
	for _, more := range []string{"/book?season=all", "/apart?season=all&animal=red_fox", "/ground?season=all", "/done?from=2026-11-01"} {
		read("/api" + at + more)
	}
	for _, s := range view.Sets[:4] {
		for _, path := range []string{"/circumstances", "/reach"} {
			asked := page.CircumstancesAsked{Layout: s.Make.Layout, Target: s.Make.Target, SpotID: s.Set.SpotID, SetID: s.Set.ID}
			status, raw := x.do("POST", at+path, "", asked)
			found[path+" of "+s.Set.ID] = fmt.Sprintf("%d %s", status, raw)
		}
	}
	if len(found) < 40 {
		x.t.Fatalf("%d things are read", len(found))
	}
	for path, answer := range found {
		if !strings.HasPrefix(answer, "200 ") {
			x.t.Errorf("%s: %.200s", path, answer)
		}
	}
	return found
}

// takenIn is a new data file that took in the archive of another.
func takenIn(t *testing.T, from *store.Store, ask archive.Ask) string {
	t.Helper()
	quiet := func(int, int) {}
	var raw bytes.Buffer
	ask.At = demo.Start()
	if _, err := archive.Save(t.Context(), from, &raw, ask, quiet); err != nil {
		t.Fatal(err)
	}
	a, err := archive.Open(bytes.NewReader(raw.Bytes()), int64(raw.Len()), store.FormNumber())
	if err != nil {
		t.Fatal(err)
	}
	path := filepath.Join(t.TempDir(), "taken.db")
	into, err := store.Open(path)
	if err != nil {
		t.Fatal(err)
	}
	defer into.Close()
	if _, err := archive.Take(t.Context(), into, a, store.Asked{ID: id()}, demo.Start(), false, quiet); err != nil {
		t.Fatal(err)
	}
	return path
}

// beside puts another line into a data file that no program has open: all that the demo line holds, under ids of its own.
func beside(t *testing.T, path string) {
	t.Helper()
	from, err := store.Open(filepath.Join(t.TempDir(), "from.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer from.Close()
	if err := LoadDemo(from); err != nil {
		t.Fatal(err)
	}
	// One that is meant for others has ids of its own.
	other := takenIn(t, from, archive.Ask{Without: []string{archive.Permission}})
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	db.SetMaxOpenConns(1)
	db.MustExec(`ATTACH ? AS other`, other)
	var tables []string
	if err := db.Select(&tables, `SELECT name FROM other.sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT IN ('facts', 'mutations', 'goose_db_version', 'promising')`); err != nil {
		t.Fatal(err)
	}
	rows := int64(0)
	for _, table := range tables {
		n, err := db.MustExec(fmt.Sprintf(`INSERT INTO main.%s SELECT * FROM other.%s`, table, table)).RowsAffected()
		if err != nil {
			t.Fatal(err)
		}
		rows += n
	}
	if rows < 1000 {
		t.Fatalf("%d rows were put beside", rows)
	}
	// What is always taken along there, and not here.
	db.MustExec(`UPDATE kit_marks SET mark = 'own', key = 'a thing of theirs' WHERE id IN (SELECT max(id) FROM other.kit_marks)`)
}

// overTheFile is what is read over the whole file, whichever line is asked of: nothing.
var overTheFile = []string{}

// Another line in the file, with all that a line can hold, changes nothing of what is read of the first, to the last byte; nor the number of a
// new set.
func TestAnotherLineInTheFile(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	path := filepath.Join(t.TempDir(), "demo.db")
	x := demoAt(t, path)
	x.promised()
	alone := x.everything(99)
	x.server.Store.Close()
	beside(t, path)
	y := demoAt(t, path)
	y.line = x.line
	both := y.everything(99)
	for address, answer := range alone {
		if both[address] != answer && !slices.Contains(overTheFile, address) {
			t.Errorf("%s is told otherwise beside another line:\n%s", address, firstDifference(answer, both[address]))
		}
	}
	if len(both) != len(alone) || len(both) < 120 {
		t.Errorf("%d things are read, %d before", len(both), len(alone))
	}
	var about Program
	y.get("/about", &about)
	if len(about.Lines) != 2 {
		t.Fatalf("%+v", about.Lines)
	}
	var view, after page.LineView
	at := "/lines/" + y.line
	y.get(at, &view)
	design := view.Sets[0].Make
	d := line.Design{SpotID: view.Sets[0].Set.SpotID, Target: design.Target, Layout: design.Layout}
	of := id()
	y.put(y.of("designs", of), d, nil)
	made := line.Make{SetID: id(), DesignID: of, Target: design.Target, Layout: design.Layout, BuiltAt: view.Now}
	y.put(y.of("makes", id()), made, nil)
	y.get(at, &after)
	if i := slices.IndexFunc(after.Sets, func(s page.SetView) bool { return s.Set.ID == made.SetID }); i < 0 || after.Sets[i].Set.Number != 25 {
		t.Errorf("the new set has another number: %+v", after.Sets[max(0, i)].Set)
	}
}

// firstDifference is where two texts differ first, with some of what stands about it.
func firstDifference(a, b string) string {
	i := 0
	for i < min(len(a), len(b)) && a[i] == b[i] {
		i++
	}
	about := func(s string) string { return s[max(0, i-120):min(len(s), i+120)] }
	return fmt.Sprintf("  was …%s…\n  is  …%s…", about(a), about(b))
}
