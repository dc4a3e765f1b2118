-- +goose Up
-- Fittings that come off: units that dock in bases, and sets that are put on and taken
-- off as one. A unit that is in no base belongs to no boat.
ALTER TABLE fitting
  ALTER COLUMN boat_id DROP NOT NULL,
  ADD COLUMN dock text NOT NULL DEFAULT '' CHECK (length(dock) <= 80), -- of a base what it takes, of a unit what it stands on
  ADD COLUMN unit boolean NOT NULL DEFAULT false,
  ADD COLUMN base_id uuid,
  ADD COLUMN is_off boolean NOT NULL DEFAULT false, -- taken off, and ashore
  ADD COLUMN moving jsonb NOT NULL DEFAULT '{}',    -- what taking it off or moving it takes
  ADD FOREIGN KEY (crew_id, base_id) REFERENCES fitting (crew_id, id) ON DELETE SET NULL (base_id),
  ADD CHECK (unit OR base_id IS NULL AND boat_id IS NOT NULL),
  ADD CHECK (NOT unit OR dock <> '');
CREATE UNIQUE INDEX fitting_base_idx ON fitting (crew_id, base_id) WHERE base_id IS NOT NULL;
CREATE UNIQUE INDEX fitting_unit_name ON fitting (crew_id, name) WHERE unit;

CREATE TABLE rig_set (
  id       uuid PRIMARY KEY,
  crew_id  uuid NOT NULL,
  boat_id  uuid NOT NULL,
  name     text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  lines    jsonb NOT NULL, -- fittings that are on, and units with their bases
  version  integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  UNIQUE (crew_id, boat_id, name),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE
);
ALTER TABLE rig_set ENABLE ROW LEVEL SECURITY;
ALTER TABLE rig_set FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON rig_set USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON rig_set TO ergasia_app;

-- +goose Down
DROP TABLE rig_set;
DELETE FROM fitting WHERE boat_id IS NULL;
ALTER TABLE fitting ALTER COLUMN boat_id SET NOT NULL, DROP COLUMN dock, DROP COLUMN unit, DROP COLUMN base_id, DROP COLUMN is_off, DROP COLUMN moving;
