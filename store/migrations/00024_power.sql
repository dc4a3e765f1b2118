-- +goose Up
-- What gear is as a battery: it keeps that when it moves to another boat.
ALTER TABLE gear
  ADD COLUMN chemistry text NOT NULL DEFAULT '' CHECK (length(chemistry) <= 20),
  ADD COLUMN volts double precision NOT NULL DEFAULT 0 CHECK (volts BETWEEN 0 AND 100),
  ADD COLUMN amp_hours double precision NOT NULL DEFAULT 0 CHECK (amp_hours BETWEEN 0 AND 2000),
  ADD COLUMN cranking double precision NOT NULL DEFAULT 0 CHECK (cranking BETWEEN 0 AND 3000),
  ADD COLUMN in_use_since date,
  -- How small things are charged, and what a charger charges, so many at once.
  ADD COLUMN charged_by text NOT NULL DEFAULT '' CHECK (length(charged_by) <= 20),
  ADD COLUMN charges text NOT NULL DEFAULT '' CHECK (length(charges) <= 20),
  ADD COLUMN sockets integer NOT NULL DEFAULT 0 CHECK (sockets BETWEEN 0 AND 100);
CREATE INDEX gear_charger_idx ON gear (crew_id) WHERE charges <> '';

-- A boat's banks, what stands between them and the things they feed, and the circuits: one
-- net, which is right or not as a whole.
CREATE TABLE electrics (
  boat_id uuid PRIMARY KEY,
  crew_id uuid NOT NULL,
  net     jsonb NOT NULL CHECK (jsonb_typeof(net) = 'object'),
  learned jsonb NOT NULL DEFAULT '[]' CHECK (jsonb_typeof(learned) = 'array'), -- of its banks, from volts at rest
  version integer NOT NULL,
  UNIQUE (crew_id, boat_id),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE
);
ALTER TABLE electrics ENABLE ROW LEVEL SECURITY;
ALTER TABLE electrics FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON electrics USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON electrics TO ergasia_app;

-- +goose Down
DROP TABLE electrics;
ALTER TABLE gear DROP COLUMN chemistry, DROP COLUMN volts, DROP COLUMN amp_hours, DROP COLUMN cranking,
  DROP COLUMN in_use_since, DROP COLUMN charged_by, DROP COLUMN charges, DROP COLUMN sockets;
