package store

import (
	"encoding/json"
	"fmt"
	"strings"
)

// Rows are rows of a table as JSON, to be put back as they were.
type Rows struct {
	Table string          `json:"table"`
	Rows  json.RawMessage `json:"rows"`
}

// Snapshot reads the crew's rows of a table that meet a condition. The table's name
// is never a person's word.
func Snapshot(tx *Tx, table, where string, args Args) (Rows, error) {
	var text []string
	err := tx.Read(&text, fmt.Sprintf("SELECT coalesce(jsonb_agg(to_jsonb(t)), '[]') FROM %s t WHERE crew_id = @crew AND %s",
		table, where), args)
	if err != nil {
		return Rows{}, fmt.Errorf("keeping rows of %s: %w", table, err)
	}
	return Rows{Table: table, Rows: json.RawMessage(strings.Join(text, ""))}, nil
}

// PutBackFree is PutBack of rows that may clash with others by now, or speak of what is gone:
// those stay out. It gives the values of a column of those that are back.
func PutBackFree(tx *Tx, r Rows, column string) (back []string, err error) {
	list, err := columnsOf(tx, r.Table)
	if err != nil {
		return nil, err
	}
	err = tx.Read(&back, fmt.Sprintf(`INSERT INTO %s (%s) SELECT %s FROM jsonb_populate_recordset(NULL::%s, CAST(@rows AS jsonb)) r
		WHERE crew_id = @crew AND EXISTS (SELECT FROM gear WHERE gear.crew_id = @crew AND gear.id = r.gear_id)
		ON CONFLICT DO NOTHING RETURNING %s`, r.Table, list, list, r.Table, column), Args{"rows": string(r.Rows)})
	if err != nil {
		return nil, fmt.Errorf("putting rows of %s back: %w", r.Table, err)
	}
	return back, nil
}

func columnsOf(tx *Tx, table string) (list string, err error) {
	var columns []string
	err = tx.Read(&columns, `SELECT quote_ident(column_name) FROM information_schema.columns
		WHERE table_schema = current_schema() AND table_name = @table AND is_generated = 'NEVER'`, Args{"table": table})
	if err != nil {
		return "", fmt.Errorf("reading the columns of %s: %w", table, err)
	}
	return strings.Join(columns, ", "), nil
}

// PutBack makes rows again that a snapshot has. ErrTaken and ErrReferred where
// something else has their place by now, or what they speak of is gone.
func PutBack(tx *Tx, r Rows) error {
	list, err := columnsOf(tx, r.Table)
	if err != nil {
		return err
	}
	_, err = tx.Do(fmt.Sprintf(`INSERT INTO %s (%s) SELECT %s FROM jsonb_populate_recordset(NULL::%s, CAST(@rows AS jsonb))
		WHERE crew_id = @crew`, r.Table, list, list, r.Table), Args{"rows": string(r.Rows)})
	if err != nil && state(err) == exclusionViolation {
		err = ErrTaken
	}
	if err != nil {
		return fmt.Errorf("putting rows of %s back: %w", r.Table, err)
	}
	return nil
}
