package e2e

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"ergasia/app"
	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/lists"
	"ergasia/app/refuse"
	"ergasia/app/rigging"
	"ergasia/app/safety"
	"ergasia/app/shed"
	"ergasia/app/stowing"
	"ergasia/app/trips"
	"ergasia/demo"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// readable is all that a page says: text, labels for those who hear it, and drawings.
const readable = `() => [document.body.innerText, ...[...document.querySelectorAll('[aria-label]')].map(e => e.getAttribute('aria-label')),
	...[...document.querySelectorAll('svg text')].map(e => [...e.querySelectorAll('tspan')].map(t => t.textContent).join(' ') || e.textContent)].join('\n')`

// What no line of a page says: one of something in the plural, several in the singular, a count
// of nothing where a sentence stands, a value that is none, and marks about an empty text.
var unreadable = []struct {
	why  string
	that *regexp.Regexp
}{
	{"one of many", regexp.MustCompile(`(?i)(?:^|[^\d.,/:–-])\b1 (?:[a-z]+[^su\W]s|[a-z]+(?:ches|sses)|people)(?:$|[^\w'’])`)},
	{"many of one", regexp.MustCompile(`(?i)(?:^|[^\d.,/:])(?:[2-9]|\d\d+|two|three|four) (?:thing|piece|entry|place|post|rod|day|fitting|job|paper|trip|move|person|picture|battery|line|label|fish|kit|gap|boat|row|tank|mass|use|time|hour|minute|second|circuit|log|tick|charger|bank|hole) ?(?:$|[.,;:)]| (?:is|are|was|were|of|in|on|to)\b)`)},
	{"one that are", regexp.MustCompile(`(?i)(?:^|[^\d.,/:])(?:1|one) (?:thing|piece|entry|place|post|rod|fitting|job|trip|move|person|picture|battery|line|gap|boat|row)s? (?:are|have|were|lie|hold|weigh|go|want|need|stand)\b`)},
	{"a count of nothing", regexp.MustCompile(`(?:^|[^\d.,/:–-])0 (?:[a-z]{3,})\b`)},
	{"a value that is none", regexp.MustCompile(`\b(?:undefined|null|NaN|Infinity|\[object)\b`)},
	{"marks about nothing", regexp.MustCompile(`\.\s*\.(?:\s|$)|,\s*[,.;]|\(\s*\)|:\s*[.,;]`)},
}

// allowed are lines of which the pattern knows too little.
var allowed = regexp.MustCompile(`(?i)^at 0 |\b0 (?:ahead|where|for no|to|is)\b|\b0 (?:min|for none)\b|\b1 (?:was|has|lies|goes|is)\b`)

// reads goes over every page and reads every line.
func (p *page) reads(state string) int {
	return p.walk(func(path string) { p.read(state, path) })
}

// read reads every line of the page that is open.
func (p *page) read(state, path string) {
	p.until(state+": "+path+" says something", `() => (document.querySelector('main')?.innerText.trim() ?? '').length > 20`)
	text := p.MustEval(readable).Str()
	p.readsWell(state, path, text)
	if dir := os.Getenv("ERGASIA_READ"); dir != "" { // to read them oneself
		name := strings.ReplaceAll(anyID.ReplaceAllString(path, "x"), "/", "_")
		_ = os.WriteFile(filepath.Join(dir, strings.ReplaceAll(state, " ", "_")+name+".txt"), []byte(text), 0o600)
	}
}

// readsWell holds each line of a page against what no line says.
func (p *page) readsWell(state, path, text string) {
	for line := range strings.Lines(text) {
		line = strings.TrimSpace(line)
		for _, u := range unreadable {
			if found := u.that.FindString(line); found != "" && !allowed.MatchString(line) {
				assert.Fail(p.t, u.why, "%s: %s: %q in %q", state, anyID.ReplaceAllString(path, "*"), found, line)
			}
		}
	}
}

// Every page with nothing in it and with one of each, and those that speak of gear with that one gone
// elsewhere: read, line by line.
func TestEmptyAndSingleStatesReadWell(t *testing.T) {
	d, p := newcomers(t)
	s := single(t, d)
	for _, state := range []struct {
		name   string
		make   func()
		beyond int // pages
	}{{"no boat", func() {}, 10}, {"a trip without a boat", s.boatless, 15}, {"nothing", s.boats, 40}, {"one of each", s.ofEach, 44}} {
		state.make()
		p.anew("/")
		require.Greater(t, p.reads(state.name), state.beyond)
	}
	s.ashore()
	p.anew("/")
	boat, trip := "/boats/"+s.boat.String(), "/trips/"+s.trip.String()
	for _, path := range []string{boat, boat + "/arrangements", boat + "/plan", boat + "/rods", boat + "/road", trip, trip + "/pack",
		trip + "/stow", trip + "/lists", "/gear", "/gear/" + s.piece.ID.String(), "/kits", "/shed", "/due", "/trips"} {
		p.turnTo(path)
		p.read("one ashore", path)
	}
	*p.complaints = nil // a page that is asked for what is not there says so
}

// anew opens a page as a browser does that was closed.
func (p *page) anew(path string) {
	origin := p.MustEval(`() => location.origin`).Str()
	p.MustNavigate(origin + path)
	p.find("main")
}

// oneOfEach fills a crew by its use cases, beside the running program.
type oneOfEach struct {
	*app.App
	t                       *testing.T
	actor                   kernel.Actor
	boat, place, post, trip uuid.UUID
	piece                   gear.GearView
}

func single(t *testing.T, d *program) *oneOfEach {
	db, err := store.Open(t.Context(), d.database, 3)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	s := &oneOfEach{App: app.New(db), t: t}
	crew, err := s.Crew.CrewOf(t.Context(), "una")
	require.NoError(t, err)
	s.actor = kernel.Actor{Crew: crew, Role: kernel.Owner}
	members, err := s.Crew.Members(t.Context(), s.actor)
	require.NoError(t, err)
	s.actor.Member = members[0].ID
	return s
}

// must ends the test where a use case refuses.
func must[T any](t *testing.T) func(v T, err error) T {
	return func(v T, err error) T {
		well(t, err)
		return v
	}
}

func well(t *testing.T, err error) {
	var refusal *refuse.Error
	if errors.As(err, &refusal) {
		require.NoError(t, err, "%v", refusal.Faults)
	}
	require.NoError(t, err)
}

func (s *oneOfEach) today() kernel.Date { return kernel.DayOf(s.Kernel.Now()) }

// boats is a boat with a hull and an engine, and a trip in her tomorrow.
func (s *oneOfEach) boats() {
	id, ctx := must[uuid.UUID](s.t), context.Background()
	her := demo.Dunlin()
	her.Name, her.Outfit.Masses = "Plover", her.Outfit.Masses[:1]
	s.boat = id(s.Fleet.SaveBoat(ctx, s.actor, uuid.Nil, uuid.Nil, 0, her))
	s.trip = id(s.Trips.SaveTrip(ctx, s.actor, uuid.Nil, uuid.Nil, 0, trips.TripInput{Name: "Evening", BoatID: &s.boat,
		StartsOn: s.today().Add(1), EndsOn: s.today().Add(1), Persons: 1, Rods: 1, Hours: 1}))
}

// boatless is a trip of which nobody has said the boat.
func (s *oneOfEach) boatless() {
	must[uuid.UUID](s.t)(s.Trips.SaveTrip(context.Background(), s.actor, uuid.Nil, uuid.Nil, 0, trips.TripInput{Name: "Some day",
		StartsOn: s.today().Add(2), EndsOn: s.today().Add(2), Persons: 1}))
}

// ofEach is one place, post, piece, and one of all that can be had of them.
func (s *oneOfEach) ofEach() {
	id, ctx, t := must[uuid.UUID](s.t), context.Background(), s.t
	s.place = id(s.Fleet.SavePlace(ctx, s.actor, uuid.Nil, s.boat, uuid.Nil, 0, fleet.PlaceInput{Name: "stern locker",
		Corner: model.Vec{0.2, -0.3, 0.35}, Size: model.Vec{0.8, 0.6, 0.3}, Dryness: "dry", MaxKg: 60}))
	s.post = id(s.Fleet.AddPost(ctx, s.actor, uuid.Nil, s.boat, fleet.PostInput{Name: "helm", At: model.Vec{1.5, 0, 0.35}}))
	cost := 10.0
	soon := s.today().Add(1)
	s.piece = must[gear.GearView](t)(s.Gear.SaveGear(ctx, s.actor, uuid.Nil, uuid.Nil, 0, gear.GearInput{Name: "net",
		Size: model.Vec{0.3, 0.2, 0.2}, Kg: 1, MassKnown: "weighed", Count: 1, Turn: "any", Tags: []string{"landing"},
		Cost: &cost, OwnerID: &s.actor.Member, ExpiresOn: &soon, RestockAt: 1}))
	s.move(aboard.MoveInput{GearID: &s.piece.ID, PlaceID: &s.place, Version: s.stowed()})
	s.move(aboard.MoveInput{MemberID: &s.actor.Member, PostID: &s.post})
	id(s.Shed.SaveShed(ctx, s.actor, uuid.Nil, uuid.Nil, 0, shed.ShedInput{Site: "boathouse", Name: "shelf",
		Size: model.Vec{1, 1, 1}, Dryness: "wet"}))
	id(s.Kits.SaveKit(ctx, s.actor, uuid.Nil, uuid.Nil, 0, kits.KitInput{Name: "landing", Sort: "use",
		Lines: []model.KitLine{{What: "net", Amount: 1, Per: "day", Choices: []model.KitChoice{{GearID: &s.piece.ID}}}}}))
	_, err := s.Trips.Promise(ctx, s.actor, uuid.Nil, s.trip, []uuid.UUID{s.piece.ID})
	well(t, err)
	id(s.Due.AddService(ctx, s.actor, uuid.Nil, s.piece.ID, gear.ServiceInput{What: "rinse", EveryDays: 1, EveryTrips: 1,
		EveryHours: 1, LastOn: s.today()}))
	id(s.Safety.SavePaper(ctx, s.actor, uuid.Nil, uuid.Nil, 0, safety.PaperInput{Name: "Registration", Kind: "registration",
		BoatID: &s.boat, ExpiresOn: &soon}))
	id(s.Lists.SaveLine(ctx, s.actor, uuid.Nil, uuid.Nil, 0, lists.OwnLineInput{Stage: "ramp", Text: "Plug in", Holds: true}))
	id(s.Jobs.Report(ctx, s.actor, uuid.Nil, s.boat, jobs.JobInput{Kind: "defect", What: "The pump sticks", Holds: true}))
	id(s.Stowing.SaveArrangement(ctx, s.actor, uuid.Nil, s.boat, stowing.ArrangementInput{Name: "usual",
		Gear: []uuid.UUID{s.piece.ID}}))
	s.fitted()
	well(t, s.Power.Save(ctx, s.actor, uuid.Nil, s.boat, 0, model.NetInput{
		Banks: []model.BankInput{{Key: "b", Name: "starting", Role: "start", Series: 1,
			Fixed: &model.FixedBatteries{Count: 1, Chemistry: "agm", Volts: 12, AmpHours: 70}}},
		Parts:    []model.PartInput{{Key: "f", Kind: "fuse", Name: "main", From: []string{"b"}, Rating: 10}},
		Circuits: []model.CircuitInput{{Key: "c", Name: "lamp", Kind: "lights", From: "f", Amps: 1, Known: "plate"}},
	}))
	s.was()
}

// fitted is one fitting and a set of it.
func (s *oneOfEach) fitted() {
	ctx := context.Background()
	read := must[[]rigging.ReadFitting](s.t)(s.Rigging.Read(ctx, s.actor, s.boat, "cleat"))
	ids := must[[]uuid.UUID](s.t)(s.Rigging.Mount(ctx, s.actor, uuid.Nil, s.boat, []rigging.FittingInput{read[0].FittingInput}))
	must[uuid.UUID](s.t)(s.Rigging.SaveSet(ctx, s.actor, uuid.Nil, s.boat, uuid.Nil, 0, rigging.SetInput{Name: "sea",
		Lines: []model.RigLine{{FittingID: ids[0]}}}))
}

// was is a trip of yesterday, with one hour run and one fish.
func (s *oneOfEach) was() {
	ctx := context.Background()
	past := must[uuid.UUID](s.t)(s.Trips.SaveTrip(ctx, s.actor, uuid.Nil, uuid.Nil, 0, trips.TripInput{Name: "Morning",
		BoatID: &s.boat, StartsOn: s.today().Add(-1), EndsOn: s.today().Add(-1), Persons: 1, Rods: 1, Hours: 1}))
	_, err := s.Days.AddFish(ctx, s.actor, uuid.Nil, past, days.FishInput{Species: "cod", Length: 0.5, Place: &s.place})
	well(s.t, err)
	litre := 1.0
	well(s.t, s.Trips.LogTrip(ctx, s.actor, uuid.Nil, past, trips.LogInput{Version: 2, Hours: 1, Filled: &litre,
		Used: []uuid.UUID{s.piece.ID}}))
}

// ashore takes the piece out of the boat, into the boathouse, and lends it out.
func (s *oneOfEach) ashore() {
	ctx := context.Background()
	s.move(aboard.MoveInput{GearID: &s.piece.ID, Version: s.stowed()})
	well(s.t, s.Trips.Unpromise(ctx, s.actor, s.trip, s.piece.ID))
	well(s.t, s.Trips.Loan(ctx, s.actor, uuid.Nil, s.piece.ID, trips.LoanInput{Way: "lent", Whom: "Bo"}))
}

func (s *oneOfEach) move(in aboard.MoveInput) {
	_, err := s.Where.Move(context.Background(), s.actor, store.NewID(), s.boat, in)
	well(s.t, err)
}

func (s *oneOfEach) stowed() int {
	b, err := s.Stowing.Bench(context.Background(), s.actor, s.boat)
	well(s.t, err)
	for _, g := range b.State.Stowage {
		if g.GearID == s.piece.ID {
			return g.Version
		}
	}
	return 0
}
