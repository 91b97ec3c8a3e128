package page

import (
	"cmp"
	"encoding/json"
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/shed"
	"oldburrow/core/strict"
	"oldburrow/core/tally"
)

// Write is something that was entered and that the program does not have yet, or had not when a bundle was taken along: as it is sent, by whom
// it was entered, when by the program's clock, and what the device's own showed then, which that was so many ms ahead of.
type Write struct {
	Path     string          `json:"path"`
	Body     json.RawMessage `json:"body"`
	Who      string          `json:"who"`
	At       time.Time       `json:"at"`
	DeviceAt *time.Time      `json:"deviceAt"`
	AheadMs  *int64          `json:"aheadMs"`
}

// Laid is the bundle with writes laid over it in their order, as the program's record will be when it has taken them; a set that is built anew has
// the number 0 until then. What the program will refuse, and what is of another line, is left out. The bundle itself stays as it is.
func (b *Bundle) Laid(writes []Write, with With) *Bundle {
	now := *b
	for _, w := range writes {
		next := now
		if next.lay(w, with) == nil {
			now = next
		}
	}
	return &now
}

// lay lays one write over it. What is shared with what it was before is not changed.
func (b *Bundle) lay(w Write, with With) error {
	under, ok := strings.CutPrefix(w.Path, "/lines/"+b.Line.ID)
	if !ok {
		return ErrNotHere
	}
	parts := strings.Split(strings.TrimPrefix(under, "/"), "/")
	kind, known := kinds[parts[0]]
	switch {
	case under == "":
		return b.putLine(w)
	case !known || len(parts) < 2 || len(parts) > 3:
		return refuse.ErrUnknown
	case len(parts) == 2:
		return kind.put(b, entered{w, parts[1], with})
	case parts[2] == "undo" && kind.undo != nil:
		return kind.undo(b, parts[1])
	}
	return refuse.ErrUnknown
}

// entered is a write of a record: its id, and what is known beside it.
type entered struct {
	Write
	id   string
	with With
}

// laying is how a kind of record is laid, and how an act of it is taken back; nil where it cannot be.
type laying struct {
	put  func(b *Bundle, e entered) error
	undo func(b *Bundle, id string) error
}

// kinds are those that a bundle takes, by the path under which they are put.
var kinds = map[string]laying{
	"seasons":      edited(func(r *Rows) *[]line.Season { return (*[]line.Season)(&r.Seasons) }, line.Season.Check, func(a, b line.Season) int { return cmp.Compare(a.From, b.From) }),
	"properties":   edited(func(r *Rows) *[]line.Property { return &r.Properties }, line.Property.Check, func(a, b line.Property) int { return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(a.ID, b.ID)) }),
	"spots":        edited(func(r *Rows) *[]line.Spot { return &r.Spots }, line.Spot.Check, func(a, b line.Spot) int { return cmp.Compare(a.ID, b.ID) }),
	"features":     edited(func(r *Rows) *[]line.Feature { return &r.Features }, line.Feature.Check, func(a, b line.Feature) int { return cmp.Compare(a.ID, b.ID) }),
	"recipes":      edited(func(r *Rows) *[]line.Recipe { return &r.Recipes }, line.Recipe.Check, func(a, b line.Recipe) int { return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(a.ID, b.ID)) }),
	"kit":          {put: noted(func(r *Rows) *[]line.KitMark { return &r.KitMarks }, line.KitMark.Check, func(x line.KitMark) (time.Time, string) { return x.At, x.ID })},
	"calibrations": {put: noted(func(r *Rows) *[]line.Calibration { return &r.Calibrations }, line.Calibration.Check, func(x line.Calibration) (time.Time, string) { return x.At, x.ID })},
	"falls":        {put: (*Bundle).putFall},
	"readings":     {put: (*Bundle).putReading},
	"signs":        {(*Bundle).putSign, (*Bundle).undoSign},
	"designs":      {put: (*Bundle).putDesign},
	"patterns":     {put: (*Bundle).putPattern},
	"makes":        {(*Bundle).putMake, (*Bundle).undoMake},
	"visits":       {(*Bundle).putVisit, (*Bundle).undoVisit},
	"mends":        {put: (*Bundle).putMend},
	"corrections":  {put: (*Bundle).putCorrection},
	"pulls":        {(*Bundle).putPull, (*Bundle).undoPull},
	"traps":        {put: (*Bundle).putTrap},
	"checks":       {put: (*Bundle).putCheck},
	"measurements": {(*Bundle).putMeasurement, (*Bundle).undoMeasurement},
	"lures":        {put: (*Bundle).putLure},
	"bottles":      {put: (*Bundle).putBottle},
	"levels":       {put: (*Bundle).putLevel},
	"doses":        {(*Bundle).putDose, (*Bundle).undoDose},
}

// read decodes what was entered as the program does, and gives it its ids and whoever entered it.
func (e entered) read(b *Bundle, into any) error {
	if err := strict.Decode(e.Body, into); err != nil {
		return err
	}
	settle(reflect.ValueOf(into).Elem(), map[string]any{"ID": e.id, "LineID": b.Line.ID, "Who": e.Who, "UndoneAt": (*time.Time)(nil)})
	return nil
}

var timeType = reflect.TypeFor[time.Time]()

// settle gives a record some of its values, empty lists for none, and its times in UTC, as they are kept.
func settle(x reflect.Value, values map[string]any) {
	for i := range x.NumField() {
		field, name := x.Field(i), x.Type().Field(i).Name
		switch value, said := values[name]; {
		case said && reflect.TypeOf(value) == field.Type():
			field.Set(reflect.ValueOf(value))
		case field.Kind() == reflect.Slice && field.IsNil() && name != "Usual":
			field.Set(reflect.MakeSlice(field.Type(), 0, 0))
		case field.Type() == timeType:
			field.Set(reflect.ValueOf(field.Interface().(time.Time).UTC()))
		case field.Type() == reflect.PointerTo(timeType) && !field.IsNil():
			field.Set(reflect.ValueOf(new(field.Elem().Interface().(time.Time).UTC())))
		}
	}
}

// idOf is the id of a record, and whether it is deleted.
func idOf(x any) (id string, deleted bool) {
	v := reflect.ValueOf(x)
	if d := v.FieldByName("Deleted"); d.IsValid() {
		deleted = d.Bool()
	}
	return v.FieldByName("ID").String(), deleted
}

// edited lays what can be changed: it takes the place of what it was.
func edited[T any](rows func(*Rows) *[]T, check func(T) error, order func(a, b T) int) laying {
	return laying{put: func(b *Bundle, e entered) error {
		var x T
		if err := e.read(b, &x); err != nil {
			return err
		}
		if err := check(x); err != nil {
			return err
		}
		put(rows(&b.Rows), x, order)
		return nil
	}}
}

// put puts a record among others, in order, in the place of the one with its id; one that is deleted goes.
func put[T any](rows *[]T, x T, order func(a, b T) int) {
	id, deleted := idOf(x)
	if v := reflect.ValueOf(&x).Elem().FieldByName("Version"); v.IsValid() {
		v.SetInt(v.Int() + 1)
	}
	list := without(*rows, id)
	if !deleted {
		list = append(list, x)
		// Sorting by a library's means weighs ten times as much in the browser, for each kind.
		for i := len(list) - 1; i > 0 && order(list[i-1], x) > 0; i-- {
			list[i-1], list[i] = x, list[i-1]
		}
	}
	*rows = list
}

// without are the records but one, in a list of their own.
func without[T any](rows []T, id string) []T {
	left := make([]T, 0, len(rows)+1)
	for _, x := range rows {
		if is, _ := idOf(x); is != id {
			left = append(left, x)
		}
	}
	return left
}

func find[T any](rows []T, id string) (x T, ok bool) {
	for _, x := range rows {
		if is, _ := idOf(x); is == id {
			return x, true
		}
	}
	return x, false
}

// noted lays what is only noted, in order of time.
func noted[T any](rows func(*Rows) *[]T, check func(T) error, at func(T) (time.Time, string)) func(*Bundle, entered) error {
	return func(b *Bundle, e entered) error {
		var x T
		if err := e.read(b, &x); err != nil {
			return err
		}
		if err := check(x); err != nil {
			return err
		}
		put(rows(&b.Rows), x, byTime(at))
		return nil
	}
}

// byTime orders by time, and by id where that is the same.
func byTime[T any](of func(T) (time.Time, string)) func(a, b T) int {
	return func(a, b T) int {
		at, id := of(a)
		other, otherID := of(b)
		return cmp.Or(at.Compare(other), cmp.Compare(id, otherID))
	}
}

func (b *Bundle) putLine(w Write) error {
	x := b.Line
	if err := strict.Decode(w.Body, &x); err != nil {
		return err
	}
	if x.ID = b.Line.ID; x.Check() != nil {
		return x.Check()
	}
	x.Version++
	b.Line = x
	return nil
}

func (b *Bundle) putFall(e entered) error {
	var x line.Fall
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(e.At); err != nil {
		return err
	}
	put(&b.Rows.Falls, x, func(a, b line.Fall) int { return cmp.Or(b.Ended.Compare(a.Ended), cmp.Compare(b.ID, a.ID)) })
	return nil
}

func (b *Bundle) putReading(e entered) error {
	var x line.Reading
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(e.At); err != nil {
		return err
	}
	put(&b.Rows.Readings, x, func(a, b line.Reading) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID)) })
	return nil
}

func (b *Bundle) putSign(e entered) error {
	var x line.Sign
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(e.At, e.with.Animals); err != nil {
		return err
	}
	if before, ok := find(b.Rows.Signs, x.ID); ok {
		x.Who = before.Who // who changes what is seen has not seen it
	}
	put(&b.Rows.Signs, x, func(a, b line.Sign) int { return cmp.Or(b.SeenAt.Compare(a.SeenAt), cmp.Compare(b.ID, a.ID)) })
	spot := ""
	if x.SpotID != nil {
		spot = *x.SpotID
	}
	b.tell(line.Act{Kind: line.ActSign, ID: x.ID, At: x.SeenAt, Timed: true, SpotID: spot, What: string(x.What) + " " + x.Animal, Who: x.Who, Undone: x.Deleted})
	return b.begins(x.SeenAt, e)
}

func (b *Bundle) undoSign(id string) error {
	b.Rows.Signs = without(b.Rows.Signs, id)
	return b.takenBack(id)
}

// tell puts an act into the list of what was done.
func (b *Bundle) tell(a line.Act) {
	put(&b.Rows.Acts, a, byTime(func(a line.Act) (time.Time, string) { return a.At, a.ID }))
}

// takenBack says in that list that an act was taken back.
func (b *Bundle) takenBack(id string) error {
	act, ok := find(b.Rows.Acts, id)
	if !ok {
		return ErrNotHere
	}
	act.Undone = true
	b.tell(act)
	return nil
}

// begins opens the season that an act is the first of, where it is.
func (b *Bundle) begins(at time.Time, e entered) error {
	zone, err := round.Zone(b.Line.Zone)
	if err != nil || at.Before(line.Earliest) || at.After(e.At.Add(line.SoonestOpened)) {
		return err
	}
	if fresh, opens := b.Rows.Seasons.Opens(at, zone, b.Line.LatDeg); opens {
		fresh.ID, fresh.LineID = e.id, b.Line.ID // the program gives it another
		put((*[]line.Season)(&b.Rows.Seasons), fresh, func(a, b line.Season) int { return cmp.Compare(a.From, b.From) })
	}
	return nil
}

func (b *Bundle) putDesign(e entered) error {
	var x line.Design
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.CheckDraft(e.with.Animals); err != nil {
		return err
	}
	before, _ := find(b.Rows.Designs, x.ID)
	x.SetID = before.SetID // which set it became is for building to say
	b.design(x)
	return nil
}

func (b *Bundle) design(x line.Design) {
	put(&b.Rows.Designs, x, func(a, b line.Design) int { return cmp.Compare(a.ID, b.ID) })
}

func (b *Bundle) putPattern(e entered) error {
	var x line.Pattern
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(e.with.Animals); err != nil {
		return err
	}
	put(&b.Rows.Patterns, x, func(a, b line.Pattern) int { return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(a.ID, b.ID)) })
	return nil
}

func (b *Bundle) putMake(e entered) error {
	var x line.Make
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(e.with.Animals); err != nil {
		return err
	}
	x = x.Stands()
	if before, ok := find(b.Rows.Noted.Makes, x.ID); ok {
		return b.rebuilt(before, x)
	}
	if _, ok := b.Rows.Noted.Others[x.ID]; ok {
		return ErrNotHere // it was taken back, or is of another season
	}
	design, ok := find(b.Rows.Designs, x.DesignID)
	if !ok {
		return ErrNotHere
	}
	x.Follows, x.PulledAt, x.PulledBy = nil, nil, ""
	r, err := Read(b, b.Line, e.At, e.with, b.Around)
	if err != nil {
		return err
	}
	odd, err := r.OddTraps(x)
	if err != nil {
		return err
	}
	x.Flags = line.Flags(line.OddlyAhead(x.BuiltAt, e.At), odd)
	n := &b.Rows.Noted
	if _, ok := find(n.Sets, x.SetID); !ok {
		// The program numbers it.
		n.Sets = append(slices.Clone(n.Sets), line.Set{ID: x.SetID, LineID: b.Line.ID, SpotID: design.SpotID})
		slices.SortStableFunc(n.Sets, line.ByNumber)
	}
	n.Makes = append(slices.Clone(n.Makes), x)
	if design.SetID == nil {
		design.SetID = &x.SetID
		b.design(design)
	}
	b.Rows.Gone = maps.Clone(b.Rows.Gone)
	for _, trap := range x.Layout.TrapIDs() {
		delete(b.Rows.Gone, trap)
	}
	b.tell(line.Act{Kind: line.ActMake, ID: x.ID, At: x.BuiltAt, Timed: true, SetID: x.SetID, What: x.Target, Who: x.Who})
	return b.begins(x.BuiltAt, e)
}

// rebuilt is a make that was said again, or how it was built.
func (b *Bundle) rebuilt(before, x line.Make) error {
	n := &b.Rows.Noted
	became, is := before.Became(x)
	if !is {
		return nil
	}
	if slices.ContainsFunc(n.Visits, func(v line.Visit) bool { return v.MakeID == x.ID }) {
		return refuse.Field("asBuilt", "can be said until it is looked at: this set was")
	}
	b.stands(became)
	return nil
}

// putCorrection puts right how a make stood.
func (b *Bundle) putCorrection(e entered) error {
	var x line.Correction
	if err := e.read(b, &x); err != nil {
		return err
	}
	x.Make.ID, x.Make.LineID, x.Make.UndoneAt = x.MakeID, b.Line.ID, nil
	if err := x.Check(e.with.Animals); err != nil {
		return err
	}
	before, ok := find(b.Rows.Noted.Makes, x.MakeID)
	if !ok {
		return ErrNotHere
	}
	now, is := x.Over(before)
	if !is {
		return refuse.Field("make", "speaks of another make, or does not say how it was built")
	}
	b.stands(now)
	return nil
}

// stands is how a make stands now.
func (b *Bundle) stands(became line.Make) {
	n := &b.Rows.Noted
	n.Makes = slices.Clone(n.Makes)
	for i := range n.Makes {
		if n.Makes[i].ID == became.ID {
			n.Makes[i] = became
		}
	}
	b.Rows.Gone = maps.Clone(b.Rows.Gone)
	for _, trap := range became.Layout.TrapIDs() {
		delete(b.Rows.Gone, trap)
	}
}

func (b *Bundle) undoMake(id string) error {
	n := &b.Rows.Noted
	x, ok := find(n.Makes, id)
	if !ok {
		return ErrNotHere
	}
	looks, later := 0, 0
	for _, v := range n.Visits {
		if v.MakeID == id {
			looks++
		}
	}
	n.Makes = without(n.Makes, id)
	others := 0 // of the same design
	for _, m := range n.Makes {
		if m.SetID == x.SetID && m.BuiltAt.After(x.BuiltAt) {
			later++
		}
		if m.DesignID == x.DesignID {
			others++
		}
	}
	if err := x.MayUndo(looks, later); err != nil {
		return err
	}
	// A pull may still name it, or a look that comes late.
	n.Others = maps.Clone(n.Others)
	n.Others[id] = x
	if design, ok := find(b.Rows.Designs, x.DesignID); ok && others == 0 {
		design.SetID = nil
		b.design(design)
	}
	return b.takenBack(id)
}

func (b *Bundle) putPull(e entered) error {
	var x line.Pull
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(); err != nil {
		return err
	}
	set, ok := b.setOf(x.MakeID)
	if !ok {
		return ErrNotHere
	}
	put(&b.Rows.Noted.Pulls, x, byTime(func(p line.Pull) (time.Time, string) { return p.At, p.ID }))
	if x.Later {
		b.tell(line.Act{Kind: line.ActPull, ID: x.ID, At: x.At, Timed: true, SetID: set, What: line.LaterPull, Who: x.Who})
		return nil
	}
	b.tell(line.Act{Kind: line.ActPull, ID: x.ID, At: x.At, Timed: true, SetID: set, Who: x.Who})
	n := b.Rows.Noted
	chain, _ := line.Chain(n.Makes, n.Pulls, n.Others)
	if !slices.ContainsFunc(chain, func(m line.Make) bool { return m.SetID == set && m.PulledAt != nil && m.PulledAt.Equal(x.At) }) {
		return nil // it pulled nothing: it does not count
	}
	return b.begins(x.At, e)
}

func (b *Bundle) undoPull(id string) error {
	b.Rows.Noted.Pulls = without(b.Rows.Noted.Pulls, id)
	return b.takenBack(id)
}

// setOf is the set of a make that is told here.
func (b *Bundle) setOf(makeID string) (string, bool) {
	if m, ok := find(b.Rows.Noted.Makes, makeID); ok {
		return m.SetID, true
	}
	if m, ok := b.Rows.Noted.Others[makeID]; ok {
		return m.SetID, true
	}
	i := slices.IndexFunc(b.Rows.StillIn, func(x line.StillIn) bool { return x.MakeID == makeID })
	if i < 0 {
		return "", false
	}
	return b.Rows.StillIn[i].SetID, true
}

func (b *Bundle) putVisit(e entered) error {
	var x line.Visit
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(e.with.Animals); err != nil {
		return err
	}
	if _, ok := find(b.Rows.Noted.Visits, x.ID); ok {
		return nil // said again
	}
	made, ok := find(b.Rows.Noted.Makes, x.MakeID)
	if !ok {
		// What was taken back, or stood before: its traps are not always known here.
		if made, ok = b.Rows.Noted.Others[x.MakeID]; !ok || len(made.Layout.Rigs) == 0 && x.StrangeTraps(made) != "" {
			return ErrNotHere
		}
	}
	x = x.WithLists()
	x.MendedAt, x.ReceivedAt = nil, nil
	x.Flags = line.Flags(line.OddlyAhead(x.At, e.At), x.StrangeTraps(made))
	if line.Stamped(x.At, e.DeviceAt, e.AheadMs) {
		x.ReceivedAt = new(e.At.UTC())
	}
	return b.look(x, e)
}

// look puts a look among the others, and tells of it.
func (b *Bundle) look(x line.Visit, e entered) error {
	put(&b.Rows.Noted.Visits, x, byTime(func(v line.Visit) (time.Time, string) { return v.At, v.ID }))
	set, _ := b.setOf(x.MakeID)
	b.tell(line.Act{Kind: line.ActLook, ID: x.ID, At: x.At, Timed: x.Timed == nil || *x.Timed, SetID: set, What: string(x.Finding), Who: x.Who})
	now := e.At
	if x.At.After(now) {
		now = x.At // what lies ahead counts when that time has come
	}
	counts := line.NewRecord(now, time.UTC, tally.Span{}, b.Rows.Noted).Looks(x.MakeID)
	if _, ok := find(counts, x.ID); !ok {
		return nil
	}
	return b.begins(x.At, e)
}

func (b *Bundle) undoVisit(id string) error {
	b.Rows.Noted.Visits = without(b.Rows.Noted.Visits, id)
	return b.takenBack(id)
}

func (b *Bundle) putMend(e entered) error {
	var x line.Mend
	if err := e.read(b, &x); err != nil {
		return err
	}
	before, ok := find(b.Rows.Noted.Visits, x.VisitID)
	if !ok {
		return ErrNotHere
	}
	x.Visit.ID, x.Visit.LineID, x.Visit.UndoneAt = x.VisitID, b.Line.ID, nil
	zone, err := round.Zone(b.Line.Zone)
	if err == nil {
		err = x.Check(zone, e.with.Animals)
	}
	if err != nil {
		return err
	}
	return b.look(x.Over(before), e)
}

func (b *Bundle) putTrap(e entered) error {
	var x line.Trap
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(e.with.Animals); err != nil {
		return err
	}
	put(&b.Rows.Traps, x, func(a, b line.Trap) int { return a.Number - b.Number })
	b.story(x.ID, func(s *shed.Story) {
		s.Versions = append(slices.Clone(s.Versions), shed.TrapVersion{At: e.At.UTC(), Trap: x})
	})
	return nil
}

// story goes on with that of a trap.
func (b *Bundle) story(trapID string, on func(*shed.Story)) {
	b.Rows.Stories = maps.Clone(b.Rows.Stories)
	story := b.Rows.Stories[trapID]
	on(&story)
	b.Rows.Stories[trapID] = story
}

func (b *Bundle) putCheck(e entered) error {
	var x line.ShedCheck
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(); err != nil {
		return err
	}
	b.story(x.TrapID, func(s *shed.Story) {
		put(&s.Checks, x, byTime(func(x line.ShedCheck) (time.Time, string) { return x.At, x.ID }))
	})
	return b.begins(x.At, e)
}

func (b *Bundle) putMeasurement(e entered) error {
	var x line.Measurement
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(); err != nil {
		return err
	}
	b.measured(x)
	b.tell(line.Act{Kind: line.ActMeasurement, ID: x.ID, At: x.At, Timed: true, TrapID: x.TrapID, Who: x.Who})
	return b.begins(x.At, e)
}

func (b *Bundle) measured(x line.Measurement) {
	b.story(x.TrapID, func(s *shed.Story) {
		put(&s.Measurements, x, byTime(func(x line.Measurement) (time.Time, string) { return x.At, x.ID }))
	})
}

func (b *Bundle) undoMeasurement(id string) error {
	act, _ := find(b.Rows.Acts, id)
	x, ok := find(b.Rows.Stories[act.TrapID].Measurements, id)
	if !ok {
		return ErrNotHere
	}
	x.UndoneAt = &x.At
	b.measured(x)
	return b.takenBack(id)
}

// pouring goes on with that of a lure.
func (b *Bundle) pouring(lureID string, on func(*shed.Pouring)) error {
	i := slices.IndexFunc(b.Rows.Pourings, func(p shed.Pouring) bool { return p.Lure.ID == lureID })
	if i < 0 {
		return ErrNotHere
	}
	b.Rows.Pourings = slices.Clone(b.Rows.Pourings)
	on(&b.Rows.Pourings[i])
	return nil
}

func (b *Bundle) putLure(e entered) error {
	var x line.Lure
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(); err != nil {
		return err
	}
	x.Version++
	if x.Deleted {
		b.Rows.Pourings = slices.DeleteFunc(slices.Clone(b.Rows.Pourings), func(p shed.Pouring) bool { return p.Lure.ID == x.ID })
		return nil
	}
	if b.pouring(x.ID, func(p *shed.Pouring) { p.Lure = x }) != nil {
		b.Rows.Pourings = append(slices.Clone(b.Rows.Pourings), shed.Pouring{Lure: x})
	}
	return nil
}

func (b *Bundle) putBottle(e entered) error {
	var x line.Bottle
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(); err != nil {
		return err
	}
	for _, p := range b.Rows.Pourings {
		if _, was := find(p.Bottles, x.ID); was && p.Lure.ID != x.LureID {
			_ = b.pouring(p.Lure.ID, func(p *shed.Pouring) { p.Bottles = without(p.Bottles, x.ID) }) // it was found there
		}
	}
	return b.pouring(x.LureID, func(p *shed.Pouring) {
		put(&p.Bottles, x, func(a, b line.Bottle) int { return cmp.Compare(a.ID, b.ID) })
	})
}

func (b *Bundle) putLevel(e entered) error {
	var x line.Level
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(); err != nil {
		return err
	}
	for _, p := range b.Rows.Pourings {
		if _, of := find(p.Bottles, x.BottleID); of {
			return b.pouring(p.Lure.ID, func(p *shed.Pouring) {
				put(&p.Levels, x, byTime(func(x line.Level) (time.Time, string) { return x.At, x.ID }))
			})
		}
	}
	return ErrNotHere
}

func (b *Bundle) putDose(e entered) error {
	var x line.Dose
	if err := e.read(b, &x); err != nil {
		return err
	}
	if err := x.Check(); err != nil {
		return err
	}
	err := b.pouring(x.LureID, func(p *shed.Pouring) {
		put(&p.Doses, x, byTime(func(x line.Dose) (time.Time, string) { return x.At, x.ID }))
	})
	if err != nil {
		return err
	}
	spot := ""
	if x.SpotID != nil {
		spot = *x.SpotID
	}
	b.tell(line.Act{Kind: line.ActDose, ID: x.ID, At: x.At, Timed: true, LureID: x.LureID, SpotID: spot, What: counted(x.Count), Who: x.Who})
	return b.begins(x.At, e)
}

// counted is a count as the list of what was done has it.
func counted(n float64) string {
	text := strconv.FormatFloat(n, 'f', -1, 64)
	if !strings.Contains(text, ".") {
		text += ".0"
	}
	return text
}

func (b *Bundle) undoDose(id string) error {
	act, _ := find(b.Rows.Acts, id)
	if err := b.pouring(act.LureID, func(p *shed.Pouring) { p.Doses = without(p.Doses, id) }); err != nil {
		return err
	}
	return b.takenBack(id)
}
