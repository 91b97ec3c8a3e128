//go:build !unix

package store

// Free is not known here.
func (s *Store) Free() (int64, bool) { return 0, false }
