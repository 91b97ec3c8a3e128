package layout

import (
	"reflect"
	"slices"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/schools"
)

// Whatever is changed of a set is named, and nothing is where nothing is: each leaf of each part is moved.
func TestEveryLeafThatChangesIsNamed(t *testing.T) {
	for _, pattern := range []string{"hole", "trench", "trail_pair"} {
		l, err := New(pattern, Begin{Target: animal.Reference[0], Schools: schools.Usual()})
		if err != nil {
			t.Fatal(err)
		}
		if same := Changed(l, l.Clone()); len(same) != 0 {
			t.Errorf("%s: nothing was changed, and it says %q", pattern, same)
		}
		unfelt := l.Clone()
		unfelt.Rigs[0].Bed.Firm = nil
		if said := append(Changed(l, unfelt), Changed(unfelt, l)...); len(said) != 0 {
			t.Errorf("%s: a bed that was not felt is %q", pattern, said)
		}
		of := reflect.TypeOf(l)
		for i := range of.NumField() {
			name := of.Field(i).Name
			if name == "Schema" || name == "Kind" { // its form; a pattern is of one kind
				continue
			}
			for path, moved := range moves(reflect.ValueOf(l.Clone()).Field(i)) {
				other := l.Clone()
				reflect.ValueOf(&other).Elem().Field(i).Set(moved)
				said := Changed(l, other)
				if len(said) == 0 {
					t.Errorf("%s: %s%s is another, and nothing is named", pattern, name, path)
				}
				for _, part := range said {
					if !slices.Contains(Parts, part) {
						t.Errorf("%q is not among the parts", part)
					}
				}
			}
		}
	}
}

// moves are copies of a value, each with one leaf moved, by the path to it.
func moves(v reflect.Value) map[string]reflect.Value {
	found := map[string]reflect.Value{}
	add := func(path string, set func(reflect.Value)) {
		c := reflect.New(v.Type()).Elem()
		c.Set(v)
		set(c)
		found[path] = c
	}
	switch v.Kind() {
	case reflect.Float64:
		add("", func(c reflect.Value) { c.SetFloat(v.Float() + 1) })
	case reflect.Int:
		add("", func(c reflect.Value) { c.SetInt(v.Int() + 1) })
	case reflect.String:
		add("", func(c reflect.Value) { c.SetString(v.String() + "x") })
	case reflect.Bool:
		add("", func(c reflect.Value) { c.SetBool(!v.Bool()) })
	case reflect.Pointer:
		if v.IsNil() {
			add("", func(c reflect.Value) { c.Set(reflect.New(v.Type().Elem())) })
			break
		}
		for path, moved := range moves(v.Elem()) {
			add(path, func(c reflect.Value) { c.Set(reflect.New(v.Type().Elem())); c.Elem().Set(moved) })
		}
	case reflect.Slice:
		add("+", func(c reflect.Value) { c.Set(reflect.Append(v, reflect.New(v.Type().Elem()).Elem())) })
		if v.Len() > 0 {
			for path, moved := range moves(v.Index(0)) {
				add("[0]"+path, func(c reflect.Value) {
					c.Set(reflect.MakeSlice(v.Type(), v.Len(), v.Len()))
					reflect.Copy(c, v)
					c.Index(0).Set(moved)
				})
			}
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).Name == "Slot" || v.Type().Field(i).Name == "AnchorSlot" || v.Type().Field(i).Name == "Name" && v.Type() == reflect.TypeFor[Rig]() {
				continue // by which its parts know each other
			}
			for path, moved := range moves(v.Field(i)) {
				add("."+v.Type().Field(i).Name+path, func(c reflect.Value) { c.Field(i).Set(moved) })
			}
		}
	}
	return found
}
