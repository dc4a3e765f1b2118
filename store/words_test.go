package store_test

import (
	"regexp"
	"testing"

	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The database takes just the words that core/words lists.
func TestTheDatabaseTakesTheWordsThatAreDeclared(t *testing.T) {
	db := storetest.New(t)
	quoted := regexp.MustCompile(`'([^']*)'`)
	for column, list := range map[string]words.List{
		"member_role": words.Roles, "member_mass_known": words.MassKnown, "member_units": words.Units,
		"member_theme": words.Themes, "gear_mass_known": words.MassKnown, "gear_turn": words.Turns,
		"gear_shape": words.Shapes, "gear_condition": words.Conditions, "place_dryness": words.Dryness,
		"place_lid": words.Lids, "place_form": words.PlaceForms, "shed_dryness": words.Dryness,
		"stowage_kind": words.Spots, "stowage_rides": words.Rides, "kit_sort": words.KitSorts,
	} {
		require.NoError(t, db.In(ctx, store.Scope{}, func(tx *store.Tx) error {
			var definition string
			err := tx.Read(&definition, "SELECT pg_get_constraintdef(oid) FROM pg_constraint WHERE conname = @name",
				store.Args{"name": column + "_check"})
			require.NotEmpty(t, definition, column)
			var taken []string
			for _, m := range quoted.FindAllStringSubmatch(definition, -1) {
				taken = append(taken, m[1])
			}
			assert.ElementsMatch(t, list.Keys(), taken, column)
			return err
		}))
	}
}
