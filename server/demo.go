package server

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/core/shed"
	"oldburrow/demo"
	"oldburrow/store"
)

// demoMutation marks the write that put the demo line into a file: it is done once.
const demoMutation = "01KETT1EF0RKDEM0000000000A"

// making is the fact that a large line is being made up in a file, until it is whole.
const making = "making"

// errHalfMade says that the making of a large line was cut off.
var errHalfMade = errors.New("the made-up line in this file is not whole: its making was cut off. Begin anew with --fresh, which keeps this one aside")

// isWhole refuses a file in which the making of a large line was cut off.
func isWhole(s *store.Store) error {
	left, err := s.Fact(making)
	if err == nil && left != "" {
		err = errHalfMade
	}
	return err
}

// LoadDemo puts the demo line into a data file that does not hold it yet.
func LoadDemo(s *store.Store) error {
	if err := isWhole(s); err != nil {
		return err
	}
	_, err := s.Write(store.Asked{ID: demoMutation}, demo.Start(), func(t *store.Tx) (any, error) {
		season, err := demo.Build()
		if err != nil {
			return nil, fmt.Errorf("draw the demo's season: %w", err)
		}
		if _, err := t.PutLine(season.Line); err != nil {
			return nil, err
		}
		return season.Line.ID, putSeason(t, season)
	})
	if err != nil {
		return err
	}
	// Made out here, so that its first page knows them; else the program does it as it goes on.
	if err := tellPromises(context.Background(), s, demo.Start(), page.Usual()); err != nil {
		slog.Warn("what the demo's sets promised could not be made out", "error", err)
	}
	return nil
}

// LoadLarge puts a large made-up line into a data file that holds no line yet, a transaction a day.
func LoadLarge(s *store.Store, large demo.Large) error {
	var has bool
	err := s.Read(context.Background(), func(v store.View) error {
		lines, err := v.Lines()
		has = len(lines) > 0
		return err
	})
	if err != nil {
		return err
	}
	if has {
		return isWhole(s)
	}
	if err := s.SetFact(making, "large"); err != nil {
		return err
	}
	begun := false
	err = large.Days(func(at time.Time, day demo.Season) error {
		asked := store.Asked{ID: ulid.MustNew(ulid.Timestamp(at), ulid.DefaultEntropy()).String()}
		_, err := s.Write(asked, at.Add(12*time.Hour), func(t *store.Tx) (any, error) {
			if !begun {
				if _, err := t.PutLine(day.Line); err != nil {
					return nil, err
				}
			}
			return nil, putSeason(t, day)
		})
		begun = true
		return err
	})
	if err != nil {
		return err
	}
	return s.SetFact(making, "")
}

func putSeason(t *store.Tx, season demo.Season) error {
	for _, put := range []func() error{
		all(season.Properties, t.PutProperty), all(season.Spots, t.PutSpot), all(season.Features, t.PutFeature), all(season.Falls, t.PutFall), all(season.Signs, t.PutSign),
		all(season.Designs, t.PutDesign), all(season.Makes, t.PutMake), all(season.Pulls, t.PutPull), all(season.Visits, t.PutVisit),
		func() error { return t.PutHours(season.Line.ID, season.Hours, false) },
		all(season.Traps, func(v shed.TrapVersion) (line.Trap, error) { return t.PutTrap(v.Trap, v.At) }),
		all(season.Checks, t.PutShedCheck), all(season.Measurements, t.PutMeasurement), all(season.Calibrations, t.PutCalibration),
		all(season.Lures, t.PutLure), all(season.Bottles, t.PutBottle), all(season.Recipes, t.PutRecipe), all(season.KitMarks, t.PutKitMark),
	} {
		if err := put(); err != nil {
			return err
		}
	}
	return nil
}

// all puts each of a list.
func all[R, T any](list []R, put func(R) (T, error)) func() error {
	return func() error {
		for _, x := range list {
			if _, err := put(x); err != nil {
				return fmt.Errorf("put %T: %w", x, err)
			}
		}
		return nil
	}
}
