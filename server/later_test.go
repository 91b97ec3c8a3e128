package server

import (
	"maps"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/jmoiron/sqlx"

	"oldburrow/archive"
	"oldburrow/store"
)

// What a newer program wrote into a file is kept and shown as it is, and taken for nothing else: with keys that this one does not know in every
// kind of record, all of a line can still be read, and it goes out whole and comes back. A form that says such a key is refused.
func TestKeysThatAreNotKnown(t *testing.T) {
	path := filepath.Join(t.TempDir(), "later.db")
	s, err := store.Open(path)
	if err != nil {
		t.Fatal(err)
	}
	if err := LoadDemo(s); err != nil {
		t.Fatal(err)
	}
	s.Close()
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	later := `(SELECT id FROM sets WHERE number > 8)`
	for _, change := range []string{
		`UPDATE spots SET soil = 'chalk' WHERE rowid % 3 = 0`, `UPDATE spots SET wetness = 'soaked' WHERE rowid % 4 = 1`,
		`UPDATE spots SET surface = 'moss', through = 'every_one' WHERE rowid % 5 = 2`,
		`UPDATE signs SET what = 'burrow' WHERE rowid % 4 = 0`, `UPDATE signs SET age = 'a_month', holds = 'partly' WHERE rowid % 4 = 1`, `UPDATE signs SET animal = 'marten' WHERE rowid % 4 = 2`,
		`UPDATE features SET kind = 'quarry' WHERE rowid % 5 = 0`, `UPDATE falls SET kind = 'hail' WHERE rowid % 2 = 0`,
		`UPDATE traps SET type = 'box' WHERE number % 9 = 8`, `UPDATE traps SET away = 'sold' WHERE number = 40`, `UPDATE traps SET meant_for = 'marten' WHERE number % 5 = 0`, `UPDATE traps SET spares = '["marten"]' WHERE number % 7 = 1 AND number % 5 > 0`, `UPDATE lures SET class = 'blood' WHERE rowid % 3 = 0`,
		`UPDATE visits SET finding = 'chewed' WHERE rowid % 7 = 0 AND finding = 'quiet'`, `UPDATE visits SET animal = 'marten' WHERE animal = 'raccoon'`,
		`UPDATE visits SET seen = json_set(seen, '$.bed', 'muddy', '$.side', 'above') WHERE rowid % 6 = 0`,
		`UPDATE catches SET species = 'marten' WHERE species = 'red_fox'`, `UPDATE catches SET hold = 'leg', foot = 'tail' WHERE rowid % 4 = 0`,
		`UPDATE makes SET layout = replace(replace(layout, '"backing":"stone"', '"backing":"hedge"'), '"material":"waxed_soil"', '"material":"ash"') WHERE set_id IN ` + later,
		`UPDATE makes SET layout = replace(replace(layout, '"kind":"cable"', '"kind":"screw"'), '"kind":"gland"', '"kind":"blood"') WHERE set_id IN ` + later,
		`UPDATE makes SET layout = replace(replace(layout, '"pattern":"trench"', '"pattern":"well"'), '"plug":"wool"', '"plug":"moss"') WHERE set_id IN ` + later,
		`UPDATE designs SET layout = replace(replace(layout, '"backing":"stone"', '"backing":"hedge"'), '"kind":"stick"', '"kind":"wire"')`,
	} {
		done, err := db.Exec(change)
		if err != nil {
			t.Fatalf("%s: %v", change, err)
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			t.Fatalf("%s: nothing is changed (%v)", change, err)
		}
	}
	db.Close()
	x := demoAt(t, path)
	said := strings.Join(slices.Collect(maps.Values(x.everything(99))), "\n")
	for _, key := range []string{"chalk", "soaked", "moss", "burrow", "a_month", "marten", "quarry", "hail", "box", "sold", "blood", "chewed", "muddy", "hedge", "ash", "screw", "well", "wire"} {
		if !strings.Contains(said, `"`+key+`"`) {
			t.Errorf("%s is told nowhere", key)
		}
	}
	takenIn(t, x.server.Store, archive.Ask{})
}
