// Command oldburrow keeps and computes a predator trapline: a web application, and its calculators on the command line.
package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/net/netutil"

	"oldburrow/core/calc"
	"oldburrow/core/odds"
	"oldburrow/core/round"
	"oldburrow/demo"
	"oldburrow/instrument/gauge"
	"oldburrow/instrument/gps"
	"oldburrow/instrument/weather"
	"oldburrow/server"
	"oldburrow/store"
	"oldburrow/web"
)

func main() {
	debug.SetMemoryLimit(memoryGoal)
	debug.SetGCPercent(300) // far from the goal it clears up seldom: pages are quicker by a tenth
	root := &cobra.Command{
		Use: "oldburrow", Short: "Keeps and computes a predator trapline",
		SilenceUsage: true, SilenceErrors: true, Version: version(),
	}
	var level string
	root.PersistentFlags().StringVar(&level, "log", "info", "how much is told on standard error: debug (every request), info, warn or error")
	root.PersistentPreRunE = func(*cobra.Command, []string) error {
		var l slog.Level
		if err := l.UnmarshalText([]byte(level)); err != nil {
			return fmt.Errorf("--log must be debug, info, warn or error, not %q", level)
		}
		slog.SetDefault(slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: l})))
		return nil
	}
	root.AddCommand(serveCommand(), passphraseCommand(), demoCommand(), backupCommand(), restoreCommand(), exportCommand(), importCommand(), calcCommand(), schemaCommand(), listsCommand(), openAPICommand(), standInCommand())
	if err := root.Execute(); err != nil {
		fmt.Fprintln(os.Stderr, strings.ReplaceAll(err.Error(), "\n", " "))
		os.Exit(2)
	}
}

// version is the commit that the program was built from, with the version of what it computes.
func version() string {
	commit := "unknown"
	if built, ok := debug.ReadBuildInfo(); ok {
		for _, setting := range built.Settings {
			if setting.Key == "vcs.revision" {
				commit = setting.Value[:min(12, len(setting.Value))]
			}
		}
	}
	return fmt.Sprintf("commit %s, computation %d", commit, odds.Version)
}

// memoryGoal is what the program tries to stay within, bytes: it clears up the more eagerly.
const memoryGoal = 100 << 20

func serveCommand() *cobra.Command {
	var data, receiver, office, presser, folder string
	var keep int
	var at way
	c := &cobra.Command{Use: "serve", Short: "Serve your own line from a data file", Args: cobra.NoArgs, RunE: func(*cobra.Command, []string) error {
		if keep < 1 {
			return fmt.Errorf("--keep must be at least 1, not %d: the newest copy is never cleared away", keep)
		}
		copies := store.CopiesOf(data)
		copies.Keep = keep
		if folder != "" {
			copies.Folder = folder
		}
		s, err := store.OpenWith(data, copies)
		if err != nil {
			return err
		}
		defer s.Close()
		own := &server.Server{Store: s, Clock: server.WallClock{}, Dist: web.Dist(), Version: version(), Copies: true}
		stop, err := connect(own, receiver, office, presser)
		if err != nil {
			return err
		}
		defer stop()
		return run(own, at)
	}}
	c.Flags().StringVar(&data, "data", "", "the data file; it is made when it is not there")
	at.flags(c, "127.0.0.1:8417")
	c.Flags().StringVar(&receiver, "gps", "", "a GPS receiver's TCP address (NMEA 0183), or stand-in for a made-up one")
	c.Flags().StringVar(&office, "weather", "", "a weather service's URL, or stand-in for a made-up one")
	c.Flags().StringVar(&presser, "gauge", "", "a force gauge's TCP address, or stand-in for a made-up one")
	c.Flags().StringVar(&folder, "backup-dir", "", "the folder for copies of the data file; else one beside it, on the same disk and with its fate")
	c.Flags().IntVar(&keep, "keep", store.UsualKeep, "how many of the copies made night by night are kept, beside the first of each of twelve months")
	if err := c.MarkFlagRequired("data"); err != nil {
		panic(err)
	}
	return c
}

func demoCommand() *cobra.Command {
	var data, office string
	var fresh, still, empty, large bool
	var size demo.Large
	var at way
	load := func(s *store.Store) error {
		if large {
			return server.LoadLarge(s, size)
		}
		return server.LoadDemo(s)
	}
	c := &cobra.Command{Use: "demo", Short: "Show the made-up Kettle Fork line", Args: cobra.NoArgs, RunE: func(*cobra.Command, []string) error {
		if fresh {
			if err := setAside(data); err != nil {
				return err
			}
		}
		s, err := store.Open(data)
		if err != nil {
			return err
		}
		defer s.Close()
		if !empty {
			if err := load(s); err != nil {
				return err
			}
		}
		zone, err := round.Zone(demo.Zone)
		if err != nil {
			return err
		}
		clock, err := server.NewDemoClock(s, demo.Start(), zone, still)
		if err != nil {
			return err
		}
		shown := &server.Server{Store: s, Clock: clock, Demo: clock, Dist: web.Dist(), Version: version()}
		stop, err := connect(shown, standIn, office, standIn)
		if err != nil {
			return err
		}
		defer stop()
		return run(shown, at)
	}}
	c.Flags().StringVar(&data, "data", "demo.db", "the demo's data file")
	at.flags(c, "127.0.0.1:8416")
	c.Flags().StringVar(&office, "weather", standIn, "a weather service's URL, stand-in for the made-up one, or blank for none")
	c.Flags().BoolVar(&fresh, "fresh", false, "set the old data file aside and begin anew")
	c.Flags().BoolVar(&still, "still", false, "let the demo's clock stand still")
	c.Flags().BoolVar(&large, "large", false, "make up a large line of many seasons instead")
	c.Flags().IntVar(&size.Seasons, "seasons", 10, "how many seasons a large line has")
	c.Flags().IntVar(&size.Sets, "sets", 60, "how many sets a large line has in each season")
	c.Flags().BoolVar(&empty, "empty", false, "begin without the demo line, with the demo's clock")
	return c
}

// standIn is the name under which a made-up receiver, gauge or weather service is asked for.
const standIn = "stand-in"

// connect joins the server to a receiver, a weather service and a gauge, starts those that are made up, and gives what stops them.
func connect(s *server.Server, receiver, office, presser string) (stop func(), err error) {
	var stops []func() error
	stop = func() {
		for _, one := range stops {
			_ = one()
		}
	}
	switch receiver {
	case "":
	case standIn:
		walker, err := gps.NewStandIn(demo.Walk(), 100*time.Millisecond)
		if err != nil {
			return stop, err
		}
		stops = append(stops, walker.Close)
		s.GPS = &server.Receiver{Address: walker.Address(), StandIn: true}
	default:
		s.GPS = &server.Receiver{Address: receiver}
	}
	switch office {
	case "":
	case standIn:
		service, err := weather.NewStandIn("127.0.0.1:0", demo.Hour)
		if err != nil {
			return stop, err
		}
		stops = append(stops, service.Close)
		s.Weather = weather.NewClient(service.URL())
	default:
		s.Weather = weather.NewClient(office)
	}
	switch presser {
	case "":
	case standIn:
		made, err := gauge.NewStandIn(demo.PanN, 30*time.Millisecond)
		if err != nil {
			return stop, err
		}
		stops = append(stops, made.Close)
		s.Gauge = &server.Gauge{Address: made.Address(), StandIn: true}
	default:
		s.Gauge = &server.Gauge{Address: presser}
	}
	return stop, nil
}

// standInCommand runs the made-up weather service by itself.
func standInCommand() *cobra.Command {
	var listen string
	c := &cobra.Command{Use: "stand-in", Short: "Run the made-up weather service by itself", Args: cobra.NoArgs, RunE: func(*cobra.Command, []string) error {
		service, err := weather.NewStandIn(listen, demo.Hour)
		if err != nil {
			return err
		}
		defer service.Close()
		fmt.Printf("The made-up weather service is at %s\n", service.URL())
		stop, cancel := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
		defer cancel()
		<-stop.Done()
		return nil
	}}
	c.Flags().StringVar(&listen, "listen", "127.0.0.1:8415", "the address to listen on")
	return c
}

// setAside renames a data file and what belongs to it; nothing is deleted.
func setAside(path string) error {
	stamp := time.Now().Format(".20060102-150405.old")
	for _, part := range []string{"", "-wal", "-shm"} {
		err := os.Rename(path+part, path+stamp+part)
		if err != nil && !errors.Is(err, os.ErrNotExist) {
			return fmt.Errorf("set the old demo aside: %w", err)
		}
		if err == nil && part == "" {
			fmt.Println("The old demo is kept as", filepath.Base(path+stamp))
		}
	}
	return nil
}

func calcCommand() *cobra.Command {
	return &cobra.Command{
		Use: "calc NAME", Short: "Run a calculator: one JSON object in, one out",
		Long: "Run a calculator: one JSON object on standard input, one on standard output.\nThere are: " + strings.Join(calc.Names(), ", "),
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			in, err := io.ReadAll(os.Stdin)
			if err != nil {
				return fmt.Errorf("read the input: %w", err)
			}
			out, err := calc.Run(args[0], in)
			if err != nil {
				return err
			}
			fmt.Println(string(out))
			return nil
		},
	}
}

func schemaCommand() *cobra.Command {
	return printCommand("schema", "Print the JSON Schema of the program's records", server.Schema)
}

func openAPICommand() *cobra.Command {
	return printCommand("openapi", "Print the OpenAPI description of what the program answers", server.OpenAPI)
}

func listsCommand() *cobra.Command {
	return printCommand("lists", "Print the program's lists of words as the interface reads them", server.Lists)
}

func printCommand(use, short string, what func() ([]byte, error)) *cobra.Command {
	return &cobra.Command{Use: use, Short: short, Args: cobra.NoArgs, RunE: func(*cobra.Command, []string) error {
		raw, err := what()
		if err != nil {
			return err
		}
		_, err = os.Stdout.Write(raw)
		return err
	}}
}

// run serves until it is told to stop, and lets requests under way end.
func run(s *server.Server, at way) error {
	stop, cancel := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer cancel()
	listener, err := at.open(stop, s)
	if err != nil {
		return err
	}
	h := &http.Server{Handler: s.Handler(), ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10}
	s.Background(stop)
	fmt.Printf("Old Burrow is open at http://%s\n", listener.Addr())
	failed := make(chan error, 1)
	go func() { failed <- h.Serve(listener) }()
	select {
	case err := <-failed:
		return err
	case <-stop.Done():
	}
	ending, cancelEnding := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancelEnding()
	if err := h.Shutdown(ending); err != nil {
		fmt.Fprintln(os.Stderr, "A request that did not end was cut off; what it wanted to write is not in the file.")
		return h.Close()
	}
	return nil
}

// mostConnections is how many browsers, or tabs of them, may be connected at a time.
const mostConnections = 512

func limited(l net.Listener) net.Listener { return netutil.LimitListener(l, mostConnections) }
