package api

import (
	"context"
	"crypto/subtle"
	"errors"
	"io/fs"
	"log/slog"
	"net/http"
	"path"
	"runtime/debug"
	"strconv"
	"strings"
	"time"

	"ergasia/store"

	"github.com/gin-gonic/gin"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

type requestKey struct{}

// request is what is learned of a request while it is served.
type request struct {
	id      string
	address string // of the caller, past trusted proxies
	route   string // its pattern, never with ids or tokens
}

func requestOf(ctx context.Context) *request {
	if r, ok := ctx.Value(requestKey{}).(*request); ok {
		return r
	}
	return &request{}
}

// observe gives each request an id and a time limit, and logs and measures it.
// Paths are not logged, since a link's token is part of one; patterns are.
func (s *Server) observe(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		start := time.Now()
		about := &request{id: store.NewID().String()}
		limit := timeOf(r)
		ctx, cancel := context.WithTimeout(context.WithValue(r.Context(), requestKey{}, about), limit)
		defer cancel()
		bound(w, r, limit)
		w.Header().Set("X-Request-Id", about.id)
		seen := &statusWriter{ResponseWriter: w, status: http.StatusOK}
		defer func() {
			if p := recover(); p != nil {
				slog.ErrorContext(ctx, "panic", "error", p, "stack", string(debug.Stack()))
				if !seen.wrote {
					writeProblem(seen, http.StatusInternalServerError, "Something broke on our side; nothing was changed.")
				}
			}
			took := time.Since(start)
			s.metrics.took.WithLabelValues(r.Method, about.route, strconv.Itoa(seen.status)).Observe(took.Seconds())
			s.config.Log.InfoContext(ctx, "request", "method", r.Method, "route", about.route, "status", seen.status,
				"ms", float64(took.Microseconds())/1000, "bytes", seen.bytes)
		}()
		next.ServeHTTP(seen, r.WithContext(ctx))
	})
}

// route notes the pattern that matched and who calls.
func (s *Server) route(c *gin.Context) {
	about := requestOf(c.Request.Context())
	about.route, about.address = c.FullPath(), c.ClientIP()
	c.Next()
}

// LogHandler adds the request's id to what is logged while serving it.
type LogHandler struct{ slog.Handler }

// Handle implements slog.Handler.
func (h LogHandler) Handle(ctx context.Context, r slog.Record) error {
	if id := requestOf(ctx).id; id != "" {
		r.AddAttrs(slog.String("request_id", id))
	}
	return h.Handler.Handle(ctx, r)
}

type statusWriter struct {
	http.ResponseWriter
	status, bytes int
	wrote         bool
}

func (w *statusWriter) WriteHeader(status int) {
	if !w.wrote {
		w.status, w.wrote = status, true
	}
	w.ResponseWriter.WriteHeader(status)
}

func (w *statusWriter) Write(b []byte) (int, error) {
	w.wrote = true
	n, err := w.ResponseWriter.Write(b)
	w.bytes += n
	return n, err
}

// SetReadDeadline is nobody's but bound's: huma would set one of its own and leave it.
func (w *statusWriter) SetReadDeadline(time.Time) error { return nil }

// Unwrap lets http.ResponseController reach what is below.
func (w *statusWriter) Unwrap() http.ResponseWriter { return w.ResponseWriter }

func (s *Server) securityHeaders(c *gin.Context) {
	h := c.Writer.Header()
	if s.config.Secure { // a browser that came by https comes by it for a year
		h.Set("Strict-Transport-Security", "max-age=31536000")
	}
	h.Set("Content-Security-Policy", "default-src 'self'; img-src 'self' data:; style-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "no-referrer") // links carry tokens
	if strings.HasPrefix(c.Request.URL.Path, "/api/") {
		h.Set("Cache-Control", "no-store")
	}
	c.Next()
}

// webApp serves the built web app; any path that is no file is its index, since
// the app routes itself.
func (s *Server) webApp(c *gin.Context) {
	name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
	if strings.HasPrefix(name, "api/") || c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
		writeProblem(c.Writer, http.StatusNotFound, "There is nothing at this address.")
		return
	}
	if file, err := fs.Stat(s.config.Web, name); err == nil && !file.IsDir() {
		if strings.HasPrefix(name, "assets/") { // their names carry a hash
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		}
		http.ServeFileFS(c.Writer, c.Request, s.config.Web, name)
		return
	}
	index, err := fs.ReadFile(s.config.Web, "index.html")
	if errors.Is(err, fs.ErrNotExist) {
		c.String(http.StatusServiceUnavailable, "The web app is not in this program: build it with `make build`.\n")
		return
	}
	c.Header("Cache-Control", "no-cache")
	c.Data(http.StatusOK, "text/html; charset=utf-8", index)
}

type metrics struct {
	registry *prometheus.Registry
	took     *prometheus.HistogramVec
}

func newMetrics() *metrics {
	m := &metrics{registry: prometheus.NewRegistry(), took: prometheus.NewHistogramVec(prometheus.HistogramOpts{
		Name: "ergasia_request_seconds", Help: "Time to answer a request.",
		Buckets: []float64{.001, .0025, .005, .01, .02, .03, .05, .075, .1, .25, .5, 1, 5},
	}, []string{"method", "route", "status"})}
	m.registry.MustRegister(m.took, collectors.NewGoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}))
	return m
}

// serve answers callers on this machine alone: metrics say how busy a crew is.
// serve gives the metrics to who has the token: a caller's address says nothing,
// since a proxy on this machine has this machine's. Without a token there are none.
func (m *metrics) serve(c *gin.Context, token string) {
	given, _ := strings.CutPrefix(c.GetHeader("Authorization"), "Bearer ")
	if token == "" || subtle.ConstantTimeCompare([]byte(given), []byte(token)) != 1 {
		writeProblem(c.Writer, http.StatusForbidden, "Metrics are given to who has the token of ERGASIA_METRICS_TOKEN.")
		return
	}
	promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{DisableCompression: true}).ServeHTTP(c.Writer, c.Request)
}
