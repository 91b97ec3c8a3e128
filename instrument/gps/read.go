package gps

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"net"
	"time"

	"oldburrow/core/ground"
)

// Reading is what a receiver said during some seconds.
type Reading struct {
	Fixes   []ground.Fix
	NoFix   int // sentences that said that there is no fix
	Damaged int // sentences whose checksum did not match
}

// Read listens to a receiver at a TCP address for a while. It returns what was read when the time is over or the receiver
// hangs up; an error only when it cannot be reached.
func Read(ctx context.Context, address string, length time.Duration) (Reading, error) {
	ctx, cancel := context.WithTimeout(ctx, length)
	defer cancel()
	conn, err := (&net.Dialer{}).DialContext(ctx, "tcp", address)
	if err != nil {
		return Reading{}, fmt.Errorf("reach the receiver at %s: %w", address, err)
	}
	defer conn.Close()
	until, _ := ctx.Deadline()
	if err := conn.SetReadDeadline(until); err != nil {
		return Reading{}, err
	}
	var r Reading
	lines := bufio.NewScanner(conn)
	lines.Buffer(make([]byte, 0, 4*longestSentence), 4*longestSentence)
	for lines.Scan() {
		fix, err := Parse(lines.Text())
		switch {
		case err == nil:
			r.Fixes = append(r.Fixes, fix)
		case errors.Is(err, ErrNoFix):
			r.NoFix++
		case errors.Is(err, ErrChecksum):
			r.Damaged++
		}
	}
	return r, nil
}
