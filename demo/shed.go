package demo

import (
	"math"
	"math/rand/v2"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/shed"
)

// PanN is how hard the made-up gauge's made-up pan is until it is told otherwise, newtons: four pounds.
const PanN = 17.8

const poundN = 4.448

// rail is a size of trap on the rack: the user's own name for it, what is the same about all of them, and their numbers.
type rail struct {
	size    string
	of      func(*line.Trap)
	numbers []int
}

func rails() []rail {
	yes := true
	offset := func(t *line.Trap) { t.Offset = &yes }
	laminated := func(t *line.Trap) { t.Laminated = &yes }
	padded := func(t *line.Trap) { t.Padded = &yes }
	square := func(t *line.Trap) { t.JawForm = "square" }
	jaws := func(spread, frame, height, pan, weight float64, are func(*line.Trap), meantFor string, spares ...string) func(*line.Trap) {
		return func(t *line.Trap) {
			t.JawSpreadMm, t.FrameLengthMm, t.SetHeightMm, t.PanDiameterMm, t.WeightG = spread, frame, height, pan, weight
			t.Offset, t.MeantFor, t.Spares = nil, meantFor, spares
			are(t)
			if t.Spares == nil {
				t.Spares = []string{}
			}
		}
	}
	device := func(kind line.TrapType, weight float64) func(*line.Trap) {
		return func(t *line.Trap) {
			*t = line.Trap{Type: kind, WeightG: weight, Swivels: 2, MeantFor: "coyote", Spares: []string{}}
		}
	}
	return []rail{
		{"five and a half", jaws(139.7, 169.7, 40, 60, 1130, offset, "coyote", "skunk"), append([]int{1, 2, 3, 4, 5, 6, 7, 8, 9, 11, 12, 13, 15}, run(33, 47)...)},
		{"heavy, laminated", jaws(146, 180, 44, 60, 1500, laminated, "coyote", "skunk", "opossum"), []int{16, 17, 18, 19, 20}},
		{"fox", jaws(120.65, 150.65, 38, 57, 740, square, "red_fox"), append([]int{10, 14, 21, 22, 23, 24, 25, 26}, run(48, 55)...)},
		{"fox, padded", jaws(120.65, 152, 40, 57, 800, padded, "grey_fox"), []int{27, 28, 29}},
		{"crawl-under cable", device("cable_restraint", 310), []int{30, 31}},
		{"trail snare", device("foot_snare", 1250), []int{32}},
	}
}

// run is the numbers from one to another.
func run(from, to int) []int {
	var numbers []int
	for n := from; n <= to; n++ {
		numbers = append(numbers, n)
	}
	return numbers
}

// odd is what is odd about some traps.
var odd = map[int]func(*line.Trap){
	3:  func(t *line.Trap) { t.ShockSpring = true },
	12: func(t *line.Trap) { t.ChainMm = 1830 },
	16: func(t *line.Trap) { t.ShockSpring = true },
	22: func(t *line.Trap) { t.Spares = []string{"skunk"} },
	26: func(t *line.Trap) { t.Away = "lent" },
}

// presses are what the gauge read at some pans, as shares of the mean.
var presses = []float64{.965, 1.01, 1.025}

// pounds is what the traps measured before the season; those that are not among them measured what their animal asks for, and
// those of 0 were never measured.
var pounds = map[int]float64{4: 2.4, 9: 9.3, 10: 2.2, 11: 4, 12: 4, 13: 3, 14: 2, 15: 3.7, 18: 0, 20: 5, 22: 2.4, 24: 1.2, 28: 0}

// meant is what the pans were set to for each animal, pounds.
var meant = map[string]float64{"coyote": 4.5, "red_fox": 1.6, "grey_fox": 1.4, "bobcat": 3}

// opened is when the shed's records begin.
var opened = at(time.October, 18, 16, 0)

// shelves fills the shed: the rack with its checks and measurements, the bottles, and what was said of the kit. It draws from a
// source of its own, so that the season stays what it is.
func (m *maker) shelves() {
	own := &maker{rng: rand.New(rand.NewPCG(2026, 32))}
	s := &m.season
	lineID := s.Line.ID
	for _, r := range rails() {
		for _, number := range r.numbers {
			t := line.NewTrap()
			t.Usual = nil
			r.of(&t)
			t.ID, t.LineID, t.Number, t.Size, t.Tag = trapID(number), lineID, number, r.size, "KF line, made up"
			if change := odd[number]; change != nil {
				change(&t)
			}
			s.Traps = append(s.Traps, shed.TrapVersion{At: opened, Trap: t})
			checked := opened.AddDate(0, 0, 2).Add(time.Duration(number) * 4 * time.Minute)
			s.Checks = append(s.Checks, line.ShedCheck{ID: own.id(checked), LineID: lineID, TrapID: t.ID, At: checked, Items: sound()})
			pressed := checked
			if number != 5 && number != 23 && (number < 11 || number > 15) && number < 33 { // those of the sets, and two that were forgotten, in October
				pressed = at(time.November, 14, 16, 0).Add(time.Duration(number) * 5 * time.Minute)
			}
			if lb, known := pounds[number]; line.HasJaws(t.Type) && (!known || lb > 0) {
				s.Measurements = append(s.Measurements, own.measured(t, pressed, lb))
			}
		}
	}
	said := func(number int, when time.Time, sound bool, key line.CheckKey, note string) {
		s.Checks = append(s.Checks, line.ShedCheck{ID: own.id(when), LineID: lineID, TrapID: trapID(number), At: when, Items: []line.CheckItem{{Key: key, Sound: sound, Note: note}}})
	}
	said(7, at(time.November, 3, 17, 20), false, "dog", "bent when it was pulled out of the frozen bank")
	said(19, at(time.October, 20, 18, 40), false, "springs", "left one is tired")
	said(2, at(time.November, 15, 18, 0), false, "swivels", "middle one gone")
	said(2, at(time.November, 16, 17, 30), true, "swivels", "new one put in")
	longer := s.Traps[2].Trap
	longer.ChainMm, longer.Version = 609.6, 1
	s.Traps = append(s.Traps, shed.TrapVersion{At: at(time.November, 8, 18, 5), Trap: longer})
	// Number 9 stayed silent in another season; its fouled latch was found at the gauge, and it was never measured again.
	said(9, at(time.December, 3, 17, 45), false, "latch", "fouled with wax, that is why it stayed silent")
	s.Calibrations = append(s.Calibrations, line.Calibration{ID: own.id(opened), LineID: lineID, Gauge: "hook gauge", At: opened, KnownN: 5 * poundN, ReadN: 5.1 * poundN})
	for i, l := range lures() {
		l.ID, l.LineID = lureID(l.Name), lineID
		s.Lures = append(s.Lures, l.Lure)
		for k, b := range l.bottles {
			b.ID, b.LineID, b.LureID = own.id(opened.Add(time.Duration(10*i+k)*time.Minute)), lineID, l.ID
			s.Bottles = append(s.Bottles, b)
		}
	}
	yesterday := at(time.December, 3, 11, 0)
	for i, mark := range []line.KitMark{{Day: "2026-12-03", Key: "pliers", Mark: "forgot"}, {Day: "2026-11-20", Key: "dry socks", Mark: "own"}, {Day: "2026-11-20", Key: "farmer’s gate key", Mark: "own"}} {
		mark.ID, mark.LineID, mark.On, mark.At = own.id(yesterday.Add(time.Duration(i)*time.Minute)), lineID, true, yesterday
		s.KitMarks = append(s.KitMarks, mark)
	}
	s.Recipes = append(s.Recipes, line.Recipe{ID: own.id(opened), LineID: lineID, Name: "Kettle bait", Mix: mix.Recipe{By: mix.ByWeight, Parts: []mix.Part{
		{What: "mouse", Is: mix.Dry, Parts: 2}, {What: "rendered fat", Is: mix.Oil, Parts: 1}, {What: "honey", Is: mix.Dry, Parts: 0.5},
	}}})
}

func sound() []line.CheckItem {
	var items []line.CheckItem
	for _, key := range line.CheckKeys {
		items = append(items, line.CheckItem{Key: key, Sound: true})
	}
	return items
}

func (m *maker) measured(t line.Trap, when time.Time, lb float64) line.Measurement {
	if lb == 0 {
		lb = meant[t.MeantFor] + .1*meant[t.MeantFor]*m.rng.NormFloat64()
	}
	x := line.Measurement{ID: m.id(when), LineID: t.LineID, TrapID: t.ID, At: when.Add(2 * time.Minute), Gauge: "hook gauge", Factor: 5 / 5.1}
	for _, share := range presses {
		x.Presses = append(x.Presses, math.Round(100*lb*poundN*share/x.Factor)/100)
	}
	return x
}

// stocked is a lure with its bottles.
type stocked struct {
	line.Lure
	bottles []line.Bottle
}

func lures() []stocked {
	bottle := func(holds float64, opened *time.Time, freezesAtC *float64, note string) line.Bottle {
		return line.Bottle{Holds: holds, OpenedAt: opened, FreezesAtC: freezesAtC, Note: note}
	}
	october, november := at(time.October, 22, 19, 0), at(time.November, 18, 19, 0)
	halves := mix.Usual()["urine_and_glycerin"].Freezes().AtC
	plain := -1.5
	return []stocked{
		{line.Lure{Name: "Old Fence", Class: "gland", By: mix.ByVolume, Dose: 1.5}, []line.Bottle{bottle(30, &october, nil, "")}},
		{line.Lure{Name: "Dark Post", Class: "gland", By: mix.ByVolume, Dose: 1.5}, []line.Bottle{bottle(30, nil, nil, "for January")}},
		{line.Lure{Name: "Slough paste", Class: "food", By: mix.ByWeight, Dose: 4}, []line.Bottle{bottle(113, &november, nil, "")}},
		{line.Lure{Name: "Kettle bait", Class: "bait", By: mix.ByWeight, Dose: 15}, []line.Bottle{bottle(400, &october, nil, "own recipe"), bottle(400, nil, nil, "own recipe")}},
		{line.Lure{Name: "Tin Cup", Class: "curiosity", By: mix.ByVolume, Dose: 1}, []line.Bottle{bottle(30, &october, nil, "")}},
		{line.Lure{Name: "Creek musk", Class: "musk", By: mix.ByVolume, Dose: 1}, []line.Bottle{bottle(30, nil, nil, "")}},
		{line.Lure{Name: "Long Draw", Class: "call", By: mix.ByVolume, Dose: 3}, []line.Bottle{bottle(60, &november, nil, "one to fifteen in oil")}},
		{line.Lure{Name: "coyote urine", Class: "urine", By: mix.ByVolume, Dose: 20}, []line.Bottle{bottle(500, &october, &halves, "half glycerin")}},
		{line.Lure{Name: "fox urine", Class: "urine", By: mix.ByVolume, Dose: 20}, []line.Bottle{bottle(120, &october, &plain, "")}},
	}
}

// trapID and lureID are the same whenever the season is drawn, so that sets can name what the shed holds.
func trapID(number int) string { return named(uint64(number)) }

func lureID(name string) string {
	for i, l := range lures() {
		if l.Name == name {
			return named(uint64(1000 + i))
		}
	}
	panic("no lure is called " + name)
}

func named(seed uint64) string { return (&maker{rng: rand.New(rand.NewPCG(seed, 4))}).id(opened) }
