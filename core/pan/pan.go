// Package pan computes what it takes to fire a trap: newtons at the pan's centre, shares of body weight, chances.
package pan

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

// Gravity is standard gravity, m/s².
const Gravity = 9.81

// The share of body weight on a foot is cut to these bounds.
const (
	LeastShare = 0.05
	MostShare  = 1.10
)

// FootingShare is the mean share of its weight that an animal puts on the one dry footing that it tries before it steps. A judgement.
const FootingShare = 0.70

// Fire is the chance that an animal's foot fires a pan at an effective tension: P(mass · g · share > tension) with mass normal,
// cut below at 0.3 of its mean, and share normal about the animal's own, cut to .05–1.10, both renormalised; on a footing, about
// FootingShare. A tension of zero or less always fires. It refuses a tension that is no number.
func Fire(a animal.Animal, tensionN float64, footing bool) (float64, error) {
	if math.IsNaN(tensionN) || math.IsInf(tensionN, 0) {
		return 0, refuse.Field("tensionN", "must be a number of newtons")
	}
	if tensionN <= 0 {
		return 1, nil
	}
	mass := distuv.Normal{Mu: a.MassKg.Mean, Sigma: a.MassKg.SD}
	share := distuv.Normal{Mu: a.Fore, Sigma: animal.ShareSD}
	if footing {
		share.Mu = FootingShare
	}
	lightest := animal.SmallestShare * a.MassKg.Mean
	shares := share.CDF(MostShare) - share.CDF(LeastShare)
	// Below one mass no share is enough, above another every share is, and between them it goes smoothly.
	never, always := math.Max(lightest, tensionN/(MostShare*Gravity)), math.Max(lightest, tensionN/(LeastShare*Gravity))
	fires := func(m float64) float64 {
		return mass.Prob(m) * (share.CDF(MostShare) - share.CDF(tensionN/(m*Gravity)))
	}
	heaviest := math.Min(always, a.MassKg.Mean+8*a.MassKg.SD)
	chance := (1 - mass.CDF(always)) * shares
	if never < heaviest {
		chance += integral(fires, never, heaviest)
	}
	chance /= (1 - mass.CDF(lightest)) * shares
	return math.Min(1, math.Max(0, chance)), nil
}

// legendre are the nodes and weights of the integrals, on 0–1; finding them takes longer than an integral does. So many leave an error of 1e-12.
var legendre = sync.OnceValues(func() (x, weight []float64) {
	x, weight = make([]float64, 40), make([]float64, 40)
	quad.Legendre{}.FixedLocations(x, weight, 0, 1)
	return x, weight
})

func integral(f func(float64) float64, low, high float64) float64 {
	sum := 0.0
	x, weight := legendre()
	for i := range x {
		sum += weight[i] * f(low+x[i]*(high-low))
	}
	return sum * (high - low)
}

// CoverInput is what lies on the pan. Material names a known cover; a strength or density given explicitly overrides it.
type CoverInput struct {
	Material      Material `json:"material,omitempty"`
	ShearKPa      *float64 `json:"shearKPa,omitempty"`
	DensityKgM3   *float64 `json:"densityKgM3,omitempty"`
	ThicknessMm   float64  `json:"thicknessMm"`
	PanDiameterMm float64  `json:"panDiameterMm"`
}

// CoverOutput is what the cover adds to the gauge's tension, newtons; light loose cover can take a little off.
type CoverOutput struct {
	AddsN float64 `json:"addsN"`
}

// Material is what a cover is made of.
type Material string

// The materials.
const (
	DrySoil    Material = "dry_soil"
	DampPacked Material = "damp_packed"
	WetSoil    Material = "wet_soil"
	RainCrust  Material = "rain_crust"
	FrozenSoil Material = "frozen_soil"
	Peat       Material = "peat"
	WaxedSoil  Material = "waxed_soil"
	Sand       Material = "sand"
	SnowDust   Material = "snow_dust"
	SnowCrust  Material = "snow_crust"
	Hulls      Material = "hulls"
	Clippings  Material = "clippings"
)

// materials are what covers are worth: their shear strength in kPa and their density in kg/m³, and whether somebody can lay them or weather
// alone makes them of what was laid. Working values, each meant to be overridden by the user's own.
var materials = []struct {
	is          Material
	shearKPa    float64
	densityKgM3 float64
	weathered   bool
}{
	{DrySoil, .2, 1300, false}, {DampPacked, 1.5, 1400, false}, {WetSoil, 1.0, 1700, true}, {RainCrust, 4, 1400, true},
	{FrozenSoil, 60, 1400, true}, {Peat, .3, 200, false}, {WaxedSoil, .8, 1300, false}, {Sand, .2, 1500, false},
	{SnowDust, .3, 200, false}, {SnowCrust, 5, 350, true}, {Hulls, .1, 170, false}, {Clippings, .1, 150, false},
}

// Materials lists the covers, and Offered those that somebody can lay.
var (
	Materials = listed(true)
	Offered   = listed(false)
)

func listed(weathered bool) (found []Material) {
	for _, m := range materials {
		if weathered || !m.weathered {
			found = append(found, m.is)
		}
	}
	return found
}

// Cover is the strength of the plug of cover that the pan must shear, τπDt, less the weight of what lies on it, ρgtπD²/4.
// It refuses an unknown material, a missing strength or density, and impossible sizes.
func Cover(in CoverInput) (CoverOutput, error) {
	var p refuse.Problems
	shear, density := in.ShearKPa, in.DensityKgM3
	if in.Material != "" || shear == nil && density == nil {
		refuse.OneOf(&p, "material", in.Material, Materials)
		for _, m := range materials {
			if m.is == in.Material {
				shear, density = orElse(shear, m.shearKPa), orElse(density, m.densityKgM3)
			}
		}
	}
	if len(p) == 0 {
		given(&p, "shearKPa", shear, 10000, " kPa")
		given(&p, "densityKgM3", density, 8000, " kg/m³")
	}
	p.Within("thicknessMm", in.ThicknessMm, 0, 500, " mm")
	p.Within("panDiameterMm", in.PanDiameterMm, 1, 500, " mm")
	if err := p.Err(); err != nil {
		return CoverOutput{}, err
	}
	d, t := in.PanDiameterMm/1000, in.ThicknessMm/1000
	strength := *shear * 1000 * math.Pi * d * t
	weight := *density * Gravity * t * math.Pi * d * d / 4
	return CoverOutput{AddsN: strength - weight}, nil
}

// Effective is the tension that a foot meets: what the gauge read plus what the cover adds, never below zero.
func Effective(gaugeN, coverN float64) float64 { return math.Max(0, gaugeN+coverN) }

func orElse(v *float64, fallback float64) *float64 {
	if v != nil {
		return v
	}
	return &fallback
}

func given(p *refuse.Problems, field string, v *float64, most float64, unit string) {
	if v == nil {
		p.Add(field, "is missing: give it, or name a material")
		return
	}
	p.Within(field, *v, 0, most, unit)
}
