// Package door is how the program is reached from another machine: the passphrase and how fast it may be guessed, one port for plain and
// secret connections, and the certificates by which a phone knows the machine. It knows nothing of lines, and keeps nothing of its own but
// the authority's files.
package door
