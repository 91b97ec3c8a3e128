// Package calc runs every calculator of the core by its name, from one JSON object to another. It is the contract that the
// command line and the HTTP interface share.
package calc

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"oldburrow/core/advice"
	"oldburrow/core/anchor"
	"oldburrow/core/bed"
	"oldburrow/core/craft"
	"oldburrow/core/gauge"
	"oldburrow/core/ground"
	"oldburrow/core/learn"
	"oldburrow/core/mix"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/rules"
	"oldburrow/core/scent"
	"oldburrow/core/tally"
)

// ErrUnknown is returned for a name that no calculator has.
var ErrUnknown = errors.New("no such calculator")

var calculators = map[string]func([]byte) (any, error){
	"footfall":       from(footfallDefaults, footfallOf),
	"pattern":        from(patternDefaults, patternOf),
	"fire":           from(nothing[fireInput], fireOf),
	"cover":          from(nothing[pan.CoverInput], pan.Cover),
	"standoff":       from(nothing[standoffInput], standoffOf),
	"bed":            from(bed.Defaults, bed.Of),
	"rate":           from(tally.RateDefaults, tally.Rate),
	"due":            from(nothing[round.DueInput], round.Due),
	"scent":          from(nothing[scent.Input], scent.Coverage),
	"tension-window": from(windowDefaults, windowOf),
	"freeze-point":   from(nothing[mix.FreezePointInput], mix.FreezePoint),
	"freeze-protect": from(nothing[mix.FreezeProtectInput], mix.FreezeProtect),
	"dilute":         from(nothing[mix.DiluteInput], mix.Dilute),
	"mixture":        from(nothing[mix.MixtureInput], mix.Mixture),
	"antifreeze":     from(nothing[mix.BeddingInput], mix.Bedding),
	"measure":        from(gauge.MeasureDefaults, gauge.Of),
	"frost":          from(nothing[ground.FrostInput], ground.Frost),
	"pull":           from(nothing[pullInput], pullOf),
	"holding":        from(anchor.HoldingDefaults, anchor.Holding),
	"chain":          from(chainDefaults, chainOf),
	"circle":         from(circleDefaults, circleOf),
	"bed-water":      from(nothing[bed.WaterInput], bed.Water),
	"suits":          from(nothing[suitsInput], suitsOf),
	"learn":          from(nothing[learn.Input], learn.Of),
	"leaks":          from(nothing[learn.LeaksInput], learn.Leaks),
	"stance":         from(nothing[learn.StanceInput], learn.Stance),
	"first-catch":    from(nothing[learn.FirstCatchInput], learn.FirstCatch),
	"compare":        from(nothing[tally.CompareInput], tally.Compare),
	"order":          from(nothing[craft.OrderInput], craft.Order),
	"judge":          from(nothing[rules.JudgeInput], rules.Judge),
	"causes":         from(nothing[advice.CausesInput], advice.Causes),
	"wait":           from(nothing[advice.WaitInput], advice.Wait),
	"work":           from(nothing[advice.WorkInput], advice.Work),
}

// Names lists the calculators.
func Names() []string { return slices.Sorted(maps.Keys(calculators)) }

// Run decodes the input over the calculator's defaults, computes, and encodes the output. Missing, unknown, wrongly typed
// and impossible fields are refused by name with refuse.Problems.
func Run(name string, input []byte) ([]byte, error) {
	compute, ok := calculators[name]
	if !ok {
		return nil, fmt.Errorf("%w as %q: there are %s", ErrUnknown, name, strings.Join(Names(), ", "))
	}
	out, err := compute(input)
	if err != nil {
		return nil, err
	}
	return json.Marshal(out)
}

func nothing[I any]() I {
	var zero I
	return zero
}

// from makes a calculator of its defaults and its function.
func from[I, O any](defaults func() I, compute func(I) (O, error)) func([]byte) (any, error) {
	return func(raw []byte) (any, error) {
		in := defaults()
		if err := decode(raw, &in); err != nil {
			return nil, err
		}
		return compute(in)
	}
}

// decode reads one JSON object strictly. A field without omitempty must be there.
func decode(raw []byte, into any) error {
	var object map[string]any
	if err := json.Unmarshal(raw, &object); err != nil || object == nil {
		return refuse.Field("input", "must be one JSON object")
	}
	var p refuse.Problems
	missing(&p, "", object, reflect.TypeOf(into).Elem())
	if err := p.Err(); err != nil {
		return err
	}
	reader := json.NewDecoder(bytes.NewReader(raw))
	reader.DisallowUnknownFields()
	err := reader.Decode(into)
	var wrong *json.UnmarshalTypeError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &wrong):
		field := wrong.Field
		if what, rest, ok := strings.Cut(field, "Input."); ok && !strings.Contains(what, ".") {
			field = rest // of what is embedded, the decoder tells the name too
		}
		return refuse.Field(field, "must be %s, not %s", wanted(wrong.Type), wrong.Value)
	case strings.HasPrefix(err.Error(), "json: unknown field "):
		return refuse.Field(strings.Trim(strings.TrimPrefix(err.Error(), "json: unknown field "), `"`), "is not a field of this calculation")
	}
	return refuse.Field("input", "cannot be read: %s", err)
}

// missing notes the required fields that an object lacks, also inside its objects and lists of objects.
func missing(p *refuse.Problems, path string, object map[string]any, want reflect.Type) {
	for i := range want.NumField() {
		field := want.Field(i)
		if field.Anonymous {
			missing(p, path, object, field.Type)
			continue
		}
		name, options, _ := strings.Cut(field.Tag.Get("json"), ",")
		if name == "-" || !field.IsExported() {
			continue
		}
		value, there := object[name]
		if value == nil {
			if !strings.Contains(options, "omitempty") {
				p.Add(path+name, "is missing")
			} else if there && field.Tag.Get("jsonschema") != "nullable" {
				p.Add(path+name, "must not be null: give a value or leave it out")
			}
			continue
		}
		if inner, ok := value.(map[string]any); ok && field.Type.Kind() == reflect.Struct {
			missing(p, path+name+".", inner, field.Type)
		}
		items, ok := value.([]any)
		if !ok || field.Type.Kind() != reflect.Slice || field.Type.Elem().Kind() != reflect.Struct {
			continue
		}
		for k, item := range items {
			if inner, ok := item.(map[string]any); ok {
				missing(p, fmt.Sprintf("%s%s[%d].", path, name, k), inner, field.Type.Elem())
			}
		}
	}
}

func wanted(t reflect.Type) string {
	switch t.Kind() {
	case reflect.Float64:
		return "a number"
	case reflect.Int, reflect.Uint64:
		return "a whole number"
	case reflect.Bool:
		return "true or false"
	case reflect.String:
		return "a text"
	case reflect.Slice:
		return "a list"
	}
	return "an object"
}
