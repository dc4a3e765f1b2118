// Package jobs keeps what went wrong aboard, and what was done about it.
package jobs

import (
	"context"
	"fmt"
	"time"

	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Wing has the use cases.
type Wing struct{ *kernel.Kernel }

// New makes the wing.
func New(k *kernel.Kernel) *Wing { return &Wing{Kernel: k} }

// JobInput is what went wrong.
type JobInput struct {
	Kind   string     `json:"kind" words:"job_kinds"`
	What   string     `json:"what"`
	Holds  bool       `json:"holds" doc:"A trip in this boat is not ready until it is done"`
	TripID *uuid.UUID `json:"trip_id,omitempty" format:"uuid" doc:"On which it happened"`
	GearID *uuid.UUID `json:"gear_id,omitempty" format:"uuid" doc:"What it is about"`
}

// JobView is a job as the crew sees it.
type JobView struct {
	ID      uuid.UUID       `json:"id" format:"uuid"`
	Version int             `json:"version"`
	State   string          `json:"state" words:"job_states"`
	At      time.Time       `json:"at"`
	By      string          `json:"by"`
	Trip    string          `json:"trip,omitempty"`
	Gear    string          `json:"gear,omitempty"`
	Photos  int             `json:"photos"`
	Story   []model.JobDone `json:"story"`
	JobInput
}

// Most jobs of a boat that are shown and kept, and lines of a job's story.
const (
	mostJobs  = 500
	mostStory = 60
)

func (in JobInput) check() error {
	var fs check.Faults
	fs.OneOf("kind", in.Kind, words.JobKinds.Keys()...)
	fs.Text("what", in.What, 1, 200)
	return refuse.Faulty(fs.Err())
}

// jobRow is a job with the names that it is told with.
type jobRow struct {
	model.Job
	ByName, TripName, GearName string
	Photos                     int
}

// Jobs lists a boat's jobs: those that are not done first, then the latest.
func (a *Wing) Jobs(ctx context.Context, actor kernel.Actor, boat uuid.UUID) ([]JobView, error) {
	list := []JobView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		if err := fleet.BoatExists(tx, boat); err != nil {
			return err
		}
		var rows []jobRow
		err := tx.Read(&rows, `SELECT job.*, coalesce(m.name, '') AS by_name, coalesce(t.name, '') AS trip_name,
			coalesce(g.name, '') AS gear_name,
			(SELECT count(*) FROM photo p WHERE p.crew_id = @crew AND p.job_id = job.id) AS photos
			FROM job LEFT JOIN member m ON m.crew_id = @crew AND m.id = job.by_member
			LEFT JOIN trip t ON t.crew_id = @crew AND t.id = job.trip_id
			LEFT JOIN gear g ON g.crew_id = @crew AND g.id = job.gear_id
			WHERE job.crew_id = @crew AND job.boat_id = @boat ORDER BY job.state = 'done', job.at DESC, job.id LIMIT @most`,
			store.Args{"boat": boat, "most": mostJobs})
		for _, r := range rows {
			list = append(list, r.view())
		}
		if err != nil {
			err = fmt.Errorf("reading the jobs: %w", err)
		}
		return err
	})
	return list, err
}

func (r jobRow) view() JobView {
	return JobView{
		ID:       r.ID,
		Version:  r.Version,
		State:    r.State,
		At:       r.At,
		By:       r.ByName,
		Trip:     r.TripName,
		Gear:     r.GearName,
		Photos:   r.Photos,
		Story:    append([]model.JobDone{}, r.Story...),
		JobInput: JobInput{Kind: r.Kind, What: r.What, Holds: r.Holds, TripID: r.TripID, GearID: r.GearID},
	}
}

// Report notes what went wrong aboard.
func (a *Wing) Report(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, in JobInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return uuid.Nil, err
	}
	var id uuid.UUID
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"job", boat, in}, func() (uuid.UUID, error) {
			if err := a.mayReport(tx, boat, in); err != nil {
				return uuid.Nil, err
			}
			by, err := kernel.NameOf(tx, actor.Member)
			if err != nil {
				return uuid.Nil, err
			}
			row := model.Job{
				ID:       store.NewID(),
				CrewID:   actor.Crew,
				BoatID:   boat,
				Kind:     in.Kind,
				What:     in.What,
				State:    "open",
				Holds:    in.Holds,
				TripID:   in.TripID,
				GearID:   in.GearID,
				At:       a.Now(),
				ByMember: actor.Member,
				Version:  1,
				Story:    []model.JobDone{{On: a.Now(), By: by, What: "reported"}},
			}
			return row.ID, store.Add(tx, &row)
		})
		id = made
		return err
	})
	return id, err
}

func (a *Wing) mayReport(tx *store.Tx, boat uuid.UUID, in JobInput) error {
	if err := fleet.BoatExists(tx, boat); err != nil {
		return err
	}
	if in.TripID != nil {
		if err := store.Exists[model.Trip](tx, "id = ?", *in.TripID); err != nil {
			return kernel.Absent(err, "trip")
		}
	}
	if in.GearID != nil {
		if err := store.Exists[model.Gear](tx, "id = ?", *in.GearID); err != nil {
			return kernel.Absent(err, "gear")
		}
	}
	n, err := store.Count[model.Job](tx, "boat_id = ?", boat)
	if err == nil && n >= mostJobs {
		err = &refuse.Error{
			Kind:     refuse.Refused,
			Sentence: fmt.Sprintf("She has %d jobs, the most that are kept: remove old ones first.", n),
		}
	}
	return err
}

// JobChange is what becomes of a job: another state, whether it holds trips, a line of its
// story.
type JobChange struct {
	State   string `json:"state" words:"job_states"`
	Holds   bool   `json:"holds"`
	Note    string `json:"note,omitempty"`
	Version int    `json:"version"`
}

// Change writes what became of a job, over the version that was seen.
func (a *Wing) Change(
	ctx context.Context,
	actor kernel.Actor,
	key, boat, id uuid.UUID,
	in JobChange,
) (uuid.UUID, error) {
	var fs check.Faults
	fs.OneOf("state", in.State, words.JobStates.Keys()...)
	fs.Text("note", in.Note, 0, 200)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return id, err
	}
	return id, a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"job change", id, in}, func() (uuid.UUID, error) {
			var row model.Job
			if err := store.Locked(tx, &row, "id = ? AND boat_id = ?", id, boat); err != nil {
				return id, kernel.Absent(err, "job")
			}
			if row.Version != in.Version {
				return id, refuse.Stale(row.What, nil)
			}
			by, err := kernel.NameOf(tx, actor.Member)
			if err != nil {
				return id, err
			}
			what := in.Note
			if in.State != row.State {
				what = words.JobStates.Label(in.State)
				if in.Note != "" {
					what += ": " + in.Note
				}
			}
			if what != "" {
				row.Story = append(row.Story, model.JobDone{On: a.Now(), By: by, What: what})
				row.Story = row.Story[max(0, len(row.Story)-mostStory):]
			}
			row.State, row.Holds, row.Version = in.State, in.Holds, in.Version+1
			return id, kernel.Keep(tx, &row, id, in.Version, "job", row.What)
		})
		return err
	})
}

// Remove takes a job off the list, with its pictures.
func (a *Wing) Remove(ctx context.Context, actor kernel.Actor, boat, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Job
		if err := store.One(tx, &row, "id = ? AND boat_id = ?", id, boat); err != nil {
			return kernel.Absent(err, "job")
		}
		var s kernel.Stroke
		args := store.Args{"id": id}
		if err := s.Gone(tx, "id = @id", args, "job"); err != nil {
			return err
		}
		if err := s.Gone(tx, "job_id = @id", args, "photo"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeGear, row.What+" was removed from the jobs.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.Job](tx, "id = ?", id), "job")
	})
}

// Open are a boat's jobs that are not done, for other wings.
func Open(tx *store.Tx, boat uuid.UUID) (list []model.Job, err error) {
	err = store.Some(tx, &list, mostJobs, "holds DESC, at, id", "boat_id = ? AND state <> 'done'", boat)
	if err != nil {
		err = fmt.Errorf("reading the open jobs: %w", err)
	}
	return list, err
}
