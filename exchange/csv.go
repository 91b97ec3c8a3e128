package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"slices"
	"strings"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/transform"

	"oldburrow/core/plain"
	"oldburrow/core/refuse"
)

// inUTF8 brings a file to UTF-8 without a byte order mark.
func inUTF8(raw []byte) []byte {
	decoded, _, err := transform.Bytes(unicode.BOMOverride(encoding.Nop.NewDecoder()), raw)
	if err != nil {
		return raw
	}
	return decoded
}

// OpenCSV begins to read CSV and gives the names of its columns, in small letters. It refuses, under the field "file", what is
// no CSV and what names a column twice.
func OpenCSV(raw []byte) (*csv.Reader, []string, error) {
	reader := csv.NewReader(bytes.NewReader(inUTF8(raw)))
	reader.FieldsPerRecord, reader.TrimLeadingSpace = -1, true
	head, err := reader.Read()
	if err != nil {
		return nil, nil, refuse.Field("file", "cannot be read as CSV: %s", rowTrouble(err))
	}
	for i, name := range head {
		head[i] = strings.ToLower(strings.TrimSpace(plain.Clean(name)))
		if slices.Contains(head[:i], head[i]) && head[i] != "" {
			return nil, nil, refuse.Field("file", "names the column %q twice: each may be there once", cut(head[i]))
		}
	}
	return reader, head, nil
}

// rowTrouble says what is wrong with a row that is no CSV.
func rowTrouble(err error) string {
	switch {
	case errors.Is(err, csv.ErrQuote), errors.Is(err, csv.ErrBareQuote):
		return "a quote is not closed, or stands in the middle of a cell"
	case errors.Is(err, csv.ErrFieldCount):
		return "the number of cells is another"
	}
	return "it is empty"
}

// mostWords is how much is said of one row.
const mostWords = 300

// WrongAt is a row that cannot be taken, with why. What stands in the row is not sent back whole.
func WrongAt(row int, err error) WrongRow {
	var broken *csv.ParseError
	says := []rune(inColumns(err))
	if errors.As(err, &broken) {
		says = []rune(rowTrouble(err))
	}
	if len(says) > mostWords {
		says = append(says[:mostWords], []rune(" …")...)
	}
	return WrongRow{row, plain.Clean(string(says))}
}

// runs is how a cell begins that a spreadsheet would take for a formula and run.
const runs = "=+-@\t\r"

// harmless puts an apostrophe before a cell that a spreadsheet would run, and unharmed takes it away again.
func harmless(cell string) string {
	if cell != "" && (strings.ContainsAny(cell[:1], runs) || cell[0] == '\'' && len(cell) > 1 && strings.ContainsAny(cell[1:2], runs+"'")) {
		return "'" + cell
	}
	return cell
}

func unharmed(cell string) string {
	if len(cell) > 1 && cell[0] == '\'' && strings.ContainsAny(cell[1:2], runs+"'") {
		return cell[1:]
	}
	return cell
}
