package e2e

import (
	"encoding/json"
	"fmt"
	"io"
	"net"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/line"
	pages "oldburrow/core/page"
	"oldburrow/server"
)

// BenchmarkWritesUnderAttack says how long a look takes to be answered while 64 clients read nothing of what they ask for and 200 streams
// are asked for, and how much memory the program has taken at the most.
func BenchmarkWritesUnderAttack(b *testing.B) {
	took, mostMB := underAttack(b, 20)
	slices.Sort(took)
	b.ReportMetric(took[len(took)/2].Seconds(), "s/median")
	b.ReportMetric(took[len(took)-1].Seconds(), "s/longest")
	b.ReportMetric(mostMB, "MB/most")
	b.ReportMetric(0, "ns/op")
}

// Under attack the program stays small, and every look is answered.
func TestUnderAttack(t *testing.T) {
	if !long() {
		t.Skip("it takes long, and all of the machine: make long")
	}
	if took, mostMB := underAttack(t, 20); len(took) != 20 || mostMB > 150 {
		t.Errorf("%d looks were answered, with at most %.0f MB", len(took), mostMB)
	}
}

// underAttack gives how long some looks took and the most memory that the program had, MB.
func underAttack(t testing.TB, looks int) (took []time.Duration, mostMB float64) {
	p := begun(t, "demo", "--large", "--seasons", "2", "--sets", "40", "--still", "--data", t.TempDir()+"/large.db")
	p.kill() // what its making took is not counted
	p.start()
	var about server.Program
	fetch(t, p.address, "/about", &about)
	at := "/lines/" + about.Lines[0].ID
	var view pages.LineView
	fetch(t, p.address, at, &view)
	attack := func(request string) {
		conn, err := net.Dial("tcp", p.address)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { conn.Close() })
		_ = conn.(*net.TCPConn).SetReadBuffer(4096)
		go func() { _, _ = io.WriteString(conn, request) }()
	}
	for i := range 64 {
		page := []string{"/book", "/ground", "", "/export/geojson"}[i%4]
		attack(strings.Repeat("GET /api"+at+page+" HTTP/1.1\r\nHost: localhost\r\n\r\n", 300))
	}
	body, err := json.Marshal(map[string]any{"layout": view.Sets[0].Make.Layout, "target": "coyote", "visits": 20000, "circumstances": map[string]any{}})
	if err != nil {
		t.Fatal(err)
	}
	for range 200 {
		attack(fmt.Sprintf("POST /api/bench/following HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n%s", len(body), body))
	}
	time.Sleep(2 * time.Second)
	c := &client{t: t, address: p.address, stop: &atomic.Bool{}}
	for range looks {
		v := line.Visit{ID: ulid.Make().String(), MakeID: view.Sets[0].Make.ID, At: view.Now, Found: line.Found{Finding: "quiet"}}
		asked := time.Now()
		if c.put(at+"/visits/"+v.ID, v) {
			took = append(took, time.Since(asked))
		}
	}
	status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", p.cmd.Process.Pid))
	if err != nil {
		t.Fatal(err)
	}
	for _, row := range strings.Split(string(status), "\n") {
		if rest, ok := strings.CutPrefix(row, "VmHWM:"); ok {
			kB, _ := strconv.ParseFloat(strings.Fields(rest)[0], 64)
			mostMB = kB / 1024
		}
	}
	return took, mostMB
}
