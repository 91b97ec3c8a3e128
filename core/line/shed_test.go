package line

import (
	"math"
	"testing"
	"time"

	"oldburrow/core/mix"
)

// Each thing of the shed is taken as it should be, and one with a single thing wrong is refused by the name of that.
func TestShedChecks(t *testing.T) {
	trap := NewTrap()
	trap.ID, trap.Number, trap.Size = idA, 7, "five and a half"
	snare := with(trap, func(x *Trap) {
		x.Type, x.JawSpreadMm, x.FrameLengthMm, x.SetHeightMm, x.PanDiameterMm = "foot_snare", 0, 0, 0, 0
	})
	check := ShedCheck{ID: idA, TrapID: idB, At: noon, Items: []CheckItem{{Key: "dog", Note: "bent"}, {Key: "jaws", Sound: true}}}
	measured := Measurement{ID: idA, TrapID: idB, At: noon, Gauge: "hook gauge", Factor: 1, Presses: []float64{18, 18.4, 17.9}}
	tried := Calibration{ID: idA, Gauge: "hook gauge", At: noon, KnownN: 22.2, ReadN: 20.5}
	lure := Lure{ID: idA, Name: "Old Fence", Class: "gland", By: mix.ByVolume, Dose: 2.5}
	cold := -25.0
	bottle := Bottle{ID: idA, LureID: idB, Holds: 60, OpenedAt: &noon, FreezesAtC: &cold}
	level := Level{ID: idA, BottleID: idB, At: noon, Left: 12}
	place := idB
	dose := Dose{ID: idA, LureID: idB, SpotID: &place, At: noon, Count: 1}
	recipe := Recipe{ID: idA, Name: "Loud oil", Mix: mix.Usual()["essence_in_oil"]}
	mark := KitMark{ID: idA, Day: "2026-12-05", Key: "pliers", Mark: "forgot", On: true, At: noon}
	bad := "x"
	for _, c := range []struct {
		want string
		got  error
	}{
		{"", trap.Check(animals)}, {"", snare.Check(animals)}, {"", check.Check()}, {"", measured.Check()}, {"", tried.Check()}, {"", lure.Check()},
		{"", bottle.Check()}, {"", level.Check()}, {"", dose.Check()}, {"", recipe.Check()}, {"", mark.Check()},

		{"id", with(trap, func(x *Trap) { x.ID = "1" }).Check(animals)},
		{"number", with(trap, func(x *Trap) { x.Number = 0 }).Check(animals)},
		{"size", with(trap, func(x *Trap) { x.Size = "  " }).Check(animals)},
		{"type", with(trap, func(x *Trap) { x.Type = "cage" }).Check(animals)},
		{"jawForm", with(trap, func(x *Trap) { x.JawForm = "toothed" }).Check(animals)},
		{"offsetMm", with(trap, func(x *Trap) { wide := 40.0; x.OffsetMm = &wide }).Check(animals)},
		{"offset", with(trap, func(x *Trap) { gap := 0.0; x.OffsetMm = &gap }).Check(animals)},
		{"offset", with(trap, func(x *Trap) { gap := 4.8; x.Offset, x.OffsetMm = nil, &gap }).Check(animals)},
		{"jawSpreadMm", with(trap, func(x *Trap) { x.JawSpreadMm = 20 }).Check(animals)},
		{"frameLengthMm", with(trap, func(x *Trap) { x.FrameLengthMm = x.JawSpreadMm - 1 }).Check(animals)},
		{"setHeightMm", with(trap, func(x *Trap) { x.SetHeightMm = 300 }).Check(animals)},
		{"panDiameterMm", with(trap, func(x *Trap) { x.PanDiameterMm = math.NaN() }).Check(animals)},
		{"weightG", with(trap, func(x *Trap) { x.WeightG = -1 }).Check(animals)},
		{"swivels", with(trap, func(x *Trap) { x.Swivels = 11 }).Check(animals)},
		{"chainMm", with(trap, func(x *Trap) { x.ChainMm = math.Inf(1) }).Check(animals)},
		{"meantFor", with(trap, func(x *Trap) { x.MeantFor = "skunk" }).Check(animals)},
		{"spares[0]", with(trap, func(x *Trap) { x.Spares = []string{"yeti"} }).Check(animals)},
		{"spares", with(trap, func(x *Trap) { x.Spares = []string{"coyote"} }).Check(animals)},
		{"away", with(trap, func(x *Trap) { x.Away = "holiday" }).Check(animals)},

		{"trapId", with(check, func(x *ShedCheck) { x.TrapID = "" }).Check()},
		{"at", with(check, func(x *ShedCheck) { x.At = time.Time{} }).Check()},
		{"items", with(check, func(x *ShedCheck) { x.Items = nil }).Check()},
		{"items[0].key", with(check, func(x *ShedCheck) { x.Items = []CheckItem{{Key: "mood"}} }).Check()},
		{"items[1].key", with(check, func(x *ShedCheck) { x.Items = []CheckItem{{Key: "dog"}, {Key: "dog", Sound: true}} }).Check()},

		{"gauge", with(measured, func(x *Measurement) { x.Gauge = "" }).Check()},
		{"turned", with(measured, func(x *Measurement) { x.Turned = 41 }).Check()},
		{"presses", with(measured, func(x *Measurement) { x.Presses = nil }).Check()},
		{"presses[1]", with(measured, func(x *Measurement) { x.Presses = []float64{18, -1, 18} }).Check()},
		{"factor", with(measured, func(x *Measurement) { x.Factor = 3 }).Check()},
		{"readN", with(tried, func(x *Calibration) { x.ReadN = 9 }).Check()},

		{"name", with(lure, func(x *Lure) { x.Name = "" }).Check()},
		{"class", with(lure, func(x *Lure) { x.Class = "perfume" }).Check()},
		{"by", with(lure, func(x *Lure) { x.By = "smell" }).Check()},
		{"dose", with(lure, func(x *Lure) { x.Dose = 0 }).Check()},
		{"lureId", with(bottle, func(x *Bottle) { x.LureID = "" }).Check()},
		{"holds", with(bottle, func(x *Bottle) { x.Holds = math.NaN() }).Check()},
		{"openedAt", with(bottle, func(x *Bottle) { x.OpenedAt = &time.Time{} }).Check()},
		{"freezesAtC", with(bottle, func(x *Bottle) { c := 30.0; x.FreezesAtC = &c }).Check()},
		{"left", with(level, func(x *Level) { x.Left = -1 }).Check()},
		{"spotId", with(dose, func(x *Dose) { x.SpotID = &bad }).Check()},
		{"count", with(dose, func(x *Dose) { x.Count = 0 }).Check()},
		{"mix.parts", with(recipe, func(x *Recipe) { x.Mix.Parts = nil }).Check()},
		{"day", with(mark, func(x *KitMark) { x.Day = "" }).Check()},
		{"day", with(mark, func(x *KitMark) { x.Day = "soon" }).Check()},
		{"key", with(mark, func(x *KitMark) { x.Key = "" }).Check()},
		{"mark", with(mark, func(x *KitMark) { x.Mark = "lost" }).Check()},
	} {
		if got := field(c.got); got != c.want {
			t.Errorf("%v names %q, want %q", c.got, got, c.want)
		}
	}
}

// What a form offers is what the checks take.
func TestEveryWordOfTheShedIsTaken(t *testing.T) {
	trap := NewTrap()
	trap.ID, trap.Number, trap.Size = idA, 7, "five and a half"
	for _, kind := range TrapTypes {
		for _, form := range append(JawForms, "") {
			if err := with(trap, func(x *Trap) { x.Type, x.JawForm = kind, form }).Check(animals); err != nil {
				t.Errorf("%s with %s jaws: %v", kind, form, err)
			}
		}
	}
	for _, away := range Aways {
		if err := with(trap, func(x *Trap) { x.Away = away }).Check(animals); err != nil {
			t.Errorf("away %q: %v", away, err)
		}
	}
	check := ShedCheck{ID: idA, TrapID: idB, At: noon}
	for _, key := range CheckKeys {
		check.Items = append(check.Items, CheckItem{Key: key, Sound: true})
	}
	if err := check.Check(); err != nil {
		t.Error(err)
	}
	for _, class := range LureClasses {
		usual := UsualDoses()[class]
		if err := (Lure{ID: idA, Name: "a", Class: class, By: usual.By, Dose: usual.Dose}).Check(); err != nil {
			t.Error(err)
		}
	}
	for _, mark := range Marks {
		if err := (KitMark{ID: idA, Day: "2026-12-05", Key: "a", Mark: mark, At: noon}).Check(); err != nil {
			t.Error(err)
		}
	}
}

func TestReadingChecks(t *testing.T) {
	place := idB
	probe := Reading{ID: idA, Kind: FrostProbe, SpotID: &place, At: noon, Value: 60}
	bad := "x"
	for _, c := range []struct {
		want string
		x    Reading
	}{
		{"", probe}, {"", Reading{ID: idA, Kind: SnowDepth, At: noon, Value: 12}}, {"", Reading{ID: idA, Kind: WindShift, At: noon, Value: 290}},
		{"kind", with(probe, func(x *Reading) { x.Kind = "mood" })},
		{"value", with(probe, func(x *Reading) { x.Value = 3001 })},
		{"value", Reading{ID: idA, Kind: SnowDepth, At: noon, Value: -1}},
		{"value", Reading{ID: idA, Kind: WindShift, At: noon, Value: math.NaN()}},
		{"spotId", with(probe, func(x *Reading) { x.SpotID = nil })},
		{"spotId", with(probe, func(x *Reading) { x.SpotID = &bad })},
		{"at", with(probe, func(x *Reading) { x.At = noon.Add(time.Hour) })},
		{"at", with(probe, func(x *Reading) { x.At = time.Time{} })},
	} {
		if got := field(c.x.Check(noon)); got != c.want {
			t.Errorf("%+v names %q, want %q", c.x, got, c.want)
		}
	}
}

// After these findings the set does not work until it is made anew; after the others it does.
func TestWhatWantsARemake(t *testing.T) {
	wants := map[Finding]bool{
		"dug": true, "robbed": true, "rolled": true, "sprung": true, "lost": true, "catch": true, "gone": true, "locked": true, "unable": true,
		"found": true, "given_up": true,
	}
	for _, key := range append(Findings, "no finding at all") {
		if key.Facts().Remake != wants[key] {
			t.Errorf("%s wants a remake: %v", key, key.Facts().Remake)
		}
	}
}
