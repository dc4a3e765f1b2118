-- +goose Up
-- What is fastened to a boat: where it stands, how it is held, what becomes of it. JSON
-- as the program writes it.
CREATE TABLE fitting (
  id         uuid PRIMARY KEY,
  crew_id    uuid NOT NULL,
  boat_id    uuid NOT NULL,
  name       text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind       text NOT NULL,
  kg         double precision NOT NULL CHECK (kg BETWEEN 0 AND 500), -- with what holds it
  mass_known text NOT NULL CHECK (mass_known IN ('weighed', 'plate', 'catalogue', 'guess')),
  part_of    text NOT NULL DEFAULT '' CHECK (length(part_of) <= 80), -- the boat's mass in which it was counted
  lies       jsonb NOT NULL,
  held       jsonb NOT NULL,
  look       jsonb NOT NULL,
  parts      jsonb NOT NULL,
  story      jsonb NOT NULL,
  cost       double precision CHECK (cost BETWEEN 0 AND 1e9),
  note       text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
  version    integer NOT NULL DEFAULT 1,
  created_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (crew_id, id),
  UNIQUE (crew_id, boat_id, name),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE
);
ALTER TABLE fitting ENABLE ROW LEVEL SECURITY;
ALTER TABLE fitting FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON fitting USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON fitting TO ergasia_app;
-- On which edge a lid turns; empty where nobody said.
ALTER TABLE place ADD COLUMN hinge text NOT NULL DEFAULT '' CHECK (hinge IN ('', 'aft', 'fore', 'port', 'starboard'));
-- A picture of a fitting.
ALTER TABLE photo
  ADD COLUMN fitting_id uuid,
  DROP CONSTRAINT photo_check,
  ADD CONSTRAINT photo_check CHECK (num_nonnulls(boat_id, gear_id, trip_id, fitting_id) = 1),
  ADD FOREIGN KEY (crew_id, fitting_id) REFERENCES fitting (crew_id, id) ON DELETE CASCADE;
CREATE INDEX photo_fitting_idx ON photo (crew_id, fitting_id, at DESC) WHERE fitting_id IS NOT NULL;

-- +goose Down
DELETE FROM photo WHERE fitting_id IS NOT NULL;
ALTER TABLE photo DROP COLUMN fitting_id,
  ADD CONSTRAINT photo_check CHECK (num_nonnulls(boat_id, gear_id, trip_id) = 1);
ALTER TABLE place DROP COLUMN hinge;
DROP TABLE fitting;
