package store_test

import (
	"database/sql"
	"encoding/json"
	"testing"

	"ergasia/app"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/demo"
	"ergasia/store"
	"ergasia/store/model"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A boat that an earlier program kept by twelve measures of one kind of hull is
// the same boat after the upgrade: a V hull with her measures, an upright transom,
// and the rows beside her with likely values.
func TestABoatOfTheFirstSchemaIsUpgraded(t *testing.T) {
	address := storetest.URL(t)
	require.NoError(t, store.MigrateTo(ctx, address, 1))
	db, err := sql.Open("pgx", address)
	require.NoError(t, err)
	defer func() { assert.NoError(t, db.Close()) }()
	crew, boat, place, gear := store.NewID(), store.NewID(), store.NewID(), store.NewID()
	old := `{"chine": {"length_m": 5.4, "beam_m": 2.12, "transom_beam_m": 1.96, "chine_beam_m": 1.72, "transom_chine_beam_m": 1.66,
		"transom_deadrise_deg": 12, "amidships_deadrise_deg": 15, "depth_aft_m": 0.74, "depth_amidships_m": 0.78, "depth_forward_m": 1.02,
		"forefoot_m": 1.9, "notch_m": 0.55}, "flood_points": [{"name": "hatch", "at_m": [2, 0, 0.7]}]}`
	stations := `{"stations": [{"x_m": 0, "half_section_yz_m": [[0,0],[1,0.5]]}, {"x_m": 4, "half_section_yz_m": [[0,0],[1,0.5]]}]}`
	for _, statement := range []struct {
		sql  string
		args []any
	}{
		{"INSERT INTO crew (id, name) VALUES ($1, 'Old crew')", []any{crew}},
		{`INSERT INTO boat (id, crew_id, name, hull, outfit, plate, limits, water) VALUES ($1, $2, 'Old', $3,
			'{"masses": [], "tanks": []}', '{}', '{}', 1025)`, []any{boat, crew, old}},
		{`INSERT INTO boat (id, crew_id, name, hull, outfit, plate, limits, water) VALUES ($1, $2, 'By stations', $3, '{}', '{}', '{}', 999)`,
			[]any{store.NewID(), crew, stations}},
		{`INSERT INTO place (id, crew_id, boat_id, name, x, y, z, length, breadth, height, opening_length, opening_breadth, dryness, max_kg)
			VALUES ($1, $2, $3, 'locker', 1, 0, 0.3, 0.5, 0.5, 0.3, 0, 0, 'dry', 0)`, []any{place, crew, boat}},
		{`INSERT INTO gear (id, crew_id, name, length, breadth, height, kg, mass_known, count, needs_dry, turn)
			VALUES ($1, $2, 'box', 0.3, 0.3, 0.2, 2, 'guess', 1, false, 'any')`, []any{gear, crew}},
		{"INSERT INTO stowage (gear_id, crew_id, boat_id, place_id) VALUES ($1, $2, $3, $4)", []any{gear, crew, boat, place}},
	} {
		_, err := db.Exec(statement.sql, statement.args...)
		require.NoError(t, err, statement.sql)
	}
	require.NoError(t, store.Migrate(ctx, address))

	var text, setup string
	require.NoError(t, db.QueryRow("SELECT hull, setup FROM boat WHERE id = $1", boat).Scan(&text, &setup))
	var in model.HullInput
	require.NoError(t, json.Unmarshal([]byte(text), &in))
	assert.Equal(t, "vee", in.Form)
	assert.Len(t, in.Measures, 12)
	assert.Equal(t, 1.72, in.Measures["chine_beam_m"])
	assert.Equal(t, 0.0, in.Measures["rake_deg"])
	assert.Equal(t, "hatch", in.FloodPoints[0].Name)
	preview := fleet.PreviewHull(in, 1025)
	assert.Empty(t, preview.Faults)
	assert.NotNil(t, preview.Lines)
	assert.Equal(t, "[]", setup)

	require.NoError(t, db.QueryRow("SELECT hull FROM boat WHERE name = 'By stations'").Scan(&text))
	assert.JSONEq(t, stations, text, "a boat by stations stays as she was")
	var lid, rides string
	require.NoError(t, db.QueryRow("SELECT lid FROM place WHERE id = $1", place).Scan(&lid))
	require.NoError(t, db.QueryRow("SELECT rides FROM stowage WHERE gear_id = $1", gear).Scan(&rides))
	assert.Equal(t, "none", lid)
	assert.Equal(t, "boat", rides)
	_, err = db.Exec("UPDATE place SET parent_id = id")
	assert.ErrorContains(t, err, "violates check constraint", "no place stands in itself")
	_, err = db.Exec("UPDATE place SET parent_id = $1", uuid.New())
	assert.ErrorContains(t, err, "violates foreign key")
}

// Gear, stowage and moves of before there were boxes and sheds are as they were,
// are found by their words, and can be moved, undone and labelled.
func TestGearOfTheSecondSchemaIsUpgraded(t *testing.T) {
	address := storetest.URL(t)
	require.NoError(t, store.MigrateTo(ctx, address, 2))
	db, err := sql.Open("pgx", address)
	require.NoError(t, err)
	defer func() { assert.NoError(t, db.Close()) }()
	crew, member, boat, place := store.NewID(), store.NewID(), store.NewID(), store.NewID()
	stowed, loose := store.NewID(), store.NewID()
	hullText, err := json.Marshal(demo.Dunlin().Hull)
	require.NoError(t, err)
	outfit, err := json.Marshal(demo.Dunlin().Outfit)
	require.NoError(t, err)
	for _, statement := range []struct {
		sql  string
		args []any
	}{
		{"INSERT INTO crew (id, name) VALUES ($1, 'Old crew')", []any{crew}},
		{"INSERT INTO member (id, crew_id, name, role, mark, kg, mass_known) VALUES ($1, $2, 'Ilse', 'owner', 'I', 78, 'weighed')", []any{member, crew}},
		{"INSERT INTO boat (id, crew_id, name, hull, outfit, plate, limits, water) VALUES ($1, $2, 'Old', $3, $4, '{}', '{}', 1025)", []any{boat, crew, hullText, outfit}},
		{`INSERT INTO place (id, crew_id, boat_id, name, x, y, z, length, breadth, height, opening_length, opening_breadth, dryness, max_kg)
			VALUES ($1, $2, $3, 'locker', 1, 0, 0.34, 0.5, 0.5, 0.3, 0, 0, 'dry', 0)`, []any{place, crew, boat}},
		{`INSERT INTO gear (id, crew_id, name, length, breadth, height, kg, mass_known, count, needs_dry, turn)
			VALUES ($1, $2, 'Håndnett, lite', 0.3, 0.3, 0.2, 2, 'guess', 1, false, 'any'), ($3, $2, 'box', 0.3, 0.3, 0.1, 1, 'guess', 1, false, 'any')`, []any{stowed, crew, loose}},
		{"INSERT INTO stowage (gear_id, crew_id, boat_id, place_id) VALUES ($1, $2, $3, $4)",
			[]any{stowed, crew, boat, place}},
		{`INSERT INTO stowage_event (id, crew_id, boat_id, by_member, kind, gear_id, was, became, state)
			VALUES ($1, $2, $3::uuid, $4, 'move', $5, '{}', jsonb_build_object('place_id', $6::text, 'boat_id', ($3::uuid)::text), 'done')`, []any{store.NewID(), crew, boat, member, stowed, place}},
	} {
		_, err := db.Exec(statement.sql, statement.args...)
		require.NoError(t, err, statement.sql)
	}
	require.NoError(t, store.Migrate(ctx, address))
	kept, err := store.Open(ctx, address, 4)
	require.NoError(t, err)
	defer func() { assert.NoError(t, kept.Close()) }()
	a, actor := app.New(kept), kernel.Actor{Crew: crew, Member: member, Role: kernel.Owner}
	where, err := a.Where.Where(ctx, actor, stowed)
	require.NoError(t, err)
	assert.Equal(t, "Old, locker", where.Spot.Text)
	where, err = a.Where.Where(ctx, actor, loose)
	require.NoError(t, err)
	assert.Equal(t, "the quay", where.Spot.Text, "what had no row was on the quay")
	hits, err := a.Gear.Find(ctx, actor, "handnet")
	require.NoError(t, err)
	require.Len(t, hits, 1, "accents are off in the words that the migration made, as the program takes them off")
	assert.Equal(t, stowed, hits[0].ID)
	_, err = a.Where.Undo(ctx, actor, store.NewID(), boat)
	require.NoError(t, err, "a move of before can be undone")
	where, err = a.Where.Where(ctx, actor, stowed)
	require.NoError(t, err)
	assert.Equal(t, "quay", where.Spot.Kind)
	_, err = a.Where.Redo(ctx, actor, store.NewID(), boat)
	require.NoError(t, err)
	_, err = a.Gear.Labels(ctx, actor, "http://x", gear.LabelsInput{Sheet: "a4-21", Gear: []uuid.UUID{stowed},
		Places: []uuid.UUID{place}})
	require.NoError(t, err)
}
