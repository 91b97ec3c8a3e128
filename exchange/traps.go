package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/jszwec/csvutil"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

// trapRow is a trap as a row of CSV. The last three columns are written and not read: they tell what the rack says.
type trapRow struct {
	Number        int     `csv:"number"`
	Size          string  `csv:"size"`
	Type          string  `csv:"type"`
	Jaw           string  `csv:"jaw"`
	JawSpreadMm   float64 `csv:"jaw_spread_mm"`
	FrameLengthMm float64 `csv:"frame_length_mm"`
	SetHeightMm   float64 `csv:"set_height_mm"`
	PanDiameterMm float64 `csv:"pan_diameter_mm"`
	WeightG       float64 `csv:"weight_g"`
	Swivels       int     `csv:"swivels"`
	ChainMm       float64 `csv:"chain_mm"`
	ShockSpring   bool    `csv:"shock_spring"`
	Tag           string  `csv:"tag"`
	MeantFor      string  `csv:"meant_for"`
	Spares        string  `csv:"spares"` // words with spaces between
	Away          string  `csv:"away"`
	Note          string  `csv:"note"`
	Place         string  `csv:"place"`
	TensionN      string  `csv:"tension_n"`
	MeasuredAt    string  `csv:"measured_at"`
}

const (
	trapNeeds = 2 // number and size; what else is left out is as a new trap has it
	trapReads = 17
	mostTraps = 2000
)

// TrapSays is what the rack says of a trap beside what it is: where it is, its measured tension in newtons and when that was.
type TrapSays struct{ Place, TensionN, MeasuredAt string }

// WriteTraps writes a rack as CSV, a row a trap, with what the rack says of each.
func WriteTraps(traps []line.Trap, says []TrapSays) ([]byte, error) {
	rows := make([]trapRow, len(traps))
	for i, t := range traps {
		rows[i] = trapRow{
			t.Number, t.Size, t.Type, t.Jaw, t.JawSpreadMm, t.FrameLengthMm, t.SetHeightMm, t.PanDiameterMm, t.WeightG, t.Swivels,
			t.ChainMm, t.ShockSpring, t.Tag, t.MeantFor, strings.Join(t.Spares, " "), t.Away, t.Note,
			says[i].Place, says[i].TensionN, says[i].MeasuredAt,
		}
	}
	var out bytes.Buffer
	writer := csv.NewWriter(&out)
	encoder := csvutil.NewEncoder(writer)
	if err := encoder.EncodeHeader(trapRow{}); err != nil {
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
}

// ReadTraps reads a rack from CSV. The first row names the columns. It refuses, under the field "file", what is no CSV, lacks
// the number or the size, or holds too much.
func ReadTraps(raw []byte) (TrapFile, error) {
	found := TrapFile{Traps: []line.Trap{}, Wrong: []WrongRow{}, Ignored: []string{}}
	reader := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(raw, []byte("\xEF\xBB\xBF"))))
	reader.FieldsPerRecord, reader.TrimLeadingSpace = -1, true
	head, err := reader.Read()
	if err != nil {
		return found, refuse.Field("file", "cannot be read as CSV: %s", err)
	}
	for i := range head {
		head[i] = strings.ToLower(strings.TrimSpace(head[i]))
	}
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
		if !slices.Contains(columns[:trapReads], name) {
			found.Ignored = append(found.Ignored, name)
		}
	}
	seen := map[int]bool{}
	for row := 2; ; row++ {
		cells, err := reader.Read()
		if errors.Is(err, io.EOF) {
			return found, nil
		}
		if row > mostTraps {
			return found, refuse.Field("file", "holds more than %d rows", mostTraps)
		}
		var t line.Trap
		if err == nil {
			t, err = readTrap(head, cells)
		}
		if err == nil && seen[t.Number] {
			err = fmt.Errorf("number: %d is there twice", t.Number)
		}
		if err != nil {
			found.Wrong = append(found.Wrong, WrongRow{row, err.Error()})
			continue
		}
		seen[t.Number] = true
		found.Traps = append(found.Traps, t)
	}
}

// readTrap reads one row over a new trap. A blank cell leaves what a new trap has.
func readTrap(head, cells []string) (line.Trap, error) {
	t := line.NewTrap()
	var names, values []string
	for i, name := range head {
		if i < len(cells) && strings.TrimSpace(cells[i]) != "" {
			names, values = append(names, name), append(values, strings.TrimSpace(cells[i]))
		}
	}
	row := trapRow{
		Type: t.Type, Jaw: t.Jaw, JawSpreadMm: t.JawSpreadMm, FrameLengthMm: t.FrameLengthMm, SetHeightMm: t.SetHeightMm,
		PanDiameterMm: t.PanDiameterMm, WeightG: t.WeightG, Swivels: t.Swivels, ChainMm: t.ChainMm, MeantFor: t.MeantFor,
	}
	if !slices.Contains(head, "spares") {
		row.Spares = strings.Join(t.Spares, " ")
	}
	decoder, err := csvutil.NewDecoder(&oneRow{values}, names...)
	if err != nil {
		return t, err
	}
	var wrong *csvutil.UnmarshalTypeError
	if err := decoder.Decode(&row); errors.As(err, &wrong) {
		return t, fmt.Errorf("%q is no %s", wrong.Value, wanted[wrong.Type.Kind().String()])
	} else if err != nil && !errors.Is(err, io.EOF) {
		return t, err
	}
	t = line.Trap{
		ID: zeroID, Number: row.Number, Size: row.Size, Type: row.Type, Jaw: row.Jaw, JawSpreadMm: row.JawSpreadMm, FrameLengthMm: row.FrameLengthMm,
		SetHeightMm: row.SetHeightMm, PanDiameterMm: row.PanDiameterMm, WeightG: row.WeightG, Swivels: row.Swivels, ChainMm: row.ChainMm,
		ShockSpring: row.ShockSpring, Tag: row.Tag, MeantFor: row.MeantFor, Spares: strings.Fields(row.Spares), Away: row.Away, Note: row.Note,
	}
	err = t.Check()
	t.ID = ""
	return t, err
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
