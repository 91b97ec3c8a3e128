package exchange

import (
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/jszwec/csvutil"

	"oldburrow/core/animal"
	"oldburrow/core/line"
	"oldburrow/core/plain"
	"oldburrow/core/refuse"
)

// trapRow is a trap as a row of CSV. The last three columns are written and not read: they tell what the rack says.
type trapRow struct {
	Number        int           `csv:"number"`
	Size          string        `csv:"size"`
	Type          line.TrapType `csv:"type"`
	JawForm       line.JawForm  `csv:"jaw_form"`
	Offset        string        `csv:"offset"` // yes, no, or blank where it is not known; so of what follows
	OffsetMm      string        `csv:"offset_mm"`
	Laminated     string        `csv:"laminated"`
	Padded        string        `csv:"padded"`
	JawSpreadMm   float64       `csv:"jaw_spread_mm"`
	FrameLengthMm float64       `csv:"frame_length_mm"`
	SetHeightMm   float64       `csv:"set_height_mm"`
	PanDiameterMm float64       `csv:"pan_diameter_mm"`
	WeightG       float64       `csv:"weight_g"`
	Swivels       int           `csv:"swivels"`
	ChainMm       float64       `csv:"chain_mm"`
	ShockSpring   bool          `csv:"shock_spring"`
	Tag           string        `csv:"tag"`
	MeantFor      string        `csv:"meant_for"`
	Spares        string        `csv:"spares"` // words with spaces between
	Away          line.Away     `csv:"away"`
	Note          string        `csv:"note"`
	Place         string        `csv:"place"`
	TensionN      string        `csv:"tension_n"`
	MeasuredAt    string        `csv:"measured_at"`
}

// jawColumn is one word on the jaws, as files had it before each thing had a column of its own.
const jawColumn = "jaw"

const (
	trapNeeds = 2 // number and size; what else is left out is as a new trap has it
	trapReads = 21
	mostTraps = 2000
	// mostIgnored is how many unknown columns are named.
	mostIgnored = 20
)

// TrapSays is what the rack says of a trap beside what it is: where it is, its measured tension in newtons and when that was.
type TrapSays struct{ Place, TensionN, MeasuredAt string }

func rowOf(t line.Trap) trapRow {
	return trapRow{
		Number: t.Number, Size: t.Size, Type: t.Type, JawForm: t.JawForm, Offset: yesNo(t.Offset), OffsetMm: figure(t.OffsetMm),
		Laminated: yesNo(t.Laminated), Padded: yesNo(t.Padded), JawSpreadMm: t.JawSpreadMm, FrameLengthMm: t.FrameLengthMm,
		SetHeightMm: t.SetHeightMm, PanDiameterMm: t.PanDiameterMm, WeightG: t.WeightG, Swivels: t.Swivels, ChainMm: t.ChainMm,
		ShockSpring: t.ShockSpring, Tag: t.Tag, MeantFor: t.MeantFor, Spares: strings.Join(t.Spares, " "), Away: t.Away, Note: t.Note,
	}
}

func yesNo(is *bool) string {
	switch {
	case is == nil:
		return ""
	case *is:
		return "yes"
	}
	return "no"
}

func figure(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'g', -1, 64)
}

// known reads yes and no; a blank is not known.
func known(p *refuse.Problems, field, word string) *bool {
	is := strings.EqualFold(word, "yes") || strings.EqualFold(word, "true")
	switch {
	case word == "":
		return nil
	case !is && !strings.EqualFold(word, "no") && !strings.EqualFold(word, "false"):
		p.Add(field, "%q is neither yes nor no", cut(word))
	}
	return &is
}

// over gives a trap as the row has it; what is no column stays.
func (r trapRow) over(t line.Trap) (line.Trap, error) {
	t.Number, t.Size, t.Type, t.JawSpreadMm, t.FrameLengthMm = r.Number, r.Size, r.Type, r.JawSpreadMm, r.FrameLengthMm
	var p refuse.Problems
	t.JawForm, t.Offset = r.JawForm, known(&p, "offset", r.Offset)
	t.Laminated, t.Padded = known(&p, "laminated", r.Laminated), known(&p, "padded", r.Padded)
	t.OffsetMm = nil
	if r.OffsetMm != "" {
		mm, err := strconv.ParseFloat(r.OffsetMm, 64)
		if err != nil {
			p.Add("offset_mm", "%q is no number", cut(r.OffsetMm))
		}
		t.OffsetMm = &mm
	}
	t.SetHeightMm, t.PanDiameterMm, t.WeightG, t.Swivels, t.ChainMm = r.SetHeightMm, r.PanDiameterMm, r.WeightG, r.Swivels, r.ChainMm
	t.ShockSpring, t.Tag, t.MeantFor, t.Spares, t.Away, t.Note = r.ShockSpring, r.Tag, r.MeantFor, strings.Fields(r.Spares), r.Away, r.Note
	return t, p.Err()
}

// blanked takes away what a blank cell says there is none of. Of a new trap it also says that it is not known whether its jaws are
// offset. Blank, every other column leaves what there is.
func (r *trapRow) blanked(column string, isNew bool) {
	switch column {
	case "tag":
		r.Tag = ""
	case "spares":
		r.Spares = ""
	case "away":
		r.Away = ""
	case "note":
		r.Note = ""
	case "offset":
		if isNew {
			r.Offset = ""
		}
	}
}

// WriteTraps writes a rack as CSV, a row a trap, with what the rack says of each.
func WriteTraps(traps []line.Trap, says []TrapSays) ([]byte, error) {
	rows := make([]trapRow, len(traps))
	for i, t := range traps {
		rows[i] = rowOf(t)
		rows[i].Size, rows[i].Tag, rows[i].Note = harmless(t.Size), harmless(t.Tag), harmless(t.Note)
		rows[i].Place, rows[i].TensionN, rows[i].MeasuredAt = says[i].Place, says[i].TensionN, says[i].MeasuredAt
	}
	return asCSV(rows)
}

// WrongRow is a row of a file that cannot be taken.
type WrongRow struct {
	Row  int    `json:"row"`
	Says string `json:"says"`
}

// TrapFile is what a file of traps holds: those that can be taken, the rows that cannot, and the columns that were not read.
type TrapFile struct {
	Traps   []line.Trap `json:"traps"`
	Wrong   []WrongRow  `json:"wrong"`
	Ignored []string    `json:"ignored"`
	Written Written     `json:"written"`
}

// ReadTraps reads a rack from CSV in an encoding, or in the likely one where that is blank. The first row names the columns. A number that hangs on the rack already is that trap with
// what the row changes; another is a new trap, without an id. It refuses, under the field "file", what is no CSV, lacks the
// number or the size, or holds too much.
func ReadTraps(raw []byte, encoding string, rack []line.Trap, known animal.Animals) (TrapFile, error) {
	found := TrapFile{Traps: []line.Trap{}, Wrong: []WrongRow{}, Ignored: []string{}}
	sheet, err := OpenCSV(raw, encoding)
	if err != nil {
		return found, err
	}
	head := sheet.Columns
	columns, err := csvutil.Header(trapRow{}, "csv")
	if err != nil {
		return found, err
	}
	for _, name := range columns[:trapNeeds] {
		if !slices.Contains(head, name) {
			return found, refuse.Field("file", "lacks the column %q: the first row names %s; all but the first two may be left out", name, strings.Join(columns[:trapReads], ", "))
		}
	}
	for _, name := range head {
		if !slices.Contains(columns[:trapReads], name) && name != jawColumn {
			if len(found.Ignored) < mostIgnored {
				found.Ignored = append(found.Ignored, cut(name))
			}
		}
	}
	seen := map[int]bool{}
	for {
		row, cells, err := sheet.Next()
		if errors.Is(err, io.EOF) {
			found.Written = sheet.Written
			return found, nil
		}
		if row > mostTraps {
			return found, refuse.Field("file", "holds more than %d rows", mostTraps)
		}
		var t line.Trap
		if err == nil {
			t, err = readTrap(head, cells, rack, known)
		}
		if err == nil && seen[t.Number] {
			err = refuse.Field("number", "%d is there twice", t.Number)
		}
		if err != nil {
			found.Wrong = append(found.Wrong, WrongAt(row, err))
			continue
		}
		seen[t.Number] = true
		found.Traps = append(found.Traps, t)
	}
}

var capitals = regexp.MustCompile("[A-Z]")

// inColumns says what is wrong with a row, by the names of the columns.
func inColumns(err error) string {
	var p refuse.Problems
	if !errors.As(err, &p) {
		return err.Error()
	}
	said := make([]string, len(p))
	for i, one := range p {
		said[i] = snake(one.Field) + " " + one.Says
	}
	return strings.Join(said, "; ")
}

// snake is the column of a field.
func snake(field string) string { return strings.ToLower(capitals.ReplaceAllString(field, "_$0")) }

// readTrap reads one row over the trap that has its number, or over a new one.
func readTrap(head, cells []string, rack []line.Trap, known animal.Animals) (line.Trap, error) {
	t := line.NewTrap()
	if at := slices.Index(head, "number"); at < len(cells) {
		number, _ := strconv.Atoi(strings.TrimSpace(cells[at])) // what is no number is refused below
		if known := slices.IndexFunc(rack, func(x line.Trap) bool { return x.Number == number }); known >= 0 {
			t = rack[known]
		}
	}
	row := rowOf(t)
	var names, values []string
	jaw := ""
	for i, name := range head[:min(len(head), len(cells))] {
		if cell := unharmed(strings.TrimSpace(plain.Clean(cells[i]))); name == jawColumn {
			jaw = cell
		} else if cell != "" {
			names, values = append(names, name), append(values, cell)
		} else {
			row.blanked(name, t.ID == "")
		}
	}
	decoder, err := csvutil.NewDecoder(&oneRow{values}, names...)
	if err != nil {
		return t, err
	}
	var wrong *csvutil.UnmarshalTypeError
	if err := decoder.Decode(&row); errors.As(err, &wrong) {
		return t, fmt.Errorf("%q is no %s", cut(wrong.Value), wanted[wrong.Type.Kind().String()])
	} else if err != nil && !errors.Is(err, io.EOF) {
		return t, err
	}
	was := rowOf(t)
	if t, err = row.over(t); err == nil {
		t, err = t.OneWord(jaw)
	}
	t.Usual = stillUsual(t, was, names)
	if err != nil {
		return t, err
	}
	checked := t
	if checked.ID == "" {
		checked.ID = zeroID
	}
	return t, checked.Check(known)
}

// stillUsual are the fields of a trap that nobody measured after a row that gives some columns was laid over it: a new trap's that the row
// does not give, and those of a known one that it leaves as they were.
func stillUsual(t line.Trap, was trapRow, given []string) []string {
	is := rowOf(t)
	same := map[string]bool{
		"jawSpreadMm": is.JawSpreadMm == was.JawSpreadMm, "frameLengthMm": is.FrameLengthMm == was.FrameLengthMm, "setHeightMm": is.SetHeightMm == was.SetHeightMm,
		"panDiameterMm": is.PanDiameterMm == was.PanDiameterMm, "weightG": is.WeightG == was.WeightG, "swivels": is.Swivels == was.Swivels, "chainMm": is.ChainMm == was.ChainMm,
	}
	var usual []string
	for _, field := range t.Usual {
		if !slices.Contains(given, snake(field)) || t.ID != "" && same[field] {
			usual = append(usual, field)
		}
	}
	return usual
}

// zeroID stands for the id that whoever takes the trap in will give it.
const zeroID = "00000000000000000000000000"

var wanted = map[string]string{"int": "whole number", "float64": "number", "bool": "true or false"}

// oneRow is a CSV reader of one row.
type oneRow struct{ cells []string }

func (r *oneRow) Read() ([]string, error) {
	if r.cells == nil {
		return nil, io.EOF
	}
	cells := r.cells
	r.cells = nil
	return cells, nil
}
