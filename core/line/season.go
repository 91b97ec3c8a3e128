package line

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/tally"
)

// Season is a stretch of a line's record under the user's own name. From and To are its first and last day, local dates. An act
// belongs to the last season that began by its own day; to the first one when it is older than all.
type Season struct {
	ID      string `json:"id" db:"id"`
	LineID  string `json:"lineId" db:"line_id"`
	Name    string `json:"name" db:"name"`
	From    string `json:"from" db:"from_day"`
	To      string `json:"to" db:"to_day"`
	Deleted bool   `json:"deleted" db:"deleted"`
	Version int    `json:"version" db:"version"`
}

// Check refuses a season without a name, or whose days are none or the wrong way round.
func (x Season) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	p.Text("name", x.Name, 40)
	from, to := CheckDay(&p, "from", x.From), CheckDay(&p, "to", x.To)
	if !from.IsZero() && !to.IsZero() && to.Before(from) {
		p.Add("to", "lies before its first day: a season ends after it begins")
	}
	return p.Err()
}

// CheckDay refuses what is no date, and a date that no clock of a device can show.
func CheckDay(p *refuse.Problems, field, text string) time.Time {
	if text == "" {
		p.Add(field, "is missing: write a date such as 2026-07-01")
		return time.Time{}
	}
	n := len(*p)
	day := checkDate(p, field, text)
	if len(*p) == n {
		checkYear(p, field, day)
	}
	return day
}

// Usual is the season that a time falls into where nobody has said otherwise: it begins on 1 July, south of the equator on
// 1 January, so that no winter is cut.
func Usual(at time.Time, zone *time.Location, latDeg float64) Season {
	year, month, _ := at.In(zone).Date()
	first := time.Date(year, time.January, 1, 0, 0, 0, 0, time.UTC)
	name := fmt.Sprint(year)
	if latDeg >= 0 {
		if month < time.July {
			year--
		}
		first = time.Date(year, time.July, 1, 0, 0, 0, 0, time.UTC)
		name = fmt.Sprintf("%d/%02d", year, (year+1)%100)
	}
	return Season{Name: name, From: first.Format(time.DateOnly), To: first.AddDate(1, 0, -1).Format(time.DateOnly)}
}

// Seasons are those of a line, in order.
type Seasons []Season

// Of is the season that a time belongs to; false while there is none.
func (s Seasons) Of(at time.Time, zone *time.Location) (Season, bool) {
	if len(s) == 0 {
		return Season{}, false
	}
	day := at.In(zone).Format(time.DateOnly)
	i, found := slices.BinarySearchFunc(s, day, func(x Season, day string) int { return cmp.Compare(x.From, day) })
	if !found {
		i = max(i-1, 0)
	}
	return s[i], true
}

// Open is the present season: the one that now lies in, else the last one that has begun; false while none has.
func (s Seasons) Open(now time.Time, zone *time.Location) (Season, bool) {
	day := now.In(zone).Format(time.DateOnly)
	for _, x := range slices.Backward(s) {
		if x.From <= day {
			return x, true
		}
	}
	return Season{}, false
}

// Before is the season before another; false where there is none.
func (s Seasons) Before(id string) (Season, bool) {
	i := slices.IndexFunc(s, func(x Season) bool { return x.ID == id })
	if i < 1 {
		return Season{}, false
	}
	return s[i-1], true
}

// SoonestOpened is how far ahead of the program's clock an act may lie that opens a season: a mistyped year opens none.
const SoonestOpened = 7 * 24 * time.Hour

// Opens is the season that an act at a time begins, without an id; false where it falls into one that is there. It begins where
// the usual one does, but for days that another has.
func (s Seasons) Opens(at time.Time, zone *time.Location, latDeg float64) (Season, bool) {
	fresh := Usual(at, zone, latDeg)
	if len(s) == 0 {
		return fresh, true
	}
	day := at.In(zone).Format(time.DateOnly)
	first, last := s[0], s[len(s)-1]
	switch {
	case day > last.To:
		fresh.From = max(fresh.From, dayAfter(last.To, 1))
		return fresh, true
	case day < first.From:
		fresh.To = min(fresh.To, dayAfter(first.From, -1))
		return fresh, true
	}
	return Season{}, false
}

func dayAfter(day string, n int) string {
	at, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return at.AddDate(0, 0, n).Format(time.DateOnly)
}

// Fits refuses a season whose days another one has.
func (s Seasons) Fits(x Season) error {
	for _, other := range s {
		if other.ID == x.ID || x.To < other.From || other.To < x.From {
			continue
		}
		if x.From >= other.From {
			return refuse.Field("from", "lies in %s, which goes on until %s: begin later, or end that one first", other.Name, other.To)
		}
		return refuse.Field("to", "lies in %s, which begins on %s: end before that, or let that one begin later", other.Name, other.From)
	}
	return nil
}

// Span is what belongs to a season: from its first day until the next one begins; to the first belongs what is older than all, to
// the last what comes after it.
func (s Seasons) Span(id string, zone *time.Location) tally.Span {
	var span tally.Span
	for i, x := range s {
		if x.ID != id {
			continue
		}
		if i > 0 {
			span.From = startOf(x.From, zone)
		}
		if i+1 < len(s) {
			span.Until = startOf(s[i+1].From, zone)
		}
	}
	return span
}

func startOf(day string, zone *time.Location) time.Time {
	at, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return time.Time{}
	}
	y, m, d := at.Date()
	return round.StartOfDay(y, m, d, zone)
}
