package where

import (
	"errors"
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/crew"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/core/float"
	"ergasia/core/units"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// QuayShown is how many pieces on the quay a boat's pages show; more than that
// nobody stows in one go, and a crew may own thousands.
const QuayShown = 300

// Laden loads a boat with everything and everyone that may be aboard.
func (a *Wing) Laden(tx *store.Tx, actor kernel.Actor, boat uuid.UUID) (*aboard.Laden, error) {
	s := Ashore(actor)
	var err error
	if s.Boat, s.Craft, err = a.fleet.Craft(tx, boat); err != nil {
		return nil, err
	}
	if s.Craft, err = fleet.Rigged(tx, boat, s.Craft); err != nil {
		return nil, err
	}
	if s.Table, _, err = crew.TimesOf(tx); err != nil {
		return nil, err
	}
	var stations []model.Station
	near, err := nearBoat(tx, boat)
	err = errors.Join(err,
		store.All(tx, &s.Places, "x, y, id", "boat_id = ?", boat),
		store.All(tx, &s.Posts, "x, y, id", "boat_id = ?", boat),
		store.All(tx, &s.Members, "created_at, id", "left_at IS NULL"),
		store.All(tx, &stations, "", ""))
	if err != nil {
		return nil, fmt.Errorf("loading the boat: %w", err)
	}
	for i, m := range s.Members {
		s.Members[i].Kg = crew.BodyFor(actor, &m.ID, m.Kg)
	}
	for _, r := range stations {
		s.Stations[r.MemberID] = r
	}
	if err := a.caught(tx, s); err != nil {
		return nil, err
	}
	return s, Load(tx, s, near)
}

// Craft is a boat made ready, without what may be aboard.
func (a *Wing) Craft(tx *store.Tx, boat uuid.UUID) (*aboard.Craft, error) {
	_, c, err := a.fleet.Craft(tx, boat)
	return c, err
}

// fishSigma is how well the mass of a fish is known that nobody weighed, as a share of
// it. Practice, no source: fish of one length differ by season.
const fishSigma = 0.15

// caught takes in what was caught on the boat's trips of today and lies in her places.
// What swims in a livewell takes the place of as much water.
func (a *Wing) caught(tx *store.Tx, s *aboard.Laden) error {
	var trips []model.Trip
	today := a.Today()
	if err := store.All(tx, &trips, "id", "boat_id = ? AND logged_at IS NULL AND starts_on <= ? AND ends_on >= ? AND catch IS NOT NULL",
		s.Boat.ID, today, today); err != nil {
		return fmt.Errorf("loading today's catch: %w", err)
	}
	for _, t := range trips {
		for _, f := range t.Catch {
			if f.Back || f.Place == nil {
				continue
			}
			if p := s.Place(*f.Place); p != nil {
				sigma := f.Kg * fishSigma
				if f.Weighed {
					sigma = f.Kg * float.KnownSigma["weighed"]
				}
				s.Caught = append(s.Caught, float.Mass{Name: f.Species, Kg: f.Kg, Sigma: sigma,
					At: r3.Vec{X: p.X + p.Length/2, Y: p.Y + p.Breadth/2, Z: p.Z + p.Height/3}})
			}
		}
	}
	return nil
}

// Ashore is a Laden of no boat, for moves that no boat is in.
func Ashore(actor kernel.Actor) *aboard.Laden { return aboard.Ashore(units.SystemNamed(actor.Units)) }

// LadenOf loads the boat, or none where there is none.
func (a *Wing) LadenOf(tx *store.Tx, actor kernel.Actor, boat *uuid.UUID) (*aboard.Laden, error) {
	if boat == nil {
		return Ashore(actor), nil
	}
	return a.Laden(tx, actor, *boat)
}

// Fetch loads gear by id, wherever it is: it may have been asked for, or be what
// an event was about.
func Fetch(tx *store.Tx, s *aboard.Laden, ids ...*uuid.UUID) error {
	var missing []uuid.UUID
	for _, id := range ids {
		if id != nil && s.Thing(*id) == nil {
			missing = append(missing, *id)
			s.Call(*id)
		}
	}
	return Load(tx, s, missing)
}

// Load loads gear, what it holds and what it lies in.
func Load(tx *store.Tx, s *aboard.Laden, ids []uuid.UUID) error {
	for len(ids) > 0 {
		var rows []model.Stowage
		var gear []model.Gear
		if err := errors.Join(store.All(tx, &rows, "", "gear_id IN ?", ids), store.All(tx, &gear, "", "id IN ?",
			ids)); err != nil {
			return fmt.Errorf("loading gear: %w", err)
		}
		s.Add(gear, rows)
		ids = nil
		for _, r := range rows { // what a piece lies in says where it can be
			if r.InsideID != nil && s.Thing(*r.InsideID) == nil && !slices.Contains(ids, *r.InsideID) {
				ids = append(ids, *r.InsideID)
				s.Call(*r.InsideID)
			}
		}
		inside, err := heldIn(tx, gear)
		if err != nil {
			return err
		}
		for _, id := range inside {
			if s.Thing(id) == nil && !slices.Contains(ids, id) {
				ids = append(ids, id)
			}
		}
	}
	return nil
}

// heldIn lists what lies in those of the gear that hold something.
func heldIn(tx *store.Tx, gear []model.Gear) (inside []uuid.UUID, err error) {
	var containers []uuid.UUID
	for _, g := range gear {
		if g.Container() {
			containers = append(containers, g.ID)
		}
	}
	if len(containers) == 0 {
		return nil, nil
	}
	if err := store.Pluck[model.Stowage](tx, "gear_id", &inside, "inside_id IN ?", containers); err != nil {
		return nil, fmt.Errorf("loading what boxes hold: %w", err)
	}
	return inside, nil
}
