package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"github.com/invopop/jsonschema"

	"oldburrow/core/advice"
	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/asked"
	"oldburrow/core/bed"
	"oldburrow/core/book"
	"oldburrow/core/gauge"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/odds"
	"oldburrow/core/page"
	"oldburrow/core/pan"
	"oldburrow/core/promise"
	"oldburrow/core/shed"
	"oldburrow/exchange"
)

// list is a list of keys of the core under the name that the interface knows it by. The first list of a type is the whole of it: whatever
// is of that type is one of its keys, or blank where it may say nothing.
type list struct {
	name string
	keys []string
	of   reflect.Type // string for keys that are no type of their own
	may  bool         // be blank
}

func keysOf[T ~string](name string, keys []T) list {
	l := list{name: name, of: reflect.TypeFor[T]()}
	for _, key := range keys {
		l.keys = append(l.keys, string(key))
	}
	return l
}

// orBlank is a type of keys that may say nothing.
func orBlank[T ~string](name string, keys []T) list {
	l := keysOf(name, keys)
	l.may = true
	return l
}

// askedPaths are how the paths of what only computes begin, of all or of those that take seconds.
func askedPaths(slow bool) (stems []string) {
	for _, r := range asked.Routes() {
		if stem, _, _ := strings.Cut(r.Path, ":"); !slow || r.Slow {
			stems = append(stems, stem)
		}
	}
	return stems
}

// pagePaths are how the paths of what is asked of a line begin, below its own.
func pagePaths() (stems []string) {
	for _, r := range page.Routes() {
		stem, _, _ := strings.Cut(r.Path, ":")
		stems = append(stems, stem)
	}
	return stems
}

func lists() []list {
	all := []list{
		{name: "askedPaths", keys: askedPaths(false), of: reflect.TypeFor[string]()}, {name: "slowPaths", keys: askedPaths(true), of: reflect.TypeFor[string]()}, {name: "pagePaths", keys: pagePaths(), of: reflect.TypeFor[string]()}, orBlank("roles", append(slices.Clone(line.GivenRoles), line.Owner)), keysOf("givenRoles", line.GivenRoles),
		keysOf("actKinds", line.ActKinds), keysOf("worthKinds", line.WorthKinds), keysOf("beadStates", line.BeadStates),
		keysOf("places", shed.PlaceKinds), orBlank("bars", shed.Bars), orBlank("oldBys", shed.OldBys), keysOf("eventKinds", shed.EventKinds),
		orBlank("verdicts", shed.Verdicts), orBlank("turnings", gauge.Turnings), keysOf("remarkKeys", layout.RemarkKeys), keysOf("sureties", anchor.Sureties), keysOf("whens", anchor.Whens),
		keysOf("targets", animal.Reference.TargetKeys()), keysOf("animals", animal.Reference.Keys()), keysOf("pets", animal.Reference.PetKeys()),

		orBlank("soils", ground.Soils), orBlank("wetnesses", ground.Wetnesses), orBlank("surfaces", ground.Surfaces),
		orBlank("signKinds", line.SignKinds), orBlank("signAges", line.SignAges), keysOf("holdsTrack", line.HoldsTrack), keysOf("metKinds", line.MetKinds),
		keysOf("featureKinds", ground.FeatureKinds), keysOf("fallKinds", line.FallKinds), keysOf("readingKinds", line.ReadingKinds), orBlank("ages", append(odds.Ages, odds.AgeUnsaid)),
		orBlank("throughs", layout.Throughs), keysOf("canBeThere", line.CanBeThere()), keysOf("askedOfPlaces", append(layout.Questions(), "snow")),

		keysOf("patterns", layout.PatternKeys()), orBlank("setKinds", layout.Kinds), orBlank("shows", layout.Shows), keysOf("backings", layout.Backings), orBlank("spoils", layout.Spoils), orBlank("handsUsed", layout.HandsUsed), orBlank("mouths", layout.Mouths), orBlank("feels", layout.Feels), orBlank("forms", line.Forms), keysOf("renewals", line.Renewals), keysOf("trapOuts", line.TrapOuts), keysOf("anchorOuts", line.AnchorOuts), keysOf("chores", line.Chores), keysOf("causes", advice.CauseKeys()), keysOf("mends", advice.MendKeys()), keysOf("sures", advice.Sures), orBlank("deeds", advice.Deeds), orBlank("becauses", advice.Becauses), orBlank("barrens", advice.Barrens), keysOf("sinceSays", advice.SaysKeys), keysOf("jobKinds", advice.JobKinds), orBlank("wraps", layout.Wraps), orBlank("chainLies", layout.ChainLies), orBlank("jawGuards", layout.JawGuards),
		keysOf("attractorKinds", layout.AttractorKinds), keysOf("smellKinds", layout.SmellKinds), keysOf("lureClasses", line.LureClasses), orBlank("carriers", layout.Carriers),
		keysOf("smellPlaces", layout.SmellPlaces), keysOf("plugs", layout.Plugs), keysOf("guideKinds", layout.GuideKinds), orBlank("betweens", layout.Betweens),
		keysOf("devices", layout.Devices), orBlank("panOvers", layout.PanOvers), orBlank("panUnders", layout.PanUnders),
		orBlank("covers", pan.Materials), keysOf("offeredCovers", pan.Offered), orBlank("agents", mix.Agents), keysOf("partKinds", mix.PartKinds), keysOf("measuredBy", mix.Bys),
		keysOf("anchors", layout.AnchorKinds), keysOf("dragKinds", layout.DragKinds), keysOf("ends", layout.Ends), orBlank("dragCovers", layout.DragCovers),
		keysOf("sightBys", layout.SightBys), keysOf("whyNever", layout.Whys), keysOf("remedyKeys", odds.RemedyKeys()), keysOf("termKeys", odds.TermKeys()), keysOf("unknownKeys", odds.Unknowns), keysOf("levelKeys", learn.LevelKeys), keysOf("bys", book.Bys), orBlank("cameSays", promise.SaysKeys), keysOf("layoutParts", layout.Parts), orBlank("links", odds.LinkKeys),

		keysOf("trapTypes", line.TrapTypes), keysOf("trapsWithJaws", line.TypesWithJaws), orBlank("jawForms", line.JawForms), keysOf("checkKeys", line.CheckKeys),
		keysOf("kitGroups", shed.Groups), orBlank("kitLacks", shed.Lacks), orBlank("aways", line.Aways), keysOf("kitMarks", line.Marks), keysOf("encodings", exchange.Encodings()),

		orBlank("findings", line.Findings), orBlank("evidence", line.Evidences), orBlank("sides", line.Sides), orBlank("bedsFelt", line.BedsFelt), keysOf("locks", line.Locks), orBlank("winds", line.Winds),
		keysOf("conditions", line.Conditions), keysOf("rigStates", line.RigStates), orBlank("sexes", line.Sexes), orBlank("feet", line.Feet), orBlank("holds", line.Holds),
		keysOf("canHold", line.FindingsThat(func(f line.Facts) bool { return f.Holds })), keysOf("oddKinds", line.OddKinds), orBlank("whys", line.Whys), keysOf("bedWords", bed.Words),
	}
	for _, answer := range line.Answers {
		name := "found" + strings.ToUpper(string(answer[:1])) + string(answer[1:])
		all = append(all, keysOf(name, line.FindingsThat(func(f line.Facts) bool { return f.Answer == answer })))
	}
	return all
}

// vocabulary are the types of keys as the schema knows them, by their name there.
func vocabulary() map[string]list {
	types := map[string]list{}
	for _, l := range lists() {
		if name := wireName(l.of); l.of.PkgPath() != "" && types[name].of == nil {
			types[name] = l
		}
	}
	return types
}

// schema is that of a type of keys.
func (l list) schema() *jsonschema.Schema {
	is := &jsonschema.Schema{Type: "string"}
	if l.may {
		is.Enum = append(is.Enum, "")
	}
	for _, key := range l.keys {
		is.Enum = append(is.Enum, key)
	}
	return is
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
		fmt.Fprintf(&out, "export const %s = %s as const;\n", l.name, keys)
	}
	return out.Bytes(), nil
}
