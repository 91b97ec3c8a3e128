package ground

import (
	"fmt"
	"math"
	"slices"

	"oldburrow/core/refuse"
)

// soil is what a soil is worth to frost: the conductivity of the frozen soil in W/mK, its dry density in kg/m³, and the
// share of water by dry weight: dry, moist, wet.
type soil struct {
	frozenK, density float64
	water            [3]float64
}

var soils = map[Soil]soil{
	"loose_sand": {1.6, 1500, [3]float64{.06, .08, .20}},
	"firm_sand":  {1.9, 1700, [3]float64{.07, .10, .18}},
	"loam":       {1.4, 1400, [3]float64{.10, .20, .32}},
	"firm_clay":  {1.3, 1500, [3]float64{.12, .22, .32}},
	"soft_clay":  {1.2, 1300, [3]float64{.18, .30, .42}},
	"shale":      {2.0, 1900, [3]float64{.06, .08, .10}},
	"muck":       {0.6, 400, [3]float64{.6, 1.2, 2.0}},
}

// surfaces is how much of the air's cold reaches the ground.
var surfaces = map[Surface]float64{"bare": .9, "grass": .5, "litter": .35}

// Water is a soil's dry density in kg/m³ and the water in it as it lies, by dry weight. Both must be known words.
func Water(soil Soil, wetness Wetness) (densityKgM3, share float64) {
	s := soils[soil]
	return s.density, s.water[slices.Index(Wetnesses, wetness)]
}

// FrostInput is a soil as it lies and the weather day by day: the mean temperature and the depth of snow.
type FrostInput struct {
	Soil       Soil      `json:"soil"`
	Wetness    Wetness   `json:"wetness"`
	Surface    Surface   `json:"surface"`
	DailyMeanC []float64 `json:"dailyMeanC"`
	SnowCm     []float64 `json:"snowCm"`
}

// FrostOutput is the freezing index, degree-days, and the depth of frost after the last day.
type FrostOutput struct {
	FreezingIndex float64 `json:"freezingIndex"`
	DepthMm       float64 `json:"depthMm"`
}

const (
	snowShieldCm = 15.0
	storedHeat   = 0.6 // for the warmth that the ground itself still holds
	daySeconds   = 86400.0
	fusionJPerKg = 334000.0
)

// Frost is Stefan's depth of frost, with 0.6 for the ground's stored heat: each day below zero adds its degrees, damped by
// surface and snow, and each above takes them off. It refuses unknown soils and surfaces and lists of unequal length.
func Frost(in FrostInput) (FrostOutput, error) {
	days, err := FrostDays(in)
	if err != nil {
		return FrostOutput{}, err
	}
	if len(days) == 0 {
		return FrostOutput{}, nil
	}
	return days[len(days)-1], nil
}

// FrostDays is Frost after each of the days.
func FrostDays(in FrostInput) ([]FrostOutput, error) {
	if err := in.check(); err != nil {
		return nil, err
	}
	days := make([]FrostOutput, len(in.DailyMeanC))
	index := 0.0
	for i, mean := range in.DailyMeanC {
		index = NextIndex(index, in.Surface, mean, in.SnowCm[i])
		days[i] = FrostOutput{FreezingIndex: index, DepthMm: DepthMm(in.Soil, in.Wetness, index)}
	}
	return days, nil
}

// NextIndex is the freezing index, degree-days, after one more day of a mean temperature and a depth of snow.
func NextIndex(index float64, surface Surface, meanC, snowCm float64) float64 {
	if meanC < 0 {
		return index + surfaces[surface]*math.Exp(-snowCm/snowShieldCm)*-meanC
	}
	return math.Max(0, index-meanC)
}

// DepthMm is the depth of frost at a freezing index.
func DepthMm(soil Soil, wetness Wetness, index float64) float64 {
	return 1000 * storedHeat * math.Sqrt(index/perSquare(soil, wetness))
}

// IndexAt is the freezing index at which the frost is as deep as that.
func IndexAt(soil Soil, wetness Wetness, depthMm float64) float64 {
	depth := depthMm / 1000 / storedHeat
	return depth * depth * perSquare(soil, wetness)
}

// perSquare is the freezing index of a square metre of depth, by Stefan.
func perSquare(soil Soil, wetness Wetness) float64 {
	density, water := Water(soil, wetness)
	return fusionJPerKg * density * water / (2 * soils[soil].frozenK * daySeconds)
}

func (in FrostInput) check() error {
	var p refuse.Problems
	refuse.OneOf(&p, "soil", in.Soil, Soils)
	refuse.OneOf(&p, "wetness", in.Wetness, Wetnesses)
	refuse.OneOf(&p, "surface", in.Surface, Surfaces)
	if len(in.DailyMeanC) != len(in.SnowCm) {
		p.Add("snowCm", "must have as many days as dailyMeanC: %d, not %d", len(in.DailyMeanC), len(in.SnowCm))
	}
	for i, c := range in.DailyMeanC {
		p.Within(fmt.Sprintf("dailyMeanC[%d]", i), c, -90, 60, " °C")
	}
	for i, cm := range in.SnowCm {
		p.Within(fmt.Sprintf("snowCm[%d]", i), cm, 0, 2000, " cm")
	}
	return p.Err()
}
