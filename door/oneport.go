package door

import (
	"crypto/tls"
	"io"
	"net"
	"time"
)

// handshake is the byte with which a TLS connection begins (RFC 8446, section 5.1).
const handshake = 0x16

// firstByte is how long a connection may take to say what it is.
const firstByte = 10 * time.Second

// OnePort makes of a listener one whose connections are TLS where they begin so, and plain else.
func OnePort(plain net.Listener, config *tls.Config) net.Listener {
	one := &onePort{Listener: plain, config: config, found: make(chan net.Conn), failed: make(chan error, 1), ended: make(chan struct{})}
	go one.accept()
	return one
}

// onePort hands a connection on when its first byte was read: one that says nothing holds up none of the others.
type onePort struct {
	net.Listener
	config *tls.Config
	found  chan net.Conn
	failed chan error
	ended  chan struct{}
}

func (o *onePort) accept() {
	for {
		conn, err := o.Listener.Accept()
		if err != nil {
			o.failed <- err
			return
		}
		go o.look(conn)
	}
}

// look reads the first byte of a connection, and gives it back to whoever reads on.
func (o *onePort) look(conn net.Conn) {
	_ = conn.SetReadDeadline(time.Now().Add(firstByte))
	var first [1]byte
	if _, err := io.ReadFull(conn, first[:]); err != nil {
		_ = conn.Close()
		return
	}
	_ = conn.SetReadDeadline(time.Time{})
	var ready net.Conn = &begun{Conn: conn, first: first[0]}
	if first[0] == handshake {
		ready = tls.Server(ready, o.config)
	}
	select {
	case o.found <- ready:
	case <-o.ended:
		_ = conn.Close()
	}
}

func (o *onePort) Accept() (net.Conn, error) {
	select {
	case conn := <-o.found:
		return conn, nil
	case err := <-o.failed:
		o.failed <- err // whoever asks again is told so too
		return nil, err
	}
}

func (o *onePort) Close() error {
	select {
	case <-o.ended:
	default:
		close(o.ended)
	}
	return o.Listener.Close()
}

// begun is a connection of which the first byte was read already.
type begun struct {
	net.Conn
	first byte
	given bool
}

func (b *begun) Read(into []byte) (int, error) {
	if b.given || len(into) == 0 {
		return b.Conn.Read(into)
	}
	into[0], b.given = b.first, true
	return 1, nil
}
