// Package gauge reads presses from a force gauge that says its readings as lines over TCP, as a serial one does behind a
// converter, and ships a stand-in that presses a made-up pan.
package gauge

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"net"
	"strconv"
	"strings"
	"time"

	"oldburrow/core/gauge"
)

// Errors of reading.
var (
	ErrDamaged = errors.New("damaged line")
	ErrStuck   = errors.New("the gauge is stuck")
	ErrNoPress = errors.New("no press was seen")
	ErrUnsure  = errors.New("the readings about the peak cannot be trusted")
)

// Zero is the command that makes a gauge take what it reads now for nothing.
const Zero = "ZERO"

// longestLine is more than any gauge says at once.
const longestLine = 120

// newtons is what one of a unit is.
var newtons = map[string]float64{"N": 1, "LBF": 4.4482216, "KGF": 9.80665, "OZF": 4.4482216 / 16}

// Parse reads one line of a gauge: F,count,force,unit,state*checksum, with the XOR of what stands before the star in
// hexadecimal. It returns newtons, or ErrDamaged for a line that is none, whose checksum does not match, or that says that the
// gauge is overloaded.
func Parse(line string) (float64, error) {
	n, _, err := parse(line)
	return n, err
}

// parse is Parse with the gauge's own count of its lines.
func parse(line string) (newton float64, count int, err error) {
	body, sum, ok := strings.Cut(strings.TrimSpace(line), "*")
	if !ok || len(line) > longestLine || fmt.Sprintf("%02X", checksum(body)) != strings.ToUpper(sum) {
		return 0, 0, ErrDamaged
	}
	fields := strings.Split(body, ",")
	if len(fields) != 5 || fields[0] != "F" || fields[4] != "OK" {
		return 0, 0, ErrDamaged
	}
	force, err := strconv.ParseFloat(fields[2], 64)
	unit, known := newtons[strings.ToUpper(fields[3])]
	if err != nil || !known || !(force > -2000 && force < 2000) {
		return 0, 0, ErrDamaged
	}
	count, err = strconv.Atoi(fields[1])
	if err != nil {
		return 0, 0, ErrDamaged
	}
	return force * unit, count, nil
}

func checksum(body string) byte {
	var sum byte
	for i := range len(body) {
		sum ^= body[i]
	}
	return sum
}

// Press is one press read from a gauge, and how many of its lines were damaged on the way.
type Press struct {
	gauge.Press
	Damaged int `json:"damaged"`
	Missing int `json:"missing"` // gaps in the gauge's own count
}

// Read listens to the gauge at a TCP address, after giving it some commands, until it has seen a whole press. It returns
// ErrStuck when the readings stop moving under load, ErrUnsure when one is lost or leaps just before the peak, ErrNoPress when there was none in time, and other errors when the gauge
// cannot be reached.
func Read(ctx context.Context, address string, patience time.Duration, commands ...string) (Press, error) {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	conn, err := (&net.Dialer{}).DialContext(ctx, "tcp", address)
	if err != nil {
		return Press{}, fmt.Errorf("reach the gauge at %s: %w", address, err)
	}
	defer conn.Close()
	until, _ := ctx.Deadline()
	if err := conn.SetDeadline(until); err != nil {
		return Press{}, err
	}
	for _, command := range commands {
		if _, err := fmt.Fprintf(conn, "%s\r\n", command); err != nil {
			return Press{}, fmt.Errorf("tell the gauge: %w", err)
		}
	}
	var watch gauge.Watch
	found := Press{}
	lines := bufio.NewScanner(conn)
	lines.Buffer(make([]byte, 0, 4*longestLine), 4*longestLine)
	last, any := 0, false
	for lines.Scan() {
		force, count, err := parse(lines.Text())
		if err != nil {
			found.Damaged++
			watch.Lose()
			continue
		}
		// Its own count says when a line was lost on the way, or never sent.
		if any && count != last+1 {
			found.Missing++
			watch.Lose()
		}
		last, any = count, true
		if watch.See(force) {
			break
		}
	}
	if watch.Stuck() {
		return found, ErrStuck
	}
	if watch.Unsure() {
		return found, ErrUnsure
	}
	press, whole := watch.Press()
	if !whole {
		return found, ErrNoPress
	}
	found.Press = press
	return found, nil
}
