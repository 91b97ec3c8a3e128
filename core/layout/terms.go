package layout

import (
	"math"

	"oldburrow/core/animal"
	"oldburrow/core/footfall"
)

// Coming is one way in which a share of the visits comes to the set: the approach, with where it lies on the set's plan.
type Coming struct {
	Share    float64
	Approach footfall.Input
}

// comings are the ways in which an animal comes to a set.
type comings func(Layout, animal.Animal) []Coming

// What the comings of some patterns are made of.
const (
	thinStickMm  = 10.0  // the radius of a stick that an animal steps over as over a line
	shoulderMm   = 10.0  // each side of the jaws, where an animal must come in between stones
	besideJawMm  = 90.0  // from a jaw to the middle of a stone beside it
	passesObject = 0.15  // of those that come by an object in a trail
	inTrailMm    = 600.0 // how wide they walk there
	stopsInGap   = 0.6   // of those that go through a gap between tufts
	stopsInRut   = 0.5   // of those that walk a rut past a pocket of scent
	dryMm        = 60.0  // the radius of a footing in water
)

// stand is an animal that comes to the origin and works there.
func stand(spreadDeg float64) footfall.Input {
	in := footfall.Defaults()
	in.Approach, in.SpreadDeg = footfall.Stand, spreadDeg
	return in
}

// faced stands before what the set smells of, at the height of the highest smell that is not behind or beside it. Its way in spreads
// by so much, or by less where what stands behind is more solid.
func (l Layout) faced(spreadDeg float64) footfall.Input {
	in := stand(math.Min(spreadDeg, l.SpreadDeg()))
	for _, s := range l.drawing() {
		if s.Place != "backing" && s.Place != "beside" {
			in.NoseMm = math.Max(in.NoseMm, s.HeightMm)
		}
	}
	return in
}

// standBefore is an animal that comes from where the backing lets it.
func standBefore(l Layout, _ animal.Animal) []Coming {
	return []Coming{{Share: 1, Approach: stand(l.SpreadDeg())}}
}

// standBy is an animal that comes to the attractor, spread by so much at most: the set itself says from where.
func standBy(spreadDeg float64) comings {
	return func(l Layout, _ animal.Animal) []Coming { return []Coming{{Share: 1, Approach: l.faced(spreadDeg)}} }
}

// marked is standBy where an animal may leave its own mark.
func marked(spreadDeg float64) comings {
	return func(l Layout, _ animal.Animal) []Coming {
		in := l.faced(spreadDeg)
		in.Marks = true
		return []Coming{{Share: 1, Approach: in}}
	}
}

// standAtEach comes to each attractor as often as to any other, facing the pan.
func standAtEach(l Layout, _ animal.Animal) []Coming {
	var found []Coming
	for _, a := range l.Attractors {
		t := Coming{Share: 1 / float64(len(l.Attractors)), Approach: stand(footfall.SomeDeg)}
		t.Approach.Axes = footfall.Axes{XMm: a.XMm, YMm: a.YMm}
		if pan := l.Rigs[0].Pan; pan != nil {
			t.Approach.Axes.FacingDeg = math.Atan2(pan.XMm-a.XMm, pan.YMm-a.YMm) * 180 / math.Pi
		}
		found = append(found, t)
	}
	return found
}

// atObject comes to an object; where that lies in a trail, some walk on.
func atObject(l Layout, a animal.Animal) []Coming {
	stops := Coming{Share: 1, Approach: l.faced(footfall.OpenDeg)}
	if l.Way == nil {
		return []Coming{stops}
	}
	passes := passAlong(l, a)[0]
	stops.Share, passes.Share, passes.Approach.Grid = 1-passesObject, passesObject, footfall.Stand
	return []Coming{stops, passes}
}

// betweenStones comes in between the stones beside the pan.
func betweenStones(l Layout, _ animal.Animal) []Coming {
	in := stand(footfall.SolidDeg)
	in.ConfineMm = l.Rigs[0].JawsMm() + 2*(besideJawMm-stoneMm-shoulderMm)
	return []Coming{{Share: 1, Approach: in}}
}

// alongTrench comes up the trench.
func alongTrench(l Layout, _ animal.Animal) []Coming {
	in := stand(footfall.PinchedDeg)
	in.ConfineMm = l.Trench.WidthMm
	return []Coming{{Share: 1, Approach: in}}
}

// passAlong walks the way, over the sticks and logs that lie across it.
func passAlong(l Layout, _ animal.Animal) []Coming {
	t := Coming{Share: 1, Approach: footfall.Defaults()}
	t.Approach.Axes = footfall.Axes{XMm: l.Way.XMm, YMm: l.Way.YMm, FacingDeg: -l.Way.BearingDeg}
	t.Approach.Approach, t.Approach.TrailWidthMm = footfall.Pass, l.Way.WidthMm
	for _, g := range l.Guides {
		half := g.RMm
		switch g.Kind {
		case "stick":
			half -= thinStickMm
		case "log":
		default:
			continue
		}
		x, _ := t.Approach.Axes.On(g.XMm, g.YMm)
		t.Approach.SticksMm = append(t.Approach.SticksMm, x)
		t.Approach.StickHalfMm = math.Max(t.Approach.StickHalfMm, half)
	}
	return []Coming{t}
}

// walkThrough stops at a pocket of scent beside the rut, or walks on along it.
func walkThrough(l Layout, a animal.Animal) []Coming {
	stops, passes := Coming{Share: stopsInRut, Approach: stand(footfall.SomeDeg)}, passAlong(l, a)[0]
	passes.Share, passes.Approach.Grid = 1-stopsInRut, footfall.Stand
	return []Coming{stops, passes}
}

// throughGap stops between two tufts, from either side and as far back as its feet want, or goes through.
func throughGap(l Layout, a animal.Animal) []Coming {
	s := setbackOf(a)
	var found []Coming
	for _, from := range []struct{ y, facing float64 }{{-s, 0}, {s, 180}} {
		in := stand(footfall.SolidDeg)
		in.Marks, in.Grid, in.Axes = true, footfall.Pass, footfall.Axes{YMm: from.y, FacingDeg: from.facing}
		for _, tuft := range l.Attractors {
			x, y := in.Axes.On(tuft.XMm+math.Copysign(tuft.RadiusMm, tuft.XMm), tuft.YMm)
			in.Guides = append(in.Guides, footfall.Guide{XMm: x, YMm: y, RMm: tuft.RadiusMm})
		}
		found = append(found, Coming{Share: stopsInGap / 2, Approach: in})
	}
	passes := passAlong(l, a)[0]
	passes.Share = 1 - stopsInGap
	return append(found, passes)
}

// onDryFooting uses the footings in the water: the pan, and the stones that were laid to land on.
func onDryFooting(l Layout, _ animal.Animal) []Coming {
	in := stand(footfall.SolidDeg)
	if pan := l.Rigs[0].Pan; pan != nil {
		in.Dry = []footfall.Guide{{XMm: pan.XMm, YMm: pan.YMm, RMm: dryMm}}
	}
	for _, g := range l.Guides {
		if g.Kind == Landing {
			in.Dry = append(in.Dry, g.Discs()...)
		}
	}
	return []Coming{{Share: 1, Approach: in}}
}

// unclaimed is a device that closes a loop: where feet fall says nothing of it.
func unclaimed(Layout, animal.Animal) []Coming { return nil }
