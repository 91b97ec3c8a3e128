package odds

import (
	"context"
	"math"
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/refuse"
)

// BestPlaces is the best that was found for the places of a set's pans, sticks and stones. The gain over the set as it was is told from fresh
// feet, which the search never met; Better is false where it does not pass its error, and the set then is the one that was.
type BestPlaces struct {
	Layout layout.Layout `json:"layout"`
	Better bool          `json:"better"`
	Per100 float64       `json:"per100"` // caught in 100 set-nights then
	Gain   float64       `json:"gain"`
	Error  float64       `json:"error"`
	Tried  int           `json:"tried"` // designs
}

// How the search goes about it.
const (
	searchVisits = 2000
	searchSeed   = 104729
	mostTried    = 700
	freshVisits  = 100000
	freshSeed    = 1299709
	farthestMm   = 200.0 // that a part is moved
	lastStep     = .125  // inches
)

// firstSteps are with which steps it begins, inches: by long ones it comes across what lies between.
var firstSteps = []float64{2, 4}

// number is one of a set that the search may change, as it stands there: of a rig's pan, or of a guide where that is not below 0.
type number struct {
	rig, guide int
	y          bool
	is         float64
}

// FindBest searches for better places of the pans, of the sticks across the way and of the stones that steer the feet, by
// Hooke and Jeeves's pattern search on one set of feet. It is bounded, and the same question always finds the same. Progress is told how many
// of how many designs were tried. It asks for circumstances; a context that ends ends it.
func FindBest(ctx context.Context, q Question, progress func(tried, of int)) (BestPlaces, error) {
	h, err := newHelper(ctx, q.overTheNightsLeft())
	if err != nil {
		return BestPlaces{}, err
	}
	if h == nil {
		return BestPlaces{}, noFeet()
	}
	s := search{ended: func() bool { return ctx.Err() != nil }, held: func(by []float64) float64 {
		l := movedBy(q.Layout, by)
		if outside(by) > 0 || l.Check() != nil {
			return -1 // less than any set is worth
		}
		feet, err := feetOf(Question{Layout: firmed(l), Target: q.Target, Visits: searchVisits, Seed: searchSeed})
		if err != nil {
			return -1
		}
		return feet.held.mean()
	}, progress: progress}
	by := s.best(make([]float64, len(numbersOf(q.Layout))))
	if err := ctx.Err(); err != nil {
		return BestPlaces{}, err
	}
	return h.judged(movedBy(q.Layout, by), s.tried)
}

// search tries designs, each by how far it moves every number.
type search struct {
	ended    func() bool
	held     func(by []float64) float64
	progress func(tried, of int)
	tried    int
}

// best is the best that is found from a design on.
func (s *search) best(begin []float64) (found []float64) {
	most := math.Inf(-1)
	for _, step := range firstSteps {
		if by, is := s.from(begin, step); is > most {
			found, most = by, is
		}
	}
	return found
}

// from goes from one design to better ones: each number is moved by a step either way, and where that helped, all of them once more the way they came;
// where nothing helps the step is halved.
func (s *search) from(best []float64, step float64) ([]float64, float64) {
	is := s.tries(best)
	for step >= lastStep && s.tried < mostTried {
		next, then := s.about(best, is, step)
		if then <= is {
			step /= 2
			continue
		}
		for then > is && s.tried < mostTried { // on, the way it came
			on := make([]float64, len(next))
			for i := range on {
				on[i] = 2*next[i] - best[i]
			}
			best, is = next, then
			next, then = s.about(on, s.tries(on), step)
		}
	}
	return best, is
}

// about is the best that is found by moving one number after the other.
func (s *search) about(at []float64, is, step float64) ([]float64, float64) {
	at = slices.Clone(at)
	for i := range at {
		for _, by := range []float64{step, -2 * step} {
			at[i] += by
			if then := s.tries(at); then > is {
				is = then
				break
			}
			if by < 0 {
				at[i] += step // back where it was
			}
		}
	}
	return at, is
}

func (s *search) tries(by []float64) float64 {
	if s.ended() {
		s.tried = mostTried
		return -1
	}
	s.tried++
	s.progress(min(s.tried, mostTried), mostTried)
	return s.held(by)
}

// judged tells what a design is worth beside the one that was, by fresh feet.
func (h *helper) judged(l layout.Layout, tried int) (BestPlaces, error) {
	asked := h.q
	asked.Visits, asked.Seed = freshVisits, freshSeed
	fresh := &helper{ctx: h.ctx, q: asked}
	was, err := fresh.worth(asked)
	if err != nil {
		return BestPlaces{}, err
	}
	change := Remedy{Key: MovePan, Layout: &l}
	if !movesTrap(h.q.Layout, l) {
		change.Key = MoveStick
	}
	then, err := fresh.worth(fresh.after(&change))
	if err != nil {
		return BestPlaces{}, err
	}
	best := BestPlaces{Layout: l, Per100: then.mean(), Tried: tried}
	best.Gain, best.Error = paired(then, was)
	if best.Better = best.Gain > sureErrors*best.Error && best.Gain >= leastShare*was.mean(); !best.Better {
		best.Layout, best.Per100 = h.q.Layout, was.mean()
	}
	return best, nil
}

// movesTrap tells whether a trap lies elsewhere in another design of a set.
func movesTrap(was, is layout.Layout) bool {
	for i, r := range is.Rigs {
		if r.XMm != was.Rigs[i].XMm || r.YMm != was.Rigs[i].YMm {
			return true
		}
	}
	return false
}

// outside is how far a step goes beyond what the search may move, in inches.
func outside(by []float64) float64 {
	beyond := 0.0
	for _, step := range by {
		beyond += math.Max(0, math.Abs(step)*inchMm-farthestMm)
	}
	return beyond / inchMm
}

// movedBy is a set with its parts moved by so many inches each, whole millimetres; a trap goes with its pan, and its anchor as it does when it
// is moved by hand.
func movedBy(l layout.Layout, by []float64) layout.Layout {
	at := numbersOf(l)
	to := l.Clone()
	for i, p := range at {
		mm := math.Round(p.is + by[i]*inchMm)
		switch {
		case p.guide >= 0 && p.y:
			to.Guides[p.guide].YMm = mm
		case p.guide >= 0:
			to.Guides[p.guide].XMm = mm
		case p.y:
			to = to.WithRigMoved(p.rig, 0, mm-p.is)
		default:
			to = to.WithRigMoved(p.rig, mm-p.is, 0)
		}
	}
	return to
}

// numbersOf lists the numbers of a set that the search may change: where its pans lie, sticks along their way, and stones.
func numbersOf(l layout.Layout) []number {
	var found []number
	for i, r := range l.Rigs {
		if r.Pan != nil && !l.Stays(i) {
			found = append(found, number{rig: i, guide: -1, is: r.Pan.XMm}, number{rig: i, guide: -1, y: true, is: r.Pan.YMm})
		}
	}
	for i, g := range l.Guides {
		found = append(found, number{guide: i, is: g.XMm})
		if l.Way == nil {
			found = append(found, number{guide: i, y: true, is: g.YMm})
		}
	}
	return found
}

// Difference is how two designs compare on the same feet: what each catches in 100 set-nights, by how much the second is more, the
// standard error of that, and whether it passes it.
type Difference struct {
	First  float64 `json:"first"`
	Second float64 `json:"second"`
	More   float64 `json:"more"`
	Error  float64 `json:"error"`
	Sure   bool    `json:"sure"`
}

// Compare compares two designs on the same feet. It asks for the circumstances of both, and that footfall is claimed of both; it refuses
// designs for different animals, or asked with different numbers of visits: no feet are the same then.
func Compare(ctx context.Context, first, second Question) (Difference, error) {
	var p refuse.Problems
	if second.Target.Key != first.Target.Key {
		p.Add("second.target", "must be %s, as of the first: designs for different animals are not weighed against each other", first.Target.Key)
	}
	if second.Visits != first.Visits {
		p.Add("second.visits", "must be %d, as of the first: only then are they compared on the same feet", first.Visits)
	}
	if err := p.Err(); err != nil {
		return Difference{}, err
	}
	var found [2]worth
	for i, q := range []Question{first, second} {
		h, err := newHelper(ctx, q)
		if err != nil {
			return Difference{}, err
		}
		if h == nil {
			return Difference{}, noFeet()
		}
		found[i] = h.base
	}
	differ := Difference{First: found[0].mean(), Second: found[1].mean()}
	differ.More, differ.Error = paired(found[1], found[0])
	differ.Sure = math.Abs(differ.More) > sureErrors*differ.Error
	return differ, nil
}

// noFeet refuses a design of which no footfall is claimed: there is nothing to weigh it by.
func noFeet() error {
	return refuse.Field("pattern", "must be one that a foot comes down in: of a loop no footfall is claimed, and there is nothing to weigh it by")
}
