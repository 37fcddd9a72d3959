// Package storetest gives each test a database of its own on the test server.
package storetest

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"clearjar/store"
)

var template = sync.OnceValues(func() (string, error) {
	server := os.Getenv("CLEARJAR_TEST_DATABASE")
	if server == "" {
		return "", fmt.Errorf("CLEARJAR_TEST_DATABASE is not set: run make test, or eval it from scripts/postgres.sh start test")
	}
	name := fresh("template")
	if err := exec(server, "create database "+name); err != nil {
		return "", err
	}
	s, err := store.Open(context.Background(), named(server, name))
	if err != nil {
		return "", err
	}
	defer s.Close()
	return name, s.Migrate(context.Background())
})

func fresh(what string) string { return what + "_" + strings.ReplaceAll(uuid.NewString(), "-", "") }

func named(server, name string) string {
	u, err := url.Parse(server)
	if err != nil {
		return server
	}
	u.Path = "/" + name
	return u.String()
}

func exec(server, sql string) error {
	ctx := context.Background()
	c, err := pgx.Connect(ctx, server)
	if err != nil {
		return err
	}
	defer func() { _ = c.Close(ctx) }()
	_, err = c.Exec(ctx, sql)
	return err
}

// Open gives an empty, migrated database that is dropped when the test ends.
func Open(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), URL(t))
	require.NoError(t, err)
	t.Cleanup(s.Close)
	return s
}

// EmptyURL gives the address of a database with nothing in it, not even a schema.
func EmptyURL(t testing.TB) string {
	t.Helper()
	server, name := os.Getenv("CLEARJAR_TEST_DATABASE"), fresh("e")
	require.NoError(t, exec(server, "create database "+name))
	t.Cleanup(func() { _ = exec(server, "drop database "+name+" with (force)") })
	return named(server, name)
}

// OrdinaryURL gives the address of an empty database whose owner is no superuser, as it stands where the program is installed.
func OrdinaryURL(t testing.TB) string {
	t.Helper()
	server, name := os.Getenv("CLEARJAR_TEST_DATABASE"), fresh("o")
	require.NoError(t, exec(server, "create role "+name+" login createrole bypassrls password 'ordinary'"))
	require.NoError(t, exec(server, "create database "+name+" owner "+name))
	t.Cleanup(func() {
		_ = exec(server, "drop database "+name+" with (force)")
		_ = exec(server, "drop role "+name)
	})
	u, err := url.Parse(named(server, name))
	require.NoError(t, err)
	u.User = url.UserPassword(name, "ordinary")
	return u.String()
}

// URL gives the address of an empty, migrated database that is dropped when the test ends.
func URL(t testing.TB) string {
	t.Helper()
	from, err := template()
	require.NoError(t, err)
	server, name := os.Getenv("CLEARJAR_TEST_DATABASE"), fresh("t")
	require.NoError(t, exec(server, "create database "+name+" template "+from))
	t.Cleanup(func() { _ = exec(server, "drop database "+name+" with (force)") })
	return named(server, name)
}
