-- +goose Up
-- How many writes a crew has made. Whoever writes counts it on, and by that holds the row:
-- one crew's writes are made one after another, and what was worked out before the turn came
-- can see whether anything was written meanwhile.
ALTER TABLE crew ADD COLUMN turn bigint NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE crew DROP COLUMN turn;
