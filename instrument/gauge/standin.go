package gauge

import (
	"bufio"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"strings"
	"sync"
	"time"
)

// What a stand-in can be told to do beside reading well.
const (
	Well   = "well"
	Drifts = "drifts" // its zero creeps with every press, until it is zeroed
	Sticks = "sticks" // it stops moving under load
)

// Command tells a stand-in how hard a made-up pan is and what to do: a real gauge does not know it.
func Command(panN float64, acts string) string { return fmt.Sprintf("PAN %.3f %s", panN, acts) }

// StandIn is a made-up gauge whose made-up hand presses a made-up pan again and again.
type StandIn struct {
	listener net.Listener
	every    time.Duration
	lock     sync.Mutex
	rng      *rand.Rand
	panN     float64
	acts     string
	zeroN    float64 // what it reads at rest
}

const (
	noiseN     = 0.04
	handSD     = 0.035 // how much presses of one pan differ
	driftN     = 1.6   // a press
	damagedIn  = 40    // lines, of which one is damaged, while nothing is pressed
	loadedN    = 1.0
	restLines  = 6
	pressLines = 12
	sticksAt   = 0.6 // of the press
)

// NewStandIn starts a stand-in on a free loopback port. It says a line as often as every says.
func NewStandIn(panN float64, every time.Duration) (*StandIn, error) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, fmt.Errorf("start the stand-in gauge: %w", err)
	}
	s := &StandIn{listener: listener, every: every, rng: rand.New(rand.NewPCG(4, 12)), panN: panN, acts: Well}
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
			go s.listen(conn)
			s.talk(conn)
		}()
	}
}

// listen does as it is told.
func (s *StandIn) listen(from io.Reader) {
	lines := bufio.NewScanner(from)
	for lines.Scan() {
		s.lock.Lock()
		var panN float64
		var acts string
		if n, _ := fmt.Sscanf(lines.Text(), "PAN %g %s", &panN, &acts); n == 2 {
			s.panN, s.acts = panN, acts
		} else if strings.TrimSpace(lines.Text()) == Zero {
			s.zeroN = 0
		}
		s.lock.Unlock()
	}
}

func (s *StandIn) talk(to io.Writer) {
	tick := time.NewTicker(s.every)
	defer tick.Stop()
	count := 0
	say := func(force float64) bool {
		<-tick.C
		count++
		said := lineOf(count, force)
		if count%damagedIn == 0 && force < loadedN { // a line that is lost under load makes the press no reading
			said = "F,#" + said[3:]
		}
		_, err := io.WriteString(to, said)
		return err == nil
	}
	for {
		for range restLines {
			if !say(s.at(0)) {
				return
			}
		}
		peak, sticks := s.next()
		for i := 1; i <= pressLines; i++ {
			share := float64(i) / pressLines
			force := s.at(peak * share)
			for first := true; first || sticks && share > sticksAt; first = false {
				if !say(force) {
					return
				}
			}
		}
		s.rested()
	}
}

// next draws how hard the next press has to be.
func (s *StandIn) next() (peakN float64, sticks bool) {
	s.lock.Lock()
	defer s.lock.Unlock()
	return s.panN * (1 + handSD*s.rng.NormFloat64()), s.acts == Sticks
}

// at is what the gauge reads under a force.
func (s *StandIn) at(forceN float64) float64 {
	s.lock.Lock()
	defer s.lock.Unlock()
	return math.Round(100*(s.zeroN+forceN+noiseN*s.rng.NormFloat64())) / 100
}

// rested lets the zero creep after a press, when it does.
func (s *StandIn) rested() {
	s.lock.Lock()
	defer s.lock.Unlock()
	if s.acts == Drifts {
		s.zeroN += driftN
	}
}

// lineOf writes a line of the gauge.
func lineOf(count int, forceN float64) string {
	body := fmt.Sprintf("F,%06d,%+08.2f,N,OK", count, forceN)
	return fmt.Sprintf("%s*%02X\r\n", body, checksum(body))
}
