package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/htmlindex"
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

// Written is how a file of rows is written: its encoding, what stands between the cells, and whether its figures have a decimal comma.
// It is guessed where nobody says so, and said.
type Written struct {
	Encoding     string `json:"encoding"`
	Between      string `json:"between"`
	DecimalComma bool   `json:"decimalComma"`
}

// Encodings are those that can be asked for.
func Encodings() []string {
	return []string{"utf-8", "windows-1252", "windows-1250", "windows-1251", "iso-8859-1", "macintosh", "utf-16le", "utf-16be"}
}

// Sheet is a file of rows. Its columns are named by its first row, in small letters.
type Sheet struct {
	Columns []string
	Written Written
	reader  *csv.Reader
	row     int
}

// OpenCSV begins to read CSV in an encoding, or in the one that is likely where that is blank. It refuses, under the field "file", what is
// no CSV and what names a column twice.
func OpenCSV(raw []byte, encoding string) (*Sheet, error) {
	if err := Known(raw); err != nil {
		return nil, err
	}
	var s Sheet
	text, err := s.decoded(raw, encoding)
	if err != nil {
		return nil, err
	}
	line, rest, _ := strings.Cut(text, "\n")
	if said, ok := strings.CutPrefix(strings.Trim(strings.TrimSpace(line), `"`), "sep="); ok && len(said) == 1 {
		s.Written.Between, text, s.row = said, rest, 1
	} else {
		s.Written.Between = betweenCells(line)
	}
	s.reader = csv.NewReader(strings.NewReader(text))
	s.reader.Comma, s.reader.FieldsPerRecord, s.reader.TrimLeadingSpace = rune(s.Written.Between[0]), -1, s.Written.Between != "\t"
	head, err := s.reader.Read()
	if err != nil {
		return nil, refuse.Field("file", "cannot be read as CSV: %s", rowTrouble(err))
	}
	s.row++
	for i, name := range head {
		head[i] = strings.ToLower(strings.TrimSpace(plain.Clean(name)))
		if slices.Contains(head[:i], head[i]) && head[i] != "" {
			return nil, refuse.Field("file", "names the column %q twice: each may be there once", cut(head[i]))
		}
	}
	s.Columns = head
	return &s, nil
}

// decoded brings a file to text and notes how it was written.
func (s *Sheet) decoded(raw []byte, asked string) (string, error) {
	s.Written.Encoding = asked
	if asked == "" {
		s.Written.Encoding = likelyEncoding(raw)
	}
	if !slices.Contains(Encodings(), s.Written.Encoding) {
		return "", refuse.Field("encoding", "must be one of %s, not %q", strings.Join(Encodings(), ", "), cut(asked))
	}
	known, err := htmlindex.Get(s.Written.Encoding)
	if err != nil {
		return "", refuse.Field("encoding", "%q cannot be read here", s.Written.Encoding)
	}
	text, err := known.NewDecoder().Bytes(raw)
	if err != nil {
		return "", refuse.Field("file", "cannot be read as %s: choose another encoding", s.Written.Encoding)
	}
	return strings.TrimPrefix(string(text), "\ufeff"), nil
}

// likelyEncoding is how a file is most likely written: by its mark, by how many of its bytes are nought, else the one that it is valid in.
func likelyEncoding(raw []byte) string {
	head := raw[:min(len(raw), farthestIn)]
	odd := 0
	for i := 1; i < len(head); i += 2 {
		if head[i] == 0 {
			odd++
		}
	}
	even := bytes.Count(head, []byte{0}) - odd
	switch {
	case bytes.HasPrefix(raw, []byte{0xFF, 0xFE}), odd > len(head)/4:
		return "utf-16le"
	case bytes.HasPrefix(raw, []byte{0xFE, 0xFF}), even > len(head)/4:
		return "utf-16be"
	case utf8.Valid(raw):
		return "utf-8"
	}
	return "windows-1252"
}

// betweenCells is what most often stands in the first row outside of quotes.
func betweenCells(head string) string {
	most, found := 0, ","
	for _, between := range []string{",", ";", "\t"} {
		n, quoted := 0, false
		for _, c := range head {
			if c == '"' {
				quoted = !quoted
			} else if !quoted && string(c) == between {
				n++
			}
		}
		if n > most {
			most, found = n, between
		}
	}
	return found
}

// Next reads a row that is not blank, with its number in the file; io.EOF after the last. Figures come with a decimal point.
func (s *Sheet) Next() (row int, cells []string, err error) {
	for {
		cells, err = s.reader.Read()
		s.row++
		if err != nil || slices.ContainsFunc(cells, func(cell string) bool { return strings.TrimSpace(cell) != "" }) {
			break
		}
	}
	for i := range cells {
		if s.Written.Between != "," && i < len(s.Columns) && measured.MatchString(s.Columns[i]) && decimalComma.MatchString(strings.TrimSpace(cells[i])) {
			cells[i] = strings.Replace(cells[i], ",", ".", 1)
			s.Written.DecimalComma = true
		}
	}
	return s.row, cells, err
}

var (
	// measured are the columns that end in a unit.
	measured     = regexp.MustCompile(`_(mm|cm|g|n|c|ms|deg)$`)
	decimalComma = regexp.MustCompile(`^[-+]?\d+,\d+$`)
)

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
