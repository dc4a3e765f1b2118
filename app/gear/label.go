package gear

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"math/big"
	"strings"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/units"
	"ergasia/formats/labels"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// codeLetters are those of label codes: none that looks like another, and no
// vowel, so that no code is a word. Codes are told apart within a crew.
const (
	codeLetters = "23456789BCDFGHJKMNPQRTVWXZ"
	codeLength  = 6
)

// labelCode is the code that a text is, or nothing.
func labelCode(text string) string {
	text = strings.ToUpper(strings.TrimPrefix(strings.TrimSpace(text), "#"))
	if len(text) != codeLength || strings.Trim(text, codeLetters) != "" {
		return ""
	}
	return text
}

func newCode() string {
	code := make([]byte, codeLength)
	for i := range code {
		n, _ := rand.Int(rand.Reader, big.NewInt(int64(len(codeLetters)))) // never fails
		code[i] = codeLetters[n.Int64()]
	}
	return string(code)
}

// labelHit is what a label's code stands for; nothing where there is no such code.
func labelHit(tx *store.Tx, code string) ([]Hit, error) {
	var l model.Label
	err := store.One(tx, &l, "code = ?", code)
	if errors.Is(err, store.ErrNone) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("looking up the label: %w", err)
	}
	found, err := labelled(tx, l)
	h := Hit{Kind: "gear", ID: found.ID, Name: found.Name}
	switch {
	case l.PlaceID != nil:
		h.Kind, h.Boat, h.Place = "place", l.BoatID, l.PlaceID
	case l.ShedID != nil:
		h.Kind = "shed"
	}
	return []Hit{h}, err
}

// Label finds what a code is on.
func (a *Wing) Label(ctx context.Context, actor kernel.Actor, code string) (Hit, error) {
	var hits []Hit
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		hits, err = labelHit(tx, labelCode(code))
		return err
	})
	if err == nil && len(hits) == 0 {
		err = &refuse.Error{Kind: refuse.NotFound, Sentence: "No label of this crew has the code " + strings.ToUpper(code) +
			"."}
	}
	if err != nil {
		return Hit{}, err
	}
	return hits[0], nil
}

// LabelsInput says which labels are printed, on what.
type LabelsInput struct {
	Sheet  string      `json:"sheet" doc:"The key of a sheet"`
	Skip   int         `json:"skip,omitempty" doc:"Places of the first sheet that were used before"`
	Gear   []uuid.UUID `json:"gear,omitempty" maxItems:"500"`
	Places []uuid.UUID `json:"places,omitempty" maxItems:"200"`
	Sheds  []uuid.UUID `json:"sheds,omitempty" maxItems:"200"`
}

// SheetView is a sheet of labels that can be printed on.
type SheetView struct {
	Key  string `json:"key"`
	Name string `json:"name"`
	Use  string `json:"use"`
	Per  int    `json:"per" doc:"Labels on a sheet"`
}

// LabelSheets lists the sheets.
func LabelSheets() []SheetView {
	var list []SheetView
	for _, s := range labels.Sheets {
		list = append(list, SheetView{Key: s.Key, Name: s.Name, Use: s.Use, Per: s.Across * s.Down})
	}
	return list
}

// Labels sets a PDF of labels; what had no code gets one. base is the address
// under which phones reach the program.
func (a *Wing) Labels(ctx context.Context, actor kernel.Actor, base string, in LabelsInput) ([]byte, error) {
	sheet, known := labels.SheetOf(in.Sheet)
	var fs check.Faults
	if !known {
		fs.Add("sheet", in.Sheet, "is no sheet")
	}
	fs.Within("skip", float64(in.Skip), 0, float64(max(sheet.Across*sheet.Down-1, 0)))
	if len(in.Gear)+len(in.Places)+len(in.Sheds) == 0 {
		fs.Add("gear", nil, "choose something to label")
	}
	if err := refuse.Faulty(fs.Err()); err != nil {
		return nil, err
	}
	var list []labels.Label
	err := a.Write(ctx, actor, func(tx *store.Tx) (err error) {
		list, err = labelTexts(tx, actor, in)
		if err != nil {
			return err
		}
		for i := range list {
			list[i].URL = strings.TrimSuffix(base, "/") + "/at/" + list[i].Code
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return labels.Write(sheet, list, in.Skip)
}

// labelTexts words the labels, with the code of each.
func labelTexts(tx *store.Tx, actor kernel.Actor, in LabelsInput) ([]labels.Label, error) {
	u := units.SystemNamed(actor.Units)
	var list []labels.Label
	for _, of := range []struct {
		ids   []uuid.UUID
		label func(*store.Tx, units.System, uuid.UUID) (labels.Label, model.Label, error)
	}{{ids: in.Gear, label: gearLabel}, {ids: in.Places, label: placeLabel}, {ids: in.Sheds, label: shedLabel}} {
		for _, id := range of.ids {
			l, row, err := of.label(tx, u, id)
			if err != nil {
				return nil, err
			}
			if l.Code, err = codeFor(tx, actor, row); err != nil {
				return nil, err
			}
			list = append(list, l)
		}
	}
	return list, nil
}

func gearLabel(tx *store.Tx, u units.System, id uuid.UUID) (labels.Label, model.Label, error) {
	rows, err := Rows(tx, "WHERE gear.crew_id = @crew AND gear.id = @id", store.Args{"id": id})
	if err != nil {
		return labels.Label{}, model.Label{}, err
	}
	views, err := ViewRows(tx, rows)
	if err != nil {
		return labels.Label{}, model.Label{}, err
	}
	if len(views) == 0 {
		return labels.Label{}, model.Label{}, refuse.Missing("gear")
	}
	v := views[0]
	l := labels.Label{Name: v.Name, Lines: []string{fmt.Sprintf("%.1f %s", u.Mass.FromSI(v.TotalKg), u.Mass.Symbol)}}
	if v.OwnerID != nil {
		var m model.Member
		if err := store.One(tx, &m, "id = ?", *v.OwnerID); err != nil {
			return l, model.Label{}, kernel.Absent(err, "person")
		}
		l.Mark, l.Lines = m.Mark, append([]string{m.Name + "'s"}, l.Lines...)
	}
	held, err := firstHeld(tx, id)
	l.Lines = append(l.Lines, held...)
	return l, model.Label{GearID: &v.ID}, err
}

func placeLabel(tx *store.Tx, u units.System, id uuid.UUID) (labels.Label, model.Label, error) {
	var p model.Place
	var b model.Boat
	if err := store.One(tx, &p, "id = ?", id); err != nil {
		return labels.Label{}, model.Label{}, kernel.Absent(err, "place")
	}
	if err := store.One(tx, &b, "id = ?", p.BoatID); err != nil {
		return labels.Label{}, model.Label{}, kernel.Absent(err, "boat")
	}
	l := labels.Label{Name: p.Name, Lines: []string{b.Name, p.Dryness}}
	if p.MaxKg > 0 {
		l.Lines = append(l.Lines, fmt.Sprintf("at most %.0f %s", u.Mass.FromSI(p.MaxKg), u.Mass.Symbol))
	}
	return l, model.Label{BoatID: &p.BoatID, PlaceID: &p.ID}, nil
}

func shedLabel(tx *store.Tx, _ units.System, id uuid.UUID) (labels.Label, model.Label, error) {
	var r model.Shed
	if err := store.One(tx, &r, "id = ?", id); err != nil {
		return labels.Label{}, model.Label{}, kernel.Absent(err, "place ashore")
	}
	return labels.Label{Name: r.Name, Lines: []string{r.Site, r.Dryness}}, model.Label{ShedID: &r.ID}, nil
}

// codeFor gives the code of what a row is on, and makes one where it has none.
func codeFor(tx *store.Tx, actor kernel.Actor, row model.Label) (string, error) {
	row.CrewID = actor.Crew
	for range 8 {
		var there model.Label
		err := store.One(tx, &there, "gear_id IS NOT DISTINCT FROM ? AND place_id IS NOT DISTINCT FROM ? AND shed_id IS NOT DISTINCT FROM ?",
			row.GearID, row.PlaceID, row.ShedID)
		if err == nil {
			return there.Code, nil
		}
		if !errors.Is(err, store.ErrNone) {
			return "", fmt.Errorf("looking for a code: %w", err)
		}
		row.Code = newCode() // one that is taken is tried again
		if _, err := store.AddNew(tx, []model.Label{row}); err != nil {
			return "", fmt.Errorf("keeping a code: %w", err)
		}
	}
	return "", errors.New("no free label code was found in eight tries")
}
