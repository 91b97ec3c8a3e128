package layout

// Feel is what a thumb feels at one point of a trap in its bed: nothing moves, it sinks, or the other side lifts. Blank is not felt.
type Feel string

// What it can feel.
const (
	Still Feel = "still"
	Gives Feel = "gives"
	Rocks Feel = "rocks"
)

// Feels lists it.
var Feels = []Feel{Still, Gives, Rocks}

// Points is what was felt at the four points of a trap, in the rig's axes: at both ends of its levers, then at both jaws.
type Points [4]Feel

// Firm tells whether a bed is firm by its points: where nothing moves it is, where anything does it is not, else it is not known (nil). In frozen
// ground a trap that nothing makes sink, and that rocks across one pair of points at most, lies as dead as frozen ground beds.
func (p Points) Firm(frozen bool) *bool {
	still, gives, felt := 0, false, true
	rocks := [2]bool{}
	for i, feel := range p {
		switch feel {
		case Still:
			still++
		case Gives:
			gives = true
		case Rocks:
			rocks[i/2] = true
		default:
			felt = false
		}
	}
	switch {
	case still == len(p), frozen && felt && !gives && !(rocks[0] && rocks[1]):
		return new(true)
	case gives || rocks[0] || rocks[1]:
		return new(false)
	}
	return nil
}
