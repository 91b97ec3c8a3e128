package weather

import (
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"time"

	"oldburrow/core/weather"
)

// StandIn is a made-up weather service. Its weather is a function of the hour.
type StandIn struct {
	server   *http.Server
	listener net.Listener
	hour     func(time.Time) weather.Hour
}

const forecastHours = 72

// NewStandIn starts a stand-in at an address; hour gives the weather of any hour.
func NewStandIn(address string, hour func(time.Time) weather.Hour) (*StandIn, error) {
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return nil, fmt.Errorf("start the stand-in weather service: %w", err)
	}
	s := &StandIn{listener: listener, hour: hour}
	mux := http.NewServeMux()
	mux.HandleFunc("GET /hourly", s.hourly)
	s.server = &http.Server{Handler: mux, ReadHeaderTimeout: 5 * time.Second}
	go func() { _ = s.server.Serve(listener) }()
	return s, nil
}

// URL is where it answers.
func (s *StandIn) URL() string { return "http://" + s.listener.Addr().String() }

// Close stops it.
func (s *StandIn) Close() error { return s.server.Close() }

func (s *StandIn) hourly(w http.ResponseWriter, r *http.Request) {
	from, err := time.Parse(time.RFC3339, r.URL.Query().Get("from"))
	now, wrong := time.Parse(time.RFC3339, r.URL.Query().Get("now"))
	if err != nil || wrong != nil || now.Sub(from) > longestReply*time.Hour/2 {
		http.Error(w, "from and now must be times, not too far apart", http.StatusBadRequest)
		return
	}
	now = now.Truncate(time.Hour)
	report := Report{Issued: now, StandIn: true, Observed: []weather.Hour{}, Forecast: []weather.Hour{}}
	for at := from.Truncate(time.Hour); !at.After(now); at = at.Add(time.Hour) {
		report.Observed = append(report.Observed, s.hour(at))
	}
	for i := 1; i <= forecastHours; i++ {
		report.Forecast = append(report.Forecast, s.hour(now.Add(time.Duration(i)*time.Hour)))
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(report)
}
