-- +goose Up
-- How a boat was stowed, kept under a name to come back to: all that was aboard, or
-- some of it, such as the things of a season.
CREATE TABLE arrangement (
  id       uuid PRIMARY KEY,
  crew_id  uuid NOT NULL,
  boat_id  uuid NOT NULL,
  name     text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  whole    boolean NOT NULL,
  lines    jsonb NOT NULL, -- as written by the program
  saved_at timestamptz NOT NULL,
  saved_by uuid NOT NULL,
  version  integer NOT NULL DEFAULT 1,
  UNIQUE (crew_id, id),
  UNIQUE (crew_id, boat_id, name),
  FOREIGN KEY (crew_id, boat_id) REFERENCES boat (crew_id, id) ON DELETE CASCADE,
  FOREIGN KEY (crew_id, saved_by) REFERENCES member (crew_id, id) ON DELETE CASCADE
);
ALTER TABLE arrangement ENABLE ROW LEVEL SECURITY;
ALTER TABLE arrangement FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON arrangement USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON arrangement TO ergasia_app;

-- +goose Down
DROP TABLE arrangement;
