package line

import (
	"math"
	"slices"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/tally"
)

// Form is how a set was made again; blank where it was not, or nobody said.
type Form string

// The forms, with how much of a building each takes. In the first two the bed stays what it was: it settles on, and what came to it did.
const (
	SameBed   Form = "same_bed"
	Preserved Form = "preserved" // a drag took the trap, and the bed is undug
	Rim       Form = "rim"       // at the edge of the circle that an animal wore
	NewBed    Form = "new_bed"   // elsewhere at the spot
)

// Forms lists them.
var Forms = []Form{SameBed, Preserved, Rim, NewBed}

// share is how much of the minutes of a building a remake takes: habits of the trade.
var share = map[Form]float64{SameBed: 1 / 3.0, Preserved: 1 / 6.0, Rim: 2 / 3.0, NewBed: 1}

// swapMinutes is what putting another trap in takes, minutes.
const swapMinutes = 2.0

// Minutes is about how long a remake of a set takes, with so many other traps put in.
func (f Form) Minutes(l layout.Layout, on layout.Underfoot, swapped int) float64 {
	return share[f]*l.Minutes(on) + swapMinutes*float64(swapped)
}

// Renewal is what of a set's scent and soil a remake took anew.
type Renewal string

// CircleSoil is soil of the circle over all of it: what came onto the bed lies under it.
const CircleSoil Renewal = "circle_soil"

// Renewals lists it: bait, the wool that lies in the hole again, and that.
var Renewals = []Renewal{"bait", "old_wool", CircleSoil}

func (x Make) form() Form {
	if x.AsBuilt == nil {
		return ""
	}
	return x.AsBuilt.Form
}

// goesOn tells whether a make stands in the bed of the one before it.
func (x Make) goesOn() bool { return x.form() == SameBed || x.form() == Preserved }

// Run are the makes that stood in the bed of a make until it did, the first of them first: a bed that is made again in its place goes on settling.
func (r Record) Run(m Make) []Make {
	run := []Make{m}
	at := r.At(m.SetID)
	for i := len(at) - 1; i >= 0; i-- {
		first := run[0]
		if first.goesOn() && first.Follows != nil && at[i].ID == *first.Follows && at[i].PulledAt != nil && at[i].PulledAt.Equal(first.BuiltAt) {
			run = slices.Insert(run, 0, at[i])
		}
	}
	return run
}

// BedNights is how many nights the bed of a make has had to settle.
func (r Record) BedNights(m Make) int { return tally.Nights(r.Run(m)[0].BuiltAt, r.until(m), r.Zone) }

// OnRim is a set moved whole to the rim of the circle that was worn about its old anchor: its attractor lies so far from that on a bearing, and faces
// outward. at is where it stood.
func OnRim(l layout.Layout, at ground.Fix, bearingDeg, wearMm float64) layout.Layout {
	moved := l.Clone()
	plane := ground.PlaneAbout(at)
	x, y := along(bearingDeg, wearMm/1000)
	if len(l.Rigs) > 0 && l.FacingDeg != nil {
		old, _ := l.AnchorOf(l.Rigs[0])
		ax, ay := along(*l.FacingDeg-90, old.XMm/1000)
		bx, by := along(*l.FacingDeg, old.YMm/1000)
		x, y = x+ax+bx, y+ay+by
	}
	fix, faces := plane.Fix([2]float64{x, y}), math.Mod(bearingDeg+360, 360)
	moved.At, moved.FacingDeg = &fix, &faces
	return moved
}

// along is how far east and north one comes on a bearing.
func along(bearingDeg, m float64) (east, north float64) {
	sin, cos := math.Sincos(bearingDeg * math.Pi / 180)
	return m * sin, m * cos
}
