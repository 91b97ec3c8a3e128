package store

import (
	"encoding/json"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
)

// memory holds what was read from the file until something is written there. What is remembered is shared: nobody changes it.
type memory struct {
	lock    sync.Mutex
	age     int // counts writes, at their beginning and at their end
	writing int
	held    map[string]any
}

// glance is a memory as it was when a reading began: what it holds now was read from the same file as long as nothing was
// written since.
type glance struct {
	*memory
	age int
}

func (m *memory) glance() *glance {
	m.lock.Lock()
	defer m.lock.Unlock()
	return &glance{m, m.age}
}

// recall gives what is held under a key, if it was read from the same file.
func (g *glance) recall(key string) any {
	g.lock.Lock()
	defer g.lock.Unlock()
	if g.age != g.memory.age || g.writing > 0 {
		return nil
	}
	return g.held[key]
}

// keep holds what was read; nothing when something was written meanwhile.
func (g *glance) keep(key string, x any) {
	g.lock.Lock()
	defer g.lock.Unlock()
	if g.age != g.memory.age || g.writing > 0 {
		return
	}
	if g.held == nil || len(g.held) >= mostHeld {
		g.held = map[string]any{}
	}
	g.held[key] = x
}

const mostHeld = 32

// change forgets everything, and holds nothing until the change that it is told of is done.
func (m *memory) change() (done func()) {
	forget := func(writing int) {
		m.lock.Lock()
		defer m.lock.Unlock()
		m.age++
		m.writing += writing
		m.held = nil
	}
	forget(1)
	return func() { forget(-1) }
}

// remembered gives what a memory holds under a key, or reads it and lets the memory hold it, with the rows that could not be read.
func remembered[T any](v View, g *glance, key string, read func() (T, error)) (T, error) {
	type reading struct {
		found  T
		unread []Unreadable
	}
	if g == nil {
		return read()
	}
	if r, ok := g.recall(key).(reading); ok {
		*v.unread = append(*v.unread, r.unread...)
		return r.found, nil
	}
	before := len(*v.unread)
	found, err := read()
	if err == nil {
		g.keep(key, reading{found, append([]Unreadable{}, (*v.unread)[before:]...)})
	}
	return found, err
}

// decoded remembers what was read from JSON, by how it is written: the same layouts and cards are read again and again. What is in
// one is shared: nobody changes it.
type decoded[T any] struct{ cache *lru.Cache[string, T] }

func newDecoded[T any]() decoded[T] {
	cache, err := lru.New[string, T](4096)
	if err != nil {
		panic(err) // only a size below one is refused
	}
	return decoded[T]{cache}
}

func (d decoded[T]) of(raw string) (T, error) {
	if x, ok := d.cache.Get(raw); ok {
		return x, nil
	}
	var x T
	err := json.Unmarshal([]byte(raw), &x)
	if err == nil {
		d.cache.Add(raw, x)
	}
	return x, err
}
