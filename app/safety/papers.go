package safety

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// PaperInput is what is said of a paper.
type PaperInput struct {
	Name      string       `json:"name"`
	Kind      string       `json:"kind" words:"paper_kinds"`
	Number    string       `json:"number,omitempty"`
	BoatID    *uuid.UUID   `json:"boat_id,omitempty" format:"uuid" doc:"Of this boat"`
	MemberID  *uuid.UUID   `json:"member_id,omitempty" format:"uuid" doc:"Of this person"`
	Waters    []string     `json:"waters,omitempty" maxItems:"20" doc:"Waters or states for which it is; none is everywhere"`
	Asked     int          `json:"asked,omitempty" doc:"In which order it is asked for; the smallest first"`
	ExpiresOn *kernel.Date `json:"expires_on,omitempty" doc:"Its last good day"`
	WalletID  *uuid.UUID   `json:"wallet_id,omitempty" format:"uuid" doc:"The gear in which it lies"`
	Note      string       `json:"note,omitempty"`
}

// PaperView is a paper as the crew sees it.
type PaperView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	Boat    string    `json:"boat,omitempty"`
	Member  string    `json:"member,omitempty"`
	Wallet  string    `json:"wallet,omitempty"`
	State   string    `json:"state" enum:"good,soon,out" doc:"soon: within 30 days"`
	Photos  int       `json:"photos"`
	PaperInput
}

// PaperRow is a paper that a trip's water asks for.
type PaperRow struct {
	ID      *uuid.UUID   `json:"id,omitempty" format:"uuid" doc:"Absent where there is none"`
	Name    string       `json:"name"`
	Of      string       `json:"of" doc:"The boat or the person"`
	State   string       `json:"state" enum:"good,out,missing"`
	Said    string       `json:"said"`
	Wallet  string       `json:"wallet" doc:"Where it lies"`
	Expires *kernel.Date `json:"expires_on,omitempty"`
	Photos  int          `json:"photos"`
}

const mostPapers = 300

func (in PaperInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	fs.OneOf("kind", in.Kind, words.PaperKinds.Keys()...)
	fs.Text("number", in.Number, 0, 80)
	fs.Text("note", in.Note, 0, 600)
	fs.Within("asked", float64(in.Asked), 0, 1000)
	for i, w := range in.Waters {
		fs.Text(fmt.Sprintf("waters[%d]", i), w, 1, 80)
	}
	if in.BoatID != nil && in.MemberID != nil {
		fs.Add("member_id", nil, "a paper is of a boat or of a person, not of both")
	}
	return faulty(fs)
}

// Papers lists the crew's papers, in the order in which they are asked for.
func (a *Wing) Papers(ctx context.Context, actor kernel.Actor) ([]PaperView, error) {
	list := []PaperView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		rows, names, err := readPapers(tx)
		for _, r := range rows {
			list = append(list, names.view(r, kernel.DayOf(a.Today())))
		}
		return err
	})
	return list, err
}

// paperNames are what papers are told with.
type paperNames struct {
	boats, members, wallets map[uuid.UUID]string
	photos                  map[uuid.UUID]int
}

func readPapers(tx *store.Tx) (rows []model.Paper, n paperNames, err error) {
	n = paperNames{boats: map[uuid.UUID]string{}, members: map[uuid.UUID]string{}, wallets: map[uuid.UUID]string{},
		photos: map[uuid.UUID]int{}}
	if err := store.All(tx, &rows, "asked, name, id", ""); err != nil {
		return nil, n, fmt.Errorf("reading the papers: %w", err)
	}
	var named []struct {
		Of   string
		ID   uuid.UUID
		Name string
		N    int
	}
	err = tx.Read(&named, `SELECT 'boat' AS of, id, name, 0 AS n FROM boat WHERE crew_id = @crew
		UNION ALL SELECT 'member', id, name, 0 FROM member WHERE crew_id = @crew AND left_at IS NULL
		UNION ALL SELECT 'wallet', id, name, 0 FROM gear WHERE crew_id = @crew AND id IN (SELECT wallet_id FROM paper WHERE crew_id = @crew)
		UNION ALL SELECT 'photo', paper_id, '', count(*) FROM photo WHERE crew_id = @crew AND paper_id IS NOT NULL GROUP BY paper_id`, nil)
	if err != nil {
		return nil, n, fmt.Errorf("reading what papers are of: %w", err)
	}
	for _, r := range named {
		switch r.Of {
		case "boat":
			n.boats[r.ID] = r.Name
		case "member":
			n.members[r.ID] = r.Name
		case "wallet":
			n.wallets[r.ID] = r.Name
		case "photo":
			n.photos[r.ID] = r.N
		}
	}
	rows = slices.DeleteFunc(
		rows,
		func(p model.Paper) bool { return p.MemberID != nil && n.members[*p.MemberID] == "" },
	)
	return rows, n, nil
}

func at(names map[uuid.UUID]string, id *uuid.UUID) string {
	if id == nil {
		return ""
	}
	return names[*id]
}

// soonDays is how long before its last day a paper is called to be renewed. Practice, no
// source.
const soonDays = 30

func (n paperNames) view(p model.Paper, today kernel.Date) PaperView {
	v := PaperView{ID: p.ID, Version: p.Version, Boat: at(n.boats, p.BoatID), Member: at(n.members, p.MemberID),
		Wallet: at(n.wallets, p.WalletID), State: "good", Photos: n.photos[p.ID],
		PaperInput: PaperInput{Name: p.Name, Kind: p.Kind, Number: p.Number, BoatID: p.BoatID, MemberID: p.MemberID,
			Waters: append(
				[]string{},
				p.Waters...), Asked: p.Asked, ExpiresOn: kernel.DateOf(p.ExpiresOn), WalletID: p.WalletID,
			Note: p.Note}}
	if p.ExpiresOn != nil {
		switch {
		case p.ExpiresOn.Before(today.At):
			v.State = "out"
		case p.ExpiresOn.Before(today.Add(soonDays).At):
			v.State = "soon"
		}
	}
	return v
}

// SavePaper makes a paper (no id) or changes one.
func (a *Wing) SavePaper(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	in PaperInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return id, err
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"paper", id, version, in}, func() (uuid.UUID, error) {
			if err := in.refers(tx); err != nil {
				return id, err
			}
			if n, err := store.Count[model.Paper](tx, ""); err != nil || id == uuid.Nil && n >= mostPapers {
				return id, cmp.Or(err, faulty(check.Faults{{Field: "name", Value: in.Name,
					Want: fmt.Sprintf("is one more than the %d papers that are kept: remove one first", mostPapers)}}))
			}
			row := model.Paper{ID: kernel.IDOr(id), CrewID: actor.Crew, Name: in.Name, Kind: in.Kind, Number: in.Number,
				BoatID: in.BoatID, MemberID: in.MemberID, Waters: in.Waters, Asked: in.Asked, ExpiresOn: in.ExpiresOn.Time(),
				WalletID: in.WalletID, Note: in.Note, Version: version + 1}
			return row.ID, kernel.Keep(tx, &row, id, version, "paper", in.Name)
		})
		id = made
		return err
	})
	return id, err
}

func (in PaperInput) refers(tx *store.Tx) error {
	if in.BoatID != nil {
		if err := store.Exists[model.Boat](tx, "id = ?", *in.BoatID); err != nil {
			return kernel.Absent(err, "boat")
		}
	}
	if in.MemberID != nil {
		if err := store.Exists[model.Member](tx, "id = ? AND left_at IS NULL", *in.MemberID); err != nil {
			return kernel.Absent(err, "person")
		}
	}
	if in.WalletID != nil {
		return kernel.Absent(store.Exists[model.Gear](tx, "id = ?", *in.WalletID), "gear that the paper lies in")
	}
	return nil
}

// RemovePaper takes a paper off the list, with its pictures.
func (a *Wing) RemovePaper(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Paper
		if err := store.One(tx, &row, "id = ?", id); err != nil {
			return kernel.Absent(err, "paper")
		}
		var s kernel.Stroke
		args := store.Args{"id": id}
		if err := s.Gone(tx, "id = @id", args, "paper"); err != nil {
			return err
		}
		if err := s.Gone(tx, "paper_id = @id", args, "photo"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeGear, row.Name+" was removed from the papers.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.Paper](tx, "id = ?", id), "paper")
	})
}

// papersFor are the papers that a trip asks for: of its boat and of who come, for its water
// or for everywhere, in the order in which they are asked for. A kind of paper that others
// have for this water, and somebody who comes has not, is missing.
func papersFor(tx *store.Tx, o *days.Outing) ([]PaperRow, error) {
	rows, names, err := readPapers(tx)
	if err != nil {
		return nil, err
	}
	list := []PaperRow{}
	for _, p := range rows {
		if p.BoatID != nil && (o.Trip.BoatID == nil || *p.BoatID != *o.Trip.BoatID) ||
			p.MemberID != nil && !comesAlong(o, *p.MemberID) || !forWater(p, o.Trip.Water) {
			continue
		}
		list = append(list, paperRow(p, names, o))
	}
	return append(list, missing(rows, names, o)...), nil
}

func comesAlong(o *days.Outing, member uuid.UUID) bool {
	return slices.ContainsFunc(o.People, func(p days.Person) bool { return p.MemberID != nil && *p.MemberID == member })
}

// forWater says whether a paper is for a water, by its words.
func forWater(p model.Paper, water string) bool {
	if len(p.Waters) == 0 {
		return true
	}
	name := strings.ToLower(water)
	return slices.ContainsFunc(p.Waters, func(w string) bool {
		w = strings.ToLower(strings.TrimSpace(w))
		return w != "" && (strings.Contains(name, w) || name != "" && strings.Contains(w, name))
	})
}

func paperRow(p model.Paper, names paperNames, o *days.Outing) PaperRow {
	id := p.ID
	r := PaperRow{
		ID:      &id,
		Name:    p.Name,
		Of:      cmp.Or(at(names.boats, p.BoatID), at(names.members, p.MemberID), "the crew"),
		State:   "good",
		Wallet:  at(names.wallets, p.WalletID),
		Expires: kernel.DateOf(p.ExpiresOn),
		Photos:  names.photos[p.ID],
	}
	r.Said = fmt.Sprintf("%s, %s", p.Name, r.Of)
	if p.ExpiresOn != nil && p.ExpiresOn.Before(o.Trip.EndsOn) {
		r.State = "out"
		r.Said = fmt.Sprintf("%s of %s: good until %s only.", kernel.Capital(p.Name), r.Of, r.Expires)
	}
	if p.WalletID != nil && o.Laden != nil {
		r.Wallet = walletAt(o, *p.WalletID, r.Wallet)
	}
	return r
}

// walletAt says where the wallet is, and whether it comes along.
func walletAt(o *days.Outing, wallet uuid.UUID, name string) string {
	g := o.Laden.Thing(wallet)
	if g == nil {
		return name + ", not along yet"
	}
	if where := whereOf(o.Laden, *g); where != "" {
		return name + ", " + where
	}
	return name
}

// missing are papers that another of the crew has for this water, and one who comes has
// not.
func missing(rows []model.Paper, names paperNames, o *days.Outing) (list []PaperRow) {
	asked := map[string]bool{}
	for _, p := range rows {
		if p.Kind == "licence" && p.MemberID != nil && len(p.Waters) > 0 && forWater(p, o.Trip.Water) {
			asked[p.Name] = true
		}
	}
	for _, p := range rows {
		if !asked[p.Name] {
			continue
		}
		asked[p.Name] = false // each once
		for _, who := range o.People {
			has := slices.ContainsFunc(rows, func(q model.Paper) bool {
				return q.Name == p.Name && q.MemberID != nil && who.MemberID != nil && *q.MemberID == *who.MemberID
			})
			if !has && who.MemberID != nil {
				list = append(list, PaperRow{Name: p.Name, Of: who.Name, State: "missing",
					Said: fmt.Sprintf("%s: none is listed of %s.", kernel.Capital(p.Name), who.Name)})
			}
		}
	}
	return list
}
