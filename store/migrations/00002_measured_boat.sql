-- +goose Up
-- The owner of the tables changes rows of every crew here, so its own policy steps aside.
ALTER TABLE boat NO FORCE ROW LEVEL SECURITY;
-- Twelve measures of one kind of hull become the measures of one form of several;
-- the chine at the transom now follows from the beams, and the transom may lean.
UPDATE boat SET hull = (hull - 'chine') || jsonb_build_object('form', 'vee',
    'measures', ((hull -> 'chine') - 'transom_chine_beam_m') || '{"rake_deg": 0}'::jsonb)
  WHERE hull ? 'chine';
ALTER TABLE boat FORCE ROW LEVEL SECURITY;
ALTER TABLE boat
  ADD COLUMN setup jsonb NOT NULL DEFAULT '[]', -- stages of setting up that the crew has gone through
  ADD COLUMN trailer jsonb;                      -- null where she has none

ALTER TABLE place
  ADD COLUMN parent_id uuid,
  ADD COLUMN lid text NOT NULL DEFAULT 'none' CHECK (lid IN ('none', 'hinged', 'lift-off', 'sliding', 'soft')),
  ADD COLUMN latched boolean NOT NULL DEFAULT false,
  ADD COLUMN locks boolean NOT NULL DEFAULT false,
  ADD COLUMN drained boolean NOT NULL DEFAULT false,
  ADD COLUMN insulated boolean NOT NULL DEFAULT false,
  ADD CHECK (parent_id <> id),
  ADD FOREIGN KEY (crew_id, boat_id, parent_id) REFERENCES place (crew_id, boat_id, id);
CREATE INDEX place_parent_idx ON place (crew_id, boat_id, parent_id);

-- In what a piece rides on the road, while it belongs aboard.
ALTER TABLE stowage ADD COLUMN rides text NOT NULL DEFAULT 'boat' CHECK (rides IN ('boat', 'car', 'van'));

-- Pictures of a boat or a place, re-encoded by the program: no metadata is kept.
CREATE TABLE photo (
  id       uuid PRIMARY KEY,
  crew_id  uuid NOT NULL,
  boat_id  uuid NOT NULL,
  place_id uuid,
  by_member uuid NOT NULL,
  at       timestamptz NOT NULL DEFAULT now(),
  width    integer NOT NULL CHECK (width BETWEEN 1 AND 1600),
  height   integer NOT NULL CHECK (height BETWEEN 1 AND 1600),
  jpeg     bytea NOT NULL CHECK (length(jpeg) BETWEEN 1 AND 2000000),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, boat_id, place_id) REFERENCES place (crew_id, boat_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, by_member) REFERENCES member (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX photo_boat_idx ON photo (crew_id, boat_id, at DESC);

-- Float checks and inclining checks: what was read, what the program made of it,
-- and the correction that a skipper accepted, if one was.
CREATE TABLE survey (
  id       uuid PRIMARY KEY,
  crew_id  uuid NOT NULL,
  boat_id  uuid NOT NULL,
  at       timestamptz NOT NULL DEFAULT now(),
  by_member uuid NOT NULL,
  kind     text NOT NULL CHECK (kind IN ('float', 'incline')),
  input    jsonb NOT NULL,
  result   jsonb NOT NULL,
  accepted text CHECK (accepted IN ('mass', 'hull', 'height')),
  accepted_by uuid,
  accepted_at timestamptz,
  CHECK ((accepted IS NULL) = (accepted_at IS NULL)),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, by_member) REFERENCES member (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, accepted_by) REFERENCES member (crew_id, id) ON DELETE SET NULL (accepted_by)
);
CREATE INDEX survey_boat_idx ON survey (crew_id, boat_id, at DESC);

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['photo', 'survey'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY of_crew ON %I USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew())', t);
  END LOOP;
END $$;
-- +goose StatementEnd
GRANT SELECT, INSERT, DELETE ON photo TO ergasia_app;
GRANT SELECT, INSERT, UPDATE (accepted, accepted_by, accepted_at) ON survey TO ergasia_app;

-- +goose Down
DROP TABLE survey, photo;
ALTER TABLE stowage DROP COLUMN rides;
ALTER TABLE place DROP COLUMN parent_id, DROP COLUMN lid, DROP COLUMN latched, DROP COLUMN locks, DROP COLUMN drained, DROP COLUMN insulated;
ALTER TABLE boat DROP COLUMN setup, DROP COLUMN trailer;
