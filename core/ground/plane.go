package ground

import "math"

// Plane is the local plane: metres east and north of a middle.
type Plane struct{ Middle Fix }

// At puts a place on the plane.
func (p Plane) At(f Fix) [2]float64 {
	return [2]float64{
		(f.LonDeg - p.Middle.LonDeg) * MetresPerDegree * math.Cos(p.Middle.LatDeg*math.Pi/180),
		(f.LatDeg - p.Middle.LatDeg) * MetresPerDegree,
	}
}

// Fix is the place of a point of the plane.
func (p Plane) Fix(at [2]float64) Fix {
	return Fix{
		LatDeg: p.Middle.LatDeg + at[1]/MetresPerDegree,
		LonDeg: p.Middle.LonDeg + at[0]/(MetresPerDegree*math.Cos(p.Middle.LatDeg*math.Pi/180)),
	}
}

// FromWay is how far a point lies from a way of legs.
func FromWay(at [2]float64, way [][2]float64) float64 {
	least := math.Inf(1)
	for i := 1; i < len(way); i++ {
		a, b := way[i-1], way[i]
		dx, dy := b[0]-a[0], b[1]-a[1]
		t := 0.0
		if d := dx*dx + dy*dy; d > 0 {
			t = math.Max(0, math.Min(1, ((at[0]-a[0])*dx+(at[1]-a[1])*dy)/d))
		}
		least = math.Min(least, math.Hypot(at[0]-a[0]-t*dx, at[1]-a[1]-t*dy))
	}
	return least
}
