// Package mix computes mixtures: what keeps from freezing, and how parts make up a whole. Percentages are by weight, but of
// propylene glycol by volume; temperatures in °C, volumes in ml. The freezing points are handbook values of solutions in
// water, read in straight lines between the points of a table that starts at 0 %, 0 °C.
package mix

import (
	"fmt"
	"maps"
	"slices"

	"oldburrow/core/refuse"
)

// point is a strength in per cent and the temperature that it freezes at.
type point struct{ percent, freezesC float64 }

// Agent is something that is mixed in against freezing.
type Agent string

var tables = map[Agent][]point{
	"salt":             {{0, 0}, {5, -3.0}, {10, -6.6}, {15, -10.9}, {20, -16.5}, {23.3, -21.1}},
	"calcium_chloride": {{0, 0}, {5, -2.4}, {10, -5.9}, {15, -10.9}, {20, -18.3}, {25, -29.4}, {30.2, -49.8}},
	"propylene_glycol": {{0, 0}, {10, -3.3}, {20, -7.1}, {30, -12.7}, {40, -21.1}, {50, -33.5}, {60, -51.1}},
	"glycerin":         {{0, 0}, {10, -1.6}, {20, -4.8}, {30, -9.5}, {40, -15.4}, {50, -23.0}, {60, -34.7}, {66.7, -46.5}},
}

// Agents lists them.
var Agents = slices.Sorted(maps.Keys(tables))

// FreezePointInput is an agent and its strength.
type FreezePointInput struct {
	Agent   Agent   `json:"agent"`
	Percent float64 `json:"percent"`
}

// FreezePointOutput is where the mixture freezes.
type FreezePointOutput struct {
	FreezesAtC float64 `json:"freezesAtC"`
}

// FreezePoint reads the table of an agent. It refuses an unknown agent and a strength beyond the table.
func FreezePoint(in FreezePointInput) (FreezePointOutput, error) {
	table, err := tableOf(in.Agent)
	if err != nil {
		return FreezePointOutput{}, err
	}
	last := table[len(table)-1]
	var p refuse.Problems
	p.Within("percent", in.Percent, 0, last.percent, " %")
	if err := p.Err(); err != nil {
		return FreezePointOutput{}, err
	}
	for i, b := range table[1:] {
		if a := table[i]; in.Percent <= b.percent {
			return FreezePointOutput{between(in.Percent, a.percent, b.percent, a.freezesC, b.freezesC)}, nil
		}
	}
	return FreezePointOutput{last.freezesC}, nil
}

// FreezesAt reads the table of a known agent, and holds its end beyond it.
func FreezesAt(agent Agent, percent float64) float64 {
	last := tables[agent][len(tables[agent])-1]
	out, err := FreezePoint(FreezePointInput{Agent: agent, Percent: min(percent, last.percent)})
	if err != nil {
		return last.freezesC
	}
	return out.FreezesAtC
}

// FreezeProtectInput is an agent and the cold that it must stand.
type FreezeProtectInput struct {
	Agent Agent   `json:"agent"`
	ToC   float64 `json:"toC"`
}

// FreezeProtectOutput is the strength that stands it.
type FreezeProtectOutput struct {
	Percent float64 `json:"percent"`
}

// FreezeProtect reads the table the other way. It refuses an unknown agent and a cold that the agent cannot stand; above
// freezing nothing is needed.
func FreezeProtect(in FreezeProtectInput) (FreezeProtectOutput, error) {
	table, err := tableOf(in.Agent)
	if err != nil {
		return FreezeProtectOutput{}, err
	}
	last := table[len(table)-1]
	if !(in.ToC >= last.freezesC && in.ToC <= 60) {
		return FreezeProtectOutput{}, refuse.Field("toC", "must be from %g °C, the most that %s stands, to 60 °C, not %g °C", last.freezesC, in.Agent, in.ToC)
	}
	if in.ToC >= 0 {
		return FreezeProtectOutput{}, nil
	}
	for i, b := range table[1:] {
		if a := table[i]; in.ToC >= b.freezesC {
			return FreezeProtectOutput{between(in.ToC, a.freezesC, b.freezesC, a.percent, b.percent)}, nil
		}
	}
	return FreezeProtectOutput{last.percent}, nil
}

func tableOf(agent Agent) ([]point, error) {
	var p refuse.Problems
	refuse.OneOf(&p, "agent", agent, Agents)
	return tables[agent], p.Err()
}

func between(x, x0, x1, y0, y1 float64) float64 { return y0 + (y1-y0)*(x-x0)/(x1-x0) }

// Densities of what is mixed by volume, g/ml.
const (
	GlycerinDensity = 1.261
	UrineDensity    = 1.02
)

// GlycerinPercent is the strength by weight of glycerin mixed into urine by volume; half and half gives 55.3.
func GlycerinPercent(glycerinMl, urineMl float64) float64 {
	glycerin, urine := glycerinMl*GlycerinDensity, urineMl*UrineDensity
	if glycerin+urine <= 0 {
		return 0
	}
	return 100 * glycerin / (glycerin + urine)
}

// DiluteInput is a recipe by parts and the whole that is wanted.
type DiluteInput struct {
	Parts   []float64 `json:"parts"`
	TotalMl float64   `json:"totalMl"`
}

// DiluteOutput is how much of each part makes it up.
type DiluteOutput struct {
	Ml []float64 `json:"ml"`
}

// Dilute shares a total out by parts. It refuses a recipe without parts, parts below zero or all zero, and no total.
func Dilute(in DiluteInput) (DiluteOutput, error) {
	var p refuse.Problems
	if len(in.Parts) == 0 || len(in.Parts) > 50 {
		p.Add("parts", "must be from 1 to 50 parts, not %d", len(in.Parts))
	}
	sum := 0.0
	for i, part := range in.Parts {
		p.Within(fmt.Sprintf("parts[%d]", i), part, 0, 1e6, "")
		sum += part
	}
	if len(p) == 0 && sum == 0 {
		p.Add("parts", "are all zero: at least one must be more")
	}
	if !(in.TotalMl > 0 && in.TotalMl <= 1e7) {
		p.Add("totalMl", "must be more than 0 and at most 10,000,000 ml, not %g", in.TotalMl)
	}
	if err := p.Err(); err != nil {
		return DiluteOutput{}, err
	}
	out := DiluteOutput{Ml: make([]float64, len(in.Parts))}
	for i, part := range in.Parts {
		out.Ml[i] = in.TotalMl * part / sum
	}
	return out, nil
}
