package main

import (
	"bufio"
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"oldburrow/door"
	"oldburrow/server"
	"oldburrow/store"
)

// passphraseCommand chooses the passphrase by which the owner comes in from another machine.
func passphraseCommand() *cobra.Command {
	var data string
	c := &cobra.Command{
		Use: "passphrase", Short: "Choose the passphrase by which you come in from another machine",
		Long: "Choose the passphrase by which you come in from another machine: it is asked for twice, or read as one line of standard input.\nAll devices that came in before have to come in anew.",
		Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			chosen, err := chosen(c.InOrStdin())
			if err != nil {
				return err
			}
			kept, err := door.Keep(chosen)
			if err != nil {
				return err
			}
			s, err := store.Open(data)
			if err != nil {
				return err
			}
			defer s.Close()
			if err := s.SetPassphrase(kept, ""); err != nil {
				return fmt.Errorf("keep the passphrase: %w", err)
			}
			fmt.Fprintln(c.OutOrStdout(), "The passphrase is chosen.")
			return nil
		},
	}
	c.Flags().StringVar(&data, "data", "", "the data file")
	if err := c.MarkFlagRequired("data"); err != nil {
		panic(err)
	}
	return c
}

// chosen asks twice for a passphrase that nobody sees, or reads a line.
func chosen(in io.Reader) (string, error) {
	file, is := in.(*os.File)
	if !is || !term.IsTerminal(int(file.Fd())) {
		line, err := bufio.NewReader(in).ReadString('\n')
		if err != nil && !errors.Is(err, io.EOF) {
			return "", fmt.Errorf("read the passphrase: %w", err)
		}
		return strings.TrimRight(line, "\r\n"), nil
	}
	var said [2]string
	for i, asks := range []string{"Passphrase: ", "Once more: "} {
		fmt.Fprint(os.Stderr, asks)
		raw, err := term.ReadPassword(int(file.Fd()))
		fmt.Fprintln(os.Stderr)
		if err != nil {
			return "", fmt.Errorf("read the passphrase: %w", err)
		}
		said[i] = string(raw)
	}
	if said[0] != said[1] {
		return "", errors.New("the two differ: nothing was changed")
	}
	return said[0], nil
}

// way is how the program is reached: where it listens, the names that it was told of, and certificates of the owner's own.
type way struct {
	listen, cert, key string
	hosts             []string
}

func (w *way) flags(c *cobra.Command, usual string) {
	c.Flags().StringVar(&w.listen, "listen", usual, "the address to listen on; beyond this machine (as 0.0.0.0:8417) only with a passphrase")
	c.Flags().StringArrayVar(&w.hosts, "host", nil, "a name, beside localhost and this machine's own, under which the program is to answer; may be given several times")
	c.Flags().StringVar(&w.cert, "cert", "", "a certificate (PEM) of your own, instead of those that the program makes")
	c.Flags().StringVar(&w.key, "key", "", "its key (PEM)")
}

// beyond tells whether other machines can reach the program.
func (w *way) beyond() bool {
	host, _, err := net.SplitHostPort(w.listen)
	ip := net.ParseIP(host)
	return err == nil && host != "localhost" && (ip == nil || !ip.IsLoopback()) || len(w.hosts) > 0
}

// open listens, and has the server answer other machines where they can reach it.
func (w *way) open(ctx context.Context, s *server.Server) (net.Listener, error) {
	if w.beyond() {
		kept, err := s.Store.Passphrase()
		if err != nil {
			return nil, err
		}
		if kept == "" {
			return nil, fmt.Errorf("other machines would reach it at %s. First: oldburrow passphrase --data %s", w.listen, s.Store.Path())
		}
	}
	listener, err := net.Listen("tcp", w.listen)
	if err != nil {
		return nil, fmt.Errorf("listen on %s: %w", w.listen, err)
	}
	listener = limited(listener)
	if !w.beyond() {
		return listener, nil
	}
	_, port, err := net.SplitHostPort(listener.Addr().String())
	if err != nil {
		return nil, err
	}
	s.Door = &server.Door{Names: w.names, Port: port}
	config := &tls.Config{MinVersion: tls.VersionTLS12, NextProtos: []string{"http/1.1"}}
	if w.cert != "" || w.key != "" {
		own, err := tls.LoadX509KeyPair(w.cert, w.key)
		if err != nil {
			return nil, fmt.Errorf("read --cert and --key: %w", err)
		}
		config.Certificates = []tls.Certificate{own}
	} else {
		authority, err := door.OpenAuthority(besideFile(s.Store.Path()), w.names(), time.Now())
		if err != nil {
			return nil, err
		}
		if authority.Anew {
			fmt.Println("The program has another name now, and a new certificate: every phone has to be told to trust it again.")
		}
		s.Door.Authority = authority
		config.GetCertificate = authority.Certificate
		go renew(ctx, authority, w.names)
	}
	return door.OnePort(listener, config), nil
}

// renewEvery is how often it is looked whether the certificate runs out, or the machine is found elsewhere.
const renewEvery = 15 * time.Minute

func renew(ctx context.Context, authority *door.Authority, names func() door.Names) {
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(renewEvery):
		}
		if err := authority.Renew(names(), time.Now()); err != nil {
			slog.Warn("the certificate could not be made anew", "error", err)
		}
	}
}

// besideFile is the folder of a data file's certificates.
func besideFile(data string) string { return strings.TrimSuffix(data, filepath.Ext(data)) + "-door" }

// names are what this machine is called, and where it is now.
func (w *way) names() door.Names {
	names := door.Names{Hosts: append([]string{}, w.hosts...)}
	if host, err := os.Hostname(); err == nil && host != "" {
		names.Hosts = append(names.Hosts, host)
		if !strings.Contains(host, ".") {
			names.Hosts = append(names.Hosts, host+".local")
		}
	}
	addresses, err := net.InterfaceAddrs()
	if err != nil {
		slog.Warn("the addresses of this machine are not known", "error", err)
	}
	for _, address := range addresses {
		if network, is := address.(*net.IPNet); is && door.AtHome(network.IP) {
			names.Addresses = append(names.Addresses, network.IP)
		}
	}
	return names
}
