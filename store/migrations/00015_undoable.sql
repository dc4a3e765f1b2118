-- +goose Up
-- What was taken away or made in one stroke, so that whoever did it can take it back:
-- the rows that went, and the ids of those that came.
CREATE TABLE undoable (
  id        uuid PRIMARY KEY,
  crew_id   uuid NOT NULL,
  by_member uuid NOT NULL,
  at        timestamptz NOT NULL DEFAULT now(),
  action    text NOT NULL, -- what a role must be allowed to take it back
  said      text NOT NULL CHECK (length(said) <= 300),
  kept      jsonb NOT NULL,
  undone_at timestamptz,
  UNIQUE (crew_id, id),
  FOREIGN KEY (crew_id, by_member) REFERENCES member (crew_id, id) ON DELETE CASCADE
);
CREATE INDEX undoable_mine_idx ON undoable (crew_id, by_member, at DESC);
ALTER TABLE undoable ENABLE ROW LEVEL SECURITY;
ALTER TABLE undoable FORCE ROW LEVEL SECURITY;
CREATE POLICY of_crew ON undoable USING (crew_id = current_crew()) WITH CHECK (crew_id = current_crew());
GRANT SELECT, INSERT, UPDATE, DELETE ON undoable TO ergasia_app;
-- The moves of a plan that was taken over are one step.
ALTER TABLE stowage_event ADD COLUMN step uuid;

-- +goose Down
ALTER TABLE stowage_event DROP COLUMN step;
DROP TABLE undoable;
