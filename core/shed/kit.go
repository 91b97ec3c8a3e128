package shed

import (
	"math"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/pan"
)

// Plan is what a day's kit is for: sets to build, those of them left for later, sets that wait to be remade, how many more
// remakes the record lets expect, and looks.
type Plan struct {
	Day     string        `json:"day"`
	Builds  []line.Design `json:"builds"`
	Later   []line.Design `json:"later"`
	Waiting []line.Make   `json:"waiting"`
	Expect  int           `json:"expect"`
	Share   float64       `json:"share"` // of looks that end in a remake, by habit and the record
	Seen    int           `json:"seen"`  // looks of the record behind that
	Looks   int           `json:"looks"`
}

// remakes is how many remakes to carry for.
func (p Plan) remakes() int { return len(p.Waiting) + p.Expect }

// Kit is a plan, what it takes, and about how long the work at the sets does, without the way to them.
type Kit struct {
	Plan    Plan    `json:"plan"`
	Items   []Item  `json:"items"`
	Minutes float64 `json:"minutes"`
}

// Group is a key of what is packed together.
type Group string

// Groups of the kit, in the order they are packed.
const (
	Traps     Group = "traps"
	Anchors   Group = "anchors"
	Bedding   Group = "bedding"
	PanCovers Group = "pan_covers"
	Smells    Group = "smells"
	Parts     Group = "parts"
	Tools     Group = "tools"
	Batteries Group = "batteries"
	Spares    Group = "spares"
	Fetch     Group = "fetch" // what was frozen in and can come out
	Own       Group = "own"
)

// Groups lists them.
var Groups = []Group{Traps, Anchors, Bedding, PanCovers, Smells, Parts, Tools, Batteries, Spares, Fetch, Own}

// Item is one thing to take. What is a word of the trade, or the user's own; Count is pieces or doses. For says what it is for:
// the spot of a design, or blank. Lack says why it cannot be taken as it is.
type Item struct {
	Key      string  `json:"key"`
	Group    Group   `json:"group"`
	What     string  `json:"what"`
	Count    float64 `json:"count"`
	Litres   float64 `json:"litres"`
	Kg       float64 `json:"kg"`
	LengthMm float64 `json:"lengthMm"`
	SpotID   string  `json:"spotId"`
	TrapID   string  `json:"trapId"`
	Have     float64 `json:"have"` // doses in the bottles
	Lack     Lack    `json:"lack"`
	Packed   bool    `json:"packed"`
	Forgot   string  `json:"forgot"` // the day on which it was forgotten, and not packed since
}

// Lack is a key of why a thing cannot be taken as it is.
type Lack string

// What a thing can lack.
const (
	NoneFit  Lack = "none_fit" // no trap of the size is on the rack, sound and free
	NotFit   Lack = "not_fit"  // the design's own trap is somewhere else or kept home
	Twice    Lack = "twice"    // another design before it names the same trap
	TooFew   Lack = "too_few"  // the bottles hold fewer doses
	NotOn    Lack = "not_on"   // not on the shelf: nobody knows what is left
	WouldIce Lack = "would_ice"
)

// Lacks lists it.
var Lacks = []Lack{NoneFit, NotFit, Twice, TooFew, NotOn, WouldIce}

// Outside is what the kit has to know of the world: the deepest frost at a spot on the line, the snow that lies, the rain and the
// coldest hour to come (nil: not known), whether a receiver goes along, and what was frozen in and can come out.
type Outside struct {
	FrostMm  float64
	SnowCm   *float64
	RainMm   *float64
	ColdestC *float64
	GPS      bool
	Thawed   []line.StillIn
}

func (o Outside) underfoot() layout.Underfoot { return layout.On(&o.FrostMm, o.SnowCm) }

// kgPerL is what a litre of carried bedding weighs. What is not among them is found at the spot.
var kgPerL = map[pan.Material]float64{pan.Peat: .15, pan.WaxedSoil: 1.3, pan.DrySoil: 1.4, pan.Sand: 1.5, pan.Hulls: .17}

// KitFor computes the kit of a day ("2026-12-05") with what was said of its things. It refuses only records that cannot be.
func (r Record) KitFor(day string, marks []line.KitMark, o Outside) (Kit, error) {
	k := packing{Record: r, said: newest(marks), plan: r.plan(day, newest(marks))}
	hung, err := r.Rack()
	if err != nil {
		return Kit{}, err
	}
	k.traps(hung)
	k.anchors()
	if err := k.bedding(o); err != nil {
		return Kit{}, err
	}
	k.panCovers()
	k.smells(o)
	k.parts(o)
	k.tools(o)
	k.fetch(o)
	k.own(marks, day)
	for i := range k.items {
		k.items[i].Packed = k.said[mark{day, k.items[i].Key, "packed"}]
		k.items[i].Forgot = forgot(marks, k.said, k.items[i].Key, day)
	}
	return Kit{k.plan, k.items, k.minutes(o.underfoot())}, nil
}

// minutes is how long what is built and remade takes, and the remakes to expect as those of the sets that stand do.
func (k *packing) minutes(on layout.Underfoot) float64 {
	sum := 0.0
	for _, design := range k.plan.Builds {
		sum += design.Layout.Minutes(on)
	}
	for _, m := range k.plan.Waiting {
		sum += line.SameBed.Minutes(m.Layout, on, 0)
	}
	standing := k.standing()
	for _, l := range standing {
		sum += line.SameBed.Minutes(l, on, 0) * float64(k.plan.Expect) / float64(len(standing))
	}
	return sum
}

// mark is what can be said of one thing on one day.
type mark struct {
	day, key string
	mark     line.Mark
}

// newest keeps the last word on each thing; marks are in order of time.
func newest(marks []line.KitMark) map[mark]bool {
	said := map[mark]bool{}
	for _, m := range marks {
		said[mark{m.Day, m.Key, m.Mark}] = m.On
	}
	return said
}

// forgot gives the last day before this one on which a thing was forgotten, unless it was packed on a day between.
func forgot(marks []line.KitMark, said map[mark]bool, key, day string) string {
	last := ""
	for _, m := range marks {
		if m.Key == key && m.Mark == "forgot" && m.Day < day && m.Day > last && said[mark{m.Day, key, "forgot"}] {
			last = m.Day
		}
	}
	for _, m := range marks {
		if m.Key == key && m.Mark == "packed" && m.Day > last && m.Day < day && said[mark{m.Day, key, "packed"}] {
			return ""
		}
	}
	return last
}

func (r Record) plan(day string, said map[mark]bool) Plan {
	p := Plan{Day: day, Builds: []line.Design{}, Later: []line.Design{}, Waiting: []line.Make{}}
	for _, d := range r.Designs {
		switch {
		case d.SetID != nil:
		case said[mark{day, "design:" + d.ID, "later"}]:
			p.Later = append(p.Later, d)
		default:
			p.Builds = append(p.Builds, d)
		}
	}
	working, looks, remade := 0, 0.0, 0.0
	for _, made := range r.Makes {
		waits := false // as its last look found it
		for _, look := range r.Looks(made.ID) {
			looks++
			if waits = look.Finding.Facts().Remake; waits {
				remade++
			}
		}
		if made.PulledAt != nil {
			continue
		}
		p.Looks++
		if waits || r.Bead(made).State == line.Open {
			p.Waiting = append(p.Waiting, made)
		} else {
			working++
		}
	}
	p.Seen = int(looks)
	p.Share = (remade + priorRemakes*priorLooks) / (looks + priorLooks)
	p.Expect = int(math.Ceil(p.Share * float64(working)))
	return p
}
