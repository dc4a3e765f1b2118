-- +goose Up
-- What a crew said that the headings of its tables are, by heading in small letters.
ALTER TABLE crew ADD COLUMN headings jsonb CHECK (length(headings::text) <= 40000);

-- +goose Down
ALTER TABLE crew DROP COLUMN headings;
