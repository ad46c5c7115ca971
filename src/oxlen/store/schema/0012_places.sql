-- Places: where they are, how dark their sky is, what hides the horizon, as open JSON. An outing may
-- hang on one; it keeps its own name, position and time zone when the place is let go.
CREATE TABLE place (
    id INTEGER PRIMARY KEY,
    body TEXT NOT NULL CHECK (json_valid(body)),
    changed_at TEXT NOT NULL
) STRICT;

ALTER TABLE outing ADD COLUMN place_id INTEGER REFERENCES place (id) ON DELETE SET NULL;
