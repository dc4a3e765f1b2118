-- +goose Up
-- What is jointed or coiled bends round the rim of an opening, where a rigid
-- piece must be tilted in.
ALTER TABLE gear DROP CONSTRAINT gear_shape_check,
  ADD CONSTRAINT gear_shape_check CHECK (shape IN ('box', 'rod', 'soft', 'jointed', 'loose'));

-- +goose Down
UPDATE gear SET shape = 'soft' WHERE shape = 'jointed';
ALTER TABLE gear DROP CONSTRAINT gear_shape_check,
  ADD CONSTRAINT gear_shape_check CHECK (shape IN ('box', 'rod', 'soft', 'loose'));
