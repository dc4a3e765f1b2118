-- +goose Up
-- The ids of gear are a crew's own: a table may bring any id, and whether another
-- crew has that one must not be told by a failure.
ALTER TABLE gear DROP CONSTRAINT gear_pkey; -- (crew_id, id) stays unique, and others refer to that
ALTER TABLE stowage DROP CONSTRAINT stowage_pkey, ADD PRIMARY KEY (crew_id, gear_id);
ALTER TABLE booking DROP CONSTRAINT booking_once, ADD CONSTRAINT booking_once
  EXCLUDE USING gist (crew_id WITH =, gear_id WITH =, daterange(from_on, until_on, '[]') WITH &&)
  WHERE (way <> 'borrowed' AND ended_on IS NULL);

-- +goose Down
ALTER TABLE booking DROP CONSTRAINT booking_once, ADD CONSTRAINT booking_once
  EXCLUDE USING gist (gear_id WITH =, daterange(from_on, until_on, '[]') WITH &&)
  WHERE (way <> 'borrowed' AND ended_on IS NULL);
ALTER TABLE stowage DROP CONSTRAINT stowage_pkey, ADD PRIMARY KEY (gear_id);
ALTER TABLE gear ADD PRIMARY KEY (id);
