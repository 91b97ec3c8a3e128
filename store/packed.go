package store

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"oldburrow/core/line"
	"oldburrow/core/weather"
)

// Where thousands of small rows are read, handing them over one by one costs ten times what computing with them does. Each of their cells
// is handed over as one text instead, with this sign between rows.
const rowSign = "\x1e"

// packed reads the rows of a query, of which cells is what to select with semicolons between, and gives the cells of one after another; what is
// nothing is blank. A row that read refuses is noted by its first cell, and hides no other. They come in no order.
func packed(v View, table, cells, from string, read func(cells []string) error, args ...any) error {
	columns := strings.Split(cells, "; ")
	texts := make([]string, len(columns))
	into := make([]any, len(columns))
	packing := make([]string, len(columns))
	for i, cell := range columns {
		into[i] = &texts[i]
		packing[i] = `coalesce(group_concat(coalesce(` + cell + `, ''), char(30)), '')`
		columns[i] = `coalesce(` + cell + `, '')`
	}
	take := func(found []string) {
		if err := read(found); err != nil && v.unread != nil {
			*v.unread = append(*v.unread, Unreadable{What: things[table], ID: found[0], Why: "a value of it is of the wrong kind"})
		}
	}
	if err := v.q.QueryRowx(`SELECT `+strings.Join(packing, ", ")+` `+from, args...).Scan(into...); err != nil {
		return v.broken(table, err)
	}
	if texts[0] == "" { // the first is an id or a time
		return nil
	}
	rows := strings.Count(texts[0], rowSign) + 1
	if slices.ContainsFunc(texts, func(text string) bool { return strings.Count(text, rowSign)+1 != rows }) {
		return oneByOne(v, table, `SELECT `+strings.Join(columns, ", ")+` `+from, take, args...)
	}
	for range rows {
		found := make([]string, len(texts))
		for i := range texts {
			found[i], texts[i], _ = strings.Cut(texts[i], rowSign)
		}
		take(found)
	}
	return nil
}

// oneByOne reads the same where the sign stands within a cell.
func oneByOne(v View, table, query string, take func(cells []string), args ...any) error {
	rows, err := v.q.Queryx(query, args...)
	if err != nil {
		return v.broken(table, err)
	}
	defer rows.Close()
	for rows.Next() {
		cells, err := rows.SliceScan()
		if err != nil {
			return v.broken(table, err)
		}
		found := make([]string, len(cells))
		for i, cell := range cells {
			found[i] = fmt.Sprint(cell)
		}
		take(found)
	}
	return v.broken(table, rows.Err())
}

var errImpossible = errors.New("cannot be")

// timeIn reads a time as it is kept.
func timeIn(text string) (time.Time, error) {
	at, err := time.Parse("2006-01-02 15:04:05.999999999-07:00", text)
	if err == nil && (at.Year() < 1 || at.Year() > 9999) {
		err = errImpossible
	}
	return at.UTC(), err
}

// looks reads looks that were not taken back, without their catches.
func (v View) looks(lineID, where string, args ...any) ([]line.Visit, error) {
	found := []line.Visit{}
	const cells = `id; make_id; at; finding; note; flags; animal; told_by; also; rigs; seen; mended_at; received_at; timed; who`
	err := packed(v, "visits", cells, `FROM visits WHERE `+where+` AND undone_at IS NULL`, func(cells []string) error {
		at, err := timeIn(cells[2])
		if err != nil {
			return err
		}
		row := visitRow{AlsoJSON: cells[8], RigsJSON: cells[9], SeenJSON: cells[10], Visit: line.Visit{
			ID: cells[0], LineID: lineID, Who: cells[14], MakeID: cells[1], At: at, Note: cells[4], Flags: cells[5],
			Found: line.Found{Finding: line.Finding(cells[3]), Animal: cells[6], By: line.Evidence(cells[7])},
		}}
		for i, into := range []**time.Time{&row.Visit.MendedAt, &row.Visit.ReceivedAt} {
			if text := cells[11+i]; text != "" {
				when, err := timeIn(text)
				if err != nil {
					return err
				}
				*into = &when
			}
		}
		if text := cells[13]; text != "" {
			row.Timed = new(text != "0")
		}
		x, err := row.entity()
		if err == nil {
			found = append(found, x)
		}
		return err
	}, args...)
	return found, err
}

// looksAt is looks for those at some makes.
func (v View) looksAt(lineID string, makes []string, where string, args ...any) ([]line.Visit, error) {
	found := []line.Visit{}
	for some := range slices.Chunk(makes, mostAtOnce) {
		in, values, err := sqlx.In(`make_id IN (?) AND `+where, append([]any{some}, args...)...)
		if err != nil {
			return nil, err
		}
		looks, err := v.looks(lineID, in, values...)
		if err != nil {
			return nil, err
		}
		found = append(found, looks...)
	}
	return found, nil
}

// Hours lists the hours of a line's record from a time on, or of its newest forecast, in order.
func (v View) Hours(lineID string, forecast bool, from time.Time) ([]weather.Hour, error) {
	from = from.UTC()
	key := fmt.Sprint(lineID, forecast, from.Unix())
	return remembered(v, lastHour, key, func() ([]weather.Hour, error) { return v.readHours(lineID, forecast, from) })
}

func (v View) readHours(lineID string, forecast bool, from time.Time) ([]weather.Hour, error) {
	found := []weather.Hour{}
	const cells = `at; temp_c; wind_from_deg; wind_ms; rain_mm; snow_cm; snow_depth_cm`
	err := packed(v, "weather_hours", cells, `FROM weather_hours WHERE line_id = ? AND forecast = ? AND at >= ?`, func(cells []string) error {
		at, err := timeIn(cells[0])
		if err != nil {
			return err
		}
		var said [6]float64
		for i := range said {
			if said[i], err = strconv.ParseFloat(cells[i+1], 64); err != nil {
				return err
			}
		}
		found = append(found, weather.Hour{At: at, TempC: said[0], WindFromDeg: said[1], WindMs: said[2], RainMm: said[3], SnowCm: said[4], SnowDepthCm: said[5]})
		return nil
	}, lineID, forecast, from)
	slices.SortFunc(found, func(a, b weather.Hour) int { return a.At.Compare(b.At) })
	return found, err
}
