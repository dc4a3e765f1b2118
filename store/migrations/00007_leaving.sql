-- +goose Up
-- Who leaves a crew is kept, since what they did has their name; they don't sign in
-- to it, and are not among its people.
ALTER TABLE member
  ADD COLUMN left_at timestamptz,
  ADD CONSTRAINT member_left_check CHECK (left_at IS NULL OR user_id IS NULL);

-- +goose Down
ALTER TABLE member DROP COLUMN left_at;
