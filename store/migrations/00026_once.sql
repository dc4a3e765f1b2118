-- +goose Up
-- That the first crew was founded with a code, by whichever copy of the program: one row.
CREATE TABLE founded (
  once boolean PRIMARY KEY DEFAULT true CHECK (once),
  at   timestamptz NOT NULL DEFAULT now()
);
GRANT SELECT, INSERT ON founded TO ergasia_app;

-- A crew's import as it goes on, so that every copy of the program can tell how far it is.
-- What it told at its end is kept for a while.
CREATE TABLE importing (
  crew_id uuid PRIMARY KEY REFERENCES crew (id) ON DELETE CASCADE,
  key     uuid NOT NULL,
  begun   timestamptz NOT NULL,
  heard   timestamptz NOT NULL, -- of it last: one of which nothing is heard has ended with its program
  share   double precision NOT NULL DEFAULT 0 CHECK (share BETWEEN 0 AND 1),
  ended   boolean NOT NULL DEFAULT false,
  told    jsonb
);
ALTER TABLE importing ENABLE ROW LEVEL SECURITY;
ALTER TABLE importing FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON importing USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON importing TO ergasia_app;

-- +goose Down
DROP TABLE importing;
DROP TABLE founded;
