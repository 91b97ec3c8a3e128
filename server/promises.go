package server

import (
	"context"
	"log/slog"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/core/promise"
	"oldburrow/core/tally"
	"oldburrow/store"
)

const (
	promiseEvery = time.Minute
	// nightsAtATime are made out of one view of the file: what happens meanwhile is seen by the next.
	nightsAtATime = 30
)

// keepPromises makes out what the makes promised, as nights go by and as what was done moves nights that were.
func (s *Server) keepPromises(ctx context.Context) {
	for ctx.Err() == nil {
		if err := tellPromises(ctx, s.Store, s.Clock.Now(), s.with()); err != nil && ctx.Err() == nil {
			slog.Warn("what the sets promised could not be made out", "error", err)
		}
		select {
		case <-ctx.Done():
		case <-time.After(promiseEvery):
		case <-s.acted:
		}
	}
}

// wakes says that something was done.
func (s *Server) wakes() {
	select {
	case s.acted <- struct{}{}:
	default:
	}
}

// tellPromises makes out what is not made out yet of the promises of all lines in a file.
func tellPromises(ctx context.Context, s *store.Store, now time.Time, with page.With) error {
	if s.Barred() != nil {
		return nil
	}
	var lines []line.Line
	if err := s.Read(ctx, func(v store.View) (err error) { lines, err = v.Lines(); return err }); err != nil {
		return err
	}
	for _, l := range lines {
		for done := false; !done; {
			var err error
			if done, err = tellSome(ctx, s, l, now, with); err != nil {
				return err
			}
		}
	}
	return nil
}

// tellSome makes out some nights of a line, and tells whether these were all.
func tellSome(ctx context.Context, s *store.Store, l line.Line, now time.Time, with page.With) (done bool, err error) {
	var since, counts time.Time
	var due bool
	err = s.Read(ctx, func(v store.View) error {
		r, err := page.Read(v, l, now, with, page.Around{})
		if err != nil {
			return err
		}
		if counts, err = r.CountsFrom(); err != nil {
			return err
		}
		since, due, err = v.Promising(l.ID, page.PromiseForm)
		due = due || !since.IsZero() && r.Passed(since)
		return err
	})
	if err != nil || !due {
		return true, err
	}
	if err := s.Keep(func(t *store.Tx) (err error) {
		since, err = t.BeginPromising(l.ID, page.PromiseForm, counts)
		return err
	}); err != nil || since.IsZero() {
		return true, err
	}
	var found page.Promising
	err = s.Read(ctx, func(v store.View) error {
		r, err := page.Read(v, l, now, with, page.Around{})
		if err != nil {
			return err
		}
		rows, err := v.Promises(l.ID, tally.Span{From: since})
		if err != nil {
			return err
		}
		made := map[string]promise.Make{}
		for _, m := range rows {
			made[m.MakeID] = m
		}
		found, err = r.Promise(ctx, since, nightsAtATime, made)
		return err
	})
	if err != nil {
		return true, err
	}
	return found.Done, s.Keep(func(t *store.Tx) error { return t.KeepPromises(l.ID, page.PromiseForm, found.Made, found.Next) })
}
