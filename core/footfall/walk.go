package footfall

import (
	"math"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/pan"
)

// foot is where a foot came down.
type foot struct {
	x, y float64
	hind bool
	dry  bool // on a dry footing, which takes more of the weight
	own  bool // it stands as the animal's reach and step say
}

// Figures of the gait at a set, mm unless said.
const (
	farthestMm   = 900.0 // walking in is drawn from here
	turnDeg      = 18.0  // turn between re-placings
	strayMm      = 450.0 // stray prints lie in a disc of this radius ...
	strayYMm     = 150.0 // ... about this point on the axis
	markDeg      = 35.0
	trailEndMm   = 1200.0
	shortStep    = 0.30 // a stick within this share of a step is stepped over
	overStick    = 0.20 // and how much farther the foot may land
	hindShare    = 0.75 // of a fore foot's share of body weight
	toeReach     = 0.35 // of the pad's radius beyond the pan: the toes still hold it
	looseBedMm   = 10.0 // a loose bed gives this far outside the jaws
	spookChance  = 0.8
	recessMm     = 5.0 // a pan this low draws a foot ...
	recessNearMm = 120.0
	trenchMm     = 300.0 // a trench narrower than this gathers feet toward its middle
	noseShare    = 0.2   // of the height of what is smelt: how much farther off the forefeet stand
	dryChance    = 0.8   // that a visit uses the dry footing
	dryShare     = 0.70  // mean share of body weight on a foot that does
)

// walker draws visits of one animal to one set.
type walker struct {
	animal  animal.Animal
	in      Input
	noWork  float64 // chance of no re-placing, and of no stray print: what poisson draws by
	noRoam  float64
	reach   animal.Spread
	rng     stream // the feet
	fate    stream // what comes of them
	dry     bool   // this visit's feet use the dry footing
	feet    []foot
	placed  []foot // the same on the set's plan
	traps   []trap
	guides  []Guide // as far as this animal's feet keep from their centres
	sticks  []float64
	against []float64 // the sticks as met when walking the other way
}

// trap is a pan as this animal's feet meet it: distances from its centre, mm, squared.
type trap struct {
	pan      int // of the input's
	x, y     float64
	on2      float64 // within which the centre of a foot bears on the pan
	pad2     float64 // within which its pad does
	loose2   float64 // within which it feels the bed give; 0 for a firm bed
	tensionN float64
}

func (in Input) trap(p Pan, a animal.Animal) trap {
	jaws, firm := in.JawSpreadMm, in.Firm
	t := trap{x: p.XMm, y: p.YMm, pad2: p.DiameterMm * p.DiameterMm / 4, tensionN: in.TensionN}
	if p.JawSpreadMm != nil {
		jaws = *p.JawSpreadMm
	}
	if p.TensionN != nil {
		t.tensionN = *p.TensionN
	}
	if p.Firm != nil {
		firm = *p.Firm
	}
	on, bed := onMm(p, a), jaws/2+looseBedMm
	t.on2 = on * on
	if !firm {
		t.loose2 = bed * bed
	}
	return t
}

// onMm is how far from a pan's centre the centre of a foot still bears on it.
func onMm(p Pan, a animal.Animal) float64 { return p.DiameterMm/2 + toeReach*a.PadRadiusMm() }

func newWalker(a animal.Animal, in Input) *walker {
	work := a.Work
	if in.Work != nil {
		work = *in.Work
	}
	w := &walker{animal: a, in: in, noWork: math.Exp(-work), noRoam: math.Exp(-a.Roam), reach: a.Reach, feet: make([]foot, 0, 64)}
	w.reach.Mean += noseShare * math.Min(in.NoseMm, a.ShoulderMm)
	for i, p := range in.Pans {
		met := in.trap(p, a)
		met.pan = i
		w.traps = append(w.traps, met)
	}
	for _, g := range in.Guides {
		w.guides = append(w.guides, Guide{g.XMm, g.YMm, g.RMm + a.PadRadiusMm()})
	}
	for _, s := range in.SticksMm {
		w.sticks = append(w.sticks, s)
		w.against = append(w.against, -s)
	}
	slices.Sort(w.sticks)
	slices.Sort(w.against)
	return w
}

// fateStream keeps the streams of the outcomes apart from those of the feet.
const fateStream = 1 << 63

// block draws the visits of one block and adds what they came to.
func (w *walker) block(number, visits int, sum *count) {
	w.rng.Seed(w.in.Seed, uint64(number))
	for visit := range visits {
		w.fate.Seed(w.in.Seed, fateStream|uint64(number*BlockVisits+visit))
		w.draw()
		if sum.cells != nil {
			sum.cells.visit(w.onPlan(), onMm(w.in.Pans[0], w.animal))
		}
		w.outcome(sum)
	}
	if sum.cells != nil {
		sum.cells.flush()
	}
}

// draw draws the feet of one visit.
func (w *walker) draw() {
	w.feet = w.feet[:0]
	if w.in.Approach == Pass {
		w.pass()
	} else {
		w.stand()
	}
}

// onPlan is where the visit's feet lie on the set's plan.
func (w *walker) onPlan() []foot {
	if w.in.Axes == (Axes{}) {
		return w.feet
	}
	w.placed = w.placed[:0]
	for _, f := range w.feet {
		f.x, f.y = w.in.Axes.At(f.x, f.y)
		w.placed = append(w.placed, f)
	}
	return w.placed
}

// stand draws the feet of an animal that walks in, stands at the attractor, works it, strays about and may mark it.
func (w *walker) stand() {
	a := &w.animal
	theta := w.rng.normal(animal.Spread{SD: radians(w.in.SpreadDeg)})
	sin, cos := sincos(theta)
	lead := -1.0
	if w.rng.uniform() < w.in.LeadRight {
		lead = 1
	}

	w.dry = len(w.in.Dry) > 0 && w.rng.uniform() < dryChance
	if len(w.in.Dry) == 0 {
		w.walkIn(lead, sin, cos)
	}

	w.place(w.rng.normal(w.reach), lead*w.rng.normal(a.Half), sin, cos)
	w.isOwn()
	behind := math.Max(0, w.rng.normal(animal.Spread{Mean: .10, SD: .045})*a.ShoulderMm)
	w.place(w.rng.normal(w.reach)+behind, -lead*w.rng.normal(a.Half), sin, cos)

	for range w.rng.poisson(w.noWork) {
		theta += w.rng.normal(animal.Spread{SD: radians(turnDeg)})
		sin, cos = sincos(theta)
		w.place(w.rng.normal(w.reach), w.rng.side()*w.rng.normal(a.Half), sin, cos)
		w.isOwn()
	}
	w.dry = false
	for range w.rng.poisson(w.noRoam) {
		r, turn := strayMm*math.Sqrt(w.rng.uniform()), 2*math.Pi*w.rng.uniform()
		sin, cos := sincos(turn)
		w.settle(foot{x: r * sin, y: strayYMm + r*cos})
	}
	if w.in.Marks && w.rng.uniform() < a.MarkChance {
		sin, cos := sincos(w.rng.normal(animal.Spread{SD: radians(markDeg)}))
		d := w.rng.normal(a.Mark)
		w.settle(foot{x: d * sin, y: d * cos, hind: true})
	}
}

// isOwn marks the foot that came down last.
func (w *walker) isOwn() { w.feet[len(w.feet)-1].own = true }

// walkIn draws the forefeet of the last steps toward the attractor, the farthest first.
func (w *walker) walkIn(lead, sin, cos float64) {
	a := &w.animal
	var at [64]float64
	n := 0
	for d := w.rng.normal(w.reach) + w.rng.normal(a.Step); d <= farthestMm && n < len(at); d += w.rng.normal(a.Step) {
		at[n] = d
		n++
	}
	for i := n - 1; i >= 0; i-- {
		side := -lead
		if i%2 == 1 {
			side = lead
		}
		w.place(at[i], side*w.rng.normal(a.Track), sin, cos)
	}
}

// place puts a forefoot at distance d along the approach line and across to its right, or on the dry footing nearest to there.
func (w *walker) place(d, across, sin, cos float64) {
	f := foot{x: across*cos + d*sin, y: d*cos - across*sin}
	if !w.dry {
		w.settle(f)
		return
	}
	nearest := w.in.Dry[0]
	for _, g := range w.in.Dry[1:] {
		if math.Hypot(f.x-g.XMm, f.y-g.YMm) < math.Hypot(f.x-nearest.XMm, f.y-nearest.YMm) {
			nearest = g
		}
	}
	about := animal.Spread{SD: nearest.RMm / 3}
	w.feet = append(w.feet, foot{x: nearest.XMm + w.rng.normal(about), y: nearest.YMm + w.rng.normal(about), dry: true})
}

// settle moves a foot that cannot land where it would: into the trench, then off each guide in turn.
func (w *walker) settle(f foot) {
	if c := w.in.ConfineMm; c > 0 {
		lim := math.Max(0, c/2-w.animal.PadRadiusMm())
		f.x = clamp(math.Min(1, c/trenchMm)*f.x, lim)
	}
	for _, g := range w.guides {
		dx, dy := f.x-g.XMm, f.y-g.YMm
		d2 := dx*dx + dy*dy
		if d2 >= g.RMm*g.RMm {
			continue
		}
		if d2 == 0 {
			f.y = g.YMm + g.RMm
			continue
		}
		out := g.RMm / math.Sqrt(d2)
		f.x, f.y = g.XMm+dx*out, g.YMm+dy*out
	}
	w.feet = append(w.feet, f)
}

// pass draws the feet of an animal that walks the length of the trail, either way.
func (w *walker) pass() {
	a := &w.animal
	lim := math.Max(0, w.in.TrailWidthMm/2-a.Track.Mean)
	line := clamp(w.rng.normal(animal.Spread{SD: math.Max(10, lim/2)}), lim)
	way, sticks := 1.0, w.sticks
	if w.rng.uniform() < .5 {
		way, sticks = -1, w.against
	}
	near, half := shortStep*a.Step.Mean, w.in.StickHalfMm
	x := -trailEndMm - w.rng.uniform()*2*a.Step.Mean
	for side := w.rng.side(); ; side = -side {
		x += w.rng.normal(a.Step)
		if x > trailEndMm {
			return
		}
		for _, s := range sticks {
			if math.Abs(x-s) < near+half {
				x = s + half + near + w.rng.uniform()*overStick*a.Step.Mean
				break
			}
		}
		y := line + side*w.rng.normal(a.Track)
		w.feet = append(w.feet,
			foot{x: way * x, y: y, own: true},
			foot{x: way * (x + w.rng.normal(animal.Spread{SD: 25})), y: y + w.rng.normal(animal.Spread{SD: 15}), hind: true})
	}
}

// outcome walks through the feet in order until one fires a pan or frightens the animal off.
func (w *walker) outcome(sum *count) {
	sum.visits++
	mass := w.mass()
	stepped := false
	for _, f := range w.feet {
		f = w.drawn(f)
		met, pad, loose := w.meets(f)
		if met != nil {
			if !stepped {
				stepped = true
				sum.step++
			}
			if w.fires(f, pad, mass, met.tensionN) {
				sum.fire++
				sum.byPan[met.pan]++
				if pad {
					sum.pad++
				}
				return
			}
		} else if loose && w.fate.uniform() < spookChance {
			sum.spooked++
			return
		}
	}
}

// meets gives the trap whose pan the foot is on, if it is: of two the one that it is on with its pad, else the nearer. And whether it is on
// the loose bed of one.
func (w *walker) meets(f foot) (met *trap, pad, loose bool) {
	var met2 float64
	for i := range w.traps {
		t := &w.traps[i]
		dx, dy := f.x-t.x, f.y-t.y
		d2 := dx*dx + dy*dy
		if d2 <= t.on2 {
			if onPad := d2 <= t.pad2; met == nil || onPad && !pad || onPad == pad && d2 < met2 {
				met, pad, met2 = t, onPad, d2
			}
		}
		loose = loose || d2 <= t.loose2
	}
	return met, pad, loose
}

// drawn moves a foot toward the nearest pan that lies low.
func (w *walker) drawn(f foot) foot {
	if w.in.RecessMm < recessMm {
		return f
	}
	nearest := w.in.Pans[0]
	for _, p := range w.in.Pans[1:] {
		if math.Hypot(f.x-p.XMm, f.y-p.YMm) < math.Hypot(f.x-nearest.XMm, f.y-nearest.YMm) {
			nearest = p
		}
	}
	if math.Hypot(f.x-nearest.XMm, f.y-nearest.YMm) <= recessNearMm {
		f.x += w.animal.Recess * (nearest.XMm - f.x)
		f.y += w.animal.Recess * (nearest.YMm - f.y)
	}
	return f
}

// fires tells whether a foot on a pan presses it hard enough, by its share of the animal's weight.
func (w *walker) fires(f foot, pad bool, mass, tensionN float64) bool {
	mean := w.animal.Fore
	if f.dry {
		mean = dryShare
	}
	share := 0.0
	for share < pan.LeastShare || share > pan.MostShare {
		share = w.fate.normal(animal.Spread{Mean: mean, SD: animal.ShareSD})
	}
	if f.hind {
		share *= hindShare
	}
	if !pad {
		share *= w.in.ToeForce
	}
	return mass*pan.Gravity*share > tensionN
}

func (w *walker) mass() float64 {
	for {
		if m := w.fate.normal(w.animal.MassKg); m >= animal.SmallestShare*w.animal.MassKg.Mean {
			return m
		}
	}
}

func clamp(v, lim float64) float64 { return math.Max(-lim, math.Min(lim, v)) }
