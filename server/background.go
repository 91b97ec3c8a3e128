package server

import (
	"context"
	"log/slog"
	"sync"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/store"
)

const (
	pruneEvery   = 24 * time.Hour
	answersKept  = 400 * 24 * time.Hour // a write that comes again after that is known by its own id alone
	weatherEvery = time.Minute          // at which it is seen whether the weather is still fresh
	firstAnswer  = 5 * time.Second      // for which the program waits before it opens, so that its first pages know the weather
)

// Background does what no request waits for, until it is told to stop: the file is looked through for damage, old answers are
// forgotten, and the weather is fetched, for the first time before it returns.
func (s *Server) Background(ctx context.Context) {
	go func() {
		if err := s.Store.Check(ctx); err != nil {
			return
		}
		if found := s.Store.Barred(); found != nil {
			slog.Error("the data file is read only from here on", "error", found)
		}
	}()
	s.clearWaiting(time.Now())
	if s.Copies {
		s.findCopies()
		go s.keepCopies(ctx)
	}
	go s.keepPromises(ctx)
	go s.keepWeighed(ctx)
	go s.every(ctx, pruneEvery, func() {
		if err := s.Store.Prune(time.Now().Add(-answersKept)); err != nil {
			slog.Warn("old answers could not be forgotten", "error", err)
		}
	})
	if s.Weather != nil {
		first, cancel := context.WithTimeout(ctx, firstAnswer)
		s.FetchWeather(first)
		cancel()
		go s.keepWeather(ctx)
	}
}

// every does something at once, and again after each pause.
func (s *Server) every(ctx context.Context, pause time.Duration, do func()) {
	for ctx.Err() == nil {
		do()
		select {
		case <-ctx.Done():
		case <-time.After(pause):
		}
	}
}

// keepWeather fetches what is no longer fresh, at once when a page misses it.
func (s *Server) keepWeather(ctx context.Context) {
	for ctx.Err() == nil {
		s.FetchWeather(ctx)
		select {
		case <-ctx.Done():
		case <-time.After(weatherEvery):
		case <-s.office.missed:
		}
	}
}

// office is how the asking of the weather service stands, line by line.
type office struct {
	lock    sync.Mutex
	asking  sync.Mutex // one question at a time
	missed  chan struct{}
	trouble map[string]string
	failed  map[string]int
	resting map[string]time.Time // not asked again before
	unknown map[string][]string  // names in the last answer that mean nothing here
}

func newOffice() *office {
	return &office{missed: make(chan struct{}, 1), trouble: map[string]string{}, failed: map[string]int{}, resting: map[string]time.Time{}, unknown: map[string][]string{}}
}

// wants says that a page misses the weather.
func (o *office) wants() {
	select {
	case o.missed <- struct{}{}:
	default:
	}
}

// note keeps what came of a question: blank is that all is well. After a failure the service rests, twice as long each time.
func (o *office) note(line, trouble string) {
	o.lock.Lock()
	defer o.lock.Unlock()
	o.trouble[line] = trouble
	if trouble == "" {
		o.failed[line] = 0
		delete(o.resting, line)
		return
	}
	rest := min(firstRest<<o.failed[line], longestRest)
	o.failed[line] = min(o.failed[line]+1, 10)
	o.resting[line] = time.Now().Add(rest)
}

// puzzled keeps the names in an answer that mean nothing here.
func (o *office) puzzled(line string, names []string) {
	o.lock.Lock()
	defer o.lock.Unlock()
	o.unknown[line] = names
}

func (o *office) puzzling(line string) []string {
	o.lock.Lock()
	defer o.lock.Unlock()
	return append([]string{}, o.unknown[line]...)
}

func (o *office) standing(line string) (trouble string, rests bool) {
	o.lock.Lock()
	defer o.lock.Unlock()
	return o.trouble[line], time.Now().Before(o.resting[line])
}

const (
	firstRest   = 5 * time.Second
	longestRest = 15 * time.Minute
)

// FetchWeather asks the service for every line whose weather is no longer fresh, one after another.
func (s *Server) FetchWeather(ctx context.Context) {
	s.office.asking.Lock()
	defer s.office.asking.Unlock()
	var lines []line.Line
	err := s.Store.Read(ctx, func(v store.View) (err error) {
		lines, err = v.Lines()
		return err
	})
	if err != nil && ctx.Err() == nil {
		slog.Warn("the lines could not be read", "error", err)
	}
	for _, l := range lines {
		if _, rests := s.office.standing(l.ID); rests || s.isFresh(l.ID) {
			continue
		}
		if trouble := s.refresh(ctx, l); ctx.Err() == nil {
			s.office.note(l.ID, trouble)
		}
	}
}

// isFresh tells whether the weather of a line was fetched a short while ago.
func (s *Server) isFresh(lineID string) bool {
	now := s.Clock.Now()
	last, _ := s.fetched(lineID)
	return last != nil && now.Sub(*last) < freshFor && !now.Before(*last)
}

// officeOf is how the asking for the weather of a line stands.
func (s *Server) officeOf(lineID string) page.Office {
	found := page.Office{Connected: s.Weather != nil, Unknown: s.office.puzzling(lineID)}
	found.FetchedAt, found.StandIn = s.fetched(lineID)
	if found.Connected && !s.isFresh(lineID) {
		var rests bool
		found.Trouble, rests = s.office.standing(lineID)
		found.Fetching = !rests
	}
	return found
}
