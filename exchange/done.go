package exchange

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/jszwec/csvutil"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// Done is what was done at the sets of a line, as it goes out: of the record what lies in a span and on a property, or on all of them where
// that is blank. Numbers are those of the traps, by their ids.
type Done struct {
	Record     line.Record
	Spots      []line.Spot
	Properties []line.Property
	Numbers    map[string]int
	Span       tally.Span
	PropertyID string
}

// DoneLook is a look with the make that it was at; Odd is why it does not count, or blank.
type DoneLook struct {
	Visit line.Visit `json:"visit"`
	Make  line.Make  `json:"make"`
	Odd   line.Why   `json:"odd"`
}

// Looks are the looks in order; those that are kept and do not count are among them.
func (d Done) Looks() []DoneLook {
	makes := map[string]line.Make{}
	for _, m := range d.Record.Makes {
		makes[m.ID] = m
	}
	found := []DoneLook{}
	add := func(v line.Visit, odd line.Why) {
		if m, ok := makes[v.MakeID]; ok && d.Span.Holds(v.At) && d.there(m.SetID) {
			found = append(found, DoneLook{v, m, odd})
		}
	}
	for _, v := range d.Record.Visits {
		add(v, "")
	}
	for _, x := range d.Record.Odd {
		if x.Visit != nil {
			add(*x.Visit, x.Why)
		}
	}
	slices.SortFunc(found, func(a, b DoneLook) int {
		return cmp.Or(a.Visit.At.Compare(b.Visit.At), cmp.Compare(a.Visit.ID, b.Visit.ID))
	})
	return found
}

// Makes are the sets built and remade in the span, in order.
func (d Done) Makes() []line.Make {
	found := []line.Make{}
	for _, m := range d.Record.Makes {
		if d.Span.Holds(m.BuiltAt) && d.there(m.SetID) {
			found = append(found, m)
		}
	}
	return found
}

func (d Done) spot(setID string) line.Spot {
	id := d.Record.Set(setID).SpotID
	if i := slices.IndexFunc(d.Spots, func(s line.Spot) bool { return s.ID == id }); i >= 0 {
		return d.Spots[i]
	}
	return line.Spot{}
}

// there tells whether a set stands on the property that is asked for.
func (d Done) there(setID string) bool {
	return d.PropertyID == "" || d.spot(setID).PropertyID == d.PropertyID
}

func (d Done) property(id string) string {
	if i := slices.IndexFunc(d.Properties, func(p line.Property) bool { return p.ID == id }); i >= 0 {
		return d.Properties[i].Name
	}
	return ""
}

// at is what every row says of where and when: the local date, the set, its spot and its property.
type at struct {
	LocalDate, Set, Spot, Property string
}

func (d Done) at(when time.Time, setID string) at {
	spot := d.spot(setID)
	return at{
		when.In(d.Record.Zone).Format(time.DateOnly), strconv.Itoa(d.Record.Set(setID).Number), harmless(spot.Name),
		harmless(d.property(spot.PropertyID)),
	}
}

type lookRow struct {
	ID        string        `csv:"id"`
	At        string        `csv:"at"`
	LocalDate string        `csv:"local_date"`
	Set       string        `csv:"set"`
	Spot      string        `csv:"spot"`
	Property  string        `csv:"property"`
	MakeID    string        `csv:"make_id"`
	Target    string        `csv:"target"`
	Pattern   string        `csv:"pattern"`
	Night     int           `csv:"night"`
	Finding   line.Finding  `csv:"finding"`
	Animal    string        `csv:"animal"`
	ToldBy    line.Evidence `csv:"told_by"`
	Also      string        `csv:"also"`
	Side      line.Side     `csv:"side"`
	Bed       line.BedFelt  `csv:"bed"`
	Rigs      string        `csv:"rigs"`
	Caught    string        `csv:"caught"`
	Bailed    string        `csv:"bailed"`
	AgentG    string        `csv:"agent_g"`
	Note      string        `csv:"note"`
	Flags     string        `csv:"flags"`
	Who       string        `csv:"who"`
}

// noTime is what the flags of a look say of which only the day is known.
const noTime = "no_time"

// WriteLooks writes the looks as CSV, a row each.
func WriteLooks(d Done) ([]byte, error) {
	rows := []lookRow{}
	for _, l := range d.Looks() {
		v, where := l.Visit, d.at(l.Visit.At, l.Make.SetID)
		flags := []string{v.Flags}
		if !v.HasTime() {
			flags = append(flags, noTime)
		}
		if l.Odd != "" {
			flags = append(flags, "not_counted "+string(l.Odd))
		}
		bailed := ""
		if v.Bailed {
			bailed = "yes"
		}
		rows = append(rows, lookRow{
			ID: v.ID, At: instant(v.At), LocalDate: where.LocalDate, Set: where.Set, Spot: where.Spot, Property: where.Property, MakeID: v.MakeID,
			Target: l.Make.Target, Pattern: l.Make.Layout.Pattern, Night: tally.Nights(l.Make.BuiltAt, v.At, d.Record.Zone),
			Finding: v.Finding, Animal: v.Animal, ToldBy: v.By,
			Also: words(v.Also, func(f line.Found) string {
				return strings.Trim(fmt.Sprintf("%s/%s/%s", f.Finding, f.Animal, f.By), "/")
			}),
			Side: v.Side, Bed: v.Bed, Rigs: words(v.Rigs, func(r line.RigFound) string { return fmt.Sprintf("%d/%s", r.Slot, r.State) }),
			Caught: words(v.Catches, func(c line.Catch) string { return c.Species }), Bailed: bailed, AgentG: figure(v.AgentG),
			Note: harmless(v.Note), Flags: harmless(line.Flags(flags...)),
		})
	}
	return asCSV(rows)
}

type catchRow struct {
	ID         string    `csv:"id"`
	LookID     string    `csv:"look_id"`
	At         string    `csv:"at"`
	LocalDate  string    `csv:"local_date"`
	Set        string    `csv:"set"`
	Spot       string    `csv:"spot"`
	Property   string    `csv:"property"`
	Target     string    `csv:"target"`
	Pattern    string    `csv:"pattern"`
	Species    string    `csv:"species"`
	Sex        line.Sex  `csv:"sex"`
	Foot       line.Foot `csv:"foot"`
	Hold       line.Hold `csv:"hold"`
	Rigs       string    `csv:"rigs"`
	Were       string    `csv:"were"`
	WeightG    string    `csv:"weight_g"`
	Blood      string    `csv:"blood"`
	Fate       string    `csv:"fate"`
	Dead       string    `csv:"dead"`
	ReportedAt string    `csv:"reported_at"`
	Night      int       `csv:"night"`
	SetbackMm  string    `csv:"setback_mm"`
	GaugeN     string    `csv:"gauge_n"`
	Who        string    `csv:"who"`
}

// WriteCatches writes what was caught as CSV, a row an animal; of a look that does not count there is none.
func WriteCatches(d Done) ([]byte, error) {
	rows := []catchRow{}
	for _, l := range d.Looks() {
		if l.Odd != "" {
			continue
		}
		where, rig := d.at(l.Visit.At, l.Make.SetID), firstRig(l.Make)
		for _, c := range l.Visit.Catches {
			rows = append(rows, catchRow{
				ID: c.ID, LookID: l.Visit.ID, At: instant(l.Visit.At), LocalDate: where.LocalDate, Set: where.Set, Spot: where.Spot, Property: where.Property,
				Target: l.Make.Target, Pattern: l.Make.Layout.Pattern, Species: c.Species, Sex: c.Sex, Foot: c.Foot, Hold: c.Hold,
				Rigs: words(c.Rigs, strconv.Itoa), Were: words(c.Were, func(was line.Condition) string { return string(was) }), WeightG: figure(c.WeightG), Blood: yesNo(c.Blood),
				Night: tally.Nights(l.Make.BuiltAt, l.Visit.At, d.Record.Zone), SetbackMm: rig.setback, GaugeN: rig.gauge,
			})
		}
	}
	return asCSV(rows)
}

type makeRow struct {
	ID         string       `csv:"id"`
	Set        string       `csv:"set"`
	Spot       string       `csv:"spot"`
	Property   string       `csv:"property"`
	Follows    string       `csv:"follows"`
	Target     string       `csv:"target"`
	Kind       layout.Kind  `csv:"kind"`
	Pattern    string       `csv:"pattern"`
	BuiltAt    string       `csv:"built_at"`
	LocalDate  string       `csv:"local_date"`
	EndedAt    string       `csv:"ended_at"`
	TrapNights float64      `csv:"trap_nights"`
	SetbackMm  string       `csv:"setback_mm"`
	OffsetMm   string       `csv:"offset_mm"`
	GaugeN     string       `csv:"gauge_n"`
	Cover      string       `csv:"cover"`
	CoverMm    string       `csv:"cover_mm"`
	Firm       string       `csv:"firm"`
	Anchor     string       `csv:"anchor"`
	AnchorMm   string       `csv:"anchor_mm"`
	ChainMm    string       `csv:"chain_mm"`
	Traps      string       `csv:"traps"`
	Smells     string       `csv:"smells"`
	FacingDeg  string       `csv:"facing_deg"`
	Hands      layout.Hands `csv:"hands"`
	Flags      string       `csv:"flags"`
	Who        string       `csv:"who"`
}

// WriteMakes writes the sets built and remade as CSV, a row each. What it says of one trap is said of the first.
func WriteMakes(d Done) ([]byte, error) {
	rows := []makeRow{}
	for _, m := range d.Makes() {
		where, rig := d.at(m.BuiltAt, m.SetID), firstRig(m)
		row := makeRow{
			ID: m.ID, Set: where.Set, Spot: where.Spot, Property: where.Property, Target: m.Target, Kind: m.Layout.Kind, Pattern: m.Layout.Pattern,
			BuiltAt: instant(m.BuiltAt), LocalDate: where.LocalDate, TrapNights: d.Record.TrapNights(m),
			SetbackMm: rig.setback, OffsetMm: rig.offset, GaugeN: rig.gauge, Cover: rig.cover, CoverMm: rig.coverMm, Firm: rig.firm,
			Anchor: rig.anchor, AnchorMm: rig.anchorMm, ChainMm: rig.chainMm, FacingDeg: figure(m.Layout.FacingDeg), Hands: m.Layout.Hands,
			Traps: d.traps(m), Smells: harmless(smells(m)), Flags: harmless(m.Flags),
		}
		if m.Follows != nil {
			row.Follows = *m.Follows
		}
		if m.PulledAt != nil {
			row.EndedAt = instant(*m.PulledAt)
		}
		rows = append(rows, row)
	}
	return asCSV(rows)
}

// traps are the numbers of a make's traps; one that is on no rack is not among them.
func (d Done) traps(m line.Make) string {
	var numbers []string
	for _, rig := range m.Layout.Rigs {
		if n, ok := d.Numbers[rig.TrapID]; ok {
			numbers = append(numbers, strconv.Itoa(n))
		}
	}
	return strings.Join(numbers, " ")
}

// smells are what a make smells of, by the user's own names, which have spaces of their own.
func smells(m line.Make) string {
	var names []string
	for _, s := range m.Layout.Smells() {
		names = append(names, s.Name)
	}
	return strings.Join(names, "; ")
}

// rigCells are what a row says of the first trap of a set; blank where it has none of it.
type rigCells struct {
	setback, offset, gauge, cover, coverMm, firm, anchor, anchorMm, chainMm string
}

func firstRig(m line.Make) (found rigCells) {
	if len(m.Layout.Rigs) == 0 {
		return found
	}
	r := m.Layout.Rigs[0]
	if r.Pan != nil {
		found.setback, found.offset, found.gauge = figure(&r.Pan.YMm), figure(&r.Pan.XMm), figure(&r.Pan.GaugeN)
	}
	if len(r.Cover) > 0 {
		mm := 0.0
		var of []string
		for _, layer := range r.Cover {
			mm += layer.ThicknessMm
			of = append(of, string(layer.Material))
		}
		found.cover, found.coverMm = strings.Join(of, " "), figure(&mm)
	}
	found.firm, found.chainMm = yesNo(r.Bed.Firm), figure(&r.ChainMm)
	if a, ok := m.Layout.AnchorOf(r); ok {
		found.anchor = string(a.Kind)
		if a.LengthMm > 0 {
			found.anchorMm = figure(&a.LengthMm)
		}
	}
	return found
}

func instant(t time.Time) string { return t.UTC().Format(time.RFC3339) }

func words[T any](of []T, word func(T) string) string {
	found := make([]string, len(of))
	for i, one := range of {
		found[i] = word(one)
	}
	return strings.Join(found, " ")
}

// asCSV writes rows under their columns.
func asCSV[T any](rows []T) ([]byte, error) {
	var out bytes.Buffer
	writer := csv.NewWriter(&out)
	encoder := csvutil.NewEncoder(writer)
	var one T
	if err := encoder.EncodeHeader(one); err != nil {
		return nil, err
	}
	for _, row := range rows {
		if err := encoder.Encode(row); err != nil {
			return nil, err
		}
	}
	writer.Flush()
	return out.Bytes(), writer.Error()
}
