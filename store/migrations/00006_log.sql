-- +goose Up
-- The log of a crew's moves is numbered within the crew, without gaps: what
-- follows it (other phones, undo, the time line) asks for what came after a number.
ALTER TABLE crew ADD COLUMN events bigint NOT NULL DEFAULT 0; -- how many there are so far
ALTER TABLE stowage_event NO FORCE ROW LEVEL SECURITY;
ALTER TABLE crew NO FORCE ROW LEVEL SECURITY;
ALTER TABLE stowage_event ALTER COLUMN seq DROP IDENTITY;
UPDATE stowage_event SET seq = numbered.n FROM (
  SELECT id, row_number() OVER (PARTITION BY crew_id ORDER BY seq) AS n FROM stowage_event) numbered
  WHERE numbered.id = stowage_event.id;
UPDATE crew SET events = (SELECT count(*) FROM stowage_event WHERE stowage_event.crew_id = crew.id);
ALTER TABLE stowage_event
  ALTER COLUMN seq SET NOT NULL,
  ADD CONSTRAINT stowage_event_seq UNIQUE (crew_id, seq),
  DROP CONSTRAINT stowage_event_kind_check,
  ADD CONSTRAINT stowage_event_kind_check CHECK (kind IN ('new', 'move', 'undo', 'redo'));
ALTER TABLE stowage_event FORCE ROW LEVEL SECURITY;
ALTER TABLE crew FORCE ROW LEVEL SECURITY;

-- +goose Down
ALTER TABLE stowage_event DROP CONSTRAINT stowage_event_seq, DROP CONSTRAINT stowage_event_kind_check;
DELETE FROM stowage_event WHERE kind = 'new';
ALTER TABLE stowage_event ADD CONSTRAINT stowage_event_kind_check CHECK (kind IN ('move', 'undo', 'redo'));
ALTER TABLE stowage_event ALTER COLUMN seq ADD GENERATED ALWAYS AS IDENTITY;
ALTER TABLE crew DROP COLUMN events;
