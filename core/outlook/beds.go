package outlook

import (
	"math"
	"slices"
	"time"

	"oldburrow/core/bed"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/weather"
)

// BedNow is the water that stands in the bed of a rig by the weather since it was built, mm, how strong what was put in against freezing
// is in it, where it freezes, what that asks for in a word, and about how much would keep it open, g. Felt is how a look found it last.
type BedNow struct {
	Slot       int     `json:"slot"`
	WaterMm    float64 `json:"waterMm"`
	Percent    float64 `json:"percent"`
	FreezesAtC float64 `json:"freezesAtC"`
	Word       string  `json:"word"`
	Agent      string  `json:"agent"`
	RenewG     float64 `json:"renewG"`
	Felt       string  `json:"felt"`
	Missing    int     `json:"missing"`
}

// How a bed that a look felt stands, mm, and from which slope on water runs off it. Judgements.
const (
	feltDampMm = 1.0
	feltWetMm  = 8.0
	runsOffDeg = 5.0
)

// beds are those of a standing set as they are now, before the coldest hour of the coming night; none where the spot's soil is not known.
func (w *sky) beds(s Standing, spot line.Spot, days []weather.Day, tonight *weather.Night, on layout.Underfoot) []BedNow {
	found := []BedNow{}
	coldest := math.Inf(1)
	if tonight != nil {
		coldest = tonight.ColdestC
	}
	for _, rig := range s.Make.Layout.Rigs {
		b, in, missing, ok := w.wet(s, rig, spot, days, w.Now)
		if !ok {
			continue
		}
		word, renew := b.Stands(in, layersOf(rig), coldest)
		one := BedNow{Slot: rig.Slot, WaterMm: b.WaterMm, Percent: b.Percent, FreezesAtC: b.FreezesAtC, Word: word, Agent: in.Agent, RenewG: renew, Missing: missing}
		for _, look := range s.Looks {
			switch {
			case look.Bed != "":
				one.Felt = look.Bed
			case look.Bailed, look.AgentG != nil:
				one.Felt = "" // whoever had a hand in it left it well
			}
		}
		if missing > 0 && (word == bed.Sound || word == bed.Soft) {
			one.Word = bed.NotKnown
		}
		if asks := one.Felt == bed.Crusted || one.Felt == bed.Rocks && !on.Frozen; asks && word != bed.WillLock && word != bed.Bail {
			one.Word = one.Felt
		}
		found = append(found, one)
	}
	return found
}

// stoodWet tells whether water that stood in a bed of a set before a night froze in it.
func (w *sky) stoodWet(s Standing, spot line.Spot, days []weather.Day, night weather.Night) bool {
	for _, rig := range s.Make.Layout.Rigs {
		b, in, _, ok := w.wet(s, rig, spot, days, w.Now.AddDate(0, 0, -1))
		if word, _ := b.Stands(in, nil, night.ColdestC); ok && word == bed.WillLock {
			return true
		}
	}
	return false
}

func layersOf(rig layout.Rig) []string {
	var layers []string
	for _, layer := range rig.Cover {
		layers = append(layers, layer.Material)
	}
	return layers
}

// wet goes through the days from a make to the end of the day before a time. Looks on the way set the water, or say what was done to it.
// Missing days are those without weather since the water was known last.
func (w *sky) wet(s Standing, rig layout.Rig, spot line.Spot, days []weather.Day, until time.Time) (out bed.WaterOutput, in bed.WaterInput, missing int, ok bool) {
	size, err := s.Make.Layout.BedOf(rig)
	if err != nil || rig.Jaws == nil || spot.Soil == "" || len(rig.Cover) == 0 {
		return out, in, 0, false
	}
	in = bed.WaterInput{
		Shelter: "open", Cover: bed.Sheds(layersOf(rig)), Soil: spot.Soil, Drain: "none",
		AreaM2: size.LengthMm * size.WidthMm / 1e6, Agent: rig.Bed.Agent,
	}
	if rig.Bed.AgentG != nil {
		in.AgentG = *rig.Bed.AgentG
	}
	lie := s.Make.Layout.Lie
	if lie.Sheltered != nil && *lie.Sheltered {
		in.Shelter = "tree"
	}
	if rig.Bed.DrainMm > 0 {
		in.Drain = "hole"
	} else if lie.SlopeDeg != nil && *lie.SlopeDeg >= runsOffDeg {
		in.Drain = "slope"
	}
	from, end := w.date(s.Make.BuiltAt), w.date(until)
	for _, look := range s.Looks {
		if look.At.After(until) || look.Bed == "" && !look.Bailed && look.AgentG == nil {
			continue
		}
		out, dry, ok := through(in, days, from, w.date(look.At))
		if !ok {
			return out, in, 0, false
		}
		if missing += dry; look.Bailed || slices.Contains([]string{"dry", "damp", "wet"}, look.Bed) {
			missing = 0
		}
		in.StandsMm, in.AgentG, from = felt(out.WaterMm, look.Bed), out.AgentG, w.date(look.At)
		if look.Bailed {
			in.StandsMm = 0
		}
		if look.AgentG != nil {
			if in.Agent == "" {
				in.Agent = "salt"
			}
			in.AgentG += *look.AgentG
		}
	}
	out, dry, ok := through(in, days, from, end)
	return out, in, missing + dry, ok
}

func (w *sky) date(t time.Time) string { return t.In(w.Zone).Format(time.DateOnly) }

// through goes through the days from one date to before another, and says how many of them have no weather.
func through(in bed.WaterInput, days []weather.Day, from, to string) (out bed.WaterOutput, missing int, ok bool) {
	for _, d := range days {
		if d.Date >= from && d.Date < to && d.Hours > 0 {
			in.RainMm, in.MeanC = append(in.RainMm, d.RainMm), append(in.MeanC, d.MeanC)
		}
	}
	first, _ := time.Parse(time.DateOnly, from)
	last, _ := time.Parse(time.DateOnly, to)
	missing = max(0, int(last.Sub(first).Hours()/24)-len(in.RainMm))
	out, err := bed.Water(in)
	return out, missing, err == nil
}

// felt is the water in a bed that a look felt; what it does not say of water leaves it as computed.
func felt(waterMm float64, bed string) float64 {
	switch bed {
	case "dry":
		return 0
	case "damp":
		return feltDampMm
	case "wet":
		return math.Max(waterMm, feltWetMm)
	}
	return waterMm
}

// freezesIn is the day before the first coming morning on which the frost holds an anchor; blank where none does.
func freezesIn(s Spot) string {
	for _, m := range s.Mornings {
		if m.DepthMm > frozenInMm {
			day, err := time.Parse(time.DateOnly, m.Date)
			if err != nil {
				return ""
			}
			return day.AddDate(0, 0, -1).Format(time.DateOnly)
		}
	}
	return ""
}
