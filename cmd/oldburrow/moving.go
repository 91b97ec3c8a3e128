package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/signal"
	"slices"
	"strings"
	"syscall"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/spf13/cobra"

	"oldburrow/archive"
	"oldburrow/core/refuse"
	"oldburrow/store"
)

// fileCommand is a command about the data file that --data names.
func fileCommand(c *cobra.Command, do func(data string, args []string) error) *cobra.Command {
	var data string
	c.RunE = func(_ *cobra.Command, args []string) error { return do(data, args) }
	c.Flags().StringVar(&data, "data", "", "the data file")
	if err := c.MarkFlagRequired("data"); err != nil {
		panic(err)
	}
	return c
}

func backupCommand() *cobra.Command {
	c := &cobra.Command{Use: "backup --data FILE OUT", Short: "Make a whole copy of a data file, also while the program runs", Args: cobra.ExactArgs(1)}
	return fileCommand(c, func(data string, args []string) error {
		made, err := store.Backup(data, args[0])
		if err != nil {
			return err
		}
		fmt.Printf("%s, %d bytes: read back and found whole\n", made.Path, made.Bytes)
		printRows(made.Rows)
		return nil
	})
}

func restoreCommand() *cobra.Command {
	c := &cobra.Command{Use: "restore --data FILE IN", Short: "Put a copy in the place of a data file, which is set aside", Args: cobra.ExactArgs(1)}
	return fileCommand(c, func(data string, args []string) error {
		put, err := store.Restore(data, args[0], time.Now())
		if err != nil {
			return err
		}
		fmt.Printf("%s is now as %s is\n", data, args[0])
		if put.Aside != "" {
			fmt.Printf("The file that was there is kept as %s\n", put.Aside)
		}
		printRows(put.Rows)
		return nil
	})
}

func printRows(rows map[string]int) {
	names := make([]string, 0, len(rows))
	for name := range rows {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		fmt.Printf("%s: %d\n", name, rows[name])
	}
}

func exportCommand() *cobra.Command {
	var ask archive.Ask
	c := &cobra.Command{Use: "export --data FILE OUT.zip", Short: "Save all of a data file, or a line of it, to one archive", Args: cobra.ExactArgs(1)}
	c.Flags().StringVar(&ask.Line, "line", "", "the id of the only line that is to go out")
	c.Flags().StringSliceVar(&ask.Without, "without", nil, "what others need not see: places, names, permission, notes; such an archive is no copy to go on from")
	return fileCommand(c, func(data string, args []string) error {
		s, err := store.OpenToRead(data)
		if err != nil {
			return err
		}
		defer s.Close()
		ask.Program, ask.At = version(), time.Now()
		m, err := stoppable(func(ctx context.Context, tell archive.Progress) (archive.Manifest, error) {
			return archive.SaveAs(ctx, s, args[0], ask, tell)
		})
		if err != nil {
			return err
		}
		if len(m.LeftOut) > 0 {
			fmt.Printf("%s: for others, without %s. It is no copy to go on from\n", args[0], strings.Join(m.LeftOut, ", "))
		} else {
			fmt.Printf("%s\n", args[0])
		}
		for _, e := range m.Files {
			if e.Records > 0 {
				fmt.Printf("%s: %d\n", strings.TrimSuffix(e.Name, ".jsonl"), e.Records)
			}
		}
		return nil
	})
}

func importCommand() *cobra.Command {
	var try bool
	c := &cobra.Command{Use: "import --data FILE IN.zip", Short: "Take an archive into a data file that is not there yet, or holds no record", Args: cobra.ExactArgs(1)}
	c.Flags().BoolVar(&try, "dry-run", false, "say what would come of it, and change nothing")
	return fileCommand(c, func(data string, args []string) error {
		a, shut, err := openArchive(args[0])
		if err != nil {
			return err
		}
		defer shut()
		report, err := takeInto(data, a, try)
		if err != nil {
			return aboutArchive(args[0], err)
		}
		for _, k := range report.Counts {
			fmt.Printf("%s: %d new, %d same\n", k.Kind, k.New, k.Same)
		}
		switch {
		case report.Already:
			fmt.Println("Everything is there already: nothing was changed")
		case try:
			fmt.Printf("It takes %d KB: nothing was changed\n", report.Bytes>>10)
		}
		return nil
	})
}

func openArchive(path string) (a *archive.Archive, shut func() error, err error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, nil, fmt.Errorf("%q cannot be read: name an archive", path)
	}
	info, err := f.Stat()
	if err == nil {
		a, err = archive.Open(f, info.Size(), store.FormNumber())
	}
	if err != nil {
		f.Close()
		return nil, nil, aboutArchive(path, err)
	}
	return a, f.Close, nil
}

// aboutArchive says what is wrong with an archive, by its name where it is its own fault.
func aboutArchive(path string, err error) error {
	var fields refuse.Problems
	if errors.As(err, &fields) && len(fields) > 0 {
		return fmt.Errorf("%s %s", path, fields[0].Says)
	}
	return err
}

// takeInto takes an archive into a data file that no program has open. One that is not there is made whole before it has its name.
func takeInto(data string, a *archive.Archive, try bool) (r archive.TakenIn, err error) {
	file := data
	if info, err := os.Stat(data); errors.Is(err, fs.ErrNotExist) || err == nil && info.Size() == 0 {
		file = data + ".part"
		if err := removed(file); err != nil {
			return r, err
		}
		defer removed(file)
	} else if release, err := store.Alone(data); err != nil {
		return r, err
	} else {
		release()
	}
	s, err := store.Open(file)
	if err != nil {
		return r, err
	}
	defer s.Close()
	if why := s.Barred(); why != nil {
		return r, why
	}
	asked := store.Asked{ID: ulid.Make().String()}
	r, err = stoppable(func(ctx context.Context, tell archive.Progress) (archive.TakenIn, error) {
		return archive.Take(ctx, s, a, asked, time.Now(), try, tell)
	})
	if err != nil || file == data || try {
		return r, store.InWords(err)
	}
	return r, s.Become(data)
}

// removed clears away what a making that broke off has left.
func removed(file string) error {
	for _, part := range []string{"", "-wal", "-shm"} {
		if err := os.Remove(file + part); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

// stoppable does something that is ended by an interrupt, and tells how far it has come where that takes a while.
func stoppable[T any](do func(context.Context, archive.Progress) (T, error)) (T, error) {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	told := time.Now()
	done, err := do(ctx, func(done, of int) {
		if time.Since(told) > time.Second {
			told = time.Now()
			fmt.Printf("%d of %d\n", done, of)
		}
	})
	if errors.Is(err, context.Canceled) {
		err = errors.New("was stopped: nothing was changed")
	}
	return done, err
}
