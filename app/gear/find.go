package gear

import (
	"context"
	"slices"

	"ergasia/app/kernel"
	"ergasia/app/where"
	"ergasia/core/find"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Hit is something found: gear, a place aboard, a place ashore or a person.
type Hit struct {
	Kind  string     `json:"kind" enum:"gear,place,shed,person,boat"`
	ID    uuid.UUID  `json:"id" format:"uuid"`
	Name  string     `json:"name"`
	Count int        `json:"count,omitempty"`
	Owner string     `json:"owner,omitempty" doc:"Whose, by mark"`
	Where string     `json:"where,omitempty"`
	Boat  *uuid.UUID `json:"boat_id,omitempty" format:"uuid" doc:"Of a place or gear aboard"`
	Place *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
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
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		var label []Hit
		if code := labelCode(query); code != "" {
			var err error
			if label, err = labelHit(tx, code); err != nil {
				return err
			}
		}
		known, err := knownNames(tx)
		if err != nil {
			return err
		}
		if len(terms) > find.MaxTerms {
			terms = terms[:find.MaxTerms]
		}
		rows, err := findGear(tx, terms, known)
		if err != nil {
			return err
		}
		ranked, err := a.rank(tx, terms, rows, known)
		hits = append(append(append(hits[:0], label...), known.hits(terms)...), ranked...)
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
	Boat *uuid.UUID
}

// answering lists the ids of a kind whose name has a word that begins with the
// term, or nearly.
func (n names) answering(kind, term string, least float64) []uuid.UUID {
	var ids []uuid.UUID
	for _, k := range n {
		if k.Kind == kind && slices.ContainsFunc(find.Words(k.Name),
			func(w string) bool { return find.Match(term, w) >= least }) {
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
				h.Place = &k.ID
			}
			list = append(list, h)
		}
	}
	return list
}

// rank puts the likeliest first.
func (a *Wing) rank(tx *store.Tx, terms []string, rows []At, known names) ([]Hit, error) {
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
		candidates[i] = find.Candidate{Names: []string{r.Name, r.Nickname}, Others: others,
			Days: a.Now().Sub(r.UsedAt).Hours() / 24, Uses: r.Trips,
			Aboard: r.Stowage.BoatID != nil}
	}
	var top []At
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
	n, err := where.Names(tx, stowage)
	if err != nil {
		return nil, err
	}
	var hits []Hit
	for _, r := range top {
		hits = append(hits, hitOf(r, n, marks))
	}
	return hits, nil
}

func hitOf(r At, n *where.Namer, marks map[uuid.UUID]string) Hit {
	h := Hit{Kind: "gear", ID: r.ID, Name: r.Name, Count: r.Count, Where: n.Spot(r.Stowage).Text}
	if r.OwnerID != nil {
		h.Owner = marks[*r.OwnerID]
	}
	if r.Stowage.BoatID != nil {
		h.Boat, h.Place = r.Stowage.BoatID, r.Stowage.PlaceID
	}
	return h
}
