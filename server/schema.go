package server

import (
	"encoding/json"
	"fmt"
	"path"
	"reflect"
	"strings"

	"github.com/invopop/jsonschema"

	"oldburrow/archive"
	"oldburrow/core/asked"
	"oldburrow/core/book"
	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/nights"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/page"
	"oldburrow/core/shed"
	"oldburrow/exchange"
	"oldburrow/store"
)

// wire is everything that crosses between the program and the browser.
type wire struct {
	Program     Program           `json:"program"`
	SignIn      SignIn            `json:"signIn"`
	Chosen      Chosen            `json:"chosen"`
	Code        Code              `json:"code"`
	SignedIn    SignedIn          `json:"signedIn"`
	DoorView    DoorView          `json:"doorView"`
	CodeAsked   CodeAsked         `json:"codeAsked"`
	CodeMade    CodeMade          `json:"codeMade"`
	LineView    page.LineView     `json:"lineView"`
	Ground      page.Ground       `json:"ground"`
	Book        page.BookView     `json:"book"`
	Stories     page.StoriesView  `json:"stories"`
	Apart       page.ApartView    `json:"apart"`
	Heap        page.NightsView   `json:"heap"`
	Showed      page.ShowedView   `json:"showed"`
	Compared    book.Compared     `json:"compared"`
	Season      line.Season       `json:"season"`
	Stood       []line.Stood      `json:"stood"`
	Sign        line.Sign         `json:"sign"`
	Visit       line.Visit        `json:"visit"`
	Pull        line.Pull         `json:"pull"`
	Day         page.Day          `json:"day"`
	Fix         ground.Fix        `json:"fix"`
	Mend        line.Mend         `json:"mend"`
	Correction  line.Correction   `json:"correction"`
	Remake      page.RemakeView   `json:"remake"`
	Means       page.MeansView    `json:"means"`
	Works       page.WorksView    `json:"works"`
	Jobs        page.JobsView     `json:"jobs"`
	Mended      page.MendedView   `json:"mended"`
	Done        DoneView          `json:"done"`
	Question    asked.Question    `json:"question"`
	Answer      odds.Answer       `json:"answer"`
	Following   asked.Following   `json:"following"`
	Progress    asked.Progress    `json:"progress"`
	Comparing   asked.Comparing   `json:"comparing"`
	Difference  odds.Difference   `json:"difference"`
	Next        nights.Next       `json:"next"`
	Stance      odds.Stance       `json:"stance"`
	Lessons     []odds.Lesson     `json:"lessons"`
	Patterns    page.PatternsView `json:"patterns"`
	Repattern   page.Repattern    `json:"repattern"`
	Repatterned page.Repatterned  `json:"repatterned"`
	ReachAsked  page.ReachAsked   `json:"reachAsked"`

	CircumstancesAsked page.CircumstancesAsked `json:"circumstancesAsked"`
	CircumstancesView  page.CircumstancesView  `json:"circumstancesView"`
	ReachView          page.ReachView          `json:"reachView"`
	Problem            Problem                 `json:"problem"`
	Moving             Moving                  `json:"moving"`
	Saving             Saving                  `json:"saving"`
	Backup             Backup                  `json:"backup"`
	// Archives hold these, and what is above.
	Manifest      archive.Manifest    `json:"manifest"`
	HourOfWeather store.HourOfWeather `json:"hourOfWeather"`
	TrapVersion   shed.TrapVersion    `json:"trapVersion"`
	Set           line.Set            `json:"set"`
	Design        line.Design         `json:"design"`
	Moment        Moment              `json:"moment"`
	Kinds         []ground.Kind       `json:"kinds"`
	Photo         line.Photo          `json:"photo"`
	Place         PlaceRead           `json:"place"`
	Report        exchange.Report     `json:"report"`
	Bring         Bring               `json:"bring"`
	Brought       Brought             `json:"brought"`
	Weather       page.WeatherView    `json:"weather"`
	PlaceQuestion outlook.Question    `json:"placeQuestion"`
	PlaceAnswer   outlook.Places      `json:"placeAnswer"`
	LogPreview    LogPreview          `json:"logPreview"`
	Rack          page.Rack           `json:"rack"`
	RackPreview   RackPreview         `json:"rackPreview"`
	TrapsToBring  TrapsToBring        `json:"trapsToBring"`
	BroughtTraps  BroughtTraps        `json:"broughtTraps"`
	Events        []shed.Event        `json:"events"`
	ShedCheck     line.ShedCheck      `json:"shedCheck"`
	Measurement   line.Measurement    `json:"measurement"`
	Calibration   line.Calibration    `json:"calibration"`
	PanQuestion   shed.PanQuestion    `json:"panQuestion"`
	PanAnswer     shed.PanAnswer      `json:"panAnswer"`
	Ask           Ask                 `json:"ask"`
	PressRead     PressRead           `json:"pressRead"`
	Shelf         page.Shelf          `json:"shelf"`
	Level         line.Level          `json:"level"`
	Dose          line.Dose           `json:"dose"`
	Mixture       mix.MixtureInput    `json:"mixture"`
	Mixed         mix.MixtureOutput   `json:"mixed"`
	Bedding       mix.BeddingInput    `json:"bedding"`
	Antifreeze    mix.BeddingOutput   `json:"antifreeze"`
	Kit           shed.Kit            `json:"kit"`
	KitMark       line.KitMark        `json:"kitMark"`
	Health        Health              `json:"health"`
	Log           Log                 `json:"log"`
	BroughtHours  BroughtHours        `json:"broughtHours"`
	BundleAsked   BundleAsked         `json:"bundleAsked"`
	BundleView    BundleView          `json:"bundleView"`
}

// Schema is the JSON Schema of everything that crosses the wire. The interface's types are generated from it.
func Schema() ([]byte, error) {
	named := map[string]reflect.Type{}
	var twice error
	keys := vocabulary()
	reflector := jsonschema.Reflector{Anonymous: true, Mapper: func(t reflect.Type) *jsonschema.Schema {
		if name := wireName(t); keys[name].of == t {
			return &jsonschema.Schema{Ref: "#/$defs/" + name}
		}
		return nil
	}, Namer: func(t reflect.Type) string {
		name := wireName(t)
		if before, ok := named[name]; ok && before != t && name != "" {
			twice = fmt.Errorf("two types are called %s on the wire: %s and %s", name, before, t)
		}
		named[name] = t
		return name
	}}
	schema := reflector.Reflect(wire{})
	if twice != nil {
		return nil, twice
	}
	schema.ID = ""
	for name, list := range keys {
		schema.Definitions[name] = list.schema()
	}
	raw, err := json.MarshalIndent(schema, "", "  ")
	return append(raw, '\n'), err
}

// wireName names a type by itself, and with its package's name before it where two packages use the same word or the
// browser has one of its own.
func wireName(t reflect.Type) string {
	switch name := t.Name(); name {
	case "Output", "Map", "Set", "Trap":
		of := path.Base(t.PkgPath())
		return strings.ToUpper(of[:1]) + of[1:] + name
	case "Side":
		if path.Base(t.PkgPath()) == "line" {
			return "LookSide"
		}
	case "Why":
		return map[string]string{"line": "WhyOdd", "layout": "WhyNever"}[path.Base(t.PkgPath())]
	case "Soil":
		if path.Base(t.PkgPath()) == "ground" {
			return "SoilKind"
		}
	case "Kind":
		if path.Base(t.PkgPath()) == "layout" {
			return "SetKind"
		}
	case "Word":
		return "BedWord"
	case "Spot", "Question":
		if path.Base(t.PkgPath()) == "outlook" {
			return "Outlook" + name
		}
	case "Event":
		return "TrapEvent"
	case "Caught":
		return "CaughtAnimal"
	case "Rate":
		return "RateRow"
	case "Night":
		if path.Base(t.PkgPath()) == "book" {
			return "BookNight"
		}
	case "Pattern":
		if path.Base(t.PkgPath()) == "line" {
			return "OwnPattern"
		}
	case "Recipe":
		if path.Base(t.PkgPath()) == "line" {
			return "NamedRecipe"
		}
	case "Problem":
		if path.Base(t.PkgPath()) == "refuse" {
			return "FieldProblem"
		}
	}
	return t.Name()
}
