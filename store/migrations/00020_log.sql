-- +goose Up
-- What went along on a trip, and whether a hand came to it; null where nobody said.
CREATE TABLE trip_use (
  crew_id uuid NOT NULL,
  trip_id uuid NOT NULL,
  gear_id uuid NOT NULL,
  used    boolean,
  PRIMARY KEY (crew_id, trip_id, gear_id),
  FOREIGN KEY (crew_id, trip_id) REFERENCES trip (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX trip_use_of_gear ON trip_use (crew_id, gear_id);
ALTER TABLE trip_use ENABLE ROW LEVEL SECURITY;
ALTER TABLE trip_use FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON trip_use USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON trip_use TO ergasia_app;

-- Whoever holds a trip's link may learn which trip it is, until it ends.
CREATE TABLE trip_link (
  crew_id    uuid NOT NULL,
  trip_id    uuid NOT NULL,
  token_hash bytea NOT NULL UNIQUE CHECK (length(token_hash) = 32),
  made_by    uuid NOT NULL,
  expires_at timestamptz NOT NULL,
  PRIMARY KEY (crew_id, trip_id),
  FOREIGN KEY (crew_id, trip_id) REFERENCES trip (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, made_by) REFERENCES member (crew_id, id) ON DELETE CASCADE
);
ALTER TABLE trip_link ENABLE ROW LEVEL SECURITY;
ALTER TABLE trip_link FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON trip_link USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
CREATE POLICY held ON trip_link FOR SELECT USING (token_hash = current_link());
GRANT SELECT, INSERT, UPDATE, DELETE ON trip_link TO ergasia_app;

-- What else was told after a trip, and what was caught on it.
ALTER TABLE trip
  ADD COLUMN log jsonb,
  ADD COLUMN catch jsonb;
-- A picture of a boat, of a piece of gear, or of a trip.
ALTER TABLE photo
  ADD COLUMN trip_id uuid,
  DROP CONSTRAINT photo_check,
  ADD CONSTRAINT photo_check CHECK (num_nonnulls(boat_id, gear_id, trip_id) = 1),
  ADD FOREIGN KEY (crew_id, trip_id) REFERENCES trip (crew_id, id) ON DELETE CASCADE;
CREATE INDEX photo_trip_idx ON photo (crew_id, trip_id, at DESC) WHERE trip_id IS NOT NULL;
-- How a boat is to be stowed for a trip is an arrangement of that trip.
ALTER TABLE arrangement
  ADD COLUMN trip_id uuid,
  ADD FOREIGN KEY (crew_id, trip_id) REFERENCES trip (crew_id, id) ON DELETE CASCADE,
  ADD UNIQUE (crew_id, trip_id);
-- What a fish of so many centimetres weighs, where the crew changed the usual table.
ALTER TABLE crew ADD COLUMN species jsonb;

-- +goose Down
DROP TABLE trip_use, trip_link;
ALTER TABLE trip DROP COLUMN log, DROP COLUMN catch;
DELETE FROM photo WHERE trip_id IS NOT NULL;
ALTER TABLE photo DROP COLUMN trip_id, ADD CONSTRAINT photo_check CHECK ((boat_id IS NULL) <> (gear_id IS NULL));
ALTER TABLE arrangement DROP COLUMN trip_id;
ALTER TABLE crew DROP COLUMN species;
