package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/odds"
	"oldburrow/core/pan"
	"oldburrow/exchange"
)

// list is an enumeration of the core under the name that the interface knows it by.
type list struct {
	name string
	keys []string
}

func lists() []list {
	all := []list{
		{"targets", animal.TargetKeys()}, {"animals", animal.Keys()}, {"pets", animal.PetKeys()},
		{"soils", ground.Soils()}, {"wetnesses", ground.Wetnesses()}, {"surfaces", ground.Surfaces()},
		{"signKinds", line.SignKinds()}, {"signAges", line.SignAges()}, {"holdsTrack", line.HoldsTrack()}, {"metKinds", line.MetKinds()},
		{"fallKinds", line.FallKinds()}, {"readingKinds", line.ReadingKinds()},
		{"covers", pan.MaterialKeys()}, {"shows", layout.Shows()}, {"backings", layout.Backings()}, {"anchors", layout.Anchors()}, {"dragKinds", layout.DragKinds()}, {"dragCovers", layout.DragCovers()}, {"ends", layout.Ends()}, {"agents", mix.Agents()}, {"betweens", layout.Betweens()}, {"panOvers", layout.PanOvers()}, {"panUnders", layout.PanUnders()},
		{"remedyKeys", odds.RemedyKeys()}, {"sightBys", layout.SightBys()}, {"whyNever", layout.Whys()}, {"termKeys", odds.TermKeys()}, {"unknownKeys", odds.UnknownKeys()},
		{"offeredCovers", pan.OfferedKeys()}, {"throughs", layout.Throughs()}, {"canBeThere", line.CanBeThere()}, {"askedOfPlaces", append(layout.Asked(), "snow")}, {"setKinds", layout.Kinds()},
		{"plugs", layout.Plugs()}, {"guideKinds", layout.GuideKinds()},
		{"trapTypes", line.TrapTypes()}, {"trapsWithJaws", line.TypesWithJaws()}, {"jawForms", line.JawForms()}, {"checkKeys", line.CheckKeys()},
		{"aways", line.Aways()[1:]}, {"encodings", exchange.Encodings()},
		{"lureClasses", line.LureClasses()}, {"measuredBy", mix.Bys()},
		{"evidence", line.Evidence()}, {"sides", line.Sides()}, {"bedsFelt", line.BedsFelt()}, {"locks", line.Locks()}, {"winds", line.Winds()}, {"conditions", line.Conditions()}, {"rigStates", line.RigStates()}, {"sexes", line.Sexes()}, {"feet", line.Feet()}, {"holds", line.Holds()},
	}
	for _, answer := range line.Answers() {
		all = append(all, list{"found" + strings.ToUpper(answer[:1]) + answer[1:], line.FindingsOf(answer)})
	}
	return all
}

// Lists writes the enumerations of the core as the interface reads them: one is kept, here.
func Lists() ([]byte, error) {
	var out bytes.Buffer
	out.WriteString("/* Made by `make types` from the core's own lists. */\n\n")
	for _, l := range lists() {
		keys, err := json.Marshal(l.keys)
		if err != nil {
			return nil, err
		}
		fmt.Fprintf(&out, "export const %s: string[] = %s;\n", l.name, keys)
	}
	return out.Bytes(), nil
}
