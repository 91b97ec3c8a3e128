// Package footfall simulates where the feet of an animal fall at a set, and from that how often a foot comes onto a pan,
// fires it, how it is then held, and how often a loose bed frightens the animal off. Lengths in mm, angles in degrees,
// tension in newtons.
//
// The attractor is the origin; y runs from it toward the approaching animal (setback), x to the right of an animal that
// faces it (offset). When an animal passes along a trail, x runs along the trail and y across it.
//
// Visits are simulated in blocks of 500, block b drawing its feet from PCG(seed, b), and only whole numbers are summed: the
// same seed gives the same answer on any number of cores. What comes of the feet (weight, spook) is drawn from a stream of its
// own, begun anew for each visit, so that a moved pan meets the very same feet of the very same animal.
package footfall

import (
	"cmp"
	"fmt"
	"math"
	"runtime"
	"sync"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

// Approaches: the animal comes to an attractor and works it, or walks by along a trail.
const (
	Stand = "stand"
	Pass  = "pass"
)

// How far the direction of approach spreads about the facing axis (sd, degrees), by what stands behind the attractor.
const (
	PinchedDeg = 10.0
	SolidDeg   = 20.0
	SomeDeg    = 35.0
	OpenDeg    = 70.0
)

// Pan is a pan's centre and diameter. Where two traps differ, each says its own jaws, tension and firmness of its bed; nil is what
// the input says for all.
type Pan struct {
	XMm         float64  `json:"xMm"`
	YMm         float64  `json:"yMm"`
	DiameterMm  float64  `json:"diameterMm"`
	JawSpreadMm *float64 `json:"jawSpreadMm,omitempty"`
	TensionN    *float64 `json:"tensionN,omitempty"`
	Firm        *bool    `json:"firm,omitempty"`
}

// Guide is a stone, clod or stick that no foot comes down on, or a dry footing that feet are drawn to: its centre and radius.
type Guide struct {
	XMm float64 `json:"xMm"`
	YMm float64 `json:"yMm"`
	RMm float64 `json:"rMm"`
}

// Input describes the set and how many visits to draw. Begin with Defaults. TensionN is the effective tension,
// cover included; a toe presses with ToeForce of what a pad would. Work nil means the animal's own. NoseMm is the height of
// what is smelt; Dry are the footings that an animal is forced to use, as a stone or moss in water; StickHalfMm is half the
// thickness of a stick or log across the trail.
type Input struct {
	Approach    string  `json:"approach"`
	Pans        []Pan   `json:"pans"`
	JawSpreadMm float64 `json:"jawSpreadMm,omitempty"`
	Firm        bool    `json:"firm,omitempty"`
	TensionN    float64 `json:"tensionN,omitempty"`
	RecessMm    float64 `json:"recessMm,omitempty"`
	ToeForce    float64 `json:"toeForce,omitempty"`
	Visits      int     `json:"visits,omitempty"`
	Seed        uint64  `json:"seed,omitempty"`
	Map         bool    `json:"map,omitempty"`

	// For an animal that stands at the attractor.
	SpreadDeg float64  `json:"spreadDeg,omitempty"`
	Work      *float64 `json:"work,omitempty"`
	LeadRight float64  `json:"leadRight,omitempty"`
	ConfineMm float64  `json:"confineMm,omitempty"`
	Marks     bool     `json:"marks,omitempty"`
	Guides    []Guide  `json:"guides,omitempty"`
	NoseMm    float64  `json:"noseMm,omitempty"`
	Dry       []Guide  `json:"dry,omitempty"`

	// For an animal that passes along a trail.
	TrailWidthMm float64   `json:"trailWidthMm,omitempty"`
	SticksMm     []float64 `json:"sticksMm,omitempty"`
	StickHalfMm  float64   `json:"stickHalfMm,omitempty"`

	// Where the approach lies on the set's plan, and the grid of the map there: that of an approach, blank for its own.
	Axes Axes   `json:"-"`
	Grid string `json:"-"`
}

// Axes are those that an approach is given in, on the set's plan: their origin, and how far they turn from the plan's +y toward its
// +x.
type Axes struct {
	XMm, YMm  float64
	FacingDeg float64
}

// On gives a point of the plan in these axes.
func (a Axes) On(xMm, yMm float64) (x, y float64) {
	sin, cos := math.Sincos(radians(a.FacingDeg))
	dx, dy := xMm-a.XMm, yMm-a.YMm
	return dx*cos - dy*sin, dx*sin + dy*cos
}

// At gives a point of these axes on the plan.
func (a Axes) At(xMm, yMm float64) (x, y float64) {
	sin, cos := math.Sincos(radians(a.FacingDeg))
	return a.XMm + xMm*cos + yMm*sin, a.YMm + yMm*cos - xMm*sin
}

// Defaults is the input that holds where nothing is said.
func Defaults() Input {
	return Input{JawSpreadMm: 140, Firm: true, Visits: 20000, Seed: 1, SpreadDeg: SomeDeg, LeadRight: 0.5, ToeForce: 1}
}

// Output is what happens in one visit: the chance of some foot on a pan, of firing it, the share of pad (not toe) holds
// among those fired, and the chance that a loose bed sends the animal off.
type Output struct {
	Step     float64 `json:"step"`
	Fire     float64 `json:"fire"`
	PadShare float64 `json:"padShare"`
	Spooked  float64 `json:"spooked"`
	Map      *Map    `json:"map,omitempty"`
	Best     *Best   `json:"best,omitempty"`
	Blocks   []Block `json:"-"` // in their order
	ByPan    []int   `json:"-"` // how many visits fired each pan
}

// Block is how many visits of one block fired a pan, and how many of them with the pad. Two sets that are met by the same seed are compared
// block by block: what both have of luck falls out.
type Block struct{ Visits, Fire, Pad int }

const (
	// BlockVisits is how many visits make a block.
	BlockVisits = 500
	mostVisits  = 2_000_000
)

// Simulate draws in.Visits visits of an animal and counts. It refuses by name what is missing or physically impossible.
func Simulate(a animal.Animal, in Input) (Output, error) {
	if err := in.check(); err != nil {
		return Output{}, err
	}
	total := newCount(in)
	blocks := make([]Block, (in.Visits+BlockVisits-1)/BlockVisits)
	var lock sync.Mutex
	var workers sync.WaitGroup
	cores := min(runtime.GOMAXPROCS(0), len(blocks))
	for w := range cores {
		workers.Go(func() {
			mine := newCount(in)
			walk := newWalker(a, in)
			for b := w; b < len(blocks); b += cores {
				before := *mine
				walk.block(b, min(BlockVisits, in.Visits-b*BlockVisits), mine)
				blocks[b] = Block{mine.visits - before.visits, mine.fire - before.fire, mine.pad - before.pad}
			}
			lock.Lock()
			defer lock.Unlock()
			total.add(mine)
		})
	}
	workers.Wait()
	out := total.output(in)
	out.Blocks = blocks
	return out, nil
}

func (in Input) check() error {
	var p refuse.Problems
	refuse.OneOf(&p, "approach", in.Approach, []string{Stand, Pass})
	if len(in.Pans) == 0 {
		p.Add("pans", "is missing: give at least one pan")
	}
	for i, pan := range in.Pans {
		p.Within(fmt.Sprintf("pans[%d].xMm", i), pan.XMm, -5000, 5000, " mm")
		p.Within(fmt.Sprintf("pans[%d].yMm", i), pan.YMm, -5000, 5000, " mm")
		p.Within(fmt.Sprintf("pans[%d].diameterMm", i), pan.DiameterMm, 1, 500, " mm")
		if pan.JawSpreadMm != nil {
			p.Within(fmt.Sprintf("pans[%d].jawSpreadMm", i), *pan.JawSpreadMm, 1, 1000, " mm")
		}
		if pan.TensionN != nil {
			p.Within(fmt.Sprintf("pans[%d].tensionN", i), *pan.TensionN, 0, 10000, " N")
		}
	}
	checkDiscs(&p, "guides", in.Guides)
	checkDiscs(&p, "dry", in.Dry)
	for i, s := range in.SticksMm {
		p.Within(fmt.Sprintf("sticksMm[%d]", i), s, -5000, 5000, " mm")
	}
	p.Within("jawSpreadMm", in.JawSpreadMm, 1, 1000, " mm")
	p.Within("tensionN", in.TensionN, 0, 10000, " N")
	p.Within("recessMm", in.RecessMm, 0, 200, " mm")
	p.Within("toeForce", in.ToeForce, 0, 1, "")
	p.Within("visits", float64(in.Visits), 1, mostVisits, "")
	if in.Approach == Pass {
		p.Within("trailWidthMm", in.TrailWidthMm, 1, 20000, " mm")
		p.Within("stickHalfMm", in.StickHalfMm, 0, 1000, " mm")
		return p.Err()
	}
	p.Within("spreadDeg", in.SpreadDeg, 0, 180, "°")
	p.Within("leadRight", in.LeadRight, 0, 1, "")
	p.Within("confineMm", in.ConfineMm, 0, 5000, " mm")
	p.Within("noseMm", in.NoseMm, 0, 3000, " mm")
	if in.Work != nil {
		p.Within("work", *in.Work, 0, 100, "")
	}
	return p.Err()
}

func checkDiscs(p *refuse.Problems, field string, discs []Guide) {
	for i, g := range discs {
		p.Within(fmt.Sprintf("%s[%d].xMm", field, i), g.XMm, -5000, 5000, " mm")
		p.Within(fmt.Sprintf("%s[%d].yMm", field, i), g.YMm, -5000, 5000, " mm")
		p.Within(fmt.Sprintf("%s[%d].rMm", field, i), g.RMm, 0, 1000, " mm")
	}
}

// count is what a number of visits came to, in whole numbers only.
type count struct {
	visits, step, fire, pad, spooked int
	byPan                            []int
	cells                            *cells
}

func newCount(in Input) *count {
	c := &count{byPan: make([]int, len(in.Pans))}
	if in.Map {
		c.cells = newCells(cmp.Or(in.Grid, in.Approach))
	}
	return c
}

func (c *count) add(other *count) {
	c.visits += other.visits
	c.step += other.step
	c.fire += other.fire
	c.pad += other.pad
	c.spooked += other.spooked
	for i, n := range other.byPan {
		c.byPan[i] += n
	}
	if c.cells != nil {
		c.cells.add(other.cells)
	}
}

func (c *count) output(in Input) Output {
	share := func(n int) float64 { return float64(n) / float64(c.visits) }
	out := Output{Step: share(c.step), Fire: share(c.fire), Spooked: share(c.spooked), ByPan: c.byPan}
	if c.fire > 0 {
		out.PadShare = float64(c.pad) / float64(c.fire)
	}
	if in.Map {
		out.Map = c.cells.chance(c.visits)
		best := out.Map.Best()
		out.Best = &best
	}
	return out
}

func radians(deg float64) float64 { return deg * math.Pi / 180 }
