package kernel

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Actor is a member of a crew who asks for something.
type Actor struct {
	Crew   uuid.UUID
	User   uuid.UUID
	Member uuid.UUID
	Role   Role
	Units  string // in which sentences are written for the actor
}

func (a *Kernel) In(ctx context.Context, actor Actor, fn func(tx *gorm.DB) error) error {
	return a.DB.In(ctx, store.Scope{Crew: actor.Crew, User: actor.User}, fn)
}

// keepAnswered is how long a write's key is remembered.
const keepAnswered = 7 * 24 * time.Hour

// Once runs a write unless the key was answered before; then it gives what that
// write made. A nil key is a write that is never repeated. The row is part of
// the write's own transaction, so both are kept or neither.
func (a *Kernel) Once(tx *gorm.DB, actor Actor, key uuid.UUID, input any, write func() (uuid.UUID, error)) (uuid.UUID, bool, error) {
	if key == uuid.Nil {
		id, err := write()
		return id, false, err
	}
	text, err := json.Marshal(input)
	if err != nil {
		return uuid.Nil, false, fmt.Errorf("reading the request again: %w", err)
	}
	sum := sha256.Sum256(append(text, actor.Member[:]...))
	row := model.Answered{CrewID: actor.Crew, Key: key, Fingerprint: sum[:], At: a.Now()}
	created := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&row)
	if created.Error != nil {
		return uuid.Nil, false, fmt.Errorf("keeping the request's key: %w", created.Error)
	}
	if created.RowsAffected == 0 {
		return repeated(tx, actor, key, sum[:])
	}
	id, err := write()
	if err != nil {
		return uuid.Nil, false, err
	}
	err = tx.Model(&row).Update("result_id", id).Error
	if err == nil {
		err = tx.Where("crew_id = ? AND at < ?", actor.Crew, a.Now().Add(-keepAnswered)).Delete(&model.Answered{}).Error
	}
	if err != nil {
		return uuid.Nil, false, fmt.Errorf("keeping the request's answer: %w", err)
	}
	return id, false, nil
}

func repeated(tx *gorm.DB, actor Actor, key uuid.UUID, sum []byte) (uuid.UUID, bool, error) {
	var row model.Answered
	if err := tx.Where("crew_id = ? AND key = ?", actor.Crew, key).Take(&row).Error; err != nil {
		return uuid.Nil, false, fmt.Errorf("finding the request's answer: %w", err)
	}
	if string(row.Fingerprint) != string(sum) {
		return uuid.Nil, false, &refuse.Error{Kind: refuse.Invalid, Sentence: "This Idempotency-Key was used for another request: use a new one."}
	}
	if row.ResultID == nil {
		return uuid.Nil, true, nil
	}
	return *row.ResultID, true, nil
}

// Taken turns a broken unique name into a fault.
func Taken(err error, field, name string) error {
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return refuse.Faulty(check.Faults{{Field: field, Value: name, Want: "is taken: choose another"}})
	}
	return err
}
