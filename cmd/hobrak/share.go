package main

import (
	"bufio"
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io"
	"net"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"hobrak/internal/api"
	"hobrak/internal/share"
	"hobrak/internal/store"
)

// sharing is how a shop is opened to other devices.
type sharing struct {
	share      bool   // let other devices in
	at         string // address they reach
	plain      bool   // without encryption
	everybody  bool   // beyond this machine without a pass phrase
	phraseFile string
	newPhrase  bool
	cert, key  string   // files of a certificate that was given
	hosts      []string // names it may be asked for besides its own
}

func (o *sharing) flags(c *cobra.Command) {
	f := c.Flags()
	f.BoolVar(&o.share, "share", false, "let other devices of the household in, encrypted, by a pass phrase or by pairing")
	f.StringVar(&o.at, "share-at", "0.0.0.0:8443", "address other devices reach with --share")
	f.BoolVar(&o.plain, "plain-http", false, "share without encryption: whoever is in the network can read along, the pass phrase included")
	f.StringVar(&o.cert, "cert", "", "file with a certificate to share with, in place of the shop's own")
	f.StringVar(&o.key, "key", "", "file with its key")
	f.StringVar(&o.phraseFile, "phrase-file", "", "file with the pass phrase that lets people in (or the environment variable "+phraseVariable+")")
	f.BoolVar(&o.newPhrase, "new-phrase", false, "ask for another pass phrase; devices that were let in are shown out")
	f.BoolVar(&o.everybody, "open", false, "let everybody on the network read and change the shop")
	f.StringSliceVar(&o.hosts, "host", nil, "name under which this machine is opened from others, where it is not its own")
}

// phraseVariable holds the pass phrase where no file does.
const phraseVariable = "HOBRAK_PHRASE"

// phrase that was given; empty when none was.
func (o *sharing) phrase() (string, error) {
	phrase := os.Getenv(phraseVariable)
	if o.phraseFile != "" {
		data, err := os.ReadFile(o.phraseFile)
		if err != nil {
			return "", err
		}
		phrase = strings.TrimRight(string(data), "\r\n")
	}
	if phrase == "" {
		return "", nil
	}
	return phrase, share.CheckPhrase(phrase)
}

// alone refuses to open the shop to a network by accident.
func (o *sharing) alone(listen, phrase string, warn io.Writer) error {
	host, _, err := net.SplitHostPort(listen)
	if err != nil {
		return fmt.Errorf("--listen %q should be an address and a port, as 127.0.0.1:8080", listen)
	}
	if (o.cert == "") != (o.key == "") {
		return errors.New("--cert and --key go together: the certificate and the key it was made for")
	}
	if !o.share && (o.plain || o.cert != "" || o.newPhrase) {
		return errors.New("--plain-http, --cert, --key and --new-phrase say how to share: add --share")
	}
	if ip := net.ParseIP(host); host == "localhost" || ip != nil && ip.IsLoopback() {
		return nil
	}
	switch {
	case o.everybody:
		fmt.Fprintf(warn, "WARNING: everybody who can reach %s can read and change this shop. Stop it when you are done.\n", listen)
		return nil
	case o.share:
		return fmt.Errorf("--listen %s opens the shop to your network by the way that is for this machine alone; say with --share-at where others reach it", listen)
	}
	return fmt.Errorf("--listen %s opens the shop to your network. Use --share, which encrypts and asks for a pass phrase, or --open to let everybody there read and change it", listen)
}

// beyond is what serves other devices.
type beyond struct {
	listener net.Listener
	api      api.Sharing
	plain    bool
}

// open gets ready to share: the pass phrase, the certificate, the address.
func (o *sharing) open(ctx context.Context, st *store.Store, phrase string, in io.Reader, out, warn io.Writer) (*beyond, error) {
	hash, err := o.hash(ctx, st, phrase, in, out)
	if err != nil {
		return nil, err
	}
	_, port, err := net.SplitHostPort(o.at)
	if err != nil {
		return nil, fmt.Errorf("--share-at %q should be an address and a port, as 0.0.0.0:8443", o.at)
	}
	b := &beyond{plain: o.plain, api: api.Sharing{Phrase: hash, Here: true}}
	addresses := reached(o.at)
	var certificates *share.Certificates
	switch {
	case o.plain:
		fmt.Fprintln(warn, "WARNING: what is sent is not encrypted: whoever is in the network can read along, the pass phrase included. Phones then give the page no camera and do not install it.")
	case o.cert != "":
		certificates, err = share.Given(o.cert, o.key)
	default:
		names := append(api.LocalHosts(), o.hosts...)
		certificates, err = share.Own(filepath.Dir(st.Path()), names, append(addresses, net.IPv4(127, 0, 0, 1)), time.Now())
	}
	if err != nil {
		return nil, err
	}
	if b.listener, err = net.Listen("tcp", o.at); err != nil {
		return nil, err
	}
	if port == "0" {
		_, port, _ = net.SplitHostPort(b.listener.Addr().String())
	}
	scheme := "http"
	if certificates != nil {
		scheme, b.api.Authority = "https", certificates.Authority
		certificates.TLS.NextProtos = []string{"h2", "http/1.1"}
		b.listener = tls.NewListener(b.listener, certificates.TLS)
	}
	for _, h := range o.hosts {
		b.api.Addresses = append(b.api.Addresses, scheme+"://"+net.JoinHostPort(h, port))
	}
	for _, a := range addresses {
		b.api.Addresses = append(b.api.Addresses, scheme+"://"+net.JoinHostPort(a.String(), port))
	}
	return b, nil
}

// tell where other devices find the shop.
func (b *beyond) tell(out io.Writer) {
	if len(b.api.Addresses) == 0 {
		fmt.Fprintf(out, "Other devices find it at %s\n", b.listener.Addr())
		return
	}
	for _, a := range b.api.Addresses {
		fmt.Fprintf(out, "Other devices find it at %s\n", a)
	}
	fmt.Fprintln(out, "Let a phone in under Devices, or by the pass phrase.")
}

// hash of the pass phrase: of the one that was given, of the one that was kept, or of one that is asked for.
func (o *sharing) hash(ctx context.Context, st *store.Store, phrase string, in io.Reader, out io.Writer) (string, error) {
	kept, err := st.Phrase(ctx)
	if err != nil {
		return "", err
	}
	if phrase != "" {
		if kept != "" {
			if same, err := share.Right(kept, phrase); err == nil && same {
				return kept, nil
			}
		}
	} else {
		if kept != "" && !o.newPhrase {
			return kept, nil
		}
		if phrase, err = asked(in, out); err != nil {
			return "", err
		}
		if err := share.CheckPhrase(phrase); err != nil {
			return "", err
		}
	}
	hash := share.Hash(phrase)
	return hash, st.SetPhrase(ctx, hash)
}

// asked for at the terminal, where it is not shown; or read from what is handed in.
func asked(in io.Reader, out io.Writer) (string, error) {
	f, ok := in.(*os.File)
	if ok && term.IsTerminal(int(f.Fd())) {
		fmt.Fprint(out, "Pass phrase for other devices (12 characters or more, several words are good): ")
		first, err := term.ReadPassword(int(f.Fd()))
		fmt.Fprintln(out)
		if err != nil {
			return "", err
		}
		fmt.Fprint(out, "Once more: ")
		again, err := term.ReadPassword(int(f.Fd()))
		fmt.Fprintln(out)
		if err != nil {
			return "", err
		}
		if string(first) != string(again) {
			return "", errors.New("the two are not the same; start again")
		}
		return string(first), nil
	}
	line, err := bufio.NewReader(io.LimitReader(in, 4096)).ReadString('\n')
	if line = strings.TrimRight(line, "\r\n"); line == "" {
		return "", fmt.Errorf("--share needs a pass phrase: start it at a terminal, which asks for one, or give --phrase-file F or %s (%w)", phraseVariable, err)
	}
	return line, nil
}

// reached are the addresses of this machine in its networks by which others reach what listens at an address.
func reached(at string) []net.IP {
	host, _, err := net.SplitHostPort(at)
	if err != nil {
		return nil
	}
	if ip := net.ParseIP(host); ip != nil && !ip.IsUnspecified() {
		return []net.IP{ip}
	}
	all, err := net.InterfaceAddrs()
	if err != nil {
		return nil
	}
	var out []net.IP
	for _, a := range all {
		if n, ok := a.(*net.IPNet); ok && n.IP.To4() != nil && !n.IP.IsLoopback() && n.IP.IsGlobalUnicast() {
			out = append(out, n.IP)
		}
	}
	return out
}
