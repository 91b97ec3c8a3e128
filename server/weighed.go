package server

import (
	"context"
	"log/slog"
	"time"

	"oldburrow/core/advice"
	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/store"
)

// weighRests is for how long nothing is weighed once it was asked for.
const weighRests = 2 * time.Second

// keepWeighed weighs what is worth doing on the lines that somebody asked it of, as things are done there.
func (s *Server) keepWeighed(ctx context.Context) {
	for ctx.Err() == nil {
		select {
		case <-ctx.Done():
		case lineID := <-s.weighs:
			select { // the page that asked comes first
			case <-ctx.Done():
			case <-time.After(weighRests):
			}
			if err := weigh(ctx, s.Store, lineID, s.Clock, s.with()); err != nil && ctx.Err() == nil {
				slog.Warn("what is worth doing could not be weighed", "error", err)
			}
		}
	}
}

// wantsWeighed has what is worth doing on a line weighed, unless that waits to be done already.
func (s *Server) wantsWeighed(lineID string) {
	select {
	case s.weighs <- lineID:
	default:
	}
}

// weigh weighs what is not weighed as it stands now, one after the other, each kept as soon as it is known. What happens meanwhile is seen by the next.
func weigh(ctx context.Context, s *store.Store, lineID string, clock Clock, with page.With) error {
	if s.Barred() != nil {
		return nil
	}
	tried := map[string]bool{}
	for {
		var found advice.Kept
		var over []string
		var more bool
		err := s.Read(ctx, func(v store.View) error {
			l, err := v.Line(lineID)
			if err != nil {
				return err
			}
			r, err := page.Read(v, l, clock.Now(), with, page.Around{})
			if err != nil {
				return err
			}
			found, over, more, err = nextWeighed(ctx, r, l, tried)
			return err
		})
		if err != nil || !more && len(over) == 0 {
			return err
		}
		kept := []advice.Kept{}
		if more {
			kept = append(kept, found)
		}
		if err := s.Keep(func(t *store.Tx) error { return t.KeepWeighed(lineID, kept, over) }); err != nil || !more {
			return err
		}
	}
}

// nextWeighed weighs the first that is missing; false where none is, or all were tried.
func nextWeighed(ctx context.Context, r page.Reading, l line.Line, tried map[string]bool) (advice.Kept, []string, bool, error) {
	missing, over, err := r.Unweighed()
	if err != nil {
		return advice.Kept{}, nil, false, err
	}
	for _, key := range missing {
		if tried[key] {
			continue
		}
		tried[key] = true
		if found, ok, err := r.Weigh(ctx, key); err != nil || ok {
			return found, over, ok, err
		}
	}
	return advice.Kept{}, over, false, nil
}
