package bed

import (
	"fmt"
	"math"
	"slices"

	"oldburrow/core/ground"
	"oldburrow/core/mix"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

// WaterInput is the weather day by day since a bed was built or last bailed: rain, mm, and the mean temperature; how it is sheltered,
// covered and drained, in which soil; its area, and what was put in against freezing, g.
type WaterInput struct {
	RainMm  []float64    `json:"rainMm"`
	MeanC   []float64    `json:"meanC"`
	Shelter Shelter      `json:"shelter"`
	Cover   pan.Material `json:"cover"`
	Soil    ground.Soil  `json:"soil"`
	Drain   Drain        `json:"drain"`
	AreaM2  float64      `json:"areaM2"`
	Agent   mix.Agent    `json:"agent,omitempty"`
	AgentG  float64      `json:"agentG,omitempty"`
	// StandsMm is the water that stood at first, as a look found it.
	StandsMm float64 `json:"standsMm,omitempty"`
	// Hours is how long each of the days lasted, where some were cut short; 24 where nothing is said.
	Hours []float64 `json:"hours,omitempty"`
}

// WaterOutput is the water that stands in the bed, mm, how strong the agent is in it by weight, and where it freezes.
type WaterOutput struct {
	WaterMm    float64 `json:"waterMm"`
	Percent    float64 `json:"percent"`
	FreezesAtC float64 `json:"freezesAtC"`
	AgentG     float64 `json:"agentG"` // of it that is left
}

// How much rain comes through, by shelter and by cover, and how fast water runs off, mm a day, by soil and at least by drain. Judgements.
var (
	shelters  = map[Shelter]float64{"open": 1, "tree": .6, "roofed": .1}
	through   = map[pan.Material]float64{"waxed_soil": .15, "peat": .6, "clippings": .7}
	runsOff   = map[ground.Soil]float64{"loose_sand": 200, "firm_sand": 200, "shale": 30, "loam": 15, "firm_clay": 3, "soft_clay": 3, "muck": 1}
	drainsOff = map[Drain]float64{"none": 0, "hole": 25, "slope": 40}
	holdsWet  = map[ground.Soil]bool{"firm_clay": true, "soft_clay": true, "muck": true}
)

const (
	otherThrough = .8
	gathersTimes = 1.5 // of a bed in a soil that holds water
	bedHoldsMm   = 8.0 // that run nowhere
	driesMm      = .5
	driesPerC    = .1
	gramsPerL    = 1000.0
)

// Shelter is what keeps rain off a bed.
type Shelter string

// Shelters lists them.
var Shelters = []Shelter{"open", "tree", "roofed"}

// Drain is what lets it out.
type Drain string

// Drains lists them.
var Drains = []Drain{"none", "hole", "slope"}

// Water goes through the days: rain comes in (what falls in frost waits for a thaw), some runs off with its share of the agent, some
// dries. Judgement throughout. It refuses lists of unequal length and words that are not known.
func Water(in WaterInput) (WaterOutput, error) {
	var p refuse.Problems
	if len(in.RainMm) != len(in.MeanC) {
		p.Add("meanC", "must be as many days as rainMm: %d, not %d", len(in.RainMm), len(in.MeanC))
	}
	if len(in.Hours) > 0 && len(in.Hours) != len(in.RainMm) {
		p.Add("hours", "must be as many days as rainMm: %d, not %d", len(in.RainMm), len(in.Hours))
	}
	for i, h := range in.Hours {
		p.Within(fmt.Sprintf("hours[%d]", i), h, 0, 48, " hours")
	}
	refuse.OneOf(&p, "shelter", in.Shelter, Shelters)
	refuse.OneOf(&p, "cover", in.Cover, pan.Materials)
	refuse.OneOf(&p, "soil", in.Soil, ground.Soils)
	refuse.OneOf(&p, "drain", in.Drain, Drains)
	p.Within("areaM2", in.AreaM2, .001, 2, " m²")
	p.Within("agentG", in.AgentG, 0, 5000, " g")
	p.Within("standsMm", in.StandsMm, 0, 500, " mm")
	if in.Agent != "" || in.AgentG > 0 {
		refuse.OneOf(&p, "agent", in.Agent, mix.Agents)
	}
	if err := p.Err(); err != nil {
		return WaterOutput{}, err
	}
	w := wet{water: in.StandsMm, agent: in.AgentG}
	comes := shelters[in.Shelter] * lets(in.Cover)
	if holdsWet[in.Soil] && in.Drain == "none" {
		comes *= gathersTimes
	}
	rate := math.Max(runsOff[in.Soil], drainsOff[in.Drain])
	for i, rain := range in.RainMm {
		days := 1.0
		if len(in.Hours) > 0 {
			days = in.Hours[i] / 24
		}
		w.day(rain*comes, in.MeanC[i], rate*days, days)
	}
	out := WaterOutput{WaterMm: w.water, AgentG: w.agent}
	if in.Agent != "" {
		out.Percent = 100 * w.agent / (w.agent + (w.water+bedHoldsMm)*in.AreaM2*gramsPerL)
		out.FreezesAtC = mix.FreezesAt(in.Agent, out.Percent)
	}
	return out, nil
}

// wet is a bed in the course of the days: the water that stands, what waits frozen over it, mm, and the agent left, g.
type wet struct{ water, waits, agent float64 }

// day has so much come in, and at most so much run off, in so much of a day.
func (w *wet) day(comes, meanC, most, days float64) {
	w.waits += comes
	if meanC >= 0 {
		w.water, w.waits = w.water+w.waits, 0
		off := math.Min(most, w.water)
		w.agent -= w.agent * off / (w.water + bedHoldsMm)
		w.water -= off
	}
	w.water = math.Max(0, w.water-days*(driesMm+driesPerC*math.Max(0, meanC)))
}

// lets is the share of rain that a cover lets through.
func lets(cover pan.Material) float64 {
	if share, ok := through[cover]; ok {
		return share
	}
	return otherThrough
}

// Word says how a bed stands.
type Word string

// The words.
const (
	Sound    Word = "sound"
	Soft     Word = "soft"
	Bail     Word = "bail"
	WillLock Word = "will_lock"
	NotKnown Word = "not_known" // it asks for nothing by what is known, and something is not
	Crusted  Word = "crusted"   // as a look felt it
	Rocks    Word = "rocks"     // likewise; in frozen ground a bed never lies dead still
)

// Words lists them.
var Words = []Word{Sound, Soft, Bail, WillLock, NotKnown, Crusted, Rocks}

const (
	softMm  = 2.0
	bailMm  = 8.0
	locksMm = 1.0
	spareC  = 2.0 // below the coldest hour
)

// damp are the covers that freeze without water standing under them.
var damp = []pan.Material{"damp_packed", "wet_soil", "rain_crust"}

// Sheds is the layer of a cover that lets the least rain through.
func Sheds(layers []pan.Material) pan.Material {
	best := pan.Material("")
	for _, layer := range layers {
		if best == "" || lets(layer) < lets(best) {
			best = layer
		}
	}
	return best
}

// Stands is how a bed with layers of cover stands before the coldest hour to come: its word, and about how much agent would bring its
// freezing point two degrees below that hour, g; 0 where none would help or none is needed.
func (out WaterOutput) Stands(in WaterInput, layers []pan.Material, coldestC float64) (word Word, renewG float64) {
	wets := out.WaterMm >= locksMm || slices.ContainsFunc(layers, func(layer pan.Material) bool { return slices.Contains(damp, layer) })
	switch {
	case coldestC < out.FreezesAtC && wets:
		word = WillLock
	case out.WaterMm >= bailMm:
		word = Bail
	case out.WaterMm >= softMm:
		word = Soft
	default:
		word = Sound
	}
	if word == WillLock && in.Agent != "" {
		if strong, err := mix.FreezeProtect(mix.FreezeProtectInput{Agent: in.Agent, ToC: coldestC - spareC}); err == nil {
			renewG = math.Max(0, strong.Percent/(100-strong.Percent)*(out.WaterMm+bedHoldsMm)*in.AreaM2*gramsPerL-out.AgentG)
		}
	}
	return word, renewG
}
