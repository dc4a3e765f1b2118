-- +goose Up
-- The words of gear are made from it by the program. They go with it by one
-- statement, not by a key that is checked for each of the many words: that was a
-- third of what an import took.
ALTER TABLE gear_word DROP CONSTRAINT gear_word_crew_id_gear_id_fkey;
-- +goose StatementBegin
CREATE FUNCTION forget_words() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  DELETE FROM gear_word w USING gone WHERE w.crew_id = gone.crew_id AND w.gear_id = gone.id;
  RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER gear_words_follow AFTER DELETE ON gear REFERENCING OLD TABLE AS gone
  FOR EACH STATEMENT EXECUTE FUNCTION forget_words();

-- +goose Down
DROP TRIGGER gear_words_follow ON gear;
DROP FUNCTION forget_words();
ALTER TABLE gear_word ADD FOREIGN KEY (crew_id, gear_id) REFERENCES gear (crew_id, id) ON DELETE CASCADE;
