package e2e

import (
	"fmt"
	"maps"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/schools"
)

// ownLeaves are those of a layout that nobody says: its form, what follows from its pattern, by what its parts know each other, and which bottle of the
// shelf has the name that was said.
var ownLeaves = []string{
	"schema", "kind", "pattern", "attractors[].slot", "attractors[].kind", "attractors[].smells[].lureId", "aside[].lureId", "rigs[].slot", "rigs[].device",
	"rigs[].anchorSlot", "anchors[].slot",
}

// hangs is what else changes with a leaf, beside what lies in the same part.
var hangs = map[string][]string{
	"rigs[].pan.xMm": {"rigs[].xMm", "anchors[].xMm"}, "rigs[].pan.yMm": {"rigs[].yMm", "anchors[].yMm"},
	"rigs[].trapId":  {"rigs[].name", "rigs[].jaws.spreadMm", "rigs[].jaws.frameMm", "rigs[].jaws.heightMm", "rigs[].pan.diameterMm", "rigs[].pan.gaugeN", "rigs[].swivels", "rigs[].spring"},
	"anchors[].kind": {"anchors[].lengthMm"}, "rigs[].bed.agent": {"rigs[].bed.agentG"}, "at.latDeg": {"at.lonDeg"}, "at.lonDeg": {"at.latDeg"},
	"attractors[].smells[].name": {"attractors[].smells[].lureId", "attractors[].smells[].kind"}, "aside[].name": {"aside[].lureId", "aside[].kind"},
	"anchors[].ends[].kind": {"anchors[].ends[].lengthMm"},
}

// leaves are those of a type, as paths in the JSON.
func leaves(of reflect.Type, at string) (found []string) {
	switch of.Kind() {
	case reflect.Pointer:
		return leaves(of.Elem(), at)
	case reflect.Slice, reflect.Array:
		return leaves(of.Elem(), at+"[]")
	case reflect.Struct:
		for i := range of.NumField() {
			name, _, _ := strings.Cut(of.Field(i).Tag.Get("json"), ",")
			found = append(found, leaves(of.Field(i).Type, strings.TrimPrefix(at+"."+name, "."))...)
		}
		return found
	}
	return []string{at}
}

var indices = regexp.MustCompile(`\[\d+\]`)

func leafOf(path string) string { return indices.ReplaceAllString(path, "[]") }

// flat is every leaf that stands in a JSON, by its path.
func flat(x any, at string, into map[string]any) map[string]any {
	switch x := x.(type) {
	case map[string]any:
		for key, value := range x {
			flat(value, strings.TrimPrefix(at+"."+key, "."), into)
		}
	case []any:
		for i, value := range x {
			flat(value, fmt.Sprintf("%s[%d]", at, i), into)
		}
	default:
		into[at] = x
	}
	return into
}

// spoken are sets that have every part between them.
func spoken(t *testing.T) []layout.Layout {
	made := func(pattern string, also func(*layout.Layout)) layout.Layout {
		l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
		if err != nil {
			t.Fatal(err)
		}
		also(&l)
		return l
	}
	return []layout.Layout{
		made("hole", func(l *layout.Layout) {
			l.Guides[0].LengthMm = 200
			l.Rigs[0].Bed.Agent, l.Rigs[0].Bed.AgentG = "salt", new(60.0)
			l.Attractors[0].Smells[1].HeightMm = 20
		}),
		made("trench", func(l *layout.Layout) { l.Anchors[0].Kind, l.Anchors[0].LengthMm = layout.Crossed, 600 }),
		made("trail_pair", func(l *layout.Layout) {
			l.Aside = []layout.Smell{{Kind: layout.Call, Name: "a call", Place: "beside", HeightMm: 900}}
		}),
		made("pull_stick", func(l *layout.Layout) {
			l.Attractors[0].Wrap = "wool"
			l.Anchors[0] = layout.Anchor{Kind: "toggle"}
		}),
		made("cable_crawl", func(l *layout.Layout) {
			l.Anchors[0].Ends = []layout.End{{Kind: "stake", LengthMm: 500}, {Kind: "stake", LengthMm: 500}}
		}),
		made("spring_hole", func(*layout.Layout) {}),
		made("tree_hole", func(*layout.Layout) {}),
	}
}

// turn changes a control on the page, by its field, and gives what it is; blank where it could not be changed.
const turn = `(field, text) => {
	const control = document.querySelector('.recipe [data-field="' + field + '"]');
	if (!control) return '';
	if (control.getAttribute('role') === 'group') {
		control.querySelector('button[aria-pressed=false]').click();
		return 'words';
	}
	const set = (value) => {
		Object.getOwnPropertyDescriptor(Object.getPrototypeOf(control), 'value').set.call(control, value);
		control.dispatchEvent(new Event(control.tagName === 'SELECT' ? 'change' : 'input', { bubbles: true }));
	};
	if (control.tagName === 'SELECT') {
		const other = [...control.options].find((o) => o.value !== '' && o.value !== control.value && o.value !== 'none');
		if (!other) return '';
		set(other.value);
		return 'a list';
	}
	if (control.type === 'checkbox') {
		control.click();
		return 'a tick';
	}
	control.focus();
	set(text);
	control.blur();
	return 'text';
}`

// typed is what is typed to change a leaf: a length by a tenth, in its own unit, or other words.
func typed(path string, was any) string {
	by := func(unit string, begin float64) string {
		x, _ := was.(float64)
		if x == 0 {
			return fmt.Sprintf("%g%s", begin, unit)
		}
		return fmt.Sprintf("%.1f%s", 1.1*x, unit)
	}
	switch {
	case strings.HasPrefix(path, "at."):
		return "25"
	case strings.HasSuffix(path, "Mm"):
		return by(" mm", 37)
	case strings.HasSuffix(path, "Deg"):
		return by("", 15)
	case strings.HasSuffix(path, "swivels"):
		return "5"
	case strings.HasSuffix(path, "G"):
		return by(" g", 40)
	case strings.HasSuffix(path, "N"):
		return by(" N", 20)
	}
	return "said otherwise"
}

// Whatever a layout holds can be said on the bench: every leaf but the computer's own has a control, and what is changed there stands in what is
// saved, and nothing else does that does not hang on it.
func TestEveryPartCanBeSaid(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.atPace("/", 1280, 800, 4)
	w.see("Before light")
	lineID := p.lineNow().Line.ID
	spot := p.lineNow().Spots[0].ID
	wanted := slices.DeleteFunc(leaves(reflect.TypeFor[layout.Layout](), ""), func(leaf string) bool { return slices.Contains(ownLeaves, leaf) })
	if len(ownLeaves) > 12 || len(wanted) < 80 {
		t.Fatalf("%d leaves are the computer's own, %d are said", len(ownLeaves), len(wanted))
	}
	said := map[string]bool{}
	for _, l := range spoken(t) {
		design := line.Design{ID: ulid.Make().String(), LineID: lineID, SpotID: spot, Target: "coyote", Layout: l}
		path := "/lines/" + lineID + "/designs/" + design.ID
		p.put(path, design)
		saved := func() map[string]any {
			var raw map[string]any
			fetch(t, p.address, path, &raw)
			return flat(raw["layout"], "", map[string]any{})
		}
		w.open("/line/" + lineID + "/bench/" + design.ID)
		w.until("its steps are there", func() bool { return len(w.MustElements(".recipe .step")) > 4 })
		was := saved()
		for i := range w.MustElements(".recipe .step") {
			w.MustEval(`(i) => document.querySelectorAll('.recipe .step')[i].click()`, i)
			w.until("the step is open", func() bool {
				return w.MustEval(`(i) => document.querySelectorAll('.recipe .step')[i].parentElement.querySelector('.collapse.show, .collapsing, .fields') !== null`, i).Bool()
			})
			w.MustEval(`() => document.querySelectorAll('.recipe .fields button.word.quiet[aria-expanded=false]').forEach((b) => b.click())`)
			fields := func() (all []string) {
				for _, one := range w.MustEval(`() => [...document.querySelectorAll('.recipe .fields [data-field]')].map((e) => e.dataset.field)`).Arr() {
					all = append(all, one.Str())
				}
				return all
			}
			how, hung := map[string]string{}, []string{}
			for _, field := range fields() {
				leaf := leafOf(field)
				if said[leaf] || !slices.Contains(wanted, leaf) || !slices.Contains(fields(), field) {
					continue
				}
				if how[field] = w.MustEval(turn, field, typed(field, was[field])).Str(); how[field] == "" {
					delete(how, field)
					continue
				}
				said[leaf], hung = true, append(hung, hangs[leaf]...)
			}
			if len(how) == 0 {
				continue
			}
			var now map[string]any
			differs := func(field string) bool { return now[field] != was[field] }
			w.until(fmt.Sprint(slices.Sorted(maps.Keys(how)), " are saved"), func() bool {
				now = saved()
				return !slices.ContainsFunc(slices.Collect(maps.Keys(how)), func(field string) bool { return !differs(field) })
			})
			for at := range both(was, now) {
				if differs(at) && how[at] == "" && !slices.Contains(hung, leafOf(at)) {
					t.Errorf("with %v also %s is %v now, it was %v", how, at, now[at], was[at])
				}
			}
			was = now
		}
	}
	for _, leaf := range wanted {
		if !said[leaf] {
			t.Errorf("%s cannot be said", leaf)
		}
	}
	w.noErrors()
}

func both(a, b map[string]any) map[string]any {
	all := maps.Clone(a)
	maps.Copy(all, b)
	return all
}
