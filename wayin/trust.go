package wayin

import (
	_ "embed"
	"html/template"
	"net"
	"net/http"
	"slices"
	"strings"
)

//go:embed trust.html
var trustHTML string

var trustPage = template.Must(template.New("trust").Parse(trustHTML))

// certAddress is where the authority's certificate is fetched.
const certAddress = "/clear-jar-at-home.crt"

// TrustPage is the plain page that leads a phone through trusting the household's authority. It is all that is served without
// https; it asks for nothing, and no secret passes through it.
func (w *Way) TrustPage() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET "+certAddress, func(out http.ResponseWriter, _ *http.Request) {
		out.Header().Set("Content-Type", "application/x-x509-ca-cert")
		out.Header().Set("Content-Disposition", `attachment; filename="clear-jar-at-home.crt"`)
		_, _ = out.Write(w.Ours.Cert.Raw)
	})
	mux.HandleFunc("GET /{$}", func(out http.ResponseWriter, r *http.Request) {
		at := w.Addresses()
		// By the name it came by, where that is one of ours.
		host := hostOf(r.Host)
		for _, a := range at {
			if strings.Contains(a, "://"+host+":") {
				at = []string{a}
				break
			}
		}
		_ = trustPage.Execute(out, struct{ Cert, Fingerprint, Open, Until string }{
			certAddress, Fingerprint(w.Ours.Cert), at[0], w.Ours.Cert.NotAfter.Format("2 January 2006"),
		})
	})
	return http.HandlerFunc(func(out http.ResponseWriter, r *http.Request) {
		h := out.Header()
		h.Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cache-Control", "no-store")
		host := hostOf(r.Host)
		ip := net.ParseIP(host)
		if !slices.Contains(w.Hosts, host) && host != "localhost" && (ip == nil || !ip.IsLoopback()) {
			http.Error(out, "Clear Jar does not answer to this address.", http.StatusMisdirectedRequest)
			return
		}
		mux.ServeHTTP(out, r)
	})
}

func hostOf(address string) string {
	if h, _, err := net.SplitHostPort(address); err == nil {
		address = h
	}
	return strings.ToLower(strings.Trim(address, "[]"))
}
