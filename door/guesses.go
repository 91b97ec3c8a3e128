package door

import (
	"net/netip"
	"sync"
	"time"
)

// How guesses at the passphrase are slowed: from the third wrong one in a row from an address each waits twice as long as the one before, up
// to five minutes; and where all addresses together were wrong more often than anybody mistypes, every one waits.
const (
	freely       = 2 // wrong ones in a row that cost nothing
	longestWait  = 300 * time.Second
	forgotten    = time.Hour
	mostFromAll  = 30 // wrong ones in an hour
	allWait      = 30 * time.Second
	mostRemember = 1000 // addresses
)

// Guesses remembers who was wrong at the passphrase, and says from when on one may try again. It is safe for use by many at a time.
type Guesses struct {
	mutex sync.Mutex
	from  map[netip.Prefix]wrong
	all   []time.Time // of the last hour
}

// wrong is how often an address was wrong in a row, and when last.
type wrong struct {
	times int
	last  time.Time
}

// Wait is how long an address has to wait at a time, before a guess of it is looked at.
func (g *Guesses) Wait(address netip.Addr, now time.Time) time.Duration {
	g.mutex.Lock()
	defer g.mutex.Unlock()
	g.forget(now)
	until := time.Time{}
	if is := g.from[ofOne(address)]; is.times > freely {
		until = is.last.Add(pause(is.times))
	}
	if len(g.all) > mostFromAll {
		if shut := g.all[len(g.all)-1].Add(allWait); shut.After(until) {
			until = shut
		}
	}
	return max(0, until.Sub(now))
}

// pause is how long one waits after so many wrong guesses: 1, 2, 4 … seconds.
func pause(times int) time.Duration {
	return min(longestWait, time.Second<<min(times-freely-1, 10))
}

// Wrong notes that an address was wrong.
func (g *Guesses) Wrong(address netip.Addr, now time.Time) {
	g.mutex.Lock()
	defer g.mutex.Unlock()
	if g.from == nil {
		g.from = map[netip.Prefix]wrong{}
	}
	at := ofOne(address)
	if _, known := g.from[at]; !known && len(g.from) >= mostRemember {
		g.forgetOldest()
	}
	g.from[at] = wrong{g.from[at].times + 1, now}
	g.all = append(g.all, now)
}

// Right forgets what an address was wrong at.
func (g *Guesses) Right(address netip.Addr) {
	g.mutex.Lock()
	defer g.mutex.Unlock()
	delete(g.from, ofOne(address))
}

func (g *Guesses) forget(now time.Time) {
	for at, is := range g.from {
		if now.Sub(is.last) >= forgotten {
			delete(g.from, at)
		}
	}
	for len(g.all) > 0 && now.Sub(g.all[0]) >= forgotten {
		g.all = g.all[1:]
	}
}

func (g *Guesses) forgetOldest() {
	var oldest netip.Prefix
	for at, is := range g.from {
		if !oldest.IsValid() || is.last.Before(g.from[oldest].last) {
			oldest = at
		}
	}
	delete(g.from, oldest)
}

// ofOne is what one household is known by: an IPv4 address, or the first half of an IPv6 one.
func ofOne(address netip.Addr) netip.Prefix {
	address = address.Unmap().WithZone("")
	bits := address.BitLen()
	if address.Is6() {
		bits = 64
	}
	found, err := address.Prefix(bits)
	if err != nil {
		return netip.Prefix{} // of no address: all of them are one
	}
	return found
}
