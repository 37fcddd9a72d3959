// Package server speaks HTTP: Gin routes, the contract, problem+json. It is thin:
// decode, call a use case, encode. The Go types of the use cases are the contract;
// api/openapi.json is written from them and the front end's types from that.
package server

import (
	"encoding/json"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"clearjar/propagation"
	"clearjar/propagation/photo/intake"
	"clearjar/wayin"
)

// MostBody is the largest request: a photo and its wrapping.
const MostBody = intake.MostBytes + 1<<20

// Options are how the server is reached.
type Options struct {
	// Way is how it is reached; nil for this machine alone, without https.
	Way *wayin.Way
	// Demo lets anybody into the household of the demo; for loopback only.
	Demo bool
	// Figures counts requests; nil for none.
	Figures *Figures
	// NoSweep leaves log-ins that ran out where they are.
	NoSweep bool
}

// https tells whether it is reached by https only.
func (o Options) https() bool { return o.Way != nil && o.Way.TLS() }

// hosts are the names and numbers it answers to, beside this machine's own.
func (o Options) hosts() []string {
	if o.Way == nil {
		return nil
	}
	return o.Way.Hosts
}

func (o Options) sweep() time.Duration {
	if o.NoSweep {
		return 0
	}
	return swept
}

// New builds the whole handler: API under /api, the front end everywhere else.
func New(garden *propagation.Garden, front fs.FS, opts Options) http.Handler {
	engine := quiet()
	engine.ContextWithFallback = true
	_ = engine.SetTrustedProxies(nil)
	door := newEntrance(garden, opts)
	engine.Use(opts.Figures.counted(), recovery(), answersTo(opts), headers(opts), sameOrigin(), newLimits().perClient(), inTime(), door.who(), photosInTurn(), bounded(), gzip.Gzip(gzip.BestSpeed, gzip.WithExcludedPaths([]string{"/api/photos/"})))
	Routes(contract(engine), garden, door)
	health(engine, garden)
	serveFront(engine, front)
	return closing(engine)
}

func contract(engine *gin.Engine) huma.API {
	cfg := huma.DefaultConfig("Clear Jar", "1")
	cfg.Info.Description = "Facts go in, conclusions come out. Every fact carries a UUIDv7 made by the client; writing it twice is writing it once."
	cfg.DocsPath, cfg.OpenAPIPath, cfg.SchemasPath = "", "/api/openapi", ""
	cfg.CreateHooks = nil
	cfg.Formats = map[string]huma.Format{"application/json": plainJSON, "json": plainJSON}
	huma.DefaultArrayNullable = false
	huma.NewError = problem
	huma.NewErrorWithContext = func(ctx huma.Context, status int, detail string, errs ...error) huma.StatusError {
		p := problem(status, detail, errs...).(*Problem)
		if status == http.StatusRequestEntityTooLarge && ctx != nil {
			p.Detail = tooLarge(ctx.URL().Path)
		}
		return p
	}
	listKeys(cfg.Components.Schemas)
	api := humagin.New(engine, cfg)
	api.UseMiddleware(allowed(api))
	return api
}

// plainJSON writes JSON; an answer that knows how to write itself does so.
var plainJSON = huma.Format{
	Marshal: func(w io.Writer, v any) error {
		if own, ok := v.(interface{ WriteJSON(w io.Writer) error }); ok {
			return own.WriteJSON(w)
		}
		return huma.DefaultJSONFormat.Marshal(w, v)
	},
	Unmarshal: huma.DefaultJSONFormat.Unmarshal,
}

// Contract is the OpenAPI document, without a database behind it.
func Contract() ([]byte, error) {
	api := contract(quiet())
	Routes(api, nil, &entrance{})
	return json.MarshalIndent(api.OpenAPI(), "", " ")
}

func quiet() *gin.Engine {
	gin.SetMode(gin.ReleaseMode)
	return gin.New()
}

func recovery() gin.HandlerFunc {
	return gin.CustomRecovery(func(c *gin.Context, what any) {
		slog.Error("panic", "path", c.Request.URL.Path, "what", what)
		fail(c, http.StatusInternalServerError, "Something broke on our side. What you typed is still on the screen; try again.")
	})
}

func fail(c *gin.Context, status int, detail string) {
	c.Header("Content-Type", "application/problem+json")
	c.AbortWithStatusJSON(status, problem(status, detail))
}

// hostOf is the host of an address without its port.
func hostOf(address string) string {
	if h, _, err := net.SplitHostPort(address); err == nil {
		address = h
	}
	return strings.Trim(address, "[]")
}

// answersTo refuses every host name but those that were configured and this machine's own, so that a page elsewhere
// cannot reach the server under a name it controls.
func answersTo(opts Options) gin.HandlerFunc {
	return func(c *gin.Context) {
		host := strings.ToLower(hostOf(c.Request.Host))
		ip := net.ParseIP(host)
		if host != "localhost" && (ip == nil || !ip.IsLoopback()) && !slices.Contains(opts.hosts(), host) {
			fail(c, http.StatusMisdirectedRequest, "Clear Jar does not answer to this address. The one who runs it can name it: clearjar serve --host.")
		}
	}
}

// health tells those who watch over the process whether it lives, and whether it can work.
func health(engine *gin.Engine, garden *propagation.Garden) {
	engine.GET("/healthz", func(c *gin.Context) { c.String(http.StatusOK, "alive\n") })
	engine.GET("/readyz", func(c *gin.Context) {
		if err := garden.Store.Door.Ping(c.Request.Context()); err != nil {
			c.String(http.StatusServiceUnavailable, "the database cannot be reached\n")
			return
		}
		c.String(http.StatusOK, "ready\n")
	})
}

func headers(opts Options) gin.HandlerFunc {
	return func(c *gin.Context) {
		h := c.Writer.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(self), geolocation=(), microphone=(), payment=(), usb=()")
		if opts.https() {
			h.Set("Strict-Transport-Security", "max-age=31536000")
		}
		if strings.HasPrefix(c.Request.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store")
		}
	}
}

func sameOrigin() gin.HandlerFunc {
	protection := http.NewCrossOriginProtection()
	return func(c *gin.Context) {
		if err := protection.Check(c.Request); err != nil {
			fail(c, http.StatusForbidden, "This request came from another site and was refused.")
		}
	}
}

func bounded() gin.HandlerFunc {
	return func(c *gin.Context) {
		if c.Request.ContentLength > MostBody {
			fail(c, http.StatusRequestEntityTooLarge, tooLarge(c.Request.URL.Path))
			return
		}
		c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, MostBody)
	}
}

// serveFront gives the built files; a path of the application gives its page.
func serveFront(engine *gin.Engine, front fs.FS) {
	files := http.FileServerFS(front)
	engine.NoRoute(func(c *gin.Context) {
		path := strings.TrimPrefix(c.Request.URL.Path, "/")
		if strings.HasPrefix(path, "api/") {
			fail(c, http.StatusNotFound, "There is nothing at this address.")
			return
		}
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
			fail(c, http.StatusMethodNotAllowed, "Only reading is possible here.")
			return
		}
		if info, err := fs.Stat(front, path); err == nil && !info.IsDir() {
			if strings.HasPrefix(path, "assets/") {
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			files.ServeHTTP(c.Writer, c.Request)
			return
		}
		if strings.HasPrefix(path, "assets/") {
			// A page from before an upgrade asks for what is gone: it has to know, and fetch itself anew.
			fail(c, http.StatusNotFound, "This file is of another version of Clear Jar.")
			return
		}
		page, err := fs.ReadFile(front, "index.html")
		if err != nil {
			fail(c, http.StatusServiceUnavailable, "The front end is not built: run make build.")
			return
		}
		c.Header("Cache-Control", "no-cache")
		c.Data(http.StatusOK, "text/html; charset=utf-8", page)
	})
}
