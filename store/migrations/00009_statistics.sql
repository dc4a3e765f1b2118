-- +goose Up
-- After a large import the planner's statistics say that a crew has next to nothing,
-- and pages take seconds until the server gathers them by itself. Only a table's owner
-- may ask for that, so the owner lends it.
-- +goose StatementBegin
CREATE FUNCTION fresh_statistics() RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  ANALYZE gear, stowage, gear_word, word;
END $$;
-- +goose StatementEnd
REVOKE ALL ON FUNCTION fresh_statistics() FROM PUBLIC;
GRANT EXECUTE ON FUNCTION fresh_statistics() TO ergasia_app;

-- +goose Down
DROP FUNCTION fresh_statistics();
