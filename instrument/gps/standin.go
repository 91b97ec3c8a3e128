package gps

import (
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"time"

	"oldburrow/core/ground"
)

// StandIn is a made-up receiver: it walks from place to place, stays a while at each, shakes as a real one does, now and
// then loses its fix and damages a sentence.
type StandIn struct {
	listener net.Listener
	walk     []ground.Fix
	every    time.Duration
	begun    time.Time
}

const (
	shakeM   = 3.0
	stay     = 40 * time.Second
	damaged  = 0.06 // share of sentences with a wrong checksum
	noFix    = 0.04 // share of sentences without a fix
	wildM    = 60.0 // how far a wild fix lies off
	wildness = 0.02
)

// NewStandIn starts a stand-in on a free loopback port. It sends a sentence as often as every says.
func NewStandIn(walk []ground.Fix, every time.Duration) (*StandIn, error) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, fmt.Errorf("start the stand-in receiver: %w", err)
	}
	s := &StandIn{listener: listener, walk: walk, every: every, begun: time.Now()}
	go s.serve()
	return s, nil
}

// Address is where it can be read.
func (s *StandIn) Address() string { return s.listener.Addr().String() }

// Close stops it.
func (s *StandIn) Close() error { return s.listener.Close() }

func (s *StandIn) serve() {
	for {
		conn, err := s.listener.Accept()
		if err != nil {
			return
		}
		go func() {
			defer conn.Close()
			s.talk(conn)
		}()
	}
}

func (s *StandIn) talk(to io.Writer) {
	rng := rand.New(rand.NewPCG(12, 4))
	tick := time.NewTicker(s.every)
	defer tick.Stop()
	for range tick.C {
		at := s.walk[int(time.Since(s.begun)/stay)%len(s.walk)]
		said := sentence(shaken(at, rng), rng.Float64() >= noFix)
		if rng.Float64() < damaged {
			said = said[:12] + "9" + said[13:]
		}
		if _, err := io.WriteString(to, said); err != nil {
			return
		}
	}
}

func shaken(f ground.Fix, rng *rand.Rand) ground.Fix {
	metres := shakeM
	if rng.Float64() < wildness {
		metres = wildM
	}
	f.LatDeg += rng.NormFloat64() * metres / ground.MetresPerDegree
	f.LonDeg += rng.NormFloat64() * metres / ground.MetresPerDegree / math.Cos(f.LatDeg*math.Pi/180)
	return f
}
