package shed

import (
	"context"
	"errors"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// ShedInput is what is said of a place ashore.
type ShedInput struct {
	Site    string    `json:"site" doc:"What it is in, such as: boathouse, van, home"`
	Name    string    `json:"name"`
	Size    model.Vec `json:"size_m" doc:"Inside: long, deep, high; nought where nobody measured"`
	Dryness string    `json:"dryness" words:"dryness"`
	MaxKg   float64   `json:"max_kg" doc:"Nought is no limit"`
	Locks   bool      `json:"locks"`
}

func (in ShedInput) check() error {
	var fs check.Faults
	fs.Text("site", in.Site, 1, 80)
	fs.Text("name", in.Name, 1, 80)
	for i := range 3 {
		fs.Within(fmt.Sprintf("size_m[%d]", i), in.Size[i], 0, 30)
	}
	fs.OneOf("dryness", in.Dryness, words.Dryness.Keys()...)
	fs.Within("max_kg", in.MaxKg, 0, 10000)
	return refuse.Faulty(fs.Err())
}

// ShedView is a place ashore with what is in it, in figures.
type ShedView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	ShedInput
	Pieces int     `json:"pieces" doc:"Entries, those in boxes included"`
	Kg     float64 `json:"kg"`
	Wet    int     `json:"wet" doc:"Entries that must stay dry, in a wet place"`
}

// Shed lists the places ashore.
func (a *Wing) Shed(ctx context.Context, actor kernel.Actor) ([]ShedView, error) {
	list := []ShedView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		rows, err := sheds(tx)
		for _, r := range rows {
			list = append(list, ShedView{ID: r.ID, Version: r.Version, ShedInput: ShedInput{Site: r.Site, Name: r.Name,
				Size: model.Vec{r.Length, r.Breadth, r.Height}, Dryness: r.Dryness, MaxKg: r.MaxKg,
				Locks: r.Locks}, Pieces: r.Pieces, Kg: r.Kg, Wet: r.Wet})
		}
		return err
	})
	return list, err
}

// SaveShed makes a place ashore (no id) or changes one.
func (a *Wing) SaveShed(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	in ShedInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return id, err
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"shed", id, version, in}, func() (uuid.UUID, error) {
			row := model.Shed{ID: kernel.IDOr(id), CrewID: actor.Crew, Site: in.Site, Name: in.Name, Length: in.Size[0],
				Breadth: in.Size[1], Height: in.Size[2],
				Dryness: in.Dryness, MaxKg: in.MaxKg, Locks: in.Locks, Version: version + 1}
			return row.ID, kernel.Keep(tx, &row, id, version, "place ashore", in.Name)
		})
		id = made
		return err
	})
	return id, err
}

// RemoveShed takes an empty place ashore away.
func (a *Wing) RemoveShed(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Shed
		if err := store.One(tx, &row, "id = ?", id); err != nil {
			return kernel.Absent(err, "place ashore")
		}
		var s kernel.Stroke
		args := store.Args{"id": id}
		if err := errors.Join(s.Gone(tx, "id = @id", args, "shed"), s.Gone(tx, "shed_id = @id", args, "label")); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeGear, row.Name+" was removed.", s); err != nil {
			return err
		}
		err := store.Remove[model.Shed](tx, "id = ?", id)
		if errors.Is(err, store.ErrReferred) {
			return &refuse.Error{Kind: refuse.Refused, Sentence: "Things are still kept there: move them first."}
		}
		return kernel.Absent(err, "place ashore")
	})
}
