-- A picture that was shot is a take of its sheet; the picture a sheet meters is another thing.
-- A plan is kept once something was shot by it; frames that belong together are one sequence.
CREATE TABLE plan (
    id INTEGER PRIMARY KEY,
    sheet_id INTEGER NOT NULL REFERENCES sheet (id),
    sheet_version INTEGER NOT NULL,             -- of the sheet it was decided for
    plan TEXT NOT NULL CHECK (json_valid(plan)),
    made_at TEXT NOT NULL
) STRICT;

CREATE TABLE sequence (
    id INTEGER PRIMARY KEY,
    plan_id INTEGER NOT NULL REFERENCES plan (id),
    frames INTEGER NOT NULL CHECK (frames >= 1),
    made_at TEXT NOT NULL
) STRICT;

CREATE TABLE take (
    id INTEGER PRIMARY KEY,
    sheet_id INTEGER NOT NULL REFERENCES sheet (id),
    sha256 TEXT NOT NULL REFERENCES picture (sha256),
    raw_sha256 TEXT REFERENCES picture (sha256),  -- the same shot as RAW, beside the processed file
    plan_id INTEGER REFERENCES plan (id),         -- the slip it was shot by; null for one on auto
    sequence_id INTEGER REFERENCES sequence (id),
    sequence_place INTEGER,                       -- which frame of its sequence, from 1
    shot_on TEXT NOT NULL CHECK (shot_on IN ('slip', 'auto', 'unknown')),
    settings TEXT NOT NULL CHECK (json_valid(settings)),  -- found in the file
    glass_stops REAL NOT NULL DEFAULT 0 CHECK (glass_stops BETWEEN 0 AND 24),  -- shot through
    state TEXT NOT NULL DEFAULT 'new' CHECK (state IN ('new', 'kept', 'rejected')),
    note TEXT NOT NULL DEFAULT '',
    taken_at TEXT,                                -- by the phone's own clock
    added_at TEXT NOT NULL,
    deleted_at TEXT
) STRICT;
CREATE INDEX take_by_sheet ON take (sheet_id, id);

-- Where and when an outing is, as far as it is known.
ALTER TABLE outing ADD COLUMN latitude_deg REAL CHECK (latitude_deg BETWEEN -90 AND 90);
ALTER TABLE outing ADD COLUMN longitude_deg REAL CHECK (longitude_deg BETWEEN -180 AND 180);
ALTER TABLE outing ADD COLUMN date TEXT;        -- YYYY-MM-DD
ALTER TABLE outing ADD COLUMN time_zone TEXT;   -- a name of the IANA database
