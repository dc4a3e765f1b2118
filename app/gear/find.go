package gear

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/kernel"
	"ergasia/app/where"
	"ergasia/core/find"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// Hit is something found: gear, a place aboard, a place ashore or a person.
type Hit struct {
	Kind  string    `json:"kind" enum:"gear,place,shed,person,boat"`
	ID    uuid.UUID `json:"id" format:"uuid"`
	Name  string    `json:"name"`
	Count int       `json:"count,omitempty"`
	Owner string    `json:"owner,omitempty" doc:"Whose, by mark"`
	Where string    `json:"where,omitempty"`
	Boat  uuid.UUID `json:"boat_id,omitempty" format:"uuid" doc:"Of a place or gear aboard"`
	Place uuid.UUID `json:"place_id,omitempty" format:"uuid"`
}

// How much is looked at and given: of a word that more things share, the newest.
const (
	hitsLooked = 400
	hitsListed = 2000 // where the list is cut down by words
	hitsRanked = 60
	hitsGiven  = 12
)

// spelling is how many words of the vocabulary a term may stand for.
const spelling = 24

// Find looks for what a person typed: by name, nickname, tag, place or owner,
// also misspelt. Without a word it gives what was used last.
func (a *Wing) Find(ctx context.Context, actor kernel.Actor, query string) ([]Hit, error) {
	terms := find.Words(query)
	hits := []Hit{}
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		var label []Hit
		if code := LabelCode(query); code != "" {
			var err error
			if label, err = a.labelHit(tx, actor, code); err != nil {
				return err
			}
		}
		known, err := knownNames(tx, actor)
		if err != nil {
			return err
		}
		if len(terms) > find.MaxTerms {
			terms = terms[:find.MaxTerms]
		}
		rows, err := findGear(tx, actor, terms, known)
		if err != nil {
			return err
		}
		ranked, err := a.rank(tx, actor, terms, rows, known)
		hits = append(append(label, known.hits(terms)...), ranked...)
		return err
	})
	return hits[:min(len(hits), hitsGiven)], err
}

// names of everything that gear can be found by beside its own words.
type names []struct {
	Kind string
	ID   uuid.UUID
	Name string
	Mark string
	Boat uuid.UUID
}

func knownNames(tx *gorm.DB, actor kernel.Actor) (list names, err error) {
	err = tx.Raw(`SELECT 'person' AS kind, id, name, mark, NULL::uuid AS boat FROM member WHERE crew_id = @crew
		UNION ALL SELECT 'boat', id, name, '', id FROM boat WHERE crew_id = @crew
		UNION ALL SELECT 'place', place.id, boat.name || ', ' || place.name, '', boat.id FROM place JOIN boat ON boat.crew_id = place.crew_id AND boat.id = place.boat_id
			WHERE place.crew_id = @crew
		UNION ALL SELECT 'shed', id, site || ', ' || name, '', NULL FROM shed WHERE crew_id = @crew`, map[string]any{"crew": actor.Crew}).Scan(&list).Error
	if err != nil {
		err = fmt.Errorf("loading names: %w", err)
	}
	return list, err
}

// namer words spots with the names that were loaded already.
func (n names) namer(tx *gorm.DB, actor kernel.Actor, rows []model.Stowage) (*where.Namer, error) {
	all := map[uuid.UUID]string{}
	places := map[uuid.UUID]string{}
	for _, k := range n {
		if k.Kind == "place" {
			_, places[k.ID], _ = strings.Cut(k.Name, ", ") // the boat's name comes before
		} else {
			all[k.ID] = k.Name
		}
	}
	named := &where.Namer{Boats: all, Places: places, Sheds: all, Members: all, Boxes: map[uuid.UUID]where.Box{}}
	var boxes, lent []uuid.UUID
	for _, r := range rows {
		if r.InsideID != nil {
			boxes = append(boxes, *r.InsideID)
		}
		if r.Kind == "lent" {
			lent = append(lent, r.GearID)
		}
	}
	if err := named.LoadLent(tx, actor, lent); err != nil {
		return nil, err
	}
	return named, named.LoadBoxes(tx, actor, boxes)
}

// answering lists the ids of a kind whose name has a word that begins with the
// term, or nearly.
func (n names) answering(kind, term string, least float64) []uuid.UUID {
	var ids []uuid.UUID
	for _, k := range n {
		if k.Kind == kind && slices.ContainsFunc(find.Words(k.Name), func(w string) bool { return find.Match(term, w) >= least }) {
			ids = append(ids, k.ID)
		}
	}
	return ids
}

// hits are the places, boats and people that answer every term themselves.
func (n names) hits(terms []string) []Hit {
	var list []Hit
	for _, k := range n {
		words := find.Words(k.Name)
		all := len(terms) > 0
		for _, t := range terms {
			all = all && slices.ContainsFunc(words, func(w string) bool { return find.Match(t, w) >= find.Starts })
		}
		if all && len(list) < 4 {
			h := Hit{Kind: k.Kind, ID: k.ID, Name: k.Name, Boat: k.Boat}
			if k.Kind == "place" {
				h.Place = k.ID
			}
			list = append(list, h)
		}
	}
	return list
}

// spellings gives the vocabulary that a term stands for: words that begin with it,
// or, where there are none, words that are nearly it.
func spellings(tx *gorm.DB, actor kernel.Actor, term string) ([]string, error) {
	var list []string
	err := tx.Raw("SELECT word FROM word WHERE crew_id = ? AND word >= ? AND word < ? ORDER BY word LIMIT ?",
		actor.Crew, term, term+"\U0010FFFF", spelling).Scan(&list).Error
	if err != nil {
		return nil, fmt.Errorf("looking up a word: %w", err)
	}
	if len(list) > 0 || len([]rune(term)) < 3 {
		return list, nil
	}
	var near []string
	err = tx.Raw(`SELECT word FROM word WHERE crew_id = @crew AND length(word) BETWEEN @n - 3 AND @n + 6 AND similarity(word, @term) > 0.15
		ORDER BY similarity(word, @term) DESC, word LIMIT 60`, map[string]any{"crew": actor.Crew, "n": len([]rune(term)), "term": term}).Scan(&near).Error
	if err != nil {
		return nil, fmt.Errorf("looking for a like word: %w", err)
	}
	return find.Closest(term, near, 6), nil
}

// GearAt is gear with where it is.
type GearAt struct {
	model.Gear
	Stowage model.Stowage `gorm:"embedded;embeddedPrefix:at_"`
}

// GearColumns gives gear and its stowage as gearAt reads them.
const GearColumns = `gear.*, at.gear_id AS at_gear_id, at.crew_id AS at_crew_id, at.kind AS at_kind, at.inside_id AS at_inside_id, at.boat_id AS at_boat_id,
	at.place_id AS at_place_id, at.shed_id AS at_shed_id, at.held_by AS at_held_by, at.rides AS at_rides, at.since AS at_since, at.version AS at_version`

const GearFrom = ` FROM gear JOIN stowage at ON at.crew_id = gear.crew_id AND at.gear_id = gear.id`

// findGear gives gear that every term answers, newest use first; without a term,
// what was used last.
func findGear(tx *gorm.DB, actor kernel.Actor, terms []string, known names) ([]GearAt, error) {
	if len(terms) == 0 {
		var rows []GearAt
		err := tx.Raw(fmt.Sprintf("SELECT %s%s WHERE gear.crew_id = ? ORDER BY gear.used_at DESC, gear.id LIMIT %d", GearColumns, GearFrom, hitsGiven), actor.Crew).Scan(&rows).Error
		return rows, err
	}
	q, err := termQuery(tx, actor, terms, known, hitsLooked)
	if err != nil || q == nil {
		return nil, err
	}
	var rows []GearAt
	err = tx.Raw(fmt.Sprintf(`%s, best AS MATERIALIZED (SELECT gear.id AS best_id FROM hit JOIN gear ON gear.crew_id = @crew AND gear.id = hit.gear_id%s
		ORDER BY gear.used_at DESC, gear.id LIMIT %d)
		SELECT %s FROM best JOIN gear ON gear.crew_id = @crew AND gear.id = best_id JOIN stowage at ON at.crew_id = @crew AND at.gear_id = best_id`,
		q.with, q.where, hitsRanked, GearColumns), q.args).Scan(&rows).Error
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
	args        map[string]any
}

// termQuery writes the SQL for some terms; nil where one answers to nothing at all.
// Words drive it, since they are few; places and owners, which may hold
// thousands, only choose among what the words found. Where no term is a word,
// the places and owners of the first term drive it.
func termQuery(tx *gorm.DB, actor kernel.Actor, terms []string, known names, most int) (*termSQL, error) {
	q := &termSQL{args: map[string]any{"crew": actor.Crew}}
	var values, all, drive []string
	elsewhere := false // some term may be answered by a place or owner
	for i, term := range terms {
		list, err := spellings(tx, actor, term)
		if err != nil {
			return nil, err
		}
		for j, w := range list {
			key := fmt.Sprintf("w%d_%d", i, j)
			values, q.args[key] = append(values, fmt.Sprintf("(@%s, %d)", key, i)), w
		}
		least := find.Starts
		if len(list) == 0 {
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
			return nil, nil
		}
		all = append(all, "("+strings.Join(ways, " OR ")+")")
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

// rank puts the likeliest first.
func (a *Wing) rank(tx *gorm.DB, actor kernel.Actor, terms []string, rows []GearAt, known names) ([]Hit, error) {
	places, owners := map[uuid.UUID]string{}, map[uuid.UUID]string{}
	marks := map[uuid.UUID]string{}
	for _, k := range known {
		places[k.ID] = k.Name
		if k.Kind == "person" {
			owners[k.ID], marks[k.ID] = k.Name, k.Mark
		}
	}
	candidates := make([]find.Candidate, len(rows))
	for i, r := range rows {
		others := append([]string{}, r.Tags...)
		for _, id := range []*uuid.UUID{r.OwnerID, r.Stowage.PlaceID, r.Stowage.ShedID, r.Stowage.BoatID} {
			if id != nil {
				others = append(others, places[*id])
			}
		}
		candidates[i] = find.Candidate{Names: []string{r.Name, r.Nickname}, Others: others, Days: a.Now().Sub(r.UsedAt).Hours() / 24, Uses: r.Trips,
			Aboard: r.Stowage.BoatID != nil}
	}
	var top []GearAt
	if len(terms) == 0 {
		top = rows // by last use already
	} else {
		for _, c := range find.Rank(terms, candidates)[:min(len(rows), hitsGiven)] {
			top = append(top, rows[c.Ordinal])
		}
	}
	stowage := make([]model.Stowage, len(top))
	for i, r := range top {
		stowage[i] = r.Stowage
	}
	n, err := known.namer(tx, actor, stowage)
	if err != nil {
		return nil, err
	}
	var hits []Hit
	for _, r := range top {
		hits = append(hits, hitOf(r, n, marks))
	}
	return hits, nil
}

func hitOf(r GearAt, n *where.Namer, marks map[uuid.UUID]string) Hit {
	h := Hit{Kind: "gear", ID: r.ID, Name: r.Name, Count: r.Count, Where: n.Spot(r.Stowage).Text}
	if r.OwnerID != nil {
		h.Owner = marks[*r.OwnerID]
	}
	if r.Stowage.BoatID != nil {
		h.Boat, h.Place = *r.Stowage.BoatID, *r.Stowage.PlaceID
	}
	return h
}
