// Package api is the HTTP interface: Gin, with huma's typed operations on it.
// One file a capability. Every operation of a crew names the action that its
// caller must be allowed, in one place: crewOperation.
package api

import (
	"bytes"
	"context"
	"encoding/json"
	"io/fs"
	"log/slog"
	"net/http"
	"time"

	"ergasia/app"
	"ergasia/store"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

// Config is what the interface needs to know.
type Config struct {
	Web            fs.FS       // the built web app
	Secure         bool        // served over HTTPS, so cookies may say so
	TrustedProxies []string    // whose X-Forwarded-For is believed
	MetricsToken   string      // of who may read the metrics; empty is nobody
	PublicURL      string      // under which phones reach it; where empty, what the browser calls it
	Demo           *Demo       // nil unless this is the demo
	Live           *store.Live // what copies of the program tell one another; none where it is nil
	Log            *slog.Logger
}

// Demo is the crew that anyone may sign in to with one press.
type Demo struct{ Crew uuid.UUID }

// Server is the interface over the use cases.
type Server struct {
	app      *app.App
	sessions *scs.SessionManager
	config   Config
	metrics  *metrics
	huma     huma.API
	live     *store.Live
	ending   <-chan struct{} // closed when streams must end
}

// sessionLife is how long a session lasts. Practice, no source. There is no
// shorter time for one unused, since keeping that would write at every request.
const sessionLife = 30 * 24 * time.Hour

// New makes the interface. Its session store cleans up until the context ends.
func New(ctx context.Context, a *app.App, db *store.DB, config Config) (*Server, http.Handler, error) {
	s := &Server{app: a, config: config, metrics: newMetrics(), sessions: newSessions(config.Secure), live: config.Live,
		ending: ctx.Done()}
	if s.live == nil {
		s.live = store.NewLive()
	}
	cleaned := postgresstore.NewWithCleanupInterval(db.SQL(), 10*time.Minute)
	s.sessions.Store = cleaned
	context.AfterFunc(ctx, cleaned.StopCleanup)
	router, err := s.router()
	if err != nil {
		return nil, nil, err
	}
	guard := http.NewCrossOriginProtection()
	guard.SetDenyHandler(http.HandlerFunc(refuseCrossOrigin))
	return s, s.observe(guard.Handler(s.sessions.LoadAndSave(router))), nil
}

// NewHTTPServer is the server that the handler of New is made for: how long a body and an
// answer may take is bounded by the handler, request by request.
func NewHTTPServer(handler http.Handler) *http.Server {
	return &http.Server{Handler: handler, ReadHeaderTimeout: 5 * time.Second, IdleTimeout: 2 * time.Minute,
		MaxHeaderBytes: 1 << 16}
}

func newSessions(secure bool) *scs.SessionManager {
	m := scs.New()
	m.Lifetime = sessionLife
	m.HashTokenInStore = true
	m.Cookie.Name = "ergasia_session"
	m.Cookie.HttpOnly = true
	m.Cookie.SameSite = http.SameSiteLaxMode // an invitation link from a message must find its session
	m.Cookie.Secure = secure
	m.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		slog.ErrorContext(r.Context(), "session", "error", err)
		writeProblem(w, http.StatusServiceUnavailable, "The database does not answer: try again in a moment.")
	}
	return m
}

func (s *Server) router() (*gin.Engine, error) {
	gin.SetMode(gin.ReleaseMode)
	g := gin.New()
	if err := g.SetTrustedProxies(s.config.TrustedProxies); err != nil {
		return nil, err
	}
	g.Use(s.securityHeaders, gzip.Gzip(gzip.BestSpeed), s.route, s.gate)
	s.huma = humagin.New(g, humaConfig())
	s.register()
	g.GET("/healthz", func(c *gin.Context) { c.String(http.StatusOK, "ok\n") })
	g.GET("/readyz", s.ready)
	g.GET("/metrics", func(c *gin.Context) { s.metrics.serve(c, s.config.MetricsToken) })
	g.NoRoute(s.webApp)
	return g, nil
}

func humaConfig() huma.Config {
	c := huma.DefaultConfig("Ergasia", "1")
	c.Info.Description = "Where each thing goes on a shared fishing boat, and how she floats with it."
	c.DocsPath, c.SchemasPath, c.OpenAPIPath = "", "", "/api/openapi"
	c.CreateHooks = nil // no $schema links in answers
	return c
}

// register adds every operation.
func (s *Server) register() {
	s.registerSession()
	s.registerCrew()
	s.registerBoats()
	s.registerHulls()
	s.registerFloating()
	s.registerGear()
	s.registerTables()
	s.registerUndoing()
	s.registerShed()
	s.registerKits()
	s.registerRigging()
	s.registerSafety()
	s.registerPower()
	s.registerPapers()
	s.registerLists()
	s.registerJobs()
	s.registerBrief()
	s.registerTrips()
	s.registerFuel()
	s.registerDays()
	s.registerReady()
	s.registerCatch()
	s.registerSheets()
	s.registerTripPhotos()
	s.registerDue()
	s.registerLabels()
	s.registerWeighing()
	s.registerBench()
	s.registerPlan()
	s.registerArrangements()
	s.registerRods()
	s.registerTimes()
	chooseFrom(s.huma.OpenAPI().Components.Schemas)
	boundNumbers(s.huma.OpenAPI())
}

// Spec is the OpenAPI 3.1 document, all operations included.
func Spec() ([]byte, error) {
	gin.SetMode(gin.ReleaseMode)
	s := &Server{config: Config{Demo: &Demo{}}, sessions: newSessions(false)}
	s.huma = humagin.New(gin.New(), humaConfig())
	s.register()
	compact, err := s.huma.OpenAPI().MarshalJSON()
	if err != nil {
		return nil, err
	}
	var text bytes.Buffer
	if err := json.Indent(&text, compact, "", "  "); err != nil {
		return nil, err
	}
	return append(text.Bytes(), '\n'), nil
}

func (s *Server) ready(c *gin.Context) {
	ctx, cancel := context.WithTimeout(c, 2*time.Second)
	defer cancel()
	if err := s.app.Serves(ctx); err != nil {
		slog.WarnContext(c, "not ready", "error", err)
		c.String(http.StatusServiceUnavailable, "the database is not ready\n")
		return
	}
	c.String(http.StatusOK, "ready\n")
}
