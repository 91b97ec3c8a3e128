package store

import (
	"encoding/json"
	"errors"

	lru "github.com/hashicorp/golang-lru/v2"
)

// memory holds what was read from the file, under keys that say what of the file it was read from: whoever wrote there meanwhile, in
// this program or another, an old answer is never found. What is remembered is shared: nobody changes it.
type memory struct{ cache *lru.Cache[string, any] }

// mostHeld is few: each is a season of a line, or its hours of weather.
const mostHeld = 8

func newMemory() memory {
	cache, err := lru.New[string, any](mostHeld)
	if err != nil {
		panic(err) // only a size below one is refused
	}
	return memory{cache}
}

// remembered gives what is held under a key as of what the file says when asked with a query, or reads it and holds it, with the
// rows that could not be read. A change under way sees what it has changed and remembers nothing.
func remembered[T any](v View, asOf, key string, read func() (T, error)) (T, error) {
	type reading struct {
		found  T
		unread []Unreadable
	}
	if v.memory.cache == nil {
		return read()
	}
	var token string
	if err := one(v.q, &token, asOf); err != nil && !errors.Is(err, ErrUnknown) {
		return read()
	}
	key += " " + token
	if held, ok := v.memory.cache.Get(key); ok {
		r := held.(reading)
		*v.unread = append(*v.unread, r.unread...)
		return r.found, nil
	}
	before := len(*v.unread)
	found, err := read()
	if err == nil {
		v.memory.cache.Add(key, reading{found, append([]Unreadable{}, (*v.unread)[before:]...)})
	}
	return found, err
}

// What changes with every act, and with every hour of weather that is written.
const (
	lastAct  = `SELECT id FROM mutations ORDER BY rowid DESC LIMIT 1`
	lastHour = `SELECT value FROM facts WHERE key = 'hours'`
)

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
