-- +goose Up
-- What a piece of gear is as safety equipment.
ALTER TABLE gear
  ADD COLUMN safety_class text NOT NULL DEFAULT '' CHECK (length(safety_class) <= 40),
  ADD COLUMN safety_also  jsonb NOT NULL DEFAULT '[]',          -- what it serves as instead
  ADD COLUMN fits_low     double precision NOT NULL DEFAULT 0 CHECK (fits_low BETWEEN 0 AND 400), -- body masses, kg; nought is not said
  ADD COLUMN fits_high    double precision NOT NULL DEFAULT 0 CHECK (fits_high BETWEEN 0 AND 400),
  ADD COLUMN worn_by      uuid,
  ADD COLUMN registration text NOT NULL DEFAULT '' CHECK (length(registration) <= 80),
  ADD CHECK (fits_low <= fits_high),
  ADD FOREIGN KEY (crew_id, worn_by) REFERENCES member (crew_id, id) ON DELETE SET NULL (worn_by);
CREATE INDEX gear_safety_idx ON gear (crew_id, safety_class) WHERE safety_class <> '';

-- Which packs of rules a crew holds its trips against, and where it fishes.
CREATE TABLE crew_rules (
  crew_id uuid PRIMARY KEY REFERENCES crew (id) ON DELETE CASCADE,
  country text NOT NULL DEFAULT '' CHECK (country ~ '^([A-Z]{2})?$'),
  packs   jsonb NOT NULL,
  version integer NOT NULL DEFAULT 1
);
ALTER TABLE crew_rules ENABLE ROW LEVEL SECURITY;
ALTER TABLE crew_rules FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON crew_rules USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON crew_rules TO ergasia_app;

-- A crew's own packs, and every version of each.
CREATE TABLE rule_pack (
  id         uuid PRIMARY KEY,
  crew_id    uuid NOT NULL REFERENCES crew (id) ON DELETE CASCADE,
  name       text NOT NULL CHECK (name ~ '^[a-z0-9-]{1,60}$'),
  body       jsonb NOT NULL,
  history    jsonb NOT NULL, -- who changed it when, to what, and for which trips that changed something
  version    integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  UNIQUE (crew_id, name)
);
ALTER TABLE rule_pack ENABLE ROW LEVEL SECURITY;
ALTER TABLE rule_pack FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON rule_pack USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON rule_pack TO ergasia_app;

-- Papers: of the crew, of a boat, or of a person.
CREATE TABLE paper (
  id         uuid PRIMARY KEY,
  crew_id    uuid NOT NULL REFERENCES crew (id) ON DELETE CASCADE,
  name       text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind       text NOT NULL,
  number     text NOT NULL DEFAULT '' CHECK (length(number) <= 80),
  boat_id    uuid,
  member_id  uuid,
  waters     jsonb NOT NULL,                      -- of a trip's water, in words; none is everywhere
  asked      integer NOT NULL DEFAULT 0,          -- in which order they are asked for
  expires_on date,
  wallet_id  uuid,                                -- the gear that it lies in
  note       text NOT NULL DEFAULT '' CHECK (length(note) <= 600),
  version    integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, member_id) REFERENCES member (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, wallet_id) REFERENCES gear (crew_id, id) ON DELETE SET NULL (wallet_id)
);
CREATE INDEX paper_crew_idx ON paper (crew_id);
ALTER TABLE paper ENABLE ROW LEVEL SECURITY;
ALTER TABLE paper FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON paper USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON paper TO ergasia_app;

-- What went wrong aboard, and what is to be done about it.
CREATE TABLE job (
  id        uuid PRIMARY KEY,
  crew_id   uuid NOT NULL,
  boat_id   uuid NOT NULL,
  kind      text NOT NULL,
  what      text NOT NULL CHECK (length(what) BETWEEN 1 AND 200),
  state     text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'doing', 'done')),
  holds     boolean NOT NULL DEFAULT false, -- a trip is not ready while it is not done
  trip_id   uuid,
  gear_id   uuid,
  story     jsonb NOT NULL,
  at        timestamptz NOT NULL,
  by_member uuid NOT NULL,
  version   integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, trip_id) REFERENCES trip (crew_id, id) ON DELETE SET NULL (trip_id),
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE SET NULL (gear_id)
);
CREATE INDEX job_boat_idx ON job (crew_id, boat_id, at DESC);
ALTER TABLE job ENABLE ROW LEVEL SECURITY;
ALTER TABLE job FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON job USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON job TO ergasia_app;

-- A crew's own lines of checklists, of one boat or of all.
CREATE TABLE list_line (
  id       uuid PRIMARY KEY,
  crew_id  uuid NOT NULL REFERENCES crew (id) ON DELETE CASCADE,
  boat_id  uuid,
  trip_id  uuid,          -- of one trip only
  stage    text NOT NULL,
  text     text NOT NULL CHECK (length(text) BETWEEN 1 AND 200),
  holds    boolean NOT NULL DEFAULT false,
  sort     integer NOT NULL DEFAULT 0,
  version  integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, trip_id) REFERENCES trip (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX list_line_crew_idx ON list_line (crew_id);
ALTER TABLE list_line ENABLE ROW LEVEL SECURITY;
ALTER TABLE list_line FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON list_line USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON list_line TO ergasia_app;

-- Ticks of a trip's checklists.
CREATE TABLE tick (
  crew_id   uuid NOT NULL,
  trip_id   uuid NOT NULL,
  line      text NOT NULL CHECK (length(line) BETWEEN 1 AND 120),
  done      boolean NOT NULL DEFAULT false,
  at        timestamptz,   -- when it was ticked, as the phone says
  by_member uuid,
  who       uuid,          -- whose line it is
  PRIMARY KEY (crew_id, trip_id, line),
  FOREIGN KEY (crew_id, trip_id) REFERENCES trip (crew_id, id) ON DELETE CASCADE
);
ALTER TABLE tick ENABLE ROW LEVEL SECURITY;
ALTER TABLE tick FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON tick USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON tick TO ergasia_app;

-- Tries of the find drill.
CREATE TABLE drill (
  id        uuid PRIMARY KEY,
  crew_id   uuid NOT NULL,
  boat_id   uuid NOT NULL,
  member_id uuid,
  name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 80), -- who played, also of a guest
  gear_id   uuid NOT NULL,
  place_id  uuid,          -- where it lay
  seconds   double precision NOT NULL CHECK (seconds BETWEEN 0 AND 3600),
  found     boolean NOT NULL,
  wrong     jsonb NOT NULL, -- places that were looked into before, in order
  at        timestamptz NOT NULL,
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX drill_boat_idx ON drill (crew_id, boat_id, at DESC);
ALTER TABLE drill ENABLE ROW LEVEL SECURITY;
ALTER TABLE drill FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON drill USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON drill TO ergasia_app;

-- Where a trip is and what rules ask of it, where that is not what the program takes it to be.
ALTER TABLE trip ADD COLUMN rules jsonb;
-- What guests are told at the boat, by a link of its own that lasts until it is ended.
CREATE TABLE boat_link (
  crew_id    uuid NOT NULL,
  boat_id    uuid NOT NULL,
  token_hash bytea NOT NULL UNIQUE CHECK (length(token_hash) = 32),
  made_by    uuid NOT NULL,
  made_at    timestamptz NOT NULL,
  PRIMARY KEY (crew_id, boat_id),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, made_by) REFERENCES member (crew_id, id) ON DELETE CASCADE
);
ALTER TABLE boat_link ENABLE ROW LEVEL SECURITY;
ALTER TABLE boat_link FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON boat_link USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
CREATE POLICY held ON boat_link FOR SELECT USING (token_hash = current_link());
GRANT SELECT, INSERT, UPDATE, DELETE ON boat_link TO ergasia_app;

-- Pictures of papers and of what went wrong.
ALTER TABLE photo
  ADD COLUMN paper_id uuid,
  ADD COLUMN job_id uuid,
  DROP CONSTRAINT photo_check,
  ADD CONSTRAINT photo_check CHECK (num_nonnulls(boat_id, gear_id, trip_id, fitting_id, paper_id, job_id) = 1),
  ADD FOREIGN KEY (crew_id, paper_id) REFERENCES paper (crew_id, id) ON DELETE CASCADE,
  ADD FOREIGN KEY (crew_id, job_id) REFERENCES job (crew_id, id) ON DELETE CASCADE;
CREATE INDEX photo_paper_idx ON photo (crew_id, paper_id, at DESC) WHERE paper_id IS NOT NULL;
CREATE INDEX photo_job_idx ON photo (crew_id, job_id, at DESC) WHERE job_id IS NOT NULL;

-- +goose Down
DELETE FROM photo WHERE paper_id IS NOT NULL OR job_id IS NOT NULL;
ALTER TABLE photo DROP COLUMN paper_id, DROP COLUMN job_id,
  ADD CONSTRAINT photo_check CHECK (num_nonnulls(boat_id, gear_id, trip_id, fitting_id) = 1);
DROP TABLE boat_link, drill, tick, list_line, job, paper, rule_pack, crew_rules;
ALTER TABLE trip DROP COLUMN rules;
ALTER TABLE gear DROP COLUMN safety_class, DROP COLUMN safety_also, DROP COLUMN fits_low, DROP COLUMN fits_high,
  DROP COLUMN worn_by, DROP COLUMN registration;
