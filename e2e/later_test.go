package e2e

import (
	"path/filepath"
	"testing"

	"github.com/jmoiron/sqlx"
)

// In a file that a newer program wrote, keys that this one does not know are shown as they are on every page, and taken for nothing else.
func TestKeysThatAreNotKnownHere(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "later.db")
	args := []string{"demo", "--still", "--data", file}
	withDemo(t, args)
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	for _, change := range []string{
		`UPDATE spots SET soil = 'chalk'`, `UPDATE signs SET what = 'burrow'`, `UPDATE features SET kind = 'quarry' WHERE kind = 'gate'`,
		`UPDATE traps SET away = 'sold' WHERE number = 40`, `UPDATE lures SET class = 'blood' WHERE name = 'Tin Cup'`,
		`UPDATE visits SET finding = 'chewed' WHERE finding = 'quiet'`, `UPDATE catches SET species = 'marten' WHERE species = 'red_fox'`,
		`UPDATE designs SET layout = replace(layout, '"pattern":"hole"', '"pattern":"tunnel"')`,
		`UPDATE makes SET layout = replace(replace(layout, '"kind":"cable"', '"kind":"screw"'), '"material":"waxed_soil"', '"material":"ash"')`,
		`UPDATE designs SET layout = replace(replace(layout, '"kind":"cable"', '"kind":"screw"'), '"material":"waxed_soil"', '"material":"ash"')`,
	} {
		if n, err := db.MustExec(change).RowsAffected(); err != nil || n == 0 {
			t.Fatalf("%s: nothing is changed (%v)", change, err)
		}
	}
	db.Close()
	p := run(t, args...)
	w := p.at("/", 1280, 800)
	w.see("Before light")
	for _, page := range []struct{ name, says string }{
		{"Ground", "Unknown: burrow"}, {"Shed", "unknown: sold"}, {"Mixes", "Tin Cup"}, {"Kit", "Pan covers"}, {"Bench", "On the bench"}, {"Round", "the day before"}, {"Book", "promised and came"}, {"what was caught", "unknown: marten"},
		{"print", "unknown: chewed"}, {"Today", "Before light"},
	} {
		w.click(page.name)
		w.see(page.says)
		w.gone("Something went wrong")
	}
	w.click("Bench")
	w.see("Begin a set at")
	w.pressAt("(//ul[@class='rows']//a[contains(@href, '/bench/')])[1]")
	w.see("A newer program made this set, of a kind that is not known here (tunnel)")
	w.click("Ground")
	w.click("Juniper edge")
	w.see("unknown: chalk")
}
