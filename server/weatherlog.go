package server

import (
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"oldburrow/core/refuse"
	"oldburrow/core/weather"
	"oldburrow/exchange"
)

var (
	logNeeds = []string{"time", "temp_c", "wind_from_deg", "wind_ms"}
	logTakes = append(slices.Clone(logNeeds), "rain_mm", "snow_cm", "snow_depth_cm")
)

const mostLogRows = 24 * 400

// readLog reads a weather log as CSV: a row an hour, times as RFC 3339 or as the line's own clock shows them. Rows that
// cannot be taken are named; a log without its columns is refused.
func readLog(raw []byte, encoding string, zone *time.Location, now time.Time) (LogPreview, error) {
	sheet, err := exchange.OpenCSV(raw, encoding)
	if err != nil {
		return LogPreview{}, err
	}
	column := map[string]int{}
	for i, name := range sheet.Columns {
		column[name] = i
	}
	for _, name := range logNeeds {
		if _, ok := column[name]; !ok {
			return LogPreview{}, refuse.Field("file", "lacks the column %q: the first row names %s; the last three may be left out", name, strings.Join(logTakes, ", "))
		}
	}
	hours, wrong := []weather.Hour{}, []exchange.WrongRow{}
	seen := map[time.Time]bool{}
	for {
		row, cells, err := sheet.Next()
		if errors.Is(err, io.EOF) {
			break
		}
		if row > mostLogRows {
			return LogPreview{}, refuse.Field("file", "holds more than %d rows", mostLogRows)
		}
		var h weather.Hour
		if err == nil {
			h, err = readHour(cells, column, zone)
		}
		switch {
		case err != nil:
		case h.At.After(now):
			err = errors.New("time: lies in the future")
		case seen[h.At]:
			err = errors.New("time: the hour is there twice")
		}
		if err != nil {
			wrong = append(wrong, exchange.WrongAt(row, err))
			continue
		}
		seen[h.At] = true
		hours = append(hours, h)
	}
	slices.SortFunc(hours, func(a, b weather.Hour) int { return a.At.Compare(b.At) })
	return LogPreview{hours, wrong, sheet.Written}, nil
}

func readHour(cells []string, column map[string]int, zone *time.Location) (weather.Hour, error) {
	cell := func(name string) string {
		if i, ok := column[name]; ok && i < len(cells) {
			return strings.TrimSpace(cells[i])
		}
		return ""
	}
	var h weather.Hour
	var err error
	if h.At, err = readTime(cell("time"), zone); err != nil {
		return h, err
	}
	h.At = h.At.UTC().Truncate(time.Hour)
	for _, column := range []struct {
		name string
		into *float64
	}{
		{"temp_c", &h.TempC}, {"wind_from_deg", &h.WindFromDeg}, {"wind_ms", &h.WindMs}, {"rain_mm", &h.RainMm}, {"snow_cm", &h.SnowCm}, {"snow_depth_cm", &h.SnowDepthCm},
	} {
		text := cell(column.name)
		if text == "" && !slices.Contains(logNeeds, column.name) {
			continue
		}
		if *column.into, err = strconv.ParseFloat(text, 64); err != nil {
			return h, fmt.Errorf("%s: %q is no number", column.name, text)
		}
	}
	return h, h.Check()
}

func readTime(text string, zone *time.Location) (time.Time, error) {
	if t, err := time.Parse(time.RFC3339, text); err == nil {
		return t, nil
	}
	for _, form := range []string{"2006-01-02 15:04", "2006-01-02T15:04"} {
		t, err := time.ParseInLocation(form, text, zone)
		if err == nil && t.Format(form) != text {
			return t, fmt.Errorf("time: %s does not exist: the clocks went ahead over it", text)
		}
		if err == nil {
			return t, nil
		}
	}
	return time.Time{}, fmt.Errorf("time: %q is no time: write 2026-11-30 17:00", text)
}
