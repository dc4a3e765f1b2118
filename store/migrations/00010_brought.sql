-- +goose Up
-- Whether a piece is used where it lies (one way there and back), or brought to
-- the post and stowed again (two).
ALTER TABLE gear ADD COLUMN brought boolean NOT NULL DEFAULT false;

-- +goose Down
ALTER TABLE gear DROP COLUMN brought;
