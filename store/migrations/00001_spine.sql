-- +goose Up
-- +goose StatementBegin
-- The role that the program works as. It owns nothing, so row-level security
-- always holds for it. Two programs on one cluster may come here at once.
DO $$
BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'ergasia_app') THEN
    CREATE ROLE ergasia_app NOLOGIN NOBYPASSRLS;
  END IF;
EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL;
END $$;
-- +goose StatementEnd
-- +goose StatementBegin
DO $$
BEGIN
  -- A superuser may take the role on as it is. Another who made it may not, from
  -- PostgreSQL 16 on, before it is granted; one to whom it was granted need not.
  IF NOT (SELECT rolsuper FROM pg_roles WHERE rolname = current_user) THEN
    EXECUTE format('GRANT ergasia_app TO %I', current_user);
  END IF;
EXCEPTION WHEN insufficient_privilege THEN NULL;
END $$;
-- +goose StatementEnd

-- The crew and the user of the transaction, or null where none was set.
-- +goose StatementBegin
CREATE FUNCTION current_crew() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE AS
  $$ SELECT nullif(current_setting('ergasia.crew', true), '')::uuid $$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE FUNCTION current_person() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE AS
  $$ SELECT nullif(current_setting('ergasia.user', true), '')::uuid $$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE FUNCTION current_link() RETURNS bytea LANGUAGE sql STABLE PARALLEL SAFE AS
  $$ SELECT decode(nullif(current_setting('ergasia.link', true), ''), 'hex') $$;
-- +goose StatementEnd

CREATE TABLE app_user (
  id            uuid PRIMARY KEY,
  login         text NOT NULL CHECK (login = lower(login) AND length(login) BETWEEN 2 AND 80),
  password_hash text NOT NULL,
  epoch         integer NOT NULL DEFAULT 1, -- raised to end every session of the user
  created_at    timestamptz NOT NULL DEFAULT now(),
  UNIQUE (login)
);

-- What alexedwards/scs keeps: the token is hashed, the data opaque.
CREATE TABLE sessions (
  token  text PRIMARY KEY,
  data   bytea NOT NULL,
  expiry timestamptz NOT NULL
);
CREATE INDEX sessions_expiry_idx ON sessions (expiry);

CREATE TABLE sign_in_failure (
  key text NOT NULL,
  at  timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX sign_in_failure_idx ON sign_in_failure (key, at);

CREATE TABLE crew (
  id         uuid PRIMARY KEY,
  name       text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  created_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE member (
  id         uuid PRIMARY KEY,
  crew_id    uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  user_id    uuid REFERENCES app_user ON DELETE SET NULL, -- null for one who never signs in
  name       text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  role       text NOT NULL CHECK (role IN ('owner', 'skipper', 'hand', 'guest')),
  mark       text NOT NULL CHECK (length(mark) BETWEEN 1 AND 2),
  kg         double precision NOT NULL CHECK (kg BETWEEN 10 AND 300), -- clothed
  mass_known text NOT NULL CHECK (mass_known IN ('weighed', 'plate', 'catalogue', 'guess')),
  units      text NOT NULL DEFAULT 'metric' CHECK (units IN ('metric', 'us')),
  theme      text NOT NULL DEFAULT 'paper' CHECK (theme IN ('paper', 'night')),
  version    integer NOT NULL DEFAULT 1,
  created_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (crew_id, id),
  UNIQUE (crew_id, user_id)
);
CREATE INDEX member_user_idx ON member (user_id);

-- Invitations and password resets; the link itself is never kept, only its hash.
CREATE TABLE link (
  id         uuid PRIMARY KEY,
  crew_id    uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  kind       text NOT NULL CHECK (kind IN ('invitation', 'reset')),
  token_hash bytea NOT NULL UNIQUE CHECK (length(token_hash) = 32),
  member_id  uuid NOT NULL,
  made_by    uuid NOT NULL,
  expires_at timestamptz NOT NULL,
  used_at    timestamptz,
  FOREIGN KEY (crew_id, member_id) REFERENCES member (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, made_by) REFERENCES member (crew_id, id) ON DELETE CASCADE
);

CREATE TABLE boat (
  id         uuid PRIMARY KEY,
  crew_id    uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  name       text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  hull       jsonb NOT NULL, -- tape measures or stations, as validated by the program
  outfit     jsonb NOT NULL, -- hull mass, motor, batteries, tanks
  plate      jsonb NOT NULL,
  limits     jsonb NOT NULL,
  water      double precision NOT NULL CHECK (water BETWEEN 900 AND 1300), -- kg/m³
  version    integer NOT NULL DEFAULT 1,
  created_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (crew_id, id),
  UNIQUE (crew_id, name)
);

CREATE TABLE post (
  id      uuid PRIMARY KEY,
  crew_id uuid NOT NULL,
  boat_id uuid NOT NULL,
  name    text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  x double precision NOT NULL, y double precision NOT NULL,
  z double precision NOT NULL, -- of the sole there
  version integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, boat_id, id),
  UNIQUE (boat_id, name),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE
);

CREATE TABLE place (
  id      uuid PRIMARY KEY,
  crew_id uuid NOT NULL,
  boat_id uuid NOT NULL,
  name    text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  x double precision NOT NULL, y double precision NOT NULL, z double precision NOT NULL,
  length  double precision NOT NULL CHECK (length > 0 AND length <= 12),
  breadth double precision NOT NULL CHECK (breadth > 0 AND breadth <= 12),
  height  double precision NOT NULL CHECK (height > 0 AND height <= 12),
  opening_length  double precision NOT NULL CHECK (opening_length >= 0 AND opening_length <= 12),
  opening_breadth double precision NOT NULL CHECK (opening_breadth >= 0 AND opening_breadth <= 12),
  dryness text NOT NULL CHECK (dryness IN ('dry', 'wet')),
  max_kg  double precision NOT NULL CHECK (max_kg >= 0 AND max_kg <= 1000), -- nought: no limit
  version integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, boat_id, id),
  UNIQUE (boat_id, name),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE
);

CREATE TABLE gear (
  id      uuid PRIMARY KEY,
  crew_id uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  name    text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  owner_id uuid,
  length  double precision NOT NULL CHECK (length > 0 AND length <= 10),
  breadth double precision NOT NULL CHECK (breadth > 0 AND breadth <= 10),
  height  double precision NOT NULL CHECK (height > 0 AND height <= 10),
  kg      double precision NOT NULL CHECK (kg >= 0 AND kg <= 500), -- of one
  mass_known text NOT NULL CHECK (mass_known IN ('weighed', 'plate', 'catalogue', 'guess')),
  count   integer NOT NULL CHECK (count BETWEEN 1 AND 100),
  needs_dry boolean NOT NULL,
  turn    text NOT NULL CHECK (turn IN ('none', 'upright', 'any')),
  version integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, owner_id) REFERENCES member (crew_id, id) ON DELETE SET NULL (owner_id)
);

-- Where a piece of gear is; one that has no row is on the quay.
CREATE TABLE stowage (
  gear_id  uuid PRIMARY KEY,
  crew_id  uuid NOT NULL,
  boat_id  uuid,
  place_id uuid,
  version  integer NOT NULL DEFAULT 1,
  CHECK ((boat_id IS NULL) = (place_id IS NULL)),
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, boat_id, place_id) REFERENCES place (crew_id, boat_id, id)
);
CREATE INDEX stowage_place_idx ON stowage (crew_id, boat_id, place_id);

-- Where a person is aboard; one that has no row is ashore.
CREATE TABLE station (
  member_id uuid PRIMARY KEY,
  crew_id   uuid NOT NULL,
  boat_id   uuid,
  post_id   uuid,
  seated    boolean NOT NULL DEFAULT false,
  version   integer NOT NULL DEFAULT 1,
  CHECK ((boat_id IS NULL) = (post_id IS NULL)),
  FOREIGN KEY (crew_id, member_id) REFERENCES member (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, boat_id, post_id) REFERENCES post (crew_id, boat_id, id)
);
CREATE INDEX station_post_idx ON station (crew_id, boat_id, post_id);

-- Every change of a stowage: who, when, what, from where to where.
CREATE TABLE stowage_event (
  id         uuid PRIMARY KEY,
  crew_id    uuid NOT NULL,
  boat_id    uuid NOT NULL,
  seq        bigint GENERATED ALWAYS AS IDENTITY,
  at         timestamptz NOT NULL DEFAULT now(),
  by_member  uuid NOT NULL,
  kind       text NOT NULL CHECK (kind IN ('move', 'undo', 'redo')),
  gear_id    uuid,
  member_id  uuid,
  was        jsonb NOT NULL,
  became     jsonb NOT NULL,
  state      text NOT NULL CHECK (state IN ('done', 'undone', 'dropped', 'log')),
  CHECK ((gear_id IS NULL) <> (member_id IS NULL)),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, by_member) REFERENCES member (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, member_id) REFERENCES member (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX stowage_event_boat_idx ON stowage_event (crew_id, boat_id, seq DESC);
CREATE INDEX stowage_event_mine_idx ON stowage_event (crew_id, boat_id, by_member, state, seq);

-- Writes that were answered, so that a repeat after a lost answer changes nothing.
CREATE TABLE answered (
  crew_id     uuid NOT NULL REFERENCES crew ON DELETE CASCADE,
  key         uuid NOT NULL,
  fingerprint bytea NOT NULL,
  result_id   uuid,
  at          timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (crew_id, key)
);
CREATE INDEX answered_at_idx ON answered (crew_id, at);

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['link', 'boat', 'post', 'place', 'gear', 'stowage', 'station', 'stowage_event', 'answered', 'member', 'crew'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
  END LOOP;
  FOREACH t IN ARRAY ARRAY['link', 'boat', 'post', 'place', 'gear', 'stowage', 'station', 'stowage_event', 'answered', 'member'] LOOP
    EXECUTE format('CREATE POLICY of_crew ON %I USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew())', t);
  END LOOP;
END $$;
-- +goose StatementEnd
CREATE POLICY of_crew ON crew USING (id = current_crew()) WITH CHECK (id = current_crew());
-- A person sees their own memberships and those crews' names, to choose one.
CREATE POLICY own ON member FOR SELECT USING (user_id = current_person());
CREATE POLICY own ON crew FOR SELECT USING (id IN (SELECT crew_id FROM member WHERE user_id = current_person()));
-- Whoever holds a link may read that one link, to learn its crew.
CREATE POLICY held ON link FOR SELECT USING (token_hash = current_link());

GRANT USAGE ON SCHEMA public TO ergasia_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON app_user, sessions, sign_in_failure, crew, member, link, boat, post, place,
  gear, stowage, station, answered TO ergasia_app;
GRANT SELECT, INSERT, UPDATE (state) ON stowage_event TO ergasia_app;
GRANT SELECT ON goose_db_version TO ergasia_app;

-- +goose Down
DROP TABLE answered, stowage_event, station, stowage, gear, place, post, boat, link, member, crew,
  sign_in_failure, sessions, app_user;
DROP FUNCTION current_crew(), current_person(), current_link();
REVOKE USAGE ON SCHEMA public FROM ergasia_app;
