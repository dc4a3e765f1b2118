package app_test

import (
	"fmt"
	"strings"
	"testing"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/store"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
)

func (w *world) preview(text string, chosen map[string]string) gear.ImportView {
	view, err := w.Gear.Import(ctx, w.owner, uuid.Nil, []byte(text), chosen, false)
	require.NoError(w.t, err)
	return view
}

// Forty pieces as a crew's own spreadsheet writes them: a title, headings of its
// own, sizes in one cell, decimal commas, Windows-1252, people and places that
// the crew has not. All of it comes in at the first try.
func TestASpreadsheetAsItIsExportedComesIn(t *testing.T) {
	w := newWorld(t)
	w.shelf("boathouse", "shelf A")
	var b strings.Builder
	b.WriteString("Våra grejer 2026;;;;;;\r\n\r\nItem;Qty;Weight (kg);Size (cm);Owner;Location;Category;Colour;Expiry date\r\n")
	for i := range 40 {
		fmt.Fprintf(&b, "Låda %d;%d;1,2;36 x 23 x 5;%s;%s;pike, lures;red;\r\n", i, 1+i%3, []string{"Sune", "Dad", ""}[i%3],
			[]string{"boathouse / shelf A", "garage", "Stern locker", ""}[i%4])
	}
	text, err := charmap.Windows1252.NewEncoder().String(b.String())
	require.NoError(t, err)
	view := w.preview(text, nil)
	assert.Equal(t, []int{40, 0}, []int{view.New, view.Wrong}, "%+v", view.Rows)
	how := map[string]string{}
	for _, h := range view.Headings {
		how[h.Heading] = h.Column + " " + h.How
	}
	assert.Equal(t, map[string]string{"Item": "name read", "Qty": "count read", "Weight (kg)": "kg read", "Size (cm)": "size read",
		"Owner": "owner same", "Location": "place read", "Category": "tags read", "Colour": " unknown", "Expiry date": "expires_on read"}, how)
	first := view.Rows[0]
	assert.Equal(t, gear.GearRead{Count: 1, Size: [3]float64{0.36, 0.23, 0.05}, Kg: 1.2, Tags: []string{"pike", "lures"}, Owner: "Sune",
		Place: "ashore: boathouse / shelf A"}, first.Read)
	assert.Equal(t, "Låda 0", first.Name)
	assert.Contains(t, fmt.Sprint(view.Rows[1].Says), `nobody in the crew is called "Dad"`)
	assert.Contains(t, fmt.Sprint(view.Rows[1].Says), `no place is called "garage"`)

	_, err = w.Gear.Import(ctx, w.owner, store.NewID(), []byte(text), nil, true)
	assert.Contains(t, err.Error(), `the column "Colour"`, "nothing is dropped in silence")
	done, err := w.Gear.Import(ctx, w.owner, store.NewID(), []byte(text), map[string]string{"colour": gear.LeftOut}, true)
	require.NoError(t, err)
	assert.True(t, done.Done)
	again := w.preview(text, nil)
	for _, h := range again.Headings {
		if h.Heading == "Colour" {
			assert.Equal(t, []string{gear.LeftOut, "remembered"}, []string{h.Column, h.How})
		}
	}
}

func TestHeadingsSayWhatTheirColumnsAre(t *testing.T) {
	w := newWorld(t)
	view := w.preview("What,Length (in),Width in mm,H (cm),Wt lb,Nonsense\nbox,14 1/4,200,10,2.5,1\n", map[string]string{"nonsense": "count"})
	row := view.Rows[0]
	assert.Equal(t, "new", row.Fate, "%+v", row)
	assert.InDeltaSlice(t, []float64{14.25 * 0.0254, 0.2, 0.1}, row.Read.Size[:], 1e-9)
	assert.InDelta(t, 2.5*0.45359237, row.Read.Kg, 1e-9)
	assert.Equal(t, 1, row.Read.Count)

	view = w.preview("name,weight,size\nbox,3 lb 4 oz,36x23\nnet,800 g,\nanchor,,\n", nil)
	assert.Contains(t, fmt.Sprint(view.Rows[0].Says), "must be three sides")
	assert.InDelta(t, 0.8, view.Rows[1].Read.Kg, 1e-9)
	assert.InDelta(t, 7.5, view.Rows[2].Read.Kg, 1e-9, "a guess from a usual anchor")
	assert.Contains(t, fmt.Sprint(view.Rows[2].Says), "no mass: it is a guess")
	_, err := gear.ReadChoices(`{"a": "no such column"}`)
	assert.ErrorContains(t, err, "is no column of the list")
	_, err = gear.ReadChoices(`[1]`)
	assert.Error(t, err)
}

// A table with an id that another crew has comes in like one with any id: nobody
// learns from it what others have.
func TestAnIdOfAnotherCrewIsLikeAnyOther(t *testing.T) {
	w := newWorld(t)
	crew, una, err := w.Crew.Found(ctx, "Others", "Una", "una", password)
	require.NoError(t, err)
	other := kernel.Actor{Crew: crew, Member: una, Role: kernel.Owner, Units: "metric"}
	theirs := w.make("telescope", 1, small)
	text := []byte("id,name,count,length_cm,breadth_cm,height_cm,kg\n" + theirs.ID.String() + ",net,1,10,10,10,1\n" +
		store.NewID().String() + ",net,1,10,10,10,1\n")
	done, err := w.Gear.Import(ctx, other, store.NewID(), text, nil, true)
	require.NoError(t, err)
	assert.Equal(t, 2, done.New)
	mine, err := w.Gear.GearOne(ctx, other, theirs.ID)
	require.NoError(t, err)
	assert.Equal(t, "net", mine.Name)
	still, err := w.Gear.GearOne(ctx, w.owner, theirs.ID)
	require.NoError(t, err)
	assert.Equal(t, "telescope", still.Name)
	require.NoError(t, w.Gear.ChangeMany(ctx, other, store.NewID(), gear.BulkInput{Gear: []uuid.UUID{theirs.ID}, Remove: true}))
	_, err = w.Gear.GearOne(ctx, w.owner, theirs.ID)
	require.NoError(t, err)
}
