// Command draw draws the nights of the demo's season anew: it tries seed after seed until one brings all that there is to show, and writes what is kept
// of it to a file. Its arguments are that file, and the seed to begin with.
package main

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strconv"
	"strings"

	"oldburrow/demo"
)

// most is how many seeds are tried.
const most = 200000

func main() {
	if err := draw(context.Background(), os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func draw(ctx context.Context, args []string) error {
	if len(args) != 2 {
		return fmt.Errorf("usage: draw FILE SEED")
	}
	first, err := strconv.ParseUint(args[1], 10, 64)
	if err != nil {
		return err
	}
	d, err := demo.NewDrawing(ctx)
	if err != nil {
		return err
	}
	lacking := map[string]int{}
	for seed := first; seed < first+most; seed++ {
		season, kept, err := d.Draw(seed)
		if err != nil {
			return fmt.Errorf("seed %d: %w", seed, err)
		}
		lacks := demo.Fits(season)
		if len(lacks) == 0 {
			raw, err := json.MarshalIndent(kept, "", "\t")
			if err != nil {
				return err
			}
			fmt.Println("seed", seed)
			return os.WriteFile(args[0], append(raw, '\n'), 0o644)
		}
		for _, l := range lacks {
			lacking[strings.TrimLeft(l, "0123456789 ")]++
		}
		if tried := seed - first + 1; tried%2000 == 0 {
			fmt.Println(tried, "seeds were tried; they lacked:")
			for l, n := range lacking {
				if n*20 > int(tried) {
					fmt.Printf("  %6d %s\n", n, l)
				}
			}
		}
	}
	return fmt.Errorf("none of %d seeds fits", most)
}
