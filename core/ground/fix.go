package ground

import (
	"math"
	"slices"

	"oldburrow/core/refuse"
)

// Fix is one place read from a receiver, WGS 84 degrees.
type Fix struct {
	LatDeg float64 `json:"latDeg"`
	LonDeg float64 `json:"lonDeg"`
}

// Average is the middle of several fixes and how far they lie from it (root mean square, metres); Used says how many were
// close enough to count.
type Average struct {
	Fix
	SpreadM float64 `json:"spreadM"`
	Used    int     `json:"used"`
}

// MetresPerDegree is the length of a degree of latitude, near enough anywhere for a trapline.
const MetresPerDegree = 111320.0

// strayM is how far a fix may lie from the median before it is left out, at least; otherwise four times the median distance.
const strayM = 8.0

// AverageOf averages fixes: strays about the median are left out. It refuses an empty list.
func AverageOf(fixes []Fix) (Average, error) {
	if len(fixes) == 0 {
		return Average{}, refuse.Field("fixes", "are missing: no place was read")
	}
	// About the date line longitudes are counted on from the first, so that neighbours lie together.
	fixes = slices.Clone(fixes)
	for i := range fixes {
		fixes[i].LonDeg = near(fixes[i].LonDeg, fixes[0].LonDeg)
	}
	middle := Fix{median(fixes, func(f Fix) float64 { return f.LatDeg }), median(fixes, func(f Fix) float64 { return f.LonDeg })}
	lim := math.Max(strayM, 4*median(fixes, func(f Fix) float64 { return Metres(middle, f) }))
	var kept []Fix
	for _, f := range fixes {
		if Metres(middle, f) <= lim {
			kept = append(kept, f)
		}
	}
	var mean Fix
	for _, f := range kept {
		mean.LatDeg += f.LatDeg / float64(len(kept))
		mean.LonDeg += f.LonDeg / float64(len(kept))
	}
	square := 0.0
	for _, f := range kept {
		square += math.Pow(Metres(mean, f), 2) / float64(len(kept))
	}
	mean.LonDeg = near(mean.LonDeg, 0)
	return Average{Fix: mean, SpreadM: math.Sqrt(square), Used: len(kept)}, nil
}

// near is a longitude within half a turn of another.
func near(lonDeg, of float64) float64 { return lonDeg - 360*math.Round((lonDeg-of)/360) }

// Metres is the distance between two places that are near each other.
func Metres(a, b Fix) float64 {
	north := (b.LatDeg - a.LatDeg) * MetresPerDegree
	east := near(b.LonDeg-a.LonDeg, 0) * MetresPerDegree * math.Cos((a.LatDeg+b.LatDeg)/2*math.Pi/180)
	return math.Hypot(north, east)
}

func median(fixes []Fix, of func(Fix) float64) float64 {
	values := make([]float64, len(fixes))
	for i, f := range fixes {
		values[i] = of(f)
	}
	slices.Sort(values)
	return (values[(len(values)-1)/2] + values[len(values)/2]) / 2
}
