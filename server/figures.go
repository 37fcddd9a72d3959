package server

import (
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"clearjar/store"
)

// Figures are what those who watch over the server read, on a port of its own. They name operations, never people or plants.
type Figures struct {
	registry *prometheus.Registry
	seconds  *prometheus.HistogramVec
}

// NewFigures gathers figures of requests, of the pool of connections, and of the process.
func NewFigures(s *store.Store) *Figures {
	f := &Figures{
		registry: prometheus.NewRegistry(),
		seconds: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "clearjar_request_seconds", Help: "Time to answer, by method, route and status.", Buckets: []float64{.005, .02, .05, .1, .3, 1, 3, 10},
		}, []string{"method", "route", "status"}),
	}
	pool := func(name, help string, of func() float64) prometheus.Collector {
		return prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: name, Help: help}, of)
	}
	f.registry.MustRegister(f.seconds, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		pool("clearjar_database_connections", "Connections to the database.", func() float64 { return float64(s.Pool.Stat().TotalConns()) }),
		pool("clearjar_database_connections_in_use", "Connections that work.", func() float64 { return float64(s.Pool.Stat().AcquiredConns()) }),
		pool("clearjar_database_waits", "How often a request waited for a connection.", func() float64 { return float64(s.Pool.Stat().EmptyAcquireCount()) }))
	return f
}

// Handler answers with the figures as text.
func (f *Figures) Handler() http.Handler {
	return promhttp.HandlerFor(f.registry, promhttp.HandlerOpts{})
}

// counted counts requests by their route, not by their path, which may hold ids and secrets.
func (f *Figures) counted() gin.HandlerFunc {
	return func(c *gin.Context) {
		if f == nil {
			return
		}
		began := time.Now()
		c.Next()
		route := c.FullPath()
		if route == "" {
			route = "page"
		}
		f.seconds.WithLabelValues(c.Request.Method, route, strconv.Itoa(c.Writer.Status())).Observe(time.Since(began).Seconds())
	}
}
