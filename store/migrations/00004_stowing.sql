-- +goose Up
-- How often a thing is fetched on a day it is along, and from which post; an
-- empty post is wherever people are.
ALTER TABLE gear
  ADD COLUMN uses_per_day double precision NOT NULL DEFAULT 1 CHECK (uses_per_day BETWEEN 0 AND 1000),
  ADD COLUMN used_from text NOT NULL DEFAULT '' CHECK (length(used_from) <= 80);
-- What finding looks at of a thing before it chooses: read off the index alone.
CREATE INDEX gear_recent_idx ON gear (crew_id, id) INCLUDE (used_at, owner_id);

-- +goose Down
DROP INDEX gear_recent_idx;
ALTER TABLE gear DROP COLUMN uses_per_day, DROP COLUMN used_from;
