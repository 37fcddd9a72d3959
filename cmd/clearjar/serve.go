package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/signal"
	"runtime/debug"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"clearjar/demo"
	"clearjar/propagation"
	"clearjar/propagation/work"
	"clearjar/server"
	"clearjar/store"
	"clearjar/ui"
)

// databaseURL is where the facts are kept: --database, or the environment.
func databaseFlag(cmd *cobra.Command, to *string) {
	cmd.Flags().StringVar(to, "database", os.Getenv("CLEARJAR_DATABASE"), "PostgreSQL address (default: $CLEARJAR_DATABASE)")
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

func serveCommand() *cobra.Command {
	var url string
	var port int
	var demo bool
	cmd := &cobra.Command{
		Use: "serve", Short: "Serve the application on 127.0.0.1", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, garden, err := open(cmd, url)
			if err != nil {
				return err
			}
			defer s.Close()
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			if !demo {
				if err := greet(ctx, s, garden); err != nil {
					return err
				}
			}
			// Garbage of large pictures and files is collected well before it could fill a small machine.
			debug.SetMemoryLimit(softMemory)
			jobs, err := work.Start(ctx, s, garden)
			if err != nil {
				return fmt.Errorf("taking up the work in the background: %w", err)
			}
			defer stopWork(jobs)
			return serve(ctx, server.New(garden, ui.Files(), server.Options{Demo: demo}), port)
		},
	}
	databaseFlag(cmd, &url)
	cmd.Flags().BoolVar(&demo, "demo", false, "let anybody on this machine into the household of the demo, by a button")
	cmd.Flags().IntVar(&port, "port", 8420, "port; a taken one is named, and the next nine are tried")
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

// serve listens on loopback only: until there are accounts, nobody else may.
func serve(ctx context.Context, handler http.Handler, port int) error {
	var listener net.Listener
	var err error
	for try := port; try < port+10; try++ {
		listener, err = net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", try))
		if err == nil {
			break
		}
		fmt.Fprintf(os.Stderr, "port %d is taken, trying the next\n", try)
	}
	if err != nil {
		return fmt.Errorf("no free port from %d to %d: %w", port, port+9, err)
	}
	srv := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 2 * time.Minute, WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10}
	done := make(chan error, 1)
	go func() { done <- srv.Serve(listener) }()
	fmt.Printf("Clear Jar is open at http://%s\n", listener.Addr())
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
		wait, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		return srv.Shutdown(wait)
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
			}
			return demo.Crowd(cmd.Context(), garden, crowd)
		},
	}
	databaseFlag(cmd, &url)
	cmd.Flags().IntVar(&crowd, "crowd", 0, "add made-up cuttings until there are this many, to measure a full shelf")
	return cmd
}
