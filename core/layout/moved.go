package layout

import (
	"math"
	"reflect"
	"slices"
)

// Clone is a whole copy of a set: whatever is changed in it is changed in no other.
func (l Layout) Clone() Layout {
	apart(reflect.ValueOf(&l).Elem())
	return l
}

// apart gives a value its own of everything that it points to.
func apart(v reflect.Value) {
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			apart(v.Field(i))
		}
	case reflect.Pointer:
		if !v.IsNil() {
			own := reflect.New(v.Type().Elem())
			own.Elem().Set(v.Elem())
			v.Set(own)
			apart(own.Elem())
		}
	case reflect.Slice:
		if !v.IsNil() {
			own := reflect.MakeSlice(v.Type(), v.Len(), v.Len())
			reflect.Copy(own, v)
			v.Set(own)
			for i := range own.Len() {
				apart(own.Index(i))
			}
		}
	}
}

// Along is an anchor that goes where a trap is moved to, both by their slots.
type Along struct {
	Rig    int `json:"rig"`
	Anchor int `json:"anchor"`
}

// Along are the anchors of a set that go along with their traps.
func (l Layout) Along() []Along {
	found := []Along{}
	for i, r := range l.Rigs {
		if at, goes := l.goesAlong(i); goes {
			found = append(found, Along{Rig: r.Slot, Anchor: l.Anchors[at].Slot})
		}
	}
	return found
}

// WithRigMoved is a set with a trap moved: its bed and its pan with it, and its anchor where that goes along.
func (l Layout) WithRigMoved(i int, dxMm, dyMm float64) Layout {
	l = l.Clone()
	at, goes := l.goesAlong(i)
	r := &l.Rigs[i]
	r.XMm, r.YMm = r.XMm+dxMm, r.YMm+dyMm
	if r.Pan != nil {
		r.Pan.XMm, r.Pan.YMm = r.Pan.XMm+dxMm, r.Pan.YMm+dyMm
	}
	if goes {
		l.Anchors[at].XMm, l.Anchors[at].YMm = l.Anchors[at].XMm+dxMm, l.Anchors[at].YMm+dyMm
	}
	return l
}

// goesAlong is the anchor of a trap, and whether it goes where the trap is moved to: it does when it lies within the trap's chain of it and
// holds no other.
func (l Layout) goesAlong(i int) (at int, goes bool) {
	r := l.Rigs[i]
	for k, other := range l.Rigs {
		if k != i && other.AnchorSlot == r.AnchorSlot {
			return 0, false
		}
	}
	at = slices.IndexFunc(l.Anchors, func(a Anchor) bool { return a.Slot == r.AnchorSlot })
	if at < 0 {
		return 0, false
	}
	a := l.Anchors[at]
	return at, math.Hypot(a.XMm-r.XMm, a.YMm-r.YMm) <= r.ChainMm
}
