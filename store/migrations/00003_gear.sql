-- +goose Up
-- Both come with PostgreSQL and are trusted: whoever owns the database may add them.
CREATE EXTENSION IF NOT EXISTS btree_gist;
CREATE EXTENSION IF NOT EXISTS pg_trgm;

-- The owner of the tables changes rows of every crew here, so its own policy steps aside.
ALTER TABLE gear NO FORCE ROW LEVEL SECURITY;
ALTER TABLE stowage NO FORCE ROW LEVEL SECURITY;

ALTER TABLE gear
  DROP CONSTRAINT gear_count_check,
  ADD CHECK (count BETWEEN 0 AND 10000),
  ADD COLUMN nickname text NOT NULL DEFAULT '' CHECK (length(nickname) <= 80),
  ADD COLUMN tags jsonb NOT NULL DEFAULT '[]',
  ADD COLUMN shape text NOT NULL DEFAULT 'box' CHECK (shape IN ('box', 'rod', 'soft', 'loose')),
  -- In use, where that is another size than stowed; nought where it is not.
  ADD COLUMN use_length double precision NOT NULL DEFAULT 0 CHECK (use_length BETWEEN 0 AND 10),
  ADD COLUMN use_breadth double precision NOT NULL DEFAULT 0 CHECK (use_breadth BETWEEN 0 AND 10),
  ADD COLUMN use_height double precision NOT NULL DEFAULT 0 CHECK (use_height BETWEEN 0 AND 10),
  ADD COLUMN fragile boolean NOT NULL DEFAULT false,
  ADD COLUMN metal boolean NOT NULL DEFAULT false,
  ADD COLUMN buoyant boolean NOT NULL DEFAULT false,
  ADD COLUMN hazards jsonb NOT NULL DEFAULT '[]',
  ADD COLUMN serial text NOT NULL DEFAULT '' CHECK (length(serial) <= 80),
  ADD COLUMN cost double precision CHECK (cost BETWEEN 0 AND 10000000), -- in the crew's money
  ADD COLUMN expires_on date, -- its last good day
  ADD COLUMN condition text NOT NULL DEFAULT 'good' CHECK (condition IN ('good', 'worn', 'broken')),
  ADD COLUMN spares_for uuid,
  ADD COLUMN restock_at integer NOT NULL DEFAULT 0 CHECK (restock_at BETWEEN 0 AND 10000), -- nought: not used up
  -- What it holds, where it is a container; nought where it is none.
  ADD COLUMN inside_length double precision NOT NULL DEFAULT 0 CHECK (inside_length BETWEEN 0 AND 10),
  ADD COLUMN inside_breadth double precision NOT NULL DEFAULT 0 CHECK (inside_breadth BETWEEN 0 AND 10),
  ADD COLUMN inside_height double precision NOT NULL DEFAULT 0 CHECK (inside_height BETWEEN 0 AND 10),
  ADD COLUMN keeps_dry boolean NOT NULL DEFAULT false,
  ADD COLUMN holds_kg double precision NOT NULL DEFAULT 0 CHECK (holds_kg BETWEEN 0 AND 1000), -- nought: no limit
  ADD COLUMN hours double precision NOT NULL DEFAULT 0 CHECK (hours BETWEEN 0 AND 1000000),
  ADD COLUMN trips integer NOT NULL DEFAULT 0 CHECK (trips BETWEEN 0 AND 1000000),
  ADD COLUMN used_at timestamptz NOT NULL DEFAULT now(),
  ADD COLUMN sort_name text GENERATED ALWAYS AS (lower(name)) STORED, -- lower() is not leakproof: an index over it would stand idle
  ADD CHECK (spares_for <> id),
  ADD FOREIGN KEY (crew_id, spares_for) REFERENCES gear (crew_id, id) ON DELETE SET NULL (spares_for);
-- The list is read by name, by recency, by owner; each within one crew.
CREATE INDEX gear_name_idx ON gear (crew_id, sort_name, id);
CREATE INDEX gear_used_idx ON gear (crew_id, used_at DESC, id);
CREATE INDEX gear_owner_idx ON gear (crew_id, owner_id) WHERE owner_id IS NOT NULL;
CREATE INDEX gear_spares_idx ON gear (crew_id, spares_for) WHERE spares_for IS NOT NULL;
CREATE INDEX gear_expires_idx ON gear (crew_id, expires_on) WHERE expires_on IS NOT NULL;
CREATE INDEX gear_guess_idx ON gear (crew_id, id) WHERE mass_known = 'guess';
CREATE INDEX gear_restock_idx ON gear (crew_id, id) WHERE restock_at > 0;

-- Places ashore: a shelf of the boathouse, a drawer of the van, home.
CREATE TABLE shed (
  id      uuid PRIMARY KEY,
  crew_id uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  site    text NOT NULL CHECK (length(site) BETWEEN 1 AND 80),
  name    text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  length  double precision NOT NULL CHECK (length BETWEEN 0 AND 30), -- nought: not measured
  breadth double precision NOT NULL CHECK (breadth BETWEEN 0 AND 30),
  height  double precision NOT NULL CHECK (height BETWEEN 0 AND 30),
  dryness text NOT NULL CHECK (dryness IN ('dry', 'wet')),
  max_kg  double precision NOT NULL CHECK (max_kg BETWEEN 0 AND 10000), -- nought: no limit
  locks   boolean NOT NULL,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  UNIQUE (crew_id, site, name)
);

-- Every piece is somewhere, and has a row that says where. What lies in a
-- container has the container's boat, place, shed or holder too.
ALTER TABLE stowage
  ALTER COLUMN version SET DEFAULT 0,
  ADD COLUMN kind text NOT NULL DEFAULT 'quay' CHECK (kind IN ('quay', 'boat', 'shed', 'person', 'lent')),
  ADD COLUMN inside_id uuid,
  ADD COLUMN shed_id uuid,
  ADD COLUMN held_by uuid,
  ADD COLUMN since timestamptz NOT NULL DEFAULT now();
UPDATE stowage SET kind = 'boat' WHERE boat_id IS NOT NULL;
INSERT INTO stowage (gear_id, crew_id) SELECT id, crew_id FROM gear ON CONFLICT DO NOTHING;
ALTER TABLE stowage
  ADD CHECK ((kind = 'boat') = (boat_id IS NOT NULL)),
  ADD CHECK ((kind = 'shed') = (shed_id IS NOT NULL)),
  ADD CHECK ((kind = 'person') = (held_by IS NOT NULL)),
  ADD CHECK (inside_id <> gear_id),
  ADD FOREIGN KEY (crew_id, inside_id) REFERENCES gear (crew_id, id),
  ADD FOREIGN KEY (crew_id, shed_id) REFERENCES shed (crew_id, id),
  ADD FOREIGN KEY (crew_id, held_by) REFERENCES member (crew_id, id);
CREATE INDEX stowage_kind_idx ON stowage (crew_id, kind, since DESC);
CREATE INDEX stowage_inside_idx ON stowage (crew_id, inside_id) WHERE inside_id IS NOT NULL;
CREATE INDEX stowage_shed_idx ON stowage (crew_id, shed_id) WHERE shed_id IS NOT NULL;
CREATE INDEX stowage_held_idx ON stowage (crew_id, held_by) WHERE held_by IS NOT NULL;

-- A move ashore is of no boat.
ALTER TABLE stowage_event ALTER COLUMN boat_id DROP NOT NULL;
CREATE INDEX stowage_event_gear_idx ON stowage_event (crew_id, gear_id, seq DESC) WHERE gear_id IS NOT NULL;

-- A picture of a boat, or of a piece of gear.
ALTER TABLE photo
  ALTER COLUMN boat_id DROP NOT NULL,
  ADD COLUMN gear_id uuid,
  ADD CHECK ((boat_id IS NULL) <> (gear_id IS NULL)),
  ADD FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE;
CREATE INDEX photo_gear_idx ON photo (crew_id, gear_id, at DESC) WHERE gear_id IS NOT NULL;

-- The words by which gear is known, folded by the program (core/find). They are
-- looked up by equality and range alone, which are leakproof, so that row-level
-- security lets the index be used; trigrams work on one crew's vocabulary.
CREATE TABLE word (
  crew_id uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  word    text COLLATE "C" NOT NULL,
  PRIMARY KEY (crew_id, word)
);
CREATE TABLE gear_word (
  crew_id uuid NOT NULL,
  word    text COLLATE "C" NOT NULL,
  gear_id uuid NOT NULL,
  PRIMARY KEY (crew_id, word, gear_id),
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX gear_word_gear_idx ON gear_word (crew_id, gear_id);
INSERT INTO gear_word (crew_id, word, gear_id)
  SELECT DISTINCT crew_id, w, id FROM gear,
    regexp_split_to_table(regexp_replace(normalize(lower(name), NFD), '[\u0300-\u036f]', '', 'g'), '[\s[:punct:]]+') w WHERE w <> '';
INSERT INTO word SELECT DISTINCT crew_id, word FROM gear_word;

ALTER TABLE gear FORCE ROW LEVEL SECURITY;
ALTER TABLE stowage FORCE ROW LEVEL SECURITY;

-- What happened to a piece beside being moved.
CREATE TABLE gear_note (
  id        uuid PRIMARY KEY,
  crew_id   uuid NOT NULL,
  gear_id   uuid NOT NULL,
  at        timestamptz NOT NULL DEFAULT now(),
  by_member uuid NOT NULL,
  kind      text NOT NULL CHECK (kind IN ('condition', 'service', 'weighed', 'count', 'seen', 'note')),
  text      text NOT NULL CHECK (length(text) <= 500),
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, by_member) REFERENCES member (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX gear_note_idx ON gear_note (crew_id, gear_id, at DESC);

-- Services that come round, by days, hours or trips; nought: not counted so.
CREATE TABLE service (
  id          uuid PRIMARY KEY,
  crew_id     uuid NOT NULL,
  gear_id     uuid NOT NULL,
  what        text NOT NULL CHECK (length(what) BETWEEN 1 AND 80),
  every_days  integer NOT NULL CHECK (every_days BETWEEN 0 AND 20000),
  every_hours double precision NOT NULL CHECK (every_hours BETWEEN 0 AND 100000),
  every_trips integer NOT NULL CHECK (every_trips BETWEEN 0 AND 10000),
  last_on     date NOT NULL,
  last_hours  double precision NOT NULL,
  last_trips  integer NOT NULL,
  version     integer NOT NULL DEFAULT 1,
  CHECK (every_days > 0 OR every_hours > 0 OR every_trips > 0),
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX service_gear_idx ON service (crew_id, gear_id);

CREATE TABLE trip (
  id        uuid PRIMARY KEY,
  crew_id   uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  water     text NOT NULL CHECK (length(water) <= 80),
  boat_id   uuid,
  starts_on date NOT NULL,
  ends_on   date NOT NULL,
  persons   integer NOT NULL CHECK (persons BETWEEN 1 AND 20),
  rods      integer NOT NULL CHECK (rods BETWEEN 0 AND 60),
  hours     double precision NOT NULL CHECK (hours BETWEEN 0 AND 1000), -- of running: expected, and then what it was
  logged_at timestamptz, -- null while it is ahead
  version   integer NOT NULL DEFAULT 1,
  CHECK (ends_on >= starts_on AND ends_on < starts_on + 60),
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE SET NULL (boat_id)
);
CREATE INDEX trip_day_idx ON trip (crew_id, starts_on);

-- Gear that is spoken for: promised to a trip, lent, or borrowed from somebody.
-- One piece can't be promised twice, or promised and lent, at the same time.
CREATE TABLE booking (
  id        uuid PRIMARY KEY,
  crew_id   uuid NOT NULL,
  gear_id   uuid NOT NULL,
  way       text NOT NULL CHECK (way IN ('trip', 'lent', 'borrowed')),
  trip_id   uuid,
  whom      text NOT NULL CHECK (length(whom) <= 80),
  from_on   date NOT NULL,
  until_on  date, -- null: nobody said when
  by_member uuid NOT NULL,
  ended_on  date, -- given back
  CHECK ((way = 'trip') = (trip_id IS NOT NULL)),
  CHECK ((way = 'trip') = (whom = '')),
  CHECK (until_on >= from_on),
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, trip_id) REFERENCES trip (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, by_member) REFERENCES member (crew_id, id) ON DELETE CASCADE,
  CONSTRAINT booking_once EXCLUDE USING gist (gear_id WITH =, daterange(from_on, until_on, '[]') WITH &&)
    WHERE (way <> 'borrowed' AND ended_on IS NULL)
);
CREATE INDEX booking_gear_idx ON booking (crew_id, gear_id);
CREATE INDEX booking_trip_idx ON booking (crew_id, trip_id) WHERE trip_id IS NOT NULL;
CREATE UNIQUE INDEX booking_borrowed_idx ON booking (crew_id, gear_id) WHERE way = 'borrowed' AND ended_on IS NULL;

CREATE TABLE kit (
  id      uuid PRIMARY KEY,
  crew_id uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  name    text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  sort    text NOT NULL CHECK (sort IN ('technique', 'fish', 'water', 'season', 'use')),
  lines   jsonb NOT NULL, -- as validated by the program
  version integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  UNIQUE (crew_id, name)
);

-- The codes on printed labels: of a piece, a place aboard or a place ashore.
CREATE TABLE label (
  crew_id  uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  code     text NOT NULL CHECK (length(code) BETWEEN 4 AND 12),
  gear_id  uuid,
  boat_id  uuid,
  place_id uuid,
  shed_id  uuid,
  PRIMARY KEY (crew_id, code),
  CHECK (num_nonnulls(gear_id, place_id, shed_id) = 1),
  CHECK ((boat_id IS NULL) = (place_id IS NULL)),
  UNIQUE (crew_id, gear_id), UNIQUE (crew_id, place_id), UNIQUE (crew_id, shed_id),
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, boat_id, place_id) REFERENCES place (crew_id, boat_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, shed_id) REFERENCES shed (crew_id, id) ON DELETE CASCADE
);

-- A secret address at which one member's calendar reads the due list.
CREATE TABLE calendar_feed (
  crew_id    uuid NOT NULL,
  member_id  uuid NOT NULL,
  token_hash bytea NOT NULL UNIQUE CHECK (length(token_hash) = 32),
  made_at    timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (crew_id, member_id),
  FOREIGN KEY (crew_id, member_id) REFERENCES member (crew_id, id) ON DELETE CASCADE
);

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['shed', 'word', 'gear_word', 'gear_note', 'service', 'trip', 'booking', 'kit', 'label', 'calendar_feed'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY of_crew ON %I USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew())', t);
  END LOOP;
END $$;
-- +goose StatementEnd
-- Whoever holds a calendar's address may learn whose it is.
CREATE POLICY held ON calendar_feed FOR SELECT USING (token_hash = current_link());
GRANT SELECT, INSERT, UPDATE, DELETE ON shed, word, gear_word, service, trip, booking, kit, label, calendar_feed TO ergasia_app;
GRANT SELECT, INSERT ON gear_note TO ergasia_app;

-- +goose Down
DROP TABLE calendar_feed, label, kit, booking, trip, service, gear_note, gear_word, word;
DROP INDEX stowage_event_gear_idx, photo_gear_idx;
DELETE FROM photo WHERE boat_id IS NULL;
ALTER TABLE photo DROP COLUMN gear_id, ALTER COLUMN boat_id SET NOT NULL;
DELETE FROM stowage_event WHERE boat_id IS NULL;
ALTER TABLE stowage_event ALTER COLUMN boat_id SET NOT NULL;
ALTER TABLE stowage DROP COLUMN kind, DROP COLUMN inside_id, DROP COLUMN shed_id, DROP COLUMN held_by, DROP COLUMN since;
DROP TABLE shed;
DROP INDEX gear_name_idx, gear_used_idx;
ALTER TABLE gear DROP COLUMN nickname, DROP COLUMN tags, DROP COLUMN shape, DROP COLUMN use_length, DROP COLUMN use_breadth,
  DROP COLUMN use_height, DROP COLUMN fragile, DROP COLUMN metal, DROP COLUMN buoyant, DROP COLUMN hazards, DROP COLUMN serial,
  DROP COLUMN cost, DROP COLUMN expires_on, DROP COLUMN condition, DROP COLUMN spares_for, DROP COLUMN restock_at,
  DROP COLUMN inside_length, DROP COLUMN inside_breadth, DROP COLUMN inside_height, DROP COLUMN keeps_dry, DROP COLUMN holds_kg,
  DROP COLUMN hours, DROP COLUMN trips, DROP COLUMN used_at, DROP COLUMN sort_name;
