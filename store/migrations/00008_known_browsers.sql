-- +goose Up
-- Browsers in which a person has signed in before: wrong tries from elsewhere don't
-- keep the right person out of these. Only the hash of the cookie is kept.
CREATE TABLE known_browser (
  token_hash bytea PRIMARY KEY CHECK (length(token_hash) = 32),
  user_id    uuid NOT NULL REFERENCES app_user ON DELETE CASCADE,
  seen_at    timestamptz NOT NULL
);
CREATE INDEX known_browser_user_idx ON known_browser (user_id);
GRANT SELECT, INSERT, UPDATE, DELETE ON known_browser TO ergasia_app;

-- +goose Down
DROP TABLE known_browser;
