// Package weather reads hourly observations and a forecast from a service that speaks JSON over HTTP, and ships a stand-in.
package weather

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"net"
	"net/http"
	"net/url"
	"slices"
	"time"

	"oldburrow/core/plain"
	"oldburrow/core/refuse"
	"oldburrow/core/weather"
)

// Report is what a service says: the hours observed, and those that it expects. Unknown are names of an hour that mean nothing
// here: what fell may stand under one of them.
type Report struct {
	Issued   time.Time      `json:"issued"`
	StandIn  bool           `json:"standIn"`
	Observed []weather.Hour `json:"observed"`
	Forecast []weather.Hour `json:"forecast"`
	Unknown  []string       `json:"-"`
}

// Client asks a service at an address.
type Client struct {
	URL  string
	HTTP *http.Client
}

// NewClient asks the service at a URL, with a time limit for each try.
func NewClient(address string) *Client {
	return &Client{URL: address, HTTP: &http.Client{Timeout: 20 * time.Second}}
}

const (
	tries        = 3
	firstPause   = 150 * time.Millisecond
	largestReply = 4 << 20
	longestReply = 24 * 500 // hours
	farAhead     = 10 * 24 * time.Hour
)

// errLying marks a reply that came and cannot be true or read: asking again would not help.
var errLying = errors.New("its reply cannot be used")

// Get asks for the hours from a time on, as of now. It tries again, with growing pauses, when the service is out of reach;
// a broken or lying reply is refused at once.
func (c *Client) Get(ctx context.Context, latDeg, lonDeg float64, from, now time.Time) (Report, error) {
	query := url.Values{
		"lat": {fmt.Sprintf("%.4f", latDeg)}, "lon": {fmt.Sprintf("%.4f", lonDeg)},
		"from": {from.UTC().Format(time.RFC3339)}, "now": {now.UTC().Format(time.RFC3339)},
	}
	var err error
	for try, pause := 0, firstPause; try < tries; try, pause = try+1, 2*pause {
		if try > 0 {
			select {
			case <-ctx.Done():
				return Report{}, ctx.Err()
			case <-time.After(pause):
			}
		}
		var r Report
		if r, err = c.once(ctx, c.URL+"/hourly?"+query.Encode()); err == nil {
			if err = check(r, now); err == nil {
				r.Observed, r.Forecast = weather.Hourly(r.Observed), weather.Hourly(r.Forecast)
			}
			return r, err
		}
		if errors.Is(err, errLying) {
			break
		}
	}
	return Report{}, err
}

func (c *Client) once(ctx context.Context, address string) (Report, error) {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return Report{}, errors.New("its address is no address")
	}
	response, err := c.HTTP.Do(request)
	if err != nil {
		return Report{}, silent(err)
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		return Report{}, fmt.Errorf("it answers %d %s", response.StatusCode, http.StatusText(response.StatusCode))
	}
	reply, err := io.ReadAll(io.LimitReader(response.Body, largestReply))
	if err != nil {
		return Report{}, silent(err)
	}
	return decode(reply)
}

// decode reads a reply.
func decode(reply []byte) (Report, error) {
	var r Report
	err := json.Unmarshal(reply, &r)
	var missing refuse.Problems
	if errors.As(err, &missing) {
		return Report{}, fmt.Errorf("%w: of an hour, %s", errLying, missing)
	}
	if err != nil {
		return Report{}, fmt.Errorf("%w: it is broken or cut off", errLying)
	}
	r.Unknown = unknown(reply)
	return r, nil
}

// mostUnknown is how many unknown names are told.
const mostUnknown = 8

// unknown lists the names of a reply's hours that an hour has not, in their order.
func unknown(reply []byte) []string {
	var said struct{ Observed, Forecast []map[string]json.RawMessage }
	if json.Unmarshal(reply, &said) != nil {
		return nil
	}
	raw, _ := json.Marshal(weather.Hour{})
	known := map[string]json.RawMessage{}
	_ = json.Unmarshal(raw, &known) // an hour as this program writes it
	names := map[string]bool{}
	for _, hour := range slices.Concat(said.Observed, said.Forecast) {
		for name := range hour {
			if _, ok := known[name]; !ok {
				names[plain.Clean(name)] = true
			}
		}
	}
	found := slices.Sorted(maps.Keys(names))
	return found[:min(len(found), mostUnknown)]
}

// silent says in words why no reply came. The address is not told: a key may stand in it.
func silent(err error) error {
	var late net.Error
	var nameless *net.DNSError
	var refused *net.OpError
	switch {
	case errors.Is(err, context.Canceled):
		return context.Canceled
	case errors.As(err, &nameless):
		return errors.New("its name is not known")
	case errors.As(err, &late) && late.Timeout():
		return errors.New("it does not answer in time")
	case errors.As(err, &refused) && refused.Op == "dial":
		return errors.New("nobody answers there")
	}
	return errors.New("it hung up")
}

// check refuses hours that cannot be: out of order, impossible, observed in the future or forecast for the far future.
func check(r Report, now time.Time) error {
	if len(r.Observed)+len(r.Forecast) == 0 || len(r.Observed)+len(r.Forecast) > longestReply {
		return fmt.Errorf("%w: it holds %d hours", errLying, len(r.Observed)+len(r.Forecast))
	}
	for name, hours := range map[string][]weather.Hour{"observed": r.Observed, "forecast": r.Forecast} {
		if err := weather.Ordered(hours); err != nil {
			return fmt.Errorf("%w: %s %s", errLying, name, err)
		}
	}
	if n := len(r.Observed); n > 0 && r.Observed[n-1].At.After(now.Add(time.Hour)) {
		return fmt.Errorf("%w: it has observed the future", errLying)
	}
	if n := len(r.Forecast); n > 0 && r.Forecast[n-1].At.After(now.Add(farAhead)) {
		return fmt.Errorf("%w: its forecast has no end", errLying)
	}
	return nil
}
