-- Guided measurements of phones: what was asked, and what came of it.
CREATE TABLE measurement (
    id INTEGER PRIMARY KEY,
    phone_id TEXT NOT NULL,
    kind TEXT NOT NULL,
    lens TEXT NOT NULL,
    mode TEXT NOT NULL,
    given TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(given)),
    state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'kept', 'left')),
    outcome TEXT CHECK (outcome IS NULL OR json_valid(outcome)),  -- figures with old and new values, once it ended
    begun_at TEXT NOT NULL,
    ended_at TEXT
) STRICT;
CREATE INDEX measurement_by_phone ON measurement (phone_id, id);

-- What an open measurement keeps of each picture: a few numbers or a small patch, not the file.
CREATE TABLE measurement_picture (
    id INTEGER PRIMARY KEY,
    measurement_id INTEGER NOT NULL REFERENCES measurement (id) ON DELETE CASCADE,
    sha256 TEXT NOT NULL,
    name TEXT NOT NULL,
    sample TEXT NOT NULL CHECK (json_valid(sample)),
    UNIQUE (measurement_id, sha256)
) STRICT;
