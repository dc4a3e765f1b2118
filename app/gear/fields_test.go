package gear

import (
	"reflect"
	"testing"

	"ergasia/app/kernel"
	"ergasia/core/words"
	"ergasia/formats/table"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// sample is gear of which everything is said: what is written here, and anything
// for fields that came later.
func sample(t *testing.T) GearInput {
	cost, day, spare, uses := 3.0, kernel.Date{}, store.NewID(), 2.0
	require.NoError(t, day.UnmarshalText([]byte("2027-03-31")))
	in := GearInput{Name: "n", Nickname: "k", Tags: []string{"t"}, OwnerID: &spare, Shape: "soft",
		Size: model.Vec{
			0.3,
			0.2,
			0.1,
		}, UseSize: model.Vec{0.4, 0.3, 0.2}, Inside: model.Vec{0.2, 0.1, 0.05}, HoldsKg: 2,
		KeepsDry: true, Kg: 1.5, MassKnown: "plate", Count: 2, RestockAt: 1, NeedsDry: true, Fragile: true, Metal: true,
		Buoyant: true, Brought: true, Hazards: []string{"fuel"}, Turn: "upright", Serial: "s", Cost: &cost, ExpiresOn: &day,
		Condition: "worn", SparesFor: &spare, Uses: &uses, UsedFrom: "helm", Guide: 0.025, SafetyAlso: []string{"throwable"},
		WornBy: &spare, InUseSince: &day}
	for _, f := range Fields {
		at := f.in(&in)
		if !reflect.ValueOf(at).Elem().IsZero() {
			continue
		}
		switch v := at.(type) {
		case *string:
			*v = "anything"
			if f.List != "" {
				*v = words.Lists[f.List].Keys()[0]
			}
		case *bool:
			*v = true
		case *int:
			*v = 3
		case *float64:
			*v = 0.5
		case **float64:
			*v = &uses
		}
	}
	return in
}

func TestEveryColumnThatIsWrittenIsRead(t *testing.T) {
	in := sample(t)
	cells := tableRow(GearRow{GearView: GearView{ID: store.NewID(), GearInput: in}},
		func(*uuid.UUID) string { return "Ilse" }, "quay")
	require.Len(t, cells, len(columns))
	for i, c := range cells {
		assert.NotEmpty(t, c, "%s is written", columns[i])
	}
	text, err := table.Write(columns, [][]string{cells})
	require.NoError(t, err)
	read1, err := table.Read(text, isColumn)
	require.NoError(t, err)
	var back GearInput
	read := cellReader{cells: read1.Rows[0].Cells}
	read.into(&back)
	assert.Empty(t, read.faults)
	back.SparesFor, back.OwnerID, back.WornBy = in.SparesFor, in.OwnerID, in.WornBy // told by id or name, which the importer looks up
	assert.Equal(t, in, back)
}

// A table may rename a box and put something into it by its new name.
func TestARenamedBoxIsFoundByItsNewNameOnly(t *testing.T) {
	p := &placeTexts{boxes: map[string][]uuid.UUID{}, boxName: map[uuid.UUID]string{}}
	first, second := store.NewID(), store.NewID()
	p.addBox(first, "tin")
	p.addBox(second, "tin")
	p.addBox(first, "can")
	assert.Equal(t, []uuid.UUID{second}, p.boxes["tin"])
	assert.Equal(t, []uuid.UUID{first}, p.boxes["can"])
	assert.Equal(t, "in: can", p.write(model.Stowage{InsideID: &first}))
}

func TestTagsHaveOneSpelling(t *testing.T) {
	assert.Equal(t, []string{"sea trout", "cod"}, TidyTags([]string{" Sea  Trout", "COD", "sea trout", " "}))
	assert.Equal(t, []string{}, TidyTags(nil))
}

func TestAFieldSurvivesTheRowAndBack(t *testing.T) {
	in := sample(t)
	value := reflect.ValueOf(in)
	for i := range value.NumField() {
		assert.False(t, value.Field(i).IsZero(), "%s is tried", value.Type().Field(i).Name)
	}
	assert.Equal(t, in, inputOf(in.Row(kernel.Actor{})), "every field of the input has a line in Fields")
	assert.Equal(t, []any{"box", "good", 1.0}, func() []any {
		g := GearInput{}.Row(kernel.Actor{})
		return []any{g.Shape, g.Condition, g.UsesPerDay}
	}(), "what is left out is as usual")
}
