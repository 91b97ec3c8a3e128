package calc

import (
	"errors"
	"strings"
	"testing"

	"oldburrow/core/refuse"
)

func TestRunRefusesByName(t *testing.T) {
	for _, c := range []struct{ name, in, field, says string }{
		{"fire", `{"species":"coyote"}`, "tensionN", "missing"},
		{"fire", `{"species":"unicorn","tensionN":1}`, "species", "coyote"},
		{"fire", `{"species":"coyote","tensionN":"9"}`, "tensionN", "a number"},
		{"fire", `{"species":"coyote","tensionN":1,"colour":2}`, "colour", "not a field"},
		{"fire", `[1]`, "input", "one JSON object"},
		{"fire", ``, "input", "one JSON object"},
		{"footfall", `{"species":"coyote","approach":"stand","pans":[{"xMm":0,"diameterMm":60}]}`, "pans[0].yMm", "missing"},
		{"footfall", `{"species":"coyote","approach":"stand","pans":[]}`, "pans", "at least one"},
		{"footfall", `{"species":"coyote","approach":"stand","pans":[{"xMm":0,"yMm":0,"diameterMm":60}],"visits":1.5}`, "visits", "whole number"},
		{"tension-window", `{"targets":["coyote","yeti"]}`, "targets[1]", "coyote"},
		{"tension-window", `{"targets":[]}`, "targets", "at least one"},
		{"tension-window", `{"targets":["coyote"],"avoid":["coyote"]}`, "avoid[0]", "is a target"},
		{"standoff", `{"species":"yeti","holeDiameterMm":60,"holeDepthMm":200,"holeAngleDeg":60}`, "species", "coyote"},
		{"cover", `{"thicknessMm":10,"panDiameterMm":60}`, "material", "missing"},
		{"cover", `{"shearKPa":1,"thicknessMm":10,"panDiameterMm":60}`, "densityKgM3", "missing"},
		{"cover", `{"material":"mud","thicknessMm":10,"panDiameterMm":60}`, "material", "peat"},
		{"standoff", `{"species":"coyote","holeDiameterMm":60,"holeDepthMm":200,"holeAngleDeg":0}`, "holeAngleDeg", "above 0"},
		{"bed", `{"frameLengthMm":-1,"jawSpreadMm":140,"setHeightMm":40,"panDiameterMm":60}`, "frameLengthMm", "from 1 mm"},
		{"rate", `{"catches":1.5,"trapNights":10}`, "catches", "whole number"},
		{"rate", `{"catches":1,"trapNights":0}`, "trapNights", "more than 0"},
		{"rate", `{"catches":1,"trapNights":10,"confidence":1}`, "confidence", "between"},
		{"pattern", `{"pattern":"pit","species":"coyote"}`, "pattern", "punch_holes"},
		{"pattern", `{"pattern":"hole","species":"skunk"}`, "species", "coyote"},
		{"pattern", `{"pattern":"hole","species":"yeti"}`, "species", "coyote"},
		{"pattern", `{"pattern":"hole","species":"coyote","visits":0}`, "visits", "from 1"},
		{"due", `{"mode":"hours","last":"2026-12-04T13:10:00Z","zone":"America/Denver"}`, "hours", "from"},
	} {
		_, err := Run(c.name, []byte(c.in))
		var p refuse.Problems
		if !errors.As(err, &p) {
			t.Errorf("%s %s: got %v", c.name, c.in, err)
			continue
		}
		if p[0].Field != c.field || !strings.Contains(p[0].Says, c.says) {
			t.Errorf("%s %s: %v, want %s … %s", c.name, c.in, p, c.field, c.says)
		}
	}
	if _, err := Run("fly", []byte(`{}`)); !errors.Is(err, ErrUnknown) || !strings.Contains(err.Error(), "footfall") {
		t.Errorf("an unknown calculator: %v", err)
	}
}

func TestMaterialsAndOverrides(t *testing.T) {
	named, err := Run("cover", []byte(`{"material":"damp_packed","thicknessMm":10,"panDiameterMm":60}`))
	if err != nil {
		t.Fatal(err)
	}
	given, err := Run("cover", []byte(`{"shearKPa":1.5,"densityKgM3":1400,"thicknessMm":10,"panDiameterMm":60}`))
	if err != nil || string(named) != string(given) {
		t.Errorf("by name %s, by figures %s (%v)", named, given, err)
	}
	override, err := Run("cover", []byte(`{"material":"damp_packed","shearKPa":0,"thicknessMm":10,"panDiameterMm":60}`))
	if err != nil || !strings.Contains(string(override), "-") {
		t.Errorf("a cover without strength only weighs: %s (%v)", override, err)
	}
}

func FuzzRun(f *testing.F) {
	f.Add("fire", `{"species":"coyote","tensionN":17.8}`)
	f.Add("due", `{"mode":"calendar-day","last":"2026-12-04T13:10:00Z","zone":"America/Denver"}`)
	f.Fuzz(func(t *testing.T, name, in string) {
		if name == "footfall" {
			t.Skip("as slow as the visits asked for")
		}
		_, err := Run(name, []byte(in))
		var p refuse.Problems
		if err != nil && !errors.Is(err, ErrUnknown) && !errors.As(err, &p) {
			t.Errorf("%q is refused without a field: %v", in, err)
		}
	})
}
