package refuse

import (
	"errors"
	"math"
	"strings"
	"testing"
)

func TestProblemsSayWhatWouldBeRight(t *testing.T) {
	var p Problems
	if p.Err() != nil {
		t.Error("nothing wrong is an error")
	}
	p.Within("depthMm", 900, 50, 600, " mm")
	p.Within("depthMm", math.NaN(), 50, 600, " mm")
	p.Within("depthMm", 600, 50, 600, " mm")
	OneOf(&p, "soil", "gold", []string{"loam", "muck"})
	OneOf(&p, "soil", "", []string{"loam", "muck"})
	OneOf(&p, "soil", "loam", []string{"loam", "muck"})
	p.Text("name", " ", 5)
	p.Text("name", "äöüäöü", 5)
	p.Text("name", "äöüäö", 5)
	want := []string{
		"depthMm: must be from 50 mm to 600 mm, not 900 mm",
		"depthMm: must be from 50 mm to 600 mm, not NaN mm",
		`soil: "gold" is not known: choose one of loam, muck`,
		"soil: is missing: choose one of loam, muck",
		"name: is missing: write something here",
		"name: is too long: at most 5 characters, not 6",
	}
	if got := p.Error(); got != strings.Join(want, "; ") {
		t.Errorf("says\n%s\nwant\n%s", got, strings.Join(want, "; "))
	}
}

func TestUnderPutsTheWholePath(t *testing.T) {
	var outer Problems
	outer.Under("layout", Field("hole.angleDeg", "must be %d", 60))
	outer.Under("layout", nil)
	outer.Under("trap", errors.New("broken"))
	if got := outer.Error(); got != "layout.hole.angleDeg: must be 60; trap: broken" {
		t.Error(got)
	}
}
