package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/store/storetest"
)

// built is the program itself, made once.
func built(t *testing.T) string {
	t.Helper()
	to := filepath.Join(t.TempDir(), "clearjar")
	out, err := exec.CommandContext(t.Context(), "go", "build", "-o", to, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	return to
}

// Another takes over the socket while one stops: no request fails.
func TestARestartFailsNoRequest(t *testing.T) {
	t.Parallel()
	program, url := built(t), storetest.URL(t)
	socket, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	held, err := socket.(*net.TCPListener).File()
	require.NoError(t, err)
	at := "http://" + socket.Addr().String()
	require.NoError(t, socket.Close())
	defer func() { _ = held.Close() }()

	start := func() *exec.Cmd {
		// The shell says whose the socket is, as systemd does.
		cmd := exec.Command("bash", "-c", `export LISTEN_PID=$$ LISTEN_FDS=1; exec "$0" serve`, program) //nolint:gosec // our own program
		cmd.ExtraFiles = []*os.File{held}
		cmd.Env = append(os.Environ(), "CLEARJAR_DATABASE="+url)
		out, err := cmd.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, cmd.Start())
		open := make(chan bool, 1)
		go func() {
			for lines := bufio.NewScanner(out); lines.Scan(); {
				if strings.Contains(lines.Text(), "is open at") {
					open <- true
				}
			}
		}()
		select {
		case <-open:
		case <-time.After(30 * time.Second):
			require.Fail(t, "it did not start")
		}
		return cmd
	}
	running := start()
	ctx, stop := context.WithCancel(t.Context())
	var asked, failed atomic.Int64
	var last atomic.Value
	done := make(chan struct{})
	for range 4 {
		go func() {
			client := &http.Client{Timeout: 10 * time.Second}
			for ctx.Err() == nil {
				res, err := client.Get(at + "/api/me")
				if err == nil {
					_, err = io.Copy(io.Discard, res.Body)
					_ = res.Body.Close()
					if res.StatusCode != http.StatusOK {
						err = errors.Join(err, fmt.Errorf("%d", res.StatusCode))
					}
				}
				asked.Add(1)
				time.Sleep(20 * time.Millisecond) // fewer than one address may ask
				if err != nil {
					failed.Add(1)
					last.Store(err.Error())
				}
			}
			done <- struct{}{}
		}()
	}
	for range 3 {
		time.Sleep(200 * time.Millisecond)
		next := start()
		require.NoError(t, running.Process.Signal(syscall.SIGTERM))
		require.NoError(t, running.Wait())
		running = next
	}
	time.Sleep(200 * time.Millisecond)
	stop()
	for range 4 {
		<-done
	}
	require.NoError(t, running.Process.Signal(syscall.SIGTERM))
	require.NoError(t, running.Wait())
	t.Logf("%d requests over three restarts", asked.Load())
	require.Greater(t, asked.Load(), int64(100))
	require.Zero(t, failed.Load(), "%v", last.Load())
}

// A socket that is handed over and open to others is held to what others need, whatever the settings say.
func TestAHandedOverSocketIsHeldToWhereItIsOpen(t *testing.T) {
	t.Parallel()
	socket, err := net.Listen("tcp", "0.0.0.0:0")
	require.NoError(t, err)
	held, err := socket.(*net.TCPListener).File()
	require.NoError(t, err)
	require.NoError(t, socket.Close())
	defer func() { _ = held.Close() }()
	cmd := exec.CommandContext(t.Context(), "bash", "-c", `export LISTEN_PID=$$ LISTEN_FDS=1; exec "$0" serve`, built(t)) //nolint:gosec // our own program
	cmd.ExtraFiles = []*os.File{held}
	cmd.Env = append(os.Environ(), "CLEARJAR_DATABASE="+storetest.URL(t))
	out, err := cmd.CombinedOutput()
	require.Error(t, err)
	require.Contains(t, string(out), "there is wanting: a certificate")
}

// Settings: a flag before the environment, before the file, before the default; and what nobody knows is told.
func TestSettingsComeFromOnePlaceAfterTheOther(t *testing.T) {
	file := filepath.Join(t.TempDir(), "clearjar.yaml")
	write := func(text string) { require.NoError(t, os.WriteFile(file, []byte(text), 0o600)) }
	t.Setenv("CLEARJAR_CONFIG", file)
	t.Setenv("CLEARJAR_DATABASE", "")
	t.Setenv("CLEARJAR_BACKUP_KEEP", "5")
	write("port: 9000\nbackup-keep: 7\nlog: json\nhost:\n  - clearjar.local\n  - 192.168.1.20\n")
	var s settings
	f := serveFlags(&s)
	require.NoError(t, f.Parse([]string{"--log", "text"}))
	all, err := settle(f)
	require.NoError(t, err)
	from := map[string]string{}
	for _, one := range all {
		from[one.name] = one.from
	}
	require.Equal(t, "text", s.log)
	require.Equal(t, "flag", from["log"])
	require.Equal(t, 5, s.backupKeep)
	require.Equal(t, "CLEARJAR_BACKUP_KEEP", from["backup-keep"])
	require.Equal(t, 9000, s.port)
	require.Equal(t, file, from["port"])
	require.Equal(t, []string{"clearjar.local", "192.168.1.20"}, s.wish.Hosts)
	require.Equal(t, "default", from["metrics"])

	for text, says := range map[string]string{"prot: 1\n": "prot in", "port: lots\n": "port, from", "port: [\n": "cannot be read"} {
		write(text)
		_, err := settle(serveFlags(&settings{}))
		require.ErrorContains(t, err, says)
	}
	require.NoError(t, os.Remove(file))
	_, err = settle(serveFlags(&settings{}))
	require.ErrorContains(t, err, "cannot be read", "one that was named has to be there")
}

func TestBeyondThisMachineItSaysWhatIsMissing(t *testing.T) {
	t.Setenv("CLEARJAR_DATABASE", storetest.URL(t))
	cmd := serveCommand()
	cmd.SetArgs([]string{"--listen", "0.0.0.0:0"})
	cmd.SilenceUsage, cmd.SilenceErrors = true, true
	err := cmd.Execute()
	for _, wanting := range []string{"a certificate", "--host", "somebody who can sign in"} {
		require.ErrorContains(t, err, wanting)
	}
}
