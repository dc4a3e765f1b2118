package app_test

import (
	"fmt"
	"strings"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/trips"
	"ergasia/core/find"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// plainly finds gear as a person with the whole list on paper would: every term
// must begin a word of its name, nickname, tags, serial number, owner or place.
func plainly(rows []gear.GearRow, owners map[uuid.UUID]string, query string) map[uuid.UUID]bool {
	found := map[uuid.UUID]bool{}
	for _, g := range rows {
		owner := ""
		if g.OwnerID != nil {
			owner = owners[*g.OwnerID]
		}
		words := find.Words(append([]string{g.Name, g.Nickname, g.Serial, owner, g.Spot.Text}, g.Tags...)...)
		all := true
		for _, t := range find.Words(query) {
			one := false
			for _, w := range words {
				one = one || strings.HasPrefix(w, t)
			}
			all = all && one
		}
		if all {
			found[g.ID] = true
		}
	}
	return found
}

func TestWhatIsFoundIsWhatAPersonWithTheListWouldFind(t *testing.T) {
	w := newWorld(t)
	shelf := w.shelf("boathouse", "top shelf")
	words := []string{"pike", "perch", "box", "tray", "net", "rod", "red", "blue"}
	for i := range 40 {
		g := w.make(fmt.Sprintf("%s %s %d", words[i%8], words[(i*3+1)%8], i), 0.1, func(in *gear.GearInput) {
			small(in)
			if i%3 == 0 {
				in.OwnerID = &w.hand.Member
			}
			if i%4 == 0 {
				in.Tags = []string{words[(i*5)%8]}
			}
		})
		if i%5 == 0 {
			require.NoError(t, second(w.to(g.ID, aboard.MoveInput{ShedID: &shelf})))
		}
	}
	all, err := w.Gear.Gear(ctx, w.owner, gear.GearQuery{Limit: 200})
	require.NoError(t, err)
	owners := map[uuid.UUID]string{w.hand.Member: "Sune", w.owner.Member: "Ilse"}
	for _, query := range []string{"pike", "pi", "pike box", "sune net", "rod 3", "red boathouse", "sune pike shelf",
		"blue tray", "1", "box 12"} {
		page, err := w.Gear.Gear(ctx, w.owner, gear.GearQuery{Text: query, Limit: 200})
		require.NoError(t, err)
		got := map[uuid.UUID]bool{}
		for _, g := range page.Rows {
			got[g.ID] = true
		}
		assert.Equal(t, plainly(all.Rows, owners, query), got, query)
		hits, err := w.Gear.Find(ctx, w.owner, query)
		require.NoError(t, err)
		for _, h := range hits {
			assert.True(t, h.Kind != "gear" || got[h.ID], "%s: %s", query, h.Name)
		}
	}
}

func TestOneCrewsWordsAreNoHintsForAnother(t *testing.T) {
	w := newWorld(t)
	crew, una, err := w.Crew.Found(ctx, "Others", "Una", "una", password)
	require.NoError(t, err)
	other := kernel.Actor{Crew: crew, Member: una, Role: kernel.Owner}
	_, err = w.Gear.SaveGear(ctx, other, uuid.Nil, uuid.Nil, 0, gearInput("telescope", 1))
	require.NoError(t, err)
	for _, query := range []string{"telescope", "telescpoe", "una"} {
		hits, err := w.Gear.Find(ctx, w.owner, query)
		require.NoError(t, err)
		assert.Empty(t, hits, query)
	}
	require.NoError(t, w.Kernel.In(ctx, w.owner, func(tx *store.Tx) error {
		var words []string
		require.NoError(t, store.Pluck[model.Word](tx, "word", &words, "true"))
		assert.NotContains(t, words, "telescope")
		return nil
	}))
}

func TestAMeaninglessQueryFindsNothingAndBreaksNothing(t *testing.T) {
	w := newWorld(t)
	for _, query := range []string{"%", "_", "' OR 1=1 --", "@w0_0", "\\", strings.Repeat("cooler ", 60), "\U0010FFFF",
		"#", "cooler cooler cooler cooler cooler cooler cooler"} {
		hits, err := w.Gear.Find(ctx, w.owner, query)
		require.NoError(t, err, query)
		for _, h := range hits {
			assert.Contains(t, []string{"cooler", "chart box"}, h.Name, query)
		}
		_, err = w.Gear.Gear(ctx, w.owner, gear.GearQuery{Text: strings.TrimSpace(query)[:min(len(query)-1, 150)],
			Tag: query[:min(len(query), 30)], Limit: 5})
		require.NoError(t, err, query)
	}
}

func TestDaysAreWrittenAndReadAsDays(t *testing.T) {
	var d kernel.Date
	for text, ok := range map[string]bool{"2027-03-31": true, "2028-02-29": true, "2027-02-29": false, "31.3.2027": false,
		"": false, "1066-01-01": false, "2027-3-1": false} {
		err := d.UnmarshalText([]byte(text))
		assert.Equal(t, ok, err == nil, text)
		if ok {
			assert.Equal(t, text, d.String())
			back, err := d.MarshalText()
			require.NoError(t, err)
			assert.Equal(t, text, string(back))
		} else {
			assert.ErrorContains(t, err, "write it as 2027-03-31")
		}
	}
	require.NoError(t, d.UnmarshalText([]byte("2027-12-30")))
	assert.Equal(t, "2028-01-02", d.Add(3).String())
	assert.Equal(t, d, kernel.DayDate(kernel.DayOfTime(d.At)), "counted from 1970 and back")
	assert.Equal(t, 1, trips.TripInput{StartsOn: d, EndsOn: d}.Days())
}
