-- +goose Up
-- A trip is the spine: what kind of day, who comes, which kits, how the day goes, what stays ashore
-- of the boat's things, what was settled, and what a skipper accepted. JSON as the
-- program writes it; null where nobody said.
ALTER TABLE trip
  ADD COLUMN kind text NOT NULL DEFAULT 'day'
    CHECK (kind IN ('day', 'tournament', 'guiding', 'offshore', 'night', 'days')),
  ADD COLUMN people jsonb,
  ADD COLUMN kits jsonb,
  ADD COLUMN day jsonb,
  ADD COLUMN ashore jsonb,
  ADD COLUMN settled jsonb,
  ADD COLUMN accepted jsonb;

-- +goose Down
ALTER TABLE trip DROP COLUMN kind, DROP COLUMN people, DROP COLUMN kits, DROP COLUMN day, DROP COLUMN ashore, DROP COLUMN settled,
  DROP COLUMN accepted;
