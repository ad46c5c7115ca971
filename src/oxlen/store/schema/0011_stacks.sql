-- Sets of frames put together into one picture. Their files lie in a folder of their own until the
-- set is let go; only the result is a picture of the library.
CREATE TABLE stack (
    id INTEGER PRIMARY KEY,
    sheet_id INTEGER REFERENCES sheet (id),
    name TEXT NOT NULL,
    combine TEXT NOT NULL DEFAULT 'mean',
    align TEXT NOT NULL DEFAULT 'none',
    ending TEXT NOT NULL DEFAULT 'tif',
    mixed INTEGER NOT NULL DEFAULT 0 CHECK (mixed IN (0, 1)),
    state TEXT NOT NULL DEFAULT 'gathering'
        CHECK (state IN ('gathering', 'working', 'stopped', 'failed', 'done')),
    problem TEXT NOT NULL DEFAULT '',
    result TEXT CHECK (result IS NULL OR json_valid(result)),
    result_sha256 TEXT,
    made_at TEXT NOT NULL
) STRICT;

CREATE TABLE stack_frame (
    stack_id INTEGER NOT NULL REFERENCES stack (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    sha256 TEXT NOT NULL,
    PRIMARY KEY (stack_id, position),
    UNIQUE (stack_id, sha256)
) STRICT, WITHOUT ROWID;
