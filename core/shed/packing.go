package shed

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/pan"
)

// Figures of the kit, each a habit or a judgement.
const (
	priorRemakes = 0.06 // share of looks that end in a remake, before there is a record
	priorLooks   = 30.0 // and how many looks that is worth
	panCoverMm   = 25.0 // a pan cover is so much smaller than the jaws are wide
	likeJawsMm   = 7.0  // jaws this close serve the same set
	spareFor     = 4    // remakes to one spare trap
	drillMm      = 50.0 // and drilled for an anchor
	rainyMm      = 2.0  // rain after which a cover is cake: dry peat goes over it, ...
	dryL         = .25  // ... so many litres for each set that is looked at
)

// packing is a kit in the making.
type packing struct {
	Record
	plan  Plan
	said  map[mark]bool
	items []Item
}

func (k *packing) add(x Item) { k.items = append(k.items, x) }

// layouts are those of the sets to build and of the sets that wait to be remade.
func (k *packing) layouts() []layout.Layout {
	var all []layout.Layout
	for _, d := range k.plan.Builds {
		all = append(all, d.Layout)
	}
	for _, m := range k.plan.Waiting {
		all = append(all, m.Layout)
	}
	return all
}

// standing are the layouts of the sets that stand, from which the remakes to expect are drawn.
func (k *packing) standing() []layout.Layout {
	var all []layout.Layout
	for _, m := range k.Standing() {
		all = append(all, m.Layout)
	}
	return all
}

// traps finds a trap for each set to build: the one that its design names, or the first on the rack that serves; and spares.
func (k *packing) traps(hung []Hung) {
	taken, packed := map[string]bool{}, map[string]bool{}
	for _, d := range k.plan.Builds {
		for _, id := range d.Layout.TrapIDs() {
			taken[id] = true
		}
	}
	pick := func(jawsMm float64, target string) (Hung, bool) {
		best, found := Hung{}, false
		for _, h := range hung {
			if !h.Fit() || taken[h.Trap.ID] || math.Abs(h.Trap.JawSpreadMm-jawsMm) > likeJawsMm {
				continue
			}
			if !found || suits(h, target) > suits(best, target) {
				best, found = h, true
			}
		}
		taken[best.Trap.ID] = true
		return best, found
	}
	for _, d := range k.plan.Builds {
		for _, rig := range d.Layout.Rigs {
			if rig.Jaws == nil {
				k.add(Item{Group: Traps, What: string(rig.Device), Count: 1, SpotID: d.SpotID, LengthMm: rig.LoopMm(), Key: trapKey(d, rig)})
				continue
			}
			x := Item{Group: Traps, What: "trap", Count: 1, SpotID: d.SpotID, LengthMm: rig.JawsMm(), Key: trapKey(d, rig)}
			if named := slices.IndexFunc(hung, func(h Hung) bool { return h.Trap.ID == rig.TrapID }); named >= 0 {
				x.TrapID = hung[named].Trap.ID
				switch {
				case !hung[named].Fit():
					x.Lack = NotFit
				case packed[x.TrapID]:
					x.Lack = Twice
				}
				packed[x.TrapID] = true
			} else if h, ok := pick(rig.JawsMm(), d.Target); ok {
				x.TrapID = h.Trap.ID
			} else {
				x.Lack = NoneFit
			}
			k.add(x)
		}
	}
	standing := k.standing()
	if k.plan.remakes() == 0 || len(standing) == 0 {
		return
	}
	for i := range (k.plan.remakes() + spareFor - 1) / spareFor {
		x := Item{Group: Traps, What: "spare_trap", Count: 1, LengthMm: commonJaws(standing), Key: fmt.Sprintf("spare trap %d", i+1)}
		if h, ok := pick(x.LengthMm, ""); ok {
			x.TrapID = h.Trap.ID
		} else {
			x.Lack = NoneFit
		}
		k.add(x)
	}
}

// trapKey names the trap of a rig on the list; the first one's name is that of its design.
func trapKey(d line.Design, rig layout.Rig) string {
	if rig.Slot == 0 {
		return "trap for " + d.ID
	}
	return fmt.Sprintf("trap %d for %s", rig.Slot+1, d.ID)
}

// suits ranks a trap that could go out: in its window, and meant for the animal.
func suits(h Hung, target string) int {
	score := 0
	if h.Trap.MeantFor == target {
		score += 2
	}
	if h.Verdict == pan.Inside && h.Tension.Old == "" {
		score++
	}
	return score
}

// commonJaws is the jaw spread that most of some sets have.
func commonJaws(of []layout.Layout) float64 {
	count := map[float64]int{}
	best := 0.0
	for _, l := range of {
		for _, rig := range l.Rigs {
			if rig.Jaws == nil {
				continue
			}
			count[rig.JawsMm()]++
			if count[rig.JawsMm()] > count[best] {
				best = rig.JawsMm()
			}
		}
	}
	return best
}

// anchors takes those of the sets to build and one more of each kind.
func (k *packing) anchors() {
	counts := map[layout.End]float64{}
	for _, d := range k.plan.Builds {
		for _, a := range d.Layout.Anchors {
			if a.SecondMm > 0 { // of a crossed pair one of each
				counts[layout.End{Kind: a.Kind, LengthMm: a.LengthMm}] += .5
				counts[layout.End{Kind: a.Kind, LengthMm: a.SecondMm}] += .5
				continue
			}
			counts[layout.End{Kind: a.Kind, LengthMm: a.LengthMm}]++
		}
	}
	for _, a := range sortedBy(counts, func(a layout.End) string { return fmt.Sprintf("%s %6.1f", a.Kind, a.LengthMm) }) {
		n := counts[a] + 1
		if a.Kind == layout.Crossed {
			n *= 2
		}
		k.add(Item{Key: fmt.Sprintf("%s %.0f", a.Kind, a.LengthMm), Group: Anchors, What: string(a.Kind), Count: n, LengthMm: a.LengthMm})
	}
}

// sortedBy lists the keys of a count in the order of a text.
func sortedBy[K comparable](counts map[K]float64, text func(K) string) []K {
	var keys []K
	for k := range counts {
		keys = append(keys, k)
	}
	slices.SortFunc(keys, func(a, b K) int { return cmp.Compare(text(a), text(b)) })
	return keys
}

// rains tells whether so much rain is expected that covers will cake.
func (o Outside) rains() bool { return o.RainMm != nil && *o.RainMm >= rainyMm }

// bedding fills and covers the beds of what is built and remade, and dries the covers of what stands where it rains.
func (k *packing) bedding(o Outside) error {
	litres := map[pan.Material]float64{}
	fill := func(l layout.Layout, times float64) error {
		for _, rig := range l.Rigs {
			takes, err := l.Litres(rig)
			if err != nil {
				return err
			}
			for material, amount := range takes {
				litres[material] += amount * times
			}
		}
		return nil
	}
	for _, l := range k.layouts() {
		if l.Check() != nil {
			continue // a design that cannot be built yet says so on the bench
		}
		if err := fill(l, 1); err != nil {
			return err
		}
	}
	standing := k.standing()
	for _, l := range standing {
		if err := fill(l, float64(k.plan.Expect)/float64(len(standing))); err != nil {
			return err
		}
	}
	if o.rains() {
		litres[pan.Peat] += dryL * float64(k.plan.Looks)
	}
	for _, material := range sortedBy(litres, func(m pan.Material) string { return string(m) }) {
		if kg, carried := kgPerL[material]; carried {
			l := math.Ceil(2*litres[material]) / 2
			k.add(Item{Key: string(material), Group: Bedding, What: string(material), Count: 1, Litres: l, Kg: l * kg})
		}
	}
	return nil
}

// panCovers fit inside the jaws of the traps that are built and remade; what lies under a pan is cut to it.
func (k *packing) panCovers() {
	type piece struct {
		what string
		mm   float64
	}
	counts := map[piece]float64{}
	cut := func(l layout.Layout) {
		for _, rig := range l.Rigs {
			if rig.Jaws == nil || rig.Pan == nil {
				continue
			}
			counts[piece{cmp.Or(string(rig.Over), "pan_cover"), rig.JawsMm() - panCoverMm}]++
			if rig.Under != "" {
				counts[piece{string(rig.Under), rig.Pan.DiameterMm}]++
			}
		}
	}
	for _, l := range k.layouts() {
		cut(l)
	}
	if jaws := commonJaws(k.standing()); jaws > 0 && k.plan.Expect > 0 {
		counts[piece{"pan_cover", jaws - panCoverMm}] += float64(k.plan.Expect)
	}
	for _, of := range sortedBy(counts, func(of piece) string { return fmt.Sprintf("%6.1f %s", of.mm, of.what) }) {
		key := fmt.Sprintf("%s %.0f", of.what, of.mm)
		if of.what == "pan_cover" {
			key = fmt.Sprintf("pan cover %.0f", of.mm+panCoverMm)
		}
		k.add(Item{Key: key, Group: PanCovers, What: of.what, Count: counts[of], LengthMm: of.mm})
	}
}

// smells takes a dose of everything for a set to build; for a remake of the bait alone, since the catch's smell does the rest, or of
// everything, as its trapper goes by.
func (k *packing) smells(o Outside) {
	doses := map[smell]float64{}
	take := func(of []layout.Smell, times float64) {
		for _, s := range of {
			switch {
			case s.LureID != "":
				doses[smell{id: s.LureID}] += times
			case s.Name != "":
				doses[smell{name: s.Name}] += times
			}
		}
	}
	for _, d := range k.plan.Builds {
		take(d.Layout.Smells(), 1)
	}
	for _, m := range k.plan.Waiting {
		take(k.renewed(m.Layout), 1)
	}
	standing := k.standing()
	for _, l := range standing {
		take(k.renewed(l), float64(k.plan.Expect)/float64(len(standing)))
	}
	shelf := Shelf(k.Poured, o.ColdestC)
	for _, s := range sortedBy(doses, func(s smell) string { return s.name + s.id }) {
		x := Item{Key: "smell " + cmp.Or(s.id, s.name), Group: Smells, What: s.name, Count: math.Ceil(doses[s] - 1e-9)}
		i := slices.IndexFunc(shelf, func(f OnShelf) bool { return f.Lure.ID == s.id })
		if i < 0 {
			x.Lack = NotOn
		} else {
			x.What, x.Have = shelf[i].Lure.Name, float64(shelf[i].DosesLeft)
			x.Lack = lacks(shelf[i], x.Count)
		}
		if x.Count > 0 {
			k.add(x)
		}
	}
}

// bags keep apart what smells of one kind and of another.
var bags = []struct {
	key string
	of  func(layout.Smell) bool
}{
	{"bait_bag", layout.Smell.IsBait},
	{"lure_bag", func(s layout.Smell) bool { return !s.IsBait() && s.Kind != layout.Urine && s.Kind != layout.Scat }},
	{"urine_bag", func(s layout.Smell) bool { return s.Kind == layout.Urine }},
}

// parts are the small things that the parts of the sets ask for, and the bags for what smells.
func (k *packing) parts(o Outside) {
	counts, smells := map[string]float64{}, []layout.Smell{}
	for _, d := range k.plan.Builds {
		for what, n := range partsOf(d.Layout) {
			counts[what] += n
		}
		smells = append(smells, d.Layout.Smells()...)
	}
	for _, m := range k.plan.Waiting {
		smells = append(smells, k.renewed(m.Layout)...)
	}
	for _, s := range smells {
		if what := carriedOn[s.Carrier]; what != "" {
			counts[what]++
		}
	}
	if o.rains() && o.ColdestC != nil && *o.ColdestC < 0 {
		counts["salt"] = 1 // what was wet freezes
	}
	for _, what := range slices.Sorted(maps.Keys(counts)) {
		k.add(Item{Key: what, Group: Parts, What: what, Count: counts[what]})
	}
	for _, bag := range bags {
		if slices.ContainsFunc(smells, bag.of) {
			k.add(Item{Key: bag.key, Group: Parts, What: bag.key, Count: 1})
		}
	}
}

// carriedOn is what a smell is carried on that is taken along.
var carriedOn = map[layout.Carrier]string{"swab": "swab", "wool": "wool", "stick": "lure_stick"}

// partsOf is what a set takes that is found neither on the rack nor at the spot.
func partsOf(l layout.Layout) map[string]float64 {
	found := map[string]float64{}
	for _, a := range l.Attractors {
		if a.Fixed && a.Kind == "object" {
			found["spike"]++
		}
		if a.Of == "stick" || a.Of == "rag" || a.Of == "pipe" {
			found[a.Of]++
		}
		if a.Wrap != "" {
			found["wrap_"+string(a.Wrap)]++
		}
		if a.Plug == "wool" {
			found["wool"]++
		}
	}
	if l.Kind == "spring" {
		found["moss"] += float64(len(l.Rigs))
	}
	return found
}

// renewed is what of a set's smells a remake takes anew.
func (k *packing) renewed(l layout.Layout) []layout.Smell {
	if k.Schools.Renew == "everything" {
		return l.Smells()
	}
	return slices.DeleteFunc(l.Smells(), func(s layout.Smell) bool { return !s.IsBait() })
}

// smell is a lure of the shelf by its id, or one that is not on it by its name.
type smell struct{ name, id string }

func lacks(f OnShelf, doses float64) Lack {
	if float64(f.DosesLeft) < doses {
		return TooFew
	}
	if slices.ContainsFunc(f.Bottles, func(b Stock) bool { return b.Ices }) {
		return WouldIce
	}
	return ""
}

// tools are what the hands need, what has to be charged, and what is lost or broken first.
func (k *packing) tools(o Outside) {
	take := func(group Group, keys ...string) {
		for _, key := range keys {
			k.add(Item{Key: key, Group: group, What: key, Count: 1})
		}
	}
	digs := len(k.plan.Builds)+k.plan.remakes() > 0
	drives := slices.ContainsFunc(k.plan.Builds, func(d line.Design) bool { return d.Layout.Drives() })
	if k.plan.Looks > 0 {
		take(Tools, "field_glass", "setters")
	}
	if digs {
		take(Tools, "trowel")
		if slices.ContainsFunc(slices.Concat(k.layouts(), k.standing()), holed) {
			take(Tools, "hole_bar")
		}
		take(Tools, "sifter", "mat", "gauge", "clippers", "pliers")
	}
	if o.rains() || slices.ContainsFunc(slices.Concat(k.layouts(), k.standing()), layout.Layout.OnFooting) {
		take(Tools, "bailer")
	}
	if o.underfoot().Snow {
		take(Tools, "broom", "scraper")
	}
	if drives || slices.ContainsFunc(k.plan.Builds, func(d line.Design) bool { return stapled(d.Layout) }) {
		take(Tools, "hammer")
	}
	if drives {
		take(Tools, "driver")
	}
	if digs && o.underfoot().Frozen {
		take(Tools, "mattock", "eye_protection")
	}
	take(Batteries, "headlamp", "phone")
	if o.GPS {
		take(Batteries, "receiver")
	}
	if drives && o.FrostMm >= drillMm {
		take(Batteries, "drill")
	}
	take(Spares, "clean_gloves", "lure_gloves")
	if drives {
		take(Spares, "driver_nut")
	}
	if digs {
		take(Spares, "swivel_and_link", "applicators")
	}
}

func holed(l layout.Layout) bool {
	return slices.ContainsFunc(l.Attractors, func(a layout.Attractor) bool { return a.Hole != nil })
}

func stapled(l layout.Layout) bool {
	return slices.ContainsFunc(l.Anchors, func(a layout.Anchor) bool { return a.Kind == layout.Staple })
}

// fetch lists what was frozen in where it was pulled and can come out.
func (k *packing) fetch(o Outside) {
	for _, x := range o.Thawed {
		if x.Trap == line.TrapFrozenIn {
			k.add(Item{Key: fmt.Sprintf("fetch trap %d of %s", x.Slot+1, x.MakeID), Group: Fetch, What: "trap", Count: 1, TrapID: x.TrapID, SpotID: x.SpotID})
		}
		if x.Anchor == line.AnchorFrozen {
			k.add(Item{Key: fmt.Sprintf("fetch anchor %d of %s", x.Slot+1, x.MakeID), Group: Fetch, What: string(x.Kind), Count: 1, SpotID: x.SpotID, LengthMm: x.LengthMm})
		}
	}
}

// own are the things that the user always takes: those whose newest word, up to that day, is that they are.
func (k *packing) own(marks []line.KitMark, day string) {
	on := map[string]bool{}
	for _, m := range marks {
		if m.Mark == "own" && m.Day <= day {
			on[m.Key] = m.On
		}
	}
	for _, key := range slices.Sorted(maps.Keys(on)) {
		if on[key] {
			k.add(Item{Key: key, Group: Own, What: key, Count: 1})
		}
	}
}
