package server

import (
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"

	"clearjar/propagation/files/exchange"
)

// Requests a client may make: so many a second in the long run, and so many at once.
const (
	requestsASecond = 200
	requestsAtOnce  = 800
	clientsKnown    = 1000
)

// limits counts the requests of each client.
type limits struct {
	mu      sync.Mutex
	clients map[string]*rate.Limiter
}

func newLimits() *limits { return &limits{clients: map[string]*rate.Limiter{}} }

func (l *limits) of(client string) *rate.Limiter {
	l.mu.Lock()
	defer l.mu.Unlock()
	if len(l.clients) > clientsKnown {
		clear(l.clients)
	}
	if l.clients[client] == nil {
		l.clients[client] = rate.NewLimiter(requestsASecond, requestsAtOnce)
	}
	return l.clients[client]
}

// perClient refuses a client that asks too often.
func (l *limits) perClient() gin.HandlerFunc {
	return func(c *gin.Context) {
		client, _, err := net.SplitHostPort(c.Request.RemoteAddr)
		if err != nil {
			client = c.Request.RemoteAddr
		}
		if !l.of(client).Allow() {
			c.Header("Retry-After", "1")
			fail(c, http.StatusTooManyRequests, "Too many requests at once: wait a moment and try again. Nothing was lost.")
		}
	}
}

// Longest that a request may take, by what it does.
const (
	usualTime  = 6 * time.Second
	photoTime  = 60 * time.Second
	importTime = 5 * time.Minute
	slowReader = 30 * time.Second
)

// inTime ends a request that takes too long, as when the database hangs: the answer is then that
// nothing was saved, and not silence.
func inTime() gin.HandlerFunc {
	return func(c *gin.Context) {
		most := usualTime
		switch path := c.Request.URL.Path; {
		case strings.HasPrefix(path, "/api/photos"):
			most = photoTime
		case strings.HasPrefix(path, "/api/import/"), strings.HasPrefix(path, "/api/export/"):
			most = importTime
		}
		ctx, cancel := context.WithTimeout(c.Request.Context(), most)
		defer cancel()
		c.Request = c.Request.WithContext(ctx)
		// A reader that takes nothing is cut off, a while after the answer could be there.
		_ = http.NewResponseController(c.Writer).SetWriteDeadline(time.Now().Add(most + slowReader))
		c.Next()
	}
}

// uploadsAtOnce is how many photos are taken in at once; others wait before their bytes are read.
const uploadsAtOnce = 3

// photosInTurn lets a few uploads in at a time, so that their bytes and pixels fit into memory.
func photosInTurn() gin.HandlerFunc {
	slots := make(chan struct{}, uploadsAtOnce)
	return func(c *gin.Context) {
		if c.Request.Method != http.MethodPost || (!strings.HasPrefix(c.Request.URL.Path, "/api/photos") && !strings.HasPrefix(c.Request.URL.Path, "/api/import/")) {
			return
		}
		select {
		case slots <- struct{}{}:
			defer func() { <-slots }()
			c.Next()
		case <-c.Request.Context().Done():
			fail(c, http.StatusServiceUnavailable, "Many files came at once and this one's turn did not come. Nothing was kept: send it again in a moment.")
		}
	}
}

// mostJSON is the largest body of a request that carries facts.
const mostJSON = 4 << 20

// tooLarge says what was too large, and by how much it may be smaller.
func tooLarge(path string) string {
	switch {
	case strings.HasPrefix(path, "/api/photos"):
		return "Too large: a photo may have at most 25 MB. Nothing was kept."
	case strings.HasPrefix(path, "/api/import/"):
		return "Too large: a file of stem maps or plans may have at most " + megabytes(exchange.MostBytes) + ". Nothing was kept; split it."
	}
	return "Too large: a request may have at most " + megabytes(mostJSON) + ". Nothing was kept."
}

func megabytes(n int) string { return fmt.Sprintf("%d MB", n>>20) }

// closing closes the connection of every request that is refused before its body was read to the end:
// what is left of the body must never be taken for the next request.
func closing(inner http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Body == nil || r.Body == http.NoBody {
			inner.ServeHTTP(w, r)
			return
		}
		body := &readToEnd{ReadCloser: r.Body}
		r.Body = body
		inner.ServeHTTP(&closer{ResponseWriter: w, body: body}, r)
	})
}

// readToEnd knows whether a body was read to its end. Closing it early is left to the server, which
// knows then that something is left.
type readToEnd struct {
	io.ReadCloser
	ended bool
}

func (b *readToEnd) Read(p []byte) (int, error) {
	n, err := b.ReadCloser.Read(p)
	b.ended = b.ended || err == io.EOF //nolint:errorlint // readers give io.EOF as it is
	return n, err
}

func (b *readToEnd) Close() error { return nil }

// closer says in the answer that the connection closes, when something of the body is left.
type closer struct {
	http.ResponseWriter
	body  *readToEnd
	wrote bool
}

func (w *closer) WriteHeader(status int) {
	if !w.wrote {
		w.wrote = true
		if !w.body.ended && status >= http.StatusBadRequest {
			w.Header().Set("Connection", "close")
		}
	}
	w.ResponseWriter.WriteHeader(status)
}

func (w *closer) Write(p []byte) (int, error) {
	w.wrote = true
	return w.ResponseWriter.Write(p)
}

func (w *closer) Flush() {
	if f, ok := w.ResponseWriter.(http.Flusher); ok {
		f.Flush()
	}
}

// Unwrap gives the writer beneath, for deadlines.
func (w *closer) Unwrap() http.ResponseWriter { return w.ResponseWriter }
