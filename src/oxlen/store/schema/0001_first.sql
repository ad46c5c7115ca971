-- Outings hold sheets; a sheet's content is a chain of revisions, so that every edit can be undone.
CREATE TABLE outing (
    id INTEGER PRIMARY KEY,
    title TEXT NOT NULL CHECK (length(title) BETWEEN 1 AND 120),
    place TEXT NOT NULL DEFAULT '',
    light_window TEXT NOT NULL DEFAULT '',
    created_at TEXT NOT NULL,
    deleted_at TEXT
) STRICT;

CREATE TABLE sheet (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outing (id),
    position INTEGER NOT NULL,
    revision INTEGER NOT NULL,          -- which revision is in force
    version INTEGER NOT NULL,           -- rises with every change, undo included
    changed_at TEXT NOT NULL,
    deleted_at TEXT
) STRICT;
CREATE INDEX sheet_by_outing ON sheet (outing_id, position);

CREATE TABLE sheet_revision (
    sheet_id INTEGER NOT NULL REFERENCES sheet (id),
    number INTEGER NOT NULL,
    body TEXT NOT NULL CHECK (json_valid(body)),
    label TEXT NOT NULL,                -- what the edit did, in words
    made_at TEXT NOT NULL,
    PRIMARY KEY (sheet_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE picture (
    sha256 TEXT PRIMARY KEY CHECK (length(sha256) = 64),
    file_name TEXT NOT NULL,
    byte_count INTEGER NOT NULL,
    report TEXT NOT NULL CHECK (json_valid(report)),
    imported_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- Every picture any revision of a sheet has ever shown, so that undo always finds it.
CREATE TABLE sheet_picture (
    sheet_id INTEGER NOT NULL REFERENCES sheet (id),
    sha256 TEXT NOT NULL REFERENCES picture (sha256),
    PRIMARY KEY (sheet_id, sha256)
) STRICT, WITHOUT ROWID;

CREATE TABLE phone (
    id TEXT PRIMARY KEY,
    profile TEXT NOT NULL CHECK (json_valid(profile)),
    changed_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
