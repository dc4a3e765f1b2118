package store

import (
	"errors"
	"fmt"
	"maps"
	"reflect"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// What a query may end with beside a broken connection. Use errors.Is.
var (
	ErrNone     = gorm.ErrRecordNotFound     // there is no such row in this crew
	ErrStale    = errors.New("stale")        // the row has another version by now
	ErrTaken    = gorm.ErrDuplicatedKey      // the name or key is another row's
	ErrReferred = gorm.ErrForeignKeyViolated // another row speaks of it, or what it speaks of is not there
	ErrIllegal  = gorm.ErrCheckConstraintViolated
)

// Tx is one transaction within one crew. Its functions put the crew into every
// condition, so that the indexes serve it; row-level security is the wall behind.
type Tx struct {
	db   *gorm.DB
	crew uuid.UUID
}

// Now is the time that rows made in this transaction bear.
func (tx *Tx) Now() time.Time { return tx.db.NowFunc() }

// Row is a table's row.
type Row interface{ TableName() string }

// of begins a query over the crew's rows of a table.
func of[T Row](tx *Tx) *gorm.DB {
	var row T
	q := tx.db.Model(&row)
	switch {
	case tx.crew == uuid.Nil || !ofCrew(row.TableName()): // the policies alone say what is seen
		return q
	case row.TableName() == "crew":
		return q.Where("id = ?", tx.crew)
	}
	return q.Where(row.TableName()+".crew_id = ?", tx.crew)
}

// ofCrew says whether a table's rows are a crew's; people, their browsers and their
// tries to sign in are nobody's.
func ofCrew(table string) bool {
	return table != "founded" && table != "app_user" && table != "known_browser" && table != "sign_in_failure"
}

// One reads the row that meets the condition, or ErrNone.
func One[T Row](tx *Tx, row *T, where string, args ...any) error {
	return of[T](tx).Where(where, args...).Take(row).Error
}

// Locked is One, and nobody else changes the row until the transaction ends.
func Locked[T Row](tx *Tx, row *T, where string, args ...any) error {
	return of[T](tx).Clauses(clause.Locking{Strength: "UPDATE"}).Where(where, args...).Take(row).Error
}

// Exists gives ErrNone where no row meets the condition.
func Exists[T Row](tx *Tx, where string, args ...any) error {
	n, err := Count[T](tx, where, args...)
	if err == nil && n == 0 {
		return ErrNone
	}
	return err
}

// All reads the rows that meet the condition, in an order. No condition is all.
func All[T Row](tx *Tx, rows *[]T, order, where string, args ...any) error {
	return Some(tx, rows, -1, order, where, args...)
}

// Some is All of the first rows; a negative number is no bound.
func Some[T Row](tx *Tx, rows *[]T, most int, order, where string, args ...any) error {
	q := of[T](tx).Limit(most)
	if where != "" {
		q = q.Where(where, args...)
	}
	if order != "" {
		q = q.Order(order)
	}
	return q.Find(rows).Error
}

// Pluck reads one column of the rows that meet the condition.
func Pluck[T Row](tx *Tx, column string, into any, where string, args ...any) error {
	return of[T](tx).Where(where, args...).Pluck(column, into).Error
}

// Count counts the rows that meet the condition.
func Count[T Row](tx *Tx, where string, args ...any) (int64, error) {
	var n int64
	err := of[T](tx).Where(where, args...).Count(&n).Error
	return n, err
}

// Add makes a row.
func Add[T Row](tx *Tx, row *T) error { return tx.db.Create(row).Error }

// batch is how many rows go in one statement.
const batch = 500

// AddAll makes many rows.
func AddAll[T Row](tx *Tx, rows []T) error {
	if len(rows) == 0 {
		return nil
	}
	return tx.db.CreateInBatches(&rows, batch).Error
}

// AddNew makes those of the rows whose key is not there yet, and says how many.
func AddNew[T Row](tx *Tx, rows []T) (int64, error) {
	if len(rows) == 0 {
		return 0, nil
	}
	done := tx.db.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(&rows, 4*batch)
	return done.RowsAffected, done.Error
}

// Put makes a row, or replaces the one with the same key.
func Put[T Row](tx *Tx, row *T) error {
	return tx.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(row).Error
}

// PutNext is Put of a row that counts its versions: ErrStale unless the row there
// is the version before.
func PutNext[T Row](tx *Tx, row *T) error {
	next := clause.Expr{SQL: (*row).TableName() + ".version = EXCLUDED.version - 1"}
	done := tx.db.Clauses(clause.OnConflict{UpdateAll: true,
		Where: clause.Where{Exprs: []clause.Expression{next}}}).Create(row)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrStale
	}
	return done.Error
}

// Save writes a whole row over the version before its own: ErrStale where it has
// another by now, ErrNone where there is none. When it was made stays.
func Save[T Row](tx *Tx, row *T, id uuid.UUID, version int) error {
	done := of[T](tx).Where("id = ? AND version = ?", id, version).Select("*").Omit("created_at").Updates(row)
	return saved[T](tx, done, id)
}

// Change sets columns of a row and counts its version on; errors as of Save.
func Change[T Row](tx *Tx, id uuid.UUID, version int, columns map[string]any) error {
	values, err := written[T](tx, columns)
	if err != nil {
		return err
	}
	values["version"] = version + 1
	return saved[T](tx, of[T](tx).Where("id = ? AND version = ?", id, version).Updates(values), id)
}

func saved[T Row](tx *Tx, done *gorm.DB, id uuid.UUID) error {
	if done.Error != nil || done.RowsAffected == 1 {
		return done.Error
	}
	if err := Exists[T](tx, "id = ?", id); err != nil {
		return err
	}
	return ErrStale
}

// Set sets columns of the rows that meet the condition, if there are any.
func Set[T Row](tx *Tx, columns map[string]any, where string, args ...any) error {
	values, err := written[T](tx, columns)
	if err != nil {
		return err
	}
	return of[T](tx).Where(where, args...).Updates(values).Error
}

// written are columns as the table keeps them: GORM writes JSON by itself only
// where a whole row is given.
func written[T Row](tx *Tx, columns map[string]any) (map[string]any, error) {
	var row T
	stmt := &gorm.Statement{DB: tx.db}
	if err := stmt.Parse(&row); err != nil {
		return nil, fmt.Errorf("reading the table %s: %w", row.TableName(), err)
	}
	values := map[string]any{}
	for name, value := range columns {
		values[name] = value
		if field := stmt.Schema.LookUpField(name); field != nil && field.Serializer != nil {
			text, err := field.Serializer.Value(tx.db.Statement.Context, field, reflect.Value{}, value)
			if err != nil {
				return nil, fmt.Errorf("writing %s: %w", name, err)
			}
			values[name] = text
		}
	}
	return values, nil
}

// SetOne is Set, or ErrNone where no row meets the condition.
func SetOne[T Row](tx *Tx, columns map[string]any, where string, args ...any) error {
	values, err := written[T](tx, columns)
	if err != nil {
		return err
	}
	done := of[T](tx).Where(where, args...).Updates(values)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNone
	}
	return done.Error
}

// Remove takes the rows away that meet the condition; ErrNone where none does,
// ErrReferred where another row speaks of one.
func Remove[T Row](tx *Tx, where string, args ...any) error {
	var row T
	done := of[T](tx).Where(where, args...).Delete(&row)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNone
	}
	return done.Error
}

// Read runs a query that is a use case of its own. SQL names the crew as @crew;
// it is always given.
func (tx *Tx) Read(into any, sql string, args Args) error {
	return tx.db.Raw(sql, tx.named(sql, args)...).Scan(into).Error
}

// Do runs a statement that is a use case of its own, and says how many rows it
// touched.
func (tx *Tx) Do(sql string, args Args) (int64, error) {
	done := tx.db.Exec(sql, tx.named(sql, args)...)
	return done.RowsAffected, done.Error
}

// Args are what a query names with @.
type Args map[string]any

func (tx *Tx) named(sql string, args Args) []any {
	if !strings.Contains(sql, "@") {
		return nil
	}
	all := map[string]any{"crew": tx.crew}
	maps.Copy(all, args)
	return []any{all}
}

// Lock holds every other transaction of the crew that asks for the same back until this one
// ends, and gives the number of the crew's turn.
func (tx *Tx) Lock() (turn int64, err error) {
	done := tx.db.Raw("UPDATE crew SET turn = turn + 1 WHERE id = ? RETURNING turn", tx.crew).Scan(&turn)
	if done.Error != nil {
		return 0, fmt.Errorf("waiting for other writes: %w", done.Error)
	}
	if done.RowsAffected == 0 {
		return 0, ErrNone
	}
	return turn, nil
}

// Turn is the number of the crew's last turn.
func (tx *Tx) Turn() (turn int64, err error) {
	if err := tx.db.Raw("SELECT turn FROM crew WHERE id = ?", tx.crew).Scan(&turn).Error; err != nil {
		return 0, fmt.Errorf("reading the crew's turn: %w", err)
	}
	return turn, nil
}
