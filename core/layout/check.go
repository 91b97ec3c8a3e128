package layout

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strings"
	"sync"
	"unicode/utf8"

	"oldburrow/core/mix"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

// Limit is between what a length, an angle or a force can lie. Path is as it stands in the JSON, [] for every one of a list; what is
// not there is not limited.
type Limit struct {
	Path      string
	Low, High float64
	Unit      string
}

// limits hold for every pattern, where it says nothing else of the same path.
var limits = []Limit{
	{"facingDeg", 0, 360, "°"},
	{"attractors[].xMm", -1200, 1200, " mm"},
	{"attractors[].yMm", -1200, 1200, " mm"},
	{"attractors[].radiusMm", 0, 400, " mm"},
	{"attractors[].heightMm", 0, 2000, " mm"},
	{"attractors[].hole.diameterMm", 5, 300, " mm"},
	{"attractors[].hole.depthMm", 20, 1000, " mm"},
	{"attractors[].hole.angleDeg", 5, 90, "°"},
	{"attractors[].hole.turnDeg", -180, 180, "°"},
	{"attractors[].smells[].heightMm", 0, 3000, " mm"},
	{"trench.widthMm", 50, 600, " mm"},
	{"trench.lengthMm", 100, 2000, " mm"},
	{"trench.headMm", 0, 500, " mm"},
	{"way.xMm", -3000, 3000, " mm"},
	{"way.yMm", -3000, 3000, " mm"},
	{"way.bearingDeg", -180, 180, "°"},
	{"way.widthMm", 50, 8000, " mm"},
	{"way.openMm", 0, 20000, " mm"},
	{"rigs[].xMm", -2000, 2000, " mm"},
	{"rigs[].yMm", -2000, 2000, " mm"},
	{"rigs[].axisDeg", -180, 180, "°"},
	{"rigs[].jaws.spreadMm", 75, 250, " mm"},
	{"rigs[].jaws.frameMm", 75, 400, " mm"},
	{"rigs[].jaws.heightMm", 15, 100, " mm"},
	{"rigs[].loop.diameterMm", 50, 600, " mm"},
	{"rigs[].loop.heightMm", 0, 600, " mm"},
	{"rigs[].pan.xMm", -2000, 2000, " mm"},
	{"rigs[].pan.yMm", -2000, 2000, " mm"},
	{"rigs[].pan.diameterMm", 25, 100, " mm"},
	{"rigs[].pan.gaugeN", 0, 80, " N"},
	{"rigs[].pan.heightMm", 5, 100, " mm"},
	{"rigs[].bed.marginMm", 0, 80, " mm"},
	{"rigs[].bed.depthMm", 20, 400, " mm"},
	{"rigs[].bed.baseMm", 0, 80, " mm"},
	{"rigs[].bed.drainMm", 0, 200, " mm"},
	{"rigs[].bed.agentG", 0, 5000, " g"},
	{"rigs[].cover[].thicknessMm", 0, 50, " mm"},
	{"rigs[].chainMm", 50, 4000, " mm"},
	{"anchors[].diameterMm", 0, 60, " mm"},
	{"anchors[].plateLengthMm", 0, 500, " mm"},
	{"anchors[].plateWidthMm", 0, 300, " mm"},
	{"anchors[].proofN", 0, 10000, " N"},
	{"at.latDeg", -90, 90, "°"},
	{"at.lonDeg", -180, 180, "°"},
	{"anchors[].xMm", -6000, 6000, " mm"},
	{"anchors[].yMm", -6000, 6000, " mm"},
	{"guides[].xMm", -3000, 3000, " mm"},
	{"guides[].yMm", -3000, 3000, " mm"},
	{"guides[].rMm", 5, 200, " mm"},
	{"guides[].lengthMm", 0, 4000, " mm"},
	{"guides[].turnDeg", -180, 180, "°"},
	{"guides[].heightMm", 0, 2000, " mm"},
	{"lie.slopeDeg", 0, 60, "°"},
	{"lie.grassMm", 0, 3000, " mm"},
	{"lie.waterMm", 0, 300, " mm"},
	{"aside[].heightMm", 0, 3000, " mm"},
	{"lie.downDeg", 0, 360, "°"},
}

// anchorsLong is how long an anchor can be, mm.
var anchorsLong = map[AnchorKind][2]float64{Stake: {100, 1500}, Crossed: {100, 1500}, Cable: {100, 1500}, Staple: {20, 150}, Slide: {500, 15000}}

// How many of a part a set can have, beside what its pattern wants.
const (
	mostSmells  = 12
	mostLetters = 40
	mostSwivels = 12
	mostLayers  = 6
	mostGuides  = 20
)

// Check refuses parts that cannot be: lengths out of range for the part and for the pattern, parts that the pattern does not have,
// a pan outside its bed, words that are not known. The paths are those of the JSON.
func (l Layout) Check() error {
	var p refuse.Problems
	refuse.OneOf(&p, "pattern", l.Pattern, PatternKeys())
	def := patternOf(l.Pattern)
	if len(p) == 0 && l.Kind != def.Kind {
		refuse.OneOf(&p, "kind", l.Kind, []Kind{def.Kind})
	}
	l.checkWords(&p)
	l.checkNumbers(&p, def.limits())
	if len(p) > 0 {
		return p
	}
	def.Wants.check(&p, l)
	l.checkSlots(&p)
	l.checkDevices(&p)
	if len(p) == 0 {
		l.checkPansInBeds(&p)
	}
	return p.Err()
}

func (l Layout) checkWords(p *refuse.Problems) {
	refuse.OneOf(p, "backing", l.Backing, Backings)
	refuse.OneOf(p, "show", l.Show, Shows)
	refuse.OneOfSaid(p, "spoil", l.Spoil, Spoils)
	refuse.OneOfSaid(p, "hands", l.Hands, HandsUsed)
	if l.Way != nil {
		refuse.OneOfSaid(p, "way.between", l.Way.Between, Betweens)
	}
	for i, a := range l.Attractors {
		at := fmt.Sprintf("attractors[%d].", i)
		refuse.OneOf(p, at+"kind", a.Kind, AttractorKinds)
		refuse.OneOf(p, at+"plug", a.Plug, Plugs)
		refuse.OneOfSaid(p, at+"wrap", a.Wrap, Wraps)
		short(p, at+"colour", a.Colour)
		short(p, at+"of", a.Of)
		if a.Hole != nil {
			refuse.OneOfSaid(p, at+"hole.mouth", a.Hole.Mouth, Mouths)
		}
		checkSmells(p, at+"smells", a.Smells)
	}
	checkSmells(p, "aside", l.Aside)
	for i, r := range l.Rigs {
		at := fmt.Sprintf("rigs[%d].", i)
		refuse.OneOf(p, at+"device", r.Device, Devices)
		refuse.OneOfSaid(p, at+"over", r.Over, PanOvers)
		p.Within(at+"swivels", float64(r.Swivels), 0, mostSwivels, "")
		refuse.OneOfSaid(p, at+"under", r.Under, PanUnders)
		refuse.OneOfSaid(p, at+"guard", r.Guard, JawGuards)
		refuse.OneOfSaid(p, at+"chainLies", r.ChainLies, ChainLies)
		refuse.OneOfSaid(p, at+"bed.fill", r.Bed.Fill, pan.Materials)
		refuse.OneOfSaid(p, at+"bed.agent", r.Bed.Agent, mix.Agents)
		atMost(p, at+"cover", r.Cover, mostLayers)
		for k, layer := range r.Cover {
			refuse.OneOf(p, fmt.Sprintf("%scover[%d].material", at, k), layer.Material, pan.Materials)
		}
	}
	for i, a := range l.Anchors {
		at := fmt.Sprintf("anchors[%d].", i)
		refuse.OneOf(p, at+"kind", a.Kind, AnchorKinds)
		if long, ok := anchorsLong[a.Kind]; ok {
			p.Within(at+"lengthMm", a.LengthMm, long[0], long[1], " mm")
		}
		if a.SecondMm != 0 {
			long := anchorsLong[Crossed]
			p.Within(at+"secondMm", a.SecondMm, long[0], long[1], " mm")
		}
		refuse.OneOfSaid(p, at+"cover", a.Cover, DragCovers)
		if n := len(a.Ends); n != 0 && (n != 2 || a.Kind != Slide) {
			p.Add(at+"ends", "must be two, of a slide cable, not %d", n)
		}
		for k, end := range a.Ends {
			to := fmt.Sprintf("%sends[%d].", at, k)
			refuse.OneOf(p, to+"kind", end.Kind, Ends)
			if long, ok := anchorsLong[end.Kind]; ok {
				p.Within(to+"lengthMm", end.LengthMm, long[0], long[1], " mm")
			}
		}
	}
	atMost(p, "guides", l.Guides, mostGuides)
	for i, g := range l.Guides {
		refuse.OneOf(p, fmt.Sprintf("guides[%d].kind", i), g.Kind, GuideKinds)
	}
}

func checkSmells(p *refuse.Problems, at string, smells []Smell) {
	atMost(p, at, smells, mostSmells)
	for k, s := range smells {
		at := fmt.Sprintf("%s[%d].", at, k)
		refuse.OneOf(p, at+"kind", s.Kind, SmellKinds)
		refuse.OneOf(p, at+"place", s.Place, SmellPlaces)
		refuse.OneOfSaid(p, at+"carrier", s.Carrier, Carriers)
		short(p, at+"amount", s.Amount)
	}
}

// short refuses words that would fill a page.
func short(p *refuse.Problems, field, words string) {
	if n := utf8.RuneCountInString(words); n > mostLetters {
		p.Add(field, "must be at most %d letters, not %d", mostLetters, n)
	}
}

func atMost[T any](p *refuse.Problems, field string, list []T, most int) {
	if len(list) > most {
		p.Add(field, "are too many: at most %d, not %d", most, len(list))
	}
}

// limits are those that hold for a pattern.
func (def PatternDef) limits() []Limit {
	hold := slices.Clone(def.Limits)
	for _, limit := range limits {
		if !slices.ContainsFunc(def.Limits, func(own Limit) bool { return own.Path == limit.Path }) {
			hold = append(hold, limit)
		}
	}
	return hold
}

func (l Layout) checkNumbers(p *refuse.Problems, limits []Limit) {
	for _, limit := range limits {
		numbersAt(reflect.ValueOf(l), limit.Path, "", func(path string, v float64) {
			p.Within(path, v, limit.Low, limit.High, limit.Unit)
		})
	}
}

// numbersAt finds every number under a path, [] standing for each of a list, with its own path.
func numbersAt(v reflect.Value, path, at string, found func(path string, v float64)) {
	if v.Kind() == reflect.Pointer {
		if !v.IsNil() {
			numbersAt(v.Elem(), path, at, found)
		}
		return
	}
	if path == "" {
		found(at, v.Float())
		return
	}
	name, rest, _ := strings.Cut(path, ".")
	name, isList := strings.CutSuffix(name, "[]")
	field := v.FieldByIndex([]int{fieldNamed(v.Type(), name)})
	at = strings.TrimPrefix(at+"."+name, ".")
	if !isList {
		numbersAt(field, rest, at, found)
		return
	}
	for i := range field.Len() {
		numbersAt(field.Index(i), rest, fmt.Sprintf("%s[%d]", at, i), found)
	}
}

// fieldNamed is the place of the field with a name in the JSON. The paths are written here: one that leads nowhere is a mistake.
func fieldNamed(t reflect.Type, name string) int {
	named, known := fieldsOf.Load(t)
	if !known {
		named, _ = fieldsOf.LoadOrStore(t, jsonFields(t))
	}
	at, there := named.(map[string]int)[name]
	if !there {
		panic(fmt.Sprintf("%s has no %q", t, name))
	}
	return at
}

// fieldsOf keeps the places of a type's fields by their names: a layout is checked at every step of a drag, and for everything that is offered.
var fieldsOf sync.Map

func jsonFields(t reflect.Type) map[string]int {
	fields := map[string]int{}
	for i := range t.NumField() {
		name, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		fields[name] = i
	}
	return fields
}

// checkSlots refuses parts that cannot be told apart, and rigs that nothing holds.
func (l Layout) checkSlots(p *refuse.Problems) {
	unique := func(list string, slots []int) {
		for i, slot := range slots {
			if slot < 0 || slot > 99 || slices.Contains(slots[:i], slot) {
				p.Add(fmt.Sprintf("%s[%d].slot", list, i), "must be from 0 to 99, and no other's: %d is not", slot)
			}
		}
	}
	unique("attractors", slotsOf(l.Attractors, func(a Attractor) int { return a.Slot }))
	unique("rigs", slotsOf(l.Rigs, func(r Rig) int { return r.Slot }))
	anchors := slotsOf(l.Anchors, func(a Anchor) int { return a.Slot })
	unique("anchors", anchors)
	for i, r := range l.Rigs {
		if !slices.Contains(anchors, r.AnchorSlot) {
			p.Add(fmt.Sprintf("rigs[%d].anchorSlot", i), "must name an anchor of the set: there is no %d", r.AnchorSlot)
		}
		if r.TrapID != "" && slices.ContainsFunc(l.Rigs[:i], func(x Rig) bool { return x.TrapID == r.TrapID }) {
			p.Add(fmt.Sprintf("rigs[%d].trapId", i), "is in this set already: choose another trap")
		}
	}
}

func slotsOf[T any](parts []T, slot func(T) int) []int {
	slots := make([]int, len(parts))
	for i, part := range parts {
		slots[i] = slot(part)
	}
	return slots
}

// checkDevices refuses a rig without what it closes with, and an attractor without what it is.
func (l Layout) checkDevices(p *refuse.Problems) {
	for i, r := range l.Rigs {
		at := fmt.Sprintf("rigs[%d].", i)
		switch jaws := r.Device == "jaws"; {
		case jaws && r.Jaws == nil:
			p.Add(at+"jaws", "are missing: how wide do they open")
		case jaws && r.Pan == nil:
			p.Add(at+"pan", "is missing: where does it lie")
		case !jaws && r.Loop == nil:
			p.Add(at+"loop", "is missing: how wide is it")
		}
	}
	for i, a := range l.Attractors {
		if a.Kind == "hole" && a.Hole == nil {
			p.Add(fmt.Sprintf("attractors[%d].hole", i), "is missing: how wide and deep is it")
		}
	}
}

func (l Layout) checkPansInBeds(p *refuse.Problems) {
	for i, r := range l.Rigs {
		if r.Device != "jaws" {
			continue
		}
		at := fmt.Sprintf("rigs[%d].", i)
		dug, err := l.BedOf(r)
		if err != nil {
			p.Under(at+"bed", err)
			continue
		}
		along, across := r.onBed(r.Pan.XMm, r.Pan.YMm)
		radius := r.Pan.DiameterMm / 2
		if over := math.Abs(across) + radius - dug.WidthMm/2; over > 0.5 {
			p.Add(at+"pan.yMm", "puts the pan %.0f mm outside the bed: bring it back, or move the bed with it", over)
		}
		if over := math.Abs(along) + radius - dug.LengthMm/2; over > 0.5 {
			p.Add(at+"pan.xMm", "puts the pan %.0f mm outside the bed: bring it back, or move the bed with it", over)
		}
	}
}
