-- +goose Up
-- A place may be kept for one owner's things, or for those with a tag, such as
-- what guests bring; and rods lie in beds, tubes and holders.
ALTER TABLE place
  ADD COLUMN kept_for_owner uuid,
  ADD COLUMN kept_for_tag text NOT NULL DEFAULT '' CHECK (length(kept_for_tag) <= 40),
  ADD COLUMN form text NOT NULL DEFAULT 'box' CHECK (form IN ('box', 'bed', 'tubes', 'upright')),
  ADD COLUMN slots integer NOT NULL DEFAULT 0 CHECK (slots BETWEEN 0 AND 40),
  ADD COLUMN slot_diameter double precision NOT NULL DEFAULT 0 CHECK (slot_diameter BETWEEN 0 AND 0.5),
  ADD CONSTRAINT place_kept_for_owner_fk FOREIGN KEY (crew_id, kept_for_owner) REFERENCES member (crew_id, id) ON DELETE SET NULL (kept_for_owner),
  ADD CONSTRAINT place_slots CHECK ((form IN ('tubes', 'upright')) = (slots > 0)),
  ADD CONSTRAINT place_tubes CHECK ((form = 'tubes') = (slot_diameter > 0));
-- The height of a rod's largest guide, metres: what its thin end takes up.
ALTER TABLE gear ADD COLUMN guide double precision NOT NULL DEFAULT 0 CHECK (guide BETWEEN 0 AND 0.2);
-- Where a piece was laid by hand: for each of an entry, corner and turned size in
-- the place's frame, metres. Null is wherever the program lays it.
ALTER TABLE stowage ADD COLUMN laid jsonb CHECK (jsonb_typeof(laid) = 'array');
-- How long things take in this crew, seconds; null is the usual table.
ALTER TABLE crew ADD COLUMN times jsonb;

-- +goose Down
ALTER TABLE crew DROP COLUMN times;
ALTER TABLE stowage DROP COLUMN laid;
ALTER TABLE gear DROP COLUMN guide;
ALTER TABLE place DROP CONSTRAINT place_tubes, DROP CONSTRAINT place_slots, DROP CONSTRAINT place_kept_for_owner_fk,
  DROP COLUMN slot_diameter, DROP COLUMN slots, DROP COLUMN form, DROP COLUMN kept_for_tag, DROP COLUMN kept_for_owner;
