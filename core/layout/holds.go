package layout

import "slices"

// Factors on how long a set keeps an animal at work.
const (
	deepMm     = 200 // a hole this deep
	deepHolds  = 1.25
	plugHolds  = 1.2
	woolHolds  = 1.15
	moreHolds  = 1.2 // two smells or more
	lureOnly   = 0.8 // nothing to eat
	emptyHolds = 0.3
	pulls      = 1.6 // a stick to pull at
)

// scentHolds is what digging, tugging and smelling do: two smells keep an animal more than one, and where there is nothing to eat they
// keep it less.
func scentHolds(l Layout) float64 {
	hold := digs(l)
	smells := slices.DeleteFunc(l.drawing(), func(s Smell) bool { return !s.there() })
	if len(smells) == 0 {
		return hold * emptyHolds
	}
	if !l.Baited() {
		hold *= lureOnly
	}
	if len(smells) >= 2 {
		hold *= moreHolds
	}
	return hold
}

// pullHolds is what a stick to pull at does.
func pullHolds(l Layout) float64 { return scentHolds(l) * pulls }

// asUsual is the hold of a set that an animal does not stop at.
func asUsual(Layout) float64 { return 1 }

// digs is what there is to dig and to pull at.
func digs(l Layout) float64 {
	hold, deep, plug, wool := 1.0, false, false, false
	for _, a := range l.Attractors {
		deep = deep || a.Hole != nil && a.Hole.DepthMm >= deepMm
		plug = plug || a.Plug != "none"
		wool = wool || a.Plug == "wool"
		for _, s := range a.Smells {
			wool = wool || s.Carrier == "wool"
		}
	}
	if deep {
		hold *= deepHolds
	}
	if plug {
		hold *= plugHolds
	}
	if wool {
		hold *= woolHolds
	}
	return hold
}
