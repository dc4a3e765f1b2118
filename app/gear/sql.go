package gear

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/app/kernel"
	"ergasia/core/find"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// At is gear with where it is.
type At struct {
	model.Gear
	Stowage model.Stowage `gorm:"embedded;embeddedPrefix:at_"`
}

// atColumns are gear and its stowage as At reads them.
const atColumns = `gear.*, at.gear_id AS at_gear_id, at.crew_id AS at_crew_id, at.kind AS at_kind, at.inside_id AS at_inside_id, at.boat_id AS at_boat_id,
	at.place_id AS at_place_id, at.shed_id AS at_shed_id, at.held_by AS at_held_by, at.rides AS at_rides, at.since AS at_since, at.version AS at_version`

const from = ` FROM gear JOIN stowage at ON at.crew_id = gear.crew_id AND at.gear_id = gear.id`

// Rows reads gear with where it is: clauses is what follows FROM.
func Rows(tx *store.Tx, clauses string, args store.Args) (rows []At, err error) {
	if err := tx.Read(&rows, "SELECT "+atColumns+from+" "+clauses, args); err != nil {
		return nil, fmt.Errorf("loading gear: %w", err)
	}
	return rows, nil
}

func knownNames(tx *store.Tx) (list names, err error) {
	err = tx.Read(&list, `SELECT 'person' AS kind, id, name, mark, NULL::uuid AS boat FROM member WHERE crew_id = @crew AND left_at IS NULL
		UNION ALL SELECT 'boat', id, name, '', id FROM boat WHERE crew_id = @crew
		UNION ALL SELECT 'place', place.id, boat.name || ', ' || place.name, '', boat.id FROM place JOIN boat ON boat.crew_id = place.crew_id AND boat.id = place.boat_id
			WHERE place.crew_id = @crew
		UNION ALL SELECT 'shed', id, site || ', ' || name, '', NULL FROM shed WHERE crew_id = @crew`, nil)
	if err != nil {
		err = fmt.Errorf("loading names: %w", err)
	}
	return list, err
}

// speller looks up what words of the crew's vocabulary a term may stand for; what was
// looked up once in a search is not asked of the database again.
type speller struct {
	tx    *store.Tx
	begun map[string][]string // words that begin with a term
	like  map[string][]string // words that are nearly a term
	all   []string            // the words of the crew, where they were read
	least int                 // of how many letters all are at least
}

func newSpeller(tx *store.Tx) *speller {
	return &speller{tx: tx, begun: map[string][]string{}, like: map[string][]string{}, least: math.MaxInt}
}

// of gives words that begin with a term, or, where there are none or loose is set,
// words that are nearly it as well.
func (s *speller) of(term string, loose bool) ([]string, error) {
	list, err := s.beginWith(term)
	if err != nil || len(list) > 0 && !loose || len([]rune(term)) < 3 {
		return list, err
	}
	like, err := s.nearly(term)
	if err != nil {
		return nil, err
	}
	list = slices.Clone(list)
	for _, w := range like {
		if !slices.Contains(list, w) {
			list = append(list, w)
		}
	}
	return list, nil
}

func (s *speller) beginWith(term string) ([]string, error) {
	if list, known := s.begun[term]; known {
		return list, nil
	}
	var list []string
	err := s.tx.Read(&list, "SELECT word FROM word WHERE crew_id = @crew AND word >= @term AND word < @last ORDER BY word LIMIT @most",
		store.Args{"term": term, "last": term + "\U0010FFFF", "most": spelling})
	if err != nil {
		return nil, fmt.Errorf("looking up a word: %w", err)
	}
	s.begun[term] = list
	return list, nil
}

func (s *speller) nearly(term string) ([]string, error) {
	if list, known := s.like[term]; known {
		return list, nil
	}
	if least := len([]rune(term)) - 3; least < s.least {
		var all string
		err := s.tx.Read(&all, `SELECT coalesce(string_agg(word, ' '), '') FROM (SELECT word FROM word
			WHERE crew_id = @crew AND length(word) >= @n AND left(word, 1) <> '#' LIMIT @most) w`,
			store.Args{"n": least, "most": vocabulary})
		if err != nil {
			return nil, fmt.Errorf("looking for a like word: %w", err)
		}
		s.all, s.least = strings.Fields(all), least
	}
	s.like[term] = find.Closest(term, s.all, nearly)
	return s.like[term], nil
}

// How many words of a crew are looked at for a like one, and how many are taken.
const (
	vocabulary = 20_000
	nearly     = 12
)

// findGear gives gear that every term answers, newest use first; without a term,
// what was used last.
func findGear(tx *store.Tx, terms []string, known names) ([]At, error) {
	if len(terms) == 0 {
		return Rows(tx, "WHERE gear.crew_id = @crew ORDER BY gear.used_at DESC, gear.id LIMIT @most",
			store.Args{"most": hitsGiven})
	}
	words := newSpeller(tx)
	rows, err := findBy(words, terms, known, nil)
	if err != nil || len(rows) >= few {
		return rows, err
	}
	slips, err := misspelt(words, terms, known, len(rows) == 0)
	if err != nil || len(slips) == 0 {
		return rows, err
	}
	more, err := findBy(words, terms, known, slips)
	for _, r := range more {
		if !slices.ContainsFunc(rows, func(o At) bool { return o.ID == r.ID }) {
			rows = append(rows, r)
		}
	}
	return rows, err
}

// few hits make one look whether a word is misspelt.
const few = 3

// misspelt are the terms that are no whole word that the crew knows. Numbers, and
// terms of two letters that some word begins with, are only where nothing else was found.
func misspelt(words *speller, terms []string, known names, nothing bool) ([]string, error) {
	var there, list []string
	err := words.tx.Read(&there, "SELECT word FROM word WHERE crew_id = @crew AND word IN @terms", store.Args{"terms": terms})
	if err != nil {
		return nil, fmt.Errorf("looking up words: %w", err)
	}
	for _, k := range known {
		there = append(there, find.Words(k.Name)...)
	}
	for _, t := range terms {
		number := strings.Trim(t, "0123456789") == ""
		if slices.Contains(there, t) || number && !nothing {
			continue
		}
		if len([]rune(t)) < 3 && !nothing { // too short to be like a word: unless one begins so, it is a slip
			if begun, err := words.of(t, false); err != nil || len(begun) > 0 {
				if err != nil {
					return nil, err
				}
				continue
			}
		}
		list = append(list, t)
	}
	return list, nil
}

// findBy gives gear that every term answers, newest use first. Words that are
// nearly one of the misspelt terms count too, and of those one may go unanswered
// where another term is answered.
func findBy(words *speller, terms []string, known names, misspelt []string) ([]At, error) {
	q, err := termQuery(words, terms, known, hitsLooked, misspelt)
	if err != nil || q == nil {
		return nil, err
	}
	var rows []At
	order := "gear.used_at DESC, gear.id"
	if len(misspelt) > 0 {
		order = "bit_count(hit.bits::bit(16)) DESC, " + order
	}
	err = words.tx.Read(&rows, fmt.Sprintf(`%s, best AS MATERIALIZED (SELECT gear.id AS best_id FROM hit JOIN gear ON gear.crew_id = @crew AND gear.id = hit.gear_id%s
		ORDER BY %s LIMIT %d)
		SELECT %s FROM best JOIN gear ON gear.crew_id = @crew AND gear.id = best_id JOIN stowage at ON at.crew_id = @crew AND at.gear_id = best_id`,
		q.with, q.where, order, hitsRanked, atColumns), q.args)
	if err != nil {
		return nil, fmt.Errorf("finding gear: %w", err)
	}
	return rows, nil
}

// terms as SQL: with makes hit, gear that some term answers in its own words,
// those that answer most terms first; where keeps those that answer every term,
// in their words, their owner or their place.
type termSQL struct {
	with, where string
	args        store.Args
}

// termQuery writes the SQL for some terms, of which some may be misspelt; nil where one answers to nothing at all.
// Words drive it, since they are few; places and owners, which may hold
// thousands, only choose among what the words found. Where no term is a word,
// the places and owners of the first term drive it.
func termQuery(words *speller, terms []string, known names, most int, misspelt []string) (*termSQL, error) {
	q := &termSQL{args: store.Args{}}
	var values, all, unsure, drive []string
	elsewhere := false // some term may be answered by a place or owner
	for i, term := range terms {
		loose := slices.Contains(misspelt, term)
		list, err := words.of(term, loose)
		if err != nil {
			return nil, err
		}
		for j, w := range list {
			key := fmt.Sprintf("w%d_%d", i, j)
			values, q.args[key] = append(values, fmt.Sprintf("(@%s, %d)", key, i)), w
		}
		least := find.Starts
		if len(list) == 0 || loose {
			least = find.Near / 2
		}
		ways := []string{fmt.Sprintf("hit.bits & %d <> 0", 1<<i)}
		for _, k := range []struct{ kind, column, drive string }{
			{"person", "gear.owner_id", "SELECT id AS gear_id FROM gear WHERE crew_id = @crew AND owner_id"},
			{"boat", "at.boat_id", "SELECT gear_id FROM stowage WHERE crew_id = @crew AND boat_id"},
			{"place", "at.place_id", "SELECT gear_id FROM stowage WHERE crew_id = @crew AND boat_id IS NOT NULL AND place_id"},
			{"shed", "at.shed_id", "SELECT gear_id FROM stowage WHERE crew_id = @crew AND shed_id"}} {
			if ids := known.answering(k.kind, term, least); len(ids) > 0 {
				key := fmt.Sprintf("%s%d", k.kind, i)
				ways, q.args[key] = append(ways, k.column+" IN @"+key), ids
				if i == 0 {
					drive = append(drive, k.drive+" IN @"+key)
				}
				elsewhere = true
			}
		}
		if len(list) == 0 && len(ways) == 1 {
			if !loose {
				return nil, nil
			}
			continue
		}
		if way := "(" + strings.Join(ways, " OR ") + ")"; loose {
			unsure = append(unsure, way)
		} else {
			all = append(all, way)
		}
	}
	if len(values) == 0 && len(drive) == 0 {
		return nil, nil
	}
	if need := len(unsure) - 1; len(unsure) > 0 && (need > 0 || len(all) == 0) {
		all = append(all, fmt.Sprintf("%s::int >= %d", strings.Join(unsure, "::int + "), max(1, need)))
	}
	q.where = " WHERE " + strings.Join(all, " AND ")
	if elsewhere {
		q.where = " JOIN stowage at ON at.crew_id = @crew AND at.gear_id = hit.gear_id" + q.where
	}
	if len(values) > 0 {
		q.with = fmt.Sprintf(`WITH hit AS MATERIALIZED (SELECT w.gear_id, bit_or(1 << t.term) AS bits FROM (VALUES %s) t (word, term)
			JOIN gear_word w ON w.crew_id = @crew AND w.word = t.word GROUP BY w.gear_id ORDER BY bit_count(bit_or(1 << t.term)::bit(16)) DESC, w.gear_id DESC LIMIT %d)`, strings.Join(values, ", "), most)
	} else {
		q.with = fmt.Sprintf("WITH hit AS MATERIALIZED (SELECT gear_id, 0 AS bits FROM (%s) d ORDER BY gear_id DESC LIMIT %d)", strings.Join(drive, " UNION "), most)
	}
	return q, nil
}

// sql is the query of a page and one row more; empty where nothing can answer.
func (q GearQuery) sql(tx *store.Tx) (string, store.Args, error) {
	args := store.Args{}
	wheres := []string{"gear.crew_id = @crew"}
	and := func(key, condition string, value any) {
		wheres, args[key] = append(wheres, condition), value
	}
	for _, f := range []struct {
		key, condition string
		id             *uuid.UUID
	}{{"boat", "at.boat_id = @boat", q.Boat}, {"place", "at.place_id = @place", q.Place}, {"shed", "at.shed_id = @shed",
		q.Shed},
		{"inside", "at.inside_id = @inside", q.Inside}, {"owner", "gear.owner_id = @owner", q.Owner}} {
		if f.id != nil {
			and(f.key, f.condition, *f.id)
		}
	}
	if q.Kind != "" {
		and("kind", "at.kind = @kind", q.Kind)
	}
	if q.Tag != "" {
		and("tag", "EXISTS (SELECT FROM gear_word w WHERE w.crew_id = @crew AND w.gear_id = gear.id AND w.word = @tag)",
			find.Tag(q.Tag))
	}
	if q.Only != "" {
		wheres = append(wheres, Onlies[q.Only])
	}
	with := ""
	if terms := find.Words(q.Text); len(terms) > 0 {
		known, err := knownNames(tx)
		if err != nil {
			return "", nil, err
		}
		t, err := termQuery(newSpeller(tx), terms[:min(len(terms), find.MaxTerms)], known, hitsListed, nil)
		if err != nil || t == nil {
			return "", nil, err
		}
		for k, v := range t.args {
			args[k] = v
		}
		with = t.with + " "
		wheres = append(wheres, "gear.id IN (SELECT gear.id FROM hit JOIN gear ON gear.crew_id = @crew AND gear.id = hit.gear_id"+t.where+")")
	}
	order := "gear.sort_name, gear.id"
	if q.Sort == "recent" {
		order = "gear.used_at DESC, gear.id"
	}
	if q.After != "" {
		c, err := readCursor(q.After)
		if err != nil {
			return "", nil, err
		}
		and("id", "", c.ID)
		wheres = wheres[:len(wheres)-1]
		if q.Sort == "recent" {
			and("used", "gear.used_at <= @used AND (gear.used_at < @used OR gear.id > @id)", c.Used)
		} else {
			and("name", "(gear.sort_name, gear.id) > (@name, @id)", c.Name)
		}
	}
	return fmt.Sprintf("%sSELECT %s%s WHERE %s ORDER BY %s LIMIT %d", with, atColumns, from,
		strings.Join(wheres, " AND "), order, q.Limit+1), args, nil
}

// Holding is what a container holds.
type Holding struct {
	Box uuid.UUID
	N   int
	Kg  float64
}

// HeldBy counts and weighs what containers hold, at any depth.
func HeldBy(tx *store.Tx, containers []uuid.UUID) (map[uuid.UUID]Holding, error) {
	held := map[uuid.UUID]Holding{}
	if len(containers) == 0 {
		return held, nil
	}
	var list []Holding
	err := tx.Read(&list, `WITH RECURSIVE held AS (
			SELECT inside_id AS box, gear_id FROM stowage WHERE crew_id = @crew AND inside_id IN @boxes
			UNION SELECT held.box, s.gear_id FROM held JOIN stowage s ON s.crew_id = @crew AND s.inside_id = held.gear_id)
		SELECT held.box, count(*) AS n, sum(gear.kg * gear.count) AS kg FROM held JOIN gear ON gear.crew_id = @crew AND gear.id = held.gear_id GROUP BY held.box`,
		store.Args{"boxes": containers})
	if err != nil {
		return nil, fmt.Errorf("weighing what boxes hold: %w", err)
	}
	for _, h := range list {
		held[h.Box] = h
	}
	return held, nil
}

// kindCount is how much gear is somewhere.
type kindCount struct {
	Kind                       string
	Entries, Pieces, Unweighed int
	Kg                         float64
}

func countKinds(tx *store.Tx) (kinds []kindCount, err error) {
	err = tx.Read(&kinds, `SELECT at.kind, count(*) AS entries, sum(gear.count) AS pieces,
			count(*) FILTER (WHERE gear.mass_known = 'guess') AS unweighed, coalesce(sum(gear.kg * gear.count), 0) AS kg`+from+`
		WHERE gear.crew_id = @crew GROUP BY at.kind`, nil)
	if err != nil {
		return nil, fmt.Errorf("counting the gear: %w", err)
	}
	return kinds, nil
}

// tagsOf lists the tags that a crew uses, as words of its vocabulary.
func tagsOf(tx *store.Tx) (tags []string, err error) {
	err = tx.Read(&tags, "SELECT word FROM word WHERE crew_id = @crew AND word >= '#' AND word < '$' ORDER BY word LIMIT 300", nil)
	if err != nil {
		return nil, fmt.Errorf("listing the tags: %w", err)
	}
	return tags, nil
}

// notes are the latest lines of a piece's history.
func notes(tx *store.Tx, gear uuid.UUID) ([]NoteView, error) {
	list := []NoteView{}
	err := tx.Read(&list, `SELECT n.at, member.name AS by, n.kind, n.text
		FROM gear_note n JOIN member ON member.crew_id = n.crew_id AND member.id = n.by_member
		WHERE n.crew_id = @crew AND n.gear_id = @gear ORDER BY n.at DESC, n.id DESC LIMIT @most`,
		store.Args{"gear": gear, "most": notesShown})
	if err != nil {
		return nil, fmt.Errorf("reading the history: %w", err)
	}
	return list, nil
}

// firstHeld names the first things in a box, for its lid.
func firstHeld(tx *store.Tx, box uuid.UUID) (list []string, err error) {
	err = tx.Read(&list, `SELECT gear.name || CASE WHEN gear.count > 1 THEN ' x ' || gear.count ELSE '' END `+from+`
		WHERE gear.crew_id = @crew AND at.inside_id = @box ORDER BY gear.sort_name LIMIT 12`, store.Args{"box": box})
	if err != nil {
		return nil, fmt.Errorf("looking into the box: %w", err)
	}
	return list, nil
}

// labelled names what a label is on.
func labelled(tx *store.Tx, l model.Label) (found kernel.Named, err error) {
	id, query := l.GearID, "SELECT id, name FROM gear WHERE crew_id = @crew AND id = @id"
	if l.PlaceID != nil {
		id, query = l.PlaceID, `SELECT place.id, boat.name || ', ' || place.name AS name
			FROM place JOIN boat ON boat.crew_id = place.crew_id AND boat.id = place.boat_id WHERE place.crew_id = @crew AND place.id = @id`
	} else if l.ShedID != nil {
		id, query = l.ShedID, "SELECT id, site || ', ' || name AS name FROM shed WHERE crew_id = @crew AND id = @id"
	}
	if err := tx.Read(&found, query, store.Args{"id": id}); err != nil {
		return found, fmt.Errorf("looking up what the label is on: %w", err)
	}
	return found, nil
}

// inPlaces lists gear that lies in places aboard.
func inPlaces(tx *store.Tx, places []uuid.UUID) (near []uuid.UUID, err error) {
	if err := store.Pluck[model.Stowage](tx, "gear_id", &near, "boat_id IS NOT NULL AND place_id IN ?",
		append(places, uuid.Nil)); err != nil {
		return nil, fmt.Errorf("looking into the places: %w", err)
	}
	return near, nil
}

// bookingRows reads bookings with the names of trip and person.
func bookingRows(tx *store.Tx, where string, args store.Args) (rows []bookingRow, err error) {
	err = tx.Read(&rows, `SELECT b.*, coalesce(trip.name, b.whom) AS called, member.name AS by_name FROM booking b
		LEFT JOIN trip ON trip.crew_id = b.crew_id AND trip.id = b.trip_id
		JOIN member ON member.crew_id = b.crew_id AND member.id = b.by_member WHERE b.crew_id = @crew AND `+where, args)
	if err != nil {
		return nil, fmt.Errorf("loading bookings: %w", err)
	}
	return rows, nil
}

// wordsAtOnce go in one statement.
const wordsAtOnce = 20_000

// addWords keeps the words of gear. There are nine times as many as gear, and rows
// given one by one take four times as long as two lists.
func addWords(tx *store.Tx, known []model.GearWord) error {
	const separator = "\x1f" // no word has it
	for some := range slices.Chunk(known, wordsAtOnce) {
		words, ids := make([]string, len(some)), make([]string, len(some))
		for i, k := range some {
			words[i], ids[i] = k.Word, k.GearID.String()
		}
		_, err := tx.Do(`INSERT INTO gear_word (crew_id, word, gear_id) SELECT @crew, word, gear::uuid
			FROM unnest(string_to_array(@words, @separator), string_to_array(@ids, ',')) AS list (word, gear)
			ON CONFLICT DO NOTHING`,
			store.Args{"words": strings.Join(words, separator), "ids": strings.Join(ids, ","), "separator": separator})
		if err != nil {
			return fmt.Errorf("keeping the gear's words: %w", err)
		}
	}
	return nil
}
