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
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// codeLetters are those of label codes: none that looks like another, and no
// vowel, so that no code is a word. Codes are told apart within a crew.
const (
	CodeLetters = "23456789BCDFGHJKMNPQRTVWXZ"
	codeLength  = 6
)

// LabelCode is the code that a text is, or nothing.
func LabelCode(text string) string {
	text = strings.ToUpper(strings.TrimPrefix(strings.TrimSpace(text), "#"))
	if len(text) != codeLength || strings.Trim(text, CodeLetters) != "" {
		return ""
	}
	return text
}

func NewCode() string {
	code := make([]byte, codeLength)
	for i := range code {
		n, _ := rand.Int(rand.Reader, big.NewInt(int64(len(CodeLetters)))) // never fails
		code[i] = CodeLetters[n.Int64()]
	}
	return string(code)
}

// labelHit is what a label's code stands for; nothing where there is no such code.
func (a *Wing) labelHit(tx *gorm.DB, actor kernel.Actor, code string) ([]Hit, error) {
	var l model.Label
	err := tx.Where("crew_id = ? AND code = ?", actor.Crew, code).Take(&l).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("looking up the label: %w", err)
	}
	h := Hit{Kind: "gear"}
	query := "SELECT id, name FROM gear WHERE crew_id = ? AND id = ?"
	switch {
	case l.GearID != nil:
		h.ID = *l.GearID
	case l.PlaceID != nil:
		h.Kind, h.ID, h.Boat, h.Place = "place", *l.PlaceID, *l.BoatID, *l.PlaceID
		query = "SELECT place.id, boat.name || ', ' || place.name AS name FROM place JOIN boat ON boat.crew_id = place.crew_id AND boat.id = place.boat_id WHERE place.crew_id = ? AND place.id = ?"
	default:
		h.Kind, h.ID = "shed", *l.ShedID
		query = "SELECT id, site || ', ' || name AS name FROM shed WHERE crew_id = ? AND id = ?"
	}
	var found kernel.Named
	if err := tx.Raw(query, actor.Crew, h.ID).Scan(&found).Error; err != nil {
		return nil, fmt.Errorf("looking up what the label is on: %w", err)
	}
	h.Name = found.Name
	return []Hit{h}, nil
}

// Label finds what a code is on.
func (a *Wing) Label(ctx context.Context, actor kernel.Actor, code string) (Hit, error) {
	var hits []Hit
	err := a.In(ctx, actor, func(tx *gorm.DB) (err error) {
		hits, err = a.labelHit(tx, actor, LabelCode(code))
		return err
	})
	if err == nil && len(hits) == 0 {
		err = &refuse.Error{Kind: refuse.NotFound, Sentence: "No label of this crew has the code " + strings.ToUpper(code) + "."}
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
	err := a.In(ctx, actor, func(tx *gorm.DB) (err error) {
		list, err = a.labelTexts(tx, actor, in)
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

func (a *Wing) labelTexts(tx *gorm.DB, actor kernel.Actor, in LabelsInput) ([]labels.Label, error) {
	var list []labels.Label
	u := units.SystemNamed(actor.Units)
	add := func(l labels.Label, row model.Label) (err error) {
		l.Code, err = codeFor(tx, actor, row)
		list = append(list, l)
		return err
	}
	for _, id := range in.Gear {
		var rows []GearAt
		if err := tx.Raw("SELECT "+GearColumns+GearFrom+" WHERE gear.crew_id = ? AND gear.id = ?", actor.Crew, id).Scan(&rows).Error; err != nil {
			return nil, fmt.Errorf("loading gear to label: %w", err)
		}
		views, err := a.GearRows(tx, actor, rows)
		if err != nil {
			return nil, err
		}
		if len(views) == 0 {
			return nil, refuse.Missing("gear")
		}
		v := views[0]
		l := labels.Label{Name: v.Name, Lines: []string{fmt.Sprintf("%.1f %s", u.Mass.FromSI(v.TotalKg), u.Mass.Symbol)}}
		if v.OwnerID != nil {
			var m model.Member
			if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, *v.OwnerID).Take(&m).Error; err != nil {
				return nil, kernel.Absent(err, "person")
			}
			l.Mark, l.Lines = m.Mark, append([]string{m.Name + "'s"}, l.Lines...)
		}
		held, err := firstHeld(tx, actor, id)
		if err != nil {
			return nil, err
		}
		l.Lines = append(l.Lines, held...)
		if err := add(l, model.Label{GearID: &v.ID}); err != nil {
			return nil, err
		}
	}
	for _, id := range in.Places {
		var p model.Place
		var b model.Boat
		if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&p).Error; err != nil {
			return nil, kernel.Absent(err, "place")
		}
		if err := tx.Select("name").Where("crew_id = ? AND id = ?", actor.Crew, p.BoatID).Take(&b).Error; err != nil {
			return nil, kernel.Absent(err, "boat")
		}
		l := labels.Label{Name: p.Name, Lines: []string{b.Name, p.Dryness}}
		if p.MaxKg > 0 {
			l.Lines = append(l.Lines, fmt.Sprintf("at most %.0f %s", u.Mass.FromSI(p.MaxKg), u.Mass.Symbol))
		}
		if err := add(l, model.Label{BoatID: &p.BoatID, PlaceID: &p.ID}); err != nil {
			return nil, err
		}
	}
	for _, id := range in.Sheds {
		var r model.Shed
		if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&r).Error; err != nil {
			return nil, kernel.Absent(err, "place ashore")
		}
		if err := add(labels.Label{Name: r.Name, Lines: []string{r.Site, r.Dryness}}, model.Label{ShedID: &r.ID}); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// firstHeld names the first things in a box, for its lid.
func firstHeld(tx *gorm.DB, actor kernel.Actor, box uuid.UUID) ([]string, error) {
	var list []string
	err := tx.Raw(`SELECT gear.name || CASE WHEN gear.count > 1 THEN ' x ' || gear.count ELSE '' END `+GearFrom+
		" WHERE gear.crew_id = ? AND at.inside_id = ? ORDER BY gear.sort_name LIMIT 12", actor.Crew, box).Scan(&list).Error
	if err != nil {
		return nil, fmt.Errorf("looking into the box: %w", err)
	}
	return list, nil
}

// codeFor gives the code of what a row is on, and makes one where it has none.
func codeFor(tx *gorm.DB, actor kernel.Actor, row model.Label) (string, error) {
	row.CrewID = actor.Crew
	mine := tx.Where("crew_id = ?", actor.Crew).Where(&model.Label{GearID: row.GearID, PlaceID: row.PlaceID, ShedID: row.ShedID})
	for range 8 {
		var there model.Label
		err := mine.Session(&gorm.Session{}).Take(&there).Error
		if err == nil {
			return there.Code, nil
		}
		if !errors.Is(err, gorm.ErrRecordNotFound) {
			return "", fmt.Errorf("looking for a code: %w", err)
		}
		row.Code = NewCode() // one that is taken is tried again
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&row).Error; err != nil {
			return "", fmt.Errorf("keeping a code: %w", err)
		}
	}
	return "", errors.New("no free label code was found in eight tries")
}
