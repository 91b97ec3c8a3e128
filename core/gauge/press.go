package gauge

import "math"

// Press is one press as the gauge's readings tell it: the most that it read, and what it read at rest before and after.
type Press struct {
	PeakN   float64 `json:"peakN"`
	BeforeN float64 `json:"beforeN"`
	AfterN  float64 `json:"afterN"`
}

// Figures of a press in a run of readings, newtons and counts of readings.
const (
	risesN     = 2.0  // above rest: a press has begun
	falls      = 0.3  // of the way from rest to the peak: it is over
	restful    = 4    // readings at rest that end it
	stuckFor   = 25   // readings that do not change by the last figure
	stuckAbove = 1.0  // where a gauge at rest would not stand
	zeroN      = 0.45 // about a tenth of a pound: a zero farther off has drifted
	zeroShare  = 0.03 // or so much of the peak
)

// Watch looks at a gauge's readings one by one until it has seen a press from rest to rest. The zero value is ready.
type Watch struct {
	press   Press
	seen    int
	last    float64
	same    int
	pressed bool
	resting []float64
	lost    int // readings since one was lost on the way; 0 while none was
	unsure  bool
}

// nearPeak is how many readings before the peak must all have come: at thirty a second about a tenth of one.
const nearPeak = 4

// leap is how much more than the reading before it one may say.
const leap = 2.0

// Lose says that a reading was lost or damaged on the way.
func (w *Watch) Lose() { w.lost = 1 }

// Unsure tells whether the peak cannot be trusted: a reading was lost just before it, or it leapt to more than twice its
// neighbours.
func (w *Watch) Unsure() bool { return w.unsure }

// See takes the next reading and tells whether the press is over, or the gauge is stuck.
func (w *Watch) See(n float64) bool {
	if n == w.last && n > stuckAbove {
		w.same++
	} else {
		w.same = 0
	}
	before := w.last
	w.last = n
	w.seen++
	if w.lost > 0 {
		w.lost++
	}
	if w.Stuck() {
		return true
	}
	if w.seen == 1 {
		w.press = Press{PeakN: n, BeforeN: n}
		return false
	}
	if !w.pressed {
		w.press.BeforeN = math.Min(w.press.BeforeN, n)
		w.pressed = n > w.press.BeforeN+risesN
		w.press.PeakN = n
		return false
	}
	if n > w.press.PeakN {
		w.unsure = w.lost > 0 && w.lost <= nearPeak+1 || n > leap*math.Max(before, risesN)
		w.press.PeakN = n
	}
	if n > w.press.BeforeN+falls*(w.press.PeakN-w.press.BeforeN) {
		w.resting = nil
		return false
	}
	w.resting = append(w.resting, n)
	if len(w.resting) < restful {
		return false
	}
	w.press.AfterN = w.resting[restful-1]
	return true
}

// Stuck tells whether the gauge stopped moving under load: what it says then is no reading.
func (w *Watch) Stuck() bool { return w.same >= stuckFor }

// Press gives the press, and whether there was a whole one.
func (w *Watch) Press() (Press, bool) {
	return w.press, w.pressed && !w.Stuck() && len(w.resting) >= restful
}

// OffN is what the gauge read at rest, before the press or after it, whichever lay farther from nothing.
func (p Press) OffN() float64 {
	if math.Abs(p.AfterN) > math.Abs(p.BeforeN) {
		return p.AfterN
	}
	return p.BeforeN
}

// Drifted tells whether the gauge's zero lay off before or after the press; its peak is then off by about as much.
func (p Press) Drifted() bool { return math.Abs(p.OffN()) > math.Max(zeroN, zeroShare*p.PeakN) }
