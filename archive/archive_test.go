package archive_test

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"

	"oldburrow/archive"
	"oldburrow/core/line"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
	"oldburrow/core/weather"
	"oldburrow/demo"
	"oldburrow/server"
	"oldburrow/store"
)

func quiet(int, int) {}

var at = time.Date(2026, 12, 5, 10, 3, 0, 0, time.UTC)

func open(t testing.TB, path string) *store.Store {
	t.Helper()
	s, err := store.Open(path)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func fresh(t testing.TB) (*store.Store, string) {
	path := filepath.Join(t.TempDir(), "line.db")
	return open(t, path), path
}

func id() string { return ulid.Make().String() }

func write(t testing.TB, s *store.Store, change func(*store.Tx) error) {
	t.Helper()
	_, err := s.Write(store.Asked{ID: id()}, at, func(tx *store.Tx) (any, error) { return nil, change(tx) })
	if err != nil {
		t.Fatal(err)
	}
}

// picture is a small photo.
func picture(t testing.TB) []byte {
	var raw bytes.Buffer
	if err := jpeg.Encode(&raw, image.NewGray(image.Rect(0, 0, 40, 30)), nil); err != nil {
		t.Fatal(err)
	}
	return raw.Bytes()
}

// full is a file with the demo line in it, and with some of everything that a line can hold beside: photos, mends, what was taken back, notes
// that others need not see.
func full(t testing.TB) (*store.Store, string) {
	t.Helper()
	s, path := fresh(t)
	if err := server.LoadDemo(s); err != nil {
		t.Fatal(err)
	}
	var l line.Line
	var noted line.Noted
	var spots []line.Spot
	var properties []line.Property
	var lures []shed.OnShelf
	var bottles []line.Bottle
	err := s.Read(t.Context(), func(v store.View) error {
		lines, err := v.Lines()
		if err != nil {
			return err
		}
		l = lines[0]
		if noted, err = v.Noted(l.ID, tally.Span{}); err != nil {
			return err
		}
		if spots, err = v.Spots(l.ID); err != nil {
			return err
		}
		if properties, err = v.Properties(l.ID); err != nil {
			return err
		}
		lures, err = v.Poured(l.ID, at)
		for _, on := range lures {
			for _, b := range on.Bottles {
				bottles = append(bottles, b.Bottle)
			}
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	look := noted.Visits[0]
	write(t, s, func(tx *store.Tx) error {
		photo := line.Photo{ID: id(), LineID: l.ID, Width: 40, Height: 30, LatDeg: new(46.8), LonDeg: new(-105.3), TakenAt: &at}
		seen := line.Sign{ID: id(), LineID: l.ID, LatDeg: 46.8123, LonDeg: -105.3456, What: "tracks", Animal: "coyote", Candidates: []string{"dog"}, DirectionDeg: new(40.0), Age: "week", Holds: "well", PhotoID: &photo.ID, SeenAt: at, Note: "secret: a sign"}
		mended := look
		mended.Note, mended.PhotoID, mended.Search = "secret: a look", &photo.ID, &line.Search{Toward: "ne", Cover: "secret: thick", FarM: new(12.0), HungOn: "secret: a fence"}
		dose := line.Dose{ID: id(), LineID: l.ID, LureID: lures[0].Lure.ID, SpotID: &spots[0].ID, At: at, Count: 2}
		for _, put := range []func() error{
			func() error { _, err := tx.PutPhoto(photo, picture(t)); return err },
			func() error { _, err := tx.PutSign(seen); return err },
			func() error {
				_, err := tx.PutMend(line.Mend{ID: id(), LineID: l.ID, VisitID: look.ID, At: at, Reason: "secret: a slip", Visit: mended})
				return err
			},
			func() error {
				_, err := tx.PutReading(line.Reading{ID: id(), LineID: l.ID, Kind: line.FrostProbe, SpotID: &spots[0].ID, At: at, Value: 40})
				return err
			},
			func() error { _, err := tx.PutDose(dose); return err },
			func() error { _, err := tx.UndoDose(l.ID, dose.ID, at); return err },
			func() error {
				_, err := tx.PutLevel(line.Level{ID: id(), LineID: l.ID, BottleID: bottles[0].ID, At: at, Left: 7.5})
				return err
			},
			func() error {
				_, err := tx.PutPull(line.Pull{
					ID: id(), LineID: l.ID, MakeID: noted.Makes[0].ID, At: at, Note: "secret: a pull", Done: []line.Chore{"gate_shut"},
					Rigs: []line.RigOut{{Trap: line.TrapFrozenIn, Sprung: true, Anchor: line.AnchorFrozen}},
				})
				return err
			},
			func() error {
				_, err := tx.PutPull(line.Pull{ID: id(), LineID: l.ID, MakeID: noted.Makes[0].ID, At: at, Later: true, Rigs: []line.RigOut{{Trap: line.TrapHome, Anchor: line.AnchorLeft}}})
				return err
			},
			func() error {
				stood := noted.Makes[3]
				stood.AsBuilt = &line.AsBuilt{Points: []line.PointsAt{}, Landmark: "secret: a landmark", Note: "secret: how it stood", PhotoID: &photo.ID}
				_, err := tx.PutCorrection(line.Correction{ID: id(), LineID: l.ID, MakeID: stood.ID, At: at, Reason: "secret: why", Make: stood})
				return err
			},
			func() error {
				pictured := spots[0]
				pictured.PhotoID = &photo.ID
				_, err := tx.PutSpot(pictured)
				return err
			},
			func() error {
				paper := properties[0]
				paper.PaperID = &photo.ID
				_, err := tx.PutProperty(paper)
				return err
			},
			func() error {
				return tx.PutHours(l.ID, []weather.Hour{{At: at, TempC: -3.25, WindFromDeg: 10, WindMs: 2, RainMm: 1, SnowCm: 2, SnowDepthCm: 3}}, true)
			},
			func() error {
				remade := noted.Makes[1]
				remade.ID, remade.BuiltAt = id(), at
				remade.Layout.Lie.SlopeDeg, remade.Layout.Lie.DownDeg = new(12.0), new(200.0)
				if _, err := tx.PutMake(remade); err != nil {
					return err
				}
				_, err := tx.UndoMake(l.ID, remade.ID, at)
				return err
			},
			func() error {
				pull := line.Pull{ID: id(), LineID: l.ID, MakeID: noted.Makes[1].ID, At: at}
				if _, err := tx.PutPull(pull); err != nil {
					return err
				}
				_, err := tx.UndoPull(l.ID, pull.ID, at)
				return err
			},
			func() error {
				pressed := line.Measurement{ID: id(), LineID: l.ID, TrapID: noted.Makes[0].Layout.TrapIDs()[0], At: at, Gauge: "made up", StandIn: true, Factor: 1, Presses: []float64{9, 9, 9}, Turned: 1, Covered: true}
				if _, err := tx.PutMeasurement(pressed); err != nil {
					return err
				}
				_, err := tx.UndoMeasurement(l.ID, pressed.ID, at)
				return err
			},
			func() error {
				gone, err := tx.PutLure(line.Lure{ID: id(), LineID: l.ID, Name: "Secret lure", Class: "gland", By: "volume", Dose: 1})
				if err == nil {
					gone.Deleted = true
					_, err = tx.PutLure(gone)
				}
				return err
			},
			func() error {
				_, err := tx.PutSeason(line.Season{ID: id(), LineID: l.ID, Name: "Secret season", From: "2020-01-01", To: "2020-02-01"})
				return err
			},
			func() error {
				dog := line.Catch{ID: id(), Species: "dog", More: line.More{Owner: "secret: an owner"}}
				_, err := tx.PutVisit(line.Visit{ID: id(), LineID: l.ID, MakeID: noted.Makes[2].ID, At: at, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{dog}})
				return err
			},
			func() error { return tx.PutForecast(l.ID, []weather.Hour{{At: at, TempC: -4}}) },
			func() error {
				_, err := tx.PutPattern(line.Pattern{ID: id(), LineID: l.ID, Name: "Secret pattern", Target: "coyote", Layout: noted.Makes[0].Layout})
				return err
			},
		} {
			if err := put(); err != nil {
				return err
			}
		}
		return nil
	})
	s.Close()
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	for _, table := range []string{"properties", "spots", "features", "falls", "signs", "readings", "traps", "bottles", "recipes", "patterns", "seasons"} {
		db.MustExec(`UPDATE ` + table + ` SET deleted = TRUE WHERE id = (SELECT max(id) FROM ` + table + `)`)
	}
	const when = "2026-12-05 10:03:00+00:00"
	db.MustExec(`UPDATE visits SET undone_at = ?, received_at = ?, timed = FALSE, flags = 'late', also = '[{"finding":"dug","animal":"","by":""}]', rigs = '[{"slot":0,"state":"set"}]'
		WHERE id = (SELECT max(id) FROM visits WHERE finding = 'quiet')`, when, when)
	db.MustExec(`UPDATE catches SET rigs = '[0]' WHERE id = (SELECT max(id) FROM catches)`)
	db.MustExec(`UPDATE features SET note = 'secret: a thing' WHERE id = (SELECT min(id) FROM features)`)
	db.MustExec(`UPDATE traps SET note = 'secret: a trap', tag = 'secret: a tag', offset_mm = 6, spares_by = 'program', usual = 'weightG' WHERE id = (SELECT min(id) FROM traps)`)
	db.MustExec(`UPDATE spots SET through = 'few' WHERE id = (SELECT min(id) FROM spots)`)
	db.MustExec(`UPDATE makes SET flags = 'late', step = .3, fire = .25 WHERE id = (SELECT min(id) FROM makes)`)
	helper := id()
	db.MustExec(`INSERT INTO people (id, name, role, deleted, version) VALUES (?, 'secret: a helper', 'helper', TRUE, 2)`, helper)
	for _, table := range []string{"visits", "makes", "pulls", "signs", "mends", "corrections", "doses", "levels", "readings"} {
		db.MustExec(`UPDATE `+table+` SET who = ? WHERE id = (SELECT min(id) FROM `+table+`)`, helper)
	}
	// Of what a trap's card is made out of, what no card tells.
	db.MustExec(`UPDATE measurements SET who = ? WHERE undone_at IS NOT NULL`, helper)
	db.MustExec(`UPDATE shed_checks SET who = ? WHERE id = (SELECT min(a.id) FROM shed_checks a JOIN shed_checks b ON b.trap_id = a.trap_id AND b.at > a.at)`, helper)
	return open(t, path), path
}

// rows are all rows of a table, each as text, but for some columns.
func rows(t testing.TB, path, table string, but ...string) []string {
	t.Helper()
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	var columns []string
	if err := db.Select(&columns, `SELECT name FROM pragma_table_info(?)`, table); err != nil {
		t.Fatal(err)
	}
	columns = slices.DeleteFunc(columns, func(c string) bool { return slices.Contains(but, c) })
	var found []string
	if err := db.Select(&found, fmt.Sprintf(`SELECT concat_ws('|', quote("%s")) FROM "%s"`, strings.Join(columns, `"), quote("`), table)); err != nil {
		t.Fatal(err)
	}
	slices.Sort(found)
	return found
}

// apart are the tables that are in no archive: what the file says of itself, and what is made out of its records.
var apart = []string{"facts", "mutations", "sessions", "goose_db_version", "rigs", "smells", "trap_cards", "lure_cards", "promises", "promising", "weighed"}

func tables(t testing.TB, path string) []string {
	t.Helper()
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	var names []string
	if err := db.Select(&names, `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`); err != nil {
		t.Fatal(err)
	}
	return names
}

func saved(t testing.TB, s *store.Store, ask archive.Ask) []byte {
	t.Helper()
	var raw bytes.Buffer
	ask.At = at
	if _, err := archive.Save(t.Context(), s, &raw, ask, quiet); err != nil {
		t.Fatal(err)
	}
	return raw.Bytes()
}

func opened(t testing.TB, raw []byte) *archive.Archive {
	t.Helper()
	a, err := archive.Open(bytes.NewReader(raw), int64(len(raw)), store.FormNumber())
	if err != nil {
		t.Fatal(err)
	}
	return a
}

func take(t testing.TB, s *store.Store, raw []byte) (archive.TakenIn, error) {
	t.Helper()
	a, err := archive.Open(bytes.NewReader(raw), int64(len(raw)), store.FormNumber())
	if err != nil {
		return archive.TakenIn{}, err
	}
	return archive.Take(t.Context(), s, a, store.Asked{ID: id()}, at, false, quiet)
}

// Everything that a file holds comes back in a new one: every row of every table, also of those that come later, and what is made out of them.
// In what goes out no column is blank in every row: one that is not carried is missed.
func TestAFileComesBackWhole(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	s, path := full(t)
	raw := saved(t, s, archive.Ask{Program: "a test"})
	into, new := fresh(t)
	report, err := take(t, into, raw)
	if err != nil {
		t.Fatal(err)
	}
	notBlank(t, path)
	noDifference(t, path, new)
	if report.Already || report.Records < 1000 || report.Bytes == 0 || !report.At.Equal(at) {
		t.Errorf("said: %+v", report)
	}
}

// noDifference finds every row of every table of a file in another, but for what archives do not hold. How a lure stands is made out anew, by
// another clock.
func noDifference(t *testing.T, path, new string) {
	t.Helper()
	for _, table := range tables(t, path) {
		var but []string
		switch table {
		case "facts", "mutations", "goose_db_version", "promises", "promising", "weighed":
			continue
		case "lure_cards":
			but = []string{"card", "waits"}
		}
		before, after := rows(t, path, table, but...), rows(t, new, table, but...)
		if slices.Equal(before, after) {
			continue
		}
		t.Errorf("%s: %d rows, %d before", table, len(after), len(before))
		for i := range min(len(before), len(after)) {
			if before[i] != after[i] {
				t.Errorf("  was %.600s\n  is  %.600s", before[i], after[i])
				break
			}
		}
	}
}

// Seasons of a large line come back whole; ten of them where there is time.
func TestALargeLineComesBackWhole(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	size := demo.Large{Seasons: 2, Sets: 8}
	if os.Getenv("OLDBURROW_LONG") != "" {
		size = demo.Large{Seasons: 10, Sets: 60}
	}
	s, path := fresh(t)
	if err := server.LoadLarge(s, size); err != nil {
		t.Fatal(err)
	}
	into, new := fresh(t)
	report, err := take(t, into, saved(t, s, archive.Ask{}))
	if err != nil || report.Records < 2000 {
		t.Fatalf("%+v, %v", report, err)
	}
	noDifference(t, path, new)
}

// An archive of each form that was ever released is taken in by every later program.
func TestArchivesFromBefore(t *testing.T) {
	found, err := filepath.Glob("testdata/form*.zip")
	if err != nil || len(found) == 0 {
		t.Fatal("there are none")
	}
	for _, name := range found {
		raw, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		into, path := fresh(t)
		report, err := take(t, into, raw)
		if err != nil || report.Records < 1000 {
			t.Errorf("%s: %+v, %v", name, report, err)
		}
		for _, table := range []string{"visits", "mends", "photos", "makes", "traps", "rigs", "patterns"} {
			if len(rows(t, path, table)) == 0 {
				t.Errorf("%s: no row of %s", name, table)
			}
		}
	}
}

// notBlank finds the columns that say nothing in any row.
func notBlank(t *testing.T, path string) {
	t.Helper()
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	for _, table := range tables(t, path) {
		if slices.Contains(apart, table) {
			continue
		}
		var columns []struct {
			Name   string
			Always bool
		}
		if err := db.Select(&columns, `SELECT name, "notnull" AS always FROM pragma_table_info(?)`, table); err != nil {
			t.Fatal(err)
		}
		if len(columns) == 0 {
			t.Errorf("%s has no columns", table)
		}
		for _, c := range columns {
			query := fmt.Sprintf(`SELECT count(%s) FROM %s`, c.Name, table)
			if c.Always {
				query += fmt.Sprintf(` WHERE %s NOT IN ('', 0, '[]', '{}')`, c.Name)
			}
			var said int
			if err := db.Get(&said, query); err != nil {
				t.Fatal(err)
			}
			if said == 0 {
				t.Errorf("%s.%s says nothing in any row: whether it is carried is not seen", table, c.Name)
			}
		}
	}
}

// Taken in again it changes nothing and says so; into a file with other records it is refused whole, and the first of them is named.
func TestAFileWithRecords(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	s, path := full(t)
	raw := saved(t, s, archive.Ask{})
	before := rows(t, path, "facts")
	report, err := take(t, s, raw)
	if err != nil || !report.Already || report.Records < 1000 {
		t.Fatalf("the same: %+v, %v", report, err)
	}
	if after := rows(t, path, "facts"); !slices.Equal(before, after) {
		t.Errorf("the file was written: %v, before %v", after, before)
	}
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	// From the last that is looked at to the first.
	for _, c := range []struct{ says, spoil string }{
		{"look at set 4, 1 Nov 7:20", `UPDATE visits SET note = 'another' WHERE id = (SELECT v.id FROM visits v JOIN makes m ON m.id = v.make_id JOIN sets s ON s.id = m.set_id WHERE s.number = 4 AND v.at LIKE '2026-11-01%')`},
		{"trap 11", `UPDATE traps SET size = 'another' WHERE number = 11`},
		{"spot Ditch mouth", `UPDATE spots SET soil = 'muck' WHERE name = 'Ditch mouth'`},
		{"line Kettle Fork line", `UPDATE lines SET name = 'another'`},
	} {
		if n, err := db.MustExec(c.spoil).RowsAffected(); err != nil || n != 1 {
			t.Fatalf("%s: %d rows, %v", c.says, n, err)
		}
		_, err := take(t, s, raw)
		if want := "this file holds other records (first: " + c.says + "): open the archive in a new file"; err == nil || err.Error() != want {
			t.Errorf("%v, want %s", err, want)
		}
	}
	// What is only counted, or added by the program, is no difference.
	s, path = full(t)
	raw = saved(t, s, archive.Ask{})
	if db, err = sqlx.Open("sqlite", path); err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	db.MustExec(`UPDATE spots SET version = version + 3; UPDATE visits SET flags = 'other'; UPDATE makes SET step = 0.5, fire = 0.5; UPDATE sets SET number = number + 100; DELETE FROM weather_hours WHERE forecast`)
	if report, err := take(t, s, raw); err != nil || !report.Already {
		t.Errorf("counted on: %+v, %v", report, err)
	}
}

// Tried, it says what would come of it and changes nothing; stopped, likewise.
func TestOnlyTriedOrStopped(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	s, _ := full(t)
	raw := saved(t, s, archive.Ask{})
	into, path := fresh(t)
	tried, err := archive.Take(t.Context(), into, opened(t, raw), store.Asked{ID: id()}, at, true, quiet)
	if err != nil || tried.Already || tried.Records < 1000 {
		t.Fatalf("%+v, %v", tried, err)
	}
	ctx, stop := context.WithCancel(t.Context())
	told := 0
	_, err = archive.Take(ctx, into, opened(t, raw), store.Asked{ID: id()}, at, false, func(done, of int) {
		if told++; done >= 400 {
			stop()
		}
		if done > of || of != tried.Records {
			t.Errorf("%d of %d", done, of)
		}
	})
	if !errors.Is(err, context.Canceled) || told < 2 {
		t.Errorf("stopped: %v, told %d times", err, told)
	}
	for _, table := range tables(t, path) {
		if n := len(rows(t, path, table)); n > 0 && !slices.Contains([]string{"facts", "goose_db_version"}, table) {
			t.Errorf("%d rows of %s are left", n, table)
		}
	}
	ctx, stop = context.WithCancel(t.Context())
	if _, err := archive.Save(ctx, s, io.Discard, archive.Ask{At: at}, func(int, int) { stop() }); !errors.Is(err, context.Canceled) {
		t.Errorf("saving stopped: %v", err)
	}
}

// One line of a file goes out alone.
func TestOneLine(t *testing.T) {
	s, path := full(t)
	raw := saved(t, s, archive.Ask{})
	other := line.Line{ID: id(), Name: "Another", Zone: "UTC"}
	write(t, s, func(tx *store.Tx) error {
		if _, err := tx.PutLine(other); err != nil {
			return err
		}
		_, err := tx.PutProperty(line.Property{ID: id(), LineID: other.ID, Name: "Theirs"})
		return err
	})
	first := strings.Trim(rows(t, path, "lines", "name", "zone", "lat_deg", "lon_deg", "version")[0], "'")
	if first == other.ID {
		first = strings.Trim(rows(t, path, "lines", "name", "zone", "lat_deg", "lon_deg", "version")[1], "'")
	}
	one := saved(t, s, archive.Ask{Line: first})
	for name, content := range entries(t, raw) {
		if name != "manifest.json" && !bytes.Equal(content, entries(t, one)[name]) {
			t.Errorf("%s is not as it was before there was another line", name)
		}
	}
	if _, err := archive.Save(t.Context(), s, io.Discard, archive.Ask{Line: id(), At: at}, quiet); err == nil {
		t.Error("a line that is not there goes out")
	}
}

// What others need not see is in no word of what goes out, nor are ids, which say when they were made; it is opened in a new file, and there
// alone, and counts there as it did.
func TestForOthers(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	s, path := full(t)
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	var hide []string
	for _, query := range []string{
		`SELECT name FROM lines UNION SELECT name FROM properties UNION SELECT name FROM spots UNION SELECT name FROM seasons UNION SELECT name FROM lures
		UNION SELECT name FROM patterns UNION SELECT name FROM recipes UNION SELECT name FROM features WHERE name <> ''`,
		`SELECT permission FROM properties WHERE permission <> '' UNION SELECT note FROM signs WHERE length(note) > 3 UNION SELECT tag FROM traps WHERE tag <> ''`,
		`SELECT substr(CAST(lat_deg AS TEXT), 1, 7) FROM spots UNION SELECT substr(CAST(lon_deg AS TEXT), 1, 8) FROM spots`,
		`SELECT id FROM lines UNION SELECT id FROM makes UNION SELECT id FROM visits UNION SELECT id FROM catches UNION SELECT id FROM traps UNION SELECT id FROM designs`,
	} {
		var some []string
		if err := db.Select(&some, query); err != nil || len(some) == 0 {
			t.Fatal(err, query)
		}
		hide = append(hide, some...)
	}
	hide = append(hide, "secret", "Secret", `"who"`, "facingDeg", "downDeg", "weather_hours.jsonl\",\n   \"bytes\": 1")
	raw := saved(t, s, archive.Ask{Without: []string{"places", "names", "permission", "notes"}})
	for name, content := range entries(t, raw) {
		for _, word := range hide {
			if bytes.Contains(content, []byte(word)) {
				t.Errorf("%s says %q", name, word)
			}
		}
		if strings.HasPrefix(name, "photos/") {
			t.Errorf("%s goes out", name)
		}
	}
	into, new := fresh(t)
	report, err := take(t, into, raw)
	if err != nil || !slices.Equal(report.LeftOut, []string{"places", "names", "permission", "notes"}) {
		t.Fatalf("%+v, %v", report, err)
	}
	for _, table := range []string{"sets", "makes", "visits", "catches", "traps", "mends", "rigs", "lures"} {
		if a, b := len(rows(t, path, table)), len(rows(t, new, table)); a != b || a == 0 {
			t.Errorf("%s: %d rows, %d before", table, b, a)
		}
	}
	if a, b := rows(t, path, "makes", "id", "line_id", "set_id", "design_id", "layout", "as_built", "who"), rows(t, new, "makes", "id", "line_id", "set_id", "design_id", "layout", "as_built", "who"); !slices.Equal(a, b) {
		t.Error("the makes do not stand as they stood")
	}
	if _, err := take(t, s, raw); err == nil || !strings.Contains(err.Error(), "new file only") {
		t.Errorf("into the file itself: %v", err)
	}
	// Each part alone hides its own and nothing else.
	for part, shows := range map[string][]string{"places": {"Ditch mouth", "secret: a look"}, "names": {"46.79", "secret: a look"}, "permission": {"Ditch mouth", "secret: a look", "46.79"}, "notes": {"Ditch mouth", "46.79"}} {
		all := fmt.Sprintf("%s", entries(t, saved(t, s, archive.Ask{Without: []string{part}})))
		for _, word := range shows {
			if !strings.Contains(all, word) {
				t.Errorf("without %s it does not say %q", part, word)
			}
		}
		if strings.Contains(all, "secret: a tag") || strings.Contains(all, "secret: an owner") || strings.Contains(all, look(t, path)) {
			t.Errorf("without %s it tells what is told to nobody", part)
		}
		into, _ := fresh(t)
		if _, err := take(t, into, saved(t, s, archive.Ask{Without: []string{part}})); err != nil {
			t.Errorf("without %s: %v", part, err)
		}
	}
	if _, err := archive.Save(t.Context(), s, io.Discard, archive.Ask{Without: []string{"everything"}, At: at}, quiet); err == nil {
		t.Error("what is no part is left out")
	}
}

// look is the id of a look in a file.
func look(t testing.TB, path string) string {
	all := rows(t, path, "visits")
	return strings.Trim(strings.SplitN(all[0], "|", 2)[0], "'")
}
