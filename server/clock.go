package server

import (
	"fmt"
	"sync"
	"time"

	"oldburrow/store"
)

// Clock tells the time by which nights, dues and the future are judged.
type Clock interface{ Now() time.Time }

// WallClock is the machine's own time.
type WallClock struct{}

// Now is the time.
func (WallClock) Now() time.Time { return time.Now() }

const demoFact = "demo_clock"

// DemoClock is the made-up time of the demo line. It is kept in the data file, and can be moved on.
type DemoClock struct {
	store *store.Store
	zone  *time.Location
	still bool
	lock  sync.Mutex
	shows time.Time
	since time.Time
}

// NewDemoClock goes on from the time kept in the data file, or starts at start. A still one stands between moves.
func NewDemoClock(s *store.Store, start time.Time, zone *time.Location, still bool) (*DemoClock, error) {
	kept, err := s.Fact(demoFact)
	if err != nil {
		return nil, fmt.Errorf("read the demo's clock: %w", err)
	}
	if kept != "" {
		if start, err = time.Parse(time.RFC3339, kept); err != nil {
			return nil, fmt.Errorf("read the demo's clock: %w", err)
		}
	}
	return &DemoClock{store: s, zone: zone, still: still, shows: start, since: time.Now()}, nil
}

// Now is the demo's time.
func (c *DemoClock) Now() time.Time {
	c.lock.Lock()
	defer c.lock.Unlock()
	return c.now()
}

func (c *DemoClock) now() time.Time {
	if c.still {
		return c.shows
	}
	return c.shows.Add(time.Since(c.since))
}

// Keep notes the time in the data file, so that a later start goes on from it and no record lies in the future.
func (c *DemoClock) Keep() error {
	c.lock.Lock()
	defer c.lock.Unlock()
	return c.keep()
}

func (c *DemoClock) keep() error {
	return c.store.SetFact(demoFact, c.now().UTC().Format(time.RFC3339))
}

// MoveOnNight moves the demo to ten to six on the next morning.
func (c *DemoClock) MoveOnNight() (time.Time, error) {
	c.lock.Lock()
	defer c.lock.Unlock()
	y, m, d := c.now().In(c.zone).Date()
	c.shows, c.since = time.Date(y, m, d+1, 5, 50, 0, 0, c.zone), time.Now()
	return c.shows, c.keep()
}
