package page

import (
	"math"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/mix"
	"oldburrow/core/outlook"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/core/weather"
)

// Shelf is the lures of a line with their bottles, its recipes, and the cold that they have to stand.
type Shelf struct {
	Lures   []shed.OnShelf                   `json:"lures"`
	Recipes []line.Recipe                    `json:"recipes"`
	Usual   map[string]mix.Recipe            `json:"usual"`                         // the trade's own, to begin with
	Doses   map[layout.SmellKind]line.Dosage `json:"doses"`                         // what one set takes of each class, to begin with
	Coldest *ColdestHour                     `json:"coldest" jsonschema:"nullable"` // nil while no forecast is known
	StandC  float64                          `json:"standC"`                        // the cold that a mixture should stand
}

// ColdestHour is the coldest hour of the forecast.
type ColdestHour struct {
	At    time.Time `json:"at"`
	TempC float64   `json:"tempC"`
}

// c is how cold that is; nil while it is not known.
func (h *ColdestHour) c() *float64 {
	if h == nil {
		return nil
	}
	return &h.TempC
}

func shelf(r Reading, _ Asked) (any, error) {
	poured, err := r.Poured(r.Of.ID, r.Now)
	if err != nil {
		return nil, err
	}
	found := Shelf{Usual: mix.Usual(), Doses: line.UsualDoses()}
	if found.Recipes, err = r.Recipes(r.Of.ID); err != nil {
		return nil, err
	}
	if found.Coldest, err = r.coldest(); err != nil {
		return nil, err
	}
	found.Lures, found.StandC = shed.Shelf(poured, found.Coldest.c()), shed.ColdToStand(found.Coldest.c())
	return found, nil
}

// coldest finds the coldest hour still to come.
func (r Reading) coldest() (*ColdestHour, error) {
	hours, err := r.Hours(r.Of.ID, true, time.Time{})
	if err != nil {
		return nil, err
	}
	found := weather.Coldest(hours, r.Now)
	if found == nil {
		return nil, nil
	}
	return &ColdestHour{found.At, found.TempC}, nil
}

// rainTo is the rain that is expected until a day is over; nil where nobody knows.
func (r Reading) rainTo(expected []weather.Hour, day string) *float64 {
	on, err := time.ParseInLocation(time.DateOnly, day, r.Zone)
	if err != nil {
		return nil
	}
	to := weather.NightOf(expected, r.Now, on.AddDate(0, 0, 1))
	if to == nil {
		return nil
	}
	return &to.RainMm
}

// kit computes what to take along on a day, by its local date.
func kit(r Reading, q Asked) (any, error) {
	day := q.Key
	if _, err := time.Parse(time.DateOnly, day); err != nil {
		return nil, refuse.ErrUnknown
	}
	record, err := r.Shed()
	if err != nil {
		return nil, err
	}
	left, err := r.stillNow(record.Record)
	if err != nil {
		return nil, err
	}
	season, _, err := r.Season("")
	if err != nil {
		return nil, err
	}
	marks, err := r.KitMarks(r.Of.ID, season.From)
	if err != nil {
		return nil, err
	}
	coldest, err := r.coldest()
	if err != nil {
		return nil, err
	}
	around := shed.Outside{GPS: r.Around.GPS, ColdestC: coldest.c()}
	drawn, err := r.outlookLine()
	if err != nil {
		return nil, err
	}
	view, err := outlook.Of(drawn)
	if err != nil {
		return nil, err
	}
	around.SnowCm = drawn.SnowCm()
	around.RainMm = r.rainTo(drawn.Expected, day)
	for _, spot := range view.Spots {
		around.FrostMm = math.Max(around.FrostMm, spot.DepthMm)
	}
	for _, x := range left {
		if x.Due {
			around.Thawed = append(around.Thawed, x.StillIn)
		}
	}
	return record.KitFor(day, marks, around)
}
