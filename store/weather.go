package store

import (
	"fmt"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/weather"
)

// Readings lists a line's readings by hand from a time on, oldest first.
func (v View) Readings(lineID string, from time.Time) ([]line.Reading, error) {
	return all[line.Reading](v, "readings", `SELECT * FROM readings WHERE line_id = ? AND at >= ? AND NOT deleted ORDER BY at, id`, lineID, from.UTC())
}

// PutReading keeps a reading by hand, or a change to one.
func (t *Tx) PutReading(x line.Reading) (line.Reading, error) {
	if x.SpotID != nil {
		if err := t.belongs("spots", "spotId", *x.SpotID, x.LineID); err != nil {
			return x, err
		}
	}
	x.At, x.Who = x.At.UTC(), t.by.Who
	err := edit(t, "readings", x.LineID, x.ID, &x, func(r *line.Reading) *int { return &r.Version })
	return x, err
}

// PutHours keeps hours of the record; own ones come from the user's log and are not overwritten by a service's.
func (t *Tx) PutHours(lineID string, hours []weather.Hour, own bool) error {
	keep := `WHERE excluded.own OR NOT weather_hours.own`
	return t.putHours(lineID, hours, false, own, keep)
}

// PutForecast keeps a forecast in the place of the one before.
func (t *Tx) PutForecast(lineID string, hours []weather.Hour) error {
	if _, err := t.tx.Exec(`DELETE FROM weather_hours WHERE line_id = ? AND forecast`, lineID); err != nil {
		return fmt.Errorf("drop the old forecast: %w", err)
	}
	return t.putHours(lineID, hours, true, false, "")
}

func (t *Tx) putHours(lineID string, hours []weather.Hour, forecast, own bool, keep string) error {
	if err := t.newHours(); err != nil {
		return err
	}
	statement, err := t.tx.Prepare(`
		INSERT INTO weather_hours (line_id, at, forecast, temp_c, wind_from_deg, wind_ms, rain_mm, snow_cm, snow_depth_cm, own)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (line_id, forecast, at) DO UPDATE SET temp_c = excluded.temp_c, wind_from_deg = excluded.wind_from_deg,
			wind_ms = excluded.wind_ms, rain_mm = excluded.rain_mm, snow_cm = excluded.snow_cm,
			snow_depth_cm = excluded.snow_depth_cm, own = excluded.own ` + keep)
	if err != nil {
		return fmt.Errorf("keep the weather: %w", err)
	}
	defer statement.Close()
	for _, h := range hours {
		if _, err := statement.Exec(lineID, h.At.UTC(), forecast, h.TempC, h.WindFromDeg, h.WindMs, h.RainMm, h.SnowCm, h.SnowDepthCm, own); err != nil {
			return fmt.Errorf("keep the weather of %s: %w", h.At, err)
		}
	}
	return nil
}

// Keep does a change that no person made, and that needs no mutation.
func (s *Store) Keep(change func(*Tx) error) error {
	tx, err := s.db.Beginx()
	if err != nil {
		return fmt.Errorf("begin: %w", err)
	}
	defer tx.Rollback()
	t := newTx(tx, time.Now())
	if err := change(t); err != nil {
		return err
	}
	if err := t.finish(); err != nil {
		return err
	}
	return tx.Commit()
}
