//go:build unix

package store

import (
	"path/filepath"
	"syscall"
)

// Free is how much room the disk has left on which the file lies, bytes; false where that is not known.
func (s *Store) Free() (int64, bool) {
	var disk syscall.Statfs_t
	if err := syscall.Statfs(filepath.Dir(s.path), &disk); err != nil {
		return 0, false
	}
	return int64(disk.Bavail) * int64(disk.Bsize), true
}
