package door

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"golang.org/x/crypto/argon2"

	"oldburrow/core/refuse"
)

// How long a passphrase is, in characters.
const (
	shortest = 8
	longest  = 256
)

// How a passphrase is derived (argon2id, RFC 9106, its choice for little memory): about a quarter of a second here.
const (
	derivedKiB   = 32 << 10
	derivedTimes = 3
	derivedLanes = 1
	saltBytes    = 16
	keyBytes     = 32
)

// ErrBusy is returned while too many wait for a passphrase to be looked at.
var ErrBusy = errors.New("too many wait at the door")

// mostWaiting are derivations that wait for the one under way: each takes 32 MiB and a core.
const mostWaiting = 4

var (
	deriving = make(chan struct{}, 1)
	waiting  = make(chan struct{}, 1+mostWaiting)
)

func derived(passphrase string, salt []byte) ([]byte, error) {
	select {
	case waiting <- struct{}{}:
	default:
		return nil, ErrBusy
	}
	defer func() { <-waiting }()
	deriving <- struct{}{}
	defer func() { <-deriving }()
	return argon2.IDKey([]byte(passphrase), salt, derivedTimes, derivedKiB, derivedLanes, keyBytes), nil
}

// form is how a derived passphrase is written down.
const form = "argon2id$m=%d,t=%d,p=%d$"

// Keep derives a passphrase with a salt of its own, as it may be written down. It refuses one that is too short or too long.
func Keep(passphrase string) (string, error) {
	if n := utf8.RuneCountInString(passphrase); n < shortest || n > longest {
		return "", refuse.Field("passphrase", "must be from %d to %d characters long, not %d", shortest, longest, n)
	}
	salt := make([]byte, saltBytes)
	if _, err := rand.Read(salt); err != nil {
		return "", err
	}
	key, err := derived(passphrase, salt)
	if err != nil {
		return "", err
	}
	write := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf(form, derivedKiB, derivedTimes, derivedLanes) + write(salt) + "$" + write(key), nil
}

// Is tells whether a passphrase is the one that was kept. What was kept in another form is no passphrase's.
func Is(passphrase, kept string) (bool, error) {
	rest, ours := strings.CutPrefix(kept, fmt.Sprintf(form, derivedKiB, derivedTimes, derivedLanes))
	saltText, keyText, two := strings.Cut(rest, "$")
	salt, wrongSalt := base64.RawStdEncoding.DecodeString(saltText)
	want, wrongKey := base64.RawStdEncoding.DecodeString(keyText)
	if !ours || !two || wrongSalt != nil || wrongKey != nil || len(want) != keyBytes || utf8.RuneCountInString(passphrase) > longest {
		return false, nil
	}
	key, err := derived(passphrase, salt)
	return err == nil && subtle.ConstantTimeCompare(key, want) == 1, err
}
