-- +goose Up
-- A thing was noted where a rule says no, since that is where it lies.
ALTER TABLE stowage ADD COLUMN anyway boolean NOT NULL DEFAULT false;

-- +goose Down
ALTER TABLE stowage DROP COLUMN anyway;
