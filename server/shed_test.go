package server

import (
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"strings"
	"testing"
	"time"

	"oldburrow/core/gauge"
	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/page"
	"oldburrow/core/pan"
	"oldburrow/core/shed"
	gauges "oldburrow/instrument/gauge"
)

// trap hangs a trap on the rack and gives it as it was kept.
func (x *site) trap(number int) line.Trap {
	x.t.Helper()
	t := line.NewTrap()
	t.Number, t.Size = number, "five and a half"
	return x.keepTrap(id(), t)
}

func (x *site) keepTrap(id string, t line.Trap) line.Trap {
	x.t.Helper()
	x.put(x.of("traps", id), t, &t)
	return t
}

func (x *site) hung(number int) shed.Hung {
	x.t.Helper()
	for _, h := range takenDown(x.rack()) {
		if h.Trap.Number == number {
			return h
		}
	}
	x.t.Fatalf("no trap %d", number)
	return shed.Hung{}
}

func (x *site) rack() (r page.Rack) {
	x.t.Helper()
	x.get("/lines/"+x.line+"/rack", &r)
	return r
}

// takenDown is the rack as the shed tells it, from what stands in its lists.
func takenDown(r page.Rack) []shed.Hung {
	found := make([]shed.Hung, len(r.Traps))
	for i, n := range r.Traps {
		t := r.Alike[n.Alike]
		t.ID, t.Number, t.Tag, t.Note, t.Version = n.ID, n.Number, n.Tag, n.Note, n.Version
		h := shed.Hung{Trap: t, Place: r.Places[n.Place], Checked: n.Checked, Checks: r.Checks[n.Checks], Faults: r.Checks[n.Faults],
			Verdict: n.Verdict, Turn: gauge.Turn{Way: n.Turn, ToMiddleN: n.TurnN}, Bars: n.Bars}
		if n.Window != nil {
			h.Wanted = &r.Windows[*n.Window]
		}
		if p := n.Tension; p != nil {
			h.Tension = &shed.Tension{Measured: gauge.Measured{MeanN: p.MeanN, SDN: p.SDN, Spread: p.Spread}, Old: p.Old, Fails: p.Fails, PerQuarterN: p.PerQuarterN,
				Measurement: line.Measurement{At: p.At, Gauge: p.Gauge, StandIn: p.StandIn, Covered: p.Covered, Presses: make([]float64, p.Presses)}}
		}
		found[i] = h
	}
	return found
}

// asText is how something is written, to be compared with another.
func asText(t *testing.T, x any) string {
	t.Helper()
	raw, err := json.Marshal(x)
	if err != nil {
		t.Fatal(err)
	}
	return string(raw)
}

// What goes over the wire says all that the shed does of each trap, but for what nobody is shown: the presses, and whether they crept.
func TestTheRackOnTheWireSaysAll(t *testing.T) {
	x := newDemo(t)
	var want []shed.Hung
	err := x.server.read(t.Context(), x.line, func(r reading) (err error) {
		want, err = r.Hung()
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	got := takenDown(x.rack())
	measured, turned, barred := 0, 0, 0
	for i, w := range want {
		if n := w.Tension; n != nil {
			measured++
			m := n.Measurement
			kept := *n
			kept.Measurement = line.Measurement{At: m.At, Gauge: m.Gauge, StandIn: m.StandIn, Covered: m.Covered, Presses: make([]float64, len(m.Presses))}
			kept.MeanN, kept.SDN, kept.PerQuarterN = rounded(n.MeanN, 3), rounded(n.SDN, 3), rounded(n.PerQuarterN, 3)
			kept.Spread, kept.Fails = rounded(n.Spread, 4), rounded(n.Fails, 4)
			kept.Wide, kept.Creeps, kept.Few = false, false, false
			w.Tension = &kept
		}
		w.Turn = gauge.Turn{Way: w.Turn.Way, ToMiddleN: rounded(w.Turn.ToMiddleN, 3)}
		if w.Turn.Way != "" {
			turned++
		}
		if w.Bars != "" {
			barred++
		}
		if has, wants := asText(t, got[i]), asText(t, w); has != wants {
			t.Fatalf("trap %d\n%s\n%s", w.Trap.Number, has, wants)
		}
	}
	if measured < 20 || turned < 2 || barred < 20 {
		t.Errorf("%d measured, %d to turn, %d barred: the demo's rack asks too little", measured, turned, barred)
	}
}

// standsIn builds a set with a trap of the rack and gives the make.
func (x *site) standsIn(t line.Trap) line.Make {
	x.t.Helper()
	l := laidOut(x.t, "hole")
	l.Rigs[0].TrapID = t.ID
	design := line.Design{ID: id(), SpotID: x.spot(), Target: "coyote", Layout: l}
	x.put(x.of("designs", design.ID), design, nil)
	made := line.Make{ID: id(), SetID: id(), DesignID: design.ID, Target: "coyote", Layout: l, BuiltAt: x.clock.at}
	x.put(x.of("makes", made.ID), made, &made)
	return made
}

func (x *site) check(t line.Trap, items ...line.CheckItem) {
	x.t.Helper()
	x.put(x.of("checks", id()), line.ShedCheck{TrapID: t.ID, At: x.clock.at, Items: items}, nil)
}

func TestRackKeepsNumbersAndStories(t *testing.T) {
	x := newSite(t)
	one, two := x.trap(1), x.trap(2)
	two.Number = 1
	x.refused("PUT", x.of("traps", two.ID), id(), two, 422, "number")
	two.Number, two.PanDiameterMm = 2, 0
	x.refused("PUT", x.of("traps", two.ID), id(), two, 422, "panDiameterMm")
	one.ChainMm = 600
	x.clock.at = x.clock.at.Add(time.Hour)
	changed := x.keepTrap(one.ID, one)
	if changed.Version != 2 {
		t.Errorf("version %d", changed.Version)
	}
	problem := x.refused("PUT", x.of("traps", one.ID), id(), one, http.StatusConflict, "") // one has the old version
	if theirs, ok := problem.Theirs.(map[string]any); !ok || theirs["chainMm"] != 600.0 || fmt.Sprint(theirs["spares"]) != "[]" {
		t.Errorf("theirs is %v", problem.Theirs)
	}
	var events []shed.Event
	x.get(x.of("traps", one.ID)+"/history", &events)
	if len(events) != 2 || events[0].Kind != "changed" || events[0].Changes[0].Field != "chainMm" || events[1].Kind != shed.Added {
		t.Errorf("its story: %+v", events)
	}
	// A number is free again when its trap is gone, and the trap comes back only when it is.
	changed.Deleted = true
	gone := x.keepTrap(one.ID, changed)
	x.trap(1)
	gone.Deleted = false
	x.refused("PUT", x.of("traps", one.ID), id(), gone, 422, "number")
}

// What was built is kept, however odd; the trap is where it was built last.
func TestATrapThatShouldNotHaveGoneOutIsFlagged(t *testing.T) {
	x := newSite(t)
	one := x.trap(1)
	if first := x.standsIn(one); first.Flags != "" {
		t.Errorf("a sound trap from the rack: %q", first.Flags)
	}
	if at := x.hung(1).Place; at.Kind != shed.InSet || at.Number != 1 {
		t.Errorf("it stands in %+v", at)
	}
	deleted := one
	deleted.Deleted = true
	x.refused("PUT", x.of("traps", one.ID), id(), deleted, 422, "deleted")
	x.clock.at = x.clock.at.Add(time.Hour)
	second := x.standsIn(one)
	if second.Flags != line.FlagTrapStood+" 1" {
		t.Errorf("a trap that stands elsewhere: %q", second.Flags)
	}
	if at := x.hung(1).Place; at.Number != 2 {
		t.Errorf("it stands in %+v", at)
	}
	x.clock.at = x.clock.at.Add(time.Hour)
	x.put(x.of("pulls", id()), line.Pull{MakeID: second.ID, At: x.clock.at}, nil)
	x.check(one, line.CheckItem{Key: "dog", Note: "bent"})
	if h := x.hung(1); h.Fit() || len(h.Faults) != 1 || h.Faults[0].Note != "bent" {
		t.Errorf("a bent dog: %+v", h)
	}
	if third := x.standsIn(one); third.Flags != line.FlagTrapFaulty {
		t.Errorf("a trap that is kept home: %q", third.Flags)
	}
}

func TestShedChecksAndMeasurementsAreActs(t *testing.T) {
	x := newSite(t)
	one := x.trap(1)
	at := x.clock.at
	x.refused("PUT", x.of("checks", id()), id(), line.ShedCheck{TrapID: one.ID, At: at}, 422, "items")
	x.refused("PUT", x.of("checks", id()), id(), line.ShedCheck{TrapID: id(), At: at, Items: []line.CheckItem{{Key: "dog"}}}, 422, "trapId")
	m := line.Measurement{TrapID: one.ID, At: at, Gauge: "hook gauge", Factor: 1.02, Presses: []float64{18, 18.5, 17.5}}
	path := x.of("measurements", id())
	x.put(path, m, &m)
	m.Presses = []float64{1, 1, 1}
	x.refused("PUT", path, id(), m, 409, "") // the first word holds
	m.Presses = []float64{18, 18.5, 17.5}
	x.put(path, m, &m)
	if h := x.hung(1); h.Tension == nil || h.Tension.MeanN < 18.35 || h.Tension.MeanN > 18.37 || h.Verdict != pan.Inside {
		t.Errorf("measured: %+v", h)
	}
	x.refused("PUT", x.of("measurements", id()), id(), line.Measurement{TrapID: one.ID, At: at, Gauge: "a", Factor: 1, Presses: []float64{}}, 422, "presses")
	x.put(path+"/undo", Moment{At: at}, &m)
	if h := x.hung(1); m.UndoneAt == nil || h.Tension != nil || h.Verdict != shed.Unmeasured {
		t.Errorf("taken back: %+v", h)
	}
	x.refused("PUT", x.of("measurements", id())+"/undo", id(), Moment{At: at}, 404, "")

	// A gauge is known by its measurements and multiplied by its newest calibration.
	for i, read := range []float64{20, 25} {
		tried := line.Calibration{Gauge: "hook gauge", At: at.Add(time.Duration(i) * time.Hour), KnownN: 22, ReadN: read}
		x.put(x.of("calibrations", id()), tried, nil)
	}
	x.refused("PUT", x.of("calibrations", id()), id(), line.Calibration{Gauge: "hook gauge", At: at, KnownN: 22, ReadN: 5}, 422, "readN")
	if g := x.rack().Gauges; len(g) != 1 || g[0].Factor != 22.0/25 || g[0].CalibratedAt == nil {
		t.Errorf("gauges: %+v", g)
	}
}

func TestPressesAreReadOrRefused(t *testing.T) {
	x := newSite(t)
	x.refused("POST", "/press", "", Ask{}, 404, "")
	x.server.Gauge = &Gauge{Address: "127.0.0.1:1"}
	x.refused("POST", "/press", "", Ask{}, 404, "")
	standIn, err := gauges.NewStandIn(18, time.Millisecond)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { standIn.Close() })
	x.server.Gauge = &Gauge{Address: standIn.Address(), StandIn: true}
	x.refused("POST", "/press", "", Ask{PanN: 0, Acts: gauges.Well}, 422, "panN")
	x.refused("POST", "/press", "", Ask{PanN: 18, Acts: "sings"}, 422, "acts")
	press := func(ask Ask) (p PressRead) {
		t.Helper()
		x.decode(&p)(x.do("POST", "/press", "", ask))
		return p
	}
	if p := press(Ask{PanN: 24, Acts: gauges.Well}); p.Drifted || !p.StandIn || p.PeakN < 20 || p.PeakN > 28 {
		t.Errorf("a press on 24 N: %+v", p)
	}
	if p := x.refused("POST", "/press", "", Ask{PanN: 24, Acts: gauges.Sticks}, 409, ""); !strings.Contains(p.Detail, "no reading") {
		t.Errorf("a stuck gauge: %+v", p)
	}
	if p := press(Ask{PanN: 24, Acts: gauges.Drifts}); !p.Drifted {
		t.Errorf("a drifting gauge: %+v", p)
	}
	if p := press(Ask{PanN: 24, Acts: gauges.Well}); !p.Drifted {
		t.Errorf("it stays off until it is zeroed: %+v", p)
	}
	if p := press(Ask{PanN: 24, Acts: gauges.Well, Zero: true}); p.Drifted {
		t.Errorf("zeroed: %+v", p)
	}
}

func TestPanIsJudged(t *testing.T) {
	x := newSite(t)
	l := laidOut(t, "hole")
	q := shed.PanQuestion{Target: "coyote", Spares: []string{"skunk"}, Cover: l.Rigs[0].Cover, PanDiameterMm: 60, Presses: []float64{40, 40, 40}, Factor: 1}
	var found shed.PanAnswer
	x.decode(&found)(x.do("POST", "/pan", "", q))
	if found.Verdict != pan.Heavy || found.Turn.Way != gauge.Looser || len(found.Curves) != 2 {
		t.Errorf("%+v", found)
	}
	q.Factor = 9
	x.refused("POST", "/pan", "", q, 422, "factor")
	q.Spares = []string{"yeti"}
	x.refused("POST", "/pan", "", q, 422, "")
}

func TestRackAsCSVIsAllOrNothing(t *testing.T) {
	x := newSite(t)
	x.trap(1)
	x.trap(2)
	_, raw := x.do("GET", "/lines/"+x.line+"/export/traps", "", "")
	preview := func(file string) (p RackPreview) {
		t.Helper()
		x.decode(&p)(x.do("POST", "/lines/"+x.line+"/rack/preview", "", file))
		return p
	}
	if p := preview(string(raw)); p.Same != 2 || len(p.Adds)+len(p.Changes)+len(p.Traps) != 0 {
		t.Errorf("its own rack again: %+v", p)
	}
	x.refused("POST", "/lines/"+x.line+"/rack/preview", "", "size\nfox\n", 422, "file")
	p := preview("number,size,chain_mm\n2,five and a half,700\n3,fox,300\n4,,1\n")
	if len(p.Adds) != 1 || p.Adds[0] != 3 || len(p.Changes) != 1 || p.Changes[0] != 2 || len(p.Traps) != 2 || len(p.Wrong) != 1 {
		t.Fatalf("%+v", p)
	}
	if len(x.rack().Traps) != 2 {
		t.Error("looking into a file changed the rack")
	}
	spoilt := append([]line.Trap{}, p.Traps...)
	spoilt[1].Size = ""
	x.refused("PUT", x.of("rack", id()), id(), TrapsToBring{spoilt}, 422, "traps[1].size")
	spoilt[1].Size, spoilt[1].Number = "fox", 1
	x.refused("PUT", x.of("rack", id()), id(), TrapsToBring{spoilt}, 422, "number")
	if h := x.hung(2); h.Trap.ChainMm == 700 {
		t.Error("half a rack was taken in")
	}
	var brought BroughtTraps
	mutation, path := id(), x.of("rack", id())
	for range 2 { // the second is a repeat of the first
		x.decode(&brought)(x.do("PUT", path, mutation, TrapsToBring{p.Traps}))
	}
	if h := x.hung(2); h.Trap.WeightG != line.NewTrap().WeightG || h.Trap.Size != "five and a half" {
		t.Errorf("what the file does not name is changed: %+v", h.Trap)
	}
	if h := x.hung(2); brought.Traps != 2 || len(x.rack().Traps) != 3 || h.Trap.ChainMm != 700 || h.Trap.Version != 2 {
		t.Errorf("brought %+v: %+v", brought, h.Trap)
	}
}

func TestShelf(t *testing.T) {
	x := newSite(t)
	lure := line.Lure{ID: id(), Name: "Old Fence", Class: "gland", By: mix.ByVolume, Dose: 5}
	x.put(x.of("lures", lure.ID), lure, &lure)
	bottle := line.Bottle{ID: id(), LureID: lure.ID, Holds: 10, OpenedAt: &x.clock.at}
	x.put(x.of("bottles", bottle.ID), bottle, &bottle)
	stray := bottle
	stray.LureID = id()
	x.refused("PUT", x.of("bottles", id()), id(), stray, 422, "lureId")
	shelf := func() (s page.Shelf) {
		t.Helper()
		x.get("/lines/"+x.line+"/shelf", &s)
		return s
	}
	if s := shelf(); len(s.Lures) != 1 || s.Lures[0].Bottles[0].Left != 10 || s.Coldest != nil || len(s.Usual) == 0 {
		t.Fatalf("%+v", s)
	}
	// A set built with it has a dose, and its spot has met it.
	l := laidOut(t, "hole")
	l.Attractors[0].Smells[1].Name, l.Attractors[0].Smells[1].LureID = lure.Name, lure.ID
	spot := x.spot()
	design := line.Design{ID: id(), SpotID: spot, Target: "coyote", Layout: l}
	x.put(x.of("designs", design.ID), design, nil)
	x.clock.at = x.clock.at.Add(time.Hour)
	x.put(x.of("makes", id()), line.Make{SetID: id(), DesignID: design.ID, Target: "coyote", Layout: l, BuiltAt: x.clock.at}, nil)
	s := shelf().Lures[0]
	if s.Bottles[0].Left != 5 || len(s.Met) != 1 || s.Met[0].SpotID != spot || s.Met[0].Times != 1 {
		t.Errorf("after one set: %+v", s)
	}
	x.put(x.of("doses", id()), line.Dose{LureID: lure.ID, SpotID: &spot, At: x.clock.at, Count: 1}, nil)
	if s := shelf().Lures[0]; s.Bottles[0].Left != 0 || s.Met[0].Times != 2 {
		t.Errorf("after a dose by hand: %+v", s)
	}
	x.put(x.of("levels", id()), line.Level{BottleID: bottle.ID, At: x.clock.at.Add(time.Minute), Left: 4}, nil)
	if s := shelf().Lures[0]; s.Bottles[0].Left != 4 {
		t.Errorf("after somebody looked: %+v", s)
	}
	lure.Deleted = true
	x.refused("PUT", x.of("lures", lure.ID), id(), lure, 422, "deleted")
	bottle.Deleted = true
	x.put(x.of("bottles", bottle.ID), bottle, nil)
	x.put(x.of("lures", lure.ID), lure, nil)
	if s := shelf(); len(s.Lures) != 0 {
		t.Errorf("put away: %+v", s.Lures)
	}
	x.put(x.of("recipes", id()), line.Recipe{Name: "Loud oil", Mix: mix.Usual()["essence_in_oil"]}, nil)
	if s := shelf(); len(s.Recipes) != 1 || len(s.Recipes[0].Mix.Parts) != 2 {
		t.Errorf("recipes: %+v", s.Recipes)
	}
	// The cold that it has to stand is the coldest hour to come.
	withWeather(t, x)
	if s := shelf(); s.Coldest == nil || !s.Coldest.At.After(x.clock.at) || s.Coldest.TempC > -5 {
		t.Errorf("the coldest hour: %+v", s.Coldest)
	}
}

func TestKitOfADay(t *testing.T) {
	x := newSite(t)
	withWeather(t, x)
	x.server.GPS = &Receiver{Address: "127.0.0.1:1"}
	made := x.standsIn(x.trap(1))
	l := laidOut(t, "hole")
	design := line.Design{ID: id(), SpotID: x.spot(), Target: "coyote", Layout: l}
	x.put(x.of("designs", design.ID), design, nil)
	const day = "2026-12-05"
	kit := func(day string) (map[string]shed.Item, shed.Plan) {
		t.Helper()
		var k shed.Kit
		x.get("/lines/"+x.line+"/kit/"+day, &k)
		items := map[string]shed.Item{}
		for _, i := range k.Items {
			items[i.Key] = i
		}
		return items, k.Plan
	}
	items, plan := kit(day)
	if len(plan.Builds) != 1 || plan.Builds[0].ID != design.ID || plan.Looks != 1 {
		t.Errorf("the plan: %+v", plan)
	}
	// The only trap stands in a set; the ground is frozen hard; a receiver goes along.
	if x := items["trap for "+design.ID]; x.Lack != shed.NoneFit {
		t.Errorf("its trap: %+v", x)
	}
	for _, key := range []string{"mattock", "receiver", "setters", "driver_nut"} {
		if _, ok := items[key]; !ok {
			t.Errorf("no %s in %v", key, items)
		}
	}
	mark := func(day, key string, mark line.Mark) {
		x.put(x.of("kit", id()), line.KitMark{Day: day, Key: key, Mark: mark, On: true, At: x.clock.at}, nil)
	}
	mark(day, "setters", "packed")
	mark(day, "sifter", "forgot")
	mark(day, "thermos", "own")
	items, _ = kit(day)
	if !items["setters"].Packed || items["thermos"].Group != shed.Own {
		t.Errorf("marked: %+v", items)
	}
	items, _ = kit("2026-12-06")
	if items["setters"].Packed || items["sifter"].Forgot != day {
		t.Errorf("on the day after: %+v, %+v", items["setters"], items["sifter"])
	}
	visit := line.Visit{MakeID: made.ID, At: x.clock.at.Add(time.Hour), Found: line.Found{Finding: "dug"}}
	x.clock.at = x.clock.at.Add(2 * time.Hour)
	x.put(x.of("visits", id()), visit, nil)
	if _, plan = kit(day); len(plan.Waiting) != 1 || plan.Expect != 0 {
		t.Errorf("a set that was dug out waits: %+v", plan)
	}
	x.refused("GET", "/lines/"+x.line+"/kit/tomorrow", "", "", 404, "")
	x.refused("PUT", x.of("kit", id()), id(), line.KitMark{Day: "soon", Key: "a", Mark: "packed", At: x.clock.at}, 422, "day")
}

// A design that cannot be built yet spoils nothing but itself.
func TestAnUnfinishedDesignDoesNotHideTheRack(t *testing.T) {
	x := newSite(t)
	one := x.trap(1)
	l := laidOut(t, "hole")
	l.Rigs[0].TrapID = one.ID
	l.Rigs[0].Cover[0].ThicknessMm, l.Rigs[0].Pan.DiameterMm = 900, 0
	design := line.Design{ID: id(), SpotID: x.spot(), Target: "coyote", Layout: l}
	x.put(x.of("designs", design.ID), design, nil)
	if h := x.hung(1); h.Wanted == nil || h.Wanted.Cover[0].ThicknessMm == 900 || h.Wanted.Conflict {
		t.Errorf("its window: %+v", h.Wanted)
	}
	var k shed.Kit
	x.get("/lines/"+x.line+"/kit/2026-12-05", &k)
	if len(k.Plan.Builds) != 1 {
		t.Errorf("the plan: %+v", k.Plan)
	}
}

// rounded is a figure to so many places after the point.
func rounded(x float64, places int) float64 {
	tens := math.Pow10(places)
	return math.Round(x*tens) / tens
}
