package kernel

import (
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// keepAnswered is how long a write's key is remembered.
const keepAnswered = 7 * 24 * time.Hour

// Once runs a write unless the key was answered before; then it gives what that
// write made, and true. A nil key is a write that is never repeated. The key is
// kept in the write's own transaction: both are kept, or neither.
func (k *Kernel) Once(tx *store.Tx, actor Actor, key uuid.UUID, input any, write func() (uuid.UUID, error)) (uuid.UUID,
	bool, error) {
	if key == uuid.Nil {
		id, err := write()
		return id, false, err
	}
	text, err := json.Marshal(input)
	if err != nil {
		return uuid.Nil, false, fmt.Errorf("reading the request again: %w", err)
	}
	sum := sha256.Sum256(append(text, actor.Member[:]...))
	n, err := store.AddNew(tx, []model.Answered{{CrewID: actor.Crew, Key: key, Fingerprint: sum[:], At: k.Now()}})
	if err != nil {
		return uuid.Nil, false, fmt.Errorf("keeping the request's key: %w", err)
	}
	if n == 0 {
		return repeated(tx, key, sum[:])
	}
	id, err := write()
	if err != nil {
		return uuid.Nil, false, err
	}
	if err := store.Set[model.Answered](tx, map[string]any{"result_id": id}, "key = ?", key); err != nil {
		return uuid.Nil, false, fmt.Errorf("keeping the request's answer: %w", err)
	}
	if err := store.Remove[model.Answered](tx, "at < ?", k.Now().Add(-keepAnswered)); err != nil &&
		!errors.Is(err, store.ErrNone) {
		return uuid.Nil, false, fmt.Errorf("forgetting old answers: %w", err)
	}
	return id, false, nil
}

func repeated(tx *store.Tx, key uuid.UUID, sum []byte) (uuid.UUID, bool, error) {
	var row model.Answered
	if err := store.One(tx, &row, "key = ?", key); err != nil {
		return uuid.Nil, false, fmt.Errorf("finding the request's answer: %w", err)
	}
	if string(row.Fingerprint) != string(sum) {
		return uuid.Nil, false, &refuse.Error{Kind: refuse.Invalid,
			Sentence: "This Idempotency-Key was used for another request: use a new one."}
	}
	if row.ResultID == nil {
		return uuid.Nil, true, nil
	}
	return *row.ResultID, true, nil
}
