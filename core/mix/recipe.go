package mix

import (
	"errors"
	"fmt"
	"slices"

	"oldburrow/core/ground"
	"oldburrow/core/refuse"
)

// By is a way to measure the parts of a recipe.
type By string

// The ways.
const (
	ByVolume By = "volume" // ml
	ByWeight By = "weight" // g
)

// Bys lists them.
var Bys = []By{ByVolume, ByWeight}

// Unit is the unit of a way to measure.
func Unit(by By) string {
	if by == ByWeight {
		return "g"
	}
	return "ml"
}

// PartKind is what a part is, for the freezing point: an agent by its key, water (urine and whatever else freezes like it), oil, or
// something dry.
type PartKind string

// What is no agent.
const (
	Water PartKind = "water"
	Oil   PartKind = "oil"
	Dry   PartKind = "dry"
)

// PartKinds lists what a part can be.
var PartKinds = func() []PartKind {
	kinds := []PartKind{Water, Oil, Dry}
	for _, agent := range Agents {
		kinds = append(kinds, PartKind(agent))
	}
	return kinds
}()

// agent is the agent that a part is; blank where it is none.
func (p Part) agent() Agent {
	if agent := Agent(p.Is); slices.Contains(Agents, agent) {
		return agent
	}
	return ""
}

// Densities of what is measured by volume, g/ml; urine stands for what is watery.
var densities = map[PartKind]float64{"glycerin": GlycerinDensity, Water: UrineDensity, "propylene_glycol": 1.036}

// Part is one thing of a recipe: the user's word for it, what it is, and how many parts of it.
type Part struct {
	What  string   `json:"what"`
	Is    PartKind `json:"is"`
	Parts float64  `json:"parts"`
}

// Recipe is a mixture by parts.
type Recipe struct {
	By    By     `json:"by"`
	Parts []Part `json:"parts"`
}

// Check refuses a recipe without parts, parts that are nothing or are not named, and solids measured by volume.
func (r Recipe) Check() error {
	var p refuse.Problems
	refuse.OneOf(&p, "by", r.By, Bys)
	if len(r.Parts) < 2 || len(r.Parts) > 20 {
		p.Add("parts", "must be from 2 to 20 parts, not %d", len(r.Parts))
	}
	for i, part := range r.Parts {
		at := fmt.Sprintf("parts[%d].", i)
		p.Text(at+"what", part.What, 60)
		refuse.OneOf(&p, at+"is", part.Is, PartKinds)
		if !(part.Parts > 0 && part.Parts <= 1000) {
			p.Add(at+"parts", "must be above 0 and at most 1000 parts")
		}
		if r.By == ByVolume && (part.Is == "salt" || part.Is == "calcium_chloride") {
			p.Add(at+"is", "must be weighed: mix by weight, or leave it out")
		}
	}
	return p.Err()
}

// Freezing is what is known of where a mixture freezes. Why says why it is not known.
type Freezing struct {
	Known   bool    `json:"known"`
	AtC     float64 `json:"atC"`
	Agent   Agent   `json:"agent"`
	Percent float64 `json:"percent"`
	Why     string  `json:"why"`
}

// Reasons why a freezing point is not known.
const (
	Oily   = "oily"   // nothing in it freezes as water does
	Mixed  = "mixed"  // more than one agent: the tables know one at a time
	Strong = "strong" // stronger than the table of its agent
)

// Freezes tells where a recipe freezes: the strength of its one agent among what is watery. What is oily or dry has no part in it.
func (r Recipe) Freezes() Freezing {
	var found Freezing
	agent, water := 0.0, 0.0
	for _, part := range r.Parts {
		switch {
		case part.Is == Water:
			water += part.Parts
		case part.Is == Oil || part.Is == Dry:
		case found.Agent != "" && found.Agent != part.agent():
			return Freezing{Why: Mixed}
		default:
			found.Agent = part.agent()
			agent += part.Parts
		}
	}
	if water == 0 {
		return Freezing{Why: Oily}
	}
	if found.Agent == "" {
		return Freezing{Known: true}
	}
	found.Percent = strength(found.Agent, r.By, agent, water)
	point, err := FreezePoint(FreezePointInput{found.Agent, found.Percent})
	if err != nil {
		found.Why = Strong
		return found
	}
	found.Known, found.AtC = true, point.FreezesAtC
	return found
}

// strength is the percentage that an agent's table wants: by weight, or by volume for propylene glycol.
func strength(agent Agent, by By, agentParts, waterParts float64) float64 {
	volumes := agent == "propylene_glycol"
	if (by == ByVolume) != volumes {
		factor := densities[PartKind(agent)] / densities[Water]
		if volumes {
			factor = 1 / factor
		}
		agentParts *= factor
	}
	return 100 * agentParts / (agentParts + waterParts)
}

// Standing gives the recipe with as much of its agent as it takes to stand a cold, everything else as it is. It refuses a
// recipe without an agent or without anything watery, and a cold that the agent cannot stand.
func (r Recipe) Standing(toC float64) (Recipe, error) {
	if err := r.Check(); err != nil {
		return r, err
	}
	at := slices.IndexFunc(r.Parts, func(p Part) bool { return p.agent() != "" })
	freezes := r.Freezes()
	if at < 0 || freezes.Why == Oily || freezes.Why == Mixed {
		return r, refuse.Field("parts", "must hold something watery and one agent against frost: %s", agentWords())
	}
	need, err := FreezeProtect(FreezeProtectInput{r.Parts[at].agent(), toC})
	if err != nil {
		return r, err
	}
	water := 0.0
	for _, p := range r.Parts {
		if p.Is == Water {
			water += p.Parts
		}
	}
	parts := slices.Clone(r.Parts)
	parts = slices.DeleteFunc(parts, func(p Part) bool { return p.Is == r.Parts[at].Is })
	agent := r.Parts[at]
	agent.Parts = partsFor(agent.agent(), r.By, need.Percent, water)
	return Recipe{r.By, slices.Insert(parts, min(at, len(parts)), agent)}, nil
}

func agentWords() string { return "glycerin, propylene glycol, salt or calcium chloride" }

// partsFor turns a strength back into parts beside so many parts of water.
func partsFor(agent Agent, by By, percent, water float64) float64 {
	parts := water * percent / (100 - percent)
	volumes := agent == "propylene_glycol"
	if (by == ByVolume) != volumes {
		factor := densities[Water] / densities[PartKind(agent)]
		if volumes {
			factor = 1 / factor
		}
		parts *= factor
	}
	return parts
}

// Shares gives how much of each part makes up a total, in the recipe's unit.
func (r Recipe) Shares(total float64) ([]float64, error) {
	if err := r.Check(); err != nil {
		return nil, err
	}
	parts := make([]float64, len(r.Parts))
	for i, p := range r.Parts {
		parts[i] = p.Parts
	}
	out, err := Dilute(DiluteInput{parts, total})
	return out.Ml, err
}

// Batch is how much is wanted: enough for so many sets, so many doses at each, and a share in reserve.
type Batch struct {
	Sets    float64 `json:"sets"`
	Doses   float64 `json:"doses"`
	Dose    float64 `json:"dose"`
	Reserve float64 `json:"reserve"`
}

// Total is the whole of a batch, in the unit of its dose. It refuses none, and a reserve above threefold.
func (b Batch) Total() (float64, error) {
	var p refuse.Problems
	p.Within("sets", b.Sets, 1, 1000, "")
	p.Within("doses", b.Doses, 1, 100, "")
	p.Within("reserve", b.Reserve, 0, 3, "")
	if !(b.Dose > 0 && b.Dose <= 1000) {
		p.Add("dose", "must be above 0 and at most 1000")
	}
	return b.Sets * b.Doses * b.Dose * (1 + b.Reserve), p.Err()
}

// BeddingInput asks how much of an agent keeps bedding from freezing: so many litres of a soil as wet as it lies, to a cold.
type BeddingInput struct {
	Litres  float64        `json:"litres"`
	Soil    ground.Soil    `json:"soil"`
	Wetness ground.Wetness `json:"wetness"`
	Agent   Agent          `json:"agent"`
	ToC     float64        `json:"toC"`
}

// BeddingOutput is the weight of the soil, the water in it, and how much of the agent that water takes: g, and for what is
// poured ml too. Percent is its strength.
type BeddingOutput struct {
	SoilG   float64 `json:"soilG"`
	WaterG  float64 `json:"waterG"`
	AgentG  float64 `json:"agentG"`
	AgentMl float64 `json:"agentMl"`
	Percent float64 `json:"percent"`
}

// loosened is the share of a soil's density in the ground that it has when it is broken up for bedding.
const loosened = 0.8

// Bedding computes it from the soil's dry density and water share. It refuses unknown soils and agents, and a cold that the
// agent cannot stand.
func Bedding(in BeddingInput) (BeddingOutput, error) {
	var p refuse.Problems
	if !(in.Litres > 0 && in.Litres <= 1000) {
		p.Add("litres", "must be above 0 and at most 1000 l")
	}
	refuse.OneOf(&p, "soil", in.Soil, ground.Soils)
	refuse.OneOf(&p, "wetness", in.Wetness, ground.Wetnesses)
	if err := p.Err(); err != nil {
		return BeddingOutput{}, err
	}
	need, err := FreezeProtect(FreezeProtectInput{in.Agent, in.ToC})
	if err != nil {
		return BeddingOutput{}, err
	}
	dry, share := ground.Water(in.Soil, in.Wetness)
	out := BeddingOutput{Percent: need.Percent}
	dryG := dry * loosened * in.Litres
	out.WaterG = dryG * share
	out.SoilG = dryG + out.WaterG
	if in.Agent == "propylene_glycol" {
		out.AgentMl = out.WaterG * need.Percent / (100 - need.Percent)
		out.AgentG = out.AgentMl * densities[PartKind(in.Agent)]
		return out, nil
	}
	out.AgentG = out.WaterG * need.Percent / (100 - need.Percent)
	if density, ok := densities[PartKind(in.Agent)]; ok {
		out.AgentMl = out.AgentG / density
	}
	return out, nil
}

// MixtureInput asks what goes into a recipe: for a total, or for a batch; and what it takes to stand a cold.
type MixtureInput struct {
	By    By       `json:"by"`
	Parts []Part   `json:"parts"`
	Total float64  `json:"total,omitempty"`
	Batch *Batch   `json:"batch,omitempty"`
	ToC   *float64 `json:"toC,omitempty"`
}

// MixtureOutput is the total with the amount of each part, where it freezes, and, when a cold was named, whether it stands that
// and how it would be mixed to. Trouble says why it cannot be.
type MixtureOutput struct {
	Total   float64   `json:"total"`
	Amounts []float64 `json:"amounts"`
	Freezes Freezing  `json:"freezes"`
	Stands  bool      `json:"stands"`
	To      *Recipe   `json:"to,omitempty"`
	Trouble string    `json:"trouble,omitempty"`
}

// Mixture works a recipe out. It refuses recipes, totals and batches that cannot be.
func Mixture(in MixtureInput) (MixtureOutput, error) {
	r := Recipe{in.By, in.Parts}
	out := MixtureOutput{Total: in.Total}
	if in.Batch != nil {
		total, err := in.Batch.Total()
		if err != nil {
			var p refuse.Problems
			p.Under("batch", err)
			return out, p
		}
		out.Total = total
	}
	if !(out.Total > 0 && out.Total <= 1e7) {
		return out, refuse.Field("total", "must be above 0 and at most 10000000 %s", Unit(in.By))
	}
	var err error
	if out.Amounts, err = r.Shares(out.Total); err != nil {
		return out, err
	}
	out.Freezes = r.Freezes()
	if in.ToC == nil {
		return out, nil
	}
	out.Stands = out.Freezes.Known && out.Freezes.AtC <= *in.ToC
	if out.Stands {
		return out, nil
	}
	to, err := r.Standing(*in.ToC)
	if err != nil {
		var p refuse.Problems
		if !errors.As(err, &p) {
			return out, err
		}
		out.Trouble = p[0].Says
		return out, nil
	}
	out.To = &to
	return out, nil
}

// Usual are the trade's usual mixtures, to begin with: their keys and what goes in.
func Usual() map[string]Recipe {
	return map[string]Recipe{
		"essence_in_oil":     {ByVolume, []Part{{"skunk essence", Oil, 1}, {"peanut oil", Oil, 15}}},
		"urine_and_glycerin": {ByVolume, []Part{{"urine", Water, 1}, {"glycerin", "glycerin", 1}}},
		"baits_evenly":       {ByWeight, []Part{{"ground meat", Dry, 1}, {"fish", Dry, 1}, {"cheese", Dry, 1}}},
		"waxed_soil":         {ByWeight, []Part{{"dry sifted soil", Dry, 12}, {"wax", Dry, 1}}},
		"brine":              {ByWeight, []Part{{"water", Water, 3}, {"calcium chloride", "calcium_chloride", 1}}},
	}
}
