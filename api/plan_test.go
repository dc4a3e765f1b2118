package api

import (
	"encoding/json"
	"net/http"
	"testing"

	"ergasia/app/stowing"
	"ergasia/app/where"
	"ergasia/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAPlanIsLookedForByAllAndTakenOverByThoseWhoMove(t *testing.T) {
	s := newSite(t, true)
	hand, guest := s.as("Sune"), s.as("Tove")
	path := s.boatOf(hand)
	resp, text := guest.send("POST", path+"/plan", map[string]any{"school": "use"})
	require.Equal(t, http.StatusOK, resp.StatusCode, string(text))
	var plan stowing.PlanView
	require.NoError(t, json.Unmarshal(text, &plan))
	require.NotEmpty(t, plan.Moves)
	assert.Less(t, plan.Then.Rummage, plan.Now.Rummage)
	var moves []map[string]any
	for _, m := range plan.Moves {
		one := map[string]any{"gear_id": m.GearID, "version": m.Version}
		if m.PlaceID != nil {
			one["place_id"] = *m.PlaceID
		}
		moves = append(moves, one)
	}
	key := store.NewID().String()
	resp, _ = guest.send("POST", path+"/plan/accept", map[string]any{"moves": moves}, "Idempotency-Key", key)
	assert.Equal(t, http.StatusForbidden, resp.StatusCode)
	for range 2 { // sent twice, done once
		resp, text = hand.send("POST", path+"/plan/accept", map[string]any{"moves": moves}, "Idempotency-Key", key)
		require.Equal(t, http.StatusOK, resp.StatusCode, string(text))
		var st where.State
		require.NoError(t, json.Unmarshal(text, &st))
		assert.InDelta(t, plan.Then.Rummage, st.Now.Rummage, 1e-6)
	}
	resp, _ = hand.send("POST", path+"/plan/accept", map[string]any{"moves": moves}, "Idempotency-Key",
		store.NewID().String())
	assert.Equal(t, http.StatusConflict, resp.StatusCode, "a plan is taken over once")
	resp, text = guest.send("POST", path+"/plan", map[string]any{"school": "luck"})
	assert.Equal(t, http.StatusUnprocessableEntity, resp.StatusCode)
	assert.Contains(t, string(text), "use, technique, owner, balance")
	resp, _ = guest.send("GET", path+"/reach", nil)
	assert.Equal(t, http.StatusOK, resp.StatusCode)
	resp, _ = s.visitor().send("GET", path+"/reach", nil)
	assert.Equal(t, http.StatusUnauthorized, resp.StatusCode)
}
