package ground

import "math"

// Plane is the local plane: metres east and north of a middle. EastM and NorthM are metres to a degree of longitude and of latitude.
type Plane struct {
	Middle Fix     `json:"middle"`
	EastM  float64 `json:"eastM"`
	NorthM float64 `json:"northM"`
}

// PlaneAbout is the plane about a middle.
func PlaneAbout(middle Fix) Plane {
	return Plane{Middle: middle, EastM: MetresPerDegree * math.Cos(middle.LatDeg*math.Pi/180), NorthM: MetresPerDegree}
}

// At puts a place on the plane.
func (p Plane) At(f Fix) [2]float64 {
	return [2]float64{(f.LonDeg - p.Middle.LonDeg) * p.EastM, (f.LatDeg - p.Middle.LatDeg) * p.NorthM}
}

// Fix is the place of a point of the plane.
func (p Plane) Fix(at [2]float64) Fix {
	return Fix{LatDeg: p.Middle.LatDeg + at[1]/p.NorthM, LonDeg: p.Middle.LonDeg + at[0]/p.EastM}
}

// FromWay is how far a point lies from a way of legs.
func FromWay(at [2]float64, way [][2]float64) float64 {
	if len(way) < 2 {
		return math.Inf(1)
	}
	return Apart(at, Nearest(at, way))
}

// Nearest is the point of a way of legs, or of a single point, that lies nearest to another.
func Nearest(at [2]float64, way [][2]float64) [2]float64 {
	nearest, least := way[0], Apart(at, way[0])
	for i := 1; i < len(way); i++ {
		a, b := way[i-1], way[i]
		dx, dy := b[0]-a[0], b[1]-a[1]
		t := 0.0
		if d := dx*dx + dy*dy; d > 0 {
			t = math.Max(0, math.Min(1, ((at[0]-a[0])*dx+(at[1]-a[1])*dy)/d))
		}
		on := [2]float64{a[0] + t*dx, a[1] + t*dy}
		if far := Apart(at, on); far < least {
			nearest, least = on, far
		}
	}
	return nearest
}

// Apart is how far two points of the plane lie apart.
func Apart(a, b [2]float64) float64 { return math.Hypot(a[0]-b[0], a[1]-b[1]) }

// Within tells whether a point lies within a ring of points.
func Within(at [2]float64, ring [][2]float64) bool {
	is := false
	for i, a := range ring {
		b := ring[(i+1)%len(ring)]
		if (a[1] > at[1]) != (b[1] > at[1]) && at[0] < (b[0]-a[0])*(at[1]-a[1])/(b[1]-a[1])+a[0] {
			is = !is
		}
	}
	return is
}
