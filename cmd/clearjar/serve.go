package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"runtime/debug"
	"strconv"
	"syscall"
	"time"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"clearjar/demo"
	"clearjar/household"
	"clearjar/propagation"
	"clearjar/propagation/work"
	"clearjar/server"
	"clearjar/store"
	"clearjar/ui"
	"clearjar/wayin"
)

// databaseFlag is where the facts are kept: --database, or the environment, or the file of settings.
func databaseFlag(cmd *cobra.Command, to *string) {
	cmd.Flags().StringVar(to, "database", "", "PostgreSQL address (default: as for serve, see clearjar config)")
	cmd.PreRunE = func(cmd *cobra.Command, _ []string) error {
		if cmd.Flags().Changed("database") {
			return nil
		}
		known := serveFlags(&settings{})
		if _, err := settle(known); err != nil {
			return err
		}
		*to = known.Lookup("database").Value.String()
		return nil
	}
}

// open connects, brings the schema up to date, and lets the command work for the one household there is.
func open(cmd *cobra.Command, url string) (*store.Store, *propagation.Garden, error) {
	ctx := store.As(cmd.Context(), store.First)
	cmd.SetContext(ctx)
	if url == "" {
		return nil, nil, errors.New("no database: give --database or set CLEARJAR_DATABASE; make demo does both")
	}
	s, err := store.Open(ctx, url)
	if err != nil {
		return nil, nil, err
	}
	if err := s.Migrate(ctx); err != nil {
		s.Close()
		return nil, nil, fmt.Errorf("bringing the database up to date: %w", err)
	}
	garden, err := propagation.New(s, time.Now, time.Local).For(ctx)
	if err != nil {
		s.Close()
		return nil, nil, err
	}
	return s, garden, nil
}

// settings are what the one who runs the server may choose.
type settings struct {
	url          string
	port         int
	wish         wayin.Wish
	backupFolder string
	backupKeep   int
	metrics      string
	log          string
}

// serveFlags is each setting as a flag.
func serveFlags(s *settings) *pflag.FlagSet {
	f := pflag.NewFlagSet("serve", pflag.ContinueOnError)
	f.StringVar(&s.url, "database", "", "PostgreSQL address")
	f.IntVar(&s.port, "port", 8420, "port on 127.0.0.1; a taken one is named, and the next nine are tried")
	f.StringVar(&s.wish.Listen, "listen", "", "address and port, such as 0.0.0.0:8420; beyond this machine only with accounts, --host and a certificate")
	f.StringSliceVar(&s.wish.Hosts, "host", nil, "a name or number that devices call it by; again for each. All others are refused")
	f.StringVar(&s.wish.CertFile, "tls-cert", "", "certificate of one's own, PEM; read anew when it changes")
	f.StringVar(&s.wish.KeyFile, "tls-key", "", "its key, PEM, readable by its owner only")
	f.StringVar(&s.wish.Authority, "authority", "", "folder of this household's own small authority; made when it is not there")
	f.IntVar(&s.wish.TrustPort, "trust-port", 0, "port of the plain page that leads a phone through trusting it; 0 for the next one")
	f.BoolVar(&s.wish.Demo, "demo", false, "let anybody on this machine into the household of the demo, by a button")
	f.StringVar(&s.backupFolder, "backup-folder", "", "folder of nightly copies; none are made without one")
	f.IntVar(&s.backupKeep, "backup-keep", 14, "how many nightly copies are kept")
	f.StringVar(&s.metrics, "metrics", "", "address and port of figures in Prometheus' text, such as 127.0.0.1:9420; none without one")
	f.StringVar(&s.log, "log", "text", "how logs are written: text or json")
	return f
}

func serveCommand() *cobra.Command {
	var set settings
	cmd := &cobra.Command{
		Use: "serve", Short: "Serve the application: on 127.0.0.1, or in the home network with accounts and TLS", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if _, err := settle(cmd.Flags()); err != nil {
				return err
			}
			if err := logAs(set.log); err != nil {
				return err
			}
			s, garden, err := open(cmd, set.url)
			if err != nil {
				return err
			}
			defer s.Close()
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			handed, err := handedOver()
			if err != nil {
				return err
			}
			search := set.wish.Listen == "" && handed == nil
			if search {
				set.wish.Listen = fmt.Sprintf("127.0.0.1:%d", set.port)
			}
			if handed != nil {
				// What counts is where it is open, not what was meant.
				set.wish.Listen = handed.Addr().String()
			}
			members, err := household.At(s, garden.Now).HasMembers(ctx, store.First)
			if err != nil {
				return err
			}
			way, err := wayin.Open(set.wish, members, time.Now)
			if err != nil {
				return err
			}
			if !set.wish.Demo {
				if err := greet(ctx, s, garden); err != nil {
					return err
				}
			}
			// Garbage of large pictures and files is collected well before it could fill a small machine.
			debug.SetMemoryLimit(softMemory)
			jobs, err := work.Start(ctx, s, garden, work.Copies{Database: set.url, Folder: set.backupFolder, Keep: set.backupKeep})
			if err != nil {
				return fmt.Errorf("taking up the work in the background: %w", err)
			}
			defer stopWork(jobs)
			listener := handed
			if listener == nil {
				if listener, err = listen(way, search, set.port); err != nil {
					return err
				}
			}
			opts := server.Options{Way: way, Demo: set.wish.Demo}
			if set.metrics != "" {
				opts.Figures = server.NewFigures(s)
				go func() {
					srv := newServer(opts.Figures.Handler())
					srv.Addr = set.metrics
					slog.Error("figures are not served", "why", srv.ListenAndServe())
				}()
			}
			return serve(ctx, server.New(garden, ui.Files(), opts), way, listener)
		},
	}
	cmd.Flags().AddFlagSet(serveFlags(&set))
	return cmd
}

// stopWork lets what runs come to its end, and for no longer than a while.
func stopWork(jobs *work.Client) {
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	_ = jobs.StopAndCancel(ctx)
}

// softMemory is the size from which the collector works harder, in bytes.
const softMemory = 420 << 20

// listen opens the port; on this machine alone a taken one gives way to the next.
func listen(way *wayin.Way, search bool, port int) (net.Listener, error) {
	if !search {
		return net.Listen("tcp", way.Listen)
	}
	var err error
	for try := port; try < port+10; try++ {
		listener, failed := net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", try))
		if failed == nil {
			return listener, nil
		}
		err = failed
		fmt.Fprintf(os.Stderr, "port %d is taken, trying the next\n", try)
	}
	return nil, fmt.Errorf("no free port from %d to %d: %w", port, port+9, err)
}

// handedOver is the socket that the one who started this process holds open for it, if any: it outlives a restart.
// published: sd_listen_fds(3) of systemd (from memory).
func handedOver() (net.Listener, error) {
	if os.Getenv("LISTEN_PID") != strconv.Itoa(os.Getpid()) || os.Getenv("LISTEN_FDS") == "" {
		return nil, nil
	}
	const first = 3
	f := os.NewFile(first, "handed over")
	l, err := net.FileListener(f)
	if err != nil {
		return nil, fmt.Errorf("the socket that was handed over: %w", err)
	}
	return l, f.Close()
}

func newServer(handler http.Handler) *http.Server {
	return &http.Server{
		Handler: handler, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 2 * time.Minute, WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
		ErrorLog: slog.NewLogLogger(slog.Default().Handler(), slog.LevelDebug),
	}
}

// lastAnswers is how long those who were just taken in have to ask.
const lastAnswers = 300 * time.Millisecond

// serve answers until it is told to stop; then what was begun is brought to its end.
func serve(ctx context.Context, handler http.Handler, way *wayin.Way, listener net.Listener) error {
	srv := newServer(handler)
	servers := []*http.Server{srv}
	done := make(chan error, 1)
	if way.TLS() {
		srv.TLSConfig = way.Config()
		go func() { done <- srv.ServeTLS(listener, "", "") }()
	} else {
		go func() { done <- srv.Serve(listener) }()
	}
	if at := way.TrustListen(); at != "" {
		plain := newServer(way.TrustPage())
		servers = append(servers, plain)
		go servePlain(ctx, plain, at)
	}
	scheme := "http"
	if way.TLS() {
		scheme = "https"
	}
	fmt.Printf("Clear Jar is open at %s://%s\n", scheme, listener.Addr())
	for _, a := range way.Addresses() {
		fmt.Println("  and at", a)
	}
	for _, a := range way.TrustAddresses() {
		fmt.Println("  phones first open", a)
	}
	if way.Ours != nil {
		fmt.Println("  and compare the fingerprint", wayin.Fingerprint(way.Ours.Cert))
	}
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
		wait, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		// First nobody is taken in any more; who was is answered, and told to come by another connection. A server that is being
		// shut down would hang up on them.
		all := []error{listener.Close()}
		<-done
		srv.SetKeepAlivesEnabled(false)
		time.Sleep(lastAnswers)
		for _, s := range servers {
			all = append(all, s.Shutdown(wait))
		}
		return errors.Join(all...)
	}
}

// servePlain serves the plain page. Its port may still be taken by the process that this one takes over from.
func servePlain(ctx context.Context, plain *http.Server, at string) {
	for said := false; ctx.Err() == nil; time.Sleep(time.Second) {
		l, err := net.Listen("tcp", at)
		if err != nil {
			if !said {
				slog.Warn("the plain page that leads a phone through trusting is not served yet", "why", err)
			}
			said = true
			continue
		}
		if err := plain.Serve(l); !errors.Is(err, http.ErrServerClosed) {
			slog.Error("the plain page is not served any more", "why", err)
		}
		return
	}
}

func demoCommand() *cobra.Command {
	var url string
	var crowd int
	cmd := &cobra.Command{
		Use: "demo", Short: "Load the invented attic winter garden into an empty database", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, garden, err := open(cmd, url)
			if err != nil {
				return err
			}
			defer s.Close()
			loaded, err := demo.Load(cmd.Context(), garden)
			if err != nil {
				return err
			}
			if !loaded {
				fmt.Fprintln(os.Stderr, "There are mothers in this database already: they stay as they are.")
			} else if err := household.At(s, garden.Now).Name(cmd.Context(), "The attic winter garden"); err != nil {
				return err
			}
			return demo.Crowd(cmd.Context(), garden, crowd)
		},
	}
	databaseFlag(cmd, &url)
	cmd.Flags().IntVar(&crowd, "crowd", 0, "add made-up cuttings until there are this many, to measure a full shelf")
	return cmd
}
