package app_test

import (
	"database/sql"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"ergasia/app"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/store"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

// The store that is measured: a thousand crews, one of them large.
const (
	benchCrews  = 1000
	benchLarge  = 20_000
	benchSmall  = 480 // of each of the others: 500,000 in all
	benchPeople = 50
)

var benchNouns = strings.Fields(`tray box bag rod reel net gaff anchor rope line lure spoon jig hook sinker swivel leader float pliers knife scissors towel
	jacket vest waders boots gloves hat lamp torch battery charger cable fuse plug pump hose bucket cooler thermos stove chair cushion paddle oar
	fender cleat shackle buoy flare radio compass chart horn mirror whistle ladder drogue tape glue screw bolt nut washer wrench driver hammer saw
	brush soap oil filter impeller propeller shaft bearing belt seal gasket cap lid strap clip clamp mount bracket rail holder tube rack shelf drawer`)

var benchWords = strings.Fields(`red blue green black white grey orange yellow silver gold long short wide narrow heavy light old new spare small
	large deep shallow fast slow hard soft round flat square pike zander perch cod trout salmon ling pollack herring eel winter summer spring autumn
	bow stern port starboard upper lower inner outer left right first second third north south east west lake sea river fjord sound reef bank`)

// buildStore fills a database as its owner, who is no role of the program.
func buildStore(b *testing.B, address string) (large uuid.UUID) {
	db, err := sql.Open("pgx", address)
	require.NoError(b, err)
	defer func() { _ = db.Close() }()
	db.SetMaxOpenConns(1)
	for _, statement := range []string{
		"SET session_replication_role = replica", // keys are sound by construction
		fmt.Sprintf("INSERT INTO crew SELECT md5('crew' || i)::uuid, 'Crew ' || i FROM generate_series(1, %d) i", benchCrews),
		"INSERT INTO member (id, crew_id, name, role, mark, kg, mass_known) SELECT md5('m' || n || id)::uuid, id, 'Person ' || n, 'owner', n::text, 80, 'guess' FROM crew, generate_series(1, 4) n",
		"INSERT INTO shed SELECT md5('s' || n || id)::uuid, id, 'boathouse', 'shelf ' || n, 0, 0, 0, 'dry', 0, false FROM crew, generate_series(1, 20) n",
		fmt.Sprintf(`INSERT INTO gear (id, crew_id, name, tags, owner_id, length, breadth, height, kg, mass_known, count, needs_dry, turn, used_at, trips)
			SELECT md5(crew.id::text || i)::uuid, crew.id, q[1 + i * 7919 %% cardinality(q)] || ' ' || n[1 + i * 104729 %% cardinality(n)] || ' ' || i %% 997,
				'[]', CASE WHEN i %% 3 = 0 THEN md5('m' || 1 + i %% 4 || crew.id)::uuid END, 0.3, 0.2, 0.1, 1, CASE WHEN i %% 4 = 0 THEN 'guess' ELSE 'weighed' END, 1, false, 'any',
				now() - i * interval '7 minutes', i %% 30
			FROM crew, generate_series(1, %d) i, (SELECT '{%s}'::text[] q, '{%s}'::text[] n) w WHERE i <= CASE WHEN crew.name = 'Crew 1' THEN %d ELSE %d END`,
			benchLarge, strings.Join(benchWords, ","), strings.Join(benchNouns, ","), benchLarge, benchSmall),
		"INSERT INTO stowage (gear_id, crew_id, kind, shed_id) SELECT id, crew_id, 'shed', md5('s' || 1 + abs(hashtext(id::text)) % 20 || crew_id)::uuid FROM gear",
		"INSERT INTO gear_word SELECT crew_id, w, id FROM gear, regexp_split_to_table(name, ' ') w ON CONFLICT DO NOTHING",
		"INSERT INTO word SELECT DISTINCT crew_id, word FROM gear_word",
		"VACUUM ANALYZE",
	} {
		_, err := db.Exec(statement)
		require.NoError(b, err, statement)
	}
	require.NoError(b, db.QueryRow("SELECT id FROM crew WHERE name = 'Crew 1'").Scan(&large))
	return large
}

// misspelt swaps two letters inside a word.
func misspelt(r *rand.Rand, word string) string {
	if len(word) < 5 {
		return word
	}
	i := 1 + r.IntN(len(word)-3)
	return word[:i] + word[i+1:i+2] + word[i:i+1] + word[i+2:]
}

// BenchmarkGearOfAThousandCrews measures finding and listing under row-level
// security with fifty people at work: half of them in the large crew, each
// asking about once a second, as one who types does. Milliseconds in the server
// at the 95th percentile, and the ratio to a plain indexed query without policies
// in the same run; then all of them as fast as they can.
func BenchmarkGearOfAThousandCrews(b *testing.B) {
	address := storetest.URL(b)
	require.NoError(b, store.Migrate(ctx, address))
	large := buildStore(b, address)
	db, err := store.Open(ctx, address, 16)
	require.NoError(b, err)
	defer func() { _ = db.Close() }()
	a := app.New(db)
	owner, err := sql.Open("pgx", address)
	require.NoError(b, err)
	defer func() { _ = owner.Close() }()
	owner.SetMaxOpenConns(16)
	var others []uuid.UUID
	rows, err := owner.Query("SELECT id FROM crew WHERE id <> $1 LIMIT 25", large)
	require.NoError(b, err)
	for rows.Next() {
		var id uuid.UUID
		require.NoError(b, rows.Scan(&id))
		others = append(others, id)
	}
	require.NoError(b, rows.Err())
	crewOf := func(person int) uuid.UUID {
		if person%2 == 0 {
			return large
		}
		return others[person/2]
	}
	find := func(person int, r *rand.Rand) error {
		query := benchNouns[r.IntN(len(benchNouns))]
		switch r.IntN(5) {
		case 0:
			query = query[:2]
		case 1:
			query += " " + benchWords[r.IntN(len(benchWords))]
		case 2:
			query = misspelt(r, query)
		case 3:
			query += fmt.Sprintf(" shelf %d", 1+r.IntN(20))
		}
		_, err := a.Gear.Find(ctx, kernel.Actor{Crew: crewOf(person)}, query)
		return err
	}
	page := func(person int, r *rand.Rand) error {
		q := gear.GearQuery{Limit: 50, Sort: []string{"name", "recent"}[r.IntN(2)]}
		if r.IntN(3) == 0 {
			q.Only = "unweighed"
		}
		if r.IntN(3) == 0 {
			q.After = gear.Cursor{ID: uuid.Nil, Name: benchWords[r.IntN(len(benchWords))],
				Used: time.Now().Add(-time.Duration(r.IntN(200)) * time.Hour)}.Text()
		}
		_, err := a.Gear.Gear(ctx, kernel.Actor{Crew: crewOf(person)}, q)
		return err
	}
	plain := func(person int, r *rand.Rand) error {
		var n int
		return owner.QueryRow(`SELECT count(*) FROM (SELECT gear.name FROM gear_word w JOIN gear ON gear.crew_id = w.crew_id AND gear.id = w.gear_id
			WHERE w.crew_id = $1 AND w.word = $2 ORDER BY gear.used_at DESC LIMIT 12) f`, crewOf(person), benchNouns[r.IntN(len(benchNouns))]).Scan(&n)
	}
	for range b.N {
		_ = crowd(b, 4, 0, find) // warm
		reference := crowd(b, 8, time.Second, plain)
		found, listed := crowd(b, 8, time.Second, find), crowd(b, 8, time.Second, page)
		b.ReportMetric(found, "find-p95-ms")
		b.ReportMetric(listed, "page-p95-ms")
		b.ReportMetric(reference, "plain-sql-p95-ms")
		b.ReportMetric(found/reference, "find/plain-sql")
		b.ReportMetric(listed/reference, "page/plain-sql")
		b.ReportMetric(crowd(b, 8, 0, find), "find-p95-ms-flat-out")
		b.ReportMetric(crowd(b, 8, 0, page), "page-p95-ms-flat-out")
		b.ReportMetric(crowd(b, 8, 0, plain), "plain-sql-p95-ms-flat-out")
	}
}

// crowd lets everybody ask so many times, pausing about as long in between, and
// gives the 95th percentile in milliseconds.
func crowd(b *testing.B, rounds int, pause time.Duration, ask func(person int, r *rand.Rand) error) float64 {
	var lock sync.Mutex
	var took []time.Duration
	var group sync.WaitGroup
	for person := range benchPeople {
		group.Go(func() {
			r := rand.New(rand.NewPCG(uint64(person), 5))
			for range rounds {
				if pause > 0 {
					time.Sleep(time.Duration(r.Float64() * 2 * float64(pause))) // think time of the simulated person
				}
				start := time.Now()
				if err := ask(person, r); err != nil {
					b.Error(err)
					return
				}
				lock.Lock()
				took = append(took, time.Since(start))
				lock.Unlock()
			}
		})
	}
	group.Wait()
	slices.Sort(took)
	return float64(took[len(took)*95/100].Microseconds()) / 1000
}
