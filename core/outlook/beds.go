package outlook

import (
	"math"
	"slices"
	"time"

	"oldburrow/core/bed"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/pan"
	"oldburrow/core/weather"
)

// BedNow is the water that stands in the bed of a rig by the weather since it was built, mm, how strong what was put in against freezing
// is in it, where it freezes, what that asks for in a word, and about how much would keep it open, g. Felt is how a look found it last.
type BedNow struct {
	Slot       int          `json:"slot"`
	WaterMm    float64      `json:"waterMm"`
	Percent    float64      `json:"percent"`
	FreezesAtC float64      `json:"freezesAtC"`
	Word       bed.Word     `json:"word"`
	Agent      mix.Agent    `json:"agent"`
	RenewG     float64      `json:"renewG"`
	Felt       line.BedFelt `json:"felt"`
	Missing    int          `json:"missing"`
}

// How a bed that a look felt stands, mm, and from which slope on water runs off it. Judgements.
const (
	feltDampMm = 1.0
	feltWetMm  = 8.0
	runsOffDeg = 5.0
)

// beds are those of a standing set as they are now, before the coldest hour of the coming night; none where the spot's soil is not known.
func (w *sky) beds(s Standing, spot line.Spot, tonight *weather.Night, on layout.Underfoot) []BedNow {
	found := []BedNow{}
	coldest := math.Inf(1)
	if tonight != nil {
		coldest = tonight.ColdestC
	}
	for _, rig := range s.Make.Layout.Rigs {
		b, in, missing, ok := w.wet(s, rig, spot, w.Now)
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
		if asks := one.Felt == line.FeltCrusted || one.Felt == line.FeltRocks && !on.Frozen; asks && word != bed.WillLock && word != bed.Bail {
			one.Word = bed.Word(one.Felt)
		}
		found = append(found, one)
	}
	return found
}

// stoodWet tells whether water that stood in a bed of a set before a night froze in it.
func (w *sky) stoodWet(s Standing, spot line.Spot, night weather.Night) bool {
	for _, rig := range s.Make.Layout.Rigs {
		b, in, _, ok := w.wet(s, rig, spot, night.From)
		if word, _ := b.Stands(in, nil, night.ColdestC); ok && word == bed.WillLock {
			return true
		}
	}
	return false
}

func layersOf(rig layout.Rig) []pan.Material {
	var layers []pan.Material
	for _, layer := range rig.Cover {
		layers = append(layers, layer.Material)
	}
	return layers
}

// wet goes through the hours from a make to a time. Looks on the way set the water, or say what was done to it. Missing is for how many
// days' hours there is no weather since the water was known last.
func (w *sky) wet(s Standing, rig layout.Rig, spot line.Spot, until time.Time) (out bed.WaterOutput, in bed.WaterInput, missing int, ok bool) {
	size, err := s.Make.Layout.BedOf(rig)
	spot = spot.Reckoned()
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
	from := s.Make.BuiltAt
	for _, look := range s.Looks {
		if look.At.After(until) || look.Bed == "" && !look.Bailed && look.AgentG == nil {
			continue
		}
		out, dry, ok := w.through(in, from, look.At)
		if !ok {
			return out, in, 0, false
		}
		if missing += dry; look.Bailed || slices.Contains(line.Waters, look.Bed) {
			missing = 0
		}
		in.StandsMm, in.AgentG, from = felt(out.WaterMm, look.Bed), out.AgentG, look.At
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
	out, dry, ok := w.through(in, from, until)
	return out, in, missing + dry, ok
}

// through goes through the hours from one time to before another, a day of them at a time: rain from before the bed was made is not in it,
// and that of this morning is. It says for how many days' hours there is no weather.
func (w *sky) through(in bed.WaterInput, from, to time.Time) (out bed.WaterOutput, missing int, ok bool) {
	lacks := 0.0
	if len(w.hours) > 0 && from.Before(w.hours[0].At) { // of what was before nothing is known
		lacks, from = w.hours[0].At.Sub(from).Hours(), w.hours[0].At
	}
	for ; from.Before(to); from = from.Add(24 * time.Hour) {
		end := from.Add(24 * time.Hour)
		if to.Before(end) {
			end = to
		}
		hours := w.hours[w.first(from):w.first(end)]
		n, rain, warmth := float64(len(hours)), 0.0, 0.0
		for _, h := range hours {
			rain, warmth = rain+h.RainMm, warmth+h.TempC
		}
		lasted := end.Sub(from).Hours()
		if n > 0 {
			in.RainMm, in.MeanC, in.Hours = append(in.RainMm, rain), append(in.MeanC, warmth/n), append(in.Hours, lasted)
		}
		lacks += math.Max(0, lasted-n)
	}
	out, err := bed.Water(in)
	return out, int(math.Round(lacks / 24)), err == nil
}

// first is where the hours begin that are no earlier than a time.
func (w *sky) first(t time.Time) int {
	i, _ := slices.BinarySearchFunc(w.hours, t, func(h weather.Hour, t time.Time) int { return h.At.Compare(t) })
	return i
}

// felt is the water in a bed that a look felt; what it does not say of water leaves it as computed.
func felt(waterMm float64, bed line.BedFelt) float64 {
	switch bed {
	case line.FeltDry:
		return 0
	case line.FeltDamp:
		return feltDampMm
	case line.FeltWet, line.FeltFlooded:
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
