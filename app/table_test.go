package app_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/store"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// wipe takes everything off the list.
func (w *world) wipe() {
	for {
		page, err := w.Gear.Gear(ctx, w.owner, gear.GearQuery{Limit: 200})
		require.NoError(w.t, err)
		if len(page.Rows) == 0 {
			return
		}
		var ids []uuid.UUID
		for _, r := range page.Rows {
			ids = append(ids, r.ID)
		}
		require.NoError(w.t, w.Gear.ChangeMany(ctx, w.owner, store.NewID(), gear.BulkInput{Gear: ids, Remove: true}))
	}
}

func TestExportWipeAndImportGiveTheSame(t *testing.T) {
	w := newWorld(t)
	shelf := w.shelf("boathouse", "shelf A")
	box := w.make("=1+1", 1, asBox)
	twin := w.make("=1+1", 1, asBox)
	cost, expires := 12.3, kernel.DayOf(w.Kernel.Now()).Add(40)
	odd := w.make("a \"quoted\"\ttab\nline; 'x", 0.123456, func(in *gear.GearInput) {
		small(in)
		in.Nickname, in.Serial, in.Tags, in.OwnerID, in.Cost, in.ExpiresOn = "@home", "-5", []string{"cod", "sea trout"},
			&w.hand.Member, &cost, &expires
		in.Count, in.RestockAt, in.NeedsDry, in.Hazards, in.SparesFor = 3, 2, true, []string{"fuel", "sharp"}, &box.ID
	})
	require.NoError(t, second(w.to(odd.ID, aboard.MoveInput{BoxID: &twin.ID})))
	require.NoError(t, second(w.to(box.ID, aboard.MoveInput{PlaceID: &w.locker})))
	require.NoError(t, second(w.to(w.cooler.ID, aboard.MoveInput{ShedID: &shelf})))
	require.NoError(t, second(w.to(w.chartbox.ID, aboard.MoveInput{HolderID: &w.hand.Member})))
	before, err := w.Gear.Export(ctx, w.owner)
	require.NoError(t, err)

	same, err := w.Gear.Import(ctx, w.owner, uuid.Nil, before, nil, false)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0, 5, 0}, []int{same.New, same.Changed, same.Same, same.Wrong}, "%+v", same.Rows)

	w.wipe()
	preview, err := w.Gear.Import(ctx, w.owner, uuid.Nil, before, nil, false)
	require.NoError(t, err)
	assert.Equal(t, 5, preview.New, "%+v", preview.Rows)
	done, err := w.Gear.Import(ctx, w.owner, store.NewID(), before, nil, true)
	require.NoError(t, err)
	assert.True(t, done.Done)
	after, err := w.Gear.Export(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(after))
	assert.Equal(t, "the quay, in =1+1", w.spot(odd.ID).Text)
	hits, err := w.Gear.Find(ctx, w.owner, "quoted")
	require.NoError(t, err)
	assert.NotEmpty(t, hits, "what is imported is found")
}

func TestEveryRowsFateIsToldAndAllOrNoneAreImported(t *testing.T) {
	w := newWorld(t)
	csv := func(rows ...string) []byte {
		return []byte("id,name,count,length_cm,breadth_cm,height_cm,kg,owner,place,needs_dry\n" + strings.Join(rows, "\n"))
	}
	text := csv(
		"x,net,1,10,10,10,1,,,",
		",net,1,10,10,many,1,,,",
		",net,1.5,10,10,10,1,,,",
		",net,1,10,10,10,1,Bertil,,",
		",net,1,10,10,10,1,,attic,",
		",net,1,10,10,10,1,,in: nothing,",
		",papers,1,10,10,10,1,,Test boat / stern locker,yes",
		",brick,1,10,10,10,100,,Test boat / stern locker,",
		",whale,1,300,100,100,100,,Test boat / stern locker,",
		w.cooler.ID.String()+",cooler,1,40,30,30,31,,,",
		w.cooler.ID.String()+",cooler,1,40,30,30,31,,,",
		",good,1,10,10,10,1,Sune,test boat / stern locker,",
		",,1,10,10,10,1,,,")
	view, err := w.Gear.Import(ctx, w.owner, uuid.Nil, text, nil, false)
	require.NoError(t, err)
	want := []string{"id is", "height_cm is", "must be a whole number", "nobody in the crew", "is no place", "is no box",
		"must stay dry", "carries 60.0 kg at most", "is 300 x 100 x 100 cm",
		"", "id is that of line 11 too", "", "must have a letter or digit"}
	quay := []string{"papers", "brick", "whale"} // what does not fit keeps nothing else out
	for i, r := range view.Rows {
		assert.Equal(t, i+2, r.Line)
		if slices.Contains(quay, r.Name) {
			assert.Equal(t, []string{"new", "quay"}, []string{r.Fate, r.Read.Place}, "%v", r)
			assert.Contains(t, strings.Join(r.Says, " "), want[i])
		} else if want[i] == "" {
			assert.NotEqual(t, "wrong", r.Fate, "%v", r)
		} else {
			assert.Equal(t, "wrong", r.Fate, "%v", r)
			assert.Contains(t, strings.Join(r.Says, " "), want[i])
		}
	}
	assert.Equal(t, []int{4, 1, 0, 8}, []int{view.New, view.Changed, view.Same, view.Wrong})
	_, err = w.Gear.Import(ctx, w.owner, store.NewID(), text, nil, true)
	assert.Contains(t, err.Error(), "8 rows are wrong, so none was imported")
	assert.Contains(t, kindOf(t, err).Details[0], "line 2: id is")
	d, err := w.Gear.GearOne(ctx, w.owner, w.cooler.ID)
	require.NoError(t, err)
	assert.Equal(t, 30.0, d.Kg)

	good := csv(w.cooler.ID.String()+",cooler,1,40,30,30,31,,Test boat / stern locker,", ",good,1,10,10,10,1,S,quay,")
	key := store.NewID()
	_, err = w.Gear.Import(ctx, w.hand, key, good, nil, true)
	require.NoError(t, err)
	_, err = w.Gear.Import(ctx, w.hand, key, good, nil, true)
	require.NoError(t, err)
	d, err = w.Gear.GearOne(ctx, w.owner, w.cooler.ID)
	require.NoError(t, err)
	assert.Equal(t, []any{31.0, "Test boat, stern locker"}, []any{d.Kg, d.Spot.Text})
	assert.NotEmpty(t, d.Notes, "its history tells of the new mass")
	s, err := w.Gear.Summary(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, 3, s.Entries, "a repeat adds nothing")
	_, err = w.Gear.Import(ctx, w.owner, uuid.Nil, []byte("name\n\"open"), nil, false)
	assert.Equal(t, "Line 2: a quote opens here and is not closed", kindOf(t, err).Sentence)
}

func TestATableCannotPutABoxIntoItself(t *testing.T) {
	w := newWorld(t)
	a, b := store.NewID(), store.NewID()
	head := "id,name,count,length_cm,breadth_cm,height_cm,inside_length_cm,inside_breadth_cm,inside_height_cm,kg,place\n"
	box := func(id uuid.UUID, place string) string {
		return fmt.Sprintf("%s,box,1,20,20,20,19,19,19,1,%s\n", id, place)
	}
	view, err := w.Gear.Import(ctx, w.owner, uuid.Nil, []byte(head+box(a, "in: "+b.String())+box(b, "in: "+a.String())),
		nil, false)
	require.NoError(t, err)
	assert.Equal(t, 2, view.Wrong, "%+v", view.Rows)
	view, err = w.Gear.Import(ctx, w.owner, uuid.Nil, []byte(head+box(a, "in: box")+box(b, "")), nil, false)
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(view.Rows[0].Says), "2 boxes have this name")
	deep, inside := head, ""
	for range aboard.BoxesDeep + 3 {
		id := store.NewID()
		deep, inside = deep+box(id, inside), "in: "+id.String()
	}
	view, err = w.Gear.Import(ctx, w.owner, uuid.Nil, []byte(deep), nil, false)
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(view.Rows), "5 deep at most", "no further into one another than on the page of a piece")
}

func TestFiveThousandRowsAreReadAndImported(t *testing.T) {
	w := newWorld(t)
	w.shelf("boathouse", "shelf A")
	var b strings.Builder
	b.WriteString("name,count,length_cm,breadth_cm,height_cm,kg,owner,place,tags\n")
	for i := range 5000 {
		fmt.Fprintf(&b, "thing %d,1,10,10,5,0.2,Sune,ashore: boathouse / shelf A,bulk\n", i)
	}
	view, err := w.Gear.Import(ctx, w.owner, store.NewID(), []byte(b.String()), nil, true)
	require.NoError(t, err)
	assert.Equal(t, 5000, view.New)
	assert.True(t, slices.ContainsFunc(view.Rows, func(r gear.RowFate) bool { return r.Line == 5001 }))
	page, err := w.Gear.Gear(ctx, w.owner, gear.GearQuery{Tag: "bulk", Text: "thing 4711", Limit: 10})
	require.NoError(t, err)
	assert.Len(t, page.Rows, 1)
}

// plan says how the database would answer a query under row-level security.
func (w *world) plan(query string) string {
	var lines []string
	require.NoError(w.t, w.Kernel.In(ctx, w.owner, func(tx *store.Tx) error {
		if _, err := tx.Do("SET LOCAL enable_seqscan = off", nil); err != nil { // a small table would be read whole
			return err
		}
		return tx.Read(&lines, "EXPLAIN "+query, nil)
	}))
	return strings.Join(lines, "\n")
}

// Row-level security lets an index be used for leakproof operators alone: the
// policy must not turn a look-up into a walk over the crew's whole list.
func TestThePolicyKeepsNoIndexFromBeingUsed(t *testing.T) {
	w := newWorld(t)
	w.wipe()
	for _, c := range []struct{ query, index, condition string }{
		{"SELECT gear_id FROM gear_word WHERE crew_id = @crew AND word = 'net'", "gear_word_pkey", "word = 'net'"},
		{"SELECT word FROM word WHERE crew_id = @crew AND word >= 'net' AND word < 'neu'", "word_pkey", "word >= 'net'"},
		{"SELECT id FROM gear WHERE crew_id = @crew AND (sort_name, id) > ('net', '00000000-0000-0000-0000-000000000000') ORDER BY sort_name, id LIMIT 51", "gear_name_idx", "ROW(sort_name, id) >"},
		{"SELECT id FROM gear WHERE crew_id = @crew AND used_at <= now() ORDER BY used_at DESC, id LIMIT 51",
			"gear_used_idx", "used_at <="},
		{"SELECT gear_id FROM stowage WHERE crew_id = @crew AND shed_id = '00000000-0000-0000-0000-000000000000'",
			"stowage_shed_idx", "shed_id ="},
		{"SELECT gear_id FROM stowage WHERE crew_id = @crew AND inside_id = '00000000-0000-0000-0000-000000000000'",
			"stowage_inside_idx", "inside_id ="},
	} {
		plan := w.plan(c.query)
		assert.Contains(t, plan, c.index, plan)
		cond := false
		for line := range strings.Lines(plan) {
			cond = cond || strings.Contains(line, "Index Cond") && strings.Contains(line, c.condition)
		}
		assert.True(t, cond, "the index is searched, not walked:\n%s", plan)
	}
	// What is not leakproof only filters: this is why there is sort_name, and no trigram index.
	plan := w.plan("SELECT word FROM word WHERE crew_id = @crew AND word % 'net'")
	assert.Regexp(t, `Filter: .*word % 'net'`, plan)
}
