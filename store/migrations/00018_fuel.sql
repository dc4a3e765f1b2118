-- +goose Up
-- What a trip's fuel was reckoned with, and what was filled after it.
ALTER TABLE trip
  ADD COLUMN fuel jsonb, -- as written by the program; null where nothing was reckoned
  ADD COLUMN filled_l double precision CHECK (filled_l BETWEEN 0 AND 5000);

-- +goose Down
ALTER TABLE trip DROP COLUMN fuel, DROP COLUMN filled_l;
